package store

import (
	"context"
	"database/sql"
	"io/fs"
	"path/filepath"
	"testing"

	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/database"
	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
)

// A studio from before there were settings keeps every document with every revision.
func TestSettingsComeToAnOldStudio(t *testing.T) {
	ctx := context.Background()
	path := filepath.Join(t.TempDir(), "old.db")
	db, err := sql.Open("sqlite", "file:"+path+"?_pragma=foreign_keys(1)")
	require.NoError(t, err)
	files, err := fs.Sub(migrations, "migrations")
	require.NoError(t, err)
	p, err := goose.NewProvider(database.DialectSQLite3, db, files)
	require.NoError(t, err)
	_, err = p.UpTo(ctx, 4)
	require.NoError(t, err)
	doc, err := card.New("Old", length.Inches).Encode()
	require.NoError(t, err)
	for _, q := range []string{
		"INSERT INTO documents (id, kind, head, state, made) VALUES (0, 'paper', 1, 'shown', 5), (1, 'card', 3, 'archived', 7)",
		"INSERT INTO revisions (document, seq, parent, what, doc, made) VALUES (0, 1, 0, 'an empty drawer', '{}', 5)",
	} {
		_, err = db.ExecContext(ctx, q)
		require.NoError(t, err)
	}
	for seq := 1; seq <= 3; seq++ {
		_, err = db.ExecContext(ctx, "INSERT INTO revisions (document, seq, parent, what, doc, made) VALUES (1, ?, ?, 'a change', ?, 9)", seq, seq-1, string(doc))
		require.NoError(t, err)
	}
	require.NoError(t, db.Close())

	s, err := Open(ctx, path)
	require.NoError(t, err)
	defer s.Close()
	r, err := s.Card(ctx, 1)
	require.NoError(t, err)
	assert.Equal(t, int64(3), r.Seq)
	require.NoError(t, s.Undo(ctx, 1, 3))
	archived, _, err := s.Cards(ctx, Archived)
	require.NoError(t, err)
	require.Len(t, archived, 1)
	assert.Equal(t, int64(2), archived[0].Seq)
	_, err = s.Paper(ctx)
	require.NoError(t, err)
	set, err := s.Settings(ctx)
	require.NoError(t, err)
	assert.Equal(t, int64(-1), set.ID)
	id, err := s.Create(ctx, card.New("New", length.Inches), "made it")
	require.NoError(t, err)
	assert.Equal(t, int64(2), id, "cards are numbered on")
	_, err = s.db().ExecContext(ctx, "DELETE FROM documents WHERE id = 1")
	require.NoError(t, err)
	var left int
	require.NoError(t, s.db().QueryRowContext(ctx, "SELECT COUNT(*) FROM revisions WHERE document = 1").Scan(&left))
	assert.Zero(t, left, "revisions still go with their document")
}
