package cutting

import (
	"math"
	"math/rand/v2"
)

// filler fills rectangles with wanted parts by one rule, cutting strips off one
// side or the other. Rules differ from run to run; many cheap runs find what no
// single rule does.
type filler struct {
	parts  []Part
	kerf   int64
	rng    *rand.Rand
	ways   [][]size  // by part: how it may lie on the sheet, kerf not included
	want   []int     // what is still wanted; fill takes from it
	weight []float64 // of parts in this run
	across float64   // share of strips cut off the bottom
	snug   float64   // what a part gains by filling a side of the rectangle
}

// shuffle draws a new rule; worth gives parts a value, nil their area.
func (f *filler) shuffle(worth []float64) {
	power := 0.6 + 0.9*f.rng.Float64()
	noise := 0.5 * f.rng.Float64()
	for i, p := range f.parts {
		v := mm2(p.W, p.H)
		if worth != nil && worth[i] > 0 {
			v = worth[i]
		}
		f.weight[i] = math.Pow(v, power) * math.Exp(noise*f.rng.NormFloat64())
	}
	f.across = []float64{0, 0.5, 1, f.rng.Float64()}[f.rng.IntN(4)]
	f.snug = []float64{0, 0.3, 1}[f.rng.IntN(3)]
}

// fill returns a tree for a w × h rectangle.
func (f *filler) fill(w, h int64) *node {
	p, z := f.choose(w, h)
	if p < 0 {
		return waste(w, h)
	}
	f.want[p]--
	leaf := &node{w: z.w, h: z.h, part: p}
	if f.rng.Float64() < f.across {
		return cutY(w, h, z.h, f.kerf, cutX(w, z.h, z.w, f.kerf, leaf, f.fill), f.fill)
	}
	return cutX(w, h, z.w, f.kerf, cutY(z.w, h, z.h, f.kerf, leaf, f.fill), f.fill)
}

// choose returns the wanted part that weighs most of those that fit, and how it
// lies.
func (f *filler) choose(w, h int64) (part int, how size) {
	part, best := -1, 0.0
	for i, n := range f.want {
		if n == 0 {
			continue
		}
		for _, z := range f.ways[i] {
			if z.w > w || z.h > h {
				continue
			}
			v := f.weight[i]
			if z.w == w || z.h == h {
				v *= 1 + f.snug
			}
			if v > best {
				part, how, best = i, z, v
			}
		}
	}
	return part, how
}

// waysOn returns how each part may lie on a kind of stock.
func waysOn(parts []Part, s Stock) [][]size {
	out := make([][]size, len(parts))
	for i, p := range parts {
		if p.Type != s.Type {
			continue
		}
		for _, w := range ways(p, s) {
			if w[0] <= s.W && w[1] <= s.H {
				out[i] = append(out[i], size{w[0], w[1], i})
			}
		}
	}
	return out
}
