package format_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/internal/web/webtest"
)

// What was typed stays, what follows says from what, and what is sent back as
// it was shown changes nothing.
func TestSizesFollow(t *testing.T) {
	st := webtest.New(t)
	st.Post("/cards", "name", "x", "unit", "in", "format", "a2", "fold", "side")
	assert.Contains(t, st.Get("/cards/1/format").Body, "follows from the front")
	c := st.At(t, []string{"edit", "size", "ring", "panel", "w", "3 1/2", "h", "5"})
	assert.Equal(t, length.Size{W: 7 * length.Inch / 2}, c.Panel.Size, "the height was sent as it was shown, and follows")

	a := st.Post("/cards/1/edit", "back", "format", "edit", "size", "ring", "panel", "w", "6", "h", "8")
	assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
	assert.Contains(t, a.Body, "Start from a panel of 6 × 8")
	c = st.At(t, []string{"edit", "size", "ring", "panel", "w", "6", "h", "8", "start", "true"})
	assert.Equal(t, webtest.Inches(6.5, 8.5), c.Front())
	assert.Contains(t, st.Get("/cards/1/format").Body, "follows from the panel")

	c = st.At(t, []string{"edit", "envelope", "envelope", "env-a7"}, []string{"edit", "envelope", "start", "true"})
	assert.Equal(t, webtest.Inches(5, 7), c.Front())
	assert.Contains(t, st.Get("/cards/1/format").Body, "follows from the envelope")
	c = st.At(t, []string{"edit", "format", "format", "a6", "turned", "true"}, []string{"edit", "envelope", "envelope", "free"})
	assert.Equal(t, webtest.Inches(6.25, 4.5), c.Front())
	assert.Equal(t, card.Free, c.Envelope.ID)
	c = st.At(t, []string{"edit", "envelope", "envelope", "free", "inside", "6 1/2 x 5"}, []string{"edit", "format", "format", "follows"})
	assert.Equal(t, webtest.Inches(6.375, 4.875), c.Front(), "it still lies across")
	c = st.At(t, []string{"edit", "stamp", "stamp", "size", "size", "2 x 3"}, []string{"edit", "envelope", "envelope", ""})
	assert.Equal(t, webtest.Inches(3, 4), c.Front())
	c = st.At(t, []string{"edit", "size", "ring", "front", "w", "5", "h", "7"}, []string{"edit", "stamp", "stamp", ""}, []string{"edit", "unit", "unit", "mm"})
	assert.Equal(t, length.Size{W: 115 * length.Millimetre, H: 166 * length.Millimetre}, c.PanelSize())
	c = st.At(t, []string{"edit", "format", "format", "free"}, []string{"edit", "extra", "extra", "2.5"})
	assert.Equal(t, 5*length.Millimetre/2, c.Extra)
}

func TestLayers(t *testing.T) {
	st := webtest.New(t)
	st.Post("/cards", "name", "x", "unit", "in", "format", "a2", "fold", "side")
	c := st.At(t,
		[]string{"edit", "layer-add", "kind", "mat"},
		[]string{"edit", "layer-add", "kind", "frame"},
		[]string{"edit", "show", "ring", "layer-0", "all", "1/4"},
		[]string{"edit", "show", "ring", "layer-1", "left", "1/16", "right", "1/8", "top", "", "bottom", "1/8"},
		[]string{"edit", "drag", "ring", "opening-2", "side", "left", "marks", "2"},
		[]string{"edit", "drag", "ring", "panel", "side", "left", "marks", "1", "all", "true"},
		[]string{"edit", "fold", "fold", "gate", "scored", "inside"},
		[]string{"edit", "held", "part", "panel", "by", "full foam"},
		[]string{"edit", "insert", "on", "true"},
		[]string{"edit", "insert", "on", "true", "margin", "1/4", "insert-paper", "kraft", "colour", "brown"},
		[]string{"edit", "painting", "border", "1/8", "tape", "1", "spare", "1/2"},
		[]string{"edit", "words", "words", "2 x 1/4"},
	)
	l, err := c.Layout()
	require.NoError(t, err)
	assert.Equal(t, length.Inch/16, *c.Layers[1].Margin.Left)
	assert.Nil(t, c.Layers[1].Margin.Right, "sent as it was shown, it follows")
	assert.Equal(t, 3*length.Inch/8, l.Of("opening-2").Round.Left)
	assert.Equal(t, -3*length.Sixteenth, l.Of("panel").Round.Right)
	assert.Equal(t, "kraft", c.Insert.Paper)
	assert.Equal(t, joint.FullFoam, c.Panel.By)
	body := st.Get("/cards/1/format").Body
	for _, part := range []string{"valley fold", "mat 1 3 3/4", "frame&#39;s opening", "the panel reaches 3/16", "Cut the sheet to paint on", "class=\"masked\"", "insert"} {
		assert.Contains(t, webtest.Plain(body), part)
	}
	assert.Contains(t, body, `data-ring="opening-2" data-side="top"`)
	c = st.At(t, []string{"edit", "layer-off", "layer", "1"}, []string{"edit", "insert"}, []string{"edit", "words", "words", ""})
	assert.Len(t, c.Layers, 2)
	assert.Nil(t, c.Insert)
}

func TestDiesOfTheDrawer(t *testing.T) {
	st := webtest.New(t)
	a := st.Post("/paper/edit", "unit", "in", "edit", "dies-add", "name", "scalloped", "edge", "scallop", "sizes", "3 x 4; 3 7/8 x 5 1/8;\n4 x 6")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "scalloped")
	a = st.Post("/paper/edit", "unit", "in", "edit", "dies-add", "name", "odd", "edge", "scallop", "sizes", "3 x 4; four")
	assert.Contains(t, webtest.Message(a.Body), "die 2")
	assert.Contains(t, webtest.Message(st.Post("/paper/edit", "edit", "dies-add", "name", "", "edge", "plain", "sizes", "3 x 4").Body), "name")

	assert.Contains(t, st.Get("/new").Body, "Card round the die")
	a = st.Post("/cards", "name", "Die", "unit", "in", "fold", "side", "start", "die", "die", "scalloped|3 7/8 in x 5 1/8 in")
	assert.Equal(t, "/cards/1/format", a.Path, webtest.Message(a.Body))
	c := st.Card(1).Card
	assert.Equal(t, webtest.Inches(4.125, 5.375), c.Front())
	assert.Contains(t, a.Body, "the nearest die of scalloped")

	c = st.At(t, []string{"edit", "die", "ring", "layer-0", "set", ""}, []string{"edit", "die", "ring", "panel", "set", "scalloped"})
	assert.Nil(t, c.Layers[0].Die)
	assert.Equal(t, card.Scallop, c.Panel.Die.Edge)
	st.Post("/paper/edit", "edit", "dies-remove", "name", "scalloped")
	assert.Contains(t, st.Get("/cards/1/format").Body, "<option selected>scalloped</option>", "the card keeps what it is cut with")
}

// The window over a painted sheet gives cuts, is part of the card file, and
// can be put away.
func TestViewfinder(t *testing.T) {
	st := webtest.New(t)
	st.Post("/cards", "name", "x", "unit", "in", "format", "a2", "fold", "side")
	a := st.Send("/cards/1/sheet", "wash.png", webtest.GridPNG(t), "width", "9", "back", "format")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	w := st.Card(1).Card.Window
	require.NotNil(t, w)
	assert.Equal(t, w.Size().W/2, w.X)
	assert.Contains(t, a.Body, "Mark the sheet at its edges first")
	c := st.At(t, []string{"edit", "window", "width", "9", "x", "4", "y", "3", "turn", "-12,5°"})
	assert.InDelta(t, -12.5, c.Window.Turn, 1e-9)
	assert.Equal(t, 4*length.Inch, c.Window.X)
	a = st.Post("/cards/1/edit", "back", "format", "edit", "window", "width", "9", "x", "0", "y", "3", "turn", "0")
	assert.Contains(t, a.Body, "over the edge of the painted sheet")
	a = st.Post("/cards/1/edit", "back", "format", "edit", "window", "width", "9", "x", "0", "y", "3", "turn", "steep")
	assert.Contains(t, webtest.Message(a.Body), "is no angle")

	file := st.Get("/cards/1/card.zip")
	a = st.Send("/import", "card.zip", []byte(file.Body))
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Equal(t, st.Card(1).Card.Window, st.Card(2).Card.Window)

	c = st.At(t, []string{"edit", "window-centre"}, []string{"edit", "window-off"})
	assert.Nil(t, c.Window)
	a = st.Send("/cards/1/sheet", "wash.png", []byte("no picture"), "width", "9", "back", "format")
	assert.Contains(t, webtest.Message(a.Body), "PNG, JPEG, TIFF, WebP or SVG")
}

func TestWordsKeepOffFocalAreas(t *testing.T) {
	st := webtest.WithGrid(t)
	c := st.At(t, []string{"edit", "words", "words", "30 x 8"})
	assert.Equal(t, 30*length.Millimetre, c.Words.W)
	assert.Contains(t, st.Get("/cards/1/format").Body, "on the panel, ")
	a := st.Post("/cards/1/edit", "back", "colour", "edit", "area-new", "cells", "1", "name", "Sky")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	st.Post("/cards/1/edit", "back", "colour", "edit", "focal", "area", "a1", "focal", "true")
	assert.True(t, st.Card(1).Card.Areas[0].Focal)
	assert.Contains(t, st.Get("/cards/1/format").Body, "no clear place")
}

func TestEnvelopesMadeToMeasure(t *testing.T) {
	st := webtest.WithGrid(t)
	body := st.Get("/cards/1/format").Body
	assert.Contains(t, body, "From a square")
	assert.Contains(t, body, "Score the four creases.")
	assert.Contains(t, st.Get("/cards/1/envelope-square.svg").Body, `<path id="envelope-score-4"`)
	assert.True(t, strings.HasPrefix(st.Get("/cards/1/envelope-strip.pdf").Body, "%PDF-"))
	assert.Equal(t, http.StatusNotFound, st.Get("/cards/1/envelope-circle.pdf").Status)
	assert.Equal(t, http.StatusNotFound, st.Get("/cards/1/envelope-square.doc").Status)
}
