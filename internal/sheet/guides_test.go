package sheet_test

import (
	"bytes"
	"context"
	"encoding/xml"
	"fmt"
	"image"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/mask"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/internal/pdfpage"
	"chromaqua/internal/sheet"
)

// squareKept is a board on which a square of 30 mm is kept, its corner 20 and 25 mm from the
// piece's.
func squareKept(t testing.TB, way mask.Way) *panel.Board {
	c, s := paneltest.Card(t, 2, 2)
	wide := c.PanelSize().W.MM()
	z := card.Zone{Shape: card.Within}
	for _, p := range [][2]float64{{20, 25}, {50, 25}, {50, 55}, {20, 55}} {
		z.Points = append(z.Points, card.UV{U: p[0] / wide, V: p[1] / wide})
	}
	id, err := c.AddZone(z, wide)
	require.NoError(t, err)
	_, err = c.AddReserve(card.Reserve{Name: "Square", Way: way, Zones: []string{id}})
	require.NoError(t, err)
	return panel.Resolve(c, s)
}

// Templates are of true size, as an independent reader of PDFs measures them: guides for
// fluid 0.2 mm inside the line, cut-outs at it, both beside a scale bar.
func TestGuidesAreOfTrueSize(t *testing.T) {
	for way, inside := range map[mask.Way]float64{mask.Fluid: 0.2, mask.Tape: 0, mask.Film: 0} {
		b := squareKept(t, way)
		g, err := sheet.Guides(b)
		require.NoError(t, err)
		var out bytes.Buffer
		require.NoError(t, g.WritePDF(&out))
		m, scale, err := pdfpage.Render(context.Background(), out.Bytes(), 1, 600)
		require.NoError(t, err)
		size := b.Card.PanelSize()
		left := inkLeft(m, scale)
		top := 0.0
		for y := range m.Rect.Dy() { // the frame of the piece is the first long line
			if float64(y)/scale > 20 && m.GrayAt(int((left+size.W.MM()/2)*scale), y).Y < 128 {
				top = float64(y) / scale
				break
			}
		}
		x0, y0, x1, y1 := inkBox(m, scale, 128, mmBox(scale, left+10, top+15, left+70, top+65))
		line := 0.1 // half a line's width
		for what, d := range map[string][2]float64{
			"left": {20 + inside, x0 - left}, "right": {50 - inside, x1 - left - 2*line}, "top": {25 + inside, y0 - top}, "bottom": {55 - inside, y1 - top - 2*line},
		} {
			assert.InDelta(t, d[0], d[1], 0.1, "%s of a guide for %s", what, way)
		}
		assert.InDelta(t, 30-2*inside, x1-x0-2*line, 0.1, "%s", way)
		assert.InDelta(t, 30-2*inside, y1-y0-2*line, 0.1, "%s", way)
	}
}

// inkLeft is where the leftmost ink lies at the height of a page's middle, mm.
func inkLeft(m *image.Gray, scale float64) float64 {
	for x := range m.Rect.Dx() {
		if m.GrayAt(x, int(80*scale)).Y < 128 {
			return float64(x) / scale
		}
	}
	return -1
}

// What a cutter gets is the outline itself, in millimetres; the same card gives the same.
func TestGuidesForACutter(t *testing.T) {
	g, err := sheet.Guides(squareKept(t, mask.Film))
	require.NoError(t, err)
	var out, again bytes.Buffer
	require.NoError(t, g.WriteSVG(&out))
	require.NoError(t, g.WriteSVG(&again))
	assert.Equal(t, out.String(), again.String())
	require.NoError(t, xml.Unmarshal(out.Bytes(), new(struct{})))
	_, d, ok := strings.Cut(out.String(), `<path d="M`)
	require.True(t, ok)
	d, _, _ = strings.Cut(d, "Z")
	x0, x1, y0, y1 := math.Inf(1), math.Inf(-1), math.Inf(1), math.Inf(-1)
	for _, p := range strings.Split(d, "L") {
		var x, y float64
		_, err := fmt.Sscanf(p, "%f %f", &x, &y)
		require.NoError(t, err)
		x0, x1, y0, y1 = min(x0, x), max(x1, x), min(y0, y), max(y1, y)
	}
	assert.InDelta(t, 30, x1-x0, 0.1)
	assert.InDelta(t, 30, y1-y0, 0.1)
}

// Islands stay islands; what lays nothing has no template.
func TestGuidesOfOddThings(t *testing.T) {
	b := squareKept(t, mask.Round)
	_, err := sheet.Guides(b)
	assert.ErrorContains(t, err, "no mask is laid")
	c := b.Card
	wide := c.PanelSize().W.MM()
	z := card.Zone{Shape: card.Rim, Width: 6_000_000}
	id, err := c.AddZone(z, wide)
	require.NoError(t, err)
	_, err = c.AddReserve(card.Reserve{Name: "Frame", Way: mask.Film, Zones: []string{id}})
	require.NoError(t, err)
	g, err := sheet.Guides(panel.Resolve(c, b.Sheet))
	require.NoError(t, err)
	require.Len(t, g.Shapes, 1)
	assert.Len(t, g.Shapes[0].Outline.Rings, 2, "the frame and what it leaves out")
}
