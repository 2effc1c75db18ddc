// Package advice answers "what have I overlooked?". Each rule of the craft is
// one function with the reason beside it; what it finds is a [Watch] that says
// what, why, and which change would settle it. A change is tried on a copy before it is
// offered: it has to settle the matter and must not make another.
package advice

import (
	"cmp"
	"fmt"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/fold"
	"chromaqua/core/mount"
	"chromaqua/core/panel"
	"chromaqua/core/proof"
	"chromaqua/core/steps"
)

// Severity is how much a watch-out matters.
type Severity string

// The severities, worst first.
const (
	Stop Severity = "stop" // the card would fail
	Mind Severity = "mind" // it would look worse than meant
	Note Severity = "note" // worth knowing
)

// weight is what a watch-out counts when two states of a card are compared.
func (s Severity) weight() int {
	return map[Severity]int{Stop: 10_000, Mind: 100, Note: 1}[s]
}

// Station is where a watch-out belongs.
type Station string

// The stations that have rules.
const (
	Format Station = "format"
	Line   Station = "line"
	Colour Station = "colour"
	Masks  Station = "masks"
	Order  Station = "order"
	Mount  Station = "mount"
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

	ways  []Fix    // that may settle it, the one nearest to what is meant first
	areas []string // ids of those it compares
}

// A Fix is a change of the card that settles a watch-out.
type Fix struct {
	Label  string
	Change change.Change

	deepens string // id of the area whose depth it changes, "" for none
}

// Facts is what rules look at. Board is nil until the line has been read.
type Facts struct {
	Card   *card.Card
	Layout card.Layout
	Made   *mount.Assembly // put together; nil where it has no layout
	Body   fold.Body
	Fits   []fold.Fit
	Board  *panel.Board
	Plan   *steps.Plan   // as compiled, never as solved; nil until there is one
	Looks  []panel.Look  // by area of the board
	Places []panel.Place // on the panel for the card's words
	Tests  []proof.Record
	Test   *proof.Record // the maker's own of the card's ink on its paper, nil without

	piece string // id of the piece Card is alone, "" for the card with its panel
}

// OnPiece are the facts as those of a piece beside the panel, of which rules of the format
// say nothing; of the panel they are those of the card.
func (f Facts) OnPiece(id string) Facts {
	f.piece = id
	return f
}

// beside reports whether the facts are of a piece beside the panel.
func (f Facts) beside() bool { return f.piece != "" && f.piece != card.ThePanel }

// Gather collects the facts of a card; b and p may be nil. Of the maker's tests, the
// latest first, the first of this ink on this paper counts; those of the
// practice scanner do not.
func Gather(c *card.Card, b *panel.Board, p *steps.Plan, tests []proof.Record) Facts {
	f := Facts{Card: c, Body: mount.Body(c), Board: b, Plan: p, Tests: tests}
	f.Made, _ = mount.Of(c) // stored cards have passed Check
	f.Fits = fold.FitAll(f.Body)
	own, ownPaper := c.OwnNames()
	f.Test = proof.Latest(tests, proof.Of{Ink: c.Ink, OwnInk: own, Paper: c.Paper, OwnPaper: ownPaper})
	f.Layout, _ = c.Layout() // stored cards have passed Check
	if b != nil {
		f.Looks, f.Places = b.Looks(), b.RoomFor(c.Words)
	}
	return f
}

// OfPiece is what is known of one piece of a card, by its place among them; the panel with
// the card as a whole. p is the plan of all of them, and may be nil.
func OfPiece(c *card.Card, pieces []panel.Piece, i int, p *steps.Plan, tests []proof.Record) Facts {
	of := &pieces[i]
	alone, err := c.Alone(of.ID)
	if err != nil {
		alone = c // pieces are those of the card
	}
	f := Gather(alone, of.Board, p, tests)
	f = f.OnPiece(of.ID)
	if p != nil && len(p.Pieces) == len(pieces) {
		f.Plan = p.Of(i)
	}
	return f
}

// Check reports a name that is no rule's.
func Check(id string) error {
	if !slices.ContainsFunc(Rules(), func(r Rule) bool { return r.ID == id }) {
		return fmt.Errorf("there is no watch-out %q; load the page again", id)
	}
	return nil
}

// Watches applies every rule that the card has not silenced and returns what
// they find, worst first, each with the change that settles it.
func Watches(f Facts) []Watch { return Heard(f.Card, All(f)) }

// Heard is what is left of watch-outs when those that the card silences are left out.
func Heard(c *card.Card, all []Watch) []Watch {
	return slices.DeleteFunc(slices.Clone(all), func(w Watch) bool { return slices.Contains(c.Silenced, w.Rule) })
}

// All is [Watches] with what is silenced.
func All(f Facts) []Watch {
	out := f.found()
	f.offer(out)
	return out
}

// found applies every rule, worst first; nothing is offered yet.
func (f Facts) found() (out []Watch) {
	for _, r := range Rules() {
		if r.needs&theCells != 0 && f.Board == nil || r.needs&thePlan != 0 && f.Plan == nil || (r.Station == Format || r.Station == Mount) && f.beside() {
			continue
		}
		for _, w := range r.find(f) {
			w.Rule, w.Station = r.ID, r.Station
			out = append(out, w)
		}
	}
	slices.SortStableFunc(out, func(a, b Watch) int { return cmp.Compare(b.Severity.weight(), a.Severity.weight()) })
	return out
}
