// Package advice answers "what have I overlooked?". Each rule of the craft is
// one function with the reason beside it; what it finds is a [Watch] that says
// what, why, and which change would settle it.
package advice

import (
	"cmp"
	"fmt"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/fold"
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

// Station is where a watch-out belongs.
type Station string

// The stations that have rules.
const (
	Format Station = "format"
	Line   Station = "line"
	Colour Station = "colour"
	Order  Station = "order"
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

// A Fix is a change of the card that settles a watch-out.
type Fix struct {
	Label  string
	Change change.Change
}

// Facts is what rules look at. Board is nil until the line has been read.
type Facts struct {
	Card   *card.Card
	Layout card.Layout
	Fits   []fold.Fit
	Board  *panel.Board
	Plan   *steps.Plan   // as compiled, never as solved; nil until there is one
	Looks  []panel.Look  // by area of the board
	Places []panel.Place // on the panel for the card's words
	Test   *proof.Record // the maker's own of the card's ink on its paper, nil without
}

// Gather collects the facts of a card; b and p may be nil. Of the maker's tests, the
// latest first, the first of this ink on this paper counts; those of the
// practice scanner do not.
func Gather(c *card.Card, b *panel.Board, p *steps.Plan, tests []proof.Record) Facts {
	f := Facts{Card: c, Fits: fold.FitAll(c.Body()), Board: b, Plan: p}
	own, ownPaper := c.OwnNames()
	f.Test = proof.Latest(tests, proof.Of{Ink: c.Ink, OwnInk: own, Paper: c.Paper, OwnPaper: ownPaper})
	f.Layout, _ = c.Layout() // stored cards have passed Check
	if b != nil {
		f.Looks, f.Places = b.Looks(), b.RoomFor(c.Words)
	}
	return f
}

// A Rule is one thing the program looks out for.
type Rule struct {
	ID      string
	Station Station
	Says    string // what it looks out for
	Reason  string // why that matters
	board   bool   // it speaks of cells, and keeps still until they are known
	find    func(Facts) []Watch
}

// Rules lists every rule, station by station.
func Rules() []Rule {
	return []Rule{
		{"no-envelope", Format, "The card goes into no standard envelope.", "Found at the end, this costs the card or a hand-made envelope.", false, noEnvelope},
		{"wrong-envelope", Format, "The card does not go into the envelope at hand.", "It needs room each way, and its thickness bows the envelope.", false, wrongEnvelope},
		{"window-off", Format, "The window reaches over the edge of the painted sheet.", "There is no paper to cut the panel from.", false, windowOff},
		{"frame-holds-nothing", Format, "What lies under a frame does not reach under its bars.", "A gap would show, and nothing holds it.", false, frameHoldsNothing},
		{"tape-too-narrow", Format, "The tape cannot mask the border and hold.", "Some of it has to lie on the board.", false, tapeTooNarrow},
		{"no-room-for-words", Format, "There is no clear place for the words.", "Makers forget to leave room for the sentiment.", false, noRoomForWords},
		{"die-differs", Format, "The nearest die cuts another size than was asked for.", "What shows round it is then not what was meant.", false, dieDiffers},
		{"overhangs", Format, "A layer overhangs what it lies on.", "It has to be trimmed flush once it is mounted.", false, overhangs},
		{"post", Format, "The card is square, stiff or thick.", "Post has rules of its own for those, which differ by country.", false, postRules},
		{"ink-runs", Line, "The line is not waterproof and will be washed over.", "It runs into the wash however long it has dried.", false, inkRuns},
		{"line-stays", Line, "The line is to be pulled, but its ink holds.", "Water draws nothing out of it.", false, lineStays},
		{"solid-mottles", Line, "A solid is to be stamped on textured paper.", "The texture leaves white flecks in its mass.", false, solidMottles},
		{"paper-too-weak", Line, "A full wash is planned on paper that does not stand it.", "It buckles, bleeds through and pills.", false, paperTooWeak},
		{"paper-reworked", Line, "Wood-pulp paper is gone over again and again.", "It scrubs back to white or pills when it is reworked.", false, paperReworked},
		{"line-breaks", Line, "Fine lines are stamped on rough paper.", "They break on its texture however often they are stamped.", true, lineBreaks},
		{"powder-fills", Line, "Very fine lines are embossed.", "Powder fills the gaps between them.", true, powderFills},
		{"line-overhangs", Line, "The image overhangs the panel.", "What lies outside is cut off.", false, lineOverhangs},
		{"image-off", Line, "An image lies wholly off the panel.", "Nothing of it is stamped.", true, imageOff},
		{"folder-small", Line, "An embossing folder is smaller than the panel.", "Its edge presses a line into the panel.", false, folderSmall},
		{"relief-flattened", Line, "A relief is pressed before it is painted.", "Water flattens it.", false, reliefFlattened},
		{"lost-cells", Line, "Cells of an area could not be found again.", "They would not be painted.", false, lostCells},
		{"mud-joined", Colour, "Areas that may run together make mud.", "The colours cancel each other out where they mix.", true, mudWhereJoined},
		{"mud-if-met", Colour, "Areas that touch would make mud if they met wet.", "One has to be dry before the other is painted.", true, mudIfMet},
		{"melts-together", Colour, "Areas that touch are too close in value.", "In grey, or across the room, they cannot be told apart.", true, meltsTogether},
		{"nearly-alike", Colour, "Two areas nearly match, from different mixes.", "Seen side by side it looks like a slip.", true, nearlyAlike},
		{"muddy-stack", Colour, "Many pigments lie over each other.", "The more there are, the greyer they turn.", true, muddyStack},
		{"focal-weak", Colour, "What the card is about does not stand out most.", "The eye goes where contrast is strongest.", true, focalWeak},
		{"stencil-wet", Colour, "A stencil is painted with a wet brush.", "Water creeps under its edges.", true, stencilWet},
		{"splatter-harmful", Colour, "A harmful pigment is to be splattered.", "Drops and mist get on skin and into the breath.", true, splatterHarmful},
		{"trace-unseen", Colour, "What is lifted, dabbed or drawn would hardly show.", "It is nearly the colour it lies on, or the paint stains and stays.", true, traceUnseen},
		{"leak", Colour, "Colour would run through a gap in the line.", "A wet wash goes where the paper is wet.", true, leakBetweenColours},
		{"forgotten-cells", Colour, "Cells inside the drawing belong to no area.", "An eye, a tail, a butterfly's body stays white.", true, forgottenCells},
		{"water-into-damp", Order, "What is to meet while wet cannot in time.", "Water that comes into a damp wash makes a bloom; it is planned the safe way.", true, waterIntoDamp},
	}
}

// Check reports a name that is no rule's.
func Check(id string) error {
	if !slices.ContainsFunc(Rules(), func(r Rule) bool { return r.ID == id }) {
		return fmt.Errorf("there is no watch-out %q; load the page again", id)
	}
	return nil
}

// Watches applies every rule that the card has not silenced and returns what
// they find, worst first.
func Watches(f Facts) []Watch {
	return slices.DeleteFunc(All(f), func(w Watch) bool { return slices.Contains(f.Card.Silenced, w.Rule) })
}

// All is [Watches] with what is silenced.
func All(f Facts) []Watch {
	var out []Watch
	for _, r := range Rules() {
		if r.board && f.Board == nil {
			continue
		}
		for _, w := range r.find(f) {
			w.Rule, w.Station = r.ID, r.Station
			out = append(out, w)
		}
	}
	rank := map[Severity]int{Stop: 0, Mind: 1, Note: 2}
	slices.SortStableFunc(out, func(a, b Watch) int { return cmp.Compare(rank[a.Severity], rank[b.Severity]) })
	return out
}
