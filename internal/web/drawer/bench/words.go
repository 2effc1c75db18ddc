package bench

import (
	"fmt"
	"strings"

	"chromaqua/core/drying"
	"chromaqua/core/order"
	"chromaqua/core/run"
	"chromaqua/core/steps"
	"chromaqua/internal/bench"
	"chromaqua/internal/web/page"
)

// act says what to do now, and which keys there are.
func (v *nowView) act(b *bench.View) {
	s, m := b.State, b.Moment
	v.kicker(b)
	switch m.Act {
	case run.Finished:
		v.Act, v.Big, v.How = "done", "All is done.", "Wash the brushes, and give the palette its rest. What was done is kept with the card."
		return
	case run.Rest:
		v.Act, v.Big, v.How = "rest", "Paused", "What is wet goes on drying. The order is made anew when you come back."
		v.Keys = []keyView{{Key: " ", Label: "Go on", Kind: run.Resumed, Main: true}}
		return
	case run.Warm:
		v.Act, v.Big = "warm", "Heat "+s.Spoken(m.Op)+", about "+shortly(m.Heat.End-m.Heat.Start)
		v.How, v.Caution = "Until it looks "+string(m.Heat.For)+"; then feel it.", steps.HeatCaution
		goal := run.Touch
		if m.Heat.For == order.BoneDry {
			goal = run.Bone
		}
		v.Keys = []keyView{
			{Key: " ", Label: "It looks dry", Kind: run.Heated, stepRef: ref(s, m.Op), Goal: goal, Long: float64(m.Heat.End - m.Heat.Start), Main: true},
			{Key: "d", Label: "Dry now", Of: s.Spoken(m.Op), Kind: run.DryNow, stepRef: ref(s, m.Op), Goal: goal},
		}
		return
	}
	v.step(b)
	switch m.Act {
	case run.Look:
		v.Act = "look"
		ask := m.Ask()[0]
		v.Big, v.How = question(s, ask)
		v.Water, v.Mix, v.Brush, v.Caution, v.Why = "", nil, "", "", "Then: "+titleOf(s, m.Op) // what belongs to the step comes with it
		v.Keys = answers(s, ask)
	case run.Wait:
		v.Act, v.How, v.Caution = "wait", "", ""
		v.Big = "Wait"
		v.Until = s.At.Add(max(m.In, m.Best-s.Now).Duration()).UnixMilli()
		v.Why = "Then: " + titleOf(s, m.Op)
		if m.Full {
			v.Big = "Wait: the rack is full"
			if op, goal, ok := m.Nearest(); ok {
				v.Keys = answers(s, run.Need{On: op, Goal: goal})
			}
		} else if n := waitsFor(m); n != nil {
			v.Big = "Wait until " + s.Spoken(n.On) + " is " + string(n.Goal)
			v.Keys = answers(s, *n)
			if n.Wet {
				v.Big, v.Keys = "Wait until its gloss has gone", nil
			}
		}
	case run.TooLate:
		v.Act = "late"
		v.Big = "Too late to go into " + s.Spoken(m.Late[0])
		v.How = "It shines no more: water in it now makes a bloom. Wait until it is touch-dry and lay this over it, or leave it out."
		v.Why = titleOf(s, m.Op)
		v.Until = s.At.Add(m.In.Duration()).UnixMilli()
		if n := waitsFor(m); n != nil {
			v.Keys = answers(s, *n)
		}
		v.Keys = append(v.Keys, keyView{Key: "s", Label: "Leave it out", Kind: run.Skipped, stepRef: v.Step})
	default:
		v.Act = "do"
		label := "Done"
		if !s.In.Ops[m.Op].Attended {
			label = "It lies"
		}
		v.Keys = []keyView{{Key: " ", Label: label, Kind: run.Done, stepRef: v.Step, Main: true}}
		if made := s.Ahead(v.Step.Card); s.Ops[m.Op].Step.Ahead && len(made) > 1 {
			v.Keys = append(v.Keys, keyView{Key: "a", Label: "All this is done already", Of: "up to: " + titleOf(s, made[len(made)-1]), Kind: bench.Ahead, stepRef: v.Step})
		}
		if m.Late != nil {
			v.How = "Over the dry wash now, as a glaze: it could not go into it any more. " + v.How
		}
		if n := window(m); n != nil {
			v.Until = s.At.Add(n.In.Duration()).UnixMilli()
			v.Ahead = "while " + s.Spoken(n.On) + " shines"
		}
		if op, goal, ok := m.Nearest(); ok {
			v.Keys = append(v.Keys, answers(s, run.Need{On: op, Goal: goal})...)
		}
	}
}

func waitsFor(m *run.Moment) *run.Need {
	for i := range m.Needs {
		if n := &m.Needs[i]; n.Met == run.NotYet {
			return n
		}
	}
	return nil
}

func window(m *run.Moment) *run.Need {
	for i := range m.Needs {
		if n := &m.Needs[i]; n.Wet {
			return n
		}
	}
	return nil
}

// question asks whether something has come about, and says how to see it.
func question(s *run.State, n run.Need) (big, how string) {
	name := s.Spoken(n.On)
	switch {
	case n.Wet:
		return "Does " + name + " still shine?", "Look along it, against the light. D: it is dull. W: it shines, go on."
	case n.Goal == run.Bone:
		return "Is " + name + " bone dry?", "The back of the hand on it: not cool any more, and it lies flat. D: yes. W: not yet."
	case n.Goal == run.Touch && s.Ops[n.On].Step.Water == 0:
		return "Is " + name + " dry?", "Touch a corner that does not matter. D: yes. W: not yet."
	}
	return "Is " + name + " touch-dry?", "No shine anywhere, and the back of a finger comes away clean. D: yes. W: not yet."
}

// answers are the keys for what is asked of a coat.
func answers(s *run.State, n run.Need) []keyView {
	dry, wet := "Dry now", "Still wet"
	if n.Wet {
		dry, wet = "It is dull", "It shines"
	}
	name := s.Spoken(n.On)
	return []keyView{
		{Key: "d", Label: dry, Of: name, Kind: run.DryNow, stepRef: ref(s, n.On), Goal: n.Goal},
		{Key: "w", Label: wet, Of: name, Kind: run.StillWet, stepRef: ref(s, n.On), Goal: n.Goal},
	}
}

// kicker says which step it is, on which card, and where that lies.
func (v *nowView) kicker(b *bench.View) {
	s, m := b.State, b.Moment
	if m.Act == run.Finished {
		return
	}
	v.Kicker = fmt.Sprintf("%d of %d", min(m.Done+1, m.Of), m.Of)
	if len(s.Cards) < 2 {
		return
	}
	at := s.Ops[m.Op].Card
	hand, held := s.Hand()
	place, lies := s.Rack()[at]
	switch {
	case held && hand == at:
		v.Kicker += fmt.Sprintf(" · card %d, in your hands", at+1)
	case lies:
		v.Kicker += fmt.Sprintf(" · take card %d, from place %d", at+1, place)
	default:
		v.Kicker += fmt.Sprintf(" · take card %d", at+1)
	}
	if held && hand != at {
		if to, wet := s.Rack()[hand]; wet {
			v.Kicker += fmt.Sprintf("; lay card %d in place %d", hand+1, to)
		}
	}
	if cardName := s.Cards[at].Name; !strings.HasSuffix(cardName, fmt.Sprint(", ", at+1)) {
		v.Kicker += " · " + cardName
	}
}

// step words the step at hand.
func (v *nowView) step(b *bench.View) {
	s, m := b.State, b.Moment
	o := &s.Ops[m.Op]
	p, st := s.Plan(m.Op), o.Step
	v.Big, v.How, v.Caution, v.Brush = titleOf(s, m.Op), st.Detail, st.Caution, st.Brush()
	if o.Again != nil {
		v.How, v.Caution = o.Again.Detail, ""
	}
	if mix := p.MixOf(st); mix != nil && (o.Again == nil || o.Again.Effect == run.AnotherGo) {
		v.Mix = &mixView{Hex: mix.Hex, Strength: string(mix.Strength)}
		for _, part := range mix.Parts {
			v.Mix.Parts = append(v.Mix.Parts, partView{part.Parts, calledOf(b, m.Op, part.CI)})
		}
	}
	v.Water = waterWords(st.Water)
	v.Why = whyOf(b, m.Op)
}

// titleOf is a step in the few words that are read from a metre away; its colour is shown.
func titleOf(s *run.State, op int) string {
	o := &s.Ops[op]
	if o.Again != nil || o.Step.On == nil {
		return s.Title(op)
	}
	return s.Plan(op).Brief(o.Step).String()
}

func calledOf(b *bench.View, op int, ci string) string {
	return b.Places[b.State.Ops[op].Card].Rev.Whole.Called.Of(ci)
}

// whyOf says why a step comes now, by its own card's plan.
func whyOf(b *bench.View, op int) string {
	s := b.State
	o := &s.Ops[op]
	if o.Again != nil {
		return ""
	}
	p := s.Plan(op)
	base := op - o.Step.ID
	own := order.Schedule{}
	index := -1
	for _, at := range b.Order.Ops {
		if s.Ops[at.Op].Card != o.Card || s.Ops[at.Op].Again != nil {
			continue
		}
		if at.Op == op {
			index = len(own.Ops)
		}
		at.Op -= base
		own.Ops = append(own.Ops, at)
	}
	if index < 0 || len(own.Ops) != len(p.Steps) {
		return ""
	}
	return p.Reasons(&own)[index].Now
}

// waterWords say how wet the brush is, by the water a step lays.
func waterWords(w drying.GramsPerSquareMetre) string {
	switch {
	case w == 0:
		return ""
	case w < drying.Glaze:
		return "A damp brush: no bead follows it."
	case w < drying.Loaded:
		return "A full brush: a bead follows it, no puddle stands."
	case w < drying.WetOnWet:
		return "A loaded brush: it shines all over."
	}
	return "Very wet: it swims and evens out."
}

// shortly says a short time: "20 s", "3 min".
func shortly(t order.Seconds) string {
	return strings.TrimPrefix(page.About(t.Duration()), "about ")
}
