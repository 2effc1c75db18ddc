package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"

	"chromaqua/core/shelf"
)

// Materials returns the maker's own materials by kind and name.
func (s *Store) Materials(ctx context.Context) (out []shelf.Own, err error) {
	rows, err := s.db.QueryContext(ctx, "SELECT doc FROM materials WHERE NOT hidden ORDER BY what, name COLLATE NOCASE")
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var doc []byte
		if err := rows.Scan(&doc); err != nil {
			return nil, err
		}
		var o shelf.Own
		if err := json.Unmarshal(doc, &o); err != nil {
			return nil, fmt.Errorf("a material: %w", err)
		}
		out = append(out, o)
	}
	return out, rows.Err()
}

// ErrShelfFull means that no more materials can be kept.
var ErrShelfFull = fmt.Errorf("the shelf holds %d materials already; put some away first", shelf.MaxOwn)

// PutMaterials adds materials, or puts them in place of those of the same name,
// all or none.
func (s *Store) PutMaterials(ctx context.Context, all []shelf.Own) error {
	return s.tx(ctx, func(tx *sql.Tx) error {
		for _, o := range all {
			doc, err := json.Marshal(o)
			if err != nil {
				return fmt.Errorf("writing %q: %w", o.Name, err)
			}
			if _, err := tx.ExecContext(ctx, `INSERT INTO materials (what, name, doc) VALUES (?, ?, ?)
				ON CONFLICT (what, name) DO UPDATE SET doc = excluded.doc, hidden = 0`, o.What, o.Name, string(doc)); err != nil {
				return err
			}
		}
		var n int
		if err := tx.QueryRowContext(ctx, "SELECT count(*) FROM materials WHERE NOT hidden").Scan(&n); err != nil {
			return err
		}
		if n > shelf.MaxOwn {
			return ErrShelfFull
		}
		return nil
	})
}

// HideMaterial puts a material away, or brings it back. Cards made with it keep
// what they know of it.
func (s *Store) HideMaterial(ctx context.Context, what shelf.What, name string, hidden bool) error {
	r, err := s.db.ExecContext(ctx, "UPDATE materials SET hidden = ? WHERE what = ? AND name = ?", hidden, what, name)
	if err != nil {
		return err
	}
	if n, err := r.RowsAffected(); err != nil || n == 0 {
		return errors.Join(err, ErrNotFound)
	}
	return nil
}
