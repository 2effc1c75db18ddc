package main

import (
	"context"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/internal/store"
)

// studioFile is a studio with one card of that name, closed.
func studioFile(t testing.TB, path, name string) {
	s, err := store.Open(context.Background(), path)
	require.NoError(t, err)
	_, err = s.Create(context.Background(), card.New(name, length.Inches), "made")
	require.NoError(t, err)
	require.NoError(t, s.Close())
}

func cardsOf(t testing.TB, path string) (names []string) {
	s, err := store.Open(context.Background(), path)
	require.NoError(t, err)
	defer s.Close()
	all, _, err := s.Cards(context.Background(), store.Shown)
	require.NoError(t, err)
	for _, c := range all {
		names = append(names, c.Card.Name)
	}
	return names
}

// A backup tells what is in it, and puts the studio back when that is really meant.
func TestRestore(t *testing.T) {
	dir := t.TempDir()
	data, copied := filepath.Join(dir, "studio.db"), filepath.Join(dir, "copy.db")
	studioFile(t, data, "Before")
	code, _, errOut := call("", "backup", copied, "--data", data)
	require.Equal(t, done, code, errOut)
	require.NoError(t, os.Remove(data))
	studioFile(t, data, "After")

	code, out, errOut := call("", "restore", copied, "--data", data)
	require.Equal(t, done, code, errOut)
	assert.Contains(t, out, "holds 1 card and 0 images, last changed on")
	assert.Contains(t, out, "add --yes")
	assert.Equal(t, []string{"After"}, cardsOf(t, data), "it was only told")

	release, err := store.Claim(data)
	require.NoError(t, err)
	code, _, errOut = call("", "restore", copied, "--data", data, "--yes")
	assert.Equal(t, failed, code)
	assert.Contains(t, errOut, "open in another Chromaqua")
	require.NoError(t, release())

	code, out, errOut = call("", "restore", copied, "--data", data, "--yes")
	require.Equal(t, done, code, errOut)
	assert.Contains(t, out, "is kept beside it")
	assert.Equal(t, []string{"Before"}, cardsOf(t, data))
	code, _, errOut = call("", "restore", filepath.Join(dir, "none.db"), "--data", data, "--yes")
	assert.Equal(t, failed, code)
	assert.Contains(t, errOut, "no studio of Chromaqua")
}

// --reset throws away samples that nobody has open, and nothing else.
func TestResetTakesSamplesOnly(t *testing.T) {
	dir := t.TempDir()
	own, other, samples := filepath.Join(dir, "studio.db"), filepath.Join(dir, "other.db"), filepath.Join(dir, "demo.db")
	studioFile(t, own, "Mine")
	require.NoError(t, os.WriteFile(other, []byte("SQLite format 3\x00 of somebody else, and long enough to be a header, as one of a hundred bytes or so has to be"), 0o600))
	s, err := store.OpenSamples(context.Background(), samples)
	require.NoError(t, err)
	require.NoError(t, s.Close())

	assert.ErrorContains(t, removeSamples(context.Background(), own), "work of your own")
	assert.Equal(t, []string{"Mine"}, cardsOf(t, own))
	before, err := os.ReadFile(other)
	require.NoError(t, err)
	assert.ErrorIs(t, removeSamples(context.Background(), other), store.ErrForeign)
	after, err := os.ReadFile(other)
	require.NoError(t, err)
	assert.Equal(t, before, after)
	require.NoError(t, removeSamples(context.Background(), filepath.Join(dir, "none.db")))

	release, err := store.Claim(samples)
	require.NoError(t, err)
	code, _, errOut := call("", "demo", "--reset", "--data", samples, "--addr", "127.0.0.1:0")
	assert.Equal(t, failed, code)
	assert.Contains(t, errOut, "open in another Chromaqua")
	assert.FileExists(t, samples)
	require.NoError(t, release())
	require.NoError(t, removeSamples(context.Background(), samples))
	assert.NoFileExists(t, samples)
	code, _, errOut = call("", "serve", "--data", other, "--addr", "127.0.0.1:0")
	assert.Equal(t, failed, code)
	assert.Contains(t, errOut, "nothing of it was changed")
}

// A damaged studio says at the start how to go back to its last copy, and that works.
func TestADamagedStudioOffersItsCopy(t *testing.T) {
	data := filepath.Join(t.TempDir(), "studio.db")
	s, err := store.Open(t.Context(), data)
	require.NoError(t, err)
	_, err = s.Create(t.Context(), card.New("Kept", length.Inches), "made")
	require.NoError(t, err)
	require.NoError(t, s.CopyToday(t.Context()))
	copies, err := s.Copies()
	require.NoError(t, err)
	require.NoError(t, s.Close())
	content, err := os.ReadFile(data)
	require.NoError(t, err)
	for i := 4096; i < len(content); i++ {
		content[i] = 'x'
	}
	require.NoError(t, os.WriteFile(data, content, 0o600))
	code, _, errOut := call("", "serve", "--data", data, "--addr", freeAddr(t))
	assert.Equal(t, failed, code)
	assert.Contains(t, errOut, "chromaqua restore \""+copies[0].Path+"\" --data \""+data+"\" --yes")
	code, out, errOut := call("", "restore", copies[0].Path, "--data", data, "--yes")
	assert.Equal(t, done, code, errOut)
	assert.Contains(t, out, "damaged")
	s, err = store.Open(t.Context(), data)
	require.NoError(t, err)
	defer s.Close()
	all, _, err := s.Cards(t.Context(), store.Shown)
	require.NoError(t, err)
	require.Len(t, all, 1)
	assert.Equal(t, "Kept", all[0].Card.Name)
}
