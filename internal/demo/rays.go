package demo

import (
	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// rays is a card of several pieces and inks: corals in a soft line on water that no line
// bounds, rays embossed, painted in two coats and cut out, and a strip aged before it is
// stamped.
var rays = sample{
	name: "Rays over the reef",
	set:  all(format("a2", fold.Left), softLine, notes("For the divers. The rays are glued by their bodies only, so that their wings lift.")),
	work: work{
		drawing: "coral", down: 20,
		areas: []area{
			{"Corals, warm", [][2]float64{{28.8, 44}, {50.7, 53.8}, {13.7, 65.9}, {54.7, 24}, {10.8, 49.6}}, []card.Wash{
				wash(flat, tea, of(2, "PO62"), of(1, "PV19")), wash(glaze, tea, of(1, "PV19"))}},
			{"Corals, pale", [][2]float64{{42.8, 46.8}, {19.3, 53.8}, {56.3, 65.9}, {16, 27.4}, {60, 46.8}}, []card.Wash{
				wash(flat, weakTea, of(2, "PY150"), of(1, "PO62")), wash(pullOut, tea, of(1, "PO62"))}},
			{"Rock", [][2]float64{{35, 78}}, []card.Wash{wash(flat, tea, of(1, "PB29"), of(1, "PBr7"))}},
			{"Limpets on it", [][2]float64{{24, 77}, {34, 74}, {44, 76.5}}, []card.Wash{wash(flat, weakTea, of(1, "PY150"))}},
		},
		last: openWater,
	},
	pieces: []piece{
		{
			kind: card.CutOutPiece, name: "ray", along: true,
			set: func(p *card.Piece) {
				p.Count, p.Ink = 2, "embossed"
				p.Place.By, p.Place.At = joint.Body, card.At{X: -length.FromMM(19), Y: -length.FromMM(40), Turn: -14}
				p.Place.More = []card.At{{X: length.FromMM(20), Y: -length.FromMM(14), Turn: 12}}
			},
			work: work{
				drawing: "ray", wide: 44,
				areas: []area{
					{"Wings", [][2]float64{{10, 23}}, []card.Wash{wash(flat, tea, of(2, "PB29"), of(1, "PV23")), wash(glaze, milk, of(1, "PB29"))}},
					{"Back", [][2]float64{{29, 29}}, []card.Wash{wash(flat, weakTea, of(1, "PB29"), of(1, "PBr7"))}},
					{"Markings", [][2]float64{{15, 22}, {43, 22}, {24, 6}, {34, 6}}, []card.Wash{wash(flat, tea, of(1, "PG7"))}},
					{"Eyes", [][2]float64{{26.6, 16}, {31.4, 16}}, []card.Wash{wash(flat, weakTea, of(1, "PY150"))}},
					{"Tail", [][2]float64{{29.4, 42}}, []card.Wash{wash(flat, milk, of(1, "PB29"))}},
				},
			},
		},
		{
			kind: card.WordStrip, name: "tide strip",
			set: func(p *card.Piece) {
				p.Paper = "cotton-hp"
				p.Size = length.Size{W: 3 * length.Inch, H: length.Inch}
				p.Place.Y = length.FromMM(46)
			},
			work: work{drawing: "wave-border", wide: 70, last: agedGround},
		},
	},
}

// softLine is drawn in a grey that stays quiet under paint.
func softLine(c *card.Card) { c.Ink, c.Look = "permanent", shelf.Soft }

// openWater is water round the corals, wetted first and let go pale towards the top.
func openWater(c *card.Card) error {
	return zone(c, "Open water", card.Zone{Shape: card.All, Water: true, Round: true},
		wash(technique.Graded, tea, of(2, "PB15:3"), of(1, "PG7")))
}

// agedGround is a brown wash that the waves are stamped over once it is dry.
func agedGround(c *card.Card) error {
	if err := zone(c, "Aged ground", card.Zone{Shape: card.All}, wash(flat, weakTea, of(1, "PBr7"))); err != nil {
		return err
	}
	return c.Put(card.Ref(c.Images[0].ID), card.Ref(c.Areas[len(c.Areas)-1].ID), true)
}

func zone(c *card.Card, name string, z card.Zone, washes ...card.Wash) error {
	id, err := c.AddZone(z, c.PanelSize().W.MM())
	if err != nil {
		return err
	}
	a, err := c.AreaByID(c.AddArea(name))
	if err != nil {
		return err
	}
	a.Lies, a.Zones, a.Washes = true, []string{id}, washes
	return nil
}
