package panel_test

import (
	"context"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
)

func recoloured(t testing.TB, w panel.Way, washes ...card.Wash) *card.Card {
	c, s := paneltest.Card(t, 2, 1)
	paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, washes...)
	paneltest.Area(t, c, s, "Right", [][2]int{{1, 0}}, washes[0])
	require.NoError(t, w.Recolour(context.Background(), c, pigment.Library()))
	require.NoError(t, c.Check())
	return c
}

func TestOnePaintForAnother(t *testing.T) {
	two := card.Wash{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 2}, {CI: "PV19", Parts: 1}}}
	c := recoloured(t, panel.Way{From: "PB29", To: "PG7"}, flat("PB29", pigment.Milk), two)
	assert.Equal(t, []card.Part{{CI: "PG7", Parts: 1}}, c.Areas[0].Washes[0].Mix)
	assert.Equal(t, []card.Part{{CI: "PG7", Parts: 2}, {CI: "PV19", Parts: 1}}, c.Areas[0].Washes[1].Mix)
	c = recoloured(t, panel.Way{From: "PB29", To: "PV19"}, flat("PB29", pigment.Milk), two)
	assert.Equal(t, []card.Part{{CI: "PV19", Parts: 3}}, c.Areas[0].Washes[1].Mix, "what is there already grows")
	assert.Len(t, two.Mix, 2, "the mix of others is not touched")
	for why, w := range map[string]panel.Way{"no wash of this card": {From: "PBk7", To: "PG7"}, "no pigment": {From: "PB29", To: "X"}, "-360 to 360": {Turn: math.NaN()}} {
		c, s := paneltest.Card(t, 2, 1)
		paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, flat("PB29", pigment.Milk))
		assert.ErrorContains(t, w.Recolour(context.Background(), c, pigment.Library()), why)
	}
}

// Turned by half a circle, blue becomes a warm colour about as light; one mix stays
// one.
func TestHuesAreTurned(t *testing.T) {
	before := panel.LookOf("cotton-cp", []card.Wash{flat("PB29", pigment.Tea)}).Dense.Lab
	c := recoloured(t, panel.Way{Turn: 180}, flat("PB29", pigment.Tea))
	after := panel.LookOf("cotton-cp", c.Areas[0].Washes).Dense.Lab
	assert.Less(t, before.B, -20.0)
	assert.Greater(t, after.B, 20.0)
	assert.InDelta(t, before.L, after.L, 6)
	assert.Equal(t, c.Areas[0].Washes[0].Mix, c.Areas[1].Washes[0].Mix)
	assert.Equal(t, "hues turned by 180°", panel.Way{Turn: 180}.Words(c, nil))
	stopped, stop := context.WithCancel(context.Background())
	stop()
	assert.ErrorIs(t, panel.Way{Turn: 60}.Recolour(stopped, c, pigment.Library()), context.Canceled)
	assert.ErrorContains(t, panel.Way{Turn: 60}.Recolour(context.Background(), c, nil), "no paints")
}

// A colouring to start from has a pale background and strong accents, each mixed of the
// paints there are; areas that were kept white stay so.
func TestColouringsToStartFrom(t *testing.T) {
	gathered := func() *card.Card {
		c, s := paneltest.Card(t, 4, 3)
		paneltest.Area(t, c, s, "Sky", [][2]int{{0, 0}, {1, 0}, {2, 0}, {3, 0}, {0, 1}, {1, 1}})
		paneltest.Area(t, c, s, "Shell", [][2]int{{2, 1}, {3, 1}})
		paneltest.Area(t, c, s, "Sand", [][2]int{{0, 2}, {1, 2}})
		paneltest.Area(t, c, s, "Eye", [][2]int{{2, 2}})
		paneltest.Area(t, c, s, "Moon", [][2]int{{3, 2}})
		c.Areas[4].White = true
		return c
	}
	hue := func(l pigment.Lab) float64 { return math.Mod(math.Atan2(l.B, l.A)*180/math.Pi+360, 360) }
	var first, mixes []string
	for n := range panel.Starts(gathered()) {
		c := gathered()
		way := panel.Way{Start: n + 1}
		require.NoError(t, way.Recolour(context.Background(), c, pigment.Library()))
		require.NoError(t, c.Check())
		look := func(i int) pigment.Lab { return panel.LookOf(c.Paper, c.Areas[i].Washes).Dense.Lab }
		for i := 1; i < 4; i++ {
			assert.Greater(t, look(0).L, look(i).L, "%s: %s is darker than the ground", way.Words(c, nil), c.Areas[i].Name)
		}
		assert.Less(t, look(3).L, look(1).L, "the accent is the darkest")
		assert.Empty(t, c.Areas[4].Washes)
		first = append(first, card.MixCodes(c.Areas[1].Washes[0].Mix))
		for _, a := range c.Areas[:4] {
			mixes = append(mixes, card.MixCodes(a.Washes[0].Mix)+" "+string(a.Washes[0].Strength))
		}
		if n == 0 {
			assert.InDelta(t, 55, hue(look(1)), 45, "warm")
			assert.InDelta(t, 240, hue(look(0)), 45, "cool")
		}
	}
	assert.Len(t, first, 3)
	assert.NotEqual(t, first[0], first[2])
	assert.Equal(t, []string{
		"PV19 + PB15:3 1:3 weak tea", "PR254 + PW4 1:2 paste", "PR108 + PG36 6:1 tea", "PR108 + PR122 2:3 paste",
		"PB15:3 + PG17 3:2 weak tea", "PY3 + PG17 4:1 paste", "PY3 + PG17 1:3 milk", "PY3 + PR254 1:3 paste",
		"PR101 + PG36 4:1 weak tea", "PV19 + PG7 1:6 milk", "PB36 + PW6 3:1 cream", "PR122 + PW4 2:1 paste",
	}, mixes)
	assert.Equal(t, "warm ground, cool subject", panel.Way{Start: 3}.Words(gathered(), nil))
	assert.Equal(t, "hues turned by 0°", panel.Way{Start: 4}.Words(gathered(), nil), "there is no fourth")

	c := gathered()
	c.Wanted = []pigment.Swatch{{Hex: "#f2e3c4"}, {Hex: "#7a2f86"}, {Hex: "#3f8f5a"}}
	require.Len(t, panel.Starts(c), 4)
	require.NoError(t, panel.Way{Start: 1}.Recolour(context.Background(), c, pigment.Library()))
	want, err := pigment.ParseHex("#3f8f5a")
	require.NoError(t, err)
	assert.Less(t, pigment.Difference(want.Lab(), panel.LookOf(c.Paper, c.Areas[1].Washes).Dense.Lab), 8.0, "the subject is the green that is wanted")
	assert.ErrorContains(t, panel.Way{Start: 9}.Recolour(context.Background(), c, pigment.Library()), "not offered")
	empty, _ := paneltest.Card(t, 2, 1)
	assert.ErrorContains(t, panel.Way{Start: 1}.Recolour(context.Background(), empty, pigment.Library()), "no area yet")
}

func TestMixingCharts(t *testing.T) {
	pairs, err := panel.Palette{Paper: "cotton-cp"}.Chart([]string{"PY3", "PB15:3", "PV19"})
	require.NoError(t, err)
	require.Len(t, pairs, 3)
	assert.Equal(t, [2]string{"PY3", "PB15:3"}, [2]string{pairs[0].A.CI, pairs[0].B.CI})
	require.Len(t, pairs[0].Rows, len(panel.ChartRatios()))
	for _, row := range pairs[0].Rows {
		require.Len(t, row, len(panel.ChartStrengths()))
		for k := 1; k < len(row); k++ {
			assert.Less(t, row[k].Lab.L, row[k-1].Lab.L, "the stronger the darker")
		}
	}
	green := pairs[0].Rows[1][1].Lab
	assert.Less(t, green.A, -15.0, "yellow and phthalo blue make green")
	for why, paints := range map[string][]string{"2 to 10": {"PY3"}, "stands twice": {"PY3", "PY3"}, "no pigment": {"PY3", "X"}} {
		_, err := panel.Palette{Paper: "cotton-cp"}.Chart(paints)
		assert.ErrorContains(t, err, why)
	}
}

// A recipe of paints that are mixed already is taken apart into pigments.
func TestRecipesOfMixedPaints(t *testing.T) {
	from := []panel.Ingredient{{{CI: "PBr7", Parts: 2}, {CI: "PBk7", Parts: 1}}, {{CI: "PB29", Parts: 1}}, {{CI: "PBk7", Parts: 1}, {CI: "PV19", Parts: 1}}}
	recipe := func(parts ...pigment.RecipePart) pigment.Recipe {
		return pigment.Recipe{Parts: parts, Strength: pigment.Tea}
	}
	mix, ok := panel.MixOf(recipe(pigment.RecipePart{Paint: 0, Parts: 1}, pigment.RecipePart{Paint: 1, Parts: 1}), from)
	assert.True(t, ok)
	assert.Equal(t, []card.Part{{CI: "PBr7", Parts: 2}, {CI: "PBk7", Parts: 1}, {CI: "PB29", Parts: 3}}, mix)
	mix, ok = panel.MixOf(recipe(pigment.RecipePart{Paint: 0, Parts: 3}, pigment.RecipePart{Paint: 2, Parts: 2}), from)
	assert.True(t, ok)
	assert.Equal(t, []card.Part{{CI: "PBr7", Parts: 2}, {CI: "PBk7", Parts: 2}, {CI: "PV19", Parts: 1}}, mix, "the black of both is added up")
	_, ok = panel.MixOf(recipe(pigment.RecipePart{Paint: 0, Parts: 1}, pigment.RecipePart{Paint: 1, Parts: 1}, pigment.RecipePart{Paint: 2, Parts: 1}), from)
	assert.False(t, ok, "four pigments")
	blends := panel.Palette{Paper: "cotton-cp"}.Blends(from)
	brown, black := blends[0].K[3], panel.Palette{}.Blends(panel.Ingredients([]pigment.Pigment{*known(t, "PBk7")}))[0].K[3]
	assert.NotEqual(t, black, brown)
}

func known(t *testing.T, ci string) *pigment.Pigment {
	t.Helper()
	p, err := pigment.ByCI(ci)
	require.NoError(t, err)
	return p
}

func TestWhiteStaysWhite(t *testing.T) {
	c := recoloured(t, panel.Way{Turn: 120}, flat("PB29", pigment.Tea), flat("PW6", pigment.Cream), flat("PBk7", pigment.Tea))
	washes := c.Areas[0].Washes
	assert.NotEqual(t, "PB29", card.MixCodes(washes[0].Mix))
	assert.Equal(t, [2]string{"PW6", "PBk7"}, [2]string{card.MixCodes(washes[1].Mix), card.MixCodes(washes[2].Mix)})
}
