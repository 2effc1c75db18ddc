package change

import (
	"errors"

	"chromaqua/core/card"
	"chromaqua/core/length"
)

// Extra is how high embellishments stand on the panel.
type Extra struct {
	Extra Typed `json:"extra"`
}

// Do changes the height.
func (c Extra) Do(on *card.Card) (Done, error) {
	var err error
	on.Extra, err = c.Extra.length("height of the embellishments", on.Unit, length.ParseOffset)
	return said("changed the embellishments"), err
}

// Painting is how the panel is taped down.
type Painting struct {
	Border Typed `json:"border"`
	Tape   Typed `json:"tape"`
	Spare  Typed `json:"spare"`
}

// Do changes the taping.
func (c Painting) Do(on *card.Card) (Done, error) {
	p := &on.Painting
	return said("changed the taping"), retype(on.Unit,
		retyping{c.Border, "masked border", &p.Border, length.ParseOffset},
		retyping{c.Tape, "tape", &p.Tape, length.ParseOffset},
		retyping{c.Spare, "spare paper", &p.Spare, length.ParseOffset})
}

// retyping is a length that was shown and may have been typed anew.
type retyping struct {
	Typed
	what  string
	to    *length.Length
	parse func(string, length.Unit) (length.Length, error)
}

// retype takes lengths over.
func retype(u length.Unit, all ...retyping) error {
	for _, r := range all {
		l, err := r.retyped(r.what, *r.to, u, r.parse)
		if err != nil {
			return err
		}
		*r.to = l
	}
	return nil
}

// Words are what there has to be room for; "" for none.
type Words struct {
	Words Typed `json:"words"`
}

// Do changes the size of the words.
func (c Words) Do(on *card.Card) (Done, error) {
	if c.Words == "" {
		on.Words = length.Size{}
		return said("looks for no words"), nil
	}
	var err error
	on.Words, err = c.Words.size("words", on.Unit)
	return said("looks for room for words"), err
}

// LayWindow lays a window on the middle of a painted sheet, to cut the panel out of it.
type LayWindow struct {
	card.Scan
}

// Do lays the window.
func (c LayWindow) Do(on *card.Card) (Done, error) {
	on.Window = &card.Window{Scan: c.Scan, X: c.Width / 2, Y: c.Height() / 2}
	return said("laid the window on %s", c.Title), nil
}

// Window moves and turns the window over the painted sheet.
type Window struct {
	Width Typed `json:"width"`
	X     Typed `json:"x"`
	Y     Typed `json:"y"`
	Turn  Angle `json:"turn"`
}

var errNoWindow = errors.New("the card has no painted sheet; scan one first")

// Do moves the window.
func (c Window) Do(on *card.Card) (Done, error) {
	w := on.Window
	if w == nil {
		return Done{}, errNoWindow
	}
	var err error
	if w.Turn, err = c.Turn.degrees(); err != nil {
		return Done{}, err
	}
	return said("moved the window"), retype(on.Unit,
		retyping{c.Width, "width of the sheet", &w.Width, length.ParseOffset},
		retyping{c.X, "middle from the left", &w.X, length.ParseOffset},
		retyping{c.Y, "middle from the top", &w.Y, length.ParseOffset})
}

// CentreWindow puts the window in the middle of its sheet, upright.
type CentreWindow struct{}

// Do centres the window.
func (CentreWindow) Do(on *card.Card) (Done, error) {
	w := on.Window
	if w == nil {
		return Done{}, errNoWindow
	}
	sheet := w.Size()
	w.X, w.Y, w.Turn = sheet.W/2, sheet.H/2, 0
	return said("put the window in the middle"), nil
}

// RemoveWindow puts the painted sheet away.
type RemoveWindow struct{}

// Do removes the window.
func (RemoveWindow) Do(on *card.Card) (Done, error) {
	on.Window = nil
	return said("put the painted sheet away"), nil
}
