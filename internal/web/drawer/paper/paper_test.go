package paper_test

import (
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/length"
	"chromaqua/internal/web/webtest"
)

func TestPaperOnHand(t *testing.T) {
	st := webtest.New(t)
	assert.Contains(t, st.Get("/paper").Body, "No paper yet")
	a := st.Post("/paper/edit", "edit", "add", "unit", "in", "kind", "pad", "paper", "cotton-cp", "colour", "warm <white>", "size", "9 x 12", "grain", "height", "weight", "300", "quantity", "10", "price", "1,20")
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Contains(t, a.Body, "warm &lt;white&gt;")
	it := st.Paper().Stock.Items[0]
	assert.Equal(t, 120, it.Price)
	st.Post("/paper/edit", "edit", "quantity", "id", it.ID, "quantity", "7")
	assert.Equal(t, 7, st.Paper().Stock.Items[0].Qty)
	st.Post("/paper/edit", "edit", "least", "unit", "mm", "least", "60 x 80")
	assert.Equal(t, 60*length.Millimetre, st.Paper().Stock.Least.W)

	table := st.Get("/paper.csv").Body
	st.Post("/paper/edit", "edit", "remove", "id", it.ID)
	assert.Empty(t, st.Paper().Stock.Items)
	a = st.Send("/paper/import", "paper.csv", []byte(table))
	require.Equal(t, http.StatusOK, a.Status, webtest.Message(a.Body))
	assert.Equal(t, 7, st.Paper().Stock.Items[0].Qty)
	st.Post("/paper/undo")
	assert.Empty(t, st.Paper().Stock.Items)
	st.Post("/paper/undo")
	assert.Len(t, st.Paper().Stock.Items, 1)
	st.Post("/paper/redo")

	seq := st.Paper().Seq
	for why, pairs := range map[string][]string{
		"size":            {"edit", "add", "kind", "pad", "paper", "cotton-cp", "size", "3/0 x 4"},
		"is no price":     {"edit", "add", "kind", "pad", "paper", "cotton-cp", "size", "3 x 4", "price", "dear"},
		"no paper":        {"edit", "add", "kind", "pad", "paper", "parchment", "size", "3 x 4"},
		"whole number":    {"edit", "add", "kind", "pad", "paper", "cotton-cp", "size", "3 x 4", "quantity", "many"},
		"gone":            {"edit", "quantity", "id", "p9", "quantity", "1"},
		"another version": {"edit", "fold"},
	} {
		a := st.Post("/paper/edit", pairs...)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status, why)
		assert.Contains(t, webtest.Message(a.Body), why)
	}
	a = st.Send("/paper/import", "paper.csv", []byte("kind,paper,width,height,quantity\npad,cotton-cp,9,12,5\npad,cotton-cp,nine,12,5\n"))
	assert.Contains(t, webtest.Message(a.Body), "nothing was imported: line 3, column 3 (width)")
	assert.Equal(t, seq, st.Paper().Seq)
	assert.Equal(t, http.StatusConflict, st.Post("/paper/edit", "base", "1", "edit", "least", "least", "1 x 1").Status)
}
