// Package demo fills an empty studio with the sample studio: an invented
// tide-pool field station that sends cards to the volunteers of its
// lantern-night beach count.
package demo

import (
	"bytes"
	"context"
	"embed"
	"fmt"
	"image/jpeg"
	"path"
	"strings"
	"sync"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/proof"
	"chromaqua/core/technique"
	"chromaqua/core/wording"
	"chromaqua/internal/picture"
	"chromaqua/internal/standin"
	"chromaqua/internal/store"
)

// The drawings are rendered at 300 dpi from the SVG files beside them.
//
//go:embed drawings/*.png
var drawings embed.FS

const drawingDPI = 300

// area is an area of a sample card; at are points inside its cells, in
// millimetres on the drawing.
type area struct {
	name   string
	at     [][2]float64
	washes []card.Wash
}

// sample is a sample card.
type sample struct {
	name string
	set  func(*card.Card)
	work
	pieces []piece
}

// work is what is done on one piece.
type work struct {
	drawing    string
	wide, down float64 // mm, of the drawing as it is laid: its own width when 0, below the middle
	behind     []behind
	areas      []area
	joins      [][2]string // pairs of area names
	last       func(*card.Card) error
}

// piece is a piece beside the panel.
type piece struct {
	kind  card.PieceKind
	name  string
	set   func(*card.Piece)
	along bool // it is cut along its line
	work
}

// behind is a drawing behind the others: how wide it is and where its top left
// corner lies, millimetres.
type behind struct {
	drawing     string
	width, x, y float64
	turn        float64
	ghost       int
}

// studio is what the demo's studio is filled with.
type studio struct {
	images []store.Image
	cards  []*card.Card
}

// made makes the sample cards, once: finding their cells takes a while.
var made = sync.OnceValues(func() (out studio, err error) {
	images := map[string]store.Image{}
	files, err := drawings.ReadDir("drawings")
	if err != nil {
		return out, err
	}
	for _, f := range files {
		m, err := drawing(f.Name())
		if err != nil {
			return out, fmt.Errorf("drawing %s: %w", f.Name(), err)
		}
		out.images = append(out.images, m)
		images[strings.TrimSuffix(f.Name(), ".png")] = m
	}
	for _, sm := range append(samples[:len(samples):len(samples)], rays, otter, boathouse, kelp) {
		c, err := sm.card(context.Background(), images)
		if err != nil {
			return out, fmt.Errorf("sample card %q: %w", sm.name, err)
		}
		out.cards = append(out.cards, c)
	}
	return out, nil
})

// Fill adds the sample drawings and cards to a studio.
func Fill(ctx context.Context, s *store.Store) error {
	all, err := made()
	if err != nil {
		return err
	}
	for _, m := range all.images {
		if err := s.PutImage(ctx, store.Latest, m); err != nil {
			return err
		}
	}
	for _, c := range all.cards {
		c.Call(panel.NamesOf(ownMaterials))
		if _, err := s.Create(ctx, c, "a sample card"); err != nil {
			return err
		}
	}
	if err := fillPaper(ctx, s); err != nil {
		return err
	}
	return fillTests(ctx, s)
}

// Try adds one finished sample card with its drawing to a studio, to look about in, and
// returns its id.
func Try(ctx context.Context, s *store.Store) (int64, error) {
	return add(ctx, s, samples[len(samples)-1])
}

// Begin adds a card with a drawing on it, all its colours open, and returns its id.
func Begin(ctx context.Context, s *store.Store) (int64, error) {
	return add(ctx, s, first)
}

func add(ctx context.Context, s *store.Store, sm sample) (int64, error) {
	m, err := drawing(sm.drawing + ".png")
	if err != nil {
		return 0, err
	}
	c, err := sm.card(ctx, map[string]store.Image{sm.drawing: m})
	if err != nil {
		return 0, err
	}
	own, err := s.Materials(ctx)
	if err != nil {
		return 0, err
	}
	c.Call(panel.NamesOf(own))
	if err := s.PutImage(ctx, store.Latest, m); err != nil {
		return 0, err
	}
	return s.Create(ctx, c, "a sample card")
}

// strip is a test that the practice scanner made.
type strip struct {
	record proof.Record
	scan   store.Image
}

// strips makes the sample tests, once: drawing and reading them takes a while.
var strips = sync.OnceValues(func() (out []strip, err error) {
	const pxPerMM = 5 // a scan at 130 dpi is enough to read, and quick to make
	for i, t := range inkTests {
		scan := standin.Usual(uint64(i)).Scan(standin.Strip(standin.Inks()[t.habit], pxPerMM), pxPerMM)
		var buf bytes.Buffer
		if err := jpeg.Encode(&buf, scan, &jpeg.Options{Quality: 88}); err != nil {
			return nil, err
		}
		read, err := proof.ReadStrip(scan)
		if err != nil {
			return nil, fmt.Errorf("test strip %d: %w", i+1, err)
		}
		t.record.Practice, t.record.WaterTest, t.record.Image = true, *read, store.Hash(buf.Bytes())
		out = append(out, strip{t.record, store.Image{
			Hash: t.record.Image, Title: "Practice strip, " + t.habit, Media: "image/jpeg",
			Width: scan.Rect.Dx(), Height: scan.Rect.Dy(), Data: buf.Bytes(),
		}})
	}
	return out, nil
})

// fillTests adds a few tests of the station's inks by the practice scanner, which
// say that they are simulated.
func fillTests(ctx context.Context, s *store.Store) error {
	all, err := strips()
	if err != nil {
		return err
	}
	for _, t := range all {
		if _, err := s.AddTest(ctx, store.Latest, t.record, t.scan); err != nil {
			return err
		}
	}
	return nil
}

// fillPaper puts paper into the drawer.
func fillPaper(ctx context.Context, s *store.Store) error {
	rev, err := s.Paper(ctx)
	if err != nil {
		return err
	}
	for _, it := range onHand {
		rev.Stock.Add(it)
	}
	rev.Stock.Dies = dies
	if err := rev.Stock.Check(); err != nil {
		return err
	}
	if err := s.PutMaterials(ctx, store.Latest, ownMaterials, "filled the shelf"); err != nil {
		return err
	}
	return s.SavePaper(ctx, rev.ID, rev.Seq, rev.Stock, "filled the drawer")
}

func drawing(file string) (store.Image, error) {
	data, err := drawings.ReadFile(path.Join("drawings", file))
	if err != nil {
		return store.Image{}, err
	}
	info, err := picture.Inspect(data)
	if err != nil {
		return store.Image{}, err
	}
	title := strings.ReplaceAll(strings.TrimSuffix(file, ".png"), "-", " ")
	return store.Image{
		Hash: store.Hash(data), Title: wording.Upper(title), Media: info.Media,
		Width: info.Width, Height: info.Height, Data: data, Kept: true,
		Real:  length.FromMM(float64(info.Width) / drawingDPI * 25.4),
		Facts: madeWith[strings.TrimSuffix(file, ".png")],
	}, nil
}

// card builds the sample as a maker would: place the line, find its cells,
// gather them into areas, give the areas washes, and so with each other piece.
func (sm sample) card(ctx context.Context, images map[string]store.Image) (*card.Card, error) {
	c := card.New(sm.name, length.Inches)
	sm.set(c)
	if err := sm.work.on(ctx, c, images); err != nil {
		return nil, err
	}
	for _, p := range sm.pieces {
		id, err := c.AddPiece(p.kind)
		if err != nil {
			return nil, err
		}
		made, err := c.PieceByID(id)
		if err != nil {
			return nil, err
		}
		made.Name = p.name
		p.set(made)
		alone, err := c.Alone(id)
		if err != nil {
			return nil, err
		}
		if err := p.work.on(ctx, alone, images); err != nil {
			return nil, fmt.Errorf("%s: %w", p.name, err)
		}
		if err := c.Return(id, alone); err != nil {
			return nil, err
		}
		if p.along {
			c.Reshape(made, func() { made.Outline = &card.Outline{Image: made.Images[0].ID, Margin: length.Inch / 16} })
		}
	}
	return c, c.Check()
}

// on does the work on a card, or on a piece alone.
func (w work) on(ctx context.Context, c *card.Card, images map[string]store.Image) error {
	scans := panel.Scans{}
	for i, b := range append([]behind{{drawing: w.drawing}}, w.behind...) {
		m := images[b.drawing]
		id, err := c.Lay(card.Scan{Image: m.Hash, Title: m.Title, WidthPX: m.Width, HeightPX: m.Height, Width: m.Real}, m.Kind)
		if err != nil {
			return err
		}
		on, err := c.ImageByID(id)
		if err != nil {
			return err
		}
		if i > 0 {
			on.Width, on.X, on.Y, on.Turn, on.Ghost = length.FromMM(b.width), length.FromMM(b.x), length.FromMM(b.y), b.turn, b.ghost
		} else if w.wide > 0 {
			on.Width = length.FromMM(w.wide)
			c.Centre(on)
		}
		on.Y += length.FromMM(w.down)
		if scans[m.Hash], err = picture.Grey(m.Data); err != nil {
			return err
		}
	}
	sheet, err := panel.Read(ctx, c, scans, nil)
	if err != nil {
		return err
	}
	ids := map[string]string{}
	scale := c.Line().Width.MM() / images[w.drawing].Real.MM()
	for _, a := range w.areas {
		id := c.AddArea(a.name)
		ids[a.name] = id
		var cells []int
		for _, p := range a.at {
			cell := sheet.At(lineart.Point{X: c.Line().X.MM() + scale*p[0], Y: c.Line().Y.MM() + scale*p[1]})
			if cell == 0 {
				return fmt.Errorf("area %q: no cell at %v", a.name, p)
			}
			cells = append(cells, cell)
		}
		if err := panel.Resolve(c, sheet).Assign(id, cells); err != nil {
			return err
		}
		made, err := c.AreaByID(id)
		if err != nil {
			return err
		}
		made.Washes = append(made.Washes, a.washes...)
	}
	for _, j := range w.joins {
		c.SetJoin(ids[j[0]], ids[j[1]], true)
	}
	if w.last != nil {
		return w.last(c)
	}
	return nil
}

// wash is one layer of a mix.
func wash(t technique.Kind, s pigment.Strength, mix ...card.Part) card.Wash {
	return card.Wash{Technique: t, Strength: s, Mix: mix}
}

func of(parts int, ci string) card.Part { return card.Part{CI: ci, Parts: parts} }

func format(id string, side fold.Side) func(*card.Card) {
	return func(c *card.Card) {
		if err := c.SetFormat(id, false); err != nil {
			panic("demo: " + err.Error())
		}
		c.Base.Fold = side
	}
}

// deckledMat cuts the mat with the nearest deckled square.
func deckledMat(c *card.Card) { c.Layers[0].Die = &dies[1] }

// forAnA2Envelope gives the card the envelope it goes into, a teal mat, and
// words to find room for.
func forAnA2Envelope(c *card.Card) {
	a2, err := fold.EnvelopeByID("env-a2")
	if err != nil {
		panic("demo: " + err.Error())
	}
	c.Envelope = &card.Envelope{ID: a2.ID, Inside: a2.Inside}
	c.Layers[0].Colour = "deep teal"
	c.Words = length.Size{W: 2 * length.Inch, H: length.Inch / 2}
}

func all(set ...func(*card.Card)) func(*card.Card) {
	return func(c *card.Card) {
		for _, f := range set {
			f(c)
		}
	}
}

func notes(text string) func(*card.Card) { return func(c *card.Card) { c.Notes = text } }

// sixCards are painted at once.
func sixCards(c *card.Card) { c.Copies = 6 }

func heatDried(c *card.Card) {
	c.Drying = card.Heat
	c.Room = drying.Room{Celsius: 19, Humidity: 0.6, Air: drying.StillRoom.Air}
}
