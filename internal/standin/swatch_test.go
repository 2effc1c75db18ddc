package standin_test

import (
	"image"
	"image/color"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/draw"

	"chromaqua/core/pigment"
	"chromaqua/core/proof"
	"chromaqua/internal/standin"
)

// Scans of painted cards are read and fitted; tints of the found paints are within
// two ΔE00 of the true ones on the whole.
func TestAHundredSwatchCards(t *testing.T) {
	const pxPerMM = 5
	trials := 100
	if testing.Short() {
		trials = 6
	}
	white, err := pigment.Paper("white")
	require.NoError(t, err)
	lib := pigment.Library()
	sum, n := 0.0, 0
	for i := range trials {
		prior := lib[i%len(lib)].Paint()
		truth := standin.Another(prior, uint64(i))
		scan := standin.Usual(uint64(i)).Scan(standin.Swatches(truth, 0.05, uint64(i), pxPerMM), pxPerMM)
		patches, err := proof.ReadSwatches(scan)
		require.NoError(t, err, "%s, card %d", lib[i%len(lib)].CI, i)
		require.Len(t, patches, 10)
		f, err := pigment.Fit(patches, &prior)
		require.NoError(t, err)
		for _, load := range []pigment.Load{0.15, 0.25, 0.35, 0.6, 1, 1.6, 2.5} {
			x, y := truth.Over(&white, load), f.Paint.Over(&white, load)
			sum, n = sum+pigment.Difference(x.Lab(), y.Lab()), n+1
		}
	}
	t.Logf("mean ΔE00 of predicted tints %.2f over %d cards", sum/float64(n), trials)
	assert.LessOrEqual(t, sum/float64(n), 2.0)
}

// Cards that cannot be read are refused with what to do.
func TestSwatchCardsAreRefused(t *testing.T) {
	const pxPerMM = 5
	p, err := pigment.ByCI("PB29")
	require.NoError(t, err)
	card := func() *image.RGBA { return standin.Swatches(p.Paint(), 0, 1, pxPerMM) }
	fill := func(m *image.RGBA, x0, y0, x1, y1 float64, c color.Color) {
		draw.Draw(m, image.Rect(int(x0*pxPerMM), int(y0*pxPerMM), int(x1*pxPerMM), int(y1*pxPerMM)), image.NewUniform(c), image.Point{}, draw.Src)
	}
	paper := color.RGBA{R: 247, G: 247, B: 245, A: 255}
	for why, spoil := range map[string]func(*image.RGBA){
		"milk is bare": func(m *image.RGBA) {
			fill(m, proof.SwatchX(2)-1, 12, proof.SwatchX(2)+16, 45.8, paper)
			fill(m, proof.SwatchX(2)-1, 46.2, proof.SwatchX(2)+16, 55.8, color.RGBA{R: 60, G: 60, B: 60, A: 255})
		},
		"this is no swatch card":          func(m *image.RGBA) { fill(m, 12, 44, 112, 58, paper) },
		"marks of the strip were not all": func(m *image.RGBA) { fill(m, 0, 0, 12, 12, paper) },
		"cream is lighter than a weaker": func(m *image.RGBA) {
			fill(m, proof.SwatchX(3), 13, proof.SwatchX(3)+15, 33, color.RGBA{R: 200, G: 200, B: 255, A: 255})
		},
		"light is reflected":                   func(m *image.RGBA) { fill(m, proof.SwatchX(4)+4, 16, proof.SwatchX(4)+8, 30, color.White) },
		"so strong a colour cast that colours": func(m *image.RGBA) { cast(m) },
	} {
		m := card()
		spoil(m)
		_, err := proof.ReadSwatches(m)
		assert.ErrorContains(t, err, why)
	}
	_, err = proof.ReadSwatches(standin.Strip(standin.Inks()["holds"], pxPerMM))
	assert.ErrorIs(t, err, proof.ErrNoSwatches, "an ink strip has the same marks")
	mild := card()
	for i := 0; i < len(mild.Pix); i += 4 {
		mild.Pix[i+2] = uint8(float64(mild.Pix[i+2]) * 0.9)
	}
	seen, err := proof.ReadSwatches(mild)
	require.NoError(t, err)
	straight, err := proof.ReadSwatches(card())
	require.NoError(t, err)
	assert.Less(t, pigment.Difference(straight[2].Seen, seen[2].Seen), 1.0, "white paper corrects a mild cast")
}

func cast(m *image.RGBA) {
	for i := 0; i < len(m.Pix); i += 4 {
		m.Pix[i+2] = uint8(float64(m.Pix[i+2]) * 0.6)
	}
}

// A fleck of texture in the middle of a mark does not make a hole of it.
func TestFlecksInAMark(t *testing.T) {
	const seed, pxPerMM = 61, 6
	p, err := pigment.ByCI("PB29")
	require.NoError(t, err)
	_, err = proof.ReadSwatches(standin.Usual(seed).Scan(standin.Swatches(standin.Another(p.Paint(), seed), 0.05, seed, pxPerMM), pxPerMM))
	assert.NoError(t, err)
}
