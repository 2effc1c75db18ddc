package logs_test

import (
	"context"
	"encoding/json"
	"fmt"
	"net/http"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/demo"
	"chromaqua/internal/store"
	"chromaqua/internal/web/webtest"
)

func TestMain(m *testing.M) { webtest.Main(m) }

// A question in plain words finds the making, and the line that answers it.
func TestFindingWhatWasUsed(t *testing.T) {
	st := webtest.Demo(t)
	assert.Contains(t, st.Get("/log").Body, "Nothing yet")
	require.NoError(t, demo.Made(context.Background(), st.Store))
	body := st.Get("/log").Body
	for _, want := range []string{"Storm lantern", "Otter in the river", "Kelp, kept pale", "1 photo", "given to the north shore"} {
		assert.Contains(t, body, want)
	}
	body = webtest.Plain(st.Get("/log?q=Which+brown+was+it+on+the+brass%3F").Body)
	assert.NotContains(t, body, "Otter in the river", "it has no brass")
	body = webtest.Plain(st.Get("/log?q=which+ochre+was+it+on+the+brass%3F").Body)
	assert.Contains(t, body, "Brass: yellow ochre")
	assert.NotContains(t, body, "Otter in the river")
	assert.Contains(t, st.Get("/log?q=north+shore").Body, "Storm lantern", "what was said of it is found too")
	assert.Contains(t, st.Get("/log?q=submarine").Body, "Nothing that was made has all of these words")
	require.NoError(t, st.Store.SetState(t.Context(), 3, store.Deleted))
	assert.Contains(t, st.Get("/log?q=brass").Body, "Storm lantern", "a card that was deleted is still in the log")
	assert.Equal(t, http.StatusOK, st.Get("/cards/3/log").Status)
	st.Spoil("DELETE FROM revisions WHERE document = 3", "DELETE FROM documents WHERE id = 3")
	assert.Equal(t, http.StatusOK, st.Get("/log").Status, "one that is gone altogether does not hide the others")
	assert.Equal(t, http.StatusOK, st.Get("/log?q=brass").Status)
}

// crowded is a studio in which two thousand cards were made.
func crowded(t testing.TB) *webtest.Studio {
	st := webtest.Demo(t)
	for i := range store.MaxEntries {
		_, err := st.Store.PutEntry(context.Background(), store.Entry{Card: int64(1 + i%8), Day: fmt.Sprintf("2024-%02d-%02d", 1+i%12, 1+i%28), Copies: 1 + i%3, Turned: "as it should"})
		require.NoError(t, err)
	}
	return st
}

func TestTwoThousandEntries(t *testing.T) {
	st := crowded(t)
	_, err := st.Store.PutEntry(t.Context(), store.Entry{Card: 1, Day: "2024-01-01", Copies: 1})
	assert.ErrorContains(t, err, "take old ones away")
	assert.Contains(t, st.Get("/log").Body, "2000 in all; the latest 60 are shown")
	assert.Equal(t, http.StatusOK, st.Get("/log?q=lantern+ochre").Status)
	page := st.Get("/cards/1/log").Body
	assert.Contains(t, page, "older makings")
	assert.Less(t, len(page), 400_000, "they are not all on one page")
}

// BenchmarkLog opens the log of two thousand entries, and asks it something.
func BenchmarkLog(b *testing.B) {
	st := crowded(b)
	for _, q := range []string{"", "?q=which+blue+on+the+lantern"} {
		name, _ := json.Marshal(q)
		st.Get("/log" + q)
		b.Run(string(name), func(b *testing.B) {
			for b.Loop() {
				if st.Get("/log"+q).Status != http.StatusOK {
					b.Fatal("it does not open")
				}
			}
		})
	}
}
