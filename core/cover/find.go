package cover

import (
	"cmp"
	"slices"
	"time"
)

// How many ways are looked at: directions, places on the frame, the best of them more
// closely. A hand follows so many fronts; more are only worth it where they save a third.
const (
	angles    = 24
	onFrame   = 16
	closer    = 7
	finalists = 4
	mostParts = 2
	manyParts = 1.5

	nearlyMost = 0.95 // of the longest wait, to be part of the seam
)

// A course is a direction, or a square from which the wash spreads.
type course struct {
	seed  int // -1 for a direction
	angle float64
	wait  float64
}

// gains is how much less narrower bands have to wait, since they take longer.
const gains = 0.97

// narrower are the bands a hand may take with a brush that is wider, mm.
var narrower = []float64{10, 6.5, 5, 3.5}

// Find finds the way of covering a region on which neighbouring places wait least: all ways
// in squares of 2 mm, the best at 1 mm, the best of those at [GridMM]. Ways with more
// fronts than a hand follows are taken only where they save much. A hand goes in bands as wide as its brush, and in narrower ones only where it would wait for longer
// than enough. A region of nothing takes no time; a region and its mirror image have
// mirrored sweeps.
func Find(r *Region, h Hand, enough time.Duration) Sweep {
	flip := r.settled()
	seen := r.flipped(flip)
	best := find(seen, h)
	for _, wide := range narrower {
		if best.Wait <= enough {
			break
		}
		if wide < h.Fill.Belly {
			as := h
			as.Fill.Belly = wide
			if s := find(seen, as); float64(s.Wait) < gains*float64(best.Wait) {
				best = s
			}
		}
	}
	best.flip(seen, flip)
	return best
}

func find(r *Region, h Hand) Sweep {
	out := led(r, h)
	if r.Masked == nil {
		return out
	}
	for _, other := range []*Region{r.over(), {W: r.W, H: r.H, In: r.In}} { // gone over, or as if it were not there
		if s := led(other, h); s.Wait < out.Wait {
			out = s
		}
	}
	return out
}

// led is the best sweep of a region in bands as wide as the brush, round what is masked.
func led(r *Region, h Hand) Sweep {
	fine := groundOf(r, h)
	if fine.n == 0 {
		return Sweep{At: make([]float32, len(r.In))}
	}
	coarse := fine.coarser(4)
	p := &painter{hand: h, field: make([]float32, len(r.In))}
	all := p.courses(coarse)
	for i := range all {
		c := &all[i]
		p.bandsOf(coarse, c)
		c.wait = p.lay(coarse, oldest, p.firstOf(c), true, false).wait
		if c.seed < 0 {
			c.wait = min(c.wait, p.lay(coarse, there, 0, true, false).wait)
		}
	}
	slices.SortStableFunc(all, func(a, b course) int { return cmp.Compare(a.wait, b.wait) })
	some := p.closerLook(fine, coarse, all[:min(closer, len(all))])
	out := p.sweep(fine, coarse, some[:min(finalists, len(some))])
	out.Band = h.Fill.Belly
	return out
}

// courses are all that are looked at.
func (p *painter) courses(g *ground) (out []course) {
	for k := range angles {
		out = append(out, course{seed: -1, angle: float64(k) * 360 / angles})
	}
	first := -1
	for k := range onFrame {
		if i := g.onFrame(float64(k) / onFrame); i >= 0 {
			out = append(out, course{seed: i})
			if first < 0 {
				first = i
			}
		}
	}
	if first < 0 {
		first = slices.Index(g.in, true)
	}
	for n := range 3 { // the ends of the longest way
		field := p.wave.from(g, first, p.field[:len(g.in)])
		for i, in := range g.in {
			if in && field[i] > field[first] {
				first = i
			}
		}
		if n > 0 {
			out = append(out, course{seed: first})
		}
	}
	return out
}

// onFrame is the square at a share of the way round the frame, -1 where nothing is laid.
func (g *ground) onFrame(share float64) int {
	w, h := float64(g.w-1), float64(g.h-1)
	u := share * 2 * (w + h)
	x, y := 0.0, 0.0
	switch {
	case u < w:
		x = u
	case u < w+h:
		x, y = w, u-w
	case u < 2*w+h:
		x, y = 2*w+h-u, h
	default:
		y = 2*(w+h) - u
	}
	if i := int(y)*g.w + int(x); g.in[i] {
		return i
	}
	return -1
}

// bandsOf parts a ground along a course.
func (p *painter) bandsOf(g *ground, c *course) {
	field := p.field[:len(g.in)]
	if c.seed < 0 {
		g.across(c.angle, field)
	} else {
		p.wave.from(g, c.seed, field)
	}
	p.bands.part(g, field, p.hand.Fill.Belly)
	if c.seed >= 0 && p.bands.of[c.seed] < 0 {
		c.seed = slices.Index(g.in, true)
	}
}

func (p *painter) firstOf(c *course) int32 {
	if c.seed < 0 {
		return p.bands.first()
	}
	return p.bands.of[c.seed]
}

// on is a course on a ground whose squares are so many times smaller.
func (c course) on(coarse, g *ground, times int) course {
	if c.seed < 0 {
		return c
	}
	x, y := c.seed%coarse.w*times, c.seed/coarse.w*times
	for o := range times * times {
		if u, v := x+o%times, y+o/times; u < g.w && v < g.h && g.in[v*g.w+u] {
			c.seed = v*g.w + u
			return c
		}
	}
	c.seed = slices.Index(g.in, true)
	return c
}

// A trial is a course taken in a way, and how long it waits.
type trial struct {
	course
	how   way
	parts int
}

// felt is how long a trial waits, as a hand feels it that has to follow so many fronts.
func (t *trial) felt() float64 {
	if t.parts <= mostParts {
		return t.wait
	}
	return manyParts * t.wait
}

func better(a, b trial) int { return cmp.Compare(a.felt(), b.felt()) }

// closerLook tries courses in all ways at 1 mm.
func (p *painter) closerLook(fine, coarse *ground, some []course) (out []trial) {
	g := fine.coarser(2)
	for _, c := range some {
		at := c.on(coarse, g, 2)
		p.bandsOf(g, &at)
		for _, w := range allWays {
			if c.seed >= 0 && (w == there || w == around) {
				continue // round a place bands are rings
			}
			l := p.lay(g, w, p.firstOf(&at), true, true)
			c.wait = l.wait
			out = append(out, trial{c, w, l.parts})
		}
	}
	slices.SortStableFunc(out, better)
	return out
}

// sweep lays the best trials in full, and keeps the best of those.
func (p *painter) sweep(fine, coarse *ground, some []trial) Sweep {
	var best trial
	var out Sweep
	for k, t := range some {
		at := t.on(coarse, fine, 4)
		p.bandsOf(fine, &at)
		l := p.lay(fine, t.how, p.firstOf(&at), true, true)
		t.wait, t.parts = l.wait, l.parts
		if k > 0 && better(t, best) >= 0 {
			continue
		}
		best = t
		out = Sweep{Total: seconds(l.total), Wait: seconds(l.wait), At: append(out.At[:0], p.t...), Start: l.start, Parts: l.parts, Plain: t.seed < 0, Angle: t.angle}
	}
	for i, t := range out.At {
		for _, k := range [2]int{1, 3} {
			if j := fine.near[4*i+k]; t >= 0 && j >= 0 && max(t-out.At[j], out.At[j]-t) >= float32(nearlyMost*best.wait) {
				out.Seam = append(out.Seam, [2]int{i, int(j)})
			}
		}
	}
	return out
}
