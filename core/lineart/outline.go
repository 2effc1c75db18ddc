package lineart

import (
	"math"
	"math/bits"
	"slices"
)

// simplifyMM is how far a simplified outline may stray (Douglas and Peucker
// 1973).
const simplifyMM = 0.08

// An Outline is the border of one cell: closed rings in millimetres, the cell
// on the right of each. Rings[0] is the outermost; fill with the even-odd rule.
type Outline struct {
	Rings [][]Point
}

// Length returns the total length of the rings, mm.
func (o Outline) Length() (mm float64) {
	for _, r := range o.Rings {
		for i, p := range r {
			q := r[(i+1)%len(r)]
			mm += math.Hypot(q.X-p.X, q.Y-p.Y)
		}
	}
	return mm
}

// Contains reports whether a place lies within the outline and in none of its holes; a place
// on a ring may count either way.
func (o Outline) Contains(p Point) bool {
	in := false
	for _, ring := range o.Rings {
		for i, a := range ring {
			b := ring[(i+1)%len(ring)]
			if (a.Y > p.Y) != (b.Y > p.Y) && p.X < a.X+(p.Y-a.Y)*(b.X-a.X)/(b.Y-a.Y) {
				in = !in
			}
		}
	}
	return in
}

// Outlines returns the outline of every cell's white area, Outlines()[i] for
// Cells[i].
func (d *Drawing) Outlines() []Outline { return d.work.outlines(d.work.label, len(d.Cells)) }

// Shapes returns outlines of the cells grown under the line to meet halfway,
// so that neighbours share their border exactly and paint leaves no gap beside
// the line. Ink thicker than 1.5 mm is left uncovered.
func (d *Drawing) Shapes() []Outline { return d.work.outlines(d.work.grown(), len(d.Cells)) }

// grown returns the label map in which line pixels belong to the nearest cell
// within half of acrossMM.
func (w *working) grown() []uint16 {
	out := slices.Clone(w.label)
	cells := w.ink.not()
	parallelRows(w.h, func(y0, y1 int) {
		scan := w.scanLine(cells, acrossMM/2, y0)
		for y := y0; y < y1; y++ {
			scan.next(y)
			for i, word := range scan.row.near {
				for ; word != 0; word &= word - 1 {
					x := i*64 + bits.TrailingZeros64(word)
					out[y*w.w+x] = scan.row.site[x].cell
				}
			}
		}
	})
	return out
}

// vertex is a corner between pixels.
type vertex struct{ x, y int32 }

func (a vertex) dist2(x, y int) int {
	dx, dy := int(a.x)-x, int(a.y)-y
	return dx*dx + dy*dy
}

func (a vertex) less(b vertex) bool { return a.y < b.y || a.y == b.y && a.x < b.x }

// tracer follows the cracks between pixels of different labels.
type tracer struct {
	w, h  int
	label []uint16
	mm    float64
}

// at returns the label of a pixel, -1 outside the image.
func (t *tracer) at(x, y int32) int {
	if x < 0 || y < 0 || int(x) >= t.w || int(y) >= t.h {
		return -1
	}
	return int(t.label[int(y)*t.w+int(x)])
}

// outlines traces the labels 1 to n.
func (w *working) outlines(label []uint16, n int) []Outline {
	t := &tracer{w.w, w.h, label, w.mm}
	out := make([]Outline, n)
	done := make([]bool, len(label)) // top edges already walked
	for i, l := range label {
		if l == 0 || done[i] || i >= w.w && label[i-w.w] == l {
			continue
		}
		ring := t.simplify(t.walk(int32(i%w.w), int32(i/w.w), done))
		if len(ring) >= 3 {
			out[l-1].Rings = append(out[l-1].Rings, ring)
		}
	}
	for _, o := range out {
		slices.SortStableFunc(o.Rings, func(a, b []Point) int {
			if Area(a) > Area(b) {
				return -1
			}
			return 1
		})
	}
	return out
}

// Area returns the signed area of a ring, mm², positive for an outer one.
func Area(r []Point) (sum float64) {
	for i, p := range r {
		q := r[(i+1)%len(r)]
		sum += p.X*q.Y - q.X*p.Y
	}
	return sum / 2
}

// walk follows the border that runs along the top edge of pixel (x, y), with
// the cell on its right, and returns its corners and junctions.
func (t *tracer) walk(x, y int32, done []bool) []vertex {
	l := t.at(x, y)
	start, v := vertex{x, y}, vertex{x, y}
	dx, dy := int32(1), int32(0)
	var ring []vertex
	for {
		if dx == 1 {
			done[int(v.y)*t.w+int(v.x)] = true
		}
		v = vertex{v.x + dx, v.y + dy}
		// The pixels ahead to the right and to the left of the step.
		rx, ry := v.x+(dx-dy-1)/2, v.y+(dy+dx-1)/2
		lx, ly := v.x+(dx+dy-1)/2, v.y+(dy-dx-1)/2
		px, py := dx, dy
		switch {
		case t.at(rx, ry) != l:
			dx, dy = -dy, dx
		case t.at(lx, ly) == l:
			dx, dy = dy, -dx
		}
		if px != dx || py != dy || t.junction(v) {
			ring = append(ring, v)
		}
		if v == start && dx == 1 && dy == 0 {
			return ring
		}
	}
}

// junction reports whether three or more labels meet at v, or two meet
// crosswise; simplification keeps such points in place.
func (t *tracer) junction(v vertex) bool {
	a, b, c, d := t.at(v.x-1, v.y-1), t.at(v.x, v.y-1), t.at(v.x, v.y), t.at(v.x-1, v.y)
	if a == c && b == d {
		return a != b
	}
	kinds := 1
	if b != a {
		kinds++
	}
	if c != a && c != b {
		kinds++
	}
	if d != a && d != b && d != c {
		kinds++
	}
	return kinds >= 3
}

// simplify cuts a ring at its junctions and simplifies each piece the same way
// whichever of its two cells it is walked for.
func (t *tracer) simplify(ring []vertex) []Point {
	cuts := t.cuts(ring)
	var out []Point
	for i, c := range cuts {
		end := cuts[(i+1)%len(cuts)]
		piece := []vertex{ring[c]}
		for k := c; ; {
			k = (k + 1) % len(ring)
			piece = append(piece, ring[k])
			if k == end {
				break
			}
		}
		for _, v := range t.thin(piece) {
			out = append(out, Point{float64(v.x) * t.mm, float64(v.y) * t.mm})
		}
	}
	return out
}

// cuts returns the indices a ring is cut at: its junctions, or for a ring
// without enough of them its first vertex in reading order and the vertex
// farthest from it.
func (t *tracer) cuts(ring []vertex) []int {
	var cuts []int
	for i, v := range ring {
		if t.junction(v) {
			cuts = append(cuts, i)
		}
	}
	if len(cuts) >= 2 {
		return cuts
	}
	first := 0
	if len(cuts) == 1 {
		first = cuts[0]
	} else {
		for i, v := range ring {
			if v.less(ring[first]) {
				first = i
			}
		}
	}
	farthest, best := first, int64(-1)
	for i, v := range ring {
		dx, dy := int64(v.x-ring[first].x), int64(v.y-ring[first].y)
		if d := dx*dx + dy*dy; d > best || d == best && v.less(ring[farthest]) {
			farthest, best = i, d
		}
	}
	if farthest == first {
		return []int{first}
	}
	return []int{min(first, farthest), max(first, farthest)}
}

// thin is Douglas and Peucker's simplification of an open path; it returns all
// kept vertices but the last.
func (t *tracer) thin(path []vertex) []vertex {
	turned := path[len(path)-1].less(path[0])
	if turned {
		slices.Reverse(path)
	}
	keep := make([]bool, len(path))
	keep[0], keep[len(path)-1] = true, true
	eps := simplifyMM / t.mm
	type span struct{ a, b int }
	for stack := []span{{0, len(path) - 1}}; len(stack) > 0; {
		s := stack[len(stack)-1]
		stack = stack[:len(stack)-1]
		far, at := eps, -1
		for i := s.a + 1; i < s.b; i++ {
			if d := offLine(path[i], path[s.a], path[s.b]); d > far {
				far, at = d, i
			}
		}
		if at > 0 {
			keep[at] = true
			stack = append(stack, span{s.a, at}, span{at, s.b})
		}
	}
	var out []vertex
	for i, v := range path {
		if keep[i] {
			out = append(out, v)
		}
	}
	if turned {
		slices.Reverse(out)
	}
	return out[:len(out)-1]
}

// offLine is the distance of p from the segment a–b, pixels.
func offLine(p, a, b vertex) float64 {
	px, py := float64(p.x-a.x), float64(p.y-a.y)
	bx, by := float64(b.x-a.x), float64(b.y-a.y)
	n := bx*bx + by*by
	if n == 0 {
		return math.Hypot(px, py)
	}
	t := min(1, max(0, (px*bx+py*by)/n))
	return math.Hypot(px-t*bx, py-t*by)
}
