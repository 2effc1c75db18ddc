package web_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
)

// Colourings are shown side by side; one is kept, or becomes a sister card.
func TestColourways(t *testing.T) {
	st := withGrid(t)
	assert.Contains(t, st.get("/cards/1/ways").body, "Nothing is painted yet")
	st.at(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, []string{"edit", "wash-add", "area", "a1"})
	page := st.get("/cards/1/ways?from=PB29&to=PG7").body
	assert.Contains(t, page, "PG7 for PB29")
	assert.Contains(t, page, "Hues turned by 300°")
	asIs, other := st.get("/cards/1/panel.svg").body, st.get("/cards/1/way.svg?from=PB29&to=PG7").body
	assert.True(t, strings.HasPrefix(other, "<svg"))
	assert.NotEqual(t, asIs, other)
	assert.Equal(t, asIs, st.get("/cards/1/panel.svg").body, "the card is as it was")
	assert.Equal(t, http.StatusUnprocessableEntity, st.get("/cards/1/way.svg?turn=round").status)

	a := st.post("/cards/1/ways", "base", fmt.Sprint(st.card(1).Seq), "turn", "120", "as", "sister")
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	assert.Equal(t, "Grid, hues turned by 120°", st.card(2).Card.Name)
	assert.NotEqual(t, st.card(1).Card.Areas[0].Washes, st.card(2).Card.Areas[0].Washes)
	a = st.post("/cards/1/ways", "base", fmt.Sprint(st.card(1).Seq), "from", "PB29", "to", "PV19")
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	assert.Equal(t, []card.Part{{CI: "PV19", Parts: 1}}, st.card(1).Card.Areas[0].Washes[0].Mix)
	a = st.post("/cards/1/ways", "base", fmt.Sprint(st.card(1).Seq), "from", "PBk7", "to", "PV19")
	assert.Equal(t, http.StatusUnprocessableEntity, a.status)
	assert.Contains(t, message(a.body), "No wash of this card uses PBk7")
	a = st.post("/cards/1/ways", "base", "1", "turn", "60")
	assert.Equal(t, http.StatusConflict, a.status)
}

// The chart is made of the maker's paints, where some are on the shelf.
func TestTheMixingChart(t *testing.T) {
	st := newStudio(t)
	page := st.get("/mixing").body
	assert.Contains(t, page, "PY150 with PV19")
	st.post("/shelf", "edit", "add", "name", "blue pan", "like", "paint:PB29")
	st.post("/shelf", "edit", "add", "name", "rose pan", "like", "paint:PV19")
	page = st.get("/mixing").body
	assert.Equal(t, 1, strings.Count(page, "<table"))
	assert.Contains(t, page, "PV19 with PB29")
	assert.Contains(t, page, "yours")
	assert.Contains(t, st.get("/shelf").body, "blue pan")
	pdf := st.get("/mixing.pdf?p=PY3&p=PB29&p=PV19&unit=mm")
	assert.True(t, strings.HasPrefix(pdf.body, "%PDF"))
	svg := st.get("/mixing.svg?p=PY3&p=PB29").body
	assert.True(t, strings.HasPrefix(svg, "<svg"))
	assert.Equal(t, 2*12, strings.Count(svg, "<rect"))
	for _, bad := range []string{"/mixing?p=PY3", "/mixing?p=PY3&p=X", "/mixing.pdf?p=PY3&p=PY3"} {
		assert.Equal(t, http.StatusUnprocessableEntity, st.get(bad).status, bad)
	}
}
