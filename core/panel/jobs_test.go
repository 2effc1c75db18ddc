package panel_test

import (
	"fmt"
	"strings"
	"testing"

	"chromaqua/internal/golden"
)

// Where zones of real jobs lie, what is painted where, and what it looks like, are what they
// were.
func TestZonesOfJobsLieWhereTheyLay(t *testing.T) {
	for _, number := range []int{3, 6, 15} {
		_, b := boardOf(t, number)
		var out strings.Builder
		for i, a := range b.Areas {
			fmt.Fprintf(&out, "%s: %v, %.0f mm², edge %.0f, inscribed %.1f at %.0f %.0f\n", a.Name, a.Cells, a.MM2, a.EdgeMM, a.InscribedMM, a.Centre.X, a.Centre.Y)
			for _, p := range b.ZoneParts(i) {
				long := 0
				for _, e := range b.FreeEdges(p) {
					long += len(e)
				}
				fmt.Fprintf(&out, "  %d %.0f mm², tight %.0f, %d points of free edge\n", p.ID, p.AreaMM2, p.TightMM, long)
			}
		}
		for _, p := range b.Patches() {
			fmt.Fprintf(&out, "patch %d of %d %v %.0f mm² at %.0f %.0f\n", p.ID, p.Cell, p.Parts, p.MM2, p.At.X, p.At.Y)
		}
		for _, k := range b.PatchContacts() {
			fmt.Fprintf(&out, "touch %d %d %t\n", k.A, k.B, k.Raised)
		}
		for _, k := range b.Contacts()[len(b.Neighbours):] {
			fmt.Fprintf(&out, "near %d %d %t\n", k.A, k.B, k.Raised)
		}
		for _, f := range b.Films() {
			fmt.Fprintf(&out, "film %v %s %s, %d rings, %.0f mm round\n", f.Areas, f.Look.Dense.Dry, f.Look.Thin.Dry, len(f.Outline.Rings), f.Outline.Length())
		}
		j := b.Judge(b.Looks())
		fmt.Fprintf(&out, "white %.3f, free %v\n", j.White, b.Free())
		for i := range b.Card.Images {
			var beside []int
			for _, c := range b.Cells {
				if b.Beside(i, c.ID) {
					beside = append(beside, c.ID)
				}
			}
			fmt.Fprintf(&out, "ink of %s in %v, hides behind %v\n", b.Card.Images[i].Title, beside, b.Laid[i].Hidden)
		}
		golden.Same(t, fmt.Sprintf("job-%d", number), out.String())
	}
}
