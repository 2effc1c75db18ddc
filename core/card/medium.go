package card

import (
	"cmp"
	"fmt"
	"slices"

	"chromaqua/core/shelf"
)

// Limits of a medium.
const (
	MaxPads  = 3 // inks on one stamp
	MaxTimes = 6 // impressions of one stamp in one place
)

// Medium is what one image is put on with, where that is not what is usual on its piece.
// What is empty is.
type Medium struct {
	Ink     string     `json:"ink,omitempty"`     // an id of package shelf
	OwnInk  *shelf.Own `json:"own_ink,omitempty"` // the maker's own, like Ink
	Look    shelf.Look `json:"look,omitempty"`
	Pads    []string   `json:"pads,omitempty"`    // further inks on the same stamp, light before dark
	Times   int        `json:"times,omitempty"`   // impressions; as many as the paper takes when 0, one on purpose mottles
	Watered bool       `json:"watered,omitempty"` // misted on the stamp, and printed wet
	Bare    BareWay    `json:"bare,omitempty"`    // how its bare parts are kept free of ink; wiped when empty
}

// BareWay is how a part of a stamp is kept free of ink.
type BareWay string

// The ways.
const (
	Wiped    BareWay = "wiped"
	Taped    BareWay = "taped"
	Brushed  BareWay = "brushed" // only the rest is inked, with a brush marker
	DryInked BareWay = "dabbed"  // only the rest is inked, from the edge of a pad
)

// bareWords say what is done of each way, to so many parts of an image.
var bareWords = map[BareWay]string{
	Wiped:    "wipe the ink off before you stamp",
	Taped:    "tape over it, ink, and take the tape off before you stamp",
	Brushed:  "ink only the rest, with a brush marker; breathe on it before you stamp",
	DryInked: "ink only the rest, with the corner of the pad",
}

// BareWays lists them, the default first.
func BareWays() []BareWay { return []BareWay{Wiped, Taped, Brushed, DryInked} }

// Words says what is done.
func (b BareWay) Words() string {
	if b == "" {
		b = Wiped
	}
	return bareWords[b]
}

// medium is that of an image, empty where all is as usual.
func (m *Image) medium() Medium {
	if m.Medium == nil {
		return Medium{}
	}
	return *m.Medium
}

// Usual reports whether a medium is as usual in all.
func (m *Medium) Usual() bool {
	return m.Ink == "" && m.OwnInk == nil && m.Look == "" && len(m.Pads) == 0 && m.Times == 0 && !m.Watered && m.Bare == ""
}

// InkOf is what is known of the ink an image is put on with; of several, of the first.
func (w *Work) InkOf(m *Image) shelf.Ink {
	if own := w.OwnInkOf(m); own != nil {
		return own.Ink()
	}
	return inkByID(cmp.Or(m.medium().Ink, w.Ink))
}

// OwnInkOf is the maker's own ink that an image is put on with first, nil for one of the shelf.
func (w *Work) OwnInkOf(m *Image) *shelf.Own {
	if own := m.medium(); own.Ink != "" || own.OwnInk != nil {
		return own.OwnInk
	}
	return w.OwnInk
}

// inkByID is an ink of a card that has passed Check.
func inkByID(id string) shelf.Ink {
	k, err := shelf.InkByID(id)
	if err != nil {
		k = shelf.Inks()[0]
	}
	return k
}

// PadsOf are all inks an image is put on with, the first first.
func (w *Work) PadsOf(m *Image) []shelf.Ink {
	out := []shelf.Ink{w.InkOf(m)}
	for _, id := range m.medium().Pads {
		out = append(out, inkByID(id))
	}
	return out
}

// Inks are all that the piece is printed with, each once; the usual one where nothing
// leaves ink yet.
func (w *Work) Inks() (out []shelf.Ink) {
	for i := range w.Images {
		if !w.Images[i].Inked() {
			continue
		}
		for _, k := range w.PadsOf(&w.Images[i]) {
			if !slices.ContainsFunc(out, func(o shelf.Ink) bool { return o.ID == k.ID && o.Name == k.Name }) {
				out = append(out, k)
			}
		}
	}
	if out == nil {
		out = []shelf.Ink{w.InkFacts()}
	}
	return out
}

// LookOf is what is wanted of an image's line.
func (w *Work) LookOf(m *Image) shelf.Look {
	if l := m.medium().Look; l != "" {
		return l
	}
	return cmp.Or(w.Look, shelf.Crisp)
}

// Worked reports whether an image's mass is worked with water, so that it is a cell like any
// other.
func (w *Work) Worked(m *Image) bool {
	return m.Is(shelf.SolidImage) && w.LookOf(m) == shelf.Solid
}

// Times is how often an image is stamped in its place, 0 as the paper takes; watered says
// that it is misted on the stamp first; bare how its bare parts are kept.
func (m *Image) Times() (times int, watered bool, bare BareWay) {
	own := m.medium()
	return own.Times, own.Watered, own.Bare
}

// Check reports what is wrong with a medium.
func (m *Medium) Check() error {
	if m.Ink != "" {
		if _, err := shelf.InkByID(m.Ink); err != nil {
			return err
		}
	}
	if m.OwnInk != nil {
		if err := checkOwn(m.OwnInk, shelf.OwnInk, m.Ink); err != nil {
			return err
		}
	}
	if len(m.Pads)+1 > MaxPads {
		return fmt.Errorf("a stamp takes at most %d inks; more run together on it", MaxPads)
	}
	for _, id := range m.Pads {
		if _, err := shelf.InkByID(id); err != nil {
			return err
		}
	}
	switch {
	case m.Look != "" && !slices.Contains(shelf.Looks(), m.Look):
		return errNoLook(m.Look)
	case m.Times < 0 || m.Times > MaxTimes:
		return fmt.Errorf("an image is stamped 1 to %d times in its place", MaxTimes)
	case m.Bare != "" && !slices.Contains(BareWays(), m.Bare):
		return fmt.Errorf("%q is no way of keeping a part of a stamp bare; use wiped, taped, brushed or dabbed", string(m.Bare))
	}
	return nil
}

func errNoLook(l shelf.Look) error {
	return fmt.Errorf("%q is no look of a line; use crisp, soft, vanishing, pulled or solid", string(l))
}

// checkOwn reports an ink or paper of the maker's that does not go with what it is like.
func checkOwn(o *shelf.Own, what shelf.What, like string) error {
	if o == nil {
		return nil
	}
	if err := o.Check(); err != nil {
		return err
	}
	if o.What != what || o.Like != like {
		return fmt.Errorf("%q is no %s like %q", o.Name, what, like)
	}
	return nil
}
