// Package technique knows the ways to lay a wash, or to work on one that lies: what each
// waits for, what it is done with, how wet it is, how its colour runs and what it leaves.
package technique

import (
	"chromaqua/core/drying"
	"chromaqua/core/pigment"
)

// Kind names a technique. All that is known of one stands in its row of the table in
// table.go; see [Kind.Facts].
type Kind string

// The techniques.
const (
	Flat    Kind = "flat"
	Graded  Kind = "graded"   // dark above, pale below
	PullOut Kind = "pull-out" // laid into the shadow side, drawn out with water
	Glaze   Kind = "glaze"

	Crescent      Kind = "crescent"       // a shadow along the far side that leaves a lit rim
	CastShadow    Kind = "cast-shadow"    // of what lies over it, with an edge
	ReservedLight Kind = "reserved-light" // painted round the place where light falls

	Halo   Kind = "halo"          // at the subject, faded to nothing outwards
	Shadow Kind = "ground-shadow" // below, faded to nothing upwards

	WetOnWet   Kind = "wet-on-wet"
	Variegated Kind = "variegated" // into the wash below while it is wet, side by side with it
	Soften     Kind = "soften"     // its edge drawn out with clean water
	Lift       Kind = "lift"       // colour taken out of its middle with a thirsty brush
	Blot       Kind = "blot"       // patches taken out with a paper towel

	DryBrush  Kind = "dry-brush" // nearly dry: it leaves the paper's hollows white
	Splatter  Kind = "splatter"  // drops flicked off the brush
	Highlight Kind = "highlight" // a dab of opaque paint where light falls
	PenLine   Kind = "pen-line"  // lines of a waterproof pen
	Pencil    Kind = "pencil"    // coloured pencil, which leaves the hollows too
	Shimmer   Kind = "shimmer"   // mica or metallic paint

	WetSplatter Kind = "wet-splatter" // drops of paint flicked into the wet
	CleanDrops  Kind = "clean-drops"  // of water, into the gloss
	Spritz      Kind = "spritz"       // a mist of water as the sheen goes
	Salt        Kind = "salt"         // grains strewn as the sheen goes
	DropsLifted Kind = "drops-lifted" // drops of water on dry paint, dabbed off
	LostEdge    Kind = "lost-edge"    // where it meets its neighbour, rubbed until it is lost
	Sponge      Kind = "sponge"       // dabbed on with a sponge
	Stipple     Kind = "stipple"      // dots with the tip of a brush
	WhiteVeil   Kind = "white-veil"   // a thin coat of opaque white
	InkRubbed   Kind = "ink-rubbed"   // an ink pad rubbed on dry with a cloth

	WhitePen   Kind = "white-pen"   // an opaque pen on dry paint
	MarkerLine Kind = "marker-line" // a pen whose ink water dissolves

	LinePull     Kind = "line-pull"     // the ink's own colour, drawn out of a line that gives it
	WetPencil    Kind = "laid-pencil"   // watercolour pencil, laid dry
	PencilWetted Kind = "pencil-wetted" // and drawn out with water
)

// Tool is what a technique is done with.
type Tool uint8

// The tools.
const (
	PaintedBrush Tool = iota // a brush with a mix in it
	CleanWater               // a brush or a towel without paint
	DrawnLine                // a pen or a pencil: the mix stands for its colour
)

// A Moment is what a technique has to wait for.
type Moment string

// The moments.
const (
	AnyTime  Moment = "any time"
	WhileWet Moment = "while wet"
	OnceDry  Moment = "once dry"
)

// Act is what a step with a technique does at the bench.
type Act string

// The acts.
const (
	Washes    Act = "wash"
	Wets      Act = "wet" // with clean water
	Lifts     Act = "lift"
	Blots     Act = "blot"
	Splatters Act = "splatter"
	Strews    Act = "spritz" // into a wash whose sheen is going
	Details   Act = "detail" // the point of a brush, a pen, a pencil
)

// Lie is what a technique leaves lying, to what comes after it.
type Lie string

// What lies.
const (
	AsWash   Lie = "a wash"
	AsOpaque Lie = "opaque paint"
	AsDrops  Lie = "drops"
	AsPencil Lie = "pencil"
	AsCrayon Lie = "pencil that water dissolves"
	AsPen    Lie = "pen ink"
	AsRubbed Lie = "rubbed ink"
)

// Grade is how an area's colour runs from its densest place to its thinnest.
type Grade string

// The grades. One that runs in a line is seen before one that spreads.
const (
	Even   Grade = ""
	Out    Grade = "out"    // from the middle outwards
	In     Grade = "in"     // from the edges to the middle
	Corner Grade = "corner" // from the lower left, as out of a shadow
	Down   Grade = "down"
	Up     Grade = "up"
	Across Grade = "across" // from one colour to another
)

// Trace is what a technique leaves here and there on what lies below.
type Trace string

// The traces. Glints and skips come with paint that covers; the others leave all that
// is between them as it was.
const (
	NoTrace Trace = ""
	Drops   Trace = "drops" // each placed by the wash's draw
	Dabs    Trace = "dabs"
	Strokes Trace = "strokes"
	Patches Trace = "patches"
	Glints  Trace = "glints"
	Skips   Trace = "skips"
)

// Facts is all that is known of a technique.
type Facts struct {
	Kind   Kind
	Name   string // what makers call it, "" where it is called by its kind
	When   Moment
	Tool   Tool
	With   string // the tool by name, where it is no brush of the shelf
	Fine   bool   // done with the smallest brush, however large the place
	Rarely bool   // offered behind the usual ones
	Act    Act
	Lies   Lie

	Laid, Left drying.GramsPerSquareMetre // the water it lays, and what it leaves of that at the end of the stroke
	Share      float64                    // of an area it touches, above 0 to 1
	Slow       float64                    // times longer than covering: it is gone over again with water

	Runs    Grade   // how its colour runs; what goes into the wet runs only there
	Thin    float64 // what is left of its load at its thinnest, above 0 to 1
	Hollows float64 // share of the paper it skims over and leaves as it was
	Takes   Taking  // of the wash below, with clean water
	Pulls   bool    // colour out of a line that gives it, with clean water, so that it needs no wash below
	Spreads bool    // the pencil below: it leaves no hollows
	Trace   Trace
	Drop    float64 // usual radius of what it scatters, mm; 0 for what scatters nothing

	Starts Start  // what it begins with, where not with the mix and the strength of the wash below
	How    string // it is done, over what is dry or by itself
	Wetly  string // how it is done into the wet, where that differs
	Dryly  string // how clean water is used where the wash below has dried
}

// Taking is what clean water leaves of a wash that stains not at all, and what each
// step of staining adds. Estimates: no paint is measured for them.
type Taking struct{ Least, Staining float64 }

// Start is the one paint, by its colour index, and the strength that a technique begins
// with; none where it is empty.
type Start struct {
	CI       string
	Strength pigment.Strength
}

// Facts returns the row of a technique; that of a flat wash for one that is unknown.
func (t Kind) Facts() *Facts {
	for i := range techniques {
		if techniques[i].Kind == t {
			return &techniques[i]
		}
	}
	return &techniques[0]
}

// Kinds lists all of them, in the order they are offered.
func Kinds() (out []Kind) {
	for i := range techniques {
		out = append(out, techniques[i].Kind)
	}
	return out
}

// Group is the techniques that have the same moment.
type Group struct {
	When Moment
	All  []Kind
}

// Groups lists the usual techniques in the order they are offered, or those that
// are rare.
func Groups(rare bool) (out []Group) {
	for i := range techniques {
		f := &techniques[i]
		if f.Rarely != rare {
			continue
		}
		if n := len(out); n == 0 || out[n-1].When != f.When {
			out = append(out, Group{When: f.When})
		}
		g := &out[len(out)-1]
		g.All = append(g.All, f.Kind)
	}
	return out
}

// Name is what makers call it.
func (t Kind) Name() string {
	if f := t.Facts(); f.Kind == t && f.Name != "" {
		return f.Name
	}
	return string(t)
}

// Known reports whether it is a technique.
func (t Kind) Known() bool { return t == t.Facts().Kind }

// Laid is the water that stands on the paper while the technique is worked.
func (t Kind) Laid() drying.GramsPerSquareMetre { return t.Facts().Laid }

// Left is the water the technique leaves at the end of the stroke: none where it
// takes water away.
func (t Kind) Left() drying.GramsPerSquareMetre { return t.Facts().Left }

// Tool is what it is done with.
func (t Kind) Tool() Tool { return t.Facts().Tool }

// Share is the part of an area it touches, 0 to 1: an estimate.
func (t Kind) Share() float64 { return t.Facts().Share }

// IntoWet reports whether it comes while the wash below is wet, unless the maker
// says otherwise.
func (t Kind) IntoWet() bool { return t.Facts().When == WhileWet }

// NeedsWet reports whether it is clean water that has to have a wash to work on.
func (t Kind) NeedsWet() bool { return t.Tool() == CleanWater && !t.Facts().Pulls }

// Marked reports whether it leaves marks of its own on what lies below rather than
// cover it.
func (t Kind) Marked() bool {
	switch t.Facts().Trace {
	case Drops, Dabs, Strokes, Patches:
		return true
	}
	return false
}

// Covers reports whether it lays paint with a brush over all of an area.
func (t Kind) Covers() bool { return t.Tool() == PaintedBrush && !t.Marked() }

// Grade is how its colour runs, into the wet or not.
func (t Kind) Grade(wet bool) Grade {
	if f := t.Facts(); f.When != WhileWet || f.Tool != PaintedBrush || wet {
		return f.Runs
	}
	return Even
}

// How says how it is done: into the wet, or over what is dry.
func (t Kind) How(wet bool) string {
	f := t.Facts()
	switch {
	case wet && f.Wetly != "":
		return f.Wetly
	case !wet && f.Dryly != "":
		return f.Dryly
	}
	return f.How
}
