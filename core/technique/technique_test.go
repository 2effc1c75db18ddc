package technique_test

import (
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/drying"
	"chromaqua/core/technique"
	"chromaqua/internal/golden"
)

// A row of the table of techniques has all that the program asks of one.
func TestEveryTechniqueIsWhole(t *testing.T) {
	doc, err := os.ReadFile("../../docs/card-file.md")
	require.NoError(t, err)
	seen := map[technique.Kind]bool{}
	for _, k := range technique.Kinds() {
		f := k.Facts()
		assert.False(t, seen[k], "%s stands twice", k)
		seen[k] = true
		assert.True(t, k.Known())
		assert.Equal(t, k == technique.WetOnWet || k == technique.PullOut, strings.Contains(k.Name(), "-"), "%s: a name, no code", k)
		assert.Contains(t, []technique.Moment{technique.AnyTime, technique.WhileWet, technique.OnceDry}, f.When, k)
		assert.Contains(t, []technique.Act{technique.Washes, technique.Wets, technique.Lifts, technique.Blots, technique.Splatters, technique.Strews, technique.Details}, f.Act, k)
		assert.Contains(t, []technique.Lie{technique.AsWash, technique.AsOpaque, technique.AsDrops, technique.AsPencil, technique.AsPen, technique.AsRubbed, technique.AsCrayon}, f.Lies, k)
		assert.Contains(t, []technique.Grade{technique.Even, technique.Out, technique.In, technique.Corner, technique.Down, technique.Up, technique.Across}, f.Runs, k)
		assert.Contains(t, []technique.Trace{technique.NoTrace, technique.Drops, technique.Dabs, technique.Strokes, technique.Patches, technique.Glints, technique.Skips}, f.Trace, k)
		assert.True(t, strings.Contains(string(doc), "`"+string(k)+"`"), "%s: docs/card-file.md does not know it", k)
		assert.True(t, strings.HasSuffix(f.How, "."), "%s: how is it done?", k)
		assert.True(t, f.Share > 0 && f.Share <= 1, "%s: which share of an area does it touch?", k)
		assert.GreaterOrEqual(t, f.Slow, 1.0, "%s: how much longer than covering does it take?", k)
		assert.True(t, f.Thin > 0 && f.Thin <= 1, "%s: what is left of it where it is thinnest?", k)
		assert.LessOrEqual(t, f.Left, f.Laid, "%s leaves more water than it lays", k)

		if k.Tool() == technique.PaintedBrush {
			assert.Positive(t, f.Laid, "%s: how wet is it?", k)
			assert.Equal(t, f.Runs == technique.Even || f.Runs == technique.Across, f.Thin == 1, "%s runs, so it is thinner somewhere", k)
		}
		if k.Tool() == technique.DrawnLine {
			assert.NotEmpty(t, f.With, "%s: what is it drawn with?", k)
		}
		assert.Equal(t, f.Trace == technique.Drops, f.Drop > 0, "%s: how large are its drops?", k)
		assert.Equal(t, k.Tool() == technique.CleanWater, f.Takes != technique.Taking{}, "%s: what does clean water take?", k)
		assert.Equal(t, k.Tool() == technique.CleanWater, f.Dryly != "", "%s: and what if the wash below is dry?", k)
		assert.Equal(t, k.Tool() == technique.PaintedBrush && f.When == technique.WhileWet, f.Wetly != "", "%s: how does it go into the wet?", k)
		assert.Equal(t, f.Trace == technique.Skips || f.Trace == technique.Glints, f.Hollows > 0, "%s: what does it leave bare?", k)
		if k.Marked() {
			assert.Less(t, f.Share, 1.0, "%s only marks what lies below", k)
		}
	}
	assert.Equal(t, technique.Flat.Facts(), technique.Kind("unheard of").Facts())
	assert.False(t, technique.Kind("unheard of").Known())
	assert.Equal(t, "unheard of", technique.Kind("unheard of").Name())
	assert.Equal(t, "ground shadow", technique.Shadow.Name())
	assert.Greater(t, technique.WetOnWet.Left(), technique.DryBrush.Left())
	assert.True(t, technique.Variegated.IntoWet())
}

// What a technique lays and what it leaves, by the model.
func TestWaterOfTechniques(t *testing.T) {
	type water struct{ laid, left drying.GramsPerSquareMetre }
	want := map[technique.Kind]water{
		technique.Flat: {38, 38}, technique.Graded: {38, 38}, technique.Glaze: {35, 35}, technique.PullOut: {38, 20}, technique.Halo: {38, 20}, technique.Shadow: {38, 20},
		technique.WetOnWet: {90, 90}, technique.Variegated: {60, 60}, technique.Soften: {20, 20}, technique.Lift: {}, technique.Blot: {}, technique.DryBrush: {24, 14},
		technique.Splatter: {20, 20}, technique.Highlight: {24, 14}, technique.PenLine: {}, technique.Pencil: {}, technique.Shimmer: {20, 20},
	}
	for _, k := range technique.Kinds() {
		if w, known := want[k]; known { // the table's own test asks for the others
			assert.Equal(t, w, water{k.Laid(), k.Left()}, k)
		}
	}
}

// The table as it stands: what is changed in it is read in testdata.
func TestTechniquesAsTheyWere(t *testing.T) {
	var b strings.Builder
	for _, k := range technique.Kinds() {
		fmt.Fprintf(&b, "%+v marked %t covers %t\n", *k.Facts(), k.Marked(), k.Covers())
	}
	golden.Same(t, "techniques", b.String())
}
