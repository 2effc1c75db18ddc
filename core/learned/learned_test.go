package learned_test

import (
	"fmt"
	"math"
	"math/rand/v2"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"chromaqua/core/learned"
)

func ExampleBook() {
	b := learned.Book{}
	for range 6 { // estimated at ten minutes; dry at thirteen
		b.Add(learned.Air, "cotton", learned.Just(13*time.Minute, 10*time.Minute))
	}
	k := b.Belief(learned.Air, "cotton")
	lo, hi := k.Range()
	fmt.Printf("× %.2f (%.2f to %.2f), of %d\n", k.Factor(), lo, hi, k.N)
	// Output: × 1.28 (1.16 to 1.42), of 6
}

// With observations that are points it is the conjugate update of a normal mean.
func TestConjugate(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		seen := rapid.SliceOfN(rapid.Float64Range(-0.6, 0.6), 0, 20).Draw(t, "seen")
		var obs []learned.Seen
		sum := 0.0
		for _, s := range seen {
			obs, sum = append(obs, learned.Seen{Lo: s, Hi: s}), sum+s
		}
		precision := 1/(0.35*0.35) + float64(len(seen))/(0.2*0.2)
		b := learned.Of(learned.Air, obs)
		assert.InDelta(t, sum/(0.2*0.2)/precision, b.Mean, 1e-3)
		assert.InDelta(t, 1/math.Sqrt(precision), b.Spread, 1e-3)
		assert.Equal(t, len(seen), b.N)
	})
}

// Intervals lead to the truth too, and what only says "dry by then" never lets the
// estimate grow.
func TestCensored(t *testing.T) {
	r := rand.New(rand.NewPCG(3, 5))
	for _, truth := range []float64{-0.5, 0, 0.5} {
		var seen []learned.Seen
		for range 60 {
			x, at := truth+0.2*r.NormFloat64(), 0.3*r.NormFloat64()+truth
			if x < at {
				seen = append(seen, learned.Seen{Lo: math.Inf(-1), Hi: at})
			} else {
				seen = append(seen, learned.Seen{Lo: at, Hi: math.Inf(1)})
			}
		}
		assert.InDelta(t, truth, learned.Of(learned.Air, seen).Mean, 0.1)
	}
	prior := learned.Of(learned.Air, nil)
	assert.InDelta(t, 0, prior.Mean, 1e-9)
	assert.InDelta(t, 0.35, prior.Spread, 1e-3)
	assert.Less(t, learned.Of(learned.Air, []learned.Seen{learned.By(time.Hour, time.Minute)}).Mean, 1e-3)
	assert.Negative(t, learned.Of(learned.Air, []learned.Seen{learned.By(time.Minute, time.Minute)}).Mean)
	assert.Positive(t, learned.Of(learned.Air, []learned.Seen{learned.Beyond(time.Minute, time.Minute)}).Mean)
}

func TestSeen(t *testing.T) {
	assert.Equal(t, learned.Seen{Lo: math.Log(2), Hi: math.Log(2)}, learned.Just(2*time.Minute, time.Minute))
	assert.Equal(t, learned.Seen{Lo: 0, Hi: math.Log(2)}, learned.Between(time.Minute, 2*time.Minute, time.Minute))
	assert.Equal(t, math.Log(0.02), learned.Just(0, time.Minute).Lo)
	assert.Equal(t, math.Log(50), learned.Just(time.Hour, 0).Lo)
}

func TestFactors(t *testing.T) {
	b := learned.Book{}
	b.Add(learned.Pace, "flat", learned.Just(3*time.Minute, time.Minute))
	f := b.Factors()
	assert.InDelta(t, math.Exp(math.Log(3)/(0.35*0.35)/(1/0.25+1/(0.35*0.35))), f.Of(learned.Pace, "flat").By, 2e-3)
	assert.Equal(t, 1, f.Of(learned.Pace, "flat").N)
	assert.Equal(t, learned.Factor{By: 1}, f.Of(learned.Air, "flat"))
	assert.Equal(t, learned.Factor{By: 1}, learned.Factors(nil).Of(learned.Air, "flat"))
}

// Only the latest count, so that a new pad of paper is learned in an evening or two.
func TestLatest(t *testing.T) {
	var seen []learned.Seen
	for range 300 {
		seen = append(seen, learned.Seen{Lo: -0.5, Hi: -0.5})
	}
	for range learned.MaxSeen {
		seen = append(seen, learned.Seen{Lo: 0.3, Hi: 0.3})
	}
	b := learned.Of(learned.Air, seen)
	assert.Equal(t, learned.MaxSeen, b.N)
	assert.InDelta(t, 0.3, b.Mean, 0.01)
}
