package guide_test

import (
	"context"
	"fmt"
	"math"
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
