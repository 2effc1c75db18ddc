package sheet_test

import (
	"bytes"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/internal/sheet"
)

// Every pair of the chart stands on some page, none beyond its edge.
func TestTheMixingChartToPaint(t *testing.T) {
	tool(t, "pdftotext")
	paints := []string{"PY3", "PY150", "PO62", "PV19", "PB29", "PB15:3", "PG7", "PBr7", "PR101", "PV23"}
	pairs, err := panel.Palette{Paper: "cotton-cp"}.Chart(paints)
	require.NoError(t, err)
	var pdf bytes.Buffer
	require.NoError(t, (&sheet.Chart{Unit: length.Inches, Pairs: pairs}).WritePDF(&pdf))
	text, err := exec.Command("pdftotext", "-layout", kept(t, pdf.Bytes()), "-").Output()
	require.NoError(t, err)
	for _, p := range pairs {
		assert.Contains(t, string(text), p.A.Common+" with "+p.B.Common)
		assert.Contains(t, string(text), p.A.CI+", "+p.B.CI)
	}
	assert.Equal(t, len(pairs), strings.Count(string(text), "cream"), "a heading of strengths for each pair")
	assert.GreaterOrEqual(t, strings.Count(string(text), "\f"), 4)
}

// Masks are drawn at true size, with their holes.
func TestMaskOutlines(t *testing.T) {
	square := func(x, y, side float64) []lineart.Point {
		return []lineart.Point{{X: x, Y: y}, {X: x + side, Y: y}, {X: x + side, Y: y + side}, {X: x, Y: y + side}}
	}
	doc := sheet.CutOuts{Unit: length.Millimetres, Title: "Crab & kelp, masks", Shapes: []sheet.CutOut{
		{Name: "Crab", Pieces: 2, Outline: lineart.Outline{Rings: [][]lineart.Point{square(-5, 3, 60), square(10, 20, 10)}}},
		{Name: "Kelp", Pieces: 1, Outline: lineart.Outline{Rings: [][]lineart.Point{square(0, 0, 30)}}},
	}}
	var svg, pdf bytes.Buffer
	require.NoError(t, doc.WriteSVG(&svg))
	assert.Contains(t, svg.String(), `width="60.000mm" height="98.000mm"`)
	assert.Contains(t, svg.String(), "Crab &amp; kelp")
	assert.Equal(t, 2, strings.Count(svg.String(), "<path"))
	assert.Equal(t, 3, strings.Count(svg.String(), "Z"))
	require.NoError(t, doc.WritePDF(&pdf))
	tool(t, "pdftotext")
	text, err := exec.Command("pdftotext", "-layout", kept(t, pdf.Bytes()), "-").Output()
	require.NoError(t, err)
	assert.Contains(t, string(text), "Cut 2, right at the line")
}
