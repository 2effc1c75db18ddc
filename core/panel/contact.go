package panel

import (
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/lineart"
)

// A Contact is a pair of cells that touch across the line. A raised line holds wet
// paint apart like a little wall, unless it has a gap or was mended with the pen.
type Contact struct {
	A, B   int // cell ids
	Raised bool
}

// Contacts lists every pair of cells in contact, also inside one area, and the pieces of
// zones in contact with each other and with cells.
func (b *Board) Contacts() []Contact {
	out := b.cellContacts()
	if b.overlay != nil {
		out = append(out, b.overlay.near...)
	}
	return out
}

// raised are the images whose line is raised, and not put over paint, which then meets
// as if it were not there.
func (b *Board) raised() (out images) {
	for i := range b.Card.Images {
		m := &b.Card.Images[i]
		if m.Inked() && b.Card.InkOf(m).Raises() && !b.Card.Late(m.ID) {
			out |= 1 << i
		}
	}
	return out
}

func (b *Board) cellContacts() []Contact {
	raised := b.raised()
	var breached map[[2]int]bool
	if raised != 0 {
		breached = b.breached()
	}
	out := make([]Contact, 0, len(b.Neighbours))
	for _, n := range b.Neighbours {
		out = append(out, Contact{A: n.A, B: n.B, Raised: b.raises(n.A, n.B, raised) && !breached[[2]int{n.A, n.B}] && !breached[[2]int{n.B, n.A}]})
	}
	return out
}

// TouchesItself reports whether cells of an area touch each other across a line that
// is not raised.
func (b *Board) TouchesItself(area int) bool {
	return slices.ContainsFunc(b.cellContacts(), func(t Contact) bool {
		return !t.Raised && b.owner[t.A-1] == area+1 && b.owner[t.B-1] == area+1
	})
}

// breached are the pairs of cells between which a raised line is not whole: it has a
// gap, or a stroke of the pen lies flat between them.
func (b *Board) breached() map[[2]int]bool {
	const step, beside = 0.3, card.PenMM/2 + 0.6 // mm
	out := map[[2]int]bool{}
	for _, k := range b.Leaks {
		out[[2]int{k.A, k.B}] = true
	}
	for _, m := range b.Marks() {
		if m.Kind != card.Pen {
			continue
		}
		for i, q := range m.At[1:] {
			p := m.At[i]
			long := math.Hypot(q.X-p.X, q.Y-p.Y)
			if long == 0 {
				continue
			}
			x, y := (q.X-p.X)/long, (q.Y-p.Y)/long
			for t := 0.0; t <= long; t += step {
				at := lineart.Point{X: p.X + t*x, Y: p.Y + t*y}
				a := b.At(lineart.Point{X: at.X - beside*y, Y: at.Y + beside*x})
				c := b.At(lineart.Point{X: at.X + beside*y, Y: at.Y - beside*x})
				if a != c && a > 0 && c > 0 {
					out[[2]int{a, c}] = true
				}
			}
		}
	}
	return out
}

// tightMM is the radius of curvature below which a brush is led slowly.
const tightMM = 3.0

// tightLength is how much of an outline is curved more tightly than that, mm.
func tightLength(o lineart.Outline) (mm float64) {
	const step, reach = 0.5, 1.5 // mm
	for _, ring := range o.Rings {
		at := resampled(ring, step)
		n, k := len(at), int(reach/step)
		if n < 2*k+1 { // a ring so small is tight all round
			mm += float64(n) * step
			continue
		}
		for i, p := range at {
			a, b := at[(i+n-k)%n], at[(i+k)%n]
			turn := math.Atan2(b.Y-p.Y, b.X-p.X) - math.Atan2(p.Y-a.Y, p.X-a.X)
			if math.Abs(math.Remainder(turn, 2*math.Pi)) > reach/tightMM {
				mm += step
			}
		}
	}
	return mm
}

// resampled is a ring with a point every step along it.
func resampled(ring []lineart.Point, step float64) (out []lineart.Point) {
	left := 0.0
	for i, p := range ring {
		q := ring[(i+1)%len(ring)]
		long := math.Hypot(q.X-p.X, q.Y-p.Y)
		for left < long {
			t := left / long
			out = append(out, lineart.Point{X: p.X + t*(q.X-p.X), Y: p.Y + t*(q.Y-p.Y)})
			left += step
		}
		left -= long
	}
	return out
}
