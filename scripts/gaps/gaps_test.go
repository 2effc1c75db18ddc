package main

import (
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"image/png"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/lineart"
)

// room draws two rooms with a wall between that has a gap, and which room is which.
func room(t *testing.T, dir string) (path string) {
	line := image.NewUniform(color.Gray{Y: 30})
	scan, truth := image.NewGray(image.Rect(0, 0, 400, 300)), image.NewGray16(image.Rect(0, 0, 400, 300))
	draw.Draw(scan, scan.Rect, image.NewUniform(color.Gray{Y: 240}), image.Point{}, draw.Src)
	draw.Draw(truth, truth.Rect, image.NewUniform(color.Gray16{Y: 3}), image.Point{}, draw.Src)
	draw.Draw(scan, image.Rect(40, 40, 360, 260), line, image.Point{}, draw.Src)
	draw.Draw(truth, image.Rect(40, 40, 360, 260), image.Black, image.Point{}, draw.Src)
	for i, r := range []image.Rectangle{image.Rect(46, 46, 197, 254), image.Rect(203, 46, 354, 254)} {
		draw.Draw(scan, r, image.NewUniform(color.Gray{Y: 240}), image.Point{}, draw.Src)
		draw.Draw(truth, r, image.NewUniform(color.Gray16{Y: uint16(i + 1)}), image.Point{}, draw.Src)
	}
	draw.Draw(scan, image.Rect(190, 145, 210, 153), image.NewUniform(color.Gray{Y: 240}), image.Point{}, draw.Src)
	path = filepath.Join(dir, "rooms.heavy.jpg")
	for name, write := range map[string]func(*os.File) error{
		path: func(f *os.File) error { return jpeg.Encode(f, scan, nil) },
		filepath.Join(dir, "rooms.heavy.truth.png"): func(f *os.File) error { return png.Encode(f, truth) },
	} {
		f, err := os.Create(name)
		require.NoError(t, err)
		require.NoError(t, write(f))
		require.NoError(t, f.Close())
	}
	return path
}

func TestPassages(t *testing.T) {
	path := room(t, t.TempDir())
	rows, err := passages(path, 300)
	require.NoError(t, err)
	require.Len(t, rows, 2, "the one gap, before and after necks were opened")
	for _, row := range rows {
		assert.Equal(t, []string{"rooms", "true"}, row[:2])
		assert.Len(t, row, 2+len(lineart.EvidenceNames()))
	}
}

func TestPassagesNeedTheTruth(t *testing.T) {
	path := room(t, t.TempDir())
	truth := filepath.Join(filepath.Dir(path), "rooms.heavy.truth.png")
	f, err := os.Create(truth)
	require.NoError(t, err)
	require.NoError(t, png.Encode(f, image.NewGray16(image.Rect(0, 0, 3, 3))))
	require.NoError(t, f.Close())
	_, err = passages(path, 300)
	assert.ErrorContains(t, err, "of its size")
	require.NoError(t, os.Remove(truth))
	_, err = passages(path, 300)
	assert.ErrorIs(t, err, os.ErrNotExist)
}
