package card

import (
	"errors"
	"fmt"
	"slices"

	"chromaqua/core/length"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// Work is what is done on one piece of paper: how it is held, what is put on it, and what
// of that is painted how.
type Work struct {
	Paper    string     `json:"paper"`               // an id of package shelf
	OwnPaper *shelf.Own `json:"own_paper,omitempty"` // the maker's own, like Paper
	Painting Painting   `json:"painting"`
	Hold     []Hold     `json:"hold,omitempty"` // one after the other; as is usual when empty

	Ink    string     `json:"ink"`                  // of images that have no medium of their own; an id of package shelf
	OwnInk *shelf.Own `json:"own_ink,omitempty"`    // the maker's own, like Ink
	Look   shelf.Look `json:"look,omitempty"`       // wanted of the line; crisp when empty
	Relief Relief     `json:"relief,omitempty"`     // when a folder is pressed; once painted when empty
	Images []Image    `json:"images"`               // on the piece, the one in front first
	Specks float64    `json:"specks_mm2,omitempty"` // cells smaller than this are forgotten, mm²

	Zones []Zone      `json:"zones,omitempty"` // parts that no printed line bounds
	Areas []Area      `json:"areas"`
	Joins [][2]string `json:"joins"`          // pairs of area ids that may run into each other
	Acts  []Handling  `json:"acts,omitempty"` // that nothing else implies
	Over  []Over      `json:"over,omitempty"` // where what lies over what departs from the usual

	Reserves []Reserve `json:"reserves,omitempty"` // what stays white or pale, and how
	Shadows  Shadows   `json:"shadows,omitzero"`   // where its cells are dark
}

// NewWork is paper on which nothing is done yet.
func NewWork(paper, ink string) Work {
	return Work{Paper: paper, Ink: ink, Painting: Painting{Tape: shelf.TapeWidth}, Images: []Image{}, Areas: []Area{}, Joins: [][2]string{}}
}

// Painting is how the panel is taped down. Border is masked and stays white;
// Spare is painted over and trimmed off, all round.
type Painting struct {
	Border length.Length `json:"border"`
	Tape   length.Length `json:"tape"` // its width
	Spare  length.Length `json:"spare"`
}

// Area is a named group of cells painted alike.
type Area struct {
	ID     string   `json:"id"`
	Name   string   `json:"name"`
	Focal  bool     `json:"focal,omitempty"` // no words on it
	White  bool     `json:"white,omitempty"` // kept paper white
	Loose  bool     `json:"loose,omitempty"` // painted in one sweep, over its own lines
	Run    bool     `json:"run,omitempty"`   // its own cells may run into each other
	Grey   bool     `json:"grey,omitempty"`  // its colours are to cancel each other out
	Lies   bool     `json:"lies,omitempty"`  // it lies over or under other areas, and takes no cell from them
	Zones  []string `json:"zones,omitempty"` // ids; within its cells, when it has some
	Cells  []Spot   `json:"cells"`
	Washes []Wash   `json:"washes"`
}

// Spot points at a cell by its label point on the image it belongs to, so that
// moving, turning or resizing the image takes the areas along; on a piece without images,
// on the piece. MM2 is the cell's
// area, to tell it from others.
type Spot struct {
	On string `json:"on"` // id of the image; the piece itself when empty
	UV
	MM2 float64 `json:"mm2"`
}

// Wash is one layer of one mix, or clean water on one: that has neither mix nor
// strength.
type Wash struct {
	Technique technique.Kind   `json:"technique"`
	Mix       []Part           `json:"mix,omitempty"`
	Strength  pigment.Strength `json:"strength,omitempty"`
	OverDry   bool             `json:"over_dry,omitempty"` // it waits until what lies below is dry
	Draw      int              `json:"draw,omitempty"`     // by which what it scatters is placed
}

// Begun is the wash that a technique begins as: without a mix, where it has no paint of
// its own.
func Begun(t technique.Kind) Wash {
	w := Wash{Technique: t}
	if start := t.Facts().Starts; start.CI != "" {
		w.Mix, w.Strength = []Part{{CI: start.CI, Parts: 1}}, start.Strength
	}
	return w
}

// IntoWet reports whether the wash, the nth of its area from 0, goes into the wet
// one below.
func (w Wash) IntoWet(n int) bool { return n > 0 && w.Technique.IntoWet() && !w.OverDry }

// WashName names a wash: "ultramarine + rose 2:1, tea, glaze", "lift".
func (c *Card) WashName(w Wash) string {
	switch w.Technique.Tool() {
	case technique.CleanWater:
		return w.Technique.Name()
	case technique.DrawnLine:
		return fmt.Sprintf("%s, %s", c.Called.Mix(w.Mix), w.Technique.Name())
	}
	how := w.Technique.Name()
	if w.OverDry {
		how += " over dry"
	}
	return fmt.Sprintf("%s, %s, %s", c.Called.Mix(w.Mix), w.Strength, how)
}

// Part is one paint of a mix, by Colour Index name.
type Part struct {
	CI    string `json:"ci"`
	Parts int    `json:"parts"`
}

// Relief is when an embossing folder is pressed; makers disagree.
type Relief string

// The ways.
const (
	Painted   Relief = "painted"   // once the paint is dry: water flattens relief
	Unpainted Relief = "unpainted" // first, and painted over
	Twice     Relief = "twice"     // once painted, and touched up on the ridges
)

// Reliefs lists them, the default first.
func Reliefs() []Relief { return []Relief{Painted, Unpainted, Twice} }

// InkFacts is what is known of the usual ink of the line: the maker's own, or the
// general one.
func (w *Work) InkFacts() shelf.Ink { return w.InkOf(&Image{}) }

// PaperFacts is what is known of the paper.
func (w *Work) PaperFacts() shelf.Paper {
	if w.OwnPaper != nil {
		return w.OwnPaper.Paper()
	}
	p, err := shelf.PaperByID(w.Paper)
	if err != nil {
		p = shelf.Papers()[0]
	}
	return p
}

// OwnNames are the names of the maker's own ink and paper, "" for general ones.
func (w *Work) OwnNames() (ink, paper string) {
	if w.OwnInk != nil {
		ink = w.OwnInk.Name
	}
	if w.OwnPaper != nil {
		paper = w.OwnPaper.Name
	}
	return ink, paper
}

// Begun reports whether anything is laid on the piece, parted off on it or done to it, so
// that it has cells; paper without a line is one.
func (w *Work) Begun() bool { return len(w.Images)+len(w.Zones)+len(w.Acts) > 0 }

// AreaByID returns the area with that id.
func (w *Work) AreaByID(id string) (*Area, error) {
	if i, ok := w.areaIndex(id); ok {
		return &w.Areas[i], nil
	}
	return nil, errors.New("that area is gone: it was removed or undone meanwhile; nothing was changed")
}

// Joined reports whether areas a and b may run into each other.
func (w *Work) Joined(a, b string) bool {
	return slices.Contains(w.Joins, [2]string{a, b}) || slices.Contains(w.Joins, [2]string{b, a})
}

func (w *Work) areaIndex(id string) (i int, ok bool) {
	i = slices.IndexFunc(w.Areas, func(a Area) bool { return a.ID == id })
	return i, i >= 0
}
