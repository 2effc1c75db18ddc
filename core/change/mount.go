package change

import (
	"fmt"
	"strconv"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
)

// Held says what holds a part of the card on what it lies on: the panel, a mat or frame by
// the id of its ring, or a piece.
type Held struct {
	ofWhole
	Part string   `json:"part"`
	By   joint.By `json:"by"`   // "" the best for it
	High Typed    `json:"high"` // of its foam; "" the usual
}

// Do changes what holds it.
func (c Held) Do(on *card.Card) (Done, error) {
	var high length.Length
	var err error
	if by := c.By.Facts(); by.Raised && strings.TrimSpace(string(c.High)) != "" {
		if high, err = c.High.length("how high the foam is", on.Unit, length.Parse); err != nil {
			return Done{}, err
		}
		if high == by.Height {
			high = 0
		}
	}
	as := "as is best for it"
	if c.By != joint.Usual {
		as = "by " + c.By.Facts().Name
	}
	if s, name := on.SizingOf(c.Part); s != nil {
		on.Change(func() { s.By, s.High = c.By, high })
		return said("holds the %s %s", name, as), nil
	}
	p, err := placed(on, c.Part)
	if err != nil {
		return Done{}, err
	}
	p.Place.By, p.Place.High = c.By, high
	return said("holds the %s %s", p.Name, as), nil
}

// placed is a piece that lies somewhere.
func placed(on *card.Card, id string) (*card.Piece, error) {
	p, err := on.PieceByID(id)
	if err == nil && p.Place == nil {
		err = fmt.Errorf("%s lies nowhere yet; say first what it lies on", p.Name)
	}
	return p, err
}

// MovePiecePart moves one of a piece on what it lies on: the nth, from 0. What is not given
// stays.
type MovePiecePart struct {
	ofWhole
	Piece string `json:"piece"`
	Nth   int    `json:"nth"`
	X     Typed  `json:"x"` // between the middles, to the right
	Y     Typed  `json:"y"`
	Turn  Angle  `json:"turn"`
}

// Do moves it.
func (c MovePiecePart) Do(on *card.Card) (Done, error) {
	at, p, err := lieOf(on, c.Piece, c.Nth)
	if err != nil {
		return Done{}, err
	}
	if err := moved(at, c.X, c.Y, on.Unit); err != nil {
		return Done{}, err
	}
	if strings.TrimSpace(string(c.Turn)) != "" {
		if at.Turn, err = c.Turn.degrees(); err != nil {
			return Done{}, err
		}
	}
	return said("moved the %s", p.Name), nil
}

// moved moves something to the right and down, as far as that is given.
func moved(at *card.At, x, y Typed, u length.Unit) (err error) {
	for _, l := range []struct {
		typed Typed
		what  string
		to    *length.Length
	}{{x, "to the right", &at.X}, {y, "down", &at.Y}} {
		if strings.TrimSpace(string(l.typed)) == "" {
			continue
		}
		if *l.to, err = l.typed.length(l.what, u, length.ParseOffset); err != nil {
			return err
		}
	}
	return nil
}

// lieOf is where the nth of a piece lies, for changing it.
func lieOf(on *card.Card, id string, nth int) (*card.At, *card.Piece, error) {
	p, err := placed(on, id)
	if err != nil {
		return nil, nil, err
	}
	if nth < 0 || nth >= p.Many() {
		return nil, nil, fmt.Errorf("there are %d of %s, counted from 0; %d is none of them", p.Many(), p.Name, nth)
	}
	p.Place.More = p.Lies(on.SizeOf(p))[1:]
	if nth == 0 {
		return &p.Place.At, p, nil
	}
	return &p.Place.More[nth-1], p, nil
}

// Align is how a part is put in line with what it lies on.
type Align string

// The ways.
const (
	ToMiddle Align = "middle"
	Across   Align = "middle across"
	DownIt   Align = "middle down"
	Leftmost Align = "left"
	Right    Align = "right"
	Topmost  Align = "top"
	Lowest   Align = "bottom"
	Spread   Align = "spread" // all of it evenly across
	OnTwin   Align = "twin"   // over the same image where it is printed
)

// AlignPart puts one of a piece in line with what it lies on, so far from its edge where it
// is put at one.
type AlignPart struct {
	ofWhole
	Piece  string `json:"piece"`
	Nth    int    `json:"nth"`
	To     Align  `json:"to"`
	Margin Typed  `json:"margin"`
	Image  string `json:"image"` // the printed twin
}

// Do aligns it.
func (c AlignPart) Do(on *card.Card) (Done, error) {
	at, p, err := lieOf(on, c.Piece, c.Nth)
	if err != nil {
		return Done{}, err
	}
	var margin length.Length
	if strings.TrimSpace(string(c.Margin)) != "" {
		if margin, err = c.Margin.length("the margin", on.Unit, length.ParseOffset); err != nil {
			return Done{}, err
		}
	}
	below := on.FaceSize(p.Place.On)
	size := on.SizeOf(p).Around(at.Turn)
	w, h := (below.W-size.W)/2-margin, (below.H-size.H)/2-margin
	switch c.To {
	case ToMiddle:
		at.X, at.Y = 0, 0
	case Across:
		at.X = 0
	case DownIt:
		at.Y = 0
	case Leftmost:
		at.X = -w
	case Right:
		at.X = w
	case Topmost:
		at.Y = -h
	case Lowest:
		at.Y = h
	case Spread:
		return spread(on, p, below)
	case OnTwin:
		return c.onTwin(on, p, at)
	default:
		return Done{}, fmt.Errorf("%q is no way to put a part in line; choose one that is listed", string(c.To))
	}
	return said("put the %s in line: %s", p.Name, c.To), nil
}

// spread lays all of a piece side by side with the same paper between and beside them.
func spread(on *card.Card, p *card.Piece, below length.Size) (Done, error) {
	n := length.Length(p.Many())
	wide := on.SizeOf(p).W
	gap := (below.W - n*wide) / (n + 1)
	if gap < 0 {
		return Done{}, fmt.Errorf("%s of %s do not go side by side on %s", strconv.Itoa(int(n))+" × "+p.Name, wide.With(on.Unit), below.W.With(on.Unit))
	}
	for i := range n {
		x := -below.W/2 + gap*(i+1) + wide*i + wide/2
		if i == 0 {
			p.Place.X = x
		} else {
			p.Place.More[i-1].X, p.Place.More[i-1].Y = x, p.Place.Y
		}
	}
	return said("spread %d × %s evenly", p.Many(), p.Name), nil
}

// onTwin lays a piece over the same image where that is printed on what it lies on.
func (c AlignPart) onTwin(on *card.Card, p *card.Piece, at *card.At) (Done, error) {
	if len(p.Images) == 0 {
		return Done{}, fmt.Errorf("%s has no image that could lie over a printed one", p.Name)
	}
	own := p.Images[0]
	below, err := on.Alone(p.Place.On)
	if err != nil {
		return Done{}, fmt.Errorf("nothing is printed where %s lies", p.Name)
	}
	for i := range below.Images {
		m := &below.Images[i]
		if m.ID != c.Image && (c.Image != "" || m.Image != own.Image) {
			continue
		}
		under, size := on.FaceSize(p.Place.On), on.SizeOf(p)
		*at = card.At{X: m.X - under.W/2 - (own.X - size.W/2), Y: m.Y - under.H/2 - (own.Y - size.H/2), Turn: at.Turn}
		return said("laid the %s over its printed twin", p.Name), nil
	}
	return Done{}, fmt.Errorf("the image of %s is not printed on what it lies on", p.Name)
}

// GlueLayers says how many more of a piece are cut plain and glued under it, to make it
// stand up.
type GlueLayers struct {
	ofWhole
	Piece  string `json:"piece"`
	Layers int    `json:"layers"`
}

// Do changes how many.
func (c GlueLayers) Do(on *card.Card) (Done, error) {
	p, err := on.PieceByID(c.Piece)
	if err != nil {
		return Done{}, err
	}
	p.Layers = c.Layers
	if c.Layers == 0 {
		return said("cuts the %s once", p.Name), nil
	}
	return said("glues %d more under the %s", c.Layers, p.Name), nil
}
