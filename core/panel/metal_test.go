package panel_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// Metals on the shelf are paints to dip into, and no ingredients of a wanted colour.
func TestMetalsOfTheShelf(t *testing.T) {
	own := []shelf.Own{
		{What: shelf.OwnPaint, Name: "Lamp", Like: "gold", Form: shelf.Mica},
		{What: shelf.OwnPaint, Name: "Sea glitter", Like: "2 PB29 + pearl", Form: shelf.Mica},
		{What: shelf.OwnPaint, Name: "Ochre", Like: "PY42"},
	}
	for _, o := range own {
		require.NoError(t, o.Check())
	}
	assert.Len(t, panel.IngredientsOf(own), 1)
	metals := panel.MetalsOf(own)
	require.Len(t, metals, 1)
	assert.Equal(t, "PW20-gold", metals[0].CI)
	assert.Len(t, panel.PaintsOf(own), 1)

	flat := func(kind technique.Kind, ci ...string) card.Wash {
		w := card.Wash{Technique: kind, Strength: pigment.Milk}
		for _, p := range ci {
			w.Mix = append(w.Mix, card.Part{CI: p, Parts: 1})
		}
		return w
	}
	assert.True(t, panel.Metallic(flat(technique.Flat, "PB29", "PW20-pearl")))
	assert.True(t, panel.Glints(flat(technique.Shimmer, "PB29")))
	assert.False(t, panel.Metallic(flat(technique.Shimmer, "PB29")))
	assert.False(t, panel.Glints(flat(technique.Flat, "PB29")))
}
