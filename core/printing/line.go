package printing

import (
	"context"
	"image"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/grey"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
)

// A Line is what is printed on one piece.
type Line struct {
	Part
	Grey  *image.Gray // its images, nil where there are only words
	PxMM  float64     // pixels of Grey per mm
	At    Box         // where Grey lies on the paper, mm
	Words []card.Text // by the middle of each on the paper
}

// LineOf is what is printed on a piece of a card: its images that are printed or, when it
// has none, those that would be stamped or drawn; and words that are printed. It is nil
// where there is nothing.
func LineOf(ctx context.Context, c *card.Card, id string, scans panel.Scans) (*Line, error) {
	alone, err := c.Alone(id)
	if err != nil {
		return nil, err
	}
	l := &Line{Part: Part{Name: c.PieceName(id), Size: alone.SheetSize(), Many: max(1, c.Copies)}}
	x, y := alone.Painting.Spare.MM(), alone.Painting.Spare.MM()
	if id != card.ThePanel {
		p, err := c.PieceByID(id)
		if err != nil {
			return nil, err
		}
		if p.Kind == card.WholeCard {
			return nil, nil
		}
		l.Many *= p.Many()
		if p.Kind == card.BasePiece {
			x, y = l.onBase(c.Blank(), p.Face)
		}
	}
	if err := l.compose(ctx, alone, scans, x, y); err != nil {
		return nil, err
	}
	for _, a := range alone.Acts {
		if a.First() {
			t := *a.Text
			t.X, t.Y = t.X+length.FromMM(x), t.Y+length.FromMM(y)
			l.Words = append(l.Words, t)
			w, h := t.Size().W.MM()/2, t.Size().H.MM()/2
			l.Drawn = l.Drawn.with(Box{t.X.MM() - w, t.Y.MM() - h, t.X.MM() + w, t.Y.MM() + h})
		}
	}
	if l.Grey == nil && len(l.Words) == 0 {
		return nil, nil
	}
	return l, nil
}

// onBase lets a line be printed on the blank of the base, and returns where its face lies
// on that.
func (l *Line) onBase(b fold.Blank, face card.Face) (x, y float64) {
	behind := map[card.Face]string{card.InsideLeft: "front", card.InsideRight: "back"}[face]
	name := string(face)
	if behind != "" {
		b, name = b.InsideUp(), behind
	}
	l.Size, l.Fold = b.Size, b.Grain == fold.Vertical
	for _, f := range b.Faces {
		if f.Name == name {
			return f.X.MM(), f.Y.MM()
		}
	}
	return 0, 0
}

// compose draws the images that are printed.
func (l *Line) compose(ctx context.Context, alone *card.Card, scans panel.Scans, x, y float64) error {
	only := *alone
	printed := func(m card.Image) bool { return m.Inked() && alone.InkOf(&m).Method == shelf.Printed }
	if slices.ContainsFunc(alone.Images, printed) {
		only.Images = slices.DeleteFunc(slices.Clone(alone.Images), func(m card.Image) bool { return !printed(m) })
	} else {
		only.Images = slices.DeleteFunc(slices.Clone(alone.Images), func(m card.Image) bool { return !m.Inked() })
	}
	if only.Line() == nil {
		return nil
	}
	only.Over = nil // those that are not printed are not there
	made, err := panel.Compose(ctx, &only, scans)
	if err != nil {
		return err
	}
	l.Grey, l.PxMM = made.Shown, made.DPI/25.4
	l.At = Box{x, y, x + float64(l.Grey.Rect.Dx())/l.PxMM, y + float64(l.Grey.Rect.Dy())/l.PxMM}
	l.Drawn = inkOf(l.Grey, l.PxMM, x, y)
	return nil
}

// Paper is the grey of a picture from which on nothing is printed.
const Paper = 225

// inkOf is where there is ink on a picture whose corner lies at x, y, mm.
func inkOf(g *image.Gray, pxMM, x, y float64) Box {
	box := grey.Bounds(g, Paper)
	if box.Empty() {
		return Box{}
	}
	return Box{x + float64(box.Min.X)/pxMM, y + float64(box.Min.Y)/pxMM, x + float64(box.Max.X)/pxMM, y + float64(box.Max.Y)/pxMM}
}

// with is the box round two.
func (b Box) with(o Box) Box {
	if b.X1 <= b.X0 {
		return o
	}
	return Box{min(b.X0, o.X0), min(b.Y0, o.Y0), max(b.X1, o.X1), max(b.Y1, o.Y1)}
}
