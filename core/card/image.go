package card

import (
	"cmp"
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"

	"chromaqua/core/length"
	"chromaqua/core/shelf"
)

// Limits of the images of a card.
const (
	MaxImages     = 30
	MaxMarks      = 1000 // corrections of one image
	MaxMarkPoints = 500
	MaxSpecks     = 400.0 // mm²
	MaxGhost      = 3     // a stamp leaves next to nothing after that
)

// Scan is a picture file of real size: a line image, or a painted sheet.
type Scan struct {
	Image    string        `json:"image"` // SHA-256 of the file, hexadecimal
	Title    string        `json:"title"`
	WidthPX  int           `json:"width_px"`
	HeightPX int           `json:"height_px"`
	Width    length.Length `json:"width"` // real
}

// Height is the real height that goes with the picture's width.
func (s *Scan) Height() length.Length {
	return length.FromMM(s.Width.MM() * float64(s.HeightPX) / float64(s.WidthPX))
}

// Size is the real size of the picture.
func (s *Scan) Size() length.Size { return length.Size{W: s.Width, H: s.Height()} }

// DPI is the resolution at which the picture has its width.
func (s *Scan) DPI() float64 { return float64(s.WidthPX) / (s.Width.MM() / 25.4) }

// Image is an image on the panel. X and Y place the top left corner of its
// picture before it is turned about its middle, and may be negative: what
// overhangs is not printed.
type Image struct {
	ID string `json:"id"`
	Scan
	Kind   shelf.ImageKind `json:"kind,omitempty"` // a line when empty
	X      length.Length   `json:"x"`
	Y      length.Length   `json:"y"`
	Turn   float64         `json:"turn,omitzero"` // degrees, clockwise
	Mirror bool            `json:"mirror,omitempty"`
	Ghost  int             `json:"ghost,omitzero"` // times the stamp is stamped off first
	Marks  []Mark          `json:"marks,omitempty"`
	Medium *Medium         `json:"medium,omitempty"` // the usual of its piece when nil
}

// Mark corrects what was found in an image, or says what of it is not inked. Its
// points are shares of the image's width from its top left corner, as those of a
// [Spot] are, so that it goes with the image.
type Mark struct {
	Kind   MarkKind `json:"kind"`
	Points []UV     `json:"points"`
}

// UV is a point on an image: shares of the image's width from its top left
// corner.
type UV struct {
	U float64 `json:"u"`
	V float64 `json:"v"`
}

// MarkKind is what a mark does.
type MarkKind string

// The kinds of marks.
const (
	Pen  MarkKind = "pen"  // a stroke that closes a gap or divides a cell
	Join MarkKind = "join" // its two points lie in one cell, whatever is between
	Bare MarkKind = "bare" // what it goes round is not inked
)

// PenMM is the width of the pen that marks are drawn with.
const PenMM = 0.5

// What makes an image, when nothing is said.
func (m *Image) kind() shelf.ImageKind {
	return cmp.Or(m.Kind, shelf.LineImage)
}

// Is reports whether the image is of that kind.
func (m *Image) Is(k shelf.ImageKind) bool { return m.kind() == k }

// Inked reports whether the image leaves ink on the paper: a folder presses it, a
// die cuts it and a stencil is painted through.
func (m *Image) Inked() bool {
	return !slices.Contains([]shelf.ImageKind{shelf.ReliefImage, shelf.Stencil, shelf.ResistImage, shelf.DieImage}, m.kind())
}

// Strokes counts the strokes of the pen.
func (m *Image) Strokes() (n int) {
	for _, mark := range m.Marks {
		if mark.Kind == Pen {
			n++
		}
	}
	return n
}

// Alike reports whether the two are the same stamp inked alike, so that a mask
// cut for one serves the other.
func (m *Image) Alike(o *Image) bool {
	bare := func(i *Image) (out [][]UV) {
		for _, mark := range i.Marks {
			if mark.Kind == Bare {
				out = append(out, mark.Points)
			}
		}
		return out
	}
	return m.Image == o.Image && m.Width == o.Width && m.Mirror == o.Mirror &&
		slices.EqualFunc(bare(m), bare(o), slices.Equal[[]UV])
}

// Line is the image in front, nil when the panel is empty.
func (w *Work) Line() *Image {
	if len(w.Images) == 0 {
		return nil
	}
	return &w.Images[0]
}

// Inked reports whether some image leaves ink on the panel, or may yet: there is
// none.
func (w *Work) Inked() bool {
	return len(w.Images) == 0 || slices.ContainsFunc(w.Images, func(m Image) bool { return m.Inked() })
}

// UsesInk reports whether some image is put on with the usual ink of the piece, or may yet
// be: there is none.
func (w *Work) UsesInk() bool {
	return len(w.Images) == 0 || slices.ContainsFunc(w.Images, func(m Image) bool { return m.Inked() && m.medium().Ink == "" })
}

// Has reports whether an image of that kind lies on the panel.
func (w *Work) Has(k shelf.ImageKind) bool {
	return slices.ContainsFunc(w.Images, func(m Image) bool { return m.Is(k) })
}

var errNoImage = errors.New("that image is not on the panel any more; nothing was changed")

// ImageByID returns an image on the panel.
func (w *Work) ImageByID(id string) (*Image, error) { return w.imageByID(id) }

func (w *Work) imageByID(id string) (*Image, error) {
	for i := range w.Images {
		if w.Images[i].ID == id {
			return &w.Images[i], nil
		}
	}
	return nil, errNoImage
}

// Scans lists the pictures the card speaks of.
func (c *Card) Scans() (out []*Scan) {
	for i := range c.Images {
		out = append(out, &c.Images[i].Scan)
	}
	for i := range c.Pieces {
		for k := range c.Pieces[i].Images {
			out = append(out, &c.Pieces[i].Images[k].Scan)
		}
	}
	if c.Window != nil {
		out = append(out, &c.Window.Scan)
	}
	return out
}

// Place puts an image in the middle of the panel, in the place of the one with
// that id: areas keep pointing at it. An empty panel takes it as its first.
func (c *Card) Place(id string, s Scan, k shelf.ImageKind) error {
	if len(c.Images) == 0 {
		_, err := c.Lay(s, k)
		return err
	}
	m, err := c.ImageByID(id)
	if err != nil {
		return err
	}
	*m = Image{ID: id, Scan: s, Kind: k}
	c.Centre(m)
	return nil
}

// Lay puts another image in the middle of the panel, behind those that lie
// there, and returns its id, the first free "i<n>".
func (c *Card) Lay(s Scan, k shelf.ImageKind) (string, error) {
	return c.lay(Image{Scan: s, Kind: k}, len(c.Images), true)
}

func (c *Card) lay(m Image, at int, centred bool) (string, error) {
	if len(c.Images) >= MaxImages {
		return "", fmt.Errorf("a panel takes at most %d images; take one away first", MaxImages)
	}
	m.ID = c.freeID("i", len(c.Images))
	c.Images = slices.Insert(c.Images, at, m)
	if centred {
		c.Centre(&c.Images[at])
	}
	return m.ID, nil
}

// Centre moves an image to the middle of the panel.
func (c *Card) Centre(m *Image) {
	p := c.PanelSize()
	m.X, m.Y = (p.W-m.Width)/2, (p.H-m.Height())/2
}

// Repeat puts copies of an image behind it, each so much further right, down and
// turned than the one before. Its corrections go with them.
func (c *Card) Repeat(id string, copies int, right, down length.Length, turn float64) error {
	i := slices.IndexFunc(c.Images, func(m Image) bool { return m.ID == id })
	switch {
	case i < 0:
		return errNoImage
	case copies < 1 || len(c.Images)+copies > MaxImages:
		return fmt.Errorf("a panel takes at most %d images; there are %d, so 1 to %d copies can be added", MaxImages, len(c.Images), MaxImages-len(c.Images))
	}
	for n := range copies {
		m := c.Images[i+n]
		m.Marks = slices.Clone(m.Marks)
		m.X, m.Y, m.Turn = m.X+right, m.Y+down, whole(m.Turn+turn)
		if _, err := c.lay(m, i+n+1, false); err != nil {
			return err
		}
	}
	return nil
}

// TurnBy turns an image further, to the tenth of a degree.
func (m *Image) TurnBy(degrees float64) error {
	if !(math.Abs(degrees) <= 360) {
		return errors.New("an image is turned by -180 to 180 degrees")
	}
	m.Turn = whole(math.Round(10*(m.Turn+degrees)) / 10)
	return nil
}

// whole brings an angle into -180 to 180 degrees.
func whole(turn float64) float64 {
	for turn > 180 {
		turn -= 360
	}
	for turn < -180 {
		turn += 360
	}
	return turn
}

// Bring moves an image n places towards the front; a negative n moves it back.
func (c *Card) Bring(id string, n int) error {
	i := slices.IndexFunc(c.Images, func(m Image) bool { return m.ID == id })
	if i < 0 {
		return errNoImage
	}
	m := c.Images[i]
	c.Images = slices.Delete(c.Images, i, i+1)
	c.Images = slices.Insert(c.Images, min(len(c.Images), max(0, i-n)), m)
	return nil
}

// TakeAway removes an image; the cells that areas had in it are forgotten.
func (c *Card) TakeAway(id string) error {
	if _, err := c.ImageByID(id); err != nil {
		return err
	}
	c.Images = slices.DeleteFunc(c.Images, func(m Image) bool { return m.ID == id })
	for i := range c.Areas {
		a := &c.Areas[i]
		a.Cells = slices.DeleteFunc(a.Cells, func(s Spot) bool { return s.On == id })
	}
	for _, z := range slices.Clone(c.Zones) {
		if z.On == id {
			c.RemoveZone(z.ID)
		}
	}
	c.forget(id)
	return nil
}

func (w *Work) checkImages(u length.Unit) error {
	if len(w.Images) > MaxImages {
		return fmt.Errorf("%d images are more than a panel takes; keep it to %d", len(w.Images), MaxImages)
	}
	if !(w.Specks >= 0 && w.Specks <= MaxSpecks) {
		return fmt.Errorf("cells of up to %.0f mm, 3/4 in, across can be forgotten as specks", math.Sqrt(MaxSpecks))
	}
	for i := range w.Images {
		if err := w.Images[i].check(u); err != nil {
			return err
		}
	}
	return nil
}

func (m *Image) check(u length.Unit) error {
	if err := m.Scan.check(u); err != nil {
		return err
	}
	switch {
	case !slices.Contains(shelf.ImageKinds(), m.kind()):
		return fmt.Errorf("%q is no kind of image", string(m.Kind))
	case max(m.X, -m.X) > length.Max || max(m.Y, -m.Y) > length.Max:
		return errors.New("the image lies more than 2 m off the panel")
	case !(m.Turn >= -180 && m.Turn <= 180):
		return errors.New("an image is turned by -180 to 180 degrees")
	case m.Ghost < 0 || m.Ghost > MaxGhost:
		return fmt.Errorf("a stamp is stamped off 0 to %d times; after that it leaves next to nothing", MaxGhost)
	case len(m.Marks) > MaxMarks:
		return fmt.Errorf("%d corrections of one line are more than %d; scan it anew", len(m.Marks), MaxMarks)
	}
	if m.Medium != nil {
		if err := m.Medium.Check(); err != nil {
			return fmt.Errorf("%s: %w", m.Title, err)
		}
	}
	for i, mark := range m.Marks {
		if err := mark.check(); err != nil {
			return fmt.Errorf("correction %d: %w", i+1, err)
		}
	}
	return nil
}

func (m Mark) check() error {
	switch {
	case m.Kind != Pen && m.Kind != Join && m.Kind != Bare:
		return fmt.Errorf("%q is no correction; use pen, join or bare", string(m.Kind))
	case m.Kind == Join && len(m.Points) != 2:
		return errors.New("two cells are joined at a time")
	case m.Kind == Bare && len(m.Points) < 3:
		return errors.New("go round what is not to be inked with three points or more")
	case len(m.Points) < 2 || len(m.Points) > MaxMarkPoints:
		return fmt.Errorf("a stroke has 2 to %d points", MaxMarkPoints)
	}
	for _, p := range m.Points {
		if !(p.U > -1e3 && p.U < 1e3 && p.V > -1e3 && p.V < 1e3) {
			return errors.New("it lies far off the panel")
		}
	}
	return nil
}

// check reports what is wrong with a picture a card speaks of.
func (s *Scan) check(u length.Unit) error {
	if len(s.Image) != 64 || strings.Trim(s.Image, "0123456789abcdef") != "" {
		return errors.New("the image is not named by its SHA-256")
	}
	if err := CheckName("image", s.Title); err != nil {
		return err
	}
	if s.WidthPX < 1 || s.HeightPX < 1 || s.WidthPX > 1<<16 || s.HeightPX > 1<<16 {
		return fmt.Errorf("an image of %d × %d pixels cannot be", s.WidthPX, s.HeightPX)
	}
	if s.Width < length.Millimetre || s.Width > length.Max {
		return fmt.Errorf("the image cannot be %s wide; measure it again", s.Width.With(u))
	}
	return nil
}
