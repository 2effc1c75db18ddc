package cards_test

import (
	"context"
	"net/http"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/store"
	"chromaqua/internal/web/webtest"
)

func TestExportThenImportGivesAnEqualCard(t *testing.T) {
	st := webtest.WithGrid(t)
	st.Post("/cards/1/edit", "back", "colour", "edit", "area-new", "cells", "2", "name", "One")
	file := st.Get("/cards/1/card.zip")
	other := webtest.New(t)
	a := other.Send("/import", "x.card.zip", []byte(file.Body))
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Equal(t, st.Card(1).Card, other.Card(1).Card)

	a = other.Send("/import", "x.card.zip", []byte(file.Body)[:200])
	assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
	assert.Contains(t, webtest.Message(a.Body), "Nothing was imported")
	cards, _, err := other.Store.Cards(context.Background(), store.Shown)
	require.NoError(t, err)
	assert.Len(t, cards, 1)
}

func TestFindSortCopyArchiveDelete(t *testing.T) {
	st := webtest.Demo(t)
	names := func(path string) (out []string) {
		for _, m := range regexp.MustCompile(`<span class="name">([^<]*)</span>`).FindAllStringSubmatch(st.Get(path).Body, -1) {
			out = append(out, m[1])
		}
		return out
	}
	assert.Len(t, names("/"), 8)
	assert.Equal(t, []string{"Storm lantern"}, names("/?q=BRASS+pbr7"), "areas and paints are found, every word of them")
	assert.Contains(t, st.Get("/?q=nobody").Body, "No card has")
	assert.Equal(t, []string{"Hermit crab, lantern night", "Kelp, kept pale", "Lighthouse, still to paint", "Otter in the river", "Rays over the reef", "Sea-star for the counters", "Snow on the boathouse", "Storm lantern"}, names("/?sort=name"))

	st.Post("/cards/3/copy")
	assert.Equal(t, "Copy of Storm lantern", names("/")[0])
	assert.Equal(t, st.Card(3).Card.Areas, st.Card(9).Card.Areas)

	st.Post("/cards/3/state/archived")
	assert.Len(t, names("/"), 8)
	assert.Equal(t, []string{"Storm lantern"}, names("/?archive=1"))
	st.Post("/cards/3/state/shown")

	a := st.Post("/cards/3/state/deleted")
	assert.Contains(t, a.Body, "“Storm lantern” was deleted.")
	assert.NotContains(t, names("/"), "Storm lantern")
	st.Post("/cards/3/state/shown")
	assert.Contains(t, names("/"), "Storm lantern")
	assert.Equal(t, http.StatusNotFound, st.Post("/cards/3/state/lost").Status)
	assert.Equal(t, http.StatusNotFound, st.Post("/cards/99/state/deleted").Status)
}

// A card that cannot be read is listed, says on its own page what to do, and does not keep
// anything else from being shown.
func TestUnreadableCardsStandInNobodysWay(t *testing.T) {
	st := webtest.WithGrid(t)
	for _, name := range []string{"Damaged", "Newer", "Hopeless"} {
		st.Post("/cards", "name", name, "unit", "mm", "format", "a2", "fold", "side")
	}
	st.Post("/cards/2/edit", "back", "format", "edit", "name", "name", "Damaged later")
	st.Spoil("UPDATE revisions SET doc = '{\"kind\": <b>' WHERE document = 2 AND seq = 2",
		"UPDATE revisions SET doc = json_set(doc, '$.version', 99) WHERE document = 3", "UPDATE revisions SET doc = '' WHERE document = 4")
	home := webtest.Plain(st.Get("/").Body)
	assert.Contains(t, home, "Card 2 cannot be read")
	assert.Contains(t, home, "Card 3 was written by a newer Chromaqua")
	assert.Contains(t, home, "Grid")
	for _, path := range []string{"/library", "/cut", "/paper", "/cards/1/colour", "/settings"} {
		assert.Equal(t, http.StatusOK, st.Get(path).Status, path)
	}
	for _, path := range []string{"/cards/2/", "/cards/2/order", "/cards/2/card.zip", "/cards/2/panel.svg"} {
		a := st.Get(path)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status, path)
		assert.Contains(t, a.Body, "This card cannot be read", path)
		assert.Contains(t, a.Body, "Go back to its last readable state", path)
	}
	newer := st.Get("/cards/3/format").Body
	assert.Contains(t, newer, "written by a newer program")
	assert.NotContains(t, newer, "last readable state")
	assert.Equal(t, `{"kind": <b>`, st.Get("/cards/2/document.json").Body)
	assert.Equal(t, http.StatusUnprocessableEntity, st.Post("/cards/2/edit", "back", "format", "edit", "name", "name", "x").Status)

	a := st.Post("/cards/2/readable")
	require.Equal(t, http.StatusOK, a.Status)
	assert.Equal(t, "Damaged", st.Card(2).Card.Name)
	a = st.Post("/cards/4/readable")
	assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
	assert.Contains(t, a.Body, "No earlier state of this card can be read either")
	a = st.Post("/cards/4/state/deleted")
	assert.Contains(t, a.Body, "“Card 4” was deleted.")
	assert.NotContains(t, st.Get("/").Body, "Card 4 cannot")
}

// A card that was deleted in another tab is not changed, and can be brought back where it
// is still shown.
func TestEditsToADeletedCardAreRefused(t *testing.T) {
	st := webtest.WithGrid(t)
	st.Post("/cards/1/state/deleted")
	a := st.Post("/cards/1/edit", "back", "format", "edit", "name", "name", "Late")
	assert.Equal(t, http.StatusConflict, a.Status)
	assert.Contains(t, webtest.Message(a.Body), "was deleted")
	assert.Contains(t, a.Body, "Bring it back")
	a = st.Post("/cards/1/undo", "back", "format")
	assert.Equal(t, http.StatusConflict, a.Status)
	assert.Equal(t, "Grid", st.Card(1).Card.Name)
	assert.Contains(t, st.Get("/cards/1/line").Body, "This card was deleted")
	st.Post("/cards/1/state/shown")
	assert.NotContains(t, st.Get("/cards/1/line").Body, "This card was deleted")
	assert.Equal(t, http.StatusOK, st.Post("/cards/1/edit", "back", "format", "edit", "name", "name", "Late").Status)
}

// An empty studio offers a finished card to look about in and one to paint, each with its
// drawing, and nothing else of the samples.
func TestAnEmptyStudioOffersAFirstCard(t *testing.T) {
	st := webtest.New(t)
	home := st.Get("/").Body
	assert.Contains(t, home, "Paint a first card")
	assert.Contains(t, home, "Look at a finished card")
	assert.NotContains(t, home, `role="search"`, "there is nothing to find")
	a := st.Post("/begin", "with", "painting")
	require.Equal(t, "/cards/1/colour", a.Path)
	c := st.Card(1).Card
	assert.Empty(t, c.Areas)
	assert.NotNil(t, c.Line())
	a = st.Post("/begin", "with", "looking")
	require.Equal(t, "/cards/2/colour", a.Path)
	assert.Len(t, st.Card(2).Card.Areas, 9)
	st.Read(1)
	assert.Contains(t, st.Get("/cards/1/colour").Body, "These look alike")
	assert.Len(t, st.Library(t), 2)
	assert.NotContains(t, st.Get("/shelf").Body, "driftwood")
	home = st.Get("/").Body
	assert.NotContains(t, home, "Paint a first card", "there are cards now")
	assert.Contains(t, home, `role="search"`)
}
