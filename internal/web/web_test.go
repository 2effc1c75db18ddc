package web_test

import (
	"database/sql"
	"fmt"
	"html/template"
	"io"
	"net/http"
	"os"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/technique"
	"chromaqua/internal/web/webtest"
)

func TestAWholeCardByForms(t *testing.T) {
	st := webtest.WithGrid(t)
	c := st.Card(1).Card
	assert.Equal(t, "grid.scan", c.Line().Title)
	assert.Equal(t, 64*length.Millimetre, c.Line().Width)
	assert.Contains(t, st.Get("/cards/1/line").Body, "<strong>7 cells</strong>")

	edit := func(pairs ...string) webtest.Answer {
		a := st.Post("/cards/1/edit", append([]string{"back", "colour"}, pairs...)...)
		require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
		return a
	}
	edit("edit", "area-new", "cells", "2, 3", "name", "Warm & <bold>")
	edit("edit", "area-new", "cells", "4-5", "name", "Cool")
	for _, area := range []string{"a1", "a2"} {
		edit(webtest.Dip(area)...)
	}
	edit("edit", "dip", "area", "a1", "wash", "0", "ci", "PO62", "parts", "2")
	edit("edit", "dip", "area", "a1", "wash", "0", "ci", "PB29", "parts", "-1")
	edit("edit", "strength", "area", "a1", "wash", "0", "strength", "milk")
	edit("edit", "wash-add", "area", "a1")
	edit("edit", "technique", "area", "a1", "wash", "1", "technique", "pull-out")
	edit("edit", "gather", "area", "a2", "cells", "6")
	edit("edit", "cells-free", "cells", "4")
	edit("edit", "join", "a", "a1", "b", "a2", "on", "true")
	edit("edit", "drying", "drying", "heat", "celsius", "19,5", "humidity", "60")
	edit("edit", "materials", "ink", "solvent")
	edit("edit", "materials", "base-paper", "kraft", "base-colour", "sand")
	edit("edit", "layer", "layer", "0", "paper", "kraft", "colour", "teal")
	edit("edit", "held", "part", "layer-0", "by", "full foam")
	edit("edit", "area-name", "area", "a2", "name", "Cooler")

	c = st.Card(1).Card
	require.Len(t, c.Areas, 2)
	assert.Equal(t, "Warm & <bold>", c.Areas[0].Name)
	assert.Len(t, c.Areas[0].Cells, 2)
	assert.Len(t, c.Areas[1].Cells, 2)
	assert.Equal(t, []card.Part{{CI: "PO62", Parts: 2}}, c.Areas[0].Washes[0].Mix)
	assert.Equal(t, technique.PullOut, c.Areas[0].Washes[1].Technique)
	assert.True(t, c.Joined("a1", "a2"))
	assert.InDelta(t, 19.5, c.Room.Celsius, 1e-9)
	assert.Equal(t, [4]string{"kraft", "sand", "kraft", "teal"}, [4]string{c.Base.Paper, c.Base.Colour, c.Layers[0].Paper, c.Layers[0].Colour})
	assert.Equal(t, joint.FullFoam, c.Layers[0].By)

	order := st.Get("/cards/1/order").Body
	assert.Contains(t, order, "In all")
	assert.Contains(t, order, "Warm &amp; &lt;bold&gt;: bright orange, milk")
	assert.NotContains(t, order, "<bold>")
	assert.Contains(t, st.Get("/cards/1/bench").Body, `2 bright orange, milk`)
	edit("edit", "copies", "copies", "12")
	assert.Contains(t, st.Get("/cards/1/bench").Body, "Mix for 12 cards")
	for _, many := range []string{"0", "x", "201"} {
		assert.Contains(t, webtest.Message(st.Post("/cards/1/edit", "back", "bench", "edit", "copies", "copies", many).Body), "1 to 200")
	}
	pdf := st.Get("/cards/1/bench.pdf")
	assert.True(t, strings.HasPrefix(pdf.Body, "%PDF-"))
	assert.Contains(t, st.Get("/cards/1/panel.svg").Body, "data:image/png;base64,")
	assert.Equal(t, "[2,3,4,7]\n", st.Get("/cards/1/similar?cell=2").Body, "like it, free or of its area")

	edit("edit", "wash-remove", "area", "a1", "wash", "0")
	edit("edit", "area-remove", "area", "a2")
	assert.Len(t, st.Card(1).Card.Areas, 1)
	assert.Empty(t, st.Card(1).Card.Joins)
}

func TestUndoGoesBackThroughEverything(t *testing.T) {
	st := webtest.WithGrid(t)
	st.Post("/cards/1/edit", "back", "colour", "edit", "area-new", "cells", "2")
	st.Post("/cards/1/undo", "back", "colour")
	assert.Empty(t, st.Card(1).Card.Areas)
	st.Post("/cards/1/undo", "back", "colour")
	assert.Nil(t, st.Card(1).Card.Line())
	st.Post("/cards/1/redo", "back", "colour")
	a := st.Post("/cards/1/redo", "back", "colour")
	assert.Equal(t, "/cards/1/colour", a.Path)
	assert.Len(t, st.Card(1).Card.Areas, 1)
}

func TestAnEditThatChangesNothingIsNoRevision(t *testing.T) {
	st := webtest.WithGrid(t)
	seq := st.Card(1).Seq
	st.Post("/cards/1/edit", "back", "line", "edit", "materials", "paper", "cotton-cp")
	assert.Equal(t, seq, st.Card(1).Seq)
}

// Every watch-out is listed with its reason, and can be silenced on one card.
func TestWatchOutsAreListedAndSilenced(t *testing.T) {
	st := webtest.WithGrid(t)
	st.At(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, webtest.Dip("a1"), []string{"edit", "materials", "ink", "dye"})
	page := st.Get("/cards/1/rules").Body
	for _, r := range advice.Rules() {
		assert.Contains(t, page, template.HTMLEscapeString(r.Says))
	}
	assert.Contains(t, page, "The line will run")
	a := st.Post("/cards/1/edit", "back", "rules", "edit", "silence", "rule", "ink-runs", "on", "true")
	assert.Equal(t, "/cards/1/rules", a.Path)
	assert.Contains(t, a.Body, "Silenced: let it speak")
	assert.NotContains(t, st.Get("/cards/1/line").Body, "The line will run")
	a = st.Post("/cards/1/edit", "back", "line", "edit", "silence", "rule", "rain", "on", "true")
	assert.Contains(t, webtest.Message(a.Body), "no watch-out")
	a = st.Post("/cards/1/edit", "back", "line", "edit", "look", "look", "fuzzy")
	assert.Contains(t, webtest.Message(a.Body), "no look of a line")
	st.At(t, []string{"edit", "look", "look", "pulled"}, []string{"edit", "silence", "rule", "ink-runs", "on", "false"})
	page = st.Get("/cards/1/line").Body
	assert.NotContains(t, page, "The line will run", "a line that is pulled may run")
	assert.Contains(t, page, "Which ink for a pulled line")
}

func TestTwoTabsOnOneCard(t *testing.T) {
	st := webtest.WithGrid(t)
	base := fmt.Sprint(st.Card(1).Seq)
	require.Equal(t, http.StatusOK, st.Post("/cards/1/edit", "base", base, "back", "format", "edit", "name", "name", "First tab").Status)
	a := st.Post("/cards/1/edit", "base", base, "back", "format", "edit", "name", "name", "Second tab")
	assert.Equal(t, http.StatusConflict, a.Status)
	assert.Contains(t, webtest.Message(a.Body), "changed meanwhile")
	assert.Contains(t, a.Body, "First tab", "the latest version is shown")
	assert.Equal(t, http.StatusConflict, st.Post("/cards/1/undo", "base", base, "back", "format").Status)
	assert.Equal(t, "First tab", st.Card(1).Card.Name)
}

func TestBadInputIsRefusedInPlace(t *testing.T) {
	st := webtest.WithGrid(t)
	seq := st.Card(1).Seq
	for _, tc := range []struct {
		why   string
		pairs []string
	}{
		{"is no length", []string{"edit", "place", "width", "four", "x", "0", "y", "0"}},
		{"more than nothing", []string{"edit", "place", "width", "0", "x", "0", "y", "0"}},
		{"negative", []string{"edit", "place", "width", "-3", "x", "0", "y", "0"}},
		{"is no length", []string{"edit", "place", "width", "1e9", "x", "0", "y", "0"}},
		{"10000 characters", []string{"edit", "name", "name", strings.Repeat("x", 10_000)}},
		{"give the card a name", []string{"edit", "name", "name", "   "}},
		{"no cell is chosen", []string{"edit", "area-new", "cells", ""}},
		{"is no cell number", []string{"edit", "area-new", "cells", "2, x"}},
		{"is no cell number", []string{"edit", "area-new", "cells", "1-999999999"}},
		{"no cell 99", []string{"edit", "area-new", "cells", "99"}},
		{"that area is gone", []string{"edit", "wash-add", "area", "a9"}},
		{"temperature", []string{"edit", "drying", "drying", "air", "celsius", "warm", "humidity", "50"}},
		{"no format", []string{"edit", "format", "format", "z9", "fold", "side"}},
		{"is no fold", []string{"edit", "fold", "fold", "thrice"}},
		{"nothing is left", []string{"edit", "show", "ring", "layer-0", "all", "60"}},
		{"what shows round the mat", []string{"edit", "show", "ring", "layer-0", "all", "3/0"}},
		{"the front and the panel fight", []string{"edit", "size", "ring", "panel", "w", "500", "h", "10"}},
		{"width of the panel", []string{"edit", "size", "ring", "panel", "w", "wide", "h", "10"}},
		{"one size has to be given", []string{"edit", "size", "ring", "front", "w", "", "h", ""}},
		{"that layer is gone", []string{"edit", "size", "ring", "lid", "w", "4", "h", "5"}},
		{"that layer is gone", []string{"edit", "layer", "layer", "7", "paper", "kraft"}},
		{"that layer is gone", []string{"edit", "layer-off", "layer", "-1"}},
		{"no layer", []string{"edit", "layer-add", "kind", "lid"}},
		{"whole marks", []string{"edit", "drag", "ring", "panel", "side", "left", "marks", "99999999"}},
		{"is no side", []string{"edit", "drag", "ring", "panel", "side", "middle", "marks", "1"}},
		{"no envelope", []string{"edit", "envelope", "envelope", "env-z"}},
		{"inside of the envelope", []string{"edit", "envelope", "envelope", "free", "inside", "4"}},
		{"choose the envelope first", []string{"edit", "envelope", "start", "true"}},
		{"no die set", []string{"edit", "die", "ring", "layer-0", "set", "stars"}},
		{"size of the stamp", []string{"edit", "stamp", "stamp", "size", "size", "large"}},
		{"an insert", []string{"edit", "insert", "on", "true", "margin", "70", "insert-paper", "card"}},
		{"size of the words", []string{"edit", "words", "words", "many"}},
		{"leaves nothing to paint", []string{"edit", "painting", "border", "60", "tape", "25", "spare", "0"}},
		{"embellishments", []string{"edit", "extra", "extra", "900"}},
		{"no painted sheet", []string{"edit", "window", "turn", "5"}},
		{"another version of the program", []string{"edit", "fly"}},
		{"image is no longer", []string{"edit", "drawing", "image", "0123"}},
	} {
		a := st.Post("/cards/1/edit", append([]string{"back", "line"}, tc.pairs...)...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status, "%v", tc.pairs)
		assert.Contains(t, webtest.Message(a.Body), tc.why, "%v", tc.pairs)
		assert.Contains(t, a.Body, `aria-label="Stations"`, "the station is still there")
	}
	assert.Equal(t, seq, st.Card(1).Seq, "nothing was stored")
}

func TestForeignRequestsAreRefused(t *testing.T) {
	st := webtest.WithGrid(t)
	req, err := http.NewRequest(http.MethodPost, st.URL+"/cards/1/undo", nil)
	require.NoError(t, err)
	req.Header.Set("Sec-Fetch-Site", "cross-site")
	assert.Equal(t, http.StatusForbidden, st.Do(req).Status)
	assert.NotNil(t, st.Card(1).Card.Line())
}

func TestNothingComesFromElsewhere(t *testing.T) {
	st := webtest.Demo(t)
	elsewhere := regexp.MustCompile(`(?:src|href)="(?:https?:)?//`)
	for _, path := range []string{"/", "/new", "/cards/1/format", "/cards/1/line", "/cards/4/colour?area=a5", "/cards/4/order", "/cards/4/bench", "/nowhere"} {
		a := st.Get(path)
		assert.NotRegexp(t, elsewhere, a.Body, path)
	}
	resp, err := http.Get(st.URL + "/")
	require.NoError(t, err)
	resp.Body.Close()
	assert.Contains(t, resp.Header.Get("Content-Security-Policy"), "default-src 'self'")
}

func TestMissing(t *testing.T) {
	st := webtest.New(t)
	for _, path := range []string{"/cards/7/line", "/cards/x/line", "/nowhere", "/images/abc", "/static/nothing.js"} {
		assert.Equal(t, http.StatusNotFound, st.Get(path).Status, path)
	}
	a := st.Get("/")
	assert.Contains(t, a.Body, "No card yet")
	st.Post("/cards", "name", "x", "format", "a2", "fold", "side")
	assert.Equal(t, http.StatusNotFound, st.Get("/cards/1/nonsense").Status)
	for _, station := range []string{"format", "line", "colour", "order", "bench"} {
		assert.Equal(t, http.StatusOK, st.Get("/cards/1/"+station).Status, "an empty card shows %s", station)
	}
}

// No page of the studio overwrites what another tab did meanwhile, a form that names no
// revision is refused, and what was done is taken back where it was done.
func TestTwoTabsOnEveryPage(t *testing.T) {
	st := webtest.New(t)
	st.Post("/cards", "name", "One", "unit", "in", "format", "a2", "fold", "side")
	for page, form := range map[string][]string{
		"/paper/edit":   {"edit", "least", "least", "2 x 3", "unit", "in"},
		"/settings":     {"pace", "3", "hand", "left", "heat", "25", "rack", "3"},
		"/shelf":        {"edit", "add", "name", "Night", "like", "ink:pen"},
		"/cards/1/edit": {"back", "format", "edit", "name", "name", "Two"},
	} {
		was := st.Base(page)
		require.Equal(t, http.StatusOK, st.Post(page, form...).Status, page)
		assert.NotEqual(t, was, st.Base(page), page)
		late := st.Post(page, append(form, "base", was)...)
		assert.Equal(t, http.StatusConflict, late.Status, page)
		assert.Contains(t, webtest.Message(late.Body), "changed meanwhile", page)
		a := st.Post(page, append(form, "base", "")...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status, page)
		assert.Contains(t, webtest.Message(a.Body), "load it again", page)
	}
	for path, says := range map[string][2]string{
		"/paper": {"Taken back: keep leftovers", "Done again: keep leftovers"}, "/settings": {"Taken back: changed the settings", "Done again: changed the settings"},
		"/shelf": {"Taken back: added Night", "Done again: added Night"},
	} {
		for i, step := range []string{"/undo", "/redo"} {
			a := st.Post(path + step)
			assert.Contains(t, a.Body, says[i], path)
			assert.Equal(t, http.StatusConflict, st.Post(path+step, "base", "99").Status, path)
		}
	}
}

// What the disk does is told in the same words everywhere, as a fault of ours.
func TestFaultsOfTheDisk(t *testing.T) {
	st := webtest.WithGrid(t)
	require.NoError(t, st.Store.CopyToday(t.Context()))
	st.Get("/shelf")
	held, err := sql.Open("sqlite", st.Path+"?_txlock=immediate&_pragma=busy_timeout(100)")
	require.NoError(t, err)
	defer held.Close()
	tx, err := held.Begin()
	require.NoError(t, err)
	a := st.Post("/shelf", "edit", "add", "name", "Night", "like", "ink:pen")
	assert.Equal(t, http.StatusServiceUnavailable, a.Status)
	assert.Contains(t, a.Body, "Another program holds the studio file")
	require.NoError(t, tx.Rollback())

	st.Spoil("PRAGMA wal_checkpoint(TRUNCATE)")
	data, err := os.ReadFile(st.Path)
	require.NoError(t, err)
	for i := 4096; i < len(data); i++ {
		data[i] = 'x'
	}
	require.NoError(t, os.WriteFile(st.Path, data, 0o600))
	a = st.Get("/")
	assert.Equal(t, http.StatusInternalServerError, a.Status)
	assert.Contains(t, a.Body, "The studio file is damaged")
	copies, err := st.Store.Copies()
	require.NoError(t, err)
	assert.Contains(t, a.Body, "Go back to the copy “"+copies[0].Name)
	a = st.Post("/settings/restore", "copy", copies[0].Name)
	assert.Equal(t, http.StatusOK, a.Status)
	assert.Contains(t, st.Get("/").Body, "Grid")
}

// The headers are on every answer, refusals are in our own words, and no folder is listed.
func TestEveryAnswerIsGuarded(t *testing.T) {
	st := webtest.New(t)
	for _, c := range []struct {
		method, path, host, site string
		status                   int
		says                     string
	}{
		{"GET", "/", "", "", http.StatusOK, "Chromaqua"},
		{"GET", "/nowhere", "", "", http.StatusNotFound, "Nothing here"},
		{"GET", "/static/", "", "", http.StatusNotFound, "Nothing here"},
		{"GET", "/static/fonts/", "", "", http.StatusNotFound, "Nothing here"},
		{"GET", "/static/../web.go", "", "", http.StatusNotFound, "Nothing here"},
		{"GET", "/static/app.js", "", "", http.StatusOK, "import"},
		{"DELETE", "/paper", "", "", http.StatusMethodNotAllowed, "not opened like that"},
		{"GET", "/", "evil.example", "", http.StatusMisdirectedRequest, "does not answer to the name"},
		{"GET", "/", "192.168.1.9", "", http.StatusUnauthorized, "Who is there?"},
		{"POST", "/shelf", "", "cross-site", http.StatusForbidden, "from a page of another site"},
		{"POST", "/door", "192.168.1.9", "cross-site", http.StatusForbidden, "from a page of another site"},
	} {
		r, err := http.NewRequest(c.method, st.URL+c.path, nil)
		require.NoError(t, err)
		r.Host = c.host
		if c.site != "" {
			r.Header.Set("Sec-Fetch-Site", c.site)
		}
		resp, err := http.DefaultClient.Do(r)
		require.NoError(t, err)
		body, err := io.ReadAll(resp.Body)
		resp.Body.Close()
		require.NoError(t, err)
		assert.Equal(t, c.status, resp.StatusCode, "%s %s", c.method, c.path)
		assert.Contains(t, string(body), c.says, "%s %s", c.method, c.path)
		for _, name := range []string{"Content-Security-Policy", "X-Content-Type-Options", "Referrer-Policy", "Cross-Origin-Resource-Policy", "Permissions-Policy"} {
			assert.NotEmpty(t, resp.Header.Get(name), "%s on %s %s", name, c.method, c.path)
		}
	}
}
