package lineart

import (
	"math"
	"slices"
)

const (
	seedMM     = 0.6  // white farther than this from ink starts a basin
	peakRatio  = 1.35 // a basin deeper than this × the saddle stands on its own
	peakRiseMM = 0.07 // and at least this much deeper
	fragMM2    = 0.6  // smaller fragments rejoin their widest neighbour
	cellMM2    = 0.7  // smaller cells are dropped
)

// A basin is a set of white pixels that drain to one peak of the distance map.
type basin struct {
	peak2  int32 // squared distance at the peak, pixels
	neck2  int32 // squared distance at its narrowest inner saddle; 0 when none
	pixels int32
}

// A passage is a saddle between two basins that was closed.
type passage struct {
	pixel int32
	width float64 // mm
	stubs int
	banks [2]int32 // the pixels of ink on either side
	a, b  int32    // basins as numbered at the time
}

// flooding is the state of one flood.
type flooding struct {
	*working
	basins []basin
	parent []int32
	closed []passage
	judged []decision
	grid   map[int32][]int32 // judged decisions by grid square
	cell   int               // grid square side, pixels
}

// A decision about a passage holds for everything within reach of its place.
type decision struct {
	x, y   int32
	reach2 float64
	open   bool
}

// flood labels the white pixels with cells: seeds far from ink first, then
// downhill by distance. Where two deep basins meet, the passage is judged and
// either joins them or stays closed.
func (w *working) flood() error {
	f := &flooding{working: w, grid: map[int32][]int32{}}
	f.cell = max(4, int(math.Ceil(1.2/w.mm)))
	f.seed()
	if err := f.descend(); err != nil {
		return err
	}
	return f.collect()
}

// seed starts a basin for every connected piece of white beyond seedMM.
func (f *flooding) seed() {
	limit := f.seedLimit()
	f.basin = make([]int32, len(f.dist2))
	runs := runsOf(f.h, func(runs []run, y int) []run {
		row, to := f.dist2[y*f.w:(y+1)*f.w], f.basin[y*f.w:(y+1)*f.w]
		for x := 0; x < len(row); x++ {
			to[x] = -1
			if row[x] <= limit {
				continue
			}
			x0 := x
			for x++; x < len(row) && row[x] > limit; x++ {
			}
			runs = append(runs, run{int32(y), int32(x0), int32(x)})
			if x < len(row) {
				to[x] = -1
			}
		}
		return runs
	})
	comp, n := components(runs, true)
	f.basins = make([]basin, n, n+1024)
	peaks := make([]int32, len(runs))
	parallelRows(len(runs), func(i0, i1 int) {
		for i := i0; i < i1; i++ {
			r := runs[i]
			from, to := int(r.y)*f.w+int(r.x0), int(r.y)*f.w+int(r.x1)
			peaks[i] = slices.Max(f.dist2[from:to])
			of := f.basin[from:to]
			for x := range of {
				of[x] = comp[i]
			}
		}
	})
	for i, r := range runs {
		b := &f.basins[comp[i]]
		b.pixels += r.x1 - r.x0
		b.peak2 = max(b.peak2, peaks[i])
	}
	for i := range f.basins {
		f.parent = append(f.parent, int32(i))
	}
}

// seedLimit is seedMM as a squared pixel distance.
func (f *flooding) seedLimit() int32 {
	r := seedMM / f.mm
	return int32(r * r)
}

// descend visits the remaining white pixels from far to near.
func (f *flooding) descend() error {
	limit := f.seedLimit()
	start := make([]int32, limit+2)
	for _, d := range f.dist2 {
		if d > 0 && d <= limit {
			start[limit-d+1]++
		}
	}
	for i := 1; i < len(start); i++ {
		start[i] += start[i-1]
	}
	order := make([]int32, start[len(start)-1])
	for i, d := range f.dist2 {
		if d > 0 && d <= limit {
			order[start[limit-d]] = int32(i)
			start[limit-d]++
		}
	}
	for n, i := range order {
		if n&0xffff == 0 {
			if err := f.ctx.Err(); err != nil {
				return err
			}
		}
		if !f.extend(i) {
			f.visit(i)
		}
	}
	return nil
}

// extend gives pixel i to the one basin around it: [flooding.visit] for what
// nearly all pixels are. It reports false, and does nothing, when there is
// another basin or none, or when the pixel lies at the edge.
func (f *flooding) extend(i int32) bool {
	w := f.w
	at := int(i)
	if x := at % w; x == 0 || x == w-1 || at < w || at >= len(f.basin)-w {
		return false
	}
	one := int32(-1)
	for _, b := range [4]int32{f.basin[at-w], f.basin[at-1], f.basin[at+1], f.basin[at+w]} {
		if b < 0 || b == one {
			continue
		}
		if f.parent[b] != b {
			b = find(f.parent, b)
		}
		if one >= 0 && b != one {
			return false
		}
		one = b
	}
	if one < 0 {
		return false
	}
	f.basin[at] = one
	f.basins[one].pixels++
	return true
}

// visit gives one pixel to a basin, after settling whether the basins around
// it are one.
func (f *flooding) visit(i int32) {
	w := int32(f.w)
	x := i % w
	d2 := f.dist2[i]
	var around [4]int32
	n := 0
	best, bestD := int32(-1), int32(-1)
	for k, j := range [4]int32{i - 1, i + 1, i - w, i + w} {
		if k == 0 && x == 0 || k == 1 && x == w-1 || uint(j) >= uint(len(f.basin)) {
			continue
		}
		b := f.basin[j]
		if b < 0 {
			continue
		}
		if f.parent[b] != b {
			b = find(f.parent, b)
		}
		if f.dist2[j] > bestD {
			best, bestD = b, f.dist2[j]
		}
		if n > 0 && (around[0] == b || n > 1 && around[1] == b || n > 2 && around[2] == b) {
			continue
		}
		around[n] = b
		n++
	}
	if n == 0 {
		best = int32(len(f.basins))
		f.basins = append(f.basins, basin{peak2: d2})
		f.parent = append(f.parent, best)
	}
	for a := 1; a < n; a++ {
		for b := 0; b < a; b++ {
			ra, rb := find(f.parent, around[a]), find(f.parent, around[b])
			if ra != rb {
				f.meet(i, ra, rb, d2)
			}
		}
	}
	best = find(f.parent, best)
	f.basin[i] = best
	f.basins[best].pixels++
}

// meet settles the saddle at pixel i between basins a and b.
func (f *flooding) meet(i, a, b, d2 int32) {
	h := math.Sqrt(float64(d2)) * f.mm
	peak := math.Sqrt(float64(min(f.basins[a].peak2, f.basins[b].peak2))) * f.mm
	if peak < peakRatio*h || peak-h < peakRiseMM {
		f.join(a, b, 0)
		return
	}
	x, y := i%int32(f.w), i/int32(f.w)
	if open, known := f.remembered(x, y); known {
		if open {
			f.join(a, b, d2)
		}
		return
	}
	p := f.judge(int(x), int(y), d2)
	reach := 0.75*p.width/f.mm + 2.5
	f.remember(decision{x, y, reach * reach, p.open})
	if p.open {
		f.join(a, b, d2)
		return
	}
	f.closed = append(f.closed, passage{i, p.width, p.stubs, p.banks, a, b})
}

// join unites two basins across a saddle of squared height neck2 (0 when the
// saddle is no narrowing).
func (f *flooding) join(a, b, neck2 int32) {
	keep, gone := min(a, b), max(a, b)
	k, g := &f.basins[keep], f.basins[gone]
	f.parent[gone] = keep
	k.peak2 = max(k.peak2, g.peak2)
	k.pixels += g.pixels
	for _, n := range []int32{g.neck2, neck2} {
		if n > 0 && (k.neck2 == 0 || n < k.neck2) {
			k.neck2 = n
		}
	}
}

func (f *flooding) remembered(x, y int32) (open, known bool) {
	c := int32(f.cell)
	for gy := y/c - 1; gy <= y/c+1; gy++ {
		for gx := x/c - 1; gx <= x/c+1; gx++ {
			for _, k := range f.grid[gy<<16|gx&0xffff] {
				d := f.judged[k]
				dx, dy := float64(x-d.x), float64(y-d.y)
				if dx*dx+dy*dy <= d.reach2 {
					return d.open, true
				}
			}
		}
	}
	return false, false
}

func (f *flooding) remember(d decision) {
	key := (d.y/int32(f.cell))<<16 | (d.x/int32(f.cell))&0xffff
	f.grid[key] = append(f.grid[key], int32(len(f.judged)))
	f.judged = append(f.judged, d)
}
