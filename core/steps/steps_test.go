package steps_test

import (
	"context"
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/order"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
)

func wash(t technique.Kind, ci string) card.Wash {
	return card.Wash{Technique: t, Strength: pigment.Tea, Mix: []card.Part{{CI: ci, Parts: 1}}}
}

// compiled lays a 2 × 1 grid out, changes the card, and compiles it.
func compiled(t testing.TB, change func(*card.Card, *panel.Sheet)) *steps.Plan {
	c, s := paneltest.Card(t, 2, 1)
	change(c, s)
	p, err := steps.Compile(panel.Resolve(c, s), steps.UsualBench())
	require.NoError(t, err)
	return p
}

// named is the step of a title's beginning.
func named(t testing.TB, p *steps.Plan, title string) steps.Step {
	i := slices.IndexFunc(p.Steps, func(s steps.Step) bool { return strings.HasPrefix(s.Title, title) })
	require.GreaterOrEqual(t, i, 0, "no step %q", title)
	return p.Steps[i]
}

// arc is the demand between two steps.
func arc(p *steps.Plan, from, to steps.Step) (order.Arc, bool) {
	i := slices.IndexFunc(p.Instance.Arcs, func(a order.Arc) bool { return a.From == from.ID && a.To == to.ID })
	if i < 0 {
		return order.Arc{}, false
	}
	return p.Instance.Arcs[i], true
}

// twoAreas paints the two cells, the left one twice.
func twoAreas(t testing.TB) func(*card.Card, *panel.Sheet) {
	return func(c *card.Card, s *panel.Sheet) {
		paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(technique.Flat, "PB29"), wash(technique.Glaze, "PV19"))
		paneltest.Area(t, c, s, "Right", [][2]int{{1, 0}}, wash(technique.Flat, "PY3"))
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
	assert.Equal(t, []steps.Kind{steps.Hold, steps.Line, steps.Tape, steps.Paint, steps.Paint, steps.Paint, steps.Untape, steps.Flatten, steps.Mount, steps.Mount}, kinds)
	assert.Equal(t, [][2]int{{0, 1}}, p.Instance.Adjacent, "the cells touch, so they may not be wet together")
	assert.Empty(t, p.Instance.Joins)
	assert.Equal(t, 3, arcs(p, order.Dry), "two first washes wait for the line, the glaze for its ground")
	assert.Equal(t, 3, arcs(p, order.Bone), "tape comes off when every coat is bone dry, the one under the glaze too")
	assert.Len(t, p.Mixes, 3)
	assert.Equal(t, []string{"Left"}, p.Mixes[0].Areas)
	assert.Empty(t, p.Notes)
}

// Drying goes by the largest cell of a go, the open time by its smallest, and both by
// what the technique lays and leaves.
func TestDryingByCell(t *testing.T) {
	b := boardOf(t, 3, "PB29", technique.PullOut)
	largest, smallest := 0.0, math.Inf(1)
	for _, id := range b.Areas[0].Cells {
		largest, smallest = max(largest, b.Cells[id-1].AreaMM2), min(smallest, b.Cells[id-1].AreaMM2)
	}
	require.Greater(t, largest, 2*smallest, "cells of different size")
	b.Areas[0].Area.Loose = false
	p, err := steps.Compile(b, steps.UsualBench())
	require.NoError(t, err)
	room := b.Card.Room
	for _, s := range p.Steps {
		if s.Kind != steps.Paint {
			continue
		}
		most, least := 0.0, math.Inf(1)
		for _, id := range s.Cells {
			most, least = max(most, b.Cells[id-1].AreaMM2), min(least, b.Cells[id-1].AreaMM2)
		}
		assert.Equal(t, drying.Cotton.Until(drying.TouchDry, 20, most, room), s.Dry)
		assert.Equal(t, drying.Cotton.Until(drying.BoneDry, 20, most, room), s.Bone)
		assert.Equal(t, min(s.Dry, max(0, drying.Cotton.Until(drying.Damp, 38, least, room)-s.Dur)), s.Open)
		assert.Equal(t, drying.GramsPerSquareMetre(20), s.Water)
	}
}

// boardOf is a board made by code with one area of all its inner cells.
func boardOf(t testing.TB, seed uint64, ci string, techniques ...technique.Kind) *panel.Board {
	b := paneltest.Random(t, seed)
	c := b.Card
	c.Areas, c.Joins, c.Room, c.Paper, c.Ink, c.Copies = nil, nil, drying.StillRoom, "cotton-cp", "pigment-quick", 1
	id := c.AddArea("all")
	var cells []int
	for _, cell := range b.Cells {
		if !cell.Outside {
			cells = append(cells, cell.ID)
		}
	}
	require.NoError(t, panel.Resolve(c, b.Sheet).Assign(id, cells))
	for _, kind := range techniques {
		w := card.Wash{Technique: kind}
		if kind.Tool() != technique.CleanWater {
			w = wash(kind, ci)
		}
		c.Areas[0].Washes = append(c.Areas[0].Washes, w)
	}
	require.NoError(t, c.Check())
	return panel.Resolve(c, b.Sheet)
}

// Touching cells of one area are painted in rounds, unless it is loose or they may run
// into each other; across a raised line they may be wet together.
func TestRounds(t *testing.T) {
	goes := func(change func(*card.Card)) (names []string, plan *steps.Plan) {
		p := compiled4(t, func(c *card.Card, s *panel.Sheet) {
			paneltest.Area(t, c, s, "Petals", [][2]int{{0, 0}, {1, 0}, {0, 1}, {1, 1}}, wash(technique.Flat, "PB29"))
			change(c)
		})
		for _, s := range p.Steps {
			if s.Kind == steps.Paint {
				names = append(names, fmt.Sprintf("%s %d %s", s.Name(), len(s.Cells), s.Together))
			}
		}
		return names, p
	}
	names, p := goes(func(*card.Card) {})
	assert.Equal(t, []string{"1a 2 ", "1b 2 "}, names, "a chequerboard takes two rounds")
	assert.Len(t, p.Instance.Adjacent, 1)
	assert.Contains(t, named(t, p, "Petals").Title, "(1a, 2 cells)")
	names, p = goes(func(c *card.Card) { c.Areas[0].Loose = true })
	assert.Equal(t, []string{"1 4 loose"}, names)
	assert.Contains(t, named(t, p, "Petals").Detail, "in one sweep")
	names, _ = goes(func(c *card.Card) { c.Areas[0].Run = true })
	assert.Equal(t, []string{"1 4 joined"}, names)
	names, p = goes(func(c *card.Card) { c.Ink = "embossed" })
	assert.Equal(t, []string{"1 4 "}, names, "raised lines hold")
	assert.Empty(t, p.Instance.Adjacent)
	melt := named(t, p, "Melt the powder")
	assert.Equal(t, steps.Emboss, melt.Kind)
	assert.Equal(t, steps.HeatCaution, melt.Caution, "where the heat is used")
}

// compiled4 is compiled on a 2 × 2 grid.
func compiled4(t testing.TB, change func(*card.Card, *panel.Sheet)) *steps.Plan {
	c, s := paneltest.Card(t, 2, 2)
	change(c, s)
	require.NoError(t, c.Check())
	p, err := steps.Compile(panel.Resolve(c, s), steps.UsualBench())
	require.NoError(t, err)
	return p
}

// Small by heat and big by air is the default; the water decides how long, not the room.
func TestHeatByWater(t *testing.T) {
	at := func(way card.Drying, limit float64, room drying.Room) order.Op {
		c, s := paneltest.Card(t, 2, 1)
		twoAreas(t)(c, s)
		c.Drying, c.Room = way, room
		bench := steps.UsualBench()
		bench.HeatCM2 = limit
		p, err := steps.Compile(panel.Resolve(c, s), bench)
		require.NoError(t, err)
		assert.Equal(t, way != card.Air, p.Instance.Heat.Allowed)
		return p.Instance.Ops[3]
	}
	side := paneltest.CellMM - paneltest.LineMM
	small := at(card.Mixed, 25, drying.StillRoom)
	assert.InDelta(t, (38-5)*side*side/1e6/0.3*60, float64(small.HeatDry), 8.1)
	assert.EqualValues(t, 8, small.HeatDry, "the shortest pass")
	assert.Zero(t, at(card.Mixed, 3, drying.StillRoom).HeatDry, "larger than the limit")
	assert.EqualValues(t, 8, at(card.Heat, 3, drying.StillRoom).HeatDry)
	assert.Zero(t, at(card.Air, 25, drying.StillRoom).HeatDry)
	cold := at(card.Heat, 25, drying.Room{Celsius: 10, Humidity: 0.8, Air: 0.1})
	assert.Equal(t, small.HeatDry, cold.HeatDry)
	assert.Greater(t, cold.Dry, 2*small.Dry)
}

func TestHeatIsQuicker(t *testing.T) {
	total := map[card.Drying]order.Seconds{}
	for _, way := range card.Dryings() {
		p := compiled(t, func(c *card.Card, s *panel.Sheet) { twoAreas(t)(c, s); c.Drying = way })
		s, err := solver.Solve(context.Background(), p.Instance, solver.Budget{Iterations: 300, Seed: 1})
		require.NoError(t, err)
		total[way] = s.Makespan
		for _, h := range s.Heat {
			assert.Contains(t, []string{"ink set", "touch-dry", "bone dry"}, p.HeatFor(h))
		}
	}
	assert.Less(t, total[card.Heat]+1800, total[card.Air])
	assert.Equal(t, total[card.Heat], total[card.Mixed], "its cells are small")
}

func TestADampRoomTakesLonger(t *testing.T) {
	dry := func(humidity float64) time.Duration {
		return compiled(t, func(c *card.Card, s *panel.Sheet) { twoAreas(t)(c, s); c.Room.Humidity = humidity }).Steps[3].Dry
	}
	assert.Greater(t, dry(0.7), dry(0.5)*14/10)
}

func TestMixesAreSharedAndAmple(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(technique.Flat, "PB29"))
		paneltest.Area(t, c, s, "Right", [][2]int{{1, 0}}, wash(technique.Flat, "PB29"))
	})
	require.Len(t, p.Mixes, 1)
	m := p.Mixes[0]
	assert.Equal(t, []string{"Left", "Right"}, m.Areas)
	side := paneltest.CellMM - paneltest.LineMM
	assert.InDelta(t, 2*side*side, m.MM2, 20)
	needed := m.MM2 * float64(technique.Flat.Laid()) / 1e6 // g of water, as good as ml
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
		paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(technique.Flat, "PR108"))
	})
	assert.Contains(t, p.Steps[3].Caution, "PR108")
}

func TestBrushes(t *testing.T) {
	all := shelf.Brushes()
	assert.Equal(t, all[0], steps.BrushFor(0.2, all), "the smallest where none suits")
	last := 0.0
	for _, r := range []float64{0.5, 1, 2, 4, 20} {
		b := steps.BrushFor(r, all)
		assert.GreaterOrEqual(t, b.Belly, last)
		assert.True(t, b == all[0] || b.Belly <= 2*r && b.Point <= r/2, "%s in a radius of %g mm", b.Name, r)
		last = b.Belly
	}
	mine := []shelf.Brush{{Name: "my liner", Belly: 2, Point: 0.2, CapacityML: 0.02}, {Name: "my mop", Belly: 9, Point: 0.6, CapacityML: 0.8}}
	assert.Equal(t, "my liner", steps.BrushFor(1, mine).Name)
	assert.Equal(t, "my mop", steps.BrushFor(5, mine).Name)
}

// A go of large and small cells names two brushes, and the pace stretches its time.
func TestTwoBrushesAndPace(t *testing.T) {
	b := boardOf(t, 3, "PB29", technique.Flat)
	b.Card.Ink = "embossed"
	at := func(pace float64) steps.Step {
		bench := steps.UsualBench()
		bench.Pace = pace
		p, err := steps.Compile(b, bench)
		require.NoError(t, err)
		return named(t, p, "all")
	}
	usual := at(2)
	assert.Regexp(t, `^cut in with the round .*, fill with the (round|flat) `, usual.Brush())
	assert.InDelta(t, 1.5*usual.Dur.Seconds(), at(3).Dur.Seconds(), 1)
	edge, mm2 := 0.0, 0.0
	for _, id := range usual.Cells {
		edge, mm2 = edge+b.Edges[id-1], mm2+b.Cells[id-1].AreaMM2
	}
	least := edge/12 + mm2/(19*40*0.6) + 4*float64(len(usual.Cells))
	assert.Greater(t, usual.Dur.Seconds(), 2*least)
	assert.Less(t, usual.Dur.Seconds(), 2*(edge/5+mm2/(1.5*40*0.6)+8*float64(len(usual.Cells))))
}

func TestNothingToPaint(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	_, err := steps.Compile(panel.Resolve(c, s), steps.UsualBench())
	assert.ErrorIs(t, err, steps.ErrNothingToPaint)
	paneltest.Area(t, c, s, "Bare", [][2]int{{0, 0}})
	_, err = steps.Compile(panel.Resolve(c, s), steps.UsualBench())
	assert.ErrorIs(t, err, steps.ErrNothingToPaint)
}

func ExampleBrushFor() {
	fmt.Println(steps.BrushFor(3.4, shelf.Brushes()).Name)
	// Output:
	// round 8 (6.5 mm)
}

// twenty is a card of 20 touching areas with two washes each.
func twenty(t testing.TB) *panel.Board {
	c, s := paneltest.Card(t, 4, 5)
	paints := pigment.Library()
	for i := range 20 {
		ci := paints[i].CI
		paneltest.Area(t, c, s, "", [][2]int{{i % 4, i / 4}}, wash(technique.Flat, ci), wash(technique.Glaze, ci))
	}
	return panel.Resolve(c, s)
}

func BenchmarkCompile20x2(b *testing.B) {
	board := twenty(b)
	for b.Loop() {
		if _, err := steps.Compile(board, steps.UsualBench()); err != nil {
			b.Fatal(err)
		}
	}
}

// Every step says why it comes now, and what there is to wait for: from the table, from
// the brush in the hand, or from what is friendly.
func TestReasons(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		c.Drying = card.Air
		paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(technique.Flat, "PB29"), wash(technique.WetOnWet, "PB29"), wash(technique.PenLine, "PBk7"))
		paneltest.Area(t, c, s, "Right", [][2]int{{1, 0}}, wash(technique.Flat, "PY3"))
	})
	s, err := solver.Solve(context.Background(), p.Instance, solver.Budget{Iterations: 500, Seed: 1})
	require.NoError(t, err)
	why := map[string]steps.Reason{}
	for i, r := range p.Reasons(s) {
		assert.NotEmpty(t, r.Now)
		why[p.Steps[s.Ops[i].Op].Title] = r
	}
	assert.Equal(t, "It comes first.", why["Cut the panel and lay it in the positioner"].Now)
	assert.Equal(t, "Now the ink of the line is dry; sooner, ink that is not dry runs into the wash.", why["Right: lemon yellow, tea"].Now)
	assert.Equal(t, "Now Right is touch-dry; sooner, it would run into its wet neighbour.", why["Left: ultramarine, tea"].Now)
	assert.Equal(t, "until Right is touch-dry: it would run into its wet neighbour", why["Left: ultramarine, tea"].Wait)
	assert.Equal(t, "Now Left is bone dry; sooner, damp paper feathers its ink.", why["Left: lamp black, pen line"].Now)
	assert.Contains(t, why["Take the tape off the panel"].Now, "dry")
	assert.Equal(t, "While Left is wet: it spreads softly only while the wash below shines; in a damp one it makes a bloom.", why["Left: ultramarine, tea, into the wet"].Now)
}

// Painting time to the second: edges to cut in, slowly where they are tight, the area by
// the belly that fills it, a load, a cell to settle on, times pace and technique.
func TestTimeToTheSecond(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	b := panel.Resolve(c, s)
	id := paneltest.CellAt(t, c, s, 0, 0)
	edge, tight, mm2 := b.Edges[id-1], b.Tight[id-1], b.Cells[id-1].AreaMM2
	require.Greater(t, tight, 4*1.5, "four corners")
	require.Less(t, tight, 4*4.5)
	quick := (edge-tight)/12 + tight/5 + mm2/(19*40*0.6) + 3 + 4
	for kind, want := range map[technique.Kind]float64{
		technique.Flat: quick, technique.PullOut: 2.2 * quick, technique.WetOnWet: 1.6 * quick, technique.Glaze: quick, technique.Halo: 2.2 * quick,
	} {
		p := compiled(t, func(c *card.Card, s *panel.Sheet) {
			paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(kind, "PB29"))
		})
		assert.InDelta(t, 2*want, named(t, p, "Left").Dur.Seconds(), 0.01, kind)
	}
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(technique.Flat, "PB29"), wash(technique.WetOnWet, "PV19"), card.Wash{Technique: technique.Soften})
	})
	assert.InDelta(t, quick, named(t, p, "Left: rose").Dur.Seconds(), 0.01, "touched in, not covered")
	assert.InDelta(t, 2*0.4*2.2*quick, named(t, p, "Left: soften").Dur.Seconds(), 0.01, "two fifths of it, drawn out")
	wide := edge/12 + tight/5
	assert.Less(t, wide, quick)
}

// The heat tool says what it dries, and how far; lifting goes into nothing; tape without
// a border covers none; the first mix is a mix.
func TestSmallThingsOfAPlan(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(technique.Flat, "PB29"), card.Wash{Technique: technique.Lift})
		paneltest.Area(t, c, s, "Right", [][2]int{{1, 0}}, wash(technique.Flat, "PB29"))
	})
	assert.Equal(t, "the ink of the line set, Left and Right bone dry", p.HeatWords([]order.Pass{{Op: 1, For: order.TouchDry}, {Op: 3, For: order.BoneDry}, {Op: 4, For: order.BoneDry}, {Op: 4, For: order.BoneDry}}))
	assert.Equal(t, "Left touch-dry", p.HeatWords([]order.Pass{{Op: 3, For: order.TouchDry}}))
	assert.Empty(t, named(t, p, "Left: lift").IntoWet)
	assert.NotContains(t, named(t, p, "Tape").Detail, "stays white")
	assert.Equal(t, 1, named(t, p, "Right").Mix)
	for _, area := range []string{"Left: ultramarine", "Right"} {
		assert.Equal(t, 1, p.Instance.Ops[named(t, p, area).ID].Color)
	}
	s := &order.Schedule{Makespan: 9000, Ops: []order.Placed{{Op: 0, End: 90}, {Op: 1, Start: 90, End: 180}, {Op: 2, Start: 180, End: 270}, {Op: 3, Start: 4000, End: 4030}, {Op: 4, Start: 8000, End: 8030}}}
	for _, op := range []int{5, 6, 7, 8} {
		s.Ops = append(s.Ops, order.Placed{Op: op, Start: 9000, End: 9010})
	}
	assert.Equal(t, "The same mix is in the brush.", p.Reasons(s)[4].Now)
}
