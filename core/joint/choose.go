package joint

import (
	"cmp"
	"slices"

	"chromaqua/core/length"
)

// Shape is what a part is to what holds it.
type Shape string

// The shapes.
const (
	Sheet  Shape = "sheet" // a mat, a panel, a leaf, a strip
	Ring   Shape = "frame"
	CutOut Shape = "cut-out"
	Word   Shape = "die-cut" // small and delicate
)

// Asked is what a joint has to do.
type Asked struct {
	Shape    Shape
	Size     length.Size
	Textured bool // its paper is
	Pressed  bool // it has a relief
	Wet      bool // it was painted wetter than with a damp brush, and warps
	Raised   bool // it is meant to stand up
	Clear    bool // what is behind it shows through
	Covers   bool // it covers the front wholly, so that every slip shows
	Inside   bool // it lies between the leaves
	Dark     bool // its edge is dark
	Layers   int  // of one die cut, glued on each other
}

// Grade is how well a way of holding does it.
type Grade int

// The grades, worst first.
const (
	Fails Grade = iota // it lifts, shows or crushes
	Poor               // it can be done, at a price
	Holds
	Best
)

// A Choice is one way of holding something, and how well that does.
type Choice struct {
	By    By
	Grade Grade
	Why   string // a clause, as "it lifts at the corners otherwise"
}

// large is the least side of what is too large for dots of glue; small the side below which
// no tape fits.
const (
	large = 50 * length.Millimetre
	small = 15 * length.Millimetre
)

func (a *Asked) large() bool { return min(a.Size.W, a.Size.H) > large }
func (a *Asked) small() bool { return min(a.Size.W, a.Size.H) < small }
func (a *Asked) springs() bool {
	return a.Textured || a.Pressed || a.Wet
}

func (a *Asked) springsWhy() string {
	switch {
	case a.Pressed:
		return "its relief springs back: it lifts at the corners otherwise"
	case a.Wet:
		return "it was painted wet and warps: it lifts at the corners otherwise"
	}
	return "textured paper takes little hold: it lifts at the corners otherwise"
}

// A rule says how well one way does what is asked; the first of a way that speaks counts.
type rule struct {
	by    By
	when  func(*Asked) bool
	grade Grade
	why   func(*Asked) string
}

func says(why string) func(*Asked) string { return func(*Asked) string { return why } }

func always(*Asked) bool { return true }

// rules are the judgement, the best way of each case first. What is asked for by name (a
// pocket, a slot, a body only) is never the best by itself: nobody but the maker knows it.
var rules = []rule{
	{Tape, func(a *Asked) bool { return a.Shape == Word }, Fails, says("no tape fits behind it")},
	{Tape, func(a *Asked) bool { return a.small() }, Poor, says("it is narrower than the tape is easy to cut")},
	{Tape, func(a *Asked) bool { return a.Clear }, Fails, says("it shows through")},
	{Tape, (*Asked).springs, Poor, (*Asked).springsWhy},
	{Tape, func(a *Asked) bool { return a.Raised }, Holds, says("it lies flat: no shadow, and an envelope takes it")},
	{Tape, always, Best, says("quick, and dry: glue would cockle it")},

	{Strong, func(a *Asked) bool { return a.Shape == Word }, Fails, says("no tape fits behind it")},
	{Strong, func(a *Asked) bool { return a.Clear }, Fails, says("it shows through")},
	{Strong, func(a *Asked) bool { return a.springs() && !a.Raised }, Best, (*Asked).springsWhy},
	{Strong, always, Holds, says("it holds more than is needed, and is thicker")},

	{Film, func(a *Asked) bool { return a.Pressed }, Fails, says("pressing it on flattens the relief")},
	{Film, func(a *Asked) bool { return a.Clear }, Best, says("laid all over, nothing shows through but the film")},
	{Film, func(a *Asked) bool { return a.Covers && !a.springs() }, Best, says("it covers the front: every corner holds, laid down against guides, for it does not let go")},
	{Film, func(a *Asked) bool { return a.Shape == Word }, Holds, says("laid on the sheet before it is cut, it is there to its thinnest part")},
	{Film, always, Holds, says("every corner holds; there is no second try")},

	{Foam, func(a *Asked) bool { return a.Inside }, Fails, says("between the leaves it keeps the card from closing")},
	{Foam, func(a *Asked) bool { return a.Clear }, Fails, says("it shows through")},
	{Foam, func(a *Asked) bool { return a.Raised && a.Dark }, Holds, says("its white edge shows under a dark one")},
	{Foam, func(a *Asked) bool { return a.Raised && a.Shape != Ring && !a.springs() }, Best, says("it stands up and throws a shadow")},
	{Foam, func(a *Asked) bool { return a.Raised && (a.Shape == CutOut || a.Shape == Word) }, Best, says("it stands up and throws a shadow")},
	{Foam, func(a *Asked) bool { return a.Shape == Sheet && a.springs() }, Poor, says("between the pads it bends as it warps")},
	{Foam, always, Poor, says("it stands up, and makes the card thicker")},

	{Black, func(a *Asked) bool { return a.Inside }, Fails, says("between the leaves it keeps the card from closing")},
	{Black, func(a *Asked) bool { return a.Clear }, Fails, says("it shows through")},
	{Black, func(a *Asked) bool { return a.Raised && a.Dark }, Best, says("white foam would show under its dark edge")},
	{Black, func(a *Asked) bool { return a.Raised }, Holds, says("it stands up; under a light edge black foam shows")},
	{Black, always, Poor, says("it stands up, and makes the card thicker")},

	{FullFoam, func(a *Asked) bool { return a.Inside }, Fails, says("between the leaves it keeps the card from closing")},
	{FullFoam, func(a *Asked) bool { return a.Clear || a.Shape == Word }, Fails, says("it shows")},
	{FullFoam, func(a *Asked) bool { return a.Raised && a.springs() && a.Shape == Sheet }, Best, (*Asked).springsWhy},
	{FullFoam, func(a *Asked) bool { return a.Raised && a.Shape == Ring }, Best, says("a narrow bar without foam to its edges sags")},
	{FullFoam, func(a *Asked) bool { return a.Raised }, Holds, says("it stands up and holds flat what would warp")},
	{FullFoam, (*Asked).springs, Holds, says("it holds flat what would warp, and makes the card thicker")},
	{FullFoam, always, Poor, says("it stands up, and makes the card thicker")},

	{Glue, func(a *Asked) bool { return a.Clear }, Fails, says("it shows through; only where something covers it")},
	{Glue, func(a *Asked) bool { return a.Layers > 1 && !a.large() }, Best, says("layers pressed on each other stand up without foam")},
	{Glue, func(a *Asked) bool { return a.Shape == Word }, Best, says("no tape fits it; dots, with tweezers")},
	{Glue, func(a *Asked) bool { return a.small() && !a.Raised }, Best, says("it is too narrow for tape")},
	{Glue, func(a *Asked) bool { return a.large() }, Fails, says("glue cockles what is so large, and lets go where it springs")},
	{Glue, always, Poor, says("it can be shifted for a minute, and cockles thin paper")},

	{Hidden, func(a *Asked) bool { return a.Clear }, Best, says("glue shows through it anywhere else")},
	{Hidden, always, Poor, says("only for what is seen through")},

	{Body, func(a *Asked) bool { return a.Shape == CutOut || a.Shape == Word }, Holds, says("fins, wings and petals stay free and lift")},
	{Body, always, Poor, says("its edges lift")},

	{Pocket, func(a *Asked) bool { return a.Shape == CutOut || a.Shape == Word || a.Shape == Ring }, Fails, says("a pocket needs three straight sides")},
	{Pocket, always, Holds, says("it opens on its longer side, for a tag or a leaf")},

	{Slot, func(a *Asked) bool { return a.Shape == Ring }, Fails, says("a frame has no stem")},
	{Slot, func(a *Asked) bool { return a.Shape == Sheet && a.large() }, Poor, says("what is so large swings about on its stem")},
	{Slot, always, Holds, says("glued at its stem only, its tip stays free")},
}

// Weigh lists the ways of holding what is asked, the best first.
func Weigh(a Asked) (out []Choice) {
	for _, f := range Facts() {
		for _, r := range rules {
			if r.by == f.By && r.when(&a) {
				out = append(out, Choice{f.By, r.grade, r.why(&a)})
				break
			}
		}
	}
	slices.SortStableFunc(out, func(x, y Choice) int { return cmp.Compare(y.Grade, x.Grade) })
	return out
}

// Chosen is the choice of a way among those that are weighed; the best where it is open.
func Chosen(by By, of []Choice) Choice {
	if i := slices.IndexFunc(of, func(c Choice) bool { return c.By == by }); i >= 0 {
		return of[i]
	}
	return of[0]
}
