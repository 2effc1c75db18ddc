package settings_test

import (
	"fmt"
	"html"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/school"
	"chromaqua/internal/web/webtest"
)

// How the studio works shows in every plan, in what is new, and one card departs from it.
func TestSchools(t *testing.T) {
	st, edit := webtest.Painted(t)
	usual := []string{"pace", "2", "hand", "right", "heat", "25", "rack", "11"}
	set := func(pairs ...string) webtest.Answer { return st.Post("/settings", append(usual, pairs...)...) }
	body := st.Get("/settings").Body
	for _, q := range school.Questions() {
		for _, w := range []string{html.EscapeString(q.Asks), q.Ways[0].Words, `name="school-` + q.ID + `"`} {
			assert.Contains(t, body, w)
		}
	}
	require.Contains(t, st.Get("/cards/1/order").Body, "Flatten the panel under weight")
	a := set("school-flattening", "after", "school-drying", "air", "school-line", "soft", "school-lines", "loose", "school-hold", "block", "school-paper", "pulp", "school-relief", "twice", "school-background", "decide")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "The card&#39;s own stiffness helps", "the reason of the way that is chosen")
	rev, err := st.Store.Settings(t.Context())
	require.NoError(t, err)
	assert.Equal(t, "", rev.Settings.Schools.Background, "the default is not kept")
	body = st.Get("/cards/1/order").Body
	assert.Contains(t, body, "Flatten the card under weight")
	assert.Contains(t, body, "How are coats dried between layers? Here ")
	assert.NotContains(t, body, "Flatten the panel under weight")

	edit("edit", "school", "question", "flattening", "way", "before")
	assert.Contains(t, st.Get("/cards/1/order").Body, "Flatten the panel under weight", "one card departs")
	assert.Equal(t, school.FlatBefore, st.Card(1).Card.Schools.Flattening)
	edit("edit", "school", "question", "flattening", "way", "")
	assert.Contains(t, st.Get("/cards/1/order").Body, "Flatten the card under weight")
	for why, pairs := range map[string][]string{"is no answer": {"question", "flattening", "way", "never"}, "nothing makers are asked": {"question", "tea", "way", "milk"}} {
		a := edit(append([]string{"edit", "school"}, pairs...)...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
		assert.Contains(t, webtest.Message(a.Body), why)
	}
	a = set("school-water", "flood")
	assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
	assert.Contains(t, webtest.Message(a.Body), "it is one of shine, pools")

	// What is new begins so.
	a = st.Post("/cards", "name", "New", "unit", "mm", "format", "a2", "fold", "picture")
	require.Equal(t, http.StatusOK, a.Status)
	c := st.Card(2).Card
	assert.Equal(t, card.Air, c.Drying)
	assert.EqualValues(t, "soft", c.Look)
	assert.Equal(t, card.Twice, c.Relief)
	assert.Equal(t, "pulp-cp", c.Paper)
	assert.Equal(t, []card.Hold{{How: card.OnBlock}}, c.Hold)
	assert.Equal(t, fold.Left, c.Base.Fold)
	st.Post("/cards/2/edit", "back", "format", "edit", "format", "format", "a2", "turned", "true")
	assert.Equal(t, fold.Top, st.Card(2).Card.Base.Fold, fmt.Sprint("folded as it lies: ", st.Card(2).Card.Base))
	st.Post("/cards/2/edit", "back", "format", "edit", "fold", "fold", "side")
	st.Post("/cards/2/edit", "back", "format", "edit", "format", "format", "a2")
	st.Post("/cards/2/edit", "back", "format", "edit", "format", "format", "a2", "turned", "true")
	assert.Equal(t, fold.Left, st.Card(2).Card.Base.Fold, "as was said")
}
