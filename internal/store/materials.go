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
	rows, err := s.db().QueryContext(ctx, "SELECT doc FROM materials WHERE NOT hidden ORDER BY what, name COLLATE NOCASE")
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

// PutMaterials adds materials, or puts them in place of those of the same name, all or
// none, on top of revision base of the shelf; see [Store.Save].
func (s *Store) PutMaterials(ctx context.Context, base int64, all []shelf.Own, what string) error {
	return s.change(ctx, shelfKind, base, what, func(tx *edit) error {
		for _, o := range all {
			if err := tx.touch(ctx, string(o.What)+":"+o.Name); err != nil {
				return err
			}
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

// HideMaterial puts a material away, on top of revision base of the shelf; see
// [Store.Save]. Cards made with it keep what they know of it.
func (s *Store) HideMaterial(ctx context.Context, base int64, what shelf.What, name string) error {
	return s.change(ctx, shelfKind, base, "put "+name+" away", func(tx *edit) error {
		if err := tx.touch(ctx, string(what)+":"+name); err != nil {
			return err
		}
		return oneRow(tx.ExecContext(ctx, "UPDATE materials SET hidden = 1 WHERE what = ? AND name = ?", what, name))
	})
}

// oneRow says of a change that met no row that there is nothing of that name.
func oneRow(r sql.Result, err error) error {
	if err != nil {
		return err
	}
	if n, err := r.RowsAffected(); err != nil || n == 0 {
		return errors.Join(err, ErrNotFound)
	}
	return nil
}
