package web_test

import (
	"net/http"
	"net/url"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/web/webtest"
)

// asked are the addresses whose queries say something, with the names they know.
var asked = []struct{ path, names string }{
	{"/", "q sort archive deleted"}, {"/new", "piece unit envelope width height"}, {"/paper", "unit moved"}, {"/library", "q unit gone"}, {"/tests", "gone moved"},
	{"/settings", "kept moved"}, {"/cut", "n-1 skip if unit"}, {"/mixing", "a b c unit"}, {"/mixing.svg", "a b unit"}, {"/swatches", "ci name"}, {"/swatches.svg", "unit"}, {"/strip.pdf", "lines unit"},
	{"/lengths", "mm unit"}, {"/cards/1/colour", "area want show image"}, {"/cards/1/line", "image"}, {"/cards/1/order", "after step"}, {"/cards/1/format", "show"}, {"/cards/1/ways", "from to turn"},
	{"/cards/1/similar", "cell"}, {"/cards/1/line.png", "v"}, {"/cards/1/bench.pdf", "unit"},
}

// FuzzQueries asks every address with words of all kinds: it is never a fault of ours.
func FuzzQueries(f *testing.F) {
	st := webtest.WithGrid(f)
	for i := range asked {
		for _, v := range []string{"", "1", "-1", "x", "1e999", "5 1/8 x 9", "%00", "<b>", "PB29", "#7a8fc2", strings.Repeat("9", 400)} {
			f.Add(uint8(i), v, v)
		}
	}
	f.Fuzz(func(t *testing.T, at uint8, first, other string) {
		a := asked[int(at)%len(asked)]
		query := url.Values{}
		for i, name := range strings.Fields(a.names) {
			query.Set(name, []string{first, other}[i%2])
		}
		resp, err := http.Get(st.URL + a.path + "?" + query.Encode())
		require.NoError(t, err)
		require.NoError(t, resp.Body.Close())
		assert.Less(t, resp.StatusCode, http.StatusInternalServerError, "%s", resp.Request.URL)
	})
}
