package shelf_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/length"
	"chromaqua/core/shelf"
)

// A maker's brush of the belly of a general one has about its point and its water.
func TestOwnBrushes(t *testing.T) {
	for _, b := range shelf.Brushes() {
		like := shelf.RoundBrush
		if b.Flat {
			like = shelf.FlatBrush
		}
		o := shelf.Own{Name: "mine", What: shelf.OwnBrush, Like: like, Belly: length.FromMM(b.Belly)}
		require.NoError(t, o.Check())
		own := o.Brush()
		assert.Equal(t, b.Flat, own.Flat)
		assert.InDelta(t, b.Belly, own.Belly, 1e-6)
		assert.InEpsilon(t, b.Point, own.Point, 0.15, b.Name)
		assert.InEpsilon(t, b.CapacityML, own.CapacityML, 0.5, b.Name)
	}
	for why, o := range map[string]shelf.Own{
		"round or flat": {Name: "x", What: shelf.OwnBrush, Like: "square", Belly: length.Inch},
		"measure":       {Name: "x", What: shelf.OwnBrush, Like: shelf.RoundBrush},
		"150 mm":        {Name: "x", What: shelf.OwnBrush, Like: shelf.FlatBrush, Belly: 10 * length.Inch},
	} {
		assert.ErrorContains(t, o.Check(), why)
	}
}

func TestBrushesAtHand(t *testing.T) {
	mop := shelf.Own{Name: "mop", What: shelf.OwnBrush, Like: shelf.RoundBrush, Belly: 9 * length.Millimetre}
	flat := shelf.Own{Name: "wide", What: shelf.OwnBrush, Like: shelf.FlatBrush, Belly: length.Inch}
	assert.Equal(t, shelf.Brushes(), shelf.BrushesOf(nil))
	assert.Len(t, shelf.BrushesOf([]shelf.Own{flat}), 7, "a flat alone does not do")
	both := shelf.BrushesOf([]shelf.Own{flat, mop})
	require.Len(t, both, 2)
	assert.Equal(t, []string{"mop (9 mm)", "wide (25.4 mm)"}, []string{both[0].Name, both[1].Name})
}
