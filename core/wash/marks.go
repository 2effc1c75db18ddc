package wash

import (
	"cmp"
	"image"
	"math"
	"slices"

	"chromaqua/core/parallel"
)

// markAll draws the strokes of marks that have begun.
func (c *canvas) markAll() {
	var strokes []*Stroke
	for k := range c.m.p.Strokes {
		if s := &c.m.p.Strokes[k]; s.Mark.Kind.drawn() && c.m.begun(s) {
			strokes = append(strokes, s)
		}
	}
	slices.SortStableFunc(strokes, func(x, y *Stroke) int { return cmp.Compare(x.Start, y.Start) })
	c.marks = make([]*markMap, len(strokes))
	parallel.Each(len(strokes), func(n int) { c.marks[n] = c.newMark(strokes[n]) })
	for _, m := range c.marks {
		for _, l := range m.s.Cells {
			c.byCell[l] = append(c.byCell[l], m)
		}
	}
}

// newMark draws one stroke of marks.
func (c *canvas) newMark(s *Stroke) *markMap {
	p := c.m.p
	m := &markMap{s: s, angle: map[uint16]float64{}, after: map[uint16]int{}}
	for _, q := range s.Mix {
		m.film.add(&p.Paints[q.Paint], q.Share)
	}
	m.skimAt = float32(math.Sqrt2 * math.Erfinv(2*clamp64(s.Mark.Share, 0.02, 0.95)-1))
	box := p.Plate.boxes[s.Cells[0]]
	for _, l := range s.Cells {
		box = box.Union(p.Plate.boxes[l])
		m.after[l] = c.topBefore(l, s.Start)
		m.angle[l] = c.angleOf(l)
	}
	m.x0, m.y0, m.w, m.h = box.Min.X, box.Min.Y, box.Dx(), box.Dy()
	m.dist, m.amount = make([]int8, m.w*m.h), make([]uint8, m.w*m.h)
	kept := c.m.covers(s.Start)
	mine := make([]bool, p.Plate.Cells+1)
	for _, l := range s.Cells {
		mine[l] = true
	}
	var near, heaped []float32
	if s.Mark.Kind == Dots || s.Mark.Kind == Lines {
		near, heaped = m.strewn(p)
	}
	for j := range m.dist {
		x, y := m.x0+j%m.w, m.y0+j/m.w
		i := y*p.Plate.W + x
		m.dist[j] = -127
		l := p.Plate.Label[i]
		if !mine[l] {
			continue
		}
		mx, my := (float64(x)+0.5)*PlateMM, (float64(y)+0.5)*PlateMM
		fx, fy := float32(mx), float32(my)
		v := p.Plate.Edge[i] - c.wobble(fx, fy, edgeWobble+edgeWobbleBy*s.Loose)
		if s.Within != nil {
			v = min(v, s.Within.dist[i])
		}
		for _, k := range kept {
			v = min(v, -k.dist[i])
		}
		amount := float32(1)
		if s.Amount != nil {
			amount = s.Amount.At(mx, my, l)
		}
		switch s.Mark.Kind {
		case Dots, Lines:
			v = min(v, near[j])
			amount *= heaped[j]
		case Sponge:
			n := 0.7*cloudy(fx/1.6, fy/1.6, 3, p.Seed+uint32(s.ID)) + 0.5*noise(fx/7, fy/7, p.Seed+uint32(s.ID)+9)
			v = min(v, 0.5*(n-m.skimAt*-0.6))
		}
		m.dist[j] = int8(clamp(v*50, -127, 127))
		m.amount[j] = uint8(clamp(amount*127, 0, 255))
	}
	return m
}

// strewn is, for each pixel, how far inside the nearest mark it lies, mm, and how thick paint
// lies there: it gathers at the edge of a drop.
func (m *markMap) strewn(p *Painting) (near, heaped []float32) {
	near, heaped = make([]float32, m.w*m.h), make([]float32, m.w*m.h)
	for j := range near {
		near[j] = -9
	}
	for n, d := range m.s.Mark.At {
		reach := 1.3*d.R + 0.4
		angle := 0.0
		if m.s.Mark.Kind == Lines {
			reach, angle = longestLine+1, m.angle[p.Plate.LabelAt(d.X, d.Y)]
		}
		x0, x1 := max(0, int((d.X-reach)/PlateMM)-m.x0), min(m.w-1, int((d.X+reach)/PlateMM)-m.x0)
		y0, y1 := max(0, int((d.Y-reach)/PlateMM)-m.y0), min(m.h-1, int((d.Y+reach)/PlateMM)-m.y0)
		for py := y0; py <= y1; py++ {
			for px := x0; px <= x1; px++ {
				x, y := (float64(m.x0+px)+0.5)*PlateMM, (float64(m.y0+py)+0.5)*PlateMM
				var v float64
				if m.s.Mark.Kind == Lines {
					v = alongLine(d, x, y, angle, n)
				} else {
					v = lobed(d, x, y, 0.16, p.Seed+uint32(n)*13) - math.Hypot(x-d.X, y-d.Y)
				}
				if j := py*m.w + px; float32(v) > near[j] {
					near[j], heaped[j] = float32(v), 0.8+0.45*exp(float32(max(0, v)/d.R)*5)
				}
			}
		}
	}
	return near, heaped
}

// longestLine is how long a short line is at most, mm.
const longestLine = 7

// alongLine is how far inside a short line a place lies, mm: it begins at the disc, runs on
// along the stroke with a bend, and ends in a point.
func alongLine(d Disc, x, y, angle float64, n int) float64 {
	long := longestLine * (0.43 + 0.57*float64(unit(int32(n), 1, 77)))
	a := angle + 0.35*(float64(unit(int32(n), 2, 77))-0.5)
	sin, cos := math.Sincos(a)
	u, v := (x-d.X)*cos+(y-d.Y)*sin, (y-d.Y)*cos-(x-d.X)*sin
	t := clamp64(u/long, 0, 1)
	bend := 0.5 * t * t
	return d.R*(1-0.6*t) - math.Hypot(u-t*long, v-bend)
}

// topBefore is the highest layer on a cell that was begun before a time, -1 for none.
func (c *canvas) topBefore(label uint16, t float64) int {
	top := -1
	if c.m.of[label] < 0 {
		return top
	}
	for _, s := range c.m.basins[c.m.of[label]].strokes {
		if s.begun && s.Start <= t && len(s.Mix) > 0 && slices.Contains(s.Cells, label) {
			top = max(top, s.layer)
		}
	}
	return top
}

// angleOf is the direction in which a cell is long.
func (c *canvas) angleOf(label uint16) float64 {
	p := c.m.p.Plate
	box := p.boxes[label]
	var all []Disc
	for y := box.Min.Y; y < box.Max.Y; y += 2 {
		for x := box.Min.X; x < box.Max.X; x += 2 {
			if p.Label[y*p.W+x] == label {
				all = append(all, Disc{X: float64(x), Y: float64(y)})
			}
		}
	}
	angle, _, _ := longWay(len(all), func(k int) (x, y float64) { return all[k].X, all[k].Y })
	return angle
}

// cover is how much of a pixel a mark covers, 0 to 1, and how thick it lies.
func (m *markMap) cover(c *canvas, x, y, height float32, pixel int, soft float32) (cover, amount float32) {
	p := c.m.p.Plate
	px, py := pixel%p.W-m.x0, pixel/p.W-m.y0
	if px < 0 || py < 0 || px >= m.w || py >= m.h {
		return 0, 0
	}
	j := py*m.w + px
	d := m.blend(x, y)
	cover = clamp(d/soft+0.5, 0, 1)
	if cover == 0 {
		return 0, 0
	}
	if m.s.Mark.Kind == Skim {
		sin, cos := math.Sincos(m.angle[p.Label[pixel]])
		u, v := x*float32(cos)+y*float32(sin), y*float32(cos)-x*float32(sin)
		hairs := 0.9*noise(u/9, v/0.42, c.m.p.Seed+uint32(m.s.ID)) + 0.5*noise(u/5, v/1.5, c.m.p.Seed+uint32(m.s.ID)+4)
		cover *= clamp((0.85*height+0.62*hairs-m.skimAt)*3.2+0.5, 0, 1)
	}
	return cover, float32(m.amount[j]) / 127
}

// blend is the distance to the edge at a place, mm, between pixels.
func (m *markMap) blend(x, y float32) float32 {
	return mix(m.dist, amid(x, y, image.Rect(m.x0, m.y0, m.x0+m.w, m.y0+m.h))) * 0.02
}
