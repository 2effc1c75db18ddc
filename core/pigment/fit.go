package pigment

import (
	"errors"
	"fmt"
	"math"

	"gonum.org/v1/gonum/mat"
)

// MaxPatches bounds the patches a paint is fitted to.
const MaxPatches = 60

// A Patch is a painted swatch as it was seen once dry: a coat of a load on a ground.
type Patch struct {
	Load   Load
	Ground Spectrum
	Seen   Lab
}

// Fitted is a paint found from its patches.
type Fitted struct {
	Paint Paint
	Made  []Lab     // what the paint makes of each patch
	Away  []float64 // ΔE00 of each patch, what was made from what was seen
}

// Mean is the mean of what is left.
func (f *Fitted) Mean() float64 {
	sum := 0.0
	for _, d := range f.Away {
		sum += d
	}
	return sum / float64(len(f.Away))
}

// Weights of the fit, after trials with noisy swatches: how smooth the logarithms of
// K and S are, how near they stay to those of the named pigment in shape and in
// height, and how far a load is commonly missed.
const (
	smoothK, smoothS = 0.15, 0.6
	shapeK, shapeS   = 1, 3
	pull             = 0.2
	loadSpread       = 0.1
)

// Fit finds the paint that makes the patches: Levenberg and Marquardt's least
// squares over the logarithms of K and S in every band, with a small error of load
// for each patch. like is the generic pigment it is said to be, nil when nobody
// knows; with few patches much hangs on it. What is found does not sink: its S is what
// the patches show between thin and thick.
func Fit(patches []Patch, like *Paint) (*Fitted, error) {
	if err := checkPatches(patches); err != nil {
		return nil, err
	}
	f := &fit{patches: patches, at: make([]float64, 2*Bands+len(patches))}
	for i := range Bands {
		f.at[i], f.at[Bands+i] = math.Log(0.3), math.Log(0.05)
		if like != nil {
			f.at[i], f.at[Bands+i] = math.Log(max(1e-4, like.K[i])), math.Log(max(1e-4, like.scatter(i, 1)))
		}
	}
	if like != nil {
		f.like = append(f.like, f.at[:2*Bands]...)
	}
	f.solve()
	out := &Fitted{Paint: paintAt(f.at)}
	for i, p := range patches {
		r := Seen(out.Paint.Over(&p.Ground, f.load(f.at, i)), Dry)
		out.Made = append(out.Made, r.Lab())
		out.Away = append(out.Away, Difference(p.Seen, out.Made[i]))
	}
	return out, nil
}

func checkPatches(patches []Patch) error {
	switch {
	case len(patches) == 0:
		return errors.New("there are no patches; paint at least one swatch, better four")
	case len(patches) > MaxPatches:
		return fmt.Errorf("%d patches are more than %d", len(patches), MaxPatches)
	}
	for i, p := range patches {
		if !(p.Load > 0 && p.Load <= MaxLoad) {
			return fmt.Errorf("patch %d: a load of %g is outside 0 to %g", i+1, p.Load, MaxLoad)
		}
		if !(p.Seen.L >= -1 && p.Seen.L <= 101) || math.IsNaN(p.Seen.A+p.Seen.B) || p.Seen.Chroma() > 200 {
			return fmt.Errorf("patch %d has a colour that cannot be", i+1)
		}
	}
	return nil
}

// fit is a least-squares problem: parameters are log K, log S, and the logarithm of
// what each patch's load was missed by.
type fit struct {
	patches []Patch
	at      []float64
	like    []float64 // log K and log S of the named pigment
}

func paintAt(at []float64) (p Paint) {
	for i := range Bands {
		p.K[i], p.S[i] = math.Exp(at[i]), math.Exp(at[Bands+i])
	}
	return p
}

func (f *fit) load(at []float64, patch int) Load {
	return f.patches[patch].Load * Load(math.Exp(at[2*Bands+patch]))
}

// row is one residual with its derivatives.
type row struct {
	value float64
	by    []float64
}

// rows returns the residuals at a place: three a patch, then what holds the
// parameters together.
func (f *fit) rows(at []float64) (out []row) {
	paint := paintAt(at)
	for i := range f.patches {
		out = append(out, f.patchRows(at, i, &paint)...)
	}
	add := func(value float64, terms map[int]float64) {
		r := row{value, make([]float64, len(at))}
		for i, d := range terms {
			r.by[i] = d
		}
		out = append(out, r)
	}
	for half, weight := range [2]float64{smoothK, smoothS} {
		for i := 1; i < Bands-1; i++ {
			k := half*Bands + i
			add(weight*(at[k-1]-2*at[k]+at[k+1]), map[int]float64{k - 1: weight, k: -2 * weight, k + 1: weight})
		}
	}
	if f.like != nil {
		for half, weight := range [2]float64{shapeK, shapeS} {
			for i := range Bands {
				k := half*Bands + i
				add(pull*(at[k]-f.like[k]), map[int]float64{k: pull})
				if i > 0 {
					add(weight*(at[k]-f.like[k]-at[k-1]+f.like[k-1]), map[int]float64{k: weight, k - 1: -weight})
				}
			}
		}
	}
	for i := range f.patches {
		k := 2*Bands + i
		add(at[k]/loadSpread, map[int]float64{k: 1 / loadSpread})
	}
	return out
}

// patchRows are the differences in L*, a* and b* of one patch. Each band's
// reflectance depends on its own K and S only, so one step in all of them gives
// every derivative.
func (f *fit) patchRows(at []float64, i int, paint *Paint) []row {
	const step = 1e-4
	p := &f.patches[i]
	load := f.load(at, i)
	r := paint.Over(&p.Ground, load)
	more := *paint
	for b := range Bands {
		more.K[b] *= 1 + step
	}
	byK := more.Over(&p.Ground, load)
	more = *paint
	for b := range Bands {
		more.S[b] *= 1 + step
	}
	byS := more.Over(&p.Ground, load)
	byX := paint.Over(&p.Ground, load*(1+step))

	lin := r.Linear().dried()
	base := lin.Clip()
	lab := base.Lab()
	var toLab [3][3]float64 // derivative of L*, a*, b* by each channel
	for c := range 3 {
		moved := base
		moved[c] += step
		l := moved.Lab()
		slack := 1.0
		if lin[c] != base[c] {
			slack = 0.1 // a display shows no more; the fit should still find back
		}
		toLab[0][c], toLab[1][c], toLab[2][c] = slack*(l.L-lab.L)/step, slack*(l.A-lab.A)/step, slack*(l.B-lab.B)/step
	}
	out := make([]row, 3)
	for n, v := range [3]float64{lab.L - p.Seen.L, lab.A - p.Seen.A, lab.B - p.Seen.B} {
		out[n] = row{v, make([]float64, len(at))}
		for b := range Bands {
			d := 0.0
			for c := range 3 {
				d += toLab[n][c] * (1 - haze) * library.ToLinearSRGB[c][b]
			}
			out[n].by[b] = d * (byK[b] - r[b]) / step
			out[n].by[Bands+b] = d * (byS[b] - r[b]) / step
			out[n].by[2*Bands+i] += d * (byX[b] - r[b]) / step
		}
	}
	return out
}

func squares(rows []row) (sum float64) {
	for _, r := range rows {
		sum += r.value * r.value
	}
	return sum
}

// solve walks downhill until it hardly gets further.
func (f *fit) solve() {
	const (
		mostSteps = 60
		enough    = 1e-7 // of the sum of squares
	)
	damp := 1e-2
	rows := f.rows(f.at)
	cost := squares(rows)
	for range mostSteps {
		n := len(f.at)
		normal, right := mat.NewSymDense(n, nil), mat.NewVecDense(n, nil)
		for _, r := range rows {
			v := mat.NewVecDense(n, r.by)
			normal.SymRankOne(normal, 1, v)
			right.AddScaledVec(right, -r.value, v)
		}
		for {
			tried := mat.NewSymDense(n, nil)
			tried.CopySym(normal)
			for k := range n {
				tried.SetSym(k, k, normal.At(k, k)*(1+damp)+1e-9)
			}
			var chol mat.Cholesky
			var by mat.VecDense
			next := make([]float64, n)
			if chol.Factorize(tried) && chol.SolveVecTo(&by, right) == nil {
				for k := range next {
					// No step is larger than threefold: far off, the slope says little.
					next[k] = min(6, max(-12, f.at[k]+min(1.1, max(-1.1, by.AtVec(k)))))
				}
				if found := f.rows(next); squares(found) < cost {
					gain := cost - squares(found)
					f.at, rows, cost = next, found, cost-gain
					damp = max(1e-7, damp/4)
					if gain < enough*cost {
						return
					}
					break
				}
			}
			if damp *= 5; damp > 1e9 {
				return
			}
		}
	}
}
