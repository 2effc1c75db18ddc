package store

import (
	"context"
	"crypto/sha256"
	"database/sql"
	"encoding/hex"
	"errors"

	"chromaqua/core/length"
)

// Image is a stored picture file.
type Image struct {
	Hash   string // SHA-256 of Data, hexadecimal; see [Hash]
	Title  string
	Media  string // image/png or image/jpeg
	Width  int    // pixels
	Height int
	Data   []byte        // nil in lists
	Sample bool          // offered as a drawing to start from
	Real   length.Length // real width, 0 when unknown
}

// Hash names image data.
func Hash(data []byte) string {
	h := sha256.Sum256(data)
	return hex.EncodeToString(h[:])
}

// PutImage stores an image; storing the same data again changes nothing.
func (s *Store) PutImage(ctx context.Context, m Image) error {
	return s.tx(ctx, func(tx *sql.Tx) error { return s.putImage(ctx, tx, m) })
}

func (s *Store) putImage(ctx context.Context, tx *sql.Tx, m Image) error {
	_, err := tx.ExecContext(ctx, `INSERT INTO images (hash, title, media, width, height, data, sample, width_nm, added)
		VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?) ON CONFLICT (hash) DO NOTHING`,
		m.Hash, m.Title, m.Media, m.Width, m.Height, m.Data, m.Sample, int64(m.Real), s.now().Unix())
	return err
}

// Image returns an image with its data.
func (s *Store) Image(ctx context.Context, hash string) (*Image, error) {
	m := Image{Hash: hash}
	err := s.db.QueryRowContext(ctx, "SELECT title, media, width, height, data, sample, width_nm FROM images WHERE hash = ?", hash).
		Scan(&m.Title, &m.Media, &m.Width, &m.Height, &m.Data, &m.Sample, &m.Real)
	if errors.Is(err, sql.ErrNoRows) {
		return nil, ErrNotFound
	}
	return &m, err
}

// Samples returns the drawings to start from, without their data.
func (s *Store) Samples(ctx context.Context) ([]Image, error) {
	rows, err := s.db.QueryContext(ctx, "SELECT hash, title, media, width, height, width_nm FROM images WHERE sample ORDER BY title")
	if err != nil {
		return nil, err
	}
	defer rows.Close()
	var out []Image
	for rows.Next() {
		m := Image{Sample: true}
		if err := rows.Scan(&m.Hash, &m.Title, &m.Media, &m.Width, &m.Height, &m.Real); err != nil {
			return nil, err
		}
		out = append(out, m)
	}
	return out, rows.Err()
}
