package masks_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/mask"
	"chromaqua/core/shelf"
	"chromaqua/internal/web/webtest"
)

// night is a studio with a painted card under a sky, and how its Masks station is asked.
func night(t testing.TB) (*webtest.Studio, func(pairs ...string) webtest.Answer) {
	st, edit := webtest.Painted(t)
	a := edit("edit", "zone-new", "shape", "all", "round", "true", "name", "Night")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	id := st.Card(1).Card.Areas[2].ID
	require.Equal(t, http.StatusOK, edit(webtest.Dip(id)...).Status)
	return st, func(pairs ...string) webtest.Answer {
		return st.Post("/cards/1/edit", append([]string{"back", "masks"}, pairs...)...)
	}
}

// What is kept is weighed by the minutes of the whole work, chosen with a tap, stored, and
// undone.
func TestTheMasksStation(t *testing.T) {
	st, do := night(t)
	body := st.Get("/cards/1/masks").Body
	assert.Contains(t, body, "Nothing is kept yet")
	assert.Contains(t, body, "Does the edge stay open?")
	a := do("edit", "keep-strewn", "count", "30", "least", "1 mm", "most", "2 mm", "area", st.Card(1).Card.Areas[2].ID, "draw", "3", "name", "Snow")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	r := st.Card(1).Card.Reserves[0]
	assert.Equal(t, mask.Way(""), r.Way, "it is painted round until something is chosen")
	for _, want := range []string{"Decide for me", "Mask pen", "Put white on after", "kept from Night", "too fine for a brush", "ways that will not do", "Let them fall otherwise", "min more", "safe", `class="keptplace`} {
		assert.Contains(t, a.Body, want)
	}
	a = do("edit", "keep-by", "ways", r.ID+"=mask pen")
	assert.Equal(t, mask.Pen, st.Card(1).Card.Reserves[0].Way)
	assert.Contains(t, a.Body, `aria-pressed="true"><span class="wayname">Mask pen`)
	assert.Contains(t, a.Body, "bright dots of paper")
	assert.Contains(t, a.Body, "keptplace masks white", "hatched on the board")
	order := st.Get("/cards/1/order").Body
	for _, want := range []string{"Mask pen on Snow", "One dab a dot", "No heat tool until it is off", "Take the mask pen off Snow", "roll it off with a clean finger"} {
		assert.Contains(t, order, want)
	}
	assert.NotContains(t, do("edit", "keep-by", "ways", r.ID+"=fluid splatter").Body, "No such")
	st.Post("/cards/1/undo", "back", "masks")
	assert.Equal(t, mask.Pen, st.Card(1).Card.Reserves[0].Way)
	do("edit", "keep-by", "ways", r.ID+"=white after")
	assert.Contains(t, st.Get("/cards/1/order").Body, "Put opaque white on Snow")
	a = do("edit", "keep-during", "reserve", r.ID, "under", "", "off", "", "from", st.Card(1).Card.Areas[2].ID)
	assert.Equal(t, http.StatusOK, a.Status)
	do("edit", "keep-name", "reserve", r.ID, "name", "Flakes")
	assert.Equal(t, "Flakes", st.Card(1).Card.Reserves[0].Name)
	zones := len(st.Card(1).Card.Zones)
	do("edit", "keep-off", "reserve", r.ID)
	c := st.Card(1).Card
	assert.Empty(t, c.Reserves)
	assert.Less(t, len(c.Zones), zones, "with the dots that were drawn for it")
}

// Everything is decided at once, in one step that is undone at once.
func TestDecideForMe(t *testing.T) {
	st, do := night(t)
	a := do("edit", "keep-zone", "shape", "below", "points", "0 x 110 mm; 110 x 110 mm", "name", "Sill")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	a = do("edit", "keep-strewn", "count", "20", "least", "1 mm", "most", "2 mm", "draw", "0", "name", "Snow")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	_, ways, ok := strings.Cut(a.Body, `<input type="hidden" name="ways" value="`)
	require.True(t, ok)
	ways, _, _ = strings.Cut(ways, `"`)
	do("edit", "keep-by", "ways", ways)
	c := st.Card(1).Card
	assert.Equal(t, mask.Tape, c.Reserves[0].Way)
	assert.NotEqual(t, mask.Round, c.Reserves[1].Way.Or())
	assert.NotContains(t, st.Get("/cards/1/masks").Body, "Decide for me")
	st.Post("/cards/1/undo", "back", "masks")
	assert.Equal(t, mask.Round, st.Card(1).Card.Reserves[0].Way.Or())
}

// What cannot be is refused with words, and nothing is lost.
func TestWhatCannotBeKept(t *testing.T) {
	st, do := night(t)
	do("edit", "keep-cells", "cells", "2, 3", "name", "Two")
	was := st.Card(1).Seq
	for want, pairs := range map[string][]string{
		"outside 1 to 1000":  {"edit", "keep-strewn", "count", "5000", "least", "1 mm", "most", "2 mm", "draw", "0"},
		"the smallest first": {"edit", "keep-strewn", "count", "50", "least", "3 mm", "most", "2 mm", "draw", "0"},
		"no way of keeping":  {"edit", "keep-by", "ways", "r1=glue"},
		"kept no more":       {"edit", "keep-by", "ways", "r9=fluid"},
		"no cell is chosen":  {"edit", "keep-cells", "cells", ""},
		"no cell 99":         {"edit", "keep-cells", "cells", "99"},
		"longer than 2 m":    {"edit", "keep-zone", "shape", "dots", "points", "400000 x 20 mm", "width", "2 mm"},
		"drawn with":         {"edit", "keep-zone", "shape", "ring", "points", "1 x 1 mm"},
		"a stroke or a dot":  {"edit", "keep-zone", "shape", "dots", "points", "20 x 20 mm", "width", "200 mm"},
		"give the reserve":   {"edit", "keep-name", "reserve", "r1", "name", " "},
	} {
		a := do(pairs...)
		assert.GreaterOrEqual(t, a.Status, 400, want)
		assert.Contains(t, webtest.Message(a.Body), want)
	}
	assert.Equal(t, was, st.Card(1).Seq)
	all := []string{"edit", "keep-zone", "shape", "rim", "width", "60 mm", "name", "Everything"}
	assert.Equal(t, http.StatusOK, do(all...).Status, "a mask over all of it is kept; it is of no use, which the station says")
	a := do("edit", "keep-by", "ways", "r2=film")
	assert.Equal(t, http.StatusOK, a.Status)
	assert.Equal(t, http.StatusOK, do("edit", "keep-zone", "shape", "dots", "points", "-30 x -30 mm", "width", "2 mm").Status, "dots off the piece keep nothing")
	assert.Equal(t, http.StatusOK, st.Get("/cards/1/order").Status)
}

// A mask of the maker's brings its own time of drying.
func TestOwnMasks(t *testing.T) {
	st, do := night(t)
	a := st.Post("/shelf", "edit", "add", "name", "blue jar", "like", "mask:fluid", "minutes", "42")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "blue jar")
	for range 3 {
		a = st.Post("/shelf", "edit", "tried", "material", "mask:blue jar", "paper", st.Card(1).Card.Paper, "tore", "true")
	}
	assert.Contains(t, a.Body, "0 clean, 3 torn")
	do("edit", "keep-zone", "shape", "dots", "points", "10 x 10 mm; 30 x 12 mm", "width", "4 mm", "name", "Moons")
	do("edit", "keep-by", "ways", "r1=fluid")
	body := st.Get("/cards/1/masks").Body
	assert.Contains(t, body, "blue jar")
	assert.Contains(t, body, "tore this paper in your own test")
	do("edit", "keep-with", "reserve", "r1", "own", "blue jar")
	r := st.Card(1).Card.Reserves[0]
	require.NotNil(t, r.Own)
	assert.Equal(t, []shelf.Tried{{Paper: st.Card(1).Card.Paper, Tore: 3}}, r.Own.Tried)
	order := st.Get("/cards/1/order").Body
	assert.Contains(t, order, "Blue jar on Moons")
	assert.Contains(t, order, "some 42 minutes")
	assert.Contains(t, st.Get("/cards/1/masks").Body, "your own tests blue jar tore it")
	assert.Contains(t, webtest.Message(do("edit", "keep-with", "reserve", "r1", "own", "no such jar").Body), "no longer on the shelf")
}

// Open edges are told, one is drawn on the board, and what helps it is a change.
func TestOpenEdges(t *testing.T) {
	st, do := night(t)
	assert.NotContains(t, st.Get("/cards/1/masks").Body, `class="front"`, "what is safe is not drawn before it is asked for")
	body := st.Get("/cards/1/masks?front=0").Body
	for _, want := range []string{`class="front"`, `class="eighths"`, `class="seam"`, `class="begins"`, "the longest wait"} {
		assert.Contains(t, body, want)
	}
	do("edit", "keep-strewn", "count", "40", "least", "4 mm", "most", "8 mm", "draw", "0", "name", "Flakes")
	st.Post("/cards/1/edit", "back", "order", "edit", "drying", "drying", "air", "celsius", "45", "humidity", "5", "copies", "1")
	body = st.Get("/cards/1/masks").Body
	if assert.Contains(t, body, `front-mind`) {
		assert.Contains(t, body, "Lay it wetter")
		assert.Contains(t, body, "Mask Flakes")
		assert.Contains(t, body, "Divide it")
		assert.Contains(t, body, `class="cutline"`)
	}
	do("edit", "technique", "area", st.Card(1).Card.Areas[2].ID, "wash", "0", "technique", "wet-on-wet")
	assert.NotContains(t, st.Get("/cards/1/masks").Body, "front-mind")
}

// Templates come as PDF and SVG, or not where there are none.
func TestTemplates(t *testing.T) {
	st, do := night(t)
	assert.Equal(t, http.StatusUnprocessableEntity, st.Get("/cards/1/guides.pdf").Status)
	do("edit", "keep-zone", "shape", "ring", "points", "10 x 10 mm; 30 x 10 mm; 30 x 30 mm", "name", "Sail")
	do("edit", "keep-by", "ways", "r1=film")
	assert.Contains(t, st.Get("/cards/1/masks").Body, "guides.pdf")
	assert.True(t, strings.HasPrefix(st.Get("/cards/1/guides.pdf").Body, "%PDF"))
	assert.Contains(t, st.Get("/cards/1/guides.svg").Body, "<svg")
}

// A resist stamp keeps what lies under it; a change of the line lets go what is gone.
func TestAResistStamp(t *testing.T) {
	st, do := night(t)
	st.Post("/cards/1/edit", "back", "line", "edit", "image-kind", "image", st.Card(1).Card.Images[0].ID, "kind", "resist stamp")
	require.Eventually(t, func() bool { return strings.Contains(st.Get("/cards/1/masks").Body, "it is a resist stamp") }, webtest.Eventually, webtest.Tick, "once its cells are found anew")
	a := do("edit", "keep-image", "image", st.Card(1).Card.Images[0].ID)
	assert.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	c := st.Card(1).Card
	require.Len(t, c.Reserves, 1)
	assert.Equal(t, mask.Resist, c.Reserves[0].Way)
	st.Post("/cards/1/edit", "back", "line", "edit", "image-off", "image", c.Images[0].ID)
	assert.Empty(t, st.Card(1).Card.Reserves, "what it was is gone")
}
