package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/paper"
	"chromaqua/core/settings"
)

// Head is where a document stands: the revision that is shown.
type Head struct {
	ID   int64
	Seq  int64
	What string // the change that made it
	Made time.Time
	Undo string // what undoing would take back, "" when there is nothing
	Redo string // what redoing would bring back

	Epoch int64 // in which it was read; another when the whole studio was replaced meanwhile
}

// Revision is one state of a card.
type Revision struct {
	Head
	Card *card.Card
}

// PaperRevision is one state of the paper on hand.
type PaperRevision struct {
	Head
	Stock *paper.Stock
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
)

// onlyID are the ids of what there is one of, so that cards are numbered from 1.
var onlyID = map[kind]int64{paperKind: 0, settingsKind: -1}

const selectHead = `
SELECT d.id, r.seq, r.what, r.made, r.doc,
       CASE WHEN r.parent > 0 THEN r.what ELSE '' END,
       COALESCE((SELECT n.what FROM revisions n WHERE n.document = d.id AND n.parent = d.head ORDER BY n.seq DESC LIMIT 1), '')
FROM documents d JOIN revisions r ON r.document = d.id AND r.seq = d.head`

type scanner interface{ Scan(...any) error }

func (s *Store) scanHead(row scanner) (h Head, doc []byte, err error) {
	var made int64
	err = row.Scan(&h.ID, &h.Seq, &h.What, &made, &doc, &h.Undo, &h.Redo)
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	h.Made, h.Epoch = time.Unix(made, 0), s.epoch.Load()
	return h, doc, err
}

func (s *Store) scanCard(row scanner) (*Revision, error) {
	h, doc, err := s.scanHead(row)
	if err != nil {
		return nil, err
	}
	c, err := card.Decode(doc)
	if err != nil {
		return nil, fmt.Errorf("card %d: %w", h.ID, err)
	}
	return &Revision{h, c}, nil
}

// Card returns the shown revision of a card, whatever its state.
func (s *Store) Card(ctx context.Context, id int64) (*Revision, error) {
	return s.scanCard(s.db.QueryRowContext(ctx, selectHead+" WHERE d.id = ? AND d.kind = ?", id, cardKind))
}

// Cards returns the shown revision of every card in a state, latest change
// first.
func (s *Store) Cards(ctx context.Context, in State) ([]*Revision, error) {
	rows, err := s.db.QueryContext(ctx, selectHead+" WHERE d.kind = ? AND d.state = ? ORDER BY r.made DESC, d.id DESC", cardKind, in)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []*Revision
	for rows.Next() {
		r, err := s.scanCard(rows)
		if err != nil {
			return nil, err
		}
		out = append(out, r)
	}
	return out, rows.Err()
}

// SetState archives a card, deletes it, or brings it back.
func (s *Store) SetState(ctx context.Context, id int64, to State) error {
	r, err := s.db.ExecContext(ctx, "UPDATE documents SET state = ? WHERE id = ? AND kind = ?", to, id, cardKind)
	if err != nil {
		return err
	}
	if n, err := r.RowsAffected(); err != nil || n == 0 {
		return errors.Join(err, ErrNotFound)
	}
	return nil
}

// Create adds a card.
func (s *Store) Create(ctx context.Context, c *card.Card, what string) (int64, error) {
	return s.CreateWithImages(ctx, c, nil, what)
}

// CreateWithImages adds a card together with the images it came with, all or
// nothing.
func (s *Store) CreateWithImages(ctx context.Context, c *card.Card, images []Image, what string) (id int64, err error) {
	doc, err := c.Encode()
	if err != nil {
		return 0, err
	}
	err = s.tx(ctx, func(tx *sql.Tx) error {
		for _, m := range images {
			if err := s.putImage(ctx, tx, m); err != nil {
				return err
			}
		}
		id, err = s.create(ctx, tx, nil, cardKind, doc, what)
		return err
	})
	return id, err
}

// create adds a document with its first revision; id is nil for the next free.
func (s *Store) create(ctx context.Context, tx *sql.Tx, id *int64, k kind, doc []byte, what string) (int64, error) {
	r, err := tx.ExecContext(ctx, "INSERT INTO documents (id, kind, head, made) VALUES (?, ?, 1, ?)", id, k, s.now().Unix())
	if err != nil {
		return 0, err
	}
	made, err := r.LastInsertId()
	if err != nil {
		return 0, err
	}
	return made, s.insert(ctx, tx, made, 1, 0, doc, what)
}

func (s *Store) insert(ctx context.Context, tx *sql.Tx, id, seq, parent int64, doc []byte, what string) error {
	_, err := tx.ExecContext(ctx, "INSERT INTO revisions (document, seq, parent, what, doc, made) VALUES (?, ?, ?, ?, ?, ?)", id, seq, parent, what, string(doc), s.now().Unix())
	return err
}

// Save makes c the next revision of the card, on top of revision base; it
// fails with [ErrStale] when base is no longer the shown one.
func (s *Store) Save(ctx context.Context, id, base int64, c *card.Card, what string) error {
	doc, err := c.Encode()
	if err != nil {
		return err
	}
	return s.save(ctx, id, base, doc, what)
}

func (s *Store) save(ctx context.Context, id, base int64, doc []byte, what string) error {
	return s.tx(ctx, func(tx *sql.Tx) error {
		if err := s.checkHead(ctx, tx, id, base); err != nil {
			return err
		}
		var seq int64
		if err := tx.QueryRowContext(ctx, "SELECT MAX(seq) + 1 FROM revisions WHERE document = ?", id).Scan(&seq); err != nil {
			return err
		}
		if err := s.insert(ctx, tx, id, seq, base, doc, what); err != nil {
			return err
		}
		return setHead(ctx, tx, id, seq)
	})
}

func (s *Store) checkHead(ctx context.Context, tx *sql.Tx, id, base int64) error {
	var head int64
	switch err := tx.QueryRowContext(ctx, "SELECT head FROM documents WHERE id = ?", id).Scan(&head); {
	case errors.Is(err, sql.ErrNoRows):
		return ErrNotFound
	case err != nil:
		return err
	case head != base:
		return ErrStale
	}
	return nil
}

func setHead(ctx context.Context, tx *sql.Tx, id, seq int64) error {
	_, err := tx.ExecContext(ctx, "UPDATE documents SET head = ? WHERE id = ?", seq, id)
	return err
}

// Undo shows the revision that base was made from. Nothing is deleted.
func (s *Store) Undo(ctx context.Context, id, base int64) error {
	return s.step(ctx, id, base, "SELECT parent FROM revisions WHERE document = ? AND seq = ? AND parent > 0")
}

// Redo shows the latest revision made from base.
func (s *Store) Redo(ctx context.Context, id, base int64) error {
	return s.step(ctx, id, base, "SELECT seq FROM revisions WHERE document = ? AND parent = ? ORDER BY seq DESC LIMIT 1")
}

func (s *Store) step(ctx context.Context, id, base int64, query string) error {
	return s.tx(ctx, func(tx *sql.Tx) error {
		if err := s.checkHead(ctx, tx, id, base); err != nil {
			return err
		}
		var seq int64
		err := tx.QueryRowContext(ctx, query, id, base).Scan(&seq)
		if errors.Is(err, sql.ErrNoRows) {
			return nil // already at the end
		}
		if err != nil {
			return err
		}
		return setHead(ctx, tx, id, seq)
	})
}

// Empty reports whether the studio holds no card.
func (s *Store) Empty(ctx context.Context) (bool, error) {
	var n int
	err := s.db.QueryRowContext(ctx, "SELECT COUNT(*) FROM documents WHERE kind = ?", cardKind).Scan(&n)
	return n == 0, err
}

// Paper returns the paper on hand; a new studio has none.
func (s *Store) Paper(ctx context.Context) (*PaperRevision, error) {
	h, doc, err := s.only(ctx, paperKind, paper.New(), "an empty drawer")
	if err != nil {
		return nil, err
	}
	var st paper.Stock
	if err := json.Unmarshal(doc, &st); err != nil {
		return nil, fmt.Errorf("the paper on hand: %w", err)
	}
	return &PaperRevision{h, &st}, nil
}

// only returns the one document of a kind, making it when there is none yet.
func (s *Store) only(ctx context.Context, k kind, empty any, what string) (Head, []byte, error) {
	row := func() scanner { return s.db.QueryRowContext(ctx, selectHead+" WHERE d.kind = ?", k) }
	h, doc, err := s.scanHead(row())
	if !errors.Is(err, ErrNotFound) {
		return h, doc, err
	}
	first, err := json.Marshal(empty)
	if err != nil {
		return h, nil, err
	}
	err = s.tx(ctx, func(tx *sql.Tx) error {
		var n int // somebody else may have made it meanwhile
		if err := tx.QueryRowContext(ctx, "SELECT COUNT(*) FROM documents WHERE kind = ?", k).Scan(&n); err != nil || n > 0 {
			return err
		}
		id := onlyID[k]
		_, err := s.create(ctx, tx, &id, k, first, what)
		return err
	})
	if err != nil {
		return h, nil, err
	}
	return s.scanHead(row())
}

// SettingsRevision is one state of the settings.
type SettingsRevision struct {
	Head
	Settings settings.Settings
}

// Settings returns what is true of the maker and the bench; a new studio has the
// defaults.
func (s *Store) Settings(ctx context.Context) (*SettingsRevision, error) {
	h, doc, err := s.only(ctx, settingsKind, settings.Default(), "the usual settings")
	if err != nil {
		return nil, err
	}
	v, err := settings.Decode(doc)
	if err != nil {
		return nil, err
	}
	return &SettingsRevision{h, v}, nil
}

// SaveSettings makes v the next revision of the settings; see [Store.Save].
func (s *Store) SaveSettings(ctx context.Context, id, base int64, v settings.Settings, what string) error {
	if err := v.Check(); err != nil {
		return err
	}
	doc, err := json.Marshal(v)
	if err != nil {
		return err
	}
	return s.save(ctx, id, base, doc, what)
}

// SavePaper makes st the next revision of the paper on hand; see [Store.Save].
func (s *Store) SavePaper(ctx context.Context, id, base int64, st *paper.Stock, what string) error {
	doc, err := json.Marshal(st)
	if err != nil {
		return err
	}
	return s.save(ctx, id, base, doc, what)
}
