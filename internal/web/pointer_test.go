package web_test

import (
	"bytes"
	"fmt"
	"image/png"
	"math"
	"strconv"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel/paneltest"
	"chromaqua/internal/web/webtest"
)

// In the browser: an edge follows the pointer, and the window its keys.
func TestDraggingEdges(t *testing.T) {
	st := webtest.New(t)
	b := webtest.Browse(t, st.URL)
	st.Post("/cards", "name", "x", "unit", "in", "format", "a2", "fold", "side")
	b.Open("/cards/1/format")
	grip := func(ring, side string) (x, y float64) {
		return b.Middle(`.grip[data-ring="` + ring + `"][data-side="` + side + `"]`)
	}
	x, y := grip("layer-0", "left")
	b.Drag(x, y, x+40, y)
	require.Eventually(t, func() bool {
		l, err := st.Card(1).Card.Layout()
		return err == nil && l.Of("layer-0").Round.Left > length.Inch/4
	}, webtest.Eventually, webtest.Tick)
	l, err := st.Card(1).Card.Layout()
	require.NoError(t, err)
	assert.Zero(t, l.Of("layer-0").Round.Left%length.Sixteenth, "it lands on a mark of the ruler")
	assert.Equal(t, length.Inch/8, l.Of("layer-0").Round.Right)
	b.Waits(`document.querySelector(".layout").textContent.includes("left")`)

	st.Send("/cards/1/sheet", "wash.png", webtest.GridPNG(t), "width", "9", "back", "format")
	b.Open("/cards/1/format")
	b.Do(`document.getElementById("finder").focus()`)
	b.Key(kb.ArrowRight)
	half := st.Card(1).Card.Window.Size().W / 2
	require.Eventually(t, func() bool { x := st.Card(1).Card.Window.X - half; return x > 0 && x < length.Inch/8 }, webtest.Eventually, webtest.Tick)
	x, y = b.Middle(".turner")
	b.Drag(x, y, x+60, y+20)
	require.Eventually(t, func() bool { return st.Card(1).Card.Window.Turn > 5 }, webtest.Eventually, webtest.Tick)
	before := st.Card(1).Card.Window.Y
	x, y = b.Middle(".finderwindow rect")
	b.Drag(x, y, x, y+25)
	require.Eventually(t, func() bool { return st.Card(1).Card.Window.Y > before }, webtest.Eventually, webtest.Tick)
}

// A section stays open, and the caret where it was, when what is typed in it changes the
// page; one that is done with at once closes again.
func TestSectionsStayOpen(t *testing.T) {
	st := webtest.New(t)
	b := webtest.Browse(t, st.URL)
	st.Post("/cards", "name", "x", "unit", "in", "format", "a2", "fold", "side")
	b.Open("/cards/1/format")
	b.Press("each side, paper, die of the mat")
	for i, side := range []string{"left", "right"} {
		b.TypeIn(`details[open] input[name="`+side+`"]`, "3/16"+kb.Tab)
		require.Eventually(t, func() bool {
			l, err := st.Card(1).Card.Layout()
			return err == nil && []length.Length{l.Of("layer-0").Round.Left, l.Of("layer-0").Round.Right}[i] == 3*length.Sixteenth
		}, webtest.Eventually, webtest.Tick)
		b.Waits(`document.querySelector("details[open] input[name=` + side + `]")?.defaultValue === "3/16"`)
		b.Waits(`document.activeElement.closest("details[open]")`)
	}

	b.Open("/cards/1/log")
	b.Listens()
	b.Do(`document.querySelector("details[data-once]").open = true`)
	b.TypeIn(`details[data-once] input[name=turned]`, "for Mum")
	b.Do(`document.querySelector("details[data-once] form").requestSubmit()`)
	b.Sees("For Mum")
	b.Waits(`!document.querySelector("details[data-once][open]")`)
}

// On the board an image is picked with a click, carried, and turned by its handle
// or a key.
func TestCarryingImagesOnTheBoard(t *testing.T) {
	st := webtest.WithGrid(t)
	st.At(t, []string{"edit", "drawing", "image", st.Card(1).Card.Line().Image}, []string{"edit", "place", "picked", "i2", "width", "40", "x", "20", "y", "95"})
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/1/line")
	b.Waits(`document.querySelectorAll(".cover").length === 2`)
	image := func(id string) card.Image {
		m, err := st.Card(1).Card.ImageByID(id)
		require.NoError(t, err)
		return *m
	}
	x, y := b.Middle(`.cover[data-image="i2"]`)
	b.Run(chromedp.MouseClickXY(x, y+14))
	b.Waits(`document.querySelector(".cover.picked").dataset.image === "i2"`)
	first, second := image("i1"), image("i2")
	b.Drag(x, y+14, x+40, y+14)
	require.Eventually(t, func() bool { return image("i2").X > second.X }, webtest.Eventually, webtest.Tick)
	assert.Equal(t, first, image("i1"), "the other one stays")
	b.Waits(`!document.querySelector(".saving") && document.querySelector(".handle")`)
	x, y = b.Middle(".handle circle")
	b.Drag(x, y, x+30, y+8)
	require.Eventually(t, func() bool { return image("i2").Turn > 5 }, webtest.Eventually, webtest.Tick)
	turned := image("i2").Turn
	b.Waits(`!document.querySelector(".saving") && document.querySelector(".handle")`)
	b.Key("b")
	b.Key("]")
	require.Eventually(t, func() bool { return image("i2").Turn == turned+1 }, webtest.Eventually, webtest.Tick)
}

// The board is seen after each wash, and with half-closed eyes; a wanted colour is
// picked from a photo.
func TestLookingAheadAndPicking(t *testing.T) {
	st := webtest.Demo(t)
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/4/order")
	b.Waits(`document.querySelector("[data-ahead]")`)
	colour := func() string {
		return webtest.Eval[string](b, `getComputedStyle(document.querySelector("[data-number='5']")).getPropertyValue("--dry")`)
	}
	whole := colour()
	move := func(to string) {
		webtest.Eval[bool](b, `(() => { const s = document.querySelector("[data-ahead]"); s.value = `+to+`; return s.dispatchEvent(new Event("input", { bubbles: true })); })()`)
	}
	move("0")
	assert.NotEqual(t, whole, colour(), "bare paper")
	b.Waits(`document.getElementById("readout").textContent === "before the first wash"`)
	move("s.max")
	assert.Equal(t, whole, colour())
	b.Waits(`document.getElementById("readout").textContent === "All is painted and dry"`)
	// Halfway some cells of an area are ahead of the others, in colours of their own.
	ahead := webtest.Eval[int](b, `(() => { const s = document.querySelector("[data-ahead]"); let most = 0;
		for (let i = 0; i <= +s.max; i += 0.5) { s.value = i; s.dispatchEvent(new Event("input", { bubbles: true }));
			const own = [...document.querySelectorAll("path.ahead")];
			if (own.some((p) => getComputedStyle(p).fill === getComputedStyle(p.parentNode).fill)) return -1;
			most = Math.max(most, own.length); }
		return most; })()`)
	assert.Positive(t, ahead)
	assert.Zero(t, webtest.Eval[int](b, `document.querySelectorAll("path.ahead").length`), "at last all are the same")
	// Arrow keys walk the time chart, say why, and light the cells of the go.
	webtest.Eval[bool](b, `(document.querySelector(".chart > svg").focus(), true)`)
	for range 6 {
		b.Key(kb.ArrowRight)
	}
	b.Waits(`document.querySelectorAll(".chart .bar.here").length === 1`)
	told := webtest.Eval[string](b, `document.getElementById("readout").textContent`)
	assert.Regexp(t, `^6, .+ at 0:\d\d:\d\d\. .+`, told)
	assert.Positive(t, webtest.Eval[int](b, `document.querySelectorAll(".outlines .lit").length`))
	b.Key(kb.Home)
	b.Waits(`/^1, Cut the panel/.test(document.getElementById("readout").textContent)`)
	webtest.Eval[bool](b, `(document.activeElement.blur(), true)`)
	b.Key("s")
	b.Waits(`document.getElementById("board").dataset.look === "squint"`)

	b.Open("/cards/4/colour?area=a5")
	b.Waits(`document.querySelector("details.wanted")`)
	webtest.Eval[bool](b, `document.querySelector("details.wanted").open = true`)
	b.ChooseFile("[data-photo]", "photo.png", webtest.GridPNG(t))
	b.Waits(`!document.querySelector(".photo").hidden`)
	webtest.Eval[bool](b, `(document.querySelector(".photo").scrollIntoView(), true)`)
	x, y := b.Middle(".photo")
	b.Run(chromedp.MouseClickXY(x+17, y+11))
	b.Waits(`document.querySelector(".recipes") && /want=%23/.test(location.search)`)
}

func TestPointingAtAWatchOutLightsItsCells(t *testing.T) {
	st := webtest.Demo(t)
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/4/colour")
	b.Waits(`document.querySelector(".watch[data-cells]")`)
	for _, of := range []string{"#watchouts > summary", ".watch"} {
		x, y := b.Middle(of)
		b.Hover(x, y)
		b.Waits(`document.querySelector(".outlines .lit")`)
		b.Hover(640, 20)
		b.Waits(`!document.querySelector(".outlines .lit")`)
		b.Do(`document.getElementById("watchouts").open = true`)
	}
}

// On the board a gap is closed with a click, and a cell divided with the pen.
func TestPenOnTheBoard(t *testing.T) {
	st := webtest.Demo(t)
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/4/line")
	b.Waits(`document.querySelector(".leak")`)
	x, y := b.Middle(".leak circle")
	b.Run(chromedp.MouseClickXY(x, y))
	require.Eventually(t, func() bool { l := st.Card(4).Card.Line(); return len(l.Marks) == 1 && l.Marks[0].Kind == card.Pen }, webtest.Eventually, webtest.Tick)
	b.Waits(`document.querySelector(".penmark") && document.querySelectorAll(".leak").length === 1`)
	b.Key("p")
	b.Waits(`document.getElementById("board").dataset.tool === "pen"`)
	x, y = b.Middle(`[data-cell="1"]`)
	b.Drag(x, y, x+50, y+20)
	require.Eventually(t, func() bool { return len(st.Card(4).Card.Line().Marks) == 2 }, webtest.Eventually, webtest.Tick)
	b.Key("z", chromedp.ModifierCtrl)
	require.Eventually(t, func() bool { return len(st.Card(4).Card.Line().Marks) == 1 }, webtest.Eventually, webtest.Tick)
}

// Fingers: a tap on what is too small brings it nearer first, a second finger or Escape
// gives a drag up, and so does the system.
func TestFingers(t *testing.T) {
	st := webtest.Demo(t)
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/1/colour")
	b.Waits(`document.querySelector("[data-cell='2']")`)
	b.Listens()
	touch := func(kind string, finger int, x, y float64) {
		b.Do(fmt.Sprintf(`document.elementFromPoint(%[3]f, %[4]f).dispatchEvent(new PointerEvent(%[1]q, { pointerId: %[2]d, pointerType: "touch", isPrimary: %[2]d === 1, button: 0, clientX: %[3]f, clientY: %[4]f, bubbles: true, cancelable: true }))`, kind, finger, x, y))
	}
	tap := func(x, y float64) { touch("pointerdown", 1, x, y); touch("pointerup", 1, x, y) }
	viewBox := func() string {
		return webtest.Eval[string](b, `document.querySelector(".boardsvg").getAttribute("viewBox")`)
	}

	whole := viewBox()
	smallest := webtest.Eval[int](b, `+[...document.querySelectorAll("[data-cell]")].map(p => [p.getBoundingClientRect(), p]).sort((a, b) => a[0].width * a[0].height - b[0].width * b[0].height)[0][1].dataset.cell`)
	x, y := b.At(smallest)
	tap(x, y)
	assert.Empty(t, b.Chosen(), "it is too small to be told apart")
	assert.NotEqual(t, whole, viewBox(), "it is brought nearer")
	b.Key(kb.Escape)
	assert.Equal(t, whole, viewBox(), "and away again")
	x, y = b.At(smallest)
	tap(x, y)
	x, y = b.At(smallest)
	tap(x, y)
	assert.Equal(t, strconv.Itoa(smallest), b.Chosen())
	assert.Equal(t, whole, viewBox())
	tap(b.At(1)) // as large as the panel
	assert.Contains(t, b.Chosen(), "1")
	b.Press("Choose none")

	box := webtest.Eval[[]float64](b, `(() => { const r = document.querySelector(".panel").getBoundingClientRect(); return [r.left + 4, r.top + 4, r.right - 4, r.bottom - 4] })()`)
	for name, giveUp := range map[string]func(){
		"a second finger": func() { touch("pointerdown", 2, box[0]+50, box[1]+50); touch("pointerup", 2, box[0]+50, box[1]+50) },
		"the system":      func() { touch("pointercancel", 1, box[2], box[3]) },
		"Escape":          func() { b.Run(chromedp.KeyEvent(kb.Escape)) },
	} {
		touch("pointerdown", 1, box[0], box[1])
		touch("pointermove", 1, box[2], box[3])
		b.Waits(`document.querySelector(".boxpick")`)
		giveUp()
		touch("pointerup", 1, box[2], box[3])
		assert.False(t, webtest.Eval[bool](b, `!!document.querySelector(".boxpick")`), name)
		assert.Empty(t, b.Chosen(), name)
	}

	// The lasso takes what it goes round.
	b.Do(`document.querySelector("input[value=lasso]").click()`)
	mid := (box[0] + box[2]) / 2
	touch("pointerdown", 1, box[0], box[1])
	for _, p := range [][2]float64{{mid, box[1]}, {mid, box[3]}, {box[0], box[3]}} {
		touch("pointermove", 1, p[0], p[1])
	}
	touch("pointerup", 1, box[0], box[3])
	within := webtest.Eval[int](b, fmt.Sprintf(`[...document.querySelectorAll("[data-cell]")].filter(p => { const [x, y] = p.dataset.at.split(" ").map(Number), at = new DOMPoint(x, y).matrixTransform(document.querySelector(".boardsvg").getScreenCTM()); return at.x > %f && at.x < %f && at.y > %f && at.y < %f }).length`, box[0], mid, box[1], box[3]))
	assert.Equal(t, fmt.Sprintf("%d cells chosen", within), webtest.Eval[string](b, `document.getElementById("readout").textContent`))
}

// On a phone or tablet held upright the board takes half of the window, and the panel most
// of its height; nothing on it lies on anything else.
func TestTheBoardInASmallWindow(t *testing.T) {
	st := webtest.Demo(t)
	for _, size := range []struct {
		w, h  int64
		share float64
	}{{390, 844, 0.54}, {375, 667, 0.5}, {768, 1024, 0.68}} {
		b := webtest.Browse(t, st.URL)
		b.Run(chromedp.EmulateViewport(size.w, size.h))
		high := func(of string) float64 {
			return webtest.Eval[float64](b, `document.querySelector("`+of+`").getBoundingClientRect().height`)
		}
		b.Open("/cards/5/mount")
		b.Waits(`document.querySelector(".mountbase")`)
		assert.Greater(t, high(".mountbase")/high(".boardside"), 0.45, "the front, above its side view, at %d × %d", size.w, size.h)
		for _, path := range []string{"/cards/4/colour", "/cards/4/line", "/cards/3/order", "/cards/5/masks"} {
			b.Open(path)
			b.Waits(`document.querySelector(".boardbar")`)
			b.Listens()
			const least = 384 // px, the board's
			assert.LessOrEqual(t, high(".boardside"), max(float64(size.h)/2, least), path)
			assert.Greater(t, high(".boardsvg .panel")/high(".boardside"), size.share, "%s at %d × %d", path, size.w, size.h)
			assert.Empty(t, webtest.Eval[[]string](b, `(() => {
				const all = [...document.querySelectorAll(".boardsvg, .boardside .pieces, .boardbar fieldset, .boardbar label:not(fieldset *), .ahead, .readout")].map((e) => [e, e.getBoundingClientRect()]), out = [];
				const name = (e) => e.className.baseVal ?? e.className, over = (r, q) => Math.min(r.right, q.right) - Math.max(r.left, q.left) > 1 && Math.min(r.bottom, q.bottom) - Math.max(r.top, q.top) > 1;
				all.forEach(([e, r], i) => { for (const [o, q] of all.slice(i + 1)) if (!e.contains(o) && over(r, q)) out.push(name(e) + " on " + name(o)) });
				return out })()`), "%s at %d × %d", path, size.w, size.h)
		}
	}
}

// The numbers of areas can be read: none lies on another, and a line leads from one that had to
// move to the place it names.
func TestNumbersLieApart(t *testing.T) {
	st := webtest.New(t)
	st.Post("/cards", "name", "Tiles", "unit", "mm", "format", "a2", "fold", "side")
	var tiles bytes.Buffer
	require.NoError(t, png.Encode(&tiles, paneltest.Scan(6, 4)))
	st.Send("/cards/1/upload", "tiles.png", tiles.Bytes(), "back", "line", "width", "30")
	st.Read(1)
	const many = 24
	for i := range many {
		st.At(t, []string{"edit", "area-new", "cells", strconv.Itoa(i + 2), "name", "tile " + strconv.Itoa(i+2)})
	}
	b := webtest.Browse(t, st.URL)
	b.Run(chromedp.EmulateViewport(390, 844))
	b.Open("/cards/1/colour")
	b.Listens()
	type mark struct{ X, Y, R, AtX, AtY, EndX, EndY float64 }
	marks := webtest.Eval[[]mark](b, `[...document.querySelectorAll(".marks > g")].map((g) => {
		const c = g.querySelector("circle").getBoundingClientRect(), p = g.querySelector("path"), d = p.getAttribute("d"), [AtX, AtY] = g.dataset.at.split(" ").map(Number), m = document.querySelector(".boardsvg").getScreenCTM();
		const at = new DOMPoint(AtX, AtY).matrixTransform(m), end = d ? p.getPointAtLength(p.getTotalLength()).matrixTransform(p.getScreenCTM()) : at;
		return {X: c.x + c.width / 2, Y: c.y + c.height / 2, R: c.width / 2, AtX: at.x, AtY: at.y, EndX: end.x, EndY: end.y} })`)
	require.Len(t, marks, many)
	moved := 0
	for i, m := range marks {
		assert.Greater(t, m.R, 9.0, "px: large enough to be read")
		for _, o := range marks[i+1:] {
			assert.Greater(t, math.Hypot(m.X-o.X, m.Y-o.Y), m.R+o.R-1, "%d", i+1)
		}
		assert.InDelta(t, m.AtX, m.EndX, 0.5, "where the line leads, %d", i+1)
		assert.InDelta(t, m.AtY, m.EndY, 0.5, "where the line leads, %d", i+1)
		if far := math.Hypot(m.X-m.AtX, m.Y-m.AtY); far > m.R+1 {
			moved++
		}
	}
	assert.Positive(t, moved)
}

// Corners of a photo are dragged and moved with arrows; the program looks again by itself.
func TestCornersOfAPhotoAreDragged(t *testing.T) {
	st := webtest.WithGrid(t)
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/1/line")
	b.Press("Practise: simulate a photo")
	b.Sees("Its corners were found")
	value := `document.querySelector("#corners input[name=corners]").value`
	before := webtest.Eval[string](b, value)
	x, y := b.Middle(`[data-corner="0"]`)
	b.Drag(x, y, x+30, y+12)
	b.Waits(`location.search.includes("corners=")`)
	b.Sees("Drag the four corners")
	after := webtest.Eval[string](b, value)
	assert.NotEqual(t, strings.Split(before, ",")[0], strings.Split(after, ",")[0])
	assert.Equal(t, strings.Split(before, ",")[1:], strings.Split(after, ",")[1:])
	b.Listens()
	b.Do(`document.querySelector('[data-corner="2"]').focus()`)
	b.Key(kb.ArrowLeft)
	assert.NotEqual(t, after, webtest.Eval[string](b, value))
	assert.False(t, webtest.Eval[bool](b, `document.querySelector(".loupe").hidden`))
	// On a slow machine the photo is still being laid when it would be looked at again.
	b.Do(`const now = fetch; window.fetch = async (...a) => { await new Promise((r) => setTimeout(r, 1500)); return now(...a) }`)
	b.Press("Lay it on the panel")
	b.Waits(`document.querySelector(".stations")`)
	b.Sees("Stamped panel")
}
