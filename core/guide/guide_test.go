package guide_test

import (
	"context"
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/guide"
	"chromaqua/core/lineart"
)

// blob is a round shape with waves along its edge.
func blob(x, y, r, wave float64, n int, phase float64) lineart.Outline {
	var ring []lineart.Point
	for k := range 90 {
		a := 2 * math.Pi * float64(k) / 90
		d := r * (1 + wave*math.Sin(float64(n)*a+phase))
		ring = append(ring, lineart.Point{X: x + d*math.Cos(a), Y: y + d*math.Sin(a)})
	}
	return lineart.Outline{Rings: [][]lineart.Point{ring}}
}

// off is how far a point lies from a ring, worked out by itself.
func off(p lineart.Point, o lineart.Outline) float64 {
	least := math.Inf(1)
	for _, ring := range o.Rings {
		for i, a := range ring {
			b := ring[(i+1)%len(ring)]
			u, v := b.X-a.X, b.Y-a.Y
			t := ((p.X-a.X)*u + (p.Y-a.Y)*v) / max(1e-12, u*u+v*v)
			t = max(0, min(1, t))
			least = min(least, math.Hypot(a.X+t*u-p.X, a.Y+t*v-p.Y))
		}
	}
	return least
}

func anyBlob(t *rapid.T) lineart.Outline {
	return blob(rapid.Float64Range(-20, 80).Draw(t, "x"), rapid.Float64Range(-20, 80).Draw(t, "y"), rapid.Float64Range(1, 18).Draw(t, "r"),
		rapid.Float64Range(0, 0.25).Draw(t, "wave"), rapid.IntRange(1, 5).Draw(t, "n"), rapid.Float64Range(0, 6).Draw(t, "phase"))
}

// Guides lie so far inside the line, to a tenth of a millimetre, everywhere.
func TestInset(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		o := anyBlob(t)
		in := guide.Inset(o, guide.Inside)
		require.Len(t, in.Rings, 1)
		for _, p := range in.Rings[0] {
			require.InDelta(t, guide.Inside, off(p, o), 0.1)
		}
		for _, p := range o.Rings[0] { // and all round
			require.Less(t, off(p, in), guide.Inside+0.35)
		}
	})
	ring := lineart.Outline{Rings: append(blob(0, 0, 20, 0, 1, 0).Rings, blob(0, 0, 8, 0, 1, 0).Rings...)}
	in := guide.Inset(ring, 0.2)
	require.Len(t, in.Rings, 2, "an island stays an island")
	assert.InDelta(t, 19.8, math.Hypot(in.Rings[0][0].X, in.Rings[0][0].Y), 0.1)
	assert.InDelta(t, 8.2, math.Hypot(in.Rings[1][0].X, in.Rings[1][0].Y), 0.1)
	assert.Empty(t, guide.Inset(blob(0, 0, 0.15, 0, 1, 0), 0.2).Rings, "what is narrower is gone")
}

func TestSimplify(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		o := anyBlob(t)
		s := guide.Simplify(o, guide.Exact)
		require.LessOrEqual(t, len(s.Rings[0]), len(o.Rings[0]))
		for _, p := range o.Rings[0] {
			require.LessOrEqual(t, off(p, s), guide.Exact+1e-9)
		}
	})
}

// Cut-outs lie on their pages, apart from each other, as large as they are.
func TestNesting(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		var shapes []guide.Shape
		for i := range rapid.IntRange(1, 5).Draw(t, "shapes") {
			shapes = append(shapes, guide.Shape{Name: fmt.Sprint(i), Many: rapid.IntRange(1, 3).Draw(t, "many"), Outline: anyBlob(t)})
		}
		const w, h = 180.0, 230.0
		laid, pages, err := guide.Lay(context.Background(), shapes, w, h)
		require.NoError(t, err)
		type box struct{ x0, y0, x1, y1 float64 }
		on := make([][]box, pages)
		count := map[int]int{}
		for _, l := range laid {
			x0, y0, x1, y1 := guide.Box(shapes[l.Shape].Outline)
			b := box{x0 + l.DX, y0 + l.DY, x1 + l.DX, y1 + l.DY}
			require.True(t, b.x0 >= 0 && b.y0 >= 0 && b.x1 <= w && b.y1 <= h, "%v", b)
			for _, o := range on[l.Page] {
				apart := b.x1 < o.x0+0.1 || o.x1 < b.x0+0.1 || b.y1 < o.y0+0.1 || o.y1 < b.y0+0.1
				require.True(t, apart, "%v on %v", b, o)
			}
			on[l.Page] = append(on[l.Page], b)
			count[l.Shape]++
		}
		for i, s := range shapes {
			require.Equal(t, s.Many, count[i])
		}
	})
	_, _, err := guide.Lay(context.Background(), []guide.Shape{{Name: "Moon", Outline: blob(0, 0, 200, 0, 1, 0)}}, 180, 230)
	assert.ErrorContains(t, err, "larger than the page")
	_, _, err = guide.Lay(context.Background(), nil, 180, 230)
	assert.ErrorContains(t, err, "nothing to cut")
	_, _, err = guide.Lay(context.Background(), make([]guide.Shape, guide.MaxShapes+1), 180, 230)
	assert.ErrorContains(t, err, "more than")
}

// poly is a shape by its corners, x and y in turn.
func poly(xy ...float64) lineart.Outline {
	var ring []lineart.Point
	for i := 0; i < len(xy); i += 2 {
		ring = append(ring, lineart.Point{X: xy[i], Y: xy[i+1]})
	}
	return lineart.Outline{Rings: [][]lineart.Point{ring}}
}

// Both ways round, with a corner told twice, far from the origin or turned.
func TestInsetOfCorners(t *testing.T) {
	for name, o := range map[string]lineart.Outline{
		"as it goes":    poly(0, 0, 10, 0, 10, 10, 0, 10),
		"the other way": poly(0, 0, 0, 10, 10, 10, 10, 0),
		"a point twice": poly(0, 0, 10, 0, 10, 0, 10, 10, 0, 10),
		"far away":      poly(-80, -60, -70, -60, -70, -50, -80, -50),
	} {
		in := guide.Inset(o, 1)
		require.Len(t, in.Rings, 1, name)
		x0, y0, x1, y1 := guide.Box(o)
		a, b, c, d := guide.Box(in)
		assert.InDeltaSlice(t, []float64{x0 + 1, y0 + 1, x1 - 1, y1 - 1}, []float64{a, b, c, d}, 0.021, name)
		assert.InDelta(t, 4*8/0.15, float64(len(in.Rings[0])), 12, name)
	}
	neck := guide.Inset(poly(0, 0, 6, 0, 6, 2.8, 12, 2.8, 12, 0, 18, 0, 18, 6, 12, 6, 12, 3.2, 6, 3.2, 6, 6, 0, 6), 0.5)
	for _, ring := range neck.Rings {
		for _, p := range ring {
			assert.False(t, p.X > 6 && p.X < 12, "%v lies in what is too narrow", p)
		}
	}
	assert.Empty(t, guide.Inset(poly(0, 0, 9, 0, 9, 0.3, 0, 0.3), 0.2).Rings, "a strip that is too narrow")
	diamond := guide.Inset(poly(5, 0, 10, 5, 5, 10, 0, 5), 1)
	for _, p := range diamond.Rings[0] {
		assert.LessOrEqual(t, math.Abs(p.X-5)+math.Abs(p.Y-5), 5-math.Sqrt2+0.03)
	}
}

func TestSimplifyOfCorners(t *testing.T) {
	var xy []float64
	for side := range 4 {
		for k := range 20 {
			d := float64(k) / 2
			p := [4][2]float64{{d, 0}, {10, d}, {10 - d, 10}, {0, 10 - d}}[side]
			xy = append(xy, p[0], p[1])
		}
	}
	assert.Equal(t, poly(0, 0, 10, 0, 10, 10, 0, 10), guide.Simplify(poly(xy...), 0.1))
	assert.Equal(t, poly(0, 0, 10, 0, 5, 8), guide.Simplify(poly(0, 0, 5, 0.01, 10, 0, 5, 8), 0.1))
	assert.Equal(t, poly(0, 0, 5, 0.01, 10, 0), guide.Simplify(poly(0, 0, 5, 0.01, 10, 0), 0.1), "three points stay")
	assert.Equal(t, poly(0, 0, 5, -0.2, 10, 0, 5, 8), guide.Simplify(poly(0, 0, 5, -0.2, 10, 0, 5, 8), 0.1))
}

// What just fits lies in the middle of its page; copies go on as many pages as they need, in
// the order of their shapes.
func TestWhatJustFits(t *testing.T) {
	square := guide.Shape{Name: "Sill", Outline: poly(-3, 40, 7, 40, 7, 50, -3, 50)}
	laid, pages, err := guide.Lay(context.Background(), []guide.Shape{square}, 14, 14)
	require.NoError(t, err)
	assert.Equal(t, 1, pages)
	require.Len(t, laid, 1)
	assert.InDeltaSlice(t, []float64{2, 2}, []float64{-3 + laid[0].DX, 40 + laid[0].DY}, 1e-9)
	for _, s := range [][2]float64{{13.9, 14}, {14, 13.9}} {
		_, _, err = guide.Lay(context.Background(), []guide.Shape{square}, s[0], s[1])
		assert.ErrorContains(t, err, "Sill is larger than the page")
	}
	square.Many = 2
	laid, pages, err = guide.Lay(context.Background(), []guide.Shape{{Name: "Dot", Outline: poly(0, 0, 1, 0, 1, 1, 0, 1)}, square}, 20, 14)
	require.NoError(t, err)
	assert.Equal(t, 2, pages)
	var is [][2]int
	for _, l := range laid {
		is = append(is, [2]int{l.Page, l.Shape})
	}
	assert.Contains(t, [][][2]int{{{0, 0}, {0, 1}, {1, 1}}, {{0, 1}, {1, 0}, {1, 1}}}, is)
	many := slices.Repeat([]guide.Shape{{Name: "Dot", Outline: poly(0, 0, 1, 0, 1, 1, 0, 1)}}, guide.MaxShapes)
	laid, _, err = guide.Lay(context.Background(), many, 180, 230)
	require.NoError(t, err)
	assert.Len(t, laid, guide.MaxShapes)
}
