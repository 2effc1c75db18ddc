package card

import (
	"cmp"
	"errors"
	"fmt"
	"slices"
	"strings"

	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/nest"
	"chromaqua/core/viewfinder"
)

// usual are the margins where nothing else is given: what makers usually take, on the
// marks of their ruler.
type usual struct {
	reveal length.Length
	border length.Length // of the panel round what is stamped on it
	bar    length.Length // of a frame
	tuck   length.Length // by which a panel reaches under its frame, all round; negative
}

func usualFor(u length.Unit) usual {
	const mm = length.Millimetre
	if u == length.Millimetres {
		return usual{3 * mm, 6 * mm, 12 * mm, -3 * mm}
	}
	return usual{length.Inch / 8, length.Inch / 4, length.Inch / 2, -length.Inch / 8}
}

// Ids of rings that there is one of; "layer-0" and "opening-0" are the others.
const (
	FrontRing = "front"
	PanelRing = "panel"
	StampRing = "stamp"
)

// Ring is one of the card's sizes, worked out.
type Ring struct {
	ID    string // "front", "layer-0", "opening-0", "panel", "stamp"
	Kind  RingKind
	Layer int    // index of the layer of a mat, frame or opening
	Name  string // in words
	nest.Found
	GivenW, GivenH bool
	From           string      // in words, what a size that is not given follows from
	Die            length.Size // that cuts it; zero without
	Asked          length.Size // what it would measure without its die
	Round          Sides       // what shows round it of the ring it lies in
}

// RingKind is what a ring is.
type RingKind string

// The kinds of rings.
const (
	FrontKind   RingKind = "front"
	MatKind     RingKind = RingKind(Mat)
	FrameKind   RingKind = RingKind(Frame)
	OpeningKind RingKind = "opening" // of a frame
	PanelKind   RingKind = "panel"
	StampKind   RingKind = "stamp"
)

// Sides is what shows on the four sides of a ring, and which of them are given.
type Sides struct {
	nest.Sides
	Given nest.Margin
}

// Layout is the card from its front in.
type Layout []Ring

// Of returns the ring with that id, nil when there is none.
func (l Layout) Of(id string) *Ring {
	for i := range l {
		if l[i].ID == id {
			return &l[i]
		}
	}
	return nil
}

// Strip is a part of the front, from its top left corner, that shows of one
// layer beside the next.
type Strip struct {
	On   string // the layer's name
	X, Y length.Length
	Size length.Size
}

// Strips returns what shows of front, mats and frames beside what lies on them,
// as far as it holds words of a size; the roomiest first.
func (l Layout) Strips(words length.Size) (out []Strip) {
	var x, y length.Length
	for i, r := range l[:len(l)-1] {
		in := l[i+1].Size
		m := r.Margin
		if r.Kind != PanelKind && r.Kind != OpeningKind {
			for _, s := range []Strip{
				{X: x, Y: y, Size: length.Size{W: r.Size.W, H: m.Top}},
				{X: x, Y: y + m.Top + in.H, Size: length.Size{W: r.Size.W, H: m.Bottom}},
				{X: x, Y: y, Size: length.Size{W: m.Left, H: r.Size.H}},
				{X: x + m.Left + in.W, Y: y, Size: length.Size{W: m.Right, H: r.Size.H}},
			} {
				if s.On = r.Name; s.Size.W >= words.W && s.Size.H >= words.H {
					out = append(out, s)
				}
			}
		}
		x, y = x+m.Left, y+m.Top
	}
	slices.SortStableFunc(out, func(a, b Strip) int {
		return cmp.Compare(min(b.Size.W.MM()/words.W.MM(), b.Size.H.MM()/words.H.MM()), min(a.Size.W.MM()/words.W.MM(), a.Size.H.MM()/words.H.MM()))
	})
	return out
}

// Hidden is how much of the panel a frame covers on each side.
func (l Layout) Hidden() (out nest.Sides) {
	for i, r := range l {
		if r.Kind == PanelKind && i > 0 && l[i-1].Kind == OpeningKind {
			out = nest.Sides{Left: max(0, -r.Round.Left), Right: max(0, -r.Round.Right), Top: max(0, -r.Round.Top), Bottom: max(0, -r.Round.Bottom)}
		}
	}
	return out
}

// Overhang is how far ring i reaches at most over what it lies on, to be trimmed
// flush; what a frame covers and what is stamped does not count.
func (l Layout) Overhang(i int) length.Length {
	if i == 0 || l[i].Kind == StampKind || l[i-1].Kind == OpeningKind {
		return 0
	}
	m := l[i].Round
	return max(0, -min(m.Left, m.Right, m.Top, m.Bottom))
}

// Front returns the size of the card's front; zero when it cannot be worked
// out, which [Card.Check] reports.
func (c *Card) Front() length.Size { return c.sizeOf(FrontRing) }

// Blank returns the piece the base is cut to.
func (c *Card) Blank() fold.Blank {
	b := fold.BlankFor(c.Front(), c.Base.Fold, c.Unit)
	if c.Base.Inside {
		return b.InsideUp()
	}
	return b
}

// PanelSize returns the size the painted panel is cut to.
func (c *Card) PanelSize() length.Size { return c.sizeOf(PanelRing) }

// LayerSize returns the outer size of a mat or frame.
func (c *Card) LayerSize(i int) length.Size { return c.sizeOf(layerRing(i)) }

// SheetSize returns the size of the sheet the panel is painted on.
func (c *Card) SheetSize() length.Size {
	p := c.PanelSize()
	return length.Size{W: p.W + 2*c.Painting.Spare, H: p.H + 2*c.Painting.Spare}
}

// Viewfinder returns the window over the painted sheet, which must be there.
func (c *Card) Viewfinder() viewfinder.Window {
	return viewfinder.Window{Size: c.PanelSize(), X: c.Window.X, Y: c.Window.Y, Turn: c.Window.Turn}
}

// InsertSize returns the size of the leaf for the inside.
func (c *Card) InsertSize() length.Size {
	f := c.Front()
	if c.Insert == nil {
		return length.Size{}
	}
	return length.Size{W: f.W - 2*c.Insert.Margin, H: f.H - 2*c.Insert.Margin}
}

func (c *Card) sizeOf(id string) length.Size {
	l, err := c.Layout()
	if r := l.Of(id); err == nil && r != nil {
		return r.Size
	}
	return length.Size{}
}

func layerRing(i int) string   { return fmt.Sprintf("layer-%d", i) }
func openingRing(i int) string { return fmt.Sprintf("opening-%d", i) }

// LayerName says in words which layer it is: "mat", or "mat 2" of several.
func (c *Card) LayerName(i int) string {
	n, all := 0, 0
	for k, l := range c.Layers {
		if l.Kind == c.Layers[i].Kind {
			all++
			if k <= i {
				n++
			}
		}
	}
	if all == 1 {
		return string(c.Layers[i].Kind)
	}
	return fmt.Sprintf("%s %d", c.Layers[i].Kind, n)
}

// sized is where the card keeps what is given of a ring.
type sized struct {
	id     string
	kind   RingKind
	layer  int
	name   string
	size   *length.Size
	round  *nest.Margin // its margin within the ring it lies in; nil for the front
	usual  length.Length
	yields bool
	die    *DieSet
}

// sizes lists the rings with where they are kept, from the outside in.
func (c *Card) sizes() []sized {
	out := []sized{{id: FrontRing, kind: FrontKind, name: "front", size: &c.Base.Front}}
	by := usualFor(c.Unit)
	shown := by.reveal
	for i := range c.Layers {
		l := &c.Layers[i]
		out = append(out, sized{layerRing(i), RingKind(l.Kind), i, c.LayerName(i), &l.Size, &l.Margin, shown, false, l.Die})
		shown = by.reveal
		if l.Kind == Frame {
			out = append(out, sized{openingRing(i), OpeningKind, i, c.LayerName(i) + "'s opening", &l.Opening, &l.Bar, by.bar, false, nil})
			shown = by.tuck
		}
	}
	out = append(out, sized{PanelRing, PanelKind, 0, "panel", &c.Panel.Size, &c.Panel.Margin, shown, false, c.Panel.Die})
	if c.Stamp != nil {
		out = append(out, sized{StampRing, StampKind, 0, "stamp", &c.Stamp.Size, &c.Stamp.Border, by.border, true, nil})
	}
	return out
}

// Layout works out the card's sizes from those that are given. A front that is
// not given follows from the envelope at hand, unless what lies on it would not
// go into that. The error words what fights, in the maker's unit.
func (c *Card) Layout() (Layout, error) {
	if c.Envelope == nil || c.Base.Front != (length.Size{}) {
		return c.layout(length.Size{})
	}
	// How much the layers take up follows from how far they are set in, and that from
	// the front: the first front leaves a general thickness, the second what they take.
	first, err := c.layout(c.frontFor(length.Size{W: usualThick, H: usualThick}))
	if err != nil {
		return c.layout(length.Size{})
	}
	b := c.ringBody(first)
	needs := b.Needs()
	if finer, err := c.layout(c.frontFor(length.Size{W: needs.W - b.Front.W, H: needs.H - b.Front.H})); err == nil {
		return finer, nil
	}
	return first, nil
}

// layout works the sizes out; envelope is the front that follows from it, zero without.
func (c *Card) layout(envelope length.Size) (Layout, error) {
	kept := c.sizes()
	rings := make([]nest.Ring, len(kept))
	for i, k := range kept {
		rings[i].Name, rings[i].Size = k.name, *k.size
		if i > 0 {
			rings[i-1].Margin, rings[i-1].Usual, rings[i-1].Yields = *k.round, k.usual, k.yields
		}
	}
	byEnvelope := envelope != length.Size{}
	if byEnvelope {
		rings[0].Size = envelope
	}
	byImage := c.Stamp != nil && c.Line() != nil && c.Stamp.Size == length.Size{}
	if byImage {
		rings[len(rings)-1].Size = c.Line().Size()
	}
	found, asked, err := solveDies(rings, kept, c.Unit.Mark())
	if err != nil {
		var fight *nest.Fight
		if errors.As(err, &fight) {
			return nil, errors.New(fight.With(c.Unit))
		}
		return nil, err
	}
	out := make(Layout, len(found))
	for i, f := range found {
		r := &out[i]
		*r = Ring{ID: kept[i].id, Kind: kept[i].kind, Layer: kept[i].layer, Name: kept[i].name, Found: f, GivenW: kept[i].size.W != 0, GivenH: kept[i].size.H != 0}
		if i > 0 {
			r.Round = Sides{found[i-1].Margin, *kept[i].round}
		}
		if kept[i].die != nil {
			r.Die, r.Asked = rings[i].Size, asked[i]
		}
		switch {
		case i == 0 && byEnvelope:
			r.From = theEnvelope
		case r.Kind == StampKind && byImage:
			r.From = "the line image"
		case kept[i].die != nil:
			r.From = "its die"
		default:
			r.From = from(rings, byEnvelope, f)
		}
	}
	return out, nil
}

// from words what a ring follows from; "" when it is given both ways.
func from(rings []nest.Ring, byEnvelope bool, f nest.Found) string {
	words := func(by []int) string {
		var names []string
		for _, i := range by {
			name := "the " + rings[i].Name
			if i == 0 && byEnvelope {
				name = theEnvelope
			}
			names = append(names, name)
		}
		return strings.Join(names, " and ")
	}
	w, h := words(f.WFrom), words(f.HFrom)
	switch {
	case w == h:
		return w
	case w == "":
		return h + ", its height"
	case h == "":
		return w + ", its width"
	}
	return w + ", its height " + h
}

// usualThick is about how thick a card with a mat is.
const usualThick = 2 * length.Millimetre

const theEnvelope = "the envelope"

// closeTo is how much smaller than it might be a standard front may be to be
// taken for an envelope.
const closeTo = length.Inch / 4

// frontFor is the front that goes into the envelope at hand easily when its thickness
// takes up so much each way: a standard one that comes close, else the largest.
func (c *Card) frontFor(bulk length.Size) length.Size {
	across := c.liesAcross()
	if across {
		bulk = bulk.Turned()
	}
	long, short := max(c.Envelope.Inside.W, c.Envelope.Inside.H), min(c.Envelope.Inside.W, c.Envelope.Inside.H)
	mark := c.Unit.Mark()
	room := func(l, bulk length.Length) length.Length { return max(mark, (l-2*fold.Ease-bulk)/mark*mark) }
	front := length.Size{W: room(short, bulk.W), H: room(long, bulk.H)}
	for _, f := range fold.Formats() {
		w, h := front.W-f.Front.W, front.H-f.Front.H
		if w >= 0 && h >= 0 && w < closeTo && h < closeTo {
			front = f.Front
			break
		}
	}
	if across {
		return front.Turned()
	}
	return front
}

// liesAcross tells how a front lies that only its envelope gives: as the panel
// or the stamp does, else as the maker says.
func (c *Card) liesAcross() bool {
	for _, s := range []length.Size{c.Panel.Size, c.stampSize()} {
		if s.W != 0 && s.H != 0 && s.W != s.H {
			return s.W > s.H
		}
	}
	return c.Base.Across
}

func (c *Card) stampSize() length.Size {
	if c.Stamp == nil {
		return length.Size{}
	}
	return c.Stamp.Size
}
