package ink_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/ink"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
)

func paper(t testing.TB, id string) shelf.Paper {
	p, err := shelf.PaperByID(id)
	require.NoError(t, err)
	return p
}

func find(t testing.TB, all []ink.Choice, id string) (ink.Choice, int) {
	for i, c := range all {
		if c.Ink.ID == id {
			return c, i
		}
	}
	t.Fatalf("no %s", id)
	return ink.Choice{}, 0
}

func Example() {
	cotton, _ := shelf.PaperByID("cotton-cp")
	for _, c := range ink.Rank(ink.Need{Look: shelf.Pulled, Paper: cotton, Wet: true})[:2] {
		fmt.Println(c.Ink.Name+":", c.Fit)
	}
	// Output:
	// watercolour pencil: right for it
	// dye ink or water-based marker: right for it
}

// The best of every look is made for it, and does under water what the look asks.
func TestTheBestOfEveryLook(t *testing.T) {
	for _, look := range shelf.Looks() {
		for _, id := range []string{"cotton-cp", "cotton-hp", "cotton-rough"} {
			best := ink.Rank(ink.Need{Look: look, Paper: paper(t, id), Wet: true})[0]
			assert.True(t, best.Ink.Good(look), "%s on %s: %s", look, id, best.Ink.Name)
			assert.Equal(t, ink.Right, best.Fit, "%s on %s", look, id)
			assert.NotEmpty(t, best.Reasons)
			if look == shelf.Crisp || look == shelf.Soft {
				assert.Equal(t, proof.Holds, best.Verdict, look)
			}
			if look == shelf.Pulled {
				assert.NotEqual(t, proof.Holds, best.Verdict)
			}
		}
	}
}

func TestWhatRunsIsWrongForACrispLine(t *testing.T) {
	all := ink.Rank(ink.Need{Look: shelf.Crisp, Paper: paper(t, "cotton-cp"), Wet: true})
	dye, at := find(t, all, "dye")
	assert.Equal(t, ink.Wrong, dye.Fit)
	assert.Greater(t, at, 5)
	assert.Contains(t, strings.Join(dye.Reasons, " "), "runs under the washes")
	damp, _ := find(t, ink.Rank(ink.Need{Look: shelf.Pulled, Paper: paper(t, "cotton-cp")}), "pigment-quick")
	assert.Equal(t, ink.Wrong, damp.Fit, "what holds cannot be pulled")
}

// The maker's own test turns the ranking, and says so.
func TestOwnTestsTurnTheRanking(t *testing.T) {
	n := ink.Need{Look: shelf.Crisp, Paper: paper(t, "cotton-cp"), Wet: true}
	n.Tests = []proof.Record{{Of: proof.Of{Ink: "pigment-quick", Paper: "cotton-cp"}, WaterTest: proof.WaterTest{Verdict: proof.Runs, BleedMM: 1.4}}}
	mine, at := find(t, ink.Rank(n), "pigment-quick")
	assert.NotNil(t, mine.Own)
	assert.NotEqual(t, ink.Right, mine.Fit)
	assert.Positive(t, at)
	assert.Contains(t, mine.Reasons[0], "Your own test")
	n.Tests[0].Practice = true
	mine, _ = find(t, ink.Rank(n), "pigment-quick")
	assert.Nil(t, mine.Own, "practice counts for nothing")
	n.Tests[0].Practice, n.Tests[0].Paper = false, "kraft"
	mine, _ = find(t, ink.Rank(n), "pigment-quick")
	assert.Nil(t, mine.Own, "another paper says nothing of this one")
}

func TestTexturePowderAndWaiting(t *testing.T) {
	rough := ink.Rank(ink.Need{Look: shelf.Crisp, Paper: paper(t, "cotton-rough"), Wet: true, LineMM: 0.3})
	quick, _ := find(t, rough, "pigment-quick")
	assert.Equal(t, "3 times and more", quick.Impressions)
	assert.Contains(t, quick.Positioner, "without its foam insert")
	assert.Contains(t, strings.Join(quick.Risks, " "), "Fine lines break")
	embossed, _ := find(t, rough, "embossed")
	assert.Contains(t, embossed.Powder, "superfine")
	smooth := ink.Rank(ink.Need{Look: shelf.Crisp, Paper: paper(t, "cotton-hp"), Wet: true, LineMM: 0.8, Heat: true})
	quick, _ = find(t, smooth, "pigment-quick")
	assert.Equal(t, "once", quick.Impressions)
	assert.Empty(t, quick.Positioner)
	assert.Equal(t, 30*time.Second, quick.Wait)
	embossed, _ = find(t, smooth, "embossed")
	assert.Equal(t, "clear powder, melted until it shines", embossed.Powder)
	pen, _ := find(t, smooth, "pen")
	assert.Empty(t, pen.Impressions, "a pen is no stamp")
	slow, _ := find(t, smooth, "pigment-slow")
	assert.NotEqual(t, ink.Right, slow.Fit, "it does not cure on sealed paper")
	hair, _ := find(t, ink.Rank(ink.Need{Look: shelf.Crisp, Paper: paper(t, "cotton-hp"), LineMM: 0.2}), "embossed")
	assert.Contains(t, strings.Join(hair.Risks, " "), "fill up")
}

// The powder named is the maker's own where one suits.
func TestPowdersOnTheShelf(t *testing.T) {
	embossed := func(lineMM float64, own ...shelf.Own) ink.Choice {
		c, _ := find(t, ink.Rank(ink.Need{Look: shelf.Crisp, Paper: paper(t, "cotton-hp"), LineMM: lineMM, Own: own}), "embossed")
		return c
	}
	fine, plain := shelf.Own{Name: "tin", What: shelf.OwnPowder, Like: shelf.Superfine}, shelf.Own{Name: "jar", What: shelf.OwnPowder, Like: shelf.PlainPowder}
	assert.Contains(t, embossed(0.3, plain, fine).Powder, "your tin")
	assert.Contains(t, embossed(0.8, plain, fine).Powder, "your jar", "no finer than need be")
	without := embossed(0.3, plain)
	assert.Contains(t, without.Powder, "superfine clear powder")
	assert.Contains(t, strings.Join(without.Risks, " "), "None of your powders")
	assert.NotContains(t, strings.Join(embossed(0.3).Risks, " "), "None of your powders", "who lists none may have some")
	assert.NotContains(t, strings.Join(embossed(0, plain).Risks, " "), "None of your powders")
	assert.Contains(t, embossed(0, plain).Powder, "superfine clear powder for lines under half a millimetre")
	for _, like := range []string{"powder-thick", "powder-metallic"} {
		other := shelf.Own{Name: "other", What: shelf.OwnPowder, Like: like}
		assert.NotContains(t, embossed(3, other).Powder, "other", like)
	}
}

// A vanishing line is made with what holds, or with what goes into the paint, as the maker
// likes it; no other look minds.
func TestWhatVanishesAsTheMakerLikes(t *testing.T) {
	paper, err := shelf.PaperByID("cotton-cp")
	require.NoError(t, err)
	best := func(l shelf.Look, goes bool) ink.Choice {
		return ink.Rank(ink.Need{Look: l, Paper: paper, Wet: true, Goes: goes})[0]
	}
	assert.True(t, best(shelf.Vanishing, false).Ink.Holds)
	dye := best(shelf.Vanishing, true)
	assert.False(t, dye.Ink.Holds)
	assert.Contains(t, dye.Reasons, "It goes into the paint, as you like a vanishing line to.")
	assert.Equal(t, best(shelf.Crisp, false), best(shelf.Crisp, true))
}
