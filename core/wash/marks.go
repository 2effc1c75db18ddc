package wash

import (
	"cmp"
	"image"
	"math"
	"slices"

	"chromaqua/core/parallel"
)

// A markMap is a stroke of marks.
type markMap struct {
	s      *Stroke
	box    image.Rectangle // of the plate
	dist   []int8          // by pixel of the box: to its edge, 127 being farMark
	amount []uint8         // 1/127
	angle  map[uint16]float64
	film   film // of load 1
	skimAt float32
}

// A placed is a stroke of marks on one cell: the layer it lies on, -1 for none, and the
// direction in which the cell is long.
type placed struct {
	*markMap
	after    int
	sin, cos float32
}

func (m *Moment) begun(s *Stroke) bool { return s.Start < m.At }

// marks are the strokes of marks that have begun, by cell, in the order they were made.
func (m *Moment) marks() [][]placed {
	var strokes []*Stroke
	for k := range m.p.Strokes {
		if s := &m.p.Strokes[k]; s.Mark.Kind.drawn() && m.begun(s) {
			strokes = append(strokes, s)
		}
	}
	slices.SortStableFunc(strokes, func(x, y *Stroke) int { return cmp.Compare(x.Start, y.Start) })
	maps := make([]*markMap, len(strokes))
	parallel.Each(len(strokes), func(n int) { maps[n] = m.p.newMark(strokes[n]) })
	on := make([][]placed, m.p.Plate.Cells+1)
	for _, k := range maps {
		for _, l := range k.s.Cells {
			sin, cos := math.Sincos(k.angle[l])
			on[l] = append(on[l], placed{k, m.topBefore(l, k.s.Start), float32(sin), float32(cos)})
		}
	}
	return on
}

// farMark is how far from the edge of a mark it is told, mm.
const farMark = 2.54

// newMark draws one stroke of marks.
func (p *Painting) newMark(s *Stroke) *markMap {
	m := &markMap{s: s, angle: map[uint16]float64{}}
	for _, q := range s.Mix {
		m.film.add(&p.Paints[q.Paint], q.Share)
	}
	m.skimAt = float32(math.Sqrt2 * math.Erfinv(2*clamp64(s.Mark.Share, 0.02, 0.95)-1))
	for _, l := range s.Cells {
		m.box = m.box.Union(p.Plate.boxes[l])
		if s.Mark.Kind == Lines || s.Mark.Kind == Skim {
			m.angle[l] = p.Plate.angleOf(l)
		}
	}
	w := m.box.Dx()
	m.dist, m.amount = make([]int8, w*m.box.Dy()), make([]uint8, w*m.box.Dy())
	kept := p.covers(s.Start)
	mine := p.Plate.among(s.Cells)
	var near, heaped []float32
	if s.Mark.Kind == Dots || s.Mark.Kind == Lines {
		near, heaped = m.strewn(p)
	}
	for j := range m.dist {
		x, y := m.box.Min.X+j%w, m.box.Min.Y+j/w
		i := y*p.Plate.W + x
		m.dist[j] = -127
		l := p.Plate.Label[i]
		if !mine[l] || near != nil && near[j] <= -farMark {
			continue
		}
		mx, my := (float64(x)+0.5)*PlateMM, (float64(y)+0.5)*PlateMM
		fx, fy := float32(mx), float32(my)
		v := p.Plate.Edge[i]
		if v < farMark+farthestOff {
			v -= wobble(fx, fy, edgeWobble+edgeWobbleBy*s.Loose, p.Seed)
		}
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
		m.dist[j] = int8(clamp(v*(127/farMark), -127, 127))
		m.amount[j] = uint8(clamp(amount*127, 0, 255))
	}
	return m
}

// strewn is, for each pixel, how far inside the nearest mark it lies, mm, and how thick paint
// lies there: it gathers at the edge of a drop.
func (m *markMap) strewn(p *Painting) (near, heaped []float32) {
	w, h := m.box.Dx(), m.box.Dy()
	near, heaped = make([]float32, w*h), make([]float32, w*h)
	for j := range near {
		near[j] = -farMark
	}
	for n, d := range m.s.Mark.At {
		reach := 1.3*d.R + 0.4
		angle := 0.0
		if m.s.Mark.Kind == Lines {
			reach, angle = longestLine+1, m.angle[p.Plate.LabelAt(d.X, d.Y)]
		}
		x0, x1 := max(0, int((d.X-reach)/PlateMM)-m.box.Min.X), min(w-1, int((d.X+reach)/PlateMM)-m.box.Min.X)
		y0, y1 := max(0, int((d.Y-reach)/PlateMM)-m.box.Min.Y), min(h-1, int((d.Y+reach)/PlateMM)-m.box.Min.Y)
		for py := y0; py <= y1; py++ {
			for px := x0; px <= x1; px++ {
				x, y := (float64(m.box.Min.X+px)+0.5)*PlateMM, (float64(m.box.Min.Y+py)+0.5)*PlateMM
				var v float64
				if m.s.Mark.Kind == Lines {
					v = alongLine(d, x, y, angle, n)
				} else {
					v = lobed(d, x, y, 0.16, p.Seed+uint32(n)*13) - math.Hypot(x-d.X, y-d.Y)
				}
				if j := py*w + px; float32(v) > near[j] {
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
func (m *Moment) topBefore(label uint16, t float64) int {
	top, b := -1, m.at(label)
	if b == nil {
		return top
	}
	for _, s := range b.strokes {
		if s.begun && s.Start <= t && len(s.Mix) > 0 && slices.Contains(s.Cells, label) {
			top = max(top, s.layer)
		}
	}
	return top
}

// angleOf is the direction in which a cell is long.
func (p *Plate) angleOf(label uint16) float64 {
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
func (m *placed) cover(p *Painting, at *place, height, soft float32) (cover, amount float32) {
	d := m.away(p.Plate, at)
	if cover = clamp(d/soft+0.5, 0, 1); cover == 0 {
		return 0, 0
	}
	if m.s.Mark.Kind == Skim {
		u, v := at.x*m.cos+at.y*m.sin, at.y*m.cos-at.x*m.sin
		hairs := 0.9*noise(u/9, v/0.42, p.Seed+uint32(m.s.ID)) + 0.5*noise(u/5, v/1.5, p.Seed+uint32(m.s.ID)+4)
		cover *= clamp((0.85*height+0.62*hairs-m.skimAt)*3.2+0.5, 0, 1)
	}
	i := (at.pixel/p.Plate.W-m.box.Min.Y)*m.box.Dx() + at.pixel%p.Plate.W - m.box.Min.X
	return cover, float32(m.amount[i]) / 127
}

// away is how far inside the edge of the marks a place is, mm.
func (m *markMap) away(p *Plate, at *place) float32 {
	if !image.Pt(at.pixel%p.W, at.pixel/p.W).In(m.box) {
		return -9
	}
	return mix(m.dist, amid(at.x, at.y, m.box)) * (farMark / 127)
}
