package demo

import (
	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/mask"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// kelp is a card of two washes with a pattern between them: the pale one is kept under clear
// embossing while the dark one goes over it.
var kelp = sample{
	name: "Kelp, kept pale",
	set: all(format("a2", fold.Left), notes("Pale wash, clear kelp over it, dark wash over all."),
		func(c *card.Card) { c.Copies = 2 }),
	work: work{drawing: "kelp-pattern", last: paleKelp},
}

// paleKelp lays a pale wash and a dark one, and keeps the kelp from the second.
func paleKelp(c *card.Card) error {
	pattern := &c.Images[0]
	pattern.Kind = shelf.ResistImage
	if err := zone(c, "Pale water", card.Zone{Shape: card.All}, wash(technique.Graded, weakTea, of(2, "PG7"), of(1, "PY150"))); err != nil {
		return err
	}
	pale := card.Ref(c.Areas[len(c.Areas)-1].ID)
	if err := zone(c, "Deep water", card.Zone{Shape: card.All}, wash(flat, milk, of(3, "PB15:3"), of(1, "PG7"))); err != nil {
		return err
	}
	r := card.Reserve{Name: "Kelp", Way: mask.Resist, Under: pale, From: []string{c.Areas[len(c.Areas)-1].ID}}
	for _, p := range [][2]float64{{15.6, 61}, {32.8, 61}, {58, 61}, {78.2, 61}} { // on each stem
		r.Cells = append(r.Cells, card.Spot{On: pattern.ID, UV: card.UV{U: p[0] / pattern.Width.MM(), V: p[1] / pattern.Width.MM()}, MM2: 300})
	}
	_, err := c.AddReserve(r)
	return err
}

// snowed keeps snow white on the night round the lantern, by a mask pen, and a sill below
// it, by tape.
func snowed(c *card.Card) error {
	wide := c.PanelSize().W.MM()
	night := c.Areas[0].ID
	var zones []string
	for size, at := range [][][2]float64{
		{{9, 9}, {22, 20}, {12, 33}, {7, 52}, {20, 47}, {10, 71}, {19, 84}, {85, 12}, {93, 29}, {80, 24}, {88, 47}, {94, 62}, {84, 70}, {91, 84}, {50, 6}, {38, 12}, {64, 9}},
		{{15, 15}, {6, 24}, {18, 60}, {8, 88}, {90, 20}, {82, 38}, {95, 75}, {72, 14}, {30, 7}},
		{{10, 43}, {86, 56}, {24, 12}, {78, 8}, {14, 78}},
	} {
		z := card.Zone{Shape: card.DotsAt, Width: length.Length(4+4*size) * length.Millimetre / 5}
		for _, p := range at {
			z.Points = append(z.Points, card.UV{U: p[0] / wide, V: p[1] / wide})
		}
		id, err := c.AddZone(z, wide)
		if err != nil {
			return err
		}
		zones = append(zones, id)
	}
	if _, err := c.AddReserve(card.Reserve{Name: "Snow", Way: mask.Pen, Zones: zones, From: []string{night}}); err != nil {
		return err
	}
	if err := zone(c, "Sill", band(c, card.Below, 113, false), wash(flat, tea, of(2, "PBr7"), of(1, "PY42"))); err != nil {
		return err
	}
	sill := &c.Areas[len(c.Areas)-1]
	_, err := c.AddReserve(card.Reserve{Name: "Sill", Way: mask.Tape, Areas: []string{sill.ID}, From: []string{night}})
	return err
}
