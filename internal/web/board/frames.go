package board

import (
	"chromaqua/core/card"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/internal/desk"
)

// Frame is an image on the panel as it can be taken hold of.
type Frame struct {
	ID, Title, Href string
	Picked          bool
	X, Y, W, H      float64 // mm, its middle and its size unturned
	Turn            float64
	Mirror          bool
	Path            string // what it covers
}

// FramesOf lets the images be taken hold of.
func FramesOf(b *panel.Board, picked string) (out []Frame) {
	for i := range b.Card.Images {
		m := &b.Card.Images[i]
		w, h := m.Width.MM(), m.Height().MM()
		out = append(out, Frame{
			ID: m.ID, Title: m.Title, Href: "/images/" + m.Image, Picked: m.ID == picked,
			X: m.X.MM() + w/2, Y: m.Y.MM() + h/2, W: w, H: h, Turn: m.Turn, Mirror: m.Mirror, Path: coverPath(m, b.Laid[i].Silhouette),
		})
	}
	return out
}

// coverPath is the path of what an image covers; of its frame when there is only
// that.
func coverPath(m *card.Image, o lineart.Outline) string {
	if o.Rings == nil {
		corners := panel.Corners(m)
		o.Rings = [][]lineart.Point{corners[:]}
	}
	return desk.PathOf(o)
}

// Box is a place, mm.
type Box struct{ X, Y, W, H float64 }

// Line is a straight line, mm.
type Line struct{ X1, Y1, X2, Y2 float64 }

// At is the box of that corner and size.
func At(x, y, w, h float64) Box { return Box{x, y, w, h} }

// Between is the line from one point to the other.
func Between(x1, y1, x2, y2 float64) Line { return Line{x1, y1, x2, y2} }

// CX and CY are the middle of the box.
func (b Box) CX() float64 { return b.X + b.W/2 }
func (b Box) CY() float64 { return b.Y + b.H/2 }

// Right and Bottom are its far edges.
func (b Box) Right() float64  { return b.X + b.W }
func (b Box) Bottom() float64 { return b.Y + b.H }
