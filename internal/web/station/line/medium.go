package line

import (
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
	"chromaqua/internal/desk"
	"chromaqua/internal/web/page"
	"chromaqua/internal/web/station"
)

// mediumView is what one image is put on with, and over what.
type mediumView struct {
	Says    string // in words
	Own     bool   // it departs from what is usual on the piece
	Rest    string // the usual ink
	Ink     string // "" for the usual
	OwnInk  string
	Inks    []padChoice
	OwnInks []shelf.Own
	Look    shelf.Look
	Looks   []shelf.Look
	Pad     string // the second ink on the stamp
	Often   []oftenChoice
	Ways    []bareChoice
	Watered bool
	Over    []deedChoice // what it lies over
	MayLie  []deedChoice // what it might
}

// padChoice is an ink; one that comes from a pad may share a stamp.
type padChoice struct {
	ID, Name string
	Pad      bool
}

type oftenChoice struct {
	N     int
	Words string
	Now   bool
}

type bareChoice struct {
	Way   card.BareWay
	Words string
	Now   bool
}

// deedChoice is something on the piece that an image may lie over.
type deedChoice struct {
	Ref  card.Ref
	Name string
}

// mediumOf is what is shown of an image; nil for what leaves no ink.
func mediumOf(l *desk.Laid, own []shelf.Own, m *card.Image) *mediumView {
	c := l.Rev.Card
	if !m.Inked() {
		return nil
	}
	v := &mediumView{Own: m.Medium != nil, Rest: c.InkFacts().Name, Looks: shelf.Looks()}
	var names []string
	for _, k := range c.PadsOf(m) {
		names = append(names, k.Name)
	}
	v.Says = wording.And(names)
	times, watered, bare := m.Times()
	v.Watered = watered
	if o := m.Medium; o != nil {
		v.Ink, v.Look = o.Ink, o.Look
		if o.OwnInk != nil {
			v.OwnInk = o.OwnInk.Name
		}
		if len(o.Pads) > 0 {
			v.Pad = o.Pads[0]
		}
	}
	for _, k := range shelf.Inks() {
		v.Inks = append(v.Inks, padChoice{k.ID, k.Name, k.Method == shelf.Stamped && !k.Raises()})
	}
	for _, o := range own {
		if o.What == shelf.OwnInk {
			v.OwnInks = append(v.OwnInks, o)
		}
	}
	for n := 1; n <= card.MaxTimes; n++ {
		words := wording.Count(n, "impression")
		if n == 1 {
			words = "once, so that it mottles"
		}
		v.Often = append(v.Often, oftenChoice{n, words, n == times})
	}
	for _, w := range card.BareWays() {
		v.Ways = append(v.Ways, bareChoice{w, w.Words(), w == bare})
	}
	v.lies(c, m)
	return v
}

// lies lists what an image lies over, and what it might.
func (v *mediumView) lies(c *card.Card, m *card.Image) {
	for i := range c.Areas {
		if a := &c.Areas[i]; len(a.Washes) > 0 {
			v.may(c, m, card.Ref(a.ID), a.Name)
		}
	}
	for i := range c.Images {
		if o := &c.Images[i]; o.ID != m.ID && o.Inked() {
			v.may(c, m, card.Ref(o.ID), o.Title)
		}
	}
}

func (v *mediumView) may(c *card.Card, m *card.Image, below card.Ref, name string) {
	over := slices.ContainsFunc(c.Over, func(o card.Over) bool { return string(o.Above) == m.ID && o.Below.Of() == string(below) })
	if d := (deedChoice{below, name}); over {
		v.Over = append(v.Over, d)
	} else {
		v.MayLie = append(v.MayLie, d)
	}
}

// setMedium changes what an image is put on with, an ink of the maker's own as the shelf
// has it.
func (p *place) setMedium(e *station.Editing) (change.Done, error) {
	var c change.Medium
	if err := page.Decode(e.Request, &c); err != nil {
		return change.Done{}, err
	}
	if c.Image = e.PostFormValue("picked"); c.Ink != nil {
		var err error
		if c.Ink.ID, c.Ink.Own, err = p.host.Material(e.Context(), shelf.OwnInk, c.Ink.ID, c.Ink.Own); err != nil {
			return change.Done{}, err
		}
	}
	return e.Make(c)
}
