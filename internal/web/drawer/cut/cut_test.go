package cut_test

import (
	"fmt"
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/web/webtest"
)

func TestCutSheet(t *testing.T) {
	st := webtest.Demo(t)
	assert.Contains(t, st.Get("/cut").Body, "Say how many")
	a := st.Get("/cut?n-4=6&n-3=4&if=p1")
	assert.Contains(t, a.Body, "No plan needs fewer sheets.")
	assert.Contains(t, a.Body, "On cotton cold press 300 gsm, 9 × 12 in only")
	assert.Contains(t, a.Body, "base of Hermit crab, lantern night, base of Storm lantern", "the same piece for two cards is one part")
	assert.True(t, strings.HasPrefix(st.Get("/cut.pdf?n-4=6").Body, "%PDF-"))
	assert.Contains(t, st.Get("/cut.svg?n-4=6").Body, `<path id="cut-1"`)

	// Paper that is left alone is not used.
	assert.NotContains(t, st.Get("/cut?n-4=1&skip=p3&skip=p4").Body, "offcut</strong>")

	for why, query := range map[string]string{"copies of": "n-4=x", "whole number": "n-4=99999", "is no paper of type": "n-4=1&skip=p5&skip=p6&skip=p7"} {
		a := st.Get("/cut?" + query)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
		assert.Contains(t, a.Body, why, query)
	}

	// What is cut is taken out; the leftovers come in; undo puts it back.
	before := st.Paper()
	a = st.Post("/cut", "n-4", "6", "base", fmt.Sprint(before.Seq))
	require.Equal(t, "/paper", a.Path, webtest.Message(a.Body))
	after := st.Paper()
	assert.NotEqual(t, before.Stock, after.Stock)
	assert.Equal(t, "cut for Hermit crab, lantern night", after.What)
	a = st.Post("/cut", "n-4", "6", "base", fmt.Sprint(before.Seq))
	assert.Equal(t, http.StatusConflict, a.Status, "the plan was for other paper")
	st.Post("/paper/undo")
	assert.Equal(t, before.Stock, st.Paper().Stock)
	assert.Equal(t, http.StatusUnprocessableEntity, st.Post("/cut").Status)
}
