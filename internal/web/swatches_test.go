package web_test

import (
	"bytes"
	"image/png"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/internal/standin"
)

// swatchPNG is a scan of a swatch card painted with a paint like a generic one.
func swatchPNG(t testing.TB, ci string) []byte {
	p, err := pigment.ByCI(ci)
	require.NoError(t, err)
	const pxPerMM = 5
	scan := standin.Usual(4).Scan(standin.Swatches(standin.Another(p.Paint(), 4), 0.03, 4, pxPerMM), pxPerMM)
	var buf bytes.Buffer
	require.NoError(t, png.Encode(&buf, scan))
	return buf.Bytes()
}

// A paint is measured from its swatches, kept on the shelf, and a card painted with
// it looks different.
func TestMeasuringAPaint(t *testing.T) {
	st := withGrid(t)
	st.at(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, []string{"edit", "wash-add", "area", "a1"})
	assert.NotContains(t, st.get("/cards/1/colour").body, "Your shelf knows better")
	a := st.send("/swatches", "card.png", swatchPNG(t, "PB29"), "name", "blue pan", "ci", "PB29")
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	assert.Contains(t, a.body, "It is on your")
	assert.Equal(t, 10, strings.Count(a.body, `<th scope="row">`))
	own, err := st.store.Materials(t.Context())
	require.NoError(t, err)
	require.Len(t, own, 1)
	assert.Equal(t, [3]any{"blue pan", shelf.OwnPaint, "PB29"}, [3]any{own[0].Name, own[0].What, own[0].Like})
	require.NotNil(t, own[0].Paint)
	assert.Contains(t, st.get("/shelf").body, "measured from swatches")

	before := st.get("/cards/1/panel.svg").body
	assert.Contains(t, st.get("/cards/1/colour").body, "Your shelf knows better")
	st.at(t, []string{"edit", "measured"})
	require.Len(t, st.card(1).Card.Measured, 1)
	assert.NotEqual(t, before, st.get("/cards/1/panel.svg").body, "it is another blue")
	page := st.get("/cards/1/colour").body
	assert.NotContains(t, page, "Your shelf knows better")
	assert.Contains(t, page, "but PB29 as your shelf has it")
	st.at(t, []string{"edit", "generic"})
	assert.Equal(t, before, st.get("/cards/1/panel.svg").body)
}

func TestPractisingSwatches(t *testing.T) {
	st := newStudio(t)
	a := st.post("/swatches/practice", "ci", "PV19")
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	assert.Contains(t, a.body, "simulated: the practice scanner; nothing was kept")
	own, err := st.store.Materials(t.Context())
	require.NoError(t, err)
	assert.Empty(t, own)
	assert.True(t, strings.HasPrefix(st.get("/swatches.pdf?unit=mm").body, "%PDF"))
	assert.Contains(t, st.get("/swatches.svg").body, "<title>Swatch card</title>")

	for why, send := range map[string]func() answer{
		"no pigment":            func() answer { return st.post("/swatches/practice", "ci", "PX1") },
		"give the paint a name": func() answer { return st.send("/swatches", "card.png", gridPNG(t), "ci", "PB29", "name", " ") },
		"black marks":           func() answer { return st.send("/swatches", "card.png", gridPNG(t), "ci", "PB29", "name", "x") },
		"his is no swatch card": func() answer {
			return st.send("/swatches", "card.png", stripPNG(t, "holds"), "ci", "PB29", "name", "x")
		},
		"TIFF or SVG picture":     func() answer { return st.send("/swatches", "card.png", []byte("text"), "ci", "PB29", "name", "x") },
		"the file is empty; choo": func() answer { return st.send("/swatches", "card.png", nil, "ci", "PB29", "name", "x") },
	} {
		a := send()
		assert.Equal(t, http.StatusUnprocessableEntity, a.status, why)
		assert.Contains(t, strings.ToLower(message(a.body)), strings.ToLower(why))
	}
}
