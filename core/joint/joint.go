// Package joint answers "what holds this where it lies?": the ways of holding parts of a
// card, how much of it is taken and how high it is, and which of them a part asks for.
package joint

import (
	"slices"
	"time"

	"chromaqua/core/length"
)

// By is what holds a part on what it lies on.
type By string

// The ways.
const (
	Usual    By = "" // the best for what it holds
	Tape     By = "thin tape"
	Strong   By = "strong tape"
	Film     By = "film all over"
	Foam     By = "foam"
	Black    By = "black foam"
	FullFoam By = "full foam"
	Glue     By = "liquid glue"
	Hidden   By = "glue under what covers it"
	Body     By = "its body only"
	Pocket   By = "three sides, as a pocket"
	Slot     By = "slotted behind"
	Nothing  By = "nothing: it is the base"
)

// Laid is how an adhesive is laid behind a part, from which follows how much it takes.
type Laid string

// The ways of laying it.
const (
	Edges Laid = "all edges and a cross"
	Round Laid = "all edges"
	All   Laid = "all over"
	Pads  Laid = "pads"
	Dots  Laid = "dots"
	Three Laid = "three edges"
	Stem  Laid = "its stem"
	None  Laid = ""
)

// A Fact is what is true of a way of holding, in general.
type Fact struct {
	By     By
	Name   string // of the adhesive, as it is bought
	Words  string // how it is done, on a step
	Laid   Laid
	Raised bool          // it lifts what it holds
	Height length.Length // it adds so much below what it holds
	Sets   time.Duration // until it holds
	GSM    float64       // grams per m² where it lies
	OneTry bool          // it cannot be moved once it touches
	Says   bool          // its words say why
	Takes  time.Duration // to lay it and put one part down
}

// Facts is the table of the ways; heights, times and weights are general figures of such
// adhesives, the longer end of what is usual.
func Facts() []Fact {
	const mm100 = length.Millimetre / 100
	return []Fact{
		{Tape, "thin double-sided tape", "thin double-sided tape at its edges and a cross", Edges, false, 10 * mm100, 0, 90, true, false, 150 * time.Second},
		{Strong, "strong double-sided tape", "strong double-sided tape to all edges", Round, false, 20 * mm100, 0, 180, true, false, 150 * time.Second},
		{Film, "double-sided film", "double-sided film all over, laid down against guides", All, false, 10 * mm100, 0, 90, true, false, 4 * time.Minute},
		{Foam, "foam", "foam behind it, slivers where it is thin", Pads, true, 150 * mm100, 0, 150, true, false, 2 * time.Minute},
		{Black, "black foam", "black foam behind it, set in from its dark edge", Pads, true, 150 * mm100, 0, 150, true, false, 2 * time.Minute},
		{FullFoam, "foam", "foam all over, to its edges", All, true, 150 * mm100, 0, 150, true, false, 3 * time.Minute},
		{Glue, "liquid glue", "liquid glue in dots", Dots, false, 5 * mm100, 5 * time.Minute, 60, false, false, 2 * time.Minute},
		{Hidden, "liquid glue", "glue only where something covers it, since it shows through", Dots, false, 5 * mm100, 5 * time.Minute, 60, false, true, 2 * time.Minute},
		{Body, "liquid glue", "glue on its body only, so that fins, wings or petals lift", Dots, false, 5 * mm100, 5 * time.Minute, 60, false, true, 2 * time.Minute},
		{Pocket, "liquid glue", "glue on three sides, as a pocket", Three, false, 5 * mm100, 5 * time.Minute, 60, false, true, 3 * time.Minute},
		{Slot, "liquid glue", "slotted behind what lies over it, glued at its stem", Stem, false, 5 * mm100, 5 * time.Minute, 60, false, true, time.Minute},
	}
}

// Facts is the row of a way, of thin tape when it is not said.
func (b By) Facts() Fact {
	all := Facts()
	if i := slices.IndexFunc(all, func(f Fact) bool { return f.By == b }); i >= 0 {
		return all[i]
	}
	return all[0]
}

// Wet reports whether it is glue out of a bottle, which alone has to set.
func (f Fact) Wet() bool { return f.Sets > 0 }

// Known reports whether it is a way that can be chosen, or left open.
func (b By) Known() bool {
	return b == Usual || slices.ContainsFunc(Facts(), func(f Fact) bool { return f.By == b })
}

// Limits of how high foam is.
const (
	LeastFoam = length.Millimetre / 2
	MostFoam  = 10 * length.Millimetre
)

// Stands is how high a way lifts what it holds; high is that of the foam at hand, the usual
// when 0.
func (b By) Stands(high length.Length) length.Length {
	if f := b.Facts(); !f.Raised || high == 0 {
		return f.Height
	}
	return high
}

// Amount is how much of an adhesive is taken.
type Amount struct {
	Tape length.Length // of tape, or of a line of glue, along the edges
	MM2  float64       // of foam or film
	Dots int           // of glue
}

// Measures of how adhesives are laid.
const (
	tapeWide = 6.0  // mm, of double-sided tape
	padShare = 0.4  // of what lies on pads, that they cover
	dotEach  = 15.0 // mm, between dots of glue
	fewest   = 3    // dots
)

// Of is how much a way takes for a part of a size, its opening cut out of it where it is a
// frame: tape by its length, foam and film by their area, glue by dots or a line.
func (b By) Of(size, opening length.Size) (a Amount) {
	w, h := size.W.MM(), size.H.MM()
	area := w*h - opening.W.MM()*opening.H.MM()
	round := 2*(w+h) + 2*(opening.W.MM()+opening.H.MM())
	switch b.Facts().Laid {
	case Edges:
		if a.Tape = length.FromMM(round); opening == (length.Size{}) {
			a.Tape += length.FromMM(w + h)
		}
	case Round:
		a.Tape = length.FromMM(round)
	case Three:
		a.Tape = length.FromMM(round - max(w, h)) // the mouth is the longer side
	case All:
		a.MM2 = area
	case Pads:
		a.MM2 = padShare * area
	case Dots:
		a.Dots = max(fewest, int(round/dotEach))
	case Stem:
		a.Dots = 1
	}
	return a
}

// MM2 is the area an amount covers.
func (b By) MM2(a Amount) float64 {
	const dot = 3 // mm²
	return a.MM2 + a.Tape.MM()*tapeWide*b.wide() + dot*float64(a.Dots)
}

// wide is how wide a line of it is, in widths of tape.
func (b By) wide() float64 {
	if b == Pocket {
		return 1.0 / 3
	}
	return 1
}
