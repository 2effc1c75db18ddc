package change

import (
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
)

// PutWords puts words on the piece, or changes those of an act. Where it is not said they
// stand in the middle.
type PutWords struct {
	Act    string       `json:"act"` // id, "" for new ones
	Text   string       `json:"text"`
	By     card.TextWay `json:"by"`
	Ink    string       `json:"ink"`
	Height Typed        `json:"height"`
	Times  int          `json:"times"`
	X      Typed        `json:"x"`
	Y      Typed        `json:"y"`
	Turn   Number       `json:"turn"`
}

// Do puts them on.
func (c PutWords) Do(on *card.Card) (Done, error) {
	t := &card.Text{Text: strings.TrimSpace(strings.ReplaceAll(c.Text, "\r\n", "\n")), By: c.By, Ink: c.Ink, Times: c.Times, Turn: float64(c.Turn)}
	now := &card.Text{}
	says := "put %s on"
	if c.Act != "" {
		x, err := on.ActByID(c.Act)
		if err != nil {
			return Done{}, err
		}
		if x.Text != nil {
			now, says = x.Text, "changed %s"
		}
	}
	var err error
	if t.Height, err = c.Height.retyped("height of the words", now.Height, on.Unit, length.Parse); err != nil {
		return Done{}, err
	}
	size := on.PanelSize()
	t.X, t.Y = size.W/2, size.H/2
	for _, f := range []struct {
		what  string
		typed Typed
		now   length.Length
		to    *length.Length
	}{{"middle of the words from the left", c.X, now.X, &t.X}, {"middle of the words from the top", c.Y, now.Y, &t.Y}} {
		if f.typed == "" {
			continue
		}
		if *f.to, err = f.typed.retyped(f.what, f.now, on.Unit, length.ParseOffset); err != nil {
			return Done{}, err
		}
	}
	if c.Act == "" {
		on.AddAct(card.Handling{Kind: card.PutWords, Text: t})
	} else {
		*now = *t
	}
	return said(says, t.Words()), nil
}

// Embellish sets what is not cut from paper on the piece.
type Embellish struct {
	Kind   joint.Item `json:"kind"`
	Name   string     `json:"name"`
	Count  int        `json:"count"`
	Height Typed      `json:"height"`
}

// Do sets it.
func (c Embellish) Do(on *card.Card) (Done, error) {
	size := on.PanelSize()
	e := &card.Embellishment{Kind: c.Kind, Name: strings.TrimSpace(c.Name), Count: c.Count, X: size.W / 2, Y: size.H / 2}
	if c.Height != "" {
		var err error
		if e.Height, err = c.Height.length("how high it stands", on.Unit, length.Parse); err != nil {
			return Done{}, err
		}
	}
	on.AddAct(card.Handling{Kind: card.Embellish, Item: e})
	return said("set %s", e.Words()), nil
}
