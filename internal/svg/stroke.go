package svg

import "math"

// The ends and corners of strokes.
type lineCap uint8

const (
	buttCap lineCap = iota
	roundCap
	squareCap
)

type lineJoin uint8

const (
	miterJoin lineJoin = iota
	roundJoin
	bevelJoin
)

// A stroke is how a line is drawn.
type stroke struct {
	width  float64
	cap    lineCap
	join   lineJoin
	miter  float64
	dashes []float64
	offset float64
}

// smooth is a turn so slight that a corner needs no more than to be filled, radians.
const smooth = 0.3

// stroker turns lines into convex pieces, each sent off as soon as it is known: a line
// may have millions.
type stroker struct {
	stroke
	half  float64
	fine  int // corners of a whole round
	send  func(piece []point) error
	round []point // of a disc, kept
	err   error
}

// outline sends off the convex pieces that a stroke covers; pixel is how large a pixel is
// in its units. It ends early with send's error.
func (s stroke) outline(rings []ring, pixel float64, send func(piece []point) error) error {
	k := &stroker{stroke: s, half: s.width / 2, send: send}
	k.fine = int(min(96, max(8, math.Pi*math.Sqrt(2*k.half/pixel))))
	for i := range k.fine {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / float64(k.fine))
		k.round = append(k.round, point{k.half * cos, k.half * sin})
	}
	for _, r := range rings {
		if len(s.dashes) == 0 {
			k.line(r)
			continue
		}
		for _, d := range s.dashed(r) {
			k.line(d)
		}
	}
	return k.err
}

func (k *stroker) piece(at ...point) {
	if k.err == nil {
		k.err = k.send(at)
	}
}

func (k *stroker) disc(at point) {
	round := make([]point, 0, 96)
	for _, p := range k.round {
		round = append(round, at.plus(p))
	}
	k.piece(round...)
}

// line adds one line with its corners and ends.
func (k *stroker) line(r ring) {
	at := make([]point, 0, len(r.at))
	for _, p := range r.at {
		if n := len(at); n == 0 || p != at[n-1] {
			at = append(at, p)
		}
	}
	if r.closed && len(at) > 1 && at[0] == at[len(at)-1] {
		at = at[:len(at)-1]
	}
	n := len(at)
	switch {
	case n == 0:
		return
	case n == 1: // a dot, where its ends would show
		switch k.cap {
		case roundCap:
			k.disc(at[0])
		case squareCap:
			k.end(at[0], point{k.half, 0})
			k.end(at[0], point{-k.half, 0})
		}
		return
	}
	along := func(i int) point { // half the width, along the ith segment
		d := at[(i+1)%n].minus(at[i])
		return d.times(k.half / d.length())
	}
	segments := n - 1
	if r.closed {
		segments = n
	}
	for i := 0; i < segments && k.err == nil; i++ {
		a, b, side := at[i], at[(i+1)%n], along(i).left()
		k.piece(a.plus(side), b.plus(side), b.minus(side), a.minus(side))
		if i > 0 || r.closed {
			k.corner(a, along((i+n-1)%n), along(i))
		}
	}
	if !r.closed {
		k.end(at[0], along(0).times(-1))
		k.end(at[n-1], along(n-2))
	}
}

// end adds what a line has beyond its end; out is half its width, away from it.
func (k *stroker) end(at, out point) {
	switch k.cap {
	case roundCap:
		k.disc(at)
	case squareCap:
		side := out.left()
		k.piece(at.plus(side), at.plus(side).plus(out), at.minus(side).plus(out), at.minus(side))
	}
}

// corner fills the outside of a corner, where a line comes along from and goes along to.
func (k *stroker) corner(at, from, to point) {
	turn := math.Atan2(from.x*to.y-from.y*to.x, from.x*to.x+from.y*to.y)
	if turn == 0 {
		return
	}
	if k.join == roundJoin && math.Abs(turn) > smooth {
		k.disc(at)
		return
	}
	side := -1.0 // the outside
	if turn < 0 {
		side = 1
	}
	a, b := at.plus(from.left().times(side)), at.plus(to.left().times(side))
	if long := 1 / math.Abs(math.Cos(turn/2)); k.join == miterJoin && long <= k.miter && math.Abs(turn) < 3.1 {
		tip := from.left().plus(to.left()).times(side)
		if l := tip.length(); l > 0 {
			k.piece(at, a, at.plus(tip.times(k.half*long/l)), b)
			return
		}
	}
	k.piece(at, a, b)
}

// maxDashes bounds the dashes of one line.
const maxDashes = 20_000

// dashed cuts a line into its dashes; a line of too many is drawn whole.
func (s stroke) dashed(r ring) (out []ring) {
	at := r.at
	if r.closed && len(at) > 0 {
		at = append(append([]point(nil), at...), at[0])
	}
	period, whole := 0.0, 0.0
	for _, d := range s.dashes {
		period += d
	}
	for i := 1; i < len(at); i++ {
		whole += at[i].minus(at[i-1]).length()
	}
	if !(period > 0) || whole/period*float64(len(s.dashes)) > maxDashes {
		return []ring{r}
	}
	n := 0
	left := math.Mod(s.offset, period)
	if left < 0 {
		left += period
	}
	for left >= s.dashes[n] {
		left -= s.dashes[n]
		n = (n + 1) % len(s.dashes)
	}
	rest := s.dashes[n] - left // of the dash or gap that is on
	on := n%2 == 0
	var now []point
	for i := 1; i < len(at); i++ {
		p, q := at[i-1], at[i]
		long := q.minus(p).length()
		if on && now == nil {
			now = []point{p}
		}
		for done := 0.0; long-done > 0; {
			if rest > long-done {
				rest -= long - done
				break
			}
			done += rest
			cut := between(p, q, done/long)
			if on {
				out = append(out, ring{at: append(now, cut)})
				now = nil
			} else {
				now = []point{cut}
			}
			on = !on
			n = (n + 1) % len(s.dashes)
			rest = s.dashes[n]
		}
		if on {
			now = append(now, q)
		}
	}
	if on && len(now) > 1 {
		out = append(out, ring{at: now})
	}
	return out
}
