package order

import (
	"cmp"
	"slices"
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

	actual []int32 // the order that resulted
	start  []int   // when each operation begins
	wait   []int   // how long the painter idles before it
	setups []int   // and how long the painter sets up

	// A decode is given up when the finish must come after limit: rest is the
	// least time from each operation's start to the finish.
	limit int
	rest  []int

	began  int // position at which the last decode began,
	states int // and how many states there are then after it
	failed bool
	strict bool // nothing slips in between members of a block

	simulated []int   // ends, in late
	until     []int   // in rackFree
	scratch   []int32 // a block
	sorted    []int32 // in ahead
	follow    []int32
	dues      []due // in byDue

	wetCoats   []wetCoat // in holding
	savedCoats []coat
}

func newDecoder(p *problem) *decoder {
	d := &decoder{
		problem: p, state: newState(p), limit: never,
		actual: make([]int32, 0, p.total), start: make([]int, p.total), wait: make([]int, p.total), setups: make([]int, p.total),
		rest: make([]int, p.total), simulated: make([]int, 64),
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
	d.clear()
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
func (d *decoder) ahead(x int32, from int) int {
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
	at int
}

// dueAfter is when y is due: as known by now, or once first, of the same block, is done.
func (d *decoder) dueAfter(y, first int32) int {
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
func (d *decoder) setup(x int32, card int32, brush int32) int {
	t := 0
	if card >= 0 && card != d.cardOf[x] {
		t = d.in.Swap
	}
	return t + d.rinseBefore(x, brush)
}

// rinseBefore is the rinse x needs of a brush that carries the given colour.
func (d *decoder) rinseBefore(x, brush int32) int {
	if col := d.color[x]; col != 0 && col != brush {
		return d.in.Rinse
	}
	return 0
}

// late works through list back to back, the first not before from, and returns
// by how much the first missed deadline is missed; 0 when none is.
func (d *decoder) late(list []int32, from int) int {
	if len(list) > len(d.simulated) {
		d.simulated = make([]int, 2*len(list))
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
			s = d.heatEnd[c]
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
					s = max(s, end+int(e.clock))
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

// earliest returns when x can start at the soonest: not before the painter,
// its readiness and the rack allow.
func (d *decoder) earliest(x int32) int {
	c := d.cardOf[x]
	s := d.now + d.setup(x, d.card, d.brush)
	if !d.ops[d.opOf[x]].Attended {
		s = d.heatEnd[c]
		if d.ops[d.opOf[x]].Dry > 0 { // it must not wet a card while others were counted dry
			s = max(s, d.now)
		}
	} else {
		s = max(s, d.rackFree(c))
	}
	return max(s, d.abs[x], d.clock[x]-d.boost*d.heated[c])
}

// rackFree returns when at most Rack cards other than c are wet.
func (d *decoder) rackFree(c int32) int {
	if d.cards-1 <= d.in.Rack {
		return 0
	}
	d.until = d.until[:0]
	for k, w := range d.wetUntil {
		if u := w - d.boost*d.heated[k]; k != int(c) && u > d.now {
			d.until = append(d.until, u)
		}
	}
	if len(d.until) <= d.in.Rack {
		return 0
	}
	slices.Sort(d.until)
	return d.until[len(d.until)-d.in.Rack-1]
}

// place gives x its time. When x begins a block, its start is shifted until
// the rest of the block can follow in time.
func (d *decoder) place(x int32, inBlock bool) {
	begins := !inBlock && d.block[d.opOf[x]] >= 0
	s, ok := d.soonest(x, begins)
	if !ok {
		d.failed = true
		return
	}
	if s > d.now && d.mayHeat(d.cardOf[x]) {
		s = d.heat(x, s, begins)
	}
	if due := d.latest[x]; due < never && s+d.boost*d.heated[d.cardOf[x]] > due || s+d.rest[x] > d.limit {
		d.failed = true
		return
	}
	if begins || len(d.pending) > 1 {
		d.ahead(x, s)
		d.pending = append(d.pending[:0], d.follow...)
	}
	d.put(x, s)
}

// soonest is the first start at which x, and with it the block it begins, is in time;
// not ok when there is none.
func (d *decoder) soonest(x int32, begins bool) (s int, ok bool) {
	s = d.earliest(x)
	if !begins {
		return s, true
	}
	s = max(s, d.rackFree(d.cardOf[x])) // for those that follow, where x itself needs nobody
	for range 40 {
		late := d.ahead(x, s)
		if late <= 0 {
			return s, true
		}
		s += late
	}
	return s, false
}

// put records x at s and passes its demands on.
func (d *decoder) put(x int32, s int) {
	c, o := d.cardOf[x], d.opOf[x]
	op := &d.ops[o]
	end := s + op.Dur
	d.done[x], d.start[x] = true, s
	d.placed++
	d.actual = append(d.actual, x)
	d.makespan = max(d.makespan, end)
	if op.Attended {
		d.setups[x] = d.setup(x, d.card, d.brush)
		d.wait[x] = s - d.now - d.setups[x]
		if d.wait[x] >= 20 {
			d.waits++
		}
		if col := d.color[x]; col != 0 && col != d.brush {
			d.changes++
			d.brush = col
		}
		d.now, d.card = end, c
	} else {
		d.resting[c] = max(d.resting[c], end)
		d.setups[x], d.wait[x] = 0, 1 // it waits for whatever it follows
	}
	switch op.Kind {
	case "mask":
		d.masked[c]++
	case "unmask":
		d.unmasked[c]++
	}
	at := end + d.boost*d.heated[c] // the drying clock at its end
	if d.aimed {
		d.end[x], d.coat[x] = end, newCoat(end, *op)
	}
	if op.Dry > 0 {
		d.wetUntil[c] = max(d.wetUntil[c], at+op.Dry)
	}
	d.ask(x, end, at)
	if k := slices.Index(d.pending, x); k >= 0 {
		d.pending = slices.Delete(d.pending, k, k+1)
	}
}

// ask passes the demands of x on, which ended at end, on its card's clock at.
func (d *decoder) ask(x int32, end, at int) {
	o := d.opOf[x]
	base := x - o
	list := d.demands(o)
	for i := range list {
		e := &list[i]
		y := base + e.to
		if d.done[y] {
			continue
		}
		if v := end + int(e.min); v > d.abs[y] {
			d.abs[y] = v
			if v >= d.clock[y] || d.boost > 0 {
				d.cause[y] = x
			}
		}
		if v := at + int(e.clock); v > d.clock[y] {
			d.clock[y] = v
			if v >= d.abs[y] {
				d.cause[y] = x
			}
			if !d.in.Heat.Allowed && v+d.rest[y] > d.limit {
				d.failed = true
				return
			}
		}
		if e.deadline < open {
			d.latest[y] = min(d.latest[y], at+int(e.deadline))
		}
	}
}

// schedule returns what was decoded.
func (d *decoder) schedule() *Schedule {
	var a answer
	a.take(d)
	return a.schedule(d.problem)
}

// An answer is a decoded order with its times.
type answer struct {
	cost
	seq    []int32
	start  []int
	passes []Pass
}

// take takes over what was decoded.
func (a *answer) take(d *decoder) {
	a.cost, a.seq, a.start = d.cost(), append(a.seq[:0], d.actual...), append(a.start[:0], d.start...)
	a.passes = append(a.passes[:0], d.passes...)
}

func (a *answer) clone() *answer {
	return &answer{a.cost, slices.Clone(a.seq), slices.Clone(a.start), slices.Clone(a.passes)}
}

// schedule writes an answer out. Copies are alike; they are counted as they are taken
// up.
func (a *answer) schedule(p *problem) *Schedule {
	s := &Schedule{Instance: p.in.Name, Makespan: a.makespan, Heat: append([]Pass{}, a.passes...), Changes: a.changes, Waits: a.waits}
	for _, x := range a.seq {
		o := &p.ops[p.opOf[x]]
		s.Ops = append(s.Ops, Placed{Op: o.ID, Copy: p.copyOf(x), Start: a.start[x], End: a.start[x] + o.Dur})
	}
	slices.SortStableFunc(s.Ops, func(a, b Placed) int { return a.Start - b.Start })
	slices.SortStableFunc(s.Heat, func(a, b Pass) int { return a.Start - b.Start })
	named := map[int]int{}
	for i := range s.Ops {
		p := &s.Ops[i]
		if _, known := named[p.Copy]; !known {
			named[p.Copy] = len(named)
		}
		p.Copy = named[p.Copy]
	}
	for i := range s.Heat {
		s.Heat[i].Copy = named[s.Heat[i].Copy]
	}
	return s
}

// cost of what was decoded.
func (d *decoder) cost() cost {
	return cost{makespan: d.makespan, changes: d.changes, waits: d.waits, heats: len(d.passes)}
}
