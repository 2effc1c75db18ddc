package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io"
	"io/fs"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"time"
)

// Copies that are made by themselves, one a day, and how many are kept.
const (
	keptCopies = 7
	copyName   = "2006-01-02"
)

// Backup writes a consistent copy of the studio to path, which must not exist, while the
// studio stays in use. It is written beside its place, checked and synced before it gets
// its name: a file of that name is whole.
func (s *Store) Backup(ctx context.Context, path string) (err error) {
	if _, err := os.Lstat(path); err == nil {
		return fmt.Errorf("%s exists already; choose another name", path)
	}
	part := path + ".part"
	if err := os.Remove(part); err != nil && !errors.Is(err, fs.ErrNotExist) {
		return fmt.Errorf("writing the backup: %w", err)
	}
	defer func() {
		if err != nil {
			_ = os.Remove(part)
		}
	}()
	if _, err := s.db.ExecContext(ctx, "VACUUM INTO ?", part); err != nil {
		return fmt.Errorf("writing the backup: %w", err)
	}
	if err := whole(ctx, part); err != nil {
		return fmt.Errorf("the backup is not whole, and was not kept: %w", err)
	}
	if err := synced(part); err != nil {
		return fmt.Errorf("writing the backup: %w", err)
	}
	if err := os.Link(part, path); err != nil { // unlike a rename, this never replaces what has come meanwhile
		if _, there := os.Lstat(path); there == nil {
			return fmt.Errorf("%s exists already; choose another name", path)
		}
		if err := os.Rename(part, path); err != nil { // a file system without links
			return fmt.Errorf("writing the backup: %w", err)
		}
	}
	return errors.Join(ignoreMissing(os.Remove(part)), synced(filepath.Dir(path)))
}

func ignoreMissing(err error) error {
	if errors.Is(err, fs.ErrNotExist) {
		return nil
	}
	return err
}

// whole checks a file from its first page to its last.
func whole(ctx context.Context, path string) (err error) {
	db, err := sql.Open("sqlite", dsn(path, "mode=ro"))
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	var said string
	if err := db.QueryRowContext(ctx, "PRAGMA integrity_check(1)").Scan(&said); err != nil {
		return err
	}
	if said != "ok" {
		return errors.New(said)
	}
	return nil
}

// synced waits until a file or a folder is on the disk.
func synced(path string) error {
	f, err := os.Open(path)
	if err != nil {
		return err
	}
	return errors.Join(f.Sync(), f.Close())
}

// A Copy is a backup that was made by itself.
type Copy struct {
	Name  string // its date
	Made  time.Time
	Bytes int64
}

// copies is the folder of the daily copies, beside the studio.
func (s *Store) copies() string { return s.path + "-copies" }

// Copies lists the daily copies there are, the latest first.
func (s *Store) Copies() ([]Copy, error) {
	all, err := os.ReadDir(s.copies())
	if errors.Is(err, fs.ErrNotExist) {
		return nil, nil
	}
	if err != nil {
		return nil, err
	}
	var out []Copy
	for _, e := range all {
		name, is := strings.CutSuffix(e.Name(), ".db")
		info, err := e.Info()
		if !is || err != nil || !info.Mode().IsRegular() {
			continue
		}
		out = append(out, Copy{name, info.ModTime(), info.Size()})
	}
	slices.SortFunc(out, func(a, b Copy) int { return strings.Compare(b.Name, a.Name) })
	return out, nil
}

// CopyToday keeps a copy of the day unless there is one, and forgets the oldest.
func (s *Store) CopyToday(ctx context.Context) error {
	return s.keepCopy(ctx, s.now().Format(copyName))
}

func (s *Store) keepCopy(ctx context.Context, name string) error {
	if err := os.MkdirAll(s.copies(), 0o755); err != nil {
		return fmt.Errorf("making the folder for daily copies: %w", err)
	}
	path := filepath.Join(s.copies(), name+".db")
	if _, err := os.Stat(path); err == nil {
		return nil
	}
	if err := s.Backup(ctx, path); err != nil {
		return err
	}
	all, err := s.Copies()
	if err != nil {
		return err
	}
	for _, old := range all[min(len(all), keptCopies):] {
		err = errors.Join(err, os.Remove(filepath.Join(s.copies(), old.Name+".db")))
	}
	return err
}

// A Summary is what is in a studio file.
type Summary struct {
	Cards, Images int
	Latest        time.Time // change; zero in an empty studio
}

// Summarise tells what is in a studio file without changing it.
func Summarise(ctx context.Context, path string) (out Summary, err error) {
	if mark, err := MarkOf(ctx, path); err != nil || mark == unmarked {
		if err == nil {
			err = ErrForeign
		}
		return out, fmt.Errorf("%s: %w", path, err)
	}
	if err := whole(ctx, path); err != nil {
		return out, fmt.Errorf("%s is damaged: %w", path, err)
	}
	db, err := sql.Open("sqlite", dsn(path, "mode=ro"))
	if err != nil {
		return out, err
	}
	defer func() { err = errors.Join(err, db.Close()) }()
	var latest int64
	err = errors.Join(
		db.QueryRowContext(ctx, "SELECT COUNT(*) FROM documents WHERE kind = 'card' AND state <> 'deleted'").Scan(&out.Cards),
		db.QueryRowContext(ctx, "SELECT COUNT(*) FROM images").Scan(&out.Images),
		db.QueryRowContext(ctx, "SELECT COALESCE(MAX(made), 0) FROM revisions").Scan(&latest),
	)
	if latest > 0 {
		out.Latest = time.Unix(latest, 0)
	}
	return out, err
}

// RestoreCopy puts the studio back to a daily copy; what it is now is kept as a copy
// first, whose name is returned.
func (s *Store) RestoreCopy(ctx context.Context, name string) (kept string, err error) {
	all, err := s.Copies()
	if err != nil {
		return "", err
	}
	if !slices.ContainsFunc(all, func(c Copy) bool { return c.Name == name }) {
		return "", ErrNotFound
	}
	return s.Restore(ctx, filepath.Join(s.copies(), name+".db"))
}

// Restore puts the studio back to what a file holds, all or nothing, while it is in use.
// What it is now is kept as a copy first, whose name is returned. A file of an older
// version is brought up to date on a copy of it.
func (s *Store) Restore(ctx context.Context, path string) (kept string, err error) {
	if _, err := Summarise(ctx, path); err != nil {
		return "", err
	}
	kept = s.now().Format("2006-01-02 15.04.05") + " before restoring"
	if err := s.keepCopy(ctx, kept); err != nil {
		return "", err
	}
	tmp, err := os.MkdirTemp(filepath.Dir(s.path), ".restore-*")
	if err != nil {
		return "", err
	}
	defer os.RemoveAll(tmp)
	from := filepath.Join(tmp, "studio.db")
	if err := copyFile(path, from); err != nil {
		return "", err
	}
	old, err := Open(ctx, from)
	if err != nil {
		return "", err
	}
	if err := old.Close(); err != nil {
		return "", err
	}
	if err := s.takeOver(ctx, from); err != nil {
		return "", fmt.Errorf("the studio is as it was: %w", err)
	}
	s.epoch.Add(1)
	return kept, nil
}

// takeOver replaces every row by those of another studio file of the same version.
func (s *Store) takeOver(ctx context.Context, from string) (err error) {
	conn, err := s.db.Conn(ctx)
	if err != nil {
		return err
	}
	defer func() { err = errors.Join(err, conn.Close()) }()
	if _, err := conn.ExecContext(ctx, "ATTACH ? AS was", from); err != nil {
		return err
	}
	defer func() {
		_, detached := conn.ExecContext(context.WithoutCancel(ctx), "DETACH was")
		err = errors.Join(err, detached)
	}()
	tx, err := conn.BeginTx(ctx, nil)
	if err != nil {
		return err
	}
	if err := errors.Join(replaceAll(ctx, tx)); err != nil {
		return errors.Join(err, tx.Rollback())
	}
	return tx.Commit()
}

func replaceAll(ctx context.Context, tx *sql.Tx) error {
	if _, err := tx.ExecContext(ctx, "PRAGMA defer_foreign_keys = ON"); err != nil {
		return err
	}
	tables, err := namesBy(ctx, tx, "SELECT name FROM main.sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' AND name <> 'goose_db_version' ORDER BY name")
	if err != nil {
		return err
	}
	for _, t := range tables {
		columns, err := namesBy(ctx, tx, "SELECT name FROM pragma_table_info('"+t+"')")
		if err != nil {
			return err
		}
		list := strings.Join(columns, ", ")
		for _, do := range []string{"DELETE FROM main." + t, "INSERT INTO main." + t + " (" + list + ") SELECT " + list + " FROM was." + t} {
			if _, err := tx.ExecContext(ctx, do); err != nil {
				return fmt.Errorf("%s: %w", t, err)
			}
		}
	}
	return nil
}

// namesBy reads a column of names, which are the program's own.
func namesBy(ctx context.Context, tx *sql.Tx, query string) (out []string, err error) {
	rows, err := tx.QueryContext(ctx, query)
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	for rows.Next() {
		var v string
		if err := rows.Scan(&v); err != nil {
			return nil, err
		}
		out = append(out, v)
	}
	return out, rows.Err()
}

func copyFile(from, to string) error {
	in, err := os.Open(from)
	if err != nil {
		return err
	}
	defer in.Close()
	out, err := os.Create(to)
	if err != nil {
		return err
	}
	_, err = io.Copy(out, in)
	return errors.Join(err, out.Close())
}
