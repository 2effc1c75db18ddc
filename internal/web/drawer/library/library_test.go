package library_test

import (
	"fmt"
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/length"
	"chromaqua/core/shelf"
	"chromaqua/internal/store"
	"chromaqua/internal/web/webtest"
)

// An image is added once, described, found, used on cards, put away and brought
// back.
func TestTheLibrary(t *testing.T) {
	st := webtest.New(t)
	assert.Contains(t, st.Get("/library").Body, "No image yet")
	a := st.Send("/library", "kelp & co.png", webtest.GridPNG(t), "width", "64", "unit", "mm", "kind", "relief", "mount", "wood", "notes", "from the fair")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	images := st.Library(t)
	require.Len(t, images, 1)
	m := images[0]
	assert.Equal(t, "kelp & co", m.Title)
	assert.Equal(t, store.Facts{Kind: shelf.ReliefImage, Mount: shelf.Wood, Notes: "from the fair"}, m.Facts)
	assert.Contains(t, st.Get("/library?q=FAIR+relief").Body, "kelp &amp; co")
	assert.Contains(t, st.Get("/library?q=crab").Body, "No image speaks of")
	assert.Contains(t, a.Body, "on no card yet")

	st.Post("/cards", "name", "x", "unit", "mm", "format", "a2", "fold", "side")
	a = st.Post("/cards/1/edit", "back", "line", "edit", "drawing", "image", m.Hash)
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, st.Get("/library").Body, "on 1 card")

	a = st.Post("/library/"+m.Hash, "unit", "mm", "edit", "describe", "title", "Kelp", "width", "", "kind", "line", "mount", "", "notes", "")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "size not known")
	assert.Contains(t, webtest.Message(st.Post("/library/"+m.Hash, "edit", "straighten", "turn", "1").Body), "really is")
	st.Post("/cards/1/edit", "back", "line", "edit", "drawing", "image", m.Hash, "instead", "yes")
	assert.Equal(t, st.Card(1).Card.PanelSize().W, st.Card(1).Card.Line().Width, "what is not measured is as wide as the panel")

	a = st.Post("/library/"+m.Hash, "edit", "away")
	assert.Contains(t, a.Body, "was put away")
	assert.Empty(t, st.Library(t))
	assert.Equal(t, http.StatusOK, st.Get("/cards/1/line").Status, "the card keeps it")
	st.Post("/library/undo")
	assert.Len(t, st.Library(t), 1)
	assert.Equal(t, http.StatusNotFound, st.Post("/library/0123", "edit", "away").Status)
}

func TestAnImageIsStraightened(t *testing.T) {
	st := webtest.New(t)
	st.Send("/library", "grid.png", webtest.GridPNG(t), "width", "64", "unit", "mm")
	m := st.Library(t)[0]
	a := st.Post("/library/"+m.Hash, "unit", "mm", "edit", "straighten", "turn", "-1,5", "left", "4", "top", "", "right", "2", "bottom", "")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	images := st.Library(t)
	require.Len(t, images, 1, "it takes the place of the other")
	assert.NotEqual(t, m.Hash, images[0].Hash)
	assert.InDelta(t, 58, images[0].Real.MM(), 0.2)
	assert.Equal(t, m.Height, images[0].Height)
	for why, pairs := range map[string][]string{
		"is no number":      {"edit", "straighten", "turn", "steep"},
		"-180 to 180":       {"edit", "straighten", "turn", "400"},
		"ut off left":       {"edit", "straighten", "left", "wide"},
		"leaves no picture": {"edit", "straighten", "left", "57"},
		"another version":   {"edit", "sing"},
		"eal width":         {"edit", "describe", "title", "x", "width", "far"},
		"no kind of image":  {"edit", "describe", "title", "x", "kind", "poem"},
		"no mount":          {"edit", "describe", "title", "x", "mount", "jelly"},
	} {
		a := st.Post("/library/"+images[0].Hash, append([]string{"unit", "mm"}, pairs...)...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status, "%v", pairs)
		assert.Contains(t, webtest.Message(a.Body), why)
	}
	assert.Contains(t, webtest.Message(st.Send("/library", "x.png", []byte("no"), "unit", "mm").Body), "TIFF, WebP or SVG picture")
	assert.Equal(t, length.FromMM(images[0].Real.MM()), st.Library(t)[0].Real)
}

// A scan's resolution says how wide it is.
func TestWidthByResolution(t *testing.T) {
	st := webtest.New(t)
	a := st.Send("/library", "grid.png", webtest.GridPNG(t), "width", "300 DPI", "unit", "mm")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	m := st.Library(t)[0]
	assert.InDelta(t, float64(m.Width)/300*25.4, m.Real.MM(), 0.001)
	for _, bad := range []string{"dpi", "0 dpi", "-300dpi", "1e9 dpi", "many dpi"} {
		a = st.Send("/library", "grid.png", webtest.GridPNG(t), "width", bad)
		assert.Contains(t, webtest.Message(a.Body), "is no resolution", bad)
	}
}

// What is uploaded for a card is in the library afterwards.
func TestUploadsAreKept(t *testing.T) {
	st := webtest.WithGrid(t)
	assert.Len(t, st.Library(t), 1)
	st.Send("/cards/1/sheet", "wash.png", webtest.StripPNG(t, "runs"), "width", "140", "back", "format")
	assert.Len(t, st.Library(t), 1, "a painted sheet is no stamp")
}

// An SVG is kept as a picture, as wide as it says; what it may not hold is refused.
func TestAnSVGIntoTheLibrary(t *testing.T) {
	st := webtest.New(t)
	st.Post("/cards", "name", "x", "unit", "mm", "format", "a2", "fold", "side")
	svg := `<svg xmlns="http://www.w3.org/2000/svg" width="50mm" viewBox="0 0 50 40"><g fill="none" stroke="#000"><rect x="5" y="5" width="40" height="30"/><path d="M5 20H45"/></g></svg>`
	a := st.Send("/library", "gate.svg", []byte(svg), "unit", "mm", "width", "", "kind", "stencil", "mount", "", "notes", "")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, `value="50"`)
	a = st.Send("/cards/1/upload", "gate.svg", []byte(svg), "back", "line", "width", "")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Equal(t, 50*length.Millimetre, st.Card(1).Card.Line().Width)
	st.Read(1)
	assert.Contains(t, st.Get("/cards/1/line").Body, "3 cells")
	st.Send("/cards/1/upload", "gate.svg", []byte(svg), "back", "line", "width", "60", "instead", "yes")
	assert.Equal(t, 60*length.Millimetre, st.Card(1).Card.Line().Width)
	for why, body := range map[string]string{"entities": `<!DOCTYPE svg [<!ENTITY a "x">]><svg/>`, "text into paths": `<svg viewBox="0 0 9 9"><text>x</text></svg>`, "no usable size": `<svg/>`} {
		a := st.Send("/library", "bad.svg", []byte(body), "unit", "mm")
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
		assert.Contains(t, webtest.Message(a.Body), why)
	}
	st.Send("/cards/1/upload", "scan.png", webtest.GridPNG(t), "back", "line", "width", "", "instead", "yes")
	assert.Equal(t, st.Card(1).Card.PanelSize().W, st.Card(1).Card.Line().Width, "nobody says how wide it is")
}

// Three hundred images: a page shows some of them, those of a kind together; the others
// are a page or a word away.
func TestALargeLibrary(t *testing.T) {
	st := webtest.New(t)
	for i := range 300 {
		facts := store.Facts{Kind: shelf.LineImage}
		if i%3 == 0 {
			facts.Kind = shelf.Stencil
		}
		m := store.Image{Hash: fmt.Sprintf("%064x", i+1), Title: fmt.Sprintf("Stamp %d", i+1), Media: "image/png", Width: 60, Height: 40, Real: 30 * length.Millimetre, Data: []byte("x"), Kept: true, Facts: facts}
		require.NoError(t, st.Store.PutImage(t.Context(), store.Latest, m))
	}
	page := st.Get("/library").Body
	assert.Equal(t, 48, strings.Count(page, `class="imagetile"`))
	assert.Contains(t, page, "Page 1 of 7, 300 images")
	assert.Equal(t, 1, strings.Count(page, "<h2>"), "all of one kind so far")
	seen := map[string]bool{}
	for n := 1; n <= 7; n++ {
		for _, title := range regexp.MustCompile(`<h3>(Stamp \d+)</h3>`).FindAllStringSubmatch(st.Get(fmt.Sprintf("/library?page=%d", n)).Body, -1) {
			assert.False(t, seen[title[1]], title[1])
			seen[title[1]] = true
		}
	}
	assert.Len(t, seen, 300)
	assert.Contains(t, st.Get("/library?page=99").Body, "Page 7 of 7")
	assert.Contains(t, st.Get("/library?page=x").Body, "Page 1 of 7")
	found := st.Get("/library?q=stencil&page=2").Body
	assert.Contains(t, found, "Page 2 of 3, 100 images")
	assert.Contains(t, found, "page=3&amp;q=stencil")
	assert.Equal(t, 1, strings.Count(st.Get("/library?q=stamp+299").Body, `class="imagetile"`))
}
