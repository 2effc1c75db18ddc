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
	f.joinAsked()
	px := f.mm * f.mm
	least := max(cellMM2, f.by.LeastMM2)
	var roots []int32
	for i := range f.basins {
		if r := int32(i); find(f.parent, r) == r && float64(f.basins[r].pixels)*px >= least {
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
	parallelRows(f.h, func(y0, y1 int) {
		to := f.label[y0*f.w : y1*f.w]
		for i, b := range f.basin[y0*f.w : y1*f.w] {
			if b >= 0 {
				to[i] = label[b]
			}
		}
	})
	f.measure(roots)
	f.listLeaks(label)
	return nil
}

// centre is the middle of a pixel, mm.
func (w *working) centre(pixel int32) Point {
	return Point{(float64(int(pixel)%w.w) + 0.5) * w.mm, (float64(int(pixel)/w.w) + 0.5) * w.mm}
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

// joinAsked unites the cells that the maker says are one.
func (f *flooding) joinAsked() {
	at := func(p Point) int32 {
		x, y := int(p.X/f.mm), int(p.Y/f.mm)
		if p.X < 0 || p.Y < 0 || x >= f.w || y >= f.h || f.basin[y*f.w+x] < 0 {
			return -1
		}
		return find(f.parent, f.basin[y*f.w+x])
	}
	for _, pair := range f.by.Joined {
		if a, b := at(pair[0]), at(pair[1]); a >= 0 && b >= 0 && a != b {
			f.join(a, b, 0)
		}
	}
}

func (f *flooding) measure(roots []int32) {
	cells := make([]Cell, len(roots))
	px := f.mm * f.mm
	outside := func(l uint16) {
		if l != 0 {
			cells[l-1].Outside = true
		}
	}
	at := f.deepest(len(roots))
	for x := range f.w {
		outside(f.label[x])
		outside(f.label[(f.h-1)*f.w+x])
	}
	for y := range f.h {
		outside(f.label[y*f.w])
		outside(f.label[(y+1)*f.w-1])
	}
	for i, r := range roots {
		b := f.basins[r]
		c := &cells[i]
		c.ID = i + 1
		c.Label = f.centre(at[i])
		c.AreaMM2 = float64(b.pixels) * px
		c.InscribedMM = math.Sqrt(float64(f.dist2[at[i]])) * f.mm
		if c.NarrowestMM = 2 * c.InscribedMM; b.neck2 > 0 {
			c.NarrowestMM = min(c.NarrowestMM, 2*math.Sqrt(float64(b.neck2))*f.mm)
		}
	}
	f.cells = cells
}

// deepest returns the pixel of each of n cells that is farthest from ink, the
// first of several.
func (f *flooding) deepest(n int) []int32 {
	type place struct{ pixel, dist2 int32 }
	parts := make([][]place, bands(f.h))
	parallelBands(f.h, func(band, y0, y1 int) {
		best := make([]place, n+1)
		dist2 := f.dist2[y0*f.w : y1*f.w]
		for i, l := range f.label[y0*f.w : y1*f.w] {
			if d := dist2[i]; d > best[l].dist2 {
				best[l] = place{int32(y0*f.w + i), d}
			}
		}
		parts[band] = best[1:]
	})
	out := make([]int32, n)
	for i := range out {
		best := parts[0][i]
		for _, p := range parts[1:] {
			if p[i].dist2 > best.dist2 {
				best = p[i]
			}
		}
		out[i] = best.pixel
	}
	return out
}

func (f *flooding) listLeaks(label []uint16) {
	for _, p := range f.closed {
		a, b := int(label[p.a]), int(label[p.b])
		if a == b || a == 0 || b == 0 {
			continue
		}
		at := f.centre(p.pixel)
		f.leaks = append(f.leaks, Leak{
			X: at.X, Y: at.Y,
			WidthMM: p.width, Stubs: p.stubs, A: min(a, b), B: max(a, b),
			Banks: [2]Point{f.centre(p.banks[0]), f.centre(p.banks[1])},
		})
	}
	slices.SortFunc(f.leaks, func(a, b Leak) int {
		return cmp.Or(cmp.Compare(b.WidthMM, a.WidthMM), cmp.Compare(a.Y, b.Y), cmp.Compare(a.X, b.X))
	})
}
