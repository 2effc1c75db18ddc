package lineart

import "math"

// findInk decides for every pixel whether it is line.
func (w *working) findInk() error {
	w.smooth()
	threshold, contrast, err := w.threshold()
	if err != nil {
		return err
	}
	w.ink = make([]bool, len(w.grey))
	w.contrast = contrast
	w.markInk(threshold, contrast)
	const (
		speckMM2 = 0.04 // smaller blobs of ink are dirt
		holeMM2  = 0.30 // smaller holes in ink are missed spots
	)
	px := w.mm * w.mm
	removeSmall(w.ink, w.w, w.h, true, int(speckMM2/px))
	removeSmall(w.ink, w.w, w.h, false, int(holeMM2/px))
	return w.measureLine()
}

// smooth applies the binomial filter [1 2 1]² to the grey image.
func (w *working) smooth() {
	src, dst := w.grey, make([]uint8, len(w.grey))
	parallelRows(w.h, func(y0, y1 int) {
		col := make([]uint16, w.w+2) // vertical sums, one guard either side
		for y := y0; y < y1; y++ {
			up, mid, down := src[max(0, y-1)*w.w:], src[y*w.w:], src[min(w.h-1, y+1)*w.w:]
			up, mid, down = up[:w.w], mid[:w.w], down[:w.w]
			for x := range mid {
				col[x+1] = uint16(up[x]) + 2*uint16(mid[x]) + uint16(down[x])
			}
			col[0], col[w.w+1] = col[1], col[w.w]
			out := dst[y*w.w : (y+1)*w.w]
			for x := range out {
				out[x] = uint8((col[x] + 2*col[x+1] + col[x+2] + 8) / 16)
			}
		}
	})
	w.grey = dst
}

// threshold splits ink from paper: Otsu 1979 divides the histogram, and the
// threshold is the midpoint of the two medians. It also judges whether the
// picture is line art at all.
func (w *working) threshold() (threshold, contrast float64, err error) {
	hists := make([][256]int, bands(w.h))
	parallelBands(w.h, func(band, y0, y1 int) {
		for _, v := range w.grey[y0*w.w : y1*w.w] {
			hists[band][v]++
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

// markInk sets ink where the grey is below the threshold, and on hairlines:
// somewhat paler, when in one of four directions both pixels 0.3 mm away are
// clearly lighter.
func (w *working) markInk(threshold, contrast float64) {
	const (
		hairMM   = 0.3
		hairPale = 0.35 // how far above the threshold a hairline may be, of the contrast
		hairStep = 0.22 // how much lighter its two sides must be, of the contrast
	)
	r := max(1, int(math.Round(hairMM/w.mm)))
	thr, soft, step := int(threshold), int(threshold+hairPale*contrast), int(hairStep*contrast)
	offsets := [4]int{r, r * w.w, r*w.w + r, r*w.w - r}
	parallelRows(w.h, func(y0, y1 int) {
		for y := y0; y < y1; y++ {
			inside := y >= r && y < w.h-r
			for x := range w.w {
				i := y*w.w + x
				v := int(w.grey[i])
				if v < thr {
					w.ink[i] = true
					continue
				}
				if v >= soft || !inside || x < r || x >= w.w-r {
					continue
				}
				for _, o := range offsets {
					if int(w.grey[i-o])-v >= step && int(w.grey[i+o])-v >= step {
						w.ink[i] = true
						break
					}
				}
			}
		}
	})
}

// measureLine sets the typical line thickness: twice the ink's area over its
// perimeter, which for long thin shapes is their width.
func (w *working) measureLine() error {
	areas, edges := make([]int, bands(w.h)), make([]int, bands(w.h))
	parallelBands(w.h, func(band, y0, y1 int) {
		area, cracks := 0, 0
		for y := y0; y < y1; y++ {
			row := w.ink[y*w.w : (y+1)*w.w]
			above := row
			if y > 0 {
				above = w.ink[(y-1)*w.w : y*w.w]
			}
			left := row[0]
			for x, v := range row {
				if v {
					area++
				}
				if left != v {
					cracks++
				}
				if above[x] != v {
					cracks++
				}
				left = v
			}
		}
		areas[band], edges[band] = area, cracks
	})
	area, cracks := 0, 0
	for i := range areas {
		area, cracks = area+areas[i], cracks+edges[i]
	}
	if cracks == 0 {
		return ErrBlank
	}
	// A crack count overstates a smooth contour's length by 4/π.
	w.line = 2 * float64(area) / (float64(cracks) * math.Pi / 4) * w.mm
	return nil
}
