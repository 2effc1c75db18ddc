package advice_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/mount"
	"chromaqua/core/nest"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
)

// said is what a rule says of the good card once it is changed, "" for nothing.
func said(t *testing.T, rule string, change func(*card.Card, *panel.Sheet)) (what, why string) {
	c, shared := painted(t)
	s := *shared
	drawing := *s.Drawing
	s.Drawing, s.Laid = &drawing, slices.Clone(s.Laid)
	drawing.Neighbours = slices.Clone(drawing.Neighbours)
	change(c, &s)
	for _, w := range watches(c, &s) {
		if w.Rule == rule {
			return w.What, w.Why
		}
	}
	return "", ""
}

// Where each rule begins to speak, and what figures it names.
func TestWhereRulesBegin(t *testing.T) {
	thick := func(l length.Length) func(*card.Card, *panel.Sheet) {
		return func(c *card.Card, _ *panel.Sheet) { c.Extra = l - mount.Body(c).Thickness() }
	}
	over := func(mm float64, off bool) func(*card.Card, *panel.Sheet) {
		return func(_ *card.Card, s *panel.Sheet) { s.Laid[0].OverMM, s.Laid[0].Off = mm, off }
	}
	tape := func(spare, tape length.Length) func(*card.Card, *panel.Sheet) {
		return func(c *card.Card, _ *panel.Sheet) {
			c.Painting = card.Painting{Border: 5 * mm, Spare: spare, Tape: tape}
		}
	}
	washes := func(paper string, all ...card.Wash) func(*card.Card, *panel.Sheet) {
		return func(c *card.Card, _ *panel.Sheet) {
			c.Paper = paper
			c.Areas[0].Washes, c.Areas[1].Washes = all, all[:1]
		}
	}
	line := func(paper, ink string, thin float64) func(*card.Card, *panel.Sheet) {
		return func(c *card.Card, s *panel.Sheet) {
			c.Paper, c.Ink = paper, ink
			for i := range s.Neighbours {
				s.Neighbours[i].LineMed = 1
			}
			s.Neighbours[0].LineMed = thin
		}
	}
	leak := func(wide float64, stubs int, to int) func(*card.Card, *panel.Sheet) {
		return func(c *card.Card, s *panel.Sheet) {
			a, b := paneltest.CellAt(t, c, s, 0, 0), paneltest.CellAt(t, c, s, to, 0)
			s.Leaks = []lineart.Leak{{WidthMM: wide, Stubs: stubs, A: a, B: b}}
		}
	}
	pigments := func(all ...string) func(*card.Card, *panel.Sheet) {
		return func(c *card.Card, _ *panel.Sheet) {
			for _, ci := range all {
				c.Areas[0].Washes = append(c.Areas[0].Washes, wash(technique.Glaze, pigment.WeakTea, ci))
			}
		}
	}
	flat := func(s pigment.Strength) card.Wash { return wash(technique.Flat, s, "PB29") }
	for _, tc := range []struct {
		rule      string
		change    func(*card.Card, *panel.Sheet)
		what, why string // "" for silence
	}{
		{"post", thick(3 * mm), "", ""},
		{"post", thick(length.Inch / 4), "A thick card", "about 6.5 mm thick"},
		{"post", func(c *card.Card, _ *panel.Sheet) {
			require.NoError(t, c.Give(card.FrontRing, length.Size{W: 120 * mm, H: 120 * mm}))
		}, "A square card", ""},
		{"tape-too-narrow", tape(2*mm, 7*mm+length.Inch/4), "", ""},
		{"tape-too-narrow", tape(2*mm, 7*mm+length.Inch/4-1), "cannot mask a border of 5 mm", ""},
		{"tape-too-narrow", tape(3*mm, 7*mm+length.Inch/4), "cannot mask a border of 5 mm", ""},
		{"tape-too-narrow", func(c *card.Card, _ *panel.Sheet) { c.Painting = card.Painting{Tape: 2 * mm} }, "", ""},
		{"paper-reworked", washes("pulp-cp", flat(pigment.Tea), flat(pigment.Tea)), "", ""},
		{"paper-reworked", washes("pulp-cp", flat(pigment.Tea), flat(pigment.Tea), flat(pigment.Tea)), "Left is wetted 3 times", "pills"},
		{"paper-reworked", washes("cotton-cp", flat(pigment.Tea), flat(pigment.Tea), flat(pigment.Tea)), "", ""},
		{"paper-too-weak", washes("card", wash(technique.PullOut, pigment.Tea, "PB29")), "", ""},
		{"paper-too-weak", washes("card", wash(technique.Glaze, pigment.Tea, "PB29")), "A full wash on", ""},
		{"line-breaks", line("cotton-rough", "pigment-quick", 0.4), "", ""},
		{"line-breaks", line("cotton-rough", "pigment-quick", 0.39), "Lines under 0.4 mm are stamped", ""},
		{"line-breaks", line("cotton-cp", "pigment-quick", 0.2), "", ""},
		{"powder-fills", line("cotton-cp", "embossed", 0.25), "", ""},
		{"powder-fills", line("cotton-cp", "embossed", 0.24), "Lines under 0.25 mm are embossed.", ""},
		{"leak", leak(0.6, 1, 1), "A gap of 0.6 mm in the line between Left and Right.", ""},
		{"leak", leak(0.59, 1, 1), "", ""},
		{"leak", leak(0.6, 0, 1), "", ""},
		{"leak", leak(0.6, 2, 0), "", ""},
		{"muddy-stack", pigments("PV19", "PY3", "PG7"), "", ""},
		{"muddy-stack", pigments("PV19", "PY3", "PG7", "PBr7"), "painted with 5 pigments", ""},
		{"muddy-stack", pigments("PV19", "PV19", "PV19", "PV19", "PV19"), "", ""},
		{"die-differs", func(c *card.Card, _ *panel.Sheet) {
			c.Layers[0].Size = length.Size{W: 97 * mm, H: 121 * mm}
			c.Layers[0].Die = &card.DieSet{Name: "d", Edge: card.Plain, Sizes: []length.Size{{W: 96 * mm, H: 120 * mm}}}
		}, "cuts the mat 96 × 120 mm", "Round it then shows 6 mm left, 6 mm right, 10 mm above and 10 mm below."},
		{"die-differs", func(c *card.Card, _ *panel.Sheet) {
			c.Layers[0].Margin = nest.Even(3 * mm)
			c.Layers[0].Die = &card.DieSet{Name: "d", Edge: card.Plain, Sizes: []length.Size{{W: 107950000 - 8*mm, H: 139700000 - 8*mm}}}
		}, "The nearest die", "Round it then shows 4 mm all round."},
		{"overhangs", func(c *card.Card, _ *panel.Sheet) { c.Panel.Margin = nest.Even(0) }, "", ""},
		{"overhangs", func(c *card.Card, _ *panel.Sheet) { c.Panel.Margin = nest.Even(-2 * mm) }, "The panel overhangs the mat by up to 2 mm.", "trim it flush"},
		{"frame-holds-nothing", func(c *card.Card, _ *panel.Sheet) { c.Layers[0].Kind = card.Frame }, "", ""},
		{"solid-mottles", func(c *card.Card, _ *panel.Sheet) { c.Look, c.Paper = shelf.Solid, "cotton-rough" }, "comes out mottled", "28 % of the mass white at the first impression, 7 % after three"},
		{"solid-mottles", func(c *card.Card, _ *panel.Sheet) { c.Look, c.Paper = shelf.Solid, "cotton-hp" }, "", ""},
		{"line-overhangs", over(3, false), "Grid overhangs the paper by 3 mm.", ""},
		{"line-overhangs", over(0, false), "", ""},
		{"line-overhangs", over(300, true), "", ""},
		{"forgotten-cells", func(c *card.Card, _ *panel.Sheet) { c.Areas = nil }, "", ""},
		{"forgotten-cells", func(c *card.Card, _ *panel.Sheet) { c.Areas[0].Cells, c.Areas[1].Cells = nil, nil }, "", ""},
		{"lost-cells", func(c *card.Card, _ *panel.Sheet) {
			for range 2 {
				c.Areas[0].Cells = append(c.Areas[0].Cells, card.Spot{On: "i1", UV: card.UV{U: 5, V: 5}, MM2: 400})
			}
		}, "2 cells of Left could not be found again.", ""},
		{"wrong-envelope", func(c *card.Card, _ *panel.Sheet) {
			c.Envelope = &card.Envelope{ID: "env-a2", Inside: length.Size{W: 92 * length.Sixteenth, H: 70 * length.Sixteenth}}
		}, "", ""},
	} {
		what, why := said(t, tc.rule, tc.change)
		if tc.what == "" {
			assert.Empty(t, what, tc.rule)
			continue
		}
		assert.Contains(t, what, tc.what, tc.rule)
		assert.Contains(t, why, tc.why, tc.rule)
	}
}

// Rules that need no cells speak before they are known, the others keep still.
func TestBeforeTheCellsAreKnown(t *testing.T) {
	var got []string
	for _, tc := range allCases() {
		b := good(t)
		tc.needs(b)
		if slices.Contains(rules(advice.Watches(advice.Gather(b.Card, nil, nil, nil))), tc.rule) {
			got = append(got, tc.rule)
		}
	}
	assert.Equal(t, []string{
		"no-envelope", "wrong-envelope", "thick-for-envelope", "window-off", "frame-holds-nothing", "tape-too-narrow", "die-differs", "overhangs", "post",
		"ink-will-run", "ink-runs", "ink-never-cures", "line-stays", "solid-mottles", "paper-too-weak", "paper-reworked", "folder-small", "relief-flattened",
		"edge-white", "thin-paper-bleeds", "words-overhang", "held-too-weakly",
		"lets-go", "held-ill", "slot-open", "over-bars", "off-card", "mouth-shut", "same-place",
	}, got)
}

// Wet is what lays more water than a damp brush, and what is not painted yet.
func TestWets(t *testing.T) {
	b := good(t)
	assert.True(t, advice.Wets(b.Card))
	b.as(technique.DryBrush)
	assert.False(t, advice.Wets(b.Card))
	b.wash(1, 0).Technique = technique.PullOut
	assert.True(t, advice.Wets(b.Card), "it is laid as a wash before it is drawn out")
	b.Areas = nil
	assert.True(t, advice.Wets(b.Card), "nothing is decided yet")
}

// A test of the maker's that says soft or runs names its figures, and offers another
// ink.
func TestWhatAnOwnTestSays(t *testing.T) {
	c, _ := painted(t)
	r := proof.Record{Of: proof.Of{Ink: c.Ink, Paper: c.Paper}, WaterTest: proof.WaterTest{Verdict: proof.Soft, BleedMM: 0.34, Tint: 2.51, Loss: 0.2}}
	w := advice.Watches(advice.Gather(c, nil, nil, []proof.Record{r}))[0]
	assert.Contains(t, w.Why, "bleeds 0.3 mm, its tint and clean paper are a shade apart, loses 20 % of its dark")
	assert.Contains(t, w.What, "will soften")
	assert.Equal(t, "Use oil- or resin-based permanent ink", w.Fix.Label, "not the ink that it is already")
	c.Ink, r.Ink, r.Verdict = "pen", "pen", proof.Runs
	w = advice.Watches(advice.Gather(c, nil, nil, []proof.Record{r}))[0]
	assert.Contains(t, w.What, "will run")
	assert.NotNil(t, w.Fix)
	for _, look := range []shelf.Look{shelf.Pulled, shelf.Solid} {
		c.Look = look
		assert.NotContains(t, rules(advice.Watches(advice.Gather(c, nil, nil, []proof.Record{r}))), "ink-runs", "it is meant to")
	}
}

// Every kind of note of a plan has the change that frees it.
func TestWhatFreesANote(t *testing.T) {
	c, s := painted(t)
	c.Areas[0].Washes = append(c.Areas[0].Washes, wash(technique.WetOnWet, pigment.Tea, "PY3"), card.Wash{Technique: technique.Lift})
	note := func(about steps.About) *advice.Fix {
		p := &steps.Plan{Bench: steps.UsualBench(), Notes: []steps.Note{{What: "a", Why: "b.", Way: "c.", About: about, Cells: []int{2}}}}
		for _, w := range advice.Watches(advice.Gather(c, panel.Resolve(c, s), p, nil)) {
			if w.Rule == "water-into-damp" {
				assert.Equal(t, "b. c.", w.Why)
				return w.Fix
			}
		}
		t.Fatal("the note is not told")
		return nil
	}
	assert.Nil(t, note(steps.About{}), "of the whole card")
	assert.Equal(t, "Keep them apart", note(steps.About{Subject: steps.TwoAreas, Other: 1}).Label)
	assert.Equal(t, "Let its cells run together", note(steps.About{Subject: steps.OneArea}).Label)
	assert.Equal(t, "Leave it out", note(steps.About{Subject: steps.OneWash, Wash: 2}).Label)
	assert.Equal(t, "Lay it over dry", note(steps.About{Subject: steps.OneWash, Wash: 1}).Label)
}

// Areas that meet: mud stops where they are joined, dullness minds; what is weak is
// told with its figure, and the darker one is mixed stronger.
func TestAreasThatMeet(t *testing.T) {
	c, s := painted(t)
	w := func(rule string) *advice.Watch {
		for _, w := range watches(c, s) {
			if w.Rule == rule {
				return &w
			}
		}
		return nil
	}
	c.Areas[0].Washes[0], c.Areas[1].Washes[0] = wash(technique.Flat, pigment.Milk, "PB29"), wash(technique.Flat, pigment.Milk, "PR101")
	assert.Nil(t, w("melts-together"), "a crisp dark line parts them")
	c.Ink, c.Look = "permanent", shelf.Soft
	assert.Nil(t, w("melts-together"), "a soft one parts what is 8 apart")
	c.Ink, c.Look = "pale", shelf.Vanishing
	weak := w("melts-together")
	require.NotNil(t, weak)
	assert.Equal(t, advice.Note, weak.Severity)
	assert.Equal(t, "Left and Right are weak in contrast (8 in value).", weak.What)
	assert.Contains(t, weak.Why, "vanishes")
	c.Areas[0].Washes[0], c.Areas[1].Washes[0] = wash(technique.Flat, pigment.Milk, "PR122"), wash(technique.Flat, pigment.Milk, "PR254")
	assert.Equal(t, advice.Mind, w("melts-together").Severity)
	c.Ink, c.Look = "permanent", shelf.Soft
	assert.Contains(t, w("melts-together").Why, "so pale a line")
	c.Ink = "pigment-quick"
	c.Look = ""
	c.Areas[1].Washes[0] = c.Areas[0].Washes[0]
	assert.Nil(t, w("melts-together"), "painted alike they may")

	c.Areas[0].Washes, c.Areas[1].Washes = []card.Wash{wash(technique.DryBrush, pigment.Tea, "PO62")}, []card.Wash{wash(technique.Flat, pigment.Milk, "PB29")}
	c.SetJoin("a1", "a2", true)
	assert.NotNil(t, w("mud-joined"), "a nearly dry brush is wet enough to mix")
}
