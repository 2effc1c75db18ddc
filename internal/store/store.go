// Package store keeps the studio in one SQLite file: images by their hash; cards, the
// paper on hand and the settings as revisions of a document each; shelf, library and
// tests as rows whose changes are revisions too. It stores and returns; it decides
// nothing about them.
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
	"sync/atomic"
	"time"

	"github.com/pressly/goose/v3"
	"github.com/pressly/goose/v3/database"
	_ "modernc.org/sqlite" // registers the driver
)

//go:embed migrations/*.sql
var migrations embed.FS

// Store is an open studio file. It is safe for concurrent use.
type Store struct {
	open  atomic.Pointer[sql.DB]
	path  string
	now   func() time.Time
	epoch atomic.Int64 // grows when all of it is replaced
}

func (s *Store) db() *sql.DB { return s.open.Load() }

// connections to the file at a time; more only wait for each other's cores.
const connections = 6

// Errors callers tell apart.
var (
	ErrNotFound = errors.New("not found")
	// ErrStale means the document was changed since the caller last read it.
	ErrStale = errors.New("this was changed meanwhile, perhaps in another tab; the latest version is shown and your last change was not made")
	// ErrDeleted means that a card has to be brought back before it can be changed.
	ErrDeleted = errors.New("this card was deleted, perhaps in another tab; bring it back before you change it")
)

// Open opens or creates a maker's studio file at path and brings it up to date. The
// file is in WAL mode with full synchronisation: what was confirmed survives a
// power cut. A file that is not ours, or of a newer version, is left untouched; see
// [ErrForeign] and [ErrNewer].
func Open(ctx context.Context, path string) (*Store, error) { return open(ctx, path, Studio) }

// OpenSamples opens or creates a studio of samples, which may be thrown away.
func OpenSamples(ctx context.Context, path string) (*Store, error) { return open(ctx, path, Samples) }

func open(ctx context.Context, path string, as Mark) (*Store, error) {
	if dir := filepath.Dir(path); dir != "." {
		if err := os.MkdirAll(dir, 0o755); err != nil {
			return nil, fmt.Errorf("making the folder for the studio file: %w", err)
		}
	}
	mark, version, err := markOf(ctx, path)
	if err != nil {
		return nil, fmt.Errorf("%s: %w", path, err)
	}
	if mark != unmarked {
		as = mark
	}
	s := &Store{path: path, now: time.Now}
	if err := s.connect(); err != nil {
		return nil, err
	}
	if err := s.prepare(ctx, as, version); err != nil {
		return nil, errors.Join(fmt.Errorf("%s cannot be used as a studio file: %w", path, err), s.Close())
	}
	return s, nil
}

// prepare brings a file up to date. A damaged one is left as it is: what is missing in it
// would be taken for not made yet.
func (s *Store) prepare(ctx context.Context, as Mark, version int) error {
	if version < schemaVersion() {
		if version > 0 {
			if err := whole(ctx, s.path); err != nil {
				return err
			}
		}
		if err := s.migrate(ctx); err != nil {
			return err
		}
	}
	var cards int // reads into the file
	if err := s.db().QueryRowContext(ctx, "SELECT COUNT(*) FROM documents").Scan(&cards); err != nil {
		return err
	}
	return s.mark(ctx, as)
}

// connect opens the file.
func (s *Store) connect() error {
	db, err := sql.Open("sqlite", dsn(s.path, "_txlock=immediate"))
	if err != nil {
		return fmt.Errorf("opening %s: %w", s.path, err)
	}
	// Opening a connection costs more than a query, so those there are stay open.
	db.SetMaxOpenConns(connections)
	db.SetMaxIdleConns(connections)
	s.open.Store(db)
	return nil
}

// dsn names a file to the driver, with what every connection holds to.
func dsn(path, more string) string {
	q := url.Values{"_pragma": {"foreign_keys(1)", "synchronous(FULL)", "busy_timeout(5000)"}}
	if more != "mode=ro" {
		q["_pragma"] = append([]string{"journal_mode(WAL)"}, q["_pragma"]...)
	}
	return fileURL(path) + "?" + q.Encode() + "&" + more
}

// mark writes into the file's header what it is.
func (s *Store) mark(ctx context.Context, as Mark) error {
	var mark Mark
	var version int
	if err := errors.Join(s.db().QueryRowContext(ctx, "PRAGMA application_id").Scan(&mark), s.db().QueryRowContext(ctx, "PRAGMA user_version").Scan(&version)); err != nil {
		return err
	}
	if mark == as && version == schemaVersion() {
		return nil
	}
	_, err := s.db().ExecContext(ctx, fmt.Sprintf("PRAGMA application_id = %d; PRAGMA user_version = %d", as, schemaVersion()))
	return err
}

func (s *Store) migrate(ctx context.Context) error {
	files, err := fs.Sub(migrations, "migrations")
	if err != nil {
		return err
	}
	p, err := goose.NewProvider(database.DialectSQLite3, s.db(), files)
	if err != nil {
		return err
	}
	_, err = p.Up(ctx)
	return err
}

// SetClock lets a studio go by another clock than the machine's, for samples whose times lie
// behind.
func (s *Store) SetClock(now func() time.Time) { s.now = now }

// Close closes the file.
func (s *Store) Close() error { return s.db().Close() }

// tx runs f in a transaction that is committed when f returns nil.
func (s *Store) tx(ctx context.Context, f func(*sql.Tx) error) error {
	tx, err := s.db().BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	if err := f(tx); err != nil {
		return errors.Join(err, tx.Rollback())
	}
	return tx.Commit()
}
