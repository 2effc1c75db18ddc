package cover

import (
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"
	"time"

	"chromaqua/internal/golden"
)

// How some regions are laid, whole and in halves.
func TestSweepsAreWhatTheyWere(t *testing.T) {
	var out strings.Builder
	for k, n := range []int{0, 1, 6, 20} {
		r := layout(rand.New(rand.NewPCG(20, uint64(k))), n)
		h := hands[k%3]
		show := func(what string, s Sweep) {
			sum := 0.0
			for _, at := range s.At {
				sum += float64(at)
			}
			fmt.Fprintf(&out, "%d holes, %s: %.2f s, waits %.2f s, from %d, %d fronts, bands of %.1f, plain %v at %.0f, %d of seam, %.0f\n", n, what, s.Total.Seconds(), s.Wait.Seconds(), s.Start, s.Parts, s.Band, s.Plain, s.Angle, len(s.Seam), sum)
		}
		show("whole", Find(r, h, time.Hour))
		show("masked", Find(filled(r, true), h, time.Hour))
		if c, ok := Divide(r); ok {
			fmt.Fprintf(&out, "  cut of %d, %.1f mm of wash\n", len(c.Path), c.WashMM)
			show("first half", Find(&c.Halves[0], h, time.Hour))
		}
		fmt.Fprintf(&out, "  quickly %.2f s\n", Quick(96, 128, 40*float64(n), h).Seconds())
	}
	golden.Same(t, "sweeps", out.String())
}
