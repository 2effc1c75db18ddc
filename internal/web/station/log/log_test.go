package log_test

import (
	"context"
	"encoding/csv"
	"net/http"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/run"
	"chromaqua/internal/bench"
	"chromaqua/internal/desk"
	"chromaqua/internal/web/webtest"
)

func TestMain(m *testing.M) { webtest.Main(m) }

// A card that was painted tells when and with what, how long it took, what went wrong, how
// it turned out; and is made again.
func TestTheLog(t *testing.T) {
	st := webtest.Demo(t)
	st.Read(4)
	assert.Contains(t, st.Get("/cards/4/log").Body, "Nothing was made of it yet")
	now := time.Date(2026, 11, 20, 19, 0, 0, 0, time.Local)
	clock := func() time.Time { return now }
	st.Store.SetClock(clock)
	d := desk.New(st.Store)
	t.Cleanup(d.Close)
	b := bench.New(d)
	b.SetClock(clock)
	ctx := context.Background()
	id, err := b.Begin(ctx, []bench.Lot{{Card: 4, Copies: 1}}, 3)
	require.NoError(t, err)
	v, err := b.Show(ctx, id)
	require.NoError(t, err)
	tell := func(after time.Duration, e run.Event) {
		now = now.Add(after)
		require.NoError(t, b.Tell(ctx, id, e))
	}
	step := func(op int) string { return v.State.Ops[op].Key }
	tell(3*time.Minute, run.Event{Kind: run.Done, Step: step(0)})
	tell(4*time.Minute, run.Event{Kind: run.Done, Step: step(1)})
	tell(time.Minute, run.Event{Kind: run.Skipped, Step: step(2)})
	wash := 0
	for op := range v.State.Ops {
		if wash == 0 && v.State.Ops[op].Step.Water > 0 {
			wash = op
		}
	}
	tell(5*time.Minute, run.Event{Kind: run.Done, Step: step(wash)})
	tell(time.Minute, run.Event{Kind: run.Repaired, Step: step(wash), Fix: "bloom/1/hands-off"})
	tell(time.Minute, run.Event{Kind: run.Noted, Text: "the window was open"})
	tell(time.Minute, run.Event{Kind: run.Ended})
	tell(time.Hour, run.Event{Kind: run.Turned, Text: "=soft"})
	assert.Error(t, b.Tell(ctx, id, run.Event{Kind: run.Paused}), "it has ended")

	page := st.Get("/cards/4/log")
	require.Equal(t, http.StatusOK, page.Status)
	for _, says := range []string{
		"20 November 2026, 19:00", "It took <strong>about 15 min</strong>", "Cotton cold press 300 gsm", "station blue", "A bloom: Hands off until it is bone dry", "The window was open.", "left out", `value="=soft"`, "4 steps, planned and real",
	} {
		assert.Contains(t, page.Body, says)
	}
	assert.Contains(t, st.Get("/cards/6/log").Body, "Nothing was made of it yet")

	table := st.Get("/cards/4/log.csv").Body
	rows, err := csv.NewReader(strings.NewReader(table)).ReadAll()
	require.NoError(t, err)
	require.Len(t, rows, 5)
	assert.Equal(t, []string{"run", "begun", "card", "step", "planned_s", "took_s", "left_out", "turned_out", "went"}, rows[0])
	assert.Equal(t, "180", rows[1][5])
	assert.Equal(t, "240", rows[2][5])
	assert.Equal(t, "yes", rows[3][6])
	assert.Equal(t, "'=soft", rows[1][7], "safe in a spreadsheet")

	again := st.Post("/bench", "card", "4", "copies-4", "1")
	assert.Equal(t, "/bench/2", again.Path)
	assert.Contains(t, st.Get("/cards/4/log").Body, "going on")
	back := st.Post("/bench/1", "kind", "went", "text", "to the lighthouse", "back", "log", "from", "4")
	assert.Equal(t, "/cards/4/log", back.Path)
	assert.Contains(t, back.Body, "to the lighthouse")
}
