package proof

import (
	"errors"
	"math"

	"gonum.org/v1/gonum/mat"
)

// A Projection carries points of a flat thing to where they are seen from a place before it:
// x' = (h0·x + h1·y + h2) / (h6·x + h7·y + 1), y' likewise with h3 to h5.
type Projection [8]float64

// Apply carries a point over.
func (h Projection) Apply(p Point) Point {
	z := h[6]*p.X + h[7]*p.Y + 1
	return Point{X: (h[0]*p.X + h[1]*p.Y + h[2]) / z, Y: (h[3]*p.X + h[4]*p.Y + h[5]) / z}
}

// errNoProjection means that points lie so that no projection follows from them.
var errNoProjection = errors.New("proof: these points give no projection")

// Project finds the projection that carries points to others, four or more of them: exactly,
// or by least squares with weights, all alike when nil.
func Project(from, to []Point, weights []float64) (h Projection, err error) {
	if len(from) < 4 || len(from) != len(to) {
		return h, errNoProjection
	}
	// Points about the middle, of about one size, keep the equations well conditioned.
	a, b := levelled(from), levelled(to)
	eq, right := mat.NewDense(2*len(from), 8, nil), mat.NewVecDense(2*len(from), nil)
	for i := range from {
		p, q, w := a.level(from[i]), b.level(to[i]), 1.0
		if weights != nil {
			w = math.Sqrt(weights[i])
		}
		eq.SetRow(2*i, []float64{w * p.X, w * p.Y, w, 0, 0, 0, -w * q.X * p.X, -w * q.X * p.Y})
		eq.SetRow(2*i+1, []float64{0, 0, 0, w * p.X, w * p.Y, w, -w * q.Y * p.X, -w * q.Y * p.Y})
		right.SetVec(2*i, w*q.X)
		right.SetVec(2*i+1, w*q.Y)
	}
	var x mat.VecDense
	if err := x.SolveVec(eq, right); err != nil {
		return h, errNoProjection
	}
	copy(h[:], x.RawVector().Data)
	return h.between(a, b)
}

// level moves points to their middle and scales them to about one.
type level struct{ x, y, size float64 }

func levelled(points []Point) (l level) {
	n := float64(len(points))
	for _, p := range points {
		l.x, l.y = l.x+p.X/n, l.y+p.Y/n
	}
	for _, p := range points {
		l.size += math.Hypot(p.X-l.x, p.Y-l.y) / n
	}
	if l.size == 0 {
		l.size = 1
	}
	return l
}

func (l level) level(p Point) Point { return Point{X: (p.X - l.x) / l.size, Y: (p.Y - l.y) / l.size} }

// between is a projection of levelled points as one of the points themselves.
func (h Projection) between(a, b level) (Projection, error) {
	m := mat.NewDense(3, 3, []float64{h[0], h[1], h[2], h[3], h[4], h[5], h[6], h[7], 1})
	from := mat.NewDense(3, 3, []float64{1 / a.size, 0, -a.x / a.size, 0, 1 / a.size, -a.y / a.size, 0, 0, 1})
	to := mat.NewDense(3, 3, []float64{b.size, 0, b.x, 0, b.size, b.y, 0, 0, 1})
	var out mat.Dense
	out.Product(to, m, from)
	return scaled(&out)
}

// Inverse carries points back.
func (h Projection) Inverse() (Projection, error) {
	var out mat.Dense
	if err := out.Inverse(mat.NewDense(3, 3, []float64{h[0], h[1], h[2], h[3], h[4], h[5], h[6], h[7], 1})); err != nil {
		return h, errNoProjection
	}
	return scaled(&out)
}

func scaled(m *mat.Dense) (h Projection, err error) {
	last := m.At(2, 2)
	if last == 0 || math.IsNaN(last) {
		return h, errNoProjection
	}
	for i := range h {
		h[i] = m.At(i/3, i%3) / last
	}
	return h, nil
}
