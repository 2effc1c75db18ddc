package shelf_test

import (
	"net/http"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"

	"chromaqua/internal/web/webtest"
)

// The chart is made of the maker's paints, where some are on the shelf.
func TestTheMixingChart(t *testing.T) {
	st := webtest.New(t)
	page := st.Get("/mixing").Body
	assert.Contains(t, page, `golden yellow with rose <span class="code">PY150, PV19</span>`)
	st.Post("/shelf", "edit", "add", "name", "blue pan", "like", "paint:PB29")
	st.Post("/shelf", "edit", "add", "name", "rose pan", "like", "paint:PV19")
	page = st.Get("/mixing").Body
	assert.Equal(t, 1, strings.Count(page, "<table"))
	assert.Contains(t, page, "rose pan with blue pan")
	assert.Contains(t, page, "yours")
	assert.Contains(t, st.Get("/shelf").Body, "blue pan")
	pdf := st.Get("/mixing.pdf?p=PY3&p=PB29&p=PV19&unit=mm")
	assert.True(t, strings.HasPrefix(pdf.Body, "%PDF"))
	svg := st.Get("/mixing.svg?p=PY3&p=PB29").Body
	assert.True(t, strings.HasPrefix(svg, "<svg"))
	assert.Equal(t, 2*12, strings.Count(svg, "<rect"))
	for _, bad := range []string{"/mixing?p=PY3", "/mixing?p=PY3&p=X", "/mixing.pdf?p=PY3&p=PY3"} {
		assert.Equal(t, http.StatusUnprocessableEntity, st.Get(bad).Status, bad)
	}
}
