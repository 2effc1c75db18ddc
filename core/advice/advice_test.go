package advice_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/nest"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
)

func wash(t card.Technique, s pigment.Strength, ci string) card.Wash {
	return card.Wash{Technique: t, Strength: s, Mix: []card.Part{{CI: ci, Parts: 1}}}
}

// painted is a good card: two areas that read apart and do not make mud.
func painted(t *testing.T) (*card.Card, *panel.Sheet) {
	c, s := paneltest.Card(t, 2, 1)
	paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash(card.Flat, pigment.Milk, "PB29"))
	paneltest.Area(t, c, s, "Right", [][2]int{{1, 0}}, wash(card.Flat, pigment.WeakTea, "PB15:3"))
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

// ruleCases change the good card so that a rule speaks.
var ruleCases = []struct {
	rule     string
	severity advice.Severity
	station  advice.Station
	change   func(*card.Card)
}{
	{"no-envelope", advice.Stop, advice.Format, func(c *card.Card) {
		_ = c.Give("front", length.Size{W: 300 * length.Millimetre, H: 300 * length.Millimetre})
	}},
	{"wrong-envelope", advice.Stop, advice.Format, func(c *card.Card) {
		c.Envelope = &card.Envelope{ID: card.Free, Inside: length.Size{W: 5 * length.Inch, H: 5 * length.Inch}}
	}},
	{"window-off", advice.Stop, advice.Format, func(c *card.Card) {
		c.Window = &card.Window{Scan: card.Scan{Image: strings.Repeat("0", 64), Title: "Sheet", WidthPX: 100, HeightPX: 100, Width: 9 * length.Inch}, X: length.Inch, Y: 3 * length.Inch}
	}},
	{"frame-holds-nothing", advice.Mind, advice.Format, func(c *card.Card) {
		c.Layers[0].Kind = card.Frame
		c.Panel.Margin = nest.Even(0)
	}},
	{"tape-too-narrow", advice.Mind, advice.Format, func(c *card.Card) { c.Painting.Border = length.Inch }},
	{"no-room-for-words", advice.Mind, advice.Format, func(c *card.Card) {
		c.Words = length.Size{W: 80 * length.Millimetre, H: 80 * length.Millimetre}
	}},
	{"die-differs", advice.Note, advice.Format, func(c *card.Card) { c.Layers[0].Die = dies(50, 100) }},
	{"die-differs", advice.Mind, advice.Format, func(c *card.Card) { c.Layers[0].Die = dies(110, 140) }},
	{"overhangs", advice.Note, advice.Format, func(c *card.Card) { c.Panel.Margin = nest.Even(-length.Millimetre) }},
	{"post", advice.Note, advice.Format, func(c *card.Card) { c.Extra = 6 * length.Millimetre }},
	{"ink-runs", advice.Stop, advice.Line, func(c *card.Card) { c.Ink = "dye" }},
	{"line-stays", advice.Mind, advice.Line, func(c *card.Card) { c.Look = shelf.Pulled }},
	{"solid-mottles", advice.Note, advice.Line, func(c *card.Card) { c.Look = shelf.Solid }},
	{"paper-reworked", advice.Mind, advice.Line, func(c *card.Card) {
		c.Paper = "pulp-cp"
		c.Areas[0].Washes = append(c.Areas[0].Washes, wash(card.Glaze, pigment.Tea, "PB29"), wash(card.Glaze, pigment.Tea, "PB29"))
	}},
	{"paper-too-weak", advice.Mind, advice.Line, func(c *card.Card) { c.Paper = "card" }},
	{"line-overhangs", advice.Note, advice.Line, func(c *card.Card) { c.Line().Y -= c.Line().Y + length.Millimetre }},
	{"lost-cells", advice.Mind, advice.Line, func(c *card.Card) {
		c.Areas[0].Cells = append(c.Areas[0].Cells, card.Spot{On: "i1", UV: card.UV{U: 5, V: 5}, MM2: 400})
	}},
	{"mud-joined", advice.Stop, advice.Colour, func(c *card.Card) {
		c.Areas[0].Washes[0], c.Areas[1].Washes[0] = wash(card.Flat, pigment.Tea, "PO62"), wash(card.Flat, pigment.Milk, "PB29")
		c.SetJoin("a1", "a2", true)
	}},
	{"mud-if-met", advice.Note, advice.Colour, func(c *card.Card) {
		c.Areas[0].Washes[0], c.Areas[1].Washes[0] = wash(card.Flat, pigment.Tea, "PO62"), wash(card.Flat, pigment.Milk, "PB29")
	}},
	{"melts-together", advice.Mind, advice.Colour, func(c *card.Card) {
		c.Areas[0].Washes[0] = wash(card.PullOut, pigment.WeakTea, "PB15:3")
	}},
	{"nearly-alike", advice.Note, advice.Colour, func(c *card.Card) {
		c.Areas[1].Washes = []card.Wash{wash(card.Flat, pigment.Milk, "PB29")}
		c.Areas[1].Washes[0].Mix = append(c.Areas[1].Washes[0].Mix[:1:1], card.Part{CI: "PV23", Parts: 1})
		c.Areas[1].Washes[0].Mix[0].Parts = 20
	}},
	{"muddy-stack", advice.Mind, advice.Colour, func(c *card.Card) {
		for _, ci := range []string{"PV19", "PY3", "PG7", "PBr7"} {
			c.Areas[0].Washes = append(c.Areas[0].Washes, wash(card.Glaze, pigment.WeakTea, ci))
		}
	}},
	{"forgotten-cells", advice.Note, advice.Colour, func(c *card.Card) { c.Areas[0].Cells = nil }},
}

// Rules that have a test of their own, since one change of the card is not enough.
var ruleTests = []string{"line-breaks", "powder-fills", "image-off", "folder-small", "relief-flattened", "focal-weak", "stencil-wet", "splatter-harmful", "trace-unseen", "leak", "water-into-damp"}

// A row of the table of rules has all that the program asks of it, and is tested.
func TestEveryRuleIsWhole(t *testing.T) {
	seen := map[string]bool{}
	for _, r := range advice.Rules() {
		assert.False(t, seen[r.ID], "%s stands twice", r.ID)
		seen[r.ID] = true
		assert.Contains(t, []advice.Station{advice.Format, advice.Line, advice.Colour, advice.Order}, r.Station, r.ID)
		assert.True(t, strings.HasSuffix(r.Says, ".") && strings.HasSuffix(r.Reason, "."), "%s: what does it look out for, and why?", r.ID)
		assert.NoError(t, advice.Check(r.ID))
		tested := slices.Contains(ruleTests, r.ID)
		for _, tc := range ruleCases {
			tested = tested || tc.rule == r.ID
		}
		assert.True(t, tested, "no test makes %s speak; add a row to ruleCases", r.ID)
	}
	assert.Error(t, advice.Check("rain"))
}

// Each rule speaks when it should, with a reason, and the fix it offers settles it.
func TestRules(t *testing.T) {
	for _, tc := range ruleCases {
		t.Run(tc.rule, func(t *testing.T) {
			c, s := painted(t)
			tc.change(c)
			var found *advice.Watch
			for _, w := range watches(c, s) {
				if w.Rule == tc.rule {
					found = &w
				}
			}
			require.NotNil(t, found, "got %v", rules(watches(c, s)))
			assert.Equal(t, tc.severity, found.Severity)
			assert.Equal(t, tc.station, found.Station)
			assert.NotEmpty(t, found.What)
			assert.NotEmpty(t, found.Why)
			if found.Fix != nil {
				assert.NotEmpty(t, found.Fix.Label)
				assert.NotEmpty(t, change.NameOf(found.Fix.Change), "it is a change that a form can ask for")
				before, err := c.Encode()
				require.NoError(t, err)
				fixed, done, err := change.Try(found.Fix.Change, c, s)
				require.NoError(t, err)
				assert.NotEmpty(t, done.Says)
				after, err := c.Encode()
				require.NoError(t, err)
				assert.Equal(t, string(before), string(after), "it was tried on a copy")
				assert.Less(t, count(found.Rule, watches(fixed, s)), count(found.Rule, watches(c, s)), "the change settles it")
			}
		})
	}
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
	c.Areas[0].Washes[0], c.Areas[1].Washes[0] = wash(card.Flat, pigment.Tea, "PO62"), wash(card.Flat, pigment.Milk, "PB29")
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
	c.Areas[0].Cells = nil
	c.Paper = "card"
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
	relief := func(r card.Relief, t card.Technique) func(*card.Card, *panel.Sheet) {
		return func(c *card.Card, _ *panel.Sheet) {
			c.Line().Kind, c.Relief = shelf.ReliefImage, r
			for i := range c.Areas {
				c.Areas[i].Washes[0].Technique = t
			}
		}
	}
	assert.Equal(t, advice.Mind, find("relief-flattened", relief(card.Unpainted, card.Flat)).Severity)
	assert.Nil(t, find("relief-flattened", relief(card.Unpainted, card.DryBrush)))
	assert.Nil(t, find("relief-flattened", relief(card.Painted, card.Flat)))
	assert.Contains(t, find("folder-small", relief("", card.Flat)).What, "smaller than the panel")
	assert.Nil(t, find("folder-small", func(c *card.Card, _ *panel.Sheet) {
		c.Line().Kind, c.Line().Width = shelf.ReliefImage, 300*length.Millimetre
	}))
	assert.Nil(t, find("ink-runs", func(c *card.Card, s *panel.Sheet) {
		relief("", card.Flat)(c, s)
		c.Ink = "dye"
	}), "a folder has no ink to run")

	trace := func(technique card.Technique, ci string, s pigment.Strength) func(*card.Card, *panel.Sheet) {
		return func(c *card.Card, _ *panel.Sheet) {
			a := &c.Areas[0]
			a.Washes = append(a.Washes[:1], wash(card.Glaze, s, ci))
			require.NoError(t, a.LayAs(1, technique))
			if w := &a.Washes[1]; len(w.Mix) > 0 {
				w.Mix, w.Strength = []card.Part{{CI: ci, Parts: 1}}, s
			}
		}
	}
	harmful := find("splatter-harmful", trace(card.Splatter, "PR108", pigment.Milk))
	assert.Equal(t, advice.Stop, harmful.Severity)
	assert.Equal(t, change.LayAs{Area: "a1", Wash: 1, Technique: card.DryBrush}, harmful.Fix.Change)
	assert.Nil(t, find("splatter-harmful", trace(card.Splatter, "PW6", pigment.Milk)), "white only harms as dust")
	assert.Nil(t, find("splatter-harmful", trace(card.Glaze, "PR108", pigment.Milk)))
	assert.Nil(t, find("trace-unseen", trace(card.PenLine, "PBk7", pigment.Milk)))
	for _, c := range []struct {
		technique card.Technique
		ci        string
		instead   card.Technique
	}{{card.Highlight, "PW6", card.PenLine}, {card.Splatter, "PW6", card.Highlight}, {card.Lift, "", card.Highlight}} {
		faint := find("trace-unseen", func(doc *card.Card, s *panel.Sheet) {
			doc.Areas[0].Washes[0] = wash(card.Flat, pigment.WeakTea, map[bool]string{true: "PG7", false: "PY3"}[c.technique == card.Lift])
			trace(c.technique, c.ci, pigment.WeakTea)(doc, s)
		})
		require.NotNil(t, faint, c.technique)
		assert.Equal(t, change.LayAs{Area: "a1", Wash: 1, Technique: c.instead}, faint.Fix.Change)
	}

	stencil := func(t card.Technique) func(*card.Card, *panel.Sheet) {
		return func(c *card.Card, s *panel.Sheet) {
			relief("", t)(c, s)
			c.Line().Kind = shelf.Stencil
		}
	}
	w := find("stencil-wet", stencil(card.Flat))
	assert.NotEmpty(t, w.Cells)
	assert.Equal(t, change.LayAs{Area: "a1", Technique: card.DryBrush}, w.Fix.Change)
	assert.Nil(t, find("stencil-wet", stencil(card.DryBrush)))
	assert.Nil(t, find("stencil-wet", func(*card.Card, *panel.Sheet) {}))

	assert.Contains(t, find("solid-mottles", func(c *card.Card, _ *panel.Sheet) { c.Line().Kind = shelf.SolidImage }).Why, "10 %")
	off := find("image-off", func(_ *card.Card, s *panel.Sheet) { s.Laid[0].Off = true })
	assert.Contains(t, off.What, "wholly off the panel")
	assert.Equal(t, change.Centre{Picked: "i1"}, off.Fix.Change)
	assert.Contains(t, find("line-overhangs", func(c *card.Card, s *panel.Sheet) {
		require.NoError(t, c.Repeat("i1", 2, 30*length.Millimetre, 0, 0))
		s.Laid = make([]panel.Laid, 3)
	}).What, "2 images overhang")
}

// What no words may stand on is what the card is about, and should stand out most.
func TestTheFocalAreaShouldStandOut(t *testing.T) {
	c, s := paneltest.Card(t, 4, 1)
	paneltest.Area(t, c, s, "Dark", [][2]int{{0, 0}}, wash(card.Flat, pigment.Cream, "PB29"))
	paneltest.Area(t, c, s, "Pale", [][2]int{{1, 0}}, wash(card.Flat, pigment.WeakTea, "PY3"))
	paneltest.Area(t, c, s, "Rose", [][2]int{{2, 0}}, wash(card.Flat, pigment.Tea, "PV19"))
	speaks := func() bool { return slices.Contains(rules(watches(c, s)), "focal-weak") }
	assert.False(t, speaks(), "nothing is meant to lead")
	c.Areas[2].Focal = true
	assert.True(t, speaks())
	c.Areas[2].Focal, c.Areas[0].Focal = false, true
	assert.False(t, speaks())
}
