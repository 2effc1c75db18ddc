package pigment

import (
	"errors"
	"fmt"
	"math"
)

// A Paint absorbs K and scatters S per unit load in each band, both ≥ 0. Sinks is the
// part of S that a thin coat lacks: opaque white sinks as it dries, since little of it
// does not lie close enough to hide what is below. It comes in with the load.
type Paint struct{ K, S, Sinks Spectrum }

// sunk is the load at which half of what sinks is there: an estimate, from two coats of
// white as thick as milk bringing a dark blue back to L* 80 where weak tea does next to
// nothing.
const sunk = 1.3

// scatter is how much a coat of load x scatters in band i, per unit load.
func (p *Paint) scatter(i int, x Load) float64 {
	return p.S[i] - p.Sinks[i]*sunk/(sunk+float64(x))
}

// A Part is one paint of a mix, with how many parts of it go in.
type Part struct {
	Paint Paint
	Parts float64
}

// Load is how much pigment lies on the paper: 1 is one coat of a mix as strong
// as milk.
type Load float64

// MaxLoad is far beyond what lies on paper; more is a slip.
const MaxLoad Load = 1000

// A Coat is one dried or drying layer of paint.
type Coat struct {
	Paint Paint
	Load  Load
}

// minK keeps the two-flux solution away from its removable singularity at K = 0.
const minK = 1e-10

// Mix returns the paint that parts make together; only their proportions
// matter. Absorption and scattering add (Duncan 1940).
func Mix(parts ...Part) (Paint, error) {
	var sum float64
	for _, p := range parts {
		if math.IsNaN(p.Parts) || p.Parts < 0 || p.Parts > 1e6 {
			return Paint{}, fmt.Errorf("%g parts cannot be mixed; write a number from 0 up", p.Parts)
		}
		sum += p.Parts
	}
	if sum == 0 {
		return Paint{}, errors.New("a mix needs at least one part of something")
	}
	var m Paint
	for _, p := range parts {
		x := p.Parts / sum
		for i := range m.K {
			m.K[i] += x * p.Paint.K[i]
			m.S[i] += x * p.Paint.S[i]
			m.Sinks[i] += x * p.Paint.Sinks[i]
		}
	}
	return m, nil
}

// With is two coats run into one: their loads add, and each is as much of the mix as
// there is of it.
func (c Coat) With(o Coat) Coat {
	both, err := Mix(Part{c.Paint, float64(c.Load)}, Part{o.Paint, float64(o.Load)})
	if err != nil {
		return Coat{} // nothing runs into nothing
	}
	return Coat{both, c.Load + o.Load}
}

// Over returns the reflectance of load x of paint p on ground g (Kubelka and
// Munk's solution for a layer of finite thickness over a background). Load 0
// gives g; a very large one gives [Paint.Infinite].
func (p *Paint) Over(g *Spectrum, x Load) Spectrum {
	var r Spectrum
	for i := range r {
		K, S := max(minK, p.K[i]), p.scatter(i, x)
		m, q, _ := flux(K, S, float64(x))
		r[i] = (S*m + g[i]*(q-(K+S)*m)) / (q + (K+S-g[i]*S)*m)
	}
	return r
}

// Free returns reflectance and transmittance of load x of paint p standing
// free, on no ground.
func (p *Paint) Free(x Load) (R, T Spectrum) {
	for i := range R {
		K, S := max(minK, p.K[i]), p.scatter(i, x)
		m, q, e := flux(K, S, float64(x))
		d := q + (K+S)*m
		R[i] = S * m / d
		T[i] = 2 * math.Sqrt(K*(K+2*S)) * e / d
	}
	return R, T
}

// Infinite returns the reflectance of a layer too thick to see through.
func (p *Paint) Infinite() Spectrum {
	var r Spectrum
	for i := range r {
		if p.S[i] == 0 {
			continue
		}
		q := max(minK, p.K[i]) / p.S[i]
		r[i] = 1 / (1 + q + math.Sqrt(q*q+2*q))
	}
	return r
}

// flux returns m = 1 − e^(−2αx), q = α(1 + e^(−2αx)) and e = e^(−αx) with
// α = √(K(K+2S)).
func flux(K, S, x float64) (m, q, e float64) {
	a := math.Sqrt(K * (K + 2*S))
	e = math.Exp(-a * x)
	if m = 1 - e*e; m < 0.01 {
		m = -math.Expm1(-2 * a * x)
	}
	return m, a * (1 + e*e), e
}

// Stack returns the reflectance of coats laid one after another on ground,
// bottom first.
func Stack(ground Spectrum, coats ...Coat) Spectrum {
	for _, c := range coats {
		ground = c.Paint.Over(&ground, c.Load)
	}
	return ground
}

// Wetness is how far water fills the surface: 0 dry, 1 under gloss.
type Wetness float64

// The wetness of the stages in which a wash looks wet.
const (
	Dry   Wetness = 0
	Damp  Wetness = 0.3
	Sheen Wetness = 0.6
	Gloss Wetness = 1
)

// Wet returns how reflectance r looks at wetness w. Water on and in the
// surface sends light back into it (Ångström 1925; Lekner and Dorf 1988), so a
// wet wash is darker than it dries.
func Wet(r Spectrum, w Wetness) Spectrum {
	const (
		k1 = 0.0204 // reflection of the air-water surface from above
		k2 = 0.4725 // and of diffuse light from below
	)
	for i, v := range r {
		wet := (1 - k1) * (1 - k2) * v / (1 - k2*v)
		r[i] = v + float64(w)*(wet-v)
	}
	return r
}

// haze is the share of light that matt dry paint sends back from its first surface,
// before the light meets any pigment: it calms every colour, the dark ones most. Water
// takes it away.
const haze = 0.025

// Seen returns how paint of reflectance r is seen at wetness w, under the haze of its
// surface as far as that is dry.
func Seen(r Spectrum, w Wetness) Spectrum {
	r = Wet(r, w)
	matt := haze * (1 - float64(w))
	for i, v := range r {
		r[i] = matt + (1-matt)*v
	}
	return r
}

// dried is a colour under the haze of its dry surface.
func (c RGB) dried() RGB {
	for i, v := range c {
		c[i] = haze + (1-haze)*v
	}
	return c
}
