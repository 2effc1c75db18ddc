package lineart

import (
	"math/bits"
	"slices"
)

// A bitmap marks pixels of a raster, 64 to a word, the leftmost in the lowest
// bit. Bits past the end of a row are off, and every row has at least one.
type bitmap struct {
	w, h, stride int // stride is in words
	words        []uint64
}

func newBitmap(w, h int) bitmap {
	stride := w/64 + 1
	return bitmap{w, h, stride, make([]uint64, stride*h)}
}

func (b bitmap) row(y int) []uint64 { return b.words[y*b.stride : (y+1)*b.stride] }

// inLast masks the pixels that the last word of a row holds.
func (b bitmap) inLast() uint64 { return 1<<(b.w%64) - 1 }

func (b bitmap) at(x, y int) bool { return b.words[y*b.stride+x/64]>>(x%64)&1 != 0 }

// not is the bitmap of all other pixels.
func (b bitmap) not() bitmap {
	out := newBitmap(b.w, b.h)
	for i, word := range b.words {
		out.words[i] = ^word
	}
	for i := b.stride - 1; i < len(out.words); i += b.stride {
		out.words[i] &= b.inLast()
	}
	return out
}

// bools is the bitmap with a value a pixel.
func (b bitmap) bools() []bool {
	out := make([]bool, b.w*b.h)
	for y := range b.h {
		for i, word := range b.row(y) {
			for ; word != 0; word &= word - 1 {
				out[y*b.w+i*64+bits.TrailingZeros64(word)] = true
			}
		}
	}
	return out
}

// flip turns the pixels [x0, x1) of row y over.
func (b bitmap) flip(y, x0, x1 int) {
	row := b.row(y)
	for i := x0 / 64; i <= x1/64; i++ {
		word := ^uint64(0)
		if i == x0/64 {
			word <<= x0 % 64
		}
		if i == x1/64 {
			word &= 1<<(x1%64) - 1
		}
		row[i] ^= word
	}
}

// runs lists the runs of marked pixels row by row.
func (b bitmap) runs() []run {
	parts := make([][]run, bands(b.h))
	parallelBands(b.h, func(band, y0, y1 int) {
		var runs []run
		for y := y0; y < y1; y++ {
			open, before := false, uint64(0)
			for i, word := range b.row(y) {
				edges := word ^ (word<<1 | before)
				before = word >> 63
				for ; edges != 0; edges &= edges - 1 {
					x := int32(i*64 + bits.TrailingZeros64(edges))
					if open = !open; open {
						runs = append(runs, run{int32(y), x, x})
					} else {
						runs[len(runs)-1].x1 = x
					}
				}
			}
		}
		parts[band] = runs
	})
	return slices.Concat(parts...)
}

// nearest returns the marked pixel nearest to (x, y) and its squared distance, in
// pixels; or within2 when none is nearer. When that is enough or less, there may
// be a nearer one.
func (b bitmap) nearest(x, y int, enough, within2 int) (at vertex, dist2 int) {
	for dy := 0; dy*dy < within2 && within2 > enough; dy++ {
		for _, yy := range [2]int{y - dy, y + dy} {
			if yy < 0 || yy >= b.h {
				continue
			}
			if dx := beside(b.row(yy), x, within2-dy*dy); dx*dx < within2-dy*dy {
				at, within2 = vertex{int32(x + dx), int32(yy)}, dx*dx+dy*dy
			}
		}
	}
	return at, within2
}

// none is farther than anything on a raster; its square still fits an int.
const none = 1 << 30

// beside returns the way to the marked pixel of the row that is nearest to x. One
// whose squared distance is within2 or more need not be found.
func beside(row []uint64, x int, within2 int) (dx int) {
	at, bit := x/64, x%64
	right, left := none, none
	if word := row[at] >> bit; word != 0 {
		right = bits.TrailingZeros64(word)
	} else {
		for i, d := at+1, 64-bit; i < len(row) && d*d < within2; i, d = i+1, d+64 {
			if row[i] != 0 {
				right = d + bits.TrailingZeros64(row[i])
				break
			}
		}
	}
	if word := row[at] << (63 - bit); word != 0 {
		left = bits.LeadingZeros64(word)
	} else {
		for i, d := at-1, bit+1; i >= 0 && d*d < within2; i, d = i-1, d+64 {
			if row[i] != 0 {
				left = d + bits.LeadingZeros64(row[i])
				break
			}
		}
	}
	if left < right {
		return -left
	}
	return right
}
