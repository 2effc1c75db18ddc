// Package cardfile writes a card with its images as one ZIP file and reads it
// back: card.json (see docs/card-file.md) and images/<SHA-256>.png or .jpg.
package cardfile

import (
	"archive/zip"
	"bytes"
	"errors"
	"fmt"
	"io"
	"path"
	"strings"

	"chromaqua/core/card"
	"chromaqua/internal/picture"
	"chromaqua/internal/store"
)

// Limits of a card file.
const (
	MaxBytes = 128 << 20 // of the ZIP
	MaxFiles = 64        // in it
)

const cardName = "card.json"

var extension = map[string]string{"image/png": ".png", "image/jpeg": ".jpg"}

// Write writes c and its images to w.
func Write(w io.Writer, c *card.Card, images []*store.Image) error {
	z := zip.NewWriter(w)
	doc, err := c.Encode()
	if err != nil {
		return err
	}
	if err := add(z, cardName, doc, zip.Deflate); err != nil {
		return err
	}
	for _, m := range images {
		// Pictures are compressed already.
		if err := add(z, "images/"+m.Hash+extension[m.Media], m.Data, zip.Store); err != nil {
			return err
		}
	}
	return z.Close()
}

func add(z *zip.Writer, name string, data []byte, method uint16) error {
	f, err := z.CreateHeader(&zip.FileHeader{Name: name, Method: method})
	if err != nil {
		return fmt.Errorf("writing %s: %w", name, err)
	}
	_, err = f.Write(data)
	return err
}

// Read reads a card file. Everything is checked before anything is returned:
// the card, that the images it speaks of are there, whole, and pictures.
func Read(data []byte) (*card.Card, []store.Image, error) {
	if len(data) > MaxBytes {
		return nil, nil, fmt.Errorf("the file is larger than %d MB; that is no card file", MaxBytes>>20)
	}
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	if err != nil {
		return nil, nil, errors.New("this is not a card file: a card file is a ZIP with card.json in it; choose a file that Export made")
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
	var images []store.Image
	for _, s := range c.Scans() {
		m, err := readImage(z, s)
		if err != nil {
			return nil, nil, err
		}
		images = append(images, *m)
	}
	return c, images, nil
}

func readImage(z *zip.Reader, l *card.Scan) (*store.Image, error) {
	name := ""
	for _, f := range z.File {
		if path.Dir(f.Name) == "images" && strings.HasPrefix(path.Base(f.Name), l.Image+".") {
			name = f.Name
		}
	}
	if name == "" {
		return nil, fmt.Errorf("the card's image %q is missing from the file; export the card again where it was made", l.Title)
	}
	data, err := unzip(z, name, picture.MaxBytes)
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
		return nil, fmt.Errorf("%s in the ZIP is damaged: %w", name, err)
	}
	if int64(len(data)) > limit {
		return nil, fmt.Errorf("%s in the ZIP is larger than %d MB", name, limit>>20)
	}
	return data, nil
}
