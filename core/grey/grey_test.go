package grey_test

import (
	"image"
	"image/color"
	"testing"

	"github.com/stretchr/testify/assert"

	"chromaqua/core/grey"
	"chromaqua/core/lineart"
)

// paper is a sheet of bare paper with ink in a rectangle.
func paper(w, h int, ink image.Rectangle) *image.Gray {
	m := image.NewGray(image.Rect(0, 0, w, h))
	for i := range m.Pix {
		m.Pix[i] = grey.Paper
	}
	for y := ink.Min.Y; y < ink.Max.Y; y++ {
		for x := ink.Min.X; x < ink.Max.X; x++ {
			m.Pix[m.PixOffset(x, y)] = 20
		}
	}
	return m
}

func asIs(p lineart.Point) (x, y float64) { return p.X, p.Y }

func square(x, y, side float64) []lineart.Point {
	return []lineart.Point{{X: x, Y: y}, {X: x + side, Y: y}, {X: x + side, Y: y + side}, {X: x, Y: y + side}}
}

func TestFillIsCroppedToTheSheet(t *testing.T) {
	m := grey.Fill(image.Rect(0, 0, 10, 10), [][]lineart.Point{square(6, 6, 8)}, asIs)
	assert.Equal(t, image.Rect(6, 6, 10, 10), m.Rect)
	assert.EqualValues(t, 255, m.AlphaAt(8, 8).A)
	assert.Nil(t, grey.Fill(image.Rect(0, 0, 10, 10), [][]lineart.Point{square(20, 20, 3)}, asIs), "it lies off the sheet")
	assert.Nil(t, grey.Fill(image.Rect(0, 0, 10, 10), nil, asIs))
}

func TestWhatIsClearedIsPaperAgain(t *testing.T) {
	m := paper(8, 8, image.Rect(0, 0, 8, 8))
	mask := grey.Fill(m.Rect, [][]lineart.Point{square(2, 2, 3)}, asIs)
	assert.Equal(t, 9, grey.Covered(mask, m))
	got := grey.Cleared(m, mask)
	assert.Equal(t, 64-9, grey.Dark(got, got.Rect))
	assert.EqualValues(t, grey.Paper, got.GrayAt(3, 3).Y)
	assert.Equal(t, 64, grey.Dark(m, m.Rect), "the picture itself stays")
	assert.Zero(t, grey.Covered(mask, got))
	assert.Equal(t, 16, grey.Dark(m, image.Rect(0, 0, 4, 4)))
}

func TestInkIsLaidOverInk(t *testing.T) {
	a, b := paper(6, 2, image.Rect(0, 0, 3, 2)), paper(6, 2, image.Rect(2, 0, 5, 2))
	grey.Darken(a, b, image.Rect(0, 0, 6, 1), nil)
	assert.Equal(t, 5+3, grey.Dark(a, a.Rect), "only where it was laid")
	faint := paper(6, 2, image.Rectangle{})
	grey.Darken(faint, b, b.Rect, func(x, _ int, v uint8) uint8 {
		if x == 2 {
			return grey.Paper
		}
		return v
	})
	assert.Equal(t, 4, grey.Dark(faint, faint.Rect))
}

func TestEdgesFollowTheOutline(t *testing.T) {
	m := grey.Edges(paper(20, 20, image.Rect(5, 5, 15, 15)), 1)
	assert.Less(t, m.GrayAt(5, 10).Y, uint8(grey.Ink))
	assert.Less(t, m.GrayAt(4, 10).Y, uint8(grey.Ink))
	assert.EqualValues(t, grey.Paper, m.GrayAt(10, 10).Y, "inside is bare")
	assert.EqualValues(t, grey.Paper, m.GrayAt(1, 1).Y)
}

func TestLevelsBetweenPixels(t *testing.T) {
	m := image.NewGray(image.Rect(0, 0, 2, 1))
	m.Pix[0], m.Pix[1] = 0, 100
	assert.EqualValues(t, 0, grey.At(m, 0.5, 0.5))
	assert.EqualValues(t, 50, grey.At(m, 1, 0.5))
	assert.EqualValues(t, 100, grey.At(m, 1.5, 0.5))
	assert.EqualValues(t, 170, grey.At(m, 2, 0.5), "half of it is paper beside the picture")
	assert.EqualValues(t, grey.Paper, grey.At(m, -5, 0.5))
}

func TestShrinkAverages(t *testing.T) {
	m := image.NewGray(image.Rect(0, 0, 5, 4))
	for i := range m.Pix {
		m.Pix[i] = uint8(10 * (i % 2))
	}
	assert.Same(t, m, grey.Shrink(m, 1))
	got := grey.Shrink(m, 2)
	assert.Equal(t, image.Rect(0, 0, 2, 2), got.Rect)
	assert.EqualValues(t, 5, got.GrayAt(1, 1).Y)
}

func TestAStrokeHasRoundEnds(t *testing.T) {
	m := paper(30, 12, image.Rectangle{})
	grey.Stroke(m, 6, 6, 24, 6, 3)
	assert.EqualValues(t, grey.Pen, m.GrayAt(15, 6).Y)
	assert.EqualValues(t, grey.Pen, m.GrayAt(15, 4).Y)
	assert.EqualValues(t, grey.Paper, m.GrayAt(15, 1).Y)
	assert.Less(t, m.GrayAt(4, 6).Y, uint8(grey.Ink), "it reaches past its end by its radius")
	assert.EqualValues(t, grey.Paper, m.GrayAt(3, 3).Y, "but not in its corner")
}

// The box round what is dark is that of a search pixel by pixel, on pictures cut out of others too.
func TestBounds(t *testing.T) {
	whole := image.NewGray(image.Rect(3, 5, 40, 30))
	for i := range whole.Pix {
		whole.Pix[i] = 250
	}
	assert.Equal(t, image.Rectangle{}, grey.Bounds(whole, 245))
	for _, p := range []image.Point{{7, 9}, {30, 12}, {12, 28}} {
		whole.SetGray(p.X, p.Y, color.Gray{Y: 100})
	}
	for _, m := range []*image.Gray{whole, whole.SubImage(image.Rect(8, 6, 39, 20)).(*image.Gray)} {
		want := image.Rectangle{}
		for y := m.Rect.Min.Y; y < m.Rect.Max.Y; y++ {
			for x := m.Rect.Min.X; x < m.Rect.Max.X; x++ {
				if m.GrayAt(x, y).Y < 245 {
					want = want.Union(image.Rect(x, y, x+1, y+1))
				}
			}
		}
		assert.Equal(t, want, grey.Bounds(m, 245))
	}
}
