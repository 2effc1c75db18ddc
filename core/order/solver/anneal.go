package solver

import (
	"math"

	"chromaqua/core/order"
)

// Of the search for moves, found by trying.
const (
	softChange = 3  // s that a change of colour is worth
	slack      = 12 // s by which a decode may miss what is accepted before it is given up
	heatMargin = 20 // s that saved heat may make up for later
	gapLeast   = 8  // s of idling that are worth filling
)

// A walk goes from order to order by small changes, accepting worse ones less and
// less.
type walk struct {
	*search
	seq []int32 // the order being changed
	pos []int32 // its inverse

	// Of the order being changed, by operation: when it begins, how long the painter
	// idles and sets up before it, and what it waited for last.
	start, wait, setups []order.Seconds
	cause               []int32
	finish              order.Seconds

	gaps     []int32 // operations before which the painter idles or heats
	waited   []int32 // critical operations that begin as soon as their cause lets them
	critical []int32 // and the chain that makes it as long as it is
	stale    bool    // the three above have to be found again
	dirty    int     // last position at which rest is not known

	plain  bool // moves of single operations only
	polite bool // moves bring the same step of several cards together
	undo   []int32
	loosed []order.Seconds // rest before the move, by position
}

func newWalk(s *search) *walk {
	return &walk{
		search: s, seq: make([]int32, s.toDo()), pos: make([]int32, s.total),
		start: make([]order.Seconds, s.total), wait: make([]order.Seconds, s.total), setups: make([]order.Seconds, s.total), cause: make([]int32, s.total),
	}
}

// toDo is how many operations there are to be done.
func (p *problem) toDo() int {
	if p.begun != nil {
		return len(p.begun.left)
	}
	return p.total
}

// unit is the mean time of a painter's step with its rinse, s.
func (p *problem) unit() float64 {
	sum, n := order.Seconds(0), 0
	for _, o := range p.ops {
		if o.Attended {
			sum += o.Dur
			n++
		}
	}
	return float64(sum)/float64(max(1, n)) + float64(p.in.Rinse)
}

// begin decodes an order from which the walk goes on.
func (w *walk) begin(seq []int32) bool {
	d := w.dec
	copy(w.seq, seq)
	d.limit, d.every = never, max(8, w.total/24)
	d.drop()
	d.forgetRest()
	if !d.decode(w.seq) {
		return false
	}
	for x := range w.pos {
		w.pos[x] = -1 // what was done before
	}
	w.dirty = len(w.seq) - 1
	w.adopt(0)
	return true
}

// anneal changes an order until the given share of the budget is used; heat is the
// starting temperature in units.
func (w *walk) anneal(seq []int32, until, heat float64) {
	if w.over || w.share >= until || w.settled() || !w.begin(seq) {
		return
	}
	d, cur, from := w.dec, w.dec.cost(), w.share
	hot := heat * w.unit()
	if w.in.Heat.Allowed {
		hot *= heatedHeat
	}
	cooling := math.Log(coldest * w.unit() / hot)
	temperature := hot
	for i := 0; ; i++ {
		if w.spend(w.peek()) || w.share >= until || w.settled() {
			return
		}
		if i%16 == 0 || w.peek() == 1 {
			temperature = hot * math.Exp(cooling*(w.share-from)/(until-from))
		}
		lo, hi, ok := w.move()
		if !ok {
			continue
		}
		// What is accepted is drawn first, so that a decode can be given up early.
		allow := -temperature * math.Log(1-w.rng.Float64())
		d.limit = cur.makespan + cur.stay + order.Seconds(allow) + slack
		w.loosen(lo, hi)
		if d.decodeFrom(w.seq, lo) {
			c := d.cost()
			w.known()
			if float64(c.makespan+c.stay-cur.makespan-cur.stay)+softChange*float64(c.changes-cur.changes)+float64(c.waits-cur.waits) <= allow {
				w.dirty = max(w.dirty, hi)
				w.adopt(lo)
				cur = c
				w.keep()
				continue
			}
		}
		w.takeBack(lo, hi)
	}
}

// restarts anneals small problems from the best order, from first ones, and from
// anywhere, in turn.
func (w *walk) restarts(until float64) {
	for round := 0; !w.over && w.share < until && !w.settled(); round++ {
		from := w.best.seq
		switch round % 4 {
		case 1, 3:
			from = w.starts[round/2%min(8, len(w.starts))].seq
		case 2:
			key := w.rng.Perm(w.total)
			from = w.sequence(func(a, b int32) bool { return key[a] < key[b] })
		}
		w.plain = round%8 > 1
		w.spend(w.peek())
		w.anneal(from, min(until, w.share+0.02), hottest*math.Pow(10, 1.2*w.rng.Float64()-0.2))
	}
	w.plain = false
}

// adopt takes over the order that the last decode, asked to begin at lo, resulted in.
func (w *walk) adopt(lo int) {
	d := w.dec
	d.adopt(lo)
	for i := d.began; i < len(w.seq); i++ {
		x := d.actual[i]
		if w.seq[i] != x {
			w.dirty = max(w.dirty, i)
		}
		w.seq[i], w.pos[x] = x, int32(i)
		w.start[x], w.wait[x], w.cause[x], w.setups[x] = d.start[x], d.wait[x], d.cause[x], d.setups[x]
	}
	w.stale = true
}

// known gives the decoder the starts of what stands before the place where its last
// decode began: decodes that were given up have left others there.
func (w *walk) known() {
	for _, x := range w.seq[:w.dec.began] {
		w.dec.start[x] = w.start[x]
	}
}

// takeBack undoes the move of positions lo…hi.
func (w *walk) takeBack(lo, hi int) {
	for k := lo; k <= hi; k++ {
		w.dec.rest[w.seq[k]] = w.loosed[k-lo]
	}
	copy(w.seq[lo:hi+1], w.undo)
	for k := lo; k <= hi; k++ {
		w.pos[w.seq[k]] = int32(k)
	}
}

// loosen lets rest hold whatever becomes of positions lo…hi.
func (w *walk) loosen(lo, hi int) {
	w.loosed = w.loosed[:0]
	for k := lo; k <= hi; k++ {
		x := w.seq[k]
		w.loosed = append(w.loosed, w.dec.rest[x])
		w.dec.rest[x] = w.least(x)
	}
}

// findCritical lists the gaps, and the chain of operations and waits that ends last.
func (w *walk) findCritical() {
	w.stale = false
	w.critical, w.waited, w.gaps = w.critical[:0], w.waited[:0], w.gaps[:0]
	last, free := int32(-1), order.Seconds(0)
	w.finish = -1
	for _, x := range w.seq {
		end := w.start[x] + w.ops[w.opOf[x]].Dur
		if w.ops[w.opOf[x]].Attended {
			if w.start[x]-free-w.setups[x] >= gapLeast {
				w.gaps = append(w.gaps, x)
			}
			free = end
		}
		if end > w.finish {
			last, w.finish = x, end
		}
	}
	w.findRest()
	for x := last; x >= 0 && len(w.critical) < len(w.seq); {
		w.critical = append(w.critical, x)
		if w.wait[x] > 0 && w.cause[x] >= 0 {
			w.waited = append(w.waited, x)
			x = w.cause[x]
			continue
		}
		i := w.pos[x] - 1
		for i >= 0 && !w.ops[w.opOf[w.seq[i]]].Attended {
			i--
		}
		if i < 0 {
			return
		}
		x = w.seq[i]
	}
}

// findRest measures how long it takes from each operation's start to the
// finish when the order stays as it is: a decode that changes only what
// comes before it can be given up by that. It goes back from the last change.
func (w *walk) findRest() {
	rest := w.dec.rest
	if w.in.Heat.Allowed { // heat that is saved later may make up for some
		for _, x := range w.seq {
			rest[x] = max(w.least(x), w.finish-w.start[x]-heatMargin)
		}
		return
	}
	following := order.Seconds(0)
	for i := w.dirty + 1; i < len(w.seq); i++ {
		if x := w.seq[i]; w.ops[w.opOf[x]].Attended {
			following = w.setups[x] + rest[x]
			break
		}
	}
	for i := w.dirty; i >= 0; i-- {
		x := w.seq[i]
		o := w.opOf[x]
		r := order.Seconds(0)
		if w.ops[o].Attended {
			r = following
		}
		list := w.demands(o)
		for k := range list {
			e := &list[k]
			if y := x - o + e.to; int(w.pos[y]) > i {
				r = max(r, order.Seconds(max(e.min, e.clock))+rest[y])
			}
		}
		rest[x] = r + w.ops[o].Dur
		if w.ops[o].Attended {
			following = w.setups[x] + rest[x]
		}
	}
	w.dirty = -1
}
