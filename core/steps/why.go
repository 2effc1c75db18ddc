package steps

import (
	"fmt"
	"slices"
	"strings"

	"chromaqua/core/order"
	"chromaqua/core/school"
	"chromaqua/core/wording"
)

// soon is how long after it became possible a step still comes at once, s: a rinse,
// another card.
const soon = 25

// A moment is when a placed step may begin, by one of those it waits for.
type moment struct {
	at   order.Seconds
	from order.Placed
	wait wait
}

// A spot is one operation on one card.
type spot struct{ op, copy int }

// A Reason is why a step comes now, and what there is to wait for before it, "" for
// nothing.
type Reason struct{ Now, Wait string }

// Reasons says for every placed operation of a schedule why it comes now: what it has
// waited for, what it has to hurry for, or why it comes before others.
func (p *Plan) Reasons(s *order.Schedule) []Reason {
	r := reasoning{Plan: p, schedule: s, at: map[spot]order.Placed{}, into: map[int][]int{}, beside: p.Instance.Beside()}
	for _, o := range s.Ops {
		r.at[spot{o.Op, o.Copy}] = o
	}
	for k := range p.reasons {
		r.into[k.then] = append(r.into[k.then], k.first)
	}
	for _, list := range r.into {
		slices.Sort(list)
	}
	out := make([]Reason, len(s.Ops))
	var last *order.Placed // attended before it
	for i, o := range s.Ops {
		m := r.latest(o)
		out[i].Now = r.whyNow(o, m, last)
		if dry := m.dry(); dry != "" {
			out[i].Wait = fmt.Sprintf("until %s is %s: %s", p.spokenTo(&p.Steps[o.Op], m.from.Op), dry, m.wait.reason)
		}
		if !p.Steps[o.Op].Unattended {
			last = &o
		}
	}
	return out
}

// reasoning is what the reasons of a schedule are found from.
type reasoning struct {
	*Plan
	schedule *order.Schedule
	at       map[spot]order.Placed
	into     map[int][]int // those each operation waits for
	beside   map[int][]int // those it must not be wet together with
}

// latest is the last moment that a placed operation has waited for, nil when it has
// waited for none.
func (r *reasoning) latest(o order.Placed) *moment {
	var out *moment
	later := func(m moment) {
		if out == nil || m.at > out.at {
			out = &m
		}
	}
	for _, from := range r.into[o.Op] {
		before := r.at[spot{from, o.Copy}]
		w := r.reasons[pair{from, o.Op}]
		later(moment{r.metAt(before, w.until), before, w})
	}
	for _, x := range r.beside[o.Op] {
		if before := r.at[spot{x, o.Copy}]; before.Start < o.Start && r.Steps[x].Water > 0 {
			later(moment{r.schedule.DryAt(r.Instance, before, order.TouchDry), before, waitFor(beside, aWash)})
		}
	}
	return out
}

// metAt is when what a step waits for has come about.
func (r *reasoning) metAt(before order.Placed, u until) order.Seconds {
	switch u {
	case inkDry, touchDry:
		return r.schedule.DryAt(r.Instance, before, order.TouchDry)
	case boneDry:
		return r.schedule.DryAt(r.Instance, before, order.BoneDry)
	}
	return before.End
}

// dryWords say how dry something is by now.
var dryWords = map[until]string{inkDry: "dry", touchDry: "touch-dry", boneDry: "bone dry"}

// dry says how dry what is waited for is then, "" when it need not be dry.
func (m *moment) dry() string {
	if m == nil {
		return ""
	}
	return dryWords[m.wait.until]
}

// whyNow words why an operation comes now, after the operation last, or first.
func (r *reasoning) whyNow(o order.Placed, latest *moment, last *order.Placed) string {
	p := r.Plan
	st := &p.Steps[o.Op]
	darker, isDarker := r.darkerBeside(o)
	follows := func(is func(last order.Placed) bool) bool { return last != nil && is(*last) }
	switch {
	case latest != nil && latest.wait.until == whileDulling:
		return fmt.Sprintf("As the sheen of %s goes: %s.", r.spokenTo(st, latest.from.Op), latest.wait.reason)
	case latest != nil && (latest.wait.until == whileShining || latest.wait.until == whileWet || latest.wait.until == whileSticky):
		return fmt.Sprintf("While %s is wet: %s.", r.spokenTo(st, latest.from.Op), latest.wait.reason)
	case latest != nil && (latest.wait.above == afterGround || latest.wait.above == beforeGround):
		return wording.Upper(latest.wait.reason) + "."
	case follows(func(l order.Placed) bool { return slices.Contains(st.Joined, l.Op) && l.Copy == o.Copy }):
		return fmt.Sprintf("It runs into %s while that is open.", r.spokenTo(st, last.Op))
	case latest.dry() != "" && o.Start-latest.at <= soon:
		return fmt.Sprintf("Now %s is %s; sooner, %s.", r.spokenTo(st, latest.from.Op), latest.dry(), latest.wait.reason)
	case follows(func(l order.Placed) bool { return l.Op == o.Op }):
		return "The same again on the next card."
	case follows(func(l order.Placed) bool { return st.Mix > 0 && p.Steps[l.Op].Mix == st.Mix }):
		return "The same mix is in the brush."
	case p.Instance.Ops[o.Op].Ground:
		return "The ground first: all that is on it is darker."
	case isDarker:
		if p.Ways.Neighbours == school.DarkFirst {
			return fmt.Sprintf("Before %s beside it: you lay the darkest first.", r.spokenTo(st, darker))
		}
		return fmt.Sprintf("Before %s beside it: light comes before dark.", r.spokenTo(st, darker))
	case last != nil && st.On != nil && latest.dry() != "" && o.Start > latest.at:
		return "Nothing wet is near it, while other places dry."
	case st.On != nil && latest != nil && latest.wait.until != atOnce:
		return fmt.Sprintf("%s is %s.", r.spokenTo(st, latest.from.Op), latest.dry())
	case st.Kind == Hold && latest == nil, last == nil:
		return "It comes first."
	}
	return fmt.Sprintf("After %s.", r.spokenTo(st, last.Op))
}

// clearlyDarker is how much less light a neighbour is that had better come later.
const clearlyDarker = 10

// darkerBeside is a clearly darker neighbour that comes later, when there is one.
func (r *reasoning) darkerBeside(o order.Placed) (op int, ok bool) {
	light := r.Instance.Ops[o.Op].Light
	for _, x := range r.beside[o.Op] {
		if other := r.Instance.Ops[x].Light; other > 0 && other < light-clearlyDarker && r.at[spot{x, o.Copy}].Start > o.Start {
			return x, true
		}
	}
	return 0, false
}

// spoken names a step within a sentence, with the piece it is on.
func (p *Plan) spoken(id int) string { return p.spokenOf(id, p.ofPiece(&p.Steps[id])) }

// spokenTo names a step within a sentence about another: its piece goes without saying
// where that is the other's too.
func (p *Plan) spokenTo(st *Step, id int) string {
	if other := &p.Steps[id]; other.Piece == st.Piece && other.Item == st.Item {
		return p.spokenOf(id, "")
	}
	return p.spoken(id)
}

func (p *Plan) spokenOf(id int, piece string) string {
	st := &p.Steps[id]
	if st.On != nil && st.On.Wash == Wetting {
		return "the water on " + p.AreaOf(st).Name + piece
	}
	if st.On != nil {
		name := p.AreaOf(st).Name
		if st.Go != "" {
			name += " " + st.Name()
		}
		return name + piece
	}
	switch st.Kind {
	case Line, Emboss:
		if strings.Contains(st.Title, "“") {
			return "the words"
		}
		return "the ink of the line" + piece
	case Set:
		return "the setting"
	case Mount:
		return "the mounting"
	case Tape:
		return "the taping"
	case Hold:
		for _, word := range []string{"mask", "pouch"} {
			if strings.Contains(st.Title, word) && !strings.Contains(st.Title, "mask tape") {
				return "the " + word
			}
		}
		return "the cutting"
	case Press:
		return "the pressing"
	case Untape:
		return "the untaping"
	case Flatten:
		return "the flattening"
	case Trim:
		return "the trimming"
	case CutOut:
		return "the cutting out"
	}
	return "the step before"
}

// HeatFor says what a pass of the heat tool is for.
func (p *Plan) HeatFor(h order.Pass) string {
	switch st := &p.Steps[h.Op]; {
	case st.Kind == Line || st.Kind == Emboss:
		return "ink set"
	case h.For == order.BoneDry:
		return "bone dry"
	}
	return "touch-dry"
}

// HeatWords says what passes of the heat tool dry, and how far: "Sand and Eyes
// touch-dry, Claw bone dry".
func (p *Plan) HeatWords(passes []order.Pass) string {
	var goals []string
	on := map[string][]string{}
	for _, h := range passes {
		goal, name := p.HeatFor(h), p.spoken(h.Op)
		if p.Instance.Copies > 1 {
			name += fmt.Sprintf(" of card %d", h.Copy+1)
		}
		if len(on[goal]) == 0 {
			goals = append(goals, goal)
		}
		if !slices.Contains(on[goal], name) {
			on[goal] = append(on[goal], name)
		}
	}
	var out []string
	for _, g := range goals {
		out = append(out, wording.And(on[g])+" "+map[bool]string{true: "set", false: g}[g == "ink set"])
	}
	return strings.Join(out, ", ")
}
