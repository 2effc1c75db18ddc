// Package paneltest makes small cards with a known drawing for tests: a grid
// of square cells.
package paneltest

import (
	"context"
	"image"
	"image/color"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"
	"golang.org/x/image/draw"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel"
)

// Measures of the grid, millimetres.
const (
	CellMM  = 20.0
	LineMM  = 0.6
	EdgeMM  = 2.0 // bare paper round the grid
	dpi     = 300
	pxPerMM = dpi / 25.4
)

// Scan draws a grid of columns × rows cells at 300 dpi.
func Scan(columns, rows int) *image.Gray {
	px := func(mm float64) int { return int(mm*pxPerMM + 0.5) }
	w, h := 2*EdgeMM+float64(columns)*CellMM, 2*EdgeMM+float64(rows)*CellMM
	m := image.NewGray(image.Rect(0, 0, px(w), px(h)))
	draw.Draw(m, m.Rect, image.NewUniform(color.Gray{Y: 240}), image.Point{}, draw.Src)
	bar := func(x, y, w, h float64) {
		draw.Draw(m, image.Rect(px(x), px(y), px(x+w), px(y+h)), image.NewUniform(color.Gray{Y: 30}), image.Point{}, draw.Src)
	}
	for i := range columns + 1 {
		bar(EdgeMM+float64(i)*CellMM-LineMM/2, EdgeMM, LineMM, float64(rows)*CellMM)
	}
	for i := range rows + 1 {
		bar(EdgeMM, EdgeMM+float64(i)*CellMM-LineMM/2, float64(columns)*CellMM, LineMM)
	}
	return m
}

// read keeps sheets by columns and rows: with the race detector one takes
// seconds to read, and nobody changes it.
var read sync.Map

// Card returns an A2 card in millimetres with the grid in the middle of its
// panel, and its sheet, which is shared: copy what a test changes. The card has
// no areas.
func Card(t testing.TB, columns, rows int) (*card.Card, *panel.Sheet) {
	scan := Scan(columns, rows)
	c := card.New("grid", length.Millimetres)
	const hash = "0123456789abcdef0123456789abcdef0123456789abcdef0123456789abcdef"
	_, err := c.Lay(card.Scan{
		Image: hash, Title: "Grid",
		WidthPX: scan.Rect.Dx(), HeightPX: scan.Rect.Dy(), Width: length.FromMM(float64(scan.Rect.Dx()) / pxPerMM),
	}, "")
	require.NoError(t, err)
	require.NoError(t, c.Check())
	size := [2]int{columns, rows}
	if s, ok := read.Load(size); ok {
		return c, s.(*panel.Sheet)
	}
	s, err := panel.Read(context.Background(), c, panel.Scans{hash: scan}, nil)
	require.NoError(t, err)
	read.Store(size, s)
	return c, s
}

// CellAt returns the id of the cell in a column and row of the grid.
func CellAt(t testing.TB, c *card.Card, s *panel.Sheet, column, row int) int {
	at := func(i int) float64 { return EdgeMM + (float64(i)+0.5)*CellMM }
	p := s.Cells[0].Label
	p.X, p.Y = c.Line().X.MM()+at(column), c.Line().Y.MM()+at(row)
	id := s.At(p)
	require.NotZero(t, id, "cell %d, %d", column, row)
	return id
}

// Area gathers grid cells into a new area with the given washes and returns
// its id.
func Area(t testing.TB, c *card.Card, s *panel.Sheet, name string, cells [][2]int, washes ...card.Wash) string {
	id := c.AddArea(name)
	var ids []int
	for _, at := range cells {
		ids = append(ids, CellAt(t, c, s, at[0], at[1]))
	}
	require.NoError(t, panel.Resolve(c, s).Assign(id, ids))
	a, err := c.AreaByID(id)
	require.NoError(t, err)
	a.Washes = append(a.Washes, washes...)
	require.NoError(t, c.Check())
	return id
}

// Begin lays the next wash of an area, of ultramarine.
func Begin(t testing.TB, a *card.Area) {
	w := a.NextWash()
	require.NoError(t, w.Dip("PB29", 1))
	require.NoError(t, a.Lay(w))
}
