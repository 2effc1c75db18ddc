package card

import (
	"fmt"
	"slices"

	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/shelf"
)

// Stack lists the layers of the finished card, bottom first, as thick as its
// papers generally are. Frames lie on what they show.
func (c *Card) Stack() []fold.Layer {
	thick := func(id string) length.Length {
		p, err := shelf.PaperByID(id)
		if err != nil {
			p = shelf.Papers()[0]
		}
		return p.Thickness
	}
	n := c.Base.Fold.Layers()
	stack := []fold.Layer{{Name: fmt.Sprintf("base, %d ×", n), Thickness: thick(c.Base.Paper) * length.Length(n)}}
	put := func(name, paper string, glue shelf.Adhesive) {
		stack = append(stack, fold.Layer{Name: glue.Name, Thickness: glue.Thickness, Holds: true}, fold.Layer{Name: name, Thickness: thick(paper)})
	}
	if c.Insert != nil {
		put("insert", c.Insert.Paper, Piece{}.Adhesive())
	}
	for i, l := range c.Layers {
		if l.Kind == Mat {
			put(c.LayerName(i), l.Paper, l.Adhesive())
		}
	}
	put("panel", c.Paper, c.Panel.Adhesive())
	stack[len(stack)-1].Thickness = c.PaperFacts().Thickness
	for i, l := range slices.Backward(c.Layers) {
		if l.Kind == Frame {
			put(c.LayerName(i), l.Paper, l.Adhesive())
		}
	}
	if c.Extra > 0 {
		stack = append(stack, fold.Layer{Name: "embellishments", Thickness: c.Extra})
	}
	return stack
}

// Adhesive is what holds the piece on what it lies on.
func (p Piece) Adhesive() shelf.Adhesive {
	id := shelf.Tape
	if p.Foam {
		id = shelf.Foam
	}
	a, err := shelf.AdhesiveByID(id)
	if err != nil {
		panic("card: " + err.Error()) // the table holds both
	}
	return a
}

// envelopeRoom is what a card needs each way in an envelope made for it, beside its
// own thickness.
const envelopeRoom = length.Inch / 8

// EnvelopeClearance is the room the card gets in an envelope made to its measure.
func (c *Card) EnvelopeClearance() length.Length { return envelopeRoom + fold.Thickness(c.Stack()) }

// EnvelopeNeeded is the inside of the smallest envelope that takes the card, lying
// across, in whole marks of the maker's ruler.
func (c *Card) EnvelopeNeeded() length.Size {
	mark, front := c.Unit.Mark(), c.Front()
	up := func(l length.Length) length.Length { return (l + c.EnvelopeClearance() + mark - 1) / mark * mark }
	return length.Size{W: up(max(front.W, front.H)), H: up(min(front.W, front.H))}
}
