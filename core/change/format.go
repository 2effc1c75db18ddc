package change

import (
	"errors"
	"fmt"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/mount"
	"chromaqua/core/nest"
	"chromaqua/core/shelf"
)

// FollowFormat is the format of a front that follows from the rest.
const FollowFormat = "follows"

// Format gives the front a standard size by its id, a size of its own with
// [card.Free], or lets it follow with [FollowFormat]. Turned is landscape; as it lies
// when left open.
type Format struct {
	Format string `json:"format"`
	Turned *bool  `json:"turned,omitempty"`
}

// Do changes the format.
func (c Format) Do(on *card.Card) (Done, error) {
	switch c.Format {
	case FollowFormat:
		return said("let the front follow"), on.Give(card.FrontRing, length.Size{})
	case card.Free: // its size is typed
		return said("gave the front a size of its own"), on.Give(card.FrontRing, on.Front())
	}
	turned := on.Front().W > on.Front().H
	if c.Turned != nil {
		turned = *c.Turned
	}
	return said("changed the format"), on.SetFormat(c.Format, turned)
}

// Fold says where the card is folded, and which side is up when it is scored.
type Fold struct {
	Fold   fold.Side `json:"fold"`
	Scored string    `json:"scored"` // "inside", or outside
}

// Do changes the fold.
func (c Fold) Do(on *card.Card) (Done, error) {
	if on.Base.Fold != c.Fold {
		on.Schools.Fold = "" // it is folded as is said, however it lies
	}
	on.Base.Fold, on.Base.Inside = c.Fold, c.Scored == "inside"
	return said("changed the fold"), on.Base.Fold.Check()
}

// Envelope is the envelope at hand: a standard one by its id, one of any size with
// [card.Free], none with "". With Start the card follows from the one it has.
type Envelope struct {
	Envelope string `json:"envelope"`
	Inside   Typed  `json:"inside"` // of a free one; "" for the size the card needs
	Start    bool   `json:"start"`
}

// Do changes the envelope.
func (c Envelope) Do(on *card.Card) (Done, error) {
	if c.Start {
		return said("let the card follow from its envelope"), on.StartFromEnvelope()
	}
	if c.Envelope == "" {
		on.Change(func() { on.Envelope = nil })
		return said("took the envelope away"), nil
	}
	inside, err := c.size(on)
	if err != nil {
		return Done{}, err
	}
	on.Change(func() { on.Envelope = &card.Envelope{ID: c.Envelope, Inside: inside} })
	return said("chose the envelope"), nil
}

// size is how large the envelope is inside.
func (c Envelope) size(on *card.Card) (length.Size, error) {
	switch {
	case c.Envelope != card.Free:
		known, err := fold.EnvelopeByID(c.Envelope)
		return known.Inside, err
	case c.Inside != "":
		inside, err := length.ParseSize(string(c.Inside), on.Unit)
		if err != nil {
			return inside, fmt.Errorf("inside of the envelope: %w", err)
		}
		return inside, nil
	}
	return mount.EnvelopeNeeded(on), nil
}

var errNoLayer = errors.New("that layer is gone: it was removed or undone meanwhile; nothing was changed")

// ringOf returns a ring of the card as it is laid out.
func ringOf(on *card.Card, id string) (*card.Ring, error) {
	layout, err := on.Layout()
	if err != nil {
		return nil, err
	}
	r := layout.Of(id)
	if r == nil {
		return nil, errNoLayer
	}
	return r, nil
}

// Size gives a ring its size; a side left empty follows. With Start all else follows
// from it, with Follow so does what shows round it.
type Size struct {
	Ring   string `json:"ring"`
	W      Typed  `json:"w"`
	H      Typed  `json:"h"`
	Start  bool   `json:"start"`
	Follow bool   `json:"follow"`
}

// Do gives the size.
func (c Size) Do(on *card.Card) (Done, error) {
	r, err := ringOf(on, c.Ring)
	if err != nil {
		return Done{}, err
	}
	if c.Start {
		size, err := (c.W + " x " + c.H).size(r.Name, on.Unit)
		if err != nil {
			return Done{}, err
		}
		return said("let all follow from the %s", r.Name), on.StartFrom(r.ID, size)
	}
	var size length.Size
	if size.W, err = given(c.W, "width of the "+r.Name, r.Size.W, r.GivenW, on.Unit); err != nil {
		return Done{}, err
	}
	if size.H, err = given(c.H, "height of the "+r.Name, r.Size.H, r.GivenH, on.Unit); err != nil {
		return Done{}, err
	}
	if c.Follow {
		if err := on.Show(r.ID, "", nil); err != nil {
			return Done{}, err
		}
	}
	if size == (length.Size{}) {
		return said("let the %s follow", r.Name), on.Give(r.ID, size)
	}
	return said("gave the %s its size", r.Name), on.Give(r.ID, size)
}

// given reads one side of a ring: what was sent back as it was shown stays as it is,
// given or following; what is empty follows.
func given(t Typed, what string, now length.Length, is bool, u length.Unit) (length.Length, error) {
	switch {
	case t == "", string(t) == now.Typed(u) && !is:
		return 0, nil
	case string(t) == now.Typed(u):
		return now, nil
	}
	return t.length(what, u, length.Parse)
}

// Show gives what shows round a ring: All for every side, or else each side.
type Show struct {
	Ring   string `json:"ring"`
	All    *Typed `json:"all,omitempty"`
	Left   Typed  `json:"left"`
	Right  Typed  `json:"right"`
	Top    Typed  `json:"top"`
	Bottom Typed  `json:"bottom"`
}

// Do changes what shows.
func (c Show) Do(on *card.Card) (Done, error) {
	r, err := ringOf(on, c.Ring)
	if err != nil {
		return Done{}, err
	}
	done := said("changed what shows round the %s", r.Name)
	shown := func(t Typed, now length.Length, given bool) (*length.Length, error) {
		if t == "" || !given && string(t) == now.Typed(on.Unit) {
			return nil, nil
		}
		l, err := t.retyped("what shows round the "+r.Name, now, on.Unit, length.ParseOffset)
		return &l, err
	}
	if c.All != nil {
		l, err := shown(*c.All, r.Round.Left, r.Round.Given.Left != nil)
		if err != nil {
			return Done{}, err
		}
		return done, on.Show(r.ID, "", l)
	}
	for _, s := range []struct {
		side nest.Side
		t    Typed
	}{{nest.Left, c.Left}, {nest.Right, c.Right}, {nest.Top, c.Top}, {nest.Bottom, c.Bottom}} {
		l, err := shown(s.t, r.Round.Of(s.side), *r.Round.Given.Of(s.side) != nil)
		if err != nil {
			return Done{}, err
		}
		if err := on.Show(r.ID, s.side, l); err != nil {
			return Done{}, err
		}
	}
	return done, nil
}

// Drag moves an edge of a ring outwards by marks of the maker's ruler; all its edges
// with All.
type Drag struct {
	Ring  string    `json:"ring"`
	Side  nest.Side `json:"side"`
	Marks int       `json:"marks"`
	All   bool      `json:"all"`
}

// Do moves the edge.
func (c Drag) Do(on *card.Card) (Done, error) {
	r, err := ringOf(on, c.Ring)
	if err != nil {
		return Done{}, err
	}
	most := int(length.Max / on.Unit.Mark())
	if c.Marks > most || c.Marks < -most {
		return Done{}, errors.New("an edge is moved by whole marks of the ruler, and at most 2 m")
	}
	sides := []nest.Side{c.Side}
	if c.All {
		sides = []nest.Side{nest.Left, nest.Right, nest.Top, nest.Bottom}
	}
	for _, side := range sides {
		if err := on.Drag(r.ID, side, length.Length(c.Marks)*on.Unit.Mark()); err != nil {
			return Done{}, err
		}
	}
	return said("moved an edge of the %s", r.Name), nil
}

// AddLayer puts a mat or a frame on the card.
type AddLayer struct {
	Kind card.LayerKind `json:"kind"`
}

// Do adds the layer.
func (c AddLayer) Do(on *card.Card) (Done, error) {
	return said("added a %s", c.Kind), on.AddLayer(c.Kind)
}

// Layer says what a mat or frame is made of, by its number from 0.
type Layer struct {
	Layer  string `json:"layer"`
	Paper  string `json:"paper"`
	Colour string `json:"colour"`
}

// Do changes the layer.
func (c Layer) Do(on *card.Card) (Done, error) {
	for i := range on.Layers {
		if fmt.Sprint(i) != c.Layer {
			continue
		}
		p, err := shelf.PaperByID(c.Paper)
		if err != nil {
			return Done{}, err
		}
		l := &on.Layers[i]
		on.Change(func() { l.Paper, l.Colour = p.ID, c.Colour })
		return said("changed the %s", on.LayerName(i)), nil
	}
	return Done{}, errNoLayer
}

// PanelAlone makes the panel the whole front: nothing shows round it.
type PanelAlone struct{}

// Do takes the mats off and lets the panel cover the front.
func (PanelAlone) Do(on *card.Card) (Done, error) {
	return said("let the panel cover the front"), on.PanelAlone()
}

// RemoveLayer takes a mat or frame off, by its number from 0.
type RemoveLayer struct {
	Layer int `json:"layer"`
}

// Do takes the layer off.
func (c RemoveLayer) Do(on *card.Card) (Done, error) {
	if c.Layer < 0 || c.Layer >= len(on.Layers) {
		return Done{}, errNoLayer
	}
	return said("took the %s off", on.LayerName(c.Layer)), on.RemoveLayer(c.Layer)
}

// Die cuts a ring with the nearest die of a set; a nil one cuts it without.
type Die struct {
	Ring string       `json:"ring"`
	Set  *card.DieSet `json:"set,omitempty"`
}

// Do chooses the die set.
func (c Die) Do(on *card.Card) (Done, error) {
	r, err := ringOf(on, c.Ring)
	if err != nil {
		return Done{}, err
	}
	if c.Set == nil {
		return said("cut the %s without a die", r.Name), on.SetDie(r.ID, nil)
	}
	return said("cut the %s with %s", r.Name, c.Set.Name), on.SetDie(r.ID, c.Set)
}

// Stamp makes the panel round what is stamped on it: "image" for the image that lies
// on it, "size" for a stamp of a size, "" for no longer.
type Stamp struct {
	Stamp string `json:"stamp"`
	Size  Typed  `json:"size"`
}

// Do changes what the panel is made round.
func (c Stamp) Do(on *card.Card) (Done, error) {
	switch c.Stamp {
	case "image":
		if on.Line() == nil {
			return Done{}, errNoLine
		}
		on.Change(func() { on.Stamp = &card.Stamp{} })
		return said("made the panel round its image"), nil
	case "size":
		size, err := c.Size.size("stamp", on.Unit)
		if err != nil {
			return Done{}, err
		}
		on.Change(func() { on.Stamp = &card.Stamp{Size: size} })
		return said("made the panel round a stamp"), nil
	}
	on.Change(func() { on.Stamp = nil })
	return said("took the stamp's size away"), nil
}

// Insert puts a leaf into the card, or takes it out. Without a margin it is the usual
// one.
type Insert struct {
	On     bool   `json:"on"`
	Margin *Typed `json:"margin,omitempty"`
	Paper  string `json:"insert-paper"`
	Colour string `json:"colour"`
}

// Do changes the insert.
func (c Insert) Do(on *card.Card) (Done, error) {
	if !c.On {
		on.Change(func() { on.Insert = nil })
		return said("took the insert out"), nil
	}
	in := card.UsualInsert()
	if c.Margin != nil {
		margin, err := c.Margin.length("margin of the insert", on.Unit, length.ParseOffset)
		if err != nil {
			return Done{}, err
		}
		p, err := shelf.PaperByID(c.Paper)
		if err != nil {
			return Done{}, err
		}
		in = card.Insert{Margin: margin, Paper: p.ID, Colour: c.Colour}
	}
	on.Change(func() { on.Insert = &in })
	return said("changed the insert"), nil
}
