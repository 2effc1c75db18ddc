package line_test

import (
	"net/http"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/web/webtest"
)

var cellsSaid = regexp.MustCompile(`\d+ cells`)

// The line is laid out where it is asked for, printed, and what is printed can be brought
// in again as a line image of its true size.
func TestTheLineIsPrintedAndBroughtIn(t *testing.T) {
	st := webtest.WithGrid(t)
	was := st.Card(1).Card.Line().Width.MM()
	a := st.Get("/cards/1/line")
	cells := cellsSaid.FindString(a.Body)
	require.NotEmpty(t, cells)
	assert.Contains(t, a.Body, "Print the line on the painting paper")
	assert.NotContains(t, a.Body, "The line to print, PDF", "nobody has asked")
	a = st.Get("/cards/1/line?print=yes&paper=a4&tone=sepia&edge=6&bar=&grain=long+side")
	for _, part := range []string{"1 piece on 1 sheet of ISO A4", "The line to print, PDF", "print the test page first", `class="piece"`, "print.pdf?edge=6&amp;grain=long&#43;side&amp;of=panel&amp;paper=a4&amp;tone=sepia"} {
		assert.Contains(t, a.Body, part)
	}
	for why, q := range map[string]string{"no paper for a printer": "paper=vellum", "0 to 30 mm": "edge=50", "edge that is not printed": "edge=wide", "is no length of the bar": "bar=long", "measures 80 to 120 mm": "bar=12", "no line to print": "of=p9"} {
		assert.Contains(t, st.Get("/cards/1/line?print=yes&"+q).Body, why)
		a := st.Get("/cards/1/print.pdf?" + q)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
		assert.Contains(t, a.Body, why)
	}
	assert.True(t, strings.HasPrefix(st.Get("/cards/1/print-test.pdf?paper=letter").Body, "%PDF-"))
	assert.Contains(t, st.Get("/cards/1/print-test.pdf?paper=own").Body, "choose one first")

	pdf := st.Get("/cards/1/print.pdf?paper=own&edge=0").Body
	require.True(t, strings.HasPrefix(pdf, "%PDF-"), pdf)
	for why, page := range map[string]string{"has 1 pages": "2", "no page of a PDF": "first", "none of them": "99999"} {
		a := st.Send("/cards/1/upload", "line.pdf", []byte(pdf), "back", "line", "page", page)
		assert.Equal(t, http.StatusUnprocessableEntity, a.Status)
		assert.Contains(t, webtest.Message(a.Body), why)
	}
	b := st.Send("/cards/1/upload", "line.pdf", []byte(pdf), "back", "line", "width", "", "page", "1", "instead", "yes")
	require.Equal(t, http.StatusOK, b.Status, webtest.Message(b.Body))
	m := st.Card(1).Card.Line()
	assert.Equal(t, "line", m.Title)
	assert.InDelta(t, was, m.Width.MM(), 5, "cut to what is on it, with 2 mm of paper")
	st.Read(1)
	assert.Equal(t, cells, cellsSaid.FindString(st.Get("/cards/1/line").Body))
}
