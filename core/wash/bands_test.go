package wash

import (
	"fmt"
	"math"
	"math/rand/v2"
	"sort"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/pigment"
)

// painted are random stacks of mixes of the library on white and cream paper.
func painted(n int, seed uint64) (out []pigment.Spectrum) {
	r := rand.New(rand.NewPCG(seed, 7))
	lib := pigment.Library()
	white, _ := pigment.Paper("white")
	cream, _ := pigment.Paper("cream")
	for range n {
		g := white
		if r.IntN(4) == 0 {
			g = cream
		}
		for range 1 + r.IntN(3) {
			var parts []pigment.Part
			for range 1 + r.IntN(3) {
				parts = append(parts, pigment.Part{Paint: lib[r.IntN(len(lib))].Paint(), Parts: float64(1 + r.IntN(3))})
			}
			p, _ := pigment.Mix(parts...)
			g = p.Over(&g, pigment.Load(math.Exp(r.Float64()*5.5-3.5)))
		}
		out = append(out, g)
	}
	return out
}

// fitted are the weights that make of the bands, by least squares, what 36 bands look like;
// dark colours count more, since the eye has it so.
func fitted(train []pigment.Spectrum) (w [3][nBands]float64) {
	var a [3][nBands][nBands + 1]float64
	for i := range train {
		y := train[i].Linear()
		b := Sampled(&train[i])
		for c := range 3 {
			weight := 1 / math.Pow(math.Max(0, y[c])+0.02, 1.3)
			for p := range nBands {
				for q := range nBands {
					a[c][p][q] += weight * float64(b[p]) * float64(b[q])
				}
				a[c][p][nBands] += weight * float64(b[p]) * y[c]
			}
		}
	}
	for c := range 3 {
		m := &a[c]
		for i := range nBands {
			m[i][i] *= 1 + 1e-7
			p := i
			for r := i; r < nBands; r++ {
				if math.Abs(m[r][i]) > math.Abs(m[p][i]) {
					p = r
				}
			}
			m[i], m[p] = m[p], m[i]
			for r := range nBands {
				if r != i {
					f := m[r][i] / m[i][i]
					for q := i; q <= nBands; q++ {
						m[r][q] -= f * m[i][q]
					}
				}
			}
		}
		for i := range nBands {
			w[c][i] = m[i][nBands] / m[i][i]
		}
	}
	return w
}

func training() []pigment.Spectrum {
	train := painted(3000, 1)
	var one pigment.Spectrum
	for i := range one {
		one[i] = 1
	}
	white, _ := pigment.Paper("white")
	for range 60 {
		train = append(train, white, one)
	}
	return train
}

// The table is what a fit gives; to make it anew, print the fit.
func TestTheBandsAreFitted(t *testing.T) {
	w := fitted(training())
	for c := range 3 {
		for i := range nBands {
			if !assert.InDelta(t, w[c][i], toRGB[c][i], 2e-3) {
				for c := range 3 {
					fmt.Printf("{")
					for i := range nBands {
						fmt.Printf("%.5f, ", w[c][i])
					}
					fmt.Printf("},\n")
				}
				t.FailNow()
			}
		}
	}
}

// Twelve bands look like 36, and so does paint laid in them.
func TestTwelveBandsAreEnough(t *testing.T) {
	var away []float64
	for _, s := range painted(2000, 2) {
		b := Sampled(&s)
		away = append(away, pigment.Difference(s.Lab(), labOf(&b)))
	}
	mean, most := spreadOf(away)
	assert.Less(t, mean, 0.10, "of spectra, ΔE00")
	assert.Less(t, most, 0.30, "nineteen in twenty")

	r := rand.New(rand.NewPCG(5, 5))
	lib := pigment.Library()
	white, err := pigment.Paper("white")
	require.NoError(t, err)
	away = nil
	for range 1500 {
		g36, g := white, Sampled(&white)
		for range 1 + r.IntN(2) {
			var f film
			var parts []pigment.Part
			load := math.Exp(r.Float64()*4.5 - 3)
			n := 1 + r.IntN(4)
			for range n {
				p := lib[r.IntN(len(lib))].Paint()
				parts = append(parts, pigment.Part{Paint: p, Parts: 1})
				own := PaintOf(&p, 0, 0)
				f.add(&own, float32(load)/float32(n))
			}
			m, err := pigment.Mix(parts...)
			require.NoError(t, err)
			g36 = m.Over(&g36, pigment.Load(load))
			f.over(&g)
		}
		away = append(away, pigment.Difference(g36.Lab(), labOf(&g)))
	}
	mean, most = spreadOf(away)
	assert.Less(t, mean, 0.12, "of layers, ΔE00")
	assert.Less(t, most, 0.40, "nineteen in twenty")
}

// Wet and dry are seen as package pigment has it.
func TestSeenAsInThe36Bands(t *testing.T) {
	for _, s := range painted(50, 3) {
		for _, w := range []pigment.Wetness{pigment.Dry, pigment.Damp, pigment.Gloss} {
			want, b := pigment.Seen(s, w), Sampled(&s)
			b.seen(float32(w))
			assert.Less(t, pigment.Difference(want.Lab(), labOf(&b)), 0.6)
		}
	}
}

func labOf(b *Bands) pigment.Lab {
	c := b.linear()
	return pigment.RGB{float64(c[0]), float64(c[1]), float64(c[2])}.Clip().Lab()
}

func spreadOf(v []float64) (mean, nineteenInTwenty float64) {
	sort.Float64s(v)
	for _, x := range v {
		mean += x / float64(len(v))
	}
	return mean, v[len(v)*19/20]
}
