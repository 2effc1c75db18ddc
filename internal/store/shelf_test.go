package store_test

import (
	"database/sql"
	"errors"
	"fmt"
	"strings"
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

func names(own []shelf.Own) (out []string) {
	for _, o := range own {
		out = append(out, o.Name)
	}
	return out
}

// Materials are listed by kind and name whatever the case, replaced by those of the
// same name, put away and brought back, and never more than the shelf holds.
func TestMaterials(t *testing.T) {
	s := open(t, file(t))
	none, err := s.Materials(ctx)
	require.NoError(t, err)
	assert.Empty(t, none)
	ink := func(name, like string) shelf.Own { return shelf.Own{What: shelf.OwnInk, Name: name, Like: like} }
	require.NoError(t, s.PutMaterials(ctx, store.Latest, []shelf.Own{ink("night", "pen"), ink("Ash", "pen"), {What: shelf.OwnPaper, Name: "Pad", Like: "kraft"}, ink("moss", "dye")}, "put"))
	own, err := s.Materials(ctx)
	require.NoError(t, err)
	assert.Equal(t, []string{"Ash", "moss", "night", "Pad"}, names(own))
	require.NoError(t, s.PutMaterials(ctx, store.Latest, []shelf.Own{ink("moss", "solvent")}, "put"))
	require.NoError(t, s.HideMaterial(ctx, store.Latest, shelf.OwnInk, "Ash"))
	own, err = s.Materials(ctx)
	require.NoError(t, err)
	assert.Equal(t, []string{"moss", "night", "Pad"}, names(own))
	assert.Equal(t, "solvent", own[0].Like, "the later one counts")
	shelved, err := s.ShelfHead(ctx)
	require.NoError(t, err)
	require.NoError(t, s.Undo(ctx, shelved.ID, shelved.Seq))
	require.NoError(t, s.HideMaterial(ctx, store.Latest, shelf.OwnInk, "night"))
	require.NoError(t, s.PutMaterials(ctx, store.Latest, []shelf.Own{ink("night", "pen")}, "put"), "putting it back brings it back")
	own, err = s.Materials(ctx)
	require.NoError(t, err)
	assert.Len(t, own, 4)
	assert.ErrorIs(t, s.HideMaterial(ctx, store.Latest, shelf.OwnPaper, "Ash"), store.ErrNotFound, "there is no paper of that name")

	var many []shelf.Own
	for i := range shelf.MaxOwn - 4 {
		many = append(many, ink(fmt.Sprintf("ink %d", i), "pen"))
	}
	require.NoError(t, s.PutMaterials(ctx, store.Latest, many, "put"), "as many as it holds")
	assert.ErrorIs(t, s.PutMaterials(ctx, store.Latest, []shelf.Own{ink("one more", "pen")}, "put"), store.ErrShelfFull)
	own, err = s.Materials(ctx)
	require.NoError(t, err)
	assert.Len(t, own, shelf.MaxOwn, "all or none")
	require.NoError(t, s.HideMaterial(ctx, store.Latest, shelf.OwnInk, "moss"))
	assert.NoError(t, s.PutMaterials(ctx, store.Latest, []shelf.Own{ink("one more", "pen")}, "put"), "what is put away takes no room")
}

// The library lists what is kept, by title, with all that is known of it but its data.
func TestLibrary(t *testing.T) {
	s := open(t, file(t))
	image := func(title string, kept bool) store.Image {
		data := []byte(title)
		return store.Image{Hash: store.Hash(data), Title: title, Media: "image/png", Width: 30, Height: 20, Data: data, Kept: kept, Real: 2 * length.Inch}
	}
	crab, kelp, loose := image("kelp", true), image("Crab", true), image("loose", false)
	crab.Facts = store.Facts{Kind: shelf.SolidImage, Mount: shelf.Wood, Notes: "from the fair"}
	for _, m := range []store.Image{crab, kelp, loose} {
		require.NoError(t, s.PutImage(ctx, store.Latest, m))
	}
	all, err := s.Library(ctx)
	require.NoError(t, err)
	require.Len(t, all, 2)
	want := crab
	want.Data = nil
	assert.Equal(t, want, all[1])
	assert.Equal(t, "Crab", all[0].Title)
	assert.Equal(t, shelf.LineImage, all[0].Kind, "a line unless something else is said")
	got, err := s.Image(ctx, crab.Hash)
	require.NoError(t, err)
	assert.Equal(t, crab, *got)

	loose.Kept = true
	require.NoError(t, s.PutImage(ctx, store.Latest, loose), "sent again to be kept")
	loose.Kept = false
	require.NoError(t, s.PutImage(ctx, store.Latest, loose), "sent again for a card: it stays kept")
	all, err = s.Library(ctx)
	require.NoError(t, err)
	assert.Len(t, all, 3)

	crab.Title, crab.Kept, crab.Real = "Hermit crab", false, length.Inch
	require.NoError(t, s.Describe(ctx, store.Latest, crab, "described"))
	got, err = s.Image(ctx, crab.Hash)
	require.NoError(t, err)
	assert.Equal(t, crab, *got)
	assert.ErrorIs(t, s.Describe(ctx, store.Latest, store.Image{Hash: "none"}, "x"), store.ErrNotFound)
	_, err = s.Image(ctx, "none")
	assert.ErrorIs(t, err, store.ErrNotFound)

	for query, speaks := range map[string]bool{"": true, "CRAB": true, "crab fair": true, "wood solid": true, "crab rubber": false, "kelp": false} {
		assert.Equal(t, speaks, crab.SpeaksOf(query), query)
	}
	assert.NoError(t, crab.Facts.Check())
	for why, f := range map[string]store.Facts{
		"no kind":  {Kind: "rain"},
		"no mount": {Kind: shelf.LineImage, Mount: "a shoe"},
		"2000":     {Kind: shelf.LineImage, Notes: strings.Repeat("é", store.MaxNotes+1)},
	} {
		assert.ErrorContains(t, f.Check(), why)
	}
	assert.NoError(t, store.Facts{Kind: shelf.LineImage, Notes: strings.Repeat("é", store.MaxNotes)}.Check())
	assert.Equal(t, "2cf24dba5fb0a30e26e83b2ac5b9e29e1b161e5c1fa7425e73043362938b9824", store.Hash([]byte("hello")), "SHA-256 by FIPS 180-4")
}

// A closed studio answers everything with an error, and nothing with silence.
func TestAClosedStudioSaysSo(t *testing.T) {
	s := open(t, file(t))
	r := make1(t, s, "one")
	require.NoError(t, s.Close())
	for name, call := range map[string]func() error{
		"Card":          func() error { _, err := s.Card(ctx, r.ID); return err },
		"Cards":         func() error { _, _, err := s.Cards(ctx, store.Shown); return err },
		"SetState":      func() error { return s.SetState(ctx, r.ID, store.Archived) },
		"Create":        func() error { _, err := s.Create(ctx, card.New("x", length.Inches), "x"); return err },
		"Save":          func() error { return s.Save(ctx, r.ID, r.Seq, r.Card, "x") },
		"Undo":          func() error { return s.Undo(ctx, r.ID, r.Seq) },
		"Redo":          func() error { return s.Redo(ctx, r.ID, r.Seq) },
		"Empty":         func() error { _, err := s.Empty(ctx); return err },
		"Paper":         func() error { _, err := s.Paper(ctx); return err },
		"SavePaper":     func() error { return s.SavePaper(ctx, 0, 1, paper.New(), "x") },
		"Settings":      func() error { _, err := s.Settings(ctx); return err },
		"SaveSettings":  func() error { return s.SaveSettings(ctx, -1, 1, settings.Default(), "x") },
		"PutImage":      func() error { return s.PutImage(ctx, store.Latest, store.Image{}) },
		"Image":         func() error { _, err := s.Image(ctx, "x"); return err },
		"Library":       func() error { _, err := s.Library(ctx); return err },
		"Describe":      func() error { return s.Describe(ctx, store.Latest, store.Image{}, "described") },
		"Materials":     func() error { _, err := s.Materials(ctx); return err },
		"PutMaterials":  func() error { return s.PutMaterials(ctx, store.Latest, []shelf.Own{{Name: "x"}}, "put") },
		"HideMaterial":  func() error { return s.HideMaterial(ctx, store.Latest, shelf.OwnInk, "x") },
		"AddTest":       func() error { _, err := s.AddTest(ctx, store.Latest, proof.Record{}, store.Image{}); return err },
		"Tests":         func() error { _, err := s.Tests(ctx, true); return err },
		"HideTest":      func() error { return s.HideTest(ctx, store.Latest, 1) },
		"Backup":        func() error { return s.Backup(ctx, file(t)) },
		"closed before": func() error { return errors.Join(s.Undo(ctx, 1, 1)) },
	} {
		err := call()
		assert.Error(t, err, name)
		assert.NotErrorIs(t, err, store.ErrNotFound, name)
		assert.NotErrorIs(t, err, store.ErrStale, name)
	}
}

// What another hand has spoiled in the file is told with what it is.
func TestSpoiledDocumentsAreNamed(t *testing.T) {
	path := file(t)
	s := open(t, path)
	r := make1(t, s, "one")
	require.NoError(t, s.PutMaterials(ctx, store.Latest, []shelf.Own{{What: shelf.OwnInk, Name: "night"}}, "put"))
	_, err := s.AddTest(ctx, store.Latest, proof.Record{}, store.Image{Hash: "h", Media: "image/png", Data: []byte{1}})
	require.NoError(t, err)
	_, err = s.Paper(ctx)
	require.NoError(t, err)
	_, err = s.Settings(ctx)
	require.NoError(t, err)
	db, err := sql.Open("sqlite", "file:"+strings.ReplaceAll(path, "#", "%23"))
	require.NoError(t, err)
	t.Cleanup(func() { _ = db.Close() })
	for _, q := range []string{"UPDATE revisions SET doc = '{'", "UPDATE materials SET doc = '{'", "UPDATE tests SET doc = '{'"} {
		_, err := db.Exec(q)
		require.NoError(t, err)
	}
	_, err = s.Card(ctx, r.ID)
	assert.ErrorContains(t, err, "card 1")
	_, err = s.Paper(ctx)
	assert.ErrorContains(t, err, "paper on hand")
	_, err = s.Settings(ctx)
	assert.Error(t, err)
	_, err = s.Materials(ctx)
	assert.ErrorContains(t, err, "a material")
	_, err = s.Tests(ctx, false)
	assert.ErrorContains(t, err, "test 1")
}

// Times are those of the clock when it was done; cards are listed by their latest
// change, numbered from 1 beside paper and settings.
func TestNumbersAndTimes(t *testing.T) {
	s := open(t, file(t))
	empty, err := s.Empty(ctx)
	require.NoError(t, err)
	assert.True(t, empty)
	p, err := s.Paper(ctx)
	require.NoError(t, err)
	set, err := s.Settings(ctx)
	require.NoError(t, err)
	assert.Equal(t, []int64{0, -1}, []int64{p.ID, set.ID}, "what there is one of has its own number")
	empty, err = s.Empty(ctx)
	require.NoError(t, err)
	assert.True(t, empty, "paper and settings are no cards")
	before := time.Now().Add(-2 * time.Second)
	a, b := make1(t, s, "a"), make1(t, s, "b")
	assert.Equal(t, []int64{1, 2}, []int64{a.ID, b.ID})
	assert.Equal(t, []int64{1, 1}, []int64{a.Seq, b.Seq})
	assert.True(t, a.Made.After(before) && a.Made.Before(time.Now().Add(time.Second)))
	empty, err = s.Empty(ctx)
	require.NoError(t, err)
	assert.False(t, empty)
	id, err := s.AddTest(ctx, store.Latest, proof.Record{}, store.Image{Hash: "h", Media: "image/png", Data: []byte{1}})
	require.NoError(t, err)
	assert.EqualValues(t, 1, id)
	tests, err := s.Tests(ctx, false)
	require.NoError(t, err)
	require.Len(t, tests, 1)
	assert.True(t, tests[0].Made.After(before))
	require.NoError(t, s.HideTest(ctx, store.Latest, id))
	tests, err = s.Tests(ctx, false)
	require.NoError(t, err)
	assert.Empty(t, tests)
	tests, err = s.Tests(ctx, true)
	require.NoError(t, err)
	assert.True(t, tests[0].Hidden)
	assert.ErrorIs(t, s.HideTest(ctx, store.Latest, 99), store.ErrNotFound)
	_, err = s.Card(ctx, p.ID)
	assert.ErrorIs(t, err, store.ErrNotFound, "paper is no card")
	assert.ErrorIs(t, s.SetState(ctx, p.ID, store.Archived), store.ErrNotFound)
	assert.ErrorIs(t, s.Save(ctx, 99, 1, a.Card, "x"), store.ErrNotFound)
}
