package panel_test

import (
	"context"
	"image"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
)

// scans are those of a card with one picture.
func scans(c *card.Card, scan *image.Gray) panel.Scans {
	out := panel.Scans{}
	for _, m := range c.Images {
		out[m.Image] = scan
	}
	return out
}

func read(t testing.TB, c *card.Card, scan *image.Gray) *panel.Board {
	s, err := panel.Read(context.Background(), c, scans(c, scan), nil)
	require.NoError(t, err)
	return panel.Resolve(c, s)
}

// A gap is closed as with a pen, or said to be open; either stays through a move
// of the image.
func TestLeaksCanBeClosedOrOpened(t *testing.T) {
	c, _ := paneltest.Card(t, 2, 1)
	scan := paneltest.Scan(2, 1)
	px := func(mm float64) int { return int(mm / 25.4 * 300) }
	x, y := px(paneltest.EdgeMM+paneltest.CellMM), px(paneltest.EdgeMM+paneltest.CellMM/2)
	for j := y - 4; j <= y+4; j++ { // a gap of 0.7 mm in the middle line
		for i := x - 8; i <= x+8; i++ {
			scan.Pix[j*scan.Stride+i] = 240
		}
	}
	b := read(t, c, scan)
	require.Len(t, b.Leaks, 1)
	require.Len(t, b.Cells, 3)

	closed := *c
	closed.Images = slices.Clone(c.Images)
	require.NoError(t, panel.Resolve(&closed, b.Sheet).CloseLeak(0))
	drawn := panel.Resolve(&closed, b.Sheet).Marks()
	require.Len(t, drawn, 1)
	from, to := drawn[0].At[0], drawn[0].At[len(drawn[0].At)-1]
	assert.InDelta(t, b.Leaks[0].WidthMM+0.4, math.Hypot(to.X-from.X, to.Y-from.Y), 0.15, "0.2 mm into the line on either side")
	after := read(t, &closed, scan)
	assert.Len(t, after.Cells, 3)
	assert.Empty(t, after.Leaks, "the pen has closed it")
	closed.Line().X += 3 * length.Millimetre
	closed.Line().Width = closed.Line().Width * 21 / 20
	assert.Empty(t, read(t, &closed, scan).Leaks, "the stroke goes with the image")
	require.Len(t, panel.Resolve(&closed, after.Sheet).Marks(), 1)

	require.NoError(t, b.OpenLeak(0))
	assert.Len(t, read(t, c, scan).Cells, 2, "both squares are one cell")
	assert.Error(t, b.CloseLeak(1))
	assert.Error(t, b.OpenLeak(-1))
}

func TestCellsCanBeDividedAndJoined(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	scan := paneltest.Scan(2, 1)
	b := panel.Resolve(c, s)
	left := s.Cells[paneltest.CellAt(t, c, s, 0, 0)-1].Label
	require.NoError(t, b.Stroke([]lineart.Point{{X: left.X - 11, Y: left.Y}, {X: left.X, Y: left.Y + 2}, {X: left.X + 11, Y: left.Y}}))
	divided := read(t, c, scan)
	assert.Len(t, divided.Cells, 4)
	ids := []int{}
	for _, cell := range divided.Cells {
		if !cell.Outside {
			ids = append(ids, cell.ID)
		}
	}
	require.NoError(t, divided.JoinCells(ids))
	assert.Len(t, read(t, c, scan).Cells, 2)
	assert.ErrorContains(t, divided.JoinCells([]int{1}), "two cells")
	assert.ErrorContains(t, divided.JoinCells([]int{1, 99}), "no cell 99")
	assert.Error(t, divided.Stroke([]lineart.Point{{X: 1}}))
}

func TestSpecksAreForgotten(t *testing.T) {
	c, _ := paneltest.Card(t, 2, 1)
	scan := paneltest.Scan(2, 1)
	b := panel.Resolve(c, read(t, c, scan).Sheet)
	n := len(b.Cells)
	corner := b.Cells[paneltest.CellAt(t, c, b.Sheet, 0, 0)-1].Label
	require.NoError(t, b.Stroke([]lineart.Point{{X: corner.X - 10, Y: corner.Y - 8}, {X: corner.X - 8, Y: corner.Y - 10}}))
	require.NoError(t, b.Stroke([]lineart.Point{{X: corner.X - 10, Y: corner.Y - 6.5}, {X: corner.X - 6.5, Y: corner.Y - 10}}))
	withCorner := len(read(t, c, scan).Cells)
	assert.Greater(t, withCorner, n)
	c.Specks = 12
	assert.Len(t, read(t, c, scan).Cells, n)
}

// A pen stroke along a raised line lies flat in it, whichever way it is drawn: the cells
// beside it touch there.
func TestAPenStrokeBreachesARaisedLine(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	c.Ink = "embossed"
	left, right := paneltest.CellAt(t, c, s, 0, 0), paneltest.CellAt(t, c, s, 1, 0)
	touching := func() bool {
		for _, k := range panel.Resolve(c, s).Contacts() {
			if k.A == min(left, right) && k.B == max(left, right) {
				return !k.Raised
			}
		}
		t.Fatal("they are neighbours")
		return false
	}
	require.False(t, touching())
	mid := lineart.Point{X: (s.Cells[left-1].Label.X + s.Cells[right-1].Label.X) / 2, Y: s.Cells[left-1].Label.Y}
	for _, to := range []lineart.Point{{X: 0, Y: 2}, {X: 0, Y: -2}, {X: 0.3, Y: 2}, {X: -0.3, Y: 2}, {X: 0.6, Y: 0.8}} {
		c.Line().Marks = nil
		require.NoError(t, panel.Resolve(c, s).Stroke([]lineart.Point{{X: mid.X - to.X, Y: mid.Y - to.Y}, {X: mid.X + to.X, Y: mid.Y + to.Y}}))
		assert.True(t, touching(), to)
	}
	c.Line().Marks = nil
	require.NoError(t, panel.Resolve(c, s).Stroke([]lineart.Point{{X: mid.X + 6, Y: mid.Y}, {X: mid.X + 9, Y: mid.Y + 1}}))
	assert.False(t, touching(), "it lies in a cell")
}

// However an image lies, a spot in one of its cells points back at that cell, and stays
// in it when the image is turned or mirrored.
func TestSpotsPointBack(t *testing.T) {
	for name, lay := range map[string]func(*card.Image){
		"as it is": func(*card.Image) {}, "turned": func(m *card.Image) { m.Turn = 25 }, "turned back": func(m *card.Image) { m.Turn = -70 },
		"mirrored": func(m *card.Image) { m.Mirror = true }, "both": func(m *card.Image) { m.Mirror, m.Turn = true, 40 },
		"smaller": func(m *card.Image) { m.Width, m.X = m.Width*3/5, m.X+7*length.Millimetre },
	} {
		c, _ := paneltest.Card(t, 2, 1)
		scan := paneltest.Scan(2, 1)
		lay(c.Line())
		b := read(t, c, scan)
		inside := 0
		for _, cell := range b.Cells {
			if cell.Outside {
				continue
			}
			inside++
			spot := b.SpotOf(cell.ID)
			at := panel.OnPanel(c.Line(), spot.UV)
			assert.Equal(t, cell.ID, b.At(at), name)
			assert.InDelta(t, 0, math.Hypot(at.X-cell.Label.X, at.Y-cell.Label.Y), 0.01, name)
			assert.InDelta(t, (paneltest.EdgeMM+paneltest.CellMM/2)/(2*paneltest.EdgeMM+2*paneltest.CellMM), spot.UV.V, 0.035, "%s: it lies in the middle of its row", name)
		}
		assert.Equal(t, 2, inside, name)
	}
}
