package order

import (
	"context"
	"math"
	"math/rand/v2"
	"slices"
)

// Budget says how long [Solve] may look for a better order. It stops at the
// first of: Iterations tries (when positive), the end of its context, or an
// order that is proven to be the shortest.
type Budget struct {
	Iterations int
	Seed       uint64
}

// defaultIterations is used when neither the budget nor the context sets a limit.
const defaultIterations = 20_000

// Solve returns the best order it finds: shortest first, then with the fewest
// colour changes and waits. It starts from priority dispatches and improves by
// annealing over insertions. The same instance, iterations and seed give the
// same order. Without time for anything it still returns a first feasible
// order; only when none exists is the error [ErrNoOrder].
func Solve(ctx context.Context, in *Instance, b Budget) (*Schedule, error) {
	p, err := compile(in)
	if err != nil {
		return nil, err
	}
	if _, timed := ctx.Deadline(); !timed && b.Iterations <= 0 {
		b.Iterations = defaultIterations
	}
	s := &search{
		problem: p, dec: newDecoder(p), bound: p.bound(),
		rng: rand.New(rand.NewPCG(b.Seed, 0x5eed)), left: b.Iterations, ctx: ctx,
	}
	s.run(b.Iterations)
	if s.best == nil {
		return nil, ErrNoOrder
	}
	out := s.best
	out.Bound = s.bound
	return out, nil
}

// InReadingOrder returns the schedule of someone who works through the regions
// from top left to bottom right, each step as soon as it may, without looking
// ahead. It is what a better order is compared with.
func InReadingOrder(in *Instance) (*Schedule, error) {
	p, err := compile(in)
	if err != nil {
		return nil, err
	}
	type place struct{ x, y float64 }
	at := map[int]place{}
	for _, r := range in.Regions {
		at[r.ID] = place{r.X, math.Floor(r.Y * 8)} // eight lines of reading
	}
	key := func(o int32) (layer int, pl place) {
		for _, r := range p.ops[o].Regions {
			pl = at[r]
		}
		return p.depth(o), pl
	}
	seq := p.sequence(func(a, b int32) bool {
		la, pa := key(p.opOf[a])
		lb, pb := key(p.opOf[b])
		switch {
		case p.copyOf[a] != p.copyOf[b]:
			return a < b
		case la != lb:
			return la < lb
		case pa.y != pb.y:
			return pa.y < pb.y
		case pa.x != pb.x:
			return pa.x < pb.x
		}
		return a < b
	})
	d := newDecoder(p)
	if !d.decode(seq) {
		return nil, ErrNoOrder
	}
	s := d.schedule()
	s.Bound = p.bound()
	return s, nil
}

// depth counts the operations that must come before o on its longest chain.
func (p *problem) depth(o int32) int {
	d := 0
	for _, b := range p.before[o] {
		d = max(d, 1+p.depth(b))
	}
	return d
}

// sequence lists all operations of all copies respecting problem.before, at
// each turn the least one by less.
func (p *problem) sequence(less func(a, b int32) bool) []int32 {
	left := make([]int, p.total)
	var ready, seq []int32
	for i := range left {
		if left[i] = len(p.before[i%p.n]); left[i] == 0 {
			ready = append(ready, int32(i))
		}
	}
	for len(ready) > 0 {
		k := 0
		for i := range ready {
			if less(ready[i], ready[k]) {
				k = i
			}
		}
		x := ready[k]
		ready = slices.Delete(ready, k, k+1)
		seq = append(seq, x)
		base := x - p.opOf[x]
		for _, y := range p.after[p.opOf[x]] {
			if left[base+y]--; left[base+y] == 0 {
				ready = append(ready, base+y)
			}
		}
	}
	return seq
}

// search is one run of Solve.
type search struct {
	*problem
	dec   *decoder
	ctx   context.Context
	rng   *rand.Rand
	bound int
	left  int // iterations; ≤ 0 when only the context limits

	seq      []int32 // the order being changed
	pos      []int32 // its inverse
	best     *Schedule
	bestSeq  []int32
	bestCost cost
	tick     int
}

// A cost is compared by its fields in order.
type cost struct{ makespan, changes, waits, heats int }

func (a cost) less(b cost) bool {
	switch {
	case a.makespan != b.makespan:
		return a.makespan < b.makespan
	case a.changes != b.changes:
		return a.changes < b.changes
	case a.waits != b.waits:
		return a.waits < b.waits
	}
	return a.heats < b.heats
}

func (d *decoder) cost() cost { return cost{d.makespan, d.changes, d.waits, len(d.passes)} }

// stop reports whether the budget is spent or nothing can be gained.
func (s *search) stop() bool {
	s.tick++
	if s.left > 0 && s.tick > s.left {
		return true
	}
	return s.ctx.Err() != nil
}

func (s *search) keep() {
	c := s.dec.cost()
	if s.best == nil || c.less(s.bestCost) {
		s.bestCost, s.best = c, s.dec.schedule()
		s.bestSeq = append(s.bestSeq[:0], s.dec.actual...)
	}
}

func (s *search) run(iterations int) {
	type start struct {
		seq []int32
		c   cost
	}
	var starts []start
	for k := range 60 {
		if k > 0 && (s.stop() || s.proven()) {
			break
		}
		if s.dispatch(k) {
			s.keep()
			starts = append(starts, start{slices.Clone(s.dec.actual), s.dec.cost()})
		}
	}
	if s.best == nil {
		if seq := s.sequence(func(a, b int32) bool { return a < b }); s.dec.decode(seq) {
			s.keep()
			starts = append(starts, start{slices.Clone(s.dec.actual), s.dec.cost()})
		}
	}
	if len(starts) == 0 {
		return
	}
	slices.SortStableFunc(starts, func(a, b start) int {
		if a.c.less(b.c) {
			return -1
		}
		if b.c.less(a.c) {
			return 1
		}
		return 0
	})
	s.pos = make([]int32, s.total)
	// Rounds of annealing, in turn from the best so far, from the best
	// dispatches and from anywhere, each at a temperature of its own.
	for round := 0; !s.stop() && !s.settled(); round++ {
		from := s.bestSeq
		switch round % 4 {
		case 1, 3:
			from = starts[round/2%min(8, len(starts))].seq
		case 2:
			if s.total <= smallTotal {
				from = s.anySequence()
			}
		}
		s.seq = append(s.seq[:0], from...)
		s.anneal(20*s.total+400, coolest*math.Pow(hottest/coolest, s.rng.Float64()))
	}
}

const (
	smallTotal       = 60          // operations up to which random restarts pay
	coolest, hottest = 0.002, 0.06 // starting temperatures, as shares of the makespan
)

// anySequence returns a random order that respects problem.before.
func (s *search) anySequence() []int32 {
	key := s.rng.Perm(s.total)
	return s.sequence(func(a, b int32) bool { return key[a] < key[b] })
}

func (s *search) proven() bool { return s.best != nil && s.best.Makespan <= s.bound }

// settled reports that the makespan is proven and the softer goals have had
// their share of tries.
func (s *search) settled() bool { return s.proven() && s.tick > 40*s.total+2000 }

// dispatch builds a schedule operation by operation, each time the one of
// least weighted priority among those that may come next.
func (s *search) dispatch(k int) bool {
	r := s.rng
	wTail, wWait, wRinse, wTouch := 0.25, 1.0, 1.0, 0.1
	if k > 0 {
		wTail, wWait, wRinse, wTouch = r.Float64()*r.Float64()*1.2, 0.5+2*r.Float64(), 3*r.Float64(), r.Float64()*0.6
	}
	n := s.n
	static := make([]float64, n)
	for o := range n {
		touch := 0
		for _, e := range s.either[o] {
			touch += e.clock
		}
		static[o] = -wTail*float64(s.tail[o]+s.ops[o].Dur) - wTouch*float64(s.quick(touch))/8
		if k > 0 {
			static[o] *= 0.8 + 0.4*r.Float64()
		}
	}
	d := s.dec
	d.reset()
	for i := range d.rank {
		d.rank[i] = int32(i)
	}
	left := make([]int16, s.total)
	ready := make([]int32, 0, s.total)
	for i := range left {
		if left[i] = int16(len(s.before[i%n])); left[i] == 0 {
			ready = append(ready, int32(i))
		}
	}
	taken := 0
	for len(ready) > 0 {
		pick, least := 0, math.Inf(1)
		for i, x := range ready {
			setup := d.setup(x, d.card, d.brush)
			wait := max(0, max(d.abs[x], d.clock[x]-d.boost*d.heated[s.copyOf[x]])-d.now-setup)
			if s.boost > 0 {
				wait = s.quick(wait)
			}
			v := wWait*float64(wait) + wRinse*float64(setup) + static[s.opOf[x]]
			if d.latest[x] < never {
				v -= 1e6 // it is wet now
			}
			if v < least {
				least, pick = v, i
			}
		}
		x := ready[pick]
		if !d.done[x] {
			d.take(x)
			if d.failed {
				return false
			}
		}
		for ; taken < len(d.actual); taken++ {
			y := d.actual[taken]
			if i := slices.Index(ready, y); i >= 0 {
				ready[i] = ready[len(ready)-1]
				ready = ready[:len(ready)-1]
			}
			o := s.opOf[y]
			base := y - o
			for _, z := range s.after[o] {
				if left[base+z]--; left[base+z] == 0 {
					ready = append(ready, base+z)
				}
			}
		}
	}
	return true
}

// anneal moves single operations within their precedence windows for the given
// number of tries, accepting worse schedules less and less; heat is the
// starting temperature as a share of the makespan.
func (s *search) anneal(tries int, heat float64) {
	if !s.dec.decode(s.seq) {
		return
	}
	s.adopt()
	cur := s.dec.cost()
	hot := heat * float64(cur.makespan)
	saved := make([]int32, s.total)
	for i := range tries {
		if s.stop() || s.settled() {
			return
		}
		temperature := hot * math.Pow(0.01, float64(i)/float64(tries))
		copy(saved, s.seq)
		if !s.move() {
			continue
		}
		if s.dec.decode(s.seq) {
			c := s.dec.cost()
			worse := float64(c.makespan-cur.makespan) + 3*float64(c.changes-cur.changes) + float64(c.waits-cur.waits)
			if worse <= 0 || s.rng.Float64() < math.Exp(-worse/temperature) {
				s.adopt()
				cur = c
				s.keep()
				continue
			}
		}
		copy(s.seq, saved)
		for j, x := range s.seq {
			s.pos[x] = int32(j)
		}
	}
}

// adopt takes over the order that the last decode resulted in.
func (s *search) adopt() {
	copy(s.seq, s.dec.actual)
	for i, x := range s.seq {
		s.pos[x] = int32(i)
	}
}

// move shifts one operation, sometimes with its block or the run of its
// colour, to another place in its window.
func (s *search) move() bool {
	i := s.rng.IntN(s.total)
	x := s.seq[i]
	o, base := s.opOf[x], x-s.opOf[x]
	lo, hi := 0, s.total-1
	for _, b := range s.before[o] {
		lo = max(lo, int(s.pos[base+b])+1)
	}
	for _, a := range s.after[o] {
		hi = min(hi, int(s.pos[base+a])-1)
	}
	if s.rng.IntN(3) > 0 { // mostly near
		reach := 4 + s.n/10
		lo, hi = max(lo, i-reach), min(hi, i+reach)
	}
	if lo >= hi {
		return false
	}
	j := lo + s.rng.IntN(hi-lo+1)
	if s.rng.IntN(4) == 0 { // beside an operation in the same colour
		for k := range hi - lo + 1 {
			t := lo + (j-lo+k)%(hi-lo+1)
			if y := s.seq[t]; y != x && s.color[y] == s.color[x] {
				j = t
				break
			}
		}
	}
	if j == i {
		return false
	}
	if i < j {
		copy(s.seq[i:j], s.seq[i+1:j+1])
	} else {
		copy(s.seq[j+1:i+1], s.seq[j:i])
	}
	s.seq[j] = x
	for k := min(i, j); k <= max(i, j); k++ {
		s.pos[s.seq[k]] = int32(k)
	}
	return true
}
