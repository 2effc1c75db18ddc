package advice_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

func wash(t technique.Kind, s pigment.Strength, ci string) card.Wash {
	return card.Wash{Technique: t, Strength: s, Mix: []card.Part{{CI: ci, Parts: 1}}}
}

// painted is a good card: two areas that read apart and do not make mud.
func painted(t *testing.T) (*card.Card, *panel.Sheet) {
	c, s := paneltest.Card(t, 2, 1)
	paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(technique.Flat, pigment.Milk, "PB29"))
	paneltest.Area(t, c, s, "Right", [][2]int{{1, 0}}, wash(technique.Flat, pigment.WeakTea, "PB15:3"))
	return c, s
}

func rules(ws []advice.Watch) (out []string) {
	for _, w := range ws {
		out = append(out, w.Rule)
	}
	return out
}

func count(rule string, ws []advice.Watch) (n int) {
	for _, w := range ws {
		if w.Rule == rule {
			n++
		}
	}
	return n
}

func watches(c *card.Card, s *panel.Sheet) []advice.Watch {
	return advice.Watches(advice.Gather(c, panel.Resolve(c, s), nil, nil))
}

func dies(w, h length.Length) *card.DieSet {
	return &card.DieSet{Name: "deckled", Edge: card.Deckle, Sizes: []length.Size{{W: w * length.Millimetre, H: h * length.Millimetre}}}
}

func TestAGoodCardHasNothingToWatch(t *testing.T) {
	assert.Empty(t, rules(watches(painted(t))))
}

func TestLeakBetweenColours(t *testing.T) {
	c, s := painted(t)
	a, b := paneltest.CellAt(t, c, s, 0, 0), paneltest.CellAt(t, c, s, 1, 0)
	leaky := *s
	drawing := *s.Drawing
	leaky.Drawing = &drawing
	drawing.Leaks = append(drawing.Leaks, lineart.Leak{X: 10, Y: 10, WidthMM: 0.6, Stubs: 2, A: a, B: b})
	assert.Equal(t, []string{"leak"}, rules(watches(c, &leaky)))
	drawing.Leaks[0].WidthMM = 0.1
	assert.Empty(t, rules(watches(c, &leaky)), "a hair closes with ink")
	drawing.Leaks[0].WidthMM = 0.6
	c.Areas[1].Washes = nil
	assert.NotContains(t, rules(watches(c, &leaky)), "leak", "nothing runs into bare paper's colour")
}

func TestMudIsOnlyToldOnce(t *testing.T) {
	c, s := painted(t)
	c.Areas[0].Washes[0], c.Areas[1].Washes[0] = wash(technique.Flat, pigment.Tea, "PO62"), wash(technique.Flat, pigment.Milk, "PB29")
	c.SetJoin("a1", "a2", true)
	assert.NotContains(t, rules(watches(c, s)), "mud-if-met")
}

func TestAreasPaintedAlikeMayMelt(t *testing.T) {
	c, s := painted(t)
	c.Areas[0].Washes = c.Areas[1].Washes
	assert.NotContains(t, rules(watches(c, s)), "melts-together")
}

func TestWorstFirst(t *testing.T) {
	c, s := painted(t)
	c.Ink = "dye"
	c.Paper = "card"
	c.Extra = length.Inch / 4
	rank := map[advice.Severity]int{advice.Stop: 0, advice.Mind: 1, advice.Note: 2}
	last := 0
	for _, w := range watches(c, s) {
		assert.GreaterOrEqual(t, rank[w.Severity], last)
		last = rank[w.Severity]
	}
	assert.Equal(t, 2, last)
}

// Before the line has been read, rules about the board keep still.
func TestWithoutABoard(t *testing.T) {
	c, _ := painted(t)
	c.Ink = "dye"
	assert.Equal(t, []string{"ink-runs"}, rules(advice.Watches(advice.Gather(c, nil, nil, nil))))
}

// The maker's own test outranks what is generally known; one of the practice
// scanner says nothing.
func TestOwnTestsOutrank(t *testing.T) {
	c, _ := painted(t)
	of := func(v proof.Verdict, change func(*proof.Record)) []advice.Watch {
		r := proof.Record{Of: proof.Of{Ink: c.Ink, Paper: c.Paper}, WaterTest: proof.WaterTest{Verdict: v, BleedMM: 1.2}}
		if change != nil {
			change(&r)
		}
		return advice.Watches(advice.Gather(c, nil, nil, []proof.Record{r}))
	}
	found := of(proof.Runs, nil)
	require.Len(t, found, 1)
	assert.Equal(t, advice.Stop, found[0].Severity)
	assert.Contains(t, found[0].Why, "Your test")
	assert.Equal(t, advice.Mind, of(proof.Soft, nil)[0].Severity)
	assert.Empty(t, of(proof.Runs, func(r *proof.Record) { r.Practice = true }))
	assert.Empty(t, of(proof.Runs, func(r *proof.Record) { r.Paper = "kraft" }))
	c.Ink = "dye"
	assert.Empty(t, of(proof.Holds, nil), "this one holds, whatever is said of its kind")
	assert.NotEmpty(t, of(proof.Holds, func(r *proof.Record) { r.Ink = "pen" }))
}

// Fine lines break on rough paper, and fill up with powder.
func TestFineLines(t *testing.T) {
	c, s := painted(t)
	thin := *s
	drawing := *s.Drawing
	thin.Drawing = &drawing
	drawing.Neighbours = slices.Clone(s.Neighbours)
	drawing.Neighbours[0].LineMed = 0.2
	c.Paper = "cotton-rough"
	assert.Contains(t, rules(watches(c, &thin)), "line-breaks")
	assert.NotContains(t, rules(watches(c, s)), "line-breaks")
	c.Ink = "pen"
	assert.NotContains(t, rules(watches(c, &thin)), "line-breaks", "a pen goes over the bumps")
	c.Ink = "embossed"
	found := watches(c, &thin)
	assert.Contains(t, rules(found), "powder-fills")
	for _, w := range found {
		if w.Rule == "powder-fills" {
			assert.Equal(t, []int{s.Neighbours[0].A, s.Neighbours[0].B}, w.Cells)
		}
	}
}

// A silenced rule keeps still on its card.
func TestRulesCanBeSilenced(t *testing.T) {
	c, s := painted(t)
	c.Ink = "dye"
	assert.Contains(t, rules(watches(c, s)), "ink-runs")
	c.Silence("ink-runs", true)
	assert.NotContains(t, rules(watches(c, s)), "ink-runs")
	assert.NoError(t, c.Check())
	assert.NotEmpty(t, advice.All(advice.Gather(c, nil, nil, nil)), "it is still known")
	c.Silence("ink-runs", false)
	assert.Contains(t, rules(watches(c, s)), "ink-runs")
	c.Silenced = []string{"x", "x"}
	assert.Error(t, c.Check())
}

// Folders, stencils and solids go wrong in ways of their own.
func TestOtherKindsOfImages(t *testing.T) {
	find := func(rule string, change func(*card.Card, *panel.Sheet)) *advice.Watch {
		c, shared := painted(t)
		s := *shared
		s.Laid = slices.Clone(s.Laid)
		change(c, &s)
		for _, w := range advice.Watches(advice.Gather(c, panel.Resolve(c, &s), nil, nil)) {
			if w.Rule == rule {
				return &w
			}
		}
		return nil
	}
	relief := func(r card.Relief, t technique.Kind) func(*card.Card, *panel.Sheet) {
		return func(c *card.Card, _ *panel.Sheet) {
			c.Line().Kind, c.Relief = shelf.ReliefImage, r
			for i := range c.Areas {
				c.Areas[i].Washes[0].Technique = t
			}
		}
	}
	assert.Equal(t, advice.Mind, find("relief-flattened", relief(card.Unpainted, technique.Flat)).Severity)
	assert.Nil(t, find("relief-flattened", relief(card.Unpainted, technique.DryBrush)))
	assert.Nil(t, find("relief-flattened", relief(card.Painted, technique.Flat)))
	assert.Contains(t, find("folder-small", relief("", technique.Flat)).What, "smaller than the paper")
	assert.Nil(t, find("folder-small", func(c *card.Card, _ *panel.Sheet) {
		c.Line().Kind, c.Line().Width = shelf.ReliefImage, 300*length.Millimetre
	}))
	assert.Nil(t, find("ink-runs", func(c *card.Card, s *panel.Sheet) {
		relief("", technique.Flat)(c, s)
		c.Ink = "dye"
	}), "a folder has no ink to run")

	trace := func(kind technique.Kind, ci string, s pigment.Strength) func(*card.Card, *panel.Sheet) {
		return func(c *card.Card, _ *panel.Sheet) {
			a := &c.Areas[0]
			a.Washes = append(a.Washes[:1], wash(technique.Glaze, s, ci))
			require.NoError(t, a.LayAs(1, kind))
			if w := &a.Washes[1]; len(w.Mix) > 0 {
				w.Mix, w.Strength = []card.Part{{CI: ci, Parts: 1}}, s
			}
		}
	}
	harmful := find("splatter-harmful", trace(technique.Splatter, "PR108", pigment.Milk))
	assert.Equal(t, advice.Stop, harmful.Severity)
	assert.Equal(t, change.LayAs{Area: "a1", Wash: 1, Technique: technique.DryBrush}, harmful.Fix.Change)
	assert.Nil(t, find("splatter-harmful", trace(technique.Splatter, "PW6", pigment.Milk)), "white only harms as dust")
	assert.Nil(t, find("splatter-harmful", trace(technique.Glaze, "PR108", pigment.Milk)))
	assert.Nil(t, find("trace-unseen", trace(technique.PenLine, "PBk7", pigment.Milk)))
	for _, c := range []struct {
		technique technique.Kind
		ci        string
		instead   technique.Kind
	}{{technique.Highlight, "PW6", technique.PenLine}, {technique.Splatter, "PW6", technique.Highlight}, {technique.Lift, "", technique.Highlight}} {
		faint := find("trace-unseen", func(doc *card.Card, s *panel.Sheet) {
			doc.Areas[0].Washes[0] = wash(technique.Flat, pigment.WeakTea, map[bool]string{true: "PG7", false: "PY3"}[c.technique == technique.Lift])
			trace(c.technique, c.ci, pigment.WeakTea)(doc, s)
		})
		require.NotNil(t, faint, c.technique)
		if assert.NotNil(t, faint.Fix, c.technique) {
			assert.Equal(t, change.LayAs{Area: "a1", Wash: 1, Technique: c.instead}, faint.Fix.Change)
		}
	}

	stencil := func(t technique.Kind) func(*card.Card, *panel.Sheet) {
		return func(c *card.Card, s *panel.Sheet) {
			relief("", t)(c, s)
			c.Line().Kind = shelf.Stencil
		}
	}
	assert.NotEmpty(t, find("stencil-wet", stencil(technique.Flat)).Cells)
	assert.Nil(t, find("stencil-wet", stencil(technique.DryBrush)))
	assert.Nil(t, find("stencil-wet", func(*card.Card, *panel.Sheet) {}))

	assert.Contains(t, find("solid-mottles", func(c *card.Card, _ *panel.Sheet) { c.Line().Kind = shelf.SolidImage }).Why, "10 %")
	off := find("image-off", func(_ *card.Card, s *panel.Sheet) { s.Laid[0].Off = true })
	assert.Contains(t, off.What, "wholly off the paper")
	assert.Equal(t, change.Centre{Picked: "i1"}, off.Fix.Change)
	assert.Contains(t, find("line-overhangs", func(c *card.Card, s *panel.Sheet) {
		require.NoError(t, c.Repeat("i1", 2, 30*length.Millimetre, 0, 0))
		s.Laid = []panel.Laid{{OverMM: 0}, {OverMM: 2}, {OverMM: 30}}
	}).What, "2 images overhang")
}

// What no words may stand on is what the card is about, and should stand out most.
func TestTheFocalAreaShouldStandOut(t *testing.T) {
	c, s := paneltest.Card(t, 4, 1)
	paneltest.Area(t, c, s, "Dark", [][2]int{{0, 0}}, wash(technique.Flat, pigment.Cream, "PB29"))
	paneltest.Area(t, c, s, "Pale", [][2]int{{1, 0}}, wash(technique.Flat, pigment.WeakTea, "PY3"))
	paneltest.Area(t, c, s, "Rose", [][2]int{{2, 0}}, wash(technique.Flat, pigment.Tea, "PV19"))
	speaks := func() bool { return slices.Contains(rules(watches(c, s)), "focal-weak") }
	assert.False(t, speaks(), "nothing is meant to lead")
	c.Areas[2].Focal = true
	assert.True(t, speaks())
	c.Areas[2].Focal, c.Areas[0].Focal = false, true
	assert.False(t, speaks())
}
