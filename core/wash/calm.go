package wash

// Within a wash, away from its edges and once it is dry, the tint of the paper goes by loads
// that change slowly and by two things that change from pixel to pixel, how high the paper
// is and how much pigment clumps. There fine pictures find it at some places only, for three
// heights, and look it up between them.
const (
	calmMM      = 0.5  // from one of those places to the next
	calmFrom    = 0.8  // mm from an edge
	calmHeight  = 2    // the heights: so far below, amid and above
	clumpHeight = 0.79 // a clump holds what a hollow so deep does: grainClumps over graining, about alike for all that grain
)

// A calm finds tints of a row of pixels between the places of two rows of them.
type calm struct {
	step     int // pixels from one place to the next; 0 where each is found for itself
	x0, y    int // of the first place of the upper row, pixels
	row, low []heights
	line     []heights // those between them, on the row of pixels
	at, left int       // along it: the next place, and how many pixels are left to it
	here     heights
	slope    [3][3]float32 // from a pixel to the next
}

// heights is the tint of a place by its height t, in calmHeights: c[0] + t·c[1] + t²·c[2].
type heights struct {
	even  bool
	label uint16
	c     [3][3]float32
}

// newCalm finds each pixel for itself in coarse pictures, under water, and where it is measured.
func newCalm(d *drawer) (c calm) {
	step := int(calmMM/d.mm + 0.5)
	if step < 3 || d.v.Soaked || d.m.p.Fine {
		return c
	}
	c.step, c.x0, c.y = step, d.x0/step*step, -2*step
	n := (d.x1-c.x0)/step + 2
	c.row, c.low, c.line = make([]heights, n), make([]heights, n), make([]heights, n)
	return c
}

// rowOf makes ready for a row of pixels.
func (c *calm) rowOf(d *drawer, y int) {
	if c.step == 0 {
		return
	}
	if top := y / c.step * c.step; top != c.y {
		c.row, c.low = c.low, c.row
		if top != c.y+c.step {
			d.fill(c.row, c.x0, top, c.step)
		}
		d.fill(c.low, c.x0, top+c.step, c.step)
		c.y = top
	}
	v := float32(y-c.y) / float32(c.step)
	for k := range c.line {
		c.line[k].between(&c.row[k], &c.low[k], v)
	}
	c.at, c.left = 0, 0
	for x := c.x0; x < d.x0; x++ {
		c.next()
	}
}

// joins reports whether tints between two places can be looked up.
func (h *heights) joins(o *heights) bool { return h.even && o.even && h.label == o.label }

// between is what lies so far from one place to another, 0 to 1.
func (h *heights) between(a, b *heights, v float32) {
	h.even, h.label = a.joins(b), a.label
	if !h.even {
		return
	}
	for n := range h.c {
		for k := range h.c[n] {
			h.c[n][k] = a.c[n][k] + v*(b.c[n][k]-a.c[n][k])
		}
	}
}

// next goes on to the next pixel of the row.
func (c *calm) next() {
	if c.left--; c.left > 0 {
		for n := range c.here.c {
			for k := range c.here.c[n] {
				c.here.c[n][k] += c.slope[n][k]
			}
		}
		return
	}
	a, b := &c.line[c.at], &c.line[c.at+1]
	c.at, c.left = c.at+1, c.step
	c.here = *a
	if c.here.even = a.joins(b); !c.here.even {
		return
	}
	for n := range c.slope {
		for k := range c.slope[n] {
			c.slope[n][k] = (b.c[n][k] - a.c[n][k]) / float32(c.step)
		}
	}
}

// tint is the tint of the next pixel of the row; even tells whether it can be found so.
func (c *calm) tint(paper texture) (t tint, even bool) {
	if c.step == 0 {
		return t, false
	}
	c.next()
	if !c.here.even {
		return t, false
	}
	z := (paper.height - clumpHeight*paper.clump) / calmHeight
	for k := range t.c {
		t.c[k] = c.here.c[0][k] + z*(c.here.c[1][k]+z*c.here.c[2][k])
	}
	t.edge = calmFrom
	return t, true
}

// fill finds the heights of a row of places.
func (d *drawer) fill(to []heights, x, y, step int) {
	var t [3]tint
	for k := range to {
		at := d.middle(x+k*step, y)
		d.find(&at)
		h := heights{even: d.even(&at), label: at.label}
		if h.even {
			d.tints(t[:], &at, []texture{{}, {height: -calmHeight}, {height: calmHeight}})
			for n := range h.c[0] {
				mid, low, top := t[0].c[n], t[1].c[n], t[2].c[n]
				h.c[0][n], h.c[1][n], h.c[2][n] = mid, (top-low)/2, (top+low)/2-mid
			}
		}
		to[k] = h
	}
}

// even reports whether loads change slowly round a place, and nothing glints or shines.
func (d *drawer) even(at *place) bool {
	if at.wet > 0 {
		return false
	}
	for _, m := range d.marks[at.label] {
		if m.away(d.m.p.Plate, at) > -calmMM {
			return false
		}
	}
	if at.b == nil {
		return d.m.at(at.label) == nil
	}
	f := at.b.fine
	for k := range at.b.maxLayer + 1 {
		l := f.layers[k]
		dist := float32(l.dist[amid(at.x, at.y, f.box).i]) * 0.001
		if dist < calmFrom && dist > -PlateMM || l.grain != nil {
			return false
		}
		for _, m := range l.paints {
			if at.b.p.Paints[at.b.paints[m]].Glint > 0 {
				return false
			}
		}
	}
	return true
}
