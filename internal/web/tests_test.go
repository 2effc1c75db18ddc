package web_test

import (
	"bytes"
	"fmt"
	"image/png"
	"net/http"
	"strings"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/length"
	"chromaqua/core/panel/paneltest"
	"chromaqua/internal/standin"
)

// strips keeps scans by habit: with the race detector one takes seconds.
var strips sync.Map

// stripPNG is a scan of a strip of an ink with a habit.
func stripPNG(t testing.TB, habit string) []byte {
	if data, ok := strips.Load(habit); ok {
		return data.([]byte)
	}
	const pxPerMM = 5
	var buf bytes.Buffer
	require.NoError(t, png.Encode(&buf, standin.Usual(3).Scan(standin.Strip(standin.Inks()[habit], pxPerMM), pxPerMM)))
	strips.Store(habit, buf.Bytes())
	return buf.Bytes()
}

// A scanned strip is read and kept, and what it shows outranks what is generally
// said of the ink.
func TestAnInkIsTested(t *testing.T) {
	st := withGrid(t)
	st.at(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, []string{"edit", "wash-add", "area", "a1"})
	assert.NotContains(t, st.get("/cards/1/line").body, "The line will run")
	assert.Contains(t, st.get("/tests").body, "No test yet")

	a := st.send("/tests", "strip.png", stripPNG(t, "runs"), "ink", "pigment-quick", "paper", "cotton-cp", "minutes", "15")
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	assert.Contains(t, a.body, "Runs")
	assert.NotContains(t, a.body, "practice scanner</span>")
	page := st.get("/cards/1/line").body
	assert.Contains(t, page, "The line will run")
	assert.Contains(t, page, "Your test of it on this paper")

	st.send("/tests", "strip.png", stripPNG(t, "holds"), "ink", "pigment-quick", "paper", "cotton-cp", "minutes", "30", "heat", "true")
	assert.NotContains(t, st.get("/cards/1/line").body, "The line will run", "the latest counts")
	a = st.post("/tests/2/hide")
	assert.Contains(t, a.body, "put away")
	assert.Contains(t, st.get("/cards/1/line").body, "The line will run")
	st.post("/tests/2/show")
	assert.Contains(t, st.get("/tests").body, "after 30 min and the heat tool")
	assert.Equal(t, http.StatusNotFound, st.post("/tests/9/hide").status)
	assert.Equal(t, http.StatusNotFound, st.post("/tests/x/hide").status)
}

func TestThePracticeScannerTeachesNothing(t *testing.T) {
	st := withGrid(t)
	st.at(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, []string{"edit", "wash-add", "area", "a1"})
	a := st.post("/tests/practice", "habit", "runs", "ink", "pigment-quick", "paper", "cotton-cp", "minutes", "0")
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	assert.Contains(t, a.body, "simulated: the practice scanner")
	assert.Contains(t, a.body, "at once")
	assert.NotContains(t, st.get("/cards/1/line").body, "The line will run")
	for _, path := range []string{"/strip.pdf", "/strip.pdf?lines=printed"} {
		assert.True(t, strings.HasPrefix(st.get(path).body, "%PDF-"))
	}
}

func TestStripsAreRefusedWithAReason(t *testing.T) {
	st := newStudio(t)
	good := []string{"ink", "pen", "paper", "cotton-cp", "minutes", "5"}
	for why, tc := range map[string]struct {
		data  []byte
		pairs []string
	}{
		"four black marks":             {gridPNG(t), good},
		"not a PNG, JPEG, TIFF or SVG": {[]byte("hello"), good},
		"Minutes it dried":             {stripPNG(t, "holds"), []string{"ink", "pen", "paper", "cotton-cp", "minutes", "long"}},
		"0 to 44640 minutes":           {stripPNG(t, "holds"), []string{"ink", "pen", "paper", "cotton-cp", "minutes", "-1"}},
		"There is no ink":              {stripPNG(t, "holds"), []string{"ink", "tea", "paper", "cotton-cp", "minutes", "5"}},
		"There is no paper":            {stripPNG(t, "holds"), []string{"ink", "pen", "paper", "papyrus", "minutes", "5"}},
		"The file is empty":            {nil, good},
	} {
		a := st.send("/tests", "strip.png", tc.data, tc.pairs...)
		assert.GreaterOrEqual(t, a.status, 400, why)
		assert.Contains(t, message(a.body), why)
	}
	a := st.post("/tests/practice", "habit", "sings", "ink", "pen", "paper", "cotton-cp", "minutes", "5")
	assert.Contains(t, message(a.body), "practice scanner knows no ink")
	assert.Contains(t, st.get("/tests").body, "No test yet", "nothing was kept")
}

func TestAnImpressionIsChecked(t *testing.T) {
	st := withGrid(t)
	a := st.send("/cards/1/impression", "scan.png", gridPNG(t), "width", "64.1", "back", "line")
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	assert.Contains(t, a.body, "A good impression")
	a = st.post("/cards/1/impression/practice", "back", "line")
	assert.Contains(t, a.body, "Simulated")
	a = st.send("/cards/1/impression", "scan.png", stripPNG(t, "holds"), "width", "140", "back", "line")
	assert.Equal(t, http.StatusUnprocessableEntity, a.status)
	assert.Contains(t, message(a.body), "does not match")
	a = st.send("/cards/1/impression", "scan.png", gridPNG(t), "width", "wide", "back", "line")
	assert.Contains(t, message(a.body), "width of the scan")
	st.post("/cards", "name", "Bare", "unit", "mm", "format", "a2", "fold", "side")
	a = st.send("/cards/2/impression", "scan.png", gridPNG(t), "width", "64", "back", "line")
	assert.Contains(t, message(a.body), "no line image")
}

// A new scan of the same image, tilted and at another place on the glass, is laid
// on the old one: areas and corrections stay.
func TestANewScanKeepsAreasAndCorrections(t *testing.T) {
	st := withGrid(t)
	st.at(t, []string{"edit", "area-new", "cells", "2,3", "name", "Sky"}, []string{"edit", "pen", "points", "1 x 1; 20 x 30"})
	before := st.card(1).Card
	const pxPerMM = 300 / 25.4
	sc := standin.Usual(5)
	sc.Tilt = 2.5
	scan := sc.Scan(paneltest.Scan(3, 2), pxPerMM)
	var buf bytes.Buffer
	require.NoError(t, png.Encode(&buf, scan))
	width := float64(scan.Rect.Dx()) / pxPerMM
	a := st.send("/cards/1/upload", "again.png", buf.Bytes(), "width", fmt.Sprintf("%.2f mm", width), "back", "line")
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	after := st.card(1).Card
	assert.NotEqual(t, before.Line().Image, after.Line().Image)
	assert.Equal(t, [2]any{before.Line().Width, before.Line().X}, [2]any{after.Line().Width, after.Line().X})
	assert.Equal(t, before.Line().Marks, after.Line().Marks)
	st.read(1)
	page := st.get("/cards/1/line").body
	assert.NotContains(t, page, "could not be found again")
	assert.Contains(t, st.get("/cards/1/colour").body, "2 cells")

	// Another image is laid behind, or in its place when that is asked for.
	st.send("/cards/1/upload", "strip.png", stripPNG(t, "holds"), "width", "140", "back", "line")
	require.Len(t, st.card(1).Card.Images, 2)
	st.send("/cards/1/upload", "strip.png", stripPNG(t, "holds"), "width", "140", "back", "line", "instead", "yes", "picked", "i1")
	require.Len(t, st.card(1).Card.Images, 2)
	assert.Equal(t, 140*length.Millimetre, st.card(1).Card.Line().Width)
}
