package run

import (
	"slices"

	"chromaqua/core/drying"
	"chromaqua/core/order"
)

// Rack tells where cards lie that are not at hand: the number of the place, from 1, by
// card. A card takes the first free place as the maker turns to another while it is wet,
// and keeps it until it is taken up again, or another needs a place and it is dry.
func (s *State) Rack() map[int]int {
	if len(s.Cards) < 2 {
		return nil
	}
	var done []*coat
	for _, c := range s.coats {
		if c != nil && !c.skipped && s.In.Ops[c.op].Attended {
			done = append(done, c)
		}
	}
	slices.SortStableFunc(done, func(a, b *coat) int { return int(a.end - b.end) })
	lies, wet := map[int]int{}, map[int]order.Seconds{}
	put := func(card int, t order.Seconds) {
		if wet[card] <= t {
			return
		}
		taken := map[int]bool{}
		for other, place := range lies {
			if wet[other] <= t {
				delete(lies, other)
			} else {
				taken[place] = true
			}
		}
		place := 1
		for taken[place] {
			place++
		}
		lies[card] = place
	}
	hand, held := 0, false
	for _, c := range done {
		card := s.Ops[c.op].Card
		if held && hand != card {
			put(hand, c.start)
		}
		delete(lies, card)
		hand, held = card, true
		if s.need(c.op, touch) > 0 {
			wet[card] = max(wet[card], s.wetUntil(c))
		}
	}
	if held {
		put(hand, s.Now)
	}
	for card := range s.Dropped {
		delete(lies, card)
	}
	return lies
}

// wetUntil is when a coat was, or will likely be, touch-dry.
func (s *State) wetUntil(c *coat) order.Seconds {
	left, _ := s.left(c, touch)
	switch {
	case left > 0:
		return s.Now + left
	case c.until > 0:
		return c.until
	}
	f, _ := s.factor(c)
	return c.end + order.Seconds(s.need(c.op, touch)*f/s.speed[c.op])
}

// Hand is the card at hand: that of the step done last, not ok before the first.
func (s *State) Hand() (card int, ok bool) {
	var last *coat
	for _, c := range s.coats {
		if c != nil && !c.skipped && s.In.Ops[c.op].Attended && (last == nil || c.end >= last.end) {
			last = c
		}
	}
	if last == nil {
		return 0, false
	}
	return s.Ops[last.op].Card, true
}

// Coat is the wetness of what an operation has left; not ok before it is done.
func (s *State) Coat(op int) (d Drying, ok bool) {
	for _, d := range s.drying() {
		if d.Op == op {
			return d, true
		}
	}
	return d, false
}

// Laid are the operations that are done and have left something, in the order in which
// they were done.
func (s *State) Laid() (out []int) {
	for op, c := range s.coats {
		if c != nil && !c.skipped {
			out = append(out, op)
		}
	}
	slices.SortStableFunc(out, func(a, b int) int { return int(s.coats[a].end - s.coats[b].end) })
	return out
}

// Known is how drying on the paper of an operation is known: of so many observations, 0
// for an estimate.
func (s *State) Known(op int) (n int, lo, hi float64) {
	b := s.air[s.Ops[op].paper]
	lo, hi = b.Range()
	return b.N, lo, hi
}

// Done is what has been done to one card so far, as a schedule of its own plan: with the times
// at which it was done, the step at hand up to now, and what is dry already dried by now.
// What repairs have added is no step of that plan and is left out.
func (s *State) Done(card int) *order.Schedule {
	out := &order.Schedule{}
	for op, c := range s.coats {
		o := &s.Ops[op]
		if c == nil || c.skipped || o.Card != card || o.Again != nil {
			continue
		}
		out.Ops = append(out.Ops, order.Placed{Op: o.Step.ID, Start: c.start, End: c.end})
		if d, ok := s.Coat(op); ok && d.Stage >= drying.TouchDry && s.Now > c.end && o.washed {
			out.Heat = append(out.Heat, order.Pass{Start: c.end, End: s.Now, Op: o.Step.ID, For: order.BoneDry})
		}
	}
	if o := &s.Ops[s.doing]; s.isOn && o.Card == card && o.Again == nil {
		out.Ops = append(out.Ops, order.Placed{Op: o.Step.ID, Start: s.since, End: max(s.Now, s.since+1)})
	}
	slices.SortStableFunc(out.Ops, func(a, b order.Placed) int { return int(a.Start - b.Start) })
	return out
}
