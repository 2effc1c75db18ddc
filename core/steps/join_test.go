package steps_test

import (
	"context"
	"math"
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
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
)

// What is dropped into a wash is done go by go, while the first of its cells is open.
func TestDropInsGoByGo(t *testing.T) {
	b := boardOf(t, 12, "PB29", technique.Flat, technique.WetOnWet)
	b.Card.Ink = "embossed" // all cells could be one go
	p, err := steps.Compile(b, steps.UsualBench())
	require.NoError(t, err)
	bases, dropped := 0, 0
	for _, s := range p.Steps {
		if s.On != nil && s.On.Wash == 0 {
			bases++
		}
		for _, into := range s.IntoWet {
			dropped++
			below := p.Steps[into]
			assert.Equal(t, below.Cells, s.Cells)
			a, ok := arc(p, below, s)
			require.True(t, ok)
			assert.Equal(t, order.Wet, a.Type)
			assert.LessOrEqual(t, a.Max, int(below.Open/time.Second), "before the sheen is lost")
			assert.Equal(t, drying.GramsPerSquareMetre(90), s.Water, "the film is topped up, not doubled")
			least := math.Inf(1)
			for _, id := range s.Cells {
				least = min(least, b.Cells[id-1].AreaMM2)
			}
			if open := drying.Cotton.Until(drying.Damp, 38, least, b.Card.Room); len(s.Cells) > 1 {
				assert.LessOrEqual(t, below.Dur+s.Dur, time.Duration(0.75*float64(open)))
			}
		}
	}
	assert.Greater(t, bases, 1)
	assert.Equal(t, bases, dropped)
}

// The maker says whether a second wet wash goes into the wet one or over it.
func TestOverDry(t *testing.T) {
	for _, over := range []bool{false, true} {
		p := compiled(t, func(c *card.Card, s *panel.Sheet) {
			second := wash(technique.WetOnWet, "PV19")
			second.OverDry = over
			paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(technique.Flat, "PB29"), second)
		})
		first, second := named(t, p, "Left: ultramarine"), named(t, p, "Left: rose")
		a, ok := arc(p, first, second)
		require.True(t, ok)
		if over {
			assert.Equal(t, order.Dry, a.Type)
			assert.Empty(t, second.IntoWet)
			assert.Contains(t, second.Detail, "Wet the paper")
		} else {
			assert.Equal(t, order.Wet, a.Type)
			assert.Equal(t, []int{first.ID}, second.IntoWet)
			assert.Contains(t, second.Detail, "while it still shines")
		}
		assert.Empty(t, p.Notes)
	}
}

// Lifting waits until the gloss is lost and ends before the wash is dry; a second wash
// waits for what lies below, whatever was lifted.
func TestWindowsOfWater(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		paneltest.Area(t, c, s, "Sky", [][2]int{{0, 0}}, wash(technique.WetOnWet, "PB29"), card.Wash{Technique: technique.Lift}, wash(technique.Splatter, "PW6"), wash(technique.PenLine, "PBk7"))
	})
	base, lift := named(t, p, "Sky: ultramarine"), named(t, p, "Sky: lift")
	drop, pen := named(t, p, "Sky: opaque white"), named(t, p, "Sky: lamp black")
	a, ok := arc(p, base, lift)
	require.True(t, ok)
	assert.Equal(t, order.Wet, a.Type)
	assert.Equal(t, order.Ceil(base.Gloss), a.Clock)
	assert.Positive(t, a.Clock)
	assert.Less(t, a.Max, int(base.Dry/time.Second))
	assert.Zero(t, lift.Water)
	assert.Equal(t, steps.Lift, lift.Kind)
	for from, want := range map[int]order.ArcType{base.ID: order.Dry, lift.ID: order.Dry} {
		a, ok := arc(p, p.Steps[from], drop)
		require.True(t, ok)
		assert.Equal(t, want, a.Type)
	}
	a, ok = arc(p, base, pen)
	require.True(t, ok)
	assert.Equal(t, order.Bone, a.Type, "a pen feathers on what is only touch-dry")
	assert.Equal(t, "waterproof pen", pen.Brush())
	assert.Zero(t, lift.Mix)
	assert.Equal(t, "paper towel", toolOf(t, technique.Blot))
	assert.Equal(t, shelf.Brushes()[0].Name, toolOf(t, technique.Highlight), "details take the smallest brush")
	require.Len(t, p.Mixes, 2, "no mix for water or pen")
	assert.Less(t, p.Mixes[1].MM2, p.Mixes[0].MM2/5)
}

func toolOf(t *testing.T, kind technique.Kind) string {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		top := card.Wash{Technique: kind}
		if kind.Tool() != technique.CleanWater {
			top = wash(kind, "PW6")
		}
		paneltest.Area(t, c, s, "Sky", [][2]int{{0, 0}}, wash(technique.Flat, "PB29"), top)
	})
	return p.Steps[4].Brush()
}

// What cannot be reached in time is planned the safe way, and the plan says which two
// things fight and what frees them.
func TestDropInsThatCannotBeReached(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		c.Room = drying.Room{Celsius: 35, Humidity: 0.1, Air: 2}
		paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(technique.DryBrush, "PB29"), wash(technique.WetOnWet, "PV19"), card.Wash{Technique: technique.Lift})
	})
	require.NotEmpty(t, p.Notes)
	n := p.Notes[0]
	assert.Equal(t, steps.About{Subject: steps.OneWash, Wash: 1}, n.About)
	assert.Contains(t, n.What, "rose, tea, wet-on-wet cannot go into the dry brush below")
	assert.Contains(t, n.Way, "over dry")
	assert.Len(t, n.Cells, 1)
	a, ok := arc(p, named(t, p, "Left: ultramarine"), named(t, p, "Left: rose"))
	require.True(t, ok)
	assert.Equal(t, order.Dry, a.Type)
}

// Joins tie the goes that touch, each way for as long as what is there stays open.
func TestJoins(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		c.Drying = card.Air
		a := paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(technique.WetOnWet, "PB29"), wash(technique.WetOnWet, "PV19"))
		b := paneltest.Area(t, c, s, "Right", [][2]int{{1, 0}}, wash(technique.Flat, "PY3"))
		c.SetJoin(a, b, true)
	})
	assert.Empty(t, p.Notes)
	assert.Equal(t, 1, arcs(p, order.Wet))
	require.Len(t, p.Instance.Joins, 2, "both of the left meet the right while wet")
	left, right := named(t, p, "Left: ultramarine"), named(t, p, "Right: lemon yellow")
	assert.Equal(t, order.Join{A: left.ID, B: right.ID, Max: order.Floor(left.Open), Back: order.Floor(right.Open)}, p.Instance.Joins[0])
	assert.Equal(t, []int{left.ID, named(t, p, "Left: rose").ID}, right.Joined)
}

// Joins work on wood pulp and of pulled colours; between rounds of an area they say
// that they do not.
func TestJoinsOnPulpPulledAndInRounds(t *testing.T) {
	for _, kind := range []technique.Kind{technique.Flat, technique.PullOut} {
		p := compiled(t, func(c *card.Card, s *panel.Sheet) {
			c.Paper = "pulp-cp"
			c.SetJoin(paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(kind, "PB29")), paneltest.Area(t, c, s, "Right", [][2]int{{1, 0}}, wash(kind, "PY3")), true)
		})
		assert.Empty(t, p.Notes, kind)
		assert.Len(t, p.Instance.Joins, 1, kind)
	}
	p := compiled4(t, func(c *card.Card, s *panel.Sheet) {
		a := paneltest.Area(t, c, s, "Petals", [][2]int{{0, 0}, {1, 0}, {0, 1}}, wash(technique.Flat, "PB29"))
		b := paneltest.Area(t, c, s, "Heart", [][2]int{{1, 1}}, wash(technique.Flat, "PY3"))
		c.SetJoin(a, b, true)
	})
	assert.Empty(t, p.Notes, "its heart touches only petals of one round")
	p = compiled(t, func(c *card.Card, s *panel.Sheet) {
		c.SetJoin(paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(technique.DryBrush, "PB29")), paneltest.Area(t, c, s, "Right", [][2]int{{1, 0}}, wash(technique.DryBrush, "PY3")), true)
		c.Room = drying.Room{Celsius: 40, Humidity: 0.05, Air: 3}
	})
	require.Len(t, p.Notes, 1)
	assert.Equal(t, steps.About{Subject: steps.TwoAreas, Other: 1}, p.Notes[0].About)
	assert.Contains(t, p.Notes[0].What, "Left and Right are to run into each other")
	assert.Empty(t, p.Instance.Joins)
	assert.Equal(t, [][2]int{{0, 1}}, p.Instance.Adjacent, "so they are kept apart")
}

// Areas that touch in several places are joined once, and touch once.
func TestTouchingInSeveralPlaces(t *testing.T) {
	columns := func(change func(*card.Card)) *steps.Plan {
		return compiled4(t, func(c *card.Card, s *panel.Sheet) {
			c.Drying = card.Air
			paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}, {0, 1}}, wash(technique.Flat, "PB29"))
			paneltest.Area(t, c, s, "Right", [][2]int{{1, 0}, {1, 1}}, wash(technique.Flat, "PY3"))
			c.Areas[0].Run, c.Areas[1].Run = true, true
			change(c)
		})
	}
	p := columns(func(*card.Card) {})
	assert.Equal(t, [][2]int{{0, 1}}, p.Instance.Adjacent)
	assert.Empty(t, p.Instance.Joins)
	p = columns(func(c *card.Card) { c.SetJoin("a1", "a2", true) })
	assert.Len(t, p.Instance.Joins, 1)
	assert.Equal(t, []int{4}, p.Steps[3].Joined)
	s, err := solver.Solve(context.Background(), p.Instance, solver.Budget{Iterations: 300, Seed: 1})
	require.NoError(t, err)
	reasons := p.Reasons(s)
	assert.Regexp(t, `^It runs into (Left|Right) while that is open\.$`, reasons[4].Now)
	p = columns(func(c *card.Card) { c.Ink = "embossed" })
	assert.Empty(t, p.Instance.Adjacent)
	assert.Equal(t, [][2]int{{0, 1}}, p.Instance.Raised, "once, though they touch twice")
}

// What is said of a join that cannot be, of whom, and of nobody else.
func TestWhatIsSaidOfAJoin(t *testing.T) {
	p := compiled4(t, func(c *card.Card, s *panel.Sheet) {
		c.Room = drying.Room{Celsius: 40, Humidity: 0.05, Air: 3}
		a := paneltest.Area(t, c, s, "A", [][2]int{{0, 0}}, wash(technique.DryBrush, "PB29"))
		b := paneltest.Area(t, c, s, "B", [][2]int{{1, 0}}, wash(technique.DryBrush, "PY3"))
		paneltest.Area(t, c, s, "C", [][2]int{{0, 1}}, wash(technique.Flat, "PY3"))
		c.SetJoin(a, b, true)
	})
	require.Len(t, p.Notes, 1)
	assert.Contains(t, p.Notes[0].Why, "A stays open for too short: it loses its sheen")
	assert.Equal(t, p.Apart(0, 1), p.Apart(1, 0))
	assert.Contains(t, p.Apart(0, 1), "keep the two apart")
	assert.Empty(t, p.Apart(0, 2))
	assert.Empty(t, p.Apart(2, 1))
}
