package web

import (
	"fmt"
	"net/http"
	"strconv"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/nest"
	"chromaqua/core/panel"
	"chromaqua/core/paper"
	"chromaqua/core/shelf"
	"chromaqua/core/viewfinder"
)

// formatView is the Format station: what is cut and where it goes.
type formatView struct {
	Formats   []fold.Format
	Envelopes []fold.Envelope
	Papers    []shelf.Paper
	Colours   []string // of the paper in the drawer
	Dies      []card.DieSet
	Turned    bool
	Rings     []ringView
	Layout    layoutView
	Fits      []fold.Fit // well
	Loose     []fold.Fit
	Misses    []fold.Fit
	Stack     stackView
	Pouches   []pouchView
	Own       *fold.Fit // of the envelope at hand
	Inside    string    // of an envelope of any size
	Words     string
	Places    []placeView
	Insert    length.Size
	Sheet     length.Size
	Window    *windowView
}

// ringView is one of the card's sizes with the fields that change it.
type ringView struct {
	card.Ring
	Unit       length.Unit
	W, H       string
	All        string // what shows round it, "" when its sides differ
	Sides      []sideView
	Made       *card.Layer // of a mat or frame
	Index      string      // of the layer, or "panel"; "" for rings that are no piece
	Set        string      // name of the die set
	Foam       bool
	MayFollow  bool   // something else is given, so that it need not be
	MayStart   bool   // it may take the lead from what is given now
	ShowsRound string // what shows round it, by name
}

type sideView struct {
	Side  nest.Side
	Value string
	Given bool
}

func (l *laid) formatView(drawer *paper.Stock) *formatView {
	c := l.rev.Card
	front := c.Front()
	v := &formatView{
		Formats: fold.Formats(), Envelopes: fold.Envelopes(), Papers: shelf.Papers(), Dies: drawer.Dies, Colours: drawer.Colours(),
		Pouches: pouchesOf(c), Turned: front.W > front.H, Stack: stackOf(c), Layout: l.layout(), Rings: l.rings(),
		Insert: c.InsertSize(), Sheet: c.SheetSize(), Window: windowOf(c), Places: l.places(),
	}
	if c.Words.W > 0 {
		v.Words = c.Words.W.Typed(c.Unit) + " x " + c.Words.H.Typed(c.Unit)
	}
	if e := c.Envelope; e != nil {
		fit := fold.FitInto(front, fold.Thickness(c.Stack()), fold.Envelope{Inside: e.Inside})
		v.Own, v.Inside = &fit, e.Inside.W.Typed(c.Unit)+" x "+e.Inside.H.Typed(c.Unit)
	}
	for _, f := range l.facts.Fits {
		switch {
		case f.Verdict == fold.Loose:
			v.Loose = append(v.Loose, f)
		case f.Good():
			v.Fits = append(v.Fits, f)
		default:
			v.Misses = append(v.Misses, f)
		}
	}
	return v
}

func (l *laid) rings() []ringView {
	c := l.rev.Card
	var out []ringView
	given := 0
	for _, r := range l.facts.Layout {
		if r.GivenW || r.GivenH {
			given++
		}
	}
	for i, r := range l.facts.Layout {
		v := ringView{Ring: r, Unit: c.Unit, W: r.Size.W.Typed(c.Unit), H: r.Size.H.Typed(c.Unit)}
		v.MayFollow = (r.GivenW || r.GivenH) && (given > 1 || i == 0 && c.Envelope != nil)
		v.MayStart = r.Kind != card.StampKind && !(r.GivenW && r.GivenH && given == 1 && c.Envelope == nil)
		if i > 0 {
			v.ShowsRound = l.facts.Layout[i-1].Name
			for _, s := range []nest.Side{nest.Left, nest.Right, nest.Top, nest.Bottom} {
				v.Sides = append(v.Sides, sideView{s, r.Round.Of(s).Typed(c.Unit), *r.Round.Given.Of(s) != nil})
			}
			if r.Round.Even() {
				v.All = r.Round.Left.Typed(c.Unit)
			}
		}
		var piece *card.Piece
		switch r.Kind {
		case card.PanelKind:
			piece, v.Index = &c.Panel, card.PanelRing
		case card.MatKind, card.FrameKind:
			v.Made = &c.Layers[r.Layer]
			piece, v.Index = &v.Made.Piece, strconv.Itoa(r.Layer)
		}
		if piece != nil {
			v.Foam = piece.Foam
			if piece.Die != nil {
				v.Set = piece.Die.Name
			}
		}
		out = append(out, v)
	}
	return out
}

// offer is a way out of a size that fights with another: let all follow from
// it.
type offer struct{ Ring, Name, W, H string }

// offerOf returns the way out when a request gave a size that was refused.
func offerOf(r *http.Request, l *laid) *offer {
	if r.PostFormValue("edit") != "size" || r.PostFormValue("start") != "" {
		return nil
	}
	u := l.rev.Card.Unit
	w, h := r.PostFormValue("w"), r.PostFormValue("h")
	ring := l.facts.Layout.Of(r.PostFormValue("ring"))
	if _, err := length.ParseSize(w+" x "+h, u); err != nil || ring == nil {
		return nil
	}
	return &offer{ring.ID, ring.Name, w, h}
}

// placeView is a clear place for words, on the card's front.
type placeView struct {
	Text string
	Box  box // on the front, mm
}

// places lists where words of the wanted size may stand.
func (l *laid) places() (out []placeView) {
	c, u := l.rev.Card, l.rev.Card.Unit
	if c.Words == (length.Size{}) {
		return nil
	}
	at := l.origin(card.PanelRing)
	near := func(mm float64) string { return length.FromMM(mm).Near(u) }
	for _, p := range l.facts.Places {
		out = append(out, placeView{
			fmt.Sprintf("on the panel, %s × %s, from the left %s, from the top %s", near(p.W), near(p.H), near(p.X), near(p.Y)),
			box{at.X + p.X, at.Y + p.Y, p.W, p.H},
		})
	}
	for _, s := range l.facts.Layout.Strips(c.Words) {
		out = append(out, placeView{
			fmt.Sprintf("on the %s beside the rest, %s, from the left %s, from the top %s", s.On, s.Size.Near(u), s.X.Near(u), s.Y.Near(u)),
			box{s.X.MM(), s.Y.MM(), s.Size.W.MM(), s.Size.H.MM()},
		})
	}
	return out
}

// origin is where a ring lies on the front, mm.
func (l *laid) origin(id string) (at panel.Place) {
	for _, r := range l.facts.Layout {
		at.X, at.Y, at.W, at.H = at.X+r.Round.Left.MM(), at.Y+r.Round.Top.MM(), r.Size.W.MM(), r.Size.H.MM()
		if r.ID == id {
			break
		}
	}
	return at
}

// layoutView is the card as its own drawing: what is cut and how it goes
// together, in millimetres.
type layoutView struct {
	Blank, Front box
	Faces        []faceView
	Scores       []line
	Way          fold.Way
	Across       bool // the scores run across, and the grain with them
	Apart        bool // the front is drawn beside the blank
	Gate         bool // it closes with two flaps
	View         box  // of the whole drawing
	Text         float64
	BlankSize    length.Size
	FrontSize    length.Size
	PanelSize    length.Size
	Rings        []ringBox // within the front
	Captions     []caption
	Masked       box // of the panel within its masked border; W is 0 without one
	Words        []box
	Unit         length.Unit
	PictureURL   string
	Alt          string
}

type faceView struct {
	fold.Face
	Box box
}

// caption is a line of text under the drawing.
type caption struct {
	Text string
	Y    float64
}

func (v *layoutView) caption(format string, of ...any) {
	at := max(v.Blank.H, v.Front.H) + (4+1.4*float64(len(v.Captions)))*v.Text
	v.Captions = append(v.Captions, caption{fmt.Sprintf(format, of...), at})
}

// ringBox is a ring as drawn.
type ringBox struct {
	ID, Name string
	Box      box
	Kind     card.RingKind
	Edge     card.Edge // of its die, "" without
	Hole     *box      // of a frame
	Grips    []grip
}

// grip is an edge to drag.
type grip struct {
	Side nest.Side
	Box  box
}

// gripMM is how thick a grip is; margins are seldom narrower.
const gripMM = 2.4

func (l *laid) layout() layoutView {
	c := l.rev.Card
	blank := c.Blank()
	v := layoutView{
		Blank: box{0, 0, blank.Size.W.MM(), blank.Size.H.MM()}, BlankSize: blank.Size, Across: blank.Grain == fold.Horizontal,
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
			v.Scores = append(v.Scores, line{0, at, v.Blank.W, at})
		} else {
			v.Scores = append(v.Scores, line{at, 0, at, v.Blank.H})
		}
	}
	for _, f := range blank.Faces {
		v.Faces = append(v.Faces, faceView{f, box{f.X.MM(), f.Y.MM(), f.Size.W.MM(), f.Size.H.MM()}})
	}
	m := 5 * v.Text
	v.View = box{-m, -m, v.Blank.W + 2*m, 0}
	if !v.Apart {
		v.Front = box{front.X.MM(), front.Y.MM(), front.Size.W.MM(), front.Size.H.MM()}
	} else {
		v.Front = box{v.Blank.W + 3*v.Text, 0, v.FrontSize.W.MM(), v.FrontSize.H.MM()}
		v.View.W += v.Front.W + 3*v.Text
	}
	v.drawRings(l)
	v.View.H = v.Captions[len(v.Captions)-1].Y + v.Text - v.View.Y
	if c.Line() != nil {
		v.PictureURL = fmt.Sprintf("%s?v=%d", cardPath(l.rev.ID, "panel.svg"), l.rev.Seq)
	}
	return v
}

// drawRings lays the rings on the front, with a caption for each that is cut.
func (v *layoutView) drawRings(l *laid) {
	c := l.rev.Card
	v.Alt = fmt.Sprintf("The blank of %s with %s; on the front of %s", v.BlankSize.With(c.Unit), plural(len(v.Scores), "score"), v.FrontSize.With(c.Unit))
	for i, r := range l.facts.Layout {
		at := l.origin(r.ID)
		b := ringBox{ID: r.ID, Name: r.Name, Box: box{at.X, at.Y, at.W, at.H}, Kind: r.Kind}
		die := c.Panel.Die
		switch r.Kind {
		case card.FrameKind:
			in := l.origin(l.facts.Layout[i+1].ID)
			b.Hole = &box{in.X, in.Y, in.W, in.H}
			fallthrough
		case card.MatKind, card.OpeningKind:
			die = c.Layers[r.Layer].Die
			v.caption("%s %s, round it %s", r.Name, r.Size.With(c.Unit), shown(r.Round, c.Unit))
		case card.PanelKind:
			if l.facts.Layout[i-1].Kind == card.OpeningKind && r.Round.Even() {
				v.caption("the panel reaches %s under the frame", (-r.Round.Left).With(c.Unit))
			} else if over := l.facts.Layout.Overhang(i); over > 0 {
				v.caption("the panel overhangs by up to %s, trimmed flush", over.With(c.Unit))
			} else {
				v.caption("round the panel %s", shown(r.Round, c.Unit))
			}
			if m := c.Painting.Border.MM(); m > 0 {
				v.Masked = box{at.X + m, at.Y + m, at.W - 2*m, at.H - 2*m}
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
	for _, p := range l.places() {
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

func gripsOf(b box) []grip {
	const g = gripMM
	return []grip{
		{nest.Left, box{b.X - g/2, b.Y, g, b.H}}, {nest.Right, box{b.Right() - g/2, b.Y, g, b.H}},
		{nest.Top, box{b.X, b.Y - g/2, b.W, g}}, {nest.Bottom, box{b.X, b.Bottom() - g/2, b.W, g}},
	}
}

// stackView is the card from the side, much too thick.
type stackView struct {
	Layers []stackLayer
	Thick  length.Length
	W, H   float64
	Top    float64 // of the uppermost layer
	Bottom float64
}

type stackLayer struct {
	fold.Layer
	X, Y, W, H float64
	LabelY     float64
	Kind       string
}

// Measures of the side view, its own units.
const (
	stackScale  = 26.0 // per millimetre
	stackWide   = 200.0
	stackLabel  = 23.0
	stackMargin = 14.0
)

// stackOf draws the stack with its base at the bottom; labels keep apart.
func stackOf(c *card.Card) stackView {
	stack := c.Stack()
	v := stackView{Thick: fold.Thickness(stack), W: 560}
	high := max(v.Thick.MM()*stackScale, float64(len(stack))*stackLabel)
	v.H = high + 2*stackMargin
	y := v.H - stackMargin - (high-v.Thick.MM()*stackScale)/2
	v.Bottom = y
	inset := 0.0
	for i, s := range stack {
		h := s.Thickness.MM() * stackScale
		y -= h
		kind := "paper"
		if s.Name == "tape" || s.Name == "foam" {
			kind = s.Name
		} else if i > 0 {
			inset += 7
		}
		v.Layers = append(v.Layers, stackLayer{s, 46 + inset, y, stackWide - 2*inset, h, v.H - stackMargin - (float64(i)+0.3)*high/float64(len(stack)), kind})
	}
	v.Top = y
	return v
}

// windowView is the viewfinder over the painted sheet.
type windowView struct {
	*card.Window
	Size    length.Size // of the sheet
	View    box
	W, H    float64 // of the sheet, mm
	PW, PH  float64 // of the panel
	CX, CY  float64
	Cuts    []viewfinder.Cut
	Over    length.Length
	Width   string
	XT, YT  string
	TurnT   string
	Text    float64
	Picture string
}

func windowOf(c *card.Card) *windowView {
	w := c.Window
	if w == nil {
		return nil
	}
	sheet, p := w.Size(), c.PanelSize()
	v := &windowView{
		Window: w, Size: sheet, W: sheet.W.MM(), H: sheet.H.MM(), PW: p.W.MM(), PH: p.H.MM(), CX: w.X.MM(), CY: w.Y.MM(),
		Width: w.Width.Typed(c.Unit), XT: w.X.Typed(c.Unit), YT: w.Y.Typed(c.Unit), TurnT: fmt.Sprintf("%.4g", w.Turn),
		Picture: "/images/" + w.Image,
	}
	v.Text = max(v.W, v.H) * 0.035
	v.View = box{-v.Text, -v.Text, v.W + 2*v.Text, v.H + 2*v.Text}
	finder := c.Viewfinder()
	if v.Over = finder.Overhang(sheet); v.Over == 0 {
		v.Cuts = finder.Cuts(sheet)
	}
	return v
}
