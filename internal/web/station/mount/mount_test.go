package mount_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/internal/web/webtest"
)

// studio is a painted card with a tag on it, and how its Mount station is asked.
func studio(t testing.TB) (*webtest.Studio, func(pairs ...string) webtest.Answer) {
	st, edit := webtest.Painted(t)
	require.Equal(t, http.StatusOK, edit("edit", "piece-add", "kind", "tag").Status)
	return st, func(pairs ...string) webtest.Answer {
		return st.Post("/cards/1/edit", append([]string{"back", "mount"}, pairs...)...)
	}
}

// What the station says comes from how the card goes together: sizes, order, reasons.
func TestTheMountStation(t *testing.T) {
	st, do := studio(t)
	body := webtest.Plain(st.Get("/cards/1/mount").Body)
	for _, want := range []string{
		"3.65 mm", "In this order", "Tag on the panel", "It stands up and throws a shadow", "of foam", "It was painted wet and warps", "First, under weight: the panel", "There are no words on it yet", "closed, true to scale", "data-piece=\"p1\"",
	} {
		assert.Contains(t, body, want)
	}
	assert.Less(t, strings.Index(body, "The mat on the card base"), strings.Index(body, "The panel on the mat"))

	a := do("edit", "held", "part", "p1", "by", "foam", "high", "3 mm")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Equal(t, 3*length.Millimetre, st.Card(1).Card.Pieces[0].Place.High)
	assert.Contains(t, a.Body, "5.15 mm")
	a = do("edit", "held", "part", "panel", "by", "thin tape")
	assert.Contains(t, a.Body, "strong tape holds it better")
	assert.Contains(t, a.Body, "Hold it by strong tape", "settled by a press")
	do("edit", "held", "part", "panel", "by", "")
	assert.Equal(t, joint.Usual, st.Card(1).Card.Panel.By)

	do("edit", "part-move", "piece", "p1", "nth", "0", "x", "-12 mm", "y", "7 mm", "turn", "10")
	assert.Equal(t, card.At{X: -12 * length.Millimetre, Y: 7 * length.Millimetre, Turn: 10}, st.Card(1).Card.Pieces[0].Place.At)
	do("edit", "part-align", "piece", "p1", "nth", "0", "to", "middle across")
	assert.Zero(t, st.Card(1).Card.Pieces[0].Place.X)
	do("edit", "part-move", "piece", "p1", "nth", "0", "x", "60 mm")
	assert.Contains(t, st.Get("/cards/1/mount").Body, "sticks out")
	a = do("edit", "piece-glue", "piece", "p1", "layers", "3")
	assert.Contains(t, a.Body, "glues 3 more under the tag")
	require.Equal(t, http.StatusOK, st.Post("/cards/1/undo", "back", "mount").Status)
	assert.Zero(t, st.Card(1).Card.Pieces[0].Layers)
}

// Words are told with where they stand, the inside first.
func TestWordsBeforeGluing(t *testing.T) {
	st, do := studio(t)
	do("edit", "piece-add", "kind", "leaf")
	a := st.Post("/cards/1.p2/edit", "back", "line", "edit", "words-put", "text", "all washed up", "by", "stamped", "height", "8 mm", "times", "0", "turn", "0", "x", "40 mm", "y", "50 mm")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	body := st.Get("/cards/1/mount").Body
	assert.Contains(t, body, "Words, the inside first: it is flat now")
	assert.Contains(t, body, "before anything is glued")
	assert.Contains(t, body, "all washed up")
	pdf := st.Get("/cards/1/assembly.pdf").Body
	assert.True(t, strings.HasPrefix(pdf, "%PDF"))
}

// Labels say who and when; what cannot be is refused in words.
func TestLabels(t *testing.T) {
	st, _ := studio(t)
	assert.True(t, strings.HasPrefix(st.Get("/cards/1/labels.pdf?by=Somebody&on=2026-11-28&many=30").Body, "%PDF"))
	for _, bad := range []string{"many=0", "many=5000", "many=x", "many=1&on=tomorrow", "many=1&by=" + strings.Repeat("x", 80)} {
		assert.Equal(t, http.StatusUnprocessableEntity, st.Get("/cards/1/labels.pdf?"+bad).Status, bad)
	}
}

// What cannot be held or moved so says why, and nothing is changed.
func TestWhatCannotBeMounted(t *testing.T) {
	st, do := studio(t)
	was := st.Card(1).Seq
	for want, pairs := range map[string][]string{
		"nothing to hold a piece by": {"edit", "held", "part", "p1", "by", "hope"},
		"foam is 0.5 mm":             {"edit", "held", "part", "p1", "by", "foam", "high", "80 mm"},
		"that piece is gone":         {"edit", "held", "part", "p9"},
		"counted from 0":             {"edit", "part-move", "piece", "p1", "nth", "4"},
		"is no length":               {"edit", "part-move", "piece", "p1", "nth", "0", "x", "9000 mm"},
		"no way to put":              {"edit", "part-align", "piece", "p1", "nth", "0", "to", "upstairs"},
		"has no image":               {"edit", "part-align", "piece", "p1", "nth", "0", "to", "twin"},
		"at most 20":                 {"edit", "piece-glue", "piece", "p1", "layers", "99"},
		"and that in the end on it":  {"edit", "piece-place", "piece", "p1", "on", "p1"},
	} {
		a := do(pairs...)
		assert.GreaterOrEqual(t, a.Status, 400, want)
		assert.Contains(t, webtest.Message(a.Body), want)
	}
	assert.Equal(t, was, st.Card(1).Seq)
}
