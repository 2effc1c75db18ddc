package web_test

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"chromaqua/core/card"
	"chromaqua/core/mask"
	"chromaqua/internal/web/webtest"
)

// A sky round a lighthouse: what stays white is tapped and drawn on the board, weighed, kept
// by a mask with one tap, seen with masks on and off, and undone.
func TestAMaskedSky(t *testing.T) {
	st := webtest.Demo(t)
	st.Post("/cards/1/edit", "back", "colour", "edit", "zone-new", "shape", "all", "round", "true", "name", "Sky")
	sky := st.Card(1).Card.Areas[len(st.Card(1).Card.Areas)-1].ID
	st.Post("/cards/1/edit", append([]string{"back", "colour"}, webtest.Dip(sky)...)...)
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/1/masks")
	b.Waits(`document.querySelector(".station-masks [data-cell]")`)
	b.Listens()
	b.Click(2)
	b.Waits(`document.querySelector("#cells").value === "2"`)
	b.TypeIn(`#pick input[name=name]`, "Tower")
	b.Press("Keep them")
	eventually(t, st, 1, func(c *card.Card) bool { return len(c.Reserves) == 1 && c.Reserves[0].Name == "Tower" })
	b.Waits(`document.querySelector("#kept-r1[open] .way")`)
	b.Sees("kept from")

	b.Do(`document.querySelector("#strew").open = true`)
	b.Press("Strew them")
	eventually(t, st, 1, func(c *card.Card) bool { return len(c.Reserves) == 2 })
	b.Waits(`document.querySelector("#kept-r2[open] button[value='r2=mask pen']")`)
	clicks(b, "#kept-r2 button[value='r2=mask pen']")
	eventually(t, st, 1, func(c *card.Card) bool { return c.Reserves[1].Way == mask.Pen })
	b.Waits(`document.querySelector(".keptplace.masks.open")`)
	b.Do(`document.getElementById("kept-off").click()`)
	assert.Equal(t, "none", webtest.Eval[string](b, `getComputedStyle(document.querySelector(".keptplaces")).display`))
	b.Do(`document.getElementById("kept-on").click()`)
	clicks(b, "#kept-r2 button[value='r2=round']")
	eventually(t, st, 1, func(c *card.Card) bool { return c.Reserves[1].Way == mask.Round })
	b.Sees("Decide for me")
	b.Listens()
	b.Key("e")
	eventually(t, st, 1, func(c *card.Card) bool { return c.Reserves[1].Way != mask.Round })
	assert.Equal(t, mask.Way(""), st.Card(1).Card.Reserves[0].Way, "nothing comes near it")
	b.Waits(`!document.querySelector(".saving")`)
	b.Press("Undo")
	eventually(t, st, 1, func(c *card.Card) bool { return c.Reserves[1].Way == mask.Round })
	b.Waits(`document.querySelector("#kept-r2 button[value='r2=mask pen']")`)
	b.Do(`document.querySelector("#kept-r2").open = true`)
	clicks(b, "#kept-r2 button[value='r2=mask pen']")
	eventually(t, st, 1, func(c *card.Card) bool { return c.Reserves[1].Way == mask.Pen })

	clicks(b, `.fronts a`)
	b.Waits(`document.querySelector(".front .eighths")`)
	b.Key("5")
	b.Sees("Mask pen on Dots")
	b.Sees("Take the mask pen off Dots")
}
