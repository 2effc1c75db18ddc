package jobs

import (
	"fmt"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
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
					area(c, fmt.Sprintf("Area %d", k+1), m, []float64{4.5 + 8*float64(k), 4.5, 4.5 + 8*float64(k), 12.5}, wash("PB29", pigment.Tea, technique.Flat))
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
		area(s.Card, fmt.Sprintf("Column %d", k+1), m, at, wash("PB29", pigment.Tea, technique.Flat))
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

// Bits is a card of what no real job has together: two tags that share a sheet, a word cut
// by a die that nothing is laid on, a base that is printed, a piece that is held in one way
// after the other, and one that is pressed and trimmed between its washes.
func Bits() *Studio {
	s := &Studio{Card: card.New("Bits", length.Millimetres), Files: map[string][]byte{}}
	c := s.Card
	c.Drying = card.Heat
	b := s.lay(c, boat(), shelf.LineImage, 30, 60, &card.Medium{Ink: "pigment-quick", Pads: []string{"dye"}})
	f := s.lay(c, float(), shelf.LineImage, 10, 20, in("pen"))
	g := s.lay(c, float(), shelf.LineImage, 70, 20, in("pen"))
	hull := area(c, "Hull", b, []float64{15, 20}, wash("PBr7", pigment.Tea, technique.Flat), wash("PBr7", pigment.Milk, technique.Glaze))
	floats := area(c, "Floats", f, []float64{7, 6, 7, 12}, wash("PO62", pigment.Tea, technique.Flat))
	area(c, "Other float", g, []float64{7, 6, 7, 12}, wash("PR108", pigment.Tea, technique.Flat), wash("PR108", pigment.Tea, technique.Pencil))
	act := c.AddAct(card.Handling{Kind: card.Press})
	must(c.Put(card.WashRef(hull.ID, 1), card.Ref(act), true))
	must(c.Put(card.Ref(floats.ID), card.Ref(act), true))
	c.AddAct(card.Handling{Kind: card.Trim})
	for i := range 2 {
		s.on(s.piece(card.Tag, fmt.Sprintf("Tag %d", i+1), func(p *card.Piece) {
			p.Size, p.Sheet = length.Size{W: 40 * mm, H: 40 * mm}, "scraps"
		}), func(c *card.Card) {
			m := s.lay(c, star(), shelf.LineImage, 10, 10, nil)
			area(c, "Star", m, []float64{10, 10}, wash("PY150", pigment.Milk, technique.Flat))
		})
	}
	s.piece(card.DieCut, "Word", func(p *card.Piece) {
		p.Die, p.Count = &card.DieSet{Name: "words", Edge: card.Plain, Sizes: []length.Size{{W: 50 * mm, H: 20 * mm}}}, 2
	})
	s.on(s.piece(card.BasePiece, "Base", nil), func(c *card.Card) {
		c.Ink = "laser"
		s.lay(c, float(), shelf.LineImage, 20, 20, nil)
		s.lay(c, float(), shelf.LineImage, 60, 20, nil)
	})
	s.on(s.piece(card.SecondPanel, "Held", func(p *card.Piece) { p.Size = length.Size{W: 60 * mm, H: 50 * mm} }), func(c *card.Card) {
		m := s.lay(c, otter(), shelf.LineImage, 5, 10, nil)
		sky := zone(c, "Sky", card.Zone{Shape: card.Above, Round: true}, []float64{0, 12, 60, 12}, wash("PB29", pigment.Tea, technique.Flat))
		fur := area(c, "Fur", m, []float64{35, 20, 12, 15}, wash("PBr7", pigment.Tea, technique.Flat), wash("PBr7", pigment.Tea, technique.WetOnWet))
		c.Hold = []card.Hold{{How: card.LooseSheet}, {How: card.Sticky, From: card.Ref(fur.ID)}}
		must(c.Put(card.Ref(fur.ID), card.Ref(sky.ID), true))
	})
	return s
}

// Bare is a card on which nothing is printed: a washed panel, pressed in a folder, and a
// strip painted in two bands.
func Bare() *Studio {
	s := &Studio{Card: card.New("Bare", length.Millimetres), Files: map[string][]byte{}}
	c := s.Card
	zone(c, "Ground", card.Zone{Shape: card.All}, nil, wash("PB29", pigment.Tea, technique.Graded), wash("PR122", pigment.Milk, technique.Glaze))
	c.AddAct(card.Handling{Kind: card.Press})
	s.on(s.piece(card.WordStrip, "Strip", func(p *card.Piece) { p.Size = length.Size{W: 80 * mm, H: 30 * mm} }), func(c *card.Card) {
		zone(c, "Sea", card.Zone{Shape: card.Below}, []float64{0, 15, 80, 15}, wash("PB29", pigment.Milk, technique.Flat))
		zone(c, "Sky", card.Zone{Shape: card.Above}, []float64{0, 13, 80, 13}, wash("PB29", pigment.WeakTea, technique.WetOnWet))
	})
	return s
}

// Worded is a card with words on every kind of piece in every way, with what is done to the
// whole card, and set on it, once it is put together.
func Worded() *Studio {
	s := &Studio{Card: card.New("Worded", length.Millimetres), Files: map[string][]byte{}}
	c := s.Card
	m := s.lay(c, otter(), shelf.LineImage, 30, 40, nil)
	zone(c, "Sky", card.Zone{Shape: card.Above}, []float64{0, 60, 100, 60}, wash("PB29", pigment.Tea, technique.Flat))
	area(c, "Fur", m, []float64{35, 20}, wash("PBr7", pigment.Tea, technique.Flat))
	says(c, "calm waters", card.TextPowder, 8, 50, 20)
	says(c, "for you", card.TextWritten, 5, 50, 110)
	s.on(s.piece(card.WordStrip, "Strip", nil), func(c *card.Card) { says(c, "sea you soon", card.TextStamped, 6, 38, 8) })
	s.on(s.piece(card.Leaf, "Leaf", nil), func(c *card.Card) {
		says(c, "With every tide\na thought of you", card.TextPrinted, 6, 45, 60)
	})
	s.on(s.piece(card.WholeCard, "Whole card", nil), func(c *card.Card) {
		zone(c, "Spray", card.Zone{Shape: card.All}, nil, wash("PB29", pigment.Milk, technique.Splatter))
		c.AddAct(card.Handling{Kind: card.Trim})
		c.AddAct(card.Handling{Kind: card.Embellish, Item: &card.Embellishment{Kind: joint.Gem, Count: 3}})
	})
	c.AddAct(card.Handling{Kind: card.Embellish, Item: &card.Embellishment{Kind: joint.Gloss, Name: "on the eye"}})
	return s
}

// says puts words on a piece, mm.
func says(c *card.Card, text string, by card.TextWay, high, x, y float64) {
	c.AddAct(card.Handling{Kind: card.PutWords, Text: &card.Text{Text: text, By: by, Height: length.FromMM(high), X: length.FromMM(x), Y: length.FromMM(y)}})
}

// Frame is a card with a rectangle of w × h mm on its panel, so far from its corner: the
// middle of its line is half the line's width further in.
func Frame(w, h, x, y float64) *Studio {
	s := &Studio{Card: card.New("Frame", length.Millimetres), Files: map[string][]byte{}}
	d := sketch("Frame", w+2, h+2).closed(1+lineMM/2, 1+lineMM/2, 1+w-lineMM/2, 1+lineMM/2, 1+w-lineMM/2, 1+h-lineMM/2, 1+lineMM/2, 1+h-lineMM/2)
	s.lay(s.Card, d, shelf.LineImage, x-1, y-1, nil)
	return s
}
