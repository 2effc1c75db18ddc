package web_test

import (
	"slices"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
	"chromaqua/internal/web/webtest"
)

// medium opens what the picked image is put on with.
func medium(b *webtest.Browser) {
	b.Waits(`document.getElementById("medium")`)
	b.Do(`document.getElementById("medium").open = true`)
}

// clicks clicks once the page listens.
func clicks(b *webtest.Browser, selector string) {
	is := "document.querySelector(`" + selector + "`)"
	b.Waits(is)
	b.Listens()
	b.Do(is + ".click()")
}

// pulls takes an ink whose line is to be pulled, and goes on to the colours.
func pulls(t *testing.T, st *webtest.Studio, b *webtest.Browser, id string) {
	t.Helper()
	chooses(b, ink, id)
	eventually(t, st, 9, func(c *card.Card) bool { return c.Ink == id })
	clicks(b, `button[name=look][value=pulled]`)
	eventually(t, st, 9, func(c *card.Card) bool { return c.Look == shelf.Pulled })
	b.Key("4")
	b.Waits(`document.querySelector(".station-colour [data-cell]")`)
}

// Job 4: a sky, reeds watered on the stamp and printed over it, colour pulled out of the
// otter, which is stamped again once it is dry.
func TestAJobOfPulledLines(t *testing.T) {
	st := webtest.Demo(t)
	b := webtest.Browse(t, st.URL)
	begun(b, "River", "Otter")
	pulls(t, st, b, "blend")
	zoned(b, "Sky", 0.3)
	painted(b, "Fur", 3)
	clicks(b, `button[name=technique][value=line-pull]`)
	eventually(t, st, 9, func(c *card.Card) bool {
		return slices.ContainsFunc(c.Areas, func(a card.Area) bool {
			return a.Name == "Fur" && len(a.Washes) == 1 && a.Washes[0].Technique == technique.LinePull
		})
	})
	b.Key("2")
	b.Waits(`document.querySelector("#medium")`)
	lays(b, "Reeds")
	b.Waits(`document.querySelectorAll(".onpanel li").length === 2`)
	medium(b)
	chooses(b, "#medium select[name=times]", "1")
	eventually(t, st, 9, func(c *card.Card) bool { return c.Images[1].Medium != nil && c.Images[1].Medium.Times == 1 })
	medium(b)
	clicks(b, "#medium input[name=watered]")
	eventually(t, st, 9, func(c *card.Card) bool { return c.Images[1].Medium.Watered })
	medium(b)
	b.Waits(`document.querySelector("#medium select[name=below]")`)
	b.Press("Put it over")
	eventually(t, st, 9, func(c *card.Card) bool { return len(c.Over) == 1 && string(c.Over[0].Above) == c.Images[1].ID })
	b.Key("5")
	b.Sees("Mist the inked stamp once, print it wet")
	b.Sees("Once only, on purpose")
	b.Sees("draw its colour into the cell")
	b.Waits(`document.getElementById("paperup")`)
	b.Do(`document.getElementById("paperup").open = true`)
	b.Sees("damp paper feathers the ink")
}

// Job 8: two inks on one stamp, posts drawn freehand with a reactive pen, and words that are
// powdered, on a scrap first.
func TestAJobOfPensAndWords(t *testing.T) {
	st := webtest.Demo(t)
	b := webtest.Browse(t, st.URL)
	begun(b, "Winter", "Boathouse")
	medium(b)
	chooses(b, "#medium select[name=pads]", "permanent")
	eventually(t, st, 9, func(c *card.Card) bool { return c.Images[0].Medium != nil && len(c.Images[0].Medium.Pads) == 1 })
	b.Do(`document.getElementById("newtext").open = true`)
	b.TypeIn("#newtext textarea[name=text]", "warm inside")
	chooses(b, "#newtext select[name=by]", string(card.TextPowder))
	clicks(b, "#newtext form .btn-go, #newtext form button[type=submit], #newtext form button:not([type])")
	eventually(t, st, 9, func(c *card.Card) bool { return len(c.Acts) == 1 && c.Acts[0].Text.By == card.TextPowder })
	b.Waits(`document.querySelector(".words")`)
	b.Key(kb.Escape) // the caret is still in the words
	b.Key("4")
	b.Waits(`document.querySelector(".station-colour [data-cell]")`)
	zoned(b, "Night", 0.4)
	b.Key("z")
	chooses(b, "#zones select[name=shape]", "along")
	box := panelBox(b)
	for i := range 2 {
		x := box[0] + 60 + 40*float64(i)
		b.Drag(x, box[3]-50, x+2, box[3]-15)
	}
	b.Waits(`document.getElementById("zone-points").value.split("|").length === 2`)
	chooses(b, "#zones select[name=pen]", "marker-line")
	b.TypeIn("#newname", "Posts")
	b.Press("Make the zone")
	eventually(t, st, 9, func(c *card.Card) bool {
		return slices.ContainsFunc(c.Areas, func(a card.Area) bool { return a.Name == "Posts" && a.Washes[0].Technique == technique.MarkerLine })
	})
	b.Key("5")
	b.Sees("light before dark, and tapped on only where each belongs")
	b.Sees("Stamp “warm inside” on a scrap first")
	b.Sees("and emboss it")
	b.Sees("its ink stays reactive")
}

// Job 14: ink pads tried as paint, cells that run into each other on purpose, a word strip
// as a pocket; and the line of it printed.
func TestAJobOfInkPads(t *testing.T) {
	st := webtest.Demo(t)
	b := webtest.Browse(t, st.URL)
	begun(b, "Pads", "Ray")
	pulls(t, st, b, "dye")
	painted(b, "Wings", 2)
	clicks(b, `button[name=technique][value=line-pull]`)
	eventually(t, st, 9, func(c *card.Card) bool {
		return len(c.Areas) == 1 && len(c.Areas[0].Washes) == 1 && c.Areas[0].Washes[0].Technique == technique.LinePull
	})
	b.Press("Add a piece")
	b.Press("Strip of words a narrow piece with the words")
	b.Waits(`location.pathname.startsWith("/cards/9.p1/")`)
	b.Open("/cards/9.p1/format")
	chooses(b, "select[name=by]", string(joint.Pocket))
	eventually(t, st, 9, func(c *card.Card) bool { return c.Pieces[0].Place.By == joint.Pocket })
	b.Open("/cards/9/order")
	b.Sees("wipe the brush, it carries ink")
	b.Sees("three sides")
	assert.Contains(t, st.Get("/cards/9/line?print=yes").Body, "The line to print, PDF")
}
