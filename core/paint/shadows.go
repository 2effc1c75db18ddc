package paint

import (
	"fmt"
	"math"

	"chromaqua/core/card"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/shading"
)

// Shading is what the line of a piece tells of its darks, by the light of its card.
func Shading(b *panel.Board) *shading.Map {
	sun, said := b.Card.Shadows.Sun.Or(), fronts(b)
	return b.Remember(fmt.Sprint("shading from ", sun, said), func() any {
		sin, cos := math.Sincos(sun.Degrees() * math.Pi / 180)
		return shading.Find(b.Drawing, shading.Light{X: sin, Y: -cos}, said...)
	}).(*shading.Map)
}

// fronts is what the maker says of cells that touch.
func fronts(b *panel.Board) (said []shading.Order) {
	for _, f := range b.Card.Shadows.Fronts {
		o := shading.Order{Front: b.Pointed(f.Cell), Behind: b.Pointed(f.Other), Score: 1}
		if o.Front == 0 || o.Behind == 0 {
			continue // the line was changed
		}
		if f.One {
			o.Score = 0
		}
		said = append(said, o)
	}
	return said
}

// A Shadow is the dark of one cell, and what became of it.
type Shadow struct {
	shading.Shade
	Taken bool // it is painted
	Said  bool // the maker said so
}

// Shadows are the darks of a piece by cell: as the drawing proposes them, as far as they are
// sure, unless the maker says otherwise.
func Shadows(b *panel.Board) map[int]Shadow {
	m := Shading(b)
	out := map[int]Shadow{}
	for _, s := range m.Shades {
		if s.Cell != 0 {
			out[s.Cell] = Shadow{Shade: s, Taken: s.Confidence >= shading.Sure && !b.Card.Shadows.Quiet}
		}
	}
	for _, d := range b.Card.Shadows.Darks {
		id := b.Pointed(d.Cell)
		s, known := out[id]
		if !known {
			continue
		}
		s.Said, s.Taken = true, d.Kind != card.NoDark
		if d.Kind == card.Moved {
			s.Dark = b.PlaceOf(d.Cell.On, d.At)
			s.Reason, s.Confidence, s.Other = shading.Said, 1, 0
			c := b.Cells[id-1]
			s.Light = lineart.Point{X: 2*c.Label.X - s.Dark.X, Y: 2*c.Label.Y - s.Dark.Y}
			if b.At(s.Light) != id {
				s.Light = c.Label
			}
			s.LightR = 0.5 * c.InscribedMM
		}
		out[id] = s
	}
	return out
}

// darks are the darks that are painted, by cell.
func darks(b *panel.Board) map[uint16]Dark {
	out := map[uint16]Dark{}
	m := Shading(b)
	for id, s := range Shadows(b) {
		if !s.Taken {
			continue
		}
		if s.Reason != shading.Said {
			out[uint16(id)] = Dark{Key: fmt.Sprint("as drawn from ", b.Card.Shadows.Sun.Or(), fronts(b)), At: func(x, y float64) float32 { return float32(m.At(id, x, y)) }, Light: s.Light, LightR: s.LightR}
			continue
		}
		far := math.Hypot(s.Light.X-s.Dark.X, s.Light.Y-s.Dark.Y) + 0.5*b.Cells[id-1].InscribedMM
		out[uint16(id)] = Dark{
			Key:   fmt.Sprintf("at %.2f %.2f", s.Dark.X, s.Dark.Y),
			At:    func(x, y float64) float32 { return float32(clamp(1 - math.Hypot(x-s.Dark.X, y-s.Dark.Y)/far)) },
			Light: s.Light, LightR: s.LightR,
		}
	}
	return out
}
