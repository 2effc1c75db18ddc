package lineart

import (
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

// blockPercentile is a percentile of every other row of a block; rows side by
// side are much alike.
func (w *working) blockPercentile(x0, y0, size int, q float64) float64 {
	var hist [256]uint16
	n := 0
	for y := y0; y < min(w.h, y0+size); y += 2 {
		row := w.grey[y*w.w+x0 : y*w.w+min(w.w, x0+size)]
		for _, v := range row {
			hist[v]++
		}
		n += len(row)
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

// dividedBy is the picture with each pixel scaled so that the bilinear interpolation of paper, known
// at the middle of each block, becomes paperLevel.
func (w *working) dividedBy(paper []float64, bw, bh, size int) []uint8 {
	const (
		bits = 16 // gains are counted in parts of this many bits
		one  = 1 << bits
		half = one / 2
	)
	gains := make([]float32, len(paper))
	for i, p := range paper {
		gains[i] = float32(one * paperLevel / p)
	}
	out := make([]uint8, len(w.grey))
	parallelRows(w.h, func(y0, y1 int) {
		gain, rise := make([]int32, w.w), make([]int32, w.w)
		for y := y0; y < y1; y++ {
			if y == y0 || (y-(size+1)/2)%size == 0 {
				// From here to the middle of the next block gains change evenly.
				upper, lower, t := between(y, size, bh)
				across(gain, gains[upper*bw:][:bw], size)
				across(rise, gains[lower*bw:][:bw], size)
				for x, g := range gain {
					rise[x] = (rise[x] - g) / int32(size)
					gain[x] = g + int32(t*float32(size)*float32(rise[x]))
				}
			}
			row, from := out[y*w.w:(y+1)*w.w], w.grey[y*w.w:(y+1)*w.w]
			from, gain, rise := from[:len(row)], gain[:len(row)], rise[:len(row)]
			for x := range row {
				row[x] = uint8(min(255, (int32(from[x])*gain[x]+half)>>bits))
				gain[x] += rise[x]
			}
		}
	})
	return out
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

// across interpolates values known at the middle of each block of a row.
func across(to []int32, blocks []float32, size int) {
	for x := range to {
		b0, b1, t := between(x, size, len(blocks))
		to[x] = int32(blocks[b0] + (blocks[b1]-blocks[b0])*t)
	}
}
