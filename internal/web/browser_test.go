package web_test

import (
	"bytes"
	"context"
	"encoding/json"
	"fmt"
	"image/png"
	"io"
	"net/http"
	"os"
	"os/exec"
	"path/filepath"
	"slices"
	"strconv"
	"strings"
	"testing"
	"time"

	"github.com/chromedp/cdproto/runtime"
	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
)

const (
	eventually = 2 * time.Minute // with the race detector a panel takes ten seconds to read
	tick       = 50 * time.Millisecond
)

// browser is a tab of a headless Chromium.
type browser struct {
	t   testing.TB
	ctx context.Context
	url string
}

func chromium(t testing.TB) string {
	for _, name := range []string{"chromium", "chromium-browser"} {
		if path, err := exec.LookPath(name); err == nil {
			return path
		}
	}
	if os.Getenv("CHROMAQUA_TOOLS") == "required" {
		t.Fatal("Chromium is missing; run make tools")
	}
	t.Skip("Chromium is not installed")
	return ""
}

func newBrowser(t testing.TB, url string) *browser {
	options := []chromedp.ExecAllocatorOption{
		chromedp.ExecPath(chromium(t)), chromedp.Headless, chromedp.NoSandbox, chromedp.DisableGPU, chromedp.NoFirstRun,
		chromedp.Flag("disable-quic", true), chromedp.Flag("disable-background-networking", true),
		chromedp.Flag("disable-component-update", true), chromedp.Flag("disable-sync", true), chromedp.Flag("hide-scrollbars", true),
		chromedp.UserDataDir(t.TempDir()), chromedp.WindowSize(1280, 800), chromedp.WSURLReadTimeout(time.Minute),
	}
	alloc, stop := chromedp.NewExecAllocator(context.Background(), options...)
	ctx, cancel := chromedp.NewContext(alloc)
	t.Cleanup(func() { _ = chromedp.Cancel(ctx); cancel(); stop() })
	b := &browser{t, ctx, url}
	b.run(chromedp.EmulateViewport(1280, 800))
	require.NoError(t, chromedp.Listen(ctx, func(ev any) {
		if e, ok := ev.(*runtime.EventExceptionThrown); ok {
			t.Errorf("script error: %s", e.ExceptionDetails.Text)
		}
	}))
	return b
}

// patience bounds a single step.
const patience = time.Minute

func (b *browser) run(steps ...chromedp.Action[chromedp.Void]) {
	b.t.Helper()
	ctx := b.ctx
	if len(steps) > 0 && chromedp.FromContext(ctx) != nil && chromedp.FromContext(ctx).Target != nil {
		var cancel context.CancelFunc
		ctx, cancel = context.WithTimeout(ctx, patience)
		defer cancel()
	}
	require.NoError(b.t, chromedp.Do(ctx, steps...))
}

func (b *browser) open(path string) {
	b.t.Helper()
	b.run(chromedp.Navigate(b.url + path))
}

// eval evaluates an expression of JavaScript.
func eval[T any](b *browser, js string, opts ...chromedp.EvaluateOption) T {
	b.t.Helper()
	v, err := chromedp.Run(b.ctx, chromedp.Evaluate[T](js, opts...))
	require.NoError(b.t, err, js)
	return v
}

// do runs JavaScript for its effect.
func (b *browser) do(js string) {
	b.t.Helper()
	eval[bool](b, "(() => { "+js+"; return true })()")
}

// sees waits until the page says something.
func (b *browser) sees(text string) {
	b.t.Helper()
	b.waits("document.body.innerText.replace(/\\s+/g,' ').includes(" + quoted(text) + ")")
}

// waits waits until an expression of JavaScript holds.
func (b *browser) waits(js string) {
	b.t.Helper()
	require.Eventually(b.t, func() bool {
		ok, err := chromedp.Run(b.ctx, chromedp.Evaluate[bool]("!!("+js+")"))
		return err == nil && ok
	}, eventually, tick, js)
}

func quoted(s string) string {
	out, err := json.Marshal(s)
	if err != nil {
		panic(err)
	}
	return string(out)
}

// listens waits until the page's scripts do.
func (b *browser) listens() {
	b.t.Helper()
	b.waits(`"listening" in document.documentElement.dataset && !document.querySelector(".saving")`)
}

// press clicks the button or link with that text.
func (b *browser) press(text string) {
	b.t.Helper()
	b.listens()
	b.waits(`[...document.querySelectorAll("button, a, summary")].some(e => (e.getAttribute("aria-label") ?? e.innerText).trim() === ` + quoted(text) + `)`)
	b.do(`const e = [...document.querySelectorAll("button, a, summary")].find(e => (e.getAttribute("aria-label") ?? e.innerText).trim() === ` + quoted(text) + `); e.focus(); e.click()`)
}

// typeIn puts the caret into a field, selects what it holds, and types.
func (b *browser) typeIn(selector, text string) {
	b.t.Helper()
	b.listens()
	b.waits("document.querySelector(" + quoted(selector) + ")")
	b.do("const f = document.querySelector(" + quoted(selector) + "); f.focus(); f.select()")
	b.run(chromedp.KeyEvent(text))
}

// choose picks an option of a list.
func (b *browser) choose(selector, value string) {
	b.t.Helper()
	b.do("const f = document.querySelector(" + quoted(selector) + "); f.value = " + quoted(value) + "; f.dispatchEvent(new Event('change', {bubbles: true}))")
}

func (b *browser) key(keys string, mods ...chromedp.Modifier) {
	b.t.Helper()
	b.listens()
	b.run(chromedp.KeyEvent(keys, chromedp.KeyModifiers(mods...)))
}

// at returns where on the screen a cell's middle lies.
func (b *browser) at(cell int) (x, y float64) {
	b.t.Helper()
	p := eval[[]float64](b, `(() => { const c = document.querySelector('[data-cell="`+strconv.Itoa(cell)+`"]'), [x, y] = c.dataset.at.split(" ").map(Number),
		p = new DOMPoint(x, y).matrixTransform(document.querySelector(".boardsvg").getScreenCTM()); return [p.x, p.y] })()`)
	return p[0], p[1]
}

// middle returns where on the screen the middle of an element lies, scrolled
// into view.
func (b *browser) middle(selector string) (x, y float64) {
	b.t.Helper()
	b.listens()
	p := eval[[]float64](b, `(() => { const e = document.querySelector(`+quoted(selector)+`); e.scrollIntoView({block: "nearest"});
		const r = e.getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2] })()`)
	return p[0], p[1]
}

func (b *browser) click(cell int, mods ...chromedp.Modifier) {
	b.t.Helper()
	b.listens()
	x, y := b.at(cell)
	b.run(chromedp.MouseClickXY(x, y, chromedp.ButtonModifiers(mods...)))
}

func (b *browser) drag(x0, y0, x1, y1 float64) {
	b.t.Helper()
	b.listens()
	b.run(chromedp.DragAndDropXY(x0, y0, x1, y1))
}

// hover moves the pointer.
func (b *browser) hover(x, y float64) {
	b.t.Helper()
	b.run(chromedp.MouseEvent(chromedp.MouseMoved, x, y))
}

func (b *browser) chosen() string {
	b.t.Helper()
	return eval[string](b, `document.getElementById("cells").value`)
}

func TestTheWholePathOnTheDemo(t *testing.T) {
	st := demoStudio(t)
	b := newBrowser(t, st.url)

	b.open("/")
	b.sees("Hermit crab, lantern night")
	b.waits(`[...document.querySelectorAll(".thumb img")].every(i => i.complete && i.naturalWidth > 0)`)
	b.press("New card")
	b.sees("From a piece of paper at hand")
	b.typeIn("input[name=name][required]", "Kelp for the counters")
	b.choose("select[name=format]", "a6")
	b.press("Make the card")
	b.sees("Envelopes it goes into")
	b.sees("A6")

	// The mat is changed by typing a length; the drawing follows.
	b.typeIn("#layer-0 [name=all]", "1/4"+kb.Enter)
	b.waits(`document.querySelector(".layout").textContent.includes("round it 1/4")`)

	b.key(kb.Escape) // out of the field
	b.key("2")
	b.sees("Choose a line image")
	b.press("Kelp, 2 1/2 in wide")
	b.sees("30 cells")

	// Pointing at a cell names its size; dragging moves the image.
	x, y := b.at(3)
	b.hover(x, y)
	b.waits(`/Cell 3, .*sq in/.test(document.getElementById("readout").textContent)`)
	before := st.card(5).Card.Line().X
	b.drag(x, y, x+30, y+10)
	require.Eventually(t, func() bool { return st.card(5).Card.Line().X > before }, eventually, tick)
	b.waits(`!document.querySelector(".saving")`)
	b.press("Centre")
	require.Eventually(t, func() bool { return st.card(5).Card.Line().X == before }, eventually, tick)

	b.key("3")
	b.sees("No area yet")
	b.click(2)
	assert.Equal(t, "2", b.chosen())
	b.click(3, chromedp.ModifierShift)
	assert.Equal(t, "2, 3", b.chosen())
	b.press("Cells like this one")
	b.waits(`!["", "2, 3"].includes(document.getElementById("cells").value)`)
	b.typeIn("#newname", "Blades")
	b.press("Make an area")
	b.sees("Blades")
	b.press("Give it a wash")
	b.sees("First wash")
	b.press("Add a part of PG7, phthalo green (blue shade)")
	b.sees("PB29 + PG7 1:1")
	b.press("One part less of PB29")
	b.press("pull-out")
	b.press("milk")
	b.waits(`document.querySelector("button[value=milk]").getAttribute("aria-pressed") === "true"`)

	// Dry, wet and grey are three looks of the same board.
	fill := func() string { return eval[string](b, `getComputedStyle(document.querySelector(".tone")).stopColor`) }
	dry := fill()
	b.key("w")
	wet := fill()
	b.key("g")
	grey := fill()
	assert.NotEqual(t, dry, wet)
	assert.NotEqual(t, wet, grey)
	b.key("d")
	assert.Equal(t, dry, fill())

	// A box round everything takes the rest.
	b.do(`scrollTo(0, 0)`)
	box := eval[[]float64](b, `(() => { const r = document.querySelector(".panel").getBoundingClientRect(); return [r.left, r.top, r.right, r.bottom] })()`)
	b.drag(box[0]+2, box[1]+2, box[2]-2, box[3]-2)
	assert.Equal(t, "2-30", b.chosen(), "all but the outside, whose middle is the panel's corner")
	b.key(kb.Escape)
	assert.Empty(t, b.chosen())

	b.key("4")
	b.sees("Hands on")
	b.sees("Painted in reading order")
	b.key("5")
	b.sees("PDF at true size")
	b.sees("Blades")

	// Undo is a key, and the words beside it say what goes.
	assert.Equal(t, "Take back: Blades: milk", eval[string](b, `document.querySelector("[data-key='mod+z']").title`))
	seq := st.card(5).Seq
	b.key("z", chromedp.ModifierCtrl)
	require.Eventually(t, func() bool { return st.card(5).Seq != seq }, eventually, tick)
	b.waits(`!document.querySelector("[data-key='mod+shift+z']").disabled`)
	b.key("Z", chromedp.ModifierCtrl, chromedp.ModifierShift)
	require.Eventually(t, func() bool { return st.card(5).Seq == seq }, eventually, tick)
}

func TestAnUploadedDrawing(t *testing.T) {
	st := newStudio(t)
	st.post("/cards", "name", "Own scan", "unit", "mm", "format", "iso-a6", "fold", "top")
	file := filepath.Join(t.TempDir(), "my scan.png")
	require.NoError(t, os.WriteFile(file, gridPNG(t), 0o600))
	b := newBrowser(t, st.url)
	b.open("/cards/1/line")
	b.run(chromedp.SetUploadFiles(`input[type=file]`, []string{file}))
	b.typeIn("form[enctype] [name=width]", "64 mm")
	b.press("Upload")
	b.sees("7 cells")
	b.sees("my scan")

	// A width that is none is refused where it was typed, and the image stays.
	b.typeIn("#place-form [name=width]", "four"+kb.Enter)
	b.sees("four")
	b.waits(`document.querySelector(".message")`)
	b.sees("7 cells")

	b.open("/cards/1/colour")
	b.waits(`document.querySelector("[data-cell='2']")`)
	b.click(2)
	b.typeIn("#newname", "Sky")
	b.key(kb.Enter)
	b.press("Give it a wash")
	b.sees("First wash")
	b.open("/cards/1/order")
	b.sees("Sky: PB29, tea")
	assert.Contains(t, st.get("/cards/1/bench.pdf").body, "%PDF-")
}

// The whole of the Colour station without a mouse.
func TestByKeyboardAlone(t *testing.T) {
	st := withGrid(t)
	b := newBrowser(t, st.url)
	b.open("/cards/1/format")
	b.key("3")
	b.waits(`document.querySelector("[data-cell='2']")`)
	b.key("b")
	for range 3 {
		b.key(kb.ArrowRight)
	}
	b.waits(`document.querySelector(".boardsvg").getAttribute("aria-activedescendant")`)
	b.key(" ")
	b.key(kb.ArrowDown)
	b.key(" ")
	require.NotEmpty(t, b.chosen())
	b.key("a")
	b.waits(`document.activeElement.id === "newname"`)
	b.do(`document.activeElement.value = ""`) // the driver sends the letter apart from its key
	b.run(chromedp.KeyEvent("Cliffs"))
	b.key(kb.Enter)
	require.Eventually(t, func() bool { return len(st.card(1).Card.Areas) == 1 }, eventually, tick)
	assert.Equal(t, "Cliffs", st.card(1).Card.Areas[0].Name)
	assert.NotEmpty(t, st.card(1).Card.Areas[0].Cells)
	b.key("?")
}

func TestPointingAtAWatchOutLightsItsCells(t *testing.T) {
	st := demoStudio(t)
	b := newBrowser(t, st.url)
	b.open("/cards/4/colour")
	b.waits(`document.querySelector(".watch[data-cells]")`)
	p := eval[[]float64](b, `(() => { const r = document.querySelector(".watch").getBoundingClientRect(); return [r.left + 40, r.top + 12] })()`)
	b.hover(p[0], p[1])
	b.waits(`document.querySelector(".outlines .lit")`)
}

// On the board a gap is closed with a click, and a cell divided with the pen.
func TestPenOnTheBoard(t *testing.T) {
	st := demoStudio(t)
	b := newBrowser(t, st.url)
	b.open("/cards/4/line")
	b.waits(`document.querySelector(".leak")`)
	x, y := b.middle(".leak circle")
	b.run(chromedp.MouseClickXY(x, y))
	require.Eventually(t, func() bool { l := st.card(4).Card.Line(); return len(l.Marks) == 1 && l.Marks[0].Kind == card.Pen }, eventually, tick)
	b.waits(`document.querySelector(".penmark") && document.querySelectorAll(".leak").length === 1`)
	b.key("p")
	b.waits(`document.getElementById("board").dataset.tool === "pen"`)
	x, y = b.middle(`[data-cell="1"]`)
	b.drag(x, y, x+50, y+20)
	require.Eventually(t, func() bool { return len(st.card(4).Card.Line().Marks) == 2 }, eventually, tick)
	b.key("z", chromedp.ModifierCtrl)
	require.Eventually(t, func() bool { return len(st.card(4).Card.Line().Marks) == 1 }, eventually, tick)
}

// A change of colours keeps the picture in the page and paints it anew; what changes
// the picture brings another.
func TestThePictureStaysInThePage(t *testing.T) {
	st := withGrid(t)
	st.at(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, []string{"edit", "wash-add", "area", "a1"})
	b := newBrowser(t, st.url)
	b.open("/cards/1/colour?area=a1")
	b.do(`window.picture = document.querySelector(".boardsvg")`)
	same := func() bool { return eval[bool](b, `window.picture === document.querySelector(".boardsvg")`) }
	wears := func() string {
		return eval[string](b, `document.querySelector('[data-number="1"]').style.getPropertyValue("--dry")`)
	}
	b.press("milk")
	b.waits(`document.querySelector("button[value=milk]").getAttribute("aria-pressed") === "true"`)
	assert.True(t, same())
	assert.Equal(t, panel.LookOf("cotton-cp", st.card(1).Card.Areas[0].Washes).Dense.Dry, wears())
	assert.Equal(t, 7, eval[int](b, `document.querySelectorAll(".cells path[data-cell]").length`))
	b.press("Add a part of PG7, phthalo green (blue shade)")
	b.sees("PB29 + PG7 1:1")
	assert.True(t, same())
	assert.Equal(t, panel.LookOf("cotton-cp", st.card(1).Card.Areas[0].Washes).Dense.Dry, wears())
	// What was not stored is not shown either.
	was := wears()
	b.do(`window.reached = window.fetch; window.fetch = () => Promise.reject(new TypeError("no network"))`)
	b.press("cream")
	b.sees("What you did last is not stored")
	assert.Equal(t, was, wears())
	b.do(`window.fetch = window.reached`)
	b.press("pull-out")
	b.waits(`document.querySelector("#grade-1")`)
	assert.False(t, same(), "it runs now")
	assert.Equal(t, 7, eval[int](b, `document.querySelectorAll(".cells path[data-cell]").length`))

	// A page that has the picture gets it without its cells, and only then.
	req, err := http.NewRequestWithContext(t.Context(), http.MethodGet, st.url+"/cards/1/colour?area=a1", nil)
	require.NoError(t, err)
	drawn := eval[string](b, `document.querySelector(".boardsvg").dataset.drawn`)
	for name, cells := range map[string]int{drawn: 0, "another": 7} {
		req.Header.Set("Board-Drawn", name)
		res, err := http.DefaultClient.Do(req)
		require.NoError(t, err)
		body, err := io.ReadAll(res.Body)
		require.NoError(t, err)
		require.NoError(t, res.Body.Close())
		assert.Equal(t, cells, strings.Count(string(body), `id="cell-`))
	}
}

// Two tabs: the second is told, and shown what the first did.
func TestASecondTabIsTold(t *testing.T) {
	st := withGrid(t)
	b := newBrowser(t, st.url)
	b.open("/cards/1/colour")
	b.waits(`document.querySelector("[data-cell='2']")`)
	st.post("/cards/1/edit", "back", "format", "edit", "name", "name", "Named elsewhere")
	b.click(2)
	b.press("Make an area")
	b.sees("changed meanwhile")
	b.waits(`document.querySelector(".cardname").value === "Named elsewhere"`)
	assert.Empty(t, st.card(1).Card.Areas)
}

func TestUndoAcrossARestart(t *testing.T) {
	path := filepath.Join(t.TempDir(), "studio.db")
	st := openStudio(t, path)
	st.post("/cards", "name", "Before", "unit", "in", "format", "a2", "fold", "side")
	st.post("/cards/1/edit", "back", "format", "edit", "name", "name", "After")
	st.app.Close()
	require.NoError(t, st.store.Close())
	again := openStudio(t, path)
	b := newBrowser(t, again.url)
	b.open("/cards/1/format")
	b.press("Undo")
	b.waits(`document.querySelector(".cardname").value === "Before"`)
	b.press("Redo")
	b.waits(`document.querySelector(".cardname").value === "After"`)
}

// No page has anything axe finds fault with.
func TestAccessibility(t *testing.T) {
	axe, err := os.ReadFile("../../node_modules/axe-core/axe.min.js")
	if err != nil {
		if os.Getenv("CHROMAQUA_TOOLS") == "required" {
			t.Fatal("axe-core is missing; run npm ci")
		}
		t.Skip("axe-core is not installed; run npm ci")
	}
	st := demoStudio(t)
	st.post("/cards", "name", "Empty", "unit", "in", "format", "a2", "fold", "side")
	st.post("/cards", "name", "Everything", "unit", "in", "format", "a7", "fold", "gate")
	for _, change := range [][]string{
		{"edit", "layer-add", "kind", "frame"}, {"edit", "envelope", "envelope", "free"}, {"edit", "stamp", "stamp", "size", "size", "2 x 3"},
		{"edit", "insert", "on", "true"}, {"edit", "painting", "border", "1/8", "tape", "1", "spare", "1/2"}, {"edit", "words", "words", "2 x 1/4"},
	} {
		st.post("/cards/6/edit", append([]string{"back", "format"}, change...)...)
	}
	st.send("/cards/6/sheet", "wash.png", gridPNG(t), "width", "12", "back", "format")
	b := newBrowser(t, st.url)
	for _, path := range []string{
		"/", "/new", "/new?piece=5+1/8+x+9", "/new?piece=nonsense", "/nowhere",
		"/?q=nobody", "/?archive=1", "/?deleted=1", "/paper", "/paper?unit=mm", "/shelf", "/library", "/library?q=nobody", "/tests", "/settings", "/cut", "/cut?n-4=6&n-3=4&if=p1", "/cut?n-4=x",
		"/cards/4/format", "/cards/4/line", "/cards/4/colour", "/cards/4/colour?area=a5", "/cards/4/colour?area=a5&want=%237a8fc2", "/cards/4/order", "/cards/4/bench",
		"/cards/1/line?image=i3", "/cards/4/ways?from=PB29&to=PG7", "/mixing", "/swatches",
		"/cards/6/format", "/cards/2/format", "/cards/4/rules", "/cards/5/format", "/cards/5/line", "/cards/5/colour", "/cards/5/order", "/cards/3/colour?area=a1", "/cards/3/order", "/cards/2/order",
	} {
		b.open(path)
		b.waits(`!document.querySelector("[data-reading]")`)
		b.do(`document.querySelectorAll("details").forEach(d => d.open = true)`)
		b.do(string(axe))
		found := eval[[]string](b, `axe.run(document, {resultTypes: ["violations"]}).then(r => r.violations.map(v => v.id + ": " + v.nodes.map(n => n.html.slice(0, 160) + " " + n.failureSummary).slice(0, 3).join(" | ")))`, chromedp.EvalAwaitPromise)
		assert.Empty(t, found, path)
	}
}

// TestShots takes the pictures of the documentation when asked to.
func TestShots(t *testing.T) {
	dir := os.Getenv("CHROMAQUA_SHOTS")
	if dir == "" {
		t.Skip("set CHROMAQUA_SHOTS to a folder to take pictures; make shots does")
	}
	require.NoError(t, os.MkdirAll(dir, 0o755))
	st := demoStudio(t)
	b := newBrowser(t, st.url)
	for name, path := range map[string]string{
		"cards": "/", "new-card": "/new?piece=5+1/8+x+9", "format": "/cards/4/format", "line": "/cards/1/line",
		"colour": "/cards/4/colour?area=a5", "order": "/cards/4/order", "order-six-cards": "/cards/2/order", "settings": "/settings", "paper": "/paper", "library": "/library", "shelf": "/shelf", "tests": "/tests", "cut-sheet": "/cut?n-4=6&n-3=4&if=p1", "bench-sheet": "/cards/4/bench",
		"colourways": "/cards/4/ways?from=PB29&to=PG7", "mixing-chart": "/mixing", "swatches": "/swatches",
	} {
		b.open(path)
		b.waits(`!document.querySelector("[data-reading]") && [...document.images].every(i => i.complete) && document.fonts.status === "loaded"`)
		b.run(chromedp.Sleep(300 * time.Millisecond))
		shot, err := chromedp.Run(b.ctx, chromedp.CaptureScreenshot())
		require.NoError(t, err)
		require.NoError(t, os.WriteFile(filepath.Join(dir, name+".png"), shot, 0o644))
	}
	assert.True(t, strings.HasPrefix(st.url, "http://127.0.0.1"))
}

// A change of strength on a panel of 150 cells in 30 areas at 1280 × 800: from the
// click until the board is painted in the new colours, and until the change is stored
// and the rest of the page follows.
func BenchmarkRecolour150Cells(b *testing.B) {
	st := newStudio(b)
	st.post("/cards", "name", "Many", "unit", "mm", "format", "a2", "fold", "side")
	var scan bytes.Buffer
	require.NoError(b, png.Encode(&scan, paneltest.Scan(15, 10)))
	a := st.send("/cards/1/upload", "many.png", scan.Bytes(), "back", "line", "width", "100")
	require.Equal(b, http.StatusOK, a.status, message(a.body))
	st.read(1)
	for i := range 30 {
		st.at(b, []string{"edit", "area-new", "cells", fmt.Sprintf("%d-%d", 2+5*i, 6+5*i), "name", fmt.Sprintf("Area %d", i+1)},
			[]string{"edit", "wash-add", "area", fmt.Sprintf("a%d", i+1)}, []string{"edit", "wash-add", "area", fmt.Sprintf("a%d", i+1)})
	}
	t := newBrowser(b, st.url)
	t.open("/cards/1/colour?area=a1")
	require.GreaterOrEqual(b, eval[int](t, `document.querySelectorAll("path[data-cell]").length`), 150)
	var shown, settled []float64
	for b.Loop() {
		took := eval[[]float64](t, `new Promise((done) => {
			const fill = () => document.querySelector('[data-number="1"]').style.getPropertyValue("--dry");
			const painted = (then) => requestAnimationFrame(() => setTimeout(then));
			const before = fill(), begin = performance.now(), since = () => performance.now() - begin;
			const button = document.querySelector("button[name=strength][aria-pressed=false]"), value = button.value;
			button.click();
			const answered = () => document.querySelector("button[name=strength][value='" + value + "']").ariaPressed === "true";
			let first = 0;
			(function look() { fill() === before ? setTimeout(look) : painted(() => { first = since(); wait(); }); })();
			function wait() { answered() ? painted(() => done([first, since()])) : setTimeout(wait); }
		})`, chromedp.EvalAwaitPromise)
		shown, settled = append(shown, took[0]), append(settled, took[1])
	}
	slices.Sort(shown)
	slices.Sort(settled)
	b.ReportMetric(shown[len(shown)/2], "ms/shown")
	b.ReportMetric(settled[len(settled)/2], "ms/stored")
}
