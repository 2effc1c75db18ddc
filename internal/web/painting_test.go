package web_test

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"testing"

	"github.com/chromedp/chromedp"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/web/webtest"
)

// The board shows washes as paint a moment after the flat look, through time and for touching;
// a key brings the flat look back, which is remembered; thumbnails are painted too.
func TestTheBoardIsPainted(t *testing.T) {
	st := webtest.Demo(t)
	b := webtest.Browse(t, st.URL)
	b.Paints()
	b.Open("/cards/4/order")
	b.Waits(`document.getElementById("board").dataset.paint === "on"`)
	b.Waits(`document.getElementById("happens")`)
	dry := webtest.Eval[string](b, `document.querySelector(".painted").getAttribute("href")`)
	webtest.Eval[bool](b, `(() => { const s = document.querySelector("[data-ahead]"); s.value = 20; return s.dispatchEvent(new Event("input", { bubbles: true })); })()`)
	b.Waits(`document.querySelector(".painted").getAttribute("href").includes("at=1200")`)
	assert.NotContains(t, dry, "at=")
	b.Key("t")
	b.Waits(`document.getElementById("board").dataset.tool === "touch"`)
	b.Do(`document.querySelector("[data-cell='1']").dispatchEvent(new MouseEvent("click", { bubbles: true }))`)
	b.Waits(`document.querySelectorAll("#touch li").length === 4`)

	b.Key("f")
	b.Waits(`!document.getElementById("board").dataset.paint`)
	b.Open("/cards/4/colour")
	b.Waits(`document.querySelector("[data-paints]") && !document.querySelector("[data-paints]").checked`)
	assert.False(t, webtest.Eval[bool](b, `!!document.getElementById("board").dataset.paint`), "it is remembered")
	b.Do(`document.querySelector("[data-paints]").click()`)
	b.Waits(`document.getElementById("board").dataset.paint === "on"`)
	b.Key("h")
	b.Waits(`getComputedStyle(document.querySelector(".shadows")).display !== "none"`)
	x, y := b.Middle(`.dark[data-dark-of="3"] .grip`)
	b.Drag(x, y, x+25, y+5)
	eventuallyDark := func(n int) bool { return len(st.Card(4).Card.Shadows.Darks) >= n }
	b.Waits(`document.getElementById("work").dataset.did.includes("dark")`)
	assert.True(t, eventuallyDark(1))

	b.Open("/")
	b.Waits(`document.querySelector("img[data-shown=painted]")`)
}

// A way drawn from a cell into its neighbour says that it lies in front; one that ends in the
// same cell says nothing.
func TestFrontIsDrawn(t *testing.T) {
	st := webtest.WithGrid(t)
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/1/colour")
	b.Key("h")
	b.Waits(`getComputedStyle(document.querySelector(".shadows")).display !== "none"`)
	b.Waits(`document.getElementById("readout").textContent.startsWith("Drag a dark")`)
	x, y := b.At(2)
	x2, y2 := b.At(3)
	b.Drag(x, y, x+4, y+4)
	b.Drag(x, y, x2, y2)
	b.Waits(`document.getElementById("work").dataset.did?.includes("in front")`)
	fronts := st.Card(1).Card.Shadows.Fronts
	assert.Len(t, fronts, 1)
	assert.False(t, fronts[0].One)
}

// What happens in a wash is lit where it happens.
func TestAHappeningIsLit(t *testing.T) {
	st := webtest.WithGrid(t)
	st.At(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, webtest.Dip("a1"), []string{"edit", "materials", "paper", "pulp-cp"})
	b := webtest.Browse(t, st.URL)
	b.Paints()
	b.Open("/cards/1/order")
	b.Waits(`document.querySelector("#happens article")`)
	b.Do(`document.querySelector("#happens article").dispatchEvent(new PointerEvent("pointerover", { bubbles: true }))`)
	b.Waits(`document.querySelector(".outlines circle") && document.querySelector(".outlines path.lit")`)
	ring := webtest.Eval[[]float64](b, `(() => { const r = document.querySelector(".outlines circle").getBoundingClientRect(); return [r.x + r.width / 2, r.y + r.height / 2, r.width] })()`)
	x, y := b.At(2)
	assert.InDelta(t, x, ring[0], 150)
	assert.InDelta(t, y, ring[1], 150)
	assert.Greater(t, ring[2], 10.0)
}

// What stands below the board may take room from it: its rulers stay legible.
func TestRulersStayLegible(t *testing.T) {
	st := webtest.WithGrid(t)
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/1/colour")
	b.Waits(`document.querySelector(".ruler text")`)
	legible := `[...document.querySelectorAll(".ruler text")].every((e) => { const m = e.getScreenCTM(); return parseFloat(getComputedStyle(e).fontSize) * Math.hypot(m.a, m.b) > 13.9 })`
	b.Waits(legible)
	high := webtest.Eval[float64](b, `document.querySelector(".boardsvg").getBoundingClientRect().height`)
	b.Do(`document.querySelector(".boardbar").style.paddingBottom = "150px"`)
	b.Waits(`document.querySelector(".boardsvg").getBoundingClientRect().height < ` + fmt.Sprint(high-100))
	b.Waits(legible)
}

// What is chosen is plain from an arm's length, on bare paper too: hatched over much of the
// cell, within a line of three pixels.
func TestChosenCellsAreSeen(t *testing.T) {
	st := webtest.WithGrid(t)
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/1/colour")
	b.Listens()
	picture := func() image.Image {
		data, err := chromedp.Run(b.Ctx, chromedp.CaptureScreenshot())
		require.NoError(t, err)
		m, err := png.Decode(bytes.NewReader(data))
		require.NoError(t, err)
		return m
	}
	before := picture()
	b.Click(2)
	b.Waits(`document.querySelector(".outlines .chosen")`)
	after := picture()
	x, y := b.At(2)
	const reach, plain = 12, 30 // px; levels of 255
	changed := 0
	for dy := -reach; dy <= reach; dy++ {
		for dx := -reach; dx <= reach; dx++ {
			level := func(m image.Image) int {
				return int(color.GrayModel.Convert(m.At(int(x)+dx, int(y)+dy)).(color.Gray).Y)
			}
			if level(before)-level(after) > plain {
				changed++
			}
		}
	}
	assert.Greater(t, changed, (2*reach+1)*(2*reach+1)/6)
	assert.Equal(t, "3px", webtest.Eval[string](b, `getComputedStyle(document.querySelector(".outlines .chosen")).strokeWidth`))
}
