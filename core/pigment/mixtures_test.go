package pigment_test

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/pigment"
)

// called says what a painter calls a colour: the region of lightness, chroma and hue that
// the word covers, degrees from red over yellow. These are our own words for them.
var called = map[string]struct{ light, chroma, hue [2]float64 }{
	"bright green":   {[2]float64{50, 85}, [2]float64{55, 95}, [2]float64{120, 150}},
	"leaf green":     {[2]float64{45, 85}, [2]float64{40, 75}, [2]float64{105, 130}},
	"dark olive":     {[2]float64{30, 55}, [2]float64{20, 45}, [2]float64{90, 115}},
	"sap green":      {[2]float64{40, 80}, [2]float64{45, 75}, [2]float64{110, 135}},
	"grey green":     {[2]float64{40, 70}, [2]float64{6, 20}, [2]float64{95, 190}},
	"violet":         {[2]float64{25, 60}, [2]float64{40, 75}, [2]float64{300, 322}},
	"neutral grey":   {[2]float64{30, 65}, [2]float64{0, 8}, [2]float64{0, 360}},
	"blue grey":      {[2]float64{30, 65}, [2]float64{8, 25}, [2]float64{255, 300}},
	"mauve grey":     {[2]float64{30, 65}, [2]float64{8, 20}, [2]float64{290, 330}},
	"coral":          {[2]float64{55, 75}, [2]float64{45, 80}, [2]float64{30, 55}},
	"orange":         {[2]float64{60, 85}, [2]float64{55, 95}, [2]float64{52, 78}},
	"brown":          {[2]float64{35, 65}, [2]float64{25, 45}, [2]float64{40, 85}},
	"turquoise blue": {[2]float64{45, 75}, [2]float64{28, 55}, [2]float64{215, 250}},
	"pink":           {[2]float64{75, 92}, [2]float64{12, 35}, [2]float64{0, 45}},
	"indigo":         {[2]float64{20, 40}, [2]float64{10, 25}, [2]float64{255, 290}},
}

// Fifteen mixtures that painters know, as milk on white paper. The list is told in
// docs/models.md.
func TestMixturesComeOutAsPaintersNameThem(t *testing.T) {
	ground, err := pigment.Paper("white")
	require.NoError(t, err)
	for _, m := range []struct {
		name string
		a    string
		n    float64
		b    string
		o    float64
	}{
		{"bright green", "PB15:3", 1, "PY3", 2},
		{"leaf green", "PB29", 1, "PY3", 3},
		{"dark olive", "PBk9", 1, "PY3", 2},
		{"sap green", "PG7", 1, "PY150", 3},
		{"grey green", "PY42", 2, "PB29", 1},
		{"violet", "PB29", 1, "PV19", 1},
		{"neutral grey", "PB29", 2, "PBr7", 3},
		{"blue grey", "PB29", 3, "PBr7", 2},
		{"mauve grey", "PB28", 2, "PO62", 1},
		{"coral", "PY150", 1, "PV19", 1},
		{"orange", "PY3", 2, "PV19", 1},
		{"brown", "PO62", 2, "PB29", 1},
		{"turquoise blue", "PB29", 1, "PG7", 1},
		{"pink", "PW6", 4, "PR254", 1},
		{"indigo", "PBk7", 1, "PB29", 2},
	} {
		a, err := pigment.ByCI(m.a)
		require.NoError(t, err)
		b, err := pigment.ByCI(m.b)
		require.NoError(t, err)
		mix, err := pigment.Mix(pigment.Part{Paint: a.Paint(), Parts: m.n}, pigment.Part{Paint: b.Paint(), Parts: m.o})
		require.NoError(t, err)
		r := pigment.Seen(pigment.Stack(ground, pigment.Coat{Paint: mix, Load: 1}), pigment.Dry)
		lab := r.Lab()
		hue := math.Mod(math.Atan2(lab.B, lab.A)*180/math.Pi+360, 360)
		want := called[m.name]
		for what, v := range map[string]struct {
			is      float64
			between [2]float64
		}{"lightness": {lab.L, want.light}, "chroma": {lab.Chroma(), want.chroma}, "hue": {hue, want.hue}} {
			assert.True(t, v.is >= v.between[0] && v.is <= v.between[1], "%s and %s are no %s: a %s of %.0f is outside %v", m.a, m.b, m.name, what, v.is, v.between)
		}
	}
}

// overDarkBlue is the lightness of coats over dark blue.
func overDarkBlue(t *testing.T, strength pigment.Strength, coats int) float64 {
	ground, err := pigment.Paper("white")
	require.NoError(t, err)
	coat := func(ci string, s pigment.Strength) pigment.Coat {
		p, err := pigment.ByCI(ci)
		require.NoError(t, err)
		load, err := s.Load()
		require.NoError(t, err)
		return pigment.Coat{Paint: p.Paint(), Load: load}
	}
	all := []pigment.Coat{coat("PB29", pigment.Cream)}
	for range coats {
		all = append(all, coat("PW6", strength))
	}
	r := pigment.Seen(pigment.Stack(ground, all...), pigment.Dry)
	return r.Lab().L
}

// Opaque white sinks as it dries: thin it does next to nothing, two coats as milk or one
// or two as cream bring a dark blue back.
func TestWhiteSinks(t *testing.T) {
	bare := overDarkBlue(t, pigment.Cream, 0)
	assert.Less(t, overDarkBlue(t, pigment.WeakTea, 1)-bare, 4.0)
	assert.Less(t, overDarkBlue(t, pigment.Milk, 1), 80.0)
	assert.GreaterOrEqual(t, overDarkBlue(t, pigment.Milk, 2), 80.0)
	assert.GreaterOrEqual(t, overDarkBlue(t, pigment.Cream, 2), 80.0)
	assert.Greater(t, overDarkBlue(t, pigment.Cream, 1), overDarkBlue(t, pigment.Milk, 1))
}

// Lemon as tea all but vanishes over black.
func TestLemonOverBlack(t *testing.T) {
	ground, err := pigment.Paper("white")
	require.NoError(t, err)
	lemon, err := pigment.ByCI("PY3")
	require.NoError(t, err)
	for _, ci := range []string{"PBk7", "PBk9"} {
		black, err := pigment.ByCI(ci)
		require.NoError(t, err)
		bare := pigment.Stack(ground, pigment.Coat{Paint: black.Paint(), Load: 2.5})
		under, over := pigment.Seen(bare, pigment.Dry), pigment.Seen(pigment.Stack(bare, pigment.Coat{Paint: lemon.Paint(), Load: 0.35}), pigment.Dry)
		assert.Less(t, over.Lab().L-under.Lab().L, 3.0, ci)
	}
}

// A dry surface sends a fortieth of the light back from above the paint; water takes that.
func TestHaze(t *testing.T) {
	var black pigment.Spectrum
	for w, want := range map[pigment.Wetness]float64{pigment.Dry: 0.025, pigment.Damp: 0.0175, pigment.Gloss: 0} {
		seen := pigment.Seen(black, w)
		for _, v := range seen {
			assert.InDelta(t, want, v, 1e-12)
		}
	}
	r := paper(t, "kraft")
	assert.Equal(t, pigment.Wet(r, pigment.Gloss), pigment.Seen(r, pigment.Gloss))
}
