package solver

import (
	"slices"

	"chromaqua/core/order"
)

// A state is all that a decoder knows after placing some operations: two decoders
// in one state go on alike.
type state struct {
	// Readiness of each operation: absolute, on its card's drying clock, and
	// the latest start on that clock.
	abs, clock, latest []order.Seconds
	cause              []int32 // the operation that raised its readiness last; -1 when none
	done               []bool

	// The painter.
	now   order.Seconds
	card  int32
	brush int32

	// By card: seconds of heat, end of the last pass, clock at which it is
	// dry, end of unattended work, masks and unmasks done.
	heated, heatEnd, wetUntil, resting []order.Seconds
	masked, unmasked                   []int

	// Where heat is aimed, by operation that is done: its end, when its coat was laid as
	// its drying goes, and the coat.
	end, laid []order.Seconds
	coat      []order.Coat

	pending []int32 // members of begun blocks not yet placed, in an order in which all are in time
	passes  []order.Pass

	makespan       order.Seconds
	changes, waits int
	placed         int // operations
}

func newState(p *problem) *state {
	s := &state{
		abs: make([]order.Seconds, p.total), clock: make([]order.Seconds, p.total), latest: make([]order.Seconds, p.total),
		cause: make([]int32, p.total), done: make([]bool, p.total),
		heated: make([]order.Seconds, p.cards), heatEnd: make([]order.Seconds, p.cards), wetUntil: make([]order.Seconds, p.cards), resting: make([]order.Seconds, p.cards),
		masked: make([]int, p.cards), unmasked: make([]int, p.cards),
	}
	if p.aimed {
		s.end, s.laid, s.coat = make([]order.Seconds, p.total), make([]order.Seconds, p.total), make([]order.Coat, p.total)
	}
	s.clear()
	return s
}

// clear makes s the state in which nothing is done.
func (s *state) clear() {
	for _, list := range [][]order.Seconds{s.abs, s.clock, s.heated, s.heatEnd, s.wetUntil, s.resting, s.end, s.laid} {
		clear(list)
	}
	clear(s.masked)
	clear(s.unmasked)
	clear(s.coat)
	clear(s.done)
	for i := range s.latest {
		s.latest[i], s.cause[i] = never, -1
	}
	s.now, s.card, s.brush = 0, -1, 0
	s.pending, s.passes = s.pending[:0], s.passes[:0]
	s.makespan, s.changes, s.waits, s.placed = 0, 0, 0, 0
}

// set makes s a copy of t.
func (s *state) set(t *state) {
	copy(s.abs, t.abs)
	copy(s.clock, t.clock)
	copy(s.latest, t.latest)
	copy(s.cause, t.cause)
	copy(s.done, t.done)
	copy(s.heated, t.heated)
	copy(s.heatEnd, t.heatEnd)
	copy(s.wetUntil, t.wetUntil)
	copy(s.resting, t.resting)
	copy(s.masked, t.masked)
	copy(s.unmasked, t.unmasked)
	copy(s.end, t.end)
	copy(s.laid, t.laid)
	copy(s.coat, t.coat)
	s.now, s.card, s.brush = t.now, t.card, t.brush
	s.pending = append(s.pending[:0], t.pending...)
	s.passes = append(s.passes[:0], t.passes...)
	s.makespan, s.changes, s.waits, s.placed = t.makespan, t.changes, t.waits, t.placed
}

// A trail is the states a decode leaves behind, one each time so many operations
// are placed, so that the decode of a changed sequence can begin at the last one
// before the change. A decode leaves its states in fresh; they are kept once its
// order is adopted.
type trail struct {
	every       int // 0: none is left
	kept, fresh []*state
}

// before returns how many of the kept states stand at or before a position.
func (t *trail) before(position int) int {
	if t.every == 0 {
		return 0
	}
	k := min(position/t.every, len(t.kept))
	for k > 0 && t.kept[k-1].placed > position {
		k--
	}
	return k
}

// leave puts a copy of a state aside as the k-th of the decode at hand.
func (t *trail) leave(k int, p *problem, s *state) {
	for len(t.fresh) <= k {
		t.fresh = append(t.fresh, newState(p))
	}
	t.fresh[k].set(s)
}

// adopt keeps the states from up to that the last decode left; those before from
// stay.
func (t *trail) adopt(from, upTo int, p *problem) {
	for len(t.kept) < upTo {
		t.kept = append(t.kept, newState(p))
	}
	t.kept = t.kept[:upTo]
	for k := from; k < upTo; k++ {
		t.kept[k], t.fresh[k] = t.fresh[k], t.kept[k]
	}
}

// drop forgets all states.
func (t *trail) drop() { t.kept = slices.Delete(t.kept, 0, len(t.kept)) }
