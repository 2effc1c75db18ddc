// Package format is the station of what is cut: which card, which envelope, which
// sizes follow from which.
package format

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
	"chromaqua/internal/desk"
	"chromaqua/internal/web/board"
)

// view is what the station shows: what is cut and where it goes.
type view struct {
	Formats   []fold.Format
	Envelopes []fold.Envelope
	Papers    []shelf.Paper
	Colours   []string // of the paper in the drawer
	Dies      []card.DieSet
	Turned    bool
	Rings     []ringView
	Drawing   drawing
	Offer     *offer     // a way out of a size that was refused
	Fits      []fold.Fit // well
	Loose     []fold.Fit
	Misses    []fold.Fit
	Thick     length.Length
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
	MayFollow  bool        // something else is given, so that it need not be
	MayStart   bool        // it may take the lead from what is given now
	ShowsRound string      // what shows round it, by name
}

type sideView struct {
	Side  nest.Side
	Value string
	Given bool
}

func viewOf(l *desk.Laid, drawer *paper.Stock) *view {
	c := l.Rev.Card
	front := c.Front()
	v := &view{
		Formats: fold.Formats(), Envelopes: fold.Envelopes(), Papers: shelf.Papers(), Dies: drawer.Dies, Colours: drawer.Colours(),
		Pouches: pouchesOf(c), Turned: front.W > front.H, Thick: l.Facts.Body.Thickness(), Drawing: drawingOf(l), Rings: ringsOf(l),
		Insert: c.InsertSize(), Sheet: c.SheetSize(), Window: windowOf(c), Places: placesOf(l),
	}
	if c.Words.W > 0 {
		v.Words = c.Words.W.Typed(c.Unit) + " x " + c.Words.H.Typed(c.Unit)
	}
	if e := c.Envelope; e != nil {
		fit := fold.FitInto(l.Facts.Body, fold.Envelope{Inside: e.Inside})
		v.Own, v.Inside = &fit, e.Inside.W.Typed(c.Unit)+" x "+e.Inside.H.Typed(c.Unit)
	}
	for _, f := range l.Facts.Fits {
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

func ringsOf(l *desk.Laid) []ringView {
	c := l.Rev.Card
	var out []ringView
	given := 0
	for _, r := range l.Facts.Layout {
		if r.GivenW || r.GivenH {
			given++
		}
	}
	for i, r := range l.Facts.Layout {
		v := ringView{Ring: r, Unit: c.Unit, W: r.Size.W.Typed(c.Unit), H: r.Size.H.Typed(c.Unit)}
		v.MayFollow = (r.GivenW || r.GivenH) && (given > 1 || i == 0 && c.Envelope != nil)
		v.MayStart = r.Kind != card.StampKind && !(r.GivenW && r.GivenH && given == 1 && c.Envelope == nil)
		if i > 0 {
			v.ShowsRound = l.Facts.Layout[i-1].Name
			for _, s := range []nest.Side{nest.Left, nest.Right, nest.Top, nest.Bottom} {
				v.Sides = append(v.Sides, sideView{s, r.Round.Of(s).Typed(c.Unit), *r.Round.Given.Of(s) != nil})
			}
			if r.Round.Even() {
				v.All = r.Round.Left.Typed(c.Unit)
			}
		}
		var piece *card.Sizing
		switch r.Kind {
		case card.PanelKind:
			piece, v.Index = &c.Panel, card.PanelRing
		case card.MatKind, card.FrameKind:
			v.Made = &c.Layers[r.Layer]
			piece, v.Index = &v.Made.Sizing, strconv.Itoa(r.Layer)
		}
		if piece != nil {
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
func offerOf(r *http.Request, l *desk.Laid) *offer {
	if r.PostFormValue("edit") != "size" || r.PostFormValue("start") != "" {
		return nil
	}
	u := l.Rev.Card.Unit
	w, h := r.PostFormValue("w"), r.PostFormValue("h")
	ring := l.Facts.Layout.Of(r.PostFormValue("ring"))
	if _, err := length.ParseSize(w+" x "+h, u); err != nil || ring == nil {
		return nil
	}
	return &offer{ring.ID, ring.Name, w, h}
}

// placeView is a clear place for words, on the card's front.
type placeView struct {
	Text string
	Box  board.Box // on the front, mm
}

// placesOf lists where words of the wanted size may stand.
func placesOf(l *desk.Laid) (out []placeView) {
	c, u := l.Rev.Card, l.Rev.Card.Unit
	if c.Words == (length.Size{}) {
		return nil
	}
	at := originOf(l, card.PanelRing)
	near := func(mm float64) string { return length.FromMM(mm).Near(u) }
	for _, p := range l.Facts.Places {
		out = append(out, placeView{
			fmt.Sprintf("on the panel, %s × %s, from the left %s, from the top %s", near(p.W), near(p.H), near(p.X), near(p.Y)),
			board.At(at.X+p.X, at.Y+p.Y, p.W, p.H),
		})
	}
	for _, s := range l.Facts.Layout.Strips(c.Words) {
		out = append(out, placeView{
			fmt.Sprintf("on the %s beside the rest, %s, from the left %s, from the top %s", s.On, s.Size.Near(u), s.X.Near(u), s.Y.Near(u)),
			board.At(s.X.MM(), s.Y.MM(), s.Size.W.MM(), s.Size.H.MM()),
		})
	}
	return out
}

// originOf is where a ring lies on the front, mm.
func originOf(l *desk.Laid, id string) (at panel.Place) {
	for _, r := range l.Facts.Layout {
		at.X, at.Y, at.W, at.H = at.X+r.Round.Left.MM(), at.Y+r.Round.Top.MM(), r.Size.W.MM(), r.Size.H.MM()
		if r.ID == id {
			break
		}
	}
	return at
}
