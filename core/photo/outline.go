package photo

import (
	"cmp"
	"math"
	"slices"
)

// outline is the panel against its table, and how well it is told.
type outline struct {
	quad  [4]point // its corners, clockwise from the one at the upper left
	fills float64  // of its corners, what it covers: less where something lies over its edge
	solid float64  // of what it covers, what was told from the table
	next  float64  // the next largest thing on the table, of it
	off   float64  // pixels by which a corner may be off: the width of a place
}

// readings are the ways to find a panel in a photo, the plainest first.
var readings = []func(*places) (outline, error){(*places).outlined, (*places).overPattern, (*places).lightest, (*places).straight}

// outlined finds the panel. The table is what lies along the edges of the photo, however it is
// lit.
func (c *places) outlined() (outline, error) { return c.standing(c.off) }

// overPattern finds the panel on a table that has a pattern of threads: the grid of a cutting
// mat, the joints of planks.
func (c *places) overPattern() (outline, error) {
	ink := c.inkWide()
	off := opened(c.off, c.w, c.h, ink*3/2) // first of all, lest a thread is tied to the panel
	return c.standing(opened(closed(off, c.w, c.h, 2*ink), c.w, c.h, 3*ink))
}

// leastPanel is how much of a photo the panel takes at least.
const leastPanel = 0.06

// levels is how many lights are tried of which all of the panel may be lighter.
const levels = 40

// lightest finds the panel as the lightest thing that has four corners, whatever lies about
// it.
func (c *places) lightest() (best outline, err error) {
	light := make([]float64, len(c.logs))
	for i, l := range c.logs {
		light[i] = min(l[0], l[1], l[2])
	}
	light = opened(closed(light, c.w, c.h, c.inkWide()), c.w, c.h, c.inkWide())
	dark, bright := slices.Min(light), slices.Max(light)
	err, whole := ErrOther, 0.0
	for i := range levels {
		piece, next := c.largest(light, dark+(bright-dark)*float64(i)/levels)
		if slices.ContainsFunc(piece, c.atRim) {
			continue
		}
		o, wrong := c.outlineOf(piece, next)
		if wrong == nil && o.fills*o.solid > whole {
			best, whole, err = o, o.fills*o.solid, nil
		}
	}
	return best, err
}

// places is a photo in places, each of so many pixels either way.
type places struct {
	w, h, by int
	logs     [][3]float64 // of the light
	off      []float64    // how far from the table's colour
}

func (w *work) places() *places {
	k := max(1, max(w.w, w.h)/coarseSide)
	cw, ch := w.w/k, w.h/k
	logs := make([][3]float64, cw*ch)
	for y := range ch {
		for x := range cw {
			var sum [3]float64
			for dy := range k {
				for dx := range k {
					c := w.pix[(y*k+dy)*w.w+x*k+dx]
					for i := range sum {
						sum[i] += float64(c[i])
					}
				}
			}
			for i := range sum {
				logs[y*cw+x][i] = math.Log(sum[i]/float64(k*k) + 1e-3)
			}
		}
	}
	return &places{cw, ch, k, logs, fromTable(logs, cw, ch)}
}

// inkWide is half of the widest line of ink, in places, where the panel fills half of the
// photo.
func (c *places) inkWide() int { return max(1, min(c.w, c.h)/150) }

// atRim reports whether a place lies along the edges of the photo.
func (c *places) atRim(i int) bool {
	x, y := i%c.w, i/c.w
	return x < 2 || y < 2 || x >= c.w-2 || y >= c.h-2
}

// standing is the outline of what stands out from its table.
func (c *places) standing(off []float64) (outline, error) {
	return c.outlineOf(c.largest(off, split(off)))
}

// outlineOf is the outline of a piece, beside the next largest.
func (c *places) outlineOf(piece []int, next int) (out outline, err error) {
	hull := hullOf(piece, c.w)
	if len(hull) < 4 || polygonArea(hull) < leastPanel*float64(c.w*c.h) {
		return out, ErrOther
	}
	quad := fourOf(hull)
	if len(quad) != 4 {
		return out, ErrOther
	}
	out.quad = c.pixels(quad)
	out.fills, out.solid = polygonArea(hull)/polygonArea(quad), float64(len(piece))/polygonArea(hull)
	out.next, out.off = float64(next)/float64(len(piece)), float64(c.by)
	return out, nil
}

// pixels are four corners among places in pixels of the photo, clockwise.
func (c *places) pixels(quad []point) (out [4]point) {
	for i := range out {
		out[i] = point{X: quad[i].X * float64(c.by), Y: quad[i].Y * float64(c.by)}
	}
	return clockwise(out)
}

// fromTable is how far each place is from the table's colour, whose light is fitted along the
// edges of the photo.
func fromTable(logs [][3]float64, w, h int) []float64 {
	rim := max(2, min(w, h)/25)
	var at []int
	for y := range h {
		for x := range w {
			if x < rim || y < rim || x >= w-rim || y >= h-rim {
				at = append(at, y*w+x)
			}
		}
	}
	off := make([]float64, len(logs))
	for c := range 3 {
		// Of the edges too the panel may cover some: they count less the farther off they are.
		weights := slices.Repeat([]float64{1}, len(at))
		var lit light
		for range 6 {
			lit = quadratic(at, weights, w, h, func(k int) float64 { return logs[at[k]][c] })
			for k, i := range at {
				d := logs[i][c] - lit.at(i, w, h)
				weights[k] = 1 / (1 + d*d/0.01)
			}
		}
		for i := range logs {
			d := logs[i][c] - lit.at(i, w, h)
			off[i] += d * d
		}
	}
	for i := range off {
		off[i] = math.Sqrt(off[i])
	}
	return off
}

// split parts values in two as their histogram does best (Otsu 1979), but not among what the
// table itself varies by.
func split(v []float64) float64 {
	const bins, top = 200, 3.0
	var hist [bins]float64
	for _, x := range v {
		hist[min(bins-1, int(x/top*bins))]++
	}
	total, sum := float64(len(v)), 0.0
	for i, n := range hist {
		sum += float64(i) * n
	}
	best, at := 0.0, 0
	var n0, s0 float64
	for i, n := range hist {
		n0, s0 = n0+n, s0+float64(i)*n
		if n0 == 0 || n0 == total {
			continue
		}
		d := s0/n0 - (sum-s0)/(total-n0)
		if b := n0 * (total - n0) * d * d; b > best {
			best, at = b, i
		}
	}
	return max(0.12, 0.7*(float64(at)+1)*top/bins)
}

// largest is the largest piece of what is more than a limit, its thin threads cut, and how
// many places the next largest has.
func (c *places) largest(v []float64, limit float64) (out []int, next int) {
	w, h := c.w, c.h
	on := make([]bool, len(v))
	for i, x := range v {
		on[i] = x > limit
	}
	kept := make([]bool, len(on))
	for y := 1; y < h-1; y++ {
		for x := 1; x < w-1; x++ {
			n := 0
			for dy := -1; dy <= 1; dy++ {
				for dx := -1; dx <= 1; dx++ {
					if on[(y+dy)*w+x+dx] {
						n++
					}
				}
			}
			kept[y*w+x] = n >= 6
		}
	}
	seen := make([]bool, len(on))
	for start, is := range kept {
		if !is || seen[start] {
			continue
		}
		piece := []int{start}
		seen[start] = true
		for k := 0; k < len(piece); k++ {
			i := piece[k]
			for _, j := range [4]int{i - 1, i + 1, i - w, i + w} {
				if j >= 0 && j < len(kept) && kept[j] && !seen[j] {
					seen[j] = true
					piece = append(piece, j)
				}
			}
		}
		if len(piece) > len(out) {
			out, next = piece, len(out)
		} else {
			next = max(next, len(piece))
		}
	}
	return out, next
}

// hullOf is the convex hull of pixels.
func hullOf(pixels []int, w int) (chain []point) {
	var all []point
	for _, i := range pixels {
		all = append(all, point{X: float64(i%w) + 0.5, Y: float64(i/w) + 0.5})
	}
	slices.SortFunc(all, func(a, b point) int { return cmp.Or(cmp.Compare(a.X, b.X), cmp.Compare(a.Y, b.Y)) })
	cross := func(a, b, c point) float64 { return (b.X-a.X)*(c.Y-a.Y) - (b.Y-a.Y)*(c.X-a.X) }
	half := func(points []point) (out []point) {
		for _, p := range points {
			for len(out) > 1 && cross(out[len(out)-2], out[len(out)-1], p) <= 0 {
				out = out[:len(out)-1]
			}
			out = append(out, p)
		}
		return out
	}
	lower := half(all)
	slices.Reverse(all)
	upper := half(all)
	if len(lower) < 2 || len(upper) < 2 {
		return nil
	}
	return append(lower[:len(lower)-1], upper[:len(upper)-1]...)
}

// fourOf drops sides of a convex polygon until four are left, each time the one whose
// neighbours meet with the least paper added.
func fourOf(hull []point) []point {
	poly := slices.Clone(hull)
	for len(poly) > 4 {
		best, at, meet := math.Inf(1), -1, point{}
		n := len(poly)
		for i := range poly {
			a, b, c, d := poly[(i+n-1)%n], poly[i], poly[(i+1)%n], poly[(i+2)%n]
			q, ok := meeting(a, b, d, c)
			if !ok {
				continue
			}
			if add := math.Abs((b.X-q.X)*(c.Y-q.Y)-(b.Y-q.Y)*(c.X-q.X)) / 2; add < best {
				best, at, meet = add, i, q
			}
		}
		if at < 0 {
			return nil
		}
		next := slices.Clone(poly)
		next[at] = meet
		poly = slices.Delete(next, (at+1)%n, (at+1)%n+1)
	}
	return poly
}

// meeting is where the line from a through b meets that from c through d, beyond both.
func meeting(a, b, c, d point) (q point, ok bool) {
	t, s, ok := crossing(a, b, c, d)
	return between(a, b, t), ok && t >= 1 && s >= 1
}

// crossing is how far along a line through a and b it crosses that through c and d, and how
// far along that: 0 at its first point, 1 at its second. ok is false where they are parallel.
func crossing(a, b, c, d point) (t, s float64, ok bool) {
	ux, uy, vx, vy := b.X-a.X, b.Y-a.Y, d.X-c.X, d.Y-c.Y
	det := ux*vy - uy*vx
	if math.Abs(det) < 1e-9 {
		return 0, 0, false
	}
	return ((c.X-a.X)*vy - (c.Y-a.Y)*vx) / det, ((c.X-a.X)*uy - (c.Y-a.Y)*ux) / det, true
}

// between is the place so far along from a, 0, to b, 1.
func between(a, b point, t float64) point {
	return point{X: a.X + t*(b.X-a.X), Y: a.Y + t*(b.Y-a.Y)}
}

// moved is the place so far off one in a direction.
func moved(q, in point, d float64) point { return point{X: q.X + d*in.X, Y: q.Y + d*in.Y} }

func polygonArea(p []point) (sum float64) {
	for i, a := range p {
		b := p[(i+1)%len(p)]
		sum += a.X*b.Y - a.Y*b.X
	}
	return math.Abs(sum) / 2
}

// clockwise orders corners as they are seen, from the one nearest to the upper left.
func clockwise(q [4]point) [4]point {
	area := 0.0
	for i := range q {
		j := (i + 1) % 4
		area += q[i].X*q[j].Y - q[i].Y*q[j].X
	}
	if area < 0 { // with y downwards, clockwise is positive
		slices.Reverse(q[:])
	}
	first := 0
	for i := range q {
		if q[i].X+q[i].Y < q[first].X+q[first].Y {
			first = i
		}
	}
	var out [4]point
	for i := range q {
		out[i] = q[(first+i)%4]
	}
	return out
}
