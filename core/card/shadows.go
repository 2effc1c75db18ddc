package card

import (
	"cmp"
	"fmt"
	"slices"
)

// MaxDarks bounds what is said of dark places on one piece, and of pairs of cells of which one
// lies in front.
const MaxDarks = 2000

// Shadows is where light comes from on a piece, and what the maker says of where its cells
// are dark. What nothing is said of is as the drawing proposes it, where that is sure.
type Shadows struct {
	Sun   Sun    `json:"sun,omitempty"`
	Quiet bool   `json:"quiet,omitempty"` // no proposal is taken but those that are said
	Darks []Dark `json:"darks,omitempty"`
	// What lies in front of what, where the maker knows better than the line.
	Fronts []Front `json:"fronts,omitempty"`
}

// Sun is where light comes from, one of eight places; from the upper left when empty.
type Sun string

// Suns are the places, clockwise from above.
func Suns() []Sun {
	return []Sun{"above", "upper right", "right", "lower right", "below", "lower left", "left", "upper left"}
}

// Or is the place, the usual one when none is said.
func (s Sun) Or() Sun {
	return cmp.Or(s, "upper left")
}

// Degrees is where the sun stands, clockwise from above.
func (s Sun) Degrees() float64 { return 45 * float64(max(0, slices.Index(Suns(), s.Or()))) }

// DarkKind is what is said of a cell's dark.
type DarkKind string

// The kinds.
const (
	Proposed DarkKind = "proposed" // it is where the drawing has it
	Moved    DarkKind = "moved"    // it is at a place of the maker's
	NoDark   DarkKind = "none"
)

// Dark is what is said of one cell.
type Dark struct {
	Cell Spot     `json:"cell"`
	Kind DarkKind `json:"kind"`
	At   UV       `json:"at,omitzero"` // of one that is moved, on the image of its cell
}

// Front is what is said of two cells that touch: the first lies in front of the other, or both
// are one surface, and no shadow falls between them.
type Front struct {
	Cell  Spot `json:"cell"`
	Other Spot `json:"other"`
	One   bool `json:"one,omitempty"`
}

// checkShadows reports what is wrong with what is said of shadows.
func (w *Work) checkShadows() error {
	s := &w.Shadows
	if s.Sun != "" && !slices.Contains(Suns(), s.Sun) {
		return fmt.Errorf("light cannot come from %q; use one of %v", string(s.Sun), Suns())
	}
	if n := max(len(s.Darks), len(s.Fronts)); n > MaxDarks {
		return fmt.Errorf("%d dark places, or pairs of which one lies in front, are more than %d; take some away", n, MaxDarks)
	}
	var spots []Spot
	for _, d := range s.Darks {
		if !slices.Contains([]DarkKind{Proposed, Moved, NoDark}, d.Kind) {
			return fmt.Errorf("%q is nothing that a dark can be; use proposed, moved or none", string(d.Kind))
		}
		spots = append(spots, d.Cell, Spot{On: d.Cell.On, UV: d.At, MM2: d.Cell.MM2})
	}
	for _, f := range s.Fronts {
		spots = append(spots, f.Cell, f.Other)
	}
	for _, at := range spots {
		if err := w.checkSpot(at); err != nil {
			return fmt.Errorf("a shadow points at %w", err)
		}
	}
	return nil
}
