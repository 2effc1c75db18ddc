package store

import (
	"context"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/proof"
	"chromaqua/core/settings"
	"chromaqua/core/shelf"
)

// FuzzDocuments puts what is no document, or nearly one, where the studio keeps them: it
// is refused or read, and undo and redo leave the file as sound as it was.
func FuzzDocuments(f *testing.F) {
	ctx := context.Background()
	s, err := Open(ctx, filepath.Join(f.TempDir(), "studio.db"))
	require.NoError(f, err)
	f.Cleanup(func() { _ = s.Close() })
	id, err := s.Create(ctx, card.New("One", length.Inches), "made")
	require.NoError(f, err)
	_, err = s.AddTest(ctx, Latest, proof.Record{}, Image{Hash: "h", Media: "image/png", Data: []byte{1}})
	require.NoError(f, err)
	require.NoError(f, s.PutMaterials(ctx, Latest, []shelf.Own{{What: shelf.OwnInk, Name: "Night", Like: "pen"}}, "added"))
	_, err = s.Paper(ctx)
	require.NoError(f, err)
	_, err = s.Settings(ctx)
	require.NoError(f, err)
	for _, doc := range []string{`{}`, `[]`, `null`, `{"items": [{"qty": -1}]}`, `[{"key":"ink:Night","before":null,"after":{"doc":"{}","hidden":0}}]`,
		`[{"key":"ink:Night","before":{"doc":null},"after":3}]`, `{"pace": 1e9}`, `{"name":"x","what":"paint","paint":{}}`} {
		f.Add(doc)
	}
	old := settings.Default()
	f.Fuzz(func(t *testing.T, doc string) {
		for _, q := range []string{"UPDATE revisions SET doc = ?1", "UPDATE tests SET doc = ?1", "UPDATE materials SET doc = ?1"} {
			_, err := s.db().ExecContext(ctx, q, doc)
			require.NoError(t, err)
		}
		if _, err := s.Card(ctx, id); err == nil {
			require.NoError(t, s.Save(ctx, id, Latest, card.New("Two", length.Inches), "changed"))
		}
		if p, err := s.Paper(ctx); err == nil {
			p.Stock.Sort()
			_ = p.Stock.Check()
		}
		if v, err := s.Settings(ctx); err == nil {
			require.NoError(t, v.Settings.Check())
		}
		if own, err := s.Materials(ctx); err == nil {
			for _, o := range own {
				if o.Check() == nil {
					_, _ = o.Mixture()
				}
			}
		}
		_, _ = s.Tests(ctx, true)
		for _, one := range onlyID {
			_ = s.Undo(ctx, one, Latest)
			_ = s.Redo(ctx, one, Latest)
		}
		_, _, err := s.Cards(ctx, Shown)
		require.NoError(t, err, "an unreadable card is no error")
		_ = s.SaveSettings(ctx, onlyID[settingsKind], Latest, old, "as they were")
	})
}
