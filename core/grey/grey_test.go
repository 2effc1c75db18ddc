package grey_test

import (
	"image"
	"image/color"
	"math"
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

// rough is a picture with no two rows or columns alike, cut out of a larger one.
func rough(x0, y0, x1, y1 int) *image.Gray {
	whole := image.NewGray(image.Rect(x0-2, y0-1, x1+3, y1+2))
	for i := range whole.Pix {
		whole.Pix[i] = uint8(i * i * 37 % 251)
	}
	return whole.SubImage(image.Rect(x0, y0, x1, y1)).(*image.Gray)
}

// Each operation against the same told pixel by pixel, on parts of larger pictures.
func TestPixelByPixel(t *testing.T) {
	src := rough(0, 0, 13, 9)
	mask := image.NewAlpha(image.Rect(3, 2, 9, 7))
	for i := range mask.Pix {
		mask.Pix[i] = uint8(i * 53 % 256)
	}
	got, covered := grey.Cleared(rough(0, 0, 13, 9).SubImage(image.Rect(0, 0, 13, 9)).(*image.Gray), mask), 0
	for y := range 9 {
		for x := range 13 {
			v, a := int(src.GrayAt(x, y).Y), int(mask.AlphaAt(x, y).A)
			want := v
			if v < grey.Paper {
				want = v + (grey.Paper-v)*a/255
			}
			assert.EqualValues(t, want, got.GrayAt(x, y).Y, "cleared at %d, %d", x, y)
			if a > 127 && v < grey.Ink {
				covered++
			}
		}
	}
	assert.Positive(t, covered)
	assert.Equal(t, covered, grey.Covered(mask, src))

	for _, r := range []int{1, 2} {
		edges := grey.Edges(src, r)
		for y := range 9 {
			for x := range 13 {
				lo, hi := uint8(255), uint8(0)
				for j := max(0, y-r); j <= min(8, y+r); j++ {
					for i := max(0, x-r); i <= min(12, x+r); i++ {
						lo, hi = min(lo, src.GrayAt(i, j).Y), max(hi, src.GrayAt(i, j).Y)
					}
				}
				assert.EqualValues(t, grey.Paper-min(grey.Paper, hi-lo), edges.GrayAt(x, y).Y, "edge at %d, %d", x, y)
			}
		}
	}
	small := grey.Shrink(src, 3)
	assert.Equal(t, image.Rect(0, 0, 4, 3), small.Rect)
	for y := range 3 {
		for x := range 4 {
			sum := 0
			for j := range 3 {
				for i := range 3 {
					sum += int(src.GrayAt(3*x+i, 3*y+j).Y)
				}
			}
			assert.EqualValues(t, sum/9, small.GrayAt(x, y).Y)
		}
	}
}

// Between four pixels, and half beside the picture on each side.
func TestLevelsBetweenFourPixels(t *testing.T) {
	m := image.NewGray(image.Rect(0, 0, 2, 2))
	copy(m.Pix, []uint8{0, 100, 40, 200})
	for _, c := range []struct {
		u, v float64
		want uint8
	}{
		{0.5, 1, 20}, {1, 1, 85}, {0.75, 1.5, 80}, {1.5, 1.25, 175}, {0, 0.5, 120}, {0.5, 0, 120}, {1.5, 2, 220}, {2, 1.5, 220}, {0, 0, 180}, {2.5, 2.5, grey.Paper}, {-0.5, 0.5, grey.Paper}, {0.5, 2.5, grey.Paper},
	} {
		assert.Equal(t, c.want, grey.At(m, c.u, c.v), "%v, %v", c.u, c.v)
	}
}

// A stroke covers what lies within its radius of the line, wholly or in part at its rim.
func TestAStrokePixelByPixel(t *testing.T) {
	const x0, y0, x1, y1, r = 5.0, 4.0, 17.0, 12.0, 2.5
	m := paper(24, 18, image.Rect(12, 0, 14, 18))
	was := grey.Copy(m)
	grey.Stroke(m, x0, y0, x1, y1, r)
	for y := range 18 {
		for x := range 24 {
			px, py, dx, dy := float64(x)+0.5-x0, float64(y)+0.5-y0, x1-x0, y1-y0
			on := min(1, max(0, (px*dx+py*dy)/(dx*dx+dy*dy)))
			cover := min(1, max(0, r+0.5-math.Hypot(px-on*dx, py-on*dy)))
			old := float64(was.GrayAt(x, y).Y)
			assert.InDelta(t, old+cover*(min(old, grey.Pen)-old), float64(m.GrayAt(x, y).Y), 1, "%d, %d", x, y)
		}
	}
	dot := paper(9, 9, image.Rectangle{})
	grey.Stroke(dot, 4.5, 4.5, 4.5, 4.5, 2)
	assert.EqualValues(t, grey.Pen, dot.GrayAt(4, 4).Y, "a point is a dot")
	assert.EqualValues(t, grey.Pen, dot.GrayAt(5, 4).Y)
	assert.EqualValues(t, grey.Paper, dot.GrayAt(7, 4).Y)
	grey.Stroke(dot, -20, -20, -12, -12, 2)
	assert.EqualValues(t, grey.Paper, dot.GrayAt(0, 0).Y, "off the sheet nothing is drawn")
}
