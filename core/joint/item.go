package joint

import (
	"slices"
	"time"

	"chromaqua/core/length"
)

// Item is something that is set on a piece and is not cut from paper.
type Item string

// The items.
const (
	Gem       Item = "gem"
	Sequin    Item = "sequin"
	Cord      Item = "cord"
	Ribbon    Item = "ribbon"
	LiquidDot Item = "liquid dot"
	Gloss     Item = "clear gloss"
	Glitter   Item = "glitter"
)

// An ItemFact is what is true of an item, in general.
type ItemFact struct {
	Item   Item
	How    string        // it is held
	Each   time.Duration // to set one
	Sets   time.Duration // it has to lie flat so long; 0 when it holds at once
	Height length.Length // it stands so high
	Grams  float64       // of one
}

// Items is the table of the items; times are the longer end of what is usual.
func Items() []ItemFact {
	const tenth = length.Millimetre / 10
	return []ItemFact{
		{Gem, "a dot of liquid glue each, set with a picker", 15 * time.Second, 10 * time.Minute, 25 * tenth, 0.1},
		{Sequin, "a small dot of liquid glue each, set with a picker", 15 * time.Second, 10 * time.Minute, 10 * tenth, 0.02},
		{Cord, "tape behind, where it does not show", 90 * time.Second, 0, 20 * tenth, 0.5},
		{Ribbon, "thin tape behind, at its ends", 90 * time.Second, 0, 10 * tenth, 0.6},
		{LiquidDot, "squeezed on, the tip just touching; one row after the other, away from the hand", 5 * time.Second, time.Hour, 15 * tenth, 0.03},
		{Gloss, "laid on thickly from the edge inwards; bubbles pricked with a needle", 45 * time.Second, 4 * time.Hour, 10 * tenth, 0.2},
		{Glitter, "strewn on glue, the loose grains tapped off; keep the face away", 45 * time.Second, 30 * time.Minute, 5 * tenth, 0.2},
	}
}

// Facts is the row of an item; that of one unknown is empty.
func (i Item) Facts() ItemFact {
	all := Items()
	if k := slices.IndexFunc(all, func(f ItemFact) bool { return f.Item == i }); k >= 0 {
		return all[k]
	}
	return ItemFact{}
}
