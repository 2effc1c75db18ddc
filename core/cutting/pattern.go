package cutting

import (
	"context"
	"slices"
	"sort"
)

// maxPoints bounds the cut positions a dynamic programme looks at along one
// side; with more it keeps an even choice of them, and its best is no longer
// a proof.
const maxPoints = 220

// size is a part the way it lies.
type size struct {
	w, h int64 // kerf included
	part int
}

// table is the dynamic programme over guillotine cuts for one kind of stock.
// Lengths in it have the kerf added, to parts and sheet alike, so that cuts
// take no room.
type table struct {
	stock  Stock
	kerf   int64
	sizes  []size
	xs, ys []int64 // positions looked at along either side, from 0
	exact  bool    // no position was left out
	fx, fy []int32 // fx[i*len+a]: index of the largest position ≤ xs[i] − xs[a]
	value  []float64
	choice []int32 // 0 waste, +part way+1, or a cut: −(2·index + axis) − 1
}

func newTable(s Stock, parts []Part, want []int, kerf int64) *table {
	t := &table{stock: s, kerf: kerf}
	for i, p := range parts {
		if want[i] == 0 || !fits(p, s) {
			continue
		}
		for _, w := range ways(p, s) {
			if w[0] <= s.W && w[1] <= s.H {
				t.sizes = append(t.sizes, size{w[0] + kerf, w[1] + kerf, i})
			}
		}
	}
	var exactX, exactY bool
	t.xs, exactX = positions(t.sizes, s.W+kerf, func(z size) int64 { return z.w })
	t.ys, exactY = positions(t.sizes, s.H+kerf, func(z size) int64 { return z.h })
	t.exact = exactX && exactY
	t.fx, t.fy = floors(t.xs), floors(t.ys)
	t.value = make([]float64, len(t.xs)*len(t.ys))
	t.choice = make([]int32, len(t.value))
	return t
}

// positions returns where a cut along a side of the given length is worth
// looking at, from 0: the reduced raster points of Terno, Lindemann and
// Scheithauer 1987, of which there are far fewer than sums of part sides.
// exact is false when there were too many and some were left out.
func positions(sizes []size, limit int64, of func(size) int64) (out []int64, exact bool) {
	all, exact := sums(sizes, limit, of)
	seen := map[int64]bool{}
	for _, v := range all {
		seen[all[floor(all, limit-v)]] = true
	}
	for v := range seen {
		out = append(out, v)
	}
	slices.Sort(out)
	if len(out) <= maxPoints {
		return out, exact
	}
	// Keep the single sides and an even choice of the rest.
	keep := map[int64]bool{0: true}
	for _, z := range sizes {
		keep[of(z)] = true
	}
	for i := range maxPoints {
		keep[out[i*(len(out)-1)/(maxPoints-1)]] = true
	}
	return slices.DeleteFunc(out, func(v int64) bool { return !keep[v] }), false
}

// sums returns all sums of sides up to limit, from 0 (the normal patterns of
// Herz 1972).
func sums(sizes []size, limit int64, of func(size) int64) (out []int64, exact bool) {
	const tooMany = 20_000
	seen := map[int64]bool{0: true}
	out = []int64{0}
	for i := 0; i < len(out); i++ {
		for _, z := range sizes {
			if v := out[i] + of(z); v <= limit && !seen[v] {
				seen[v] = true
				out = append(out, v)
			}
		}
		if len(out) > tooMany {
			slices.Sort(out)
			return out, false
		}
	}
	slices.Sort(out)
	return out, true
}

// floors tabulates, for positions i ≥ a, the largest position ≤ p[i] − p[a].
func floors(p []int64) []int32 {
	n := len(p)
	out := make([]int32, n*n)
	for i := range p {
		for a := 0; a <= i; a++ {
			out[i*n+a] = int32(floor(p, p[i]-p[a]))
		}
	}
	return out
}

// floor returns the index of the largest position ≤ v.
func floor(p []int64, v int64) int {
	return sort.Search(len(p), func(i int) bool { return p[i] > v }) - 1
}

// price fills the table for part values y and returns the best pattern's worth.
// It gives up with false when ctx ends.
func (t *table) price(ctx context.Context, y []float64) (float64, bool) {
	nx, ny := len(t.xs), len(t.ys)
	for j := range ny {
		if ctx.Err() != nil {
			return 0, false
		}
		for i := range nx {
			at := i*ny + j
			best, how := 0.0, int32(0)
			for k, z := range t.sizes {
				if v := y[z.part]; v > best && z.w <= t.xs[i] && z.h <= t.ys[j] {
					best, how = v, int32(k+1)
				}
			}
			for a := 1; a < nx && 2*t.xs[a] <= t.xs[i]; a++ {
				if v := t.value[a*ny+j] + t.value[int(t.fx[i*nx+a])*ny+j]; v > best+1e-12 {
					best, how = v, -int32(2*a)-1
				}
			}
			for b := 1; b < ny && 2*t.ys[b] <= t.ys[j]; b++ {
				if v := t.value[i*ny+b] + t.value[i*ny+int(t.fy[j*ny+b])]; v > best+1e-12 {
					best, how = v, -int32(2*b+1)-1
				}
			}
			t.value[at], t.choice[at] = best, how
		}
	}
	return t.value[nx*ny-1], true
}

// tree builds the best pattern of the table for a rectangle with kerf added.
func (t *table) tree(w, h int64) *node {
	i, j := floor(t.xs, w), floor(t.ys, h)
	how := t.choice[i*len(t.ys)+j]
	switch {
	case how == 0:
		return waste(w-t.kerf, h-t.kerf)
	case how > 0:
		z := t.sizes[how-1]
		return trimmed(w-t.kerf, h-t.kerf, t.kerf, z.part, z.w-t.kerf, z.h-t.kerf, waste)
	}
	index, axis := int(-how-1)/2, int(-how-1)%2
	if axis == 0 {
		a := t.xs[index]
		return cut(w-t.kerf, h-t.kerf, X, a-t.kerf, t.kerf, t.tree(a, h), t.rest(w-a, h))
	}
	b := t.ys[index]
	return cut(w-t.kerf, h-t.kerf, Y, b-t.kerf, t.kerf, t.tree(w, b), t.rest(w, h-b))
}

func (t *table) rest(w, h int64) *node {
	if w <= t.kerf || h <= t.kerf {
		return nil
	}
	return t.tree(w, h)
}

// best is the tree of the whole sheet.
func (t *table) best() *node { return t.tree(t.stock.W+t.kerf, t.stock.H+t.kerf) }
