package jobs

import (
	"chromaqua/core/card"
	"chromaqua/core/mask"
)

// keep keeps a zone in some way from areas; its points are mm on the piece, x and y in turn.
func (s *Studio) keep(name string, way mask.Way, z card.Zone, at []float64, from ...string) {
	c := s.Card
	wide := c.PanelSize().W.MM()
	for i := 0; i+1 < len(at); i += 2 {
		z.Points = append(z.Points, card.UV{U: at[i] / wide, V: at[i+1] / wide})
	}
	id, err := c.AddZone(z, wide)
	must(err)
	_, err = c.AddReserve(card.Reserve{Name: name, Way: way, Zones: []string{id}, From: from})
	must(err)
}
