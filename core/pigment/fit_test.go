package pigment_test

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/pigment"
)

// another is a paint like a generic one but not the same: stronger here, weaker
// there, and milkier.
func another(like pigment.Paint, seed uint64) (p pigment.Paint) {
	rng := rand.New(rand.NewPCG(seed, 1))
	a, b, c := rng.Float64()*0.6-0.3, rng.Float64()*6, rng.Float64()*0.8-0.4
	for i := range p.K {
		at := float64(i) / pigment.Bands
		p.K[i] = like.K[i] * math.Exp(a+0.35*math.Sin(b+5*at))
		p.S[i] = like.S[i] * math.Exp(c)
	}
	return p
}

func ground(t testing.TB, name string) pigment.Spectrum {
	s, err := pigment.Paper(name)
	require.NoError(t, err)
	return s
}

// swatches paints coats of a paint and looks at them; off is how far each load is
// missed, noise how far each colour.
func swatches(t testing.TB, p pigment.Paint, on map[string][]pigment.Strength, rng *rand.Rand, off, noise float64) (out []pigment.Patch) {
	for _, name := range []string{"white", "black"} {
		g := ground(t, name)
		for _, s := range on[name] {
			load, err := s.Load()
			require.NoError(t, err)
			r := pigment.Seen(p.Over(&g, load*pigment.Load(math.Exp(off*rng.NormFloat64()))), pigment.Dry)
			lab := r.Lab()
			lab.L, lab.A, lab.B = lab.L+noise*rng.NormFloat64(), lab.A+noise*rng.NormFloat64(), lab.B+noise*rng.NormFloat64()
			out = append(out, pigment.Patch{Load: load, Ground: g, Seen: lab})
		}
	}
	return out
}

// astray is how far tints of the fitted paint are from those of the true one, mean
// ΔE00 over strengths and grounds, alone and mixed with ultramarine.
func astray(t testing.TB, truth, found pigment.Paint) float64 {
	blue, err := pigment.ByCI("PB29")
	require.NoError(t, err)
	sum, n := 0.0, 0
	for _, name := range []string{"white", "black"} {
		g := ground(t, name)
		for _, s := range pigment.Strengths() {
			load, err := s.Load()
			require.NoError(t, err)
			for _, parts := range []float64{0, 1} {
				mix := func(p pigment.Paint) pigment.Lab {
					m, err := pigment.Mix(pigment.Part{Paint: p, Parts: 1}, pigment.Part{Paint: blue.Paint(), Parts: parts})
					require.NoError(t, err)
					r := m.Over(&g, load)
					return r.Lab()
				}
				sum, n = sum+pigment.Difference(mix(truth), mix(found)), n+1
			}
		}
	}
	return sum / float64(n)
}

// The more patches, the nearer the paint; with six it is found.
func TestFittingAPaint(t *testing.T) {
	tea, milk, cream := pigment.Tea, pigment.Milk, pigment.Cream
	sets := []map[string][]pigment.Strength{
		{"white": {milk}},
		{"white": {tea, milk, cream}, "black": {tea, milk, cream}},
	}
	means := make([]float64, len(sets)+1)
	rng := rand.New(rand.NewPCG(7, 7))
	names := []string{"PB29", "PY3", "PV19", "PBr7", "PG7", "PR101", "PY42", "PB36"}
	for seed, ci := range names {
		like, err := pigment.ByCI(ci)
		require.NoError(t, err)
		prior := like.Paint()
		truth := another(prior, uint64(seed))
		means[0] += astray(t, truth, prior) / float64(len(names))
		for i, set := range sets {
			f, err := pigment.Fit(swatches(t, truth, set, rng, 0, 0), &prior)
			require.NoError(t, err)
			assert.Less(t, f.Mean(), 0.6, "%s, %v", ci, set)
			means[i+1] += astray(t, truth, f.Paint) / float64(len(names))
		}
	}
	assert.Less(t, means[1], means[0], "one swatch is better than none")
	assert.Less(t, means[2], 0.8, "six are better than one: %v", means)
	assert.Less(t, means[2], means[1])
}

// Scans are noisy and loads are missed; tints are still predicted within two.
func TestFittingNoisySwatches(t *testing.T) {
	rng := rand.New(rand.NewPCG(2, 3))
	all := map[string][]pigment.Strength{"white": pigment.Strengths(), "black": {pigment.Tea, pigment.Milk, pigment.Cream}}
	sum := 0.0
	const trials = 24
	for i, p := range pigment.Library()[:trials] {
		prior := p.Paint()
		truth := another(prior, uint64(100+i))
		f, err := pigment.Fit(swatches(t, truth, all, rng, 0.08, 0.5), &prior)
		require.NoError(t, err)
		require.Len(t, f.Away, 8)
		sum += astray(t, truth, f.Paint)
	}
	assert.Less(t, sum/trials, 2.0)
}

// Without a pigment to lean on, the patches themselves are still met.
func TestFittingAnUnknownPaint(t *testing.T) {
	rng := rand.New(rand.NewPCG(5, 5))
	for _, ci := range []string{"PB29", "PY3", "PR101"} {
		p, err := pigment.ByCI(ci)
		require.NoError(t, err)
		f, err := pigment.Fit(swatches(t, p.Paint(), map[string][]pigment.Strength{"white": pigment.Strengths(), "black": {pigment.Milk}}, rng, 0, 0), nil)
		require.NoError(t, err)
		assert.Less(t, f.Mean(), 1.5, ci)
	}
}

func TestPatchesThatCannotBe(t *testing.T) {
	good := pigment.Patch{Load: 1, Ground: ground(t, "white"), Seen: pigment.Lab{L: 50}}
	bad := func(change func(*pigment.Patch)) []pigment.Patch {
		p := good
		change(&p)
		return []pigment.Patch{good, p}
	}
	for why, patches := range map[string][]pigment.Patch{
		"no patches":        nil,
		"more than 60":      make([]pigment.Patch, 61),
		"patch 2: a load":   bad(func(p *pigment.Patch) { p.Load = -1 }),
		"patch 2 has a col": bad(func(p *pigment.Patch) { p.Seen.L = math.NaN() }),
	} {
		_, err := pigment.Fit(patches, nil)
		assert.ErrorContains(t, err, why)
	}
}

func BenchmarkFit(b *testing.B) {
	p, err := pigment.ByCI("PV19")
	require.NoError(b, err)
	prior := p.Paint()
	patches := swatches(b, another(prior, 1), map[string][]pigment.Strength{"white": pigment.Strengths(), "black": {pigment.Tea, pigment.Milk, pigment.Cream}}, rand.New(rand.NewPCG(1, 1)), 0.05, 0.3)
	for b.Loop() {
		if _, err := pigment.Fit(patches, &prior); err != nil {
			b.Fatal(err)
		}
	}
}
