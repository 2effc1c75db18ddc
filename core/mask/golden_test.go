package mask_test

import (
	"fmt"
	"strings"
	"testing"

	"chromaqua/core/mask"
	"chromaqua/internal/golden"
)

// The table, and what each way takes on small, large, straight and fine shapes.
func TestMasksAreWhatTheyWere(t *testing.T) {
	var out strings.Builder
	for _, w := range mask.Ways() {
		fmt.Fprintf(&out, "%+v\n", *w.Facts())
		for _, s := range []mask.Shape{
			{Pieces: 60, MM2: 47, EdgeMM: 188, Widest: 0.5, Narrow: 1}, {Pieces: 1, MM2: 4500, EdgeMM: 430, Straight: 430, Runs: 4, Widest: 5, Narrow: 10, Plain: true},
			{Pieces: 30, MM2: 2000, EdgeMM: 1900, Widest: 3, Narrow: 2}, {Pieces: 0, MM2: 12000, EdgeMM: 0, Widest: 40, Narrow: 80},
		} {
			fmt.Fprintf(&out, "  %+v\n", w.Times(s))
		}
	}
	golden.Same(t, "masks", out.String())
}
