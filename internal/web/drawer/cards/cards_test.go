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
	cards, err := other.Store.Cards(context.Background(), store.Shown)
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
	assert.Len(t, names("/"), 4)
	assert.Equal(t, []string{"Storm lantern"}, names("/?q=BRASS+pbr7"), "areas and paints are found, every word of them")
	assert.Contains(t, st.Get("/?q=nobody").Body, "No card has")
	assert.Equal(t, []string{"Hermit crab, lantern night", "Lighthouse, still to paint", "Sea-star for the counters", "Storm lantern"}, names("/?sort=name"))

	st.Post("/cards/3/copy")
	assert.Equal(t, "Copy of Storm lantern", names("/")[0])
	assert.Equal(t, st.Card(3).Card.Areas, st.Card(5).Card.Areas)

	st.Post("/cards/3/state/archived")
	assert.Len(t, names("/"), 4)
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
