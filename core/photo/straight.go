package photo

import (
	"cmp"
	"math"
	"slices"
)

// How straight edges are told, in places of the coarse photo but where said.
const (
	leastStep    = 0.025 // of the logarithm of light from place to place, that is a step
	fullStep     = 0.1   // from which on steps count alike
	turnBins     = 180   // directions a step may have, all round
	offBins      = 1.5   // between lines that are told apart
	straightBest = 14    // lines are tried
	lineApart    = 5.0
	turnApart    = 7 // bins
	squareBy     = math.Pi / 5
	sideSeen     = 0.5  // of a side at least has to show a step
	beyond       = 0.07 // of a side, past its ends, where it has to show none
	sideSteps    = 60   // probes along it
)

// straight finds the panel by four straight steps that meet, each of which ends where the next
// begins: a shadow's edge, a table's or that of a painted field goes on, or leaves the others
// going on. It tells paper on a table that is nearly as light.
func (c *places) straight() (outline, error) {
	light := make([]float64, len(c.logs))
	for i, l := range c.logs {
		light[i] = (l[0] + l[1] + l[2]) / 3
	}
	ink := (c.inkWide() + 1) / 2 // no more, lest a thread of the table is tied to the panel
	light = opened(closed(light, c.w, c.h, ink), c.w, c.h, ink)
	best, whole := [4]point{}, 0.0
	for _, sign := range []float64{1, -1} { // lighter than its table, or darker
		s := stepsOf(light, c.w, c.h, sign)
		if quad, score := s.best(); score > whole {
			best, whole = quad, score
		}
	}
	if whole == 0 {
		return outline{}, ErrOther
	}
	return outline{quad: c.pixels(best[:]), fills: 1, solid: whole, off: float64(c.by)}, nil
}

// steps are how light grows from place to place.
type steps struct {
	w, h   int
	dx, dy []float64
}

func stepsOf(light []float64, w, h int, sign float64) *steps {
	s := &steps{w, h, make([]float64, w*h), make([]float64, w*h)}
	for y := 2; y < h-2; y++ {
		for x := 2; x < w-2; x++ {
			i := y*w + x
			for d, weight := range [3]float64{0.25, 0.5, 0.25} {
				row, column := (d-1)*w, d-1
				s.dx[i] += sign * weight * (light[i+row+1] - light[i+row-1]) / 2
				s.dy[i] += sign * weight * (light[i+column+w] - light[i+column-w]) / 2
			}
		}
	}
	return s
}

// straightLine is where x·cos + y·sin is off, light growing that way.
type straightLine struct {
	cos, sin, off float64
	turn          int
	votes         float64
}

// lines are the straight lines most steps lie on (Hough 1962, with the direction of each step).
func (s *steps) lines() (out []straightLine) {
	diagonal := math.Hypot(float64(s.w), float64(s.h))
	n := int(2*diagonal/offBins) + 1
	votes := make([]float64, turnBins*n)
	var cos, sin [turnBins]float64
	for t := range turnBins {
		sin[t], cos[t] = math.Sincos(2 * math.Pi * float64(t) / turnBins)
	}
	for i := range s.dx {
		g := math.Hypot(s.dx[i], s.dy[i])
		if g < leastStep {
			continue
		}
		x, y := float64(i%s.w)+0.5, float64(i/s.w)+0.5
		at := int(math.Round(math.Atan2(s.dy[i], s.dx[i])/(2*math.Pi)*turnBins)) + turnBins
		for t := at - 2; t <= at+2; t++ {
			t := t % turnBins
			votes[t*n+int((x*cos[t]+y*sin[t]+diagonal)/offBins)] += min(1, g/fullStep)
		}
	}
	var all []straightLine
	for t := range turnBins {
		for o := 1; o < n-1; o++ {
			if v := votes[t*n+o-1] + votes[t*n+o] + votes[t*n+o+1]; v > 8 {
				all = append(all, straightLine{cos[t], sin[t], (float64(o)+0.5)*offBins - diagonal, t, v})
			}
		}
	}
	slices.SortFunc(all, func(a, b straightLine) int { return cmp.Compare(b.votes, a.votes) })
	for _, l := range all {
		if len(out) == straightBest {
			break
		}
		if !slices.ContainsFunc(out, func(o straightLine) bool {
			turn := (l.turn - o.turn + turnBins) % turnBins
			// near each other where they cross the photo's middle
			mx, my := float64(s.w)/2, float64(s.h)/2
			d := (l.off - mx*l.cos - my*l.sin) - (o.off - mx*o.cos - my*o.sin)
			return min(turn, turnBins-turn) <= turnApart && math.Abs(d) < lineApart
		}) {
			out = append(out, l)
		}
	}
	return out
}

// best are the corners of the four lines that go best round something lighter, and how well:
// 1 where each side shows a step all along, and none beyond its ends.
func (s *steps) best() (quad [4]point, score float64) {
	all := s.lines()
	angle := func(a, b straightLine) float64 {
		return math.Acos(min(1, max(-1, a.cos*b.cos+a.sin*b.sin)))
	}
	type pair struct{ a, b straightLine }
	var pairs []pair
	for i, a := range all {
		for _, b := range all[i+1:] {
			if angle(a, b) > math.Pi-squareBy {
				pairs = append(pairs, pair{a, b})
			}
		}
	}
	for i, p := range pairs {
		for _, q := range pairs[i+1:] {
			if math.Abs(angle(p.a, q.a)-math.Pi/2) > squareBy || math.Abs(angle(p.b, q.b)-math.Pi/2) > squareBy {
				continue
			}
			lines := [4]straightLine{p.a, q.a, p.b, q.b}
			corners, ok := s.corners(lines)
			if !ok {
				continue
			}
			if v := s.round(lines, corners); v > score {
				quad, score = corners, v
			}
		}
	}
	return quad, score
}

// corners are where four lines cross, each with the one before it, if they go round something
// in the photo.
func (s *steps) corners(lines [4]straightLine) (out [4]point, ok bool) {
	var middle point
	for i, b := range lines {
		a := lines[(i+3)%4]
		det := a.cos*b.sin - a.sin*b.cos
		if math.Abs(det) < 0.1 {
			return out, false
		}
		q := point{X: (a.off*b.sin - b.off*a.sin) / det, Y: (a.cos*b.off - b.cos*a.off) / det}
		if q.X < 0 || q.Y < 0 || q.X >= float64(s.w) || q.Y >= float64(s.h) {
			return out, false
		}
		out[i] = q
		middle.X, middle.Y = middle.X+q.X/4, middle.Y+q.Y/4
	}
	for _, l := range lines {
		if middle.X*l.cos+middle.Y*l.sin < l.off+5 {
			return out, false
		}
	}
	return out, polygonArea(out[:]) > leastPanel*float64(s.w*s.h)
}

// round is how well four lines go round something lighter.
func (s *steps) round(lines [4]straightLine, corners [4]point) (score float64) {
	for i, l := range lines {
		a, b := corners[i], corners[(i+1)%4]
		in := s.share(l, a, b, 0.03, 0.97)
		if in < sideSeen {
			return 0
		}
		out := (s.share(l, a, b, -beyond, -0.02) + s.share(l, a, b, 1.02, 1+beyond)) / 2
		score += (in - out) / 4
	}
	return score
}

// share is the part of the way from a to b, between two shares of it, along which light grows
// across the line.
func (s *steps) share(l straightLine, a, b point, from, to float64) float64 {
	n := max(6, int(sideSteps*(to-from)))
	seen := 0
	for k := range n {
		q := between(a, b, from+(to-from)*(float64(k)+0.5)/float64(n))
		for d := -2.0; d <= 2; d++ {
			x, y := int(math.Floor(q.X+d*l.cos)), int(math.Floor(q.Y+d*l.sin))
			if x < 0 || y < 0 || x >= s.w || y >= s.h {
				continue
			}
			i := y*s.w + x
			if g := math.Hypot(s.dx[i], s.dy[i]); g >= leastStep && s.dx[i]*l.cos+s.dy[i]*l.sin > 0.9*g {
				seen++
				break
			}
		}
	}
	return float64(seen) / float64(n)
}
