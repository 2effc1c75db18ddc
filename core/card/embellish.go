package card

import (
	"fmt"
	"slices"
	"time"

	"chromaqua/core/length"
)

// MaxEmbellished is how many of one embellishment are set.
const MaxEmbellished = 500

// Embellishment is what is set on a piece that is not cut from paper.
type Embellishment struct {
	Kind   EmbellishmentKind `json:"kind"`
	Name   string            `json:"name,omitempty"` // what the maker calls it
	Count  int               `json:"count,omitempty"`
	Height length.Length     `json:"height,omitzero"` // it stands so high; the usual of its kind when 0
	X      length.Length     `json:"x,omitzero"`      // of the middle of them all
	Y      length.Length     `json:"y,omitzero"`
}

// EmbellishmentKind is what an embellishment is.
type EmbellishmentKind string

// The kinds.
const (
	Gem       EmbellishmentKind = "gem"
	Sequin    EmbellishmentKind = "sequin"
	Cord      EmbellishmentKind = "cord"
	Ribbon    EmbellishmentKind = "ribbon"
	LiquidDot EmbellishmentKind = "liquid dot"
	Gloss     EmbellishmentKind = "clear gloss"
	Glitter   EmbellishmentKind = "glitter"
)

// An EmbellishmentFact is what is true of a kind of embellishment, in general.
type EmbellishmentFact struct {
	Kind   EmbellishmentKind
	How    string        // it is held
	Each   time.Duration // to set one
	Sets   time.Duration // it has to lie flat so long; 0 when it holds at once
	Height length.Length // it stands so high
}

// EmbellishmentFacts is the table of the kinds; times are the longer end of what is usual.
func EmbellishmentFacts() []EmbellishmentFact {
	const tenth = length.Millimetre / 10
	return []EmbellishmentFact{
		{Gem, "a dot of liquid glue each, set with a picker", 15 * time.Second, 10 * time.Minute, 25 * tenth},
		{Sequin, "a small dot of liquid glue each, set with a picker", 15 * time.Second, 10 * time.Minute, 10 * tenth},
		{Cord, "tape behind, where it does not show", 90 * time.Second, 0, 20 * tenth},
		{Ribbon, "thin tape behind, at its ends", 90 * time.Second, 0, 10 * tenth},
		{LiquidDot, "squeezed on, the tip just touching; one row after the other, away from the hand", 5 * time.Second, time.Hour, 15 * tenth},
		{Gloss, "laid on thickly from the edge inwards; bubbles pricked with a needle", 45 * time.Second, 4 * time.Hour, 10 * tenth},
		{Glitter, "strewn on glue, the loose grains tapped off; keep the face away", 45 * time.Second, 30 * time.Minute, 5 * tenth},
	}
}

// Facts is the row of a kind; that of one unknown is empty.
func (k EmbellishmentKind) Facts() EmbellishmentFact {
	all := EmbellishmentFacts()
	if i := slices.IndexFunc(all, func(f EmbellishmentFact) bool { return f.Kind == k }); i >= 0 {
		return all[i]
	}
	return EmbellishmentFact{}
}

// Many is how many there are.
func (e *Embellishment) Many() int { return max(1, e.Count) }

// Stands is how high it stands.
func (e *Embellishment) Stands() length.Length {
	if e.Height > 0 {
		return e.Height
	}
	return e.Kind.Facts().Height
}

// Words names them: "3 gems", "cord, kelp twine".
func (e *Embellishment) Words() string {
	out := string(e.Kind)
	if n := e.Many(); n > 1 {
		out = fmt.Sprintf("%d × %s", n, out)
	}
	if e.Name != "" {
		out += ", " + e.Name
	}
	return out
}

func (e *Embellishment) check() error {
	if e.Kind.Facts().Kind == "" {
		return fmt.Errorf("%q is no embellishment; choose one that is listed", string(e.Kind))
	}
	if e.Name != "" {
		if err := CheckName("embellishment", e.Name); err != nil {
			return err
		}
	}
	switch {
	case e.Count < 0 || e.Count > MaxEmbellished:
		return fmt.Errorf("1 to %d of one embellishment are set, not %d", MaxEmbellished, e.Count)
	case e.Height < 0 || e.Height > MaxExtra:
		return fmt.Errorf("it stands up to %s high, not %s", MaxExtra.With(length.Millimetres), e.Height.With(length.Millimetres))
	case max(e.X, -e.X, e.Y, -e.Y) > length.Max:
		return fmt.Errorf("it lies far off its piece")
	}
	return nil
}

// Highest is how high embellishments stand on the card: as the maker says, or the highest
// of those that are set on its panel or the whole card.
func (c *Card) Highest() length.Length {
	out := c.Extra
	highest := func(w *Work) {
		for _, x := range w.Acts {
			if x.Item != nil {
				out = max(out, x.Item.Stands())
			}
		}
	}
	highest(&c.Work)
	for i := range c.Pieces {
		if c.Pieces[i].Kind == WholeCard {
			highest(&c.Pieces[i].Work)
		}
	}
	return out
}
