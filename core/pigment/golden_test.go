package pigment_test

import (
	"context"
	"fmt"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/pigment"
	"chromaqua/internal/golden"
)

// The colours that makers see on every screen are what they were: every paint at every
// strength on white and on kraft, what pairs make of each other, how many coats it
// takes, which recipes are found.
func TestColoursAreWhatTheyWere(t *testing.T) {
	var b strings.Builder
	papers := map[string]pigment.Spectrum{}
	for _, name := range []string{"white", "kraft"} {
		p, err := pigment.Paper(name)
		require.NoError(t, err)
		papers[name] = p
		lab := p.Lab()
		fmt.Fprintf(&b, "paper %s %s %.2f %.2f %.2f\n", name, p.Hex(), lab.L, lab.A, lab.B)
	}
	white, kraft := papers["white"], papers["kraft"]
	lib := pigment.Library()
	for i := range lib {
		p := &lib[i]
		paint := p.Paint()
		fmt.Fprintf(&b, "%s %s %s %s staining %d granulation %d light %s harmful %t %q\n ", p.CI, p.Name, p.Hue, p.Transparency, p.Staining, p.Granulation, p.Lightfast, p.Harmful(), p.Caution)
		for _, s := range pigment.Strengths() {
			load, err := s.Load()
			require.NoError(t, err)
			on, over := paint.Over(&white, load), paint.Over(&kraft, load)
			wet := pigment.Wet(on, pigment.Gloss)
			fmt.Fprintf(&b, " %s %s %s %s %s", s, on.Hex(), wet.Hex(), over.Hex(), on.Lab().Grey())
		}
		n, limit := pigment.Coats(white, paint, 0.35, 50)
		fmt.Fprintf(&b, "\n  coats to 50: %d, ends at %.2f\n", n, limit)
	}
	tea := func(ci string, load pigment.Load) pigment.Coat {
		p, err := pigment.ByCI(ci)
		require.NoError(t, err)
		return pigment.Coat{Paint: p.Paint(), Load: load}
	}
	for i := range lib {
		for j := range i {
			x, y := tea(lib[i].CI, 1), tea(lib[j].CI, 0.35)
			fmt.Fprintf(&b, "%s and %s: %s", lib[i].CI, lib[j].CI, pigment.Meet(white, x, y))
			if (i+j)%5 == 0 {
				mixed, err := pigment.Mix(pigment.Part{Paint: x.Paint, Parts: 2}, pigment.Part{Paint: y.Paint, Parts: 1})
				require.NoError(t, err)
				stack, r := pigment.Stack(white, x, y), mixed.Over(&white, 0.5)
				fmt.Fprintf(&b, ", over it %s, mixed %s", stack.Hex(), r.Hex())
			}
			b.WriteString("\n")
		}
	}
	golden.Same(t, "colours", b.String())
}

// Recipes for colours all round the circle are what they were.
func TestRecipesAreWhatTheyWere(t *testing.T) {
	white, err := pigment.Paper("white")
	require.NoError(t, err)
	lib := pigment.Library()
	var paints []pigment.Paint
	for i := range lib {
		paints = append(paints, lib[i].Paint())
	}
	var b strings.Builder
	for _, hex := range []string{"#7a8fc2", "#c25a4e", "#e8c95a", "#4f7a4a", "#8d6a9f", "#b08a5a", "#2d3f55", "#dfe6ea"} {
		want, err := pigment.ParseHex(hex)
		require.NoError(t, err)
		for _, most := range []int{2, 3} {
			found, err := pigment.Recipes(context.Background(), want.Lab(), white, paints[:14], most, 4)
			require.NoError(t, err)
			for _, f := range found {
				dry := f.Dry
				fmt.Fprintf(&b, "%s of %d: %v %s %s %.3f %s %s\n", hex, most, f.Parts, f.Strength, dry.Hex(), f.Away, pigment.Nearness(f.Away), pigment.Leaning(want.Lab(), f.Dry.Lab()))
			}
		}
	}
	golden.Same(t, "recipes", b.String())
}

// What is rough in the search is near what is exact, and the same by hand.
func TestNearnessAndLeaning(t *testing.T) {
	for away, want := range map[float64]string{0: "cannot be told apart", 0.99: "cannot be told apart", 1: "very close", 2.49: "very close", 2.5: "close", 4.99: "close", 5: "akin", 9.99: "akin"} {
		if want != "akin" {
			assert.Equal(t, want, pigment.Nearness(away), away)
		} else {
			assert.NotEqual(t, "close", pigment.Nearness(away), away)
		}
	}
	assert.NotEqual(t, pigment.Nearness(9.99), pigment.Nearness(10))
	at := func(l, a, b float64) pigment.Lab { return pigment.Lab{L: l, A: a, B: b} }
	for l, want := range map[float64]pigment.Contrast{54.9: pigment.MeltsTogether, 55: pigment.Weak, 59.9: pigment.Weak, 60: pigment.Reads, 69.9: pigment.Reads, 70: pigment.Strong} {
		assert.Equal(t, want, pigment.Compare(at(50, 0, 0), at(l, 9, 9)), l)
		assert.Equal(t, want, pigment.Compare(at(l, 0, 0), at(50, 9, 9)), l)
	}
	r := rand.New(rand.NewPCG(1, 2))
	for range 200 {
		p, q := at(100*r.Float64(), 80*r.Float64()-40, 80*r.Float64()-40), at(100*r.Float64(), 80*r.Float64()-40, 80*r.Float64()-40)
		assert.InDelta(t, pigment.Difference(p, q), pigment.Difference(q, p), 1e-9)
		assert.Zero(t, pigment.Difference(p, p))
	}
	assert.Equal(t, 5, len(pigment.Strengths()))
	assert.Equal(t, 36, pigment.Bands)
}

// What every two paints make where they meet, at every strength of both.
func TestMeetingsAreWhatTheyWere(t *testing.T) {
	white, err := pigment.Paper("white")
	require.NoError(t, err)
	letter := map[pigment.Meeting]string{pigment.StaysClean: ".", pigment.WillGrey: "g", pigment.Dulls: "d", pigment.Mud: "m"}
	var b strings.Builder
	lib := pigment.Library()
	for i := range lib {
		for j := range i {
			fmt.Fprintf(&b, "%s %s ", lib[i].CI, lib[j].CI)
			for _, x := range []pigment.Load{0.1, 0.4, 1, 2.5} {
				for _, y := range []pigment.Load{0.2, 1, 6} {
					b.WriteString(letter[pigment.Meet(white, pigment.Coat{Paint: lib[i].Paint(), Load: x}, pigment.Coat{Paint: lib[j].Paint(), Load: y})])
				}
			}
			b.WriteString("\n")
		}
	}
	golden.Same(t, "meetings", b.String())
}

// Paints fitted to swatches are what they were: a named pigment and one unheard of,
// from good swatches and from missed ones.
func TestFitsAreWhatTheyWere(t *testing.T) {
	var b strings.Builder
	rng := rand.New(rand.NewPCG(3, 9))
	for i, ci := range []string{"PB29", "PY3", "PBr7"} {
		p, err := pigment.ByCI(ci)
		require.NoError(t, err)
		prior := p.Paint()
		truth := another(prior, uint64(i))
		for _, like := range []*pigment.Paint{&prior, nil} {
			for _, off := range []float64{0, 0.3} {
				f, err := pigment.Fit(swatches(t, truth, map[string][]pigment.Strength{"white": {pigment.Tea, pigment.Milk}, "black": {pigment.Milk}}, rng, off, 2*off), like)
				require.NoError(t, err)
				fmt.Fprintf(&b, "%s, named %t, off by %g: away %.3f\n  K", ci, like != nil, off, f.Away)
				for k := 0; k < pigment.Bands; k += 5 {
					fmt.Fprintf(&b, " %.3g", f.Paint.K[k])
				}
				b.WriteString("\n  S")
				for k := 0; k < pigment.Bands; k += 5 {
					fmt.Fprintf(&b, " %.3g", f.Paint.S[k])
				}
				b.WriteString("\n")
			}
		}
	}
	golden.Same(t, "fits", b.String())
}

// Twenty coats are counted, the twenty-first is not.
func TestNobodyLaysMoreThanTwentyCoats(t *testing.T) {
	white, p := paper(t, "white"), paint(t, "PB29")
	for _, n := range []int{1, 19, 20, 21} {
		thin := pigment.Load(0.01)
		at := pigment.Seen(p.Over(&white, thin*pigment.Load(n)), pigment.Dry)
		want := at.Lab().L + 1e-9
		found, _ := pigment.Coats(white, p, thin, want)
		if n > 20 {
			assert.Zero(t, found)
		} else {
			assert.Equal(t, n, found)
		}
	}
}
