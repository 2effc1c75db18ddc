package viewfinder_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/length"
	"chromaqua/core/viewfinder"
)

var sheet = length.Size{W: 9 * length.Inch, H: 12 * length.Inch}

func window(x, y, turn float64) viewfinder.Window {
	return viewfinder.Window{Size: length.Size{W: 4 * length.Inch, H: 5 * length.Inch}, X: length.FromMM(x * 25.4), Y: length.FromMM(y * 25.4), Turn: turn}
}

func TestStraightCuts(t *testing.T) {
	cuts := window(3, 4, 0).Cuts(sheet)
	require.Len(t, cuts, 4)
	assert.Equal(t, "right", cuts[0].Side, "the cuts along the sheet are the longest")
	assert.Equal(t, "5 in", cuts[0].From.At.With(length.Inches))
	assert.Equal(t, cuts[0].From.At, cuts[0].To.At)
	assert.Equal(t, "1 in", cuts[1].From.At.With(length.Inches))
	assert.Equal(t, "top", cuts[2].Side)
	assert.Equal(t, "1 1/2 in", cuts[2].From.At.With(length.Inches))
	assert.ElementsMatch(t, []string{"left", "right"}, []string{cuts[2].From.Edge, cuts[2].To.Edge})
}

func TestOverhang(t *testing.T) {
	assert.Zero(t, window(2, 2.5, 0).Overhang(sheet), "it may lie in the corner")
	assert.Equal(t, "1/2 in", window(1.5, 4, 0).Overhang(sheet).With(length.Inches))
	assert.Zero(t, window(4.5, 6, 90).Overhang(sheet))
	assert.Positive(t, window(2, 2.5, 10).Overhang(sheet))
	assert.Empty(t, window(40, 40, 0).Cuts(sheet))
}

// Every mark lies on the edge it names, and every cut runs along its side of
// the window.
func TestMarksLieOnEdges(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w := window(rapid.Float64Range(3.3, 5.7).Draw(t, "x"), rapid.Float64Range(3.3, 8.7).Draw(t, "y"), rapid.Float64Range(-180, 180).Draw(t, "turn"))
		if w.Overhang(sheet) > 0 {
			t.Fatal("it lies within")
		}
		cuts := w.Cuts(sheet)
		if len(cuts) != 4 {
			t.Fatalf("%d cuts", len(cuts))
		}
		corners := w.Corners()
		index := map[string]int{"top": 0, "right": 1, "bottom": 2, "left": 3}
		for _, c := range cuts {
			for _, m := range []viewfinder.Mark{c.From, c.To} {
				off := map[string]float64{"top": m.Y, "left": m.X, "right": m.X - sheet.W.MM(), "bottom": m.Y - sheet.H.MM()}[m.Edge]
				if math.Abs(off) > 1e-6 {
					t.Fatalf("%+v is not on its edge", m)
				}
			}
			for _, k := range []int{index[c.Side], (index[c.Side] + 1) % 4} {
				p, d := corners[k], math.Hypot(c.To.X-c.From.X, c.To.Y-c.From.Y)
				if far := math.Abs((c.To.X-c.From.X)*(p.Y-c.From.Y)-(c.To.Y-c.From.Y)*(p.X-c.From.X)) / d; far > 1e-6 {
					t.Fatalf("corner %d lies %g mm off its cut", k, far)
				}
			}
		}
	})
}
