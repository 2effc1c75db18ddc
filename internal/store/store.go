// Package store keeps the studio in one SQLite file: images by their hash and
// cards as revisions of one document. It stores and returns; it decides
// nothing about cards.
package store

import (
	"context"
	"database/sql"
	"embed"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"time"

	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/database"
	_ "modernc.org/sqlite" // registers the driver

	"chromaqua/core/card"
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is an open studio file. It is safe for concurrent use.
type Store struct {
	db  *sql.DB
	now func() time.Time
}

// connections to the file at a time; more only wait for each other's cores.
const connections = 6

// Errors callers tell apart.
var (
	ErrNotFound = errors.New("not found")
	// ErrStale means the card was changed since the caller last read it.
	ErrStale = errors.New("the card was changed meanwhile, perhaps in another tab; the latest version is shown and your last change was not made")
)

// Open opens or creates the studio file at path and brings it up to date. The
// file is in WAL mode with full synchronisation: what was confirmed survives a
// power cut.
func Open(ctx context.Context, path string) (*Store, error) {
	if dir := filepath.Dir(path); dir != "." {
		if err := os.MkdirAll(dir, 0o755); err != nil {
			return nil, fmt.Errorf("making the folder for the studio file: %w", err)
		}
	}
	q := url.Values{"_pragma": {"journal_mode(WAL)", "foreign_keys(1)", "synchronous(FULL)", "busy_timeout(5000)"}, "_txlock": {"immediate"}}
	db, err := sql.Open("sqlite", "file:"+(&url.URL{Path: path}).EscapedPath()+"?"+q.Encode())
	if err != nil {
		return nil, fmt.Errorf("opening %s: %w", path, err)
	}
	// Opening a connection costs more than a query, so those there are stay open.
	db.SetMaxOpenConns(connections)
	db.SetMaxIdleConns(connections)
	s := &Store{db: db, now: time.Now}
	if err := s.migrate(ctx); err != nil {
		return nil, errors.Join(fmt.Errorf("%s cannot be used as a studio file (is it one, and may it be written?): %w", path, err), db.Close())
	}
	return s, nil
}

func (s *Store) migrate(ctx context.Context) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(database.DialectSQLite3, s.db, files)
	if err != nil {
		return err
	}
	_, err = p.Up(ctx)
	return err
}

// Close closes the file.
func (s *Store) Close() error { return s.db.Close() }

// Backup writes a consistent copy of the studio to path, which must not exist,
// while the studio stays in use.
func (s *Store) Backup(ctx context.Context, path string) error {
	if _, err := os.Stat(path); err == nil {
		return fmt.Errorf("%s exists already; choose another name", path)
	}
	if _, err := s.db.ExecContext(ctx, "VACUUM INTO ?", path); err != nil {
		return fmt.Errorf("writing the backup: %w", err)
	}
	return nil
}

// tx runs f in a transaction that is committed when f returns nil.
func (s *Store) tx(ctx context.Context, f func(*sql.Tx) error) error {
	tx, err := s.db.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	if err := f(tx); err != nil {
		return errors.Join(err, tx.Rollback())
	}
	return tx.Commit()
}

// Revision is one state of a card.
type Revision struct {
	CardID int64
	Seq    int64
	What   string // the change that made it
	Made   time.Time
	Card   *card.Card
	Undo   string // what undoing would take back, "" when there is nothing
	Redo   string // what redoing would bring back
}

// Create adds a card.
func (s *Store) Create(ctx context.Context, c *card.Card, what string) (id int64, err error) {
	err = s.tx(ctx, func(tx *sql.Tx) error {
		id, err = s.create(ctx, tx, c, what)
		return err
	})
	return id, err
}

func (s *Store) create(ctx context.Context, tx *sql.Tx, c *card.Card, what string) (int64, error) {
	doc, err := c.Encode()
	if err != nil {
		return 0, err
	}
	r, err := tx.ExecContext(ctx, "INSERT INTO cards (head, made) VALUES (1, ?)", s.now().Unix())
	if err != nil {
		return 0, err
	}
	id, err := r.LastInsertId()
	if err != nil {
		return 0, err
	}
	_, err = tx.ExecContext(ctx, "INSERT INTO revisions (card, seq, parent, what, doc, made) VALUES (?, 1, 0, ?, ?, ?)", id, what, string(doc), s.now().Unix())
	return id, err
}

// CreateWithImages adds a card together with the images it came with, all or
// nothing.
func (s *Store) CreateWithImages(ctx context.Context, c *card.Card, images []Image, what string) (id int64, err error) {
	err = s.tx(ctx, func(tx *sql.Tx) error {
		for _, m := range images {
			if err := s.putImage(ctx, tx, m); err != nil {
				return err
			}
		}
		id, err = s.create(ctx, tx, c, what)
		return err
	})
	return id, err
}

const selectHead = `
SELECT c.id, r.seq, r.what, r.doc, r.made,
       CASE WHEN r.parent > 0 THEN r.what ELSE '' END,
       COALESCE((SELECT n.what FROM revisions n WHERE n.card = c.id AND n.parent = c.head ORDER BY n.seq DESC LIMIT 1), '')
FROM cards c JOIN revisions r ON r.card = c.id AND r.seq = c.head`

type scanner interface{ Scan(...any) error }

func scanRevision(row scanner) (*Revision, error) {
	var r Revision
	var doc string
	var made int64
	if err := row.Scan(&r.CardID, &r.Seq, &r.What, &doc, &made, &r.Undo, &r.Redo); err != nil {
		if errors.Is(err, sql.ErrNoRows) {
			return nil, ErrNotFound
		}
		return nil, err
	}
	c, err := card.Decode([]byte(doc))
	if err != nil {
		return nil, fmt.Errorf("card %d: %w", r.CardID, err)
	}
	r.Card, r.Made = c, time.Unix(made, 0)
	return &r, nil
}

// Card returns the shown revision of a card.
func (s *Store) Card(ctx context.Context, id int64) (*Revision, error) {
	return scanRevision(s.db.QueryRowContext(ctx, selectHead+" WHERE c.id = ?", id))
}

// Cards returns the shown revision of every card, latest change first.
func (s *Store) Cards(ctx context.Context) ([]*Revision, error) {
	rows, err := s.db.QueryContext(ctx, selectHead+" ORDER BY r.made DESC, c.id DESC")
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []*Revision
	for rows.Next() {
		r, err := scanRevision(rows)
		if err != nil {
			return nil, err
		}
		out = append(out, r)
	}
	return out, rows.Err()
}

// Save makes c the next revision of the card, on top of revision base; it
// fails with [ErrStale] when base is no longer the shown one.
func (s *Store) Save(ctx context.Context, id, base int64, c *card.Card, what string) error {
	doc, err := c.Encode()
	if err != nil {
		return err
	}
	return s.tx(ctx, func(tx *sql.Tx) error {
		if err := s.checkHead(ctx, tx, id, base); err != nil {
			return err
		}
		var seq int64
		if err := tx.QueryRowContext(ctx, "SELECT MAX(seq) + 1 FROM revisions WHERE card = ?", id).Scan(&seq); err != nil {
			return err
		}
		if _, err := tx.ExecContext(ctx, "INSERT INTO revisions (card, seq, parent, what, doc, made) VALUES (?, ?, ?, ?, ?, ?)", id, seq, base, what, string(doc), s.now().Unix()); err != nil {
			return err
		}
		return setHead(ctx, tx, id, seq)
	})
}

func (s *Store) checkHead(ctx context.Context, tx *sql.Tx, id, base int64) error {
	var head int64
	switch err := tx.QueryRowContext(ctx, "SELECT head FROM cards WHERE id = ?", id).Scan(&head); {
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
	_, err := tx.ExecContext(ctx, "UPDATE cards SET head = ? WHERE id = ?", seq, id)
	return err
}

// Undo shows the revision that base was made from. Nothing is deleted.
func (s *Store) Undo(ctx context.Context, id, base int64) error {
	return s.step(ctx, id, base, "SELECT parent FROM revisions WHERE card = ? AND seq = ? AND parent > 0")
}

// Redo shows the latest revision made from base.
func (s *Store) Redo(ctx context.Context, id, base int64) error {
	return s.step(ctx, id, base, "SELECT seq FROM revisions WHERE card = ? AND parent = ? ORDER BY seq DESC LIMIT 1")
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
	err := s.db.QueryRowContext(ctx, "SELECT COUNT(*) FROM cards").Scan(&n)
	return n == 0, err
}
