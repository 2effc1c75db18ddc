package line_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/web/webtest"
)

// Words are put on, moved to where there is room, drawn in their true size, planned last, and
// taken away; what is no words is refused in words.
func TestWordsAreThings(t *testing.T) {
	st := webtest.WithGrid(t)
	edit := func(pairs ...string) webtest.Answer {
		return st.Post("/cards/1/edit", append([]string{"back", "line", "edit", "words-put"}, append(pairs, "times", "0", "turn", "0")...)...)
	}
	require.Equal(t, http.StatusOK, edit("text", "sea <you>", "by", "stamped", "height", "6 mm").Status)
	body := st.Get("/cards/1/line").Body
	assert.Contains(t, body, "Where there is most room")
	assert.Contains(t, body, `textLength="20.5`, "nine letters of 0.38 × 6 mm")
	assert.Contains(t, body, "sea &lt;you&gt;</text>")
	assert.Contains(t, st.Get("/cards/1/panel.svg").Body, "sea &lt;you&gt;</text>")
	require.Equal(t, http.StatusOK, edit("act", "x1", "text", "سلام من البحر", "by", "powdered", "height", "6 mm", "times", "3", "x", "20 mm", "y", "8 mm", "turn", "-4.5").Status)
	assert.Contains(t, st.Get("/cards/1/line").Body, "rotate(-4.5)")
	for says, pairs := range map[string][]string{
		"at most 500":       {"text", strings.Repeat("e", 501), "by", "stamped", "height", "6 mm"},
		"no way of putting": {"text", "a", "by", "sung", "height", "6 mm"},
		"words are missing": {"text", " ", "by", "stamped", "height", "6 mm"},
	} {
		a := edit(pairs...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
		assert.Contains(t, webtest.Message(a.Body), says)
	}
	assert.Equal(t, http.StatusOK, edit("text", strings.Repeat("a long way ", 40), "by", "written", "height", "60 mm").Status, "larger than the panel")

	st.Post("/cards/1/edit", "back", "colour", "edit", "area-new", "cells", "2", "name", "One")
	st.Post("/cards/1/edit", append([]string{"back", "colour"}, webtest.Dip("a1")...)...)
	order := webtest.Plain(st.Get("/cards/1/order").Body)
	assert.Contains(t, order, "and emboss it")
	assert.Contains(t, order, "on a scrap first")
	require.Equal(t, http.StatusOK, st.Post("/cards/1/edit", "back", "order", "edit", "embellish", "kind", "gem", "count", "3", "name", "pearls").Status)
	assert.Contains(t, webtest.Plain(st.Get("/cards/1/order").Body), "Set 3 × gem, pearls on the panel")
	assert.True(t, strings.HasPrefix(st.Get("/cards/1/bench.pdf").Body, "%PDF-"))
	require.Equal(t, http.StatusOK, st.Post("/cards/1/edit", "back", "line", "edit", "act-off", "act", "x1").Status)
	assert.NotContains(t, st.Get("/cards/1/line").Body, "rotate(-4.5)")
}
