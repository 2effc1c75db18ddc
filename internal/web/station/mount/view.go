package mount

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/mount"
	"chromaqua/core/wording"
	"chromaqua/internal/web/page"
	"chromaqua/internal/web/station"
)

// view is what the station shows.
type view struct {
	Unit    length.Unit
	Thick   length.Length
	Grams   float64
	Fit     *fold.Fit // of the envelope at hand, else of the closest
	Post    []string  // what post may have rules for
	Joints  []jointView
	Loose   []*card.Piece // that lie nowhere
	Items   []itemView
	Takes   []takenView
	Words   []wordsView
	Before  int // of them, that are put on before anything is glued
	Sets    time.Duration
	First   []mount.Flat // that is flattened
	Drawing drawing
	Maker   string
	Today   string
}

// jointView is one joint with what may be changed of it.
type jointView struct {
	N       int
	Title   string
	Member  *mount.Member
	Open    bool
	Why     string
	Wrong   []string
	Ways    []joint.Choice
	Best    joint.By
	High    string // of foam, "" for what does not lift
	Amount  string
	Note    string // what is done with it
	Parts   []partView
	Layers  int
	Piece   bool
	Twins   []twinView // that it may lie over
	Spreads bool
}

// partView is where one part lies on what it lies on.
type partView struct {
	Nth        int
	Name       string
	X, Y, Turn string
}

type twinView struct{ ID, Title string }

// itemView is something set on the card.
type itemView struct {
	Words, On, How string
	Stands         length.Length
	Sets           time.Duration
}

// takenView is how much of an adhesive is taken in all.
type takenView struct{ Name, Amount string }

// wordsView is what is written or stamped somewhere on the card.
type wordsView struct {
	Text, On, Way string
	Address       string // of the piece it is on
	Inside        bool
	Turned        float64
}

// thickForPost is from which thickness post often has rules of its own, a general figure.
const thickForPost = length.Inch / 4

func (p *place) viewOf(v *station.Visit) (*view, error) {
	c := v.Rev.Whole
	a, err := mount.Of(c)
	if err != nil {
		return nil, err
	}
	shown := &view{Unit: c.Unit, Thick: a.Thick, Grams: a.Grams, Fit: fitOf(c), Sets: a.Sets(), First: mount.Flattening(c)}
	shown.Post = postOf(c, a)
	for i := range a.Joints {
		shown.Joints = append(shown.Joints, jointOf(c, a, i, v.FormValue("part")))
	}
	for i := range c.Pieces {
		if k := &c.Pieces[i]; k.Place == nil && k.Kind != card.BasePiece && k.Kind != card.WholeCard {
			shown.Loose = append(shown.Loose, k)
		}
	}
	for _, it := range a.Items {
		f := it.Kind.Facts()
		shown.Items = append(shown.Items, itemView{it.Words(), it.On, f.How, it.Stands(), f.Sets})
	}
	shown.Takes = takenBy(a, c.Unit)
	for _, t := range wordsOn(c) {
		if t.inside {
			shown.Before++
		}
		shown.Words = append(shown.Words, wordsView{t.Words(), t.on, string(t.By), v.Rev.At(t.piece).Address(), t.inside, t.Turn})
	}
	shown.Maker, shown.Today = v.Studio.Bench.Maker, time.Now().Format(time.DateOnly)
	shown.Drawing = p.drawingOf(v, a)
	return shown, nil
}

// fitOf holds the card against the envelope at hand, or the closest of the standard ones.
func fitOf(c *card.Card) *fold.Fit {
	body := mount.Body(c)
	if e := c.Envelope; e != nil {
		fit := fold.FitInto(body, fold.Envelope{Name: "the envelope at hand", Inside: e.Inside})
		return &fit
	}
	if fits := fold.FitAll(body); len(fits) > 0 && fits[0].Good() {
		return &fits[0]
	}
	return nil
}

// postOf lists what post may ask more for.
func postOf(c *card.Card, a *mount.Assembly) (out []string) {
	if f := c.Front(); f.W == f.H {
		out = append(out, "square")
	}
	if a.Thick >= thickForPost {
		out = append(out, "thick")
	}
	if slices.ContainsFunc(a.Items, func(it mount.Item) bool { return it.Kind == joint.Gem }) || a.Raised() {
		out = append(out, "uneven, so that it may count as rigid")
	}
	return out
}

func jointOf(c *card.Card, a *mount.Assembly, i int, open string) jointView {
	j := &a.Joints[i]
	m := &a.Members[j.Members[0]]
	best := m.Weighs[0].By
	v := jointView{N: i + 1, Title: strings.TrimPrefix(a.Title(j), "Mount "), Member: m, Why: m.Choice.Why, Ways: m.Weighs, Best: best, Amount: amountWords(m.By, j.Amount, c.Unit), Layers: m.Layers - 1, Piece: m.Piece != nil, Open: open == m.ID}
	if m.By.Facts().Raised {
		v.High = m.High.Typed(c.Unit)
	}
	if j.Flush > 0 {
		v.Note = fmt.Sprintf("It reaches %s over: trim it flush from behind.", j.Flush.With(c.Unit))
	}
	for _, f := range a.Faults {
		if slices.Contains(j.Members, f.Member) {
			v.Wrong = append(v.Wrong, wording.Sentence(f.Why))
		}
	}
	if m.Piece == nil {
		return v
	}
	for n, at := range m.Piece.Lies(m.Size) {
		v.Parts = append(v.Parts, partView{n, a.Members[j.Members[0]].Title(), at.X.Typed(c.Unit), at.Y.Typed(c.Unit), page.PlainNumber(at.Turn)})
	}
	v.Spreads = m.Piece.Many() > 1
	v.Twins = twinsOf(c, m.Piece)
	return v
}

// twinsOf are the images of what a piece lies on that it may lie over: the same as its own.
func twinsOf(c *card.Card, p *card.Piece) (out []twinView) {
	below, err := c.Alone(p.Place.On)
	if err != nil || len(p.Images) == 0 {
		return nil
	}
	for _, m := range below.Images {
		if m.Image == p.Images[0].Image {
			out = append(out, twinView{m.ID, m.Title})
		}
	}
	return out
}

// amountWords says how much of an adhesive is taken.
func amountWords(by joint.By, a joint.Amount, u length.Unit) string {
	if a == (joint.Amount{}) {
		return ""
	}
	return measured(a, u) + " of " + by.Facts().Name
}

// measured says an amount in what it is measured by.
func measured(a joint.Amount, u length.Unit) string {
	var parts []string
	if a.Tape > 0 {
		parts = append(parts, a.Tape.Near(u))
	}
	if a.MM2 > 0 {
		parts = append(parts, length.Area(a.MM2, u))
	}
	if a.Dots > 0 {
		parts = append(parts, wording.Count(a.Dots, "dot"))
	}
	return wording.And(parts)
}

// takenBy adds up the adhesives by name, in the order they are needed.
func takenBy(a *mount.Assembly, u length.Unit) (out []takenView) {
	sum := map[string]joint.Amount{}
	var names []string
	for i := range a.Joints {
		j := &a.Joints[i]
		name := a.Members[j.Members[0]].By.Facts().Name
		s, known := sum[name]
		if !known {
			names = append(names, name)
		}
		sum[name] = joint.Amount{Tape: s.Tape + j.Amount.Tape, MM2: s.MM2 + j.Amount.MM2, Dots: s.Dots + j.Amount.Dots}
	}
	for _, name := range names {
		out = append(out, takenView{wording.Upper(name), measured(sum[name], u)})
	}
	return out
}

// textOn is words on a piece.
type textOn struct {
	*card.Text
	piece, on string
	inside    bool
}

// wordsOn lists the words on all pieces, those inside first: they are put on while the card
// lies flat.
func wordsOn(c *card.Card) (out []textOn) {
	add := func(id, on string, inside bool, w *card.Work) {
		for i := range w.Acts {
			if t := w.Acts[i].Text; t != nil {
				out = append(out, textOn{t, id, on, inside})
			}
		}
	}
	for i := range c.Pieces {
		p := &c.Pieces[i]
		on, face := p.Name, p.Face
		if p.Place != nil {
			face = card.Face(p.Place.On)
			on += ", on " + c.PlaceName(p.Place.On)
		}
		add(p.ID, on, face == card.InsideLeft || face == card.InsideRight, &p.Work)
	}
	add(card.ThePanel, "the panel", false, &c.Work)
	slices.SortStableFunc(out, func(a, b textOn) int {
		switch {
		case a.inside == b.inside:
			return 0
		case a.inside:
			return -1
		}
		return 1
	})
	return out
}

// Ounces is its weight in ounces.
func (v *view) Ounces() float64 { return v.Grams / mount.Ounce }
