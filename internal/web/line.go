package web

import (
	"cmp"
	"errors"
	"fmt"
	"net/http"
	"slices"
	"strconv"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/ink"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
	"chromaqua/internal/sheet"
	"chromaqua/internal/store"
)

// lineView is the Line station.
type lineView struct {
	Images           []imageRow // on the panel, the one in front first
	Picked           *imageRow
	Kinds            []shelf.ImageKind
	Reliefs          []reliefChoice
	Stamping         []stampingView // in order, when there are several impressions
	Masks            []maskView
	Looks            []shelf.Look
	Look             shelf.Look
	Choices          []ink.Choice
	Library          []store.Image
	Own              []shelf.Own
	OwnInk, OwnPaper string // names of those in use
	InkFacts         shelf.Ink
	PaperFacts       shelf.Paper
	Papers           []shelf.Paper
	Inks             []shelf.Ink
	Cells            int
	Leaks            []leakView
	Marks            []correctionView
	Specks           string
	Smallest         float64 // mm²
	Neighbours       int
	PanelW           string
}

// imageRow is an image on the panel with its fields as they are typed.
type imageRow struct {
	*card.Image
	Width, X, Y, Turn string
	High              length.Length
	Resolution        int
	Made              shelf.ImageKind
	Front, Back       bool // nothing lies in front of it, or behind
	Mass              string
}

type reliefChoice struct {
	Relief card.Relief
	Words  string
	Now    bool
}

// stampingView is one impression in the order they are made.
type stampingView struct {
	Title string
	Ghost int
	Masks string // laid on before it
}

// maskView is a paper mask to cut.
type maskView struct {
	panel.Mask
	Title string
}

// reliefWords says why each school presses when it does.
var reliefWords = map[card.Relief]string{
	card.Painted:   "Paint, then press: water flattens relief",
	card.Unpainted: "Press, then paint: pressed again when water has flattened it",
	card.Twice:     "Paint, press, and touch up the ridges",
}

// line shows the Line station.
func (p *stationPage) line(l *laid, in studio) {
	c := l.rev.Card
	v := &lineView{Looks: shelf.Looks(), Look: cmp.Or(c.Look, shelf.Crisp), Library: in.library, Own: in.own, Papers: shelf.Papers(), Inks: shelf.Inks(), PanelW: c.PanelSize().W.Typed(c.Unit)}
	v.Kinds = []shelf.ImageKind{shelf.LineImage, shelf.SolidImage, shelf.ReliefImage, shelf.Stencil, shelf.PrintImage}
	for i := range c.Images {
		v.Images = append(v.Images, l.imageRow(i))
	}
	if i := slices.IndexFunc(c.Images, func(m card.Image) bool { return m.ID == p.Picked }); i >= 0 {
		v.Picked = &v.Images[i]
	} else if len(v.Images) > 0 {
		v.Picked = &v.Images[0]
	}
	if v.Picked != nil {
		p.Picked = v.Picked.ID
	}
	if c.Has(shelf.ReliefImage) {
		for _, r := range card.Reliefs() {
			v.Reliefs = append(v.Reliefs, reliefChoice{r, reliefWords[r], r == cmp.Or(c.Relief, card.Painted)})
		}
	}
	if c.Specks > 0 {
		v.Specks = strconv.FormatFloat(c.Specks, 'g', -1, 64)
	}
	v.InkFacts, v.PaperFacts = c.InkFacts(), c.PaperFacts()
	v.OwnInk, v.OwnPaper = c.OwnNames()
	v.Choices = ink.Rank(ink.Need{
		Look: v.Look, Paper: v.PaperFacts, OnOwn: v.OwnPaper, Own: in.own, Wet: advice.Wets(c),
		Heat: c.Drying == card.Heat, LineMM: l.thinnest(), Tests: in.tests,
	})
	if b := l.board; b != nil {
		v.Cells, v.Neighbours = len(b.Cells), len(b.Neighbours)
		v.Leaks, v.Marks = l.leaks(), l.corrections()
		if n := len(b.Cells); n > 0 {
			v.Smallest = b.Cells[n-1].AreaMM2
		}
		v.stamping(b)
		p.Board.frames(b, p.Picked)
	}
	p.Line = v
}

func (l *laid) imageRow(i int) imageRow {
	c := l.rev.Card
	m := &c.Images[i]
	row := imageRow{
		Image: m, Width: m.Width.Typed(c.Unit), X: m.X.Typed(c.Unit), Y: m.Y.Typed(c.Unit),
		Turn: strconv.FormatFloat(m.Turn, 'f', -1, 64), High: m.Height(), Resolution: int(m.DPI() + 0.5),
		Made: cmp.Or(m.Kind, shelf.LineImage), Front: i == 0, Back: i == len(c.Images)-1,
	}
	if l.board == nil || l.board.Laid[i].MassMM2 == 0 {
		return row
	}
	mass, texture := l.board.Laid[i].MassMM2, c.PaperFacts().Texture
	row.Mass = fmt.Sprintf("Its mass is %s.", areaWords(mass, c.Unit))
	if texture.Misses(1) > 0 {
		row.Mass += fmt.Sprintf(" The paper's texture leaves about %.0f %% of it white at the first impression, %.0f %% after two; a general figure, an impression check tells yours.", 100*texture.Misses(1), 100*texture.Misses(2))
	}
	return row
}

// stamping lists the impressions in order and the masks they take.
func (v *lineView) stamping(b *panel.Board) {
	impressions := b.Impressions()
	if len(impressions) < 2 || b.Card.InkFacts().Method != shelf.Stamped {
		return
	}
	for _, imp := range impressions {
		m := b.Card.Images[imp.Image]
		v.Stamping = append(v.Stamping, stampingView{m.Title, m.Ghost, b.Named(imp.Masks)})
	}
	for _, k := range b.Masks() {
		v.Masks = append(v.Masks, maskView{k, b.Card.Images[k.Image].Title})
	}
}

// masks sends the outlines of a card's paper masks.
func (s *Server) masks(w http.ResponseWriter, r *http.Request) error {
	rev, read, err := s.panelOf(r)
	if err != nil {
		return err
	}
	b := panel.Resolve(rev.Card, read.sheet)
	doc := sheet.Masks{Unit: rev.Card.Unit, Title: rev.Card.Name + ", masks"}
	for _, k := range b.Masks() {
		doc.Shapes = append(doc.Shapes, sheet.MaskShape{Name: rev.Card.Images[k.Image].Title, Pieces: k.Pieces, Outline: b.Laid[k.Image].Silhouette})
	}
	if len(doc.Shapes) == 0 {
		return refused(errors.New("no image on this panel hides another, so there is no mask to cut"))
	}
	write, media, extension := doc.WritePDF, "application/pdf", ".pdf"
	if chi.URLParam(r, "as") == "svg" {
		write, media, extension = doc.WriteSVG, "image/svg+xml", ".svg"
	}
	return sendDrawing(w, doc.Title, media, extension, write)
}

// frameView is an image on the panel as it can be taken hold of.
type frameView struct {
	ID, Title, Href string
	Picked          bool
	X, Y, W, H      float64 // mm, its middle and its size unturned
	Turn            float64
	Mirror          bool
	Path            string // what it covers
}

// frames lets the images be taken hold of.
func (v *boardView) frames(b *panel.Board, picked string) {
	for i := range b.Card.Images {
		m := &b.Card.Images[i]
		w, h := m.Width.MM(), m.Height().MM()
		v.Frames = append(v.Frames, frameView{
			ID: m.ID, Title: m.Title, Href: "/images/" + m.Image, Picked: m.ID == picked,
			X: m.X.MM() + w/2, Y: m.Y.MM() + h/2, W: w, H: h, Turn: m.Turn, Mirror: m.Mirror, Path: coverPath(m, b.Laid[i].Silhouette),
		})
	}
}

// coverPath is the path of what an image covers; of its frame when there is only
// that.
func coverPath(m *card.Image, o lineart.Outline) string {
	if o.Rings == nil {
		corners := panel.Corners(m)
		o.Rings = [][]lineart.Point{corners[:]}
	}
	return pathOf(o)
}

// thinnest is how thick the line is where it is thin, mm; 0 when not known.
func (l *laid) thinnest() float64 {
	if l.board == nil || len(l.board.Neighbours) == 0 {
		return 0
	}
	var thick []float64
	for _, n := range l.board.Neighbours {
		thick = append(thick, n.LineMed)
	}
	slices.Sort(thick)
	return thick[len(thick)/4]
}
