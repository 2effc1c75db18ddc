package web_test

import (
	"bytes"
	"encoding/json"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/web/webtest"
)

// walk counts what a maker does in a browser: each press, choice or word typed is an
// action, and what has to be scrolled to reach it is added up.
type walk struct {
	*webtest.Browser
	actions  int
	scrolled float64
}

// reach brings an element into view if it is not, and counts that.
func (w *walk) reach(find string) {
	w.T.Helper()
	w.Listens()
	w.Waits(find)
	w.actions++
	w.scrolled += webtest.Eval[float64](w.Browser, `(() => { const e = `+find+`, before = scrollY, r = e.getBoundingClientRect();
		if (r.top < 0 || r.bottom > innerHeight) e.scrollIntoView({ block: "nearest" });
		return Math.abs(scrollY - before) })()`)
}

func named(text string) string {
	quoted, err := json.Marshal(text)
	if err != nil {
		panic(err)
	}
	return `[...document.querySelectorAll("button, a, summary")].find(e => (e.getAttribute("aria-label") ?? e.innerText).replace(/\s+/g, " ").trim().startsWith(` + string(quoted) + `))`
}

func (w *walk) press(text string) {
	w.T.Helper()
	w.reach(named(text))
	w.Do(named(text) + `.click()`)
}

func (w *walk) tap(cell int) {
	w.T.Helper()
	w.reach(fmt.Sprintf(`document.querySelector('[data-cell="%d"]')`, cell))
	w.Click(cell)
}

func (w *walk) fill(selector, text string) {
	w.T.Helper()
	w.reach(`document.querySelector('` + selector + `')`)
	w.TypeIn(selector, text)
}

// sixShapes is a scan of six shapes that are not alike, with its resolution left out.
func sixShapes(t *testing.T) []byte {
	m := image.NewGray(image.Rect(0, 0, 900, 1100))
	for i := range m.Pix {
		m.Pix[i] = 245
	}
	frame := func(r image.Rectangle) {
		for y := r.Min.Y; y < r.Max.Y; y++ {
			for x := r.Min.X; x < r.Max.X; x++ {
				if x < r.Min.X+6 || x >= r.Max.X-6 || y < r.Min.Y+6 || y >= r.Max.Y-6 {
					m.SetGray(x, y, color.Gray{Y: 20})
				}
			}
		}
	}
	for _, r := range []image.Rectangle{image.Rect(60, 60, 840, 360), image.Rect(60, 400, 320, 660), image.Rect(360, 400, 460, 1040), image.Rect(500, 400, 840, 720), image.Rect(60, 700, 200, 840), image.Rect(500, 760, 580, 840)} {
		frame(r)
	}
	var out bytes.Buffer
	require.NoError(t, png.Encode(&out, m))
	return out.Bytes()
}

// What a newcomer may be asked for at most.
const (
	mostActions  = 24
	mostScrolled = 600 // px
)

// From an empty studio to the bench sheet: an own scan, six areas, a wash each.
func TestANewcomersFirstCard(t *testing.T) {
	st := webtest.New(t)
	w := &walk{Browser: webtest.Browse(t, st.URL)}
	w.Open("/")
	w.press("Start my own")
	w.fill(`input[name=name]`, "First")
	w.press("Make the card")
	w.press("Line")
	w.Waits(`document.querySelector("form[data-takes-file] input[type=file]")`)
	w.reach(`document.querySelector("form[data-takes-file] input[type=file]")`)
	assert.Zero(t, w.scrolled, "what an empty panel needs stands first")
	w.ChooseFile(`form[data-takes-file] input[type=file]`, "six shapes.png", sixShapes(t))
	w.Sees("7 cells")
	w.Sees("as the panel is, since its file does not say")
	w.press("Colour")
	w.Waits(`document.querySelector(".station-colour")`)
	w.reach(`document.querySelector("input[name=group]")`) // all round stays paper
	w.Do(`document.querySelector("input[name=group]").click()`)
	w.press("Make these areas")
	w.Waits(`document.querySelectorAll(".areastrip a").length === 6`)
	paints := []string{"ultramarine", "phthalo green", "rose", "yellow ochre", "burnt umber", "lemon yellow"}
	for i, paint := range paints {
		if i > 0 {
			w.press("Next")
			w.Sees("Dip into a paint to begin")
		}
		w.press("Add a part of " + paint)
		w.Waits(`document.querySelector(".mixname")?.innerText === "` + paint + `"`)
	}
	w.press("Bench")
	w.Sees("PDF at true size")
	t.Logf("%d actions, %.0f px scrolled", w.actions, w.scrolled)
	assert.LessOrEqual(t, w.actions, mostActions)
	assert.LessOrEqual(t, w.scrolled, float64(mostScrolled))
	areas := st.Card(1).Card.Areas
	require.Len(t, areas, 6)
	for i, a := range areas {
		require.Len(t, a.Washes, 1, a.Name)
		assert.NotEmpty(t, a.Cells, paints[i])
	}
	assert.True(t, strings.HasPrefix(st.Get("/cards/1/bench.pdf").Body, "%PDF-"))
}

// At the Colour station what one does most is in view without scrolling, even with nine
// areas and something to mind: the board, names, paints, strengths, techniques and what
// comes next.
func TestWhatOneDoesMostIsInView(t *testing.T) {
	st := webtest.Demo(t)
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/4/colour?area=a5")
	b.Waits(`document.querySelector("[data-cell='2']")`)
	b.Listens()
	out := webtest.Eval[[]string](b, `[".panel", "#cells", "#newname", "[value=area-new]", ".areastrip", ".washtabs", ".pans button", "[name=strength]", "[name=technique]", "[data-key=n]"].flatMap(s => [...document.querySelectorAll(s)].filter(e => e.checkVisibility()).filter(e => { const r = e.getBoundingClientRect(); return r.top < 0 || r.bottom > innerHeight || r.right > innerWidth }).map(e => s + " " + e.outerHTML.slice(0, 60)))`)
	assert.Empty(t, out)
	assert.Zero(t, webtest.Eval[float64](b, `scrollY`))
}

// A card of five areas from a drawing of the library, gathered by hand.
func TestACardFromTheLibrary(t *testing.T) {
	st := webtest.Demo(t)
	w := &walk{Browser: webtest.Browse(t, st.URL)}
	w.Open("/")
	w.press("New card")
	w.fill(`input[name=name]`, "Kelp")
	w.press("Make the card")
	w.press("Line")
	w.TypeIn("[data-narrows]", "kelp")
	assert.Equal(t, 2, webtest.Eval[int](w.Browser, `[...document.querySelectorAll(".drawing")].filter(d => d.checkVisibility()).length`), "found by typing")
	w.TypeIn("[data-narrows]", " ")
	w.press("Kelp, 2 1/2 in wide")
	w.Sees("30 cells")
	w.press("Colour")
	w.Waits(`document.querySelector(".station-colour")`)
	for n := range 5 {
		w.tap(n + 2)
		w.press("Make an area")
		w.Waits(fmt.Sprintf(`document.querySelectorAll(".areastrip a").length === %d`, n+1))
		w.press("Add a part of deep water")
		w.Waits(`document.querySelector(".mixname")?.innerText === "deep water"`)
	}
	w.press("Bench")
	w.Sees("PDF at true size")
	t.Logf("%d actions, %.0f px scrolled", w.actions, w.scrolled)
	assert.LessOrEqual(t, w.actions, mostActions)
	assert.LessOrEqual(t, w.scrolled, float64(mostScrolled))
	assert.Len(t, st.Card(5).Card.Areas, 5)
}
