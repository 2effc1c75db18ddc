package svg

import "math"

// A point in units of the drawing, or in pixels.
type point struct{ x, y float64 }

func (p point) plus(q point) point        { return point{p.x + q.x, p.y + q.y} }
func (p point) minus(q point) point       { return point{p.x - q.x, p.y - q.y} }
func (p point) times(k float64) point     { return point{k * p.x, k * p.y} }
func (p point) length() float64           { return math.Hypot(p.x, p.y) }
func (p point) left() point               { return point{-p.y, p.x} }
func between(p, q point, t float64) point { return p.plus(q.minus(p).times(t)) }

// A ring is a row of points; a closed one goes back to its first.
type ring struct {
	at     []point
	closed bool
}

// matrix maps (x, y) to (a·x + c·y + e, b·x + d·y + f).
type matrix struct{ a, b, c, d, e, f float64 }

var identity = matrix{a: 1, d: 1}

func (m matrix) of(p point) point { return point{m.a*p.x + m.c*p.y + m.e, m.b*p.x + m.d*p.y + m.f} }

// then is m after n: n is done first.
func (m matrix) then(n matrix) matrix {
	return matrix{
		m.a*n.a + m.c*n.b, m.b*n.a + m.d*n.b,
		m.a*n.c + m.c*n.d, m.b*n.c + m.d*n.d,
		m.a*n.e + m.c*n.f + m.e, m.b*n.e + m.d*n.f + m.f,
	}
}

// scale is how much larger things come out, on the whole.
func (m matrix) scale() float64 { return math.Sqrt(math.Abs(m.a*m.d - m.b*m.c)) }

// sound reports whether it is made of numbers that can be drawn with.
func (m matrix) sound() bool {
	for _, v := range []float64{m.a, m.b, m.c, m.d, m.e, m.f} {
		if !(math.Abs(v) <= maxNumber) {
			return false
		}
	}
	return true
}

func (m matrix) all(rings []ring) []ring {
	out := make([]ring, len(rings))
	for i, r := range rings {
		out[i] = ring{make([]point, len(r.at)), r.closed}
		for k, p := range r.at {
			out[i].at[k] = m.of(p)
		}
	}
	return out
}

// bounds is the box round rings.
func bounds(rings []ring) (least, most point) {
	least, most = point{math.Inf(1), math.Inf(1)}, point{math.Inf(-1), math.Inf(-1)}
	for _, r := range rings {
		for _, p := range r.at {
			least, most = point{min(least.x, p.x), min(least.y, p.y)}, point{max(most.x, p.x), max(most.y, p.y)}
		}
	}
	return least, most
}
