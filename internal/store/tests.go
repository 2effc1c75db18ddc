package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"chromaqua/core/proof"
)

// Test is a stored water test.
type Test struct {
	ID     int64
	Made   time.Time
	Hidden bool
	proof.Record
}

// AddTest stores a test together with its scan, both or neither.
func (s *Store) AddTest(ctx context.Context, r proof.Record, scan Image) (id int64, err error) {
	doc, err := json.Marshal(r)
	if err != nil {
		return 0, fmt.Errorf("writing the test: %w", err)
	}
	err = s.tx(ctx, func(tx *sql.Tx) error {
		if err := s.putImage(ctx, tx, scan); err != nil {
			return err
		}
		res, err := tx.ExecContext(ctx, "INSERT INTO tests (made, doc) VALUES (?, ?)", s.now().Unix(), string(doc))
		if err != nil {
			return err
		}
		id, err = res.LastInsertId()
		return err
	})
	return id, err
}

// Tests returns all tests, the latest first; hidden ones only when asked for.
func (s *Store) Tests(ctx context.Context, hidden bool) (out []Test, err error) {
	rows, err := s.db.QueryContext(ctx, "SELECT id, made, hidden, doc FROM tests WHERE hidden <= ? ORDER BY id DESC", hidden)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var t Test
		var made int64
		var doc []byte
		if err := rows.Scan(&t.ID, &made, &t.Hidden, &doc); err != nil {
			return nil, err
		}
		if err := json.Unmarshal(doc, &t.Record); err != nil {
			return nil, fmt.Errorf("test %d: %w", t.ID, err)
		}
		t.Made = time.Unix(made, 0)
		out = append(out, t)
	}
	return out, rows.Err()
}

// HideTest puts a test away, or brings it back.
func (s *Store) HideTest(ctx context.Context, id int64, hidden bool) error {
	r, err := s.db.ExecContext(ctx, "UPDATE tests SET hidden = ? WHERE id = ?", hidden, id)
	if err != nil {
		return err
	}
	if n, err := r.RowsAffected(); err != nil || n == 0 {
		return errors.Join(err, ErrNotFound)
	}
	return nil
}
