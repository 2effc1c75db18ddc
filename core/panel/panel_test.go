package panel_test

import (
	"context"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/nest"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
)

func flat(ci string, s pigment.Strength) card.Wash {
	return card.Wash{Technique: technique.Flat, Strength: s, Mix: []card.Part{{CI: ci, Parts: 1}}}
}

func TestCellsOfTheComposedPanel(t *testing.T) {
	c, s := paneltest.Card(t, 3, 2)
	require.Len(t, s.Cells, 7, "six squares and the outside")
	assert.True(t, s.Cells[0].Outside)
	side := paneltest.CellMM - paneltest.LineMM
	for _, cell := range s.Cells[1:] {
		assert.InDelta(t, side*side, cell.AreaMM2, 8)
		assert.InDelta(t, 4*side, s.Edges[cell.ID-1], 4, "outline")
	}
	p := c.PanelSize()
	assert.InDelta(t, p.W.MM()*300/25.4, s.W, 1, "the sheet is the panel at the scan's resolution")
}

func TestAreasFindTheirCellsAgain(t *testing.T) {
	c, s := paneltest.Card(t, 3, 2)
	id := paneltest.Area(t, c, s, "Corner", [][2]int{{0, 0}, {1, 0}})
	b := panel.Resolve(c, s)
	require.Len(t, b.Areas[0].Cells, 2)
	assert.Empty(t, b.Areas[0].Lost)

	// Moving and resizing the line takes the areas along.
	scan := paneltest.Scan(3, 2)
	c.Line().X += 4 * length.Millimetre
	c.Line().Y -= 9 * length.Millimetre
	c.Line().Width = c.Line().Width * 11 / 10
	moved, err := panel.Read(context.Background(), c, scans(c, scan), nil)
	require.NoError(t, err)
	again := panel.Resolve(c, moved)
	require.Len(t, again.Areas[0].Cells, 2)
	assert.Empty(t, again.Areas[0].Lost)
	x, y := c.Line().X.MM()+1.1*12, c.Line().Y.MM()+1.1*12
	assert.Contains(t, again.Areas[0].Cells, moved.At(lineart.Point{X: x, Y: y}), "the first square, wherever it went")

	// Cells that went off the panel are reported, not dropped.
	c.Line().X -= 40 * length.Millimetre
	off, err := panel.Read(context.Background(), c, scans(c, scan), nil)
	require.NoError(t, err)
	lost := panel.Resolve(c, off)
	assert.NotEmpty(t, lost.Areas[0].Lost)
	a, err := c.AreaByID(id)
	require.NoError(t, err)
	assert.Len(t, a.Cells, 2, "the document keeps them")
}

func TestAssignMovesCells(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	one := paneltest.Area(t, c, s, "One", [][2]int{{0, 0}, {1, 0}})
	two := paneltest.Area(t, c, s, "Two", [][2]int{{1, 0}})
	b := panel.Resolve(c, s)
	assert.Len(t, b.Areas[0].Cells, 1, "a cell belongs to one area")
	assert.Len(t, b.Areas[1].Cells, 1)
	require.Len(t, b.Touching, 1)
	assert.InDelta(t, paneltest.LineMM, b.Touching[0].LineMM, 0.15)
	assert.InDelta(t, paneltest.CellMM*math.Pi/4, b.Touching[0].BorderMM, 0.5, "cracks are counted as if they ran every which way")

	require.NoError(t, b.Assign("", b.Areas[0].Cells))
	b = panel.Resolve(c, s)
	assert.Empty(t, b.Areas[0].Cells, "freed")
	assert.Error(t, b.Assign("nobody", []int{1}))
	assert.ErrorContains(t, b.Assign(one, []int{99}), "no cell 99")
	assert.NoError(t, b.Assign(two, []int{1}))
}

func TestSimilarCells(t *testing.T) {
	c, s := paneltest.Card(t, 3, 2)
	b := panel.Resolve(c, s)
	id := paneltest.CellAt(t, c, s, 1, 1)
	assert.Len(t, b.Similar(id), 6, "all squares, not the outside")
	paneltest.Area(t, c, s, "Taken", [][2]int{{0, 0}})
	assert.Len(t, panel.Resolve(c, s).Similar(id), 5, "not what belongs to another area")
	assert.Nil(t, b.Similar(0))
	assert.Nil(t, b.Similar(99))
}

// Areas that look alike can be painted alike in one step.
func TestAlikeAreas(t *testing.T) {
	c, s := paneltest.Card(t, 3, 2)
	paneltest.Area(t, c, s, "One", [][2]int{{0, 0}}, flat("PB29", pigment.Tea))
	for _, name := range []string{"Two", "Same", "White", "Bare"} {
		at := [2]int{len(c.Areas) % 3, len(c.Areas) / 3}
		paneltest.Area(t, c, s, name, [][2]int{at})
	}
	c.Areas[2].PaintAs(&c.Areas[0])
	c.Areas[3].White = true
	outside := c.AddArea("Sky")
	require.NoError(t, panel.Resolve(c, s).Assign(outside, []int{1}))
	b := panel.Resolve(c, s)
	assert.Equal(t, []int{1, 4}, b.Alike(0), "not what is painted so already, is kept white, or is the background")
	assert.Empty(t, b.Alike(5))
}

func TestComposeRefuses(t *testing.T) {
	c, _ := paneltest.Card(t, 2, 1)
	scan := paneltest.Scan(2, 1)
	for _, tc := range []struct {
		name, why string
		change    func(*card.Card)
	}{
		{"off the panel", "off the panel", func(c *card.Card) { c.Line().X = 500 * length.Millimetre }},
		{"another image", "place the image again", func(c *card.Card) { c.Line().WidthPX++ }},
		{"impossible width", "measure the image again", func(c *card.Card) { c.Line().Width = 2 * length.Millimetre }},
	} {
		t.Run(tc.name, func(t *testing.T) {
			bad := *c
			bad.Images = slices.Clone(c.Images)
			tc.change(&bad)
			_, err := panel.Read(context.Background(), &bad, scans(&bad, scan), nil)
			assert.ErrorContains(t, err, tc.why)
		})
	}
}

// Paper on which nothing lies is one cell, which areas take and zones part; what is kept of
// it finds it again, and finds it beside a line that comes later.
func TestPaperWithoutALineIsOneCell(t *testing.T) {
	c, _ := paneltest.Card(t, 2, 1)
	line := c.Images
	c.Images = nil
	_, err := panel.Compose(context.Background(), c, nil)
	assert.ErrorContains(t, err, "no line image")
	s, err := panel.Read(context.Background(), c, nil, nil)
	require.NoError(t, err)
	size := c.PanelSize()
	require.Len(t, s.Cells, 1)
	assert.InDelta(t, size.W.MM()*size.H.MM(), s.Cells[0].AreaMM2, 0.01*s.Cells[0].AreaMM2)
	assert.InDelta(t, 2*(size.W.MM()+size.H.MM()), s.Edges[0], 1)
	assert.True(t, s.Cells[0].Outside)
	id := c.AddArea("Ground")
	require.NoError(t, panel.Resolve(c, s).Assign(id, []int{1}))
	require.NoError(t, c.Check())
	assert.Equal(t, []int{1}, panel.Resolve(c, s).Areas[0].Cells)
	assert.Empty(t, panel.Resolve(c, s).Free())

	c.Images = line
	s, err = panel.Read(context.Background(), c, scans(c, paneltest.Scan(2, 1)), nil)
	require.NoError(t, err)
	a := panel.Resolve(c, s).Areas[0]
	assert.Equal(t, 1, len(a.Cells)+len(a.Lost))
}

func TestLooks(t *testing.T) {
	paper := panel.LookOf("cotton-cp", nil)
	assert.Equal(t, paper.Dense.Dry, paper.Dense.Wet, "bare paper is not wetted")
	tea := panel.LookOf("cotton-cp", []card.Wash{flat("PB29", pigment.Tea)})
	assert.NotEqual(t, tea.Dense.Dry, tea.Dense.Wet)
	assert.Equal(t, technique.Even, tea.Grade)

	pulled := flat("PB29", pigment.Milk)
	pulled.Technique = technique.PullOut
	look := panel.LookOf("cotton-cp", []card.Wash{pulled})
	assert.Equal(t, technique.Corner, look.Grade)
	assert.Greater(t, look.Thin.Lab.L, look.Dense.Lab.L+15, "pulled out to nearly nothing")

	drop := flat("PV19", pigment.Milk)
	drop.Technique = technique.WetOnWet
	into := panel.LookOf("cotton-cp", []card.Wash{flat("PB29", pigment.Tea), drop})
	assert.Equal(t, technique.Out, into.Grade)
	over := panel.LookOf("cotton-cp", []card.Wash{flat("PB29", pigment.Tea), flat("PV19", pigment.Milk)})
	assert.NotEqual(t, over.Dense.Dry, into.Dense.Dry, "a drop-in mixes, a second coat lies on top")
}

// Drops fall within their area, cover about the share of their technique, and fall
// otherwise with each draw, alike with the same.
func TestDropsFallOnTheirArea(t *testing.T) {
	c, s := paneltest.Card(t, 3, 2)
	paneltest.Area(t, c, s, "Some", [][2]int{{0, 0}, {2, 1}}, blue, blue)
	zoned(t, c, card.Zone{Shape: card.Below}, 0, 60, 200, 60)
	for i := range c.Areas {
		c.Areas[i].Washes = append(c.Areas[i].Washes[:1], card.Wash{Technique: technique.Splatter, Mix: blue.Mix, Strength: pigment.Milk})
	}
	for _, kind := range technique.Kinds() {
		for i := range c.Areas {
			c.Areas[i].Washes[1].Technique = kind
		}
		b := panel.Resolve(c, s)
		for i, a := range b.Areas {
			got := b.Scatter(i, 1)
			assert.Equal(t, kind.Facts().Drop > 0, len(got) > 0, kind)
			mm2 := 0.0
			for _, d := range got {
				mm2 += math.Pi * d.R * d.R
				p := lineart.Point{X: d.X, Y: d.Y}
				if i == 0 {
					assert.Contains(t, a.Cells, b.At(p), kind)
				} else {
					assert.Greater(t, d.Y, 59.0)
				}
			}
			if len(got) > 30 && len(got) < panel.MaxDrops {
				assert.InEpsilon(t, kind.Share()*a.MM2, mm2, 0.45, "%s on %s", kind, a.Name)
			}
			assert.LessOrEqual(t, len(got), panel.MaxDrops)
			assert.Equal(t, got, b.Scatter(i, 1))
			if len(got) > 0 {
				c.Areas[i].Washes[1].Draw++
				assert.NotEqual(t, got, panel.Resolve(c, s).Scatter(i, 1))
			}
		}
	}
}

// Nothing falls on paper that the tape of a masked border covers.
func TestDropsKeepOffTheTape(t *testing.T) {
	c, s := paneltest.Card(t, 3, 2)
	zoned(t, c, card.Zone{Shape: card.All}, 0)
	c.Areas[0].Washes = []card.Wash{{Technique: technique.Splatter, Mix: blue.Mix, Strength: pigment.Milk}}
	under := func() (n int) {
		for _, d := range panel.Resolve(c, s).Scatter(0, 0) {
			if size := c.PanelSize(); min(d.X, d.Y, size.W.MM()-d.X, size.H.MM()-d.Y) < 8 {
				n++
			}
		}
		return n
	}
	assert.Positive(t, under())
	c.Painting.Border, c.Painting.Tape = 8*length.Millimetre, 12*length.Millimetre
	assert.Zero(t, under())
}

func TestMisjudgedBracketsTheColour(t *testing.T) {
	for _, p := range pigment.Library() {
		w := flat(p.CI, pigment.Tea)
		thin, thick := panel.Palette{Paper: "cotton-cp"}.Misjudged(w)
		l := panel.LookOf("cotton-cp", []card.Wash{w}).Dense.Lab.L
		assert.GreaterOrEqual(t, thin.Lab.L+1e-9, l, p.CI)
		assert.LessOrEqual(t, thick.Lab.L-1e-9, l, p.CI)
	}
}

// Whatever is assigned, every cell has at most one owner and resolving what was
// stored gives it back.
func TestAssignThenResolveIsTheIdentity(t *testing.T) {
	base, s := paneltest.Card(t, 3, 2)
	rapid.Check(t, func(rt *rapid.T) {
		c := *base
		c.Areas = nil
		n := rapid.IntRange(1, 3).Draw(rt, "areas")
		want := make([]int, len(s.Cells))
		for i := range want {
			want[i] = -1
		}
		for a := range n {
			id := c.AddArea("")
			cells := rapid.SliceOfDistinct(rapid.IntRange(1, len(s.Cells)), rapid.ID[int]).Draw(rt, "cells")
			require.NoError(t, panel.Resolve(&c, s).Assign(id, cells))
			for _, cell := range cells {
				want[cell-1] = a
			}
		}
		got := panel.Resolve(&c, s)
		for i, area := range want {
			if a, owned := got.AreaOf(i + 1); owned {
				require.Equal(t, area, a)
			} else {
				require.Equal(t, -1, area)
			}
		}
	})
}

func BenchmarkResolve(b *testing.B) {
	c, s := paneltest.Card(b, 4, 5)
	for row := range 5 {
		paneltest.Area(b, c, s, "", [][2]int{{0, row}, {1, row}, {2, row}, {3, row}}, flat("PB29", pigment.Tea))
	}
	for b.Loop() {
		panel.Resolve(c, s).Looks()
	}
}

func BenchmarkRead(b *testing.B) {
	c, _ := paneltest.Card(b, 4, 5)
	scan := paneltest.Scan(4, 5)
	for b.Loop() {
		if _, err := panel.Read(context.Background(), c, scans(c, scan), func(string, float64) {}); err != nil {
			b.Fatal(err)
		}
	}
}

// Words go where nothing is drawn, and on the background if it is painted.
func TestRoomForWords(t *testing.T) {
	c, s := paneltest.Card(t, 3, 2)
	words := length.Size{W: 40 * length.Millimetre, H: 12 * length.Millimetre}
	b := panel.Resolve(c, s)
	places := b.RoomFor(words)
	require.Len(t, places, 2, "above and below")
	grid := [4]float64{c.Line().X.MM() + paneltest.EdgeMM, c.Line().Y.MM() + paneltest.EdgeMM, 3 * paneltest.CellMM, 2 * paneltest.CellMM}
	for i, p := range places {
		apart := p.X+p.W <= grid[0] || p.X >= grid[0]+grid[2] || p.Y+p.H <= grid[1] || p.Y >= grid[1]+grid[3]
		assert.True(t, apart, "place %d lies on the drawing: %+v", i, p)
		assert.GreaterOrEqual(t, p.W, 40.0)
		assert.GreaterOrEqual(t, p.H, 12.0)
	}
	outside := b.Cells[0].ID
	id := c.AddArea("Sky")
	require.NoError(t, panel.Resolve(c, s).Assign(id, []int{outside}))
	assert.NotEmpty(t, panel.Resolve(c, s).RoomFor(words), "the background may be written on")
	c.Areas[0].Focal = true
	assert.Empty(t, panel.Resolve(c, s).RoomFor(words), "but not when it is what the card is about")
	c.Areas[0].Focal = false
	c.Painting.Border = 38 * length.Millimetre
	assert.Empty(t, panel.Resolve(c, s).RoomFor(words), "a masked border takes room")
	assert.Empty(t, panel.Resolve(c, s).RoomFor(length.Size{}))
	c.Painting.Border = 0
	c.Layers[0].Kind = card.Frame
	c.Panel.Margin = nest.Even(-38 * length.Millimetre)
	assert.Empty(t, panel.Resolve(c, s).RoomFor(words), "and so does what a frame covers")
	c.Layers[0].Kind, c.Panel.Margin = card.Mat, nest.Margin{}
	small := length.Size{W: 15 * length.Millimetre, H: 15 * length.Millimetre}
	c.Painting.Border = 0
	assert.NotEmpty(t, panel.Resolve(c, s).RoomFor(small), "a cell left white will do")
}

func BenchmarkRoomFor(b *testing.B) {
	c, s := paneltest.Card(b, 3, 2)
	board := panel.Resolve(c, s)
	for b.Loop() {
		board.RoomFor(length.Size{W: 40 * length.Millimetre, H: 12 * length.Millimetre})
	}
}
