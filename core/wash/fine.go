package wash

import (
	"image"
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

	wobbles     = 0.75 // the shares of its long waves and its short
	trembles    = 0.3
	farthestOff = (wobbles+trembles)*(edgeWobble+edgeWobbleBy) + sliverMM*(1-sliverAt+sliverAtBy) // mm, that it all comes to at most
)

// A fine is all of a basin that is finer than its grid, at the pixels of the plate round it.
type fine struct {
	b      *basin
	box    image.Rectangle // of the plate
	lead   []int8          // by pixel of the plate: how far fibres lead what is looked up, x and y, 1/128 mm
	mine   []bool          // by pixel of the box: it is of the basin
	layers [MaxLayers]*layerMap
}

// A layerMap is where one layer lies, by pixel of the box.
type layerMap struct {
	paints []int     // that lie in it, of the basin's
	dist   []int16   // 1/1000 mm to its edge, below 0 outside
	bead   []int8    // how far the edge is below, 1/127
	grain  []uint8   // what grains do to the load, 1/64; nil without any
	scale  []float32 // by label: what brings the load to that of the grid
}

// detail is all of a basin that is finer than its grid, made when it is first looked at.
func (b *basin) detail() *fine {
	b.looked.Do(func() { b.fine = newFine(b) })
	return b.fine
}

func newFine(b *basin) *fine {
	p := b.p.Plate
	f := &fine{b: b, lead: p.fibres(b.p.Seed)}
	for _, l := range b.labels {
		f.box = f.box.Union(p.boxes[l])
	}
	f.box = f.box.Inset(-1).Intersect(image.Rect(0, 0, p.W, p.H)) // what is looked up between pixels needs those beside
	f.mine = make([]bool, f.box.Dx()*f.box.Dy())
	of := p.among(b.labels)
	f.eachPixel(f.box, func(i, pixel, _, _ int) { f.mine[i] = of[p.Label[pixel]] })
	parallel.Each(b.maxLayer+1, func(k int) { f.layers[k] = f.newLayer(k) })
	return f
}

// eachPixel calls do for the pixels of a rectangle: which they are of the box and of the
// plate, and where.
func (f *fine) eachPixel(r image.Rectangle, do func(i, pixel, x, y int)) {
	w := f.b.p.Plate.W
	for y := r.Min.Y; y < r.Max.Y; y++ {
		i, pixel := (y-f.box.Min.Y)*f.box.Dx()+r.Min.X-f.box.Min.X, y*w+r.Min.X
		for x := r.Min.X; x < r.Max.X; x++ {
			do(i, pixel, x, y)
			i, pixel = i+1, pixel+1
		}
	}
}

// newLayer lays out one layer.
func (f *fine) newLayer(k int) *layerMap {
	b := f.b
	cover := make([]float32, len(f.mine))
	for i := range cover {
		cover[i] = -1
	}
	for _, s := range b.strokes {
		if s.layer == k && s.begun && s.Mark.Kind != Grains && (len(s.Mix) > 0 || k == 0) {
			f.cover(cover, s)
		}
	}
	l := &layerMap{}
	f.measure(l, cover)
	for n := range b.paints {
		if d := b.lying[k][n]; d != nil && anyAbove(d, 1e-5) || b.afloat[n] != nil && anyAbove(b.afloat[n], 1e-5) {
			l.paints = append(l.paints, n)
		}
	}
	for _, s := range b.strokes {
		if s.layer == k && s.begun && s.Mark.Kind == Grains {
			f.strew(l, s)
		}
	}
	f.weigh(l, k)
	return l
}

func anyAbove(v []float32, least float32) bool {
	return slices.ContainsFunc(v, func(x float32) bool { return x > least })
}

// wobble is how far a hand is off an edge at a place, mm.
func wobble(x, y, size float32, seed uint32) float32 {
	return size * (wobbles*noise(x/4.3, y/4.3, seed+7) + trembles*noise(x/1.3, y/1.3, seed+8))
}

// cover adds what a stroke covers to its layer: mm inside its edge, negative outside.
func (f *fine) cover(to []float32, s *brushing) {
	p := f.b.p
	kept := p.covers(s.Start)
	for _, l := range s.Cells {
		if !slices.Contains(f.b.labels, l) {
			continue
		}
		seed := p.Seed + uint32(l)*7
		if s.Mark.Kind == Falling && s.layer == 0 {
			continue // it falls into what is there
		}
		f.eachPixel(p.Plate.boxes[l], func(i, pixel, x, y int) {
			if p.Plate.Label[pixel] != l {
				return
			}
			mx, my := (float32(x)+0.5)*PlateMM, (float32(y)+0.5)*PlateMM
			v := p.Plate.Edge[pixel]
			if v < farthestOff {
				off := noise(mx/5.5, my/5.5, seed) - (sliverAt - sliverAtBy*s.Loose)
				v -= -0.03 + wobble(mx, my, edgeWobble+edgeWobbleBy*s.Loose, p.Seed) + sliverMM*max(0, off)
			}
			if s.Within != nil {
				v = min(v, s.Within.dist[pixel]-wobble(mx, my, freeWobble+edgeWobbleBy*s.Loose, p.Seed))
			}
			for _, k := range kept {
				v = min(v, -k.dist[pixel]-0.03*noise(mx/0.6, my/0.6, seed+3))
			}
			if s.Dropped && v > to[i] {
				v = min(v, s.reach(float64(mx), float64(my), l, p.Seed))
			}
			to[i] = max(to[i], v)
		})
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
func (p *Painting) covers(t float64) (out []*Region) {
	for _, c := range p.Covers {
		if t >= c.From && t < c.To {
			out = append(out, c.Region)
		}
	}
	return out
}

// measure finds how far each pixel lies from the edge of its layer. Those just outside the
// basin take that of their neighbours in it, so that its border is no edge of what is looked
// up between pixels.
func (f *fine) measure(l *layerMap, cover []float32) {
	w, h := f.box.Dx(), f.box.Dy()
	off := make([]bool, len(cover))
	for i, v := range cover {
		off[i] = v <= 0
	}
	d2, near := lineart.Nearest(w, h, off)
	l.dist, l.bead = make([]int16, len(cover)), make([]int8, len(cover))
	for i, v := range cover {
		d := v
		if !off[i] {
			if near[i] < 0 {
				l.dist[i] = 32000
				continue
			}
			r := float32(math.Sqrt(float64(d2[i])))
			l.bead[i] = int8(127 * float32(int(near[i])/w-i/w) / max(1, r))
			if d2[i] > 2 {
				d = (r - 0.5) * PlateMM
			} else {
				d = min(d, 1.5*PlateMM)
			}
		}
		l.dist[i] = int16(clamp(d*1000, -2*PlateMM*1000, 32000))
	}
	for i, mine := range f.mine {
		if mine {
			continue
		}
		for y := max(0, i/w-1); y <= min(h-1, i/w+1); y++ {
			for x := max(0, i%w-1); x <= min(w-1, i%w+1); x++ {
				if j := y*w + x; f.mine[j] {
					l.dist[i] = max(l.dist[i], l.dist[j])
				}
			}
		}
	}
}

// strew draws what grains did to the load of the layer they fell into.
func (f *fine) strew(l *layerMap, s *brushing) {
	p := f.b.p
	if l.grain == nil {
		l.grain = make([]uint8, len(l.dist))
		for i := range l.grain {
			l.grain[i] = 64
		}
	}
	for n, d := range s.Mark.At {
		grip := s.grips[n]
		if grip == 0 || !slices.Contains(f.b.labels, p.Plate.LabelAt(d.X, d.Y)) {
			continue
		}
		seed := p.Seed + uint32(n)*31
		reach := d.R * (1.7 + 1.1*float64(unit(int32(n), 3, seed)))
		r := int(2*reach/PlateMM) + 1
		at := image.Pt(int(d.X/PlateMM), int(d.Y/PlateMM))
		f.eachPixel(image.Rectangle{at, at.Add(image.Pt(1, 1))}.Inset(-r).Intersect(f.box), func(i, _, x, y int) {
			mx, my := (float64(x)+0.5)*PlateMM, (float64(y)+0.5)*PlateMM
			q := float32(math.Hypot(mx-d.X, my-d.Y) / lobed(Disc{d.X, d.Y, reach}, mx, my, 0.55, seed))
			v := 1 - 0.78*grip*exp(1.2*q*q*q) + 0.5*grip*exp(18*(q-1.12)*(q-1.12))
			l.grain[i] = uint8(clamp(float32(l.grain[i])*v, 8, 160))
		})
	}
}

// edge is what the edge of a layer makes of its load at a distance from it, mm.
func (s *spot) edge(layer int, d, bead, x, y, load float32) float32 {
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
		seed := s.b.p.Seed
		n := 1 + 0.75*noise(x/7, y/7, seed+31) + 0.25*noise(x/1.7, y/1.7, seed+32)
		f += a * rimWide / wide * max(0.12, n) * (1 + 0.45*bead) * exp(max(0, d)/wide)
	}
	return max(0.3, f)
}

// weigh finds, for each cell of a layer, by how much the fine picture has to be scaled so
// that it holds what the grid does.
func (f *fine) weigh(l *layerMap, layer int) {
	b, p := f.b, f.b.p.Plate
	l.scale = make([]float32, p.Cells+1)
	coarse, fine := make([]float64, p.Cells+1), make([]float64, p.Cells+1)
	for i, lab := range b.label {
		if lab == 0 {
			continue
		}
		for _, m := range l.paints {
			coarse[lab] += b.h * b.h * float64(b.loadOf(i, layer, m))
		}
	}
	const skip = 2
	var s spot
	f.eachPixel(f.box, func(i, pixel, x, y int) {
		if y%skip != 0 || x%skip != y/skip%skip || !f.mine[i] || l.dist[i] <= 0 {
			return
		}
		mx, my := (float32(x)+0.5)*PlateMM, (float32(y)+0.5)*PlateMM
		if !f.find(&s, mx, my, pixel) {
			return
		}
		v := float32(0)
		for _, m := range l.paints {
			v += s.load(layer, m)
		}
		if v == 0 {
			return
		}
		v *= s.edge(layer, float32(l.dist[i])/1000, float32(l.bead[i])/127, mx, my, v)
		if l.grain != nil {
			v *= float32(l.grain[i]) / 64
		}
		fine[p.Label[pixel]] += float64(v) * PlateMM * PlateMM * skip * skip
	})
	for k := range l.scale {
		l.scale[k] = 1
		if coarse[k] > 1e-9 && fine[k] > 1e-9 {
			l.scale[k] = float32(clamp64(coarse[k]/fine[k], 0.4, 2.5))
		}
	}
}
