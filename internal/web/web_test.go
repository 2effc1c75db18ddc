package web_test

import (
	"bytes"
	"context"
	"fmt"
	"html/template"
	"image"
	"image/color"
	"image/png"
	"io"
	"log/slog"
	"math/rand/v2"
	"mime/multipart"
	"net/http"
	"net/http/httptest"
	"net/url"
	"path/filepath"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel/paneltest"
	"chromaqua/internal/demo"
	"chromaqua/internal/store"
	"chromaqua/internal/web"
)

// studio is a running application on a studio of its own.
type studio struct {
	t     testing.TB
	store *store.Store
	app   *web.Server
	url   string
}

func openStudio(t testing.TB, path string) *studio {
	s, err := store.Open(context.Background(), path)
	require.NoError(t, err)
	app := web.New(s, slog.New(slog.NewTextHandler(io.Discard, nil)))
	srv := httptest.NewServer(app)
	t.Cleanup(func() { srv.Close(); app.Close(); _ = s.Close() })
	return &studio{t, s, app, srv.URL}
}

func newStudio(t testing.TB) *studio { return openStudio(t, filepath.Join(t.TempDir(), "studio.db")) }

func demoStudio(t testing.TB) *studio {
	st := newStudio(t)
	require.NoError(t, demo.Fill(context.Background(), st.store))
	return st
}

// answer is a page that came back.
type answer struct {
	status int
	path   string // after redirects
	body   string
}

func (st *studio) do(req *http.Request) answer {
	resp, err := http.DefaultClient.Do(req)
	require.NoError(st.t, err)
	defer resp.Body.Close()
	body, err := io.ReadAll(resp.Body)
	require.NoError(st.t, err)
	return answer{resp.StatusCode, resp.Request.URL.Path, string(body)}
}

func (st *studio) get(path string) answer {
	req, err := http.NewRequest(http.MethodGet, st.url+path, nil)
	require.NoError(st.t, err)
	return st.do(req)
}

// post sends a form given as name, value, name, value …
func (st *studio) post(path string, pairs ...string) answer {
	form := url.Values{}
	for i := 0; i+1 < len(pairs); i += 2 {
		form.Add(pairs[i], pairs[i+1])
	}
	req, err := http.NewRequest(http.MethodPost, st.url+path, strings.NewReader(form.Encode()))
	require.NoError(st.t, err)
	req.Header.Set("Content-Type", "application/x-www-form-urlencoded")
	return st.do(req)
}

// send posts a file with fields.
func (st *studio) send(path, name string, data []byte, pairs ...string) answer {
	var buf bytes.Buffer
	m := multipart.NewWriter(&buf)
	for i := 0; i+1 < len(pairs); i += 2 {
		require.NoError(st.t, m.WriteField(pairs[i], pairs[i+1]))
	}
	f, err := m.CreateFormFile("file", name)
	require.NoError(st.t, err)
	_, err = f.Write(data)
	require.NoError(st.t, err)
	require.NoError(st.t, m.Close())
	req, err := http.NewRequest(http.MethodPost, st.url+path, &buf)
	require.NoError(st.t, err)
	req.Header.Set("Content-Type", m.FormDataContentType())
	return st.do(req)
}

func (st *studio) card(id int64) *store.Revision {
	r, err := st.store.Card(context.Background(), id)
	require.NoError(st.t, err)
	return r
}

func gridPNG(t testing.TB) []byte {
	var buf bytes.Buffer
	require.NoError(t, png.Encode(&buf, paneltest.Scan(3, 2)))
	return buf.Bytes()
}

// withGrid makes card 1 with an uploaded grid of 3 × 2 cells.
func withGrid(t testing.TB) *studio {
	st := newStudio(t)
	a := st.post("/cards", "name", "Grid", "unit", "mm", "format", "a2", "fold", "side")
	require.Equal(t, "/cards/1/format", a.path, a.body)
	a = st.send("/cards/1/upload", "grid.scan.png", gridPNG(t), "back", "line", "width", "64")
	require.Equal(t, "/cards/1/line", a.path, message(a.body))
	st.read(1)
	return st
}

var alert = regexp.MustCompile(`(?s)<p class="message" role="alert">.*?</svg>(.*?)</p>`)

var waiting = regexp.MustCompile(`(?s)<div class="waiting".*?</div>`)

// boardSays returns what stands where the picture would be.
func boardSays(body string) string { return waiting.FindString(body) }

// message returns the message a page shows.
func message(body string) string {
	if m := alert.FindStringSubmatch(body); m != nil {
		return m[1]
	}
	return ""
}

// Water, drops and pens by forms: shown on the board, refused where they have
// nothing to work on; and areas that look alike painted in one step.
func TestTracesAndPaintingAlike(t *testing.T) {
	st := withGrid(t)
	edit := func(pairs ...string) answer {
		return st.post("/cards/1/edit", append([]string{"back", "colour"}, pairs...)...)
	}
	for i, name := range []string{"One", "Two"} {
		require.Equal(t, http.StatusOK, edit("edit", "area-new", "cells", fmt.Sprint(i+2), "name", name).status)
	}
	edit("edit", "wash-add", "area", "a1")
	assert.Contains(t, message(edit("edit", "technique", "area", "a1", "wash", "0", "technique", "lift").body), "no wet wash below to lift")
	for k, technique := range []string{"lift", "splatter", "highlight", "pen-line", "pencil"} {
		edit("edit", "wash-add", "area", "a1")
		a := edit("edit", "technique", "area", "a1", "wash", fmt.Sprint(k+1), "technique", technique)
		require.Equal(t, http.StatusOK, a.status, message(a.body))
	}
	open := st.get("/cards/1/colour?area=a1").body
	assert.Equal(t, 4, strings.Count(open, `<path class="trace"`))
	assert.Contains(t, open, "flat + lift + splatter + highlight + pen-line + pencil")
	assert.Contains(t, open, "clean water takes it from the one to the other")
	assert.Contains(t, open, "Paint Two like it")
	assert.Contains(t, message(edit("edit", "strength", "area", "a1", "wash", "1", "strength", "milk").body), "clean water, no mix")
	assert.Contains(t, message(edit("edit", "paint-alike", "area", "a1", "to", " ").body), "at least one")
	assert.Equal(t, http.StatusOK, edit("edit", "paint-alike", "area", "a1", "to", "a2").status)
	c := st.card(1).Card
	assert.True(t, card.PaintedAlike(&c.Areas[0], &c.Areas[1]))
	assert.NotContains(t, st.get("/cards/1/colour?area=a1").body, "Paint Two like it")
	assert.Contains(t, st.get("/cards/1/order").body, "One: PBk7, pen-line")
	assert.True(t, strings.HasPrefix(st.get("/cards/1/bench.pdf").body, "%PDF-"))
	assert.Equal(t, http.StatusOK, st.get("/cards/1/ways").status)
	assert.Contains(t, st.get("/cards/1/panel.svg").body, "trace-1-")
}

func TestAWholeCardByForms(t *testing.T) {
	st := withGrid(t)
	c := st.card(1).Card
	assert.Equal(t, "grid.scan", c.Line().Title)
	assert.Equal(t, 64*length.Millimetre, c.Line().Width)
	assert.Contains(t, st.get("/cards/1/line").body, "<strong>7 cells</strong>")

	edit := func(pairs ...string) answer {
		a := st.post("/cards/1/edit", append([]string{"back", "colour"}, pairs...)...)
		require.Equal(t, http.StatusOK, a.status, message(a.body))
		return a
	}
	edit("edit", "area-new", "cells", "2, 3", "name", "Warm & <bold>")
	edit("edit", "area-new", "cells", "4-5", "name", "Cool")
	for _, area := range []string{"a1", "a2"} {
		edit("edit", "wash-add", "area", area)
	}
	edit("edit", "dip", "area", "a1", "wash", "0", "ci", "PO62", "parts", "2")
	edit("edit", "dip", "area", "a1", "wash", "0", "ci", "PB29", "parts", "-1")
	edit("edit", "strength", "area", "a1", "wash", "0", "strength", "milk")
	edit("edit", "wash-add", "area", "a1")
	edit("edit", "technique", "area", "a1", "wash", "1", "technique", "pull-out")
	edit("edit", "gather", "area", "a2", "cells", "6")
	edit("edit", "gather", "cells", "4")
	edit("edit", "join", "a", "a1", "b", "a2", "on", "true")
	edit("edit", "drying", "drying", "heat", "celsius", "19,5", "humidity", "60")
	edit("edit", "materials", "ink", "solvent")
	edit("edit", "materials", "base-paper", "kraft", "base-colour", "sand")
	edit("edit", "layer", "layer", "0", "paper", "kraft", "colour", "teal", "foam", "true")
	edit("edit", "area-name", "area", "a2", "name", "Cooler")

	c = st.card(1).Card
	require.Len(t, c.Areas, 2)
	assert.Equal(t, "Warm & <bold>", c.Areas[0].Name)
	assert.Len(t, c.Areas[0].Cells, 2)
	assert.Len(t, c.Areas[1].Cells, 2)
	assert.Equal(t, []card.Part{{CI: "PO62", Parts: 2}}, c.Areas[0].Washes[0].Mix)
	assert.Equal(t, card.PullOut, c.Areas[0].Washes[1].Technique)
	assert.True(t, c.Joined("a1", "a2"))
	assert.InDelta(t, 19.5, c.Room.Celsius, 1e-9)
	assert.Equal(t, [4]string{"kraft", "sand", "kraft", "teal"}, [4]string{c.Base.Paper, c.Base.Colour, c.Layers[0].Paper, c.Layers[0].Colour})
	assert.True(t, c.Layers[0].Foam)

	order := st.get("/cards/1/order").body
	assert.Contains(t, order, "In all")
	assert.Contains(t, order, "Warm &amp; &lt;bold&gt;: PO62, milk")
	assert.NotContains(t, order, "<bold>")
	assert.Contains(t, st.get("/cards/1/bench").body, "2 PO62")
	edit("edit", "copies", "copies", "12")
	assert.Contains(t, st.get("/cards/1/bench").body, "Mix for 12 cards")
	for _, many := range []string{"0", "x", "201"} {
		assert.Contains(t, message(st.post("/cards/1/edit", "back", "bench", "edit", "copies", "copies", many).body), "1 to 200")
	}
	pdf := st.get("/cards/1/bench.pdf")
	assert.True(t, strings.HasPrefix(pdf.body, "%PDF-"))
	assert.Contains(t, st.get("/cards/1/panel.svg").body, "data:image/png;base64,")
	assert.Equal(t, "[2,3,4,7]\n", st.get("/cards/1/similar?cell=2").body, "like it, free or of its area")

	edit("edit", "wash-remove", "area", "a1", "wash", "0")
	edit("edit", "area-remove", "area", "a2")
	assert.Len(t, st.card(1).Card.Areas, 1)
	assert.Empty(t, st.card(1).Card.Joins)
}

func TestUndoGoesBackThroughEverything(t *testing.T) {
	st := withGrid(t)
	st.post("/cards/1/edit", "back", "colour", "edit", "area-new", "cells", "2")
	st.post("/cards/1/undo", "back", "colour")
	assert.Empty(t, st.card(1).Card.Areas)
	st.post("/cards/1/undo", "back", "colour")
	assert.Nil(t, st.card(1).Card.Line())
	st.post("/cards/1/redo", "back", "colour")
	a := st.post("/cards/1/redo", "back", "colour")
	assert.Equal(t, "/cards/1/colour", a.path)
	assert.Len(t, st.card(1).Card.Areas, 1)
}

func TestAnEditThatChangesNothingIsNoRevision(t *testing.T) {
	st := withGrid(t)
	seq := st.card(1).Seq
	st.post("/cards/1/edit", "back", "line", "edit", "materials", "paper", "cotton-cp")
	assert.Equal(t, seq, st.card(1).Seq)
}

// Gaps are closed or left open, cells joined, divided, forgotten or kept white;
// each is a change that can be taken back.
func TestCorrectingTheLine(t *testing.T) {
	st := withGrid(t)
	edit := func(pairs ...string) answer {
		a := st.post("/cards/1/edit", append([]string{"back", "line"}, pairs...)...)
		require.Equal(t, http.StatusOK, a.status, "%v: %s", pairs, message(a.body))
		return a
	}
	cells := func() string {
		st.read(1)
		return regexp.MustCompile(`<strong>(\d+ cells?)</strong>`).FindStringSubmatch(st.get("/cards/1/line").body)[1]
	}
	before := cells()
	edit("edit", "cells-join", "cells", "2, 3")
	assert.NotEqual(t, before, cells())
	assert.Contains(t, st.get("/cards/1/line").body, "cells made one at")
	edit("edit", "mark-off", "mark", "0")
	assert.Equal(t, before, cells())
	edit("edit", "pen", "points", "1 x 1; 20 x 30;21×31")
	assert.Len(t, st.card(1).Card.Line().Marks[0].Points, 3)
	st.read(1)
	assert.Contains(t, st.get("/cards/1/line").body, `class="penmark"`)
	edit("edit", "specks", "specks", "390")
	assert.NotEqual(t, before, cells())
	edit("edit", "specks", "specks", "")
	edit("edit", "mark-off", "mark", "all")
	assert.Empty(t, st.card(1).Card.Line().Marks)

	st.post("/cards/1/edit", "back", "colour", "edit", "white", "cells", "2, 3")
	st.post("/cards/1/edit", "back", "colour", "edit", "white", "cells", "4")
	c := st.card(1).Card
	require.Len(t, c.Areas, 1)
	assert.True(t, c.Areas[0].White)
	assert.Len(t, c.Areas[0].Cells, 3)
	assert.Contains(t, st.get("/cards/1/colour").body, "kept paper white")
	edit("edit", "white-off", "area", "a1")
	edit("edit", "wash-add", "area", "a1")

	wide := st.card(1).Card.Line().Width
	edit("edit", "measure", "now", "20", "really", "30")
	assert.InDelta(t, wide.MM()*1.5, st.card(1).Card.Line().Width.MM(), 0.01)
	edit("edit", "measure", "now", "30", "really", "20")

	for why, pairs := range map[string][]string{
		"distance on the board": {"edit", "measure", "now", "0", "really", "20"},
		"real distance":         {"edit", "measure", "now", "20", "really", ""},
		"not there any more":    {"edit", "leak-close", "leak", "7"},
		"is no whole number":    {"edit", "leak-open", "leak", "x"},
		"two cells":             {"edit", "cells-join", "cells", "2"},
		"is no place":           {"edit", "pen", "points", "1 1"},
		"is no length":          {"edit", "pen", "points", "1 x one"},
		"2 to 500 points":       {"edit", "pen", "points", "1 x 1"},
		"correction is gone":    {"edit", "mark-off", "mark", "3"},
		"size of specks":        {"edit", "specks", "specks", "tiny"},
		"as specks":             {"edit", "specks", "specks", "1e9"},
	} {
		a := st.post("/cards/1/edit", append([]string{"back", "line"}, pairs...)...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.status, "%v", pairs)
		assert.Contains(t, message(a.body), why)
	}
}

// Every watch-out is listed with its reason, and can be silenced on one card.
func TestWatchOutsAreListedAndSilenced(t *testing.T) {
	st := withGrid(t)
	st.at(t, []string{"edit", "area-new", "cells", "2", "name", "Sky"}, []string{"edit", "wash-add", "area", "a1"}, []string{"edit", "materials", "ink", "dye"})
	page := st.get("/cards/1/rules").body
	for _, r := range advice.Rules() {
		assert.Contains(t, page, template.HTMLEscapeString(r.Says))
	}
	assert.Contains(t, page, "The line will run")
	a := st.post("/cards/1/edit", "back", "rules", "edit", "silence", "rule", "ink-runs", "on", "true")
	assert.Equal(t, "/cards/1/rules", a.path)
	assert.Contains(t, a.body, "Silenced: let it speak")
	assert.NotContains(t, st.get("/cards/1/line").body, "The line will run")
	a = st.post("/cards/1/edit", "back", "line", "edit", "silence", "rule", "rain", "on", "true")
	assert.Contains(t, message(a.body), "no watch-out")
	a = st.post("/cards/1/edit", "back", "line", "edit", "look", "look", "fuzzy")
	assert.Contains(t, message(a.body), "no look of a line")
	st.at(t, []string{"edit", "look", "look", "pulled"}, []string{"edit", "silence", "rule", "ink-runs", "on", "false"})
	page = st.get("/cards/1/line").body
	assert.NotContains(t, page, "The line will run", "a line that is pulled may run")
	assert.Contains(t, page, "Which ink for a pulled line")
}

func TestTwoTabsOnOneCard(t *testing.T) {
	st := withGrid(t)
	base := fmt.Sprint(st.card(1).Seq)
	require.Equal(t, http.StatusOK, st.post("/cards/1/edit", "base", base, "back", "format", "edit", "name", "name", "First tab").status)
	a := st.post("/cards/1/edit", "base", base, "back", "format", "edit", "name", "name", "Second tab")
	assert.Equal(t, http.StatusConflict, a.status)
	assert.Contains(t, message(a.body), "changed meanwhile")
	assert.Contains(t, a.body, "First tab", "the latest version is shown")
	assert.Equal(t, http.StatusConflict, st.post("/cards/1/undo", "base", base, "back", "format").status)
	assert.Equal(t, "First tab", st.card(1).Card.Name)
}

func TestBadInputIsRefusedInPlace(t *testing.T) {
	st := withGrid(t)
	seq := st.card(1).Seq
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
		a := st.post("/cards/1/edit", append([]string{"back", "line"}, tc.pairs...)...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.status, "%v", tc.pairs)
		assert.Contains(t, message(a.body), tc.why, "%v", tc.pairs)
		assert.Contains(t, a.body, `aria-label="Stations"`, "the station is still there")
	}
	assert.Equal(t, seq, st.card(1).Seq, "nothing was stored")
}

func TestBadPicturesAreRefused(t *testing.T) {
	st := withGrid(t)
	seq := st.card(1).Seq
	good := gridPNG(t)
	var dot bytes.Buffer
	require.NoError(t, png.Encode(&dot, image.NewGray(image.Rect(0, 0, 1, 1))))
	for _, tc := range []struct {
		name, width, why string
		data             []byte
	}{
		{"letter.txt", "60", "not a PNG, JPEG, TIFF or SVG", []byte("dear diary")},
		{"empty.png", "60", "the file is empty", nil},
		{"dot.png", "60", "smaller than 16", dot.Bytes()},
		{"cut.png", "60", "cut short", good[:len(good)/2]},
		{"fine.png", "four", "width of the image", good},
		{"fine.png", "", "width of the image", good},
	} {
		a := st.send("/cards/1/upload", tc.name, tc.data, "back", "line", "width", tc.width)
		assert.Equal(t, http.StatusUnprocessableEntity, a.status, tc.name)
		assert.Contains(t, message(a.body), tc.why, tc.name)
	}
	assert.Equal(t, seq, st.card(1).Seq, "the card keeps its image")
}

// pictures that open but are no line art are kept, with an explanation where
// the cells would be.
func TestPicturesThatAreNoLineArt(t *testing.T) {
	rng := rand.New(rand.NewPCG(1, 2))
	photo, blank := image.NewGray(image.Rect(0, 0, 600, 400)), image.NewGray(image.Rect(0, 0, 600, 400))
	for y := range 400 {
		for x := range 600 {
			photo.SetGray(x, y, color.Gray{Y: uint8(60 + (x/3+y/2)%120 + rng.IntN(40))})
			blank.SetGray(x, y, color.Gray{Y: 236})
		}
	}
	for why, m := range map[string]image.Image{"looks like a photograph": photo, "looks blank": blank} {
		st := withGrid(t)
		var buf bytes.Buffer
		require.NoError(t, png.Encode(&buf, m))
		a := st.send("/cards/1/upload", "x.png", buf.Bytes(), "back", "line", "width", "60")
		require.Equal(t, http.StatusOK, a.status, message(a.body))
		st.read(1)
		for _, station := range []string{"format", "line", "colour", "order", "bench"} {
			a = st.get("/cards/1/" + station)
			assert.Equal(t, http.StatusOK, a.status)
		}
		assert.Contains(t, boardSays(st.get("/cards/1/line").body), why)
		assert.Equal(t, http.StatusUnprocessableEntity, st.get("/cards/1/bench.pdf").status)
	}
}

func TestExportThenImportGivesAnEqualCard(t *testing.T) {
	st := withGrid(t)
	st.post("/cards/1/edit", "back", "colour", "edit", "area-new", "cells", "2", "name", "One")
	file := st.get("/cards/1/card.zip")
	other := newStudio(t)
	a := other.send("/import", "x.card.zip", []byte(file.body))
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	assert.Equal(t, st.card(1).Card, other.card(1).Card)

	a = other.send("/import", "x.card.zip", []byte(file.body)[:200])
	assert.Equal(t, http.StatusUnprocessableEntity, a.status)
	assert.Contains(t, message(a.body), "Nothing was imported")
	cards, err := other.store.Cards(context.Background(), store.Shown)
	require.NoError(t, err)
	assert.Len(t, cards, 1)
}

func TestFromAPieceOfPaper(t *testing.T) {
	st := newStudio(t)
	a := st.get("/new?piece=" + url.QueryEscape("5 1/8 x 9"))
	assert.Contains(t, a.body, "your piece, folded in half")
	assert.Contains(t, a.body, "A1, side fold")
	assert.Equal(t, http.StatusUnprocessableEntity, st.get("/new?piece=3/0+x+4").status)
	assert.Contains(t, st.get("/new?piece=1/4+x+1/4").body, "too small")

	// The answer makes a card as it stands.
	a = st.post("/cards", "name", "Half", "unit", "in", "format", "free", "front", "4 1/2 in x 5 1/8 in", "fold", "side")
	assert.Equal(t, "/cards/1/format", a.path)
	assert.Equal(t, "4 1/2 × 5 1/8 in", st.card(1).Card.Base.Front.With(length.Inches))
	a = st.post("/cards", "name", "", "format", "a2", "fold", "side")
	assert.Equal(t, http.StatusUnprocessableEntity, a.status)
	assert.Contains(t, message(a.body), "name")
}

// Dragging and the arrow keys move the line exactly, whatever was shown.
func TestTheLineIsPlacedExactly(t *testing.T) {
	st := withGrid(t)
	before := *st.card(1).Card.Line()
	st.post("/cards/1/edit", "back", "line", "edit", "shift", "dx", "1.5 mm", "dy", "-0.25 mm")
	now := st.card(1).Card.Line()
	assert.Equal(t, before.X+1_500_000, now.X)
	assert.Equal(t, before.Y-250_000, now.Y)
	// What the form shows, sent back unchanged, changes nothing.
	seq := st.card(1).Seq
	st.post("/cards/1/edit", "back", "line", "edit", "place", "width", now.Width.Typed(length.Millimetres), "x", now.X.Typed(length.Millimetres), "y", now.Y.Typed(length.Millimetres))
	assert.Equal(t, seq, st.card(1).Seq)
	st.post("/cards/1/edit", "back", "line", "edit", "centre")
	assert.Equal(t, before, *st.card(1).Card.Line())
}

func TestReadingCanBeStoppedAndTakenUpAgain(t *testing.T) {
	st := withGrid(t)
	st.post("/cards/1/reading/again", "back", "line")
	st.post("/cards/1/reading/stop", "back", "line")
	// It may have been done before it was told to stop.
	if body := st.get("/cards/1/line").body; strings.Contains(body, "Stopped.") {
		st.post("/cards/1/reading/again", "back", "line")
	}
	require.Eventually(t, func() bool { return strings.Contains(st.get("/cards/1/line").body, "7 cells") }, eventually, tick)
	assert.Equal(t, http.StatusNotFound, st.post("/cards/1/reading/dance").status)
}

func TestFindSortCopyArchiveDelete(t *testing.T) {
	st := demoStudio(t)
	names := func(path string) (out []string) {
		for _, m := range regexp.MustCompile(`<span class="name">([^<]*)</span>`).FindAllStringSubmatch(st.get(path).body, -1) {
			out = append(out, m[1])
		}
		return out
	}
	assert.Len(t, names("/"), 4)
	assert.Equal(t, []string{"Storm lantern"}, names("/?q=BRASS+pbr7"), "areas and paints are found, every word of them")
	assert.Contains(t, st.get("/?q=nobody").body, "No card has")
	assert.Equal(t, []string{"Hermit crab, lantern night", "Lighthouse, still to paint", "Sea-star for the counters", "Storm lantern"}, names("/?sort=name"))

	st.post("/cards/3/copy")
	assert.Equal(t, "Copy of Storm lantern", names("/")[0])
	assert.Equal(t, st.card(3).Card.Areas, st.card(5).Card.Areas)

	st.post("/cards/3/state/archived")
	assert.Len(t, names("/"), 4)
	assert.Equal(t, []string{"Storm lantern"}, names("/?archive=1"))
	st.post("/cards/3/state/shown")

	a := st.post("/cards/3/state/deleted")
	assert.Contains(t, a.body, "“Storm lantern” was deleted.")
	assert.NotContains(t, names("/"), "Storm lantern")
	st.post("/cards/3/state/shown")
	assert.Contains(t, names("/"), "Storm lantern")
	assert.Equal(t, http.StatusNotFound, st.post("/cards/3/state/lost").status)
	assert.Equal(t, http.StatusNotFound, st.post("/cards/99/state/deleted").status)
}

func (st *studio) paper() *store.PaperRevision {
	r, err := st.store.Paper(context.Background())
	require.NoError(st.t, err)
	return r
}

func TestPaperOnHand(t *testing.T) {
	st := newStudio(t)
	assert.Contains(t, st.get("/paper").body, "No paper yet")
	a := st.post("/paper/edit", "edit", "add", "unit", "in", "kind", "pad", "paper", "cotton-cp", "colour", "warm <white>", "size", "9 x 12", "grain", "height", "weight", "300", "quantity", "10", "price", "1,20")
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	assert.Contains(t, a.body, "warm &lt;white&gt;")
	it := st.paper().Stock.Items[0]
	assert.Equal(t, 120, it.Price)
	st.post("/paper/edit", "edit", "quantity", "id", it.ID, "quantity", "7")
	assert.Equal(t, 7, st.paper().Stock.Items[0].Qty)
	st.post("/paper/edit", "edit", "least", "unit", "mm", "least", "60 x 80")
	assert.Equal(t, 60*length.Millimetre, st.paper().Stock.Least.W)

	table := st.get("/paper.csv").body
	st.post("/paper/edit", "edit", "remove", "id", it.ID)
	assert.Empty(t, st.paper().Stock.Items)
	a = st.send("/paper/import", "paper.csv", []byte(table))
	require.Equal(t, http.StatusOK, a.status, message(a.body))
	assert.Equal(t, 7, st.paper().Stock.Items[0].Qty)
	st.post("/paper/undo")
	assert.Empty(t, st.paper().Stock.Items)
	st.post("/paper/undo")
	assert.Len(t, st.paper().Stock.Items, 1)
	st.post("/paper/redo")

	seq := st.paper().Seq
	for why, pairs := range map[string][]string{
		"size":            {"edit", "add", "kind", "pad", "paper", "cotton-cp", "size", "3/0 x 4"},
		"is no price":     {"edit", "add", "kind", "pad", "paper", "cotton-cp", "size", "3 x 4", "price", "dear"},
		"no paper":        {"edit", "add", "kind", "pad", "paper", "parchment", "size", "3 x 4"},
		"whole number":    {"edit", "add", "kind", "pad", "paper", "cotton-cp", "size", "3 x 4", "quantity", "many"},
		"gone":            {"edit", "quantity", "id", "p9", "quantity", "1"},
		"another version": {"edit", "fold"},
	} {
		a := st.post("/paper/edit", pairs...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.status, why)
		assert.Contains(t, message(a.body), why)
	}
	a = st.send("/paper/import", "paper.csv", []byte("kind,paper,width,height,quantity\npad,cotton-cp,9,12,5\npad,cotton-cp,nine,12,5\n"))
	assert.Contains(t, message(a.body), "nothing was imported: line 3, column 3 (width)")
	assert.Equal(t, seq, st.paper().Seq)
	assert.Equal(t, http.StatusConflict, st.post("/paper/edit", "base", "1", "edit", "least", "least", "1 x 1").status)
}

func TestCutSheet(t *testing.T) {
	st := demoStudio(t)
	assert.Contains(t, st.get("/cut").body, "Say how many")
	a := st.get("/cut?n-4=6&n-3=4&if=p1")
	assert.Contains(t, a.body, "No plan needs fewer sheets.")
	assert.Contains(t, a.body, "On cotton cold press 300 gsm, 9 × 12 in only")
	assert.Contains(t, a.body, "base of Hermit crab, lantern night, base of Storm lantern", "the same piece for two cards is one part")
	assert.True(t, strings.HasPrefix(st.get("/cut.pdf?n-4=6").body, "%PDF-"))
	assert.Contains(t, st.get("/cut.svg?n-4=6").body, `<path id="cut-1"`)

	// Paper that is left alone is not used.
	assert.NotContains(t, st.get("/cut?n-4=1&skip=p3&skip=p4").body, "offcut</strong>")

	for why, query := range map[string]string{"copies of": "n-4=x", "whole number": "n-4=99999", "is no paper of type": "n-4=1&skip=p5&skip=p6&skip=p7"} {
		a := st.get("/cut?" + query)
		assert.Equal(t, http.StatusUnprocessableEntity, a.status)
		assert.Contains(t, a.body, why, query)
	}

	// What is cut is taken out; the leftovers come in; undo puts it back.
	before := st.paper()
	a = st.post("/cut", "n-4", "6", "base", fmt.Sprint(before.Seq))
	require.Equal(t, "/paper", a.path, message(a.body))
	after := st.paper()
	assert.NotEqual(t, before.Stock, after.Stock)
	assert.Equal(t, "cut for Hermit crab, lantern night", after.What)
	a = st.post("/cut", "n-4", "6", "base", fmt.Sprint(before.Seq))
	assert.Equal(t, http.StatusConflict, a.status, "the plan was for other paper")
	st.post("/paper/undo")
	assert.Equal(t, before.Stock, st.paper().Stock)
	assert.Equal(t, http.StatusUnprocessableEntity, st.post("/cut").status)
}

func TestEnvelopesMadeToMeasure(t *testing.T) {
	st := withGrid(t)
	body := st.get("/cards/1/format").body
	assert.Contains(t, body, "From a square")
	assert.Contains(t, body, "Score the four creases.")
	assert.Contains(t, st.get("/cards/1/envelope-square.svg").body, `<path id="envelope-score-4"`)
	assert.True(t, strings.HasPrefix(st.get("/cards/1/envelope-strip.pdf").body, "%PDF-"))
	assert.Equal(t, http.StatusNotFound, st.get("/cards/1/envelope-circle.pdf").status)
	assert.Equal(t, http.StatusNotFound, st.get("/cards/1/envelope-square.doc").status)
}

func TestForeignRequestsAreRefused(t *testing.T) {
	st := withGrid(t)
	req, err := http.NewRequest(http.MethodPost, st.url+"/cards/1/undo", nil)
	require.NoError(t, err)
	req.Header.Set("Sec-Fetch-Site", "cross-site")
	assert.Equal(t, http.StatusForbidden, st.do(req).status)
	assert.NotNil(t, st.card(1).Card.Line())
}

func TestNothingComesFromElsewhere(t *testing.T) {
	st := demoStudio(t)
	elsewhere := regexp.MustCompile(`(?:src|href)="(?:https?:)?//`)
	for _, path := range []string{"/", "/new", "/cards/1/format", "/cards/1/line", "/cards/4/colour?area=a5", "/cards/4/order", "/cards/4/bench", "/nowhere"} {
		a := st.get(path)
		assert.NotRegexp(t, elsewhere, a.body, path)
	}
	resp, err := http.Get(st.url + "/")
	require.NoError(t, err)
	resp.Body.Close()
	assert.Contains(t, resp.Header.Get("Content-Security-Policy"), "default-src 'self'")
}

func TestMissing(t *testing.T) {
	st := newStudio(t)
	for _, path := range []string{"/cards/7/line", "/cards/x/line", "/nowhere", "/images/abc", "/static/nothing.js"} {
		assert.Equal(t, http.StatusNotFound, st.get(path).status, path)
	}
	a := st.get("/")
	assert.Contains(t, a.body, "No card yet")
	st.post("/cards", "name", "x", "format", "a2", "fold", "side")
	assert.Equal(t, http.StatusNotFound, st.get("/cards/1/nonsense").status)
	for _, station := range []string{"format", "line", "colour", "order", "bench"} {
		assert.Equal(t, http.StatusOK, st.get("/cards/1/"+station).status, "an empty card shows %s", station)
	}
}

// read waits until a card's cells have been found.
func (st *studio) read(id int64) {
	require.Eventually(st.t, func() bool { return strings.Contains(st.get(fmt.Sprintf("/cards/%d/reading", id)).body, `"done":true`) }, eventually, tick)
}

func BenchmarkColourPage(b *testing.B) {
	st := demoStudio(b)
	st.read(4)
	for b.Loop() {
		st.get("/cards/4/colour?area=a5")
	}
}

func BenchmarkOrderPage(b *testing.B) {
	st := demoStudio(b)
	st.read(4)
	for b.Loop() {
		st.get("/cards/4/order")
	}
}
