package bench_test

import (
	"fmt"
	"os/exec"
	"regexp"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/web/webtest"
)

// printed is the text of a card's sheet.
func printed(t *testing.T, st *webtest.Studio, card int) string {
	pdftotext, err := exec.LookPath("pdftotext")
	if err != nil {
		t.Skip("pdftotext is not installed")
	}
	c := exec.Command(pdftotext, "-layout", "-", "-")
	c.Stdin = strings.NewReader(st.Get(fmt.Sprintf("/cards/%d/bench.pdf", card)).Body)
	out, err := c.Output()
	require.NoError(t, err)
	return string(out)
}

// The printed sheet has the letters and brushes of the goes, and the care it takes, once.
func TestTheSheetOfGoes(t *testing.T) {
	st, _ := webtest.Painted(t)
	text := strings.Join(strings.Fields(printed(t, st, 1)), " ")
	for _, want := range []string{"1a", "1b", "1a Petals: ", "Very hot air", "heat 8 s: 2", "Flatten the panel under weight", "by heat where small, by air where big"} {
		assert.Contains(t, text, want)
	}
	assert.Equal(t, 1, strings.Count(text, "Very hot air"))
	for _, ready := range []string{"Lay ready", "tape, 447 mm", "heat tool; boards, a weight", "thin double-sided tape"} {
		assert.Contains(t, text, ready)
		assert.Contains(t, webtest.Plain(st.Get("/cards/1/bench").Body), ready)
	}
}

// A sheet to be glanced at from the paint: a card of nine areas takes less than six
// hundred words, on the screen as in print, beside what lies ready before, which takes sixty.
func TestTheSheetIsShort(t *testing.T) {
	const most = 600
	word := regexp.MustCompile(`[A-Za-z]{2,}`)
	st := webtest.Demo(t)
	st.Read(4)
	require.Len(t, st.Card(4).Card.Areas, 9)
	page := st.Get("/cards/4/bench").Body
	page = page[strings.Index(page, `<dl class="totals"`):strings.Index(page, "</main>")]
	words := func(html string) int {
		for _, out := range []string{`(?s)<form.*?</form>`, `(?s)<p class="quiet noprint">.*?</p>`, `<[^>]*>`} {
			html = regexp.MustCompile(out).ReplaceAllString(html, " ")
		}
		return len(word.FindAllString(html, -1))
	}
	ready := words(regexp.MustCompile(`(?s)<section aria-labelledby="ready">.*?</section>`).FindString(page))
	assert.Positive(t, ready)
	assert.Less(t, ready, 60)
	assert.Less(t, words(page)-ready, most)
	assert.Less(t, len(word.FindAllString(printed(t, st, 4), -1))-ready, most)
}
