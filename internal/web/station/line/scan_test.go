package line_test

import (
	"bytes"
	"fmt"
	"image/png"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/length"
	"chromaqua/core/panel/paneltest"
	"chromaqua/internal/standin"
	"chromaqua/internal/web/webtest"
)

func TestAnImpressionIsChecked(t *testing.T) {
	st := webtest.WithGrid(t)
	a := st.Send("/cards/1/impression", "scan.png", webtest.GridPNG(t), "width", "64.1", "back", "line")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "A good impression")
	a = st.Post("/cards/1/impression/practice", "back", "line")
	assert.Contains(t, a.Body, "Simulated")
	a = st.Send("/cards/1/impression", "scan.png", webtest.StripPNG(t, "holds"), "width", "140", "back", "line")
	assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
	assert.Contains(t, webtest.Message(a.Body), "does not match")
	a = st.Send("/cards/1/impression", "scan.png", webtest.GridPNG(t), "width", "wide", "back", "line")
	assert.Contains(t, webtest.Message(a.Body), "width of the scan")
	st.Post("/cards", "name", "Bare", "unit", "mm", "format", "a2", "fold", "side")
	a = st.Send("/cards/2/impression", "scan.png", webtest.GridPNG(t), "width", "64", "back", "line")
	assert.Contains(t, webtest.Message(a.Body), "no line image")
}

// A new scan of the same image, tilted and at another place on the glass, is laid
// on the old one: areas and corrections stay.
func TestANewScanKeepsAreasAndCorrections(t *testing.T) {
	st := webtest.WithGrid(t)
	st.At(t, []string{"edit", "area-new", "cells", "2,3", "name", "Sky"}, []string{"edit", "pen", "points", "1 x 1; 20 x 30"})
	before := st.Card(1).Card
	const pxPerMM = 300 / 25.4
	sc := standin.Usual(5)
	sc.Tilt = 2.5
	scan := sc.Scan(paneltest.Scan(3, 2), pxPerMM)
	var buf bytes.Buffer
	require.NoError(t, png.Encode(&buf, scan))
	width := float64(scan.Rect.Dx()) / pxPerMM
	a := st.Send("/cards/1/upload", "again.png", buf.Bytes(), "width", fmt.Sprintf("%.2f mm", width), "back", "line")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	after := st.Card(1).Card
	assert.NotEqual(t, before.Line().Image, after.Line().Image)
	assert.Equal(t, [2]any{before.Line().Width, before.Line().X}, [2]any{after.Line().Width, after.Line().X})
	assert.Equal(t, before.Line().Marks, after.Line().Marks)
	st.Read(1)
	page := st.Get("/cards/1/line").Body
	assert.NotContains(t, page, "could not be found again")
	assert.Contains(t, st.Get("/cards/1/colour").Body, "2 cells")

	// Another image is laid behind, or in its place when that is asked for.
	st.Send("/cards/1/upload", "strip.png", webtest.StripPNG(t, "holds"), "width", "140", "back", "line")
	require.Len(t, st.Card(1).Card.Images, 2)
	st.Send("/cards/1/upload", "strip.png", webtest.StripPNG(t, "holds"), "width", "140", "back", "line", "instead", "yes", "picked", "i1")
	require.Len(t, st.Card(1).Card.Images, 2)
	assert.Equal(t, 140*length.Millimetre, st.Card(1).Card.Line().Width)
}
