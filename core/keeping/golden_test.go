package keeping_test

import (
	"context"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/drying"
	"chromaqua/core/keeping"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
	"chromaqua/internal/golden"
)

// told writes what is advised on a card, how its washes are led, and what helps those.
func told(t *testing.T, out *strings.Builder, name string, b *panel.Board) {
	fmt.Fprintf(out, "%s\n", name)
	all := weighed(t, b)
	for _, k := range all {
		fmt.Fprintf(out, "  %s from %v: %d as good\n", k.Name, k.Grounds, k.Either)
		for _, ch := range k.Choices {
			fmt.Fprintf(out, "    %s %.2f: %v, %v, %.4f, %v more of %d, now %v %s%s\n", ch.Way, ch.Score, ch.HandsOn, ch.Waiting, ch.Risk, ch.Costs, ch.Total, ch.Now, ch.Reason, ch.Barred)
		}
	}
	by, n := keeping.Decide(all)
	fmt.Fprintf(out, "  decided %d: %s\n", n, by.Ways)
	p, err := steps.Compile(b, steps.UsualBench())
	require.NoError(t, err)
	for _, f := range keeping.Fronts(p, 0) {
		fmt.Fprintf(out, "  %d/%d %v: open %v, waits %v of %v, %.3f, %s\n", f.Area, f.Wash, f.Parts, f.Open, f.Sweep.Wait, f.Sweep.Total, f.Rho, f.Fill.Name)
		for _, w := range keeping.WaysOut(b, &f, steps.UsualBench()) {
			fmt.Fprintf(out, "    %s: %.3f, %v more, %s, cut %d\n", w.Label, w.Rho, w.More, w.Says, len(w.Cut))
		}
	}
	fmt.Fprintf(out, "  closing %d\n", len(keeping.Closing(p, 0)))
}

// What is advised on some cards, how their washes are led, and what helps those.
func TestAdviceIsWhatItWas(t *testing.T) {
	flakes := change.Strew{Count: 40, Least: "4 mm", Most: "8 mm", Name: "Flakes"}
	frame := change.KeepZone{NewZone: change.NewZone{Shape: card.Rim, Width: "8 mm", Name: "Frame"}}
	moon := change.KeepZone{NewZone: change.NewZone{Shape: card.DotsAt, Points: "52.5 x 74 mm; 20 x 20 mm", Width: "5 mm", Name: "Moon"}}
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
		{"a resist stamp, one cell of it", []change.Change{change.KeepCells{Cells: "3", Name: "Kelp"}}, func(c *card.Card) { c.Images[0].Kind = shelf.ResistImage }},
		{"a stencil, hardly wet", []change.Change{change.KeepCells{Cells: "2-4", Name: "Scales"}}, func(c *card.Card) {
			c.Images[0].Kind = shelf.Stencil
			for i := range c.Areas {
				c.Areas[i].Washes[0].Technique = technique.Sponge
			}
		}},
		{"a moon on a small ground, mostly by air", []change.Change{moon}, func(c *card.Card) { c.Drying = card.Mixed }},
		{"snow in a hot room, moons masked and not", []change.Change{snow, moon, change.KeepZone{NewZone: change.NewZone{Shape: card.DotsAt, Points: "12 x 20 mm; 90 x 120 mm", Width: "6 mm", Name: "Others"}}, change.KeepBy{Ways: "r2=fluid"}}, func(c *card.Card) {
			c.Room = drying.Room{Celsius: 42, Humidity: 0.1, Air: 2}
		}},
		{"an area of two washes under another, by heat", []change.Change{change.KeepArea{Area: "a1"}}, func(c *card.Card) {
			w := c.Areas[0].Washes[0]
			c.Drying, w.Technique = card.Heat, technique.Variegated
			c.Areas[0].Washes = append(c.Areas[0].Washes, w)
		}},
		{"a colour that is kept", []change.Change{sill}, func(c *card.Card) {
			a := &c.Areas[len(c.Areas)-1]
			a.Washes = append(a.Washes, a.Washes[0])
			c.Reserves[0].Under = card.WashRef(a.ID, 0)
		}},
	} {
		c, s := paneltest.Card(t, 3, 3)
		id := paneltest.Area(t, c, s, "Heart", [][2]int{{1, 1}}, card.Wash{Technique: technique.Flat, Mix: []card.Part{{CI: "PY42", Parts: 1}}, Strength: pigment.Tea})
		require.Equal(t, "a1", id)
		b := darkened(t, panel.Resolve(c, s), v.made...)
		v.then(b.Card)
		require.NoError(t, b.Card.Check(), v.name)
		b = panel.Resolve(b.Card, b.Sheet)
		told(t, &out, v.name, b)
	}
	golden.Same(t, "advice", out.String())
}

// Washes of several kinds over cells that a brush does not reach across: each cell by
// itself, in one sweep over its lines, over what is parted later, and beside what is no
// wash at all.
func TestLargeCellsAreLedAsTheyWere(t *testing.T) {
	flat := card.Wash{Technique: technique.Flat, Mix: []card.Part{{CI: "PY42", Parts: 1}}, Strength: pigment.Tea}
	as := func(q technique.Kind) card.Wash { w := flat; w.Technique = q; return w }
	var out strings.Builder
	for _, v := range []struct {
		name  string
		loose bool
		first card.Wash
		room  drying.Room
		keeps change.Change
	}{
		{"each by itself", false, as(technique.Splatter), drying.Room{Celsius: 38, Humidity: 0.15, Air: 1}, nil},
		{"loosely", true, as(technique.DryBrush), drying.Room{Celsius: 38, Humidity: 0.15, Air: 1}, nil},
		{"loosely, in a mild room", true, as(technique.Splatter), drying.Room{Celsius: 28, Humidity: 0.3, Air: 0.5}, nil},
		{"loosely round dots", true, as(technique.Splatter), drying.Room{Celsius: 34, Humidity: 0.2, Air: 0.6}, change.KeepZone{NewZone: change.NewZone{Shape: card.DotsAt, Points: "30 x 40 mm; 60 x 45 mm; 40 x 80 mm", Width: "6 mm", Name: "Moons"}}},
	} {
		c, s := spread(t)
		painted(t, c, s, "Spots", []int{5}, v.first)
		painted(t, c, s, "Sails", []int{2, 3, 4}, flat, as(technique.WetOnWet))
		c.Areas[1].Loose = v.loose
		c.Room = v.room
		require.NoError(t, c.Check(), v.name)
		b := panel.Resolve(c, s)
		if v.keeps != nil {
			made, _, err := change.Try(v.keeps, c, s)
			require.NoError(t, err)
			b = panel.Resolve(made, s)
		}
		told(t, &out, v.name, b)
	}
	golden.Same(t, "large", out.String())
}

// painted adds an area of some cells to a card.
func painted(t testing.TB, c *card.Card, s *panel.Sheet, name string, cells []int, washes ...card.Wash) {
	id := c.AddArea(name)
	require.NoError(t, panel.Resolve(c, s).Assign(id, cells))
	a, err := c.AreaByID(id)
	require.NoError(t, err)
	a.Washes = append(a.Washes, washes...)
}

// spread is a grid of two by two cells over nearly all of its panel, and its sheet.
func spread(t *testing.T) (*card.Card, *panel.Sheet) {
	c, _ := paneltest.Card(t, 2, 2)
	m := c.Line()
	m.Width, m.X, m.Y = 92*length.Millimetre, 3*length.Millimetre, 10*length.Millimetre
	s, err := panel.Read(context.Background(), c, panel.Scans{m.Image: paneltest.Scan(2, 2)}, nil)
	require.NoError(t, err)
	return c, s
}
