package web_test

import (
	"os"
	"path/filepath"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/web/webtest"
)

// No page has anything axe finds fault with.
func TestAccessibility(t *testing.T) {
	st := webtest.Demo(t)
	st.Post("/cards", "name", "Empty", "unit", "in", "format", "a2", "fold", "side")
	st.Post("/cards", "name", "Everything", "unit", "in", "format", "a7", "fold", "gate")
	for _, change := range [][]string{
		{"edit", "layer-add", "kind", "frame"}, {"edit", "envelope", "envelope", "free"}, {"edit", "stamp", "stamp", "size", "size", "2 x 3"},
		{"edit", "insert", "on", "true"}, {"edit", "painting", "border", "1/8", "tape", "1", "spare", "1/2"}, {"edit", "words", "words", "2 x 1/4"},
	} {
		st.Post("/cards/6/edit", append([]string{"back", "format"}, change...)...)
	}
	st.Send("/cards/6/sheet", "wash.png", webtest.GridPNG(t), "width", "12", "back", "format")
	b := webtest.Browse(t, st.URL)
	paths := []string{
		"/", "/new", "/new?piece=5+1/8+x+9", "/new?piece=nonsense", "/nowhere",
		"/?q=nobody", "/?archive=1", "/?deleted=1", "/paper", "/paper?unit=mm", "/shelf", "/library", "/library?q=nobody", "/tests", "/settings", "/cut", "/cut?n-4=6&n-3=4&if=p1", "/cut?n-4=x",
		"/cards/4/colour?area=a5", "/cards/4/colour?area=a5&want=%237a8fc2", "/cards/1/line?image=i3", "/cards/4/ways?from=PB29&to=PG7", "/mixing", "/swatches",
		"/cards/6/format", "/cards/2/format", "/cards/4/rules", "/cards/3/colour?area=a1", "/cards/3/order", "/cards/2/order",
	}
	for _, card := range []int64{4, 5} { // all there is, and an empty one
		paths = append(paths, stationsOf(b, card)...)
	}
	for _, path := range paths {
		b.Open(path)
		assert.Empty(t, faults(b), path)
	}
}

// TestShots takes the pictures of the documentation when asked to.
func TestShots(t *testing.T) {
	dir := os.Getenv("CHROMAQUA_SHOTS")
	if dir == "" {
		t.Skip("set CHROMAQUA_SHOTS to a folder to take pictures; make shots does")
	}
	require.NoError(t, os.MkdirAll(dir, 0o755))
	st := webtest.Demo(t)
	b := webtest.Browse(t, st.URL)
	shots := map[string]string{
		"cards": "/", "new-card": "/new?piece=5+1/8+x+9", "order-six-cards": "/cards/2/order", "settings": "/settings", "paper": "/paper", "library": "/library", "shelf": "/shelf", "tests": "/tests", "cut-sheet": "/cut?n-4=6&n-3=4&if=p1",
		"colourways": "/cards/4/ways?from=PB29&to=PG7", "mixing-chart": "/mixing", "swatches": "/swatches",
	}
	for _, path := range stationsOf(b, 4) {
		shots[filepath.Base(path)] = path
	}
	shots["line"], shots["colour"] = "/cards/1/line", "/cards/4/colour?area=a5" // these show more
	for name, path := range shots {
		b.Open(path)
		b.Waits(`!document.querySelector("[data-reading]") && [...document.images].every(i => i.complete) && document.fonts.status === "loaded"`)
		b.Run(chromedp.Sleep(300 * time.Millisecond))
		shot, err := chromedp.Run(b.Ctx, chromedp.CaptureScreenshot())
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(dir, name+".png"), shot, 0o644))
	}
	assert.True(t, strings.HasPrefix(st.URL, "http://127.0.0.1"))
}
