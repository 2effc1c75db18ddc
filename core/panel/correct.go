package panel

import (
	"errors"
	"fmt"
	"math"

	"chromaqua/core/card"
	"chromaqua/core/lineart"
)

// The corrections change the board's card; read its panel again to see them.

var errNoLeak = errors.New("that gap is not there any more; nothing was changed")

// penReach is how far a stroke that closes a gap runs into the line on either
// side, mm.
const penReach = 0.2

// CloseLeak draws a pen stroke across the nth leak, from 0.
func (b *Board) CloseLeak(n int) error {
	if n < 0 || n >= len(b.Leaks) {
		return errNoLeak
	}
	p, q := b.Leaks[n].Banks[0], b.Leaks[n].Banks[1]
	if d := math.Hypot(q.X-p.X, q.Y-p.Y); d > 0 {
		x, y := (q.X-p.X)/d*penReach, (q.Y-p.Y)/d*penReach
		p, q = lineart.Point{X: p.X - x, Y: p.Y - y}, lineart.Point{X: q.X + x, Y: q.Y + y}
	}
	return b.Stroke([]lineart.Point{p, q})
}

// OpenLeak says that the line is open at the nth leak: the cells on either side
// are one.
func (b *Board) OpenLeak(n int) error {
	if n < 0 || n >= len(b.Leaks) {
		return errNoLeak
	}
	return b.JoinCells([]int{b.Leaks[n].A, b.Leaks[n].B})
}

// JoinCells makes cells one, whatever line is between them.
func (b *Board) JoinCells(ids []int) error {
	if len(ids) < 2 {
		return errors.New("choose two cells or more to make them one")
	}
	for _, id := range ids {
		if id < 1 || id > len(b.Cells) {
			return fmt.Errorf("there is no cell %d; the board has %d", id, len(b.Cells))
		}
	}
	first := b.Cells[ids[0]-1].Label
	for _, id := range ids[1:] {
		b.mark(card.Join, []lineart.Point{first, b.Cells[id-1].Label})
	}
	return b.Card.Check()
}

// Stroke draws a pen stroke through points of the panel, mm from its top left
// corner.
func (b *Board) Stroke(points []lineart.Point) error {
	b.mark(card.Pen, points)
	return b.Card.Check()
}

// mark puts a mark on the image that its first point goes with.
func (b *Board) mark(k card.MarkKind, points []lineart.Point) {
	Mark(b.Sheet.under(b.Card, points[0]), k, points)
}

// Mark puts a mark on an image of the card, through points of the panel.
func Mark(m *card.Image, k card.MarkKind, points []lineart.Point) {
	made := card.Mark{Kind: k}
	for _, p := range points {
		made.Points = append(made.Points, OnImage(m, p))
	}
	m.Marks = append(m.Marks, made)
}

// MarkView is a correction as it lies on the panel.
type MarkView struct {
	card.Mark
	Image *card.Image
	N     int             // among those of its image
	At    []lineart.Point // mm
}

// Marks lists the corrections as they lie on the panel.
func (b *Board) Marks() (out []MarkView) {
	for i := range b.Card.Images {
		m := &b.Card.Images[i]
		for n, mark := range m.Marks {
			v := MarkView{Mark: mark, Image: m, N: n}
			for _, p := range mark.Points {
				v.At = append(v.At, OnPanel(m, p))
			}
			out = append(out, v)
		}
	}
	return out
}
