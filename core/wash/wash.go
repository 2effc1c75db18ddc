// Package wash answers "what will it look like?" in space and time: how water and paint
// move on a sheet while it is painted and dries, and what picture that leaves.
//
// Two scales. A coarse grid (basin.go, transport.go) carries water and pigment; a picture
// (picture.go) adds, for each of its pixels, what is finer than that grid: the paper's
// tooth, grain, rims, exact edges. Water is in grams per square metre, as package drying
// has it, load in coats of a mix as thick as milk, as package pigment has it; places are
// in millimetres from the top left corner of the sheet, times in seconds.
//
// It is an estimate: its constants were set by eye and by what painters report, none was
// measured. Three of them a maker can fit from a card of test washes, see [Hand].
package wash

import (
	"math"

	"chromaqua/core/drying"
)

// Limits of what is simulated. What exceeds them is simulated less finely, never refused.
const (
	MaxLayers = 6  // dry layers that are told apart; more run into the uppermost
	MaxPaints = 60 // pigments on one sheet
)

// A Paint is one pigment as it moves and settles. Mixes are portions of several, which
// part again as they please.
type Paint struct {
	K, S, Sinks Bands
	Staining    float32 // 0 lifts off … 1 stains
	Grain       float32 // 0 smooth … 3 settles into the hollows
	Glint       float32 // it lies in flakes that mirror so much of the light, 0 to 1
}

// A Portion is how much of a mix is one paint; those of a mix sum to 1.
type Portion struct {
	Paint int // index into the painting's paints
	Share float32
}

// A Mark is what a stroke leaves that is finer than the coarse grid.
type Mark struct {
	Kind  MarkKind
	Share float64 // of the paper that is left out, for Skim
	At    []Disc  // where each lies, for all but Skim and Sponge
}

// A Disc is one drop, dot or grain, or a point of a line, mm.
type Disc struct{ X, Y, R float64 }

// MarkKind is how fine marks lie.
type MarkKind uint8

// The kinds.
const (
	NoMark  MarkKind = iota
	Skim             // over the tops of the paper, in the direction of the stroke
	Dots             // one round place each
	Lines            // each disc the start of a short line along the stroke
	Sponge           // patches
	Grains           // into a wash that dulls: each takes colour in and leaves a ring
	Falling          // drops that fall into what is there
)

// drawn reports whether such marks are only drawn: they do not run.
func (k MarkKind) drawn() bool { return k != NoMark && k != Grains && k != Falling }

// A Stroke is one go of a brush, or what is done in its place.
type Stroke struct {
	ID         int     // the caller's
	Start, Dur float64 // s
	Laid, Left float32 // water while it is worked, and at its end
	Load       float32
	Mix        []Portion // none for clean water
	Cells      []uint16  // labels it covers, in turn
	Within     *Region   // nil: all of each cell
	Amount     *Amount   // nil: even
	IntoWet    bool      // it is meant to go into what is wet
	Dropped    bool      // its water adds to what is there
	Take       *Take     // what clean water, a thirsty brush or a towel takes away
	Softens    bool      // edges that are gone over with clean water lose their rim
	Tilt       bool      // the board is tilted while it is wet, so that a bead runs down
	Band       float64   // width of the brush, mm
	Mark       Mark
	Loose      float32 // 0 a careful hand … 1 a loose one
}

// Take is the share of load that is taken away of a paint that stains not at all, and by how
// much less of one that stains.
type Take struct{ Share, Staining float32 }

// An Amount says how much of a stroke's load falls where, 1 being all of it.
type Amount struct {
	Key string // tells it from others: two of one key are the same
	At  func(x, y float64, label uint16) float32
}

// A Border is a line between two cells, and how well water crosses it between two films.
type Border struct {
	A, B  uint16
	Cross float32
}

// How well lines hold: what water crosses of what it would without one.
const (
	FlatLine   = 0.35
	RaisedLine = 0
	Leak       = 1
)

// A Spell is a time in which cells dry faster, as under the heat tool.
type Spell struct {
	Cells      []uint16
	From, To   float64
	Faster     float64
	WholeSheet bool
}

// A Cover is what keeps a region from paint for a time.
type Cover struct {
	Region   *Region
	From, To float64
}

// Hand is what a maker's paper and hand do to a wash, each a factor of the usual.
type Hand struct{ Spread, Rim, Grain float64 }

// UsualHand is what is taken until a maker has painted a test card.
func UsualHand() Hand { return Hand{1, 1, 1} }

// A Painting is a sheet and all that is done on it.
type Painting struct {
	Plate   *Plate
	Paper   Paper
	Ground  Bands // reflectance of the bare paper
	Paints  []Paint
	Strokes []Stroke // in any order
	Borders []Border
	Spells  []Spell
	Covers  []Cover
	Rate    []float64 // by label: evaporation, g/m² per minute; Rate[0] is for what is not told
	Hand    Hand
	Seed    uint32
	Fine    bool // it is measured, not only looked at: grids are finer
}

// Paper is how a paper takes a wash.
type Paper struct {
	Relief   Relief
	Damp     float32 // the load below which the gloss is off and it is damp
	Uneven   float32 // how far that varies from place to place, a share
	Patch    float32 // size of those places, mm
	Critical float32 // the load below which it dries ever slower
	Porous   float32 // how far its permeability varies: its logarithm's spread
}

// Relief is the form of a paper's surface.
type Relief string

// The reliefs.
const (
	HotPressed  Relief = "hot"
	ColdPressed Relief = "cold"
	Rough       Relief = "rough"
	PulpSheet   Relief = "pulp"
)

// PaperOf is how a paper of a surface and relief takes a wash. Where damp begins is the
// surface's own; the rest are estimates.
func PaperOf(s drying.Surface, r Relief) Paper {
	p := Paper{Relief: r, Uneven: 0.06, Patch: 4.5, Porous: 2.7}
	p.Damp, p.Critical = float32(s.Below(drying.Damp)), float32(s.Critical())
	if r == PulpSheet {
		p.Uneven, p.Patch = 0.8, 3.6
	}
	return p
}

// The load below which a wash is touch-dry.
const touchDry = 5

// wetness is how far water fills the surface at a load, 0 to 1.
func (p *Paper) wetness(w, damp float32) float32 {
	return clamp((w-4)/(1.7*damp-4), 0, 1)
}

func clamp(v, lo, hi float32) float32 {
	switch { // quicker than min and max, which look for what is no number
	case v < lo:
		return lo
	case v > hi:
		return hi
	}
	return v
}

// exp is e^−x, to a thousandth: pictures need no better. The power of 2 is put together from
// its exponent and a cubic, which is off by one in ten thousand.
func exp(x float32) float32 {
	const none = 127 // the exponent of 1
	x = none - x*math.Log2E
	switch {
	case x < 1:
		return 0
	case x > 2*none:
		x = 2 * none
	}
	whole := int32(x)
	x -= float32(whole)
	return (1 + x*(0.695424+x*(0.226308+x*0.078268))) * math.Float32frombits(uint32(whole)<<23)
}
