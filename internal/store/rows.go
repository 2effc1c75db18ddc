package store

import (
	"bytes"
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
)

// table is a part of the studio that is kept in rows of its own and not as one document:
// a revision of it holds the rows that it changed, before and after.
type table struct {
	kind  kind
	named string // what an error calls it
	read  string // a row as JSON, by its key
	write string // makes a row what JSON says, by its key
	empty string // what is done with a row that was not there before, by its key
}

// tables are the parts of the studio that are kept in rows. Images and tests are never
// taken out: cards and verdicts speak of them.
var tables = map[kind]table{
	shelfKind: {
		kind: shelfKind, named: "the shelf",
		read: "SELECT json_object('doc', doc, 'hidden', hidden) FROM materials WHERE what || ':' || name = ?1",
		write: `INSERT INTO materials (what, name, doc, hidden)
			VALUES (substr(?1, 1, instr(?1, ':') - 1), substr(?1, instr(?1, ':') + 1), ?2 ->> 'doc', ?2 ->> 'hidden')
			ON CONFLICT (what, name) DO UPDATE SET doc = excluded.doc, hidden = excluded.hidden`,
		empty: "DELETE FROM materials WHERE what || ':' || name = ?1",
	},
	libraryKind: {
		kind: libraryKind, named: "the library",
		read: "SELECT json_object('title', title, 'width', width_nm, 'kind', kind, 'mount', mount, 'notes', notes, 'kept', sample) FROM images WHERE hash = ?1",
		write: `UPDATE images SET title = ?2 ->> 'title', width_nm = ?2 ->> 'width', kind = ?2 ->> 'kind', mount = ?2 ->> 'mount',
			notes = ?2 ->> 'notes', sample = ?2 ->> 'kept' WHERE hash = ?1`,
		empty: "UPDATE images SET sample = 0 WHERE hash = ?1",
	},
	testsKind: {
		kind: testsKind, named: "the tests",
		read:  "SELECT json_object('hidden', hidden) FROM tests WHERE CAST(id AS TEXT) = ?1",
		write: "UPDATE tests SET hidden = ?2 ->> 'hidden' WHERE CAST(id AS TEXT) = ?1",
		empty: "UPDATE tests SET hidden = 1 WHERE CAST(id AS TEXT) = ?1",
	},
}

// changed is a row of a table that a revision changed; null for none.
type changed struct {
	Key    string          `json:"key"`
	Before json.RawMessage `json:"before"`
	After  json.RawMessage `json:"after"`
}

// side is one of the two states of what a revision changed.
type side bool

const (
	before side = false
	after  side = true
)

// put makes the rows that a revision changed what they were on one side of it.
func (t table) put(ctx context.Context, tx *sql.Tx, doc []byte, to side) error {
	var rows []changed
	if err := json.Unmarshal(doc, &rows); err != nil {
		return fmt.Errorf("a revision of %s: %w", t.named, err)
	}
	for _, r := range rows {
		state := r.Before
		if to == after {
			state = r.After
		}
		do, args := t.write, []any{r.Key, string(state)}
		if bytes.Equal(state, []byte("null")) {
			do, args = t.empty, args[:1]
		}
		if _, err := tx.ExecContext(ctx, do, args...); err != nil {
			return err
		}
	}
	return nil
}

// row returns a row as JSON, null when there is none.
func (t table) row(ctx context.Context, tx *sql.Tx, key string) (json.RawMessage, error) {
	var doc string
	err := tx.QueryRowContext(ctx, t.read, key).Scan(&doc)
	if errors.Is(err, sql.ErrNoRows) {
		return json.RawMessage("null"), nil
	}
	return json.RawMessage(doc), err
}

// An edit changes rows of a table; it says of each, before it does, that it will.
type edit struct {
	*sql.Tx
	table
	rows []changed
}

func (e *edit) touch(ctx context.Context, key string) error {
	was, err := e.row(ctx, e.Tx, key)
	if err == nil {
		e.rows = append(e.rows, changed{Key: key, Before: was})
	}
	return err
}

// settle returns what has changed in the rows that were touched.
func (e *edit) settle(ctx context.Context) (out []changed, err error) {
	for _, r := range e.rows {
		if r.After, err = e.row(ctx, e.Tx, r.Key); err != nil {
			return nil, err
		}
		if !bytes.Equal(r.Before, r.After) {
			out = append(out, r)
		}
	}
	return out, nil
}

// change lets f change rows of a table, as its next revision on top of base; nothing that
// stayed as it was makes a revision.
func (s *Store) change(ctx context.Context, k kind, base int64, what string, f func(*edit) error) error {
	return s.tx(ctx, func(tx *sql.Tx) error { return s.changeIn(ctx, tx, k, base, what, f) })
}

func (s *Store) changeIn(ctx context.Context, tx *sql.Tx, k kind, base int64, what string, f func(*edit) error) error {
	if err := s.ensure(ctx, tx, k, []byte("[]"), "as it was"); err != nil {
		return err
	}
	id := onlyID[k]
	head, _, err := checkHead(ctx, tx, id, base)
	if err != nil {
		return err
	}
	e := &edit{Tx: tx, table: tables[k]}
	if err := f(e); err != nil {
		return err
	}
	rows, err := e.settle(ctx)
	if err != nil || len(rows) == 0 {
		return err
	}
	doc, err := json.Marshal(rows)
	if err != nil {
		return err
	}
	return s.put(ctx, tx, id, head, doc, what)
}

// headOf returns where a table stands.
func (s *Store) headOf(ctx context.Context, k kind) (Head, error) {
	h, _, err := s.only(ctx, k, []changed{}, "as it was")
	return h, err
}

// ShelfHead returns where the shelf stands.
func (s *Store) ShelfHead(ctx context.Context) (Head, error) { return s.headOf(ctx, shelfKind) }

// LibraryHead returns where the library stands.
func (s *Store) LibraryHead(ctx context.Context) (Head, error) { return s.headOf(ctx, libraryKind) }

// TestsHead returns where the tests stand.
func (s *Store) TestsHead(ctx context.Context) (Head, error) { return s.headOf(ctx, testsKind) }
