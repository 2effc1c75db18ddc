// Package nest answers "if this is given, how large is the rest?" for sizes
// that lie within each other: the front of a card, the mats on it, the panel,
// and what is stamped on the panel. Whatever the maker gives stays; the other
// sizes and the margins between them follow. Width and height are worked out
// each for itself, exactly.
package nest

import (
	"errors"
	"fmt"

	"chromaqua/core/length"
)

// Margin is what is given of the margin of one ring round the next; a nil side
// follows. A negative side lets the inner ring overhang.
type Margin struct {
	Left   *length.Length `json:"left,omitempty"`
	Right  *length.Length `json:"right,omitempty"`
	Top    *length.Length `json:"top,omitempty"`
	Bottom *length.Length `json:"bottom,omitempty"`
}

// Even returns a margin given as the same all round.
func Even(l length.Length) Margin { return Margin{&l, &l, &l, &l} }

// Side names one side of a margin.
type Side string

// The sides.
const (
	Left   Side = "left"
	Right  Side = "right"
	Top    Side = "top"
	Bottom Side = "bottom"
)

// Of returns where a side is kept, nil when there is no such side.
func (m *Margin) Of(s Side) **length.Length {
	switch s {
	case Left:
		return &m.Left
	case Right:
		return &m.Right
	case Top:
		return &m.Top
	case Bottom:
		return &m.Bottom
	}
	return nil
}

// Ring is one of the sizes. Rings are listed from the outside in.
type Ring struct {
	Name   string        // in the maker's words, for errors: "front", "panel"
	Size   length.Size   // as given; a width or height of zero follows
	Margin Margin        // round the next ring in
	Usual  length.Length // a side of the margin when nothing says otherwise
	Yields bool          // its margin takes up what is left, before any other does
}

// Along is how long these sides of a rectangle are together; all four where none is named.
func Along(size length.Size, sides []Side) (sum length.Length) {
	if len(sides) == 0 {
		return 2 * (size.W + size.H)
	}
	for _, s := range sides {
		if s == Left || s == Right {
			sum += size.H
		} else {
			sum += size.W
		}
	}
	return sum
}

// Sides are the four sides of a margin, worked out.
type Sides struct{ Left, Right, Top, Bottom length.Length }

// Even reports whether all four sides are alike to the eye: what puts sizes on marks
// makes them differ by a hair.
func (s Sides) Even() bool {
	const hair = length.Millimetre / 4
	return max(s.Left, s.Right, s.Top, s.Bottom)-min(s.Left, s.Right, s.Top, s.Bottom) <= hair
}

// Of returns a side, 0 when there is no such side.
func (s Sides) Of(side Side) length.Length {
	return map[Side]length.Length{Left: s.Left, Right: s.Right, Top: s.Top, Bottom: s.Bottom}[side]
}

// Found is a ring worked out.
type Found struct {
	Size   length.Size
	Margin Sides // round the next ring in; zero for the innermost
	WFrom  []int // the given rings its width follows from; empty when it is given
	HFrom  []int
}

// Fight is an error: two things that are given cannot both hold.
type Fight struct {
	Across       string // "wide" or "high"
	Outer, Inner string // names of the rings
	OuterSize    length.Length
	InnerSize    length.Length // 0 when the inner ring is not given
	Between      length.Length // the margins given between them, both sides
	Free         bool          // some margin between them could give way
}

func (f *Fight) Error() string { return f.With(length.Inches) }

// With words the fight in unit u, with what to do about it.
func (f *Fight) With(u length.Unit) string {
	switch {
	case f.InnerSize == 0:
		return fmt.Sprintf("the %s is %s %s, and what is to show round the %s takes %s of it: nothing is left. Make the margins narrower or the %s larger",
			f.Outer, f.OuterSize.With(u), f.Across, f.Inner, f.Between.With(u), f.Outer)
	case f.Free && f.InnerSize > f.OuterSize:
		return fmt.Sprintf("the %s and the %s fight: the %s is %s %s, the %s on it %s. Change one, let one of them follow, or give a negative margin if it is to overhang and be trimmed flush",
			f.Outer, f.Inner, f.Outer, f.OuterSize.With(u), f.Across, f.Inner, f.InnerSize.With(u))
	}
	return fmt.Sprintf("the %s and the %s fight: the %s is %s %s, the %s %s, and the margins given between them come to %s where %s is left. Let one of the sizes or a margin follow",
		f.Outer, f.Inner, f.Outer, f.OuterSize.With(u), f.Across, f.Inner, f.InnerSize.With(u), f.Between.With(u), (f.OuterSize - f.InnerSize).With(u))
}

// ErrNothingGiven means that no ring has a size to start from.
var ErrNothingGiven = errors.New("one size has to be given for the others to follow from: the front, an envelope, a mat, the panel or the stamp")

// Solve works all rings out. Between two given sizes, margins take their usual
// width and the one that yields takes the rest; when that is not enough they
// share what there is. Outside the given sizes, margins take their usual width.
// A size that merely follows lands on a mark of the ruler where the margins on both
// sides of it may give way for that; with a mark of 0 it is exact.
// The error is a [*Fight] or [ErrNothingGiven].
func Solve(rings []Ring, mark length.Length) ([]Found, error) {
	out := make([]Found, len(rings))
	w, err := solve(rings, mark, "wide", func(r Ring) (length.Length, *length.Length, *length.Length) {
		return r.Size.W, r.Margin.Left, r.Margin.Right
	})
	if err != nil {
		return nil, err
	}
	h, err := solve(rings, mark, "high", func(r Ring) (length.Length, *length.Length, *length.Length) {
		return r.Size.H, r.Margin.Top, r.Margin.Bottom
	})
	if err != nil {
		return nil, err
	}
	for i := range out {
		out[i] = Found{
			Size:   length.Size{W: w[i].size, H: h[i].size},
			Margin: Sides{w[i].near, w[i].far, h[i].near, h[i].far},
			WFrom:  w[i].from, HFrom: h[i].from,
		}
	}
	return out, nil
}

// along is a ring on one axis; near and far are the sides of its margin.
type along struct {
	size, near, far length.Length
	from            []int
}

func solve(rings []Ring, mark length.Length, across string, of func(Ring) (size length.Length, near, far *length.Length)) ([]along, error) {
	a := &axis{rings: rings, mark: mark, across: across, found: make([]along, len(rings)), free: make([][]*length.Length, len(rings))}
	var given []int
	for i, r := range rings {
		size, near, far := of(r)
		if a.found[i].size = size; size != 0 {
			given = append(given, i)
		}
		for _, side := range []struct{ asked, to *length.Length }{{near, &a.found[i].near}, {far, &a.found[i].far}} {
			if side.asked != nil {
				*side.to = *side.asked
			} else if i < len(rings)-1 {
				a.free[i] = append(a.free[i], side.to)
			}
		}
	}
	if len(given) == 0 {
		return nil, ErrNothingGiven
	}
	last := len(rings) - 1
	for i := given[0] - 1; i >= 0; i-- {
		a.usual(i, i+1)
		a.found[i].size = a.found[i+1].size + a.found[i].near + a.found[i].far
		a.found[i].from = given[:1]
		if on := a.toMark(a.found[i].size); len(a.free[i]) == 2 && (on >= a.found[i+1].size) == (a.found[i].size >= a.found[i+1].size) {
			a.grow(i, on-a.found[i].size)
			a.found[i].size = on
		}
	}
	for k, i := range given[:len(given)-1] {
		if err := a.between(i, given[k+1]); err != nil {
			return nil, err
		}
		if err := a.inwards(i, given[k+1], given[k:k+2]); err != nil {
			return nil, err
		}
	}
	inner := given[len(given)-1]
	a.usual(inner, last)
	if err := a.inwards(inner, last+1, given[len(given)-1:]); err != nil {
		return nil, err
	}
	if last >= 0 { // nothing lies within the innermost
		a.found[last].near, a.found[last].far = 0, 0
	}
	return a.found, nil
}

// axis is one axis on its way to being worked out.
type axis struct {
	rings  []Ring
	mark   length.Length
	across string
	found  []along
	free   [][]*length.Length // sides of each ring's margin that nothing gives
}

// toMark is the nearest mark of the ruler.
func (a *axis) toMark(l length.Length) length.Length {
	if a.mark == 0 {
		return l
	}
	return (l + a.mark/2) / a.mark * a.mark
}

// settleInwards puts ring i on a mark, unless it would then overhang what it did not.
// The margin round it takes up what that makes, and where ring to holds the inside, so
// does its own.
func (a *axis) settleInwards(i, to int) {
	was, on, outer := a.found[i].size, a.toMark(a.found[i].size), a.found[i-1].size
	if on <= 0 || len(a.free[i-1]) < 2 || (on <= outer) != (was <= outer) {
		return
	}
	if to < len(a.rings) {
		if len(a.free[i]) < 2 {
			return
		}
		if i+1 == to {
			if inner := a.found[to].size; (on >= inner) != (was >= inner) {
				return
			}
		}
		a.grow(i, on-was)
	}
	a.grow(i-1, was-on)
	a.found[i].size = on
}

// grow makes the margin of ring m so much wider, half on either side.
func (a *axis) grow(m int, by length.Length) {
	a.found[m].near += by / 2
	a.found[m].far += by - by/2
}

// usual gives the free margins of rings from up to to their usual width.
func (a *axis) usual(from, to int) {
	for i := from; i < to; i++ {
		for _, side := range a.free[i] {
			*side = a.rings[i].Usual
		}
	}
}

// inwards works out the rings between from and to from the outer one.
func (a *axis) inwards(from, to int, follows []int) error {
	for i := from + 1; i < to; i++ {
		outer := a.found[i-1]
		a.found[i].size = outer.size - outer.near - outer.far
		a.found[i].from = follows
		if a.found[i].size <= 0 {
			return &Fight{Across: a.across, Outer: a.rings[i-1].Name, OuterSize: outer.size, Inner: a.rings[i].Name, Between: outer.near + outer.far}
		}
		a.settleInwards(i, to)
	}
	return nil
}

// between fills the margins between two given rings.
func (a *axis) between(from, to int) error {
	a.usual(from, to)
	var all, yielding []*length.Length
	for i := from; i < to; i++ {
		all = append(all, a.free[i]...)
		if len(a.free[i]) > 0 && (yielding == nil || a.rings[i].Yields) {
			yielding = a.free[i]
		}
	}
	sum := length.Length(0)
	for i := from; i < to; i++ {
		sum += a.found[i].near + a.found[i].far
	}
	missing := a.found[from].size - a.found[to].size - sum
	fight := &Fight{
		Across: a.across, Outer: a.rings[from].Name, OuterSize: a.found[from].size,
		Inner: a.rings[to].Name, InnerSize: a.found[to].size, Between: sum, Free: len(all) > 0,
	}
	if missing == 0 {
		return nil
	}
	if len(all) == 0 {
		return fight
	}
	now := length.Length(0)
	for _, side := range yielding {
		now += *side
	}
	if now+missing >= 0 {
		share(yielding, now+missing)
		return nil
	}
	now = 0
	for _, side := range all {
		now += *side
	}
	if now+missing < 0 {
		fight.Between = sum - now
		return fight
	}
	share(all, now+missing)
	return nil
}

// share deals a length out evenly; what does not divide goes to the last.
func share(sides []*length.Length, l length.Length) {
	n := length.Length(len(sides))
	for _, side := range sides {
		*side = l / n
	}
	*sides[len(sides)-1] += l % n
}
