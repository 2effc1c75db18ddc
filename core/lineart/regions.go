package lineart

import "math"

// A Region is one label of a map: where it lies and how large it is.
type Region struct {
	AreaMM2     float64
	Label       Point   // centre of the largest inscribed circle
	InscribedMM float64 // radius of that circle
	Outline     Outline
}

// Regions measures the labels 1 to n of a map of w × h squares, mm wide each. Regions()[i]
// is label i+1; one that does not occur is empty.
func Regions(labels []uint16, w, h int, mm float64, n int) []Region {
	out := make([]Region, n)
	edge := make([]bool, len(labels))
	for i, l := range labels {
		x, y := i%w, i/w
		edge[i] = x == 0 || y == 0 || x == w-1 || y == h-1 ||
			labels[i-1] != l || labels[i+1] != l || labels[i-w] != l || labels[i+w] != l
	}
	dist2 := distanceTo(w, h, edge)
	for i, l := range labels {
		if l == 0 || int(l) > n {
			continue
		}
		r := &out[l-1]
		r.AreaMM2 += mm * mm
		if radius := (math.Sqrt(float64(dist2[i])) + 0.5) * mm; radius > r.InscribedMM {
			r.InscribedMM, r.Label = radius, Point{(float64(i%w) + 0.5) * mm, (float64(i/w) + 0.5) * mm}
		}
	}
	kept := &working{w: w, h: h, mm: mm}
	for i, o := range kept.outlines(labels, n) {
		out[i].Outline = o
	}
	return out
}

// Blank is a drawing of w × h pixels without a line: all of it is one cell. It keeps to
// the limits of [Find].
func Blank(w, h int, dpi float64) (*Drawing, error) {
	if err := checkInput(w, h, dpi); err != nil {
		return nil, err
	}
	kept := &working{w: w, h: h, mm: 25.4 / dpi, ink: newBitmap(w, h), label: make([]uint16, w*h)}
	fill(kept.label, 1)
	wide, high := float64(w)*kept.mm, float64(h)*kept.mm
	kept.cells = []Cell{{
		ID: 1, AreaMM2: wide * high, Label: Point{wide / 2, high / 2},
		InscribedMM: min(wide, high) / 2, NarrowestMM: min(wide, high), Outside: true,
	}}
	return &Drawing{W: w, H: h, DPI: dpi, Labels: kept.label, Cells: kept.cells, work: kept}, nil
}
