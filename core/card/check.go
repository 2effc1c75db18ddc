package card

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
)

// Check reports what is wrong with a measured paint.
func (m Measured) Check() error {
	if _, err := pigment.ByCI(m.CI); err != nil {
		return err
	}
	if err := CheckName("paint", m.Name); err != nil {
		return err
	}
	for i := range m.K {
		if !(m.K[i] >= 0 && m.K[i] < 1e6 && m.S[i] >= 0 && m.S[i] < 1e6) {
			return fmt.Errorf("the measured colours of %s cannot be; measure it again", m.Name)
		}
	}
	return nil
}

// ErrNewer means that a card was written by a newer program than this.
var ErrNewer = errors.New("this card was written by a newer program")

// Check reports the first thing wrong with the card, in words that say what to
// do.
func (c *Card) Check() error {
	if c.Kind != Kind {
		return fmt.Errorf("this is no card: its kind is %q, not %q", c.Kind, Kind)
	}
	if c.Version > Version {
		return fmt.Errorf("%w (version %d, this one reads up to %d); update the program to open it", ErrNewer, c.Version, Version)
	}
	if c.Version < 1 {
		return fmt.Errorf("card version %d does not exist", c.Version)
	}
	return firstOf(c.checkWords, c.checkFormat, c.checkLayout, c.checkPainting, c.checkMaterials, c.checkIDs, func() error { return c.checkWork(c.Unit) }, c.checkPieces)
}

// firstOf runs checks until one fails, so that the maker gets one thing to mend.
func firstOf(checks ...func() error) error {
	for _, check := range checks {
		if err := check(); err != nil {
			return err
		}
	}
	return nil
}

// CheckName reports a name that cannot be used; what names in words the thing
// named.
func CheckName(what, name string) error {
	switch {
	case strings.TrimSpace(name) == "":
		return fmt.Errorf("give the %s a name", what)
	case utf8.RuneCountInString(name) > MaxName:
		return fmt.Errorf("the name of the %s has %d characters; keep it to %d", what, utf8.RuneCountInString(name), MaxName)
	case !utf8.ValidString(name) || strings.ContainsFunc(name, func(r rune) bool { return r < ' ' }):
		return fmt.Errorf("the name of the %s holds characters that cannot be written; type it again", what)
	}
	return nil
}

// Shortened cuts a name to so many characters.
func Shortened(name string, most int) string {
	runes := []rune(name)
	return string(runes[:min(len(runes), most)])
}

// Ending adds an ending to a name and keeps it as long as names may be.
func Ending(name, ending string) string {
	return Shortened(name, MaxName-utf8.RuneCountInString(ending)) + ending
}

func (c *Card) checkWords() error {
	if err := CheckName("card", c.Name); err != nil {
		return err
	}
	if utf8.RuneCountInString(c.Notes) > MaxNotes {
		return fmt.Errorf("the notes are longer than %d characters", MaxNotes)
	}
	if c.Words.W < 0 || c.Words.H < 0 || max(c.Words.W, c.Words.H) > length.Max || (c.Words.W == 0) != (c.Words.H == 0) {
		return errors.New("the words take a width and a height")
	}
	return nil
}

func (c *Card) checkMaterials() error {
	if c.Copies < 0 || c.Copies > MaxCopies {
		return fmt.Errorf("paint is mixed for 1 to %d cards at a time; for more, mix again", MaxCopies)
	}
	for i, p := range c.Called {
		if _, err := pigment.ByCI(p.CI); err != nil {
			return err
		}
		if err := CheckName("paint", p.Name); err != nil {
			return err
		}
		if slices.ContainsFunc(c.Called[:i], func(o Called) bool { return o.CI == p.CI }) {
			return fmt.Errorf("%s is called two names; keep one", p.CI)
		}
	}
	for i, m := range c.Measured {
		if err := m.Check(); err != nil {
			return err
		}
		if slices.ContainsFunc(c.Measured[:i], func(o Measured) bool { return o.CI == m.CI }) {
			return fmt.Errorf("%s is measured twice; keep one", m.CI)
		}
	}
	if len(c.Wanted) > pigment.MaxSwatches {
		return fmt.Errorf("%d wanted colours are more than %d", len(c.Wanted), pigment.MaxSwatches)
	}
	for _, s := range c.Wanted {
		if _, err := pigment.ParseHex(s.Hex); err != nil {
			return err
		}
		if utf8.RuneCountInString(s.Name) > MaxName || !utf8.ValidString(s.Name) {
			return fmt.Errorf("the name of wanted colour %s is longer than %d characters", s.Hex, MaxName)
		}
	}
	if len(c.Silenced) > MaxSilenced {
		return fmt.Errorf("more than %d silenced watch-outs", MaxSilenced)
	}
	for i, id := range c.Silenced {
		if id == "" || len(id) > MaxName || slices.Contains(c.Silenced[:i], id) {
			return errors.New("a silenced watch-out has no name, or stands twice")
		}
	}
	if !slices.Contains(Dryings(), c.Drying) {
		return fmt.Errorf("%q is no way of drying; use mixed, air or heat", string(c.Drying))
	}
	if err := c.Schools.Check(); err != nil {
		return err
	}
	return c.Room.Check()
}

// Check reports what is wrong with a die set.
func (d *DieSet) Check() error {
	if err := CheckName("die set", d.Name); err != nil {
		return err
	}
	if !slices.Contains(Edges(), d.Edge) {
		return fmt.Errorf("%q is no edge of a die; use plain, deckle or scallop", string(d.Edge))
	}
	if len(d.Sizes) < 1 || len(d.Sizes) > MaxDies {
		return fmt.Errorf("a die set has 1 to %d sizes", MaxDies)
	}
	for _, s := range d.Sizes {
		if s.W <= 0 || s.H <= 0 || max(s.W, s.H) > length.Max {
			return fmt.Errorf("die set %q: a die cuts something, and at most 2 m", d.Name)
		}
	}
	return nil
}

func (c *Card) checkFormat() error {
	if err := c.Base.Fold.Check(); err != nil {
		return err
	}
	if id := c.Base.Format; id != "" && id != Free {
		if _, err := fold.FormatByID(id); err != nil {
			return err
		}
	}
	if e := c.Envelope; e != nil {
		if _, err := fold.EnvelopeByID(e.ID); e.ID != Free && err != nil {
			return err
		}
		if min(e.Inside.W, e.Inside.H) < MinPanel || max(e.Inside.W, e.Inside.H) > length.Max {
			return fmt.Errorf("an envelope of %s inside is outside %s to 2 m", e.Inside.With(c.Unit), MinPanel.With(c.Unit))
		}
	}
	papers := []string{c.Base.Paper}
	colours := []string{c.Base.Colour}
	if c.Insert != nil {
		papers, colours = append(papers, c.Insert.Paper), append(colours, c.Insert.Colour)
	}
	for _, l := range c.Layers {
		papers, colours = append(papers, l.Paper), append(colours, l.Colour)
		if l.Kind != Mat && l.Kind != Frame {
			return fmt.Errorf("%q is no layer; use mat or frame", string(l.Kind))
		}
	}
	for _, id := range papers {
		if _, err := shelf.PaperByID(id); err != nil {
			return err
		}
	}
	for _, name := range colours {
		if name == "" {
			continue
		}
		if err := CheckName("colour", name); err != nil {
			return err
		}
	}
	return nil
}

// checkLayout reports sizes that cannot be, or that fight.
func (c *Card) checkLayout() error {
	if len(c.Layers) > MaxLayers {
		return fmt.Errorf("%d layers are more than %d; take one off first", len(c.Layers), MaxLayers)
	}
	if c.Extra < 0 || c.Extra > MaxExtra {
		return fmt.Errorf("embellishments stand up to %s high, not %s", MaxExtra.With(c.Unit), c.Extra.With(c.Unit))
	}
	for _, s := range c.sizes() {
		if s.size.W < 0 || s.size.H < 0 || max(s.size.W, s.size.H) > length.Max {
			return fmt.Errorf("the %s cannot measure %s", s.name, s.size.With(c.Unit))
		}
		if s.die != nil {
			if err := s.die.Check(); err != nil {
				return err
			}
		}
		if s.round == nil {
			continue
		}
		for _, l := range []*length.Length{s.round.Left, s.round.Right, s.round.Top, s.round.Bottom} {
			if l != nil && max(*l, -*l) > length.Max {
				return fmt.Errorf("a margin of %s round the %s cannot be", l.With(c.Unit), s.name)
			}
		}
	}
	for _, s := range append([]Sizing{c.Panel}, sizings(c.Layers)...) {
		if err := checkHeld(s.By, s.High); err != nil {
			return err
		}
	}
	layout, err := c.Layout()
	if err != nil {
		return err
	}
	for _, r := range layout {
		least := MinPanel
		if r.Kind != FrontKind && r.Kind != PanelKind {
			least = length.Millimetre
		}
		if r.Size.W < least || r.Size.H < least || max(r.Size.W, r.Size.H) > length.Max {
			return fmt.Errorf("the %s would measure %s, outside %s to 2 m: what is given round it leaves nothing else", r.Name, r.Size.With(c.Unit), least.With(c.Unit))
		}
	}
	if s := c.InsertSize(); c.Insert != nil && (c.Insert.Margin < 0 || s.W < MinPanel || s.H < MinPanel) {
		return fmt.Errorf("an insert %s smaller all round would measure %s; make the margin narrower", c.Insert.Margin.With(c.Unit), s.With(c.Unit))
	}
	return nil
}

func sizings(layers []Layer) (out []Sizing) {
	for _, l := range layers {
		out = append(out, l.Sizing)
	}
	return out
}

// MaxExtra is the most that embellishments may stand up.
const MaxExtra = 2 * length.Inch

// checkTape reports tape that cannot be on a panel of a size.
func checkTape(p Painting, panel length.Size, u length.Unit) error {
	if p.Border < 0 || p.Tape < 0 || p.Spare < 0 || max(p.Tape, p.Spare) > length.Max/4 {
		return errors.New("border, tape and spare paper are widths: nothing or more, and at most half a metre")
	}
	if 2*p.Border >= min(panel.W, panel.H) {
		return fmt.Errorf("a masked border of %s leaves nothing to paint of a panel of %s; make it narrower", p.Border.With(u), panel.With(u))
	}
	return nil
}

// checkPainting reports tape and windows that cannot be.
func (c *Card) checkPainting() error {
	if err := checkTape(c.Painting, c.PanelSize(), c.Unit); err != nil {
		return err
	}
	w := c.Window
	if w == nil {
		return nil
	}
	if err := w.check(c.Unit); err != nil {
		return err
	}
	if !(w.Turn >= -180 && w.Turn <= 180) {
		return errors.New("the window turns by -180 to 180 degrees")
	}
	if max(w.X, -w.X, w.Y, -w.Y) > length.Max {
		return errors.New("the window lies more than 2 m off the sheet")
	}
	return nil
}
