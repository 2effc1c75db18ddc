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

// Turns gathers what a schedule does alike on several cards in a row; what nobody
// attends to counts once, wherever it begins.
func (p *Plan) Turns(s *order.Schedule) (out []Turn) {
	lying := map[int]int{}
	for i, at := range s.Ops {
		unattended := p.Steps[at.Op].Unattended
		k, known := lying[at.Op]
		if n := len(out); !known && n > 0 && out[n-1].Step == at.Op {
			k, known = n-1, true
		}
		if !known {
			k = len(out)
			out = append(out, Turn{Step: at.Op, Number: k + 1})
			if unattended {
				lying[at.Op] = k
			}
		}
		out[k].Placed, out[k].Copies = append(out[k].Placed, i), append(out[k].Copies, at.Copy)
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
	case ids[n-1]-ids[0] == n-1:
		return fmt.Sprintf("cards %d to %d", ids[0]+1, ids[n-1]+1)
	}
	var names []string
	for _, id := range ids {
		names = append(names, strconv.Itoa(id+1))
	}
	return "cards " + wording.And(names)
}
