package steps_test

import (
	"context"
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
	"chromaqua/internal/golden"
)

// written is all that a plan says, and why each step of its order comes when it does.
func written(t testing.TB, p *steps.Plan) string {
	var b strings.Builder
	for i, s := range p.Steps {
		o := p.Instance.Ops[i]
		fmt.Fprintf(&b, "%d %s %q go %q cells %v mix %d\n  %s | %s | %s\n", s.ID, s.Kind, s.Title, s.Go, s.Cells, s.Mix, s.Detail, s.Caution, s.Brush())
		fmt.Fprintf(&b, "  takes %v water %.1f gloss %v open %v dry %v bone %v into %v joined %v %q unattended %t\n", short(s.Dur), s.Water, short(s.Gloss), short(s.Open), short(s.Dry), short(s.Bone), s.IntoWet, s.Joined, s.Together, s.Unattended)
		fmt.Fprintf(&b, "  op %d %d %d heat %d %d colour %d light %d ground %t regions %v\n", o.Dur, o.Dry, o.Bone, o.HeatDry, o.HeatBone, o.Color, o.Light, o.Ground, o.Regions)
	}
	for _, a := range p.Instance.Arcs {
		fmt.Fprintf(&b, "arc %d %d %s %d %d %d\n", a.From, a.To, a.Type, a.Min, a.Max, a.Clock)
	}
	for _, j := range p.Instance.Joins {
		fmt.Fprintf(&b, "join %d %d %d %d\n", j.A, j.B, j.Max, j.Back)
	}
	in := p.Instance
	fmt.Fprintf(&b, "adjacent %v raised %v copies %d rack %d rinse %d swap %d heat %+v\n", in.Adjacent, in.Raised, in.Copies, in.Rack, in.Rinse, in.Swap, in.Heat)
	for _, m := range p.Mixes {
		fmt.Fprintf(&b, "mix %v %s %s %.1f ml %.1f mm² for %v\n", m.Parts, m.Strength, m.Hex, m.ML, m.MM2, m.Areas)
	}
	for _, n := range p.Notes {
		fmt.Fprintf(&b, "note %s %s %s {Subject:%d Area:%d Wash:%d Other:%d} %v\n", n.What, n.Why, n.Way, n.Subject, n.Area, n.Wash, n.Other, n.Cells)
	}
	s, err := solver.Solve(context.Background(), in, solver.Budget{Iterations: 300, Seed: 1})
	require.NoError(t, err)
	why := p.Reasons(s)
	for _, turn := range p.Turns(s) {
		fmt.Fprintf(&b, "%d. step %d %s: %s / %s\n", turn.Number, turn.Step, turn.On(in.Copies), why[turn.Placed[0]].Now, why[turn.Placed[0]].Wait)
	}
	fmt.Fprintf(&b, "heat: %s\n", p.HeatWords(s.Heat))
	return b.String()
}

// Plans of random cards, and of cards with one thing each that is not usual, are what
// they were.
func TestPlansAreWhatTheyWere(t *testing.T) {
	for _, seed := range []uint64{3, 5, 8} {
		p, err := steps.Compile(paneltest.Random(t, seed), steps.UsualBench())
		require.NoError(t, err)
		golden.Same(t, fmt.Sprintf("random-%d", seed), written(t, p))
	}
	golden.Same(t, "many", outlines(t))
	for name, change := range map[string]func(*card.Card, *panel.Sheet){
		"taped": func(c *card.Card, s *panel.Sheet) {
			twoAreas(t)(c, s)
			c.Painting = card.Painting{Border: 3 * length.Millimetre, Spare: 10 * length.Millimetre, Tape: length.Inch}
			c.Drying, c.Copies = card.Heat, 3
		},
		"relief": func(c *card.Card, s *panel.Sheet) {
			twoAreas(t)(c, s)
			c.Line().Kind, c.Relief = shelf.ReliefImage, card.Twice
			c.Areas[0].Washes = append(c.Areas[0].Washes, wash(technique.Pencil, "PBr7"), wash(technique.Splatter, "PW6"))
		},
		"stamped-thrice": func(c *card.Card, s *panel.Sheet) {
			twoAreas(t)(c, s)
			rear, err := c.Lay(c.Line().Scan, shelf.LineImage)
			require.NoError(t, err)
			require.NoError(t, c.Repeat(rear, 1, 0, 0, 0))
			c.Images[1].Ghost = 1
			laid := *s
			laid.Laid = []panel.Laid{{}, {Hidden: []int{0}}, {Hidden: []int{0, 1}}}
			*s = laid
			c.SetJoin("a1", "a2", true)
		},
		"embossed": func(c *card.Card, s *panel.Sheet) {
			twoAreas(t)(c, s)
			c.Ink, c.Drying = "embossed", card.Mixed
			c.Areas[1].Washes = []card.Wash{wash(technique.WetOnWet, "PB29"), {Technique: technique.Lift}, wash(technique.Highlight, "PW6")}
		},
	} {
		golden.Same(t, name, written(t, compiled(t, change)))
	}
}

// Plans of real jobs, of several pieces, inks and zones, are what they were.
func TestJobsArePlannedAsTheyWere(t *testing.T) {
	all := map[string]*jobs.Studio{"bits": jobs.Bits(), "bare": jobs.Bare(), "worded": jobs.Worded()}
	for _, j := range jobs.All() {
		all[fmt.Sprintf("job-%02d", j.Number)] = j.Make()
	}
	for name, s := range all {
		t.Run(name, func(t *testing.T) {
			t.Parallel()
			require.NoError(t, s.Card.Check())
			pieces, err := s.Pieces(context.Background())
			require.NoError(t, err)
			p, err := steps.CompileAll(pieces, s.Card, steps.UsualBench())
			require.NoError(t, err)
			var b strings.Builder
			b.WriteString(written(t, p))
			for i := range p.Pieces {
				fmt.Fprintf(&b, "%s: %s, %d of it\n", p.Pieces[i].ID, p.Pieces[i].Name, p.Pieces[i].Many)
				for _, l := range p.FromThePaperUp(i) {
					fmt.Fprintf(&b, "  %s %s | %s free %t late %t\n", l.Ref, l.Says, l.Wait, l.Free, l.Late)
				}
			}
			for k := range p.Steps {
				st := &p.Steps[k]
				brief := p.Brief(st)
				fmt.Fprintf(&b, "%d %q %d %d %s | %s\n", st.ID, st.Deed, st.Piece, st.Item, brief, brief.With)
			}
			golden.Same(t, name, b.String())
		})
	}
}

// outlines are those of the plans of many random cards: what is laid in which go, for
// how long, which wait for which, which are grounds, and what cannot be.
func outlines(t testing.TB) string {
	var b strings.Builder
	for seed := uint64(20); seed < 70; seed++ {
		p, err := steps.Compile(paneltest.Random(t, seed), steps.UsualBench())
		require.NoError(t, err)
		fmt.Fprintf(&b, "%d:", seed)
		for i, s := range p.Steps {
			o := p.Instance.Ops[i]
			fmt.Fprintf(&b, " %s%s%d", s.Kind, s.Go, len(s.Cells))
			if s.On != nil {
				fmt.Fprintf(&b, "(%d %d/%d/%d", s.On.Area, o.Dur, o.Dry, o.Bone)
				if o.HeatDry > 0 {
					fmt.Fprintf(&b, " heat %d/%d", o.HeatDry, o.HeatBone)
				}
				if o.Ground {
					b.WriteString(" ground")
				}
				if len(s.IntoWet) > 0 {
					fmt.Fprintf(&b, " into %v", s.IntoWet)
				}
				b.WriteString(")")
			}
		}
		fmt.Fprintf(&b, "\n  %v\n  %v\n", p.Instance.Arcs, p.Instance.Joins)
		for _, n := range p.Notes {
			fmt.Fprintf(&b, "  note %s %s %s {Subject:%d Area:%d Wash:%d Other:%d} %v\n", n.What, n.Why, n.Way, n.Subject, n.Area, n.Wash, n.Other, n.Cells)
		}
		for a := range 4 {
			for c := range a {
				if why := p.Apart(a, c) + p.Apart(c, a); why != "" {
					fmt.Fprintf(&b, "  apart %d %d: %s\n", a, c, why)
				}
			}
		}
	}
	return b.String()
}

// short is a time to the millisecond: what is smaller differs between processors.
func short(d time.Duration) time.Duration { return d.Round(time.Millisecond) }
