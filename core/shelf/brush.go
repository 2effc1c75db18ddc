package shelf

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"chromaqua/core/length"
)

// A Brush is a brush by the width of its belly.
type Brush struct {
	Name       string
	Flat       bool
	Belly      float64 // mm
	Point      float64 // mm
	CapacityML float64 // water a loaded brush gives off, millilitres
}

// Brushes lists plausible round brushes, smallest first, and one flat. Numbers
// differ between makers; the belly width is what counts.
func Brushes() []Brush {
	return []Brush{
		{"round 0 (1.5 mm)", false, 1.5, 0.15, 0.01},
		{"round 2 (2.5 mm)", false, 2.5, 0.2, 0.04},
		{"round 4 (3.5 mm)", false, 3.5, 0.25, 0.10},
		{"round 6 (5 mm)", false, 5, 0.3, 0.25},
		{"round 8 (6.5 mm)", false, 6.5, 0.4, 0.45},
		{"flat 3/4 in (19 mm)", true, 19, 2, 1.2},
	}
}

// What a brush of the maker's is like.
const (
	RoundBrush = "round"
	FlatBrush  = "flat"
)

// The widest belly, and the narrowest.
const (
	leastBelly = length.Millimetre / 2
	mostBelly  = 150 * length.Millimetre
)

func (o Own) checkBrush() error {
	switch {
	case o.Like != RoundBrush && o.Like != FlatBrush:
		return fmt.Errorf("the brush %q is round or flat, not %.20q", o.Name, o.Like)
	case o.Belly < leastBelly || o.Belly > mostBelly:
		return fmt.Errorf("measure the belly of %q, loaded, where it is widest: %s to %s", o.Name, leastBelly.With(length.Millimetres), mostBelly.With(length.Millimetres))
	}
	return nil
}

// Brush is what is known of a brush of the maker's by its belly. The point of a round
// and the water a brush holds follow from that, as they do among the general ones: a
// point about a twentieth of the belly and a little more, water by the cube of it.
func (o Own) Brush() Brush {
	belly := o.Belly.MM()
	b := Brush{Name: fmt.Sprintf("%s (%.3g mm)", o.Name, belly), Belly: belly, Point: 0.09 + 0.047*belly, CapacityML: max(0.005, 0.002*math.Pow(belly, 3))}
	if o.Like == FlatBrush {
		b.Flat, b.Point, b.CapacityML = true, belly/9.5, 0.063*belly
	}
	b.CapacityML = min(b.CapacityML, 20)
	return b
}

// BrushesOf are the brushes at hand, narrowest first: the maker's own where there are
// any round ones, since those are what is used, else the general ones as well.
func BrushesOf(own []Own) []Brush {
	var out []Brush
	round := false
	for _, o := range own {
		if o.What == OwnBrush {
			out = append(out, o.Brush())
			round = round || o.Like == RoundBrush
		}
	}
	if !round {
		out = append(out, Brushes()...)
	}
	slices.SortStableFunc(out, func(a, b Brush) int { return cmp.Compare(a.Belly, b.Belly) })
	return out
}
