package colour_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/internal/web/webtest"
)

// Colourings are shown side by side; one is kept, or becomes a sister card.
func TestColourways(t *testing.T) {
	st := webtest.WithGrid(t)
	assert.Contains(t, st.Get("/cards/1/ways").Body, "There is no area yet")
	st.At(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, webtest.Dip("a1"))
	page := st.Get("/cards/1/ways?from=PB29&to=PG7").Body
	assert.Contains(t, page, "Phthalo green for ultramarine")
	assert.Contains(t, page, "Hues turned by 300°")
	asIs, other := st.Get("/cards/1/panel.svg").Body, st.Get("/cards/1/way.svg?from=PB29&to=PG7").Body
	assert.True(t, strings.HasPrefix(other, "<svg"))
	assert.NotEqual(t, asIs, other)
	assert.Equal(t, asIs, st.Get("/cards/1/panel.svg").Body, "the card is as it was")
	assert.Equal(t, http.StatusUnprocessableEntity, st.Get("/cards/1/way.svg?turn=round").Status)

	a := st.Post("/cards/1/ways", "base", fmt.Sprint(st.Card(1).Seq), "turn", "120", "as", "sister")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Equal(t, "Grid, hues turned by 120°", st.Card(2).Card.Name)
	assert.NotEqual(t, st.Card(1).Card.Areas[0].Washes, st.Card(2).Card.Areas[0].Washes)
	a = st.Post("/cards/1/ways", "base", fmt.Sprint(st.Card(1).Seq), "from", "PB29", "to", "PV19")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Equal(t, []card.Part{{CI: "PV19", Parts: 1}}, st.Card(1).Card.Areas[0].Washes[0].Mix)
	a = st.Post("/cards/1/ways", "base", fmt.Sprint(st.Card(1).Seq), "from", "PBk7", "to", "PV19")
	assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
	assert.Contains(t, webtest.Message(a.Body), "No wash of this card uses PBk7")
	a = st.Post("/cards/1/ways", "base", "1", "turn", "60")
	assert.Equal(t, http.StatusConflict, a.Status)
}

// A drawing is gathered by likeness in one step, as proposed or in part, and painted from a
// colouring to start from.
func TestFromDrawingToColoursInTwoSteps(t *testing.T) {
	st := webtest.WithGrid(t)
	page := st.Get("/cards/1/colour").Body
	assert.Contains(t, page, "These look alike")
	assert.Contains(t, page, `name="group" value="2, 3, 4, 5, 6, 7"`)
	assert.Contains(t, page, "all round the drawing")
	a := st.Post("/cards/1/edit", "back", "colour", "edit", "areas-new")
	assert.Contains(t, webtest.Message(a.Body), "no group is ticked")
	a = st.Post("/cards/1/edit", "back", "colour", "edit", "areas-new", "group", "1", "group", "2, 3, 4, 5, 6, 7")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	require.Len(t, st.Card(1).Card.Areas, 2)
	assert.Len(t, st.Card(1).Card.Areas[1].Cells, 6)
	assert.NotContains(t, a.Body, "These look alike")
	assert.Contains(t, a.Body, "Three colourings to start from")
	assert.Contains(t, st.Get("/cards/1/ways").Body, "Cool ground, warm subject")
	assert.Equal(t, http.StatusOK, st.Get("/cards/1/way.svg?start=1").Status)
	assert.Equal(t, http.StatusUnprocessableEntity, st.Get("/cards/1/way.svg?start=8").Status)
	a = st.Post("/cards/1/ways", "base", fmt.Sprint(st.Card(1).Seq), "start", "1")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	for _, area := range st.Card(1).Card.Areas {
		assert.Len(t, area.Washes, 1, area.Name)
	}
	assert.Equal(t, "recoloured: cool ground, warm subject", st.Card(1).What)
}
