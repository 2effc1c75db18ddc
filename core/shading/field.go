package shading

import (
	"math"

	"chromaqua/core/lineart"
)

// A place is a spot of a cell.
type place struct {
	p     vec
	edge  float64 // mm to its border
	hatch float64
	dark  float64
}

// Places are as coarse as so many in a cell ask for, and no finer than leastStep, mm.
const (
	mostPlaces = 900
	leastStep  = 0.5
)

// A field is how dark each place of a cell should be, 0 to 1, on a grid of its own.
type field struct{ cells []*cellField }

type cellField struct {
	x0, y0, step float64
	w, h         int
	v            []float32 // below 0 outside
}

// At is how dark a place of a cell should be, 0 at its lightest to 1 at its darkest, mm.
func (m *Map) At(cell int, x, y float64) float64 {
	if cell <= 0 || cell >= len(m.grid.cells) {
		return 0
	}
	f := m.grid.cells[m.belongs[cell]]
	if f == nil {
		return 0
	}
	return f.at(x, y)
}

func (f *cellField) at(x, y float64) float64 {
	fx, fy := (x-f.x0)/f.step-0.5, (y-f.y0)/f.step-0.5
	ix, iy := int(math.Floor(fx)), int(math.Floor(fy))
	sum, n := 0.0, 0.0
	for k := range 4 {
		px, py := ix+k%2, iy+k/2
		if px < 0 || py < 0 || px >= f.w || py >= f.h || f.v[py*f.w+px] < 0 {
			continue
		}
		w := (1 - math.Abs(fx-float64(px))) * (1 - math.Abs(fy-float64(py)))
		sum, n = sum+w*float64(f.v[py*f.w+px]), n+w
	}
	if n > 1e-6 {
		return sum / n
	}
	best, v := math.Inf(1), 0.0 // under the line: as the nearest place
	for i, q := range f.v {
		if q >= 0 {
			if d := math.Hypot(float64(i%f.w)-fx, float64(i/f.w)-fy); d < best {
				best, v = d, float64(q)
			}
		}
	}
	return v
}

// places are the spots of each cell.
func (m *Map) places(d *lineart.Drawing) [][]place {
	out := make([][]place, len(d.Cells)+1)
	m.grid.cells = make([]*cellField, len(d.Cells)+1)
	type box struct{ x0, y0, x1, y1, n int }
	boxes := make([]box, len(out))
	for i, l := range m.labels {
		if l == 0 || m.outside[l] {
			continue
		}
		x, y := i%m.w, i/m.w
		b := &boxes[l]
		if b.n == 0 {
			*b = box{x, y, x, y, 0}
		}
		b.x0, b.y0, b.x1, b.y1, b.n = min(b.x0, x), min(b.y0, y), max(b.x1, x), max(b.y1, y), b.n+1
	}
	for l, b := range boxes {
		if b.n == 0 {
			continue
		}
		step := max(leastStep, math.Sqrt(float64(b.n)*m.mm*m.mm/mostPlaces))
		f := &cellField{x0: float64(b.x0) * m.mm, y0: float64(b.y0) * m.mm, step: step}
		f.w, f.h = int(float64(b.x1-b.x0+1)*m.mm/step)+1, int(float64(b.y1-b.y0+1)*m.mm/step)+1
		f.v = make([]float32, f.w*f.h)
		for i := range f.v {
			p := vec{X: f.x0 + (float64(i%f.w)+0.5)*step, Y: f.y0 + (float64(i/f.w)+0.5)*step}
			f.v[i] = -1
			if x, y := int(p.X/m.mm), int(p.Y/m.mm); x < m.w && y < m.h && int(m.labels[y*m.w+x]) == l {
				f.v[i] = 0
				out[l] = append(out[l], place{p: p})
			}
		}
		m.grid.cells[l] = f
	}
	return out
}

// keepField keeps how dark each place of a cell should be.
func (m *Map) keepField(c *looked) {
	f := m.grid.cells[c.id]
	lo, hi := math.Inf(1), math.Inf(-1)
	for _, p := range c.places {
		lo, hi = min(lo, p.dark), max(hi, p.dark)
	}
	k := 0
	for i := range f.v {
		if f.v[i] >= 0 {
			f.v[i] = float32((c.places[k].dark - lo) / (hi - lo + 1e-9))
			k++
		}
	}
}
