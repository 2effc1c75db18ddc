package lineart

import (
	"encoding/binary"
	"image"
	"math"
	"slices"
)

// paperLevel is the grey value of bare paper after flattening.
const paperLevel = 240

// Flatten returns a copy of img in which uneven light is divided out and bare
// paper is 240, so that a scan can be laid on a blank sheet of that grey. It
// fails as [Find] does on pictures that are no usable line image; laid on a
// sheet with enough bare paper, a photograph could pass for one.
func Flatten(img *image.Gray, dpi float64) (*image.Gray, error) {
	b := img.Bounds()
	if err := checkInput(b.Dx(), b.Dy(), dpi); err != nil {
		return nil, err
	}
	w := working{w: b.Dx(), h: b.Dy(), mm: 25.4 / dpi, grey: tight(img)}
	if err := w.flatten(); err != nil {
		return nil, err
	}
	_, _, err := w.threshold()
	return &image.Gray{Pix: w.grey, Stride: w.w, Rect: image.Rect(0, 0, w.w, w.h)}, err
}

// flatten estimates the paper's brightness in blocks and divides it out.
func (w *working) flatten() error {
	const (
		blockMM     = 1.35 // wider than most lines, narrower than most shadows
		percentile  = 0.80
		globalShare = 0.62 // darker than this × the page: a block full of ink
		localShare  = 0.88 // darker than this × its best neighbour: too
	)
	size := max(4, int(math.Round(blockMM/w.mm)))
	bw, bh := (w.w+size-1)/size, (w.h+size-1)/size
	paper := make([]float64, bw*bh)
	parallelRows(bh, func(y0, y1 int) {
		for by := y0; by < y1; by++ {
			for bx := range bw {
				paper[by*bw+bx] = w.blockPercentile(bx*size, by*size, size, percentile)
			}
		}
	})
	sorted := slices.Clone(paper)
	slices.Sort(sorted)
	reference := sorted[len(sorted)*9/10]
	if reference < 8 {
		return ErrBlank
	}
	known := make([]bool, len(paper))
	for by := range bh {
		for bx := range bw {
			best := 0.0
			for y := max(0, by-2); y <= min(bh-1, by+2); y++ {
				best = max(best, slices.Max(paper[y*bw+max(0, bx-2):y*bw+min(bw, bx+3)]))
			}
			v := paper[by*bw+bx]
			known[by*bw+bx] = v >= globalShare*reference && v >= localShare*best
		}
	}
	diffuse(paper, known, bw, bh)
	for range 3 {
		paper = box3(paper, bw, bh)
	}
	w.grey = w.dividedBy(paper, bw, bh, size)
	return nil
}

// blockPercentile is a percentile of a block, of every other pixel of every other
// row; those side by side are much alike.
func (w *working) blockPercentile(x0, y0, size int, q float64) float64 {
	var hist [256]uint16
	n := 0
	for y := y0; y < min(w.h, y0+size); y += 2 {
		row := w.grey[y*w.w+x0 : y*w.w+min(w.w, x0+size)]
		for x := 0; x < len(row); x += 2 {
			hist[row[x]]++
			n++
		}
	}
	left := n - int(float64(n)*q)
	for v := 255; v > 0; v-- { // what is sought is nearly always light
		if left -= int(hist[v]); left <= 0 {
			return float64(v)
		}
	}
	return 0
}

// diffuse gives every unknown block the mean of its known neighbours, ring by
// ring outwards from what is known.
func diffuse(v []float64, known []bool, bw, bh int) {
	for left := len(v); left > 0; {
		var next []int
		left = 0
		for i, k := range known {
			if k {
				continue
			}
			left++
			sum, n := 0.0, 0
			x, y := i%bw, i/bw
			for yy := max(0, y-1); yy <= min(bh-1, y+1); yy++ {
				for xx := max(0, x-1); xx <= min(bw-1, x+1); xx++ {
					if known[yy*bw+xx] {
						sum += v[yy*bw+xx]
						n++
					}
				}
			}
			if n > 0 {
				v[i] = sum / float64(n)
				next = append(next, i)
			}
		}
		if len(next) == 0 {
			return
		}
		for _, i := range next {
			known[i] = true
		}
	}
}

func box3(v []float64, bw, bh int) []float64 {
	out := make([]float64, len(v))
	for y := range bh {
		for x := range bw {
			sum, n := 0.0, 0.0
			for yy := max(0, y-1); yy <= min(bh-1, y+1); yy++ {
				for xx := max(0, x-1); xx <= min(bw-1, x+1); xx++ {
					sum += v[yy*bw+xx]
					n++
				}
			}
			out[y*bw+x] = sum / n
		}
	}
	return out
}

// dividedBy is the picture with each pixel scaled so that the bilinear
// interpolation of paper, known at the middle of each block, becomes paperLevel.
// Eight pixels in a row are scaled alike.
func (w *working) dividedBy(paper []float64, bw, bh, size int) []uint8 {
	const finer = 9 // bits by which gains are interpolated finer than they are used
	gains := make([]float32, len(paper))
	for i, p := range paper {
		gains[i] = float32(paperLevel / p * (1 << (gainBits + finer)))
	}
	out := make([]uint8, len(w.grey))
	parallelRows(w.h, func(y0, y1 int) {
		gain, rise := make([]int32, (w.w+7)/8), make([]int32, (w.w+7)/8)
		for y := y0; y < y1; y++ {
			if y == y0 || (y-(size+1)/2)%size == 0 {
				// From here to the middle of the next block gains change evenly.
				upper, lower, t := between(y, size, bh)
				across(gain, gains[upper*bw:][:bw], size)
				across(rise, gains[lower*bw:][:bw], size)
				for i, g := range gain {
					rise[i] = (rise[i] - g) / int32(size)
					gain[i] = g + int32(t*float32(size)*float32(rise[i]))
				}
			}
			row, from := out[y*w.w:(y+1)*w.w], w.grey[y*w.w:(y+1)*w.w]
			for i, g := range gain {
				scale(row[i*8:min(w.w, i*8+8)], from[i*8:], uint64(g+1<<(finer-1))>>finer)
				gain[i] = g + rise[i]
			}
		}
	})
	return out
}

// gainBits is how many bits of a gain stand for less than one: gains are good to
// half a percent.
const gainBits = 7

// scale sets to to from times gain, which is in parts of 1<<gainBits, up to 255.
func scale(to, from []uint8, gain uint64) {
	const half = 1 << gainBits / 2
	if len(to) < 8 || gain > 255 {
		for x := range to {
			to[x] = uint8(min(255, (uint64(from[x])*gain+half)>>gainBits))
		}
		return
	}
	// Every other byte has room for a product in sixteen bits.
	const lanes = 0x0001_0001_0001_0001
	v := binary.LittleEndian.Uint64(from)
	even := (v&(255*lanes)*gain + half*lanes) >> gainBits & (511 * lanes)
	odd := (v>>8&(255*lanes)*gain + half*lanes) >> gainBits & (511 * lanes)
	even |= even >> 8 & lanes * 255
	odd |= odd >> 8 & lanes * 255
	binary.LittleEndian.PutUint64(to, even&(255*lanes)|odd&(255*lanes)<<8)
}

// between returns the blocks whose middles pixel i lies between, of n blocks of a
// size, and how far it is on the way to the second, 0 to 1.
func between(i, size, n int) (b0, b1 int, t float32) {
	twice := 2*i + 1 - size // from the middle of the first block, half pixels
	if twice < 0 {
		return 0, 0, 0
	}
	b0 = twice / (2 * size)
	return min(b0, n-1), min(b0+1, n-1), float32(twice%(2*size)) / float32(2*size)
}

// across interpolates values known at the middle of each block of a row, at every
// eighth pixel from the fourth.
func across(to []int32, blocks []float32, size int) {
	for i := range to {
		b0, b1, t := between(8*i+4, size, len(blocks))
		to[i] = int32(blocks[b0] + (blocks[b1]-blocks[b0])*t)
	}
}
