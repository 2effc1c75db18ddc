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
	put := func(name, ring, paper string, glue shelf.Adhesive) {
		stack = append(stack, fold.Layer{Name: glue.Name, Thickness: glue.Thickness, Holds: true}, fold.Layer{Name: name, Thickness: thick(paper), Ring: ring})
	}
	if c.Insert != nil {
		put("insert", "", c.Insert.Paper, Sizing{}.Adhesive())
	}
	for i, l := range c.Layers {
		if l.Kind == Mat {
			put(c.LayerName(i), layerRing(i), l.Paper, l.Adhesive())
		}
	}
	put("panel", PanelRing, c.Paper, c.Panel.Adhesive())
	stack[len(stack)-1].Thickness = c.PaperFacts().Thickness
	for i, l := range slices.Backward(c.Layers) {
		if l.Kind == Frame {
			put(c.LayerName(i), layerRing(i), l.Paper, l.Adhesive())
		}
	}
	if high := c.Highest(); high > 0 {
		stack = append(stack, fold.Layer{Name: "embellishments", Thickness: high, Ring: PanelRing})
	}
	return stack
}

// Adhesive is what holds a layer on what it lies on.
func (p Sizing) Adhesive() shelf.Adhesive {
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

// Body is the closed card as an envelope meets it. Embellishments count as if they
// stood all over the panel, since nothing says where they are.
func (c *Card) Body() fold.Body {
	layout, err := c.Layout()
	if err != nil {
		return fold.Body{}
	}
	return c.body(layout)
}

func (c *Card) body(layout Layout) fold.Body {
	at := map[string]fold.Slab{}
	var x, y length.Length
	for _, r := range layout {
		x, y = x+r.Round.Left, y+r.Round.Top
		at[r.ID] = fold.Slab{X: x, Y: y, Size: r.Size}
	}
	b := fold.Body{Front: layout[0].Size}
	top := length.Length(0)
	for _, l := range c.Stack() {
		slab, lies := at[l.Ring]
		slab.Bottom, top = top, top+l.Thickness
		switch slab.Top = top; {
		case lies:
			b.On = append(b.On, slab)
		case len(b.On) == 0 && !l.Holds:
			b.Thick = top
		}
	}
	return b
}

// envelopeRoom is what a card gets each way in an envelope made for it, beside what its
// thickness takes.
const envelopeRoom = length.Inch / 8

// EnvelopeClearance is the room the card gets each way in an envelope made to its
// measure, beyond its front.
func (c *Card) EnvelopeClearance() length.Length {
	b := c.Body()
	needs := b.Needs()
	return envelopeRoom + max(needs.W-b.Front.W, needs.H-b.Front.H)
}

// EnvelopeNeeded is the inside of the smallest envelope that takes the card, lying
// across, in whole marks of the maker's ruler.
func (c *Card) EnvelopeNeeded() length.Size {
	mark, front := c.Unit.Mark(), c.Front()
	up := func(l length.Length) length.Length { return (l + c.EnvelopeClearance() + mark - 1) / mark * mark }
	return length.Size{W: up(max(front.W, front.H)), H: up(min(front.W, front.H))}
}
