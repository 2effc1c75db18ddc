package wash

import (
	"math"
	"slices"

	"chromaqua/core/lineart"
	"chromaqua/core/parallel"
)

// How a hand keeps to an edge. By eye.
const (
	edgeWobble   = 0.15 // mm, of a careful hand
	edgeWobbleBy = 0.22 // and so much more of a loose one
	freeWobble   = 0.30 // where no line leads it
	sliverAt     = 0.66 // from here on in noise a brush stays off the line
	sliverAtBy   = 0.38
	sliverMM     = 1.5
	thickest     = 0.30 // mm beyond the edge of the cell that is hidden by its line
)

// A canvas is all of a moment that is finer than its grids, at the plate's pixels: where
// each layer lies, and how far from its edge each pixel is.
type canvas struct {
	m      *Moment
	layers [MaxLayers]*layerMap
	marks  []*markMap
	byCell [][]*markMap
	jitter []int8             // by pixel: how far fibres lead what is looked up, x and y, 1/128 mm
	paints [][MaxLayers][]int // by basin and layer: the paints, local, that lie there
}

// A layerMap is where one layer lies.
type layerMap struct {
	dist  []int16 // 1/1000 mm to its edge, below 0 outside
	bead  []int8  // how far the edge is below, 1/127
	grain []uint8 // what grains do to the load, 1/64; nil without any
	scale []float32
}

// A markMap is a stroke of marks.
type markMap struct {
	s            *Stroke
	x0, y0, w, h int
	dist         []int8  // 1/50 mm to its edge
	amount       []uint8 // 1/127
	angle        map[uint16]float64
	film         film // of load 1
	skimAt       float32
	after        map[uint16]int
}

func (m *Moment) begun(s *Stroke) bool { return s.Start < m.At }

// newCanvas makes the canvas of a moment.
func newCanvas(m *Moment) *canvas {
	p := m.p.Plate
	c := &canvas{m: m, byCell: make([][]*markMap, p.Cells+1), jitter: p.fibres(m.p.Seed)}
	top := 0
	for _, b := range m.basins {
		top = max(top, b.maxLayer)
	}
	var cover [MaxLayers][]float32
	for k := range top + 1 {
		cover[k] = make([]float32, len(p.Label))
		for i := range cover[k] {
			cover[k][i] = -1
		}
	}
	parallel.Each(len(m.basins), func(k int) { // no pixel is in two of them
		b := m.basins[k]
		for _, s := range b.strokes {
			if s.begun && s.Mark.Kind != Grains && (len(s.Mix) > 0 || s.layer == 0) {
				c.cover(cover[s.layer], b, s)
			}
		}
	})
	parallel.Each(top+1, func(k int) { c.layers[k] = c.newLayer(cover[k]) })
	for _, b := range m.basins {
		var lists [MaxLayers][]int
		for k := range lists {
			for n := range b.paints {
				if d := b.lying[k][n]; d != nil && anyAbove(d, 1e-5) || b.afloat[n] != nil && anyAbove(b.afloat[n], 1e-5) {
					lists[k] = append(lists[k], n)
				}
			}
		}
		c.paints = append(c.paints, lists)
		for _, s := range b.strokes {
			if s.begun && s.Mark.Kind == Grains {
				c.strew(b, s)
			}
		}
	}
	parallel.Each(top+1, c.weigh)
	c.markAll()
	return c
}

func anyAbove(v []float32, least float32) bool {
	return slices.ContainsFunc(v, func(x float32) bool { return x > least })
}

// wobble is how far a hand is off an edge at a pixel, mm.
func (c *canvas) wobble(x, y float32, size float32) float32 {
	return size * (0.75*noise(x/4.3, y/4.3, c.m.p.Seed+7) + 0.3*noise(x/1.3, y/1.3, c.m.p.Seed+8))
}

// cover adds what a stroke covers to its layer: mm inside its edge, negative outside.
func (c *canvas) cover(to []float32, b *basin, s *brushing) {
	p := c.m.p.Plate
	kept := c.m.covers(s.Start)
	for _, l := range s.Cells {
		if !slices.Contains(b.labels, l) {
			continue
		}
		box := p.boxes[l]
		seed := c.m.p.Seed + uint32(l)*7
		if s.Mark.Kind == Falling && s.layer == 0 {
			continue // it falls into what is there
		}
		for y := box.Min.Y; y < box.Max.Y; y++ {
			for x := box.Min.X; x < box.Max.X; x++ {
				i := y*p.W + x
				if p.Label[i] != l {
					continue
				}
				mx, my := (float32(x)+0.5)*PlateMM, (float32(y)+0.5)*PlateMM
				v := p.Edge[i]
				if v < 2.2 {
					off := noise(mx/5.5, my/5.5, seed) - (sliverAt - sliverAtBy*s.Loose)
					v -= -0.03 + c.wobble(mx, my, edgeWobble+edgeWobbleBy*s.Loose) + sliverMM*max(0, off)
				}
				if s.Within != nil {
					v = min(v, s.Within.dist[i]-c.wobble(mx, my, freeWobble+edgeWobbleBy*s.Loose))
				}
				for _, k := range kept {
					v = min(v, -k.dist[i]-0.03*noise(mx/0.6, my/0.6, seed+3))
				}
				if s.Dropped && v > to[i] {
					v = min(v, s.reach(float64(mx), float64(my), l, c.m.p.Seed))
				}
				to[i] = max(to[i], v)
			}
		}
	}
}

// reach is how far inside a dropped stroke a place lies, mm.
func (s *brushing) reach(x, y float64, label uint16, seed uint32) float32 {
	if s.Mark.Kind == Falling {
		best := math.Inf(-1)
		for n, d := range s.Mark.At {
			if math.Abs(x-d.X) < 2*d.R && math.Abs(y-d.Y) < 2*d.R {
				best = max(best, lobed(d, x, y, 0.22, seed+uint32(n)*13)-math.Hypot(x-d.X, y-d.Y))
			}
		}
		return float32(best)
	}
	if s.Amount == nil {
		return float32(math.Inf(1))
	}
	return 2.5 * (s.Amount.At(x, y, label) - 0.12)
}

// covers are the regions that are covered at a time.
func (m *Moment) covers(t float64) (out []*Region) {
	for _, c := range m.p.Covers {
		if t >= c.From && t < c.To {
			out = append(out, c.Region)
		}
	}
	return out
}

// newLayer finds how far each pixel lies from the edge of its layer.
func (c *canvas) newLayer(cover []float32) *layerMap {
	p := c.m.p.Plate
	off := make([]bool, len(cover))
	for i, v := range cover {
		off[i] = v <= 0
	}
	d2, near := lineart.Nearest(p.W, p.H, off)
	l := &layerMap{dist: make([]int16, len(cover)), bead: make([]int8, len(cover))}
	for i, v := range cover {
		d := v
		if !off[i] {
			if near[i] < 0 {
				l.dist[i] = 32000
				continue
			}
			r := float32(math.Sqrt(float64(d2[i])))
			l.bead[i] = int8(127 * float32(int(near[i])/p.W-i/p.W) / max(1, r))
			if d2[i] > 2 {
				d = (r - 0.5) * PlateMM
			} else {
				d = min(d, 1.5*PlateMM)
			}
		}
		l.dist[i] = int16(clamp(d*1000, -2*PlateMM*1000, 32000))
	}
	return l
}

// strew draws what grains did to the load of the layer they fell into.
func (c *canvas) strew(b *basin, s *brushing) {
	l := c.layers[s.layer]
	if l == nil {
		return
	}
	p := c.m.p.Plate
	if l.grain == nil {
		l.grain = make([]uint8, len(l.dist))
		for i := range l.grain {
			l.grain[i] = 64
		}
	}
	for n, d := range s.Mark.At {
		grip := s.grips[n]
		if grip == 0 || !slices.Contains(b.labels, p.LabelAt(d.X, d.Y)) {
			continue
		}
		seed := c.m.p.Seed + uint32(n)*31
		reach := d.R * (1.7 + 1.1*float64(unit(int32(n), 3, seed)))
		r := int(2*reach/PlateMM) + 1
		cx, cy := int(d.X/PlateMM), int(d.Y/PlateMM)
		for y := max(0, cy-r); y <= min(p.H-1, cy+r); y++ {
			for x := max(0, cx-r); x <= min(p.W-1, cx+r); x++ {
				mx, my := (float64(x)+0.5)*PlateMM, (float64(y)+0.5)*PlateMM
				q := float32(math.Hypot(mx-d.X, my-d.Y) / lobed(Disc{d.X, d.Y, reach}, mx, my, 0.55, seed))
				f := 1 - 0.78*grip*exp(1.2*q*q*q) + 0.5*grip*exp(18*(q-1.12)*(q-1.12))
				i := y*p.W + x
				l.grain[i] = uint8(clamp(float32(l.grain[i])*f, 8, 160))
			}
		}
	}
}

// A spot is the places of a grid round a pixel, with their weights.
type spot struct {
	b *basin
	i [4]int32
	w [4]float32
	n int
}

// find finds the places round a place of the sheet, mm, in the cell of a pixel.
func (c *canvas) find(s *spot, x, y float32, pixel int) bool {
	p := c.m.p.Plate
	label := p.Label[pixel]
	if label == 0 || c.m.of[label] < 0 {
		return false
	}
	b := c.m.basins[c.m.of[label]]
	s.b = b
	inv := float32(1 / b.h)
	fx := (x+float32(c.jitter[2*pixel])*(1./128)-float32(b.x0))*inv - 0.5
	fy := (y+float32(c.jitter[2*pixel+1])*(1./128)-float32(b.y0))*inv - 0.5
	fx, fy = clamp(fx, 0, float32(b.nx)-1.001), clamp(fy, 0, float32(b.ny)-1.001)
	ix, iy := int(fx), int(fy)
	u, v := fx-float32(ix), fy-float32(iy)
	i := iy*b.nx + ix
	s.n = 0
	sum := float32(0)
	for k, w := range [4]float32{(1 - u) * (1 - v), u * (1 - v), (1 - u) * v, u * v} {
		j := i + k&1 + k>>1*b.nx
		if w > 0 && b.label[j] == label && b.owner[j] >= 0 {
			s.i[s.n], s.w[s.n] = int32(j), w
			s.n++
			sum += w
		}
	}
	if s.n == 0 {
		return s.nearest(label, ix, iy, u, v)
	}
	for k := range s.n {
		s.w[k] /= sum
	}
	return true
}

// nearest takes the one place nearest to a pixel in a corner of its cell.
func (s *spot) nearest(label uint16, ix, iy int, u, v float32) bool {
	b, best := s.b, float32(99)
	for dy := -2; dy <= 3; dy++ {
		for dx := -2; dx <= 3; dx++ {
			x, y := ix+dx, iy+dy
			if x < 0 || y < 0 || x >= b.nx || y >= b.ny || b.label[y*b.nx+x] != label || b.owner[y*b.nx+x] < 0 {
				continue
			}
			if d := (float32(dx)-u)*(float32(dx)-u) + (float32(dy)-v)*(float32(dy)-v); d < best {
				best, s.i[0] = d, int32(y*b.nx+x)
			}
		}
	}
	s.n, s.w[0] = 1, 1
	return best < 99
}

func (s *spot) of(a []float32) (v float32) {
	for k := range s.n {
		v += s.w[k] * a[s.i[k]]
	}
	return v
}

// load is how much of a paint, local to the basin, a layer has there.
func (s *spot) load(layer, m int) (v float32) {
	if d := s.b.lying[layer][m]; d != nil {
		v = s.of(d)
	}
	if f := s.b.afloat[m]; f != nil && !s.b.dry {
		for k := range s.n {
			if int(s.b.layer[s.i[k]]) == layer {
				v += s.w[k] * f[s.i[k]]
			}
		}
	}
	return v
}

// rim is what the edge of a layer makes of its load at a distance from it, mm.
func (c *canvas) rim(l *layerMap, s *spot, layer int, d, bead, x, y, load float32) float32 {
	if d > 15 {
		return 1
	}
	a := s.of(s.b.rim[layer])
	if a == 0 {
		return 1
	}
	wide := 0.17 + 0.16*load/(load+0.7) // thicker paint, wider rim
	f := 1 - a*rimWide/rimFrom*exp(d/rimFrom)
	if d < 2.2 {
		n := 1 + 0.75*noise(x/7, y/7, c.m.p.Seed+31) + 0.25*noise(x/1.7, y/1.7, c.m.p.Seed+32)
		f += a * rimWide / wide * max(0.12, n) * (1 + 0.45*bead) * exp(max(0, d)/wide)
	}
	return max(0.3, f)
}

// weigh finds, for each cell of a layer, by how much the fine picture has to be scaled so
// that it holds what the grid does.
func (c *canvas) weigh(layer int) {
	p := c.m.p.Plate
	l := c.layers[layer]
	l.scale = make([]float32, p.Cells+1)
	coarse, fine := make([]float64, p.Cells+1), make([]float64, p.Cells+1)
	for k, b := range c.m.basins {
		per := b.h * b.h
		for i, lab := range b.label {
			if lab == 0 {
				continue
			}
			for _, m := range c.paints[k][layer] {
				coarse[lab] += per * float64(b.loadOf(i, layer, m))
			}
		}
	}
	const skip = 2
	var s spot
	for y := 0; y < p.H; y += skip {
		for x := y / skip % skip; x < p.W; x += skip {
			i := y*p.W + x
			if l.dist[i] <= 0 {
				continue
			}
			mx, my := (float32(x)+0.5)*PlateMM, (float32(y)+0.5)*PlateMM
			if !c.find(&s, mx, my, i) {
				continue
			}
			v := float32(0)
			for _, m := range c.paints[c.m.of[p.Label[i]]][layer] {
				v += s.load(layer, m)
			}
			if v == 0 {
				continue
			}
			v *= c.rim(l, &s, layer, float32(l.dist[i])/1000, float32(l.bead[i])/127, mx, my, v)
			if l.grain != nil {
				v *= float32(l.grain[i]) / 64
			}
			fine[p.Label[i]] += float64(v) * PlateMM * PlateMM * skip * skip
		}
	}
	for k := range l.scale {
		l.scale[k] = 1
		if coarse[k] > 1e-9 && fine[k] > 1e-9 {
			l.scale[k] = float32(clamp64(coarse[k]/fine[k], 0.4, 2.5))
		}
	}
}
