package mount

import (
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/joint"
	"chromaqua/core/length"
)

// Body is the closed card as an envelope meets it. What is set on it counts as if it stood
// all over the panel, since it is set by eye.
func Body(c *card.Card) fold.Body {
	all, err := Members(c)
	if err != nil {
		return fold.Body{}
	}
	return bodyOf(c, all)
}

func bodyOf(c *card.Card, all []Member) fold.Body {
	front := all[0].Size
	b := fold.Body{Front: front, Thick: all[0].Top}
	for i := range all[1:] {
		m := &all[i+1]
		if m.Inside() {
			continue
		}
		size := m.Size.Around(m.Turn)
		slab := fold.Slab{X: front.W/2 + m.X - size.W/2, Y: front.H/2 + m.Y - size.H/2, Size: size, Bottom: m.Bottom, Top: m.Top}
		b.On = append(b.On, slab)
		if high := c.Highest(); m.ID == card.PanelRing && high > 0 {
			slab.Bottom, slab.Top = m.Top, m.Top+high
			b.On = append(b.On, slab)
		}
	}
	return b
}

// envelopeRoom is what a card gets each way in an envelope made for it, beside what its
// thickness takes.
const envelopeRoom = length.Inch / 8

// EnvelopeClearance is the room a card gets each way in an envelope made to its measure,
// beyond its front.
func EnvelopeClearance(c *card.Card) length.Length {
	b := Body(c)
	needs := b.Needs()
	return envelopeRoom + max(needs.W-b.Front.W, needs.H-b.Front.H)
}

// EnvelopeNeeded is the inside of the smallest envelope that takes a card, lying across, in
// whole marks of the maker's ruler.
func EnvelopeNeeded(c *card.Card) length.Size {
	mark, front, clear := c.Unit.Mark(), c.Front(), EnvelopeClearance(c)
	up := func(l length.Length) length.Length { return (l + clear + mark - 1) / mark * mark }
	return length.Size{W: up(max(front.W, front.H)), H: up(min(front.W, front.H))}
}

// HeldBy is what holds a piece, chosen or best; [joint.Nothing] for one that lies nowhere.
func HeldBy(c *card.Card, id string) joint.By {
	all, err := Members(c)
	if i := slices.IndexFunc(all, func(m Member) bool { return m.ID == id }); err == nil && i >= 0 {
		return all[i].By
	}
	return joint.Nothing
}
