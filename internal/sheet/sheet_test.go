package sheet_test

import (
	"bytes"
	"context"
	"image"
	"image/color"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
	"chromaqua/internal/picture"
	"chromaqua/internal/sheet"
)

func bench(t testing.TB, change func(*card.Card)) []byte {
	c, s := paneltest.Card(t, 3, 2)
	for i, ci := range []string{"PB29", "PY3", "PV19"} {
		paneltest.Area(t, c, s, "Column "+ci, [][2]int{{i, 0}, {i, 1}},
			card.Wash{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: ci, Parts: 1}}})
	}
	c.Name, c.Notes = "Grid & “quotes”", "First line.\nSecond line."
	change(c)
	b := panel.Resolve(c, s)
	plan, err := steps.Compile(b, steps.UsualBench())
	require.NoError(t, err)
	sch, err := solver.Solve(context.Background(), plan.Instance, solver.Budget{Iterations: 100, Seed: 1})
	require.NoError(t, err)
	line, err := picture.Ink(s.Grey, 800)
	require.NoError(t, err)
	var buf bytes.Buffer
	doc := sheet.Bench{Card: b.Card, Plan: plan, Schedule: sch, Lines: map[string][]byte{"panel": line}, Made: time.Unix(1_700_000_000, 0)}
	require.NoError(t, doc.Write(&buf))
	return buf.Bytes()
}

// tool skips a test without a program, unless the tests must all run.
func tool(t testing.TB, name string) {
	if _, err := exec.LookPath(name); err != nil {
		if os.Getenv("CHROMAQUA_TOOLS") == "required" {
			t.Fatalf("%s is missing; run make tools", name)
		}
		t.Skipf("%s is not installed", name)
	}
}

func kept(t testing.TB, pdf []byte) string {
	file := filepath.Join(t.TempDir(), "bench.pdf")
	require.NoError(t, os.WriteFile(file, pdf, 0o600))
	return file
}

func TestBenchSheetSaysEverything(t *testing.T) {
	tool(t, "pdftotext")
	text, err := exec.Command("pdftotext", "-layout", kept(t, bench(t, func(*card.Card) {})), "-").Output()
	require.NoError(t, err)
	for _, want := range []string{
		"Grid & “quotes”", "Base", "scored between", "Mat", "Panel", "PB29", "PY3", "PV19", "tea", "ml",
		"The panel at true size", "50 mm long", "Column PB29", "Stamp ", "Take the tape off", "0:00", "Second line.",
	} {
		assert.Contains(t, string(text), want)
	}
}

// The frame of the panel is measured on the rendered page.
func TestThePanelIsPrintedAtTrueSize(t *testing.T) {
	tool(t, "pdftoppm")
	const dpi = 150
	out, err := exec.Command("pdftoppm", "-r", "150", "-f", "2", "-l", "2", "-png", kept(t, bench(t, func(*card.Card) {}))).Output()
	require.NoError(t, err)
	page, err := png.Decode(bytes.NewReader(out))
	require.NoError(t, err)
	c, _ := paneltest.Card(t, 3, 2)
	p := c.PanelSize()
	left, right := frame(t, page, page.Bounds().Dy()/3)
	assert.InDelta(t, p.W.MM(), float64(right-left)/dpi*25.4, 0.5)
}

// frame returns where a row of the page first and last differs from paper.
func frame(t testing.TB, m image.Image, y int) (left, right int) {
	left = -1
	for x := m.Bounds().Min.X; x < m.Bounds().Max.X; x++ {
		if g := color.GrayModel.Convert(m.At(x, y)).(color.Gray); g.Y < 128 {
			if left < 0 {
				left = x
			}
			right = x
		}
	}
	require.GreaterOrEqual(t, left, 0, "nothing is drawn")
	return left, right
}

func pageSizes(pdf []byte) (out []string) {
	for _, m := range regexp.MustCompile(`/MediaBox \[0 0 ([\d.]+ [\d.]+)\]`).FindAllSubmatch(pdf, -1) {
		out = append(out, string(m[1]))
	}
	return out
}

func TestPages(t *testing.T) {
	assert.Contains(t, pageSizes(bench(t, func(*card.Card) {})), "595.28 841.89", "A4 for millimetres")
	inches := pageSizes(bench(t, func(c *card.Card) { c.Unit = length.Inches }))
	assert.Contains(t, inches, "612.00 792.00", "letter for inches")
}

func TestTheSameCardGivesTheSameFile(t *testing.T) {
	same := func(*card.Card) {}
	assert.True(t, bytes.Equal(bench(t, same), bench(t, same)))
}

func TestADamagedLineIsAnError(t *testing.T) {
	c, s := paneltest.Card(t, 1, 1)
	paneltest.Area(t, c, s, "One", [][2]int{{0, 0}}, card.Wash{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 1}}})
	b := panel.Resolve(c, s)
	plan, err := steps.Compile(b, steps.UsualBench())
	require.NoError(t, err)
	sch, err := solver.Solve(context.Background(), plan.Instance, solver.Budget{Iterations: 1})
	require.NoError(t, err)
	err = (&sheet.Bench{Card: b.Card, Plan: plan, Schedule: sch, Lines: map[string][]byte{"panel": []byte("no picture")}}).Write(&bytes.Buffer{})
	assert.ErrorContains(t, err, "picture of the line")
}
