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
	"runtime"
	"slices"
	"strings"
	"time"
)

// Copies that are made by themselves, one a day, and how many are kept.
const (
	keptCopies = 7
	copyName   = "2006-01-02"
	stampName  = "2006-01-02 15.04.05"
)

// besideFile are what SQLite keeps beside a file, and the file itself first.
var besideFile = []string{"", "-wal", "-shm"}

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
	if _, err := s.db().ExecContext(ctx, "VACUUM INTO ?", part); err != nil {
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
		return fmt.Errorf("%w: %s", errDamaged, said)
	}
	return nil
}

// synced waits until a file or a folder is on the disk.
func synced(path string) error {
	how := os.O_RDONLY
	if runtime.GOOS == "windows" { // which syncs what may be written, and no folders
		if info, err := os.Stat(path); err != nil || info.IsDir() {
			return err
		}
		how = os.O_RDWR
	}
	f, err := os.OpenFile(path, how, 0)
	if err != nil {
		return err
	}
	return errors.Join(f.Sync(), f.Close())
}

// A Copy is a backup that was made by itself.
type Copy struct {
	Name  string // its date
	Path  string
	Made  time.Time
	Bytes int64
}

// copiesOf is the folder of the daily copies, beside the studio.
func copiesOf(studio string) string { return studio + "-copies" }

// Copies lists the daily copies there are, the latest first.
func (s *Store) Copies() ([]Copy, error) { return CopiesOf(s.path) }

// CopiesOf lists the daily copies of a studio file, the latest first.
func CopiesOf(studio string) ([]Copy, error) {
	all, err := os.ReadDir(copiesOf(studio))
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
		out = append(out, Copy{name, filepath.Join(copiesOf(studio), e.Name()), info.ModTime(), info.Size()})
	}
	slices.SortFunc(out, func(a, b Copy) int { return strings.Compare(b.Name, a.Name) })
	return out, nil
}

// CopyToday keeps a copy of the day unless there is one, and forgets the oldest.
func (s *Store) CopyToday(ctx context.Context) error {
	return s.keepCopy(ctx, s.now().Format(copyName))
}

func (s *Store) keepCopy(ctx context.Context, name string) error {
	if err := os.MkdirAll(copiesOf(s.path), 0o755); err != nil {
		return fmt.Errorf("making the folder for daily copies: %w", err)
	}
	path := filepath.Join(copiesOf(s.path), name+".db")
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
		err = errors.Join(err, os.Remove(old.Path))
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
		return out, fmt.Errorf("%s is damaged: %v", path, err) // which says nothing of the studio's own file
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
	i := slices.IndexFunc(all, func(c Copy) bool { return c.Name == name })
	if i < 0 {
		return "", ErrNotFound
	}
	return s.Restore(ctx, all[i].Path)
}

// Restore puts the studio back to what a file holds, all or nothing, while it is in use.
// What it is now is kept first, as the copy or, when it is damaged, the file whose name is
// returned. A file of an older version is brought up to date on a copy of it. Who may
// come in stays as it is.
func (s *Store) Restore(ctx context.Context, path string) (kept string, err error) {
	if _, err := Summarise(ctx, path); err != nil {
		return "", err
	}
	from, done, err := upToDate(ctx, path, filepath.Dir(s.path))
	if err != nil {
		return "", err
	}
	defer done()
	defer s.epoch.Add(1)
	kept = s.now().Format(stampName) + " before restoring"
	if err := s.keepCopy(ctx, kept); err != nil {
		if why, is := FaultOf(err); !is || why != Damaged {
			return "", err
		}
		return s.replace(ctx, from)
	}
	if err := s.takeOver(ctx, from, "went back to "+strings.TrimSuffix(filepath.Base(path), ".db")); err != nil {
		return "", fmt.Errorf("the studio is as it was: %w", err)
	}
	return kept, nil
}

// RestoreDamaged puts a studio file that cannot be opened back to what another file holds,
// and returns what the damaged file is called now.
func RestoreDamaged(ctx context.Context, studio, path string) (kept string, err error) {
	if _, err := Summarise(ctx, path); err != nil {
		return "", err
	}
	from, done, err := upToDate(ctx, path, filepath.Dir(studio))
	if err != nil {
		return "", err
	}
	defer done()
	return exchange(studio, from, time.Now())
}

// upToDate copies a studio file into a folder and brings the copy up to date.
func upToDate(ctx context.Context, path, folder string) (copied string, done func(), err error) {
	tmp, err := os.MkdirTemp(folder, ".restore-*")
	if err != nil {
		return "", nil, err
	}
	done = func() { _ = os.RemoveAll(tmp) }
	copied = filepath.Join(tmp, "studio.db")
	if err = copyFile(path, copied); err == nil {
		var old *Store
		if old, err = Open(ctx, copied); err == nil {
			_, err = old.db().ExecContext(ctx, "DELETE FROM devices") // who was put out since stays out
			err = errors.Join(err, old.Close())
		}
	}
	if err != nil {
		done()
		return "", nil, err
	}
	return copied, done, nil
}

// replace puts another file in the place of the studio's, which is damaged, and goes on
// with it.
func (s *Store) replace(ctx context.Context, from string) (kept string, err error) {
	damaged := s.db()
	if err := damaged.Close(); err != nil {
		return "", err
	}
	kept, err = exchange(s.path, from, s.now())
	return kept, errors.Join(err, s.connect())
}

// exchange puts a file in the place of a studio file, which is kept beside it.
func exchange(studio, from string, now time.Time) (kept string, err error) {
	kept = studio + " damaged " + now.Format(stampName)
	for _, with := range besideFile {
		if err := ignoreMissing(os.Rename(studio+with, kept+with)); err != nil {
			return "", err
		}
	}
	if err := errors.Join(synced(from), os.Rename(from, studio)); err != nil {
		return "", err
	}
	return filepath.Base(kept), synced(filepath.Dir(studio))
}

// takeOver replaces every row by those of another studio file of the same version; what
// says so in the documents that had gone on since.
func (s *Store) takeOver(ctx context.Context, from, what string) (err error) {
	conn, err := s.db().Conn(ctx)
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
	if err := s.replaceAll(ctx, tx, what); err != nil {
		return errors.Join(err, tx.Rollback())
	}
	return tx.Commit()
}

// goOn lets what had more revisions than the copy has go on from there, as it is in the
// copy: a number once given to a revision is never given to another, or a page that is
// still open somewhere could overwrite what it never showed.
const goOn = `
INSERT INTO main.revisions (document, seq, parent, what, doc, made)
SELECT d.id, w.most + 1, d.head, ?1, CASE WHEN d.kind IN ('shelf', 'library', 'tests') THEN '[]' ELSE r.doc END, ?2
FROM main.documents d JOIN main.revisions r ON r.document = d.id AND r.seq = d.head
JOIN temp.went w ON w.document = d.id
WHERE w.most > (SELECT MAX(seq) FROM main.revisions m WHERE m.document = d.id)`

func (s *Store) replaceAll(ctx context.Context, tx *sql.Tx, what string) error {
	for _, do := range []string{"DROP TABLE IF EXISTS temp.went", "CREATE TEMP TABLE went AS SELECT document, MAX(seq) AS most FROM main.revisions GROUP BY document"} {
		if _, err := tx.ExecContext(ctx, do); err != nil {
			return err
		}
	}
	if _, err := tx.ExecContext(ctx, "PRAGMA defer_foreign_keys = ON"); err != nil {
		return err
	}
	tables, err := namesBy(ctx, tx, "SELECT name FROM main.sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%' AND name NOT IN ('goose_db_version', 'devices', 'passphrase') ORDER BY name")
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
	if _, err := tx.ExecContext(ctx, goOn, what, s.now().Unix()); err != nil {
		return err
	}
	_, err = tx.ExecContext(ctx, "UPDATE main.documents SET head = (SELECT MAX(seq) FROM main.revisions m WHERE m.document = id) WHERE id IN (SELECT document FROM main.revisions m JOIN temp.went w USING (document) WHERE m.seq = w.most + 1 AND m.what = ?)", what)
	return err
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
