package format

import (
	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/paper"
	"chromaqua/core/shelf"
	"chromaqua/internal/desk"
	"chromaqua/internal/web/page"
	"chromaqua/internal/web/station"
)

// pieceView is a piece beside the panel: how large it is, what it is cut from, how it is
// cut, and where it lies.
type pieceView struct {
	*card.Piece
	Facts      card.PieceFact
	Many       int
	W, H       string // as given
	Now        length.Size
	Papers     []shelf.Paper
	Own        []shelf.Own
	OwnPaper   string
	Faces      []card.Face
	Places     []placeChoice
	X, Y, Turn string
	By         joint.By
	Joints     []joint.Fact
	Margin     string // round its line
	Dies       []card.DieSet
	Die        string
	First      bool // of the pieces
	Last       bool
}

// placeChoice is something a piece may lie on.
type placeChoice struct {
	ID, Name string
	Now      bool
}

// pieceOf is what is shown of the piece at hand.
func pieceOf(l *desk.Laid, own []shelf.Own, drawer *paper.Stock) *pieceView {
	c := l.Rev.Whole
	p, err := c.PieceByID(l.Rev.Piece)
	if err != nil {
		return nil
	}
	typed := func(s length.Length) string {
		if s == 0 {
			return ""
		}
		return s.Typed(c.Unit)
	}
	v := &pieceView{
		Piece: p, Facts: p.Kind.Facts(), Many: p.Many(), W: typed(p.Size.W), H: typed(p.Size.H), Now: c.SizeOf(p), Papers: shelf.Papers(), Own: own,
		Joints: joint.Facts(), First: c.Pieces[0].ID == p.ID, Last: c.Pieces[len(c.Pieces)-1].ID == p.ID,
	}
	if drawer != nil {
		v.Dies = drawer.Dies
	}
	if p.Die != nil {
		v.Die = p.Die.Name
	}
	if p.Kind == card.BasePiece {
		v.Faces = card.Faces()
	}
	_, v.OwnPaper = p.OwnNames()
	if p.Outline != nil {
		v.Margin = p.Outline.Margin.Typed(c.Unit)
	}
	on := ""
	if at := p.Place; at != nil {
		on, v.By, v.X, v.Y, v.Turn = at.On, at.By, at.X.Typed(c.Unit), at.Y.Typed(c.Unit), page.PlainNumber(at.Turn)
	}
	add := func(id, name string) { v.Places = append(v.Places, placeChoice{id, name, id == on}) }
	add("", "nowhere yet")
	add(card.ThePanel, "the panel")
	for _, f := range card.Faces() {
		add(string(f), c.PlaceName(string(f)))
	}
	for i := range c.Pieces {
		if o := &c.Pieces[i]; o.ID != p.ID && o.Kind != card.BasePiece {
			add(o.ID, o.Name)
		}
	}
	return v
}

// showPiece shows a piece in place of the card's format.
func showPiece(v *station.Visit) {
	v.Page.Station.Drawing, v.Page.Station.Question = "", "What is it, how large, and where does it lie?"
	v.Page.View = pieceOf(v.Laid, v.Studio.Own, v.Studio.Drawer)
	v.Page.Board.Says = "The piece by itself. Lay images on it at the Line station."
}

// setPiece changes a piece; a paper of the maker's own is as the shelf has it.
func (s *place) setPiece(e *station.Editing) (change.Done, error) {
	var c change.Piece
	if err := page.Decode(e.Request, &c); err != nil {
		return change.Done{}, err
	}
	if m := c.Paper; m != nil {
		var err error
		if m.ID, m.Own, err = s.host.Material(e.Context(), shelf.OwnPaper, m.ID, m.Own); err != nil {
			return change.Done{}, err
		}
	}
	return e.Make(c)
}
