package line_test

import (
	"bytes"
	"image"
	"image/color"
	"image/png"
	"math/rand/v2"
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/shelf"
	"chromaqua/internal/web/webtest"
)

// An image is laid behind another, moved, turned, mirrored, repeated and brought
// forward; the order of stamping and its masks follow.
func TestComposingAPanel(t *testing.T) {
	st := webtest.WithGrid(t)
	edit := func(pairs ...string) webtest.Answer {
		a := st.Post("/cards/1/edit", append([]string{"back", "line"}, pairs...)...)
		require.Equal(t, http.StatusOK, a.Status, "%v: %s", pairs, webtest.Message(a.Body))
		return a
	}
	hash := st.Card(1).Card.Line().Image
	a := edit("edit", "drawing", "image", hash)
	assert.Contains(t, a.Body, `aria-current="true"`)
	st.Read(1)
	edit("edit", "place", "picked", "i2", "width", "50", "x", "12.5", "y", "30", "turn", "15")
	edit("edit", "turn", "picked", "i2", "by", "-5")
	edit("edit", "mirror", "picked", "i2")
	edit("edit", "ghost", "picked", "i2", "ghost", "1")
	m, err := st.Card(1).Card.ImageByID("i2")
	require.NoError(t, err)
	assert.Equal(t, [4]any{50 * length.Millimetre, 10.0, true, 1}, [4]any{m.Width, m.Turn, m.Mirror, m.Ghost})
	st.Read(1)
	page := st.Get("/cards/1/line?image=i2").Body
	assert.Contains(t, page, "stamped off 1 × first, with a mask over grid.scan")
	assert.Contains(t, page, `data-turn="i2"`)
	pdf := st.Get("/cards/1/masks.pdf")
	assert.True(t, strings.HasPrefix(pdf.Body, "%PDF"))
	assert.Contains(t, st.Get("/cards/1/masks.svg").Body, "grid.scan, cut 1")

	front := *st.Card(1).Card.Line()
	edit("edit", "shift", "picked", "i2", "dx", "900", "dy", "0")
	st.Read(1)
	page = st.Get("/cards/1/line").Body
	assert.Contains(t, page, "lies wholly off the paper")
	assert.Contains(t, page, `<input type="hidden" name="picked" value="i2"><button class="btn btn-small">Centre it`)
	edit("edit", "centre", "picked", "i2")
	assert.Equal(t, front, *st.Card(1).Card.Line(), "the one in front stays")
	edit("edit", "bring", "picked", "i2", "n", "1")
	assert.Equal(t, "i2", st.Card(1).Card.Line().ID)
	edit("edit", "repeat", "picked", "i2", "copies", "2", "right", "4", "down", "1", "turned", "3")
	assert.Len(t, st.Card(1).Card.Images, 4)
	st.Read(1)
	assert.Contains(t, st.Get("/cards/1/line").Body, "<strong>3 of grid.scan</strong>")
	for _, id := range []string{"i2", "i3", "i4"} {
		edit("edit", "image-off", "picked", id)
	}
	st.Read(1)
	assert.NotContains(t, st.Get("/cards/1/line").Body, "Stamp in this order")
	a = st.Get("/cards/1/masks.pdf")
	assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
	assert.Contains(t, a.Body, "no mask to cut")

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
		before := st.Card(1).Seq
		a := st.Post("/cards/1/edit", append([]string{"back", "line"}, pairs...)...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status, why)
		assert.Contains(t, webtest.Message(a.Body), why)
		assert.Equal(t, before, st.Card(1).Seq)
	}
}

// An image is what it is made with: a folder asks when it is pressed, and what is
// kept bare is not stamped.
func TestKindsOfImages(t *testing.T) {
	st := webtest.WithGrid(t)
	edit := func(pairs ...string) string {
		a := st.Post("/cards/1/edit", append([]string{"back", "line"}, pairs...)...)
		require.Equal(t, http.StatusOK, a.Status, "%v: %s", pairs, webtest.Message(a.Body))
		st.Read(1)
		return st.Get("/cards/1/line").Body
	}
	page := edit("edit", "image-kind", "kind", "relief")
	assert.Contains(t, page, "When is the folder pressed?")
	assert.Contains(t, page, "is smaller than the paper")
	edit("edit", "relief", "relief", "unpainted")
	assert.Equal(t, card.Unpainted, st.Card(1).Card.Relief)
	page = edit("edit", "image-kind", "kind", "solid")
	assert.NotContains(t, page, "When is the folder pressed?")
	assert.Contains(t, page, "Its mass is")
	assert.True(t, st.Card(1).Card.Has(shelf.SolidImage))
	page = edit("edit", "image-kind", "kind", "line")
	cells := strings.Count(page, `data-cell="`)
	page = edit("edit", "bare", "points", "20 x 20; 90 x 20; 90 x 120; 60 x 120")
	assert.Contains(t, page, "not inked, at")
	assert.Less(t, strings.Count(page, `data-cell="`), cells)
	a := st.Post("/cards/1/impression/practice", "back", "line")
	assert.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
}

// Gaps are closed or left open, cells joined, divided, forgotten or kept white;
// each is a change that can be taken back.
func TestCorrectingTheLine(t *testing.T) {
	st := webtest.WithGrid(t)
	edit := func(pairs ...string) webtest.Answer {
		a := st.Post("/cards/1/edit", append([]string{"back", "line"}, pairs...)...)
		require.Equal(t, http.StatusOK, a.Status, "%v: %s", pairs, webtest.Message(a.Body))
		return a
	}
	cells := func() string {
		st.Read(1)
		return regexp.MustCompile(`<strong>(\d+ cells?)</strong>`).FindStringSubmatch(st.Get("/cards/1/line").Body)[1]
	}
	before := cells()
	edit("edit", "cells-join", "cells", "2, 3")
	assert.NotEqual(t, before, cells())
	assert.Contains(t, st.Get("/cards/1/line").Body, "cells made one at")
	edit("edit", "mark-off", "mark", "0")
	assert.Equal(t, before, cells())
	edit("edit", "pen", "points", "1 x 1; 20 x 30;21×31")
	assert.Len(t, st.Card(1).Card.Line().Marks[0].Points, 3)
	st.Read(1)
	assert.Contains(t, st.Get("/cards/1/line").Body, `class="penmark"`)
	edit("edit", "specks", "specks", "19.7 mm")
	assert.NotEqual(t, before, cells())
	edit("edit", "specks", "specks", "")
	edit("edit", "mark-off", "mark", "all")
	assert.Empty(t, st.Card(1).Card.Line().Marks)

	st.Post("/cards/1/edit", "back", "colour", "edit", "white", "cells", "2, 3")
	st.Post("/cards/1/edit", "back", "colour", "edit", "white", "cells", "4")
	c := st.Card(1).Card
	require.Len(t, c.Areas, 1)
	assert.True(t, c.Areas[0].White)
	assert.Len(t, c.Areas[0].Cells, 3)
	assert.Contains(t, st.Get("/cards/1/colour").Body, "kept paper white")
	edit("edit", "white-off", "area", "a1")
	edit(webtest.Dip("a1")...)

	wide := st.Card(1).Card.Line().Width
	edit("edit", "measure", "now", "20", "really", "30")
	assert.InDelta(t, wide.MM()*1.5, st.Card(1).Card.Line().Width.MM(), 0.01)
	edit("edit", "measure", "now", "30", "really", "20")

	for why, pairs := range map[string][]string{
		"distance on the board": {"edit", "measure", "now", "0", "really", "20"},
		"real distance":         {"edit", "measure", "now", "20", "really", ""},
		"not there any more":    {"edit", "leak-close", "leak", "7"},
		"is no whole number":    {"edit", "leak-open", "leak", "x"},
		"two cells":             {"edit", "cells-join", "cells", "2"},
		"is no place":           {"edit", "pen", "points", "1 1"},
		"is no length":          {"edit", "pen", "points", "1 x one"},
		"2 to 500 points":       {"edit", "pen", "points", "1 x 1"},
		"correction is gone":    {"edit", "mark-off", "mark", "3"},
		"size of specks":        {"edit", "specks", "specks", "tiny"},
		"as specks":             {"edit", "specks", "specks", "40 mm"},
	} {
		a := st.Post("/cards/1/edit", append([]string{"back", "line"}, pairs...)...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status, "%v", pairs)
		assert.Contains(t, webtest.Message(a.Body), why)
	}
}

func TestBadPicturesAreRefused(t *testing.T) {
	st := webtest.WithGrid(t)
	seq := st.Card(1).Seq
	good := webtest.GridPNG(t)
	var dot bytes.Buffer
	require.NoError(t, png.Encode(&dot, image.NewGray(image.Rect(0, 0, 1, 1))))
	for _, tc := range []struct {
		name, width, why string
		data             []byte
	}{
		{"letter.txt", "60", "not a PNG, JPEG, TIFF, WebP or SVG", []byte("dear diary")},
		{"empty.png", "60", "the file is empty", nil},
		{"dot.png", "60", "smaller than 16", dot.Bytes()},
		{"cut.png", "60", "cut short", good[:len(good)/2]},
		{"fine.png", "four", "width of the image", good},
	} {
		a := st.Send("/cards/1/upload", tc.name, tc.data, "back", "line", "width", tc.width)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status, tc.name)
		assert.Contains(t, webtest.Message(a.Body), tc.why, tc.name)
	}
	assert.Equal(t, seq, st.Card(1).Seq, "the card keeps its image")

	// A width that nothing says is that of the panel, and it is said.
	other := webtest.New(t)
	other.Post("/cards", "name", "x", "unit", "mm", "format", "iso-a6", "fold", "top")
	require.Equal(t, http.StatusOK, other.Send("/cards/1/upload", "fine.png", good, "back", "line").Status)
	rev := other.Card(1)
	assert.Equal(t, rev.Card.PanelSize().W, rev.Card.Line().Width)
	assert.Contains(t, rev.What, "as the panel is, since its file does not say")
}

// pictures that open but are no line art are kept, with an explanation where
// the cells would be.
func TestPicturesThatAreNoLineArt(t *testing.T) {
	rng := rand.New(rand.NewPCG(1, 2))
	photo, blank := image.NewGray(image.Rect(0, 0, 600, 400)), image.NewGray(image.Rect(0, 0, 600, 400))
	for y := range 400 {
		for x := range 600 {
			photo.SetGray(x, y, color.Gray{Y: uint8(60 + (x/3+y/2)%120 + rng.IntN(40))})
			blank.SetGray(x, y, color.Gray{Y: 236})
		}
	}
	for why, m := range map[string]image.Image{"looks like a photograph": photo, "looks blank": blank} {
		st := webtest.WithGrid(t)
		var buf bytes.Buffer
		require.NoError(t, png.Encode(&buf, m))
		a := st.Send("/cards/1/upload", "x.png", buf.Bytes(), "back", "line", "width", "60")
		require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
		st.Read(1)
		for _, station := range []string{"format", "line", "colour", "order", "bench"} {
			a = st.Get("/cards/1/" + station)
			assert.Equal(t, http.StatusOK, a.Status)
		}
		assert.Contains(t, webtest.BoardSays(st.Get("/cards/1/line").Body), why)
		assert.Equal(t, http.StatusUnprocessableEntity, st.Get("/cards/1/bench.pdf").Status)
	}
}

// Dragging and the arrow keys move the line exactly, whatever was shown.
func TestTheLineIsPlacedExactly(t *testing.T) {
	st := webtest.WithGrid(t)
	before := *st.Card(1).Card.Line()
	st.Post("/cards/1/edit", "back", "line", "edit", "shift", "dx", "1.5 mm", "dy", "-0.25 mm")
	now := st.Card(1).Card.Line()
	assert.Equal(t, before.X+1_500_000, now.X)
	assert.Equal(t, before.Y-250_000, now.Y)
	// What the form shows, sent back unchanged, changes nothing.
	seq := st.Card(1).Seq
	st.Post("/cards/1/edit", "back", "line", "edit", "place", "width", now.Width.Typed(length.Millimetres), "x", now.X.Typed(length.Millimetres), "y", now.Y.Typed(length.Millimetres))
	assert.Equal(t, seq, st.Card(1).Seq)
	st.Post("/cards/1/edit", "back", "line", "edit", "centre")
	assert.Equal(t, before, *st.Card(1).Card.Line())
}
