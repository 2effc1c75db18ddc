package mount

import (
	"fmt"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/shelf"
)

// Ids of the parts that are neither rings nor pieces.
const (
	BasePart = "base"
	LeafPart = "leaf"
)

// A Member is one thing of the finished card as it lies on it, closed.
type Member struct {
	ID     string // [BasePart], [LeafPart], the id of a ring, or of a piece
	Nth    int    // of several alike, from 0
	Name   string
	On     int         // what it lies on, by its place among the members; -1 for the base
	Face   card.Face   // of the base, on which it lies in the end
	Piece  *card.Piece // nil for what is none
	Paper  shelf.Paper
	Colour string

	card.At // from the middle of the front
	Size    length.Size
	Opening length.Size // of a frame

	By     joint.By // what holds it
	Weighs []joint.Choice
	Choice joint.Choice  // the one of By
	Chosen bool          // by the maker
	High   length.Length // what holds it lifts it so far
	Layers int           // of it, one upon the other
	Bottom length.Length // above the table
	Top    length.Length
}

// Inside reports whether it lies between the leaves of the card.
func (m *Member) Inside() bool { return m.Face == card.InsideLeft || m.Face == card.InsideRight }

// IsFrame reports whether it shows through an opening what it lies on.
func (m *Member) IsFrame() bool { return m.Opening != (length.Size{}) }

// Title names it among others: "Lantern (2 of 3)".
func (m *Member) Title() string {
	if m.Piece == nil || m.Piece.Many() < 2 {
		return m.Name
	}
	return fmt.Sprintf("%s (%d of %d)", m.Name, m.Nth+1, m.Piece.Many())
}

// Members lists the finished card from the base up: its leaf, its mats, its panel, its frames,
// and the pieces that lie somewhere, each after what it lies on. The error is that of its
// layout.
func Members(c *card.Card) ([]Member, error) {
	layout, err := c.Layout()
	if err != nil {
		return nil, err
	}
	paper := paperNamed(c.Base.Paper)
	base := Member{ID: BasePart, Name: "card base", On: -1, Face: card.FrontFace, Paper: paper, Colour: c.Base.Colour, Size: layout[0].Size, By: joint.Nothing, Layers: 1}
	base.Top = paper.Thickness * length.Length(c.Base.Fold.Layers())
	l := &laying{c, []Member{base}, map[string]int{}}
	l.inside()
	l.onFront(layout)
	l.pieces(l.piecesOn(card.FrontFace, card.BackFace))
	for i := range l.all {
		if m := &l.all[i]; m.Face == card.BackFace { // under the card when it lies on the table
			m.Bottom, m.Top = -m.Top, -m.Bottom
		}
	}
	return l.all, nil
}

type laying struct {
	*card.Card
	all []Member
	at  map[string]int // places of members by the ids of rings and pieces
}

func paperNamed(id string) shelf.Paper {
	p, err := shelf.PaperByID(id)
	if err != nil {
		return shelf.Papers()[0]
	}
	return p
}

// put adds a member, held as is chosen or best, on what it lies on.
func (l *laying) put(m Member, by joint.By, high length.Length, a joint.Asked) int {
	a.Size, a.Inside, a.Layers = m.Size, m.Inside(), m.Layers
	a.Textured = m.Paper.Texture != shelf.Smooth
	m.Weighs = joint.Weigh(a)
	m.Chosen = by != joint.Usual
	m.Choice = joint.Chosen(by, m.Weighs)
	m.By, m.High = m.Choice.By, m.Choice.By.Stands(high)
	m.Bottom = l.topOf(&m) + m.High
	if frame := l.under(&m); m.By.Facts().Raised {
		m.Bottom = max(m.Bottom, frame)
	} else if frame > 0 {
		m.Bottom = max(m.Bottom, frame+m.High)
	}
	m.Top = m.Bottom + m.Paper.Thickness*length.Length(m.Layers) + joint.Glue.Facts().Height*length.Length(m.Layers-1)
	l.all = append(l.all, m)
	return len(l.all) - 1
}

// topOf is how high that is on which a member lies. Inside it is counted from the leaf of the
// base below, behind from the base itself.
func (l *laying) topOf(m *Member) length.Length {
	on := &l.all[m.On]
	switch {
	case m.On == 0 && m.Inside():
		return on.Paper.Thickness
	case m.On == 0 && m.Face == card.BackFace:
		return 0
	}
	return on.Top
}

// under is how high a frame stands that a member lies across, 0 without.
func (l *laying) under(m *Member) (top length.Length) {
	for i := range l.all {
		if f := &l.all[i]; f.IsFrame() && m.Piece != nil && m.By != joint.Slot && m.On != i && f.crossedBy(m) {
			top = max(top, f.Top)
		}
	}
	return top
}

// crossedBy reports whether a member lies on the bars of a frame.
func (m *Member) crossedBy(o *Member) bool {
	if m.Face != o.Face || !overlap(m, o) {
		return false
	}
	s := o.Size.Around(o.Turn)
	return max(m.X-o.X, o.X-m.X)*2 > m.Opening.W-s.W || max(m.Y-o.Y, o.Y-m.Y)*2 > m.Opening.H-s.H
}

// inside puts the leaf and what lies on the inner faces, by which the base is thicker.
func (l *laying) inside() {
	if in := l.Insert; in != nil {
		leaf := Member{ID: LeafPart, Name: "leaf", Face: card.InsideRight, Paper: paperNamed(in.Paper), Colour: in.Colour, Size: l.InsertSize(), Layers: 1}
		l.at[LeafPart] = l.put(leaf, joint.Usual, 0, joint.Asked{Shape: joint.Sheet})
	}
	l.pieces(l.piecesOn(card.InsideLeft, card.InsideRight))
	base, high := &l.all[0], map[card.Face]length.Length{}
	for i := range l.all[1:] {
		m := &l.all[i+1]
		high[m.Face] = max(high[m.Face], m.Top-base.Paper.Thickness)
	}
	base.Top += high[card.InsideLeft] + high[card.InsideRight]
}

// piecesOn are the pieces that lie on some faces of the base in the end.
func (l *laying) piecesOn(faces ...card.Face) (out []*card.Piece) {
	for i := range l.Pieces {
		if slices.Contains(faces, l.faceOf(&l.Pieces[i])) {
			out = append(out, &l.Pieces[i])
		}
	}
	return out
}

// faceOf is the face of the base that a piece lies on in the end, "" where it lies nowhere.
func (l *laying) faceOf(p *card.Piece) card.Face {
	for range len(l.Pieces) + 1 {
		switch {
		case p.Place == nil || p.Kind == card.BasePiece || p.Kind == card.WholeCard:
			return ""
		case p.Place.On == card.ThePanel:
			return card.FrontFace
		case slices.Contains(card.Faces(), card.Face(p.Place.On)):
			return card.Face(p.Place.On)
		}
		on, err := l.PieceByID(p.Place.On)
		if err != nil {
			return ""
		}
		p = on
	}
	return "" // they lie on each other, which Check refuses
}

// onFront puts mats, panel and frames, which lie on what they show.
func (l *laying) onFront(layout card.Layout) {
	on := 0
	front := layout[0].Size
	var frames []func()
	var x, y length.Length
	for i, r := range layout {
		x, y = x+r.Round.Left, y+r.Round.Top
		s, _ := l.SizingOf(r.ID)
		if s == nil {
			continue
		}
		m := Member{ID: r.ID, Name: r.Name, Face: card.FrontFace, At: card.At{X: x + r.Size.W/2 - front.W/2, Y: y + r.Size.H/2 - front.H/2}, Size: r.Size, Layers: 1}
		a := joint.Asked{Shape: joint.Sheet, Covers: r.Size == front, Raised: s.By.Facts().Raised}
		lay := func() {
			m.On = on
			on = l.put(m, s.By, s.High, a)
			l.at[m.ID] = on
		}
		if r.Kind == card.PanelKind {
			m.Paper, a.Wet, a.Pressed = l.PaperFacts(), warps(&l.Work), l.Has(shelf.ReliefImage)
			lay()
			break // what is stamped on it is no member
		}
		of := &l.Layers[r.Layer]
		m.Paper, m.Colour = paperNamed(of.Paper), of.Colour
		if r.Kind == card.FrameKind {
			m.Opening, a.Shape = layout[i+1].Size, joint.Ring
			frames = append(frames, lay)
			continue
		}
		lay()
	}
	for _, lay := range slices.Backward(frames) {
		lay()
	}
}

// pieces puts pieces, each after what it lies on.
func (l *laying) pieces(all []*card.Piece) {
	for len(all) > 0 {
		var later []*card.Piece
		for _, p := range all {
			on, there := l.at[p.Place.On]
			if slices.Contains(card.Faces(), card.Face(p.Place.On)) {
				if on, there = 0, true; card.Face(p.Place.On) == card.InsideRight && l.Insert != nil {
					on = l.at[LeafPart]
				}
			}
			if !there {
				later = append(later, p)
				continue
			}
			l.piece(p, on)
		}
		if len(later) == len(all) {
			return // they lie on each other, which Check refuses
		}
		all = later
	}
}

// piece puts a piece as often as the card needs it.
func (l *laying) piece(p *card.Piece, on int) {
	m := Member{ID: p.ID, Name: p.Name, On: on, Face: l.faceOf(p), Piece: p, Paper: p.PaperFacts(), Colour: p.Colour, Size: l.SizeOf(p), Layers: 1 + p.Layers}
	for n, at := range p.Lies(m.Size) {
		m.Nth, m.At = n, at.Seen(l.all[on].At)
		if k := l.put(m, p.Place.By, p.Place.High, asks(p)); n == 0 {
			l.at[p.ID] = k
		}
	}
}

// asks is what a piece asks of what holds it.
func asks(p *card.Piece) joint.Asked {
	a := joint.Asked{Shape: joint.Sheet, Wet: warps(&p.Work), Pressed: p.Has(shelf.ReliefImage)}
	switch p.Kind {
	case card.CutOutPiece, card.Tag:
		a.Shape = joint.CutOut
	case card.DieCut:
		a.Shape = joint.Word
	}
	a.Raised = p.Kind.Facts().Raised || p.Place.By.Facts().Raised
	a.Dark = p.Outline != nil && p.Outline.Darken
	return a
}

// warps reports whether something on a piece is painted so wet that it warps.
func warps(w *card.Work) bool { return takes(w, drying.Glaze) }

// takes reports whether something on a piece is covered with so much water or more.
func takes(w *card.Work, least drying.GramsPerSquareMetre) bool {
	return slices.ContainsFunc(w.Areas, func(a card.Area) bool {
		return slices.ContainsFunc(a.Washes, func(w card.Wash) bool { return w.Technique.Laid() >= least && w.Technique.Covers() })
	})
}
