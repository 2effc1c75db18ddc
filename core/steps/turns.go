package steps

import (
	"fmt"
	"slices"
	"strconv"

	"chromaqua/core/order"
	"chromaqua/core/wording"
)

// A Turn is one step as it is taken, on one card after the other.
type Turn struct {
	Step   int   // index into the plan's steps
	Number int   // from 1, as it is counted everywhere
	Placed []int // indices into the schedule's operations
	Copies []int // the cards, by placed operation
}

// Turns gathers what a schedule does alike on several cards in a row. What nobody attends
// to is gathered too: it begins with the last card that is ready for it, or sooner where
// something waits for it.
func (p *Plan) Turns(s *order.Schedule) (out []Turn) {
	awaits := map[int][]int{} // by operation, what it waits for that nobody attends to
	for _, a := range p.Instance.Arcs {
		if p.Steps[a.From].Unattended {
			awaits[a.To] = append(awaits[a.To], a.From)
		}
	}
	tell := func(i int) {
		at := s.Ops[i]
		if n := len(out); n == 0 || out[n-1].Step != at.Op {
			out = append(out, Turn{Step: at.Op, Number: n + 1})
		}
		t := &out[len(out)-1]
		t.Placed, t.Copies = append(t.Placed, i), append(t.Copies, at.Copy)
	}
	lying := map[int][]int{} // by operation, what is placed and not told yet
	begun := map[int]int{}   // by operation, on how many cards
	begin := func(op int) {
		for _, i := range lying[op] {
			tell(i)
		}
		delete(lying, op)
	}
	for i, at := range s.Ops {
		for _, from := range awaits[at.Op] {
			if slices.ContainsFunc(lying[from], func(k int) bool { return s.Ops[k].Copy == at.Copy }) {
				begin(from)
			}
		}
		if !p.Steps[at.Op].Unattended {
			tell(i)
			continue
		}
		lying[at.Op] = append(lying[at.Op], i)
		if begun[at.Op]++; begun[at.Op] == p.Instance.Copies {
			begin(at.Op)
		}
	}
	for _, at := range s.Ops {
		begin(at.Op)
	}
	return out
}

// On names the cards of a turn of so many: "all 6 cards", "cards 1 to 4"; "" when
// there is only one.
func (t Turn) On(of int) string {
	if of == 1 {
		return ""
	}
	ids := slices.Clone(t.Copies)
	slices.Sort(ids)
	ids = slices.Compact(ids)
	switch n := len(ids); {
	case n == of && of == 2:
		return "both cards"
	case n == of:
		return fmt.Sprintf("all %d cards", of)
	case n == 1:
		return fmt.Sprintf("card %d", ids[0]+1)
	case n > 2 && ids[n-1]-ids[0] == n-1:
		return fmt.Sprintf("cards %d to %d", ids[0]+1, ids[n-1]+1)
	}
	var names []string
	for _, id := range ids {
		names = append(names, strconv.Itoa(id+1))
	}
	return "cards " + wording.And(names)
}
