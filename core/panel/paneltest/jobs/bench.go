package jobs

import (
	"fmt"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
)

// Spread is the same content on so many pieces: ten drawings of six areas each, on panels
// that measure as much together.
func Spread(pieces int) *Studio {
	s := &Studio{Card: card.New("Spread", length.Millimetres), Files: map[string][]byte{}}
	const across, high = 60.0, 50.0
	rows := 10 / pieces
	size := length.Size{W: length.FromMM(across), H: length.FromMM(high * float64(rows))}
	must(s.Card.StartFrom(card.PanelRing, size))
	ids := []string{card.ThePanel}
	for len(ids) < pieces {
		ids = append(ids, s.piece(card.SecondPanel, fmt.Sprintf("Panel %d", len(ids)+1), func(p *card.Piece) { p.Size = size }))
	}
	for _, id := range ids {
		s.on(id, func(c *card.Card) {
			for i := range rows {
				m := s.lay(c, grid(fmt.Sprintf("Grid %s %d", id, i), 6, 2), shelf.LineImage, 4, 4+high*float64(i), nil)
				for k := range 6 {
					area(c, fmt.Sprintf("Area %d", k+1), m, []float64{4.5 + 8*float64(k), 4.5, 4.5 + 8*float64(k), 12.5}, wash("PB29", pigment.Tea, card.Flat))
				}
			}
		})
	}
	return s
}

// Grid is a card with one drawing of so many cells, each column an area.
func Grid(columns, rows int) *Studio {
	s := &Studio{Card: card.New("Grid", length.Millimetres), Files: map[string][]byte{}}
	must(s.Card.StartFrom(card.PanelRing, length.Size{W: length.FromMM(8*float64(columns) + 6), H: length.FromMM(8*float64(rows) + 6)}))
	m := s.lay(s.Card, grid("Grid", columns, rows), shelf.LineImage, 2, 2, nil)
	for k := range columns {
		var at []float64
		for i := range rows {
			at = append(at, 4.5+8*float64(k), 4.5+8*float64(i))
		}
		area(s.Card, fmt.Sprintf("Column %d", k+1), m, at, wash("PB29", pigment.Tea, card.Flat))
	}
	return s
}

// Zone draws a zone on a card and makes an area of it, x and y of its points in turn, mm.
func Zone(c *card.Card, name string, z card.Zone, at []float64, washes ...card.Wash) {
	zone(c, name, z, at, washes...)
}

// grid draws columns × rows cells, 8 mm wide.
func grid(name string, columns, rows int) *Sketch {
	s := sketch(name, 8*float64(columns)+2, 8*float64(rows)+2)
	for i := range columns + 1 {
		s.line(0.5+8*float64(i), 0.5, 0.5+8*float64(i), 0.5+8*float64(rows))
	}
	for i := range rows + 1 {
		s.line(0.5, 0.5+8*float64(i), 0.5+8*float64(columns), 0.5+8*float64(i))
	}
	return s
}
