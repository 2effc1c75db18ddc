package colour_test

import (
	"html"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/technique"
	"chromaqua/internal/web/webtest"
)

// A wanted colour is answered with mixes, of which one becomes the wash.
func TestMixingToMatch(t *testing.T) {
	st := webtest.WithGrid(t)
	st.At(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, []string{"edit", "area-new", "cells", "3", "name", "Sea"},
		webtest.Dip("a1"), webtest.Dip("a2"))
	page := st.Get("/cards/1/colour?area=a1").Body
	assert.Contains(t, page, "as Sea")
	assert.NotContains(t, page, `class="recipes"`)
	page = st.Get("/cards/1/colour?area=a1&want=%237a8fc2&most=3").Body
	assert.Contains(t, page, `class="recipes"`)
	assert.NotContains(t, page, "ΔE", "it is said in words how near a mix comes")
	assert.Regexp(t, `[2-9] coats of ultramarine as tea, each laid once`, page)
	assert.Contains(t, st.Get("/cards/1/colour?area=a1&want=%23dfe6f5").Body, "One coat of ultramarine as tea takes the area to that depth")
	assert.Contains(t, st.Get("/cards/1/colour?area=a1&want=%23000000").Body, "No number of coats of ultramarine")
	assert.Contains(t, st.Get("/cards/1/colour?area=a1&want=blue").Body, "is no colour; write it as #rrggbb.")

	a := st.Post("/cards/1/edit", "back", "colour", "edit", "recipe", "area", "a1", "wash", "0", "mix", "PB29*2 PV19*1", "strength", "milk")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Equal(t, []card.Part{{CI: "PB29", Parts: 2}, {CI: "PV19", Parts: 1}}, st.Card(1).Card.Areas[0].Washes[0].Mix)
	for why, mix := range map[string]string{"no part of a mix": "PB29", "no pigment": "XX1*2", "use 1 to 20": "PB29*0"} {
		a := st.Post("/cards/1/edit", "back", "colour", "edit", "recipe", "area", "a1", "wash", "0", "mix", mix, "strength", "milk")
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
		assert.Contains(t, webtest.Message(a.Body), why)
	}
	st.At(t, []string{"edit", "wash-add", "area", "a1"}, []string{"edit", "wash-move", "area", "a1", "wash", "0", "way", "later"})
	assert.Equal(t, technique.Glaze, st.Card(1).Card.Areas[0].Washes[0].Technique)
	st.At(t, []string{"edit", "same-washes", "area", "a2", "as", "a1"})
	assert.Equal(t, st.Card(1).Card.Areas[0].Washes, st.Card(1).Card.Areas[1].Washes)
	assert.Contains(t, st.Get("/cards/1/colour").Body, "At arm’s length")
}

// Mixes are made of the maker's own paints, which may be mixed already; gouache is
// taken up by a card as what it is.
func TestPaintsOfTheMakers(t *testing.T) {
	st := webtest.WithGrid(t)
	st.At(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, webtest.Dip("a1"))
	for _, paint := range [][]string{{"storm sepia", "2 PBr7 + PBk7", "tube"}, {"sea", "PB29", "pan"}, {"poster blue", "PB29", "gouache"}} {
		a := st.Post("/shelf", "edit", "add", "name", paint[0], "pigments", paint[1], "form", paint[2])
		require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
		assert.Contains(t, html.UnescapeString(a.Body), map[string]string{"2 PBr7 + PBk7": "2 burnt umber + 1 lamp black", "PB29": "ultramarine"}[paint[1]])
	}
	assert.Contains(t, webtest.Message(st.Post("/shelf", "edit", "add", "name", "x", "pigments", "PB29 + green", "form", "pan").Body), "no pigment")
	page := st.Get("/cards/1/colour?area=a1&want=%234a3f38&most=2").Body
	assert.Contains(t, page, "2 paints of yours", "of two of them the pigment is the same")
	assert.Contains(t, page, "PBr7*2 PBk7*1")
	assert.NotContains(t, page, "PV19*")

	assert.Contains(t, page, "poster blue, gouache by estimate")
	st.At(t, []string{"edit", "measured"})
	before, c := panel.LookOf("cotton-cp", st.Card(1).Card.Areas[0].Washes).Dense, st.Card(1).Card
	require.Len(t, c.Measured, 1)
	assert.NotEqual(t, before, panel.PaletteOf(c).Look(c.Areas[0].Washes).Dense)
}

// Palettes come in as wanted colours, and go out with those of the areas.
func TestPalettesInAndOut(t *testing.T) {
	st := webtest.WithGrid(t)
	st.At(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, webtest.Dip("a1"), []string{"edit", "wanted", "hex", "#112233"})
	a := st.Send("/cards/1/palette", "dusk.gpl", []byte("GIMP Palette\nName: Dusk\n122 143 194\tevening\n"), "back", "colour", "area", "a1")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	require.Len(t, st.Card(1).Card.Wanted, 1)
	assert.Contains(t, st.Get("/cards/1/colour?area=a1").Body, "evening")
	out := st.Get("/cards/1/palette.gpl").Body
	assert.Contains(t, out, "Sky")
	assert.Contains(t, out, "122 143 194\tevening")
	a = st.Send("/cards/1/palette", "x.gpl", []byte("GIMP Palette\n"+strings.Repeat("1 2 3\n", 10_000)), "back", "colour")
	assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
	assert.Contains(t, webtest.Message(a.Body), "more than 256 colours")
	st.At(t, []string{"edit", "wanted", "hex", ""})
	assert.Empty(t, st.Card(1).Card.Wanted)
}
