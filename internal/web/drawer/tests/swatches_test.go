package tests_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/shelf"
	"chromaqua/internal/web/webtest"
)

// A paint is measured from its swatches, kept on the shelf, and a card painted with
// it looks different.
func TestMeasuringAPaint(t *testing.T) {
	st := webtest.WithGrid(t)
	st.At(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, webtest.Dip("a1"))
	assert.NotContains(t, st.Get("/cards/1/colour").Body, "Your shelf knows better")
	a := st.Send("/swatches", "card.png", webtest.SwatchPNG(t, "PB29"), "name", "blue pan", "ci", "PB29")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "It is on your")
	assert.Equal(t, 10, strings.Count(a.Body, `<th scope="row">`))
	own, err := st.Store.Materials(t.Context())
	require.NoError(t, err)
	require.Len(t, own, 1)
	assert.Equal(t, [3]any{"blue pan", shelf.OwnPaint, "PB29"}, [3]any{own[0].Name, own[0].What, own[0].Like})
	require.NotNil(t, own[0].Paint)
	assert.Contains(t, st.Get("/shelf").Body, "measured from swatches")

	before := st.Get("/cards/1/panel.svg").Body
	assert.Contains(t, st.Get("/cards/1/colour").Body, "Your shelf knows better")
	st.At(t, []string{"edit", "measured"})
	require.Len(t, st.Card(1).Card.Measured, 1)
	assert.NotEqual(t, before, st.Get("/cards/1/panel.svg").Body, "it is another blue")
	page := webtest.Plain(st.Get("/cards/1/colour").Body)
	assert.NotContains(t, page, "Your shelf knows better")
	assert.Contains(t, page, "but blue pan as your shelf has it")
	st.At(t, []string{"edit", "generic"})
	assert.Equal(t, before, st.Get("/cards/1/panel.svg").Body)
}

func TestPractisingSwatches(t *testing.T) {
	st := webtest.New(t)
	a := st.Post("/swatches/practice", "ci", "PV19")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "simulated: the practice scanner; nothing was kept")
	own, err := st.Store.Materials(t.Context())
	require.NoError(t, err)
	assert.Empty(t, own)
	assert.True(t, strings.HasPrefix(st.Get("/swatches.pdf?unit=mm").Body, "%PDF"))
	assert.Contains(t, st.Get("/swatches.svg").Body, "<title>Swatch card</title>")

	for why, send := range map[string]func() webtest.Answer{
		"no pigment": func() webtest.Answer { return st.Post("/swatches/practice", "ci", "PX1") },
		"give the paint a name": func() webtest.Answer {
			return st.Send("/swatches", "card.png", webtest.GridPNG(t), "ci", "PB29", "name", " ")
		},
		"black marks": func() webtest.Answer {
			return st.Send("/swatches", "card.png", webtest.GridPNG(t), "ci", "PB29", "name", "x")
		},
		"his is no swatch card": func() webtest.Answer {
			return st.Send("/swatches", "card.png", webtest.StripPNG(t, "holds"), "ci", "PB29", "name", "x")
		},
		"TIFF, WebP or SVG picture": func() webtest.Answer {
			return st.Send("/swatches", "card.png", []byte("text"), "ci", "PB29", "name", "x")
		},
		"the file is empty; choo": func() webtest.Answer { return st.Send("/swatches", "card.png", nil, "ci", "PB29", "name", "x") },
	} {
		a := send()
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status, why)
		assert.Contains(t, strings.ToLower(webtest.Message(a.Body)), strings.ToLower(why))
	}
}
