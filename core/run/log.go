package run

import (
	"cmp"
	"slices"

	"chromaqua/core/order"
)

// A Record is one step as it was done.
type Record struct {
	Card    int
	Title   string
	Start   order.Seconds // since the run began
	Took    order.Seconds
	Planned order.Seconds
	Skipped bool
	Added   bool // by a repair
}

// Log lists what was done, in order.
func (s *State) Log() (out []Record) {
	for op, c := range s.coats {
		if c == nil {
			continue
		}
		o := &s.Ops[op]
		out = append(out, Record{
			Card: o.Card, Title: s.Title(op), Start: c.start, Took: max(0, c.end-c.start), Planned: s.In.Ops[op].Dur, Skipped: c.skipped, Added: o.Again != nil,
		})
	}
	slices.SortStableFunc(out, func(a, b Record) int { return cmp.Compare(a.Start, b.Start) })
	return out
}

// Outcomes are the last words on how a run turned out, and on where its cards went.
func (s *State) Outcomes() (turned, went string) {
	for _, e := range s.Notes {
		switch e.Kind {
		case Turned:
			turned = e.Text
		case Went:
			went = e.Text
		}
	}
	return turned, went
}

// Lasted is how long a run went on: until the last step that somebody did.
func (s *State) Lasted() (t order.Seconds) {
	for op, c := range s.coats {
		if c != nil && !c.skipped && s.In.Ops[op].Attended {
			t = max(t, c.end)
		}
	}
	return t
}

// AddedCoat is a second coat over a wash, which a repair asked for.
type AddedCoat struct {
	Card int
	Area string // id
	Wash int
}

// AddedCoats lists the coats that repairs added and that were laid.
func (s *State) AddedCoats() (out []AddedCoat) {
	for op, c := range s.coats {
		o := &s.Ops[op]
		if c == nil || c.skipped || o.Again == nil || o.Step.On == nil || o.Step.On.Wash < 0 {
			continue
		}
		coat := AddedCoat{o.Card, s.Plan(op).AreaOf(o.Step).ID, o.Step.On.Wash}
		if !slices.Contains(out, coat) {
			out = append(out, coat)
		}
	}
	return out
}
