package store_test

import (
	"context"
	"database/sql"
	"os"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
	"chromaqua/internal/store"
)

// shelfSays are the names on the shelf, and what can be taken back and done again.
func shelfSays(t testing.TB, s *store.Store) (own []string, undo, redo string) {
	all, err := s.Materials(ctx)
	require.NoError(t, err)
	h, err := s.ShelfHead(ctx)
	require.NoError(t, err)
	return names(all), h.Undo, h.Redo
}

// What is done to the shelf is taken back and done again, one change at a time, whatever
// it was; and nothing is changed on top of what its page did not show.
func TestTheShelfIsUndone(t *testing.T) {
	s := open(t, file(t))
	ink := func(name, like string) shelf.Own { return shelf.Own{What: shelf.OwnInk, Name: name, Like: like} }
	base := func() int64 {
		h, err := s.ShelfHead(ctx)
		require.NoError(t, err)
		return h.Seq
	}
	first := base()
	assert.EqualValues(t, 1, first)
	require.NoError(t, s.PutMaterials(ctx, base(), []shelf.Own{ink("Ash: grey", "pen"), ink("Moss", "pen")}, "added two"))
	require.NoError(t, s.PutMaterials(ctx, base(), []shelf.Own{ink("Moss", "dye")}, "changed Moss"))
	require.NoError(t, s.HideMaterial(ctx, base(), shelf.OwnInk, "Ash: grey"))
	assert.ErrorIs(t, s.PutMaterials(ctx, first, []shelf.Own{ink("Late", "pen")}, "late"), store.ErrStale)
	assert.ErrorIs(t, s.HideMaterial(ctx, base()-1, shelf.OwnInk, "Moss"), store.ErrStale)
	was := base()
	require.NoError(t, s.PutMaterials(ctx, base(), []shelf.Own{ink("Moss", "dye")}, "changed nothing"))
	assert.Equal(t, was, base(), "what changes nothing is nothing to take back")

	id := func() int64 {
		h, err := s.ShelfHead(ctx)
		require.NoError(t, err)
		return h.ID
	}()
	steps := []struct {
		own        []string
		like       string
		undo, redo string
	}{
		{[]string{"Moss"}, "dye", "put Ash: grey away", ""},
		{[]string{"Ash: grey", "Moss"}, "dye", "changed Moss", "put Ash: grey away"},
		{[]string{"Ash: grey", "Moss"}, "pen", "added two", "changed Moss"},
		{nil, "", "", "added two"},
	}
	check := func(i int) {
		own, undo, redo := shelfSays(t, s)
		assert.Equal(t, steps[i].own, own, i)
		assert.Equal(t, steps[i].undo, undo, i)
		assert.Equal(t, steps[i].redo, redo, i)
		all, err := s.Materials(ctx)
		require.NoError(t, err)
		if len(all) > 0 {
			assert.Equal(t, steps[i].like, all[len(all)-1].Like, i)
		}
	}
	for i := range steps {
		check(i)
		require.NoError(t, s.Undo(ctx, id, base()))
	}
	check(3) // there is nothing before it
	for i := 2; i >= 0; i-- {
		require.NoError(t, s.Redo(ctx, id, base()))
		check(i)
	}
	assert.ErrorIs(t, s.Undo(ctx, id, 1), store.ErrStale)
}

// So are the library and the tests; pictures and records stay, for cards speak of them.
func TestLibraryAndTestsAreUndone(t *testing.T) {
	s := open(t, file(t))
	crab := store.Image{Hash: store.Hash([]byte("crab")), Title: "Crab", Media: "image/png", Width: 1, Height: 1, Data: []byte("crab"), Kept: true}
	require.NoError(t, s.PutImage(ctx, store.Latest, crab))
	crab.Facts, crab.Title, crab.Real = store.Facts{Kind: shelf.LineImage, Notes: "left claw"}, "Hermit", 30*length.Millimetre
	require.NoError(t, s.Describe(ctx, store.Latest, crab, "changed Hermit"))
	turned := store.Image{Hash: store.Hash([]byte("turned")), Title: "Hermit", Media: "image/png", Width: 1, Height: 1, Data: []byte("turned"), Kept: true}
	require.NoError(t, s.ReplaceImage(ctx, store.Latest, crab.Hash, turned, "straightened Hermit"))
	assert.ErrorIs(t, s.ReplaceImage(ctx, 1, crab.Hash, turned, "late"), store.ErrStale)
	assert.ErrorIs(t, s.ReplaceImage(ctx, store.Latest, "none", crab, "x"), store.ErrNotFound)
	library := func() (out []string) {
		all, err := s.Library(ctx)
		require.NoError(t, err)
		for _, m := range all {
			out = append(out, m.Title+" "+m.Notes+" "+m.Hash[:4])
		}
		return out
	}
	move := func(to func(context.Context, int64, int64) error, head func(context.Context) (store.Head, error)) {
		h, err := head(ctx)
		require.NoError(t, err)
		require.NoError(t, to(ctx, h.ID, h.Seq))
	}
	was, straight := crab.Hash[:4], turned.Hash[:4]
	assert.Equal(t, []string{"Hermit  " + straight}, library())
	move(s.Undo, s.LibraryHead)
	assert.Equal(t, []string{"Hermit left claw " + was}, library())
	move(s.Undo, s.LibraryHead)
	assert.Equal(t, []string{"Crab  " + was}, library())
	move(s.Undo, s.LibraryHead)
	assert.Empty(t, library())
	for _, m := range []store.Image{crab, turned} {
		_, err := s.Image(ctx, m.Hash)
		assert.NoError(t, err, "cards may use it")
	}
	for range 3 {
		move(s.Redo, s.LibraryHead)
	}
	assert.Equal(t, []string{"Hermit  " + straight}, library())

	id, err := s.AddTest(ctx, store.Latest, proof.Record{}, crab)
	require.NoError(t, err)
	require.NoError(t, s.HideTest(ctx, store.Latest, id))
	assert.ErrorIs(t, s.HideTest(ctx, 1, id), store.ErrStale)
	_, err = s.AddTest(ctx, 1, proof.Record{}, store.Image{Hash: "late", Media: "image/png", Data: []byte{1}})
	assert.ErrorIs(t, err, store.ErrStale)
	_, err = s.Image(ctx, "late")
	assert.ErrorIs(t, err, store.ErrNotFound, "both or neither")
	shown := func() int {
		all, err := s.Tests(ctx, false)
		require.NoError(t, err)
		return len(all)
	}
	assert.Zero(t, shown())
	move(s.Undo, s.TestsHead)
	assert.Equal(t, 1, shown())
	move(s.Undo, s.TestsHead)
	assert.Zero(t, shown(), "reading it is taken back")
	move(s.Redo, s.TestsHead)
	assert.Equal(t, 1, shown())
	second, err := s.AddTest(ctx, store.Latest, proof.Record{}, crab)
	require.NoError(t, err)
	assert.Equal(t, id+1, second)
}

// A card that was deleted in another tab is not changed in this one.
func TestDeletedCardsAreNotChanged(t *testing.T) {
	s := open(t, file(t))
	r := make1(t, s, "one")
	require.NoError(t, s.Save(ctx, r.ID, 1, r.Card, "changed"))
	require.NoError(t, s.SetState(ctx, r.ID, store.Deleted))
	assert.ErrorIs(t, s.Save(ctx, r.ID, 2, r.Card, "late"), store.ErrDeleted)
	assert.ErrorIs(t, s.Undo(ctx, r.ID, 2), store.ErrDeleted)
	assert.ErrorIs(t, s.GoBackToReadable(ctx, r.ID), store.ErrDeleted)
	gone, err := s.Card(ctx, r.ID)
	require.NoError(t, err)
	assert.Equal(t, store.Deleted, gone.In)
	require.NoError(t, s.SetState(ctx, r.ID, store.Shown))
	require.NoError(t, s.Undo(ctx, r.ID, 2))
}

// spoil writes into a studio file behind the program's back.
func spoil(t testing.TB, path string, queries ...string) {
	db, err := sql.Open("sqlite", "file:"+strings.ReplaceAll(path, "#", "%23"))
	require.NoError(t, err)
	defer db.Close()
	for _, q := range queries {
		_, err := db.Exec(q)
		require.NoError(t, err)
	}
}

// A card that cannot be read is listed as such beside the others, and goes back to its
// last readable state.
func TestUnreadableCards(t *testing.T) {
	path := file(t)
	s := open(t, path)
	a, b := make1(t, s, "a"), make1(t, s, "b")
	for seq := int64(1); seq <= 2; seq++ {
		require.NoError(t, s.Save(ctx, a.ID, seq, a.Card, "changed"))
	}
	spoil(t, path, "UPDATE revisions SET doc = '{' WHERE document = 1 AND seq IN (1, 3)",
		"UPDATE revisions SET doc = json_set(doc, '$.version', 99) WHERE document = 2")
	good, bad, err := s.Cards(ctx, store.Shown)
	require.NoError(t, err)
	assert.Empty(t, good)
	require.Len(t, bad, 2)
	assert.ElementsMatch(t, []bool{true, false}, []bool{bad[0].Newer, bad[1].Newer})
	_, err = s.Card(ctx, b.ID)
	assert.ErrorIs(t, err, card.ErrNewer)
	doc, err := s.Document(ctx, a.ID)
	require.NoError(t, err)
	assert.Equal(t, "{", string(doc))
	require.NoError(t, s.GoBackToReadable(ctx, a.ID))
	r, err := s.Card(ctx, a.ID)
	require.NoError(t, err)
	assert.EqualValues(t, 2, r.Seq)
	assert.ErrorIs(t, s.GoBackToReadable(ctx, b.ID), store.ErrNoneReadable)
	p, err := s.Paper(ctx)
	require.NoError(t, err)
	assert.ErrorIs(t, s.GoBackToReadable(ctx, p.ID), store.ErrNotFound)
	_, err = s.Document(ctx, 99)
	assert.ErrorIs(t, err, store.ErrNotFound)
}

// After going back to a copy no number of a revision means something else than before.
func TestRestoringReusesNoNumber(t *testing.T) {
	s := studioOf(t, filepath.Join(t.TempDir(), "studio.db"), 1)
	r, err := s.Card(ctx, 1)
	require.NoError(t, err)
	require.NoError(t, s.PutMaterials(ctx, store.Latest, []shelf.Own{{What: shelf.OwnInk, Name: "Kept", Like: "pen"}}, "added Kept"))
	require.NoError(t, s.CopyToday(ctx))
	copies, err := s.Copies()
	require.NoError(t, err)
	r.Card.Name = "Changed"
	require.NoError(t, s.Save(ctx, 1, 1, r.Card, "changed"))
	require.NoError(t, s.PutMaterials(ctx, store.Latest, []shelf.Own{{What: shelf.OwnInk, Name: "Lost", Like: "pen"}}, "added Lost"))
	require.NoError(t, s.LetIn(ctx, "tablet", "token"))
	_, err = s.RestoreCopy(ctx, copies[0].Name)
	require.NoError(t, err)
	now, err := s.Card(ctx, 1)
	require.NoError(t, err)
	assert.Equal(t, "Card 1", now.Card.Name)
	assert.EqualValues(t, 3, now.Seq)
	assert.Equal(t, "went back to "+copies[0].Name, now.What)
	assert.ErrorIs(t, s.Save(ctx, 1, 2, r.Card, "from a page of before"), store.ErrStale)
	h, err := s.ShelfHead(ctx)
	require.NoError(t, err)
	require.NoError(t, s.Undo(ctx, h.ID, h.Seq))
	own, undo, _ := shelfSays(t, s)
	assert.Equal(t, []string{"Kept"}, own, "going back changed no row by itself")
	assert.Equal(t, "added Kept", undo)
	devices, err := s.Devices(ctx)
	require.NoError(t, err)
	assert.Len(t, devices, 1, "who may come in is no part of a copy")
}

// A damaged studio says so, and goes on from its last copy; the damaged file stays.
func TestADamagedStudio(t *testing.T) {
	dir := t.TempDir()
	path := filepath.Join(dir, "studio.db")
	s := studioOf(t, path, 40)
	require.NoError(t, s.LetIn(ctx, "old tablet", "old"))
	require.NoError(t, s.CopyToday(ctx))
	require.NoError(t, s.Close())
	scribble(t, path)
	data, err := os.ReadFile(path)
	require.NoError(t, err)

	_, err = store.Open(ctx, path)
	require.Error(t, err)
	fault, ours := store.FaultOf(err)
	assert.True(t, ours, "%v", err)
	assert.Equal(t, store.Damaged, fault)
	copies, err := filepath.Glob(filepath.Join(path+"-copies", "*.db"))
	require.NoError(t, err)
	require.Len(t, copies, 1)
	kept, err := store.RestoreDamaged(ctx, path, copies[0])
	require.NoError(t, err)
	still, err := os.ReadFile(filepath.Join(dir, kept))
	require.NoError(t, err)
	assert.Equal(t, data, still)
	s, err = store.Open(ctx, path)
	require.NoError(t, err)
	assert.Len(t, cardNames(t, s), 40)
	devices, err := s.Devices(ctx)
	require.NoError(t, err)
	assert.Empty(t, devices, "who was put out since the copy stays out")
	_, err = store.RestoreDamaged(ctx, path, filepath.Join(dir, kept))
	assert.ErrorContains(t, err, "is damaged")
	left, err := filepath.Glob(filepath.Join(dir, ".restore-*"))
	require.NoError(t, err)
	assert.Empty(t, left)

	// The same while it is in use.
	require.NoError(t, s.LetIn(ctx, "tablet", "token"))
	scribble(t, path)
	_, _, err = s.Cards(ctx, store.Shown)
	fault, _ = store.FaultOf(err)
	require.Equal(t, store.Damaged, fault, "%v", err)
	all, err := s.Copies()
	require.NoError(t, err)
	_, err = s.RestoreCopy(ctx, all[len(all)-1].Name)
	require.NoError(t, err)
	assert.Len(t, cardNames(t, s), 40)
	_, err = s.Create(ctx, card.New("Goes on", length.Inches), "made")
	require.NoError(t, err)
	require.NoError(t, s.Close())
	s, err = store.Open(ctx, path)
	require.NoError(t, err)
	assert.Len(t, cardNames(t, s), 41)
	require.NoError(t, s.Close())
	_, ours = store.FaultOf(os.ErrNotExist)
	assert.False(t, ours)
}

// scribble writes over the pages of a studio file, which may be in use.
func scribble(t testing.TB, path string) {
	spoil(t, path, "PRAGMA wal_checkpoint(TRUNCATE)")
	f, err := os.OpenFile(path, os.O_RDWR, 0)
	require.NoError(t, err)
	defer f.Close()
	info, err := f.Stat()
	require.NoError(t, err)
	junk := []byte(strings.Repeat("spoiled ", 512))
	for at := int64(4096); at < info.Size(); at += 4096 {
		_, err := f.WriteAt(junk, at)
		require.NoError(t, err)
	}
}

// Devices come and go; what is kept of the passphrase can be replaced.
func TestDevices(t *testing.T) {
	s := open(t, file(t))
	hash, err := s.Passphrase(ctx)
	require.NoError(t, err)
	assert.Empty(t, hash)
	for _, h := range []string{"one", "two"} {
		require.NoError(t, s.SetPassphrase(ctx, h))
		hash, err = s.Passphrase(ctx)
		require.NoError(t, err)
		assert.Equal(t, h, hash)
	}
	require.NoError(t, s.LetIn(ctx, "tablet", "t"))
	assert.Error(t, s.LetIn(ctx, "another", "t"), "a token is one device's")
	d, err := s.DeviceOf(ctx, "t")
	require.NoError(t, err)
	assert.Equal(t, "tablet", d.Name)
	require.NoError(t, s.SeeDevice(ctx, d.ID))
	_, err = s.DeviceOf(ctx, "x")
	assert.ErrorIs(t, err, store.ErrNotFound)
	for i := 1; i < store.MaxDevices; i++ {
		require.NoError(t, s.LetIn(ctx, "more", strings.Repeat("m", i)))
	}
	assert.ErrorIs(t, s.LetIn(ctx, "too many", "z"), store.ErrManyDevices)
	require.NoError(t, s.PutOut(ctx, d.ID))
	assert.ErrorIs(t, s.PutOut(ctx, d.ID), store.ErrNotFound)
	_, err = s.DeviceOf(ctx, "t")
	assert.ErrorIs(t, err, store.ErrNotFound)
	all, err := s.Devices(ctx)
	require.NoError(t, err)
	assert.Len(t, all, store.MaxDevices-1)
}
