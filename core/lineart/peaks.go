package lineart

import (
	"math"
	"math/bits"
	"slices"

	"chromaqua/core/parallel"
)

// block is the side of the squares that peaks are first sought by, pixels.
const block = 4

// A rise is a pixel of a basin, and how far it is from ink.
type rise struct{ basin, pixel, dist2 int32 }

// findPeaks finds the pixel farthest from ink of each basin that the runs of white
// beyond seedMM have started: roughly on a map of blocks, then by climbing from
// the blocks that stand out in it, then by looking round the best.
func (f *flooding) findPeaks(runs []run, comp []int32) {
	starts := f.starts(runs, comp)
	strides := [][]step{stepsWithin(block, block), stepsWithin(block/2, block/2), stepsWithin(1, 1)}
	parallel.Each(len(starts), func(i int) {
		for _, steps := range strides {
			starts[i] = f.climb(starts[i].pixel, steps)
		}
	})
	tops := make([]rise, len(f.basins))
	for _, s := range starts {
		if s.dist2 > tops[s.basin].dist2 {
			tops[s.basin] = s
		}
	}
	around := stepsWithin(3, 1)
	parallel.Each(len(tops)-1, func(i int) {
		top := f.climb(tops[i+1].pixel, around)
		f.basins[i+1].peak, f.basins[i+1].peak2 = top.pixel, top.dist2
	})
}

// stepsWithin lists the steps of at most far pixels along rows and columns, by
// so many at a time.
func stepsWithin(far, by int) (all []step) {
	for dy := -far; dy <= far; dy += by {
		for dx := -far; dx <= far; dx += by {
			all = append(all, step{dx, dy})
		}
	}
	return all
}

// starts lists the roughly farthest block of each basin, and the others no
// neighbour of which is farther that may still hold its peak.
func (f *flooding) starts(runs []run, comp []int32) []rise {
	coarse, bw := f.coarse()
	starts := make([]rise, len(f.basins)-1)
	for i, r := range runs {
		best := &starts[comp[i]]
		if best.basin == 0 {
			*best = rise{basin: comp[i] + 1, pixel: f.pixel(int(r.x0), int(r.y))}
		} else if r.y%block != block/2 {
			continue // one row in a block says enough
		}
		row := coarse[int(r.y/block+1)*bw+1:]
		for bx := r.x0 / block; bx <= (r.x1-1)/block; bx++ {
			if d := row[bx]; d > best.dist2 {
				x := min(max(r.x0, bx*block+block/2), r.x1-1)
				*best = rise{comp[i] + 1, f.pixel(int(x), int(r.y)), d}
			}
		}
	}
	const mayHold = 1.1 // blocks: a distance counted in them is off by up to this
	for at := bw + 1; at < len(coarse)-bw-1; at++ {
		d := coarse[at]
		if d < 2 || coarse[at-bw-1] >= d || coarse[at-bw] >= d || coarse[at-bw+1] >= d || coarse[at-1] >= d ||
			coarse[at+1] > d || coarse[at+bw-1] > d || coarse[at+bw] > d || coarse[at+bw+1] > d {
			continue
		}
		x, y := (at%bw-1)*block+block/2, (at/bw-1)*block+block/2
		if x >= f.w || y >= f.h {
			continue
		}
		b := f.basin[f.pixel(x, y)]
		if b != 0 && math.Sqrt(float64(d)) >= math.Sqrt(float64(starts[b-1].dist2))-mayHold {
			starts = append(starts, rise{b, f.pixel(x, y), d})
		}
	}
	return starts
}

// coarse returns the squared distances, in blocks, to the nearest block that holds
// ink, bw of them a row; the blocks round the picture are 0.
func (f *flooding) coarse() (dist2 []int32, bw int) {
	bw = (f.w+block-1)/block + 2
	bh := (f.h+block-1)/block + 2
	inked := make([]bool, bw*bh)
	for y := range f.h {
		to := inked[(y/block+1)*bw+1:]
		for i, word := range f.ink.row(y) {
			for ; word != 0; word &= word - 1 {
				to[(i*64+bits.TrailingZeros64(word))/block] = true
			}
		}
	}
	dist2 = distanceTo(bw, bh, inked)
	clear(dist2[:bw])
	clear(dist2[len(dist2)-bw:])
	for at := bw; at < len(dist2); at += bw {
		dist2[at-1], dist2[at] = 0, 0
	}
	return dist2, bw
}

// climb goes from a pixel of a basin to where no step leads farther from ink.
func (f *flooding) climb(from int32, steps []step) rise {
	x, y := f.place(from)
	of := f.basin[from]
	ink, dist2 := f.ink.nearest(x, y, 0, none*none)
	known := []vertex{ink} // ink met with so far, which keeps most steps from leading farther
	for higher := true; higher; {
		higher = false
		cx, cy := x, y
		for _, st := range steps {
			tx, ty := cx+st.dx, cy+st.dy
			if tx < 0 || ty < 0 || tx >= f.w || ty >= f.h || f.basin[f.pixel(tx, ty)] != of {
				continue
			}
			if slices.ContainsFunc(known, func(v vertex) bool { return v.dist2(tx, ty) <= dist2 }) {
				continue
			}
			ink, d := f.ink.nearest(tx, ty, dist2, none*none)
			known = append(known, ink)
			if d > dist2 {
				x, y, dist2, higher = tx, ty, d, true
			}
		}
	}
	return rise{of, f.pixel(x, y), int32(dist2)}
}
