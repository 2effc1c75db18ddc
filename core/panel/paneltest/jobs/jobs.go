package jobs

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"image/color"
	"image/png"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/mask"
	"chromaqua/core/nest"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

const mm = length.Millimetre

var grey0 = color.Gray{Y: 25}

// A Job is a card of real work.
type Job struct {
	Number int
	Name   string
	make   func(*Studio)
}

// All lists the jobs.
func All() []Job {
	return []Job{
		{1, "Tall card from an offcut", tall},
		{2, "Embossed diver on a block", diverOnBlock},
		{3, "Journal card", journal},
		{4, "Otter in the river", otterInRiver},
		{5, "Three lanterns", lanterns},
		{6, "Puffin in a soft grey line", puffinSoft},
		{7, "Loose sea-urchins on wood pulp", looseUrchins},
		{8, "Snowy boathouse", snowyBoathouse},
		{9, "Panel-filling weeds, three cards at once", weedsThrice},
		{10, "Three paints only", threePaints},
		{11, "Jars at night", jarsAtNight},
		{12, "Relief from a folder", relief},
		{13, "Corals and rays", coralsAndRays},
		{14, "Ink pads tried", inkPads},
		{15, "Stars kept pale", starsKeptPale},
		{16, "Ground left to chance", chance},
		{17, "Stencil ground", stencilled},
		{18, "Seahorse in a line that mixes", seahorseMixing},
		{19, "No-line sea anemone", noLineAnemone},
		{20, "Harbour silhouette", silhouette},
	}
}

// Make builds a job.
func (j Job) Make() *Studio {
	s := &Studio{Card: card.New(fmt.Sprintf("Job %d: %s", j.Number, j.Name), length.Millimetres), Files: map[string][]byte{}}
	j.make(s)
	return s
}

// A Studio is a card in the making with its pictures, as files by their SHA-256.
type Studio struct {
	Card  *card.Card
	Files map[string][]byte
}

// Scans are the pictures opened.
func (s *Studio) Scans() panel.Scans {
	out := panel.Scans{}
	for hash, data := range s.Files {
		m, err := png.Decode(bytes.NewReader(data))
		must(err)
		out[hash] = m.(*image.Gray)
	}
	return out
}

// Pieces reads all pieces of the card.
func (s *Studio) Pieces(ctx context.Context) ([]panel.Piece, error) {
	scans := s.Scans()
	return panel.Pieces(s.Card, func(alone *card.Card) (*panel.Board, error) {
		sheet, err := panel.Read(ctx, alone, scans, nil)
		if err != nil {
			return nil, err
		}
		return panel.Resolve(alone, sheet), nil
	})
}

// must stops what is wrong with a job itself.
func must(err error) {
	if err != nil {
		panic("jobs: " + err.Error())
	}
}

// on works on a piece, the panel when id is "".
func (s *Studio) on(id string, do func(c *card.Card)) {
	alone, err := s.Card.Alone(id)
	must(err)
	do(alone)
	must(s.Card.Return(id, alone))
}

// piece adds a piece.
func (s *Studio) piece(k card.PieceKind, name string, set func(*card.Piece)) string {
	id, err := s.Card.AddPiece(k)
	must(err)
	p, err := s.Card.PieceByID(id)
	must(err)
	if p.Name = name; set != nil {
		set(p)
	}
	return id
}

// cutOut cuts a piece along the line of its first image.
func (s *Studio) cutOut(id string, o card.Outline) {
	p, err := s.Card.PieceByID(id)
	must(err)
	o.Image = p.Images[0].ID
	s.Card.Reshape(p, func() { p.Outline = &o })
}

// lay puts a drawing on a card at a place, mm, and returns its id.
func (s *Studio) lay(c *card.Card, d *Sketch, kind shelf.ImageKind, x, y float64, medium *card.Medium) string {
	data, scan := d.file()
	s.Files[scan.Image] = data
	id, err := c.Lay(scan, kind)
	must(err)
	m, err := c.ImageByID(id)
	must(err)
	m.X, m.Y, m.Medium = length.FromMM(x), length.FromMM(y), medium
	return id
}

// area gathers the cells of an image in which points lie, x and y in turn, mm from its
// corner.
func area(c *card.Card, name, on string, at []float64, washes ...card.Wash) *card.Area {
	a, err := c.AreaByID(c.AddArea(name))
	must(err)
	m, err := c.ImageByID(on)
	must(err)
	for i := 0; i+1 < len(at); i += 2 {
		a.Cells = append(a.Cells, card.Spot{On: on, UV: card.UV{U: at[i] / m.Width.MM(), V: at[i+1] / m.Width.MM()}, MM2: 100})
	}
	a.Washes = washes
	return a
}

// zone draws a zone on the piece, x and y in turn, mm, and makes an area of it.
func zone(c *card.Card, name string, z card.Zone, at []float64, washes ...card.Wash) *card.Area {
	wide := c.PanelSize().W.MM()
	for i := 0; i+1 < len(at); i += 2 {
		z.Points = append(z.Points, card.UV{U: at[i] / wide, V: at[i+1] / wide})
	}
	id, err := c.AddZone(z, wide)
	must(err)
	a, err := c.AreaByID(c.AddArea(name))
	must(err)
	a.Lies, a.Zones, a.Washes = true, []string{id}, washes
	return a
}

func wash(ci string, s pigment.Strength, t technique.Kind) card.Wash {
	return card.Wash{Technique: t, Strength: s, Mix: []card.Part{{CI: ci, Parts: 1}}}
}

func in(ink string) *card.Medium { return &card.Medium{Ink: ink} }

func tall(s *Studio) {
	c := s.Card
	c.Envelope = &card.Envelope{ID: "env-business", Inside: length.Size{W: 241 * mm, H: 105 * mm}}
	must(c.StartFrom(card.PanelRing, length.Size{W: 92 * mm, H: 220 * mm}))
	must(c.PanelAlone())
	b := s.lay(c, boat(), shelf.LineImage, 30, 120, nil)
	f := s.lay(c, float(), shelf.LineImage, 12, 150, nil)
	must(c.Repeat(f, 2, 26*mm, 12*mm, 0))
	zone(c, "Sky", card.Zone{Shape: card.Above, Water: true, Edge: card.SoftEdge}, []float64{0, 100, 92, 96}, wash("PB29", pigment.WeakTea, technique.Graded))
	area(c, "Hull", b, []float64{15, 20}, wash("PBr7", pigment.Milk, technique.Flat))
	area(c, "Sail", b, []float64{18, 11}, wash("PR108", pigment.Tea, technique.Flat))
	floats := area(c, "Floats", f, []float64{7, 6, 7, 12}, wash("PO62", pigment.Tea, technique.Flat))
	_, err := c.AddReserve(card.Reserve{Name: "Floats", Areas: []string{floats.ID}, From: []string{c.Areas[0].ID}})
	must(err)
}

func diverOnBlock(s *Studio) {
	c := s.Card
	c.Ink = "embossed"
	c.Hold = []card.Hold{{How: card.OnBlock}}
	c.Base.Format, c.Base.Front = card.Free, length.Size{W: 120 * mm, H: 160 * mm}
	d := s.lay(c, diver(), shelf.LineImage, 30, 40, nil)
	area(c, "Face", d, []float64{22, 14}, wash("PR101", pigment.WeakTea, technique.Flat), wash("PV19", pigment.Tea, technique.WetOnWet))
	area(c, "Helmet", d, []float64{13, 11}, wash("PY42", pigment.Tea, technique.Flat), wash("PY42", pigment.Tea, technique.Shimmer))
	area(c, "Suit", d, []float64{15, 40, 29, 40}, wash("PB29", pigment.Milk, technique.PullOut))
}

func journal(s *Studio) {
	c := s.Card
	o := s.lay(c, otter(), shelf.LineImage, 25, 60, nil)
	r := s.lay(c, reeds(), shelf.LineImage, 40, 35, in("permanent"))
	b := s.lay(c, bubbles(), shelf.LineImage, 20, 20, in("embossed"))
	coat := area(c, "Coat", o, []float64{35, 20, 12, 15}, wash("PBr7", pigment.Tea, technique.Flat))
	water := zone(c, "Water", card.Zone{Shape: card.Below}, []float64{0, 85, 100, 82}, wash("PB15:3", pigment.Tea, technique.Flat))
	area(c, "Reed", r, []float64{4, 12, 11, 12}, wash("PG7", pigment.Tea, technique.Flat))
	must(c.Put(card.Ref(b), card.Ref(coat.ID), true))
	must(c.Put(card.Ref(b), card.Ref(water.ID), true))
	must(c.Put(card.Ref(b), card.Ref(o), true))
	id := s.piece(card.WordStrip, "Words strip", nil)
	s.on(id, func(c *card.Card) {
		s.lay(c, words(), shelf.LineImage, 6, 3, nil)
		zone(c, "Edge", card.Zone{Shape: card.Rest}, []float64{3, 2, 73, 2, 73, 14, 3, 14}, wash("PBr7", pigment.WeakTea, technique.DryBrush))
	})
}

func otterInRiver(s *Studio) {
	c := s.Card
	c.Ink = "blend"
	c.Look = shelf.Pulled
	o := s.lay(c, otter(), shelf.LineImage, 25, 70, nil)
	r := s.lay(c, reeds(), shelf.LineImage, 35, 12, &card.Medium{Watered: true, Bare: card.Wiped, Times: 1})
	again := s.lay(c, otter(), shelf.LineImage, 25, 70, in("pigment-quick"))
	for _, id := range []string{r} {
		m, err := c.ImageByID(id)
		must(err)
		m.Marks = []card.Mark{{Kind: card.Bare, Points: []card.UV{{U: 0, V: 1.8}, {U: 1, V: 1.8}, {U: 1, V: 2}, {U: 0, V: 2}}}}
	}
	sky := zone(c, "Sky", card.Zone{Shape: card.Above, Water: true, Edge: card.SoftEdge, Round: true}, []float64{0, 62, 110, 60}, wash("PB15:3", pigment.WeakTea, technique.Flat))
	skyID := sky.ID
	fur := area(c, "Fur", o, []float64{35, 20, 12, 15}, wash("PBr7", pigment.WeakTea, technique.PullOut))
	must(c.Put(card.Ref(r), card.Ref(skyID), true))
	must(c.Put(card.Ref(again), card.Ref(fur.ID), true))
	must(c.Put(card.Ref(again), card.Ref(o), true))
	zone(c, "River", card.Zone{Shape: card.Below, Round: true}, []float64{0, 84, 110, 82}, wash("PB29", pigment.Tea, technique.Flat))
}

func lanterns(s *Studio) {
	c := s.Card
	c.Base.Fold = "top"
	c.Panel.By = joint.FullFoam
	var at []string
	for i := range 3 {
		at = append(at, s.lay(c, lantern(), shelf.LineImage, 12+28*float64(i), 50, nil))
	}
	zone(c, "Sky", card.Zone{Shape: card.Above, Edge: card.SoftEdge, Round: true, Water: true}, []float64{0, 84, 110, 84}, wash("PB29", pigment.Tea, technique.Flat))
	zone(c, "Ground", card.Zone{Shape: card.Below, Round: true}, []float64{0, 92, 110, 92}, wash("PBr7", pigment.Tea, technique.Flat))
	for i, ci := range []string{"PY150", "PO62", "PR108"} {
		area(c, fmt.Sprintf("Lantern %d", i+1), at[i], []float64{11, 16, 11, 25, 11, 33}, wash(ci, pigment.Tea, technique.Flat), wash(ci, pigment.Milk, technique.WetOnWet))
	}
}

func puffinSoft(s *Studio) {
	c := s.Card
	c.Ink, c.Look = "permanent", shelf.Soft
	p := s.lay(c, puffin(), shelf.LineImage, 30, 45, nil)
	back := area(c, "Back", p, []float64{9, 30}, wash("PBk7", pigment.Milk, technique.Flat), wash("PB29", pigment.Tea, technique.Glaze))
	back.Run = true
	area(c, "Beak", p, []float64{30, 10}, wash("PO62", pigment.Milk, technique.Flat))
	z, err := c.AddZone(card.Zone{Shape: card.Within, On: p, Points: []card.UV{{U: 0.1, V: 0.4}, {U: 0.5, V: 0.4}, {U: 0.5, V: 1.2}, {U: 0.1, V: 1.2}}}, 40)
	must(err)
	shade := area(c, "Shade on the breast", p, []float64{20, 30}, wash("PB29", pigment.WeakTea, technique.Glaze))
	shade.Lies, shade.Zones = true, []string{z}
	zone(c, "Halo", card.Zone{Shape: card.Within, Round: true, Edge: card.SoftEdge}, []float64{20, 40, 82, 40, 82, 100, 20, 100}, wash("PB15:3", pigment.WeakTea, technique.PullOut))
	zone(c, "Ground shadow", card.Zone{Shape: card.Within, Round: true}, []float64{34, 95, 80, 95, 84, 102, 40, 102}, wash("PBr7", pigment.Tea, technique.Shadow))
	id := s.piece(card.SecondPanel, "Little panel", func(p *card.Piece) { p.Size = length.Size{W: 40 * mm, H: 30 * mm} })
	s.on(id, func(c *card.Card) {
		b := s.lay(c, boat(), shelf.LineImage, 5, 2, nil)
		area(c, "Little hull", b, []float64{15, 20}, wash("PR108", pigment.Tea, technique.Flat))
	})
}

func jarsAtNight(s *Studio) {
	c := s.Card
	j := s.lay(c, jars(), shelf.LineImage, 28, 30, nil)
	w := s.lay(c, words(), shelf.LineImage, 25, 108, in("embossed"))
	night := zone(c, "Night", card.Zone{Shape: card.All, Round: true}, nil,
		wash("PB29", pigment.Tea, technique.Flat), wash("PB29", pigment.Milk, technique.Glaze), wash("PBk7", pigment.Tea, technique.Glaze), wash("PB29", pigment.Milk, technique.Glaze), wash("PBk7", pigment.Milk, technique.Glaze),
		wash("PW6", pigment.Cream, technique.Splatter))
	area(c, "Glass", j, []float64{20, 6, 20, 28, 20, 50}, wash("PG7", pigment.WeakTea, technique.Flat))
	area(c, "Light", j, []float64{20, 15, 20, 37, 20, 59}, wash("PY150", pigment.Tea, technique.Flat))
	must(c.Put(card.Ref(w), card.Ref(night.ID), true))
	s.keep("Frame", mask.Tape, card.Zone{Shape: card.Rim, Width: 7 * mm}, nil, night.ID)
	c.AddAct(card.Handling{Kind: card.Flatten})
}

func relief(s *Studio) {
	c := s.Card
	c.Relief = card.Unpainted
	f := s.lay(c, scallops(), shelf.ReliefImage, 18, 20, nil)
	area(c, "Scallops", f, []float64{14, 13, 35, 34, 56, 55}, wash("PB15:3", pigment.Tea, technique.Flat))
	area(c, "Others", f, []float64{35, 13, 14, 34, 56, 34}, wash("PV19", pigment.Tea, technique.Flat))
}

func coralsAndRays(s *Studio) {
	c := s.Card
	c.Ink, c.Look = "permanent", shelf.Soft
	k := s.lay(c, coral(), shelf.LineImage, 20, 30, nil)
	area(c, "Coral", k, []float64{30, 40}, wash("PO62", pigment.Tea, technique.Flat), wash("PR108", pigment.Tea, technique.Glaze))
	zone(c, "Water", card.Zone{Shape: card.All, Round: true, Water: true}, nil, wash("PB15:3", pigment.WeakTea, technique.Flat))
	id := s.piece(card.CutOutPiece, "Ray", func(p *card.Piece) {
		p.Count, p.Place.By, p.Place.At, p.Place.More = 2, joint.Body, card.At{X: -18 * mm, Y: -25 * mm}, []card.At{{X: 18 * mm, Y: 20 * mm}}
	})
	s.on(id, func(c *card.Card) {
		c.Ink = "embossed"
		r := s.lay(c, ray(), shelf.LineImage, 14, 14, nil)
		area(c, "Wings", r, []float64{23, 20}, wash("PB29", pigment.Tea, technique.Flat), wash("PB29", pigment.Milk, technique.Glaze))
	})
	s.cutOut(id, card.Outline{Margin: mm})
	second := s.piece(card.SecondPanel, "Second panel", func(p *card.Piece) { p.Size = length.Size{W: 70 * mm, H: 25 * mm} })
	s.on(second, func(c *card.Card) {
		w := s.lay(c, words(), shelf.LineImage, 10, 8, in("dye"))
		a := zone(c, "Aged ground", card.Zone{Shape: card.All}, nil, wash("PBr7", pigment.WeakTea, technique.Flat))
		must(c.Put(card.Ref(w), card.Ref(a.ID), true))
	})
}

func starsKeptPale(s *Studio) {
	c := s.Card
	c.Hold = []card.Hold{{How: card.TapedDown, Sides: []nest.Side{nest.Left, nest.Right, nest.Bottom}, Tape: card.PaintersTape, Width: 12 * mm}}
	pale := zone(c, "Pale sky", card.Zone{Shape: card.All, Water: true}, nil, wash("PV19", pigment.WeakTea, technique.Variegated))
	var stars []string
	for i := range 3 {
		stars = append(stars, s.lay(c, star(), shelf.LineImage, 10+28*float64(i), 20+10*float64(i), in("embossed")))
	}
	dark := zone(c, "Night", card.Zone{Shape: card.Above, Edge: card.SoftEdge}, []float64{0, 90, 110, 90}, wash("PB29", pigment.Cream, technique.Flat))
	s.keep("Pier posts", mask.Fluid, card.Zone{Shape: card.Along, Width: 3 * mm, Breaks: []int{2}}, []float64{20, 100, 20, 118, 78, 100, 78, 119}, pale.ID)
	s.keep("Below", mask.Tape, card.Zone{Shape: card.Below}, []float64{0, 122, 110, 122}, pale.ID)
	for _, st := range stars {
		must(c.Put(card.Ref(st), card.Ref(pale.ID), true))
		must(c.Put(card.Ref(dark.ID), card.Ref(st), true))
	}
	id := s.piece(card.CutOutPiece, "Otter", nil)
	s.on(id, func(c *card.Card) {
		o := s.lay(c, otter(), shelf.LineImage, 10, 10, nil)
		area(c, "Fur", o, []float64{35, 20, 12, 15}, wash("PBr7", pigment.Milk, technique.Flat))
	})
}

func chance(s *Studio) {
	c := s.Card
	d := s.lay(c, diver(), shelf.LineImage, 30, 45, nil)
	ground := zone(c, "Ground", card.Zone{Shape: card.All, Water: true, Edge: card.RunningEdge}, nil,
		wash("PB15:3", pigment.WeakTea, technique.Flat), wash("PV19", pigment.Tea, technique.WetOnWet), wash("PY150", pigment.Tea, technique.WetOnWet))
	suit := area(c, "Suit", d, []float64{15, 40, 29, 40}, wash("PB29", pigment.Milk, technique.Flat))
	must(c.Put(card.Ref(suit.ID), card.Ref(ground.ID), true))
	area(c, "Goggles", d, []float64{22, 14}, wash("PO62", pigment.Tea, technique.Flat))
}

func silhouette(s *Studio) {
	c := s.Card
	c.Paper = "cotton-rough"
	sky := zone(c, "Sky", card.Zone{Shape: card.Above, Water: true, Edge: card.SoftEdge}, []float64{0, 70, 110, 74}, wash("PO62", pigment.WeakTea, technique.Graded))
	h := s.lay(c, harbour(), shelf.SolidImage, 8, 50, &card.Medium{Ink: "blend", Look: shelf.Solid, Times: 1})
	must(c.Put(card.Ref(h), card.Ref(sky.ID), true))
	zone(c, "Water", card.Zone{Shape: card.Below}, []float64{0, 84, 110, 84}, wash("PB29", pigment.WeakTea, technique.Flat))
	area(c, "Shed", h, []float64{20, 26}, card.Wash{Technique: technique.LinePull})
	area(c, "Hill", h, []float64{46, 22}, wash("PB29", pigment.Tea, technique.PullOut), wash("PW6", pigment.Paste, technique.Highlight))
	c.Layers = append(c.Layers, card.Layer{Kind: card.Mat, Paper: shelf.MatCardstock, Colour: "rust"})
}
