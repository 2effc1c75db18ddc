// Package learned answers "how does it dry here, and how long does this maker take?"
// from what was seen at the bench.
//
// What is told is a factor on an estimate, the logarithm of which is taken to be
// normal: the maker's own lies about the prior of 1, and each single wash about the
// maker's own. A tap seldom says when something was dry; it says that it was dry by
// then, or still wet: an interval. The posterior of a normal mean under such censored
// observations has no closed form, so it is summed over a fixed grid, which is exact to
// a thousandth; with observations that are points it is the conjugate normal update.
package learned

import (
	"math"
	"time"
)

// Of the priors: natural logarithms, general figures.
const (
	dryingSpread = 0.35 // of rooms, papers and hands about the estimate
	dryingNoise  = 0.2  // of single washes about the maker's own
	paceSpread   = 0.5
	paceNoise    = 0.35

	// MaxSeen is how many observations of one thing count, the latest.
	MaxSeen = 60
)

// A Kind is what is learned.
type Kind string

// The kinds. What of a kind is told by a name: of drying a paper, of pace a technique.
const (
	Air  Kind = "air"  // how long a wash takes to dry by air
	Heat Kind = "heat" // under the heat tool
	Pace Kind = "pace" // how long a step takes
)

// Kinds lists them.
var Kinds = []Kind{Air, Heat, Pace}

// A Seen is one observation: the logarithm of what it took over its estimate lies
// between the two.
type Seen struct{ Lo, Hi float64 }

// Just is an observation of the ratio itself.
func Just(took, estimate time.Duration) Seen {
	r := ratio(took, estimate)
	return Seen{r, r}
}

// By is the observation that it took no longer.
func By(took, estimate time.Duration) Seen { return Seen{math.Inf(-1), ratio(took, estimate)} }

// Beyond is the observation that it took longer.
func Beyond(took, estimate time.Duration) Seen { return Seen{ratio(took, estimate), math.Inf(1)} }

// Between is the observation that it took longer than one and no longer than another.
func Between(more, most, estimate time.Duration) Seen {
	return Seen{ratio(more, estimate), ratio(most, estimate)}
}

// least keeps a ratio from being nothing, or without bound.
const least = 0.02

func ratio(took, estimate time.Duration) float64 {
	return math.Log(min(1/least, max(least, float64(took)/max(1, float64(estimate)))))
}

// slip is the logarithm of a ratio that is taken for a slip of the finger.
const slip = 1.2

// Slip reports whether an observation is too far off to be one: nothing is learned from it.
func (s Seen) Slip() bool { return s.Hi < -slip || s.Lo > slip }

// A Belief is what is known of a factor: the mean and spread of its logarithm, and of
// how many observations.
type Belief struct {
	Mean, Spread float64
	Noise        float64 // of a single one about it
	N            int
}

// grid of the logarithm of the factor.
const (
	gridTo   = 2.0
	gridStep = 0.01
)

// Of is the belief after some observations, of which the latest count.
func Of(k Kind, seen []Seen) Belief {
	spread, noise := dryingSpread, dryingNoise
	if k == Pace {
		spread, noise = paceSpread, paceNoise
	}
	seen = seen[max(0, len(seen)-MaxSeen):]
	const points = int(2*gridTo/gridStep) + 1
	var logs [points]float64
	most := math.Inf(-1)
	for i := range logs {
		m := -gridTo + gridStep*float64(i)
		l := -m * m / (2 * spread * spread)
		for _, s := range seen {
			l += s.likely(m, noise)
		}
		logs[i] = l
		most = max(most, l)
	}
	sum, mean, square := 0.0, 0.0, 0.0
	for i, l := range logs {
		m, w := -gridTo+gridStep*float64(i), math.Exp(l-most)
		sum, mean, square = sum+w, mean+w*m, square+w*m*m
	}
	mean /= sum
	return Belief{Mean: mean, Spread: math.Sqrt(max(0, square/sum-mean*mean)), Noise: noise, N: len(seen)}
}

// likely is the logarithm of how likely an observation is where the mean is m.
func (s Seen) likely(m, noise float64) float64 {
	if s.Lo == s.Hi {
		z := (s.Lo - m) / noise
		return -z * z / 2
	}
	return math.Log(max(1e-12, below((s.Hi-m)/noise)-below((s.Lo-m)/noise)))
}

// below is the normal distribution.
func below(z float64) float64 { return math.Erfc(-z/math.Sqrt2) / 2 }

// Factor is what the estimate is multiplied by.
func (b Belief) Factor() float64 { return math.Exp(b.Mean) }

// eighty is how many spreads about the mean hold four of five.
const eighty = 1.2816

// Range holds the maker's own factor in four of five cases.
func (b Belief) Range() (lo, hi float64) {
	return math.Exp(b.Mean - eighty*b.Spread), math.Exp(b.Mean + eighty*b.Spread)
}

// Single is the spread of a single wash or step about the mean.
func (b Belief) Single() float64 { return math.Hypot(b.Spread, b.Noise) }

// A Book is all that was learned: observations by kind and name.
type Book map[Kind]map[string][]Seen

// Add writes an observation down.
func (b Book) Add(k Kind, of string, s Seen) {
	if b[k] == nil {
		b[k] = map[string][]Seen{}
	}
	b[k][of] = append(b[k][of], s)
}

// Belief is what the book tells of something, the prior where it tells nothing.
func (b Book) Belief(k Kind, of string) Belief { return Of(k, b[k][of]) }

// Factors are what a book comes to: what estimates are multiplied by. What it does not
// name is as estimated.
type Factors map[Kind]map[string]Factor

// A Factor and of how many observations it is.
type Factor struct {
	By float64 `json:"by"`
	N  int     `json:"n"`
}

// Factors sums the book up.
func (b Book) Factors() Factors {
	out := Factors{}
	for k, names := range b {
		for name, seen := range names {
			if len(seen) == 0 {
				continue
			}
			if out[k] == nil {
				out[k] = map[string]Factor{}
			}
			belief := Of(k, seen)
			out[k][name] = Factor{math.Round(1000*belief.Factor()) / 1000, belief.N}
		}
	}
	return out
}

// Of is the factor of something, 1 where nothing is known.
func (f Factors) Of(k Kind, name string) Factor {
	if v, ok := f[k][name]; ok && v.By > 0 {
		return v
	}
	return Factor{By: 1}
}
