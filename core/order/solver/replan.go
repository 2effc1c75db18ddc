package solver

import (
	"cmp"
	"context"
	"errors"
	"maps"
	"slices"

	"chromaqua/core/order"
)

// keepOrder is what it must save to move an operation out of its old order, s.
const keepOrder = 10

// ReplanTries is how many tries a screen gives an instance that has been begun: some
// hundredths of a second.
func ReplanTries(in *order.Instance) int {
	const work, least, most = 600_000, 40, 3000
	return max(least, min(most, work/max(1, len(in.Ops))))
}

// A begun order is where a search goes on from.
type begun struct {
	now  order.Seconds
	base *state
	left []int32 // operations to be done, in the old order
	rank []int32 // places in the old order
}

// Replan orders what is left of a schedule that has been begun, beginning with the old
// order: an operation leaves its place only where it must, or where that saves ten
// seconds. What was to meet while wet and comes too late is tied no more: it waits until
// what it was to go into is touch-dry. The instance must be of single cards; several
// are jobs of it.
func Replan(ctx context.Context, in *order.Instance, old *order.Schedule, was order.Progress, b Budget) (*order.Replanned, error) {
	if in.Copies != 1 {
		return nil, errors.New("only an order of single cards is replanned; make each copy a job of its own")
	}
	if err := was.Check(in); err != nil {
		return nil, err
	}
	var missed []order.Missed
	for {
		p, err := compile(in)
		if err != nil {
			return nil, err
		}
		p.begun = p.goOn(old, &was)
		late := p.missed(&was)
		if len(late) == 0 {
			if best := p.searchAll(ctx, b); best != nil {
				return replanned(best, p, was, missed), nil
			}
			late = p.tiesToPast(&was) // what is begun cannot be ended as it was meant to
		}
		if len(late) == 0 {
			return nil, p.noOrder()
		}
		missed = append(missed, late...)
		in = untied(in, late)
	}
}

// replanned is the whole of an order: what is done, and what is left.
func replanned(left *order.Schedule, p *problem, was order.Progress, missed []order.Missed) *order.Replanned {
	r := &order.Replanned{Schedule: *left, Missed: missed}
	seq := make([]int32, 0, len(left.Ops))
	for _, o := range left.Ops {
		seq = append(seq, p.index[o.Op])
	}
	r.Moved = len(seq) - p.begun.inOrder(seq)
	var done []order.Placed
	for _, d := range was.Done {
		done = append(done, d.Placed)
	}
	r.Ops = append(done, r.Ops...)
	slices.SortStableFunc(r.Ops, func(a, b order.Placed) int { return cmp.Compare(a.Start, b.Start) })
	for _, o := range r.Ops {
		r.Makespan = max(r.Makespan, o.End)
	}
	return r
}

// untied is an instance in which what was missed is to meet no more, but waits until the
// other is touch-dry.
func untied(in *order.Instance, late []order.Missed) *order.Instance {
	out := *in
	of := map[order.Missed]bool{}
	for _, m := range late {
		of[m] = true
	}
	out.Arcs, out.Joins = nil, nil
	for _, a := range in.Arcs {
		if a.Type == order.Wet && of[order.Missed{Into: a.From, Op: a.To}] {
			a.Type, a.Clock, a.Max = order.Dry, 0, 0
		}
		out.Arcs = append(out.Arcs, a)
	}
	for _, j := range in.Joins {
		switch {
		case of[order.Missed{Into: j.A, Op: j.B}]:
			out.Arcs = append(out.Arcs, order.Arc{From: j.A, To: j.B, Type: order.Dry})
		case of[order.Missed{Into: j.B, Op: j.A}]:
			out.Arcs = append(out.Arcs, order.Arc{From: j.B, To: j.A, Type: order.Dry})
		default:
			out.Joins = append(out.Joins, j)
		}
	}
	return &out
}

// goOn is the state after what has been done.
func (p *problem) goOn(old *order.Schedule, was *order.Progress) *begun {
	g := &begun{now: was.Now, rank: make([]int32, p.total)}
	for i, o := range old.Ops {
		if x, ok := p.index[o.Op]; ok {
			g.rank[x] = int32(i)
		}
	}
	d := newDecoder(p)
	done := slices.Clone(was.Done)
	slices.SortStableFunc(done, func(a, b order.Past) int { return cmp.Compare(a.End, b.End) })
	for _, o := range done {
		x := p.index[o.Op]
		d.start[x] = o.Start
		coat := order.CoatOf(o.Laid, p.ops[x])
		if o.Coat != nil {
			coat = *o.Coat
		}
		d.leaves(x, o.End, o.Laid, coat)
	}
	d.now = max(d.now, was.Now)
	for x := range int32(p.total) {
		if !d.done[x] {
			g.left = append(g.left, x)
			if p.opened(d, x) {
				d.pending = append(d.pending, x)
			}
		}
	}
	slices.SortStableFunc(g.left, func(a, b int32) int { return cmp.Compare(g.rank[a], g.rank[b]) })
	slices.SortStableFunc(d.pending, func(a, b int32) int {
		return cmp.Or(cmp.Compare(d.latest[a], d.latest[b]), cmp.Compare(p.place[a], p.place[b]))
	})
	g.base = d.state
	return g
}

// opened reports whether an operation is due: it is to meet a coat that is wet, and can
// be done.
func (p *problem) opened(d *decoder, x int32) bool {
	return d.latest[x] < never && !slices.ContainsFunc(p.before[x], func(y int32) bool { return !d.done[y] })
}

// missed lists what is due and cannot be done in time, the first of them alone where
// they are in each other's way.
func (p *problem) missed(was *order.Progress) []order.Missed {
	d := newDecoder(p)
	d.set(p.begun.base)
	var out []order.Missed
	for _, x := range p.begun.left {
		if due := d.latest[x]; due < never && max(d.earliest(x), was.Now) > due {
			out = append(out, p.tiedTo(x, due, was)...)
		}
	}
	if len(out) > 0 || len(d.pending) < 2 {
		return out
	}
	for k := range d.pending { // the first that is late however it is gone about
		if d.late(d.pending[:k+1], 0) > 0 {
			return p.tiedTo(d.pending[k], d.latest[d.pending[k]], was)
		}
	}
	return nil
}

// tiedTo lists what lets an operation be due then at the latest.
func (p *problem) tiedTo(x int32, due order.Seconds, was *order.Progress) (out []order.Missed) {
	for _, o := range was.Done {
		for _, e := range p.demands(p.index[o.Op]) {
			if e.to == x && e.deadline < open && o.Laid+order.Seconds(e.deadline) <= due {
				out = append(out, order.Missed{Into: o.Op, Op: p.ops[x].ID})
			}
		}
	}
	return out
}

// tiesToPast lists all that is left and is to meet what is done while that is wet.
func (p *problem) tiesToPast(was *order.Progress) []order.Missed {
	all := map[order.Missed]bool{}
	for _, x := range p.begun.left {
		for _, m := range p.tiedTo(x, never, was) {
			all[m] = true
		}
	}
	return slices.SortedFunc(maps.Keys(all), func(a, b order.Missed) int {
		return cmp.Or(cmp.Compare(a.Into, b.Into), cmp.Compare(a.Op, b.Op))
	})
}

// inOrder is how many operations of a sequence can stay where they were in the old
// order: the length of its longest rising run.
func (g *begun) inOrder(seq []int32) int {
	var ends []int32 // least last rank of rising runs, by length
	for _, x := range seq {
		k, _ := slices.BinarySearch(ends, g.rank[x])
		if k == len(ends) {
			ends = append(ends, g.rank[x])
		} else {
			ends[k] = g.rank[x]
		}
	}
	return len(ends)
}

// again finds first answers of an order that has been begun: the old order if it can be
// kept, without anything between what has to meet if that is needed, else any.
func (s *search) again() {
	for _, strict := range []bool{false, true} {
		if s.dec.strict = strict; s.dec.decode(s.begun.left) {
			s.keep()
			return
		}
	}
	s.dec.strict = false
	for k := 0; k < firstMost && s.best == nil && !s.over; k++ {
		if s.dispatch(k) {
			s.keep()
		}
		s.spend(s.peek())
	}
}
