package newcard_test

import (
	"net/http"
	"net/url"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/length"
	"chromaqua/internal/web/webtest"
)

// A card starts from whatever the maker has.
func TestNewCardFromAnyEnd(t *testing.T) {
	st := webtest.New(t)
	for i, tc := range []struct {
		pairs []string
		want  length.Size
	}{
		{[]string{"start", "panel", "size", "4 x 6"}, webtest.Inches(4.5, 6.5)},
		{[]string{"start", "stamp", "size", "2 x 3"}, webtest.Inches(3, 4)},
		{[]string{"start", "envelope", "envelope", "env-a6"}, webtest.Inches(4.5, 6.25)},
		{[]string{"start", "envelope", "envelope", "free", "size", "8 x 6"}, webtest.Inches(5.875, 7.875)},
	} {
		a := st.Post("/cards", append([]string{"name", "x", "unit", "in", "fold", "side"}, tc.pairs...)...)
		require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
		assert.Equal(t, tc.want, st.Card(int64(i+1)).Card.Front(), "%v", tc.pairs)
	}
	for why, pairs := range map[string][]string{
		"size of the panel":  {"start", "panel", "size", "4"},
		"size of the stamp":  {"start", "stamp", "size", "x"},
		"no envelope":        {"start", "envelope", "envelope", "env-z"},
		"size of the die":    {"start", "die", "die", "x"},
		"no die set":         {"start", "die", "die", "x|3 in x 4 in"},
		"starts from":        {"start", "thin air"},
		"is outside":         {"start", "envelope", "envelope", "free", "size", "1/4 x 1/4"},
		"size of the envelo": {"start", "envelope", "envelope", "free", "size", ""},
	} {
		a := st.Post("/cards", append([]string{"name", "x", "unit", "in", "fold", "side"}, pairs...)...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status, "%v", pairs)
		assert.Contains(t, webtest.Message(a.Body), why)
	}
}

func TestFromAPieceOfPaper(t *testing.T) {
	st := webtest.New(t)
	a := st.Get("/new?piece=" + url.QueryEscape("5 1/8 x 9"))
	assert.Contains(t, a.Body, "your piece, folded in half")
	assert.Contains(t, a.Body, "A1, side fold")
	assert.Equal(t, http.StatusUnprocessableEntity, st.Get("/new?piece=3/0+x+4").Status)
	assert.Contains(t, st.Get("/new?piece=1/4+x+1/4").Body, "too small")

	// The answer makes a card as it stands.
	a = st.Post("/cards", "name", "Half", "unit", "in", "format", "free", "front", "4 1/2 in x 5 1/8 in", "fold", "side")
	assert.Equal(t, "/cards/1/format", a.Path)
	assert.Equal(t, "4 1/2 × 5 1/8 in", st.Card(1).Card.Base.Front.With(length.Inches))
	before := time.Now()
	a = st.Post("/cards", "name", " ", "format", "a2", "fold", "side")
	assert.Equal(t, "/cards/2/format", a.Path)
	assert.Contains(t, []string{"Card of " + before.Format("2 January"), "Card of " + time.Now().Format("2 January")}, st.Card(2).Card.Name)
}
