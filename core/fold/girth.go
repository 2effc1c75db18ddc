package fold

import (
	"cmp"
	"math"
	"slices"

	"chromaqua/core/length"
)

// A Body is a closed card as an envelope meets it: its front, as thick as the folded
// base, and what lies on it.
type Body struct {
	Front length.Size
	Thick length.Length // of the base and what is inside it
	On    []Slab
}

// A Slab is one piece on a card's front, X and Y its top left corner there, from Bottom
// to Top above the table the base lies on: below 0 for what lies behind it.
type Slab struct {
	X, Y        length.Length
	Size        length.Size
	Bottom, Top length.Length
}

// Plain is a card that is as thick at its edges as anywhere.
func Plain(front length.Size, thick length.Length) Body { return Body{Front: front, Thick: thick} }

// Thickness is how thick the card is at its thickest.
func (b Body) Thickness() length.Length {
	top, under := b.Thick, length.Length(0)
	for _, s := range b.On {
		top, under = max(top, s.Top), min(under, s.Bottom)
	}
	return top - under
}

// Needs is what the card takes up of the inside of an envelope each way: half the girth
// of its cross-section, since paper goes round it. A layer that is set in from the edge
// costs less than its height; one that reaches the edge costs all of it.
func (b Body) Needs() length.Size {
	wide := []point{{0, 0}, {b.Front.W.MM(), 0}, {0, b.Thick.MM()}, {b.Front.W.MM(), b.Thick.MM()}}
	high := []point{{0, 0}, {b.Front.H.MM(), 0}, {0, b.Thick.MM()}, {b.Front.H.MM(), b.Thick.MM()}}
	for _, s := range b.On {
		for _, z := range []float64{s.Bottom.MM(), s.Top.MM()} {
			wide = append(wide, point{s.X.MM(), z}, point{(s.X + s.Size.W).MM(), z})
			high = append(high, point{s.Y.MM(), z}, point{(s.Y + s.Size.H).MM(), z})
		}
	}
	return length.Size{W: length.FromMM(girth(wide) / 2), H: length.FromMM(girth(high) / 2)}
}

// point is a place in a cross-section, mm along the card and above the table.
type point struct{ x, z float64 }

// girth is the length of a band drawn tight round points: the perimeter of their convex
// hull, by Andrew's monotone chain.
func girth(of []point) (sum float64) {
	slices.SortFunc(of, func(a, b point) int { return cmp.Or(cmp.Compare(a.x, b.x), cmp.Compare(a.z, b.z)) })
	for range 2 { // once along the bottom, once back along the top
		var chain []point
		for _, p := range of {
			for len(chain) > 1 && !leftTurn(chain[len(chain)-2], chain[len(chain)-1], p) {
				chain = chain[:len(chain)-1]
			}
			chain = append(chain, p)
		}
		for i := range len(chain) - 1 {
			sum += math.Hypot(chain[i+1].x-chain[i].x, chain[i+1].z-chain[i].z)
		}
		slices.Reverse(of)
	}
	return sum
}

func leftTurn(a, b, c point) bool { return (b.x-a.x)*(c.z-a.z)-(b.z-a.z)*(c.x-a.x) > 0 }
