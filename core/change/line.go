package change

import (
	"errors"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
)

// Materials says what the card is made of; what is left open stays.
type Materials struct {
	Paper      *Material `json:"paper,omitempty"` // of the panel
	Ink        *Material `json:"ink,omitempty"`   // of the line
	BasePaper  *string   `json:"base-paper,omitempty"`
	BaseColour *string   `json:"base-colour,omitempty"`
}

// Do changes the materials. What they name is checked with the card.
func (c Materials) Do(on *card.Card) (Done, error) {
	if c.Paper != nil {
		on.Change(func() { on.Paper, on.OwnPaper = c.Paper.kept() })
	}
	if c.Ink != nil {
		on.Ink, on.OwnInk = c.Ink.kept()
	}
	if c.BasePaper != nil {
		on.Change(func() { on.Base.Paper = *c.BasePaper })
	}
	if c.BaseColour != nil {
		on.Base.Colour = *c.BaseColour
	}
	return said("changed paper or ink"), nil
}

// UseInk prints the line with an ink of package shelf.
func UseInk(id string) Materials { return Materials{Ink: &Material{ID: id}} }

// UsePaper paints on a paper of package shelf.
func UsePaper(id string) Materials { return Materials{Paper: &Material{ID: id}} }

// Look is what is wanted of the line.
type Look struct {
	Look shelf.Look `json:"look"`
}

// Do changes the look.
func (c Look) Do(on *card.Card) (Done, error) {
	on.Look = c.Look
	return said("wants a %s line", c.Look), nil
}

var errNoLine = errors.New("the card has no line image yet; choose one first")

// imageOf is the image on the panel with that id, or the one in front for "".
func imageOf(on *card.Card, id string) (*card.Image, error) {
	switch {
	case on.Line() == nil:
		return nil, errNoLine
	case id == "":
		return on.Line(), nil
	}
	return on.ImageByID(id)
}

// toImage lets f change an image; did says what f does to it.
func toImage(on *card.Card, id, did string, f func(*card.Image) error) (Done, error) {
	m, err := imageOf(on, id)
	if err != nil {
		return Done{}, err
	}
	done := Done{Says: did + " " + m.Title, Image: id}
	return done, f(m)
}

// LayImage puts a picture in the middle of the panel: behind the images that lie
// there, or with Instead in the place of the picked one. Areas of an image that goes
// keep their places, as the new one may be a better scan of the same.
type LayImage struct {
	card.Scan
	Kind    shelf.ImageKind `json:"kind"`
	Picked  string          `json:"picked"`
	Instead bool            `json:"instead"`
}

// Do lays the image.
func (c LayImage) Do(on *card.Card) (Done, error) {
	done := said("placed %s", c.Title)
	if len(on.Images) > 0 && c.Instead {
		old, err := imageOf(on, c.Picked)
		if err != nil {
			return Done{}, err
		}
		return done, on.Place(old.ID, c.Scan, c.Kind)
	}
	var err error
	done.Image, err = on.Lay(c.Scan, c.Kind)
	return done, err
}

// Rescan takes a new scan for an image, laid exactly as the old one lies.
type Rescan struct {
	Picked string `json:"picked"`
	card.Scan
}

// Do takes the scan.
func (c Rescan) Do(on *card.Card) (Done, error) {
	m, err := imageOf(on, c.Picked)
	if err != nil {
		return Done{}, err
	}
	c.Scan.Width = m.Width
	m.Scan = c.Scan
	return Done{Says: "laid a new scan on the old", Image: c.Picked}, nil
}

// Place gives an image its width and place, and its turn unless that is left open.
type Place struct {
	Picked string `json:"picked"`
	Width  Typed  `json:"width"`
	X      Typed  `json:"x"`
	Y      Typed  `json:"y"`
	Turn   *Angle `json:"turn,omitempty"`
}

// Do places the image.
func (c Place) Do(on *card.Card) (Done, error) {
	return toImage(on, c.Picked, "placed", func(m *card.Image) error {
		if c.Turn != nil {
			var err error
			if m.Turn, err = c.Turn.degrees(); err != nil {
				return err
			}
		}
		return retype(on.Unit,
			retyping{c.Width, "width of the image", &m.Width, length.Parse},
			retyping{c.X, "distance from the left", &m.X, length.ParseOffset},
			retyping{c.Y, "distance from the top", &m.Y, length.ParseOffset})
	})
}

// Shift moves an image right and down, as a drag or a key does.
type Shift struct {
	Picked string `json:"picked"`
	DX     Typed  `json:"dx"`
	DY     Typed  `json:"dy"`
}

// Do moves the image.
func (c Shift) Do(on *card.Card) (Done, error) {
	return toImage(on, c.Picked, "moved", func(m *card.Image) error {
		dx, err := c.DX.length("move to the right", on.Unit, length.ParseOffset)
		if err != nil {
			return err
		}
		dy, err := c.DY.length("move down", on.Unit, length.ParseOffset)
		if err != nil {
			return err
		}
		m.X, m.Y = m.X+dx, m.Y+dy
		return nil
	})
}

// Centre puts an image in the middle of the panel.
type Centre struct {
	Picked string `json:"picked"`
}

// Do centres the image.
func (c Centre) Do(on *card.Card) (Done, error) {
	return toImage(on, c.Picked, "centred", func(m *card.Image) error { on.Centre(m); return nil })
}

// Turn turns an image further by degrees, to the tenth of one.
type Turn struct {
	Picked string `json:"picked"`
	By     Angle  `json:"by"`
}

// Do turns the image.
func (c Turn) Do(on *card.Card) (Done, error) {
	return toImage(on, c.Picked, "turned", func(m *card.Image) error {
		by, err := c.By.degrees()
		if err != nil {
			return err
		}
		return m.TurnBy(by)
	})
}

// Mirror turns an image over.
type Mirror struct {
	Picked string `json:"picked"`
}

// Do mirrors the image.
func (c Mirror) Do(on *card.Card) (Done, error) {
	return toImage(on, c.Picked, "mirrored", func(m *card.Image) error { m.Mirror = !m.Mirror; return nil })
}

// Bring moves an image N places towards the front, or back.
type Bring struct {
	Picked string `json:"picked"`
	N      int    `json:"n"`
}

// Do moves the image.
func (c Bring) Do(on *card.Card) (Done, error) {
	return toImage(on, c.Picked, "changed what lies in front:", func(m *card.Image) error { return on.Bring(m.ID, c.N) })
}

// Repeat adds copies of an image, each so much further on and turned than the last.
type Repeat struct {
	Picked string `json:"picked"`
	Copies int    `json:"copies"`
	Right  Typed  `json:"right"`
	Down   Typed  `json:"down"`
	Turned Angle  `json:"turned"`
}

// Do repeats the image.
func (c Repeat) Do(on *card.Card) (Done, error) {
	return toImage(on, c.Picked, "repeated", func(m *card.Image) error {
		var by [2]length.Length
		for i, f := range []struct {
			t    Typed
			what string
		}{{c.Right, "further right"}, {c.Down, "further down"}} {
			if f.t == "" {
				continue
			}
			var err error
			if by[i], err = f.t.length(f.what, on.Unit, length.ParseOffset); err != nil {
				return err
			}
		}
		turned, err := c.Turned.degrees()
		if err != nil {
			return err
		}
		return on.Repeat(m.ID, c.Copies, by[0], by[1], turned)
	})
}

// TakeAway takes an image off the panel.
type TakeAway struct {
	Picked string `json:"picked"`
}

// Do takes the image away.
func (c TakeAway) Do(on *card.Card) (Done, error) {
	m, err := imageOf(on, c.Picked)
	if err != nil {
		return Done{}, err
	}
	return said("took %s away", m.Title), on.TakeAway(m.ID)
}

// ImageKind says how an image is made.
type ImageKind struct {
	Picked string          `json:"picked"`
	Kind   shelf.ImageKind `json:"kind"`
}

// Do changes the kind.
func (c ImageKind) Do(on *card.Card) (Done, error) {
	return toImage(on, c.Picked, "says how it is made:", func(m *card.Image) error { m.Kind = c.Kind; return nil })
}

// Ghost says how often a stamp is stamped off before it comes on the panel.
type Ghost struct {
	Picked string `json:"picked"`
	Ghost  int    `json:"ghost"`
}

// Do changes that.
func (c Ghost) Do(on *card.Card) (Done, error) {
	return toImage(on, c.Picked, "says how often it is stamped off:", func(m *card.Image) error { m.Ghost = c.Ghost; return nil })
}

// Bare keeps ink off a part of an image: what the points go round.
type Bare struct {
	Picked string    `json:"picked"`
	Points PointList `json:"points"`
}

// Do keeps the part bare.
func (c Bare) Do(on *card.Card) (Done, error) {
	return toImage(on, c.Picked, "keeps ink off a part of", func(m *card.Image) error {
		points, err := c.Points.points(on.Unit)
		if err != nil {
			return err
		}
		panel.Mark(m, card.Bare, points)
		return nil
	})
}

// Relief says when an embossing folder is pressed.
type Relief struct {
	Relief card.Relief `json:"relief"`
}

// Do changes that.
func (c Relief) Do(on *card.Card) (Done, error) {
	on.Relief = c.Relief
	return said("says when the relief is pressed"), nil
}

// Measure gives an image its real width from a distance that is known: what is Now so
// long on the board is Really so long.
type Measure struct {
	Picked string `json:"picked"`
	Now    Typed  `json:"now"`
	Really Typed  `json:"really"`
}

// Do measures the image; its middle stays.
func (c Measure) Do(on *card.Card) (Done, error) {
	m, err := imageOf(on, c.Picked)
	if err != nil {
		return Done{}, err
	}
	now, err := c.Now.length("distance on the board", on.Unit, length.Parse)
	if err != nil {
		return Done{}, err
	}
	really, err := c.Really.length("real distance", on.Unit, length.Parse)
	if err != nil {
		return Done{}, err
	}
	old := m.Size()
	m.Width = length.FromMM(m.Width.MM() * really.MM() / now.MM())
	m.X, m.Y = m.X+(old.W-m.Width)/2, m.Y+(old.H-m.Height())/2
	return Done{Says: "measured the image", Image: c.Picked}, nil
}
