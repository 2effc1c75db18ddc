package lineart

import (
	"math"
	"math/bits"
	"slices"
)

const (
	seedMM     = 0.9  // white farther than this from ink starts a basin
	peakRatio  = 1.35 // a basin deeper than this × the saddle stands on its own
	peakRiseMM = 0.07 // and at least this much deeper
	fragMM2    = 0.6  // smaller fragments rejoin their widest neighbour
	cellMM2    = 0.7  // smaller cells are dropped
)

// A basin is a set of white pixels that drain to one peak of the distance map.
type basin struct {
	peak   int32 // the pixel farthest from ink, and
	peak2  int32 // its squared distance, pixels
	neck2  int32 // squared distance at its narrowest inner saddle; 0 when none
	pixels int32
}

// flooding is the state of one flood. A pixel's number counts along rows as long
// as those of the bitmaps, which end in a pixel to spare, with one more row above
// and below: so every pixel has four neighbours.
type flooding struct {
	*working
	stride int32   // pixels a row
	basin  []int32 // per pixel; 0 is none
	basins []basin // from 1
	parent []int32
	shores [][][]int32 // shores[k]: the pixels on rings[k] around the ink, in bands of rows
	rings  []ring
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
// downhill by distance. Where two deep basins meet, the passage stays closed until
// all between the two is known, if it may be a gap.
func (w *working) flood() (*flooding, error) {
	f := &flooding{working: w}
	f.prepare()
	f.seed(f.measureShores())
	return f, f.descend()
}

// prepare leaves all white without a basin.
func (f *flooding) prepare() {
	f.stride = int32(f.ink.stride * 64)
	f.basin = make([]int32, int(f.stride)*(f.h+2))
	f.basins, f.parent = make([]basin, 1), make([]int32, 1)
	f.grid, f.cell = map[int32][]int32{}, max(4, int(math.Ceil(1.2/f.mm)))
}

// place is where a pixel lies.
func (f *flooding) place(pixel int32) (x, y int) {
	return int(pixel % f.stride), int(pixel/f.stride) - 1
}

// pixel is the number of a place.
func (f *flooding) pixel(x, y int) int32 { return int32(y+1)*f.stride + int32(x) }

func (f *flooding) vertex(pixel int32) vertex {
	x, y := f.place(pixel)
	return vertex{int32(x), int32(y)}
}

// measureShores lists the white pixels nearer than seedMM to ink by their distance,
// and returns those beyond.
func (f *flooding) measureShores() (beyond bitmap) {
	limit := seedMM / f.mm
	f.rings = ringsWithin(int32(limit * limit))
	near := newBitmap(f.w, f.h)
	f.shores = make([][][]int32, len(f.rings))
	for k := range f.shores {
		f.shores[k] = make([][]int32, bands(f.h))
	}
	parallelBands(f.h, func(band, y0, y1 int) {
		scan := f.ink.scan(f.rings, y0)
		lists := make([][]int32, len(f.rings))
		for y := y0; y < y1; y++ {
			scan.row(y)
			copy(near.row(y), scan.near)
			for _, hit := range scan.hits {
				list, at := lists[hit.ring], f.pixel(int(hit.word)*64, y)
				for word := hit.pixels; word != 0; word &= word - 1 {
					list = append(list, at+int32(bits.TrailingZeros64(word)))
				}
				lists[hit.ring] = list
			}
		}
		for k, list := range lists {
			f.shores[k][band] = list
		}
	})
	return near.not()
}

// seed starts a basin for every connected piece of white beyond seedMM.
func (f *flooding) seed(beyond bitmap) {
	runs := beyond.runs()
	comp, n := components(runs, true)
	f.basins = append(f.basins, make([]basin, n)...)
	parallelRows(len(runs), func(i0, i1 int) {
		for i := i0; i < i1; i++ {
			r := runs[i]
			fill(f.basin[f.pixel(int(r.x0), int(r.y)):][:r.x1-r.x0], comp[i]+1)
		}
	})
	f.findPeaks(runs, comp)
	for i, r := range runs {
		f.basins[comp[i]+1].pixels += r.x1 - r.x0
	}
	for i := range n {
		f.parent = append(f.parent, int32(i+1))
	}
}

// descend visits the remaining white pixels from far to near.
func (f *flooding) descend() error {
	for k := len(f.rings) - 1; k >= 0; k-- {
		for _, shore := range f.shores[k] {
			if err := f.ctx.Err(); err != nil {
				return err
			}
			f.extend(shore, f.rings[k].dist2)
		}
	}
	return nil
}

// extend gives each pixel of a shore to the one basin beside it, which is what
// nearly all have. Where there may be another, or is none, [flooding.visit] looks
// closer.
func (f *flooding) extend(shore []int32, d2 int32) {
	basin, stride := f.basin, int(f.stride)
	for _, pixel := range shore {
		i := int(pixel)
		left, right, up, down := basin[i-1], basin[i+1], basin[i-stride], basin[i+stride]
		one := max(left, right, up, down)
		if one == 0 || left != one && left != 0 || right != one && right != 0 || up != one && up != 0 || down != one && down != 0 {
			f.visit(pixel, d2)
			continue
		}
		if f.parent[one] != one {
			one = find(f.parent, one)
		}
		basin[i] = one
		f.basins[one].pixels++
	}
}

// around lists the pixels to the left, to the right of, above and below pixel i.
func (f *flooding) around(i int32) [4]int32 {
	return [4]int32{i - 1, i + 1, i - f.stride, i + f.stride}
}

// visit gives one pixel to a basin, after settling whether the basins around
// it are one.
func (f *flooding) visit(i, d2 int32) {
	var around [4]int32
	n := 0
	for _, j := range f.around(i) {
		b := f.basin[j]
		if b == 0 {
			continue
		}
		if b = find(f.parent, b); !slices.Contains(around[:n], b) {
			around[n] = b
			n++
		}
	}
	if n == 0 {
		around[0] = int32(len(f.basins))
		f.basins = append(f.basins, basin{peak: i, peak2: d2})
		f.parent = append(f.parent, around[0])
	}
	for a := 1; a < n; a++ {
		for b := range a {
			ra, rb := find(f.parent, around[a]), find(f.parent, around[b])
			if ra != rb {
				f.meet(i, ra, rb, d2)
			}
		}
	}
	to := find(f.parent, around[0])
	if n > 1 {
		to = find(f.parent, f.basin[f.uphill(i)])
		for _, j := range f.around(i) {
			if b := f.basin[j]; b != 0 && find(f.parent, b) != to {
				f.touching = append(f.touching, [2]vertex{f.vertex(i), f.vertex(j)})
			}
		}
	}
	f.basin[i] = to
	f.basins[to].pixels++
}

// uphill is the pixel beside i that belongs to a basin and is farthest from ink.
// Where basins stay apart, going on from there keeps their border straight.
func (f *flooding) uphill(i int32) (best int32) {
	most := -1
	for _, j := range f.around(i) {
		if f.basin[j] == 0 {
			continue
		}
		x, y := f.place(j)
		if _, d := f.ink.nearest(x, y, 0, none*none); d > most {
			best, most = j, d
		}
	}
	return best
}

// meet settles the saddle at pixel i between basins a and b.
func (f *flooding) meet(i, a, b, d2 int32) {
	h := math.Sqrt(float64(d2)) * f.mm
	peak := math.Sqrt(float64(min(f.basins[a].peak2, f.basins[b].peak2))) * f.mm
	if peak < peakRatio*h || peak-h < peakRiseMM {
		f.join(a, b, 0)
		return
	}
	px, py := f.place(i)
	x, y := int32(px), int32(py)
	if open, known := f.remembered(x, y); known {
		if open {
			f.join(a, b, d2)
		}
		return
	}
	p, maybeGap := f.look(px, py, d2)
	reach := 0.75*p.width/f.mm + 2.5
	f.remember(decision{x, y, reach * reach, !maybeGap})
	if !maybeGap {
		f.join(a, b, d2)
		return
	}
	p.a, p.b = a, b
	f.closed = append(f.closed, p)
}

// join unites two basins across a saddle of squared height neck2 (0 when the
// saddle is no narrowing).
func (f *flooding) join(a, b, neck2 int32) {
	keep, gone := min(a, b), max(a, b)
	k, g := &f.basins[keep], f.basins[gone]
	f.parent[gone] = keep
	if g.peak2 > k.peak2 {
		k.peak, k.peak2 = g.peak, g.peak2
	}
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
