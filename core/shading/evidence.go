package shading

import (
	"math"
	"slices"

	"chromaqua/core/lineart"
)

// What each kind of evidence weighs; they compete, they do not add.
const (
	hatchWeighs = 3.0
	underWeighs = 1.5
	hubWeighs   = 1.6
	joinWeighs  = 0.7
	foldWeighs  = 0.45
	lightAlone  = 0.6
	lightBeside = 0.25
)

// shade finds the dark of every cell.
func (m *Map) shade(d *lineart.Drawing, light Light) {
	n := len(d.Cells) + 1
	m.Shades, m.grid.cells = make([]Shade, n), make([]*cellField, n)
	arcs, marks := make([][]int, n), make([][]int, n)
	for i, a := range m.net.arcs {
		for _, c := range [2]int{a.left, a.right} {
			if c > 0 {
				arcs[c] = append(arcs[c], i)
			}
		}
	}
	for i := range m.marks {
		marks[m.marks[i].cell] = append(marks[m.marks[i].cell], i)
	}
	places := m.places(d)
	m.middles = make([]vec, n)
	for id, all := range places {
		for _, p := range all {
			m.middles[id] = m.middles[id].plus(p.p.times(1 / float64(len(all))))
		}
	}
	m.findRings(d)
	for id := 1; id < n; id++ {
		if m.belongs[id] == id && !m.outside[id] && len(places[id]) >= 6 {
			c := m.look(d, id, places[id], arcs[id], marks[id], vec(light))
			m.Shades[id] = c.decide()
			m.keepField(c)
		}
	}
	m.alike(places)
}

// A claim is one piece of evidence for where a cell is dark.
type claim struct {
	why   Reason
	other int
	score float64
	pts   []vec // beside which it is dark
}

// A looked is a cell that is looked at.
type looked struct {
	m      *Map
	id     int
	places []place
	arcs   []int
	light  vec

	middle     vec
	radius     float64 // of a disc as large
	inscribed  float64
	along      vec // its long axis
	slender    float64
	half       float64 // half its length
	outline    float64 // mm
	beside     map[int][]vec
	besideMM   map[int]float64
	claims     []claim
	hatch      float64
	strokes    int
	marks      int
	lead       claim
	lightScore float64
	across     vec // from where light falls on it: never along a rod
	small      func(other int) bool
}

// look gathers what there is to say of a cell.
func (m *Map) look(d *lineart.Drawing, id int, places []place, arcs, marks []int, light vec) *looked {
	c := &looked{m: m, id: id, places: places, arcs: arcs, light: light, middle: m.middles[id], beside: map[int][]vec{}, besideMM: map[int]float64{}}
	area := float64(len(places)) * m.grid.cells[id].step * m.grid.cells[id].step
	c.radius = math.Sqrt(area / math.Pi)
	c.small = func(o int) bool { return d.Cells[o-1].AreaMM2 < 0.2*area && m.within(o, id) }
	c.axis()
	var border []vec
	for _, i := range arcs {
		a := m.net.arcs[i]
		other := a.left + a.right - id
		c.outline += a.mm
		c.besideMM[other] += a.mm
		thin := max(1, int(0.45/m.mm))
		for k := 0; k < len(a.pts); k += thin {
			border = append(border, a.pts[k])
			if other > 0 && !m.outside[other] {
				c.beside[other] = append(c.beside[other], a.pts[k])
			}
		}
	}
	for i := range places {
		p := &places[i]
		p.edge = nearest(p.p, border)
		c.inscribed = max(c.inscribed, p.edge)
	}
	c.useMarks(marks, area)
	c.neighbours()
	return c
}

func nearest(p vec, of []vec) float64 {
	least := math.Inf(1)
	for _, q := range of {
		dx, dy := q.X-p.X, q.Y-p.Y
		least = min(least, dx*dx+dy*dy)
	}
	return math.Sqrt(least)
}

// axis finds how a cell lies.
func (c *looked) axis() {
	var xx, yy, xy float64
	for _, p := range c.places {
		q := p.p.less(c.middle)
		xx, yy, xy = xx+q.X*q.X, yy+q.Y*q.Y, xy+q.X*q.Y
	}
	n := float64(len(c.places))
	mid, differ := (xx+yy)/2/n, math.Hypot((xx-yy)/2, xy)/n
	sin, cos := math.Sincos(0.5 * math.Atan2(2*xy, xx-yy))
	c.along = vec{X: cos, Y: sin}
	c.slender = math.Sqrt((mid + differ) / max(1e-9, mid-differ))
	c.half = 2 * math.Sqrt(mid+differ)
	if c.across = c.light; c.slender > 1.8 {
		c.across = c.light.less(c.along.times(0.85 * c.light.dot(c.along))).unit()
	}
}

// useMarks weighs the marks of a cell: where there is hatching it lies to one side.
func (c *looked) useMarks(all []int, area float64) {
	line := c.m.line
	var use []mark
	for _, i := range all {
		k := c.m.marks[i]
		switch {
		case k.mm2 > 0.05*area && k.wide > 1.2*line: // a pupil
		case k.wide > 1.8*line && k.long < 3*k.wide: // an eye, a rivet
		case k.rooted && k.long < 1.2+line && c.m.nearJunction(k.at, 1.6*line+0.6): // a blot where lines meet
		case k.long > 0.75*2*c.radius: // a vein, a fold, a tendril
		default:
			use = append(use, k)
		}
	}
	c.marks = len(use)
	if len(use) == 0 {
		return
	}
	var at vec
	ink := 0.0
	for _, k := range use {
		at, ink = at.plus(k.at.times(k.mm2)), ink+k.mm2
		if !k.dot(line) {
			c.strokes++
		}
	}
	off := at.times(1/ink).less(c.middle).long() / c.radius
	z := off * math.Sqrt(float64(len(use))) / 0.5
	switch {
	case (c.strokes >= 3 || len(use) >= 6) && z > 2 && off > 0.2:
		c.hatch = min(0.95, 0.45+0.12*z)
	case len(use) <= 2 && c.strokes > 0 && off > 0.3, c.strokes >= 2 && z > 1.6 && off > 0.25:
		c.hatch = 0.4
	}
	if c.hatch == 0 {
		return
	}
	why := Hatched
	switch {
	case c.strokes == 0:
		why = Dotted
	case c.strokes < 3:
		why = Stroked
	}
	c.claims = append(c.claims, claim{why: why, score: hatchWeighs * c.hatch})
	c.density(use)
}

// density is how thick the marks lie at each place.
func (c *looked) density(use []mark) {
	sigma := max(1.0, 0.22*c.radius)
	skip, top := 1+len(c.places)/200, 0.0
	for i := range c.places {
		p := &c.places[i]
		ink, room := 0.0, 1e-9
		for _, k := range use {
			d := k.at.to(p.p) / sigma
			ink += k.mm2 * math.Exp(-d*d/2)
		}
		for j := 0; j < len(c.places); j += skip {
			if d := c.places[j].p.to(p.p) / sigma; d < 3 {
				room += math.Exp(-d * d / 2)
			}
		}
		p.hatch = ink / room
		top = max(top, p.hatch)
	}
	for i := range c.places {
		c.places[i].hatch *= hatchWeighs * c.hatch / top
	}
}

// neighbours weighs what lies beside a cell.
func (c *looked) neighbours() {
	var others []int
	for o := range c.beside {
		others = append(others, o)
	}
	slices.Sort(others)
	for _, o := range others {
		front, _ := c.m.Score(o, c.id)
		mm := c.besideMM[o]
		if mm < 0.8 {
			continue
		}
		var at vec
		for _, p := range c.beside[o] {
			at = at.plus(p.times(1 / float64(len(c.beside[o]))))
		}
		atEnd := c.slender > 1.5 && math.Abs(at.less(c.middle).dot(c.along)) > 0.6*c.half && mm < 0.35*c.outline
		switch {
		case c.m.ringOf[c.id] == o && front > -Decided:
			c.claims = append(c.claims, claim{AtMiddle, o, hubWeighs * max(front, 0.7), c.beside[o]})
		case front >= Decided:
			score := underWeighs * front * min(1, 0.4+mm/(0.5*c.outline))
			if atEnd {
				score = underWeighs * front
			} else if mm < 0.1*c.outline {
				score *= 0.5 // it only just touches
			}
			if c.small(o) {
				score *= 0.2 // a button on a coat
			}
			c.claims = append(c.claims, claim{LiesUnder, o, score, c.beside[o]})
		case atEnd && front > -Decided:
			c.claims = append(c.claims, claim{Joins, o, joinWeighs, c.beside[o]})
		case math.Abs(front) < 0.2 && mm > 0.15*c.outline && at.less(c.middle).dot(c.across) < 0.3*c.inscribed:
			c.claims = append(c.claims, claim{Fold, o, foldWeighs, c.beside[o]})
		}
	}
}

// decide lets the evidence compete.
func (c *looked) decide() Shade {
	if c.lightScore = lightAlone; len(c.claims) > 0 {
		c.lightScore = lightBeside
	}
	c.lead = claim{why: FromLight, score: c.lightScore}
	for _, k := range c.claims {
		if k.score > c.lead.score {
			c.lead = k
		}
	}
	c.darken()
	s := Shade{Cell: c.id, Reason: c.lead.why, Other: c.lead.other, Marks: c.marks}
	c.anchor(&s)
	least := math.Inf(1)
	for _, p := range c.places {
		if p.edge < 0.35*c.inscribed {
			continue
		}
		if v := p.dark - 0.35*c.lead.score*p.edge/c.inscribed; v < least {
			least, s.Light, s.LightR = v, lineart.Point(p.p), p.edge
		}
	}
	s.Confidence = c.confidence()
	return s
}

// darken sets how dark each place should be.
func (c *looked) darken() {
	lo, hi := math.Inf(1), math.Inf(-1)
	for _, p := range c.places {
		v := p.p.less(c.middle).dot(c.across)
		lo, hi = min(lo, v), max(hi, v)
	}
	best := make([]float64, len(c.places))
	for _, k := range c.claims {
		if k.pts == nil {
			for i := range c.places {
				best[i] = max(best[i], c.places[i].hatch)
			}
			continue
		}
		away, far := make([]float64, len(c.places)), 0.0
		for i := range c.places {
			away[i] = nearest(c.places[i].p, k.pts)
			far = max(far, away[i])
		}
		reach := max(0.8, 0.3*far)
		for i, d := range away {
			best[i] = max(best[i], k.score*math.Exp(-d/reach))
		}
	}
	for i := range c.places {
		p := &c.places[i]
		p.dark = best[i] + c.lightScore*(hi-p.p.less(c.middle).dot(c.across))/(hi-lo+1e-9)
	}
}

// anchor is the darkest place of the leading evidence: roomy for marks and the light, beside
// its border near the middle of that for what lies over it.
func (c *looked) anchor(s *Shade) {
	most := math.Inf(-1)
	if c.lead.pts == nil {
		for _, p := range c.places {
			v := p.dark
			if c.lead.why != FromLight {
				v = p.hatch
			}
			if v += 0.1 * min(p.edge, 0.4*c.inscribed) / (c.inscribed + 1e-9); v > most {
				most, s.Dark = v, lineart.Point(p.p)
			}
		}
		return
	}
	var at vec
	for _, q := range c.lead.pts {
		at = at.plus(q.times(1 / float64(len(c.lead.pts))))
	}
	for _, p := range c.places {
		d, by := math.Inf(1), vec{}
		for _, q := range c.lead.pts {
			if v := q.to(p.p); v < d {
				d, by = v, q
			}
		}
		v := -math.Abs(d-min(1, 0.4*c.inscribed)) - 0.3*p.p.to(at)/max(1, c.radius) - 0.3*p.p.less(by).unit().dot(c.light)
		if v > most {
			most, s.Dark = v, lineart.Point(p.p)
		}
	}
}

// confidence is how much there is to the leading evidence.
func (c *looked) confidence() float64 {
	switch c.lead.why {
	case Hatched, Dotted, Stroked:
		return c.hatch
	case LiesUnder:
		front, _ := c.m.Score(c.lead.other, c.id)
		return min(0.9, 0.75*max(front, 0.6)) * min(1, 0.5+2.5*c.besideMM[c.lead.other]/c.outline)
	case AtMiddle:
		front, _ := c.m.Score(c.lead.other, c.id)
		return min(0.9, 0.75*max(front, 0.7))
	case Joins:
		return 0.4
	case Fold:
		return 0.35
	}
	return 0.3
}

func (m *Map) nearJunction(p vec, r float64) bool {
	return slices.ContainsFunc(m.net.junctions, func(j vec) bool { return j.to(p) < r })
}

// within reports whether nearly all of a cell's border is with another.
func (m *Map) within(cell, other int) bool {
	all, with := 0.0, 0.0
	for _, a := range m.net.arcs {
		if a.left == cell || a.right == cell {
			all += a.mm
			if a.left+a.right-cell == other {
				with += a.mm
			}
		}
	}
	return with > 0.9*all
}
