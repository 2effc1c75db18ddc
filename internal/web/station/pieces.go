package station

import (
	"fmt"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
)

// PieceTab is one piece in the strip above the board.
type PieceTab struct {
	ID, Name, Address string
	Picture           string // address of its picture
	Painted           string // and of its washes, "" where nothing is painted
	Current           bool
	Size              length.Size
	Many              int
}

// piecesOf lists the pieces of a card, the panel first.
func (h *Host) piecesOf(rev *store.Revision) (out []PieceTab) {
	for _, id := range rev.Whole.PieceIDs() {
		t := PieceTab{ID: id, Name: rev.Whole.PieceName(id), Many: 1, Size: rev.Whole.PanelSize()}
		at := rev.At(id)
		if p, err := rev.Whole.PieceByID(id); err == nil {
			t.Many, t.Size = p.Many(), rev.Whole.SizeOf(p)
		}
		t.Address, t.Current = at.Address(), at.Piece == rev.Piece
		t.Picture = fmt.Sprintf("%s?v=%d", page.CardAddress(t.Address, "panel.svg"), rev.Seq)
		if at.Card.Painted() {
			t.Painted = fmt.Sprintf("%s?v=%d&dpi=60", page.CardAddress(t.Address, "painted.svg"), rev.Seq)
		}
		out = append(out, t)
	}
	return out
}

// PieceKinds are what may be added.
func (p *Page) PieceKinds() []card.PieceFact { return card.PieceFacts() }
