package steps_test

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/length"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
)

func wash(t card.Technique, ci string) card.Wash {
	return card.Wash{Technique: t, Strength: pigment.Tea, Mix: []card.Part{{CI: ci, Parts: 1}}}
}

// compiled lays a 2 × 1 grid out, changes the card, and compiles it.
func compiled(t testing.TB, change func(*card.Card, *panel.Sheet)) *steps.Plan {
	c, s := paneltest.Card(t, 2, 1)
	change(c, s)
	p, err := steps.Compile(panel.Resolve(c, s))
	require.NoError(t, err)
	return p
}

// twoAreas paints the two cells, the left one twice.
func twoAreas(t testing.TB) func(*card.Card, *panel.Sheet) {
	return func(c *card.Card, s *panel.Sheet) {
		paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(card.Flat, "PB29"), wash(card.Glaze, "PV19"))
		paneltest.Area(t, c, s, "Right", [][2]int{{1, 0}}, wash(card.Flat, "PY3"))
	}
}

func arcs(p *steps.Plan, kind order.ArcType) (n int) {
	for _, a := range p.Instance.Arcs {
		if a.Type == kind {
			n++
		}
	}
	return n
}

func TestCompile(t *testing.T) {
	p := compiled(t, twoAreas(t))
	require.NoError(t, p.Instance.Check())
	var kinds []steps.Kind
	for i, s := range p.Steps {
		assert.Equal(t, i, s.ID)
		assert.Equal(t, i, p.Instance.Ops[i].ID)
		assert.GreaterOrEqual(t, float64(p.Instance.Ops[i].Dur), s.Dur.Seconds())
		kinds = append(kinds, s.Kind)
	}
	assert.Equal(t, []steps.Kind{steps.Tape, steps.Stamp, steps.Paint, steps.Paint, steps.Paint, steps.Untape, steps.Mount}, kinds)
	assert.Equal(t, [][2]int{{0, 1}}, p.Instance.Adjacent, "the cells touch, so they may not be wet together")
	assert.Empty(t, p.Instance.Joins)
	assert.Equal(t, 3, arcs(p, order.Dry), "two first washes wait for the line, the glaze for its ground")
	assert.Equal(t, 2, arcs(p, order.Bone), "tape comes off bone-dry paper")
	assert.Len(t, p.Mixes, 3)
	assert.Equal(t, []string{"Left"}, p.Mixes[0].Areas)
}

// Whatever the core orders from a plan obeys what the craft demands.
func TestAPlannedCardIsPaintedWell(t *testing.T) {
	for _, way := range []card.Drying{card.Air, card.Heat} {
		p := compiled(t, func(c *card.Card, s *panel.Sheet) {
			twoAreas(t)(c, s)
			c.Drying = way
		})
		s, err := order.Solve(context.Background(), p.Instance, order.Budget{Iterations: 300, Seed: 1})
		require.NoError(t, err)
		at := map[int]order.Placed{}
		for _, o := range s.Ops {
			at[o.Op] = o
		}
		const line, left, glaze, right, untape = 1, 2, 3, 4, 5
		dry := func(op int) int { return s.After(p.Instance, 0, at[op].End, p.Instance.Ops[op].Dry) }
		assert.GreaterOrEqual(t, at[left].Start, dry(line), "%s: no wash on a line that may run", way)
		assert.GreaterOrEqual(t, at[glaze].Start, dry(left), "%s: no glaze on a wet layer", way)
		if at[right].Start < at[left].Start {
			assert.GreaterOrEqual(t, at[left].Start, dry(right), "%s: neighbours are not wet together", way)
		} else {
			assert.GreaterOrEqual(t, at[right].Start, dry(left), "%s: neighbours are not wet together", way)
		}
		assert.GreaterOrEqual(t, at[untape].Start, at[glaze].End)
	}
}

func TestHeatIsQuicker(t *testing.T) {
	total := map[card.Drying]int{}
	for _, way := range []card.Drying{card.Air, card.Heat} {
		p := compiled(t, func(c *card.Card, s *panel.Sheet) { twoAreas(t)(c, s); c.Drying = way })
		s, err := order.Solve(context.Background(), p.Instance, order.Budget{Iterations: 300, Seed: 1})
		require.NoError(t, err)
		total[way] = s.Makespan
	}
	assert.Less(t, total[card.Heat]*2, total[card.Air])
}

func TestADampRoomTakesLonger(t *testing.T) {
	dry := func(humidity float64) time.Duration {
		return compiled(t, func(c *card.Card, s *panel.Sheet) { twoAreas(t)(c, s); c.Room.Humidity = humidity }).Steps[2].Dry
	}
	assert.Greater(t, dry(0.7), dry(0.5)*14/10)
}

func TestJoinsAndDropIns(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		a := paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(card.WetOnWet, "PB29"), wash(card.WetOnWet, "PV19"))
		b := paneltest.Area(t, c, s, "Right", [][2]int{{1, 0}}, wash(card.Flat, "PY3"))
		c.SetJoin(a, b, true)
	})
	assert.Equal(t, 1, arcs(p, order.Wet), "what is dropped in falls into a wet wash")
	assert.Len(t, p.Instance.Joins, 2, "both of the left meet the right while wet")
	s, err := order.Solve(context.Background(), p.Instance, order.Budget{Iterations: 200, Seed: 1})
	require.NoError(t, err)
	at := map[int]order.Placed{}
	for _, o := range s.Ops {
		at[o.Op] = o
	}
	assert.LessOrEqual(t, at[3].Start-at[2].End, int(p.Steps[2].Open/time.Second), "while its sheen lasts")
}

// An ink that heat does not help is waited for by the clock on the wall.
// Colour is lifted while it is wet, and what comes next waits for both; drops take
// little paint, a pen none and no brush.
func TestWaterSplatterAndPen(t *testing.T) {
	plan := compiled(t, func(c *card.Card, s *panel.Sheet) {
		lift := card.Wash{Technique: card.Lift}
		drops, pen := wash(card.Splatter, "PW6"), wash(card.PenLine, "PBk7")
		paneltest.Area(t, c, s, "sky", [][2]int{{0, 0}}, wash(card.Flat, "PB29"), lift, drops, pen)
	})
	var washes []steps.Step
	for _, s := range plan.Steps {
		if s.Kind == steps.Paint {
			washes = append(washes, s)
		}
	}
	require.Len(t, washes, 4)
	assert.Equal(t, 1, arcs(plan, order.Wet))
	for _, from := range []int{washes[0].ID, washes[1].ID} {
		assert.Contains(t, plan.Instance.Arcs, order.Arc{From: from, To: washes[2].ID, Type: order.Dry})
	}
	assert.Equal(t, "sky: lift", washes[1].Title)
	assert.Equal(t, -1, washes[1].Mix)
	assert.Equal(t, "sky: PW6, tea, splatter", washes[2].Title)
	assert.Equal(t, "sky: PBk7, pen-line", washes[3].Title)
	assert.Empty(t, washes[3].Brush)
	require.Len(t, plan.Mixes, 2, "no mix for water or pen")
	assert.Less(t, plan.Mixes[1].MM2, plan.Mixes[0].MM2/5)
	assert.Less(t, washes[2].Dur, washes[0].Dur)
}

func TestSolventInkIsAired(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) { twoAreas(t)(c, s); c.Ink, c.Drying = "solvent", card.Heat })
	after := 0
	for _, a := range p.Instance.Arcs {
		if a.Type == order.After && a.From == 1 {
			after = a.Min
		}
	}
	ink, err := shelf.InkByID("solvent")
	require.NoError(t, err)
	assert.Equal(t, int(ink.AirDry/time.Second), after)
	assert.Contains(t, p.Steps[1].Caution, "window")
}

func TestMixesAreSharedAndAmple(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(card.Flat, "PB29"))
		paneltest.Area(t, c, s, "Right", [][2]int{{1, 0}}, wash(card.Flat, "PB29"))
	})
	require.Len(t, p.Mixes, 1)
	m := p.Mixes[0]
	assert.Equal(t, []string{"Left", "Right"}, m.Areas)
	side := paneltest.CellMM - paneltest.LineMM
	assert.InDelta(t, 2*side*side, m.MM2, 20)
	needed := m.MM2 * float64(drying.FlatWash) / 1e6 // g of water, as good as ml
	assert.Greater(t, m.ML, needed*4/3, "with a third to spare")
}

func TestMixesForManyCards(t *testing.T) {
	ml := func(copies int) float64 {
		return compiled(t, func(c *card.Card, s *panel.Sheet) {
			twoAreas(t)(c, s)
			c.Copies = copies
			require.NoError(t, c.Check())
		}).Mixes[0].ML
	}
	assert.Equal(t, ml(0), ml(1))
	assert.InDelta(t, 12*(ml(200)-0.5)/200, ml(12)-0.5, 0.6, "what stays in the brush does so once")
	assert.Greater(t, ml(200), ml(1))
}

func TestCautionsStandWithTheirStep(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(card.Flat, "PR108"))
	})
	assert.Contains(t, p.Steps[2].Caution, "PR108")
}

func TestBrushes(t *testing.T) {
	all := shelf.Brushes()
	assert.Equal(t, all[0], steps.BrushFor(&panel.Area{InscribedMM: 0.2}), "the smallest where none suits")
	last := 0.0
	for _, r := range []float64{0.5, 1, 2, 4, 20} {
		b := steps.BrushFor(&panel.Area{InscribedMM: r})
		assert.GreaterOrEqual(t, b.Belly, last)
		assert.True(t, b == all[0] || b.Belly <= 2*r && b.Point <= r/2, "%s in a radius of %g mm", b.Name, r)
		last = b.Belly
	}
}

func TestNothingToPaint(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	_, err := steps.Compile(panel.Resolve(c, s))
	assert.ErrorIs(t, err, steps.ErrNothingToPaint)
	paneltest.Area(t, c, s, "Bare", [][2]int{{0, 0}})
	_, err = steps.Compile(panel.Resolve(c, s))
	assert.ErrorIs(t, err, steps.ErrNothingToPaint)
}

func ExampleBrushFor() {
	fmt.Println(steps.BrushFor(&panel.Area{InscribedMM: 3.4}).Name)
	// Output:
	// round 8 (6.5 mm)
}

// twenty is a card of 20 touching areas with two washes each.
func twenty(t testing.TB) *panel.Board {
	c, s := paneltest.Card(t, 4, 5)
	paints := pigment.Library()
	for i := range 20 {
		ci := paints[i].CI
		paneltest.Area(t, c, s, "", [][2]int{{i % 4, i / 4}}, wash(card.Flat, ci), wash(card.Glaze, ci))
	}
	return panel.Resolve(c, s)
}

func BenchmarkCompile20x2(b *testing.B) {
	board := twenty(b)
	for b.Loop() {
		if _, err := steps.Compile(board); err != nil {
			b.Fatal(err)
		}
	}
}

// The steps before and after painting say what this card needs.
func TestTapingAndMounting(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		twoAreas(t)(c, s)
		c.Painting = card.Painting{Border: 3 * length.Millimetre, Spare: 10 * length.Millimetre, Tape: length.Inch}
		require.NoError(t, c.AddLayer(card.Mat))
		over := -length.Millimetre
		require.NoError(t, c.Show(card.PanelRing, "", &over))
		require.NoError(t, c.Check())
	})
	first, last, untape := p.Steps[0], p.Steps[len(p.Steps)-1], p.Steps[len(p.Steps)-2]
	assert.Contains(t, first.Title, "Cut a sheet of")
	assert.Contains(t, first.Detail, "3 mm of the panel all round, which stays white")
	assert.Contains(t, untape.Title, "trim to")
	assert.Equal(t, "Mount the panel with mat 2, mat 1 on the card", last.Title)
	assert.Contains(t, last.Detail, "Trim the panel flush with the mat 2")
	assert.NotEmpty(t, last.Caution)

	p = compiled(t, func(c *card.Card, s *panel.Sheet) {
		twoAreas(t)(c, s)
		c.Window, c.Layers = &card.Window{}, nil
	})
	assert.Contains(t, p.Steps[0].Title, "out of the painted sheet")
	assert.Equal(t, "Mount the panel on the card", p.Steps[len(p.Steps)-1].Title)
}

// Several impressions are stamped from the front backwards; what is masked has to
// be dry before it is covered.
func TestImpressions(t *testing.T) {
	several := func(change func(*card.Card)) *steps.Plan {
		return compiled(t, func(c *card.Card, s *panel.Sheet) {
			twoAreas(t)(c, s)
			rear, err := c.Lay(c.Line().Scan, shelf.LineImage)
			require.NoError(t, err)
			require.NoError(t, c.Repeat(rear, 1, 0, 0, 0))
			c.Images[1].Ghost, c.Images[2].Ghost = 1, 2
			change(c)
			laid := *s
			laid.Laid = []panel.Laid{{}, {Hidden: []int{0}}, {Hidden: []int{0}}}
			*s = laid
		})
	}
	keep := func(p *steps.Plan) (out []steps.Step) {
		for _, s := range p.Steps {
			if s.Kind == steps.Stamp {
				out = append(out, s)
			}
		}
		return out
	}
	p := several(func(*card.Card) {})
	stamps := keep(p)
	require.Len(t, stamps, 3)
	assert.Equal(t, "Stamp Grid (1 of 3)", stamps[0].Title)
	assert.Contains(t, stamps[1].Detail, "Cut the mask right at the line. Lay the paper mask over Grid, then stamp Grid, stamped off once on scrap paper first")
	assert.NotContains(t, stamps[2].Detail, "Cut the mask", "it is there already")
	assert.Greater(t, stamps[1].Dur, stamps[2].Dur)
	assert.Equal(t, 2+3*2+1, arcs(p, order.Dry), "two masks on dry ink, two first washes after three impressions, the glaze")
	require.NoError(t, p.Instance.Check())

	p = several(func(c *card.Card) { c.Drying, c.Ink = card.Heat, "solvent" })
	assert.Equal(t, 1, arcs(p, order.Dry), "heat does not help solvent ink, so its own time is waited")
	stamps = keep(several(func(c *card.Card) { c.Ink = "laser" }))
	require.Len(t, stamps, 1, "what is printed needs no masks")
	assert.Contains(t, stamps[0].Detail, "Grid, Grid, stamped off once")
}

// Relief is pressed when the maker's school says, and again when water has
// flattened it.
func TestReliefIsPressed(t *testing.T) {
	pressings := func(r card.Relief, technique card.Technique) (out []string) {
		p := compiled(t, func(c *card.Card, s *panel.Sheet) {
			c.Line().Kind, c.Relief = shelf.ReliefImage, r
			paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(technique, "PB29"))
		})
		require.NoError(t, p.Instance.Check())
		for _, s := range p.Steps {
			assert.NotEqual(t, steps.Stamp, s.Kind, "a folder leaves no ink")
			if s.Kind == steps.Press {
				out = append(out, s.Title)
			}
		}
		return out
	}
	assert.Equal(t, []string{"Press the panel in its folder"}, pressings("", card.Flat))
	assert.Equal(t, []string{"Press the panel in its folder", "Press the panel in its folder again"}, pressings(card.Unpainted, card.Flat))
	assert.Equal(t, []string{"Press the panel in its folder"}, pressings(card.Unpainted, card.DryBrush))
	assert.Equal(t, []string{"Press the panel in its folder", "Touch up the ridges"}, pressings(card.Twice, card.Flat))
}

func TestStencils(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		c.Line().Kind = shelf.Stencil
		paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(card.DryBrush, "PB29"))
	})
	for _, s := range p.Steps {
		if s.Kind == steps.Paint {
			assert.Contains(t, s.Detail, "Hold the stencil down")
			assert.Contains(t, s.Detail, "nearly dry")
		}
	}
}

// Whatever is laid over whatever, in a room that dries quickly, there is an order
// for it.
func TestEveryTechniqueOverEveryOther(t *testing.T) {
	var all []card.Technique
	for _, g := range card.TechniqueGroups() {
		all = append(all, g.All...)
	}
	for _, first := range all {
		for _, second := range all {
			for _, third := range []card.Technique{card.WetOnWet, card.Lift} {
				a := card.Area{Washes: []card.Wash{wash(card.Flat, "PB29"), wash(card.Flat, "PV19"), wash(card.Flat, "PY3")}}
				for k, technique := range []card.Technique{first, second, third} {
					require.NoError(t, a.LayAs(k, technique))
				}
				c, s := paneltest.Card(t, 2, 1)
				paneltest.Area(t, c, s, "petal", [][2]int{{0, 0}})
				c.Areas[0].Washes = a.Washes
				if c.Check() != nil {
					continue // water on nothing wet
				}
				c.Room = drying.Room{Celsius: 35, Humidity: 0.2, Air: 1}
				plan, err := steps.Compile(panel.Resolve(c, s))
				require.NoError(t, err)
				_, err = order.Solve(t.Context(), plan.Instance, order.Budget{Iterations: 20, Seed: 1})
				require.NoError(t, err, "%s, %s, %s", first, second, third)
			}
		}
	}
}
