package lineart

import "chromaqua/core/parallel"

// far stands for "no site anywhere"; its square still fits an int32.
const far = 1 << 14

// distanceTo returns for every pixel the squared distance, in pixels, to the
// nearest pixel of site, exact to the pixel. Meijster, Roerdink and Hesselink,
// "A general algorithm for computing distance transforms in linear time", 2000.
func distanceTo(w, h int, site []bool) (dist2 []int32) {
	vertical := columnDistances(w, h, site)
	dist2 = make([]int32, w*h)
	parallelRows(h, func(y0, y1 int) {
		e := newEnvelope(w)
		for y := y0; y < y1; y++ {
			e.build(vertical[y*w : (y+1)*w])
			e.write(dist2[y*w : (y+1)*w])
		}
	})
	return dist2
}

// nearestTo returns for every pixel the index of the nearest pixel of site, -1
// where there is none, and writes the squared distances to dist2. A site is
// nearest to itself, and those beside a run of other pixels hide all that lies
// farther along the row; so each run is looked at for itself.
func nearestTo(w, h int, site []bool, dist2 []int32) (nearest []int32) {
	vertical := columnDistances(w, h, site)
	nearest = make([]int32, w*h)
	parallelRows(h, func(y0, y1 int) {
		e := newEnvelope(w)
		for y := y0; y < y1; y++ {
			on, to := site[y*w:(y+1)*w], nearest[y*w:(y+1)*w]
			for x := 0; x < w; x++ {
				if on[x] {
					to[x] = int32(y*w + x)
					continue
				}
				from := max(0, x-1)
				for x < w && !on[x] {
					x++
				}
				end := min(w, x+1)
				e.build(vertical[y*w+from : y*w+end])
				e.sites(to[from:end], vertical[y*w+from:y*w+end], y*w+from, w)
				e.write(dist2[y*w+from : y*w+end])
			}
		}
	})
	return nearest
}

// columnDistances returns the signed vertical offset to the nearest site in
// the same column, ±far where there is none.
func columnDistances(w, h int, site []bool) []int16 {
	const tile = 128 // columns that stay in the cache from the way down to the way up
	g := make([]int16, w*h)
	parallel.Each((w+tile-1)/tile, func(t int) {
		x0, x1 := t*tile, min(w, (t+1)*tile)
		for x := x0; x < x1; x++ {
			if !site[x] {
				g[x] = -far
			}
		}
		for y := 1; y < h; y++ {
			up, row, s := g[(y-1)*w+x0:(y-1)*w+x1], g[y*w+x0:y*w+x1], site[y*w+x0:y*w+x1]
			for x, on := range s {
				if !on {
					row[x] = max(-far, up[x]-1)
				}
			}
		}
		for y := h - 2; y >= 0; y-- {
			row, down := g[y*w+x0:y*w+x1], g[(y+1)*w+x0:(y+1)*w+x1]
			for x, d := range down {
				// down holds the final offset: its site may lie below (≥ 0).
				if d >= 0 && d < far && d+1 < -row[x] {
					row[x] = d + 1
				}
			}
		}
	})
	return g
}

// envelope is the lower envelope of one row's parabolas: segment q belongs to
// column at[q] and begins at x = from[q].
type envelope struct {
	at, from, g []int32
	q           int
	half        []float64 // 1/2d for columns d apart: dividing takes three times as long
}

// newEnvelope is an envelope for rows of up to w pixels.
func newEnvelope(w int) *envelope {
	e := &envelope{at: make([]int32, w), from: make([]int32, w), g: make([]int32, w), half: make([]float64, w+1)}
	for d := range e.half {
		e.half[d] = 0.5 / float64(d)
	}
	return e
}

func (e *envelope) build(vertical []int16) {
	g, at, from := e.g, e.at, e.from
	for x, v := range vertical {
		g[x] = int32(v) * int32(v)
	}
	q := 0
	at[0], from[0] = 0, 0
	n := int32(len(vertical))
	for u := int32(1); u < n; u++ {
		gu := g[u]
		for q >= 0 {
			t, s := from[q], at[q]
			if (t-s)*(t-s)+g[s] <= (t-u)*(t-u)+gu {
				break
			}
			q--
		}
		if q < 0 {
			q = 0
			at[0], from[0] = u, 0
			continue
		}
		s := at[q]
		// First x where u's parabola is lower, rounded down as Meijster's Sep. It
		// lies beyond from[q], so it is no less than nought; quotients within the row
		// are whole or off a whole number by far more than exact.
		const exact = 1e-8
		if x := float64(u*u-s*s+gu-g[s])*e.half[u-s] + exact; x < float64(n-1) {
			q++
			at[q], from[q] = u, 1+int32(x)
		}
	}
	e.q = q
}

func (e *envelope) write(dist2 []int32) {
	end := int32(len(dist2))
	for q := e.q; q >= 0; q-- {
		s := e.at[q]
		g := e.g[s]
		for x := e.from[q]; x < end; x++ {
			dist2[x] = (x-s)*(x-s) + g
		}
		end = e.from[q]
	}
}

// sites writes the nearest sites of part of a row that begins at pixel first of
// an image w wide.
func (e *envelope) sites(nearest []int32, vertical []int16, first, w int) {
	end := int32(len(nearest))
	for q := e.q; q >= 0; q-- {
		s := e.at[q]
		site := int32(-1)
		if v := vertical[s]; v > -far && v < far {
			site = int32(first+int(v)*w) + s
		}
		for x := e.from[q]; x < end; x++ {
			nearest[x] = site
		}
		end = e.from[q]
	}
}
