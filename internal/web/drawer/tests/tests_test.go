package tests_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/web/webtest"
)

// A scanned strip is read and kept, and what it shows outranks what is generally
// said of the ink.
func TestAnInkIsTested(t *testing.T) {
	st := webtest.WithGrid(t)
	st.At(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, webtest.Dip("a1"))
	assert.NotContains(t, st.Get("/cards/1/line").Body, "The line will run")
	assert.Contains(t, st.Get("/tests").Body, "No test yet")

	a := st.Send("/tests", "strip.png", webtest.StripPNG(t, "runs"), "ink", "pigment-quick", "paper", "cotton-cp", "minutes", "15")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "Runs")
	assert.NotContains(t, a.Body, "practice scanner</span>")
	page := st.Get("/cards/1/line").Body
	assert.Contains(t, page, "The line will run")
	assert.Contains(t, page, "Your test of it on this paper")

	st.Send("/tests", "strip.png", webtest.StripPNG(t, "holds"), "ink", "pigment-quick", "paper", "cotton-cp", "minutes", "30", "heat", "true")
	assert.NotContains(t, st.Get("/cards/1/line").Body, "The line will run", "the latest counts")
	a = st.Post("/tests/2/hide")
	assert.Contains(t, a.Body, "put away")
	assert.Contains(t, st.Get("/cards/1/line").Body, "The line will run")
	st.Post("/tests/undo")
	assert.Contains(t, st.Get("/tests").Body, "after 30 min and the heat tool")
	assert.Equal(t, http.StatusNotFound, st.Post("/tests/9/hide").Status)
	assert.Equal(t, http.StatusNotFound, st.Post("/tests/x/hide").Status)
}

func TestThePracticeScannerTeachesNothing(t *testing.T) {
	st := webtest.WithGrid(t)
	st.At(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, webtest.Dip("a1"))
	a := st.Post("/tests/practice", "habit", "runs", "ink", "pigment-quick", "paper", "cotton-cp", "minutes", "0")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "simulated: the practice scanner")
	assert.Contains(t, a.Body, "at once")
	assert.NotContains(t, st.Get("/cards/1/line").Body, "The line will run")
	for _, path := range []string{"/strip.pdf", "/strip.pdf?lines=printed"} {
		assert.True(t, strings.HasPrefix(st.Get(path).Body, "%PDF-"))
	}
}

func TestStripsAreRefusedWithAReason(t *testing.T) {
	st := webtest.New(t)
	good := []string{"ink", "pen", "paper", "cotton-cp", "minutes", "5"}
	for why, tc := range map[string]struct {
		data  []byte
		pairs []string
	}{
		"four black marks":                   {webtest.GridPNG(t), good},
		"not a PNG, JPEG, TIFF, WebP or SVG": {[]byte("hello"), good},
		"Minutes it dried":                   {webtest.StripPNG(t, "holds"), []string{"ink", "pen", "paper", "cotton-cp", "minutes", "long"}},
		"0 to 44640 minutes":                 {webtest.StripPNG(t, "holds"), []string{"ink", "pen", "paper", "cotton-cp", "minutes", "-1"}},
		"There is no ink":                    {webtest.StripPNG(t, "holds"), []string{"ink", "tea", "paper", "cotton-cp", "minutes", "5"}},
		"There is no paper":                  {webtest.StripPNG(t, "holds"), []string{"ink", "pen", "paper", "papyrus", "minutes", "5"}},
		"The file is empty":                  {nil, good},
	} {
		a := st.Send("/tests", "strip.png", tc.data, tc.pairs...)
		assert.GreaterOrEqual(t, a.Status, 400, why)
		assert.Contains(t, webtest.Message(a.Body), why)
	}
	a := st.Post("/tests/practice", "habit", "sings", "ink", "pen", "paper", "cotton-cp", "minutes", "5")
	assert.Contains(t, webtest.Message(a.Body), "practice scanner knows no ink")
	assert.Contains(t, st.Get("/tests").Body, "No test yet", "nothing was kept")
}
