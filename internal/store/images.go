package store

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"chromaqua/core/length"
	"chromaqua/core/shelf"
)

// Image is a stored picture file.
type Image struct {
	Hash   string // SHA-256 of Data, hexadecimal; see [Hash]
	Title  string
	Media  string // image/png or image/jpeg
	Width  int    // pixels
	Height int
	Data   []byte        // nil in lists
	Kept   bool          // in the library, to be used again
	Real   length.Length // real width, 0 when unknown
	Facts
}

// Facts is what the maker says of an image in the library.
type Facts struct {
	Kind  shelf.ImageKind
	Mount shelf.Mount
	Notes string
}

// MaxNotes bounds the notes on an image, characters.
const MaxNotes = 2000

// Check reports facts that cannot be.
func (f Facts) Check() error {
	switch {
	case !slices.Contains(shelf.ImageKinds(), f.Kind):
		return fmt.Errorf("%q is no kind of image; choose one that is listed", string(f.Kind))
	case !slices.Contains(shelf.Mounts(), f.Mount):
		return fmt.Errorf("%q is no mount of a stamp; choose one that is listed", string(f.Mount))
	case utf8.RuneCountInString(f.Notes) > MaxNotes:
		return fmt.Errorf("keep the notes to %d characters", MaxNotes)
	}
	return nil
}

// Hash names image data.
func Hash(data []byte) string {
	h := sha256.Sum256(data)
	return hex.EncodeToString(h[:])
}

// PutImage stores an image on top of revision base of the library; see [Store.Save].
// Storing the same data again changes nothing but that it is kept in the library from
// then on, if it is to be.
func (s *Store) PutImage(ctx context.Context, base int64, m Image) error {
	return s.change(ctx, libraryKind, base, "added "+m.Title, func(tx *edit) error { return s.addImage(ctx, tx, m) })
}

func (s *Store) addImage(ctx context.Context, tx *edit, m Image) error {
	if m.Kept {
		if err := tx.touch(ctx, m.Hash); err != nil {
			return err
		}
	}
	return s.putImage(ctx, tx.Tx, m)
}

// ReplaceImage stores an image in the place of another in the library, with revision base
// of the library; see [Store.Save]. Cards keep the one they were made with.
func (s *Store) ReplaceImage(ctx context.Context, base int64, old string, m Image, what string) error {
	return s.change(ctx, libraryKind, base, what, func(tx *edit) error {
		if err := s.addImage(ctx, tx, m); err != nil || m.Hash == old {
			return err
		}
		if err := tx.touch(ctx, old); err != nil {
			return err
		}
		return oneRow(tx.ExecContext(ctx, "UPDATE images SET sample = 0 WHERE hash = ?", old))
	})
}

func (s *Store) putImage(ctx context.Context, tx *sql.Tx, m Image) error {
	if m.Kind == "" {
		m.Kind = shelf.LineImage
	}
	_, err := tx.ExecContext(ctx, `INSERT INTO images (hash, title, media, width, height, data, sample, width_nm, kind, mount, notes, added)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (hash) DO UPDATE SET sample = max(sample, excluded.sample)`,
		m.Hash, m.Title, m.Media, m.Width, m.Height, m.Data, m.Kept, int64(m.Real), m.Kind, m.Mount, m.Notes, s.now().Unix())
	return err
}

// Image returns an image with its data.
func (s *Store) Image(ctx context.Context, hash string) (*Image, error) {
	m := Image{Hash: hash}
	err := s.db().QueryRowContext(ctx, "SELECT title, media, width, height, data, sample, width_nm, kind, mount, notes FROM images WHERE hash = ?", hash).
		Scan(&m.Title, &m.Media, &m.Width, &m.Height, &m.Data, &m.Kept, &m.Real, &m.Kind, &m.Mount, &m.Notes)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, ErrNotFound
	}
	return &m, err
}

// ImageBytes returns the size of an image's data.
func (s *Store) ImageBytes(ctx context.Context, hash string) (n int64, err error) {
	err = s.db().QueryRowContext(ctx, "SELECT length(data) FROM images WHERE hash = ?", hash).Scan(&n)
	if errors.Is(err, sql.ErrNoRows) {
		err = ErrNotFound
	}
	return n, err
}

// Library returns the images that are kept, without their data, by title.
func (s *Store) Library(ctx context.Context) ([]Image, error) {
	rows, err := s.db().QueryContext(ctx, "SELECT hash, title, media, width, height, width_nm, kind, mount, notes FROM images WHERE sample ORDER BY title COLLATE NOCASE, added")
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []Image
	for rows.Next() {
		m := Image{Kept: true}
		if err := rows.Scan(&m.Hash, &m.Title, &m.Media, &m.Width, &m.Height, &m.Real, &m.Kind, &m.Mount, &m.Notes); err != nil {
			return nil, err
		}
		out = append(out, m)
	}
	return out, rows.Err()
}

// SpeaksOf reports whether every word of a query is in what is known of the
// image.
func (m Image) SpeaksOf(query string) bool {
	text := strings.ToLower(strings.Join([]string{m.Title, string(m.Kind), string(m.Mount), m.Notes}, " "))
	for _, word := range strings.Fields(strings.ToLower(query)) {
		if !strings.Contains(text, word) {
			return false
		}
	}
	return true
}

// Describe changes what is known of an image: its title, real width, facts, and whether
// it is kept in the library, on top of revision base of the library; see [Store.Save].
// Its data is never changed, and cards keep what they were made with.
func (s *Store) Describe(ctx context.Context, base int64, m Image, what string) error {
	return s.change(ctx, libraryKind, base, what, func(tx *edit) error {
		if err := tx.touch(ctx, m.Hash); err != nil {
			return err
		}
		return oneRow(tx.ExecContext(ctx, "UPDATE images SET title = ?, width_nm = ?, kind = ?, mount = ?, notes = ?, sample = ? WHERE hash = ?",
			m.Title, int64(m.Real), m.Kind, m.Mount, m.Notes, m.Kept, m.Hash))
	})
}
