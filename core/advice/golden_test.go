package advice_test

import (
	"fmt"
	"math/rand/v2"
	"slices"
	"strings"
	"testing"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/length"
	"chromaqua/core/nest"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/internal/golden"
)

// unusual changes some of what rules look at.
func unusual(r *rand.Rand, c *card.Card) {
	maybe := func(of int, f func()) {
		if r.IntN(of) != 0 {
			return
		}
		was, err := c.Clone()
		if f(); err != nil || c.Check() != nil {
			*c = *was // that cannot be
		}
	}
	mm := func(most int) length.Length { return length.Length(r.IntN(most)) * length.Millimetre }
	var inks, papers, paints []string
	for _, k := range shelf.Inks() {
		inks = append(inks, k.ID)
	}
	for _, p := range shelf.Papers() {
		papers = append(papers, p.ID)
	}
	for _, p := range pigment.Library() {
		paints = append(paints, p.CI)
	}
	maybe(2, func() { c.Ink = paneltest.Pick(r, inks) })
	maybe(3, func() { c.Paper = paneltest.Pick(r, papers) })
	maybe(3, func() { c.Look = shelf.Looks()[r.IntN(len(shelf.Looks()))] })
	maybe(4, func() { c.Words = length.Size{W: mm(90), H: mm(20)} })
	maybe(4, func() { c.Painting = card.Painting{Border: mm(8), Spare: mm(8), Tape: mm(30)} })
	maybe(4, func() { c.Panel.Margin = nest.Even(mm(9) - 4*length.Millimetre) })
	maybe(4, func() { c.Layers[0].Kind = card.Frame })
	maybe(4, func() { c.Layers[0].Die = dies(80+mm(60)/length.Millimetre, 110+mm(60)/length.Millimetre) })
	maybe(4, func() { c.Extra = mm(9) })
	maybe(4, func() { c.Unit = length.Inches })
	maybe(5, func() {
		c.Envelope = &card.Envelope{ID: card.Free, Inside: length.Size{W: 100*length.Millimetre + mm(40), H: 140*length.Millimetre + mm(30)}}
	})
	maybe(4, func() { c.Line().X, c.Line().Y = c.Line().X-mm(30), c.Line().Y+mm(20) })
	maybe(6, func() { c.Line().Kind = shelf.ReliefImage; c.Relief = card.Reliefs()[r.IntN(3)] })
	for i := range c.Areas {
		maybe(2, func() {
			for range r.IntN(4) {
				was := slices.Clone(c.Areas[i].Washes)
				c.Areas[i].Washes = append(c.Areas[i].Washes, wash(paneltest.Pick(r, paneltest.Usual()), pigment.Strengths()[r.IntN(5)], paneltest.Pick(r, paints)))
				if c.Check() != nil {
					c.Areas[i].Washes = was
				}
			}
		})
		maybe(4, func() { c.Areas[i].Cells = nil })
		maybe(3, func() { c.SetJoin(c.Areas[i].ID, c.Areas[r.IntN(len(c.Areas))].ID, true) })
	}
}

// What is noticed on random cards, why, where, and what settles it, is what it was.
func TestWatchOutsAreWhatTheyWere(t *testing.T) {
	var b strings.Builder
	for seed := range uint64(80) {
		d := paneltest.Random(t, seed)
		c := d.Card
		r := rand.New(rand.NewPCG(seed, 5))
		unusual(r, c)
		d = panel.Resolve(c, d.Sheet)
		plan, err := steps.Compile(d, steps.UsualBench())
		if err != nil {
			fmt.Fprintf(&b, "%d: %v\n", seed, err)
			continue
		}
		var tests []proof.Record
		if seed%3 == 0 {
			tests = []proof.Record{{Of: proof.Of{Ink: c.Ink, Paper: c.Paper}, WaterTest: proof.WaterTest{Verdict: []proof.Verdict{proof.Holds, proof.VerdictOf(0.3, 3, 0.1), proof.VerdictOf(2, 20, 0.9)}[seed/3%3]}}}
		}
		f := advice.Gather(c, d, plan, tests)
		fmt.Fprintf(&b, "%d: wets %t, %d of all %d\n", seed, advice.Wets(c), len(advice.Watches(f)), len(advice.All(f)))
		fmt.Fprintf(&b, " unread %v\n", rules(advice.All(advice.Gather(c, nil, nil, tests))))
		for _, w := range advice.All(f) {
			fmt.Fprintf(&b, " %s %s %s: %s %s %v\n", w.Rule, w.Severity, w.Station, w.What, w.Why, w.Cells)
			if w.Fix != nil {
				fmt.Fprintf(&b, "  %s: %s %v\n", w.Fix.Label, change.NameOf(w.Fix.Change), change.Values(w.Fix.Change))
			}
		}
	}
	golden.Same(t, "watchouts", b.String())
}
