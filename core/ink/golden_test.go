package ink_test

import (
	"fmt"
	"strings"
	"testing"

	"chromaqua/core/ink"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
	"chromaqua/internal/golden"
)

// The whole ranking for every look on papers of each kind, with what is said of each choice:
// in plain words, so that a change of the judgement is read.
func TestRankingsAreWhatTheyWere(t *testing.T) {
	var out strings.Builder
	tell := func(title string, n ink.Need) {
		fmt.Fprintf(&out, "%s\n", title)
		for _, c := range ink.Rank(n) {
			name := c.Ink.ID
			if c.Name != "" {
				name = c.Name + " (" + name + ")"
			}
			fmt.Fprintf(&out, "  %s: %s, %s, after %v; %s %s; %s; %s", name, c.Fit, c.Verdict, c.Wait, c.Impressions, c.Positioner, c.Powder, strings.Join(c.Reasons, " "))
			if len(c.Risks) > 0 {
				fmt.Fprintf(&out, " ! %s", strings.Join(c.Risks, " "))
			}
			fmt.Fprintln(&out)
		}
	}
	own := []shelf.Own{
		{Name: "dove bottle", What: shelf.OwnInk, Like: "permanent"}, {Name: "tin", What: shelf.OwnPowder, Like: shelf.Superfine}, {Name: "field pen", What: shelf.OwnInk, Like: "pen"},
	}
	tests := []proof.Record{
		{Of: proof.Of{Ink: "blend", Paper: "cotton-cp"}, WaterTest: proof.WaterTest{Verdict: proof.Holds, BleedMM: 0.1}},
		{Of: proof.Of{Ink: "pen", Paper: "cotton-cp"}, WaterTest: proof.WaterTest{Verdict: proof.Soft, BleedMM: 0.5}},
		{Of: proof.Of{Ink: "solvent", Paper: "cotton-cp"}, WaterTest: proof.WaterTest{Verdict: proof.Runs, BleedMM: 1.5}},
		{Of: proof.Of{Ink: "pigment-slow", Paper: "cotton-cp"}, WaterTest: proof.WaterTest{Verdict: proof.Holds}},
	}
	for _, look := range shelf.Looks() {
		cold := paper(t, "cotton-cp")
		tell(fmt.Sprintf("%s, wet, on cold press", look), ink.Need{Look: look, Paper: cold, Wet: true})
		tell(fmt.Sprintf("%s, damp and heated, on hot press, thick lines", look), ink.Need{Look: look, Paper: paper(t, "cotton-hp"), Heat: true, LineMM: 0.8})
		tell(fmt.Sprintf("%s, wet, fine lines on rough", look), ink.Need{Look: look, Paper: paper(t, "cotton-rough"), Wet: true, LineMM: 0.3})
		tell(fmt.Sprintf("%s, hair lines on what is sealed", look), ink.Need{Look: look, Paper: paper(t, "kraft"), LineMM: 0.2})
		tell(fmt.Sprintf("%s, with tests and inks of one's own", look), ink.Need{Look: look, Paper: cold, Wet: true, Own: own, Tests: tests, LineMM: 0.45, Goes: true})
	}
	golden.Same(t, "rankings", out.String())
}
