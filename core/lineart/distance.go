package lineart

// far stands for "no site anywhere"; its square still fits an int32.
const far = 1 << 14

func (w *working) distances() error {
	w.dist2, _ = distanceTo(w.w, w.h, w.ink, false)
	return nil
}

// distanceTo returns for every pixel the squared distance, in pixels, to the
// nearest pixel of site, exact to the pixel, and the index of that pixel when
// wantSite is set (-1 when there is none). Meijster, Roerdink and Hesselink,
// "A general algorithm for computing distance transforms in linear time",
// 2000.
func distanceTo(w, h int, site []bool, wantSite bool) (dist2, nearest []int32) {
	vertical := columnDistances(w, h, site)
	dist2 = make([]int32, w*h)
	if wantSite {
		nearest = make([]int32, w*h)
	}
	parallelRows(h, func(y0, y1 int) {
		e := envelope{at: make([]int32, w), from: make([]int32, w), g: make([]int32, w)}
		for y := y0; y < y1; y++ {
			e.build(vertical[y*w : (y+1)*w])
			e.write(dist2[y*w : (y+1)*w])
			if wantSite {
				e.sites(nearest[y*w:(y+1)*w], vertical[y*w:(y+1)*w], y)
			}
		}
	})
	return dist2, nearest
}

// columnDistances returns the signed vertical offset to the nearest site in
// the same column, ±far where there is none.
func columnDistances(w, h int, site []bool) []int16 {
	g := make([]int16, w*h)
	for x := range w {
		if !site[x] {
			g[x] = -far
		}
	}
	for y := 1; y < h; y++ {
		up, row, s := g[(y-1)*w:y*w], g[y*w:(y+1)*w], site[y*w:(y+1)*w]
		for x, on := range s {
			if !on {
				row[x] = max(-far, up[x]-1)
			}
		}
	}
	for y := h - 2; y >= 0; y-- {
		row, down := g[y*w:(y+1)*w], g[(y+1)*w:(y+2)*w]
		for x, d := range down {
			// down holds the final offset: its site may lie below (≥ 0).
			if d >= 0 && d < far && d+1 < -row[x] {
				row[x] = d + 1
			}
		}
	}
	return g
}

// envelope is the lower envelope of one row's parabolas: segment q belongs to
// column at[q] and begins at x = from[q].
type envelope struct {
	at, from, g []int32
	q           int
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
		// First x where u's parabola is lower, rounded as Meijster's Sep.
		if x := 1 + floorDiv(u*u-s*s+gu-g[s], 2*(u-s)); x < n {
			q++
			at[q], from[q] = u, x
		}
	}
	e.q = q
}

func floorDiv(a, b int32) int32 {
	if a < 0 {
		return -((-a + b - 1) / b)
	}
	return a / b
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

func (e *envelope) sites(nearest []int32, vertical []int16, y int) {
	w := len(nearest)
	end := int32(w)
	for q := e.q; q >= 0; q-- {
		s := e.at[q]
		site := int32(-1)
		if v := vertical[s]; v > -far && v < far {
			site = int32((y+int(v))*w) + s
		}
		for x := e.from[q]; x < end; x++ {
			nearest[x] = site
		}
		end = e.from[q]
	}
}
