package web_test

import (
	"net/http"
	"regexp"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
)

// at posts changes of card 1 from its Format station, each of which must
// succeed.
func (st *studio) at(t testing.TB, changes ...[]string) *card.Card {
	for _, pairs := range changes {
		a := st.post("/cards/1/edit", append([]string{"back", "format"}, pairs...)...)
		require.Equal(t, http.StatusOK, a.status, "%v: %s", pairs, message(a.body))
	}
	return st.card(1).Card
}

func inches(w, h float64) length.Size {
	return length.Size{W: length.Length(w * float64(length.Inch)), H: length.Length(h * float64(length.Inch))}
}

// What was typed stays, what follows says from what, and what is sent back as
// it was shown changes nothing.
func TestSizesFollow(t *testing.T) {
	st := newStudio(t)
	st.post("/cards", "name", "x", "unit", "in", "format", "a2", "fold", "side")
	assert.Contains(t, st.get("/cards/1/format").body, "follows from the front")
	c := st.at(t, []string{"edit", "size", "ring", "panel", "w", "3 1/2", "h", "5"})
	assert.Equal(t, length.Size{W: 7 * length.Inch / 2}, c.Panel.Size, "the height was sent as it was shown, and follows")

	a := st.post("/cards/1/edit", "back", "format", "edit", "size", "ring", "panel", "w", "6", "h", "8")
	assert.Equal(t, http.StatusUnprocessableEntity, a.status)
	assert.Contains(t, a.body, "Start from a panel of 6 × 8")
	c = st.at(t, []string{"edit", "size", "ring", "panel", "w", "6", "h", "8", "start", "true"})
	assert.Equal(t, inches(6.5, 8.5), c.Front())
	assert.Contains(t, st.get("/cards/1/format").body, "follows from the panel")

	c = st.at(t, []string{"edit", "envelope", "envelope", "env-a7"}, []string{"edit", "envelope", "start", "true"})
	assert.Equal(t, inches(5, 7), c.Front())
	assert.Contains(t, st.get("/cards/1/format").body, "follows from the envelope")
	c = st.at(t, []string{"edit", "format", "format", "a6", "turned", "true"}, []string{"edit", "envelope", "envelope", "free"})
	assert.Equal(t, inches(6.25, 4.5), c.Front())
	assert.Equal(t, card.Free, c.Envelope.ID)
	c = st.at(t, []string{"edit", "envelope", "envelope", "free", "inside", "6 1/2 x 5"}, []string{"edit", "format", "format", "follows"})
	assert.Equal(t, inches(6.375, 4.875), c.Front(), "it still lies across")
	c = st.at(t, []string{"edit", "stamp", "stamp", "size", "size", "2 x 3"}, []string{"edit", "envelope", "envelope", ""})
	assert.Equal(t, inches(3, 4), c.Front())
	c = st.at(t, []string{"edit", "size", "ring", "front", "w", "5", "h", "7"}, []string{"edit", "stamp", "stamp", ""}, []string{"edit", "unit", "unit", "mm"})
	assert.Equal(t, inches(4.5, 6.5), c.PanelSize())
	c = st.at(t, []string{"edit", "format", "format", "free"}, []string{"edit", "extra", "extra", "2.5"})
	assert.Equal(t, 5*length.Millimetre/2, c.Extra)
}

func TestLayers(t *testing.T) {
	st := newStudio(t)
	st.post("/cards", "name", "x", "unit", "in", "format", "a2", "fold", "side")
	c := st.at(t,
		[]string{"edit", "layer-add", "kind", "mat"},
		[]string{"edit", "layer-add", "kind", "frame"},
		[]string{"edit", "show", "ring", "layer-0", "all", "1/4"},
		[]string{"edit", "show", "ring", "layer-1", "left", "1/16", "right", "1/8", "top", "", "bottom", "1/8"},
		[]string{"edit", "drag", "ring", "opening-2", "side", "left", "marks", "2"},
		[]string{"edit", "drag", "ring", "panel", "side", "left", "marks", "1", "all", "true"},
		[]string{"edit", "fold", "fold", "gate", "scored", "inside"},
		[]string{"edit", "layer", "layer", "panel", "foam", "true"},
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
	assert.True(t, c.Panel.Foam)
	body := st.get("/cards/1/format").body
	for _, part := range []string{"valley fold", "mat 1 3 3/4", "frame&#39;s opening", "the panel reaches 3/16", "Cut the sheet to paint on", "class=\"masked\"", "foam", "insert"} {
		assert.Contains(t, plain(body), part)
	}
	assert.Contains(t, body, `data-ring="opening-2" data-side="top"`)
	c = st.at(t, []string{"edit", "layer-off", "layer", "1"}, []string{"edit", "insert"}, []string{"edit", "words", "words", ""})
	assert.Len(t, c.Layers, 2)
	assert.Nil(t, c.Insert)
}

// plain is a page without the mark-up of fractions.
func plain(body string) string {
	return regexp.MustCompile(`</?(span|tspan)[^>]*>`).ReplaceAllString(body, "")
}

func TestDiesOfTheDrawer(t *testing.T) {
	st := newStudio(t)
	a := st.post("/paper/edit", "unit", "in", "edit", "dies-add", "name", "scalloped", "edge", "scallop", "sizes", "3 x 4; 3 7/8 x 5 1/8;\n4 x 6")
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	assert.Contains(t, a.body, "scalloped")
	a = st.post("/paper/edit", "unit", "in", "edit", "dies-add", "name", "odd", "edge", "scallop", "sizes", "3 x 4; four")
	assert.Contains(t, message(a.body), "die 2")
	assert.Contains(t, message(st.post("/paper/edit", "edit", "dies-add", "name", "", "edge", "plain", "sizes", "3 x 4").body), "name")

	assert.Contains(t, st.get("/new").body, "Card round the die")
	a = st.post("/cards", "name", "Die", "unit", "in", "fold", "side", "start", "die", "die", "scalloped|3 7/8 in x 5 1/8 in")
	assert.Equal(t, "/cards/1/format", a.path, message(a.body))
	c := st.card(1).Card
	assert.Equal(t, inches(4.125, 5.375), c.Front())
	assert.Contains(t, a.body, "the nearest die of scalloped")

	c = st.at(t, []string{"edit", "die", "ring", "layer-0", "set", ""}, []string{"edit", "die", "ring", "panel", "set", "scalloped"})
	assert.Nil(t, c.Layers[0].Die)
	assert.Equal(t, card.Scallop, c.Panel.Die.Edge)
	st.post("/paper/edit", "edit", "dies-remove", "name", "scalloped")
	assert.Contains(t, st.get("/cards/1/format").body, "<option selected>scalloped</option>", "the card keeps what it is cut with")
}

// A card starts from whatever the maker has.
func TestNewCardFromAnyEnd(t *testing.T) {
	st := newStudio(t)
	for i, tc := range []struct {
		pairs []string
		want  length.Size
	}{
		{[]string{"start", "panel", "size", "4 x 6"}, inches(4.5, 6.5)},
		{[]string{"start", "stamp", "size", "2 x 3"}, inches(3, 4)},
		{[]string{"start", "envelope", "envelope", "env-a6"}, inches(4.5, 6.25)},
		{[]string{"start", "envelope", "envelope", "free", "size", "8 x 6"}, inches(5.875, 7.875)},
	} {
		a := st.post("/cards", append([]string{"name", "x", "unit", "in", "fold", "side"}, tc.pairs...)...)
		require.Equal(t, http.StatusOK, a.status, message(a.body))
		assert.Equal(t, tc.want, st.card(int64(i+1)).Card.Front(), "%v", tc.pairs)
	}
	for why, pairs := range map[string][]string{
		"size of the panel":  {"start", "panel", "size", "4"},
		"size of the stamp":  {"start", "stamp", "size", "x"},
		"no envelope":        {"start", "envelope", "envelope", "env-z"},
		"size of the die":    {"start", "die", "die", "x"},
		"no die set":         {"start", "die", "die", "x|3 in x 4 in"},
		"starts from":        {"start", "thin air"},
		"is outside":         {"start", "envelope", "envelope", "free", "size", "1/4 x 1/4"},
		"size of the envelo": {"start", "envelope", "envelope", "free", "size", ""},
	} {
		a := st.post("/cards", append([]string{"name", "x", "unit", "in", "fold", "side"}, pairs...)...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.status, "%v", pairs)
		assert.Contains(t, message(a.body), why)
	}
}

// The window over a painted sheet gives cuts, is part of the card file, and
// can be put away.
func TestViewfinder(t *testing.T) {
	st := newStudio(t)
	st.post("/cards", "name", "x", "unit", "in", "format", "a2", "fold", "side")
	a := st.send("/cards/1/sheet", "wash.png", gridPNG(t), "width", "9", "back", "format")
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	w := st.card(1).Card.Window
	require.NotNil(t, w)
	assert.Equal(t, w.Size().W/2, w.X)
	assert.Contains(t, a.body, "Mark the sheet at its edges first")
	c := st.at(t, []string{"edit", "window", "width", "9", "x", "4", "y", "3", "turn", "-12,5°"})
	assert.InDelta(t, -12.5, c.Window.Turn, 1e-9)
	assert.Equal(t, 4*length.Inch, c.Window.X)
	a = st.post("/cards/1/edit", "back", "format", "edit", "window", "width", "9", "x", "0", "y", "3", "turn", "0")
	assert.Contains(t, a.body, "over the edge of the painted sheet")
	a = st.post("/cards/1/edit", "back", "format", "edit", "window", "width", "9", "x", "0", "y", "3", "turn", "steep")
	assert.Contains(t, message(a.body), "is no angle")

	file := st.get("/cards/1/card.zip")
	a = st.send("/import", "card.zip", []byte(file.body))
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	assert.Equal(t, st.card(1).Card.Window, st.card(2).Card.Window)

	c = st.at(t, []string{"edit", "window-centre"}, []string{"edit", "window-off"})
	assert.Nil(t, c.Window)
	a = st.send("/cards/1/sheet", "wash.png", []byte("no picture"), "width", "9", "back", "format")
	assert.Contains(t, message(a.body), "PNG, JPEG, TIFF or SVG")
}

func TestWordsKeepOffFocalAreas(t *testing.T) {
	st := withGrid(t)
	c := st.at(t, []string{"edit", "words", "words", "30 x 8"})
	assert.Equal(t, 30*length.Millimetre, c.Words.W)
	assert.Contains(t, st.get("/cards/1/format").body, "on the panel, ")
	a := st.post("/cards/1/edit", "back", "colour", "edit", "area-new", "cells", "1", "name", "Sky")
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	st.post("/cards/1/edit", "back", "colour", "edit", "focal", "area", "a1", "focal", "true")
	assert.True(t, st.card(1).Card.Areas[0].Focal)
	assert.Contains(t, st.get("/cards/1/format").body, "no clear place")
}

// In the browser: an edge follows the pointer, and the window its keys.
func TestDraggingEdges(t *testing.T) {
	st := newStudio(t)
	b := newBrowser(t, st.url)
	st.post("/cards", "name", "x", "unit", "in", "format", "a2", "fold", "side")
	b.open("/cards/1/format")
	grip := func(ring, side string) (x, y float64) {
		return b.middle(`.grip[data-ring="` + ring + `"][data-side="` + side + `"]`)
	}
	x, y := grip("layer-0", "left")
	b.drag(x, y, x+40, y)
	require.Eventually(t, func() bool {
		l, err := st.card(1).Card.Layout()
		return err == nil && l.Of("layer-0").Round.Left > length.Inch/4
	}, eventually, tick)
	l, err := st.card(1).Card.Layout()
	require.NoError(t, err)
	assert.Zero(t, l.Of("layer-0").Round.Left%length.Sixteenth, "it lands on a mark of the ruler")
	assert.Equal(t, length.Inch/8, l.Of("layer-0").Round.Right)
	b.waits(`document.querySelector(".layout").textContent.includes("left")`)

	st.send("/cards/1/sheet", "wash.png", gridPNG(t), "width", "9", "back", "format")
	b.open("/cards/1/format")
	b.do(`document.getElementById("finder").focus()`)
	b.key(kb.ArrowRight)
	half := st.card(1).Card.Window.Size().W / 2
	require.Eventually(t, func() bool { x := st.card(1).Card.Window.X - half; return x > 0 && x < length.Inch/8 }, eventually, tick)
	x, y = b.middle(".turner")
	b.drag(x, y, x+60, y+20)
	require.Eventually(t, func() bool { return st.card(1).Card.Window.Turn > 5 }, eventually, tick)
	before := st.card(1).Card.Window.Y
	x, y = b.middle(".finderwindow rect")
	b.drag(x, y, x, y+25)
	require.Eventually(t, func() bool { return st.card(1).Card.Window.Y > before }, eventually, tick)
}
