package svg

import (
	"math"
	"strings"
)

// rings are the outline of a shape, its curves taken apart for pixels of 1/k.
func (p *painter) rings(e *element, k float64) []ring {
	if k == 0 {
		return nil
	}
	to := &pather{pixel: 1 / k, points: &p.points}
	x := func(name string) float64 { v, _ := inUnits(e.attrs[name], p.box.w); return v }
	y := func(name string) float64 { v, _ := inUnits(e.attrs[name], p.box.h); return v }
	switch e.name {
	case "path":
		to.data(e.attrs["d"])
	case "line":
		to.move(point{x("x1"), y("y1")})
		to.line(point{x("x2"), y("y2")})
	case "polyline", "polygon":
		v := list(e.attrs["points"])
		for i := 0; i+1 < len(v); i += 2 {
			if at := (point{v[i], v[i+1]}); i == 0 {
				to.move(at)
			} else {
				to.line(at)
			}
		}
		if e.name == "polygon" {
			to.close()
		}
	case "circle":
		r, _ := p.diagonal(e.attrs["r"])
		to.ellipse(point{x("cx"), y("cy")}, r, r)
	case "ellipse":
		to.ellipse(point{x("cx"), y("cy")}, x("rx"), y("ry"))
	case "rect":
		rx, given := inUnits(e.attrs["rx"], p.box.w)
		ry, also := inUnits(e.attrs["ry"], p.box.h)
		if !given {
			rx = ry
		}
		if !also {
			ry = rx
		}
		to.rect(point{x("x"), y("y")}, x("width"), y("height"), rx, ry)
	}
	return to.rings
}

func (p *pather) ellipse(c point, rx, ry float64) {
	if rx <= 0 || ry <= 0 {
		return
	}
	p.move(point{c.x + rx, c.y})
	p.arc(rx, ry, 0, false, true, point{c.x - rx, c.y})
	p.arc(rx, ry, 0, false, true, point{c.x + rx, c.y})
	p.close()
}

func (p *pather) rect(at point, w, h, rx, ry float64) {
	if w <= 0 || h <= 0 {
		return
	}
	rx, ry = min(max(0, rx), w/2), min(max(0, ry), h/2)
	p.move(point{at.x + rx, at.y})
	for _, side := range [][2]point{
		{{at.x + w - rx, at.y}, {at.x + w, at.y + ry}}, {{at.x + w, at.y + h - ry}, {at.x + w - rx, at.y + h}},
		{{at.x + rx, at.y + h}, {at.x, at.y + h - ry}}, {{at.x, at.y + ry}, {at.x + rx, at.y}},
	} {
		p.line(side[0])
		if rx > 0 && ry > 0 {
			p.arc(rx, ry, 0, false, true, side[1])
		}
	}
	p.close()
}

// transform reads a list of transforms; ok is false for one that is none.
func transform(text string) (m matrix, ok bool) {
	m = identity
	for {
		text = strings.TrimLeft(text, " \t\r\n,")
		if text == "" {
			return m, true
		}
		name, rest, found := strings.Cut(text, "(")
		body, rest, closed := strings.Cut(rest, ")")
		if !found || !closed {
			return m, false
		}
		text = rest
		v := list(body)
		n := len(v)
		var t matrix
		switch name = strings.TrimSpace(name); {
		case name == "matrix" && n == 6:
			t = matrix{v[0], v[1], v[2], v[3], v[4], v[5]}
		case name == "translate" && n >= 1:
			t = matrix{a: 1, d: 1, e: v[0]}
			if n > 1 {
				t.f = v[1]
			}
		case name == "scale" && n >= 1:
			t = matrix{a: v[0], d: v[n-1]}
		case name == "rotate" && (n == 1 || n == 3):
			sin, cos := math.Sincos(v[0] * math.Pi / 180)
			t = matrix{cos, sin, -sin, cos, 0, 0}
			if n == 3 {
				t = matrix{a: 1, d: 1, e: v[1], f: v[2]}.then(t).then(matrix{a: 1, d: 1, e: -v[1], f: -v[2]})
			}
		case name == "skewX" && n == 1:
			t = matrix{a: 1, c: math.Tan(v[0] * math.Pi / 180), d: 1}
		case name == "skewY" && n == 1:
			t = matrix{a: 1, b: math.Tan(v[0] * math.Pi / 180), d: 1}
		default:
			return m, false
		}
		m = m.then(t)
	}
}
