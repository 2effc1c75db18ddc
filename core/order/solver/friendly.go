package solver

import (
	"math"

	"chromaqua/core/order"
)

// Once an order is short, it is made friendly: the background first, light before
// dark among neighbours, a colour at a time, the hand not over wet paint, and a
// short way. It may cost a hundredth of the makespan.

// What each unfriendliness weighs, in seconds the painter would rather lose.
const (
	politeCost  = 0.01 // of the makespan
	lateGround  = 20.0 // a background after other paint
	darkFirst   = 12.0 // the darker of two neighbours first, by 50 in lightness
	handOnWet   = 10.0 // the hand over a wet region
	acrossSheet = 5.0  // a way as long as the card is wide
	rinseCost   = 15.0 // another colour in the brush
	otherStep   = 20.0 // another step, where the same could be done on the next card
	politeMost  = 1500 // operations up to which it is worth the time
)

// friendly reports whether anything is known that makes an order friendly.
func (p *problem) friendly() bool {
	if p.total > politeMost || p.in.Hand == order.NoHand {
		return false
	}
	for _, o := range p.ops {
		if o.Light > 0 || o.Ground {
			return true
		}
	}
	return false
}

// A bench is what unfriendliness is reckoned from.
type bench struct {
	*problem
	x, y   []float64 // middle of each operation's regions, shares of the card
	beside [][]int32 // neighbours that are clearly lighter, by operation
}

func (p *problem) bench() *bench {
	b := &bench{problem: p, x: make([]float64, p.n), y: make([]float64, p.n), beside: make([][]int32, p.n)}
	at := map[int]order.Region{}
	for _, r := range p.in.Regions {
		at[r.ID] = r
	}
	for i, o := range p.ops {
		for _, id := range o.Regions {
			b.x[i] += at[id].X / float64(len(o.Regions))
			b.y[i] += at[id].Y / float64(len(o.Regions))
		}
		for _, e := range p.either[i] {
			if q := p.ops[e.to]; o.Light > 0 && q.Light > o.Light {
				b.beside[i] = append(b.beside[i], e.to)
			}
		}
	}
	return b
}

// painted reports whether an operation is paint on a place.
func (b *bench) painted(o int32) bool { return b.ops[o].Light > 0 && len(b.ops[o].Regions) > 0 }

// unfriendly adds up what a decoded order asks of the painter, s.
func (b *bench) unfriendly(d *decoder) float64 {
	sum := 0.0
	last, paintedBefore, before := int32(-1), 0, int32(-1)
	var wet []int32
	for k, x := range d.actual {
		o := b.opOf[x]
		if b.in.Copies > 1 && b.ops[o].Attended {
			if o != before {
				sum += otherStep
			}
			before = o
		}
		if !b.painted(o) {
			continue
		}
		op := &b.ops[o]
		if op.Ground {
			sum += lateGround * float64(min(1, paintedBefore))
		} else {
			paintedBefore++
		}
		for _, lighter := range b.beside[o] {
			if y := x - o + lighter; !d.done[y] || d.start[y] > d.start[x] {
				sum += darkFirst * float64(b.ops[lighter].Light-op.Light) / 50
			}
		}
		if last >= 0 && b.cardOf[last] == b.cardOf[x] {
			sum += acrossSheet * math.Hypot(b.x[o]-b.x[b.opOf[last]], b.y[o]-b.y[b.opOf[last]])
		}
		still := wet[:0]
		for _, y := range wet {
			p := b.opOf[y]
			if d.start[y]+b.ops[p].Dur+b.ops[p].Dry <= d.start[x] {
				continue
			}
			still = append(still, y)
			if b.cardOf[y] == b.cardOf[x] && b.underHand(p, o) {
				sum += handOnWet
			}
		}
		wet = still
		if op.Dry > 0 && k+1 < len(d.actual) {
			wet = append(wet, x)
		}
		last = x
	}
	return sum + rinseCost*float64(d.changes)
}

// underHand reports whether the hand rests on a while it paints b: below it, and to
// the side of the hand.
func (b *bench) underHand(a, o int32) bool {
	dx, dy := b.x[a]-b.x[o], b.y[a]-b.y[o]
	if b.in.Hand == order.Left {
		dx = -dx
	}
	return dx > 0.05 && dx < 0.6 && dy > -0.1 && dy < 0.6
}

// polish makes the best order friendlier with what is left of the budget, by the same
// moves.
func (w *walk) polish() {
	most := w.best.makespan + order.Seconds(politeCost*float64(w.best.makespan))
	if w.over || !w.begin(w.best.seq) {
		return
	}
	w.polite = true
	d, b := w.dec, w.bench()
	cur := b.unfriendly(d)
	for !w.spend(w.peek()) {
		lo, hi, ok := w.move()
		if !ok {
			continue
		}
		d.limit = most
		w.loosen(lo, hi)
		if d.decodeFrom(w.seq, lo) && d.makespan <= most {
			w.known()
			if v := b.unfriendly(d); v <= cur {
				w.dirty = max(w.dirty, hi)
				w.adopt(lo)
				if v < cur {
					w.best.take(d)
				}
				cur = v
				continue
			}
		}
		w.takeBack(lo, hi)
	}
	w.price = float64(w.best.makespan) + cur
}
