// Package shelf knows what the craft generally knows of papers, inks and
// brushes. It is data with reasons beside it; nothing here is a brand, and
// every figure is a general one that a maker's own test would outrank.
package shelf

import (
	"fmt"
	"time"

	"chromaqua/core/drying"
	"chromaqua/core/length"
)

// A Paper takes paint.
type Paper struct {
	ID        string
	Name      string
	Colour    string         // a paper of package pigment
	Thickness length.Length  // of one sheet
	Surface   drying.Surface // how it holds water
	Wets      bool           // it stands washes wetter than a pulled-out colour
	Note      string
}

// tenthMM is the usual step for paper thickness.
const tenthMM = length.Millimetre / 10

// What holds layers together, general figures. Foam comes 1 to 2 mm thick.
const (
	TapeThickness = length.Millimetre / 10
	FoamThickness = 3 * length.Millimetre / 2
	TapeWidth     = length.Inch // of painter's tape
)

// What bases and mats are made of unless another is chosen.
const (
	Cardstock    = "card"
	MatCardstock = "card-colour"
)

// Papers lists the general papers, the default first.
func Papers() []Paper {
	return []Paper{
		{"cotton-cp", "cotton cold press 300 gsm", "white", 5 * tenthMM, drying.Cotton, true, "takes many layers, moves colour evenly, lets you lift"},
		{"cotton-hp", "cotton hot press 300 gsm", "white", 45 * tenthMM / 10, drying.Sealed, true, "crisp lines; washes stand on the surface longer"},
		{"pulp-cp", "wood pulp cold press 300 gsm", "white", 5 * tenthMM, drying.Pulp, true, "cheap and fine for light, loose washes; blooms and pills when reworked"},
		{"cotton-cream", "cotton cold press 300 gsm, cream", "cream", 5 * tenthMM, drying.Cotton, true, "as the white, warmer in every wash"},
		{Cardstock, "smooth white cardstock 270 gsm", "white", 3 * tenthMM, drying.Sealed, false, "buckles and pills under real washes; only for a damp brush"},
		{MatCardstock, "coloured cardstock 220 gsm", "white", 25 * tenthMM / 10, drying.Sealed, false, "for mats and bases; not to be painted"},
		{"kraft", "kraft card 300 gsm", "kraft", 35 * tenthMM / 10, drying.Sealed, false, "transparent colours sink into the brown; opaque ones show"},
	}
}

// An Ink makes the line.
type Ink struct {
	ID      string
	Name    string
	Holds   bool          // it stands a wash once waterproof
	AirDry  time.Duration // until waterproof, or until it may be touched
	HeatDry time.Duration // the same under a heat tool; 0 when heat does not help
	Note    string
}

// Inks lists the general kinds of line, the default first. Times are the
// longer end of what is usual on absorbent paper.
func Inks() []Ink {
	return []Ink{
		{"pigment-quick", "pigment ink, quick waterproof, black", true, 15 * time.Minute, 30 * time.Second, "holds; takes fine detail"},
		{"pigment-slow", "pigment ink, slow, black", true, 60 * time.Minute, time.Minute, "smears until cured; sure only under clear powder"},
		{"permanent", "oil- or resin-based permanent ink", true, 30 * time.Minute, time.Minute, "holds; soft greys and browns to be had"},
		{"solvent", "solvent ink", true, 2 * time.Minute, 0, "holds; may feather on texture; ventilate"},
		{"embossed", "embossing ink with clear powder, melted", true, time.Minute, 0, "holds, resists water and walls the colours off; the powder is melted with the heat tool first"},
		{"laser", "laser print (toner)", true, 0, 0, "holds and repels a little; do not heat it closely"},
		{"pen", "pigment-ink pen", true, 2 * time.Minute, 0, "holds once dry"},
		{"blend", "dye-and-pigment blend that stays reactive", false, 10 * time.Minute, time.Minute, "softens and lifts under water"},
		{"dye", "dye ink or water-based marker", false, 2 * time.Minute, 0, "runs and tints under water, on purpose or not"},
	}
}

// A Brush is a round brush by the width of its belly.
type Brush struct {
	Name       string
	Belly      float64 // mm
	Point      float64 // mm
	CapacityML float64 // water a loaded brush gives off, millilitres
}

// Brushes lists plausible round brushes, smallest first, and one flat. Numbers
// differ between makers; the belly width is what counts.
func Brushes() []Brush {
	return []Brush{
		{"round 0 (1.5 mm)", 1.5, 0.15, 0.01},
		{"round 2 (2.5 mm)", 2.5, 0.2, 0.04},
		{"round 4 (3.5 mm)", 3.5, 0.25, 0.10},
		{"round 6 (5 mm)", 5, 0.3, 0.25},
		{"round 8 (6.5 mm)", 6.5, 0.4, 0.45},
		{"flat 3/4 in (19 mm)", 19, 2, 1.2},
	}
}

// PaperByID returns a general paper.
func PaperByID(id string) (Paper, error) {
	for _, p := range Papers() {
		if p.ID == id {
			return p, nil
		}
	}
	return Paper{}, fmt.Errorf("there is no paper %q on the shelf; choose one that is listed", id)
}

// InkByID returns a general ink.
func InkByID(id string) (Ink, error) {
	for _, k := range Inks() {
		if k.ID == id {
			return k, nil
		}
	}
	return Ink{}, fmt.Errorf("there is no ink %q on the shelf; choose one that is listed", id)
}
