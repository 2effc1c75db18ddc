package cardfile_test

import (
	"archive/zip"
	"bytes"
	"context"
	"fmt"
	"image"
	"image/png"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/shelf"
	"chromaqua/internal/cardfile"
	"chromaqua/internal/store"
)

func sample(t testing.TB) (*card.Card, *store.Image) {
	var buf bytes.Buffer
	require.NoError(t, png.Encode(&buf, image.NewGray(image.Rect(0, 0, 300, 200))))
	m := &store.Image{Hash: store.Hash(buf.Bytes()), Title: "Drawing", Media: "image/png", Width: 300, Height: 200, Data: buf.Bytes()}
	c := card.New("Sample", length.Inches)
	_, err := c.Lay(card.Scan{Image: m.Hash, Title: m.Title, WidthPX: m.Width, HeightPX: m.Height, Width: 2 * length.Inch}, shelf.LineImage)
	require.NoError(t, err)
	c.AddArea("Sky")
	return c, m
}

var made = time.Date(2026, 3, 14, 15, 9, 26, 0, time.UTC)

func read(t testing.TB, data []byte) (*card.Card, []store.Image, error) {
	return cardfile.Read(t.Context(), bytes.NewReader(data), int64(len(data)))
}

func written(t testing.TB, c *card.Card, images ...*store.Image) []byte {
	var buf bytes.Buffer
	var all cardfile.Images
	for _, m := range images {
		all = append(all, *m)
	}
	f, err := cardfile.New(t.Context(), c, all, made)
	require.NoError(t, err)
	require.NoError(t, f.Write(t.Context(), &buf))
	return buf.Bytes()
}

func TestWriteThenReadIsTheIdentity(t *testing.T) {
	c, m := sample(t)
	back, images, err := read(t, written(t, c, m))
	require.NoError(t, err)
	assert.Equal(t, c, back)
	require.Len(t, images, 1)
	assert.Equal(t, *m, images[0])

	c.Images = nil
	back, images, err = read(t, written(t, c))
	require.NoError(t, err)
	assert.Equal(t, c, back)
	assert.Empty(t, images)
}

// zipped makes a ZIP of named contents.
func zipped(t testing.TB, files map[string][]byte) []byte {
	var buf bytes.Buffer
	z := zip.NewWriter(&buf)
	for name, data := range files {
		f, err := z.Create(name)
		require.NoError(t, err)
		_, err = f.Write(data)
		require.NoError(t, err)
	}
	require.NoError(t, z.Close())
	return buf.Bytes()
}

func TestReadRefuses(t *testing.T) {
	c, m := sample(t)
	doc, err := c.Encode()
	require.NoError(t, err)
	name := "images/" + m.Hash + ".png"
	many := map[string][]byte{}
	for i := range cardfile.MaxFiles + 1 {
		many[strings.Repeat("x", i+1)] = nil
	}
	half := &store.Image{Hash: store.Hash(m.Data[:len(m.Data)/2]), Data: m.Data[:len(m.Data)/2]}
	halved := bytes.ReplaceAll(doc, []byte(m.Hash), []byte(half.Hash))
	flipped := written(t, c, m)
	flipped[bytes.Index(flipped, []byte("images/"))+100] ^= 1
	other := bytes.Clone(m.Data)
	other[len(other)-1]++
	for _, tc := range []struct {
		name, why string
		data      []byte
	}{
		{"no ZIP", "not a card file", []byte("dear diary")},
		{"nothing", "not a card file", nil},
		{"cut short", "not a card file", written(t, c, m)[:300]},
		{"without a card", "no card.json", zipped(t, map[string][]byte{"note.txt": nil})},
		{"without its image", "missing from the file", zipped(t, map[string][]byte{"card.json": doc})},
		{"another image", "damaged", zipped(t, map[string][]byte{"card.json": doc, name: other})},
		{"too many files", "holds", zipped(t, many)},
		{"a newer version", "newer program", zipped(t, map[string][]byte{"card.json": bytes.Replace(doc, fmt.Appendf(nil, `"version": %d`, card.Version), []byte(`"version": 99`), 1)})},
		{"wrong types", "should be", zipped(t, map[string][]byte{"card.json": bytes.Replace(doc, []byte(`"width_px": 300`), []byte(`"width_px": []`), 1)})},
		{"other pixels", "pixels", zipped(t, map[string][]byte{"card.json": bytes.Replace(doc, []byte(`"width_px": 300`), []byte(`"width_px": 301`), 1), name: m.Data})},
		{"a bomb", "larger than", zipped(t, map[string][]byte{"card.json": make([]byte, card.MaxJSON+1)})},
		{"half a picture", "Drawing", zipped(t, map[string][]byte{"card.json": halved, "images/" + half.Hash + ".png": half.Data})},
		{"a bit that fell over", "what comes out of it is not what went in", flipped},
		{"a comma too many", "line 2, character 28: this is no JSON there", zipped(t, map[string][]byte{"card.json": bytes.Replace(doc, []byte(`-card",`), []byte(`-card",,`), 1)})},
		{"an end that is missing", "its end is missing", zipped(t, map[string][]byte{"card.json": doc[:len(doc)-20]})},
		{"a field from elsewhere", `the field "colour" is not known`, zipped(t, map[string][]byte{"card.json": bytes.Replace(doc, []byte(`"name":`), []byte(`"colour": 1, "name":`), 1)})},
		{"too large", "larger than", make([]byte, cardfile.MaxBytes+1)},
	} {
		t.Run(tc.name, func(t *testing.T) {
			_, _, err := read(t, tc.data)
			require.ErrorContains(t, err, tc.why)
			for _, word := range []string{"EOF", "zip: ", " json: ", "invalid character", "checksum", "struct", "png:"} {
				assert.NotContains(t, err.Error(), word, "these are Go's words")
			}
		})
	}
}

// A picture that a card uses twice is in the file once, with the date that was stated;
// what could not be read again is not written.
func TestWhatIsWrittenIsRead(t *testing.T) {
	c, m := sample(t)
	_, err := c.Lay(card.Scan{Image: m.Hash, Title: m.Title, WidthPX: m.Width, HeightPX: m.Height, Width: length.Inch}, shelf.LineImage)
	require.NoError(t, err)
	data := written(t, c, m)
	z, err := zip.NewReader(bytes.NewReader(data), int64(len(data)))
	require.NoError(t, err)
	require.Len(t, z.File, 2)
	for _, f := range z.File {
		assert.True(t, made.Equal(f.Modified), f.Name)
	}
	assert.Equal(t, data, written(t, c, m), "the same card is the same file")
	back, images, err := read(t, data)
	require.NoError(t, err)
	assert.Equal(t, c, back)
	assert.Len(t, images, 1)

	_, err = cardfile.New(t.Context(), c, cardfile.Images{}, made)
	assert.ErrorIs(t, err, store.ErrNotFound)
	large := *m
	large.Data = make([]byte, cardfile.MaxBytes)
	_, err = cardfile.New(t.Context(), c, cardfile.Images{large}, made)
	assert.ErrorIs(t, err, cardfile.ErrTooLarge)
	large.Data = large.Data[:cardfile.MaxBytes-64<<10]
	f, err := cardfile.New(t.Context(), c, cardfile.Images{large}, made)
	require.NoError(t, err)
	var size counter
	require.NoError(t, f.Write(t.Context(), &size))
	assert.LessOrEqual(t, int64(size), int64(cardfile.MaxBytes))
	stopped, cancel := context.WithCancel(t.Context())
	cancel()
	_, _, err = cardfile.Read(stopped, bytes.NewReader(data), int64(len(data)))
	assert.ErrorIs(t, err, context.Canceled)
}

// counter counts what is written.
type counter int64

func (c *counter) Write(p []byte) (int, error) { *c += counter(len(p)); return len(p), nil }

func FuzzRead(f *testing.F) {
	c, m := sample(f)
	f.Add(written(f, c, m))
	f.Fuzz(func(t *testing.T, data []byte) {
		if c, _, err := read(t, data); err == nil {
			require.NoError(t, c.Check())
		}
	})
}
