package lineart_test

import (
	"context"
	"image"
	"image/draw"
	"image/png"
	"os"
	"strconv"
	"testing"

	"github.com/stretchr/testify/require"

	"chromaqua/core/lineart"
)

// BenchmarkFindFile finds the cells of the picture named by
// CHROMAQUA_BENCH_PICTURE at CHROMAQUA_BENCH_DPI; bench/lineart.py compares it
// with other libraries on the same picture.
func BenchmarkFindFile(b *testing.B) {
	path := os.Getenv("CHROMAQUA_BENCH_PICTURE")
	if path == "" {
		b.Skip("set CHROMAQUA_BENCH_PICTURE and CHROMAQUA_BENCH_DPI; bench/lineart.py does")
	}
	dpi, err := strconv.ParseFloat(os.Getenv("CHROMAQUA_BENCH_DPI"), 64)
	require.NoError(b, err)
	f, err := os.Open(path)
	require.NoError(b, err)
	defer f.Close()
	m, err := png.Decode(f)
	require.NoError(b, err)
	g := image.NewGray(m.Bounds())
	draw.Draw(g, g.Rect, m, m.Bounds().Min, draw.Src)
	for b.Loop() {
		_, err := lineart.Find(context.Background(), g, dpi, nil)
		require.NoError(b, err)
	}
}
