package solver

import (
	"slices"

	"chromaqua/core/order"
)

// earliest returns when x can start at the soonest: not before the painter,
// its readiness and the rack allow.
func (d *decoder) earliest(x int32) order.Seconds {
	c := d.cardOf[x]
	s := d.now + d.setup(x, d.card, d.brush)
	if !d.ops[d.opOf[x]].Attended {
		s = max(d.heatEnd[c], d.from())
		if d.ops[d.opOf[x]].Dry > 0 { // it must not wet a card while others were counted dry
			s = max(s, d.now)
		}
	} else {
		s = max(s, d.rackFree(c))
	}
	return max(s, d.abs[x], d.clock[x]-d.boost*d.heated[c])
}

// from is when anything can begin.
func (d *decoder) from() order.Seconds {
	if d.begun != nil {
		return d.begun.now
	}
	return 0
}

// rackFree returns when at most Rack cards other than c are wet.
func (d *decoder) rackFree(c int32) order.Seconds {
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
func (d *decoder) soonest(x int32, begins bool) (s order.Seconds, ok bool) {
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
func (d *decoder) put(x int32, s order.Seconds) {
	c := d.cardOf[x]
	op := &d.ops[d.opOf[x]]
	end := s + op.Dur
	d.start[x] = s
	d.placed++
	d.actual = append(d.actual, x)
	if op.Attended {
		d.setups[x] = d.setup(x, d.card, d.brush)
		d.wait[x] = s - d.now - d.setups[x]
		if d.wait[x] >= 20 {
			d.waits++
		}
		if col := d.color[x]; col != 0 && col != d.brush {
			d.changes++
		}
	} else {
		d.setups[x], d.wait[x] = 0, 1 // it waits for whatever it follows
	}
	laid := end + d.boost*d.heated[c]
	d.leaves(x, end, laid, order.CoatOf(laid, *op))
	if k := slices.Index(d.pending, x); k >= 0 {
		d.pending = slices.Delete(d.pending, k, k+1)
	}
}

// leaves records what x leaves that ends at end: a coat laid at laid on its card's
// clock.
func (d *decoder) leaves(x int32, end, laid order.Seconds, coat order.Coat) {
	c, o := d.cardOf[x], d.opOf[x]
	op := &d.ops[o]
	d.done[x] = true
	d.makespan = max(d.makespan, end)
	if op.Attended {
		if col := d.color[x]; col != 0 {
			d.brush = col
		}
		d.now, d.card = end, c
	} else {
		d.resting[c] = max(d.resting[c], end)
	}
	switch op.Kind {
	case order.Mask:
		d.masked[c]++
	case order.Unmask:
		d.unmasked[c]++
	}
	if d.aimed {
		d.end[x], d.laid[x], d.coat[x] = end, laid, coat
	}
	if op.Dry > 0 {
		d.wetUntil[c] = max(d.wetUntil[c], coat.Touch)
	}
	d.ask(x, end, laid, coat)
}

// ask passes the demands of x on, which ended at end and left a coat at a time of its
// card's clock.
func (d *decoder) ask(x int32, end, at order.Seconds, coat order.Coat) {
	o := d.opOf[x]
	base := x - o
	list := d.demands(o)
	for i := range list {
		e := &list[i]
		y := base + e.to
		if d.done[y] {
			continue
		}
		if v := end + order.Seconds(e.min); v > d.abs[y] {
			d.abs[y] = v
			if v >= d.clock[y] || d.boost > 0 {
				d.cause[y] = x
			}
		}
		dry := at + order.Seconds(e.clock)
		switch e.goal {
		case byTouch:
			dry = coat.Touch
		case byBone:
			dry = coat.Bone
		}
		if dry > d.clock[y] {
			d.clock[y] = dry
			if dry >= d.abs[y] {
				d.cause[y] = x
			}
			if !d.in.Heat.Allowed && dry+d.rest[y] > d.limit {
				d.failed = true
				return
			}
		}
		if e.deadline < open {
			d.latest[y] = min(d.latest[y], at+order.Seconds(e.deadline))
		}
	}
}
