package keeping_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/drying"
	"chromaqua/core/keeping"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/internal/golden"
)

// What is advised on some cards, how their washes are led, and what helps those.
func TestAdviceIsWhatItWas(t *testing.T) {
	flakes := change.Strew{Count: 40, Least: "4 mm", Most: "8 mm", Name: "Flakes"}
	frame := change.KeepZone{NewZone: change.NewZone{Shape: card.Rim, Width: "8 mm", Name: "Frame"}}
	var out strings.Builder
	for _, v := range []struct {
		name string
		made []change.Change
		then func(*card.Card)
	}{
		{"snow and a sill", []change.Change{snow, sill}, func(*card.Card) {}},
		{"flakes on wood pulp", []change.Change{flakes}, func(c *card.Card) { c.Paper = "pulp-cp" }},
		{"flakes in a hot room", []change.Change{flakes}, func(c *card.Card) { c.Room = drying.Room{Celsius: 40, Humidity: 0.1, Air: 1} }},
		{"a frame by heat", []change.Change{frame}, func(c *card.Card) { c.Drying = card.Heat }},
		{"by air, on rough paper", []change.Change{frame, snow}, func(c *card.Card) { c.Drying, c.Paper = card.Air, "cotton-rough" }},
		{"an area under a wash", []change.Change{change.KeepArea{Area: "a1"}}, func(*card.Card) {}},
		{"a resist stamp", []change.Change{change.KeepCells{Cells: "2-4", Name: "Kelp"}}, func(c *card.Card) { c.Images[0].Kind = shelf.ResistImage }},
		{"a stencil, hardly wet", []change.Change{change.KeepCells{Cells: "2-4", Name: "Scales"}}, func(c *card.Card) {
			c.Images[0].Kind = shelf.Stencil
			for i := range c.Areas {
				c.Areas[i].Washes[0].Technique = card.Sponge
			}
		}},
		{"a colour that is kept", []change.Change{sill}, func(c *card.Card) {
			a := &c.Areas[len(c.Areas)-1]
			a.Washes = append(a.Washes, a.Washes[0])
			c.Reserves[0].Under = card.WashRef(a.ID, 0)
		}},
	} {
		c, s := paneltest.Card(t, 3, 3)
		id := paneltest.Area(t, c, s, "Heart", [][2]int{{1, 1}}, card.Wash{Technique: card.Flat, Mix: []card.Part{{CI: "PY42", Parts: 1}}, Strength: pigment.Tea})
		require.Equal(t, "a1", id)
		b := darkened(t, panel.Resolve(c, s), v.made...)
		v.then(b.Card)
		require.NoError(t, b.Card.Check(), v.name)
		b = panel.Resolve(b.Card, b.Sheet)
		fmt.Fprintf(&out, "%s\n", v.name)
		all := weighed(t, b)
		for _, k := range all {
			fmt.Fprintf(&out, "  %s from %v: %d as good\n", k.Name, k.Grounds, k.Either)
			for _, ch := range k.Choices {
				fmt.Fprintf(&out, "    %s %.2f: %v, %v, %.4f, %v more of %d, now %v %s%s\n", ch.Way, ch.Score, ch.HandsOn, ch.Waiting, ch.Risk, ch.Costs, ch.Total, ch.Now, ch.Reason, ch.Barred)
			}
		}
		by, n := keeping.Decide(all)
		fmt.Fprintf(&out, "  decided %d: %s\n", n, by.Ways)
		p, err := steps.Compile(b, steps.UsualBench())
		require.NoError(t, err)
		for _, f := range keeping.Fronts(p, 0) {
			fmt.Fprintf(&out, "  %d/%d %v: open %v, waits %v of %v, %.3f, %s\n", f.Area, f.Wash, f.Parts, f.Open, f.Sweep.Wait, f.Sweep.Total, f.Rho, f.Fill.Name)
			for _, w := range keeping.WaysOut(b, &f, steps.UsualBench()) {
				fmt.Fprintf(&out, "    %s: %.3f, %v more, %s, cut %d\n", w.Label, w.Rho, w.More, w.Says, len(w.Cut))
			}
		}
		fmt.Fprintf(&out, "  closing %d\n", len(keeping.Closing(p, 0)))
	}
	golden.Same(t, "advice", out.String())
}
