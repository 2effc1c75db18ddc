package joint_test

import (
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/joint"
	"chromaqua/core/length"
)

const mm = length.Millimetre

func size(w, h float64) length.Size {
	return length.Size{W: length.FromMM(w), H: length.FromMM(h)}
}

// Each case of the table has its best way, with the reason that decides.
func TestWhatHoldsBest(t *testing.T) {
	panel := size(95, 127)
	for _, c := range []struct {
		asked joint.Asked
		best  joint.By
		why   string
	}{
		{joint.Asked{Shape: joint.Sheet, Size: panel}, joint.Tape, "glue would cockle it"},
		{joint.Asked{Shape: joint.Sheet, Size: panel, Textured: true}, joint.Strong, "textured paper takes little hold"},
		{joint.Asked{Shape: joint.Sheet, Size: panel, Wet: true}, joint.Strong, "it was painted wet and warps"},
		{joint.Asked{Shape: joint.Sheet, Size: panel, Pressed: true}, joint.Strong, "its relief springs back"},
		{joint.Asked{Shape: joint.Sheet, Size: panel, Wet: true, Raised: true}, joint.FullFoam, "it was painted wet and warps"},
		{joint.Asked{Shape: joint.Sheet, Size: panel, Covers: true}, joint.Tape, "quick"},
		{joint.Asked{Shape: joint.Ring, Size: panel}, joint.Tape, "quick"},
		{joint.Asked{Shape: joint.Ring, Size: panel, Raised: true}, joint.FullFoam, "sags"},
		{joint.Asked{Shape: joint.CutOut, Size: size(40, 50), Raised: true, Textured: true, Wet: true}, joint.Foam, "throws a shadow"},
		{joint.Asked{Shape: joint.CutOut, Size: size(40, 50), Raised: true, Dark: true}, joint.Black, "white foam would show"},
		{joint.Asked{Shape: joint.Word, Size: size(40, 12)}, joint.Glue, "no tape fits it"},
		{joint.Asked{Shape: joint.Word, Size: size(40, 12), Layers: 4}, joint.Glue, "stand up without foam"},
		{joint.Asked{Shape: joint.Sheet, Size: size(80, 12)}, joint.Glue, "too narrow for tape"},
		{joint.Asked{Shape: joint.Sheet, Size: panel, Clear: true}, joint.Film, "nothing shows through"},
		{joint.Asked{Shape: joint.Sheet, Size: panel, Inside: true}, joint.Tape, "quick"},
	} {
		all := joint.Weigh(c.asked)
		require.Len(t, all, len(joint.Facts()), "every way is weighed")
		assert.Equal(t, c.best, all[0].By, "%+v", c.asked)
		assert.Equal(t, joint.Best, all[0].Grade, "%+v", c.asked)
		assert.Contains(t, all[0].Why, c.why, "%+v", c.asked)
		assert.Equal(t, all[0], joint.Chosen(joint.Usual, all))
	}
	fails := func(by joint.By, a joint.Asked) bool {
		return joint.Chosen(by, joint.Weigh(a)).Grade == joint.Fails
	}
	assert.True(t, fails(joint.Foam, joint.Asked{Shape: joint.Sheet, Size: panel, Inside: true}), "the card does not close")
	assert.True(t, fails(joint.Glue, joint.Asked{Shape: joint.Sheet, Size: panel}), "it cockles")
	assert.True(t, fails(joint.Tape, joint.Asked{Shape: joint.Word, Size: size(40, 12)}))
	assert.True(t, fails(joint.Film, joint.Asked{Shape: joint.Sheet, Size: panel, Pressed: true}), "it flattens the relief")
	assert.True(t, fails(joint.Slot, joint.Asked{Shape: joint.Ring, Size: panel}))
	assert.False(t, fails(joint.Pocket, joint.Asked{Shape: joint.Sheet, Size: panel}))
}

// Whatever is asked, something holds it, and every way has a reason.
func TestSomethingAlwaysHolds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		yes := rapid.Bool()
		a := joint.Asked{
			Shape:    rapid.SampledFrom([]joint.Shape{joint.Sheet, joint.Ring, joint.CutOut, joint.Word}).Draw(t, "shape"),
			Size:     size(rapid.Float64Range(5, 300).Draw(t, "w"), rapid.Float64Range(5, 300).Draw(t, "h")),
			Textured: yes.Draw(t, "textured"), Pressed: yes.Draw(t, "pressed"), Wet: yes.Draw(t, "wet"), Raised: yes.Draw(t, "raised"),
			Clear: yes.Draw(t, "clear"), Covers: yes.Draw(t, "covers"), Inside: yes.Draw(t, "inside"), Dark: yes.Draw(t, "dark"), Layers: rapid.IntRange(0, 8).Draw(t, "layers"),
		}
		all := joint.Weigh(a)
		assert.GreaterOrEqual(t, all[0].Grade, joint.Holds, "%+v is held by nothing", a)
		for i, c := range all {
			assert.NotEmpty(t, c.Why, c.By)
			assert.True(t, i == 0 || c.Grade <= all[i-1].Grade, "the best first")
		}
		if a.Inside {
			assert.False(t, all[0].By.Facts().Raised, "the card has to close")
		}
	})
}

// How much is taken, by hand.
func TestAmounts(t *testing.T) {
	panel, none := size(100, 50), length.Size{}
	assert.Equal(t, joint.Amount{Tape: 450 * mm}, joint.Tape.Of(panel, none), "round it, and a cross")
	assert.Equal(t, joint.Amount{Tape: 300 * mm}, joint.Strong.Of(panel, none))
	assert.Equal(t, joint.Amount{Tape: 460 * mm}, joint.Tape.Of(panel, size(60, 20)), "round a frame and its opening, without a cross")
	assert.Equal(t, joint.Amount{Tape: 200 * mm}, joint.Pocket.Of(panel, none), "its mouth is the longer side")
	assert.Equal(t, joint.Amount{MM2: 5000}, joint.FullFoam.Of(panel, none))
	assert.Equal(t, joint.Amount{MM2: 3800}, joint.Film.Of(panel, size(60, 20)))
	assert.InDelta(t, 2000, joint.Foam.Of(panel, none).MM2, 1e-6)
	assert.Equal(t, joint.Amount{Dots: 20}, joint.Glue.Of(panel, none))
	assert.Equal(t, joint.Amount{Dots: 3}, joint.Glue.Of(size(5, 5), none), "three at least")
	assert.Equal(t, joint.Amount{Dots: 1}, joint.Slot.Of(panel, none))
	assert.Zero(t, joint.Nothing.Of(panel, none).MM2)
	assert.InDelta(t, 2700, joint.Tape.MM2(joint.Tape.Of(panel, none)), 1e-6, "450 mm of tape 6 mm wide")
}

func TestFacts(t *testing.T) {
	for _, f := range joint.Facts() {
		assert.True(t, f.By.Known())
		assert.NotEmpty(t, f.Name+f.Words, f.By)
		assert.Positive(t, f.Height, f.By)
		assert.True(t, f.GSM > 0 && f.Takes >= time.Minute && f.Laid != joint.None, f.By)
		assert.Equal(t, f, f.By.Facts())
	}
	assert.True(t, joint.Usual.Known())
	assert.False(t, joint.By("hope").Known())
	assert.False(t, joint.Nothing.Known(), "nothing holds nothing")
	assert.Equal(t, 2*mm, joint.Foam.Stands(2*mm))
	assert.Equal(t, 3*mm/2, joint.Foam.Stands(0))
	assert.Equal(t, joint.Tape.Facts().Height, joint.Tape.Stands(2*mm), "tape is as high as it is")
	for _, f := range joint.Items() {
		assert.True(t, f.Grams > 0 && f.Height > 0, f.Item)
		assert.Equal(t, f, f.Item.Facts())
	}
	assert.Zero(t, joint.Item("anchor").Facts())
}
