package main

import (
	"image/png"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
)

// A card is pictured dry and at a minute, in the size that was asked for.
func TestPaint(t *testing.T) {
	file := paintedFile(t, func(*card.Card) {})
	size := func(args ...string) (w, h, ink int) {
		out := filepath.Join(t.TempDir(), "out.png")
		code, _, errOut := call("", append([]string{"paint", file, "--out", out}, args...)...)
		require.Equal(t, done, code, errOut)
		f, err := os.Open(out)
		require.NoError(t, err)
		defer f.Close()
		img, err := png.Decode(f)
		require.NoError(t, err)
		for y := range img.Bounds().Dy() {
			for x := range img.Bounds().Dx() {
				if r, _, b, _ := img.At(x, y).RGBA(); b > r+0x2000 {
					ink++
				}
			}
		}
		return img.Bounds().Dx(), img.Bounds().Dy(), ink
	}
	w, h, blue := size("--dpi", "100")
	w2, h2, _ := size("--dpi", "200")
	assert.InDelta(t, 2*w, w2, 2)
	assert.InDelta(t, 2*h, h2, 2)
	assert.Greater(t, blue, 1000, "the shell is blue")
	_, _, none := size("--dpi", "100", "--at", "0")
	assert.Zero(t, none, "nothing is painted at first")
	_, _, none = size("--dpi", "100", "--grey")
	assert.Zero(t, none)
}

func TestPaintRefuses(t *testing.T) {
	file := paintedFile(t, func(*card.Card) {})
	out := filepath.Join(t.TempDir(), "out.png")
	for words, args := range map[string][]string{
		"say where to":     {"paint", file},
		"is no time":       {"paint", file, "--out", out, "--at", "noon"},
		"ask for 20":       {"paint", file, "--out", out, "--dpi", "9000"},
		"no piece \"hat\"": {"paint", file, "--out", out, "--piece", "hat"},
	} {
		code, _, errOut := call("", args...)
		assert.NotEqual(t, done, code)
		assert.Contains(t, errOut, words)
	}
	assert.NoFileExists(t, out)
}
