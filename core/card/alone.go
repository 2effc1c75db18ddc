package card

import (
	"fmt"
	"maps"
	"slices"

	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/nest"
)

// Alone is a piece as a card of its own, whose panel it is: of the same room and paints.
// What is changed on it is brought back with [Card.Return]. The panel alone is the card.
func (c *Card) Alone(id string) (*Card, error) {
	if id == ThePanel || id == "" {
		return c, nil
	}
	p, err := c.PieceByID(id)
	if err != nil {
		return nil, err
	}
	size := c.SizeOf(p)
	out := *c
	out.Work, out.Pieces, out.elsewhere = p.Work, nil, c.idsBut(id)
	out.Envelope, out.Layers, out.Stamp, out.Insert, out.Window, out.Extra, out.Words = nil, []Layer{}, nil, nil, nil, 0, length.Size{}
	out.Base = Base{Format: Free, Front: size, Fold: fold.Flat, Paper: p.Paper}
	out.Panel = Sizing{Size: size, Margin: nest.Even(0)}
	return &out, nil
}

// Return brings a piece back that was changed alone.
func (c *Card) Return(id string, alone *Card) error {
	if alone == c || id == "" || id == ThePanel {
		return nil
	}
	p, err := c.PieceByID(id)
	if err != nil {
		return err
	}
	p.Work = alone.Work
	c.Name, c.Notes, c.Silenced, c.Unit = alone.Name, alone.Notes, alone.Silenced, alone.Unit
	c.Called, c.Measured, c.Wanted = alone.Called, alone.Measured, alone.Wanted
	c.Copies, c.Drying, c.Room, c.Schools = alone.Copies, alone.Drying, alone.Room, alone.Schools
	return nil
}

// ids lists the ids of all that is on the piece.
func (w *Work) ids() (out []string) {
	for i := range w.Images {
		out = append(out, w.Images[i].ID)
	}
	for i := range w.Areas {
		out = append(out, w.Areas[i].ID)
	}
	for i := range w.Zones {
		out = append(out, w.Zones[i].ID)
	}
	for i := range w.Acts {
		out = append(out, w.Acts[i].ID)
	}
	for i := range w.Reserves {
		out = append(out, w.Reserves[i].ID)
	}
	return out
}

// idsBut lists the ids in use but for those on one piece.
func (c *Card) idsBut(id string) []string {
	out := append(slices.Clone(c.elsewhere), c.Work.ids()...)
	for i := range c.Pieces {
		if out = append(out, c.Pieces[i].ID); c.Pieces[i].ID != id {
			out = append(out, c.Pieces[i].ids()...)
		}
	}
	return out
}

func (c *Card) taken() map[string]bool {
	return maps.Collect(func(yield func(string, bool) bool) {
		for _, id := range c.idsBut("") {
			if !yield(id, true) {
				return
			}
		}
	})
}

// freeID is the first free id of a kind, counted from one more than there are.
func (c *Card) freeID(prefix string, there int) string {
	taken := c.taken()
	for n := there + 1; ; n++ {
		if id := fmt.Sprintf("%s%d", prefix, n); !taken[id] {
			return id
		}
	}
}
