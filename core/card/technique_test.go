package card_test

import (
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
)

// A row of the table of techniques has all that the program asks of one.
func TestEveryTechniqueIsWhole(t *testing.T) {
	doc, err := os.ReadFile("../../docs/card-file.md")
	require.NoError(t, err)
	seen := map[card.Technique]bool{}
	for _, k := range card.Techniques() {
		f := k.Facts()
		assert.False(t, seen[k], "%s stands twice", k)
		seen[k] = true
		assert.True(t, k.Known())
		assert.Contains(t, []card.Moment{card.AnyTime, card.WhileWet, card.OnceDry}, f.When, k)
		assert.Contains(t, []card.Act{card.Washes, card.Wets, card.Lifts, card.Blots, card.Splatters, card.Strews, card.Details}, f.Act, k)
		assert.Contains(t, []card.Lie{card.AsWash, card.AsOpaque, card.AsDrops, card.AsPencil, card.AsPen, card.AsRubbed, card.AsCrayon}, f.Lies, k)
		assert.Contains(t, []card.Grade{card.Even, card.Out, card.In, card.Corner, card.Down, card.Up, card.Across}, f.Runs, k)
		assert.Contains(t, []card.Trace{card.NoTrace, card.Drops, card.Dabs, card.Strokes, card.Patches, card.Glints, card.Skips}, f.Trace, k)
		assert.True(t, strings.Contains(string(doc), "`"+string(k)+"`"), "%s: docs/card-file.md does not know it", k)
		assert.True(t, strings.HasSuffix(f.How, "."), "%s: how is it done?", k)
		assert.True(t, f.Share > 0 && f.Share <= 1, "%s: which share of an area does it touch?", k)
		assert.GreaterOrEqual(t, f.Slow, 1.0, "%s: how much longer than covering does it take?", k)
		assert.True(t, f.Thin > 0 && f.Thin <= 1, "%s: what is left of it where it is thinnest?", k)
		assert.LessOrEqual(t, f.Left, f.Laid, "%s leaves more water than it lays", k)

		if k.Tool() == card.PaintedBrush {
			assert.Positive(t, f.Laid, "%s: how wet is it?", k)
			assert.Equal(t, f.Runs == card.Even || f.Runs == card.Across, f.Thin == 1, "%s runs, so it is thinner somewhere", k)
		}
		if k.Tool() == card.DrawnLine {
			assert.NotEmpty(t, f.With, "%s: what is it drawn with?", k)
		}
		assert.Equal(t, f.Trace == card.Drops, f.Drop > 0, "%s: how large are its drops?", k)
		assert.Equal(t, k.Tool() == card.CleanWater, f.Takes != card.Taking{}, "%s: what does clean water take?", k)
		assert.Equal(t, k.Tool() == card.CleanWater, f.Dryly != "", "%s: and what if the wash below is dry?", k)
		assert.Equal(t, k.Tool() == card.PaintedBrush && f.When == card.WhileWet, f.Wetly != "", "%s: how does it go into the wet?", k)
		assert.Equal(t, f.Trace == card.Skips || f.Trace == card.Glints, f.Hollows > 0, "%s: what does it leave bare?", k)
		if k.Marked() {
			assert.Less(t, f.Share, 1.0, "%s only marks what lies below", k)
		}
		if len(f.Starts.Mix) > 0 {
			start := f.Starts
			start.Technique = k
			assert.NoError(t, start.Check(), k)
		}
	}
	assert.Equal(t, card.Flat.Facts(), card.Technique("unheard of").Facts())
	assert.False(t, card.Technique("unheard of").Known())
}
