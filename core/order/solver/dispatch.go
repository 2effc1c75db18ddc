package solver

import (
	"math"
	"slices"

	"chromaqua/core/order"
)

// InReadingOrder returns the schedule of someone who works through the regions
// from top left to bottom right, each step as soon as it may, without looking
// ahead. It is what a better order is compared with.
func InReadingOrder(in *order.Instance) (*order.Schedule, error) {
	p, err := compile(in)
	if err != nil {
		return nil, err
	}
	type place struct{ x, y float64 }
	at := map[int]place{}
	for _, r := range in.Regions {
		at[r.ID] = place{r.X, math.Floor(r.Y * 8)} // eight lines of reading
	}
	places, depth := make([]place, p.n), p.depths()
	for o := range p.n {
		for _, r := range p.ops[o].Regions {
			places[o] = at[r]
		}
	}
	seq := p.sequence(func(a, b int32) bool {
		oa, ob := p.opOf[a], p.opOf[b]
		switch pa, pb := places[oa], places[ob]; {
		case p.copyOf(a) != p.copyOf(b):
			return a < b
		case depth[oa] != depth[ob]:
			return depth[oa] < depth[ob]
		case pa.y != pb.y:
			return pa.y < pb.y
		case pa.x != pb.x:
			return pa.x < pb.x
		}
		return a < b
	})
	d := newDecoder(p)
	if !d.decode(seq) {
		return nil, p.noOrder()
	}
	s := d.schedule()
	s.Bound = p.bound()
	return s, nil
}

// depths counts, for each operation, those that must come before it on its longest
// chain.
func (p *problem) depths() []int {
	out := make([]int, p.n)
	order, _ := p.topological() // compiled problems have no circles
	for _, x := range order {
		for _, y := range p.after[x] {
			out[y] = max(out[y], out[x]+1)
		}
	}
	return out
}

// A queue lists the operations that may come next: those of which all that must come
// before is done.
type queue struct {
	*problem
	left  []int16 // how many must still come before
	ready []int32
	taken int // of the decoder's actual order
}

func (p *problem) newQueue() *queue {
	q := &queue{problem: p, left: make([]int16, p.total), ready: make([]int32, 0, p.total)}
	for x := range q.left {
		if q.left[x] = int16(len(p.before[x%p.n])); q.left[x] == 0 {
			q.ready = append(q.ready, int32(x))
		}
	}
	if p.begun != nil {
		for x := range int32(p.total) {
			if q.past(x) {
				q.done(x)
			}
		}
	}
	return q
}

// past reports whether an operation was done before the order was begun again.
func (q *queue) past(x int32) bool { return q.begun != nil && q.begun.base.done[x] }

// done takes an operation out and lets in those that waited for it.
func (q *queue) done(x int32) {
	if i := slices.Index(q.ready, x); i >= 0 {
		q.ready[i] = q.ready[len(q.ready)-1]
		q.ready = q.ready[:len(q.ready)-1]
	}
	o := q.opOf[x]
	base := x - o
	for _, y := range q.after[o] {
		if q.left[base+y]--; q.left[base+y] == 0 && !q.past(base+y) {
			q.ready = append(q.ready, base+y)
		}
	}
}

// follow lets the queue know what a decoder has placed, and reports whether the
// decoder goes on.
func (q *queue) follow(d *decoder) bool {
	for ; q.taken < len(d.actual); q.taken++ {
		q.done(d.actual[q.taken])
	}
	return !d.failed
}

// sequence lists all operations of all copies respecting problem.before, at
// each turn the least one by less.
func (p *problem) sequence(less func(a, b int32) bool) []int32 {
	q := p.newQueue()
	seq := make([]int32, 0, p.total)
	for len(q.ready) > 0 {
		least := q.ready[0]
		for _, x := range q.ready {
			if less(x, least) {
				least = x
			}
		}
		seq = append(seq, least)
		q.done(least)
	}
	return seq
}

// begin makes the decoder ready to be fed operation by operation.
func (s *search) begin() *decoder {
	d := s.dec
	d.limit = never
	d.reset()
	return d
}

// dispatch builds a schedule operation by operation, each time the one of
// least weighted priority among those that may come next.
func (s *search) dispatch(k int) bool {
	r := s.rng
	wTail, wWait, wRinse, wTouch, wMask := 0.25, 1.0, 1.0, 0.1, 0.5
	if k > 0 {
		wTail, wWait, wRinse, wTouch, wMask = r.Float64()*r.Float64()*1.2, 0.5+2*r.Float64(), 3*r.Float64(), r.Float64()*0.6, 2*r.Float64()
	}
	static := make([]float64, s.n)
	for o := range int32(s.n) {
		touch := order.Seconds(0)
		for _, e := range s.either[o] {
			touch += s.quick(o, e)
		}
		static[o] = -wTail*float64(s.tail[o]+s.ops[o].Dur) - wTouch*float64(touch)/8 - wMask*float64(s.unmaskIn[o])
		if k > 0 {
			static[o] *= 0.8 + 0.4*r.Float64()
		}
	}
	d, q := s.begin(), s.newQueue()
	for len(q.ready) > 0 {
		pick, least := q.ready[0], math.Inf(1)
		for _, x := range q.ready {
			setup := d.setup(x, d.card, d.brush)
			wait := max(0, max(d.abs[x], d.clock[x]-d.boost*d.heated[s.cardOf[x]])-d.now-setup)
			if s.in.Heat.Allowed {
				wait /= order.Seconds(max(1, s.in.Heat.Factor))
			}
			v := wWait*float64(wait) + wRinse*float64(setup) + static[s.opOf[x]]
			if d.latest[x] < never {
				v -= 1e6 // it is wet now
			}
			if v < least {
				pick, least = x, v
			}
		}
		if d.take(pick); !q.follow(d) {
			return false
		}
	}
	return true
}

// bunch builds a schedule colour by colour: with a colour in the brush it does
// all that can be done at once, then takes the colour with most to do.
func (s *search) bunch(k int) bool {
	r := s.rng
	noise, wTail, pow := 0.0, 0.3, 1.0
	if k > 0 {
		noise, wTail, pow = 0.6*r.Float64(), r.Float64(), 0.5+r.Float64()
	}
	urgent := make([]float64, s.n)
	for o := range s.n {
		urgent[o] = float64(s.tail[o]+s.ops[o].Dur) * (1 + noise*r.Float64())
	}
	d, q := s.begin(), s.newQueue()
	work := map[int32]float64{} // by colour, that can be begun
	for len(q.ready) > 0 {
		clear(work)
		pick, least := q.ready[0], math.Inf(1)
		for _, x := range q.ready {
			wait := max(0, max(d.abs[x], d.clock[x])-d.now)
			v := 1e6 + float64(wait)
			switch {
			case d.latest[x] < never:
				v = -1e12
			case wait == 0 && (d.color[x] == d.brush || d.color[x] == 0):
				v = -1e9 - urgent[s.opOf[x]]
			case wait <= s.in.Rinse:
				work[d.color[x]] += float64(s.ops[s.opOf[x]].Dur)
			}
			if v < least {
				pick, least = x, v
			}
		}
		if least > 0 && len(work) > 0 {
			least = math.Inf(1)
			for _, x := range q.ready {
				if max(d.abs[x], d.clock[x])-d.now > s.in.Rinse {
					continue
				}
				if v := -math.Pow(work[d.color[x]], pow) * (1 + wTail*urgent[s.opOf[x]]/float64(max(1, s.bound))); v < least {
					pick, least = x, v
				}
			}
		}
		if d.take(pick); !q.follow(d) {
			return false
		}
	}
	return true
}
