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
	out := image.NewGray(image.Rect(0, 0, b.Dx(), b.Dy()))
	w := working{w: b.Dx(), h: b.Dy(), mm: 25.4 / dpi, grey: out.Pix}
	for y := range w.h {
		copy(out.Pix[y*w.w:(y+1)*w.w], img.Pix[y*img.Stride:])
	}
	if err := w.flatten(); err != nil {
		return nil, err
	}
	_, _, err := w.threshold()
	return out, err
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
	w.divideBy(paper, bw, bh, size)
	return nil
}

func (w *working) blockPercentile(x0, y0, size int, q float64) float64 {
	var hist [256]int
	n := 0
	for y := y0; y < min(w.h, y0+size); y++ {
		for _, v := range w.grey[y*w.w+x0 : y*w.w+min(w.w, x0+size)] {
			hist[v]++
			n++
		}
	}
	left := int(float64(n) * q)
	for v, c := range hist {
		if left -= c; left < 0 {
			return float64(v)
		}
	}
	return 255
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

// divideBy scales each pixel so that the bilinear interpolation of paper
// becomes paperLevel.
func (w *working) divideBy(paper []float64, bw, bh, size int) {
	type tap struct {
		i0, i1 int
		f      float32
	}
	taps := func(n, blocks int) []tap {
		t := make([]tap, n)
		for i := range t {
			p := (float64(i)+0.5)/float64(size) - 0.5
			i0 := min(max(0, int(math.Floor(p))), blocks-1)
			t[i] = tap{i0, min(i0+1, blocks-1), float32(min(1, max(0, p-float64(i0))))}
		}
		return t
	}
	ty := taps(w.h, bh)
	const one = 1 << 16 // gains are counted in parts of this
	parallelRows(w.h, func(y0, y1 int) {
		row := make([]float32, bw)
		for y := y0; y < y1; y++ {
			t := ty[y]
			for b := range row {
				a, c := float32(paper[t.i0*bw+b]), float32(paper[t.i1*bw+b])
				row[b] = one * paperLevel / (a + (c-a)*t.f) // how much lighter it has to be
			}
			line := w.grey[y*w.w : (y+1)*w.w]
			// From the middle of one block to that of the next the gain is a ramp.
			for b := -1; b < bw; b++ {
				from, to := max(0, b*size+size/2), min(w.w, (b+1)*size+size/2)
				if b == bw-1 {
					to = w.w
				}
				if from >= to {
					continue
				}
				g0, g1 := row[max(0, b)], row[min(bw-1, b+1)]
				step := (g1 - g0) / float32(size)
				gain := int32(g0 + step*(float32(from-b*size-size/2)+0.5*float32(1-size%2)))
				rise := int32(step)
				part := line[from:to]
				for x, v := range part {
					part[x] = uint8(min(255, (uint32(v)*uint32(gain)+one/2)/one))
					gain += rise
				}
			}
		}
	})
}
