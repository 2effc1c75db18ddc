package store_test

import (
	"database/sql"
	"errors"
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/store"
)

// Each fault of the disk is told by what SQLite says of it, wrapped or not; mistakes in
// what was asked for are none.
func TestFaults(t *testing.T) {
	path := filepath.Join(t.TempDir(), "studio.db")
	s := studioOf(t, path, 1)
	require.NoError(t, s.Close())
	failing := func(query string, first ...string) error {
		db, err := sql.Open("sqlite", path+query)
		require.NoError(t, err)
		defer db.Close()
		db.SetMaxOpenConns(1)
		for _, q := range first {
			_, err := db.Exec(q)
			require.NoError(t, err)
		}
		_, err = db.Exec("INSERT INTO images (hash, title, media, width, height, added, data) VALUES (?, '', '', 1, 1, 0, zeroblob(1000000))", query+fmt.Sprint(first))
		return err
	}
	held, err := sql.Open("sqlite", path+"?_txlock=immediate")
	require.NoError(t, err)
	defer held.Close()
	for what, c := range map[string]struct {
		err  error
		want store.Fault
	}{
		"full":      {failing("", "PRAGMA max_page_count = 1"), store.DiskFull},
		"read-only": {failing("?_pragma=query_only(1)"), store.ReadOnly},
		"nowhere":   {func() error { _, err := store.Open(ctx, filepath.Join(path, "studio.db")); return err }(), ""},
		"a mistake": {func() error { _, err := held.Exec("SELEKT"); return err }(), ""},
		"our own":   {os.ErrPermission, ""},
	} {
		require.Error(t, c.err, what)
		fault, ours := store.FaultOf(fmt.Errorf("saving: %w", errors.Join(c.err, nil)))
		assert.Equal(t, c.want, fault, "%s: %v", what, c.err)
		assert.Equal(t, c.want != "", ours, what)
	}
	tx, err := held.Begin()
	require.NoError(t, err)
	fault, ours := store.FaultOf(failing(""))
	assert.True(t, ours)
	assert.Equal(t, store.Held, fault)
	require.NoError(t, tx.Rollback())
	for _, f := range []store.Fault{store.DiskFull, store.ReadOnly, store.Held, store.DiskBad, store.Damaged} {
		assert.Regexp(t, "Make room|Let its folder|Close that|See to|Go back", string(f), "it says what to do")
	}
}
