package lineart_test

import (
	"context"
	"errors"
	"fmt"
	"image"
	"image/color"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/draw"
	"pgregory.net/rapid"

	"chromaqua/core/lineart"
)

const dpi = 300.0

// sheet is a blank scan, mm millimetres wide and high.
func sheet(w, h float64) *image.Gray {
	m := image.NewGray(image.Rect(0, 0, int(w/25.4*dpi), int(h/25.4*dpi)))
	draw.Draw(m, m.Rect, image.NewUniform(color.Gray{Y: 240}), image.Point{}, draw.Src)
	return m
}

// stroke draws a line of the given width through points in millimetres.
func stroke(m *image.Gray, width float64, points ...[2]float64) {
	const k = dpi / 25.4
	for i := 0; i+1 < len(points); i++ {
		a, b := points[i], points[i+1]
		dx, dy := b[0]-a[0], b[1]-a[1]
		n := dx*dx + dy*dy
		box := image.Rect(int((min(a[0], b[0])-width)*k), int((min(a[1], b[1])-width)*k), int((max(a[0], b[0])+width)*k)+1, int((max(a[1], b[1])+width)*k)+1)
		box = box.Intersect(m.Rect)
		for y := box.Min.Y; y < box.Max.Y; y++ {
			for x := box.Min.X; x < box.Max.X; x++ {
				px, py := (float64(x)+0.5)/k-a[0], (float64(y)+0.5)/k-a[1]
				t := (px*dx + py*dy) / n
				if t < 0 || t > 1 { // butt ends, as a broken line has
					continue
				}
				off := math.Hypot(px-t*dx, py-t*dy)
				cover := min(1, max(0, (width/2-off)*k+0.5))
				i := m.PixOffset(x, y)
				m.Pix[i] = min(m.Pix[i], uint8(240-200*cover))
			}
		}
	}
}

func box(m *image.Gray, x0, y0, x1, y1 float64) {
	stroke(m, 0.5, [2]float64{x0, y0}, [2]float64{x1, y0})
	stroke(m, 0.5, [2]float64{x1, y0 - 0.25}, [2]float64{x1, y1 + 0.25})
	stroke(m, 0.5, [2]float64{x1, y1}, [2]float64{x0, y1})
	stroke(m, 0.5, [2]float64{x0, y1 + 0.25}, [2]float64{x0, y0 - 0.25})
}

func find(t testing.TB, m *image.Gray, dpi float64) *lineart.Drawing {
	d, err := lineart.Find(context.Background(), m, dpi, nil)
	require.NoError(t, err)
	return d
}

// twoRooms is a box split by a wall with a door of the given width.
func twoRooms(door float64) *image.Gray {
	m := sheet(40, 30)
	box(m, 5, 5, 35, 25)
	stroke(m, 0.5, [2]float64{20, 5}, [2]float64{20, 15 - door/2})
	stroke(m, 0.5, [2]float64{20, 15 + door/2}, [2]float64{20, 25})
	return m
}

func Example() {
	d, _ := lineart.Find(context.Background(), twoRooms(0), dpi, nil)
	for _, n := range d.Neighbours {
		fmt.Printf("cells %d and %d touch along %.0f mm, across %.1f mm of line\n", n.A, n.B, n.BorderMM, n.LineMed)
	}
	// Output:
	// cells 1 and 2 touch along 39 mm, across 0.5 mm of line
	// cells 1 and 3 touch along 39 mm, across 0.5 mm of line
	// cells 2 and 3 touch along 16 mm, across 0.5 mm of line
}

func TestCellsOfTwoRooms(t *testing.T) {
	d := find(t, twoRooms(0), dpi)
	require.Len(t, d.Cells, 3)
	outside, left, right := d.Cells[0], d.Cells[1], d.Cells[2]
	assert.True(t, outside.Outside)
	assert.InDelta(t, 14.5*19.5, left.AreaMM2, 4)
	assert.InDelta(t, 14.5*19.5, right.AreaMM2, 4)
	assert.InDelta(t, 7.25, left.InscribedMM, 0.1)
	assert.InDelta(t, 15, left.Label.Y, 3)
	assert.Equal(t, left.ID, d.At(left.Label))
	assert.Zero(t, d.At(lineart.Point{X: 20, Y: 10}), "the wall is line")
	assert.Zero(t, d.At(lineart.Point{X: -1, Y: 900}))
	assert.Empty(t, d.Leaks)
}

// A broken line is closed and reported; a real doorway is not.
func TestLeaks(t *testing.T) {
	for _, door := range []float64{0.3, 0.6, 0.9, 1.2, 1.5} {
		d := find(t, twoRooms(door), dpi)
		require.Len(t, d.Cells, 3, "a gap of %g mm", door)
		require.Len(t, d.Leaks, 1)
		l := d.Leaks[0]
		assert.Equal(t, 2, l.Stubs)
		assert.InDelta(t, door, l.WidthMM, 0.25)
		assert.InDelta(t, 20, l.X, 0.3)
		assert.InDelta(t, 15, l.Y, 0.3)
		assert.Equal(t, [2]int{2, 3}, [2]int{l.A, l.B})
	}
	d := find(t, twoRooms(4), dpi)
	assert.Len(t, d.Cells, 2, "a door of 4 mm is meant")
	assert.Empty(t, d.Leaks)
}

// A hairline that broke in many places still parts two cells, the longer breaks
// among them.
func TestHairlineBrokenInManyPlaces(t *testing.T) {
	m := sheet(40, 30)
	box(m, 5, 5, 35, 25)
	for i, y := 0, 5.0; y < 25; i++ {
		piece, gap := 1.6+0.5*float64(i%3), 0.4+0.5*float64(i*2%3)
		stroke(m, 0.15, [2]float64{20, y}, [2]float64{20, min(25, y+piece)})
		y += piece + gap
	}
	d := find(t, m, dpi)
	require.Len(t, d.Cells, 3)
	assert.Equal(t, []int{2, 3}, []int{d.At(lineart.Point{X: 10, Y: 15}), d.At(lineart.Point{X: 30, Y: 15})})
	assert.GreaterOrEqual(t, len(d.Leaks), 4)
}

// waist draws two curves that come near each other at (13, y), half a width from
// there, and go apart until reach above and below.
func waist(m *image.Gray, y, reach, half float64) (left, right [][2]float64) {
	for d := -reach; d <= reach; d += 0.5 {
		off := half + 0.06*d*d
		left, right = append(left, [2]float64{13 - off, y + d}), append(right, [2]float64{13 + off, y + d})
	}
	stroke(m, 0.5, left...)
	stroke(m, 0.5, right...)
	return left, right
}

// A waist of 0.7 mm between two curves is part of the drawing, however narrow;
// a door as wide in a straight wall is a gap.
func TestNecksStayOpen(t *testing.T) {
	m := sheet(26, 34)
	left, right := waist(m, 17, 12, 0.6)
	stroke(m, 0.5, left[0], right[0])
	stroke(m, 0.5, left[len(left)-1], right[len(right)-1])
	d := find(t, m, 300)
	require.Len(t, d.Cells, 2)
	assert.Empty(t, d.Leaks)
	assert.InDelta(t, 0.7, d.Cells[1].NarrowestMM, 0.15)
	assert.Len(t, find(t, twoRooms(0.7), 300).Leaks, 1)
}

// Between two rooms, a waist is part of one cell as long as it stands alone. When
// the wall beside it has two gaps, the three are judged together: two cells.
func TestPassagesBetweenTwoCellsAreJudgedTogether(t *testing.T) {
	for gaps, want := range map[int]int{0: 3, 2: 4, 3: 4} { // with the outside and the pocket behind the waist
		m := sheet(44, 40)
		box(m, 5, 5, 39, 33)
		left, _ := waist(m, 19, 6, 0.4)
		stroke(m, 0.5, left[0], [2]float64{5, 13})
		stroke(m, 0.5, left[len(left)-1], [2]float64{5, 25})
		x := 13.4
		for g := range gaps {
			stroke(m, 0.5, [2]float64{x, 19}, [2]float64{19 + 5*float64(g), 19})
			x = 19.6 + 5*float64(g)
		}
		stroke(m, 0.5, [2]float64{x, 19}, [2]float64{39, 19})
		d := find(t, m, dpi)
		assert.Len(t, d.Cells, want, "%d gaps", gaps)
		if want == 4 {
			assert.Len(t, d.Leaks, gaps+1)
		}
	}
}

func TestResolutionsAgree(t *testing.T) {
	base := twoRooms(0.6)
	for _, k := range []float64{0.5, 1, 2, 4} {
		m := image.NewGray(image.Rect(0, 0, int(float64(base.Rect.Dx())*k), int(float64(base.Rect.Dy())*k)))
		draw.CatmullRom.Scale(m, m.Rect, base, base.Rect, draw.Src, nil)
		d := find(t, m, dpi*k)
		require.Len(t, d.Cells, 3, "%g dpi", dpi*k)
		assert.Len(t, d.Labels, m.Rect.Dx()*m.Rect.Dy())
		assert.InDelta(t, 14.5*19.5, d.Cells[1].AreaMM2, 8)
		assert.Equal(t, d.Cells[2].ID, d.At(d.Cells[2].Label))
	}
}

func TestUnevenLightIsDividedOut(t *testing.T) {
	m := twoRooms(0)
	for i := range m.Pix {
		x := float64(i%m.Stride) / float64(m.Stride)
		m.Pix[i] = uint8(float64(m.Pix[i]) * (1 - 0.45*x))
	}
	assert.Len(t, find(t, m, dpi).Cells, 3)
	flat, err := lineart.Flatten(m, dpi)
	require.NoError(t, err)
	assert.InDelta(t, 240, float64(flat.GrayAt(flat.Rect.Dx()-4, 4).Y), 25)
}

func TestOutlines(t *testing.T) {
	m := twoRooms(0)
	box(m, 24, 10, 30, 20) // an island in the right room
	d := find(t, m, dpi)
	out, shapes := d.Outlines(), d.Shapes()
	require.Len(t, out, len(d.Cells))
	holed := 0
	for i, o := range out {
		require.NotEmpty(t, o.Rings)
		sum := 0.0
		for _, r := range o.Rings {
			sum += ringArea(r)
		}
		assert.InDelta(t, d.Cells[i].AreaMM2, sum, 0.02*d.Cells[i].AreaMM2+1, "the rings enclose the cell")
		if len(o.Rings) == 2 {
			holed++
			assert.Negative(t, ringArea(o.Rings[1]), "a hole turns the other way")
		}
	}
	assert.Equal(t, 2, holed, "the outside and the room with the island")
	// Grown shapes tile the sheet: their areas add up to it.
	sum := 0.0
	for _, s := range shapes {
		for _, r := range s.Rings {
			sum += ringArea(r)
		}
	}
	assert.InDelta(t, 40*30, sum, 15)
	assert.InDelta(t, 2*(14.5+19.5), out[1].Length(), 3)
}

func ringArea(r []lineart.Point) (sum float64) {
	for i, p := range r {
		q := r[(i+1)%len(r)]
		sum += p.X*q.Y - q.X*p.Y
	}
	return sum / 2
}

// A few pixels at a great many to the inch are worked as what they are, a speck.
func TestPicturesOfAMillimetre(t *testing.T) {
	for _, side := range []int{16, 40, 160} {
		m := image.NewGray(image.Rect(0, 0, side, 4*side))
		draw.Draw(m, m.Rect, image.NewUniform(color.Gray{Y: 240}), image.Point{}, draw.Src)
		draw.Draw(m, image.Rect(0, side, side, 2*side), image.Black, image.Point{}, draw.Src)
		d, err := lineart.Find(context.Background(), m, lineart.MaxDPI, nil)
		if err == nil {
			assert.Len(t, d.Labels, 4*side*side)
			assert.Len(t, d.Outlines(), len(d.Cells))
		} else {
			assert.ErrorIs(t, err, lineart.ErrBlank)
		}
	}
}

func TestUnusablePicturesAreRefused(t *testing.T) {
	rng := rand.New(rand.NewPCG(1, 2))
	photo := sheet(50, 50)
	for i := range photo.Pix {
		x, y := float64(i%photo.Stride), float64(i/photo.Stride)
		photo.Pix[i] = uint8(128 + 60*math.Sin(x/40)*math.Cos(y/55) + 30*math.Sin((x+y)/15) + 20*rng.Float64())
	}
	for name, c := range map[string]struct {
		m    *image.Gray
		want error
	}{
		"one pixel": {image.NewGray(image.Rect(0, 0, 1, 1)), lineart.ErrTooSmall},
		"blank":     {sheet(30, 30), lineart.ErrBlank},
		"black":     {image.NewGray(image.Rect(0, 0, 300, 300)), lineart.ErrBlank},
		"photo":     {photo, lineart.ErrNotLineArt},
		"huge":      {&image.Gray{Rect: image.Rect(0, 0, 30000, 30000), Stride: 30000}, lineart.ErrTooLarge},
	} {
		_, err := lineart.Find(context.Background(), c.m, dpi, nil)
		assert.ErrorIs(t, err, c.want, name)
		_, err = lineart.Flatten(c.m, dpi)
		assert.True(t, err == nil || errors.Is(err, c.want), name)
	}
	for _, bad := range []float64{0, -3, 1e9, math.NaN(), math.Inf(1)} {
		_, err := lineart.Find(context.Background(), twoRooms(0), bad, nil)
		assert.ErrorContains(t, err, "dpi")
	}
}

// A sheet without a line is one cell; the limits are those of any other.
func TestABlankSheet(t *testing.T) {
	d, err := lineart.Blank(300, 150, 150)
	require.NoError(t, err)
	require.Len(t, d.Cells, 1)
	assert.InDelta(t, 50.8*25.4, d.Cells[0].AreaMM2, 1e-6)
	assert.Equal(t, lineart.Point{X: 25.4, Y: 12.7}, d.Cells[0].Label)
	assert.InDelta(t, 12.7, d.Cells[0].InscribedMM, 1e-9)
	assert.Equal(t, 1, d.At(lineart.Point{X: 50, Y: 25}))
	require.Len(t, d.Shapes(), 1)
	assert.InDelta(t, 2*(50.8+25.4), d.Shapes()[0].Length(), 1e-6)
	assert.Equal(t, d.Shapes(), d.Outlines())
	for _, bad := range [][3]float64{{3, 300, 150}, {30_000, 30_000, 150}, {300, 300, 1}} {
		_, err := lineart.Blank(int(bad[0]), int(bad[1]), bad[2])
		assert.Error(t, err)
	}
}

func TestStopsWhenToldTo(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	stages := []string{}
	_, err := lineart.Find(ctx, twoRooms(0), dpi, func(stage string, done float64) {
		stages = append(stages, stage)
		assert.True(t, done >= 0 && done <= 1)
		if len(stages) == 2 {
			cancel()
		}
	})
	assert.ErrorIs(t, err, context.Canceled)
	assert.Len(t, stages, 2)
}

// Whatever ink is thrown at it, labels and cells agree with each other.
func TestLabelsAndCellsAgree(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		m := sheet(20, 20)
		place := rapid.Float64Range(0, 20)
		for range rapid.IntRange(1, 12).Draw(t, "strokes") {
			a, b := [2]float64{place.Draw(t, "x"), place.Draw(t, "y")}, [2]float64{place.Draw(t, "x"), place.Draw(t, "y")}
			if math.Hypot(a[0]-b[0], a[1]-b[1]) > 0.5 {
				stroke(m, rapid.Float64Range(0.3, 1.5).Draw(t, "width"), a, b)
			}
		}
		d, err := lineart.Find(context.Background(), m, dpi, nil)
		if errors.Is(err, lineart.ErrBlank) {
			return
		}
		require.NoError(t, err)
		count := make([]int, len(d.Cells)+1)
		for _, l := range d.Labels {
			count[l]++
		}
		mm2 := (25.4 / dpi) * (25.4 / dpi)
		for i, c := range d.Cells {
			require.Equal(t, i+1, c.ID)
			require.InDelta(t, float64(count[c.ID])*mm2, c.AreaMM2, 1e-6)
			require.Equal(t, c.ID, d.At(c.Label))
			require.LessOrEqual(t, c.NarrowestMM, 2*c.InscribedMM+1e-9)
		}
		for _, n := range d.Neighbours {
			require.Less(t, n.A, n.B)
			require.LessOrEqual(t, n.LineMin, n.LineMed)
		}
		for i, o := range d.Outlines() {
			require.NotEmpty(t, o.Rings, "cell %d", i+1)
		}
	})
}

func benchmark(b *testing.B, k int) {
	m := sheet(108, 140)
	rng := rand.New(rand.NewPCG(7, 7))
	for range 120 {
		x, y := 5+90*rng.Float64(), 5+120*rng.Float64()
		s := 3 + 9*rng.Float64()
		box(m, x, y, x+s, y+s)
	}
	big := image.NewGray(image.Rect(0, 0, m.Rect.Dx()*k, m.Rect.Dy()*k))
	draw.CatmullRom.Scale(big, big.Rect, m, m.Rect, draw.Src, nil)
	for b.Loop() {
		find(b, big, dpi*float64(k))
	}
}

func BenchmarkPanelAt300DPI(b *testing.B) { benchmark(b, 1) }
func BenchmarkPanelAt600DPI(b *testing.B) { benchmark(b, 2) }
