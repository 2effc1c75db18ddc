package solver

import (
	"cmp"
	"slices"

	"chromaqua/core/order"
)

// A decoder turns a sequence of operations into a timed schedule. The painter
// takes them in that order, each as early as the demands allow; once an
// operation with a wet deadline is pending, others slip in between only if
// every deadline still holds. Heat is used only when the painter would wait.
//
// Operations of all copies are numbered copy·n + operation. A decode costs
// time linear in the number of demands after the place where it begins.
type decoder struct {
	*problem
	*state
	trail

	actual []int32         // the order that resulted
	start  []order.Seconds // when each operation begins
	wait   []order.Seconds // how long the painter idles before it
	setups []order.Seconds // and how long the painter sets up

	// A decode is given up when the finish must come after limit: rest is the
	// least time from each operation's start to the finish.
	limit order.Seconds
	rest  []order.Seconds

	began  int // position at which the last decode began,
	states int // and how many states there are then after it
	failed bool
	strict bool // nothing slips in between members of a block

	simulated []order.Seconds // ends, in late
	until     []order.Seconds // in rackFree
	scratch   []int32         // a block
	sorted    []int32         // in ahead
	follow    []int32
	dues      []due // in byDue

	wetCoats   []wetCoat // in holding
	savedCoats []order.Coat
}

func newDecoder(p *problem) *decoder {
	d := &decoder{
		problem: p, state: newState(p), limit: never,
		actual: make([]int32, 0, p.total), start: make([]order.Seconds, p.total), wait: make([]order.Seconds, p.total), setups: make([]order.Seconds, p.total),
		rest: make([]order.Seconds, p.total), simulated: make([]order.Seconds, 64),
	}
	d.forgetRest()
	return d
}

// forgetRest makes rest what holds of any order.
func (d *decoder) forgetRest() {
	for x := range d.rest {
		d.rest[x] = d.least(int32(x))
	}
}

func (d *decoder) reset() {
	if d.begun != nil {
		d.set(d.begun.base)
	} else {
		d.clear()
	}
	d.actual, d.failed = d.actual[:0], false
}

// decode places seq, which must respect problem.before, and reports whether
// every demand could be met.
func (d *decoder) decode(seq []int32) bool { return d.decodeFrom(seq, 0) }

// decodeFrom is decode when seq is unchanged before position from since the
// decode whose states were adopted.
func (d *decoder) decodeFrom(seq []int32, from int) bool {
	k := d.trail.before(from)
	if k > 0 {
		d.set(d.kept[k-1])
		d.actual, d.failed = append(d.actual[:0], seq[:d.placed]...), false
	} else {
		d.reset()
	}
	d.began = d.placed
	for _, x := range seq[d.began:] {
		if d.done[x] {
			continue
		}
		if d.every > 0 && d.placed >= (k+1)*d.every {
			d.leave(k, d.problem, d.state)
			k++
		}
		if d.take(x); d.failed {
			return false
		}
	}
	d.states = k
	return true
}

// adopt keeps the states of the last decode, which was asked to begin at from.
func (d *decoder) adopt(from int) { d.trail.adopt(d.trail.before(from), d.states, d.problem) }

// take places x, after whatever is pending and cannot wait for it.
func (d *decoder) take(x int32) {
	for len(d.pending) > 0 && !d.failed && !d.done[x] && !d.canSlip(x) {
		d.place(d.pending[0], true)
	}
	if !d.done[x] && !d.failed {
		d.place(x, slices.Contains(d.pending, x))
	}
}

// canSlip reports whether x can come next although wet deadlines are pending.
func (d *decoder) canSlip(x int32) bool {
	if d.strict && !slices.Contains(d.pending, x) {
		return false
	}
	if d.cardOf[x] != d.cardOf[d.pending[0]] && !slices.Contains(d.pending, x) && d.crowds(x) {
		return false
	}
	return d.ahead(x, 0) <= 0
}

// ahead looks ahead from x, begun not before from: what is pending, and the rest of the
// block that x begins, has to follow in time. It returns by how much that is missed, and
// leaves in follow the better of two orders: what is due first comes first, or its own
// block before what is pending, as that stands. Neither depends on what comes later in
// the sequence, and what is in time once stays so when its first is placed.
func (d *decoder) ahead(x int32, from order.Seconds) order.Seconds {
	list := append(d.scratch[:0], x)
	if !slices.Contains(d.pending, x) {
		list = d.appendBlock(list, x)
	}
	for _, y := range d.pending {
		if y != x {
			list = append(list, y)
		}
	}
	d.scratch, d.sorted = list, append(d.sorted[:0], list...)
	d.byDue(d.sorted)
	late := d.late(d.sorted, from)
	d.follow = d.sorted[1:]
	if late <= 0 || len(list) <= 2 {
		return late
	}
	if other := d.late(list, from); other < late {
		d.follow, late = list[1:], other
	}
	return late
}

// byDue sorts what follows the first of a list by when it is due, or sooner what must
// come before it.
func (d *decoder) byDue(list []int32) {
	first, rest := list[0], list[1:]
	slices.SortStableFunc(rest, func(a, b int32) int { return cmp.Compare(d.problem.place[d.opOf[a]], d.problem.place[d.opOf[b]]) })
	d.dues = d.dues[:0]
	for _, y := range rest {
		d.dues = append(d.dues, due{y, d.dueAfter(y, first)})
	}
	for i := len(d.dues) - 1; i > 0; i-- {
		y := d.dues[i]
		for j := range d.dues[:i] {
			if z := &d.dues[j]; z.at > y.at && d.cardOf[z.of] == d.cardOf[y.of] && slices.Contains(d.problem.before[d.opOf[y.of]], d.opOf[z.of]) {
				z.at = y.at
			}
		}
	}
	slices.SortStableFunc(d.dues, func(a, b due) int { return cmp.Compare(a.at, b.at) })
	for i := range d.dues {
		rest[i] = d.dues[i].of
	}
}

// A due is when an operation has to begin at the latest.
type due struct {
	of int32
	at order.Seconds
}

// dueAfter is when y is due: as known by now, or once first, of the same block, is done.
func (d *decoder) dueAfter(y, first int32) order.Seconds {
	o := d.opOf[y]
	switch {
	case d.latest[y] < never:
		return d.latest[y] - d.boost*d.heated[d.cardOf[y]]
	case d.cardOf[y] == d.cardOf[first] && d.block[o] >= 0 && d.block[o] == d.block[d.opOf[first]]:
		return d.now + d.ops[d.opOf[first]].Dur + min(d.between(d.opOf[first], o).deadline, never/2)
	}
	return never
}

// crowds reports whether the rack could keep the pending operations waiting once
// the card of x is wet too.
func (d *decoder) crowds(x int32) bool {
	if d.cards-1 <= d.in.Rack {
		return false
	}
	wet := 0
	for k, w := range d.wetUntil {
		c := int32(k)
		if c == d.cardOf[x] || w-d.boost*d.heated[k] > d.now || slices.ContainsFunc(d.pending, func(y int32) bool { return d.cardOf[y] == c }) {
			wet++
		}
	}
	return wet-1 > d.in.Rack
}

// appendBlock adds the members of x's block other than x.
func (d *decoder) appendBlock(list []int32, x int32) []int32 {
	o := d.opOf[x]
	b := d.block[o]
	if b < 0 {
		return list
	}
	for _, m := range d.queue[b] {
		if y := x - o + m; y != x && !d.done[y] {
			list = append(list, y)
		}
	}
	return list
}

// setup is the time the painter needs before x when the last card and brush
// were card and brush.
func (d *decoder) setup(x int32, card int32, brush int32) order.Seconds {
	t := order.Seconds(0)
	if card >= 0 && card != d.cardOf[x] {
		t = d.in.Swap
	}
	return t + d.rinseBefore(x, brush)
}

// rinseBefore is the rinse x needs of a brush that carries the given colour.
func (d *decoder) rinseBefore(x, brush int32) order.Seconds {
	if col := d.color[x]; col != 0 && col != brush {
		return d.in.Rinse
	}
	return 0
}

// late works through list back to back, the first not before from, and returns
// by how much the first missed deadline is missed; 0 when none is.
func (d *decoder) late(list []int32, from order.Seconds) order.Seconds {
	if len(list) > len(d.simulated) {
		d.simulated = make([]order.Seconds, 2*len(list))
	}
	t, card, brush := d.now, d.card, d.brush
	for k, x := range list {
		o, c := d.opOf[x], d.cardOf[x]
		op := &d.ops[o]
		gain := d.boost * d.heated[c]
		s := t
		switch {
		case op.Attended:
			s += d.setup(x, card, brush)
		case op.Dry == 0: // as in earliest
			s = max(d.heatEnd[c], d.from())
		}
		if k == 0 {
			s = max(s, from)
		}
		s = max(s, d.abs[x], d.clock[x]-gain)
		due := d.latest[x]
		if due < never {
			due -= gain
		}
		for j, y := range list[:k] {
			if d.cardOf[y] != c {
				continue
			}
			end := d.simulated[j]
			if b := d.block[o]; b >= 0 && b == d.block[d.opOf[y]] {
				q := d.between(d.opOf[y], o)
				if q.tied {
					s = max(s, end+q.min, end+q.clock)
					due = min(due, end+min(q.deadline, never/2))
				}
				continue
			}
			for i := range d.either[d.opOf[y]] {
				if e := &d.either[d.opOf[y]][i]; e.to == o {
					s = max(s, end+order.Seconds(e.clock))
				}
			}
		}
		if s > due {
			return s - due
		}
		d.simulated[k] = s + op.Dur
		if op.Attended {
			t, card = d.simulated[k], c
			if op.Color != 0 {
				brush = d.color[x]
			}
		}
	}
	return 0
}
