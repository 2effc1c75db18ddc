package store_test

import (
	"context"
	"fmt"
	"os"
	"path/filepath"
	"sync"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/paper"
	"chromaqua/core/proof"
	"chromaqua/core/settings"
	"chromaqua/core/shelf"
	"chromaqua/internal/store"
)

var ctx = context.Background()

func open(t testing.TB, path string) *store.Store {
	s, err := store.Open(ctx, path)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	return s
}

func file(t testing.TB) string { return filepath.Join(t.TempDir(), "a folder #1", "studio.db") }

func make1(t testing.TB, s *store.Store, name string) *store.Revision {
	id, err := s.Create(ctx, card.New(name, length.Inches), "made the card")
	require.NoError(t, err)
	return get(t, s, id)
}

func get(t testing.TB, s *store.Store, id int64) *store.Revision {
	r, err := s.Card(ctx, id)
	require.NoError(t, err)
	return r
}

// rename saves a new name on top of a revision.
func rename(t testing.TB, s *store.Store, r *store.Revision, name string) *store.Revision {
	r.Card.Name = name
	require.NoError(t, s.Save(ctx, r.ID, r.Seq, r.Card, "named it "+name))
	return get(t, s, r.ID)
}

func TestUndoAndRedoSurviveRestarts(t *testing.T) {
	path := file(t)
	s := open(t, path)
	r := make1(t, s, "one")
	assert.Empty(t, r.Undo, "the first revision cannot be undone")
	r = rename(t, s, r, "two")
	r = rename(t, s, r, "three")
	assert.Equal(t, "named it three", r.Undo)
	require.NoError(t, s.Undo(ctx, r.ID, r.Seq))
	require.NoError(t, s.Close())

	s = open(t, path)
	r = get(t, s, r.ID)
	assert.Equal(t, "two", r.Card.Name)
	assert.Equal(t, "named it three", r.Redo)
	require.NoError(t, s.Undo(ctx, r.ID, r.Seq))
	r = get(t, s, r.ID)
	assert.Equal(t, "one", r.Card.Name)
	require.NoError(t, s.Undo(ctx, r.ID, r.Seq), "nothing more to undo is no error")
	require.NoError(t, s.Redo(ctx, r.ID, r.Seq))
	r = get(t, s, r.ID)
	require.NoError(t, s.Redo(ctx, r.ID, r.Seq))
	assert.Equal(t, "three", get(t, s, r.ID).Card.Name)
}

// A change after undoing starts a branch; redo follows the newest.
func TestEditingAfterUndo(t *testing.T) {
	s := open(t, file(t))
	r := rename(t, s, make1(t, s, "one"), "two")
	require.NoError(t, s.Undo(ctx, r.ID, r.Seq))
	r = rename(t, s, get(t, s, r.ID), "other")
	assert.Empty(t, r.Redo)
	require.NoError(t, s.Undo(ctx, r.ID, r.Seq))
	r = get(t, s, r.ID)
	assert.Equal(t, "named it other", r.Redo)
	require.NoError(t, s.Redo(ctx, r.ID, r.Seq))
	assert.Equal(t, "other", get(t, s, r.ID).Card.Name)
}

func TestTwoTabs(t *testing.T) {
	s := open(t, file(t))
	r := make1(t, s, "one")
	stale := *r
	rename(t, s, r, "two")
	err := s.Save(ctx, stale.ID, stale.Seq, stale.Card, "late")
	assert.ErrorIs(t, err, store.ErrStale)
	assert.ErrorIs(t, s.Undo(ctx, stale.ID, stale.Seq), store.ErrStale)
	assert.Equal(t, "two", get(t, s, r.ID).Card.Name, "nothing was lost")
}

// Of many who save on top of the same revision, one wins.
func TestConcurrentSaves(t *testing.T) {
	s := open(t, file(t))
	r := make1(t, s, "one")
	var wg sync.WaitGroup
	results := make([]error, 16)
	for i := range results {
		wg.Go(func() {
			c := *r.Card
			c.Name = fmt.Sprint("tab ", i)
			results[i] = s.Save(ctx, r.ID, r.Seq, &c, "raced")
		})
	}
	wg.Wait()
	won := 0
	for _, err := range results {
		if err == nil {
			won++
		} else {
			assert.ErrorIs(t, err, store.ErrStale)
		}
	}
	assert.Equal(t, 1, won)
}

func TestNotFound(t *testing.T) {
	s := open(t, file(t))
	_, err := s.Card(ctx, 7)
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, err = s.Image(ctx, "nothing")
	assert.ErrorIs(t, err, store.ErrNotFound)
	assert.ErrorIs(t, s.Save(ctx, 7, 1, card.New("x", length.Inches), ""), store.ErrNotFound)
	empty, err := s.Empty(ctx)
	require.NoError(t, err)
	assert.True(t, empty)
}

func TestImagesAreStoredOnce(t *testing.T) {
	s := open(t, file(t))
	data := []byte("picture")
	m := store.Image{Hash: store.Hash(data), Title: "First", Media: "image/png", Width: 20, Height: 30, Data: data, Kept: true, Real: length.Inch, Facts: store.Facts{Kind: shelf.LineImage}}
	require.NoError(t, s.PutImage(ctx, store.Latest, m))
	again := m
	again.Title = "Second"
	require.NoError(t, s.PutImage(ctx, store.Latest, again))
	got, err := s.Image(ctx, m.Hash)
	require.NoError(t, err)
	assert.Equal(t, &m, got)
	list, err := s.Library(ctx)
	require.NoError(t, err)
	require.Len(t, list, 1)
	assert.Nil(t, list[0].Data, "lists are light")
}

// A card and its images come in together or not at all.
func TestCreateWithImagesIsAllOrNothing(t *testing.T) {
	s := open(t, file(t))
	bad := store.Image{Hash: "h", Title: "x", Media: "image/png", Width: 1, Height: 1} // no data: the column refuses it
	_, err := s.CreateWithImages(ctx, card.New("x", length.Inches), []store.Image{bad}, "imported")
	require.Error(t, err)
	empty, err := s.Empty(ctx)
	require.NoError(t, err)
	assert.True(t, empty)
}

func TestBackup(t *testing.T) {
	s := open(t, file(t))
	make1(t, s, "kept")
	to := filepath.Join(t.TempDir(), "copy.db")
	require.NoError(t, s.Backup(ctx, to))
	assert.ErrorContains(t, s.Backup(ctx, to), "exists already")
	cards, _, err := open(t, to).Cards(ctx, store.Shown)
	require.NoError(t, err)
	require.Len(t, cards, 1)
	assert.Equal(t, "kept", cards[0].Card.Name)
}

func TestAFileThatIsNoStudio(t *testing.T) {
	path := filepath.Join(t.TempDir(), "letter.txt")
	text := []byte("Dear aunt, thank you for the paints. They are lovely. More than sixteen bytes follow here.")
	require.NoError(t, os.WriteFile(path, text, 0o600))
	_, err := store.Open(ctx, path)
	assert.ErrorContains(t, err, "this is no studio of Chromaqua")
	now, err := os.ReadFile(path)
	require.NoError(t, err)
	assert.Equal(t, text, now, "it is left as it was")
}

func BenchmarkCard(b *testing.B) {
	s := open(b, file(b))
	r := make1(b, s, "one")
	for b.Loop() {
		if _, err := s.Card(ctx, r.ID); err != nil {
			b.Fatal(err)
		}
	}
}

func BenchmarkSave(b *testing.B) {
	s := open(b, file(b))
	r := make1(b, s, "one")
	seq := r.Seq
	for b.Loop() {
		if err := s.Save(ctx, r.ID, seq, r.Card, "again"); err != nil {
			b.Fatal(err)
		}
		seq++
	}
}

// The paper on hand is one document, whoever asks first, and its changes can be
// undone like a card's.
func TestPaperOnHand(t *testing.T) {
	s := open(t, file(t))
	var wg sync.WaitGroup
	for range 8 {
		wg.Go(func() {
			_, err := s.Paper(ctx)
			assert.NoError(t, err)
		})
	}
	wg.Wait()
	r, err := s.Paper(ctx)
	require.NoError(t, err)
	r.Stock.Add(paper.Item{Kind: paper.Sheet, Paper: "cotton-cp", Size: length.Size{W: length.Inch, H: length.Inch}, Qty: 3})
	require.NoError(t, s.SavePaper(ctx, r.ID, r.Seq, r.Stock, "added"))
	assert.ErrorIs(t, s.SavePaper(ctx, r.ID, r.Seq, r.Stock, "late"), store.ErrStale)
	r, err = s.Paper(ctx)
	require.NoError(t, err)
	assert.Len(t, r.Stock.Items, 1)
	require.NoError(t, s.Undo(ctx, r.ID, r.Seq))
	r, err = s.Paper(ctx)
	require.NoError(t, err)
	assert.Empty(t, r.Stock.Items)
	assert.Equal(t, "added", r.Redo)

	// It is no card, and cards are numbered from 1.
	_, err = s.Card(ctx, r.ID)
	assert.ErrorIs(t, err, store.ErrNotFound)
	assert.EqualValues(t, 1, make1(t, s, "first").ID)
	assert.ErrorIs(t, s.SetState(ctx, r.ID, store.Deleted), store.ErrNotFound)
}

func TestStates(t *testing.T) {
	s := open(t, file(t))
	r := make1(t, s, "one")
	list := func(in store.State) int {
		cards, _, err := s.Cards(ctx, in)
		require.NoError(t, err)
		return len(cards)
	}
	for _, to := range []store.State{store.Archived, store.Deleted, store.Shown} {
		require.NoError(t, s.SetState(ctx, r.ID, to))
		assert.Equal(t, 1, list(to))
		assert.Equal(t, 1, list(store.Shown)+list(store.Archived)+list(store.Deleted))
		assert.Equal(t, "one", get(t, s, r.ID).Card.Name, "it is there whatever its state")
	}
	assert.Error(t, s.SetState(ctx, r.ID, "burnt"))
}

func TestTestsAreKept(t *testing.T) {
	s := open(t, filepath.Join(t.TempDir(), "studio.db"))
	r := proof.Record{Of: proof.Of{Ink: "pen", Paper: "kraft"}, Waited: time.Minute, Image: "x", WaterTest: proof.WaterTest{BleedMM: 0.2, Verdict: proof.Soft}}
	id, err := s.AddTest(ctx, store.Latest, r, store.Image{Hash: "x", Title: "Strip", Media: "image/png", Width: 1, Height: 1, Data: []byte{1}})
	require.NoError(t, err)
	tests, err := s.Tests(ctx, false)
	require.NoError(t, err)
	require.Len(t, tests, 1)
	assert.Equal(t, r, tests[0].Record)
	require.NoError(t, s.HideTest(ctx, store.Latest, id))
	tests, err = s.Tests(ctx, false)
	require.NoError(t, err)
	assert.Empty(t, tests)
	tests, err = s.Tests(ctx, true)
	require.NoError(t, err)
	assert.True(t, tests[0].Hidden)
	assert.ErrorIs(t, s.HideTest(ctx, store.Latest, 99), store.ErrNotFound)
	_, err = s.Image(ctx, "x")
	assert.NoError(t, err, "the scan is kept with it")
}

// The settings are one document with revisions of its own.
func TestSettings(t *testing.T) {
	path := file(t)
	s := open(t, path)
	var wg sync.WaitGroup
	for range 5 { // whoever asks first makes it
		wg.Go(func() {
			_, err := s.Settings(ctx)
			assert.NoError(t, err)
		})
	}
	wg.Wait()
	r, err := s.Settings(ctx)
	require.NoError(t, err)
	assert.Equal(t, settings.Default(), r.Settings)
	assert.Empty(t, r.Undo)
	changed := r.Settings
	changed.Pace, changed.Hand = 3, settings.Left
	require.NoError(t, s.SaveSettings(ctx, r.ID, r.Seq, changed, "slower"))
	require.ErrorIs(t, s.SaveSettings(ctx, r.ID, r.Seq, changed, "again"), store.ErrStale)
	bad := changed
	bad.Rack = -1
	require.ErrorContains(t, s.SaveSettings(ctx, r.ID, 2, bad, "bad"), "rack")
	require.NoError(t, s.Close())
	s = open(t, path)
	r, err = s.Settings(ctx)
	require.NoError(t, err)
	assert.Equal(t, changed, r.Settings)
	assert.Equal(t, "slower", r.Undo)
	require.NoError(t, s.Undo(ctx, r.ID, r.Seq))
	r, err = s.Settings(ctx)
	require.NoError(t, err)
	assert.Equal(t, settings.Default(), r.Settings)
	empty, err := s.Empty(ctx)
	require.NoError(t, err)
	assert.True(t, empty, "settings are no card")
}
