package shelf_test

import (
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/length"
	"chromaqua/internal/web/webtest"
)

// An ink and a paper of the maker's are added, used on a card, tested and ranked;
// put away, the card keeps what it knows of them.
func TestOwnInksAndPapers(t *testing.T) {
	st := webtest.WithGrid(t)
	assert.Contains(t, st.Get("/shelf").Body, "Nothing of your own yet")
	a := st.Post("/shelf", "edit", "add", "name", "Grey bottle", "like", "ink:permanent", "colour", "dove", "minutes", "7", "note", "from the fair")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	st.Post("/shelf", "edit", "add", "name", "Thick pad", "like", "paper:cotton-hp", "thickness", "0.8")
	page := st.Get("/shelf").Body
	assert.Contains(t, page, "Grey bottle, dove")
	assert.Contains(t, page, "0.8 mm thick")
	st.Post("/shelf", "edit", "add", "name", "Blue jar", "like", "mask:fluid")
	st.Post("/shelf", "edit", "tried", "material", "mask:Blue jar", "paper", "pulp-cp", "tore", "true")
	st.Post("/shelf", "edit", "add", "name", "Old tin", "like", "powder:powder-clear")
	page = st.Get("/shelf").Body
	for _, like := range []string{"<td>oil- or resin-based permanent ink</td>", "<td>cotton hot press 300 gsm</td>", "<td>masking fluid</td>", "<td>clear powder</td>", "; wood pulp cold press 300 gsm: 0 clean, 1 torn"} {
		assert.Contains(t, page, like, "what it is like is named")
	}

	c := st.At(t, []string{"edit", "materials", "ink", "own:Grey bottle", "paper", "own:Thick pad"},
		[]string{"edit", "area-new", "cells", "2", "name", "Sky"}, webtest.Dip("a1"))
	assert.Equal(t, "permanent", c.Ink)
	assert.Equal(t, 7*time.Minute, c.InkFacts().AirDry)
	assert.Equal(t, "cotton-hp", c.Paper)
	assert.Equal(t, 8*length.Millimetre/10, c.PaperFacts().Thickness)
	page = st.Get("/cards/1/line").Body
	assert.NotContains(t, page, "The line will run")
	assert.Contains(t, page, `<option value="own:Grey bottle" selected>`)
	assert.Contains(t, st.Get("/cards/1/bench").Body, "Grey bottle, dove")

	// A test of this very bottle on this very pad decides, no other does.
	st.Send("/tests", "s.png", webtest.StripPNG(t, "runs"), "ink", "permanent", "paper", "cotton-hp", "minutes", "5")
	assert.NotContains(t, st.Get("/cards/1/line").Body, "The line will run")
	a = st.Send("/tests", "s.png", webtest.StripPNG(t, "holds"), "ink", "own:Grey bottle", "paper", "own:Thick pad", "minutes", "5")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "<strong>Grey bottle</strong> on Thick pad")
	assert.Contains(t, st.Get("/cards/1/line").Body, "Your own test on this paper: it holds")
	st.Send("/tests", "s.png", webtest.StripPNG(t, "runs"), "ink", "own:Grey bottle", "paper", "own:Thick pad", "minutes", "1")
	assert.Contains(t, st.Get("/cards/1/line").Body, "The line will run: Grey bottle, dove")

	a = st.Post("/shelf", "edit", "away", "material", "ink:Grey bottle")
	assert.Contains(t, a.Body, "It was put away")
	assert.Contains(t, st.Get("/cards/1/line").Body, `<option value="own:Grey bottle" selected>`, "the card keeps it")
	assert.Contains(t, webtest.Message(st.Post("/cards/1/edit", "back", "line", "edit", "materials", "ink", "own:Grey bottle").Body), "no longer on the shelf")
	st.Post("/shelf", "edit", "back", "material", "ink:Grey bottle")
	st.At(t, []string{"edit", "materials", "ink", "pen", "paper", "cotton-cp"})
	assert.Nil(t, st.Card(1).Card.OwnInk)
	assert.Equal(t, http.StatusNotFound, st.Post("/shelf", "edit", "away", "material", "ink:Nothing").Status)
}

func TestTheShelfAsATable(t *testing.T) {
	st := webtest.New(t)
	st.Post("/shelf", "edit", "add", "name", "Fine liner", "like", "ink:pen")
	table := st.Get("/shelf.csv").Body
	assert.Contains(t, table, "ink,Fine liner,pen")
	a := st.Send("/shelf/import", "s.csv", []byte(table+"paper,Big pad,kraft,brown,,,0.4 mm,,,,\nbrush,My mop,round,,,,,,,9 mm,\n"))
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "Big pad")
	assert.Contains(t, a.Body, "My mop (9 mm)")
	st.Post("/shelf", "edit", "add", "name", "My liner", "like", "brush:round", "belly", "2 mm")
	assert.Contains(t, st.Get("/shelf.csv").Body, "brush,My liner,round,,,,,,,2 mm")
	assert.Equal(t, 1, strings.Count(a.Body, "<th scope=\"row\">Fine liner</th>"), "the same name is the same pen")
	a = st.Send("/shelf/import", "s.csv", []byte("what,name,like\nink,A,pen\nink,B,crayon\n"))
	assert.Contains(t, webtest.Message(a.Body), "Nothing was imported: line 3")
	assert.NotContains(t, st.Get("/shelf.csv").Body, "ink,A,")
	for why, pairs := range map[string][]string{
		"a name of 1 to": {"edit", "add", "name", "", "like", "ink:pen"},
		"neither ink, paper, powder, paint, brush nor mask": {"edit", "add", "name", "x", "like", "glue:pen"},
		"measure the belly":      {"edit", "add", "name", "x", "like", "brush:flat"},
		"belly:":                 {"edit", "add", "name", "x", "like", "brush:flat", "belly", "wide"},
		"minutes in air":         {"edit", "add", "name", "x", "like", "ink:pen", "minutes", "soon"},
		"is no time to wait":     {"edit", "add", "name", "x", "like", "ink:pen", "seconds", "-4"},
		"hickness":               {"edit", "add", "name", "x", "like", "paper:kraft", "thickness", "fat"},
		"another version of the": {"edit", "sing"},
	} {
		a := st.Post("/shelf", pairs...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status, "%v", pairs)
		assert.Contains(t, strings.ToLower(webtest.Message(a.Body)), strings.ToLower(why))
	}
}
