package wash

import (
	"image"
	"math"
	"sync"

	"chromaqua/core/lineart"
	"chromaqua/core/parallel"
)

// PlateMM is the width of a plate's pixel, 150 to the inch: edges are told between pixels,
// so that finer pictures need no finer plate.
const PlateMM = 25.4 / 150

// A Plate is the cells of a sheet, grown to the middle of the line between them.
type Plate struct {
	W, H  int
	Label []uint16  // by pixel: the cell it belongs to, 0 where there is none
	Edge  []float32 // by pixel: mm to the edge of its cell, below 0 under the line
	Cells int       // the highest label
	boxes []image.Rectangle
	areas []int // pixels by label

	mu   sync.Mutex
	lead []int8 // fibres
	seed uint32 // of them
}

// NewPlate makes a plate of w × h pixels of PlateMM from cells as they lie between lines:
// 0 is line.
func NewPlate(w, h int, labels []uint16) *Plate {
	p := &Plate{W: w, H: h, Label: make([]uint16, w*h), Edge: make([]float32, w*h)}
	white := make([]bool, w*h)
	for i, l := range labels {
		white[i] = l != 0
		p.Cells = max(p.Cells, int(l))
	}
	out, near := lineart.Nearest(w, h, white)
	ink := make([]bool, w*h)
	for i, on := range white {
		ink[i] = !on
	}
	in, inked := lineart.Nearest(w, h, ink)
	half := float32(0.5 * PlateMM)
	for i, l := range labels {
		switch {
		case l != 0:
			p.Label[i], p.Edge[i] = l, float32(math.Inf(1))
			if inked[i] >= 0 {
				p.Edge[i] = float32(math.Sqrt(float64(in[i])))*PlateMM - half
			}
		case near[i] >= 0:
			p.Label[i], p.Edge[i] = labels[near[i]], half-float32(math.Sqrt(float64(out[i])))*PlateMM
		}
	}
	p.boxes, p.areas = make([]image.Rectangle, p.Cells+1), make([]int, p.Cells+1)
	for i, l := range p.Label {
		x, y := i%w, i/w
		p.boxes[l] = p.boxes[l].Union(image.Rect(x, y, x+1, y+1))
		p.areas[l]++
	}
	return p
}

// At is the pixel in which a place lies, mm.
func (p *Plate) At(x, y float64) int {
	return min(p.H-1, max(0, int(y/PlateMM)))*p.W + min(p.W-1, max(0, int(x/PlateMM)))
}

// LabelAt is the cell at a place, mm.
func (p *Plate) LabelAt(x, y float64) uint16 { return p.Label[p.At(x, y)] }

// among tells, by label, which cells are some of these.
func (p *Plate) among(labels []uint16) []bool {
	of := make([]bool, p.Cells+1)
	for _, l := range labels {
		of[l] = true
	}
	return of
}

// MM2 is how large a cell is, the line round it to its middle included.
func (p *Plate) MM2(label uint16) float64 { return float64(p.areas[label]) * PlateMM * PlateMM }

// Box is the rectangle round a cell, mm: left, top, right, bottom.
func (p *Plate) Box(label uint16) (x0, y0, x1, y1 float64) {
	b := p.boxes[label]
	return float64(b.Min.X) * PlateMM, float64(b.Min.Y) * PlateMM, float64(b.Max.X) * PlateMM, float64(b.Max.Y) * PlateMM
}

// A Region is a part of a plate that no line bounds.
type Region struct {
	Key  string    // tells it from others: two of one key are the same
	dist []float32 // by pixel: mm to its edge, below 0 outside
}

// NewRegion makes a region of the places that lie in it, mm. Corners finer than rounded, mm,
// are taken for those of squares it was laid out in.
func NewRegion(p *Plate, key string, rounded float64, in func(x, y float64) bool) *Region {
	on := make([]bool, p.W*p.H)
	parallel.Rows(p.H, func(y0, y1 int) {
		for i := y0 * p.W; i < y1*p.W; i++ {
			on[i] = in((float64(i%p.W)+0.5)*PlateMM, (float64(i/p.W)+0.5)*PlateMM)
		}
	})
	if px := int(math.Round(rounded / PlateMM)); px > 0 {
		p.round(on, px)
	}
	r := &Region{Key: key, dist: make([]float32, len(on))}
	out, _ := lineart.Nearest(p.W, p.H, on)
	for i := range on {
		on[i] = !on[i]
	}
	inside, _ := lineart.Nearest(p.W, p.H, on)
	for i, off := range on {
		d := inside[i]
		if off {
			d = out[i]
		}
		v := float32(math.Sqrt(float64(d)))*PlateMM - PlateMM/2
		if d < 0 {
			v = float32(math.Inf(1))
		}
		if off {
			v = -v
		}
		r.dist[i] = v
	}
	return r
}

// round lets each pixel be what most of those round it are.
func (p *Plate) round(on []bool, r int) {
	sum := make([]int32, (p.W+1)*(p.H+1)) // over all above and to the left
	for y := range p.H {
		row := int32(0)
		for x := range p.W {
			if on[y*p.W+x] {
				row++
			}
			sum[(y+1)*(p.W+1)+x+1] = sum[y*(p.W+1)+x+1] + row
		}
	}
	for y := range p.H {
		for x := range p.W {
			x0, y0, x1, y1 := max(0, x-r), max(0, y-r), min(p.W, x+r+1), min(p.H, y+r+1)
			n := sum[y1*(p.W+1)+x1] - sum[y0*(p.W+1)+x1] - sum[y1*(p.W+1)+x0] + sum[y0*(p.W+1)+x0]
			on[y*p.W+x] = 2*n > int32((x1-x0)*(y1-y0))
		}
	}
}

// fibres leads look-ups as fibres lead water, so that fronts feather and no grid is seen: by
// pixel so far across and down, 1/128 mm. Those of the last seed are kept.
func (p *Plate) fibres(seed uint32) []int8 {
	p.mu.Lock()
	defer p.mu.Unlock()
	if p.lead != nil && p.seed == seed {
		return p.lead
	}
	lead := make([]int8, 2*len(p.Label))
	parallel.Rows(p.H, func(y0, y1 int) {
		for i := y0 * p.W; i < y1*p.W; i++ {
			if p.Label[i] == 0 {
				continue
			}
			x, y := float32(i%p.W)*PlateMM, float32(i/p.W)*PlateMM
			by := func(dx float32, seed uint32) int8 {
				return int8(clamp(128*(0.42*noise(x/1.15+dx, y/1.15, seed)+0.18*noise(x/0.42+dx, y/0.42, seed+1)), -127, 127))
			}
			lead[2*i], lead[2*i+1] = by(0, seed+71), by(31, seed+73)
		}
	})
	p.lead, p.seed = lead, seed
	return lead
}

// A blend is a place between the middles of four pixels of a rectangle: the upper left one, how
// far it is to those beside and below, and how far the place is towards them, 0 to 1.
type blend struct {
	i, right, below int
	u, v            float32
}

// amid is a place of the sheet, mm, between the pixels of a rectangle of its plate.
func amid(x, y float32, r image.Rectangle) blend {
	w, h := r.Dx(), r.Dy()
	fx, fy := x*(1/float32(PlateMM))-0.5-float32(r.Min.X), y*(1/float32(PlateMM))-0.5-float32(r.Min.Y)
	fx, fy = clamp(fx, 0, float32(w)-1.001), clamp(fy, 0, float32(h)-1.001)
	ix, iy := max(0, int(fx)), max(0, int(fy))
	return blend{iy*w + ix, min(1, w-1-ix), min(1, h-1-iy) * w, clamp(fx-float32(ix), 0, 1), clamp(fy-float32(iy), 0, 1)}
}

// mix is what a plane of the rectangle has there.
func mix[T int8 | int16](of []T, at blend) float32 {
	a, b := float32(of[at.i]), float32(of[at.i+at.below])
	a += at.u * (float32(of[at.i+at.right]) - a)
	b += at.u * (float32(of[at.i+at.below+at.right]) - b)
	return a + at.v*(b-a)
}
