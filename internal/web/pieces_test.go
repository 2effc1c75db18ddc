package web_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/chromedp/chromedp/kb"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/technique"
	"chromaqua/internal/store"
	"chromaqua/internal/web/webtest"
)

// eventually waits for what a card has to become.
func eventually(t *testing.T, st *webtest.Studio, id int64, holds func(*card.Card) bool) {
	t.Helper()
	require.Eventually(t, func() bool { return holds(st.Card(id).Card) }, webtest.Eventually, webtest.Tick)
}

// lays presses a drawing of the library by its name.
func lays(b *webtest.Browser, name string) {
	is := fmt.Sprintf(`[...document.querySelectorAll(".drawing")].find(e => e.innerText.startsWith(%q))`, name)
	b.Waits(is)
	b.Listens()
	b.Do(is + ".click()")
}

// ink is the field of the usual ink of a piece.
const ink = "form:has(select[name=paper]) select[name=ink]"

// chooses chooses once the page listens.
func chooses(b *webtest.Browser, selector, value string) {
	b.Waits(fmt.Sprintf("document.querySelector(%q)", selector))
	b.Listens()
	b.Choose(selector, value)
}

// begun is a card at the Line station, with a first drawing of the library on it.
func begun(b *webtest.Browser, name, drawing string) {
	b.Open("/new")
	b.TypeIn("input[name=name]:not([type=hidden])", name)
	b.Press("Make the card")
	b.Sees("From the outside in")
	b.Key("2")
	b.Sees("Choose a line image")
	lays(b, drawing)
	b.Waits(`document.querySelector("[data-cell]")`)
}

// painted makes an area of cells with a paint in it.
func painted(b *webtest.Browser, name string, cells ...int) {
	for _, id := range cells {
		b.Click(id)
	}
	b.TypeIn("#newname", name)
	b.Press("Make an area")
	b.Sees("Dip into a paint to begin the first wash")
	b.Press("Add a part of station blue PB29")
	b.Waits(`document.querySelector(".mixname")?.innerText === "station blue"`)
}

// panelBox is where the panel is seen: left, top, right and bottom.
func panelBox(b *webtest.Browser) []float64 {
	return webtest.Eval[[]float64](b, `(() => { const r = document.querySelector(".panel").getBoundingClientRect(); return [r.left, r.top, r.right, r.bottom] })()`)
}

// zoned draws across the board with the zone in hand, and makes it a zone above that line.
func zoned(b *webtest.Browser, name string, down float64) {
	b.Key("z")
	b.Do(`scrollTo(0, 0)`)
	box := panelBox(b)
	y := box[1] + down*(box[3]-box[1])
	b.Drag(box[0]+3, y, box[2]-3, y+2)
	b.Waits(`document.getElementById("zone-points").value !== ""`)
	chooses(b, "select[name=shape]", "above")
	b.TypeIn("#newname", name)
	b.Press("Make the zone")
	b.Sees("Dip into a paint to begin the first wash")
	b.Press("Add a part of deep water PG7")
	b.Waits(`document.querySelector(".mixname")?.innerText === "deep water"`)
}

// Job 2: an embossed figure on a block.
func TestAJobOnABlock(t *testing.T) {
	st := webtest.Demo(t)
	b := webtest.Browse(t, st.URL)
	begun(b, "Diver", "Limpets")
	chooses(b, ink, "embossed")
	eventually(t, st, 9, func(c *card.Card) bool { return c.Ink == "embossed" })
	b.Key("4")
	b.Waits(`document.querySelector(".station-colour [data-cell]")`)
	painted(b, "Shells", 3)
	b.Key("5")
	b.Sees("Hands on")
	b.Waits(`document.getElementById("paperup")`)
	b.Do(`document.getElementById("paperup").open = true`)
	chooses(b, `#paperup select[name=how]`, "block")
	eventually(t, st, 9, func(c *card.Card) bool { return len(c.Hold) == 1 && c.Hold[0].How == card.OnBlock })
	b.Sees("Free the panel from its block")
	b.Sees("a dull blade")
	assert.NotContains(t, st.Get("/cards/9/order").Body, "Tape the panel")
}

// Job 3: images in three inks, one embossed over the paint of the others, and a strip of
// words as a piece of its own.
func TestAJobOfThreeInks(t *testing.T) {
	st := webtest.Demo(t)
	b := webtest.Browse(t, st.URL)
	begun(b, "Journal", "Limpets")
	lays(b, "Kelp")
	b.Waits(`document.querySelectorAll(".onpanel li").length === 2`)
	b.Do(`document.getElementById("medium").open = true`)
	chooses(b, "#medium select[name=ink]", "permanent")
	eventually(t, st, 9, func(c *card.Card) bool {
		return len(c.Images) == 2 && c.Images[1].Medium != nil && c.Images[1].Medium.Ink == "permanent"
	})
	b.Waits(`document.querySelector("#medium summary").innerText.includes("permanent")`)
	b.Key("4")
	b.Waits(`document.querySelector(".station-colour [data-cell]")`)
	zoned(b, "Ground", 0.5)
	b.Key("2")
	b.Waits(`document.querySelector(".onpanel")`)
	lays(b, "Sea star")
	b.Waits(`document.querySelectorAll(".onpanel li").length === 3`)
	b.Do(`document.getElementById("medium").open = true`)
	chooses(b, "#medium select[name=ink]", "embossed")
	b.Waits(`document.querySelector("#medium summary").innerText.includes("embossing ink")`)
	b.Press("Put it over")
	eventually(t, st, 9, func(c *card.Card) bool { return len(c.Over) == 1 && string(c.Over[0].Above) == c.Images[2].ID })
	b.Key("5")
	b.Sees("Lay the panel in the positioner") // again, once the ground is dry
	b.Waits(`document.getElementById("paperup")`)
	b.Do(`document.getElementById("paperup").open = true`)
	b.Sees("powder clings to whatever is damp")

	b.Press("Add a piece")
	b.Press("Strip of words a narrow piece with the words")
	eventually(t, st, 9, func(c *card.Card) bool { return len(c.Pieces) == 1 && c.Pieces[0].Kind == card.WordStrip })
	b.Waits(`location.pathname.startsWith("/cards/9.p1/")`)
	assert.Contains(t, st.Get("/cards/9/bench").Body, "Strip of words", "it is among what is cut")
}

// Job 13: two pieces and two inks; cut-outs of which a card needs two, held by their
// bodies.
func TestAJobOfTwoPieces(t *testing.T) {
	st := webtest.Demo(t)
	b := webtest.Browse(t, st.URL)
	begun(b, "Corals", "Coral")
	b.Key("4")
	b.Waits(`document.querySelector(".station-colour [data-cell]")`)
	zoned(b, "Water", 0.6)
	b.Press("Add a piece")
	b.Press("Cut-out cut along its own line and popped up")
	b.Waits(`location.pathname.startsWith("/cards/9.p1/")`)
	b.Open("/cards/9.p1/line")
	lays(b, "Ray")
	b.Waits(`document.querySelector("[data-cell]")`)
	chooses(b, ink, "embossed")
	eventually(t, st, 9, func(c *card.Card) bool { return c.Pieces[0].Ink == "embossed" && c.Ink != "embossed" })
	b.Key("4")
	b.Waits(`document.querySelector(".station-colour [data-cell]")`)
	painted(b, "Wings", 2)
	b.Key("1")
	b.Sees("How it is cut")
	b.TypeIn("input[name=count]", "2")
	chooses(b, "select[name=image]", st.Card(9).Card.Pieces[0].Images[0].ID)
	eventually(t, st, 9, func(c *card.Card) bool { return c.Pieces[0].Outline != nil && c.Pieces[0].Count == 2 })
	chooses(b, "select[name=by]", string(joint.Body))
	eventually(t, st, 9, func(c *card.Card) bool { return c.Pieces[0].Place.By == joint.Body })
	b.Open("/cards/9.p1/order")
	b.Sees("Cut cut-out 1 and lay it in the positioner")
	b.Sees("Cut cut-out 2 out along its line")
	b.Sees("Glue on its body only")

	// Taken back piece by piece; the address of one that is gone shows the panel.
	a := st.Post("/cards/9.p1/edit", "back", "format", "edit", "piece-off", "piece", "p1")
	assert.Equal(t, "/cards/9/format", a.Path)
	assert.Contains(t, st.Get("/cards/9.p1/format").Body, "From the outside in")
	st.Post("/cards/9/undo", "back", "format")
	assert.Len(t, st.Card(9).Card.Pieces, 1)
}

// Strokes are drawn one after the other with the pointer, and dots by taps; a pen makes its
// marks at once.
func TestDrawingByHand(t *testing.T) {
	st := webtest.Demo(t)
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/5/colour")
	b.Waits(`document.querySelector("[data-cell]")`)
	b.Key("z")
	chooses(b, "#zones select[name=shape]", "along")
	box := panelBox(b)
	for i := range 2 {
		x := box[0] + 30 + 25*float64(i)
		b.Drag(x, box[1]+60, x+4, box[1]+130)
	}
	b.Waits(`document.getElementById("zone-points").value.split("|").length === 2`)
	chooses(b, "#zones select[name=pen]", "pen-line")
	b.TypeIn("#newname", "Posts")
	b.Press("Make the zone")
	b.Sees("pen line")
	c := st.Card(5).Card
	a := c.Areas[len(c.Areas)-1]
	assert.Equal(t, "Posts", a.Name)
	assert.Equal(t, technique.PenLine, a.Washes[0].Technique)
	z, err := c.ZoneByID(a.Zones[0])
	require.NoError(t, err)
	assert.Len(t, z.Strokes(), 2)
	b.Waits(`document.querySelector(".stroke")`)

	b.Key("z")
	chooses(b, "#zones select[name=shape]", "dots")
	for i := range 3 {
		x, y := box[0]+120+20*float64(i), box[1]+50
		b.Drag(x, y, x, y)
	}
	b.Waits(`document.getElementById("zone-points").value.split(";").length === 3`)
}

// A piece on which nothing is printed is painted all the same.
func TestAPieceWithoutALine(t *testing.T) {
	st := webtest.Demo(t)
	require.Equal(t, http.StatusOK, st.Post("/cards/1/edit", "back", "format", "edit", "piece-add", "kind", "strip").Status)
	assert.Contains(t, st.Get("/cards/1.p1/order").Body, "Nothing to paint yet")
	assert.Contains(t, st.Get("/cards/1.p1/colour").Body, "Paint it without a line")
	require.Equal(t, http.StatusOK, st.Post("/cards/1.p1/edit", "back", "colour", "edit", "zone-new", "shape", "all", "name", "Ground").Status)
	p := st.Card(1).Card.Pieces[0]
	require.Len(t, p.Areas, 1)
	a := p.Areas[0].ID
	require.Equal(t, http.StatusOK, st.Post("/cards/1.p1/edit", append([]string{"back", "colour"}, webtest.Dip(a)...)...).Status)
	assert.Contains(t, st.Get("/cards/1.p1/colour?area="+a).Body, "Ground")
	assert.Contains(t, st.Get("/cards/1.p1/order").Body, "Ground")
	for _, s := range []string{"format", "line", "bench"} {
		assert.Equal(t, http.StatusOK, st.Get("/cards/1.p1/"+s).Status, s)
	}
	assert.True(t, strings.HasPrefix(st.Get("/cards/1.p1/bench.pdf").Body, "%PDF-"))
	assert.Contains(t, st.Get("/cards/1.p1/panel.svg").Body, "<svg")
}

// What cannot be is told in words, and changes nothing; two tabs do not undo each other.
func TestPiecesThatCannotBe(t *testing.T) {
	st := webtest.Demo(t)
	base := st.Base("/cards/5/format")
	for _, tc := range []struct {
		path, says string
		pairs      []string
	}{
		{"/cards/5.p1/edit", "in the end on it", []string{"edit", "piece-place", "piece", "p1", "on", "p1"}},
		{"/cards/5.p1/edit", "no number of pieces", []string{"edit", "piece", "piece", "p1", "name", "ray", "count", "two"}},
		{"/cards/5.p1/edit", "would measure", []string{"edit", "piece", "piece", "p1", "name", "ray", "w", "1 mm", "h", "1 mm"}},
		{"/cards/5/edit", "is gone", []string{"edit", "piece-off", "piece", "p9"}},
		{"/cards/5/edit", "no kind of piece", []string{"edit", "piece-add", "kind", "boat"}},
		{"/cards/5/edit", "over itself", []string{"edit", "lie-over", "above", "a1/2", "below", "a1/1", "on", "true"}},
		{"/cards/5/edit", "no shape", []string{"edit", "zone-new", "shape", "cloud", "points", "1 x 1; 2 x 2; 3 x 1"}},
		{"/cards/5/edit", "draw it again", []string{"edit", "zone-new", "shape", "ring", "points", "1 x 1; 2 x 2"}},
		{"/cards/5/edit", "more than a hand draws", []string{"edit", "zone-new", "shape", "ring", "points", points(20_001)}},
		{"/cards/5/edit", "more than a hand draws", []string{"edit", "zone-new", "shape", "along", "width", "1", "pen", "pen-line", "points", points(50_000)}},
		{"/cards/5/edit", "more than", []string{"edit", "zone-new", "shape", "dots", "width", "1", "pen", "white-pen", "points", points(10_000)}},
		{"/cards/5/edit", "at most 3 inks", []string{"edit", "medium", "picked", "i1", "pads", "dye dye dye"}},
		{"/cards/5/edit", "no way of holding", []string{"edit", "hold", "n", "0", "how", "nails"}},
		{"/cards/5/edit", "gone", []string{"edit", "hold", "n", "5", "how", "block"}},
	} {
		before := st.Card(5).Seq
		a := st.Post(tc.path, append([]string{"back", "format"}, tc.pairs...)...)
		assert.Contains(t, []int{http.StatusUnprocessableEntity, http.StatusBadRequest}, a.Status, tc.says)
		assert.Contains(t, webtest.Plain(a.Body), tc.says)
		assert.Equal(t, before, st.Card(5).Seq, tc.says)
	}
	require.NoError(t, st.Card(5).Card.Check())

	// Self-crossing, and far outside: what is left of it on the piece is painted, if anything.
	assert.Equal(t, http.StatusOK, st.Post("/cards/5/edit", "back", "colour", "edit", "zone-new", "shape", "ring", "points", "1 x 1; 3 x 3; 3 x 1; 1 x 3", "name", "Bow").Status)
	assert.Equal(t, http.StatusOK, st.Post("/cards/5/edit", "back", "colour", "edit", "zone-new", "shape", "ring", "points", "60 x 60; 70 x 60; 70 x 70", "name", "Outside").Status)
	for _, s := range []string{"colour", "order", "line", "bench"} {
		assert.Equal(t, http.StatusOK, st.Get("/cards/5/"+s).Status, s)
	}

	a := st.Post("/cards/5/edit", "back", "format", "edit", "piece-add", "kind", "tag", "base", base)
	assert.Equal(t, http.StatusConflict, a.Status)
	assert.Contains(t, a.Body, store.ErrStale.Error()[:20])

	for range card.MaxPieces {
		st.Post("/cards/5/edit", "back", "format", "edit", "piece-add", "kind", "tag")
	}
	a = st.Post("/cards/5/edit", "back", "format", "edit", "piece-add", "kind", "tag")
	assert.Contains(t, a.Body, "at most 24 pieces")
	assert.Len(t, st.Card(5).Card.Pieces, card.MaxPieces)
	assert.Equal(t, http.StatusOK, st.Get("/cards/5/order").Status)
}

// points are so many places, no two in a line.
func points(n int) string {
	out := make([]byte, 0, 8*n)
	for i := range n {
		out = append(out, "1 x 1; 2 x 1; 2 x 2; 1 x 2; "[7*(i%4):7*(i%4)+7]...)
	}
	return string(out[:len(out)-2])
}

// Pieces are dragged on the picture of the card that is put together, moved with the keys,
// and held otherwise; the plan of the sample studio's rays says so.
func TestPuttingTogether(t *testing.T) {
	st := webtest.Demo(t)
	st.Read(5)
	b := webtest.Browse(t, st.URL)
	b.Open("/cards/5/mount")
	b.Sees("In this order")
	b.Listens()
	was := st.Card(5).Card.Pieces[1].Place.At
	x, y := b.Middle(`[data-piece="p2"]`)
	b.Drag(x, y, x+30, y-20)
	eventually(t, st, 5, func(c *card.Card) bool { return c.Pieces[1].Place.X > was.X && c.Pieces[1].Place.Y < was.Y })
	b.Listens()
	moved := st.Card(5).Card.Pieces[1].Place.At
	b.Do(`document.querySelector('[data-piece="p2"]').focus()`)
	b.Key(kb.ArrowLeft)
	eventually(t, st, 5, func(c *card.Card) bool { return c.Pieces[1].Place.X < moved.X && c.Pieces[1].Place.Y == moved.Y })
	b.Listens()
	chooses(b, `#joint-p2 select[name="by"]`, string(joint.Foam))
	eventually(t, st, 5, func(c *card.Card) bool { return c.Pieces[1].Place.By == joint.Foam })
	b.Sees("between the pads it bends as it warps")
}
