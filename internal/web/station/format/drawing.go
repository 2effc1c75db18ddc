package format

import (
	"fmt"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/nest"
	"chromaqua/core/wording"
	"chromaqua/internal/desk"
	"chromaqua/internal/web/board"
	"chromaqua/internal/web/page"
)

// drawing is the card as its own drawing: what is cut and how it goes
// together, in millimetres.
type drawing struct {
	Blank, Front board.Box
	Faces        []faceView
	Scores       []board.Line
	Way          fold.Way
	Across       bool      // the scores run across, and the grain with them
	Apart        bool      // the front is drawn beside the blank
	Gate         bool      // it closes with two flaps
	View         board.Box // of the whole drawing
	Text         float64
	BlankSize    length.Size
	FrontSize    length.Size
	PanelSize    length.Size
	Rings        []ringBox // within the front
	Captions     []string  // lines under the drawing
	Masked       board.Box // of the panel within its masked border; W is 0 without one
	Words        []board.Box
	Unit         length.Unit
	PictureURL   string
	Alt          string
}

type faceView struct {
	fold.Face
	Box board.Box
}

func (v *drawing) caption(format string, of ...any) {
	v.Captions = append(v.Captions, fmt.Sprintf(format, of...))
}

// Foot is where the sizes of the faces stand, under which captions follow.
func (v *drawing) Foot() float64 { return max(v.Blank.H, v.Front.H) + 2.5*v.Text }

// ringBox is a ring as drawn.
type ringBox struct {
	ID, Name string
	Box      board.Box
	Kind     card.RingKind
	Edge     card.Edge  // of its die, "" without
	Hole     *board.Box // of a frame
	Grips    []grip
}

// grip is an edge to drag.
type grip struct {
	Side nest.Side
	Box  board.Box
}

// gripMM is how thick a grip is; margins are seldom narrower.
const gripMM = 2.4

func drawingOf(l *desk.Laid) drawing {
	c := l.Rev.Card
	blank := c.Blank()
	v := drawing{
		Blank: board.At(0, 0, blank.Size.W.MM(), blank.Size.H.MM()), BlankSize: blank.Size, Across: blank.Grain == fold.Horizontal,
		FrontSize: c.Front(), PanelSize: c.PanelSize(), Unit: c.Unit, Gate: c.Base.Fold == fold.Gate,
	}
	front, ok := blank.Front()
	v.Apart = !ok || c.Base.Inside
	wide := v.Blank.W
	if v.Apart {
		wide += v.FrontSize.W.MM()
	}
	v.Text = max(wide*0.8, v.Blank.H) * 0.035
	for _, s := range blank.Scores {
		v.Way = s.Way
		if at := s.At.MM(); v.Across {
			v.Scores = append(v.Scores, board.Between(0, at, v.Blank.W, at))
		} else {
			v.Scores = append(v.Scores, board.Between(at, 0, at, v.Blank.H))
		}
	}
	for _, f := range blank.Faces {
		v.Faces = append(v.Faces, faceView{f, board.At(f.X.MM(), f.Y.MM(), f.Size.W.MM(), f.Size.H.MM())})
	}
	m := 5 * v.Text
	v.View = board.At(-m, -m, v.Blank.W+2*m, 0)
	if !v.Apart {
		v.Front = board.At(front.X.MM(), front.Y.MM(), front.Size.W.MM(), front.Size.H.MM())
	} else {
		v.Front = board.At(v.Blank.W+3*v.Text, 0, v.FrontSize.W.MM(), v.FrontSize.H.MM())
		v.View.W += v.Front.W + 3*v.Text
	}
	v.drawRings(l)
	v.View.H = v.Foot() + (1+1.4*float64(len(v.Captions)))*v.Text - v.View.Y
	if c.Line() != nil {
		v.PictureURL = fmt.Sprintf("%s?v=%d", page.CardAddress(l.Rev.Address(), "panel.svg"), l.Rev.Seq)
	}
	return v
}

// drawRings lays the rings on the front, with a caption for each that is cut.
func (v *drawing) drawRings(l *desk.Laid) {
	c := l.Rev.Card
	v.Alt = fmt.Sprintf("The blank of %s with %s; on the front of %s", v.BlankSize.With(c.Unit), wording.Count(len(v.Scores), "score"), v.FrontSize.With(c.Unit))
	for i, r := range l.Facts.Layout {
		at := originOf(l, r.ID)
		b := ringBox{ID: r.ID, Name: r.Name, Box: board.At(at.X, at.Y, at.W, at.H), Kind: r.Kind}
		die := c.Panel.Die
		switch r.Kind {
		case card.FrameKind:
			in := originOf(l, l.Facts.Layout[i+1].ID)
			b.Hole = new(board.At(in.X, in.Y, in.W, in.H))
			fallthrough
		case card.MatKind, card.OpeningKind:
			die = c.Layers[r.Layer].Die
			v.caption("%s %s, round it %s", r.Name, r.Size.With(c.Unit), shown(r.Round, c.Unit))
		case card.PanelKind:
			if l.Facts.Layout[i-1].Kind == card.OpeningKind && r.Round.Even() {
				v.caption("the panel reaches %s under the frame", (-r.Round.Left).With(c.Unit))
			} else if over := l.Facts.Layout.Overhang(i); over > 0 {
				v.caption("the panel overhangs by up to %s, trimmed flush", over.With(c.Unit))
			} else {
				v.caption("round the panel %s", shown(r.Round, c.Unit))
			}
			if m := c.Painting.Border.MM(); m > 0 {
				v.Masked = board.At(at.X+m, at.Y+m, at.W-2*m, at.H-2*m)
			}
		}
		if die != nil && r.Die != (length.Size{}) {
			b.Edge = die.Edge
		}
		if i > 0 {
			v.Alt += fmt.Sprintf(", the %s of %s", r.Name, r.Size.With(c.Unit))
		}
		b.Grips = gripsOf(b.Box)
		v.Rings = append(v.Rings, b)
	}
	for _, p := range placesOf(l) {
		v.Words = append(v.Words, p.Box)
	}
}

// shown words what shows round a ring.
func shown(s card.Sides, u length.Unit) string {
	if s.Even() {
		return s.Left.With(u)
	}
	if s.Left == s.Right && s.Top == s.Bottom {
		return s.Left.With(u) + " beside, " + s.Top.With(u) + " above and below"
	}
	return fmt.Sprintf("%s left, %s right, %s above, %s below", s.Left.In(u), s.Right.In(u), s.Top.In(u), s.Bottom.With(u))
}

func gripsOf(b board.Box) []grip {
	const g = gripMM
	return []grip{
		{nest.Left, board.At(b.X-g/2, b.Y, g, b.H)}, {nest.Right, board.At(b.Right()-g/2, b.Y, g, b.H)},
		{nest.Top, board.At(b.X, b.Y-g/2, b.W, g)}, {nest.Bottom, board.At(b.X, b.Bottom()-g/2, b.W, g)},
	}
}
