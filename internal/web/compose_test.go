package web_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/shelf"
)

// An image is laid behind another, moved, turned, mirrored, repeated and brought
// forward; the order of stamping and its masks follow.
func TestComposingAPanel(t *testing.T) {
	st := withGrid(t)
	edit := func(pairs ...string) answer {
		a := st.post("/cards/1/edit", append([]string{"back", "line"}, pairs...)...)
		require.Equal(t, http.StatusOK, a.status, "%v: %s", pairs, message(a.body))
		return a
	}
	hash := st.card(1).Card.Line().Image
	a := edit("edit", "drawing", "image", hash)
	assert.Contains(t, a.body, `aria-current="true"`)
	st.read(1)
	edit("edit", "place", "picked", "i2", "width", "50", "x", "12.5", "y", "30", "turn", "15")
	edit("edit", "turn", "picked", "i2", "by", "-5")
	edit("edit", "mirror", "picked", "i2")
	edit("edit", "ghost", "picked", "i2", "ghost", "1")
	m, err := st.card(1).Card.ImageByID("i2")
	require.NoError(t, err)
	assert.Equal(t, [4]any{50 * length.Millimetre, 10.0, true, 1}, [4]any{m.Width, m.Turn, m.Mirror, m.Ghost})
	st.read(1)
	page := st.get("/cards/1/line?image=i2").body
	assert.Contains(t, page, "stamped off 1 × first, with a mask over grid.scan")
	assert.Contains(t, page, `data-turn="i2"`)
	pdf := st.get("/cards/1/masks.pdf")
	assert.True(t, strings.HasPrefix(pdf.body, "%PDF"))
	assert.Contains(t, st.get("/cards/1/masks.svg").body, "grid.scan, cut 1")

	front := *st.card(1).Card.Line()
	edit("edit", "shift", "picked", "i2", "dx", "900", "dy", "0")
	st.read(1)
	page = st.get("/cards/1/line").body
	assert.Contains(t, page, "lies wholly off the panel")
	assert.Contains(t, page, `<input type="hidden" name="picked" value="i2"><button class="btn btn-small">Centre it`)
	edit("edit", "centre", "picked", "i2")
	assert.Equal(t, front, *st.card(1).Card.Line(), "the one in front stays")
	edit("edit", "bring", "picked", "i2", "n", "1")
	assert.Equal(t, "i2", st.card(1).Card.Line().ID)
	edit("edit", "repeat", "picked", "i2", "copies", "2", "right", "4", "down", "1", "turned", "3")
	assert.Len(t, st.card(1).Card.Images, 4)
	st.read(1)
	assert.Contains(t, st.get("/cards/1/line").body, "<strong>3 of grid.scan</strong>")
	for _, id := range []string{"i2", "i3", "i4"} {
		edit("edit", "image-off", "picked", id)
	}
	st.read(1)
	assert.NotContains(t, st.get("/cards/1/line").body, "Stamp in this order")
	a = st.get("/cards/1/masks.pdf")
	assert.Equal(t, http.StatusUnprocessableEntity, a.status)
	assert.Contains(t, a.body, "no mask to cut")

	for why, pairs := range map[string][]string{
		"1 to 29 copies":       {"edit", "repeat", "copies", "200"},
		"is no whole number":   {"edit", "repeat", "copies", "many"},
		"further right":        {"edit", "repeat", "copies", "1", "right", "3/0"},
		"not on the panel any": {"edit", "centre", "picked", "i9"},
		"180 degrees":          {"edit", "place", "width", "64", "x", "0", "y", "0", "turn", "999"},
		"turn: ":               {"edit", "turn", "by", "round"},
		"no kind of image":     {"edit", "image-kind", "kind", "fog"},
		"0 to 3 times":         {"edit", "ghost", "ghost", "9"},
		"three points":         {"edit", "bare", "points", "1 x 1; 2 x 2"},
	} {
		before := st.card(1).Seq
		a := st.post("/cards/1/edit", append([]string{"back", "line"}, pairs...)...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.status, why)
		assert.Contains(t, message(a.body), why)
		assert.Equal(t, before, st.card(1).Seq)
	}
}

// An image is what it is made with: a folder asks when it is pressed, and what is
// kept bare is not stamped.
func TestKindsOfImages(t *testing.T) {
	st := withGrid(t)
	edit := func(pairs ...string) string {
		a := st.post("/cards/1/edit", append([]string{"back", "line"}, pairs...)...)
		require.Equal(t, http.StatusOK, a.status, "%v: %s", pairs, message(a.body))
		st.read(1)
		return st.get("/cards/1/line").body
	}
	page := edit("edit", "image-kind", "kind", "relief")
	assert.Contains(t, page, "When is the folder pressed?")
	assert.Contains(t, page, "is smaller than the panel")
	edit("edit", "relief", "relief", "unpainted")
	assert.Equal(t, card.Unpainted, st.card(1).Card.Relief)
	page = edit("edit", "image-kind", "kind", "solid")
	assert.NotContains(t, page, "When is the folder pressed?")
	assert.Contains(t, page, "Its mass is")
	assert.True(t, st.card(1).Card.Has(shelf.SolidImage))
	page = edit("edit", "image-kind", "kind", "line")
	cells := strings.Count(page, `data-cell="`)
	page = edit("edit", "bare", "points", "20 x 20; 90 x 20; 90 x 120; 60 x 120")
	assert.Contains(t, page, "not inked, at")
	assert.Less(t, strings.Count(page, `data-cell="`), cells)
	a := st.post("/cards/1/impression/practice", "back", "line")
	assert.Equal(t, http.StatusOK, a.status, message(a.body))
}

// On the board an image is picked with a click, carried, and turned by its handle
// or a key.
func TestCarryingImagesOnTheBoard(t *testing.T) {
	st := withGrid(t)
	st.at(t, []string{"edit", "drawing", "image", st.card(1).Card.Line().Image}, []string{"edit", "place", "picked", "i2", "width", "40", "x", "20", "y", "95"})
	b := newBrowser(t, st.url)
	b.open("/cards/1/line")
	b.waits(`document.querySelectorAll(".cover").length === 2`)
	image := func(id string) card.Image {
		m, err := st.card(1).Card.ImageByID(id)
		require.NoError(t, err)
		return *m
	}
	x, y := b.middle(`.cover[data-image="i2"]`)
	b.run(chromedp.MouseClickXY(x, y+14))
	b.waits(`document.querySelector(".cover.picked").dataset.image === "i2"`)
	first, second := image("i1"), image("i2")
	b.drag(x, y+14, x+40, y+14)
	require.Eventually(t, func() bool { return image("i2").X > second.X }, eventually, tick)
	assert.Equal(t, first, image("i1"), "the other one stays")
	b.waits(`!document.querySelector(".saving") && document.querySelector(".handle")`)
	x, y = b.middle(".handle circle")
	b.drag(x, y, x+30, y+8)
	require.Eventually(t, func() bool { return image("i2").Turn > 5 }, eventually, tick)
	turned := image("i2").Turn
	b.waits(`!document.querySelector(".saving") && document.querySelector(".handle")`)
	b.key("b")
	b.key("]")
	require.Eventually(t, func() bool { return image("i2").Turn == turned+1 }, eventually, tick)
}
