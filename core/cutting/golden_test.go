package cutting_test

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"chromaqua/core/cutting"
	"chromaqua/internal/golden"
)

// drawn is a small job as makers have them: new sheets and offcuts, a kerf or none, papers
// with and without grain, in eighths of an inch.
func drawn(seed uint64) *cutting.Instance {
	rng := rand.New(rand.NewPCG(seed, 7))
	eighths := func(lo, hi int) int64 { return int64(lo+rng.IntN(hi-lo)) * inch / 8 }
	in := &cutting.Instance{Name: fmt.Sprint(seed), Kerf: int64(rng.IntN(2)) * 500_000}
	grains := []cutting.Grain{cutting.AlongX, cutting.AlongY, cutting.NoGrain}
	for i := range 1 + rng.IntN(2) { // papers
		paper := string(rune('a' + i))
		in.Stock = append(in.Stock, cutting.Stock{ID: "new " + paper, Type: paper, W: eighths(60, 100), H: eighths(60, 100), Qty: -1, Cost: float64(1 + rng.IntN(3)), Grain: grains[rng.IntN(3)]})
		for k := range rng.IntN(3) {
			in.Stock = append(in.Stock, cutting.Stock{ID: fmt.Sprintf("offcut %s%d", paper, k), Type: paper, W: eighths(20, 70), H: eighths(20, 70), Qty: 1 + rng.IntN(2), Offcut: true, Grain: grains[rng.IntN(3)]})
		}
		for k := range 1 + rng.IntN(4) {
			in.Parts = append(in.Parts, cutting.Part{ID: fmt.Sprintf("%s%d", paper, k), Type: paper, W: eighths(8, 46), H: eighths(8, 46), Qty: 1 + rng.IntN(6), Rotate: rng.IntN(2) > 0,
				Grain: []cutting.Grain{cutting.AlongW, cutting.AlongH, cutting.Any}[rng.IntN(3)]})
		}
	}
	return in
}

// Plans of small jobs are what they were, cut for cut. That they are right is tested apart.
func TestPlansAreWhatTheyWere(t *testing.T) {
	mm := func(r cutting.Rect) string {
		return fmt.Sprintf("%.2f,%.2f %.2f×%.2f", float64(r.X)/1e6, float64(r.Y)/1e6, float64(r.W)/1e6, float64(r.H)/1e6)
	}
	var b strings.Builder
	for seed := range uint64(24) {
		in := drawn(seed)
		p := solve(t, in, 25)
		require.NoError(t, verify(in, p))
		fmt.Fprintf(&b, "%d: cost %g, bound %.4f, proven %t, kerf %d\n", seed, p.Cost, p.Bound, p.Proven, in.Kerf)
		for _, s := range p.Sheets {
			fmt.Fprintf(&b, "  %s:", s.Stock)
			for _, l := range s.Placements {
				fmt.Fprintf(&b, " %s at %s;", l.Part, mm(l.Rect))
			}
			for _, l := range s.Leftovers {
				fmt.Fprintf(&b, " left %s;", mm(l))
			}
			b.WriteString("\n")
		}
		for _, c := range p.Cuts {
			fmt.Fprintf(&b, "  %d %s %s at %.2f fence %.2f → %s, %s\n", c.Sheet, c.Piece, c.Axis, float64(c.At)/1e6, float64(c.Fence)/1e6, c.Out[0], c.Out[1])
		}
	}
	golden.Same(t, "drawn", b.String())
}
