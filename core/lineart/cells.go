package lineart

import (
	"cmp"
	"fmt"
	"math"
	"slices"
)

// collect turns the flooded basins into numbered cells: necks that were closed
// for now open, small fragments rejoin their widest closed passage, what is still
// small is dropped, and the rest is numbered largest first.
func (f *flooding) collect() error {
	f.settle()
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
	cell := make([]int32, len(f.basins))
	for _, r := range roots {
		cell[r] = r
	}
	for i := range cell {
		cell[i] = cell[find(f.parent, int32(i))]
	}
	f.sharpen(cell)
	slices.SortFunc(roots, func(a, b int32) int {
		return cmp.Or(cmp.Compare(f.basins[b].pixels, f.basins[a].pixels), cmp.Compare(a, b))
	})
	label := make([]uint16, len(f.basins))
	for i, r := range roots {
		label[r] = uint16(i + 1)
	}
	for i := range label {
		label[i] = label[cell[i]]
	}
	f.label = make([]uint16, f.w*f.h)
	parallelRows(f.h, func(y0, y1 int) {
		for y := y0; y < y1; y++ {
			to := f.label[y*f.w : (y+1)*f.w]
			row := f.basin[f.pixel(0, y):][:f.w]
			for x0, x := 0, 0; x < len(row); x0 = x {
				b := row[x0]
				for x < len(row) && row[x] == b {
					x++
				}
				if l := label[b]; l != 0 {
					fill(to[x0:x], l)
				} else if b != 0 {
					f.ink.flip(y, x0, x) // what is in no cell counts as line
				}
			}
		}
	})
	f.measure(roots)
	f.listLeaks(label)
	return nil
}

func fill[T any](s []T, v T) {
	for i := range s {
		s[i] = v
	}
}

// centre is the middle of a pixel, mm.
func (w *working) centre(x, y int) Point {
	return Point{(float64(x) + 0.5) * w.mm, (float64(y) + 0.5) * w.mm}
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
				f.join(a, b, p.dist2)
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
		if p.X < 0 || p.Y < 0 || x >= f.w || y >= f.h {
			return 0
		}
		return find(f.parent, f.basin[f.pixel(x, y)])
	}
	for _, pair := range f.by.Joined {
		if a, b := at(pair[0]), at(pair[1]); a > 0 && b > 0 && a != b {
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
		c.Label = f.centre(f.place(b.peak))
		c.AreaMM2 = float64(b.pixels) * px
		c.InscribedMM = math.Sqrt(float64(b.peak2)) * f.mm
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
		at := f.centre(f.place(p.pixel))
		f.leaks = append(f.leaks, Leak{
			X: at.X, Y: at.Y,
			WidthMM: p.width, Stubs: p.stubs, A: min(a, b), B: max(a, b),
			Banks: p.banks,
		})
	}
	slices.SortFunc(f.leaks, func(a, b Leak) int {
		return cmp.Or(cmp.Compare(b.WidthMM, a.WidthMM), cmp.Compare(a.Y, b.Y), cmp.Compare(a.X, b.X))
	})
}
