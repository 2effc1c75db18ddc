package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"time"
)

// Head is where a document stands: the revision that is shown.
type Head struct {
	ID   int64
	Seq  int64
	What string // the change that made it
	In   State
	Made time.Time
	Undo string // what undoing would take back, "" when there is nothing
	Redo string // what redoing would bring back

	Epoch int64 // in which it was read; another when the whole studio was replaced meanwhile
}

// State says whether a document is shown among the others. What is deleted is
// kept, so that it can be brought back.
type State string

// The states.
const (
	Shown    State = "shown"
	Archived State = "archived"
	Deleted  State = "deleted"
)

// kind is what a document is.
type kind string

const (
	cardKind     kind = "card"
	paperKind    kind = "paper"
	settingsKind kind = "settings"
	shelfKind    kind = "shelf"
	libraryKind  kind = "library"
	testsKind    kind = "tests"
)

// onlyID are the ids of what there is one of, so that cards are numbered from 1.
var onlyID = map[kind]int64{paperKind: 0, settingsKind: -1, shelfKind: -2, libraryKind: -3, testsKind: -4}

// Latest, given for the revision that a change is made on, stands for whichever is shown:
// for changes that follow from another and cannot overwrite anything.
const Latest int64 = 0

const selectHead = `
SELECT d.id, d.state, r.seq, r.what, r.made, r.doc,
       CASE WHEN r.parent > 0 THEN r.what ELSE '' END,
       COALESCE((SELECT n.what FROM revisions n WHERE n.document = d.id AND n.parent = d.head ORDER BY n.seq DESC LIMIT 1), '')
FROM documents d JOIN revisions r ON r.document = d.id AND r.seq = d.head`

type scanner interface{ Scan(...any) error }

func (s *Store) scanHead(row scanner) (h Head, doc []byte, err error) {
	var made int64
	err = row.Scan(&h.ID, &h.In, &h.Seq, &h.What, &made, &doc, &h.Undo, &h.Redo)
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	h.Made, h.Epoch = time.Unix(made, 0), s.epoch.Load()
	return h, doc, err
}

// create adds a document with its first revision; id is nil for the next free.
func (s *Store) create(ctx context.Context, tx *sql.Tx, id *int64, k kind, doc []byte, what string) (int64, error) {
	if id == nil {
		id = new(int64)
		if err := tx.QueryRowContext(ctx, "SELECT max(0, COALESCE(MAX(id), 0)) + 1 FROM documents").Scan(id); err != nil {
			return 0, err
		}
	}
	if _, err := tx.ExecContext(ctx, "INSERT INTO documents (id, kind, head, made) VALUES (?, ?, 1, ?)", *id, k, s.now().Unix()); err != nil {
		return 0, err
	}
	return *id, s.insert(ctx, tx, *id, 1, 0, doc, what)
}

func (s *Store) insert(ctx context.Context, tx *sql.Tx, id, seq, parent int64, doc []byte, what string) error {
	_, err := tx.ExecContext(ctx, "INSERT INTO revisions (document, seq, parent, what, doc, made) VALUES (?, ?, ?, ?, ?, ?)", id, seq, parent, what, string(doc), s.now().Unix())
	return err
}

func (s *Store) save(ctx context.Context, id, base int64, doc []byte, what string) error {
	return s.tx(ctx, func(tx *sql.Tx) error {
		head, _, err := checkHead(ctx, tx, id, base)
		if err != nil {
			return err
		}
		return s.put(ctx, tx, id, head, doc, what)
	})
}

// put makes doc the next revision, on top of the one that is shown.
func (s *Store) put(ctx context.Context, tx *sql.Tx, id, head int64, doc []byte, what string) error {
	var seq int64
	if err := tx.QueryRowContext(ctx, "SELECT MAX(seq) + 1 FROM revisions WHERE document = ?", id).Scan(&seq); err != nil {
		return err
	}
	if err := s.insert(ctx, tx, id, seq, head, doc, what); err != nil {
		return err
	}
	return setHead(ctx, tx, id, seq)
}

// checkHead returns the revision that is shown, which has to be base, and what kind of
// document it is. What is deleted is not changed.
func checkHead(ctx context.Context, tx *sql.Tx, id, base int64) (head int64, k kind, err error) {
	var in State
	switch err := tx.QueryRowContext(ctx, "SELECT head, kind, state FROM documents WHERE id = ?", id).Scan(&head, &k, &in); {
	case errors.Is(err, sql.ErrNoRows):
		return 0, "", ErrNotFound
	case err != nil:
		return 0, "", err
	case in == Deleted:
		return 0, "", ErrDeleted
	case base != Latest && head != base:
		return 0, "", ErrStale
	}
	return head, k, nil
}

func setHead(ctx context.Context, tx *sql.Tx, id, seq int64) error {
	_, err := tx.ExecContext(ctx, "UPDATE documents SET head = ? WHERE id = ?", seq, id)
	return err
}

// Undo shows the revision that base was made from. Nothing is deleted.
func (s *Store) Undo(ctx context.Context, id, base int64) error {
	return s.step(ctx, id, base, "SELECT parent, doc FROM revisions WHERE document = ? AND seq = ? AND parent > 0", before)
}

// Redo shows the latest revision made from base.
func (s *Store) Redo(ctx context.Context, id, base int64) error {
	return s.step(ctx, id, base, "SELECT seq, doc FROM revisions WHERE document = ? AND parent = ? ORDER BY seq DESC LIMIT 1", after)
}

func (s *Store) step(ctx context.Context, id, base int64, query string, to side) error {
	return s.tx(ctx, func(tx *sql.Tx) error {
		head, k, err := checkHead(ctx, tx, id, base)
		if err != nil {
			return err
		}
		var seq int64
		var doc []byte
		err = tx.QueryRowContext(ctx, query, id, head).Scan(&seq, &doc)
		if errors.Is(err, sql.ErrNoRows) {
			return nil // already at the end
		}
		if err != nil {
			return err
		}
		if t, rows := tables[k]; rows {
			if err := t.put(ctx, tx, doc, to); err != nil {
				return err
			}
		}
		return setHead(ctx, tx, id, seq)
	})
}

// only returns the one document of a kind, making it when there is none yet.
func (s *Store) only(ctx context.Context, k kind, empty any, what string) (Head, []byte, error) {
	row := func() scanner { return s.db().QueryRowContext(ctx, selectHead+" WHERE d.kind = ?", k) }
	h, doc, err := s.scanHead(row())
	if !errors.Is(err, ErrNotFound) {
		return h, doc, err
	}
	first, err := json.Marshal(empty)
	if err != nil {
		return h, nil, err
	}
	if err := s.tx(ctx, func(tx *sql.Tx) error { return s.ensure(ctx, tx, k, first, what) }); err != nil {
		return h, nil, err
	}
	return s.scanHead(row())
}

// ensure makes the one document of a kind unless it is there.
func (s *Store) ensure(ctx context.Context, tx *sql.Tx, k kind, first []byte, what string) error {
	var n int
	if err := tx.QueryRowContext(ctx, "SELECT COUNT(*) FROM documents WHERE kind = ?", k).Scan(&n); err != nil || n > 0 {
		return err
	}
	id := onlyID[k]
	_, err := s.create(ctx, tx, &id, k, first, what)
	return err
}
