package svg

import (
	"context"
	"errors"
	"image"
	"math"
	"math/bits"
)

// Limits of the work a drawing may make, so that none stalls the program whatever it is
// made of: steps along edges and across pixels, about a hundred million a second.
const (
	maxWork   = 150_000_000
	checkWork = 1 << 20 // between two looks at the context
	edgeWork  = 16      // to begin an edge
)

var errWork = errors.New("the SVG takes too much work to draw: it has too many large shapes over each other; simplify or flatten it and save it again")

// rule is which side of crossing rings is inside.
type rule uint8

const (
	nonZero rule = iota
	evenOdd
)

// raster fills rings on a grid of pixels. Each edge leaves in the pixels it passes how
// much more of them, and of all to their right, lies inside; summed along a row that is
// the coverage, whichever number of rings there are.
type raster struct {
	ctx     context.Context
	w, h    int
	blocks  int // 64 pixels each, in a row
	acc     []float32
	touched []uint64 // a bit for each block of a row that an edge has passed
	words   int      // of touched, in a row
	top     int      // first and last row that was touched
	bottom  int
	work    int
	asked   int
}

func newRaster(ctx context.Context, w, h int) *raster {
	blocks := (w+2)/64 + 1
	r := &raster{ctx: ctx, w: w, h: h, blocks: blocks, words: (blocks + 63) / 64}
	r.acc, r.touched = make([]float32, blocks*64*h), make([]uint64, r.words*h)
	r.top, r.bottom = h, -1
	return r
}

// spend counts work, and gives up when there is too much of it or nobody waits.
func (r *raster) spend(n int) error {
	if r.work += n; r.work > maxWork {
		return errWork
	}
	if r.work-r.asked >= checkWork {
		r.asked = r.work
		return r.ctx.Err()
	}
	return nil
}

// edge adds one edge of a ring, in pixels.
func (r *raster) edge(a, b point) error {
	if a.y == b.y {
		return nil
	}
	down := float32(1)
	if a.y > b.y {
		a, b, down = b, a, -1
	}
	if b.y <= 0 || a.y >= float64(r.h) {
		return nil
	}
	slope := (b.x - a.x) / (b.y - a.y)
	if a.y < 0 {
		a = point{a.x - a.y*slope, 0}
	}
	if b.y > float64(r.h) {
		b = point{b.x - (b.y-float64(r.h))*slope, float64(r.h)}
	}
	first, last := int(a.y), min(r.h-1, int(math.Ceil(b.y))-1)
	if last < first {
		return nil
	}
	r.top, r.bottom = min(r.top, first), max(r.bottom, last)
	wide, x := float64(r.w), a.x
	steps := 0
	for y := first; y <= last; y++ {
		y0, y1 := max(a.y, float64(y)), min(b.y, float64(y+1))
		to := a.x + (y1-a.y)*slope
		x0, x1 := min(wide, max(0, x)), min(wide, max(0, to))
		x = to
		steps += r.pass(y, min(x0, x1), max(x0, x1), down*float32(y1-y0))
	}
	return r.spend(steps + edgeWork)
}

// pass leaves what an edge that goes from x0 to x1 in row y, over so much of its height,
// adds to the coverage; it returns the number of pixels it passed.
func (r *raster) pass(y int, x0, x1 float64, high float32) int {
	row := r.acc[y*r.blocks*64:]
	bit := r.touched[y*r.words:]
	left, right := int(x0), int(math.Ceil(x1))
	if right <= left+1 { // within one pixel
		mid := float32((x0+x1)/2 - float64(left))
		row[left] += high * (1 - mid)
		row[left+1] += high * mid
		bit[left/64/64] |= 1 << (left / 64 % 64)
		bit[(left+1)/64/64] |= 1 << ((left + 1) / 64 % 64)
		return 1
	}
	per := 1 / float32(x1-x0)
	in := 1 - float32(x0-float64(left)) // of the first pixel
	first := 0.5 * per * in * in
	row[left] += high * first
	if right == left+2 {
		out := float32(x1 - float64(left+1))
		end := 0.5 * per * out * out
		row[left+1] += high * (1 - first - end)
		row[left+2] += high * end
	} else {
		second := per * (1.5 - float32(x0-float64(left)))
		row[left+1] += high * (second - first)
		for k := left + 2; k < right-1; k++ {
			row[k] += high * per
		}
		upTo := second + float32(right-left-3)*per
		out := float32(x1 - float64(right-1))
		end := 0.5 * per * out * out
		row[right-1] += high * (1 - upTo - end)
		row[right] += high * end
	}
	for k := left / 64; k <= right/64; k++ {
		bit[k/64] |= 1 << (k % 64)
	}
	return right - left + 1
}

// sweep sums the rows up, calls paint for every run of pixels with their coverage, 0 to
// 255, and clears all for the next shape. Blocks that no edge passed are all alike.
func (r *raster) sweep(by rule, paint func(y, x int, coverage []uint8)) error {
	var line [64]uint8
	for y := r.top; y <= r.bottom; y++ {
		sum := float32(0)
		row, bit := r.acc[y*r.blocks*64:][:r.blocks*64], r.touched[y*r.words:][:r.words]
		last := -1
		for k := len(bit) - 1; k >= 0 && last < 0; k-- {
			if bit[k] != 0 {
				last = 64*k + 63 - bits.LeadingZeros64(bit[k])
			}
		}
		passed := 0
		for k := 0; k <= last; k++ {
			on := bit[k/64]&(1<<(k%64)) != 0
			if !on && cover(sum, by) == 0 {
				continue
			}
			passed += 64
			block := row[64*k:][:64]
			if on {
				for i, v := range block {
					sum += v
					line[i] = cover(sum, by)
				}
				clear(block)
			} else {
				c := cover(sum, by)
				for i := range line {
					line[i] = c
				}
			}
			if n := min(64, r.w-64*k); n > 0 {
				paint(y, 64*k, line[:n])
			}
		}
		clear(bit)
		if err := r.spend(passed + 1); err != nil {
			return err
		}
	}
	r.top, r.bottom = r.h, -1
	return nil
}

// cover is a coverage, 0 to 255, from how often a pixel is gone round.
func cover(sum float32, by rule) uint8 {
	if sum < 0 {
		sum = -sum
	}
	if by == evenOdd {
		if sum = sum - 2*float32(int(sum/2)); sum > 1 {
			sum = 2 - sum
		}
	}
	return uint8(255*min(1, sum) + 0.5)
}

// fill adds rings and paints what they hold.
func (r *raster) fill(rings []ring, by rule, paint func(y, x int, coverage []uint8)) error {
	for _, q := range rings {
		for i, p := range q.at {
			if err := r.edge(p, q.at[(i+1)%len(q.at)]); err != nil {
				return err
			}
		}
	}
	return r.sweep(by, paint)
}

// mask is what a clip path leaves.
func (r *raster) mask(rings []ring, by rule, to *image.Alpha) error {
	return r.fill(rings, by, func(y, x int, coverage []uint8) {
		row := to.Pix[y*to.Stride+x:]
		for i, c := range coverage {
			row[i] = max(row[i], c)
		}
	})
}
