// Package card is the document the maker edits: one card, from its format to
// its washes. Everything else in the program is computed from it.
//
// A card's JSON is its own file format, described in docs/card-file.md.
package card

import (
	"errors"
	"fmt"
	"slices"
	"strings"
	"unicode/utf8"

	"chromaqua/core/drying"
	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
)

// Kind and Version mark a card's JSON. Version grows when an older program
// could misread the file.
const (
	Kind    = "chromaqua-card"
	Version = 1
)

// Limits of a card; whatever exceeds them is a slip or an attack.
const (
	MaxName   = 120  // characters of a name
	MaxNotes  = 4000 // characters of the notes
	MaxAreas  = 400
	MaxWashes = 12 // on one area
	MaxSpots  = 20_000
	MaxParts  = 20 // parts of one paint in a mix
	MaxPaints = 3  // paints in a mix
	MinPanel  = fold.MinFront
)

// Card is one card.
type Card struct {
	Kind    string      `json:"kind"`
	Version int         `json:"version"`
	Name    string      `json:"name"`
	Notes   string      `json:"notes,omitempty"`
	Unit    length.Unit `json:"unit"`
	Base    Base        `json:"base"`
	Mat     Mat         `json:"mat"`
	Paper   string      `json:"paper"` // of the panel; an id of package shelf
	Ink     string      `json:"ink"`   // of the line; an id of package shelf
	Line    *Line       `json:"line,omitempty"`
	Areas   []Area      `json:"areas"`
	Joins   [][2]string `json:"joins"` // pairs of area ids that may run into each other
	Drying  Drying      `json:"drying"`
	Room    drying.Room `json:"room"`
}

// Base is the folded card.
type Base struct {
	Format string      `json:"format"` // an id of package fold, or "free"
	Front  length.Size `json:"front"`
	Fold   fold.Side   `json:"fold"`
	Paper  string      `json:"paper"` // an id of package shelf
}

// Free is the format of a front of any size.
const Free = "free"

// Mat is the layer between base and panel. Border shows of the base all round
// it; Reveal shows of the mat all round the panel. Without a mat only Border
// counts.
type Mat struct {
	On     bool          `json:"on"`
	Border length.Length `json:"border"`
	Reveal length.Length `json:"reveal"`
	Paper  string        `json:"paper"` // an id of package shelf
}

// Line is the line image on the panel. X and Y place its top left corner and
// may be negative: what overhangs is not printed.
type Line struct {
	Image    string        `json:"image"` // SHA-256 of the file, hexadecimal
	Title    string        `json:"title"`
	WidthPX  int           `json:"width_px"`
	HeightPX int           `json:"height_px"`
	Width    length.Length `json:"width"`
	X        length.Length `json:"x"`
	Y        length.Length `json:"y"`
}

// Height is the real height that goes with the line's width.
func (l *Line) Height() length.Length {
	return length.FromMM(l.Width.MM() * float64(l.HeightPX) / float64(l.WidthPX))
}

// DPI is the resolution at which the image has its width.
func (l *Line) DPI() float64 { return float64(l.WidthPX) / (l.Width.MM() / 25.4) }

// Area is a named group of cells painted alike.
type Area struct {
	ID     string `json:"id"`
	Name   string `json:"name"`
	Cells  []Spot `json:"cells"`
	Washes []Wash `json:"washes"`
}

// Spot points at a cell: U and V are its label point from the image's top left
// corner, as shares of the image's width, so that moving or resizing the image
// takes the areas along. MM2 is the cell's area, to tell it from others.
type Spot struct {
	U   float64 `json:"u"`
	V   float64 `json:"v"`
	MM2 float64 `json:"mm2"`
}

// Technique is how a wash is laid.
type Technique string

// The techniques.
const (
	Flat     Technique = "flat"
	PullOut  Technique = "pull-out"
	WetOnWet Technique = "wet-on-wet"
	Glaze    Technique = "glaze"
)

// Techniques lists them in the order they are offered.
func Techniques() []Technique { return []Technique{Flat, PullOut, WetOnWet, Glaze} }

// Wash is one layer of one mix.
type Wash struct {
	Technique Technique        `json:"technique"`
	Mix       []Part           `json:"mix"`
	Strength  pigment.Strength `json:"strength"`
}

// Part is one paint of a mix, by Colour Index name.
type Part struct {
	CI    string `json:"ci"`
	Parts int    `json:"parts"`
}

// Drying is how coats are dried between layers.
type Drying string

// The two ways.
const (
	Air  Drying = "air"
	Heat Drying = "heat"
)

// New returns a card of the default format: A2 folded at the side, one mat,
// cotton paper, quick pigment ink, air drying in a still room.
func New(name string, unit length.Unit) *Card {
	c := &Card{
		Kind: Kind, Version: Version, Name: name, Unit: unit,
		Mat:   Mat{On: true, Border: length.Inch / 8, Reveal: length.Inch / 8, Paper: shelf.MatCardstock},
		Paper: shelf.Papers()[0].ID, Ink: shelf.Inks()[0].ID,
		Areas: []Area{}, Joins: [][2]string{}, Drying: Air, Room: drying.StillRoom,
	}
	a2, err := fold.FormatByID("a2")
	if err != nil {
		panic(err) // the table holds it
	}
	c.Base = Base{Format: a2.ID, Front: a2.Front, Fold: fold.Left, Paper: shelf.Cardstock}
	return c
}

// MatSize returns the size of the mat; the panel's when there is none.
func (c *Card) MatSize() length.Size {
	return length.Size{W: c.Base.Front.W - 2*c.Mat.Border, H: c.Base.Front.H - 2*c.Mat.Border}
}

// Panel returns the size of the painted panel: what the front leaves inside
// border and reveal.
func (c *Card) Panel() length.Size {
	s := c.MatSize()
	if c.Mat.On {
		s.W -= 2 * c.Mat.Reveal
		s.H -= 2 * c.Mat.Reveal
	}
	return s
}

// tapeThickness is a general figure for double-sided tape.
const tapeThickness = length.Millimetre / 10

// Stack lists the layers of the finished card, bottom first, as thick as its
// papers generally are.
func (c *Card) Stack() []fold.Layer {
	thick := func(id string) length.Length {
		p, err := shelf.PaperByID(id)
		if err != nil {
			p = shelf.Papers()[0]
		}
		return p.Thickness
	}
	n := c.Base.Fold.Layers()
	stack := []fold.Layer{{Name: fmt.Sprintf("base, %d ×", n), Thickness: thick(c.Base.Paper) * length.Length(n)}}
	if c.Mat.On {
		stack = append(stack, fold.Layer{Name: "tape", Thickness: tapeThickness}, fold.Layer{Name: "mat", Thickness: thick(c.Mat.Paper)})
	}
	return append(stack, fold.Layer{Name: "tape", Thickness: tapeThickness}, fold.Layer{Name: "panel", Thickness: thick(c.Paper)})
}

// AreaByID returns the area with that id.
func (c *Card) AreaByID(id string) (*Area, error) {
	for i := range c.Areas {
		if c.Areas[i].ID == id {
			return &c.Areas[i], nil
		}
	}
	return nil, errors.New("that area is gone: it was removed or undone meanwhile; nothing was changed")
}

// Joined reports whether areas a and b may run into each other.
func (c *Card) Joined(a, b string) bool {
	return slices.Contains(c.Joins, [2]string{a, b}) || slices.Contains(c.Joins, [2]string{b, a})
}

// Check reports the first thing wrong with the card, in words that say what to
// do.
func (c *Card) Check() error {
	if c.Kind != Kind {
		return fmt.Errorf("this is no card: its kind is %q, not %q", c.Kind, Kind)
	}
	if c.Version > Version {
		return fmt.Errorf("this card was written by a newer program (version %d, this one reads up to %d); update the program to open it", c.Version, Version)
	}
	if c.Version < 1 {
		return fmt.Errorf("card version %d does not exist", c.Version)
	}
	return firstOf(c.checkFormat, c.checkLine, c.checkAreas, c.checkJoins)
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

func (c *Card) checkFormat() error {
	if err := CheckName("card", c.Name); err != nil {
		return err
	}
	if utf8.RuneCountInString(c.Notes) > MaxNotes {
		return fmt.Errorf("the notes are longer than %d characters", MaxNotes)
	}
	if err := c.Base.Fold.Check(); err != nil {
		return err
	}
	if c.Base.Format != Free {
		if _, err := fold.FormatByID(c.Base.Format); err != nil {
			return err
		}
	}
	for name, l := range map[string]length.Length{"width": c.Base.Front.W, "height": c.Base.Front.H} {
		if l < MinPanel || l > length.Max {
			return fmt.Errorf("the front's %s of %s is outside %s to 2 m", name, l.With(c.Unit), MinPanel.With(c.Unit))
		}
	}
	if c.Mat.Border < 0 || c.Mat.Reveal < 0 {
		return errors.New("a border or reveal cannot be negative")
	}
	if p := c.Panel(); p.W < MinPanel || p.H < MinPanel {
		return fmt.Errorf("border and reveal leave no panel: it would be %s; make them narrower", p.With(c.Unit))
	}
	for _, id := range []string{c.Paper, c.Base.Paper, c.Mat.Paper} {
		if _, err := shelf.PaperByID(id); err != nil {
			return err
		}
	}
	if _, err := shelf.InkByID(c.Ink); err != nil {
		return err
	}
	if c.Drying != Air && c.Drying != Heat {
		return fmt.Errorf("%q is no way of drying; use air or heat", string(c.Drying))
	}
	return c.Room.Check()
}

func (c *Card) checkLine() error {
	l := c.Line
	if l == nil {
		return nil
	}
	if len(l.Image) != 64 || strings.Trim(l.Image, "0123456789abcdef") != "" {
		return errors.New("the line image is not named by its SHA-256")
	}
	if err := CheckName("line image", l.Title); err != nil {
		return err
	}
	if l.WidthPX < 1 || l.HeightPX < 1 || l.WidthPX > 1<<16 || l.HeightPX > 1<<16 {
		return fmt.Errorf("a line image of %d × %d pixels cannot be", l.WidthPX, l.HeightPX)
	}
	if l.Width < length.Millimetre || l.Width > length.Max {
		return fmt.Errorf("the image cannot be %s wide; measure it again", l.Width.With(c.Unit))
	}
	if max(l.X, -l.X) > length.Max || max(l.Y, -l.Y) > length.Max {
		return errors.New("the image lies more than 2 m off the panel")
	}
	return nil
}

func (c *Card) checkAreas() error {
	if len(c.Areas) > MaxAreas {
		return fmt.Errorf("%d areas are more than %d; gather cells into fewer", len(c.Areas), MaxAreas)
	}
	seen := map[string]bool{}
	spots := 0
	for _, a := range c.Areas {
		if a.ID == "" || len(a.ID) > 20 || seen[a.ID] {
			return fmt.Errorf("area id %.20q is empty, too long or stands twice", a.ID)
		}
		seen[a.ID] = true
		if err := CheckName("area", a.Name); err != nil {
			return err
		}
		if spots += len(a.Cells); spots > MaxSpots {
			return fmt.Errorf("the areas hold more than %d cells", MaxSpots)
		}
		for _, s := range a.Cells {
			if !(s.U > -1e3 && s.U < 1e3 && s.V > -1e3 && s.V < 1e3 && s.MM2 >= 0 && s.MM2 < 1e7) {
				return fmt.Errorf("area %q points at a place far off the panel", a.Name)
			}
		}
		if len(a.Washes) > MaxWashes {
			return fmt.Errorf("%d washes on %q are more than %d", len(a.Washes), a.Name, MaxWashes)
		}
		for i, w := range a.Washes {
			if err := w.Check(); err != nil {
				return fmt.Errorf("area %q, wash %d: %w", a.Name, i+1, err)
			}
		}
	}
	return nil
}

// Check reports the first thing wrong with a wash.
func (w Wash) Check() error {
	if !slices.Contains(Techniques(), w.Technique) {
		return fmt.Errorf("%q is no technique; use flat, pull-out, wet-on-wet or glaze", string(w.Technique))
	}
	if _, err := w.Strength.Load(); err != nil {
		return err
	}
	if len(w.Mix) < 1 || len(w.Mix) > MaxPaints {
		return fmt.Errorf("a mix takes one to %d paints; more turn to mud", MaxPaints)
	}
	for i, p := range w.Mix {
		if _, err := pigment.ByCI(p.CI); err != nil {
			return err
		}
		if p.Parts < 1 || p.Parts > MaxParts {
			return fmt.Errorf("%d parts of %s: use 1 to %d", p.Parts, p.CI, MaxParts)
		}
		for _, q := range w.Mix[:i] {
			if q.CI == p.CI {
				return fmt.Errorf("%s stands twice in the mix; add its parts up", p.CI)
			}
		}
	}
	return nil
}

func (c *Card) checkJoins() error {
	if len(c.Joins) > MaxAreas*4 {
		return errors.New("too many joins")
	}
	for _, j := range c.Joins {
		for _, id := range j {
			if !slices.ContainsFunc(c.Areas, func(a Area) bool { return a.ID == id }) {
				return fmt.Errorf("a join speaks of area %.20q, which the card does not have", id)
			}
		}
		if j[0] == j[1] {
			return errors.New("an area cannot be joined to itself")
		}
	}
	return nil
}
