package svg

import (
	"errors"
	"math"
	"strconv"
)

// maxPoints bounds the points of a whole drawing, its curves taken apart.
const maxPoints = 2_000_000

// pather makes rings of path data, curves as chords.
type pather struct {
	rings  []ring
	at     point // the pen
	start  point // of the ring
	bend   point // the last control point, for smooth curves
	curved byte  // the kind of curve it belongs to: 'C', 'Q', 0
	pixel  float64
	points *int // of the whole drawing
}

func (p *pather) move(to point) {
	p.rings = append(p.rings, ring{at: []point{to}})
	p.at, p.start, p.curved = to, to, 0
}

func (p *pather) line(to point) {
	if len(p.rings) == 0 || p.rings[len(p.rings)-1].closed {
		p.move(p.at)
	}
	r := &p.rings[len(p.rings)-1]
	r.at = append(r.at, to)
	p.at, p.curved = to, 0
	*p.points++
}

func (p *pather) close() {
	if n := len(p.rings); n > 0 {
		p.rings[n-1].closed = true
	}
	p.at, p.curved = p.start, 0
}

// cubic adds a curve by its control points. A chord strays from it by less than a quarter
// of a pixel.
func (p *pather) cubic(b, c, to point) {
	a := p.at
	stray := max(a.minus(b.times(2)).plus(c).length(), b.minus(c.times(2)).plus(to).length())
	n := int(min(200, max(1, math.Ceil(math.Sqrt(3*stray/p.pixel)))))
	for i := 1; i < n; i++ {
		t := float64(i) / float64(n)
		ab, bc, cd := between(a, b, t), between(b, c, t), between(c, to, t)
		p.line(between(between(ab, bc, t), between(bc, cd, t), t))
	}
	p.line(to)
	p.bend, p.curved = c, 'C'
}

func (p *pather) quad(b, to point) {
	p.cubic(between(p.at, b, 2.0/3), between(to, b, 2.0/3), to)
	p.bend, p.curved = b, 'Q'
}

// arc adds an arc of an ellipse, by the rules of SVG 1.1, F.6.
func (p *pather) arc(rx, ry, turn float64, large, sweep bool, to point) {
	a := p.at
	rx, ry = math.Abs(rx), math.Abs(ry)
	if rx == 0 || ry == 0 || a == to {
		p.line(to)
		return
	}
	sin, cos := math.Sincos(turn * math.Pi / 180)
	h := a.minus(to).times(0.5)
	x, y := cos*h.x+sin*h.y, cos*h.y-sin*h.x
	if l := x*x/(rx*rx) + y*y/(ry*ry); l > 1 {
		rx, ry = rx*math.Sqrt(l), ry*math.Sqrt(l)
	}
	k := math.Sqrt(max(0, (rx*rx*ry*ry-rx*rx*y*y-ry*ry*x*x)/(rx*rx*y*y+ry*ry*x*x)))
	if large == sweep {
		k = -k
	}
	cx, cy := k*rx*y/ry, -k*ry*x/rx
	mid := between(a, to, 0.5)
	centre := point{cos*cx - sin*cy + mid.x, sin*cx + cos*cy + mid.y}
	from := math.Atan2((y-cy)/ry, (x-cx)/rx)
	span := math.Atan2((-y-cy)/ry, (-x-cx)/rx) - from
	if sweep && span < 0 {
		span += 2 * math.Pi
	} else if !sweep && span > 0 {
		span -= 2 * math.Pi
	}
	n := int(min(200, max(4, math.Ceil(math.Abs(span)*math.Sqrt(max(rx, ry)/p.pixel)))))
	for i := 1; i < n; i++ {
		s, c := math.Sincos(from + span*float64(i)/float64(n))
		p.line(point{centre.x + cos*rx*c - sin*ry*s, centre.y + sin*rx*c + cos*ry*s})
	}
	p.line(to)
}

// data adds path data. Like every browser it draws up to the first mistake.
func (p *pather) data(text string) {
	in := scanner{text: text}
	for op, ok := in.command(0); ok; op, ok = in.command(op) {
		var v [7]float64
		n := operands[op|0x20]
		for i := range n {
			if op|0x20 == 'a' && (i == 3 || i == 4) {
				v[i], ok = in.flag()
			} else {
				v[i], ok = in.number()
			}
			if !ok {
				return
			}
		}
		if *p.points > maxPoints {
			return
		}
		from := point{}
		if op >= 'a' {
			from = p.at
		}
		to := func(i int) point { return point{v[i], v[i+1]}.plus(from) }
		if len(p.rings) == 0 && op|0x20 != 'm' {
			return
		}
		switch op | 0x20 {
		case 'm':
			p.move(to(0))
		case 'l':
			p.line(to(0))
		case 'h':
			p.line(point{v[0] + from.x, p.at.y})
		case 'v':
			p.line(point{p.at.x, v[0] + from.y})
		case 'c':
			p.cubic(to(0), to(2), to(4))
		case 's':
			p.cubic(p.mirrored('C'), to(0), to(2))
		case 'q':
			p.quad(to(0), to(2))
		case 't':
			p.quad(p.mirrored('Q'), to(0))
		case 'a':
			p.arc(v[0], v[1], v[2], v[3] != 0, v[4] != 0, to(5))
		case 'z':
			p.close()
		}
	}
}

// mirrored is the control point that makes a curve go on smoothly.
func (p *pather) mirrored(kind byte) point {
	if p.curved != kind {
		return p.at
	}
	return p.at.times(2).minus(p.bend)
}

// operands are how many numbers a command takes.
var operands = map[byte]int{'m': 2, 'l': 2, 'h': 1, 'v': 1, 'c': 6, 's': 4, 'q': 4, 't': 2, 'a': 7, 'z': 0}

// scanner reads the terse numbers of path data and of lists.
type scanner struct {
	text string
	i    int
}

func (s *scanner) space() {
	for s.i < len(s.text) && (s.text[s.i] <= ' ' || s.text[s.i] == ',') {
		s.i++
	}
}

// command reads the next command; numbers that follow without one repeat the last, lines
// after a move.
func (s *scanner) command(last byte) (op byte, ok bool) {
	s.space()
	if s.i >= len(s.text) {
		return 0, false
	}
	c := s.text[s.i]
	if _, known := operands[c|0x20]; known && (c >= 'a' && c <= 'z' || c >= 'A' && c <= 'Z') {
		s.i++
		return c, true
	}
	switch last {
	case 0, 'z', 'Z':
		return 0, false
	case 'm':
		return 'l', true
	case 'M':
		return 'L', true
	}
	return last, true
}

// flag reads one digit, which needs no space after it.
func (s *scanner) flag() (float64, bool) {
	s.space()
	if s.i < len(s.text) && (s.text[s.i] == '0' || s.text[s.i] == '1') {
		s.i++
		return float64(s.text[s.i-1] - '0'), true
	}
	return 0, false
}

func (s *scanner) number() (float64, bool) {
	s.space()
	from := s.i
	digits := func() (n int) {
		for s.i < len(s.text) && s.text[s.i] >= '0' && s.text[s.i] <= '9' {
			s.i++
			n++
		}
		return n
	}
	sign := func() {
		if s.i < len(s.text) && (s.text[s.i] == '-' || s.text[s.i] == '+') {
			s.i++
		}
	}
	sign()
	n := digits()
	if s.i < len(s.text) && s.text[s.i] == '.' {
		s.i++
		n += digits()
	}
	if n == 0 {
		s.i = from
		return 0, false
	}
	if s.i < len(s.text) && s.text[s.i]|0x20 == 'e' {
		at := s.i
		s.i++
		sign()
		if digits() == 0 {
			s.i = at // an em, not an exponent
		}
	}
	v, err := strconv.ParseFloat(s.text[from:s.i], 64)
	return v, err == nil || errors.Is(err, strconv.ErrRange) // what is too large is refused where it is drawn
}

// list reads all numbers of a text.
func list(text string) (out []float64) {
	in := scanner{text: text}
	for {
		v, ok := in.number()
		if !ok {
			return out
		}
		out = append(out, v)
	}
}
