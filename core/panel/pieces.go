package panel

import (
	"errors"

	"chromaqua/core/card"
)

// A Piece is a piece of a card with its cells.
type Piece struct {
	ID, Name string
	Many     int    // so many on one card
	Board    *Board // nil where nothing is laid on it
	Whole    bool   // the card that is put together of the others
}

// ErrNothingLaid means that no image lies on any piece of a card.
var ErrNothingLaid = errors.New("the card has no line image yet; choose one at the Line station")

// Pieces are all pieces of a card, the panel first. board finds the cells of one that has
// an image on it, given as a card of its own.
func Pieces(c *card.Card, board func(alone *card.Card) (*Board, error)) ([]Piece, error) {
	var out []Piece
	laid := false
	for _, id := range c.PieceIDs() {
		alone, err := c.Alone(id)
		if err != nil {
			return nil, err
		}
		p := Piece{ID: id, Name: c.PieceName(id), Many: 1}
		if of, err := c.PieceByID(id); err == nil {
			p.Many, p.Whole = of.Many(), of.Kind == card.WholeCard
		}
		if alone.Begun() {
			laid = true
			if p.Board, err = board(alone); err != nil {
				return nil, err
			}
		}
		out = append(out, p)
	}
	if !laid {
		return nil, ErrNothingLaid
	}
	return out, nil
}
