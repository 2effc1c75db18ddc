package card

import (
	"slices"

	"chromaqua/core/drying"
)

// Technique is how a wash is laid.
type Technique string

// The techniques.
const (
	Flat       Technique = "flat"
	Graded     Technique = "graded"     // dark above, pale below
	Variegated Technique = "variegated" // into the wash below while it is wet, side by side with it
	PullOut    Technique = "pull-out"   // laid into the shadow side, drawn out with water
	WetOnWet   Technique = "wet-on-wet"
	Glaze      Technique = "glaze"
	Halo       Technique = "halo"          // at the subject, faded to nothing outwards
	Shadow     Technique = "ground-shadow" // below, faded to nothing upwards
	DryBrush   Technique = "dry-brush"     // nearly dry: it leaves the paper's hollows white
)

// techniques lists them in the order they are offered, with the water each leaves
// at the end of the stroke.
var techniques = []struct {
	name  Technique
	water drying.GramsPerSquareMetre
}{
	{Flat, drying.FlatWash}, {Graded, drying.FlatWash}, {PullOut, drying.PulledOut}, {WetOnWet, drying.WetOnWet}, {Variegated, drying.Loaded},
	{Glaze, drying.Glaze}, {Halo, drying.PulledOut}, {Shadow, drying.PulledOut}, {DryBrush, drying.DampBrush},
}

// Techniques lists them in the order they are offered.
func Techniques() (out []Technique) {
	for _, t := range techniques {
		out = append(out, t.name)
	}
	return out
}

// Water is what the technique leaves on the paper; that of a flat wash for one that
// is unknown.
func (t Technique) Water() drying.GramsPerSquareMetre {
	for _, known := range techniques {
		if known.name == t {
			return known.water
		}
	}
	return drying.FlatWash
}

// IntoWet reports whether a wash laid so over another has to come while that is
// wet.
func (t Technique) IntoWet() bool { return t == WetOnWet || t == Variegated }

// Faded reports whether it is drawn out to nothing with clean water.
func (t Technique) Faded() bool { return slices.Contains([]Technique{PullOut, Halo, Shadow}, t) }
