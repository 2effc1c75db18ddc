package web_test

import (
	"context"
	"encoding/json"
	"io"
	"net/http"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/internal/web/webtest"
)

func TestTheWholePathOnTheDemo(t *testing.T) {
	st := webtest.Demo(t)
	b := webtest.Browse(t, st.URL)

	b.Open("/")
	b.Sees("Hermit crab, lantern night")
	b.Waits(`[...document.querySelectorAll(".thumb img")].every(i => i.complete && i.naturalWidth > 0)`)
	b.Press("New card")
	b.Sees("From a piece of paper at hand")
	b.TypeIn("input[name=name]:not([type=hidden])", "Kelp for the counters")
	b.Choose("select[name=format]", "a6")
	b.Press("Make the card")
	b.Sees("Envelopes it goes into")
	b.Sees("A6")

	// The mat is changed by typing a length; the drawing follows.
	b.TypeIn("#layer-0 [name=all]", "1/4"+kb.Enter)
	b.Waits(`document.querySelector(".layout").textContent.includes("round it 1/4")`)

	b.Key(kb.Escape) // out of the field
	b.Key("2")
	b.Sees("Choose a line image")
	b.Press("Kelp, 2 1/2 in wide")
	b.Sees("30 cells")

	// Pointing at a cell names its size; dragging moves the image.
	x, y := b.At(3)
	b.Hover(x, y)
	b.Waits(`/Cell 3, .*sq in/.test(document.getElementById("readout").textContent)`)
	before := st.Card(9).Card.Line().X
	b.Drag(x, y, x+30, y+10)
	require.Eventually(t, func() bool { return st.Card(9).Card.Line().X > before }, webtest.Eventually, webtest.Tick)
	b.Waits(`!document.querySelector(".saving")`)
	b.Press("Centre")
	require.Eventually(t, func() bool { return st.Card(9).Card.Line().X == before }, webtest.Eventually, webtest.Tick)

	b.Key("4")
	b.Sees("No area yet")
	b.Click(2)
	assert.Equal(t, "2", b.Chosen())
	b.Click(4)
	b.Click(3)
	assert.Equal(t, "2-4", b.Chosen())
	b.Click(4)
	assert.Equal(t, "2, 3", b.Chosen(), "a tap lets go as well")
	b.Press("Cells like this one")
	b.Waits(`!["", "2, 3"].includes(document.getElementById("cells").value)`)
	b.TypeIn("#newname", "Blades")
	b.Press("Make an area")
	b.Sees("Blades")
	b.Sees("Dip into a paint to begin the first wash")
	b.Sees("into a new area") // told below the board
	assert.Empty(t, b.Chosen(), "nothing is chosen any more")

	// The first dip makes the wash; three to one is three taps away.
	b.Press("Add a part of station blue PB29")
	b.Waits(`document.querySelector(".mixname")?.innerText === "station blue"`)
	b.Press("Add a part of deep water PG7")
	b.Press("3:1")
	b.Sees("station blue + deep water 3:1")
	b.Press("One part less of station blue")
	b.Press("pull-out")
	b.Press("22 more paints, not on your shelf")
	b.Press("milk")
	b.Waits(`document.querySelector("button[value=milk]").getAttribute("aria-pressed") === "true"`)
	assert.True(t, webtest.Eval[bool](b, `document.getElementById("others").open`), "what was opened stays open")

	// Dry, wet and grey are three looks of the same board.
	fill := func() string {
		return webtest.Eval[string](b, `getComputedStyle(document.querySelector(".tone")).stopColor`)
	}
	dry := fill()
	b.Key("w")
	wet := fill()
	b.Key("g")
	grey := fill()
	assert.NotEqual(t, dry, wet)
	assert.NotEqual(t, wet, grey)
	b.Key("d")
	assert.Equal(t, dry, fill())

	// A box round everything takes the rest.
	b.Do(`scrollTo(0, 0)`)
	box := webtest.Eval[[]float64](b, `(() => { const r = document.querySelector(".panel").getBoundingClientRect(); return [r.left, r.top, r.right, r.bottom] })()`)
	b.Drag(box[0]+2, box[1]+2, box[2]-2, box[3]-2)
	assert.Equal(t, "2-30", b.Chosen(), "all but the outside, whose middle is the panel's corner")
	b.Key(kb.Escape)
	assert.Empty(t, b.Chosen())

	b.Key("5")
	b.Sees("Hands on")
	b.Sees("Painted in reading order")
	b.Key("6")
	b.Sees("PDF at true size")
	b.Sees("Blades")

	// Undo is a key, and the words beside it say what goes.
	assert.Equal(t, "Take back: Blades: milk", webtest.Eval[string](b, `document.querySelector("[data-key='mod+z']").title`))
	seq := st.Card(9).Seq
	b.Key("z", chromedp.ModifierCtrl)
	require.Eventually(t, func() bool { return st.Card(9).Seq != seq }, webtest.Eventually, webtest.Tick)
	b.Waits(`!document.querySelector("[data-key='mod+shift+z']").disabled`)
	b.Key("Z", chromedp.ModifierCtrl, chromedp.ModifierShift)
	require.Eventually(t, func() bool { return st.Card(9).Seq == seq }, webtest.Eventually, webtest.Tick)
}

func TestAnUploadedDrawing(t *testing.T) {
	st := webtest.New(t)
	st.Post("/cards", "name", "Own scan", "unit", "mm", "format", "iso-a6", "fold", "top")
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/1/line")
	b.ChooseFile("input[type=file]", "my scan.png", webtest.GridPNG(t))
	b.Sees("7 cells")
	b.Sees("my scan")

	// A width that is none is refused beside the field, which keeps it, and the image stays.
	b.TypeIn("#place-form [name=width]", "four"+kb.Enter)
	b.Waits(`document.querySelector("#place-form .message")?.innerText.includes("four")`)
	assert.Equal(t, "four", webtest.Eval[string](b, `document.querySelector("#place-form [name=width]").value`))
	assert.True(t, webtest.Eval[bool](b, `document.querySelector("#place-form [name=width]").matches("[aria-invalid=true]:focus") && document.querySelector(".message").getAttribute("role") === "alert"`))
	b.Sees("7 cells")
	b.TypeIn("#place-form [name=width]", "64 mm"+kb.Enter)
	b.Waits(`!document.querySelector(".message")`)
	require.Eventually(t, func() bool { return st.Card(1).Card.Line().Width == 64*length.Millimetre }, webtest.Eventually, webtest.Tick)

	// A file that was chosen stays chosen when something else was wrong.
	b.TypeIn("form[enctype]:not([data-whole]) [name=width]", "wide")
	b.ChooseFile("form[enctype]:not([data-whole]) input[type=file]", "again.png", webtest.GridPNG(t))
	b.Press("Add it")
	b.Waits(`document.querySelector("form[enctype]:not([data-whole]) .message")?.innerText.includes("wide")`)
	assert.Equal(t, "again.png wide", webtest.Eval[string](b, `(() => { const f = document.querySelector("form[enctype]:not([data-whole])"); return f.elements.file.files[0].name + " " + f.elements.width.value })()`))
	assert.Len(t, st.Card(1).Card.Images, 1)

	b.Open("/cards/1/colour")
	b.Waits(`document.querySelector("[data-cell='2']")`)
	b.Click(2)
	b.TypeIn("#newname", "Sky")
	b.Key(kb.Enter)
	b.Press("Add a part of ultramarine PB29")
	b.Waits(`document.querySelector(".mixname")?.innerText === "ultramarine"`)
	b.Open("/cards/1/order")
	b.Sees("Sky: ultramarine, tea")
	assert.Contains(t, st.Get("/cards/1/bench.pdf").Body, "%PDF-")
}

// The whole of the Colour station without a mouse.
func TestByKeyboardAlone(t *testing.T) {
	st := webtest.WithGrid(t)
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/1/format")
	b.Key("4")
	b.Waits(`document.querySelector("[data-cell='2']")`)
	b.Key("b")
	for range 3 {
		b.Key(kb.ArrowRight)
	}
	b.Waits(`document.querySelector(".boardsvg").getAttribute("aria-activedescendant")`)
	b.Key(" ")
	b.Key(kb.ArrowDown)
	b.Key(" ")
	require.NotEmpty(t, b.Chosen())
	b.Key("a")
	b.Waits(`document.activeElement.id === "newname"`)
	b.Do(`document.activeElement.value = ""`) // the driver sends the letter apart from its key
	b.Run(chromedp.KeyEvent("Cliffs"))
	b.Key(kb.Enter)
	require.Eventually(t, func() bool { return len(st.Card(1).Card.Areas) == 1 }, webtest.Eventually, webtest.Tick)
	assert.Equal(t, "Cliffs", st.Card(1).Card.Areas[0].Name)
	assert.NotEmpty(t, st.Card(1).Card.Areas[0].Cells)
	b.Key("?")
}

// A change of colours keeps the picture in the page and paints it anew; what changes
// the picture brings another.
func TestThePictureStaysInThePage(t *testing.T) {
	st := webtest.WithGrid(t)
	st.At(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, webtest.Dip("a1"))
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/1/colour?area=a1")
	b.Do(`window.picture = document.querySelector(".boardsvg")`)
	same := func() bool { return webtest.Eval[bool](b, `window.picture === document.querySelector(".boardsvg")`) }
	wears := func() string {
		return webtest.Eval[string](b, `document.querySelector('[data-number="1"]').style.getPropertyValue("--dry")`)
	}
	b.Press("milk")
	b.Waits(`document.querySelector("button[value=milk]").getAttribute("aria-pressed") === "true"`)
	assert.True(t, same())
	assert.Equal(t, panel.LookOf("cotton-cp", st.Card(1).Card.Areas[0].Washes).Dense.Dry, wears())
	assert.Equal(t, 7, webtest.Eval[int](b, `document.querySelectorAll(".cells path[data-cell]").length`))
	b.Press("Add a part of phthalo green PG7")
	b.Sees("ultramarine + phthalo green 1:1")
	assert.True(t, same())
	assert.Equal(t, panel.LookOf("cotton-cp", st.Card(1).Card.Areas[0].Washes).Dense.Dry, wears())
	// What was not stored is not shown either.
	was := wears()
	b.Do(`window.reached = window.fetch; window.fetch = () => Promise.reject(new TypeError("no network"))`)
	b.Press("cream")
	b.Sees("What you did last is not stored")
	assert.Equal(t, was, wears())
	b.Do(`window.fetch = window.reached`)
	b.Press("pull-out")
	b.Waits(`document.querySelector("#grade-1")`)
	assert.False(t, same(), "it runs now")
	assert.Equal(t, 7, webtest.Eval[int](b, `document.querySelectorAll(".cells path[data-cell]").length`))

	// A page that has the picture gets it without its cells, and only then.
	req, err := http.NewRequestWithContext(t.Context(), http.MethodGet, st.URL+"/cards/1/colour?area=a1", nil)
	require.NoError(t, err)
	drawn := webtest.Eval[string](b, `document.querySelector(".boardsvg").dataset.drawn`)
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
	st := webtest.WithGrid(t)
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/1/colour")
	b.Waits(`document.querySelector("[data-cell='2']")`)
	st.Post("/cards/1/edit", "back", "format", "edit", "name", "name", "Named elsewhere")
	b.Click(2)
	b.Press("Make an area")
	b.Sees("changed meanwhile")
	b.Waits(`document.querySelector(".cardname").value === "Named elsewhere"`)
	assert.Empty(t, st.Card(1).Card.Areas)
	// What it did is seen; then the change that lost can be made again.
	b.Press("Do it again: Make an area")
	require.Eventually(t, func() bool { return len(st.Card(1).Card.Areas) == 1 }, webtest.Eventually, webtest.Tick)
	assert.Len(t, st.Card(1).Card.Areas[0].Cells, 1)
	assert.Equal(t, "Named elsewhere", st.Card(1).Card.Name)
	b.Waits(`!document.querySelector(".message")`)
}

// A program that is gone says so wherever one clicks, and nothing is lost from the page.
func TestAProgramThatIsGone(t *testing.T) {
	st := webtest.WithGrid(t)
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/1/colour")
	b.Waits(`document.querySelector("[data-cell='2']")`)
	b.Click(2)
	b.TypeIn("#newname", "Sky")
	st.App.Close()
	b.Do(`window.fetch = () => Promise.reject(new TypeError("no network"))`)
	for _, press := range []string{"Make an area", "Order", "Undo"} {
		b.Do(`document.querySelectorAll(".message").forEach(m => m.remove()); document.querySelectorAll("button").forEach(b => b.disabled = false)`)
		b.Press(press)
		b.Sees("The program does not answer")
	}
	assert.Equal(t, "2", b.Chosen())
	assert.Equal(t, "Sky", webtest.Eval[string](b, `document.getElementById("newname").value`))
	b.Press("Chromaqua, all cards")
	b.Sees("all that was stored is kept")
	assert.Equal(t, "/cards/1/colour", webtest.Eval[string](b, `location.pathname`), "nobody is led into nothing")
}

// Taps come faster than pages: each builds on the one before, and none is lost.
func TestTapsWhileAPageIsOnItsWay(t *testing.T) {
	st := webtest.WithGrid(t)
	st.At(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, webtest.Dip("a1"))
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/1/colour?area=a1")
	b.Listens()
	b.Do(`const more = document.querySelector("[aria-label='One part more of ultramarine']"); more.click(); more.click(); more.click(); document.querySelector("[value=cream]").click()`)
	require.Eventually(t, func() bool {
		w := st.Card(1).Card.Areas[0].Washes[0]
		return w.Mix[0].Parts == 4 && w.Strength == pigment.Cream
	}, webtest.Eventually, webtest.Tick)
	b.Waits(`document.querySelector("button[value=cream]").getAttribute("aria-pressed") === "true" && !document.querySelector(".message")`)
}

// What a drawer refuses is said beside the field too, with all that was typed kept; what
// it takes leads on.
func TestDrawersKeepWhatWasTyped(t *testing.T) {
	st := webtest.New(t)
	b := webtest.Browse(t, st.URL)
	b.Open("/library")
	b.ChooseFile("input[type=file]", "stamp.png", webtest.GridPNG(t))
	b.TypeIn("form[enctype] [name=width]", "wide")
	b.Press("Add it")
	b.Waits(`document.querySelector("form[enctype] .message")?.innerText.includes("wide")`)
	assert.Equal(t, "stamp.png wide", webtest.Eval[string](b, `(() => { const f = document.querySelector("form[enctype]"); return f.elements.file.files[0].name + " " + f.elements.width.value })()`))
	b.TypeIn("form[enctype] [name=width]", "64 mm")
	b.Press("Add it")
	b.Waits(`document.querySelector(".imagetile h3")?.innerText === "stamp"`)

	b.Open("/new")
	b.TypeIn("[name=name]", "Odd")
	b.Choose("select[name=format]", "free")
	b.TypeIn("[name=front]", "four by five")
	b.Press("Make the card")
	b.Waits(`document.querySelector("form .message")?.innerText.includes("four")`)
	assert.Equal(t, "Odd", webtest.Eval[string](b, `document.querySelector("[name=name]").value`))
	b.TypeIn("[name=front]", "4 x 5")
	b.Press("Make the card")
	b.Waits(`location.pathname === "/cards/1/format"`)

	b.Open("/settings")
	b.Listens()
	b.Key("?")
	b.Waits(`document.querySelector("#keys:popover-open")`)
	b.Key(kb.Escape)
	b.Waits(`!document.querySelector("#keys:popover-open")`)
}

// spokenWord is a value of the tree that is read out.
type spokenWord struct {
	Value json.RawMessage `json:"value"`
}

func (w spokenWord) heard() string { return strings.Trim(string(w.Value), `"`) }

// Those who hear the board find each cell as an option of its list, and which are chosen.
func TestTheBoardIsAListToTheEar(t *testing.T) {
	st := webtest.WithGrid(t)
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/1/colour")
	b.Waits(`document.querySelector("[data-cell='2']")`)
	b.Click(2)
	var tree struct {
		Nodes []struct {
			Ignored    bool       `json:"ignored"`
			Role       spokenWord `json:"role"`
			Properties []struct {
				Name  string     `json:"name"`
				Value spokenWord `json:"value"`
			} `json:"properties"`
		} `json:"nodes"`
	}
	b.Run(chromedp.Func(func(ctx context.Context, t *chromedp.Target) error {
		return t.Call(ctx, "Accessibility.getFullAXTree", struct{}{}, &tree)
	}))
	options, selected, lists := 0, 0, 0
	for _, n := range tree.Nodes {
		switch role := n.Role.heard(); {
		case n.Ignored:
		case role == "listbox":
			lists++
		case role == "option":
			options++
			for _, p := range n.Properties {
				if p.Name == "selected" && p.Value.heard() == "true" {
					selected++
				}
			}
		}
	}
	assert.Equal(t, [3]int{1, 7, 1}, [3]int{lists, options, selected})
}

func TestUndoAcrossARestart(t *testing.T) {
	path := filepath.Join(t.TempDir(), "studio.db")
	st := webtest.Open(t, path)
	st.Post("/cards", "name", "Before", "unit", "in", "format", "a2", "fold", "side")
	st.Post("/cards/1/edit", "back", "format", "edit", "name", "name", "After")
	st.App.Close()
	require.NoError(t, st.Store.Close())
	again := webtest.Open(t, path)
	b := webtest.Browse(t, again.URL)
	b.Open("/cards/1/format")
	b.Press("Undo")
	b.Waits(`document.querySelector(".cardname").value === "Before"`)
	b.Press("Redo")
	b.Waits(`document.querySelector(".cardname").value === "After"`)
}

// While cells are found a maker goes on: what is typed stays when they are there, and who has
// gone to another station is left there.
func TestReadingEndsQuietly(t *testing.T) {
	st := webtest.Demo(t)
	b := webtest.Browse(t, st.URL)
	for _, drawing := range []string{"Limpets", "Kelp"} { // found for the first time
		b.Open("/new")
		b.TypeIn("input[name=name]:not([type=hidden])", "Rock pool")
		b.Press("Make the card")
		b.Sees("From the outside in")
		b.Key("2")
		b.Sees("Choose a line image")
		// The page that comes once the cells are found waits to be let go.
		b.Do(`const ask = fetch; window.fetch = async (to, how) => {
			const answer = await ask(to, how);
			if (String(to).includes("/line") && !how) await new Promise((go) => { window.letGo = go; });
			return answer;
		}`)
		lays(b, drawing)
		b.Waits(`window.letGo`)
		if drawing == "Kelp" {
			b.TypeIn("#place-form input[name=x]", "3/4")
			b.Do(`letGo()`)
			b.Waits(`document.querySelector("[data-cell]")`)
			assert.Equal(t, "3/4", webtest.Eval[string](b, `document.querySelector("#place-form input[name=x]").value`))
			continue
		}
		b.Key("3")
		b.Waits(`document.querySelector(".station-masks")`)
		b.Do(`letGo()`)
		assert.True(t, webtest.Eval[bool](b, `new Promise((is) => setTimeout(() => is(!!document.querySelector(".station-masks")), 300))`, chromedp.EvalAwaitPromise))
	}
}
