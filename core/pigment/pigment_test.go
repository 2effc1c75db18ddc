package pigment_test

import (
	"fmt"
	"math"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/pigment"
)

func Example() {
	paper, _ := pigment.Paper("white")
	blue, _ := pigment.ByCI("PB29")
	wash := pigment.Stack(paper, pigment.Coat{Paint: blue.Paint(), Load: 0.35})
	wet := pigment.Wet(wash, pigment.Gloss)
	fmt.Println("wet", wet.Hex(), "dries", wash.Hex())
	// Output: wet #5e99de dries #81b7ee
}

// The pairs published with Sharma, Wu and Dalal 2005.
var sharma = [][7]float64{
	{50, 2.6772, -79.7751, 50, 0, -82.7485, 2.0425}, {50, 3.1571, -77.2803, 50, 0, -82.7485, 2.8615},
	{50, 2.8361, -74.0200, 50, 0, -82.7485, 3.4412}, {50, -1.3802, -84.2814, 50, 0, -82.7485, 1.0000},
	{50, -1.1848, -84.8006, 50, 0, -82.7485, 1.0000}, {50, -0.9009, -85.5211, 50, 0, -82.7485, 1.0000},
	{50, 0, 0, 50, -1, 2, 2.3669}, {50, -1, 2, 50, 0, 0, 2.3669},
	{50, 2.4900, -0.0010, 50, -2.4900, 0.0009, 7.1792}, {50, 2.4900, -0.0010, 50, -2.4900, 0.0010, 7.1792},
	{50, 2.4900, -0.0010, 50, -2.4900, 0.0011, 7.2195}, {50, 2.4900, -0.0010, 50, -2.4900, 0.0012, 7.2195},
	{50, -0.0010, 2.4900, 50, 0.0009, -2.4900, 4.8045}, {50, -0.0010, 2.4900, 50, 0.0010, -2.4900, 4.8045},
	{50, -0.0010, 2.4900, 50, 0.0011, -2.4900, 4.7461}, {50, 2.5, 0, 50, 0, -2.5, 4.3065},
	{50, 2.5, 0, 73, 25, -18, 27.1492}, {50, 2.5, 0, 61, -5, 29, 22.8977},
	{50, 2.5, 0, 56, -27, -3, 31.9030}, {50, 2.5, 0, 58, 24, 15, 19.4535},
	{50, 2.5, 0, 50, 3.1736, 0.5854, 1.0000}, {50, 2.5, 0, 50, 3.2972, 0, 1.0000},
	{50, 2.5, 0, 50, 1.8634, 0.5757, 1.0000}, {50, 2.5, 0, 50, 3.2592, 0.3350, 1.0000},
	{60.2574, -34.0099, 36.2677, 60.4626, -34.1751, 39.4387, 1.2644},
	{63.0109, -31.0961, -5.8663, 62.8187, -29.7946, -4.0864, 1.2630},
	{61.2901, 3.7196, -5.3901, 61.4292, 2.2480, -4.9620, 1.8731},
	{35.0831, -44.1164, 3.7933, 35.0232, -40.0716, 1.5901, 1.8645},
	{22.7233, 20.0904, -46.6940, 23.0331, 14.9730, -42.5619, 2.0373},
	{36.4612, 47.8580, 18.3852, 36.2715, 50.5065, 21.2231, 1.4146},
	{90.8027, -2.0831, 1.4410, 91.1528, -1.6435, 0.0447, 1.4441},
	{90.9257, -0.5406, -0.9208, 88.6381, -0.8985, -0.7239, 1.5381},
	{6.7747, -0.2908, -2.4247, 5.8714, -0.0985, -2.2286, 0.6377},
	{2.0776, 0.0795, -1.1350, 0.9033, -0.0636, -0.5514, 0.9082},
}

func TestDifferenceAgreesWithThePublishedPairs(t *testing.T) {
	require.Len(t, sharma, 34)
	for i, p := range sharma {
		a, b := pigment.Lab{L: p[0], A: p[1], B: p[2]}, pigment.Lab{L: p[3], A: p[4], B: p[5]}
		assert.InDelta(t, p[6], pigment.Difference(a, b), 1e-4, "pair %d", i+1)
		assert.InDelta(t, p[6], pigment.Difference(b, a), 1e-4, "pair %d turned round", i+1)
	}
}

func paper(t testing.TB, colour string) pigment.Spectrum {
	s, err := pigment.Paper(colour)
	require.NoError(t, err)
	return s
}

func paint(t testing.TB, ci string) pigment.Paint {
	p, err := pigment.ByCI(ci)
	require.NoError(t, err)
	return p.Paint()
}

func coat(t testing.TB, ci string, load pigment.Load) pigment.Coat {
	return pigment.Coat{Paint: paint(t, ci), Load: load}
}

func lab(t testing.TB, coats ...pigment.Coat) pigment.Lab {
	r := pigment.Stack(paper(t, "white"), coats...)
	return r.Lab()
}

func TestWhiteIsWhite(t *testing.T) {
	var one pigment.Spectrum
	for i := range one {
		one[i] = 1
	}
	assert.Equal(t, "#ffffff", one.Hex())
	l := one.Lab()
	assert.InDelta(t, 100, l.L, 0.01)
	assert.InDelta(t, 0, l.Chroma(), 0.02)
	for colour, hex := range map[string]string{"white": "#f7f7f5", "cream": "#f4f2e4", "kraft": "#bb9a7f"} {
		s := paper(t, colour)
		assert.Equal(t, hex, s.Hex(), colour)
	}
}

// Known looks of the generic paints on white paper.
func TestSwatches(t *testing.T) {
	for _, c := range []struct {
		ci       string
		strength pigment.Strength
		hex      string
	}{
		{"PB29", pigment.WeakTea, "#bfd9f3"}, {"PY3", pigment.Milk, "#fcee00"}, {"PV19", pigment.Cream, "#df163f"},
		{"PBr7", pigment.Paste, "#503c35"}, {"PG7", pigment.Tea, "#16dcd1"},
	} {
		x, err := c.strength.Load()
		require.NoError(t, err)
		r := pigment.Stack(paper(t, "white"), coat(t, c.ci, x))
		assert.Equal(t, c.hex, r.Hex(), "%s %s", c.ci, c.strength)
	}
}

func spectrum(lo, hi float64) *rapid.Generator[pigment.Spectrum] {
	return rapid.Custom(func(t *rapid.T) pigment.Spectrum {
		var s pigment.Spectrum
		copy(s[:], rapid.SliceOfN(rapid.Float64Range(lo, hi), pigment.Bands, pigment.Bands).Draw(t, "bands"))
		return s
	})
}

func near(t require.TestingT, want, got pigment.Spectrum, eps float64, what string) {
	for i := range want {
		require.InDelta(t, want[i], got[i], eps, "%s, band %d", what, i)
	}
}

func TestKubelkaMunkIdentities(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		g := spectrum(0, 1).Draw(t, "ground")
		p := pigment.Paint{K: spectrum(0, 20).Draw(t, "K"), S: spectrum(0, 20).Draw(t, "S")}
		x := pigment.Load(rapid.Float64Range(0.01, 5).Draw(t, "load"))
		once := p.Over(&g, x)
		for _, v := range once {
			require.True(t, v >= -1e-12 && v <= 1+1e-12, "reflectance %g", v)
		}
		near(t, g, p.Over(&g, 0), 1e-12, "no load leaves the ground")
		near(t, pigment.Stack(g, pigment.Coat{Paint: p, Load: x / 2}, pigment.Coat{Paint: p, Load: x / 2}), once, 1e-9, "two half layers are one")
		R, T := p.Free(x)
		for i := range g {
			require.InDelta(t, once[i], R[i]+T[i]*T[i]*g[i]/(1-R[i]*g[i]), 1e-9, "a free layer laid on the ground")
		}
	})
}

func TestKubelkaMunkLimits(t *testing.T) {
	g := paper(t, "kraft")
	p := paint(t, "PR108")
	near(t, p.Infinite(), p.Over(&g, 1e5), 1e-9, "infinite thickness")

	clear := pigment.Paint{K: p.K}
	r := clear.Over(&g, 0.7)
	for i := range r {
		assert.InDelta(t, g[i]*math.Exp(-2*p.K[i]*0.7), r[i], 1e-9, "S → 0 is Beer and Lambert, twice through")
	}
	chalk := pigment.Paint{S: p.S}
	r = chalk.Over(&g, 2)
	for i := range r {
		want := (g[i] + (1-g[i])*p.S[i]*2) / (1 + (1-g[i])*p.S[i]*2)
		assert.InDelta(t, want, r[i], 1e-6, "K → 0 only scatters")
	}
}

func mixed(t *testing.T, load pigment.Load, cis ...string) pigment.Coat {
	var parts []pigment.Part
	for _, ci := range cis {
		parts = append(parts, pigment.Part{Paint: paint(t, ci), Parts: 1})
	}
	p, err := pigment.Mix(parts...)
	require.NoError(t, err)
	return pigment.Coat{Paint: p, Load: load}
}

func hueDegrees(l pigment.Lab) float64 {
	return math.Mod(math.Atan2(l.B, l.A)*180/math.Pi+360, 360)
}

// What every painter knows.
func TestPaintBehavesAsPaintersKnow(t *testing.T) {
	green := lab(t, mixed(t, 1, "PY3", "PB15:3"))
	dull := lab(t, mixed(t, 1, "PY3", "PB29"))
	h := hueDegrees(green)
	assert.True(t, h > 120 && h < 190, "yellow and phthalo blue make green, not hue %.0f", h)
	assert.Greater(t, green.Chroma(), dull.Chroma()+8, "and a cleaner one than with ultramarine")

	violet := hueDegrees(lab(t, mixed(t, 1, "PV19", "PB29")))
	assert.True(t, violet > 290 && violet < 360, "quinacridone and ultramarine make violet, not hue %.0f", violet)
	assert.Less(t, lab(t, mixed(t, 1, "PO62", "PB29")).Chroma(), 30.0, "complements neutralise")

	blue, over := lab(t, coat(t, "PB29", 0.35)), lab(t, coat(t, "PB29", 0.35), coat(t, "PY150", 0.35))
	assert.Less(t, over.L, blue.L, "a yellow glaze over blue darkens")
	assert.Less(t, hueDegrees(over), hueDegrees(blue), "and turns it towards green")

	black := paper(t, "black")
	glazed := pigment.Stack(black, coat(t, "PY150", 0.35))
	opaque := pigment.Stack(black, coat(t, "PY35", 0.35))
	assert.Less(t, pigment.Difference(black.Lab(), glazed.Lab()), 9.0, "a transparent yellow all but vanishes on black")
	assert.Greater(t, pigment.Difference(black.Lab(), opaque.Lab()), 20.0, "an opaque one does not")

	hidden := lab(t, coat(t, "PB15:3", 1), coat(t, "PR108", 6))
	assert.Less(t, pigment.Difference(hidden, lab(t, coat(t, "PR108", 6))), 5.0, "cadmium hides blue")
}

func TestWetIsNeverLighter(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := spectrum(0, 1).Draw(t, "R")
		damp, gloss := pigment.Wet(r, pigment.Damp), pigment.Wet(r, pigment.Gloss)
		for i := range r {
			require.LessOrEqual(t, damp[i], r[i]+1e-12)
			require.LessOrEqual(t, gloss[i], damp[i]+1e-12)
		}
		near(t, r, pigment.Wet(r, pigment.Dry), 0, "dry changes nothing")
	})
}

// A wash dries a tenth to a fifth lighter, as painters say, and blacks by a third: matt
// as they are dry, nothing is so black as wet.
func TestWashesDryLighter(t *testing.T) {
	for _, p := range pigment.Library() {
		dry := pigment.Stack(paper(t, "white"), pigment.Coat{Paint: p.Paint(), Load: 0.35})
		wet := pigment.Wet(dry, pigment.Gloss)
		if d, w := dry.Lab().L, wet.Lab().L; d < 90 { // near white there is little to see
			assert.Greater(t, (d-w)/d, 0.05, "%s", p.CI)
			assert.Less(t, (d-w)/d, map[bool]float64{true: 0.33, false: 0.22}[strings.HasPrefix(p.CI, "PBk")], "%s", p.CI)
		}
	}
}

func TestMud(t *testing.T) {
	white := paper(t, "white")
	assert.Equal(t, pigment.Mud, pigment.Meet(white, coat(t, "PR254", 1), coat(t, "PG7", 1)))
	assert.Equal(t, pigment.StaysClean, pigment.Meet(white, coat(t, "PY3", 1), coat(t, "PO62", 1)))
	assert.Equal(t, pigment.WillGrey, pigment.Meet(white, coat(t, "PBk9", 1), coat(t, "PO62", 1)))
}

func TestContrast(t *testing.T) {
	at := func(l float64) pigment.Lab { return pigment.Lab{L: l} }
	assert.Equal(t, pigment.MeltsTogether, pigment.Compare(at(50), at(54.9)))
	assert.Equal(t, pigment.Weak, pigment.Compare(at(59), at(50)))
	assert.Equal(t, pigment.Reads, pigment.Compare(at(50), at(61)))
	assert.Equal(t, pigment.Strong, pigment.Compare(at(20), at(90)))
}

func TestCoats(t *testing.T) {
	white := paper(t, "white")
	n, limit := pigment.Coats(white, paint(t, "PB29"), 0.35, 50)
	assert.Equal(t, 3, n)
	assert.InDelta(t, 28, limit, 1.5)
	n, limit = pigment.Coats(white, paint(t, "PY3"), 0.35, 70)
	assert.Zero(t, n, "lemon yellow cannot go that dark")
	assert.InDelta(t, 59, limit, 1)
	dark := pigment.Stack(white, coat(t, "PB29", 6))
	for want, coats := range map[float64][2]int{70: {2, 1}, 80: {3, 1}, 90: {6, 3}} {
		n, _ = pigment.Coats(dark, paint(t, "PW6"), 1, want)
		assert.InDelta(t, coats[0], n, 1, "white at milk to L* %g", want)
		n, _ = pigment.Coats(dark, paint(t, "PW6"), 2.5, want)
		assert.InDelta(t, coats[1], n, 1, "white at cream to L* %g", want)
	}
}

func TestBadMixesAreRefused(t *testing.T) {
	for _, parts := range [][]pigment.Part{nil, {{Parts: 0}}, {{Parts: -1}}, {{Parts: math.NaN()}}, {{Parts: math.Inf(1)}}} {
		_, err := pigment.Mix(parts...)
		assert.Error(t, err)
	}
	_, err := pigment.ByCI("PX99")
	assert.ErrorContains(t, err, "PX99")
	_, err = pigment.Paper("blue")
	assert.ErrorContains(t, err, "white")
	_, err = pigment.Strength("espresso").Load()
	assert.ErrorContains(t, err, "milk")
	_, err = pigment.ParseHex("#12345")
	assert.Error(t, err)
	for _, bad := range [][2][]float64{{{400}, {1}}, {{400, 390}, {0.5, 0.5}}, {{400, 500}, {0.5, 2}}, {{400, 500}, {0.5}}} {
		_, err := pigment.Resample(bad[0], bad[1])
		assert.Error(t, err)
	}
}

func TestResample(t *testing.T) {
	s, err := pigment.Resample([]float64{400, 500, 700}, []float64{0.2, 0.4, 0.8})
	require.NoError(t, err)
	assert.Equal(t, 0.2, s[0])
	assert.InDelta(t, 0.3, s[7], 1e-12)
	assert.Equal(t, 0.8, s[35])
}

// One mix of two paints in changing parts, laid on paper as milk.
func BenchmarkMixToHex(b *testing.B) {
	white := paper(b, "white")
	blue, yellow := coat(b, "PB29", 1).Paint, coat(b, "PY150", 1).Paint
	i := 0
	for b.Loop() {
		m, err := pigment.Mix(pigment.Part{Paint: blue, Parts: float64(1 + i%9)}, pigment.Part{Paint: yellow, Parts: float64(9 - i%9)})
		if err != nil {
			b.Fatal(err)
		}
		r := m.Over(&white, 1)
		_ = r.Hex()
		i++
	}
}

func BenchmarkStackToHex(b *testing.B) {
	white := paper(b, "white")
	coats := []pigment.Coat{coat(b, "PB29", 0.35), coat(b, "PY150", 1)}
	for b.Loop() {
		r := pigment.Stack(white, coats...)
		_ = r.Hex()
	}
}

// Every pigment has a name that painters use, of which there is one each.
func TestCommonNames(t *testing.T) {
	seen := map[string]bool{}
	for _, p := range pigment.Library() {
		assert.Regexp(t, `^[a-z]+( [a-z]+){0,2}$`, p.Common)
		assert.False(t, seen[p.Common], p.Common)
		seen[p.Common] = true
		got, err := pigment.Named(strings.ToUpper(p.Common))
		require.NoError(t, err)
		assert.Equal(t, p.CI, got.CI)
		assert.Equal(t, p.Common, pigment.Common(p.CI))
	}
	assert.Equal(t, "PX1", pigment.Common("PX1"))
	_, err := pigment.Named("blurple")
	assert.ErrorContains(t, err, "no pigment")
}

// Metals are found by name, stay out of recipes, and are told apart by their tone: gold is
// warm and covers, silver has no hue, pearl and clear hardly show aside from the light.
func TestMetals(t *testing.T) {
	white, err := pigment.Paper("white")
	require.NoError(t, err)
	black, err := pigment.Paper("black")
	require.NoError(t, err)
	lab := map[string][2]pigment.Lab{}
	for _, p := range pigment.Metals() {
		found, err := pigment.Named(p.Common)
		require.NoError(t, err)
		assert.Equal(t, p.CI, found.CI)
		assert.Positive(t, p.Glint)
		assert.False(t, slices.ContainsFunc(pigment.Library(), func(q pigment.Pigment) bool { return q.CI == p.CI }))
		paint := p.Paint()
		for i, ground := range []*pigment.Spectrum{&white, &black} {
			over := paint.Over(ground, 1)
			c := lab[p.Common]
			c[i] = over.Lab()
			lab[p.Common] = c
		}
	}
	require.Len(t, lab, 5)
	assert.Greater(t, lab["gold"][0].B, 15.0, "yellow")
	assert.Greater(t, lab["copper"][0].A, lab["gold"][0].A+5, "redder")
	assert.Less(t, math.Hypot(lab["silver"][0].A, lab["silver"][0].B), 4.0)
	assert.Less(t, lab["gold"][0].L-lab["gold"][1].L, 25.0, "it covers")
	assert.Greater(t, lab["clear glimmer"][0].L, 90.0)
	assert.Less(t, lab["clear glimmer"][1].L, 40.0, "it does not cover")
	assert.Greater(t, lab["pearl"][1].L, lab["clear glimmer"][1].L+10, "it veils a dark ground")
	assert.Len(t, pigment.All(), len(pigment.Library())+5)
}
