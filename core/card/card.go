// Package card is the document the maker edits: one card, from its format to
// its washes. Everything else in the program is computed from it.
//
// A card's JSON is its own file format, described in docs/card-file.md.
package card

import (
	"slices"

	"chromaqua/core/drying"
	"chromaqua/core/fold"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/nest"
	"chromaqua/core/pigment"
	"chromaqua/core/school"
	"chromaqua/core/shelf"
)

// Kind and Version mark a card's JSON. Version grows when an older program
// could misread the file.
const (
	Kind    = "chromaqua-card"
	Version = 12
)

// Limits of a card; whatever exceeds them is a slip or an attack.
const (
	MaxName     = 120  // characters of a name
	MaxID       = 20   // characters of an id
	MaxNotes    = 4000 // characters of the notes
	MaxAreas    = 400
	MaxWashes   = 12 // on one area
	MaxSpots    = 20_000
	MaxLayers   = 12
	MaxDies     = 40 // sizes of one die set
	MaxSilenced = 100
	MaxParts    = 20 // parts of one paint in a mix
	MaxDraws    = 1000
	MaxCopies   = 200
	MaxPaints   = 3 // paints in a mix
	MinPanel    = fold.MinFront
)

// Card is one card.
type Card struct {
	Kind     string      `json:"kind"`
	Version  int         `json:"version"`
	Name     string      `json:"name"`
	Notes    string      `json:"notes,omitempty"`
	Silenced []string    `json:"silenced,omitempty"` // watch-outs the maker does not want on this card
	Unit     length.Unit `json:"unit"`

	// The card from the outside in; what is given of it stays, the rest follows
	// (see [Card.Layout]).
	Envelope *Envelope     `json:"envelope,omitempty"` // the one at hand
	Base     Base          `json:"base"`
	Layers   []Layer       `json:"layers"` // mats and frames between base and panel, from the base up
	Panel    Sizing        `json:"panel"`
	Stamp    *Stamp        `json:"stamp,omitempty"` // what the panel is made round
	Insert   *Insert       `json:"insert,omitempty"`
	Extra    length.Length `json:"extra,omitzero"` // embellishments stand so high on the panel

	Window *Window     `json:"window,omitempty"`
	Words  length.Size `json:"words,omitzero"` // of the sentiment there has to be room for

	Work           // on the panel
	Pieces []Piece `json:"pieces,omitempty"` // that are worked on beside the panel

	Called   Names            `json:"called,omitempty"`   // what the maker calls paints of the washes
	Measured []Measured       `json:"measured,omitempty"` // paints of the maker's that were found from swatches
	Wanted   []pigment.Swatch `json:"wanted,omitempty"`   // colours to mix
	Copies   int              `json:"copies,omitempty"`   // that paint is mixed for; one when 0
	Drying   Drying           `json:"drying"`
	Room     drying.Room      `json:"room"`
	Schools  school.Ways      `json:"schools,omitzero"` // where it is worked otherwise than the studio does, and what is new on it begins as

	elsewhere []string // ids that are taken on other pieces, when it is one of them alone
}

// Envelope is the envelope the maker has: a standard one by its id of package
// fold, or one of any inside size.
type Envelope struct {
	ID     string      `json:"id"` // or [Free]
	Inside length.Size `json:"inside"`
}

// Base is the folded card.
type Base struct {
	Format string      `json:"format,omitempty"` // of the front as given: an id of package fold, or [Free]
	Front  length.Size `json:"front,omitzero"`   // as given; what is zero follows
	Across bool        `json:"across,omitempty"` // it lies across, where nothing else says
	Fold   fold.Side   `json:"fold"`
	Inside bool        `json:"inside,omitempty"` // the blank is drawn and scored with its inside up
	Paper  string      `json:"paper"`            // an id of package shelf
	Colour string      `json:"colour,omitempty"` // of its paper, "" for any
}

// Free is a front or an envelope of any size.
const Free = "free"

// Sizing is how a layer is sized: as given, by what shows round it of what lies
// under it, or by the nearest die of a set.
type Sizing struct {
	Size   length.Size   `json:"size,omitzero"` // as given; what is zero follows
	Margin nest.Margin   `json:"margin,omitzero"`
	Die    *DieSet       `json:"die,omitempty"`
	By     joint.By      `json:"by,omitempty"`  // what holds it; the best for it when empty
	High   length.Length `json:"high,omitzero"` // its foam; the usual when 0
}

// LayerKind is what a layer is.
type LayerKind string

// The kinds of layers.
const (
	Mat   LayerKind = "mat"
	Frame LayerKind = "frame" // lies on what it shows through its opening
)

// Layer is a mat or a frame.
type Layer struct {
	Kind   LayerKind `json:"kind"`
	Paper  string    `json:"paper"` // an id of package shelf
	Colour string    `json:"colour,omitempty"`
	Sizing
	Opening length.Size `json:"opening,omitzero"` // of a frame, as given
	Bar     nest.Margin `json:"bar,omitzero"`     // of a frame: the width of its four bars
}

// Stamp is what the panel is made round: its real size, of the line image when
// none is given, and the border of the panel round it.
type Stamp struct {
	Size   length.Size `json:"size,omitzero"`
	Border nest.Margin `json:"border,omitzero"`
}

// Insert is a leaf for the inside, smaller than the front by Margin all round.
type Insert struct {
	Margin length.Length `json:"margin"`
	Paper  string        `json:"paper"`
	Colour string        `json:"colour,omitempty"`
}

// UsualInsert is the leaf a card gets when nothing is said of it.
func UsualInsert() Insert { return Insert{Margin: length.Inch / 8, Paper: shelf.Cardstock} }

// Window is where the panel is cut out of a larger painted sheet, by the
// window's middle from the sheet's top left corner.
type Window struct {
	Scan
	X    length.Length `json:"x"`
	Y    length.Length `json:"y"`
	Turn float64       `json:"turn"` // degrees, clockwise
}

// Drying is how coats are dried between layers.
type Drying string

// The ways.
const (
	Mixed Drying = "mixed" // small washes by heat, big ones by air
	Air   Drying = "air"
	Heat  Drying = "heat"
)

// Words names the way for a choice.
func (d Drying) Words() string {
	return map[Drying]string{Mixed: "small by heat, big by air", Air: "air", Heat: "heat tool"}[d]
}

// Dryings lists them, the default first.
func Dryings() []Drying { return []Drying{Mixed, Air, Heat} }

// Measured is a paint of the maker's as it was found from its swatches. Washes that
// name its pigment are painted with it.
type Measured struct {
	CI   string           `json:"ci"`
	Name string           `json:"name"`
	K    pigment.Spectrum `json:"K"`
	S    pigment.Spectrum `json:"S"`
}

// Called is what the maker calls a paint, by its pigment.
type Called struct {
	CI   string `json:"ci"`
	Name string `json:"name"`
}

// Names are what paints are called, by their pigments; the first of a pigment counts.
type Names []Called

// Of is what the maker calls a paint, else what painters call it.
func (n Names) Of(ci string) string {
	for _, p := range n {
		if p.CI == ci {
			return p.Name
		}
	}
	return pigment.Common(ci)
}

// Mix prints a mix by what its paints are called: "ultramarine", "ultramarine + rose 2:1".
func (n Names) Mix(parts []Part) string { return mixOf(parts, n.Of) }

// Call takes down what the maker calls the paints that washes are mixed of.
func (c *Card) Call(all Names) {
	c.Called = nil
	for _, p := range all {
		if c.Uses(p.CI) && !slices.ContainsFunc(c.Called, func(o Called) bool { return o.CI == p.CI }) {
			c.Called = append(c.Called, p)
		}
	}
}

// Measure puts measured paints on the card in place of those of the same pigment.
func (c *Card) Measure(paints ...Measured) {
	for _, p := range paints {
		c.Measured = slices.DeleteFunc(c.Measured, func(o Measured) bool { return o.CI == p.CI })
		c.Measured = append(c.Measured, p)
	}
}

// Uses reports whether some wash on some piece is mixed with that pigment.
func (c *Card) Uses(ci string) bool {
	return c.Work.uses(ci) || slices.ContainsFunc(c.Pieces, func(p Piece) bool { return p.uses(ci) })
}

func (w *Work) uses(ci string) bool {
	return slices.ContainsFunc(w.Areas, func(a Area) bool {
		return slices.ContainsFunc(a.Washes, func(w Wash) bool {
			return slices.ContainsFunc(w.Mix, func(p Part) bool { return p.CI == ci })
		})
	})
}

// New returns a card of the default format: A2 folded at the side, one mat,
// cotton paper, quick pigment ink, a still room.
func New(name string, unit length.Unit) *Card {
	c := &Card{
		Kind: Kind, Version: Version, Name: name, Unit: unit,
		Layers: []Layer{{Kind: Mat, Paper: shelf.MatCardstock}},
		Work:   NewWork(shelf.Papers()[0].ID, shelf.Inks()[0].ID),
		Drying: Mixed, Room: drying.StillRoom,
	}
	a2, err := fold.FormatByID("a2")
	if err != nil {
		panic(err) // the table holds it
	}
	c.Base = Base{Format: a2.ID, Front: a2.Front, Fold: fold.Left, Paper: shelf.Cardstock}
	return c
}
