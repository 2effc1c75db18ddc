// Package cardfile writes a card with its images as one ZIP file and reads it back:
// card.json (see docs/card-file.md) and images/<SHA-256>.png or .jpg, each once. What it
// writes it reads: both keep to the same limits. Log, photos and instructions may lie beside
// them.
package cardfile

import (
	"archive/zip"
	"context"
	"errors"
	"fmt"
	"io"
	"path"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/internal/picture"
	"chromaqua/internal/store"
)

// Limits of a card file.
const (
	MaxBytes = 128 << 20 // of the ZIP, and of the pictures in it
	MaxFiles = 256       // in it
)

const cardName = "card.json"

var extension = map[string]string{"image/png": ".png", "image/jpeg": ".jpg"}

// A Source has the images that cards speak of.
type Source interface {
	ImageBytes(ctx context.Context, hash string) (int64, error)
	Image(ctx context.Context, hash string) (*store.Image, error)
}

// Images are a source of those at hand.
type Images []store.Image

// Image returns one of the images.
func (all Images) Image(_ context.Context, hash string) (*store.Image, error) {
	for i := range all {
		if all[i].Hash == hash {
			return &all[i], nil
		}
	}
	return nil, store.ErrNotFound
}

// ImageBytes returns the size of one of the images.
func (all Images) ImageBytes(ctx context.Context, hash string) (int64, error) {
	m, err := all.Image(ctx, hash)
	if err != nil {
		return 0, err
	}
	return int64(len(m.Data)), nil
}

// File is a card file that can be written.
type File struct {
	doc    []byte
	hashes []string // of its images, each once
	from   Source
	made   time.Time
	beside []attached
	sum    int64 // bytes, at most
}

// attached is a file beside the card, which is no part of it: its log, photos, instructions.
type attached struct {
	name string
	data []byte
}

// entryBytes is more than the ZIP needs to speak of a file twice.
const entryBytes = 512

// Attach puts a file beside the card, for people and other programs: the card is read without
// it. Its folder is its own.
func (f *File) Attach(name string, data []byte) error {
	if f.sum += int64(len(data)) + entryBytes; f.sum > MaxBytes {
		return ErrTooLarge
	}
	if f.beside = append(f.beside, attached{name, data}); len(f.beside)+len(f.hashes)+1 > MaxFiles {
		return fmt.Errorf("a card file holds at most %d files; leave the photos out", MaxFiles)
	}
	return nil
}

// ErrTooLarge means that a card with its pictures is more than a card file may hold.
var ErrTooLarge = fmt.Errorf("the card's pictures are larger than %d MB together, which a card file may not be; scan the largest in grey or at 300 dpi, or save a backup of the studio instead", MaxBytes>>20)

// New makes a card's file ready: all that could keep it from being read again is found
// now. What is in the file says that it was made at that time.
func New(ctx context.Context, c *card.Card, from Source, made time.Time) (*File, error) {
	doc, err := c.Encode()
	if err != nil {
		return nil, err
	}
	if len(doc) > card.MaxJSON {
		return nil, fmt.Errorf("the card is larger than %d MB without its pictures; divide it into two", card.MaxJSON>>20)
	}
	f := &File{doc: doc, from: from, made: made, sum: int64(len(doc) + entryBytes)}
	seen := map[string]bool{}
	for _, s := range c.Scans() {
		if seen[s.Image] {
			continue
		}
		seen[s.Image] = true
		n, err := from.ImageBytes(ctx, s.Image)
		if err != nil {
			return nil, fmt.Errorf("the image %q: %w", s.Title, err)
		}
		f.sum += n + entryBytes
		f.hashes = append(f.hashes, s.Image)
	}
	if f.sum > MaxBytes {
		return nil, ErrTooLarge
	}
	return f, nil
}

// Write writes the file, with one image at a time in memory.
func (f *File) Write(ctx context.Context, w io.Writer) error {
	z := zip.NewWriter(w)
	if err := f.add(z, cardName, f.doc, zip.Deflate); err != nil {
		return err
	}
	for _, hash := range f.hashes {
		m, err := f.from.Image(ctx, hash)
		if err != nil {
			return err
		}
		// Pictures are compressed already.
		if err := f.add(z, "images/"+m.Hash+extension[m.Media], m.Data, zip.Store); err != nil {
			return err
		}
	}
	for _, a := range f.beside {
		if err := f.add(z, a.name, a.data, zip.Deflate); err != nil {
			return err
		}
	}
	return z.Close()
}

func (f *File) add(z *zip.Writer, name string, data []byte, method uint16) error {
	to, err := z.CreateHeader(&zip.FileHeader{Name: name, Method: method, Modified: f.made.UTC()})
	if err != nil {
		return fmt.Errorf("writing %s: %w", name, err)
	}
	_, err = to.Write(data)
	return err
}

// Read reads a card file of so many bytes. Everything is checked before anything is
// returned: the card, that the images it speaks of are there, whole, and pictures, each
// decoded from its first pixel to its last. It ends early with ctx's error.
func Read(ctx context.Context, from io.ReaderAt, size int64) (*card.Card, []store.Image, error) {
	if size > MaxBytes {
		return nil, nil, fmt.Errorf("the file is larger than %d MB; that is no card file", MaxBytes>>20)
	}
	z, err := zip.NewReader(from, size)
	if err != nil {
		return nil, nil, errors.New("this is not a card file, or its end is missing: a card file is a ZIP with card.json in it; choose a file that Export made, and fetch it again if it was sent to you")
	}
	if len(z.File) > MaxFiles {
		return nil, nil, fmt.Errorf("the ZIP holds %d files; a card file has at most %d", len(z.File), MaxFiles)
	}
	doc, err := unzip(z, cardName, card.MaxJSON)
	if err != nil {
		return nil, nil, err
	}
	c, err := card.Decode(doc)
	if err != nil {
		return nil, nil, err
	}
	images, err := readImages(ctx, z, c)
	if err != nil {
		return nil, nil, err
	}
	return c, images, nil
}

func readImages(ctx context.Context, z *zip.Reader, c *card.Card) (images []store.Image, err error) {
	seen := map[string]bool{}
	left := int64(MaxBytes)
	for _, s := range c.Scans() {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		if seen[s.Image] {
			continue
		}
		seen[s.Image] = true
		m, err := readImage(z, s, min(left, picture.MaxBytes))
		if err != nil {
			return nil, err
		}
		left -= int64(len(m.Data))
		images = append(images, *m)
	}
	return images, nil
}

func readImage(z *zip.Reader, l *card.Scan, limit int64) (*store.Image, error) {
	name := ""
	for _, f := range z.File {
		if path.Dir(f.Name) == "images" && strings.HasPrefix(path.Base(f.Name), l.Image+".") {
			name = f.Name
		}
	}
	if name == "" {
		return nil, fmt.Errorf("the card's image %q is missing from the file; export the card again where it was made", l.Title)
	}
	data, err := unzip(z, name, limit)
	if err != nil {
		return nil, err
	}
	if store.Hash(data) != l.Image {
		return nil, fmt.Errorf("the image %q is damaged: its content is not what the card was made with", l.Title)
	}
	info, err := picture.Inspect(data)
	if err != nil {
		return nil, fmt.Errorf("the image %q: %w", l.Title, err)
	}
	if extension[info.Media] == "" {
		return nil, fmt.Errorf("the image %q: %w", l.Title, picture.ErrKind)
	}
	if info.Width != l.WidthPX || info.Height != l.HeightPX {
		return nil, fmt.Errorf("the image %q is %d × %d pixels, the card says %d × %d", l.Title, info.Width, info.Height, l.WidthPX, l.HeightPX)
	}
	if _, err := picture.Grey(data); err != nil {
		return nil, fmt.Errorf("the image %q: %w", l.Title, err)
	}
	return &store.Image{Hash: l.Image, Title: l.Title, Media: info.Media, Width: info.Width, Height: info.Height, Data: data}, nil
}

// unzip returns one file of the ZIP, of at most limit bytes whatever its
// header claims.
func unzip(z *zip.Reader, name string, limit int64) ([]byte, error) {
	f, err := z.Open(name)
	if err != nil {
		return nil, fmt.Errorf("the ZIP has no %s: it is no card file, or it is damaged", name)
	}
	defer f.Close()
	data, err := io.ReadAll(io.LimitReader(f, limit+1))
	if err != nil {
		return nil, fmt.Errorf("%s in the ZIP is damaged: what comes out of it is not what went in; fetch the file again where it was made", name)
	}
	if int64(len(data)) > limit {
		return nil, fmt.Errorf("%s in the ZIP is larger than %d MB, more than a card file may hold", name, limit>>20)
	}
	return data, nil
}
