package store_test

import (
	"context"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/shelf"
	"chromaqua/internal/store"
)

// Pictures that nothing names are listed and cleared; those of the library, of cards as they
// are and of cards as they were stay, whatever is asked.
func TestUnusedPictures(t *testing.T) {
	ctx := context.Background()
	s, err := store.Open(ctx, filepath.Join(t.TempDir(), "studio.db"))
	require.NoError(t, err)
	defer s.Close()
	picture := func(title string, kept bool) store.Image {
		data := []byte("a picture of " + title)
		m := store.Image{Hash: store.Hash(data), Title: title, Media: "image/png", Width: 40, Height: 30, Data: data, Kept: kept}
		require.NoError(t, s.PutImage(ctx, store.Latest, m))
		return m
	}
	stray, kept, used, was := picture("stray", false), picture("kept", true), picture("used", false), picture("was", false)
	put := func(c *card.Card, m store.Image) {
		id, err := c.Lay(card.Scan{Image: m.Hash, Title: m.Title, WidthPX: 40, HeightPX: 30, Width: 40 * length.Millimetre}, shelf.LineImage)
		require.NoError(t, err)
		require.NotEmpty(t, id)
	}
	c := card.New("x", length.Inches)
	put(c, was)
	id, err := s.Create(ctx, c, "made")
	require.NoError(t, err)
	rev, err := s.Card(ctx, id)
	require.NoError(t, err)
	rev.Card.Images = nil
	put(rev.Card, used)
	require.NoError(t, s.Save(ctx, id, rev.Seq, rev.Card, "another"))

	unused, bytes, err := s.Unused(ctx)
	require.NoError(t, err)
	require.Len(t, unused, 1)
	assert.Equal(t, stray.Hash, unused[0].Hash)
	assert.EqualValues(t, len(stray.Data), bytes)
	n, err := s.Clear(ctx, []string{stray.Hash, kept.Hash, used.Hash, was.Hash, "nonsense"})
	require.NoError(t, err)
	assert.Equal(t, 1, n)
	_, err = s.Image(ctx, stray.Hash)
	assert.ErrorIs(t, err, store.ErrNotFound)
	for _, m := range []store.Image{kept, used, was} {
		_, err := s.Image(ctx, m.Hash)
		assert.NoError(t, err, m.Title)
	}
	require.NoError(t, s.Undo(ctx, id, rev.Seq+1), "what a card was can be gone back to")
}

// A studio is moved whole, with its copies, or stays where it is.
func TestMove(t *testing.T) {
	ctx := context.Background()
	dir := t.TempDir()
	from := filepath.Join(dir, "studio.db")
	s, err := store.Open(ctx, from)
	require.NoError(t, err)
	for i := range 20 {
		_, err = s.Create(ctx, card.New(fmt.Sprint("card ", i), length.Inches), "made")
		require.NoError(t, err)
	}
	require.NoError(t, s.CopyToday(ctx))
	require.NoError(t, s.Close())
	there := filepath.Join(dir, "there.db")
	require.NoError(t, os.WriteFile(there, nil, 0o600))
	blocked := filepath.Join(there, "below", "studio.db")
	for _, bad := range []string{"", "studio.db", dir, there, blocked, filepath.Join(dir, "a\x00b")} {
		assert.Error(t, store.Move(ctx, from, bad), bad)
		_, err := os.Stat(from)
		assert.NoError(t, err, "it is where it was")
	}
	to := filepath.Join(dir, "a new folder", "cards.db")
	require.NoError(t, store.Move(ctx, from, to))
	_, err = os.Stat(from)
	assert.ErrorIs(t, err, os.ErrNotExist)
	in, err := store.Summarise(ctx, to)
	require.NoError(t, err)
	assert.Equal(t, 20, in.Cards)
	copies, err := store.CopiesOf(to)
	require.NoError(t, err)
	assert.Len(t, copies, 1)
	assert.Positive(t, store.Bytes(to))
	again, err := store.Open(ctx, to)
	require.NoError(t, err)
	_, err = again.Card(ctx, 1)
	require.NoError(t, errors.Join(err, again.Close()))
}
