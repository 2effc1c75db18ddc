package cardfile_test

import (
	"archive/zip"
	"bytes"
	"image"
	"image/png"
	"strings"
	"testing"

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

func written(t testing.TB, c *card.Card, images ...*store.Image) []byte {
	var buf bytes.Buffer
	require.NoError(t, cardfile.Write(&buf, c, images))
	return buf.Bytes()
}

func TestWriteThenReadIsTheIdentity(t *testing.T) {
	c, m := sample(t)
	back, images, err := cardfile.Read(written(t, c, m))
	require.NoError(t, err)
	assert.Equal(t, c, back)
	require.Len(t, images, 1)
	assert.Equal(t, *m, images[0])

	c.Images = nil
	back, images, err = cardfile.Read(written(t, c))
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
		{"a newer version", "newer program", zipped(t, map[string][]byte{"card.json": bytes.Replace(doc, []byte(`"version": 5`), []byte(`"version": 9`), 1)})},
		{"wrong types", "should be", zipped(t, map[string][]byte{"card.json": bytes.Replace(doc, []byte(`"width_px": 300`), []byte(`"width_px": []`), 1)})},
		{"other pixels", "pixels", zipped(t, map[string][]byte{"card.json": bytes.Replace(doc, []byte(`"width_px": 300`), []byte(`"width_px": 301`), 1), name: m.Data})},
		{"a bomb", "larger than", zipped(t, map[string][]byte{"card.json": make([]byte, card.MaxJSON+1)})},
		{"too large", "larger than", make([]byte, cardfile.MaxBytes+1)},
	} {
		t.Run(tc.name, func(t *testing.T) {
			_, _, err := cardfile.Read(tc.data)
			assert.ErrorContains(t, err, tc.why)
		})
	}
}

func FuzzRead(f *testing.F) {
	c, m := sample(f)
	f.Add(written(f, c, m))
	f.Fuzz(func(t *testing.T, data []byte) {
		if c, _, err := cardfile.Read(data); err == nil {
			require.NoError(t, c.Check())
		}
	})
}
