package store_test

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/internal/store"
)

// raw runs statements on a SQLite file by the driver alone.
func raw(t testing.TB, path string, all ...string) {
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	for _, s := range all {
		_, err := db.Exec(s)
		require.NoError(t, err, s)
	}
	require.NoError(t, db.Close())
}

// A studio is known by its mark before anything is written: other files, and studios of a
// newer program, stay as they are to the byte.
func TestOnlyStudiosAreOpened(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	at := func(name string) string { return filepath.Join(dir, name) }
	raw(t, at("foreign.db"), "CREATE TABLE recipes (name TEXT)", "INSERT INTO recipes VALUES ('bread')")
	raw(t, at("marked.db"), "CREATE TABLE a (b)", "PRAGMA application_id = 1234")
	require.NoError(t, os.WriteFile(at("text.db"), []byte("no database at all, but long enough to have a header of its own, as one might think, or more than that"), 0o600))
	require.NoError(t, os.WriteFile(at("short.db"), []byte("SQLite format 3\x00"), 0o600))
	s, err := store.Open(ctx, at("newer.db"))
	require.NoError(t, err)
	require.NoError(t, s.Close())
	raw(t, at("newer.db"), "PRAGMA user_version = 999")
	for name, want := range map[string]error{"foreign.db": store.ErrForeign, "marked.db": store.ErrForeign, "text.db": store.ErrForeign, "short.db": store.ErrForeign, "newer.db": store.ErrNewer} {
		before, err := os.ReadFile(at(name))
		require.NoError(t, err)
		_, err = store.Open(ctx, at(name))
		require.ErrorIs(t, err, want, name)
		assert.ErrorContains(t, err, "--data", "it says what to do")
		_, err = store.OpenSamples(ctx, at(name))
		require.ErrorIs(t, err, want, name)
		after, err := os.ReadFile(at(name))
		require.NoError(t, err)
		assert.Equal(t, before, after, name)
	}
	for _, name := range []string{"none.db", "empty.db"} {
		if name == "empty.db" {
			require.NoError(t, os.WriteFile(at(name), nil, 0o600))
		}
		mark, err := store.MarkOf(ctx, at(name))
		require.NoError(t, err)
		assert.Zero(t, mark)
		s, err := store.OpenSamples(ctx, at(name))
		require.NoError(t, err, name)
		mark, err = store.MarkOf(ctx, at(name))
		require.NoError(t, err, "known while it is open, from the log beside it")
		assert.Equal(t, store.Samples, mark)
		require.NoError(t, s.Close())
	}
	s, err = store.Open(ctx, at("none.db")) // samples may be opened as what they are
	require.NoError(t, err)
	require.NoError(t, s.Close())
	mark, err := store.MarkOf(ctx, at("none.db"))
	require.NoError(t, err)
	assert.Equal(t, store.Samples, mark, "and stay that")
}

// A studio from before there were marks is known by its tables, and marked.
func TestStudiosWithoutAMark(t *testing.T) {
	ctx, path := context.Background(), filepath.Join(t.TempDir(), "old.db")
	s, err := store.Open(ctx, path)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	raw(t, path, "PRAGMA application_id = 0", "PRAGMA user_version = 0")
	mark, err := store.MarkOf(ctx, path)
	require.NoError(t, err)
	assert.Equal(t, store.Studio, mark)
	s, err = store.Open(ctx, path)
	require.NoError(t, err)
	require.NoError(t, s.Close())
	var id int
	db, err := sql.Open("sqlite", path)
	require.NoError(t, err)
	require.NoError(t, db.QueryRow("PRAGMA application_id").Scan(&id))
	assert.Equal(t, int(store.Studio), id)
	require.NoError(t, db.Close())
}

// One program at a time has a studio open.
func TestAStudioIsClaimedOnce(t *testing.T) {
	path := filepath.Join(t.TempDir(), "studio.db")
	release, err := store.Claim(path)
	require.NoError(t, err)
	_, err = store.Claim(path)
	require.ErrorIs(t, err, store.ErrInUse)
	require.NoError(t, release())
	release, err = store.Claim(path)
	require.NoError(t, err)
	require.NoError(t, release())
}

// studioOf is a studio with so many cards.
func studioOf(t testing.TB, path string, cards int) *store.Store {
	s, err := store.Open(context.Background(), path)
	require.NoError(t, err)
	t.Cleanup(func() { _ = s.Close() })
	for i := range cards {
		_, err := s.Create(context.Background(), card.New(fmt.Sprintf("Card %d", i+1), length.Inches), "made")
		require.NoError(t, err)
	}
	return s
}

func cardNames(t testing.TB, s *store.Store) (out []string) {
	all, _, err := s.Cards(context.Background(), store.Shown)
	require.NoError(t, err)
	for _, c := range all {
		out = append(out, c.Card.Name)
	}
	return out
}

// A backup has its name only once it is whole; what lies in its way is never replaced,
// and an attempt that ended half-way is no hindrance.
func TestBackupsAreWhole(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	s := studioOf(t, filepath.Join(dir, "studio.db"), 2)
	to := filepath.Join(dir, "copy.db")
	require.NoError(t, os.WriteFile(to+".part", []byte("half of one"), 0o600))
	require.NoError(t, s.Backup(ctx, to))
	assert.NoFileExists(t, to+".part")
	sum, err := store.Summarise(ctx, to)
	require.NoError(t, err)
	assert.Equal(t, 2, sum.Cards)
	assert.False(t, sum.Latest.IsZero())
	before, err := os.ReadFile(to)
	require.NoError(t, err)
	assert.ErrorContains(t, s.Backup(ctx, to), "exists already")
	after, err := os.ReadFile(to)
	require.NoError(t, err)
	assert.Equal(t, before, after)
	stopped, cancel := context.WithCancel(ctx)
	cancel()
	other := filepath.Join(dir, "other.db")
	assert.Error(t, s.Backup(stopped, other))
	assert.NoFileExists(t, other)
	assert.NoFileExists(t, other+".part")
	assert.Error(t, s.Backup(ctx, filepath.Join(dir, "no", "such", "folder.db")))

	for name, spoil := range map[string]func([]byte) []byte{
		"cut short": func(b []byte) []byte { return b[:len(b)/2] },
		"scribbled on": func(b []byte) []byte {
			for i := 8192; i < len(b); i += 7 {
				b[i] ^= 0x5a
			}
			return b
		},
	} {
		bad := filepath.Join(dir, name)
		require.NoError(t, os.WriteFile(bad, spoil(append([]byte(nil), before...)), 0o600))
		_, err := store.Summarise(ctx, bad)
		assert.ErrorContains(t, err, "damaged", name)
		_, err = s.Restore(ctx, bad)
		assert.Error(t, err)
		assert.Len(t, cardNames(t, s), 2, "the studio is as it was")
	}
}

// The studio goes back to a copy while it is in use, and from there to what it was.
func TestRestoring(t *testing.T) {
	ctx, dir := context.Background(), t.TempDir()
	s := studioOf(t, filepath.Join(dir, "studio.db"), 1)
	require.NoError(t, s.CopyToday(ctx))
	require.NoError(t, s.CopyToday(ctx), "there is one already")
	copies, err := s.Copies()
	require.NoError(t, err)
	require.Len(t, copies, 1)
	_, err = s.Create(ctx, card.New("Later", length.Inches), "made")
	require.NoError(t, err)
	was, err := s.Card(ctx, 1)
	require.NoError(t, err)
	kept, err := s.RestoreCopy(ctx, copies[0].Name)
	require.NoError(t, err)
	assert.Equal(t, []string{"Card 1"}, cardNames(t, s))
	now, err := s.Card(ctx, 1)
	require.NoError(t, err)
	assert.NotEqual(t, was.Epoch, now.Epoch, "what was computed of it before is not taken for it")
	_, err = s.RestoreCopy(ctx, kept)
	require.NoError(t, err)
	assert.ElementsMatch(t, []string{"Card 1", "Later"}, cardNames(t, s))
	_, err = s.RestoreCopy(ctx, "../studio")
	assert.ErrorIs(t, err, store.ErrNotFound)
	_, err = s.Restore(ctx, filepath.Join(dir, "none.db"))
	assert.Error(t, err)
	stopped, cancel := context.WithCancel(ctx)
	cancel()
	_, err = s.RestoreCopy(stopped, copies[0].Name)
	assert.Error(t, err)
	assert.Len(t, cardNames(t, s), 2)
	_, err = s.Create(ctx, card.New("Goes on", length.Inches), "made")
	require.NoError(t, err)
}

// Seven copies stay; the oldest go.
func TestCopiesAreForgotten(t *testing.T) {
	dir := t.TempDir()
	s := studioOf(t, filepath.Join(dir, "studio.db"), 1)
	require.NoError(t, os.MkdirAll(filepath.Join(dir, "studio.db-copies"), 0o755))
	for day := 1; day <= 9; day++ {
		require.NoError(t, os.WriteFile(filepath.Join(dir, "studio.db-copies", fmt.Sprintf("2020-01-%02d.db", day)), nil, 0o600))
	}
	require.NoError(t, os.WriteFile(filepath.Join(dir, "studio.db-copies", "notes.txt"), nil, 0o600))
	require.NoError(t, s.CopyToday(context.Background()))
	copies, err := s.Copies()
	require.NoError(t, err)
	require.Len(t, copies, 7)
	assert.Equal(t, "2020-01-04", copies[6].Name)
	assert.FileExists(t, filepath.Join(dir, "studio.db-copies", "notes.txt"))
	assert.False(t, errors.Is(err, store.ErrInUse))
}
