package card_test

import (
	"fmt"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/nest"
)

type nestSide = nest.Side

// layered is a card of two images and two areas, the second of two washes, and an act.
func layered(t testing.TB) *card.Card {
	c := whole()
	c.Images = append(c.Images, c.Images[0])
	c.Images[1].ID, c.Images[1].Title = "i2", "Reeds"
	c.Areas[0].Name, c.Areas[1].Name = "Sky", "Shore"
	c.Areas[1].Washes = append(c.Areas[1].Washes, c.Areas[1].Washes[0])
	c.AddAct(card.Handling{Kind: card.Flatten})
	require.NoError(t, c.Check())
	return c
}

func refs(t testing.TB, c *card.Card) (out []string) {
	deeds, err := c.Deeds()
	require.NoError(t, err)
	for _, d := range deeds {
		out = append(out, string(d.Ref))
	}
	return out
}

// Usually images lie below areas, areas as they are listed, acts over all; what is put over
// something comes after it and nothing else moves.
func TestWhatLiesOverWhat(t *testing.T) {
	c := layered(t)
	assert.Equal(t, []string{"i1", "i2", "a1/1", "a2/1", "a2/2", "x1"}, refs(t, c))
	require.NoError(t, c.Put("i2", "a1", true))
	assert.Equal(t, []string{"i1", "a1/1", "i2", "a2/1", "a2/2", "x1"}, refs(t, c))
	assert.True(t, c.Late("i2"))
	assert.False(t, c.Late("i1"))
	require.NoError(t, c.Put("i2", "a2/1", true))
	assert.Equal(t, []string{"i1", "a1/1", "a2/1", "i2", "a2/2", "x1"}, refs(t, c))
	require.NoError(t, c.Put("i2", "a2/1", false))
	require.NoError(t, c.Put("a2", "i2", true))
	err := c.Put("a1", "a2", true)
	assert.EqualError(t, err, "Reeds lies over Sky, and that over it again; let one of the two lie as usual")
	assert.Error(t, c.Check())
}

// Paint on the cells of an image that is put over something comes after that image.
func TestPaintFollowsItsImage(t *testing.T) {
	c := layered(t)
	c.Areas[0].Cells = []card.Spot{{On: "i2", MM2: 30}}
	require.NoError(t, c.Put("i2", "a2", true))
	assert.Equal(t, []string{"i1", "a2/1", "a2/2", "i2", "a1/1", "x1"}, refs(t, c))
	require.NoError(t, c.Put("i2", "a1", true), "what the maker says comes first")
	assert.Equal(t, []string{"i1", "a1/1", "a2/1", "a2/2", "i2", "x1"}, refs(t, c))
}

// Higher and lower move one place, and what is usual again is not kept.
func TestHigherAndLower(t *testing.T) {
	c := layered(t)
	require.NoError(t, c.Raise("i2", true))
	assert.Equal(t, []string{"i1", "a1/1", "i2", "a2/1", "a2/2", "x1"}, refs(t, c))
	require.NoError(t, c.Raise("i2", false))
	assert.Empty(t, c.Over)
	require.NoError(t, c.Raise("a1/1", true), "over both washes of the other")
	assert.Equal(t, []string{"i1", "i2", "a2/1", "a1/1", "a2/2", "x1"}, refs(t, c))
	assert.ErrorContains(t, c.Raise("x1", true), "first or the last")
	assert.ErrorContains(t, c.Raise("i9", true), "not on the piece")
}

// What is gone is not spoken of any more, and washes keep what is said of them.
func TestWhatIsSaidFollows(t *testing.T) {
	c := layered(t)
	require.NoError(t, c.Put("i2", "a2/2", true))
	c.Renumber("a2", func(n int) int { return n - 1 })
	c.Areas[1].Washes = c.Areas[1].Washes[:1]
	assert.Equal(t, []card.Over{{Above: "i2", Below: "a2/1"}}, c.Over)
	require.NoError(t, c.Check())
	c.Areas[1].Washes = nil
	c.Tidy()
	assert.Empty(t, c.Over)

	c = layered(t)
	require.NoError(t, c.Put("i2", "a2", true))
	require.NoError(t, c.Put("x1", "i1", true))
	require.NoError(t, c.TakeAway("i2"))
	assert.Equal(t, []card.Over{{Above: "x1", Below: "i1"}}, c.Over)
	c.RemoveAct("x1")
	assert.Empty(t, c.Over)
	require.NoError(t, c.Put("i1", "a2", true))
	c.RemoveArea("a2")
	assert.Empty(t, c.Over)
	require.NoError(t, c.Check())
}

// What cannot be said is refused.
func TestOversThatCannotBe(t *testing.T) {
	for why, o := range map[string]card.Over{
		"over itself":       {Above: "a2/2", Below: "a2/1"},
		"neither image":     {Above: "i7", Below: "a1"},
		"has no wash":       {Above: "i1", Below: "a2/3"},
		"neither image, ar": {Above: "i1/1", Below: "a1"},
	} {
		c := layered(t)
		c.Over = []card.Over{o}
		assert.ErrorContains(t, c.Check(), why)
	}
	c := layered(t)
	c.Over = []card.Over{{"i1", "a1"}, {"i1", "a1"}}
	assert.ErrorContains(t, c.Check(), "said twice")
	c.Over = nil
	for i := range card.MaxOver + 1 {
		c.Over = append(c.Over, card.Over{Above: card.Ref(fmt.Sprint(i)), Below: "a1"})
	}
	assert.ErrorContains(t, c.Check(), "more than 200")
	c = layered(t)
	for range card.MaxActs {
		c.AddAct(card.Handling{Kind: card.Trim})
	}
	assert.ErrorContains(t, c.Check(), "acts are more")
}

// Whatever is put over what, all deeds are listed once, each after all below it; or two of
// a circle are named.
func TestDeedsKeepTheirOrder(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		c := layered(t)
		all := []card.Ref{"i1", "i2", "a1", "a2", "a2/1", "a2/2", "a1/1", "x1"}
		for range rapid.IntRange(0, 6).Draw(rt, "overs") {
			o := card.Over{Above: rapid.SampledFrom(all).Draw(rt, "above"), Below: rapid.SampledFrom(all).Draw(rt, "below")}
			if o.Above.Of() != o.Below.Of() && !slices.Contains(c.Over, o) {
				c.Over = append(c.Over, o)
			}
		}
		deeds, err := c.Deeds()
		if err != nil {
			assert.ErrorContains(t, err, "usual")
			return
		}
		require.Len(t, deeds, 6)
		place := func(r card.Ref, last bool) (at int) {
			at = -1
			for i, d := range deeds {
				if (d.Ref == r || d.Ref.Of() == string(r)) && (last || at < 0) {
					at = i
				}
			}
			return at
		}
		for _, o := range c.Over {
			assert.Greater(t, place(o.Above, false), place(o.Below, true), "%v in %v", o, deeds)
		}
		assert.Greater(t, place("a2/2", false), place("a2/1", false))
	})
}

// The tables of holds and tapes say what the craft says.
func TestHoldsAndTapes(t *testing.T) {
	for how, want := range map[card.HoldKind][3]bool{ // stamps again, stands a wash, keeps flat
		card.TapedDown: {false, true, true}, card.Positioner: {true, false, false}, card.OffBoard: {true, false, false},
		card.OnBlock: {false, true, true}, card.Sticky: {false, false, true}, card.LooseSheet: {false, true, false},
	} {
		f := how.Facts()
		assert.Equal(t, want, [3]bool{f.Stamps, f.Wet, f.Flat}, how)
	}
	assert.Empty(t, card.HoldKind("nails").Facts().Kind)
	assert.True(t, card.TapeKind("").Facts().Wet)
	assert.False(t, card.PaperTape.Facts().Wet)
	assert.True(t, card.GummedTape.Facts().Wet)
	for _, f := range joint.Facts() {
		assert.Equal(t, f.By == joint.Foam || f.By == joint.FullFoam || f.By == joint.Black, f.Raised, f.By)
	}
	assert.Equal(t, joint.Tape, joint.By("hope").Facts().By)
	c := layered(t)
	for range card.MaxHolds + 1 {
		c.Hold = append(c.Hold, card.Hold{How: card.TapedDown, From: "a1"})
	}
	assert.ErrorContains(t, c.Check(), "at most 8 ways")
	c = layered(t)
	c.Hold = []card.Hold{{How: card.TapedDown, Width: -mm}}
	assert.ErrorContains(t, c.Check(), "wide")
}

// What an image is put on with: its own where it has one, else the usual; all inks of a
// piece, each once.
func TestMediaOfImages(t *testing.T) {
	c := layered(t)
	c.Ink = "permanent"
	assert.Equal(t, "permanent", c.InkOf(&c.Images[0]).ID)
	assert.Equal(t, "crisp", string(c.LookOf(&c.Images[0])))
	c.Look = "soft"
	assert.Equal(t, "soft", string(c.LookOf(&c.Images[0])))
	c.Images[1].Medium = &card.Medium{Ink: "dye", Look: "pulled", Pads: []string{"blend", "permanent"}, Times: 2, Watered: true, Bare: card.Taped}
	require.NoError(t, c.Check())
	assert.Equal(t, "dye", c.InkOf(&c.Images[1]).ID)
	assert.Equal(t, "pulled", string(c.LookOf(&c.Images[1])))
	assert.Len(t, c.PadsOf(&c.Images[1]), 3)
	var ids []string
	for _, k := range c.Inks() {
		ids = append(ids, k.ID)
	}
	assert.Equal(t, []string{"permanent", "dye", "blend"}, ids)
	times, watered, bare := c.Images[1].Times()
	assert.Equal(t, 2, times)
	assert.True(t, watered)
	assert.Equal(t, card.Taped, bare)
	assert.Contains(t, bare.Words(), "tape")
	assert.Contains(t, card.BareWay("").Words(), "wipe")
	for _, m := range []card.Medium{{Ink: "dye"}, {Look: "soft"}, {Pads: []string{"dye"}}, {Times: 1}, {Watered: true}, {Bare: card.Wiped}} {
		assert.False(t, m.Usual(), m)
	}
	assert.True(t, (&card.Medium{}).Usual())
	c.Images = nil
	assert.Len(t, c.Inks(), 1)
}
