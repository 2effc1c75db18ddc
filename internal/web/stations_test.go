package web_test

import (
	"encoding/json"
	"net/http"
	"os"
	"slices"
	"strconv"
	"strings"
	"testing"
	"testing/fstest"

	"github.com/chromedp/chromedp"
	"github.com/go-chi/chi/v5"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/change"
	"chromaqua/internal/web/page"
	"chromaqua/internal/web/station"
	"chromaqua/internal/web/webtest"
)

// pond is a station that only tests have.
type pond struct{ host *station.Host }

func (pond) About() station.About {
	return station.About{ID: "pond", Name: "Pond", Question: "Where do the ducks go?"}
}

func (pond) Show(v *station.Visit) error {
	v.Page.View = v.Rev.Card.Name
	return nil
}

func (pond) Edits() []station.Edit {
	return []station.Edit{{Name: "pond-dry", Do: func(e *station.Editing) (change.Done, error) {
		return e.Make(change.Notes{Notes: "dried " + e.FormValue("by")})
	}}}
}

func (p pond) Routes(r chi.Router) {
	r.Get("/ducks", p.host.Handle(func(w http.ResponseWriter, r *http.Request) error { return page.SendJSON(w, 3) }))
}

var pondEntry = station.Entry{
	Room: page.Room{Files: fstest.MapFS{
		"pond.html": {Data: []byte(`{{define "pond"}}<p>{{.View}} by the pond</p><form method="post" action="/cards/{{.ID}}/edit" aria-label="Pond">{{template "hidden" $}}<button class="btn" name="edit" value="pond-dry">Dry it</button></form>{{end}}
{{define "pond-keys"}}<dt><kbd>Q</kbd></dt><dd>quack</dd>{{end}}`)},
		"pond.js": {Data: []byte(`export function key(e) { if (e.key === "q") document.title = "quack"; return e.key === "q"; }`)},
	}},
	New: func(h *station.Host) station.Station { return pond{h} },
}

// A new station is a folder and a row of the table: it stands in the tabs, has its
// keys, its script and its edits, can be walked, and comes into the pictures.
func TestAStationIsAFolderAndARow(t *testing.T) {
	st := webtest.Demo(t, pondEntry)
	a := st.Get("/cards/4/pond")
	require.Equal(t, http.StatusOK, a.Status)
	assert.Contains(t, a.Body, "by the pond")
	assert.Contains(t, a.Body, "<dd>quack</dd>")
	last := strconv.Itoa(strings.Count(a.Body, `<li><a href="/cards/4/`))
	assert.Contains(t, a.Body, "<kbd>"+last+"</kbd></dt>", "it has a key")
	assert.Contains(t, st.Get("/cards/4/format").Body, `<a href="/cards/4/pond"`)
	assert.Contains(t, st.Get("/static/pond.js").Body, "quack")
	assert.Equal(t, "3\n", st.Get("/cards/4/ducks").Body)
	a = st.Post("/cards/4/edit", "back", "pond", "edit", "pond-dry", "by", "noon")
	assert.Equal(t, "/cards/4/pond", a.Path)
	assert.Equal(t, "dried noon", st.Card(4).Card.Notes)
	assert.NotContains(t, webtest.Demo(t).Get("/cards/4/format").Body, "pond")

	b := webtest.Browse(t, st.URL)
	assert.True(t, slices.ContainsFunc(stationsOf(b, "4"), func(path string) bool { return strings.HasSuffix(path, "/pond") }), "the walk and the pictures go there")
	b.Key(last)
	b.Sees("by the pond")
	b.Key("q")
	b.Waits(`document.title === "quack"`)
	assert.Empty(t, faults(b))
}

// stationsOf lists the addresses of a card's stations, as its tabs have them.
func stationsOf(b *webtest.Browser, card string) []string {
	b.Open(page.CardAddress(card, "format"))
	b.Listens()
	return webtest.Eval[[]string](b, `[...document.querySelectorAll(".stations a")].map(a => a.pathname)`)
}

// faults are what stands in the way of those who use a page with other means than eyes
// and a mouse.
func faults(b *webtest.Browser) []string {
	axe, err := os.ReadFile("../../node_modules/axe-core/axe.min.js")
	if err != nil {
		if os.Getenv("CHROMAQUA_TOOLS") == "required" {
			b.T.Fatal("axe-core is missing; run npm ci")
		}
		b.T.Skip("axe-core is not installed; run npm ci")
	}
	b.Waits(`!document.querySelector("[data-reading]")`)
	b.Do(`document.querySelectorAll("details").forEach(d => d.open = true)`)
	if !webtest.Eval[bool](b, `"axe" in window`) {
		b.Do(string(axe))
	}
	return webtest.Eval[[]string](b, `axe.run(document, {resultTypes: ["violations"]}).then(r => r.violations.map(v => v.id + ": " + v.nodes.map(n => n.html.slice(0, 160) + " " + n.failureSummary).slice(0, 3).join(" | ")))`, chromedp.EvalAwaitPromise)
}

// Every change of core can be asked for by a form, or comes with a file.
func TestEveryChangeHasItsStation(t *testing.T) {
	withFiles := []string{"window-lay", "rescan", "palette"}
	offered := webtest.New(t).App.Edits()
	for name, c := range change.Names() {
		if !slices.Contains(withFiles, name) {
			assert.Contains(t, offered, name, "no station offers %T", c)
		}
		doc, err := json.Marshal(change.Values(c))
		require.NoError(t, err)
		assert.NotContains(t, string(doc), "map[", "%T is told in plain values", c)
	}
	for _, name := range offered {
		assert.Contains(t, change.Names(), name, "an edit that core does not know")
	}
}
