package advice_test

import (
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
)

const mm = length.Millimetre

// bench is a card on the desk with its cells: a row of square ones, 20 mm wide, of which
// areas are gathered.
type bench struct {
	*card.Card
	t     testing.TB
	sheet *panel.Sheet // its own
}

func lay(t testing.TB, columns, rows int) *bench {
	c, shared := paneltest.Card(t, columns, rows)
	s, drawing := *shared, *shared.Drawing
	s.Drawing, s.Laid = &drawing, slices.Clone(s.Laid)
	drawing.Neighbours, drawing.Cells = slices.Clone(drawing.Neighbours), slices.Clone(drawing.Cells)
	return &bench{c, t, &s}
}

// area paints so many cells of the first row, from the first column given.
func (b *bench) area(name string, from, n int, washes ...card.Wash) *card.Area {
	var cells [][2]int
	for i := range n {
		cells = append(cells, [2]int{from + i, 0})
	}
	id := paneltest.Area(b.t, b.Card, b.sheet, name, cells, washes...)
	a, err := b.AreaByID(id)
	require.NoError(b.t, err)
	return a
}

// wash is the nth wash of an area, both from 0.
func (b *bench) wash(area, n int) *card.Wash { return &b.Areas[area].Washes[n] }

// add lays another wash on an area.
func (b *bench) add(area int, w ...card.Wash) {
	b.Areas[area].Washes = append(b.Areas[area].Washes, w...)
}

// as lays every wash with one technique.
func (b *bench) as(t technique.Kind) {
	for i := range b.Areas {
		for k := range b.Areas[i].Washes {
			b.Areas[i].Washes[k].Technique = t
		}
	}
}

// lines makes every line so thin, mm.
func (b *bench) lines(mm float64) {
	for i := range b.sheet.Neighbours {
		b.sheet.Neighbours[i].LineMed = mm
	}
}

// gap opens the line between the first two cells, mm.
func (b *bench) gap(mm float64) {
	b.sheet.Leaks = []lineart.Leak{{X: 10, Y: 10, WidthMM: mm, Stubs: 2, A: paneltest.CellAt(b.t, b.Card, b.sheet, 0, 0), B: paneltest.CellAt(b.t, b.Card, b.sheet, 1, 0)}}
}

// cell is the first cell as it was read.
func (b *bench) cell() *lineart.Cell {
	return &b.sheet.Cells[paneltest.CellAt(b.t, b.Card, b.sheet, 0, 0)-1]
}

func (b *bench) facts() advice.Facts {
	board := panel.Resolve(b.Card, b.sheet)
	plan, err := steps.Compile(board, steps.UsualBench())
	if err != nil {
		require.ErrorIs(b.t, err, steps.ErrNothingToPaint)
		plan = nil
	}
	return advice.Gather(b.Card, board, plan, nil)
}

func (b *bench) watches() []advice.Watch { return advice.Watches(b.facts()) }

// after is the card with a change made.
func (b *bench) after(c change.Change) *bench {
	made, done, err := change.Try(c, b.Card, b.sheet)
	require.NoError(b.t, err)
	assert.NotEmpty(b.t, done.Says)
	return &bench{made, b.t, b.sheet}
}

func flat(ci string, s pigment.Strength) card.Wash { return wash(technique.Flat, s, ci) }

// good is the card on which each case makes its change: a blue and a paler one side by
// side, in a crisp waterproof line.
func good(t testing.TB) *bench {
	b := lay(t, 2, 1)
	b.area("Left", 0, 1, flat("PB29", pigment.Milk))
	b.area("Right", 1, 1, flat("PB15:3", pigment.WeakTea))
	return b
}

// opposites paints the two areas with colours that cancel out.
func (b *bench) opposites() {
	*b.wash(0, 0), *b.wash(1, 0) = flat("PO62", pigment.Tea), flat("PB29", pigment.Milk)
}

// stack glazes the left area with further pigments.
func (b *bench) stack(all ...string) {
	for _, ci := range all {
		b.add(0, wash(technique.Glaze, pigment.WeakTea, ci))
	}
}

// again starts over with a row of so many cells.
func (b *bench) again(columns int) { *b = *lay(b.t, columns, 1) }

// three paints a dark, a pale and a middling area in a row of four.
func (b *bench) three() {
	b.again(3)
	b.area("Dark", 0, 1, flat("PB29", pigment.Cream))
	b.area("Pale", 1, 1, flat("PY3", pigment.WeakTea))
	b.area("Rose", 2, 1, flat("PV19", pigment.Tea))
}

// row gathers so many of four cells.
func (b *bench) row(n int) {
	b.again(4)
	b.area("Shells", 0, n, wash(technique.PullOut, pigment.Tea, "PV19"))
}

// window lays the panel's window on a painted sheet, its middle so far from the left.
func (b *bench) window(x length.Length) {
	b.Window = &card.Window{
		Scan: card.Scan{Image: strings.Repeat("0", 64), Title: "Sheet", WidthPX: 100, HeightPX: 100, Width: 200 * mm},
		X:    x, Y: 100 * mm,
	}
}
