package solver

import (
	"cmp"
	"slices"

	"chromaqua/core/order"
)

// schedule returns what was decoded.
func (d *decoder) schedule() *order.Schedule {
	var a answer
	a.take(d)
	return a.schedule(d.problem)
}

// An answer is a decoded order with its times.
type answer struct {
	cost
	seq    []int32
	start  []order.Seconds
	passes []order.Pass
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
func (a *answer) schedule(p *problem) *order.Schedule {
	s := &order.Schedule{Instance: p.in.Name, Makespan: a.makespan, Heat: append([]order.Pass{}, a.passes...), Changes: a.changes, Waits: a.waits}
	for _, x := range a.seq {
		o := &p.ops[p.opOf[x]]
		s.Ops = append(s.Ops, order.Placed{Op: o.ID, Copy: p.copyOf(x), Start: a.start[x], End: a.start[x] + o.Dur})
	}
	slices.SortStableFunc(s.Ops, func(a, b order.Placed) int { return cmp.Compare(a.Start, b.Start) })
	slices.SortStableFunc(s.Heat, func(a, b order.Pass) int { return cmp.Compare(a.Start, b.Start) })
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
	c := cost{makespan: d.makespan, changes: d.changes, waits: d.waits, heats: len(d.passes)}
	if d.begun != nil {
		c.stay = keepOrder * order.Seconds(len(d.actual)-d.begun.inOrder(d.actual))
	}
	return c
}
