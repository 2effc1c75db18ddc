// Package advice answers "what have I overlooked?". Each rule of the craft is
// one function with the reason beside it; what it finds is a [Watch] that says
// what, why, and which change would settle it.
package advice

import (
	"cmp"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/panel"
	"chromaqua/core/proof"
)

// Severity is how much a watch-out matters.
type Severity string

// The severities, worst first.
const (
	Stop Severity = "stop" // the card would fail
	Mind Severity = "mind" // it would look worse than meant
	Note Severity = "note" // worth knowing
)

// Station is where a watch-out belongs.
type Station string

// The stations that have rules.
const (
	Format Station = "format"
	Line   Station = "line"
	Colour Station = "colour"
)

// A Watch is one thing the program noticed.
type Watch struct {
	Rule     string
	Severity Severity
	Station  Station
	What     string
	Why      string
	Cells    []int // it speaks of, to light them up
	Fix      *Fix  // the change that settles it; nil when only the maker can
}

// A Fix is an edit of the card, by name and values.
type Fix struct {
	Label  string
	Edit   string
	Values map[string]string
}

// Facts is what rules look at. Board is nil until the line has been read.
type Facts struct {
	Card   *card.Card
	Layout card.Layout
	Fits   []fold.Fit
	Board  *panel.Board
	Looks  []panel.Look  // by area of the board
	Places []panel.Place // on the panel for the card's words
	Test   *proof.Record // the maker's own of the card's ink on its paper, nil without
}

// Gather collects the facts of a card; b may be nil. Of the maker's tests, the
// latest first, the first of this ink on this paper counts; those of the
// practice scanner do not.
func Gather(c *card.Card, b *panel.Board, tests []proof.Record) Facts {
	f := Facts{Card: c, Fits: fold.FitAll(c.Front(), fold.Thickness(c.Stack())), Board: b}
	for i := range tests {
		if t := &tests[i]; t.Ink == c.Ink && t.Paper == c.Paper && !t.Practice {
			f.Test = t
			break
		}
	}
	f.Layout, _ = c.Layout() // stored cards have passed Check
	if b != nil {
		f.Looks, f.Places = b.Looks(), b.RoomFor(c.Words)
	}
	return f
}

type rule func(Facts) []Watch

var formatRules = []rule{noEnvelope, wrongEnvelope, windowOff, frameHoldsNothing, tapeTooNarrow, noRoomForWords, dieDiffers, overhangs, postRules}

var lineRules = []rule{inkRuns, paperTooWeak, lineOverhangs, lostCells}

var colourRules = []rule{mudWhereJoined, mudIfMet, meltsTogether, leakBetweenColours, forgottenCells}

// Watches applies every rule and returns what they find, worst first.
func Watches(f Facts) []Watch {
	var out []Watch
	for _, group := range []struct {
		station Station
		rules   []rule
		board   bool
	}{{Format, formatRules, false}, {Line, lineRules, false}, {Colour, colourRules, true}} {
		if group.board && f.Board == nil {
			continue
		}
		for _, r := range group.rules {
			for _, w := range r(f) {
				w.Station = group.station
				out = append(out, w)
			}
		}
	}
	rank := map[Severity]int{Stop: 0, Mind: 1, Note: 2}
	slices.SortStableFunc(out, func(a, b Watch) int { return cmp.Compare(rank[a.Severity], rank[b.Severity]) })
	return out
}
