package card

import (
	"chromaqua/core/length"
	"chromaqua/core/nest"
)

// solveDies solves the rings with the nearest die for each that is cut by one,
// from the outside in. A die cuts its size whatever margin was asked for, so
// margins round and within it give way where they must. asked holds what the
// rings would measure without their dies.
func solveDies(rings []nest.Ring, kept []sized, mark length.Length) (found []nest.Found, asked []length.Size, err error) {
	asked = make([]length.Size, len(rings))
	for i, k := range kept {
		if k.die == nil {
			continue
		}
		if found, err = nest.Solve(rings, mark); err != nil {
			return nil, nil, err
		}
		asked[i] = found[i].Size
		within := length.Size{W: length.Max, H: length.Max}
		if i > 0 {
			within = found[i-1].Size
		}
		rings[i].Size = k.die.Nearest(asked[i], within)
		if _, err = nest.Solve(rings, mark); err != nil && i > 0 {
			rings[i-1].Margin = nest.Margin{}
		}
		if _, err = nest.Solve(rings, mark); err != nil {
			rings[i].Margin = nest.Margin{}
		}
		if _, err = nest.Solve(rings, mark); err != nil && i > 0 {
			rings[i-1].Margin = centred(within, rings[i].Size)
		}
	}
	found, err = nest.Solve(rings, mark)
	return found, asked, err
}

// centred is the margin of outer round inner in its middle; negative where inner
// overhangs.
func centred(outer, inner length.Size) nest.Margin {
	w, h := outer.W-inner.W, outer.H-inner.H
	left, top := w/2, h/2
	right, bottom := w-left, h-top
	return nest.Margin{Left: &left, Right: &right, Top: &top, Bottom: &bottom}
}

// Nearest returns the die that comes nearest to a size, either way round. Dies
// that stay within a limit are preferred.
func (d *DieSet) Nearest(size, within length.Size) length.Size {
	off := func(s length.Size) length.Length {
		o := max(s.W-size.W, size.W-s.W) + max(s.H-size.H, size.H-s.H)
		if s.W > within.W || s.H > within.H {
			o += 2 * length.Max
		}
		return o
	}
	best := d.Sizes[0]
	for _, s := range d.Sizes {
		for _, way := range []length.Size{s, s.Turned()} {
			if off(way) < off(best) {
				best = way
			}
		}
	}
	return best
}

// DieSet is a nest of dies by the sizes they cut.
type DieSet struct {
	Name  string        `json:"name"`
	Edge  Edge          `json:"edge"`
	Sizes []length.Size `json:"sizes"`
}

// Edge is the shape of what a die cuts.
type Edge string

// The edges.
const (
	Plain   Edge = "plain"
	Deckle  Edge = "deckle"
	Scallop Edge = "scallop"
)

// Edges lists them in the order they are offered.
func Edges() []Edge { return []Edge{Plain, Deckle, Scallop} }
