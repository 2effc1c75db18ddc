package order

import "slices"

// A decoder turns a sequence of operations into a timed schedule. The painter
// takes them in that order, each as early as the demands allow; once an
// operation with a wet deadline is pending, others slip in between only if
// every deadline still holds. Heat is used only when the painter would wait.
//
// Operations of all copies are numbered copy·n + operation. A decode costs
// time linear in the number of demands.
type decoder struct {
	*problem

	// Readiness of each operation: absolute, on its card's drying clock, and
	// the latest start on that clock.
	abs, clock, latest []int
	done               []bool
	start              []int

	// The painter.
	now   int
	card  int32
	brush int32

	// Per copy: seconds of heat, end of the last pass, clock at which it is
	// dry, end of unattended work, masks and unmasks done.
	heated, heatEnd, wetUntil, resting []int
	masked, unmasked                   []int

	pending []int32 // members of begun blocks not yet placed, in sequence order
	rank    []int32 // position of each operation in the sequence
	actual  []int32 // the order that resulted

	passes                   []Pass
	makespan, changes, waits int
	failed                   bool
	simEnd                   []int
}

func newDecoder(p *problem) *decoder {
	c := p.in.Copies
	return &decoder{
		problem: p,
		abs:     make([]int, p.total), clock: make([]int, p.total), latest: make([]int, p.total),
		done: make([]bool, p.total), start: make([]int, p.total), rank: make([]int32, p.total),
		heated: make([]int, c), heatEnd: make([]int, c), wetUntil: make([]int, c), resting: make([]int, c),
		masked: make([]int, c), unmasked: make([]int, c),
		actual: make([]int32, 0, p.total), simEnd: make([]int, 64),
	}
}

func (d *decoder) reset() {
	clear(d.abs)
	clear(d.clock)
	clear(d.done)
	for i := range d.latest {
		d.latest[i] = never
	}
	for _, s := range [][]int{d.heated, d.heatEnd, d.wetUntil, d.resting, d.masked, d.unmasked} {
		clear(s)
	}
	d.now, d.card, d.brush = 0, -1, 0
	d.pending, d.actual, d.passes = d.pending[:0], d.actual[:0], d.passes[:0]
	d.makespan, d.changes, d.waits, d.failed = 0, 0, 0, false
}

// decode places seq, which must respect problem.before, and reports whether
// every demand could be met.
func (d *decoder) decode(seq []int32) bool {
	d.reset()
	for i, x := range seq {
		d.rank[x] = int32(i)
	}
	for _, x := range seq {
		if !d.done[x] {
			d.take(x)
		}
		if d.failed {
			return false
		}
	}
	return true
}

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
	if d.pending[0] == x {
		return true
	}
	list := make([]int32, 0, 16)
	list = append(list, x)
	if !slices.Contains(d.pending, x) {
		if d.copyOf[x] != d.copyOf[d.pending[0]] && d.in.Copies-1 > d.in.Rack {
			return false // it could fill the rack
		}
		list = d.appendBlock(list, x)
	}
	for _, y := range d.pending {
		if y != x {
			list = append(list, y)
		}
	}
	return d.late(list, 0) <= 0
}

// appendBlock adds the members of x's block other than x, in sequence order.
func (d *decoder) appendBlock(list []int32, x int32) []int32 {
	o := d.opOf[x]
	b := d.block[o]
	if b < 0 {
		return list
	}
	from, base := len(list), x-o
	for _, m := range d.member[b] {
		if m != o && !d.done[base+m] {
			list = append(list, base+m)
		}
	}
	slices.SortFunc(list[from:], func(a, b int32) int { return int(d.rank[a] - d.rank[b]) })
	return list
}

// setup is the time the painter needs before x when the last card and brush
// were card and brush.
func (d *decoder) setup(x int32, card int32, brush int32) int {
	t := 0
	if card >= 0 && card != d.copyOf[x] {
		t = d.in.Swap
	}
	if col := d.color[x]; col != 0 && col != brush {
		t += d.in.Rinse
	}
	return t
}

// late works through list back to back, the first not before from, and returns
// by how much the first missed deadline is missed; 0 when none is.
func (d *decoder) late(list []int32, from int) int {
	if len(list) > len(d.simEnd) {
		d.simEnd = make([]int, 2*len(list))
	}
	t, card, brush := d.now, d.card, d.brush
	for k, x := range list {
		o, c := d.opOf[x], d.copyOf[x]
		op := &d.ops[o]
		gain := d.boost * d.heated[c]
		s := t + d.setup(x, card, brush)
		if !op.Attended {
			s = t
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
			if d.copyOf[y] != c {
				continue
			}
			end := d.simEnd[j]
			if b := d.block[o]; b >= 0 && b == d.block[d.opOf[y]] {
				if e, ok := d.pair[[2]int32{d.opOf[y], o}]; ok {
					s = max(s, end+e.min, end+e.clock)
					due = min(due, end+min(e.deadline, never/2))
				}
				continue
			}
			for _, e := range d.either[d.opOf[y]] {
				if e.to == o {
					s = max(s, end+e.clock)
				}
			}
		}
		if s > due {
			return s - due
		}
		d.simEnd[k] = s + op.Dur
		if op.Attended {
			t, card = d.simEnd[k], c
			if op.Color != 0 {
				brush = d.color[x]
			}
		}
	}
	return 0
}

// earliest returns when x can start at the soonest: not before the painter,
// its readiness and the rack allow, and not so early that the rest of its
// block would come too late.
func (d *decoder) earliest(x int32) int {
	c := d.copyOf[x]
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
	if d.in.Copies-1 <= d.in.Rack {
		return 0
	}
	var until []int
	for k, w := range d.wetUntil {
		if k != int(c) && w-d.boost*d.heated[k] > d.now {
			until = append(until, w-d.boost*d.heated[k])
		}
	}
	if len(until) <= d.in.Rack {
		return 0
	}
	slices.Sort(until)
	return until[len(until)-d.in.Rack-1]
}

// place gives x its time. When x begins a block, its start is shifted until
// the rest of the block can follow in time.
func (d *decoder) place(x int32, inBlock bool) {
	c := d.copyOf[x]
	s := d.earliest(x)
	begins := !inBlock && d.block[d.opOf[x]] >= 0
	if begins {
		s = d.shift(x, s)
		if d.failed {
			return
		}
	}
	if wait := s - d.now; wait > 0 && d.mayHeat(c) {
		s = d.heat(x, s, begins)
	}
	if due := d.latest[x]; due < never && s+d.boost*d.heated[c] > due {
		d.failed = true
		return
	}
	if begins {
		d.pending = d.appendBlock(d.pending, x)
	}
	d.put(x, s)
}

// shift returns the first start from s on at which x's whole block is in time.
func (d *decoder) shift(x int32, s int) int {
	list := d.appendBlock([]int32{x}, x)
	list = append(list, d.pending...)
	for range 40 {
		late := d.late(list, s)
		if late <= 0 {
			return s
		}
		s += late
	}
	d.failed = true
	return s
}

// mayHeat reports whether the heat tool may be used on copy c now.
func (d *decoder) mayHeat(c int32) bool {
	if !d.in.Heat.Allowed || d.resting[c] > d.now {
		return false
	}
	if len(d.pending) > 0 { // heat would close the wet windows
		return false
	}
	return d.in.Heat.WithMask || d.masks == 0 || d.masked[c] == 0 || d.unmasked[c] == d.unmasks
}

// heat dries copy c for as long as it takes for x to start, if that is sooner
// than waiting until s, and returns the start.
func (d *decoder) heat(x int32, s int, begins bool) int {
	c := d.copyOf[x]
	from := max(d.now, d.rackFree(c))
	if d.card >= 0 && d.card != c {
		from = max(from, d.now+d.in.Swap)
	}
	rinse := 0
	if col := d.color[x]; col != 0 && col != d.brush {
		rinse = d.in.Rinse
	}
	h := max(d.in.Heat.Min, (s-from-rinse+d.boost)/(d.boost+1))
	if from+h+rinse >= s {
		return s
	}
	saved := [...]int{d.now, d.heated[c], d.heatEnd[c], int(d.card)}
	d.now, d.card = from+h, c
	d.heated[c] += h
	d.heatEnd[c] = from + h
	sooner := d.earliest(x)
	if begins {
		sooner = d.shift(x, sooner)
	}
	if d.failed || sooner >= s {
		d.failed = false
		d.now, d.heated[c], d.heatEnd[c], d.card = saved[0], saved[1], saved[2], int32(saved[3])
		return s
	}
	d.passes = append(d.passes, Pass{Copy: int(c), Start: from, End: from + h})
	return sooner
}

// put records x at s and passes its demands on.
func (d *decoder) put(x int32, s int) {
	c, o := d.copyOf[x], d.opOf[x]
	op := &d.ops[o]
	end := s + op.Dur
	d.done[x], d.start[x] = true, s
	d.actual = append(d.actual, x)
	d.makespan = max(d.makespan, end)
	if op.Attended {
		if s-d.now-d.setup(x, d.card, d.brush) >= 20 {
			d.waits++
		}
		if col := d.color[x]; col != 0 && col != d.brush {
			d.changes++
			d.brush = col
		}
		d.now, d.card = end, c
	} else {
		d.resting[c] = max(d.resting[c], end)
	}
	switch op.Kind {
	case "mask":
		d.masked[c]++
	case "unmask":
		d.unmasked[c]++
	}
	base := x - o
	at := end + d.boost*d.heated[c] // the drying clock at its end
	if op.Dry > 0 {
		d.wetUntil[c] = max(d.wetUntil[c], at+op.Dry)
	}
	for i := range d.next[o] {
		e := &d.next[o][i]
		y := base + e.to
		d.abs[y] = max(d.abs[y], end+e.min)
		d.clock[y] = max(d.clock[y], at+e.clock)
		if e.deadline < never {
			d.latest[y] = min(d.latest[y], at+e.deadline)
		}
	}
	for i := range d.either[o] {
		e := &d.either[o][i]
		y := base + e.to
		if d.done[y] {
			continue
		}
		d.abs[y] = max(d.abs[y], end)
		d.clock[y] = max(d.clock[y], at+e.clock)
		if e.deadline < never {
			d.latest[y] = min(d.latest[y], at+e.deadline)
		}
	}
	if k := slices.Index(d.pending, x); k >= 0 {
		d.pending = slices.Delete(d.pending, k, k+1)
	}
}

// schedule returns what was decoded.
func (d *decoder) schedule() *Schedule {
	s := &Schedule{Instance: d.in.Name, Makespan: d.makespan, Heat: slices.Clone(d.passes), Changes: d.changes, Waits: d.waits}
	for _, x := range d.actual {
		o := &d.ops[d.opOf[x]]
		s.Ops = append(s.Ops, Placed{Op: o.ID, Copy: int(d.copyOf[x]), Start: d.start[x], End: d.start[x] + o.Dur})
	}
	slices.SortStableFunc(s.Ops, func(a, b Placed) int { return a.Start - b.Start })
	if s.Heat == nil {
		s.Heat = []Pass{}
	}
	return s
}
