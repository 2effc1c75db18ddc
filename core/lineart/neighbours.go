package lineart

import (
	"cmp"
	"math"
	"slices"
)

// acrossMM is the thickest line two cells can touch across.
const acrossMM = 1.5

// findNeighbours walks the borders between the areas nearest to each cell: a
// place where they meet lies on the line between two cells, whose thickness
// there is the distance between the two nearest cell pixels.
func (w *working) findNeighbours() error {
	nearest := w.nearestCell()
	type pair struct{ a, b uint16 }
	parts := make([]map[pair][]float64, bands(w.h))
	look := func(across map[pair][]float64, i, j int32) {
		si, sj := nearest[i], nearest[j]
		if si < 0 || sj < 0 {
			return
		}
		a, b := w.label[si], w.label[sj]
		if a == b {
			return
		}
		dx, dy := si%int32(w.w)-sj%int32(w.w), si/int32(w.w)-sj/int32(w.w)
		mm := max(0, math.Sqrt(float64(dx*dx+dy*dy))-1) * w.mm
		if mm > acrossMM {
			return
		}
		p := pair{min(a, b), max(a, b)}
		across[p] = append(across[p], mm)
	}
	parallelBands(w.h, func(band, y0, y1 int) {
		across := map[pair][]float64{}
		for y := y0; y < y1; y++ {
			row := w.label[y*w.w : (y+1)*w.w]
			above := row
			if y > 0 {
				above = w.label[(y-1)*w.w : y*w.w]
			}
			left := row[0]
			for x, l := range row {
				// Inside a cell there is nothing to see.
				i := int32(y*w.w + x)
				if x > 0 && (l != left || l == 0) {
					look(across, i, i-1)
				}
				if y > 0 && (l != above[x] || l == 0) {
					look(across, i, i-int32(w.w))
				}
				left = l
			}
		}
		parts[band] = across
	})
	across := parts[0]
	for _, more := range parts[1:] {
		for p, mm := range more {
			across[p] = append(across[p], mm...)
		}
	}
	for p, mm := range across {
		slices.Sort(mm)
		w.neighbours = append(w.neighbours, Neighbour{
			A: int(p.a), B: int(p.b),
			BorderMM: float64(len(mm)) * w.mm * math.Pi / 4,
			LineMin:  mm[len(mm)/50], LineMed: mm[len(mm)/2],
		})
	}
	slices.SortFunc(w.neighbours, func(a, b Neighbour) int {
		return cmp.Or(cmp.Compare(a.A, b.A), cmp.Compare(a.B, b.B))
	})
	return nil
}

// nearestCell returns, per pixel, the nearest pixel that belongs to a cell.
func (w *working) nearestCell() []int32 {
	site := make([]bool, len(w.label))
	for i, l := range w.label {
		site[i] = l != 0
	}
	return nearestTo(w.w, w.h, site, nil)
}
