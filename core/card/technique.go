package card

import (
	"slices"

	"chromaqua/core/drying"
)

// Technique is how a wash is laid, or what is done to one that lies.
type Technique string

// The techniques.
const (
	Flat    Technique = "flat"
	Graded  Technique = "graded"   // dark above, pale below
	PullOut Technique = "pull-out" // laid into the shadow side, drawn out with water
	Glaze   Technique = "glaze"
	Halo    Technique = "halo"          // at the subject, faded to nothing outwards
	Shadow  Technique = "ground-shadow" // below, faded to nothing upwards

	WetOnWet   Technique = "wet-on-wet"
	Variegated Technique = "variegated" // into the wash below while it is wet, side by side with it
	Soften     Technique = "soften"     // its edge drawn out with clean water
	Lift       Technique = "lift"       // colour taken out of its middle with a thirsty brush
	Blot       Technique = "blot"       // patches taken out with a paper towel

	DryBrush  Technique = "dry-brush" // nearly dry: it leaves the paper's hollows white
	Splatter  Technique = "splatter"  // drops flicked off the brush
	Highlight Technique = "highlight" // a dab of opaque paint where light falls
	PenLine   Technique = "pen-line"  // lines of a waterproof pen
	Pencil    Technique = "pencil"    // coloured pencil, which leaves the hollows too
	Shimmer   Technique = "shimmer"   // mica or metallic paint
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

// techniques lists them in the order they are offered: when each is laid, the water
// it lays and what it leaves of that at the end of the stroke, the tool, and the
// share of an area it touches.
var techniques = []struct {
	name       Technique
	when       Moment
	laid, left drying.GramsPerSquareMetre
	tool       Tool
	share      float64
}{
	{Flat, AnyTime, drying.FlatWash, drying.FlatWash, PaintedBrush, 1},
	{Graded, AnyTime, drying.FlatWash, drying.FlatWash, PaintedBrush, 1},
	{PullOut, AnyTime, drying.FlatWash, drying.PulledOut, PaintedBrush, 1},
	{Glaze, AnyTime, drying.Glaze, drying.Glaze, PaintedBrush, 1},
	{Halo, AnyTime, drying.FlatWash, drying.PulledOut, PaintedBrush, 1},
	{Shadow, AnyTime, drying.FlatWash, drying.PulledOut, PaintedBrush, 1},
	{WetOnWet, WhileWet, drying.WetOnWet, drying.WetOnWet, PaintedBrush, 1},
	{Variegated, WhileWet, drying.Loaded, drying.Loaded, PaintedBrush, 1},
	{Soften, WhileWet, drying.PulledOut, drying.PulledOut, CleanWater, 0.4},
	{Lift, WhileWet, 0, 0, CleanWater, 0.3},
	{Blot, WhileWet, 0, 0, CleanWater, 0.3},
	{DryBrush, OnceDry, drying.DampBrush, drying.DampLeft, PaintedBrush, 1},
	{Splatter, OnceDry, drying.PulledOut, drying.PulledOut, PaintedBrush, 0.1},
	{Highlight, OnceDry, drying.DampBrush, drying.DampLeft, PaintedBrush, 0.05},
	{PenLine, OnceDry, 0, 0, DrawnLine, 0.1},
	{Pencil, OnceDry, 0, 0, DrawnLine, 1},
	{Shimmer, OnceDry, drying.PulledOut, drying.PulledOut, PaintedBrush, 1},
}

// TechniqueGroup is the techniques that have the same moment.
type TechniqueGroup struct {
	When Moment
	All  []Technique
}

// TechniqueGroups lists the techniques in the order they are offered.
func TechniqueGroups() (out []TechniqueGroup) {
	for _, t := range techniques {
		if n := len(out); n == 0 || out[n-1].When != t.when {
			out = append(out, TechniqueGroup{When: t.when})
		}
		g := &out[len(out)-1]
		g.All = append(g.All, t.name)
	}
	return out
}

// Known reports whether it is a technique.
func (t Technique) Known() bool { return t == techniques[t.row()].name }

// row is where the technique stands in the table; an unknown one counts as flat.
func (t Technique) row() int {
	for i := range techniques {
		if techniques[i].name == t {
			return i
		}
	}
	return 0
}

// Laid is the water that stands on the paper while the technique is worked; that of
// a flat wash for one that is unknown.
func (t Technique) Laid() drying.GramsPerSquareMetre { return techniques[t.row()].laid }

// Left is the water the technique leaves at the end of the stroke: none where it
// takes water away.
func (t Technique) Left() drying.GramsPerSquareMetre { return techniques[t.row()].left }

// Tool is what it is done with.
func (t Technique) Tool() Tool { return techniques[t.row()].tool }

// Share is the part of an area it touches, 0 to 1: an estimate.
func (t Technique) Share() float64 { return techniques[t.row()].share }

// IntoWet reports whether it comes while the wash below is wet, unless the maker
// says otherwise.
func (t Technique) IntoWet() bool { return techniques[t.row()].when == WhileWet }

// Faded reports whether it is drawn out to nothing with clean water.
func (t Technique) Faded() bool { return slices.Contains([]Technique{PullOut, Halo, Shadow}, t) }

// Marked reports whether it leaves marks of its own on what lies below rather than
// cover it.
func (t Technique) Marked() bool {
	return slices.Contains([]Technique{Blot, Splatter, Highlight, PenLine}, t)
}

// Covers reports whether it lays paint with a brush over all of an area.
func (t Technique) Covers() bool { return t.Tool() == PaintedBrush && !t.Marked() }
