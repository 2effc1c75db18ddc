package web_test

import (
	"net/http"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/panel"
)

// A wanted colour is answered with mixes, of which one becomes the wash.
func TestMixingToMatch(t *testing.T) {
	st := withGrid(t)
	st.at(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, []string{"edit", "area-new", "cells", "3", "name", "Sea"},
		[]string{"edit", "wash-add", "area", "a1"}, []string{"edit", "wash-add", "area", "a2"})
	page := st.get("/cards/1/colour?area=a1").body
	assert.Contains(t, page, "as Sea")
	assert.NotContains(t, page, `class="recipes"`)
	page = st.get("/cards/1/colour?area=a1&want=%237a8fc2&most=3").body
	assert.Contains(t, page, `class="recipes"`)
	assert.Contains(t, page, "ΔE")
	assert.Regexp(t, `[2-9] coats of PB29 as tea, each laid once`, page)
	assert.Contains(t, st.get("/cards/1/colour?area=a1&want=%23dfe6f5").body, "One coat of PB29 as tea takes the area to that depth")
	assert.Contains(t, st.get("/cards/1/colour?area=a1&want=%23000000").body, "No number of coats of PB29")
	assert.Contains(t, st.get("/cards/1/colour?area=a1&want=blue").body, "is no colour; write it as #rrggbb.")

	a := st.post("/cards/1/edit", "back", "colour", "edit", "recipe", "area", "a1", "wash", "0", "mix", "PB29*2 PV19*1", "strength", "milk")
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	assert.Equal(t, []card.Part{{CI: "PB29", Parts: 2}, {CI: "PV19", Parts: 1}}, st.card(1).Card.Areas[0].Washes[0].Mix)
	for why, mix := range map[string]string{"no part of a mix": "PB29", "no pigment": "XX1*2", "use 1 to 20": "PB29*0"} {
		a := st.post("/cards/1/edit", "back", "colour", "edit", "recipe", "area", "a1", "wash", "0", "mix", mix, "strength", "milk")
		assert.Equal(t, http.StatusUnprocessableEntity, a.status)
		assert.Contains(t, message(a.body), why)
	}
	st.at(t, []string{"edit", "wash-add", "area", "a1"}, []string{"edit", "wash-move", "area", "a1", "wash", "0", "way", "later"})
	assert.Equal(t, card.Glaze, st.card(1).Card.Areas[0].Washes[0].Technique)
	st.at(t, []string{"edit", "same-washes", "area", "a2", "as", "a1"})
	assert.Equal(t, st.card(1).Card.Areas[0].Washes, st.card(1).Card.Areas[1].Washes)
	assert.Contains(t, st.get("/cards/1/colour").body, "At arm’s length")
}

// Mixes are made of the maker's own paints, which may be mixed already; gouache is
// taken up by a card as what it is.
func TestPaintsOfTheMakers(t *testing.T) {
	st := withGrid(t)
	st.at(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, []string{"edit", "wash-add", "area", "a1"})
	for _, paint := range [][]string{{"storm sepia", "2 PBr7 + PBk7", "tube"}, {"sea", "PB29", "pan"}, {"poster blue", "PB29", "gouache"}} {
		a := st.post("/shelf", "edit", "add", "name", paint[0], "pigments", paint[1], "form", paint[2])
		require.Equal(t, http.StatusOK, a.status, message(a.body))
		assert.Contains(t, a.body, paint[1])
	}
	assert.Contains(t, message(st.post("/shelf", "edit", "add", "name", "x", "pigments", "PB29 + green", "form", "pan").body), "no pigment")
	page := st.get("/cards/1/colour?area=a1&want=%234a3f38&most=2").body
	assert.Contains(t, page, "2 paints of yours", "of two of them the pigment is the same")
	assert.Contains(t, page, "PBr7*2 PBk7*1")
	assert.NotContains(t, page, "PV19*")

	assert.Contains(t, page, "poster blue, gouache by estimate")
	st.at(t, []string{"edit", "measured"})
	before, c := panel.LookOf("cotton-cp", st.card(1).Card.Areas[0].Washes).Dense, st.card(1).Card
	require.Len(t, c.Measured, 1)
	assert.NotEqual(t, before, panel.PaletteOf(c).Look(c.Areas[0].Washes).Dense)
}

// Palettes come in as wanted colours, and go out with those of the areas.
func TestPalettesInAndOut(t *testing.T) {
	st := withGrid(t)
	st.at(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, []string{"edit", "wash-add", "area", "a1"}, []string{"edit", "wanted", "hex", "#112233"})
	a := st.send("/cards/1/palette", "dusk.gpl", []byte("GIMP Palette\nName: Dusk\n122 143 194\tevening\n"), "back", "colour", "area", "a1")
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	require.Len(t, st.card(1).Card.Wanted, 1)
	assert.Contains(t, st.get("/cards/1/colour?area=a1").body, "evening")
	out := st.get("/cards/1/palette.gpl").body
	assert.Contains(t, out, "Sky")
	assert.Contains(t, out, "122 143 194\tevening")
	a = st.send("/cards/1/palette", "x.gpl", []byte("GIMP Palette\n"+strings.Repeat("1 2 3\n", 10_000)), "back", "colour")
	assert.Equal(t, http.StatusUnprocessableEntity, a.status)
	assert.Contains(t, message(a.body), "more than 256 colours")
	st.at(t, []string{"edit", "wanted", "hex", ""})
	assert.Empty(t, st.card(1).Card.Wanted)
}

// The board is seen after each wash, and with half-closed eyes; a wanted colour is
// picked from a photo.
func TestLookingAheadAndPicking(t *testing.T) {
	st := demoStudio(t)
	b := newBrowser(t, st.url)
	b.open("/cards/4/order")
	b.waits(`document.querySelector("[data-ahead]")`)
	colour := func() string {
		return eval[string](b, `getComputedStyle(document.querySelector("[data-number='5']")).getPropertyValue("--dry")`)
	}
	whole := colour()
	move := func(to string) {
		eval[bool](b, `(() => { const s = document.querySelector("[data-ahead]"); s.value = `+to+`; return s.dispatchEvent(new Event("input", { bubbles: true })); })()`)
	}
	move("0")
	assert.NotEqual(t, whole, colour(), "bare paper")
	b.waits(`document.getElementById("readout").textContent === "before the first wash"`)
	move("s.max")
	assert.Equal(t, whole, colour())
	b.waits(`/after step/.test(document.getElementById("readout").textContent)`)
	// Halfway some cells of an area are ahead of the others, in colours of their own.
	ahead := eval[int](b, `(() => { const s = document.querySelector("[data-ahead]"); let most = 0;
		for (let i = 0; i <= +s.max; i++) { s.value = i; s.dispatchEvent(new Event("input", { bubbles: true }));
			const own = [...document.querySelectorAll("path.ahead")];
			if (own.some((p) => getComputedStyle(p).fill === getComputedStyle(p.parentNode).fill)) return -1;
			most = Math.max(most, own.length); }
		return most; })()`)
	assert.Positive(t, ahead)
	assert.Zero(t, eval[int](b, `document.querySelectorAll("path.ahead").length`), "at last all are the same")
	// Arrow keys walk the time chart, say why, and light the cells of the go.
	eval[bool](b, `(document.querySelector(".chart > svg").focus(), true)`)
	for range 6 {
		b.key(kb.ArrowRight)
	}
	b.waits(`document.querySelectorAll(".chart .bar.here").length === 1`)
	told := eval[string](b, `document.getElementById("readout").textContent`)
	assert.Regexp(t, `^6, .+ at 0:\d\d:\d\d\. .+`, told)
	assert.Positive(t, eval[int](b, `document.querySelectorAll(".outlines .lit").length`))
	b.key(kb.Home)
	b.waits(`/^1, Cut the panel/.test(document.getElementById("readout").textContent)`)
	eval[bool](b, `(document.activeElement.blur(), true)`)
	b.key("s")
	b.waits(`document.getElementById("board").dataset.look === "squint"`)

	photo := filepath.Join(t.TempDir(), "photo.png")
	require.NoError(t, os.WriteFile(photo, gridPNG(t), 0o600))
	b.open("/cards/4/colour?area=a5")
	b.waits(`document.querySelector("details.wanted")`)
	eval[bool](b, `document.querySelector("details.wanted").open = true`)
	b.run(chromedp.SetUploadFiles("[data-photo]", []string{photo}))
	b.waits(`!document.querySelector(".photo").hidden`)
	eval[bool](b, `(document.querySelector(".photo").scrollIntoView(), true)`)
	x, y := b.middle(".photo")
	b.run(chromedp.MouseClickXY(x+17, y+11))
	b.waits(`document.querySelector(".recipes") && /want=%23/.test(location.search)`)
}
