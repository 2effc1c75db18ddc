package colour_test

import (
	"fmt"
	"html"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/internal/web/webtest"
)

// Water, drops and pens by forms: shown on the board, refused where they have
// nothing to work on; and areas that look alike painted in one step.
func TestTracesAndPaintingAlike(t *testing.T) {
	st := webtest.WithGrid(t)
	edit := func(pairs ...string) webtest.Answer {
		return st.Post("/cards/1/edit", append([]string{"back", "colour"}, pairs...)...)
	}
	for i, name := range []string{"One", "Two"} {
		require.Equal(t, http.StatusOK, edit("edit", "area-new", "cells", fmt.Sprint(i+2), "name", name).Status)
	}
	edit(webtest.Dip("a1")...)
	assert.Contains(t, webtest.Message(edit("edit", "technique", "area", "a1", "wash", "0", "technique", "lift").Body), "no wet wash below for lift")
	for k, technique := range []string{"lift", "splatter", "highlight", "pen-line", "pencil"} {
		edit("edit", "wash-add", "area", "a1")
		a := edit("edit", "technique", "area", "a1", "wash", fmt.Sprint(k+1), "technique", technique)
		require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	}
	open := st.Get("/cards/1/colour?area=a1").Body
	assert.Equal(t, 4, strings.Count(open, `<path class="trace"`))
	assert.Contains(t, html.UnescapeString(open), "flat + lift + splatter + highlight + pen line + pencil")
	assert.Contains(t, st.Get("/cards/1/colour?area=a1&nth=2").Body, "clean water takes it from the one to the other")
	assert.Contains(t, webtest.Plain(open), "Paint Two like it")
	assert.Contains(t, webtest.Message(edit("edit", "strength", "area", "a1", "wash", "1", "strength", "milk").Body), "clean water, no mix")
	assert.Contains(t, webtest.Message(edit("edit", "paint-alike", "area", "a1", "to", " ").Body), "at least one")
	assert.Equal(t, http.StatusOK, edit("edit", "paint-alike", "area", "a1", "to", "a2").Status)
	c := st.Card(1).Card
	assert.True(t, card.PaintedAlike(&c.Areas[0], &c.Areas[1]))
	assert.NotContains(t, st.Get("/cards/1/colour?area=a1").Body, "Paint Two like it")
	assert.Contains(t, st.Get("/cards/1/order").Body, "One: lamp black, pen line")
	assert.True(t, strings.HasPrefix(st.Get("/cards/1/bench.pdf").Body, "%PDF-"))
	assert.Equal(t, http.StatusOK, st.Get("/cards/1/ways").Status)
	assert.Contains(t, st.Get("/cards/1/panel.svg").Body, "trace-1-")
}

// Drops fall where the draw has them, and otherwise when they are asked to; what scatters
// nothing cannot; a rim is as wide as it is said to be.
func TestDropsAndRims(t *testing.T) {
	st := webtest.WithGrid(t)
	edit := func(pairs ...string) webtest.Answer {
		return st.Post("/cards/1/edit", append([]string{"back", "colour"}, pairs...)...)
	}
	require.Equal(t, http.StatusOK, edit("edit", "area-new", "cells", "2 3", "name", "Some").Status)
	edit(webtest.Dip("a1")...)
	edit("edit", "wash-add", "area", "a1")
	require.Equal(t, http.StatusOK, edit("edit", "technique", "area", "a1", "wash", "1", "technique", "splatter").Status)
	falls := func() string {
		body := st.Get("/cards/1/colour?area=a1&nth=2").Body
		i := strings.Index(body, `<path class="trace" data-wash="2"`)
		require.Positive(t, i)
		return body[i : i+400]
	}
	before := falls()
	assert.Contains(t, st.Get("/cards/1/colour?area=a1&nth=2").Body, "Fall otherwise")
	assert.Equal(t, before, falls())
	require.Equal(t, http.StatusOK, edit("edit", "draw-again", "area", "a1", "wash", "1").Status)
	assert.NotEqual(t, before, falls())
	assert.Contains(t, webtest.Message(edit("edit", "draw-again", "area", "a1", "wash", "0").Body), "scatters nothing")
	assert.NotContains(t, st.Get("/cards/1/colour?area=a1&nth=1").Body, "Fall otherwise")

	require.Equal(t, http.StatusOK, edit("edit", "zone-new", "shape", "rim", "width", "3 mm", "name", "Edge").Status)
	assert.Equal(t, "3 mm", st.Card(1).Card.Zones[0].Width.With(length.Millimetres))
	for _, bad := range []string{"", "thick", "0", "-2 mm", "9 m"} {
		assert.Equal(t, http.StatusUnprocessableEntity, edit("edit", "zone-new", "shape", "rim", "width", bad).Status, bad)
	}
	edit(webtest.Dip("a2")...)
	assert.Equal(t, http.StatusOK, edit("edit", "technique", "area", "a2", "wash", "0", "technique", "ink-rubbed").Status)
	assert.Contains(t, st.Get("/cards/1/order").Body, "Take the tape off")
}

// Paints are called by the maker's own names, else by those painters use, on every screen
// and sheet; codes stand small behind them. A card keeps the names when it leaves.
func TestPaintsAreCalledByTheirNames(t *testing.T) {
	st := webtest.WithGrid(t)
	st.At(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, webtest.Dip("a1"))
	assert.Contains(t, st.Get("/cards/1/order").Body, "Sky: ultramarine, tea")
	st.Post("/shelf", "edit", "add", "name", "station blue", "pigments", "PB29", "form", "pan")
	assert.Contains(t, st.Get("/cards/1/colour?area=a1").Body, `</span>station blue <span class="code">PB29</span>`, "on the pan at once")
	st.At(t, []string{"edit", "dip", "area", "a1", "wash", "0", "ci", "PV19", "parts", "1"})
	rev := st.Card(1)
	assert.Equal(t, "Sky: station blue + rose 1:1", rev.What)
	assert.Equal(t, card.Names{{CI: "PB29", Name: "station blue"}}, rev.Card.Called, "of the paints that are used")
	for _, path := range []string{"order", "colour?area=a1", "bench"} {
		assert.Contains(t, st.Get("/cards/1/"+path).Body, "station blue", path)
	}
	assert.Contains(t, st.Get("/cards/1/bench").Body, `1 station blue + 1 rose, tea`)
	other := webtest.New(t)
	other.Send("/import", "x.zip", []byte(st.Get("/cards/1/card.zip").Body))
	assert.Equal(t, rev.Card.Called, other.Card(1).Card.Called)
}
