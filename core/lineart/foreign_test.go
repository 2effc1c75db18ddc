package lineart_test

import (
	"bytes"
	"context"
	"image"
	"image/png"
	"math"
	"os"
	"os/exec"
	"path/filepath"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/draw"

	"chromaqua/core/lineart"
)

// foreignPackage is line art that nobody here drew. It is fetched for the test
// and never committed.
const foreignPackage = "openmoji@17.0.0"

// foreignNames are pictures of it by their code points: animals, plants,
// vessels, houses; outlines that close and outlines that do not.
var foreignNames = strings.Fields(`1F41A 1F980 1F419 1F422 1F41F 1F433 1F98B 1F41D 1F40C 1F427 1F989 1F431
	1F436 1F98A 1F33B 1F337 1F339 1F344 1F334 1F335 1F349 1F352 1F34E 1F955
	26F5 1F3E0 1F3EE 1F56F 1F383 1F381 1F514 2615 1FAD6 1F382 1F680 1F6B2`)

// foreignDir returns the folder with the black outline pictures, fetching the
// package when it is missing.
func foreignDir(t *testing.T) string {
	for _, tool := range []string{"npm", "rsvg-convert"} {
		if _, err := exec.LookPath(tool); err != nil {
			t.Skipf("%s is not installed: no foreign line art to try", tool)
		}
	}
	cache, err := os.UserCacheDir()
	require.NoError(t, err)
	dir := filepath.Join(cache, "chromaqua-tests", strings.ReplaceAll(foreignPackage, "@", "-"))
	svgs := filepath.Join(dir, "package", "black", "svg")
	if _, err := os.Stat(svgs); err == nil {
		return svgs
	}
	require.NoError(t, os.MkdirAll(dir, 0o755))
	pack := exec.Command("npm", "pack", "--silent", foreignPackage)
	pack.Dir = dir
	file, err := pack.Output()
	if err != nil {
		t.Skipf("%s cannot be fetched: no foreign line art to try", foreignPackage)
	}
	unpack := exec.Command("tar", "xzf", strings.TrimSpace(string(file)), "package/black/svg")
	unpack.Dir = dir
	require.NoError(t, unpack.Run())
	return svgs
}

// rendered draws an SVG 45 mm wide at 300 dpi with a margin of bare paper, its
// line about 1.7 mm thick.
func rendered(t *testing.T, file string) *image.Gray {
	data, err := exec.Command("rsvg-convert", "-w", "530", "-b", "white", file).Output()
	require.NoError(t, err, file)
	m, err := png.Decode(bytes.NewReader(data))
	require.NoError(t, err, file)
	const margin = 40
	g := image.NewGray(image.Rect(0, 0, m.Bounds().Dx()+2*margin, m.Bounds().Dy()+2*margin))
	draw.Draw(g, g.Rect, image.White, image.Point{}, draw.Src)
	draw.Draw(g, m.Bounds().Add(image.Pt(margin, margin)), m, image.Point{}, draw.Over)
	return g
}

// whites labels the connected white regions of at least 1 mm² of a clean
// drawing: its true cells, as far as its outlines close.
func whites(g *image.Gray) (label []int, sizes []int) {
	w, h := g.Rect.Dx(), g.Rect.Dy()
	label = make([]int, w*h)
	least := int(math.Round(dpi / 25.4 * dpi / 25.4)) // 1 mm²
	for start := range label {
		if label[start] != 0 || g.Pix[start] < 128 {
			continue
		}
		id := len(sizes) + 1
		stack, size := []int{start}, 0
		label[start] = id
		for len(stack) > 0 {
			i := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			size++
			for _, n := range [4][2]int{{-1, 0}, {1, 0}, {0, -1}, {0, 1}} {
				x, y := i%w+n[0], i/w+n[1]
				if x >= 0 && y >= 0 && x < w && y < h && label[y*w+x] == 0 && g.Pix[y*w+x] >= 128 {
					label[y*w+x] = id
					stack = append(stack, y*w+x)
				}
			}
		}
		sizes = append(sizes, size)
	}
	for i, l := range label {
		if l > 0 && sizes[l-1] < least {
			label[i] = 0
		}
	}
	return label, sizes
}

// recovered counts the true cells and those found with an overlap of at least
// 0.8 of the union.
func recovered(g *image.Gray, d *lineart.Drawing) (found, all int) {
	truth, sizes := whites(g)
	type pair struct{ t, p int }
	both, predicted, left := map[pair]int{}, map[int]int{}, map[int]bool{}
	for i, l := range truth {
		p := int(d.Labels[i])
		predicted[p]++
		if l > 0 {
			left[l] = true
			both[pair{l, p}]++
		}
	}
	for k, n := range both {
		if k.p > 0 && float64(n) >= 0.8*float64(sizes[k.t-1]+predicted[k.p]-n) {
			found++
		}
	}
	return found, len(left)
}

func TestForeignLineArt(t *testing.T) {
	dir := foreignDir(t)
	tried, total := 0, 0.0
	for _, name := range foreignNames {
		file := filepath.Join(dir, name+".svg")
		if _, err := os.Stat(file); err != nil {
			t.Logf("%s: not in the package", name)
			continue
		}
		g := rendered(t, file)
		d, err := lineart.Find(context.Background(), g, dpi, nil)
		require.NoError(t, err, name)
		found, all := recovered(g, d)
		if found < all {
			t.Logf("%s: %d of %d cells, %d found in all, %d leaks closed", name, found, all, len(d.Cells), len(d.Leaks))
		}
		tried++
		total += float64(found) / float64(all)
	}
	require.GreaterOrEqual(t, tried, 20)
	mean := total / float64(tried)
	t.Logf("%d drawings, mean share of cells found %.3f", tried, mean)
	assert.Greater(t, mean, 0.9)
}
