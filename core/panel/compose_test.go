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
	"chromaqua/core/shelf"
)

// two is a panel with the same grid twice, the rear one half a cell further right
// and down.
func two(t testing.TB) (*card.Card, *image.Gray) {
	c, _ := paneltest.Card(t, 2, 1)
	rear, err := c.Lay(c.Line().Scan, shelf.LineImage)
	require.NoError(t, err)
	m, err := c.ImageByID(rear)
	require.NoError(t, err)
	m.X, m.Y = m.X+10*length.Millimetre, m.Y+10*length.Millimetre
	return c, paneltest.Scan(2, 1)
}

// darkAt reports whether there is ink within half a millimetre of a place, mm from
// the top left corner of an image.
func darkAt(m *image.Gray, at *card.Image, x, y float64) bool {
	const px = 300 / 25.4
	p := panel.OnPanel(at, card.UV{U: x / at.Width.MM(), V: y / at.Width.MM()})
	for j := int((p.Y - 0.5) * px); j <= int((p.Y+0.5)*px); j++ {
		for i := int((p.X - 0.5) * px); i <= int((p.X+0.5)*px); i++ {
			if m.GrayAt(i, j).Y < 128 {
				return true
			}
		}
	}
	return false
}

func compose(t testing.TB, c *card.Card, scan *image.Gray) *panel.Composed {
	made, err := panel.Compose(context.Background(), c, scans(c, scan))
	require.NoError(t, err)
	return made
}

func TestWhatIsInFrontHidesWhatIsBehind(t *testing.T) {
	c, scan := two(t)
	top := func(m *image.Gray, i int) (covered, free bool) { // of the upper edge of an image's second square
		at := &c.Images[i]
		return darkAt(m, at, 6, paneltest.EdgeMM), darkAt(m, at, 38, paneltest.EdgeMM)
	}
	b := read(t, c, scan)
	inFront, inFrontToo := top(b.Grey, 0)
	assert.True(t, inFront && inFrontToo, "the image in front is whole")
	hidden, shows := top(b.Grey, 1)
	assert.False(t, hidden, "where the one in front lies, the line behind is gone")
	assert.True(t, shows, "beside it, it is there")
	assert.Len(t, b.Cells, 5, "two squares in front, what is left of two behind, the outside")

	require.NoError(t, c.Bring("i2", 1))
	hidden, _ = top(compose(t, c, scan).Found, 0)
	assert.True(t, hidden, "it came to the front")
	assert.Equal(t, "i2", c.Line().ID)
}

// The image in front is stamped first; it is masked while the others are.
func TestStampingOrderAndCutOuts(t *testing.T) {
	c, scan := two(t)
	b := read(t, c, scan)
	assert.Equal(t, []panel.Impression{{Image: 0}, {Image: 1, CutOuts: []int{0}}}, b.Impressions())
	assert.Equal(t, []panel.CutOut{{Image: 0, Pieces: 1, Covers: []int{0}}}, b.CutOuts())
	area := b.Laid[0].Silhouette
	require.Len(t, area.Rings, 1, "a mask is cut round the whole grid")
	assert.InDelta(t, 2*(2*paneltest.CellMM+paneltest.CellMM+2*paneltest.LineMM), area.Length(), 1)

	// A third one further on touches only the second: the mask of the first is
	// taken off and used again, as they are the same stamp.
	require.NoError(t, c.Repeat("i2", 1, 8*length.Millimetre, 20*length.Millimetre, 0))
	require.NoError(t, c.Repeat("i3", 1, 200*length.Millimetre, 0, 0))
	b = read(t, c, scan)
	assert.Equal(t, []int{1}, b.Laid[2].Hidden)
	assert.Equal(t, []panel.CutOut{{Image: 0, Pieces: 1, Covers: []int{0, 1}}}, b.CutOuts())
	assert.Equal(t, "2 of Grid", b.Named([]int{0, 1}))
	assert.True(t, b.Laid[3].Off)
	assert.False(t, b.Laid[2].Off)

	c.Images[0].X += 300 * length.Millimetre
	c.Images[1].X += 300 * length.Millimetre
	c.Images[2].X += 300 * length.Millimetre
	_, err := panel.Compose(context.Background(), c, scans(c, scan))
	assert.ErrorIs(t, err, panel.ErrOffPanel)
}

// A drawing that is open has its strokes for a silhouette; closed with the pen, it
// hides what is behind it.
func TestThePenClosesASilhouette(t *testing.T) {
	c, scan := two(t)
	c.Images[1].Mirror = true // another picture of the same scan
	open := paneltest.Scan(2, 1)
	px := 300 / 25.4
	for _, x := range []float64{paneltest.EdgeMM + 6, paneltest.EdgeMM + 26} { // both squares lose a piece of their tops
		top := (paneltest.EdgeMM + 1.0) * px
		for j := range int(math.Ceil(top)) {
			for i := int(x * px); i < int((x+8)*px); i++ {
				open.Pix[j*open.Stride+i] = 240
			}
		}
	}
	copy(scan.Pix, open.Pix)
	before := read(t, c, scan).Laid[0].Silhouette.Length()
	m := &c.Images[0]
	at := func(x float64) card.UV { return card.UV{U: x / m.Width.MM(), V: paneltest.EdgeMM / m.Width.MM()} }
	for _, x := range []float64{paneltest.EdgeMM + 5, paneltest.EdgeMM + 25} {
		m.Marks = append(m.Marks, card.Mark{Kind: card.Pen, Points: []card.UV{at(x), at(x + 10)}})
	}
	b := read(t, c, scan)
	assert.Less(t, b.Laid[0].Silhouette.Length(), before*0.75, "one outline round it, not both sides of every stroke")
	assert.Equal(t, []int{0}, b.Laid[1].Hidden)
}

// Turned, mirrored or repeated, areas and corrections stay on their image.
func TestAreasGoWithTheirImage(t *testing.T) {
	c, scan := two(t)
	c.Images[1].X -= 10 * length.Millimetre
	c.Images[1].Y += 30 * length.Millimetre
	b := read(t, c, scan)
	at := panel.OnPanel(&c.Images[1], card.UV{U: 12 / c.Images[1].Width.MM(), V: 12 / c.Images[1].Width.MM()})
	left := b.At(at)
	require.NotZero(t, left)
	id := c.AddArea("left square")
	require.NoError(t, b.Assign(id, []int{left}))
	assert.Equal(t, "i2", c.Areas[0].Cells[0].On)

	c.Images[1].Turn = 25
	c.Images[1].Mirror = true
	c.Images[0].X += 7 * length.Millimetre
	again := read(t, c, scan)
	require.Len(t, again.Areas[0].Cells, 1)
	assert.Empty(t, again.Areas[0].Lost)
	at = panel.OnPanel(&c.Images[1], card.UV{U: 12 / c.Images[1].Width.MM(), V: 12 / c.Images[1].Width.MM()})
	assert.Equal(t, again.At(at), again.Areas[0].Cells[0])
	assert.InDelta(t, b.Cells[left-1].AreaMM2, again.Areas[0].MM2, 6)

	require.NoError(t, c.TakeAway("i2"))
	assert.Empty(t, c.Areas[0].Cells, "cells of an image that is gone are forgotten")
	assert.NoError(t, c.Check())
}

// What is kept bare is not inked, and what is stamped off is pale but has the
// same cells.
func TestBareAndGhost(t *testing.T) {
	c, _ := paneltest.Card(t, 2, 1)
	scan := paneltest.Scan(2, 1)
	m := c.Line()
	full := read(t, c, scan)
	m.Ghost = 1
	ghost := read(t, c, scan)
	assert.Len(t, ghost.Cells, len(full.Cells))
	darkest := func(m *image.Gray) uint8 { return slices.Min(m.Pix) }
	assert.InDelta(t, 240-(240-float64(darkest(full.Grey)))*panel.GhostShare(1), float64(darkest(ghost.Grey)), 3)

	m.Ghost = 0
	right := func(x, y float64) lineart.Point {
		return panel.OnPanel(m, card.UV{U: x / m.Width.MM(), V: y / m.Width.MM()})
	}
	panel.Mark(m, card.Bare, []lineart.Point{right(25, 0), right(50, 0), right(50, 30), right(25, 30)})
	bare := read(t, c, scan)
	assert.Len(t, bare.Cells, 2, "the right square is not stamped")
	require.Len(t, bare.Marks(), 1)
}

// dots is a scan of filled squares, such as a solid stamp or a stencil has.
func dots() *image.Gray {
	m := paneltest.Scan(2, 1)
	for i := range m.Pix {
		m.Pix[i] = 240
	}
	for _, x := range []int{60, 320} {
		for j := 60; j < 220; j++ {
			for i := x; i < x+160; i++ {
				m.Pix[j*m.Stride+i] = 30
			}
		}
	}
	return m
}

func TestStencilOpeningsAreCells(t *testing.T) {
	c, _ := paneltest.Card(t, 2, 1)
	c.Line().Kind = shelf.Stencil
	b := read(t, c, dots())
	require.Len(t, b.Cells, 3, "the outside and two openings")
	side := 160 * 25.4 / 300
	for _, cell := range b.Cells[1:] {
		assert.InDelta(t, side*side, cell.AreaMM2, 20)
	}
	assert.Greater(t, slices.Min(b.Grey.Pix), uint8(150), "nothing is printed")
	assert.Empty(t, b.Impressions())
	id := c.AddArea("openings")
	require.NoError(t, b.Assign(id, []int{2, 3}))
	assert.True(t, panel.Resolve(c, b.Sheet).OnStencil(0))
	c.Line().Kind = shelf.LineImage
	assert.False(t, panel.Resolve(c, b.Sheet).OnStencil(0))
}

// A solid has a mass, which the paper's texture mottles as much as is said.
func TestSolidsMottle(t *testing.T) {
	side := 160 * 25.4 / 300
	for paper, missed := range map[string]float64{"cotton-hp": 0, "cotton-cp": shelf.Textured.Misses(1), "cotton-rough": shelf.Rough.Misses(1)} {
		c, _ := paneltest.Card(t, 2, 1)
		c.Line().Kind, c.Paper = shelf.SolidImage, paper
		b := read(t, c, dots())
		assert.InDelta(t, 2*side*side, b.Laid[0].MassMM2, 5, paper)
		n := 0
		for _, v := range b.Grey.Pix {
			if v < 100 {
				n++
			}
		}
		assert.InDelta(t, 1-missed, float64(n)*25.4*25.4/300/300/b.Laid[0].MassMM2, 0.04, paper)
		assert.Len(t, b.Cells, 1, "flecks are no cells")
	}
	assert.Equal(t, shelf.Rough.Misses(1)/4, shelf.Rough.Misses(3))
}

func TestReliefLeavesNoInk(t *testing.T) {
	c, _ := paneltest.Card(t, 2, 1)
	c.Line().Kind = shelf.ReliefImage
	b := read(t, c, paneltest.Scan(2, 1))
	assert.Len(t, b.Cells, 3)
	assert.Empty(t, b.Impressions())
	assert.Greater(t, slices.Min(b.Grey.Pix), uint8(180), "only a shade is seen")
	assert.False(t, c.Inked())
}

func BenchmarkReadSix(b *testing.B) {
	c, _ := paneltest.Card(b, 2, 1)
	scan := paneltest.Scan(2, 1)
	require.NoError(b, c.Repeat("i1", 5, 5*length.Millimetre, 11*length.Millimetre, 10))
	for b.Loop() {
		if _, err := panel.Read(context.Background(), c, scans(c, scan), nil); err != nil {
			b.Fatal(err)
		}
	}
}
