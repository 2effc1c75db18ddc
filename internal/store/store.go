// Package store keeps the studio in one SQLite file: images by their hash, and
// cards and the paper on hand as revisions of a document each. It stores and
// returns; it decides nothing about them.
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
	// ErrStale means the document was changed since the caller last read it.
	ErrStale = errors.New("this was changed meanwhile, perhaps in another tab; the latest version is shown and your last change was not made")
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
