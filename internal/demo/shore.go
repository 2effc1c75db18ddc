package demo

import (
	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// otter is a card whose colour comes out of its line: a sky that no line bounds, reeds
// watered on the stamp and printed wet, and the otter stamped again over its own colour.
var otter = sample{
	name: "Otter in the river",
	set: all(format("a2", fold.Left), notes("Pulled out of the line. Let the otter dry before it is stamped again."),
		func(c *card.Card) {
			c.Ink, c.Look = "blend", shelf.Pulled
			c.OwnInk = &shelf.Own{Name: "river pad", What: shelf.OwnInk, Like: "blend", Colour: "PBr7"}
		}),
	work: work{
		drawing: "otter", down: 26,
		behind: []behind{{drawing: "reeds", width: 34, x: 54, y: 14}, {drawing: "otter", width: 66}},
		areas: []area{
			{"Fur", [][2]float64{{33, 20}, {15, 9}, {56, 29}}, []card.Wash{{Technique: technique.LinePull}, wash(pullOut, weakTea, of(1, "PO62"))}},
			{"Paws and ear", [][2]float64{{25.2, 32.8}, {48.8, 31.5}, {19, 5.4}}, []card.Wash{{Technique: technique.LinePull}}},
			{"Muzzle and belly", [][2]float64{{10, 18}, {4.400, 18.500}, {33, 30.500}}, []card.Wash{wash(pullOut, weakTea, of(1, "PY42"))}},
			{"Eye", [][2]float64{{12.3, 11}}, []card.Wash{wash(pullOut, milk, of(1, "PBk7"))}},
			{"Reed heads", [][2]float64{{52.9, -16.8}, {64.7, -5.9}}, []card.Wash{wash(flat, milk, of(2, "PBr7"), of(1, "PY42"))}},
			{"Reed leaves", [][2]float64{{45.9, -0.2}, {53.1, 8.1}, {62, 13.1}}, []card.Wash{wash(flat, tea, of(1, "PG17"), of(1, "PY42"))}},
		},
		last: river,
	},
}

// river lays what is round the otter, and says how each image is put on.
func river(c *card.Card) error {
	first, reeds, again := c.Images[0].ID, &c.Images[1], &c.Images[2]
	again.X, again.Y = c.Images[0].X, c.Images[0].Y
	again.Title = "Otter, again"
	again.Medium = &card.Medium{Ink: "pigment-quick", Look: shelf.Crisp, Times: 1}
	reeds.Medium = &card.Medium{Watered: true, Bare: card.Wiped, Times: 1}
	reeds.Marks = []card.Mark{{Kind: card.Bare, Points: []card.UV{{U: 0, V: 1.55}, {U: 1, V: 1.55}, {U: 1, V: 1.73}, {U: 0, V: 1.73}}}}
	sky := band(c, card.Above, 64, true)
	sky.Round = false // the reeds go over it
	if err := zone(c, "Sky", sky, wash(technique.Graded, weakTea, of(1, "PB15:3"))); err != nil {
		return err
	}
	below := card.Ref(c.Areas[len(c.Areas)-1].ID)
	wide := c.PanelSize().W.MM()
	bank := card.Zone{Shape: card.Within, Round: true, Edge: card.SoftEdge, Points: []card.UV{{U: 0, V: 66 / wide}, {U: 0.35, V: 70 / wide}, {U: 1, V: 64 / wide}, {U: 1, V: 90 / wide}, {U: 0, V: 90 / wide}}}
	if err := zone(c, "Far bank", bank, wash(flat, weakTea, of(2, "PY42"), of(1, "PG17"))); err != nil {
		return err
	}
	if err := zone(c, "River", band(c, card.Below, 92, false), wash(flat, tea, of(2, "PB29"), of(1, "PB15:3"))); err != nil {
		return err
	}
	for _, over := range [][2]card.Ref{{card.Ref(reeds.ID), below}, {card.Ref(again.ID), card.Ref(c.Areas[0].ID)}, {card.Ref(again.ID), card.Ref(first)}} {
		if err := c.Put(over[0], over[1], true); err != nil {
			return err
		}
	}
	return nil
}

// band is a zone from edge to edge, above or below a line so many millimetres from the top,
// that goes round the drawing.
func band(c *card.Card, s card.Shape, y float64, airy bool) card.Zone {
	v := y / c.PanelSize().W.MM()
	z := card.Zone{Shape: s, Round: true, Points: []card.UV{{U: 0, V: v}, {U: 1, V: v}}}
	if airy {
		z.Water, z.Edge = true, card.SoftEdge
	}
	return z
}

// boathouse is a card of pen marks and words: two inks on one stamp, posts drawn freehand
// and wetted, far masts stamped off and put over the dry night, snow, and a word powdered
// over it all.
var boathouse = sample{
	name: "Snow on the boathouse",
	set: all(format("a2", fold.Left), notes("The posts are drawn with the field marker, and wetted."),
		func(c *card.Card) { c.Ink = "pigment-quick" }),
	work: work{
		drawing: "boathouse", wide: 70, down: 14,
		behind: []behind{{drawing: "masts", width: 24, x: 68, y: 44, ghost: 2}},
		areas: []area{
			{"Walls", [][2]float64{{20, 40}, {50, 40}, {18, 34.700}, {35, 27}}, []card.Wash{wash(flat, tea, of(1, "PR101"))}},
			{"Doors", [][2]float64{{31, 40}, {39, 40}}, []card.Wash{wash(flat, milk, of(1, "PB29"), of(1, "PG7"))}},
			{"Lit windows", [][2]float64{{35, 19.500}, {21, 31}, {49, 31}}, []card.Wash{wash(flat, tea, of(1, "PY150"))}},
			{"Snow on the roof", [][2]float64{{20, 18}, {50, 12}}, []card.Wash{wash(pullOut, weakTea, of(1, "PB29"))}},
			{"Deck", [][2]float64{{8, 48}, {18, 48}, {35, 48}, {52, 48}, {62, 48}}, []card.Wash{wash(flat, milk, of(2, "PBr7"), of(1, "PB29"))}},
		},
		last: winterNight,
	},
}

// winterNight lays what is round the boathouse, by hand and over it.
func winterNight(c *card.Card) error {
	house, masts := &c.Images[0], &c.Images[1]
	house.Medium = &card.Medium{Ink: "pigment-quick", Pads: []string{"permanent"}}
	wide := c.PanelSize().W.MM()
	if err := zone(c, "Night", band(c, card.Above, 96, true), wash(technique.Graded, milk, of(3, "PB29"), of(1, "PBk7"))); err != nil {
		return err
	}
	night := c.Areas[len(c.Areas)-1].ID
	posts := card.Zone{Shape: card.Along, Width: 3 * length.Millimetre / 2}
	for i, x := range []float64{22, 38, 58, 74} {
		if i > 0 {
			posts.Breaks = append(posts.Breaks, len(posts.Points))
		}
		posts.Points = append(posts.Points, card.UV{U: x / wide, V: 100 / wide}, card.UV{U: (x + 0.6) / wide, V: 112 / wide})
	}
	if err := zone(c, "Posts", posts, wash(technique.MarkerLine, tea, of(1, "PBk7"))); err != nil {
		return err
	}
	var around []card.UV
	for _, p := range [][2]float64{{16, 105}, {82, 105}, {86, 114}, {12, 114}} {
		around = append(around, card.UV{U: p[0] / wide, V: p[1] / wide})
	}
	if err := zone(c, "Water by the posts", card.Zone{Shape: card.Within, Edge: card.SoftEdge, Points: around}, wash(flat, weakTea, of(1, "PB29"))); err != nil {
		return err
	}
	snow := card.Zone{Shape: card.DotsAt, Width: 6 * length.Millimetre / 5}
	for _, p := range [][2]float64{{8, 12}, {21, 30}, {30, 9}, {44, 18}, {55, 34}, {63, 8}, {76, 20}, {88, 33}, {12, 48}, {34, 44}, {90, 10}, {84, 58}} {
		snow.Points = append(snow.Points, card.UV{U: p[0] / wide, V: p[1] / wide})
	}
	if err := zone(c, "Snow", snow, wash(technique.WhitePen, pigment.Paste, of(1, "PW6"))); err != nil {
		return err
	}
	if err := c.Put(card.Ref(masts.ID), card.Ref(night), true); err != nil {
		return err
	}
	c.AddAct(card.Handling{Kind: card.PutWords, Text: &card.Text{Text: "warm inside", By: card.TextPowder, Height: 6 * length.Millimetre, X: length.FromMM(wide / 2), Y: 120 * length.Millimetre}})
	id, err := c.AddPiece(card.WholeCard)
	if err != nil {
		return err
	}
	p, err := c.PieceByID(id)
	if err != nil {
		return err
	}
	p.Acts = append(p.Acts, card.Handling{ID: "x9", Kind: card.Embellish, Item: &card.Embellishment{Kind: joint.Gem, Name: "drops of ice", Count: 3, X: c.Front().W / 2, Y: c.Front().H / 4}})
	return nil
}
