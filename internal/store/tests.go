package store

import (
	"context"
	"encoding/json"
	"fmt"
	"strconv"
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

// AddTest stores a test together with its scan, both or neither, on top of revision base
// of the tests; see [Store.Save].
func (s *Store) AddTest(ctx context.Context, base int64, r proof.Record, scan Image) (id int64, err error) {
	doc, err := json.Marshal(r)
	if err != nil {
		return 0, fmt.Errorf("writing the test: %w", err)
	}
	err = s.change(ctx, testsKind, base, "read a test", func(tx *edit) error {
		if err := s.putImage(ctx, tx.Tx, scan); err != nil {
			return err
		}
		if err := tx.QueryRowContext(ctx, "SELECT COALESCE(MAX(id), 0) + 1 FROM tests").Scan(&id); err != nil {
			return err
		}
		if err := tx.touch(ctx, strconv.FormatInt(id, 10)); err != nil {
			return err
		}
		_, err := tx.ExecContext(ctx, "INSERT INTO tests (id, made, doc) VALUES (?, ?, ?)", id, s.now().Unix(), string(doc))
		return err
	})
	return id, err
}

// Tests returns all tests, the latest first; hidden ones only when asked for.
func (s *Store) Tests(ctx context.Context, hidden bool) (out []Test, err error) {
	rows, err := s.db().QueryContext(ctx, "SELECT id, made, hidden, doc FROM tests WHERE hidden <= ? ORDER BY id DESC", hidden)
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

// HideTest puts a test away, on top of revision base of the tests; see [Store.Save].
func (s *Store) HideTest(ctx context.Context, base, id int64) error {
	return s.change(ctx, testsKind, base, "put a test away", func(tx *edit) error {
		if err := tx.touch(ctx, strconv.FormatInt(id, 10)); err != nil {
			return err
		}
		return oneRow(tx.ExecContext(ctx, "UPDATE tests SET hidden = 1 WHERE id = ?", id))
	})
}
