package photo

import "gonum.org/v1/gonum/mat"

// light is a field that runs smoothly over a picture: a quadratic in its places.
type light [6]float64

func terms(i, w, h int) [6]float64 {
	x, y := 2*float64(i%w)/float64(w)-1, 2*float64(i/w)/float64(h)-1
	return [6]float64{1, x, y, x * x, x * y, y * y}
}

func (l light) at(i, w, h int) (v float64) {
	for k, t := range terms(i, w, h) {
		v += l[k] * t
	}
	return v
}

// quadratic fits a field to values at places with weights, by its normal equations.
func quadratic(at []int, weights []float64, w, h int, value func(k int) float64) (l light) {
	var sums [6][6]float64
	var right [6]float64
	for k, i := range at {
		t, v, wt := terms(i, w, h), value(k), weights[k]
		for r := range 6 {
			for c := r; c < 6; c++ {
				sums[r][c] += wt * t[r] * t[c]
			}
			right[r] += wt * t[r] * v
		}
	}
	a, b := mat.NewSymDense(6, nil), mat.NewVecDense(6, right[:])
	for r := range 6 {
		for c := r; c < 6; c++ {
			a.SetSym(r, c, sums[r][c])
		}
	}
	// Where places say little of how it bends, it is taken not to.
	n := a.At(0, 0)
	for r, stiff := range [6]float64{1e-9, 2e-3, 2e-3, 1e-2, 1e-2, 1e-2} {
		a.SetSym(r, r, a.At(r, r)+stiff*n)
	}
	var x mat.VecDense
	var chol mat.Cholesky
	if !chol.Factorize(a) || chol.SolveVecTo(&x, b) != nil {
		return l
	}
	copy(l[:], x.RawVector().Data)
	return l
}
