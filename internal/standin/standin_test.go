package standin_test

import (
	"image"
	"image/color"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/draw"

	"chromaqua/core/proof"
	"chromaqua/internal/standin"
)

const pxPerMM = 6.0

// bars is a sheet with a broad black bar down the middle.
func bars() *image.Gray {
	m := image.NewGray(image.Rect(0, 0, 240, 180))
	draw.Draw(m, m.Rect, image.White, image.Point{}, draw.Src)
	draw.Draw(m, image.Rect(100, 20, 140, 160), image.Black, image.Point{}, draw.Src)
	return m
}

func dark(m image.Image) (n int) {
	b := m.Bounds()
	for y := b.Min.Y; y < b.Max.Y; y++ {
		for x := b.Min.X; x < b.Max.X; x++ {
			if color.GrayModel.Convert(m.At(x, y)).(color.Gray).Y < 100 {
				n++
			}
		}
	}
	return n
}

func TestTheSameSeedScansAlike(t *testing.T) {
	a := standin.Usual(3).Scan(bars(), pxPerMM)
	assert.Equal(t, a.Pix, standin.Usual(3).Scan(bars(), pxPerMM).Pix)
	assert.NotEqual(t, a.Pix, standin.Usual(4).Scan(bars(), pxPerMM).Pix)
}

// A scan keeps the sheet whole, however it is turned, with the lid round it.
func TestAScanKeepsTheSheet(t *testing.T) {
	whole := dark(bars())
	for _, tilt := range []float64{0, 4, -12, 90} {
		s := standin.Scanner{Tilt: tilt, Margin: 5}
		got := s.Scan(bars(), pxPerMM)
		assert.InDelta(t, whole, dark(got), float64(whole)/50, "turned by %g", tilt)
		assert.GreaterOrEqual(t, got.Rect.Dx(), 180+2*30)
	}
}

func TestTextureLightAndNoise(t *testing.T) {
	plain := standin.Scanner{}.Scan(bars(), pxPerMM)
	worn := standin.Scanner{Texture: 0.3}.Scan(bars(), pxPerMM)
	share := 1 - float64(dark(worn))/float64(dark(plain))
	assert.InDelta(t, 0.3, share, 0.06, "texture leaves out what it is told to")
	lit := standin.Scanner{Seed: 1, Light: 0.4}.Scan(bars(), pxPerMM)
	lo, hi := uint8(255), uint8(0)
	for _, p := range []image.Point{{5, 5}, {235, 5}, {5, 175}, {235, 175}} {
		v := lit.RGBAAt(p.X, p.Y).R
		lo, hi = min(lo, v), max(hi, v)
	}
	assert.Greater(t, int(hi)-int(lo), 40, "one corner is darker than another")
	noisy := standin.Scanner{Noise: 12}.Scan(bars(), pxPerMM)
	assert.NotEqual(t, noisy.RGBAAt(20, 20), noisy.RGBAAt(21, 20))
}

func TestWeakIsWeakOnOneSide(t *testing.T) {
	m := image.NewGray(image.Rect(0, 0, 400, 200)) // black all over
	weak := standin.Weak(m, pxPerMM, 5)
	left, right := 0, 0
	for y := range 200 {
		for x := range 400 {
			switch gone := weak.GrayAt(x, y).Y > 200; {
			case gone && x < 200:
				left++
			case gone:
				right++
			}
		}
	}
	assert.Positive(t, left+right)
	assert.Less(t, min(left, right), max(left, right)/5)
}

// The strip is drawn where the reader looks for it, and what is dry is dry.
func TestTheStripIsTrueToItsPlan(t *testing.T) {
	for name, b := range standin.Inks() {
		m := standin.Strip(b, pxPerMM)
		require.Equal(t, int(proof.StripW*pxPerMM), m.Rect.Dx(), name)
		at := func(x, y float64) color.RGBA { return m.RGBAAt(int(x*pxPerMM), int(y*pxPerMM)) }
		for i, p := range proof.Marks() {
			assert.Equal(t, i == 0, at(p.X, p.Y).R < 60, "only the first mark has no hole")
			assert.Less(t, at(p.X+proof.MarkSide/2-0.5, p.Y).R, uint8(60))
		}
		dry := at(proof.InkLeft+10, (proof.PatchTop+proof.PatchBottom)/2)
		assert.InDelta(t, b.Ink.R, dry.R, 2, name)
		wet := at(proof.WetFrom+10, (proof.PatchTop+proof.PatchBottom)/2)
		assert.GreaterOrEqual(t, wet.R, dry.R, "%s: water takes ink away", name)
		assert.Greater(t, at(proof.InkLeft+10, proof.BareTop+1).R, uint8(240), "bare paper left of the water")
	}
}
