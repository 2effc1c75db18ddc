// Package proof reads scans of what has been made: an impression held against
// the image it was made from, a scan of an image made anew, a strip on which an
// ink was tested with water. Lengths are millimetres.
package proof

import (
	"errors"
	"math"

	"chromaqua/core/lineart"
)

// Point is a place on a picture, mm from its top left corner.
type Point = lineart.Point

// A Similarity carries points of one picture to another: turned, scaled and
// moved, x' = A·x − B·y + X, y' = B·x + A·y + Y.
type Similarity struct{ A, B, X, Y float64 }

// Apply carries a point over.
func (s Similarity) Apply(p Point) Point {
	return Point{X: s.A*p.X - s.B*p.Y + s.X, Y: s.B*p.X + s.A*p.Y + s.Y}
}

// Scale is how much larger things become.
func (s Similarity) Scale() float64 { return math.Hypot(s.A, s.B) }

// Degrees is the turn, clockwise as pictures have their y axis down.
func (s Similarity) Degrees() float64 { return math.Atan2(s.B, s.A) * 180 / math.Pi }

// Inverse carries points back.
func (s Similarity) Inverse() Similarity {
	d := s.A*s.A + s.B*s.B
	a, b := s.A/d, -s.B/d
	return Similarity{a, b, -(a*s.X - b*s.Y), -(b*s.X + a*s.Y)}
}

// A Match is how well two pictures of lines lie on each other.
type Match struct {
	Similarity         // from the scan to the reference
	Agrees     float64 // share of the scan's line that lies on the reference's
	Covers     float64 // share of the reference's line that the scan has
}

// Same reports whether the two are pictures of the same image.
func (m Match) Same() bool { return m.Agrees >= sameAgrees && m.Covers >= sameCovers }

// Limits of what passes for the same image. Unrelated line drawings of the same
// size laid on each other agree by a quarter to a half.
const (
	sameAgrees = 0.75
	sameCovers = 0.5
)

// ErrNoLine means that a picture holds too little line to be compared.
var ErrNoLine = errors.New("there is too little line in the picture to compare; scan it again, wholly and in focus")

// Measures of the alignment.
const (
	gridMM     = 0.17 // lines are compared on a grid so fine
	onMM       = 0.45 // and lie on each other when so near
	leastReach = 0.35 // places of the line farther apart are not taken for the same
	leastOn    = 60   // points of line there must be
	maxScale   = 1.12 // how far real widths may be off
)

// raster is a line image on a coarse grid.
type raster struct {
	w, h    int
	mm      float64
	on      []bool
	points  []Point // of what is on
	dist2   []int32
	nearest []int32
}

func rasterOf(ink *lineart.Ink) *raster {
	r := &raster{mm: gridMM}
	r.w, r.h = int(float64(ink.W)*ink.MM/r.mm)+1, int(float64(ink.H)*ink.MM/r.mm)+1
	r.on = make([]bool, r.w*r.h)
	k := ink.MM / r.mm
	for y := range ink.H {
		row := int((float64(y)+0.5)*k) * r.w
		for x, on := range ink.On[y*ink.W : (y+1)*ink.W] {
			if on {
				r.on[row+int((float64(x)+0.5)*k)] = true
			}
		}
	}
	for i, on := range r.on {
		if on {
			r.points = append(r.points, r.at(int32(i)))
		}
	}
	return r
}

func (r *raster) at(i int32) Point {
	return Point{X: (float64(int(i)%r.w) + 0.5) * r.mm, Y: (float64(int(i)/r.w) + 0.5) * r.mm}
}

// rim is the edges of what is on.
func (r *raster) rim() *raster {
	out := &raster{w: r.w, h: r.h, mm: r.mm, on: make([]bool, len(r.on))}
	for y := 1; y < r.h-1; y++ {
		for x := 1; x < r.w-1; x++ {
			i := y*r.w + x
			if r.on[i] && !(r.on[i-1] && r.on[i+1] && r.on[i-r.w] && r.on[i+r.w]) {
				out.on[i] = true
				out.points = append(out.points, r.at(int32(i)))
			}
		}
	}
	return out
}

// measure fills the distances to what is on.
func (r *raster) measure() { r.dist2, r.nearest = lineart.Nearest(r.w, r.h, r.on) }

// find returns the place on the line nearest to p and its distance; far is true
// when p lies off the grid by more than a little.
func (r *raster) find(p Point) (q Point, mm float64) {
	x := min(r.w-1, max(0, int(p.X/r.mm)))
	y := min(r.h-1, max(0, int(p.Y/r.mm)))
	q = r.at(r.nearest[y*r.w+x])
	return q, math.Hypot(p.X-q.X, p.Y-q.Y)
}

// Align finds how a scan lies on a reference when both show much the same line,
// one of them turned and moved, or with parts missing: coarsely by centres,
// spreads and main directions and by a fan of turns, then by matching nearest
// places of the line again and again. Real sizes may be off by a tenth.
func Align(ref, scan *lineart.Ink) (Match, error) {
	r, s := rasterOf(ref), rasterOf(scan)
	if len(r.points) < leastOn || len(s.points) < leastOn {
		return Match{}, ErrNoLine
	}
	r.measure()
	s.measure()
	// A place within the line pulls nowhere: at last edges are laid on edges.
	edges, rim := r.rim(), thinned(s.rim().points, 6000)
	edges.measure()
	few, many := thinned(s.points, 400), thinned(s.points, 6000)
	type try struct {
		t     Similarity
		worth float64
	}
	var best []try
	for _, t := range starts(r.points, s.points) {
		t = r.refine(t, few, 14, 5)
		w := r.worth(t, few)
		best = append(best, try{t, w})
	}
	m := Match{}
	for range 3 { // the best few are refined further
		k := 0
		for i := range best {
			if best[i].worth > best[k].worth {
				k = i
			}
		}
		t := r.refine(best[k].t, many, 25, 1)
		t = edges.refine(t, rim, 25, 0.4)
		best[k].worth = -1
		found := Match{Similarity: t, Agrees: r.share(t, many), Covers: s.share(t.Inverse(), thinned(r.points, 6000))}
		if found.Agrees+found.Covers > m.Agrees+m.Covers {
			m = found
		}
	}
	return m, nil
}

// starts lists the places to begin from.
func starts(ref, scan []Point) (out []Similarity) {
	a, b := momentsOf(ref), momentsOf(scan)
	turns := []float64{a.angle - b.angle, a.angle - b.angle + math.Pi}
	for _, quarter := range []float64{0, math.Pi / 2, math.Pi, -math.Pi / 2} {
		for _, d := range []float64{0, 3, -3, 6, -6, 10, -10} {
			turns = append(turns, quarter+d*math.Pi/180)
		}
	}
	for _, turn := range turns {
		sin, cos := math.Sincos(turn)
		// When a side is missing, the corners on the other still lie alike.
		pairs := [][2]Point{{a.centre, b.centre}, {a.box, b.box}}
		if math.Abs(turn) < 0.2 {
			pairs = append(pairs, [2]Point{a.lo, b.lo}, [2]Point{a.hi, b.hi},
				[2]Point{{X: a.lo.X, Y: a.hi.Y}, {X: b.lo.X, Y: b.hi.Y}}, [2]Point{{X: a.hi.X, Y: a.lo.Y}, {X: b.hi.X, Y: b.lo.Y}})
		}
		for _, on := range pairs {
			out = append(out, Similarity{cos, sin, on[0].X - cos*on[1].X + sin*on[1].Y, on[0].Y - sin*on[1].X - cos*on[1].Y})
		}
	}
	return out
}

type moments struct {
	centre      Point // of mass
	box, lo, hi Point // middle and corners of the bounding box
	angle       float64
}

func momentsOf(points []Point) (m moments) {
	lo, hi := points[0], points[0] // of the bounding box
	n := float64(len(points))
	for _, p := range points {
		m.centre.X, m.centre.Y = m.centre.X+p.X/n, m.centre.Y+p.Y/n
		lo.X, lo.Y, hi.X, hi.Y = min(lo.X, p.X), min(lo.Y, p.Y), max(hi.X, p.X), max(hi.Y, p.Y)
	}
	m.lo, m.hi = lo, hi
	m.box = Point{X: (lo.X + hi.X) / 2, Y: (lo.Y + hi.Y) / 2}
	var xx, xy, yy float64
	for _, p := range points {
		x, y := p.X-m.centre.X, p.Y-m.centre.Y
		xx, xy, yy = xx+x*x, xy+x*y, yy+y*y
	}
	m.angle = math.Atan2(2*xy, xx-yy) / 2
	return m
}

// thinned returns at most about n of the points, evenly.
func thinned(points []Point, n int) (out []Point) {
	step := max(1, len(points)/n)
	for i := step / 2; i < len(points); i += step {
		out = append(out, points[i])
	}
	return out
}

// refine moves a similarity so that points come to lie on the line, with ever
// less patience for those farther off it than reach.
func (r *raster) refine(t Similarity, points []Point, rounds int, reach float64) Similarity {
	for range rounds {
		var n, px, py, qx, qy float64
		pairs := make([][2]Point, 0, len(points))
		for _, p := range points {
			if q, mm := r.find(t.Apply(p)); mm < reach {
				pairs = append(pairs, [2]Point{p, q})
				n, px, py, qx, qy = n+1, px+p.X, py+p.Y, qx+q.X, qy+q.Y
			}
		}
		if n < 20 {
			return t
		}
		px, py, qx, qy = px/n, py/n, qx/n, qy/n
		var dot, cross, spread float64
		for _, pair := range pairs {
			ax, ay, bx, by := pair[0].X-px, pair[0].Y-py, pair[1].X-qx, pair[1].Y-qy
			dot, cross, spread = dot+ax*bx+ay*by, cross+ax*by-ay*bx, spread+ax*ax+ay*ay
		}
		if spread == 0 {
			return t
		}
		scale := math.Hypot(dot, cross) / spread
		turn := math.Atan2(cross, dot)
		scale = min(maxScale, max(1/maxScale, scale))
		sin, cos := math.Sincos(turn)
		a, b := scale*cos, scale*sin
		t = Similarity{a, b, qx - a*px + b*py, qy - b*px - a*py}
		reach = max(leastReach, reach*0.85)
	}
	return t
}

// worth is how near points come to the line, 0 to 1.
func (r *raster) worth(t Similarity, points []Point) (sum float64) {
	const far = 2.0
	for _, p := range points {
		_, mm := r.find(t.Apply(p))
		sum += 1 - min(far, mm)/far
	}
	return sum / float64(len(points))
}

// share is how many of the points lie on the line.
func (r *raster) share(t Similarity, points []Point) float64 {
	n := 0
	for _, p := range points {
		if _, mm := r.find(t.Apply(p)); mm <= onMM {
			n++
		}
	}
	return float64(n) / float64(len(points))
}
