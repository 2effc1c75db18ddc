package nest

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"chromaqua/core/length"
	"chromaqua/internal/golden"
)

// What follows from hundreds of nests, given here and there, is what it was.
func TestNestsAreWhatTheyWere(t *testing.T) {
	var b strings.Builder
	const mm = length.Millimetre
	for seed := range uint64(300) {
		r := rand.New(rand.NewPCG(seed, 9))
		l := func(most int) length.Length { return length.Length(r.IntN(most*100))*mm/100 + 1 }
		rings := make([]Ring, 1+r.IntN(4))
		for i := range rings {
			ring := &rings[i]
			ring.Name, ring.Usual, ring.Yields = fmt.Sprintf("ring %d", i), l(7)-mm, r.IntN(4) == 0
			if r.IntN(3) == 0 {
				ring.Size.W = l(60) + length.Length(5-i)*20*mm
			}
			if r.IntN(3) == 0 {
				ring.Size.H = l(60) + length.Length(5-i)*20*mm
			}
			for _, s := range []Side{Left, Right, Top, Bottom} {
				if r.IntN(5) == 0 {
					m := l(12) - 2*mm
					*ring.Margin.Of(s) = &m
				}
			}
		}
		one := &rings[r.IntN(len(rings))]
		one.Size.W, one.Size.H = max(one.Size.W, l(90)+20*mm), max(one.Size.H, l(90)+20*mm)
		found, err := Solve(rings, []length.Length{0, length.Sixteenth, mm / 2}[seed%3])
		fmt.Fprintf(&b, "%d:", seed)
		for _, f := range found {
			fmt.Fprintf(&b, " %d %d %v %v %v;", f.Size.W, f.Size.H, f.Margin, f.WFrom, f.HFrom)
		}
		if err != nil {
			fmt.Fprintf(&b, " %v", err)
		}
		b.WriteString("\n")
	}
	golden.Same(t, "nests", b.String())
}
