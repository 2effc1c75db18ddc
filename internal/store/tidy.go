package store

import (
	"context"
	"database/sql"
	"errors"
	"fmt"
	"io/fs"
	"net/url"
	"os"
	"path/filepath"
	"regexp"
	"slices"
	"strings"
)

// fileURL names a file to the driver, on every system.
func fileURL(path string) string {
	slashed := filepath.ToSlash(path)
	if filepath.VolumeName(path) != "" { // C:/… lies below the root of a URL
		slashed = "/" + slashed
	}
	return "file:" + (&url.URL{Path: slashed}).EscapedPath()
}

// Path is the studio's file.
func (s *Store) Path() string { return s.path }

// Bytes is the size of a studio file with what is beside it and not in it yet.
func Bytes(path string) (sum int64) {
	for _, with := range besideFile {
		if info, err := os.Stat(path + with); err == nil {
			sum += info.Size()
		}
	}
	return sum
}

// imageName is how documents name an image.
var imageName = regexp.MustCompile(`[0-9a-f]{64}`)

// Unused lists the images that are neither in the library nor named by any card, as it is or
// as it was, by a test or at the bench: without their data, the largest first.
func (s *Store) Unused(ctx context.Context) (out []Image, bytes int64, err error) {
	return unused(ctx, s.db())
}

// rowsOf is what can be asked: the studio, or an edit of it that is under way.
type rowsOf interface {
	QueryContext(ctx context.Context, query string, args ...any) (*sql.Rows, error)
}

// namesImages are where documents name images, what names most of them first.
var namesImages = []string{
	"SELECT doc FROM revisions JOIN documents ON documents.id = revisions.document AND documents.head = revisions.seq WHERE kind <> 'library'",
	"SELECT doc FROM tests", "SELECT doc FROM runs", "SELECT doc FROM events", "SELECT doc FROM entries", "SELECT doc FROM materials",
	"SELECT doc FROM revisions JOIN documents ON documents.id = revisions.document WHERE kind <> 'library'",
}

func unused(ctx context.Context, from rowsOf) (out []Image, bytes int64, err error) {
	size := map[string]int64{}
	err = eachRow(ctx, from, "SELECT hash, title, media, width, height, length(data) FROM images WHERE sample = 0 ORDER BY length(data) DESC", func(row scanner) error {
		var m Image
		var n int64
		err := row.Scan(&m.Hash, &m.Title, &m.Media, &m.Width, &m.Height, &n)
		out, size[m.Hash] = append(out, m), n
		return err
	})
	for _, query := range namesImages {
		if err != nil || len(size) == 0 { // what is left is looked for; mostly nothing is, after the first
			break
		}
		err = eachRow(ctx, from, query, func(row scanner) error {
			var doc []byte
			if err := row.Scan(&doc); err != nil {
				return err
			}
			for _, name := range imageName.FindAll(doc, -1) {
				delete(size, string(name))
			}
			return nil
		})
	}
	if err != nil {
		return nil, 0, err
	}
	out = slices.DeleteFunc(out, func(m Image) bool { _, left := size[m.Hash]; return !left })
	for _, n := range size {
		bytes += n
	}
	return out, bytes, nil
}

// eachRow does something with every row of an answer.
func eachRow(ctx context.Context, from rowsOf, query string, do func(scanner) error) error {
	rows, err := from.QueryContext(ctx, query)
	if err != nil {
		return err
	}
	defer rows.Close()
	for rows.Next() {
		if err := do(rows); err != nil {
			return err
		}
	}
	return rows.Err()
}

// Clear takes images out for good, those among them that are unused, and gives their room
// back. Daily copies still have them.
func (s *Store) Clear(ctx context.Context, hashes []string) (cleared int, err error) {
	tx, err := s.db().BeginTx(ctx, nil)
	if err != nil {
		return 0, err
	}
	defer func() { _ = tx.Rollback() }()
	all, _, err := unused(ctx, tx)
	if err != nil {
		return 0, err
	}
	for _, m := range all {
		if !slices.Contains(hashes, m.Hash) {
			continue
		}
		if _, err := tx.ExecContext(ctx, "DELETE FROM images WHERE hash = ?", m.Hash); err != nil {
			return 0, err
		}
		cleared++
	}
	if err := tx.Commit(); err != nil || cleared == 0 {
		return cleared, err
	}
	_, err = s.db().ExecContext(ctx, "VACUUM")
	return cleared, err
}

// Why a studio cannot be moved somewhere.
var (
	ErrThere    = errors.New("a file of that name is there already; choose another name")
	ErrRelative = errors.New("write the whole path of the new file, from the root or the drive on, with its name, such as /home/me/cards/studio.db")
)

// CanMove reports why a studio cannot be moved to a path; nil when it can. The folder is made.
func CanMove(to string) error {
	if !filepath.IsAbs(to) || strings.ContainsFunc(to, func(r rune) bool { return r < ' ' }) || filepath.Base(to) == string(filepath.Separator) {
		return ErrRelative
	}
	if info, err := os.Stat(to); err == nil && info.IsDir() {
		return ErrRelative
	} else if err == nil {
		return ErrThere
	} else if !errors.Is(err, fs.ErrNotExist) {
		return fmt.Errorf("the place cannot be looked at: %w", err)
	}
	if err := os.MkdirAll(filepath.Dir(to), 0o755); err != nil {
		return fmt.Errorf("the folder cannot be made: %w", err)
	}
	try, err := os.CreateTemp(filepath.Dir(to), ".chromaqua-*")
	if err != nil {
		return fmt.Errorf("nothing can be written in that folder: %w", err)
	}
	return errors.Join(try.Close(), os.Remove(try.Name()))
}

// Move moves the file of a closed studio, with its daily copies. Until the new one is whole
// and on the disk, the old one stays.
func Move(ctx context.Context, from, to string) error {
	if err := CanMove(to); err != nil {
		return err
	}
	s, err := Open(ctx, from)
	if err != nil {
		return err
	}
	if err := errors.Join(s.Backup(ctx, to), s.Close()); err != nil {
		return errors.Join(err, ignoreMissing(os.Remove(to)))
	}
	if err := os.Rename(copiesOf(from), copiesOf(to)); err != nil && !errors.Is(err, fs.ErrNotExist) {
		// on another disk: they are copied one by one
		copies, _ := CopiesOf(from)
		if err := os.MkdirAll(copiesOf(to), 0o755); err != nil {
			return err
		}
		for _, c := range copies {
			if err := copyFile(c.Path, filepath.Join(copiesOf(to), filepath.Base(c.Path))); err != nil {
				return err
			}
		}
		if err := os.RemoveAll(copiesOf(from)); err != nil {
			return err
		}
	}
	for _, with := range besideFile {
		if err := ignoreMissing(os.Remove(from + with)); err != nil {
			return err
		}
	}
	return nil
}
