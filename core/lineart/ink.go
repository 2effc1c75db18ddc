package lineart

import (
	"encoding/binary"
	"math"
	"math/bits"
)

// findInk decides for every pixel whether it is line.
func (w *working) findInk() error {
	w.raw = w.grey
	w.smooth()
	threshold, contrast, err := w.threshold()
	if err != nil {
		return err
	}
	w.contrast, w.edge = contrast, uint8(threshold-darker*contrast)
	w.ink = w.markInk(threshold)
	const (
		speckMM2 = 0.04 // smaller blobs of ink are dirt
		holeMM2  = 0.30 // smaller holes in ink are missed spots
	)
	px := w.mm * w.mm
	w.flip(w.ink.small(true, int(speckMM2/px)))
	w.flip(w.ink.not().small(false, int(holeMM2/px)))
	return w.measureLine()
}

// flip makes white ink, and ink white.
func (w *working) flip(runs []run) {
	for _, r := range runs {
		w.ink.flip(int(r.y), int(r.x0), int(r.x1))
	}
}

// smooth applies the binomial filter [1 2 1]² to the grey image.
func (w *working) smooth() {
	src, dst := w.grey, make([]uint8, len(w.grey))
	parallelRows(w.h, func(y0, y1 int) {
		col := make([]uint8, w.w+2) // a row smoothed downwards, one guard either side
		for y := y0; y < y1; y++ {
			up, mid, down := src[max(0, y-1)*w.w:], src[y*w.w:], src[min(w.h-1, y+1)*w.w:]
			binomial(col[1:w.w+1], up, mid, down)
			col[0], col[w.w+1] = col[1], col[w.w]
			binomial(dst[y*w.w:(y+1)*w.w], col, col[1:], col[2:])
		}
	})
	w.grey = dst
}

// binomial sets to to (a + 2b + c) / 4 for as many pixels as it holds, eight at
// a time: the mean of a and c is rounded up and that of both with b down, so
// that nothing drifts.
func binomial(to, a, b, c []uint8) {
	const low7 = 0x7f7f7f7f7f7f7f7f // what is halved must not leave its byte
	a, b, c = a[:len(to)], b[:len(to)], c[:len(to)]
	i := 0
	for ; i+8 <= len(to); i += 8 {
		u, v := binary.LittleEndian.Uint64(a[i:]), binary.LittleEndian.Uint64(c[i:])
		outer := (u | v) - (u^v)>>1&low7
		v = binary.LittleEndian.Uint64(b[i:])
		binary.LittleEndian.PutUint64(to[i:], outer&v+(outer^v)>>1&low7)
	}
	for ; i < len(to); i++ {
		outer := (int(a[i]) + int(c[i]) + 1) / 2
		to[i] = uint8((outer + int(b[i])) / 2)
	}
}

// threshold splits ink from paper: Otsu 1979 divides the histogram, and the
// threshold is the midpoint of the two medians. It also judges whether the
// picture is line art at all.
func (w *working) threshold() (threshold, contrast float64, err error) {
	hists := make([][256]int, bands(w.h))
	parallelBands(w.h, func(band, y0, y1 int) {
		// Two counts in turns: paper beside paper would wait for itself.
		var even, odd [256]int32
		for y := y0; y < y1; y += 2 { // rows side by side are much alike
			row := w.grey[y*w.w : (y+1)*w.w]
			for ; len(row) >= 2; row = row[2:] {
				even[row[0]]++
				odd[row[1]]++
			}
		}
		for v := range even {
			hists[band][v] = int(even[v] + odd[v])
		}
	})
	hist := hists[0]
	for _, h := range hists[1:] {
		for v, n := range h {
			hist[v] += n
		}
	}
	split := otsu(hist)
	ink, paper := medianIn(hist, 0, split), medianIn(hist, split+1, 255)
	threshold = (ink + paper) / 2
	contrast = 2 * (paperLevel - threshold)
	const (
		minContrast = 40   // of 240: paler lines cannot be told from paper grain
		maxInk      = 0.70 // share of the page below the threshold
		maxMiddle   = 0.10 // share of the page between line and paper; scans of lines stay under 0.03, photographs exceed 0.19
	)
	if paper-ink < minContrast {
		return 0, 0, ErrBlank
	}
	total, dark, middle := 0.0, 0.0, 0.0
	for v, n := range hist {
		f := float64(v)
		total += float64(n)
		if f <= threshold {
			dark += float64(n)
		}
		if f > ink+0.25*(paper-ink) && f < paper-0.25*(paper-ink) {
			middle += float64(n)
		}
	}
	if dark/total > maxInk || middle/total > maxMiddle {
		return 0, 0, ErrNotLineArt
	}
	return threshold, contrast, nil
}

func otsu(hist [256]int) int {
	var n, sum float64
	for v, c := range hist {
		n += float64(c)
		sum += float64(v * c)
	}
	var n0, sum0, best float64
	at := 127
	for v, c := range hist {
		n0 += float64(c)
		sum0 += float64(v * c)
		if n0 == 0 || n0 == n {
			continue
		}
		diff := sum0/n0 - (sum-sum0)/(n-n0)
		if between := n0 * (n - n0) * diff * diff; between > best {
			best, at = between, v
		}
	}
	return at
}

func medianIn(hist [256]int, lo, hi int) float64 {
	n := 0
	for v := lo; v <= hi; v++ {
		n += hist[v]
	}
	left := n / 2
	for v := lo; v <= hi; v++ {
		if left -= hist[v]; left < 0 {
			return float64(v)
		}
	}
	return float64(lo)
}

// darker is how far below the threshold ink begins, of the contrast: blur widens lines, most
// of all thin ones.
const darker = 0.05

// markInk marks ink where the grey is a little below the threshold, and on hairlines:
// somewhat paler, when in one of four directions both pixels 0.3 mm away are
// clearly lighter.
func (w *working) markInk(threshold float64) bitmap {
	const (
		hairMM   = 0.3
		hairPale = 0.35 // how far above the threshold a hairline may be, of the contrast
		hairStep = 0.22 // how much lighter its two sides must be, of the contrast
	)
	r := max(1, int(math.Round(hairMM/w.mm)))
	soft, step := uint8(min(255, threshold+hairPale*w.contrast)), int(hairStep*w.contrast)
	offsets := [4]int{r, r * w.w, r*w.w + r, r*w.w - r}
	ink := newBitmap(w.w, w.h)
	parallelRows(w.h, func(y0, y1 int) {
		pale := make([]uint64, ink.stride)
		for y := y0; y < y1; y++ {
			row, grey := ink.row(y), w.grey[y*w.w:(y+1)*w.w]
			below(pale, grey, soft)
			for i, word := range pale {
				if word == 0 {
					continue
				}
				below(row[i:i+1], grey[i*64:min(w.w, (i+1)*64)], w.edge)
				if y < r || y >= w.h-r {
					continue
				}
				for word &^= row[i]; word != 0; word &= word - 1 {
					bit := bits.TrailingZeros64(word)
					x := i*64 + bit
					if x < r || x >= w.w-r {
						continue
					}
					at := y*w.w + x
					v := int(w.grey[at])
					for _, o := range offsets {
						if int(w.grey[at-o])-v >= step && int(w.grey[at+o])-v >= step {
							row[i] |= 1 << bit
							break
						}
					}
				}
			}
		}
	})
	return ink
}

// below marks the pixels of a row that are darker than limit, eight at a time.
func below(marks []uint64, row []uint8, limit uint8) {
	const (
		ones   = 0x0101010101010101
		high   = ones << 7
		gather = 0x0102040810204080 // brings the lowest bits of eight bytes together in the highest
	)
	clear(marks)
	limits := uint64(limit) * ones
	i := 0
	for ; i+8 <= len(row); i += 8 {
		v := binary.LittleEndian.Uint64(row[i:])
		less := (^v&limits | ^(v^limits)&^(v|high-limits&^high)) & high
		marks[i/64] |= less >> 7 * gather >> 56 << (i % 64)
	}
	for ; i < len(row); i++ {
		if row[i] < limit {
			marks[i/64] |= 1 << (i % 64)
		}
	}
}

// measureLine sets the typical line thickness: twice the ink's area over its
// perimeter, which for long thin shapes is their width.
func (w *working) measureLine() error {
	area, cracks := 0, 0
	above := w.ink.row(0)
	for y := range w.h {
		row := w.ink.row(y)
		before := row[0] & 1 // the edge of the picture is none of the line's
		for i, word := range row {
			area += bits.OnesCount64(word)
			cracks += bits.OnesCount64(word^above[i]) + bits.OnesCount64(word^(word<<1|before))
			before = word >> 63
		}
		if w.ink.at(w.w-1, y) {
			cracks--
		}
		above = row
	}
	if cracks == 0 {
		return ErrBlank
	}
	// A crack count overstates a smooth contour's length by 4/π.
	w.line = 2 * float64(area) / (float64(cracks) * math.Pi / 4) * w.mm
	return nil
}
