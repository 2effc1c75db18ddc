package store

import (
	"context"
	"database/sql"
	"encoding/binary"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"

	"github.com/gofrs/flock"
)

// Mark is what a file says it is, in the header of SQLite files.
type Mark uint32

// The marks of our files: a maker's studio, and one of samples, which may be thrown away.
const (
	unmarked Mark = 0
	Studio   Mark = 0x43515354 // "CQST"
	Samples  Mark = 0x4351534d // "CQSM"
)

// Where a SQLite file says what it is (its file format, section 1.3).
const (
	headerBytes   = 100
	headerMagic   = "SQLite format 3\x00"
	versionOffset = 60
	markOffset    = 68
)

// Errors about files that are not ours to touch.
var (
	ErrForeign = errors.New("this is no studio of Chromaqua; nothing of it was changed. Name another file with --data")
	ErrNewer   = errors.New("this studio was written by a newer Chromaqua, and is left as it is; start that one, or name another file with --data")
	ErrInUse   = errors.New("the studio is open in another Chromaqua; close that one first, or go on there")
)

// MarkOf tells what a file is without changing it; unmarked and no error for one that is
// not there yet, or empty. Studios of before there were marks are known by their tables.
func MarkOf(ctx context.Context, path string) (Mark, error) {
	mark, _, err := markOf(ctx, path)
	return mark, err
}

// markOf tells besides of which version a file is, 0 for one that is not there yet.
func markOf(ctx context.Context, path string) (mark Mark, version int, err error) {
	f, err := os.Open(path)
	if errors.Is(err, fs.ErrNotExist) {
		return unmarked, 0, nil
	}
	if err != nil {
		return unmarked, 0, err
	}
	defer f.Close()
	header := make([]byte, headerBytes)
	switch n, err := io.ReadFull(f, header); {
	case n == 0 && errors.Is(err, io.EOF):
		return unmarked, 0, nil
	case err != nil, string(header[:len(headerMagic)]) != headerMagic:
		return unmarked, 0, ErrForeign
	}
	mark, version = Mark(binary.BigEndian.Uint32(header[markOffset:])), int(binary.BigEndian.Uint32(header[versionOffset:]))
	if mark == unmarked { // it may stand in the log beside the file, or never have been set
		if mark, version, err = markInside(ctx, path); err != nil {
			return unmarked, 0, err
		}
	}
	switch {
	case mark != Studio && mark != Samples:
		return unmarked, 0, ErrForeign
	case version > schemaVersion():
		return mark, version, ErrNewer
	}
	return mark, version, nil
}

// markInside asks SQLite what a file is, opened for reading only.
func markInside(ctx context.Context, path string) (mark Mark, version int, err error) {
	db, err := sql.Open("sqlite", fileURL(path)+"?mode=ro&_pragma=busy_timeout(5000)")
	if err != nil {
		return unmarked, 0, err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	var ours int
	err = errors.Join(
		db.QueryRowContext(ctx, "PRAGMA application_id").Scan(&mark),
		db.QueryRowContext(ctx, "PRAGMA user_version").Scan(&version),
		db.QueryRowContext(ctx, "SELECT COUNT(*) FROM sqlite_master WHERE type = 'table' AND name IN ('goose_db_version', 'images', 'documents', 'revisions')").Scan(&ours),
	)
	if err != nil {
		return unmarked, 0, ErrForeign
	}
	if mark == unmarked && ours == 4 {
		mark = Studio
	}
	return mark, version, nil
}

// schemaVersion is the number of the latest migration.
func schemaVersion() int {
	all, err := fs.ReadDir(migrations, "migrations")
	if err != nil {
		panic("store: " + err.Error()) // they are embedded
	}
	return len(all)
}

// Claim reserves a studio file for one program until it is released; what only reads or
// copies needs no claim. The lock goes with the process, however it ends.
func Claim(path string) (release func() error, err error) {
	lock := flock.New(path + ".lock")
	ok, err := lock.TryLock()
	if err != nil {
		return nil, fmt.Errorf("the folder of the studio file may not be written, or cannot be: %w", err)
	}
	if !ok {
		return nil, fmt.Errorf("%s: %w", path, ErrInUse)
	}
	return lock.Unlock, nil
}
