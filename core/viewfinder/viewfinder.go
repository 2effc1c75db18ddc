// Package viewfinder answers "where do I cut the panel out of the painted
// sheet?" for a window of the panel's size, moved and turned over the sheet.
package viewfinder

import (
	"math"

	"chromaqua/core/length"
)

// Window lies over a sheet: its size, its middle from the sheet's top left
// corner, and its turn in degrees, clockwise.
type Window struct {
	Size length.Size
	X, Y length.Length
	Turn float64
}

// Point is a place on the sheet, mm from its top left corner.
type Point struct{ X, Y float64 }

// Corners returns the window's corners, clockwise from its own top left.
func (w Window) Corners() [4]Point {
	sin, cos := math.Sincos(w.Turn * math.Pi / 180)
	var out [4]Point
	for i, s := range [4][2]float64{{-1, -1}, {1, -1}, {1, 1}, {-1, 1}} {
		x, y := s[0]*w.Size.W.MM()/2, s[1]*w.Size.H.MM()/2
		out[i] = Point{w.X.MM() + x*cos - y*sin, w.Y.MM() + x*sin + y*cos}
	}
	return out
}

// Overhang is how far the window reaches over the sheet's edges, 0 when it lies
// within.
func (w Window) Overhang(sheet length.Size) length.Length {
	over := 0.0
	for _, p := range w.Corners() {
		over = max(over, -p.X, -p.Y, p.X-sheet.W.MM(), p.Y-sheet.H.MM())
	}
	if over < 1e-6 { // a nanometre; turning is not exact
		return 0
	}
	return length.FromMM(over)
}

// A Mark is made on an edge of the sheet, to lay the ruler to.
type Mark struct {
	Edge string        // "top", "right", "bottom", "left"
	At   length.Length // from the left end of the top or bottom edge, from the upper end of the others
	Point
}

// A Cut runs right across the sheet, from mark to mark, along one side of the
// window.
type Cut struct {
	Side string // of the window: "top", "right", "bottom", "left"
	From Mark
	To   Mark
}

// Cuts returns the four cuts that free the window, the two longest first, so
// that the ruler lies on as much paper as it can. They are to be marked on the
// whole sheet before the first is made. The window's middle must lie on the
// sheet.
func (w Window) Cuts(sheet length.Size) []Cut {
	c := w.Corners()
	var out []Cut
	for i, side := range []string{"top", "right", "bottom", "left"} {
		a, b := c[i], c[(i+1)%4]
		if from, to, ok := across(sheet, a, b); ok {
			out = append(out, Cut{side, from, to})
		}
	}
	if len(out) == 4 && out[1].long()+out[3].long() > out[0].long()+out[2].long() {
		return []Cut{out[1], out[3], out[0], out[2]}
	}
	if len(out) == 4 {
		return []Cut{out[0], out[2], out[1], out[3]}
	}
	return out
}

func (c Cut) long() float64 { return math.Hypot(c.To.X-c.From.X, c.To.Y-c.From.Y) }

// across returns where the line through a and b meets the edges of the sheet;
// ok is false when it does not cross it.
func across(sheet length.Size, a, b Point) (from, to Mark, ok bool) {
	w, h := sheet.W.MM(), sheet.H.MM()
	dx, dy := b.X-a.X, b.Y-a.Y
	first, last := math.Inf(-1), math.Inf(1)
	var enter, leave string
	clip := func(edge string, p, q float64) bool { // p·t ≤ q inside the edge
		const parallel = 1e-12
		switch {
		case math.Abs(p) < parallel:
			return q >= -1e-9
		case p < 0:
			if t := q / p; t > first {
				first, enter = t, edge
			}
		default:
			if t := q / p; t < last {
				last, leave = t, edge
			}
		}
		return true
	}
	if !clip("left", -dx, a.X) || !clip("right", dx, w-a.X) || !clip("top", -dy, a.Y) || !clip("bottom", dy, h-a.Y) || first >= last {
		return from, to, false
	}
	mark := func(edge string, t float64) Mark {
		p := Point{min(w, max(0, a.X+t*dx)), min(h, max(0, a.Y+t*dy))}
		m := Mark{Edge: edge, At: length.FromMM(p.Y), Point: p}
		if edge == "top" || edge == "bottom" {
			m.At = length.FromMM(p.X)
		}
		return m
	}
	return mark(enter, first), mark(leave, last), true
}
