package pouch_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/pouch"
	"chromaqua/internal/golden"
)

// What is cut, scored, folded and said for envelopes of two cards, in both units.
func TestPouchesAreWhatTheyWere(t *testing.T) {
	var out strings.Builder
	point := func(p pouch.Point) string {
		return strings.ReplaceAll(fmt.Sprintf("%.2f %.2f", p.X, p.Y), "-0.00", "0.00") // whichever side of nothing it is
	}
	tell := func(title string, p *pouch.Pouch, err error, u length.Unit) {
		require.NoError(t, err)
		fmt.Fprintf(&out, "%s: %s, inside %s, slant %.2f°\n", title, p.Paper.With(u), p.Inside.With(u), p.Slant)
		for _, s := range p.Shapes() {
			fmt.Fprintf(&out, "  %s:", s.Name)
			for _, q := range s.Outline {
				fmt.Fprintf(&out, " %s,", point(q))
			}
			for _, c := range s.Creases {
				fmt.Fprintf(&out, " | %s to %s", point(c.From), point(c.To))
			}
			fmt.Fprintln(&out)
		}
		for _, step := range append(p.Steps(u), p.Extras(u)...) {
			fmt.Fprintf(&out, "  %s\n", step)
		}
	}
	long := length.Size{W: 210 * length.Millimetre, H: 74 * length.Millimetre}
	for _, u := range []length.Unit{length.Inches, length.Millimetres} {
		a2, err := fold.FormatByID("a2")
		require.NoError(t, err)
		p, err := pouch.FromSquare(a2.Front, length.Inch/8, u)
		tell("a2 from a square", p, err, u)
		p, err = pouch.FromSquare(long, 3*length.Millimetre, u)
		tell("long from a square", p, err, u)
		p, err = pouch.FromStrip(a2.Front, length.Inch/8, 0, u)
		tell("a2 from a strip", p, err, u)
		p, err = pouch.FromStrip(a2.Front, length.Inch/8, 11*length.Inch, u)
		tell("a2 from a strip of 11 in", p, err, u)
	}
	golden.Same(t, "pouches", out.String())
}
