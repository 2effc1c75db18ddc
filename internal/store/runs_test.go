package store

import (
	"context"
	"math"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/learned"
	"chromaqua/core/run"
)

func runStore(t *testing.T) (*Store, int64) {
	s, err := Open(context.Background(), filepath.Join(t.TempDir(), "studio.db"))
	require.NoError(t, err)
	t.Cleanup(func() { require.NoError(t, s.Close()) })
	id, err := s.BeginRun(context.Background(), []byte(`{"lots":[{"card":7,"rev":3,"copies":2}]}`))
	require.NoError(t, err)
	return s, id
}

// Events come back in order as they were told; a press that arrives twice counts once, and
// a clock that is set back does not turn the run back.
func TestEventsAreAppended(t *testing.T) {
	ctx := context.Background()
	s, id := runStore(t)
	now := time.UnixMilli(1_900_000_000_000)
	s.now = func() time.Time { return now }
	done := run.Event{Kind: run.Done, Card: 1, Step: "panel/wash", Title: "Sky", Once: "press-1"}
	first, err := s.Tell(ctx, id, done)
	require.NoError(t, err)
	assert.Equal(t, int64(2), first.Seq)
	twice, err := s.Tell(ctx, id, done)
	require.NoError(t, err)
	assert.Zero(t, twice.Seq, "told already")
	now = now.Add(-time.Hour)
	back, err := s.Tell(ctx, id, run.Event{Kind: run.Paused})
	require.NoError(t, err)
	assert.Equal(t, first.At, back.At)
	all, err := s.Events(ctx, id, 0)
	require.NoError(t, err)
	require.Len(t, all, 3)
	assert.Equal(t, run.Began, all[0].Kind)
	done.Seq, done.At = 2, first.At
	assert.Equal(t, done, all[1])
	late, err := s.Events(ctx, id, 2)
	require.NoError(t, err)
	assert.Len(t, late, 1)
	_, err = s.Tell(ctx, id, run.Event{Kind: "danced"})
	assert.Error(t, err)
	_, err = s.Tell(ctx, 99, run.Event{Kind: run.Paused})
	assert.Error(t, err, "there is no such run")
}

// Two devices that press at once are both heard, one after the other.
func TestManyTellAtOnce(t *testing.T) {
	ctx := context.Background()
	s, id := runStore(t)
	var wg sync.WaitGroup
	for range 8 {
		wg.Go(func() {
			for range 10 {
				_, err := s.Tell(ctx, id, run.Event{Kind: run.Noted, Text: "x"})
				assert.NoError(t, err)
			}
		})
	}
	wg.Wait()
	all, err := s.Events(ctx, id, 0)
	require.NoError(t, err)
	require.Len(t, all, 81)
	for i, e := range all {
		assert.Equal(t, int64(i+1), e.Seq)
	}
}

func TestRunsGoOnAndEnd(t *testing.T) {
	ctx := context.Background()
	s, id := runStore(t)
	going, err := s.Going(ctx, 7)
	require.NoError(t, err)
	assert.Equal(t, []int64{id}, going)
	none, err := s.Going(ctx, 8)
	require.NoError(t, err)
	assert.Empty(t, none)
	end, err := s.Tell(ctx, id, run.Event{Kind: run.Ended})
	require.NoError(t, err)
	r, err := s.RunByID(ctx, id)
	require.NoError(t, err)
	assert.True(t, r.Over)
	_, err = s.Tell(ctx, id, run.Event{Kind: run.TookBack, Of: end.Seq})
	require.NoError(t, err)
	r, err = s.RunByID(ctx, id)
	require.NoError(t, err)
	assert.False(t, r.Over, "ending can be taken back")
	second, err := s.BeginRun(ctx, []byte(`{}`))
	require.NoError(t, err)
	list, err := s.Runs(ctx, 10)
	require.NoError(t, err)
	assert.Equal(t, []int64{second, id}, []int64{list[0].ID, list[1].ID})
	_, err = s.RunByID(ctx, 99)
	assert.ErrorIs(t, err, ErrNotFound)
}

// What was seen comes back as it was, goes with the event that told it, and can be
// forgotten.
func TestSeen(t *testing.T) {
	ctx := context.Background()
	s, id := runStore(t)
	told, err := s.Tell(ctx, id, run.Event{Kind: run.DryNow, Step: "x", Goal: run.Touch})
	require.NoError(t, err)
	book := learned.Book{}
	book.Add(learned.Air, "cotton", learned.Seen{Lo: math.Inf(-1), Hi: 0.25})
	book.Add(learned.Air, "cotton", learned.Seen{Lo: -0.5, Hi: math.Inf(1)})
	book.Add(learned.Pace, "flat", learned.Seen{Lo: 0.1, Hi: 0.1})
	mark, err := s.SeenMark(ctx)
	require.NoError(t, err)
	require.NoError(t, s.KeepSeen(ctx, id, told.Seq, book))
	got, err := s.Seen(ctx, 0)
	require.NoError(t, err)
	assert.Equal(t, book, got)
	after, err := s.SeenMark(ctx)
	require.NoError(t, err)
	assert.NotEqual(t, mark, after)
	other, err := s.Seen(ctx, id)
	require.NoError(t, err)
	assert.Empty(t, other)
	require.NoError(t, s.Unlearn(ctx, learned.Pace, "flat"))
	got, err = s.Seen(ctx, 0)
	require.NoError(t, err)
	assert.NotContains(t, got, learned.Pace)
	_, err = s.Tell(ctx, id, run.Event{Kind: run.TookBack, Of: told.Seq})
	require.NoError(t, err)
	got, err = s.Seen(ctx, 0)
	require.NoError(t, err)
	assert.Empty(t, got)
}

func TestPracticeIsKept(t *testing.T) {
	ctx := context.Background()
	s, _ := runStore(t)
	for i := range 25 {
		require.NoError(t, s.Practise(ctx, "stamp", i))
	}
	require.NoError(t, s.Practise(ctx, "lift", 77))
	got, err := s.Practice(ctx)
	require.NoError(t, err)
	require.Len(t, got, 2)
	assert.Equal(t, Practised{"lift", []int{77}}, got[0])
	assert.Len(t, got[1].Scores, 20)
	assert.Equal(t, 24, got[1].Scores[19], "the latest last")
}
