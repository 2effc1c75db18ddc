package solver

import (
	"math"
	"slices"
	"time"

	"chromaqua/core/order"
)

// A batch is painted in waves: the cards of one wave go through the same steps
// together, each colour on one card after the other, so that one rinse serves
// many cards and every card dries while the others are painted. For the order
// of steps a wave is one card whose painter is as many times slower.

// Shares of a batch's budget.
const (
	stepsShare = 0.3  // for the order of steps
	mergeShare = 0.45 // until merging the copies ends
	mergesMost = 400
)

// wave returns the problem of size copies painted in step, as one card.
func (p *problem) wave(size int) (*problem, error) {
	in := *p.in
	in.Copies, in.Swap = 1, 0
	in.Rinse = min(order.MaxSeconds, p.in.Rinse+p.in.Swap*order.Seconds(size)) // a change of colour means another round of the cards
	in.Heat.Allowed = in.Heat.Allowed && size == 1
	in.Ops, in.Arcs, in.Joins = slices.Clone(in.Ops), slices.Clone(in.Arcs), slices.Clone(in.Joins)
	slower := func(secs *order.Seconds) { *secs = min(order.MaxSeconds, *secs*order.Seconds(size)) }
	for i := range in.Ops {
		if in.Ops[i].Attended {
			slower(&in.Ops[i].Dur)
		}
	}
	for i := range in.Arcs { // what meets while wet does so one card after another
		if a := &in.Arcs[i]; a.Type == order.Wet {
			slower(&a.Min)
			slower(&a.Max)
		}
	}
	for i := range in.Joins {
		slower(&in.Joins[i].Max)
		slower(&in.Joins[i].Back)
	}
	return compile(&in)
}

// waveSizes are the numbers of copies worth painting in step: as many as may be
// wet at once, and fewer so that the waves are equal.
func (p *problem) waveSizes() []int {
	n := p.in.Copies
	most := max(1, min(n, (p.in.Rack+1)*n/p.cards))
	waves := (n + most - 1) / most
	equal := (n + waves - 1) / waves
	switch {
	case equal != most:
		return []int{equal, most}
	case most > 2:
		return []int{most, (most + 1) / 2}
	}
	return []int{most}
}

// A merge says how the copies' equal orders are merged into one.
type merge struct {
	size   int     // copies in a wave
	step   float64 // s a copy may wait for each run of a colour it is behind another
	wave   float64 // s a wave may wait before a later one is taken on
	stay   float64 // s in favour of the card at hand
	rinse  float64 // weight of a colour change
	atOnce bool    // what has to meet while wet does so at once
	ahead  int     // operations of a copy that are looked at
}

// firstWaves gives a batch its first answers: it seeks an order of steps for a
// wave and merges the copies in it with one set of weights after the other.
func (s *search) firstWaves() {
	sizes := s.waveSizes()
	m := merge{size: sizes[s.worker%len(sizes)], step: 30, wave: 400, stay: 4, rinse: 1, ahead: 1, atOnce: true}
	steps := s.stepsFor(m)
	r := s.rng
	for k := 0; steps != nil && k < mergesMost; k++ {
		if k > 0 {
			if s.spend(s.peek()) || s.share > mergeShare {
				return
			}
			m.step, m.wave = 3*math.Pow(1000, r.Float64()), 30*math.Pow(300, r.Float64())
			m.stay, m.rinse, m.ahead, m.atOnce = 20*r.Float64(), 3*r.Float64(), 1+r.IntN(4), r.IntN(2) == 0
		}
		if s.mergeCopies(steps, m) {
			s.keep()
		}
	}
}

// stepsFor seeks the order of steps for a wave; nil when there is none. Its first
// answer is merged at once, so that there is something to show.
func (s *search) stepsFor(m merge) []int32 {
	p, err := s.wave(m.size)
	if err != nil {
		return nil
	}
	t := &search{problem: p, dec: newDecoder(p), rng: s.rng, bound: p.bound(), worker: s.worker, step: true, budget: s.budget}
	if s.tries > 0 {
		t.tries = max(1, int(float64(s.tries)*stepsShare))
	}
	t.end = s.began.Add(time.Duration(float64(s.end.Sub(s.began)) * stepsShare))
	if !t.bunch(0) {
		return nil
	}
	if s.mergeCopies(t.dec.actual, m) {
		s.keep()
	}
	t.run()
	s.tick += t.tick
	if t.best == nil {
		return nil
	}
	return t.best.seq
}

// A candidate of a merge is what a copy could do next.
type candidate struct {
	x     int32
	worth float64 // the less the better
}

// mergeCopies places all copies, each in the order of steps.
func (s *search) mergeCopies(steps []int32, m merge) bool {
	d := s.begin()
	clear(d.rest)
	defer d.forgetRest()
	runs := make([]float64, s.n) // of a colour before each place in steps
	for i := 1; i < s.n; i++ {
		runs[i] = runs[i-1]
		if s.ops[steps[i]].Color != s.ops[steps[i-1]].Color {
			runs[i]++
		}
	}
	at := make([]int, s.in.Copies) // first place not done
	for d.placed < s.total {
		best := candidate{-1, math.Inf(1)}
		full, free, freeIfWet := d.rack()
		for c := range s.in.Copies {
			for at[c] < s.n && d.done[c*s.n+int(steps[at[c]])] {
				at[c]++
			}
			for i, looked := at[c], 0; i < s.n && looked < m.ahead; i++ {
				x := int32(c*s.n) + steps[i]
				if d.done[x] || looked > 0 && !s.reached(x) {
					continue
				}
				looked++
				rack := order.Seconds(0)
				if full {
					if rack = free; d.wet(s.cardOf[x]) >= free {
						rack = freeIfWet
					}
				}
				k := candidate{x, s.worth(x, rack, m) + m.step*runs[i] + m.wave*float64(c/m.size) + 0.01*float64(i)}
				wet := d.latest[x] < never
				if wet && m.atOnce {
					k.worth -= 1e9
				}
				if k.worth < best.worth && (wet || len(d.pending) == 0 || !m.atOnce && d.canSlip(x)) {
					best = k
				}
			}
		}
		if best.x < 0 {
			best.x = d.pending[0]
		}
		if d.take(best.x); d.failed {
			return false
		}
	}
	return true
}

// worth is how long the painter would wait for x, and what changing to it costs.
func (s *search) worth(x int32, rack order.Seconds, m merge) float64 {
	d := s.dec
	v := 0.0
	if s.ops[s.opOf[x]].Attended {
		setup := d.setup(x, d.card, d.brush)
		v = float64(max(d.now+setup, rack, d.abs[x], d.clock[x]-d.boost*d.heated[s.cardOf[x]]) - d.now - setup)
	}
	if s.cardOf[x] != d.card {
		v += m.stay
	}
	if s.color[x] != 0 && s.color[x] != d.brush {
		v += m.rinse * float64(s.in.Rinse)
	}
	return v
}

// reached reports whether all that must come before x is done.
func (s *search) reached(x int32) bool {
	o := s.opOf[x]
	for _, b := range s.before[o] {
		if !s.dec.done[x-o+b] {
			return false
		}
	}
	return true
}

// wet is until when a card is wet, 0 when it is dry.
func (d *decoder) wet(c int32) order.Seconds {
	if u := d.wetUntil[c] - d.boost*d.heated[c]; u > d.now {
		return u
	}
	return 0
}

// rack reports whether the rack is full, and when it has room for a dry
// card and for one that is itself wet.
func (d *decoder) rack() (full bool, free, freeIfWet order.Seconds) {
	if d.cards-1 <= d.in.Rack {
		return false, 0, 0
	}
	d.until = d.until[:0]
	for c := range int32(d.cards) {
		if u := d.wet(c); u > 0 {
			d.until = append(d.until, u)
		}
	}
	if len(d.until) <= d.in.Rack {
		return false, 0, 0
	}
	slices.Sort(d.until)
	k := len(d.until) - d.in.Rack - 1
	if k > 0 {
		freeIfWet = d.until[k-1]
	}
	return true, d.until[k], freeIfWet
}
