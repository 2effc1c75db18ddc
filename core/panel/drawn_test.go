package panel_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/technique"
)

const mm = length.Millimetre

// penned draws by hand and paints it.
func penned(t testing.TB, c *card.Card, z card.Zone, at ...float64) *card.Area {
	a := zoned(t, c, z, at...)
	a.Washes = []card.Wash{{Technique: technique.PenLine, Mix: blue.Mix, Strength: blue.Strength}}
	require.NoError(t, c.Check())
	return a
}

// Strokes and dots cover about as much as a pen of their width, however thin; they lie over
// what they cross, and nothing else.
func TestWhatIsDrawnByHand(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	left, right := paneltest.CellAt(t, c, s, 0, 0), paneltest.CellAt(t, c, s, 1, 0)
	l, r := s.Cells[left-1].Label, s.Cells[right-1].Label
	for _, tc := range []struct {
		z    card.Zone
		at   []float64
		want float64
		over []bool // the left cell, the right one
	}{
		{card.Zone{Shape: card.Along, Width: 2 * mm}, []float64{l.X - 3, l.Y, l.X + 3, l.Y}, 2*6 + 3.1, []bool{true, false}},
		{card.Zone{Shape: card.Along, Width: mm / 2}, []float64{l.X, l.Y, r.X, r.Y}, 0.5 * (r.X - l.X), []bool{true, true}},
		{card.Zone{Shape: card.Along, Width: mm, Breaks: []int{2}}, []float64{l.X, l.Y - 2, l.X, l.Y + 2, r.X, r.Y - 2, r.X, r.Y + 2}, 2 * (4 + 0.8), []bool{true, true}},
		{card.Zone{Shape: card.DotsAt, Width: 3 * mm}, []float64{l.X, l.Y}, 7.1, []bool{true, false}},
		{card.Zone{Shape: card.DotsAt, Width: mm / 2}, []float64{r.X, r.Y, r.X + 2, r.Y}, 0.5, []bool{false, true}},
	} {
		c := clone(t, c)
		a := penned(t, c, tc.z, tc.at...)
		b := panel.Resolve(c, s)
		assert.InDelta(t, tc.want, mm2(b, a.Name), 0.35*tc.want+0.5, "%v %v", tc.z.Shape, tc.z.Width)
		cells := b.Areas[0].Cells
		assert.NotEmpty(t, b.PatchesOf(cells))
		for k, cell := range []int{left, right} {
			assert.Equal(t, tc.over[k], b.Overlap(cells, []int{cell}), "%v over cell %d", tc.z.Shape, cell)
		}
		strokes := panel.StrokesOf(c, &c.Zones[0])
		assert.Len(t, strokes, map[bool]int{true: len(tc.at) / 2, false: 1 + len(tc.z.Breaks)}[tc.z.Shape == card.DotsAt])
		assert.InDelta(t, tc.at[0], strokes[0][0].X, 0.2)
	}
}

// An outline goes along the lines of the cells it is kept within, so wide.
func TestOutlines(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	left := paneltest.CellAt(t, c, s, 0, 0)
	a := penned(t, c, card.Zone{Shape: card.Outlines, Width: 9 * mm / 10})
	a.Cells = []card.Spot{panel.Resolve(c, s).SpotOf(left)}
	b := panel.Resolve(c, s)
	cell := b.Cells[left-1]
	assert.InDelta(t, 0.9*b.Edges[left-1], mm2(b, a.Name), 0.2*0.9*b.Edges[left-1])
	assert.Len(t, b.Areas[0].Cells, 1, "it goes round in one")
	p := b.Part(b.Areas[0].Cells[0])
	assert.Len(t, p.Outline.Rings, 2, "and leaves its middle")
	assert.Less(t, p.AreaMM2, cell.AreaMM2)
	assert.Nil(t, panel.StrokesOf(c, &c.Zones[0]))
}

// What is drawn goes with its image, and lies on bare paper too.
func TestDrawnGoesWithItsImage(t *testing.T) {
	c, _ := paneltest.Card(t, 2, 1)
	m := c.Line()
	penned(t, c, card.Zone{Shape: card.DotsAt, Width: 2 * mm}, 10, 10)
	c.Zones[0].On, c.Zones[0].Points = m.ID, []card.UV{{U: 0.5, V: 0.1}}
	before := panel.StrokesOf(c, &c.Zones[0])[0][0]
	m.X += 5 * mm
	after := panel.StrokesOf(c, &c.Zones[0])[0][0]
	assert.InDelta(t, before.X+5, after.X, 1e-9)

	c.Images, c.Zones[0].On, c.Zones[0].Points = nil, "", []card.UV{{U: 0.5, V: 0.5}}
	bare, err := panel.Read(context.Background(), c, nil, nil)
	require.NoError(t, err)
	assert.Positive(t, panel.Resolve(c, bare).Areas[0].MM2)
}
