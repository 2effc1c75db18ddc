package lineart

import (
	"cmp"
	"fmt"
	"math"
	"slices"
)

// collect turns the flooded basins into numbered cells: small fragments rejoin
// their widest closed passage, what is still small is dropped, and the rest is
// numbered largest first.
func (f *flooding) collect() error {
	f.rejoinFragments()
	px := f.mm * f.mm
	var roots []int32
	for i := range f.basins {
		if r := int32(i); find(f.parent, r) == r && float64(f.basins[r].pixels)*px >= cellMM2 {
			roots = append(roots, r)
		}
	}
	if len(roots) > MaxCells {
		return fmt.Errorf("the picture falls into %d cells, more than %d: %w", len(roots), MaxCells, ErrNotLineArt)
	}
	slices.SortFunc(roots, func(a, b int32) int {
		return cmp.Or(cmp.Compare(f.basins[b].pixels, f.basins[a].pixels), cmp.Compare(a, b))
	})
	label := make([]uint16, len(f.basins))
	for i, r := range roots {
		label[r] = uint16(i + 1)
	}
	for i := range label {
		label[i] = label[find(f.parent, int32(i))]
	}
	f.label = make([]uint16, len(f.basin))
	for i, b := range f.basin {
		if b >= 0 {
			f.label[i] = label[b]
		}
	}
	f.measure(roots)
	f.listLeaks(label)
	return nil
}

// rejoinFragments unites each basin under fragMM2 with the basin on the other
// side of its widest closed passage, smallest first.
func (f *flooding) rejoinFragments() {
	widest := slices.Clone(f.closed)
	slices.SortStableFunc(widest, func(a, b passage) int { return cmp.Compare(b.width, a.width) })
	least := int32(fragMM2 / (f.mm * f.mm))
	for changed := true; changed; {
		changed = false
		for _, p := range widest {
			a, b := find(f.parent, p.a), find(f.parent, p.b)
			if a != b && (f.basins[a].pixels < least || f.basins[b].pixels < least) {
				f.join(a, b, f.dist2[p.pixel])
				changed = true
				break
			}
		}
	}
}

func (f *flooding) measure(roots []int32) {
	cells := make([]Cell, len(roots))
	deepest := make([]int32, len(roots))
	px := f.mm * f.mm
	for i, l := range f.label {
		if l == 0 {
			continue
		}
		if d := f.dist2[i]; d > deepest[l-1] {
			deepest[l-1] = d
			cells[l-1].Label = Point{(float64(i%f.w) + 0.5) * f.mm, (float64(i/f.w) + 0.5) * f.mm}
		}
		if x, y := i%f.w, i/f.w; x == 0 || y == 0 || x == f.w-1 || y == f.h-1 {
			cells[l-1].Outside = true
		}
	}
	for i, r := range roots {
		b := f.basins[r]
		c := &cells[i]
		c.ID = i + 1
		c.AreaMM2 = float64(b.pixels) * px
		c.InscribedMM = math.Sqrt(float64(deepest[i])) * f.mm
		if c.NarrowestMM = 2 * c.InscribedMM; b.neck2 > 0 {
			c.NarrowestMM = min(c.NarrowestMM, 2*math.Sqrt(float64(b.neck2))*f.mm)
		}
	}
	f.cells = cells
}

func (f *flooding) listLeaks(label []uint16) {
	for _, p := range f.closed {
		a, b := int(label[p.a]), int(label[p.b])
		if a == b || a == 0 || b == 0 {
			continue
		}
		x, y := int(p.pixel)%f.w, int(p.pixel)/f.w
		f.leaks = append(f.leaks, Leak{
			X: (float64(x) + 0.5) * f.mm, Y: (float64(y) + 0.5) * f.mm,
			WidthMM: p.width, Stubs: p.stubs, A: min(a, b), B: max(a, b),
		})
	}
	slices.SortFunc(f.leaks, func(a, b Leak) int {
		return cmp.Or(cmp.Compare(b.WidthMM, a.WidthMM), cmp.Compare(a.Y, b.Y), cmp.Compare(a.X, b.X))
	})
}
