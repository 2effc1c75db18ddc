package store

import (
	"context"
	"database/sql"
	"encoding/json"
	"errors"
	"fmt"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"
)

// Limits of the album.
const (
	MaxPhotos    = 40   // of one making
	MaxEntries   = 2000 // entered by hand, of all cards
	MaxEntryText = 2000 // characters
	MaxMinutes   = 100_000
	MaxMade      = 500 // cards in one making
)

// Photo is a photo of something that was made.
type Photo struct {
	ID         int64
	Run, Entry int64 // one of them
	Card       int64
	Piece      string
	Data       []byte // JPEG
	Squared    []byte // JPEG of the panel in it; empty when it was not found
	Reading    []byte // JSON; empty when it was not read
	Why        string // it was not read
	Simulated  bool
	Made       time.Time
}

// ErrManyPhotos means that no more photos are kept of one making.
var ErrManyPhotos = fmt.Errorf("%d photos are kept of one making; take one away first", MaxPhotos)

// AddPhoto keeps a photo.
func (s *Store) AddPhoto(ctx context.Context, p Photo) (id int64, err error) {
	err = s.tx(ctx, func(tx *sql.Tx) error {
		var n int
		if err := tx.QueryRowContext(ctx, "SELECT COUNT(*) FROM photos WHERE run IS ? AND entry IS ?", null(p.Run), null(p.Entry)).Scan(&n); err != nil {
			return err
		}
		if n >= MaxPhotos {
			return ErrManyPhotos
		}
		res, err := tx.ExecContext(ctx, "INSERT INTO photos (run, entry, card, piece, data, squared, reading, why, simulated, made) VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
			null(p.Run), null(p.Entry), p.Card, p.Piece, p.Data, append([]byte{}, p.Squared...), string(p.Reading), p.Why, p.Simulated, s.now().Unix())
		if err != nil {
			return err
		}
		id, err = res.LastInsertId()
		return err
	})
	return id, err
}

func null(id int64) sql.NullInt64 { return sql.NullInt64{Int64: id, Valid: id != 0} }

const selectPhoto = "SELECT id, run, entry, card, piece, reading, why, simulated, made FROM photos"

func scanPhoto(row scanner, more ...any) (p Photo, err error) {
	var run, entry sql.NullInt64
	var made int64
	err = row.Scan(append([]any{&p.ID, &run, &entry, &p.Card, &p.Piece, &p.Reading, &p.Why, &p.Simulated, &made}, more...)...)
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	p.Run, p.Entry, p.Made = run.Int64, entry.Int64, time.Unix(made, 0)
	return p, err
}

// PhotosOf lists the photos of a card in all its makings, the oldest first, without their
// pictures.
func (s *Store) PhotosOf(ctx context.Context, card int64) (out []Photo, err error) {
	rows, err := s.db().QueryContext(ctx, selectPhoto+" WHERE card = ? ORDER BY id", card)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		p, err := scanPhoto(rows)
		if err != nil {
			return nil, err
		}
		out = append(out, p)
	}
	return out, rows.Err()
}

// PhotoByID returns a photo with its pictures.
func (s *Store) PhotoByID(ctx context.Context, id int64) (Photo, error) {
	var data, squared []byte
	row := s.db().QueryRowContext(ctx, strings.Replace(selectPhoto, "made FROM", "made, data, squared FROM", 1)+" WHERE id = ?", id)
	p, err := scanPhoto(row, &data, &squared)
	p.Data, p.Squared = data, squared
	return p, err
}

// RemovePhoto takes a photo away.
func (s *Store) RemovePhoto(ctx context.Context, id int64) error {
	return s.tx(ctx, func(tx *sql.Tx) error {
		res, err := tx.ExecContext(ctx, "DELETE FROM photos WHERE id = ?", id)
		return oneRow(res, err)
	})
}

// Entry is a making of a card that was entered by hand, not told at the bench.
type Entry struct {
	ID      int64  `json:"-"`
	Card    int64  `json:"-"`
	Day     string `json:"day"` // as 2026-11-28
	Copies  int    `json:"copies"`
	Minutes int    `json:"minutes,omitempty"` // at work, 0 when nobody knows
	Notes   string `json:"notes,omitempty"`
	Turned  string `json:"turned,omitempty"` // how it turned out
	Went    string `json:"went,omitempty"`   // kept, or given to
}

// Check reports the first thing wrong, in words; a day after today has not been.
func (e *Entry) Check(today time.Time) error {
	day, err := time.Parse(time.DateOnly, e.Day)
	switch {
	case err != nil:
		return errors.New("the day is written as 2026-11-28")
	case day.After(today):
		return errors.New("that day is still to come; the log holds what was made")
	case day.Year() < 1900:
		return errors.New("that day is too long ago to be meant")
	case e.Copies < 1 || e.Copies > MaxMade:
		return fmt.Errorf("1 to %d cards are made at a time", MaxMade)
	case e.Minutes < 0 || e.Minutes > MaxMinutes:
		return fmt.Errorf("0 to %d minutes at work, 0 where nobody knows", MaxMinutes)
	}
	for _, t := range []string{e.Notes, e.Turned, e.Went} {
		if utf8.RuneCountInString(t) > MaxEntryText || !utf8.ValidString(t) || strings.ContainsFunc(t, func(r rune) bool { return unicode.IsControl(r) && r != '\n' }) {
			return fmt.Errorf("a text of the log is at most %d characters long", MaxEntryText)
		}
	}
	return nil
}

// PutEntry adds a making by hand, or writes one anew that has an id.
func (s *Store) PutEntry(ctx context.Context, e Entry) (id int64, err error) {
	if err := e.Check(s.now()); err != nil {
		return 0, err
	}
	doc, err := json.Marshal(e)
	if err != nil {
		return 0, err
	}
	err = s.tx(ctx, func(tx *sql.Tx) error {
		if e.ID != 0 {
			id = e.ID
			res, err := tx.ExecContext(ctx, "UPDATE entries SET doc = ? WHERE id = ? AND card = ?", string(doc), e.ID, e.Card)
			return oneRow(res, err)
		}
		var n int
		if err := tx.QueryRowContext(ctx, "SELECT COUNT(*) FROM entries").Scan(&n); err != nil {
			return err
		}
		if n >= MaxEntries {
			return fmt.Errorf("the log holds %d entries by hand; take old ones away first", MaxEntries)
		}
		res, err := tx.ExecContext(ctx, "INSERT INTO entries (card, doc, made) VALUES (?, ?, ?)", e.Card, string(doc), s.now().Unix())
		if err != nil {
			return err
		}
		id, err = res.LastInsertId()
		return err
	})
	return id, err
}

// EntriesOf lists what was entered by hand of a card, of all cards when 0, the latest day
// first.
func (s *Store) EntriesOf(ctx context.Context, card int64) (out []Entry, err error) {
	rows, err := s.db().QueryContext(ctx, "SELECT id, card, doc FROM entries WHERE ? IN (0, card) ORDER BY json_extract(doc, '$.day') DESC, id DESC", card)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var e Entry
		var id, of int64
		var doc []byte
		if err := rows.Scan(&id, &of, &doc); err != nil {
			return nil, err
		}
		if err := json.Unmarshal(doc, &e); err != nil {
			return nil, fmt.Errorf("entry %d of the log cannot be read: %w", id, err)
		}
		e.ID, e.Card = id, of
		out = append(out, e)
	}
	return out, rows.Err()
}

// RemoveEntry takes an entry away, with its photos.
func (s *Store) RemoveEntry(ctx context.Context, card, id int64) error {
	return s.tx(ctx, func(tx *sql.Tx) error {
		res, err := tx.ExecContext(ctx, "DELETE FROM entries WHERE id = ? AND card = ?", id, card)
		return oneRow(res, err)
	})
}

// Making is one line of all that was made: a card in a run, or entered by hand.
type Making struct {
	Run, Entry int64  // one of them
	Card, Rev  int64  // as it was; as it is now for what was entered by hand
	Name       string // "" when the card is gone
	At         time.Time
	Copies     int
	Over       bool
	Turned     string
	Went       string
	Photos     int
}

// Makings lists what was made, the latest first, so many at most.
func (s *Store) Makings(ctx context.Context, most int) (out []Making, err error) {
	heads, err := s.heads(ctx)
	if err != nil {
		return nil, err
	}
	const said = "COALESCE((SELECT json_extract(e.doc, '$.text') FROM events e WHERE e.run = r.id AND json_extract(e.doc, '$.kind') = '%s' ORDER BY e.seq DESC LIMIT 1), '')"
	rows, err := s.db().QueryContext(ctx, `
SELECT r.id, 0, json_extract(l.value, '$.card'), json_extract(l.value, '$.rev'), json_extract(l.value, '$.name'), r.made / 1000 AS at, COALESCE(json_extract(l.value, '$.copies'), 1), r.over,
       `+fmt.Sprintf(said, "turned out")+", "+fmt.Sprintf(said, "went")+`, (SELECT COUNT(*) FROM photos p WHERE p.run = r.id AND p.card = json_extract(l.value, '$.card'))
FROM runs r, json_each(r.doc, '$.lots') l
UNION ALL
SELECT 0, n.id, n.card, 0, '', CAST(strftime('%s', json_extract(n.doc, '$.day')) AS INTEGER), json_extract(n.doc, '$.copies'), 1,
       COALESCE(json_extract(n.doc, '$.turned'), ''), COALESCE(json_extract(n.doc, '$.went'), ''), (SELECT COUNT(*) FROM photos p WHERE p.entry = n.id)
FROM entries n
ORDER BY at DESC LIMIT ?`, most)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var m Making
		var at int64
		if err := rows.Scan(&m.Run, &m.Entry, &m.Card, &m.Rev, &m.Name, &at, &m.Copies, &m.Over, &m.Turned, &m.Went, &m.Photos); err != nil {
			return nil, err
		}
		if m.Entry != 0 {
			m.Name, m.Rev = heads[m.Card].name, heads[m.Card].seq
		}
		m.At = time.Unix(at, 0)
		out = append(out, m)
	}
	return out, rows.Err()
}

// shownHead is the revision of a card that is shown, and its name.
type shownHead struct {
	seq  int64
	name string
}

// heads are the shown revisions of all cards.
func (s *Store) heads(ctx context.Context) (map[int64]shownHead, error) {
	rows, err := s.db().QueryContext(ctx, "SELECT d.id, d.head, json_extract(v.doc, '$.name') FROM documents d JOIN revisions v ON v.document = d.id AND v.seq = d.head WHERE d.kind = ?", cardKind)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	out := map[int64]shownHead{}
	for rows.Next() {
		var id int64
		var h shownHead
		if err := rows.Scan(&id, &h.seq, &h.name); err != nil {
			return nil, err
		}
		out[id] = h
	}
	return out, rows.Err()
}
