package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"strconv"

	"chromaqua/core/card"
)

// Revision is one state of a card.
type Revision struct {
	Head
	Card  *card.Card // or one piece of it alone, see [Revision.At]
	Piece string     // id of that piece, "" for the panel with all
	Whole *card.Card // the card with all its pieces
}

// At is the revision as it is seen from one of its pieces, which is given alone. The card
// itself is seen from its panel, and wherever a piece is gone.
func (r *Revision) At(piece string) *Revision {
	whole := r.Whole
	if whole == nil {
		whole = r.Card
	}
	out := &Revision{Head: r.Head, Card: whole, Whole: whole}
	if _, err := whole.PieceByID(piece); err == nil {
		if alone, err := whole.Alone(piece); err == nil {
			out.Card, out.Piece = alone, piece
		}
	}
	return out
}

// Back brings what was changed on the piece back into the whole card, and takes down what
// the maker calls the paints of all pieces.
func (r *Revision) Back(names card.Names) error {
	if err := r.Whole.Return(r.Piece, r.Card); err != nil {
		return err
	}
	r.Whole.Call(names)
	return nil
}

// Address names the revision's card, and the piece it is seen from, in addresses: "3",
// "3.p1".
func (r *Revision) Address() string {
	if r.Piece == "" {
		return strconv.FormatInt(r.ID, 10)
	}
	return strconv.FormatInt(r.ID, 10) + "." + r.Piece
}

// Unreadable is a card whose document this program cannot read. It stands in nobody's
// way: all other cards are shown, and nothing of it is changed.
type Unreadable struct {
	Head
	Newer bool // a newer program wrote it
	Err   error
}

func (u *Unreadable) Error() string { return fmt.Sprintf("card %d cannot be read: %v", u.ID, u.Err) }
func (u *Unreadable) Unwrap() error { return u.Err }

func (s *Store) scanCard(row scanner) (*Revision, error) {
	h, doc, err := s.scanHead(row)
	if err != nil {
		return nil, err
	}
	c, err := card.Decode(doc)
	if err != nil {
		return nil, &Unreadable{h, errors.Is(err, card.ErrNewer), err}
	}
	return (&Revision{Head: h, Card: c}).At(""), nil
}

// Card returns the shown revision of a card, whatever its state; [*Unreadable] when it
// cannot be read.
func (s *Store) Card(ctx context.Context, id int64) (*Revision, error) {
	return s.scanCard(s.db().QueryRowContext(ctx, selectHead+" WHERE d.id = ? AND d.kind = ?", id, cardKind))
}

// Cards returns the shown revision of every card in a state, latest change first, and
// those cards of which it cannot be read.
func (s *Store) Cards(ctx context.Context, in State) (out []*Revision, not []*Unreadable, err error) {
	rows, err := s.db().QueryContext(ctx, selectHead+" WHERE d.kind = ? AND d.state = ? ORDER BY r.made DESC, d.id DESC", cardKind, in)
	if err != nil {
		return nil, nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var bad *Unreadable
		switch r, err := s.scanCard(rows); {
		case err == nil:
			out = append(out, r)
		case errors.As(err, &bad):
			not = append(not, bad)
		default:
			return nil, nil, err
		}
	}
	return out, not, rows.Err()
}

// Document returns what is stored of a card's shown revision as it is, for cards that
// cannot be read.
func (s *Store) Document(ctx context.Context, id int64) ([]byte, error) {
	_, doc, err := s.scanHead(s.db().QueryRowContext(ctx, selectHead+" WHERE d.id = ? AND d.kind = ?", id, cardKind))
	return doc, err
}

// ErrNoneReadable means that no revision of a card can be read.
var ErrNoneReadable = errors.New("no earlier state of this card can be read either; save its document, and look into the daily copies in Settings")

// GoBackToReadable shows the latest revision of a card that can be read. Nothing is
// deleted.
func (s *Store) GoBackToReadable(ctx context.Context, id int64) error {
	return s.tx(ctx, func(tx *sql.Tx) error {
		_, k, err := checkHead(ctx, tx, id, Latest)
		if err == nil && k != cardKind {
			err = ErrNotFound
		}
		if err != nil {
			return err
		}
		seq, err := latestReadable(ctx, tx, id)
		if err != nil {
			return err
		}
		return setHead(ctx, tx, id, seq)
	})
}

func latestReadable(ctx context.Context, tx *sql.Tx, id int64) (seq int64, err error) {
	rows, err := tx.QueryContext(ctx, "SELECT seq, doc FROM revisions WHERE document = ? ORDER BY seq DESC", id)
	if err != nil {
		return 0, err
	}
	defer rows.Close()
	for rows.Next() {
		var doc []byte
		if err := rows.Scan(&seq, &doc); err != nil {
			return 0, err
		}
		if _, err := card.Decode(doc); err == nil {
			return seq, nil
		}
	}
	if err := rows.Err(); err != nil {
		return 0, err
	}
	return 0, ErrNoneReadable
}

// SetState archives a card, deletes it, or brings it back.
func (s *Store) SetState(ctx context.Context, id int64, to State) error {
	return oneRow(s.db().ExecContext(ctx, "UPDATE documents SET state = ? WHERE id = ? AND kind = ?", to, id, cardKind))
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

// Save makes c the next revision of the card, on top of revision base; it fails with
// [ErrStale] when base is no longer the shown one, and with [ErrDeleted] when the card
// was deleted.
func (s *Store) Save(ctx context.Context, id, base int64, c *card.Card, what string) error {
	doc, err := c.Encode()
	if err != nil {
		return err
	}
	return s.save(ctx, id, base, doc, what)
}

// Empty reports whether the studio holds no card.
func (s *Store) Empty(ctx context.Context) (bool, error) {
	var n int
	err := s.db().QueryRowContext(ctx, "SELECT COUNT(*) FROM documents WHERE kind = ?", cardKind).Scan(&n)
	return n == 0, err
}
