package pigment_test

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/pigment"
)

func allPaints() (paints []pigment.Paint, names []string) {
	for _, p := range pigment.Library() {
		paints, names = append(paints, p.Paint()), append(names, p.CI)
	}
	return paints, names
}

func white(t testing.TB) pigment.Spectrum {
	s, err := pigment.Paper("white")
	require.NoError(t, err)
	return s
}

func recipes(t testing.TB, want pigment.Lab, paints []pigment.Paint, most, n int) []pigment.Recipe {
	out, err := pigment.Recipes(context.Background(), want, white(t), paints, most, n)
	require.NoError(t, err)
	return out
}

// A colour that was mixed from the paints is found again: the same mix, or one as
// near that is as simple.
func TestRecipesFindWhatWasMixed(t *testing.T) {
	paints, names := allPaints()
	ground := white(t)
	rng := rand.New(rand.NewPCG(1, 9))
	for range 40 {
		i, j := rng.IntN(len(paints)), rng.IntN(len(paints))
		mix, err := pigment.Mix(pigment.Part{Paint: paints[i], Parts: 3}, pigment.Part{Paint: paints[j], Parts: 1})
		require.NoError(t, err)
		r := pigment.Seen(mix.Over(&ground, 0.35), pigment.Dry)
		best := recipes(t, r.Lab(), paints, 3, 5)
		require.Len(t, best, 5)
		assert.Less(t, best[0].Away, 0.8, "%s + %s 3:1", names[i], names[j])
		for k, b := range best {
			assert.InDelta(t, pigment.Difference(r.Lab(), b.Dry.Lab()), b.Away, 1e-9)
			if k > 0 {
				before := best[k-1]
				assert.LessOrEqual(t, before.Away+0.25*float64(len(before.Parts)), b.Away+0.25*float64(len(b.Parts)))
			}
		}
	}
}

// The rough search loses nothing against trying everything in full.
func TestRecipesAgainstTryingEverything(t *testing.T) {
	all, _ := allPaints()
	paints := []pigment.Paint{all[0], all[5], all[9], all[12], all[16], all[20]}
	ground := white(t)
	rng := rand.New(rand.NewPCG(4, 2))
	same := 0
	const targets = 30
	for range targets {
		want := pigment.RGB{rng.Float64(), rng.Float64(), rng.Float64()}.Lab()
		best := math.Inf(1)
		try := func(parts ...pigment.Part) {
			mix, err := pigment.Mix(parts...)
			require.NoError(t, err)
			for _, s := range pigment.Strengths() {
				load, err := s.Load()
				require.NoError(t, err)
				r := pigment.Seen(mix.Over(&ground, load), pigment.Dry)
				best = min(best, pigment.Difference(want, r.Lab())+0.25*float64(len(parts)))
			}
		}
		for i := range paints {
			try(pigment.Part{Paint: paints[i], Parts: 1})
			for j := range paints {
				if i == j {
					continue
				}
				for _, r := range [][2]float64{{1, 1}, {2, 1}, {3, 1}, {4, 1}, {6, 1}, {3, 2}} {
					try(pigment.Part{Paint: paints[i], Parts: r[0]}, pigment.Part{Paint: paints[j], Parts: r[1]})
				}
				for k := range paints {
					if k == i || k == j {
						continue
					}
					for _, r := range [][3]float64{{1, 1, 1}, {2, 1, 1}, {3, 1, 1}, {2, 2, 1}, {3, 2, 1}} {
						try(pigment.Part{Paint: paints[i], Parts: r[0]}, pigment.Part{Paint: paints[j], Parts: r[1]}, pigment.Part{Paint: paints[k], Parts: r[2]})
					}
				}
			}
		}
		got := recipes(t, want, paints, 3, 1)[0]
		found := got.Away + 0.25*float64(len(got.Parts))
		assert.Less(t, found, best+0.5)
		if found < best+1e-6 {
			same++
		}
	}
	assert.GreaterOrEqual(t, same, targets*9/10, "the very best in most cases")
}

func TestRecipesAreLimited(t *testing.T) {
	paints, _ := allPaints()
	grey := pigment.Lab{L: 50}
	for _, r := range recipes(t, grey, paints, 1, 3) {
		assert.Len(t, r.Parts, 1)
	}
	for _, r := range recipes(t, grey, paints, 2, 20) {
		assert.LessOrEqual(t, len(r.Parts), 2)
	}
	many := make([]pigment.Paint, 50)
	for i := range many {
		many[i] = paints[i%len(paints)]
	}
	assert.Len(t, recipes(t, grey, many, 3, 4), 4, "fifty paints are many, but not too many")
	assert.Len(t, recipes(t, grey, paints[:1], 3, 99), 5, "one paint has five strengths")
	for why, call := range map[string]func() error{
		"no paints": func() error { _, err := pigment.Recipes(context.Background(), grey, white(t), nil, 3, 1); return err },
		"choose fewer": func() error {
			_, err := pigment.Recipes(context.Background(), grey, white(t), make([]pigment.Paint, 61), 3, 1)
			return err
		},
		"one to 3 paints": func() error {
			_, err := pigment.Recipes(context.Background(), grey, white(t), paints, 4, 1)
			return err
		},
		"wanted colour is": func() error {
			_, err := pigment.Recipes(context.Background(), pigment.Lab{L: math.NaN()}, white(t), paints, 3, 1)
			return err
		},
		"context canceled": func() error {
			ctx, stop := context.WithCancel(context.Background())
			stop()
			_, err := pigment.Recipes(ctx, grey, white(t), paints, 3, 1)
			return err
		},
	} {
		assert.ErrorContains(t, call(), why)
	}
}

func TestDifferencesInWords(t *testing.T) {
	blue := pigment.Lab{L: 50, A: 0, B: -40}
	for _, tc := range []struct {
		got  pigment.Lab
		want string
	}{
		{blue, ""},
		{pigment.Lab{L: 60, A: 0, B: -40}, "lighter"},
		{pigment.Lab{L: 40, A: 0, B: -20}, "darker and duller"},
		{pigment.Lab{L: 50, A: 15, B: -40}, "redder"},
		{pigment.Lab{L: 50, A: -15, B: -40}, "greener"},
		{pigment.Lab{L: 50, A: 0, B: -60}, "cleaner"},
	} {
		assert.Equal(t, tc.want, pigment.Leaning(blue, tc.got), fmt.Sprint(tc.got))
	}
	assert.Equal(t, "yellower", pigment.Leaning(pigment.Lab{L: 50, A: 40}, pigment.Lab{L: 50, A: 40, B: 15}))
	assert.Equal(t, "bluer", pigment.Leaning(pigment.Lab{L: 50, A: 40}, pigment.Lab{L: 50, A: 40, B: -15}))
	words := []string{"cannot be told apart", "very close", "close", "near", "the nearest these give"}
	for i, away := range []float64{0.5, 2, 4, 8, 30} {
		assert.Equal(t, words[i], pigment.Nearness(away))
	}
}

func BenchmarkRecipes24(b *testing.B) {
	paints, _ := allPaints()
	targets := []pigment.Lab{{L: 60, A: 30, B: 20}, {L: 40, A: -20, B: 10}, {L: 80, A: 5, B: 30}, {L: 30, A: 10, B: -40}}
	recipes(b, targets[0], paints, 3, 5)
	for i := 0; b.Loop(); i++ {
		recipes(b, targets[i%len(targets)], paints, 3, 5)
	}
}
