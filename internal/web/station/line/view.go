// Package line is the station of the line: which image, how big, where, made with
// what.
package line

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"net/http"
	"slices"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/ink"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/school"
	"chromaqua/core/shelf"
	"chromaqua/internal/desk"
	"chromaqua/internal/sheet"
	"chromaqua/internal/store"
	"chromaqua/internal/web/board"
	"chromaqua/internal/web/page"
)

// view is what the station shows.
type view struct {
	Texts            []textView
	NewText          textView
	TextWays         []card.TextWay
	Images           []imageRow // on the panel, the one in front first
	Picked           *imageRow
	Medium           *mediumView // of the image that is picked
	Kinds            []shelf.ImageKind
	Reliefs          []reliefChoice
	Stamping         []stampingView // in order, when there are several impressions
	CutOuts          []cutOutView
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
	Leaks            []board.Leak
	Marks            []board.Correction
	Specks           string
	Smallest         length.Length // across the smallest cell
	PanelW           string
	Print            *printView
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

// cutOutView is a mask to cut out of paper.
type cutOutView struct {
	panel.CutOut
	Title string
}

// reliefWords says why each school presses when it does.
var reliefWords = map[card.Relief]string{
	card.Painted:   "Paint, then press: water flattens relief",
	card.Unpainted: "Press, then paint: pressed again when water has flattened it",
	card.Twice:     "Paint, press, and touch up the ridges",
}

// viewOf is what the station shows with an image picked, by its id.
func viewOf(l *desk.Laid, in desk.Studio, picked string) *view {
	c := l.Rev.Card
	v := &view{Looks: shelf.Looks(), Look: cmp.Or(c.Look, shelf.Crisp), Library: in.Library, Own: in.Own, Papers: shelf.Papers(), Inks: shelf.Inks(), PanelW: c.PanelSize().W.Typed(c.Unit)}
	v.Kinds = []shelf.ImageKind{shelf.LineImage, shelf.SolidImage, shelf.ReliefImage, shelf.Stencil, shelf.ResistImage, shelf.PrintImage}
	for i := range c.Images {
		v.Images = append(v.Images, imageRowOf(l, i))
	}
	if i := slices.IndexFunc(c.Images, func(m card.Image) bool { return m.ID == picked }); i >= 0 {
		v.Picked = &v.Images[i]
	} else if len(v.Images) > 0 {
		v.Picked = &v.Images[0]
	}
	if v.Picked != nil {
		v.Medium = mediumOf(l, in.Own, v.Picked.Image)
	}
	if c.Has(shelf.ReliefImage) {
		for _, r := range card.Reliefs() {
			v.Reliefs = append(v.Reliefs, reliefChoice{r, reliefWords[r], r == cmp.Or(c.Relief, card.Painted)})
		}
	}
	if c.Specks > 0 {
		v.Specks = length.FromMM(math.Sqrt(c.Specks)).Typed(c.Unit)
	}
	v.TextWays = card.TextWays()
	v.Texts, v.NewText = textsOf(l)
	v.InkFacts, v.PaperFacts = c.InkFacts(), c.PaperFacts()
	v.OwnInk, v.OwnPaper = c.OwnNames()
	v.Choices = ink.Rank(ink.Need{
		Look: v.Look, Paper: v.PaperFacts, OnOwn: v.OwnPaper, Own: in.Own, Wet: advice.Wets(c),
		Heat: c.Drying == card.Heat, LineMM: thinnest(l.Board), Tests: in.Tests, Goes: c.Schools.Vanishing == school.GoesIntoPaint,
	})
	if b := l.Board; b != nil {
		v.Cells = len(b.Cells)
		v.Leaks, v.Marks = board.LeaksOf(l), board.CorrectionsOf(l)
		if n := len(b.Cells); n > 0 {
			v.Smallest = length.FromMM(2 * b.Cells[n-1].InscribedMM)
		}
		v.stamping(b)
	}
	return v
}

func imageRowOf(l *desk.Laid, i int) imageRow {
	c := l.Rev.Card
	m := &c.Images[i]
	row := imageRow{
		Image: m, Width: m.Width.Typed(c.Unit), X: m.X.Typed(c.Unit), Y: m.Y.Typed(c.Unit),
		Turn: page.PlainNumber(m.Turn), High: m.Height(), Resolution: int(m.DPI() + 0.5),
		Made: cmp.Or(m.Kind, shelf.LineImage), Front: i == 0, Back: i == len(c.Images)-1,
	}
	if l.Board == nil || l.Board.Laid[i].MassMM2 == 0 {
		return row
	}
	mass, texture := l.Board.Laid[i].MassMM2, c.PaperFacts().Texture
	row.Mass = fmt.Sprintf("Its mass is %s.", length.Area(mass, c.Unit))
	if texture.Misses(1) > 0 {
		row.Mass += fmt.Sprintf(" The paper's texture leaves about %.0f %% of it white at the first impression, %.0f %% after two; a general figure, an impression check tells yours.", 100*texture.Misses(1), 100*texture.Misses(2))
	}
	return row
}

// stamping lists the impressions in order and the masks they take.
func (v *view) stamping(b *panel.Board) {
	impressions := b.Impressions()
	if len(impressions) < 2 || b.Card.InkFacts().Method != shelf.Stamped {
		return
	}
	for _, imp := range impressions {
		m := b.Card.Images[imp.Image]
		v.Stamping = append(v.Stamping, stampingView{m.Title, m.Ghost, b.Named(imp.CutOuts)})
	}
	for _, k := range b.CutOuts() {
		v.CutOuts = append(v.CutOuts, cutOutView{k, b.Card.Images[k.Image].Title})
	}
}

// cutOuts sends the outlines of a card's paper cut-outs.
func (p *place) cutOuts(w http.ResponseWriter, r *http.Request) error {
	rev, read, err := p.host.Panel(r)
	if err != nil {
		return err
	}
	b := panel.Resolve(rev.Card, read.Sheet)
	doc := &sheet.CutOuts{Unit: rev.Card.Unit, Title: rev.Card.Name + ", masks"}
	for _, k := range b.CutOuts() {
		doc.Shapes = append(doc.Shapes, sheet.CutOut{Name: rev.Card.Images[k.Image].Title, Pieces: k.Pieces, Outline: b.Laid[k.Image].Silhouette})
	}
	if len(doc.Shapes) == 0 {
		return desk.Refuse(errors.New("no image on this panel hides another, so there is no mask to cut"))
	}
	return page.SendDrawing(w, r, doc.Title, doc)
}

// thinnest is how thick the line is where it is thin, mm; 0 when not known.
func thinnest(b *panel.Board) float64 {
	if b == nil || len(b.Neighbours) == 0 {
		return 0
	}
	var thick []float64
	for _, n := range b.Neighbours {
		thick = append(thick, n.LineMed)
	}
	slices.Sort(thick)
	return thick[len(thick)/4]
}
