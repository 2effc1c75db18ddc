package jobs

import (
	"fmt"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/mask"
	"chromaqua/core/nest"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

func looseUrchins(s *Studio) {
	c := s.Card
	c.Paper = "pulp-cp"
	c.Hold = []card.Hold{{How: card.LooseSheet}}
	c.Words = length.Size{W: 110 * mm, H: 40 * mm} // more than there is room for
	for i := range 2 {
		u := s.lay(c, urchin(), shelf.LineImage, 8+46*float64(i), 20+40*float64(i), nil)
		a := area(c, fmt.Sprintf("Urchin %d", i+1), u, urchinAt, wash("PV19", pigment.Tea, technique.Flat), wash("PO62", pigment.Tea, technique.Variegated), wash("PV19", pigment.Milk, technique.WetOnWet))
		a.Loose = true
	}
	twin := s.piece(card.DieCut, "Raised urchin", func(p *card.Piece) {
		p.Die, p.Place.By = &card.DieSet{Name: "urchin", Edge: card.Plain, Sizes: []length.Size{{W: 44 * mm, H: 44 * mm}}}, joint.Foam
	})
	s.on(twin, func(c *card.Card) {
		u := s.lay(c, urchin(), shelf.LineImage, 0, 0, nil)
		a := area(c, "Twin", u, urchinAt, wash("PV19", pigment.Tea, technique.Flat), wash("PO62", pigment.Tea, technique.WetOnWet))
		a.Loose = true
	})
	s.on(s.piece(card.WholeCard, "Card", nil), func(c *card.Card) {
		zone(c, "Spray", card.Zone{Shape: card.All}, nil, wash("PV19", pigment.Milk, technique.Splatter))
	})
	s.on(s.piece(card.Leaf, "Inside", nil), func(c *card.Card) { says(c, "all washed up", card.TextStamped, 8, 45, 60) })
}

func snowyBoathouse(s *Studio) {
	c := s.Card
	c.Ink = "blend"
	h := s.lay(c, boathouse(), shelf.LineImage, 22, 46, &card.Medium{Ink: "blend", Pads: []string{"pigment-quick"}, Look: shelf.Pulled, Bare: card.Taped})
	m, err := c.ImageByID(h)
	must(err)
	m.Ghost = 1
	m.Marks = []card.Mark{{Kind: card.Bare, Points: []card.UV{{U: 0, V: 0.78}, {U: 1, V: 0.78}, {U: 1, V: 0.9}, {U: 0, V: 0.9}}}}
	mast := s.lay(c, masts(), shelf.LineImage, 66, 16, in("pigment-quick"))
	far, err := c.ImageByID(mast)
	must(err)
	far.Ghost = 2
	sky := zone(c, "Night", card.Zone{Shape: card.Above, Water: true, Edge: card.SoftEdge, Round: true}, []float64{0, 88, 110, 86}, wash("PB29", pigment.Milk, technique.Graded), wash("PBk7", pigment.Tea, technique.WetOnWet))
	must(c.Put(card.Ref(mast), card.Ref(sky.ID), true))
	s.keep("Snow far off", mask.Pen, card.Zone{Shape: card.DotsAt, Width: mm}, []float64{20, 30, 40, 22, 70, 40, 92, 18}, sky.ID)
	area(c, "Walls", h, []float64{30, 30}, wash("PR101", pigment.WeakTea, technique.PullOut))
	area(c, "Roof", h, []float64{30, 13}, card.Wash{Technique: technique.LinePull})
	posts := zone(c, "Posts", card.Zone{Shape: card.Along, Width: mm, Breaks: []int{2, 4}}, []float64{34, 92, 34, 112, 50, 92, 50, 114, 68, 92, 68, 111}, wash("PBk7", pigment.Tea, technique.MarkerLine))
	soft := zone(c, "Water by the posts", card.Zone{Shape: card.Within}, []float64{30, 96, 74, 96, 74, 116, 30, 116}, wash("PB29", pigment.WeakTea, technique.Flat))
	must(c.Put(card.Ref(soft.ID), card.Ref(posts.ID), true))
	zone(c, "Snow", card.Zone{Shape: card.DotsAt, Width: 15 * mm / 10}, []float64{12, 20, 30, 12, 48, 26, 60, 14, 84, 30, 90, 60}, wash("PW6", pigment.Paste, technique.WhitePen))
}

func weedsThrice(s *Studio) {
	c := s.Card
	c.Copies, c.Drying = 3, card.Heat
	w := s.lay(c, weeds(), shelf.LineImage, 0, 0, nil)
	for i, ci := range []string{"PG7", "PB15:3", "PY150"} {
		var at []float64
		for k := range 3 {
			at = append(at, weedX(k), 15+40*float64(i))
		}
		area(c, fmt.Sprintf("Blades %d", i+1), w, at, wash(ci, pigment.Tea, technique.Flat), wash(ci, pigment.Milk, technique.WetOnWet))
	}
	zone(c, "Ground", card.Zone{Shape: card.All, Water: true}, nil, wash("PB29", pigment.WeakTea, technique.Flat), wash("PW6", pigment.Milk, technique.WetSplatter))
	s.on(s.piece(card.BasePiece, "Base", nil), func(c *card.Card) {
		c.Hold = []card.Hold{{How: card.Positioner}}
		says(c, "go with the tide", card.TextStamped, 7, 54, 126)
	})
	s.on(s.piece(card.WholeCard, "Card", nil), func(c *card.Card) { c.AddAct(card.Handling{Kind: card.Trim}) })
}

func threePaints(s *Studio) {
	c := s.Card
	c.Ink, c.Look = "pale", shelf.Vanishing
	o := s.lay(c, otter(), shelf.LineImage, 28, 66, nil)
	b := s.lay(c, boat(), shelf.LineImage, 60, 24, nil)
	mix := func(t technique.Kind, n pigment.Strength, parts ...card.Part) card.Wash {
		return card.Wash{Technique: t, Strength: n, Mix: parts}
	}
	blue, red, yellow := card.Part{CI: "PB29", Parts: 2}, card.Part{CI: "PR122", Parts: 1}, card.Part{CI: "PY150", Parts: 1}
	zone(c, "Ground", card.Zone{Shape: card.All, Water: true, Round: true}, nil, mix(technique.Flat, pigment.WeakTea, blue), mix(technique.Glaze, pigment.WeakTea, blue))
	area(c, "Fur", o, []float64{35, 20, 12, 15}, mix(technique.Flat, pigment.Milk, red, yellow), mix(technique.Glaze, pigment.Tea, blue, red, yellow))
	area(c, "Hull", b, []float64{15, 20}, mix(technique.Flat, pigment.Milk, red))
	area(c, "Sail", b, []float64{18, 11}, mix(technique.Flat, pigment.Milk, yellow))
}

func inkPads(s *Studio) {
	c := s.Card
	c.Ink = "dye"
	c.Look = shelf.Pulled
	must(c.StartFrom(card.PanelRing, length.Size{W: 130 * mm, H: 200 * mm}))
	big := s.lay(c, seahorse(), shelf.LineImage, 8, 4, &card.Medium{Ink: "dye", OwnInk: &shelf.Own{Name: "kelp pad", What: shelf.OwnInk, Like: "dye", Colour: "ultramarine"}})
	m, err := c.ImageByID(big)
	must(err)
	body := area(c, "Scales", big, []float64{36, 40, 36, 56, 36, 72}, card.Wash{Technique: technique.LinePull})
	head := area(c, "Head", big, []float64{27, 20}, wash("PO62", pigment.Tea, technique.Flat))
	c.SetJoin(body.ID, head.ID, true)
	must(c.Put(card.Ref(head.ID), card.Ref(body.ID), true))
	m.Width = 110 * mm
	s.on(s.piece(card.WordStrip, "Word", func(p *card.Piece) { p.Place.By = joint.Pocket }), func(c *card.Card) {
		m := s.lay(c, words(), shelf.LineImage, 12, 3, nil)
		area(c, "Letters", m, []float64{4, 4.5, 10, 4.5, 16, 4.5}, wash("PR108", pigment.Tea, technique.Flat))
	})
}

func stencilled(s *Studio) {
	c := s.Card
	st := s.lay(c, scallops(), shelf.Stencil, 18, 20, nil)
	for i, ci := range []string{"PB15:3", "PG7", "PY150"} {
		var at []float64
		for k := range 3 {
			at = append(at, 14+21*float64(k), 13+21*float64(i))
		}
		area(c, fmt.Sprintf("Row %d", i+1), st, at, wash(ci, pigment.Tea, technique.DryBrush), wash(ci, pigment.Milk, technique.DryBrush))
	}
	f := s.lay(c, float(), shelf.LineImage, 46, 106, nil)
	area(c, "Float", f, []float64{7, 6, 7, 12}, wash("PO62", pigment.Milk, technique.Flat))
}

func seahorseMixing(s *Studio) {
	c := s.Card
	c.Ink, c.Look = "dye", shelf.Vanishing
	h := s.lay(c, seahorse(), shelf.LineImage, 20, 6, nil)
	zone(c, "Wash behind", card.Zone{Shape: card.All, Round: true}, nil, wash("PB15:3", pigment.WeakTea, technique.Flat), wash("PV19", pigment.WeakTea, technique.Variegated))
	area(c, "Odd scales", h, []float64{36, 40, 36, 72}, wash("PB15:3", pigment.Tea, technique.Flat), wash("PY150", pigment.Tea, technique.Variegated))
	area(c, "Even scales", h, []float64{36, 56}, wash("PB29", pigment.Tea, technique.Flat))
	grey := area(c, "Head", h, []float64{27, 20}, card.Wash{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 2}, {CI: "PBr7", Parts: 1}}},
		wash("PBk7", pigment.Milk, technique.Pencil), wash("PW6", pigment.Paste, technique.WhitePen))
	grey.Grey = true
	id := s.piece(card.PartialDie, "Fin", func(p *card.Piece) { p.Size = length.Size{W: 40 * mm, H: 40 * mm} })
	s.on(id, func(c *card.Card) {
		m := s.lay(c, star(), shelf.LineImage, 10, 10, in("permanent"))
		area(c, "Fin star", m, []float64{10, 10}, wash("PY150", pigment.Tea, technique.Flat))
	})
	s.cutOut(id, card.Outline{Margin: mm, Partial: true, Darken: true})
}

func noLineAnemone(s *Studio) {
	c := s.Card
	c.Ink, c.Look, c.Drying = "pale", shelf.Vanishing, card.Air
	c.Hold = []card.Hold{{How: card.TapedDown, Sides: []nest.Side{nest.Top, nest.Bottom}}}
	a := s.lay(c, anemone(), shelf.LineImage, 26, 30, nil)
	under := zone(c, "Underpainting", card.Zone{Shape: card.All, Water: true}, nil, wash("PY150", pigment.WeakTea, technique.Flat), wash("PV19", pigment.WeakTea, technique.WetOnWet))
	arms := area(c, "Arms", a, anemoneAt(), wash("PV19", pigment.Tea, technique.PullOut), wash("PV19", pigment.Milk, technique.Glaze), wash("PW6", pigment.Tea, technique.WhiteVeil))
	heart := area(c, "Heart", a, []float64{28, 30}, wash("PO62", pigment.Milk, technique.Flat), wash("PR108", pigment.Milk, technique.Glaze), wash("PW6", pigment.Paste, technique.Highlight))
	for _, x := range []*card.Area{arms, heart} {
		must(c.Put(card.Ref(x.ID), card.Ref(under.ID), true))
	}
	s.keep("Bubbles", mask.Fluid, card.Zone{Shape: card.DotsAt, Width: 3 * mm}, []float64{14, 16, 24, 22, 86, 18}, under.ID)
	s.keep("Spray", mask.Spatter, card.Zone{Shape: card.DotsAt, Width: mm}, []float64{12, 30, 20, 36, 90, 30, 84, 40, 78, 14}, under.ID)
	shade := zone(c, "Cupped shadow", card.Zone{Shape: card.Within}, []float64{40, 78, 68, 78, 66, 90, 42, 90}, wash("PB29", pigment.Tea, technique.Shadow), card.Wash{Technique: technique.LostEdge})
	must(c.Put(card.Ref(shade.ID), card.Ref(arms.ID), true))
	zone(c, "White again", card.Zone{Shape: card.DotsAt, Width: mm}, []float64{40, 44, 54, 40, 68, 46}, wash("PW6", pigment.Paste, technique.WhitePen))
}
