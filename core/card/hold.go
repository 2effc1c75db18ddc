package card

import (
	"fmt"
	"slices"

	"chromaqua/core/length"
	"chromaqua/core/nest"
)

// MaxHolds is how often a piece may be taken up and held otherwise.
const MaxHolds = 8

// Hold is how a piece is held from one act on.
type Hold struct {
	How   HoldKind      `json:"how"`
	From  Ref           `json:"from,omitempty"`  // the act before which it begins; the start when empty
	Sides []nest.Side   `json:"sides,omitempty"` // that are taped; all round when empty
	Tape  TapeKind      `json:"tape,omitempty"`  // painter's tape when empty
	Width length.Length `json:"width,omitzero"`
}

// HoldKind is one way of holding a piece.
type HoldKind string

// The ways.
const (
	Positioner HoldKind = "positioner"
	TapedDown  HoldKind = "taped"
	OffBoard   HoldKind = "off the board" // its mask tape left on
	OnBlock    HoldKind = "block"         // a glued pad; freed with a dull blade once dry
	Sticky     HoldKind = "sticky sheet"
	LooseSheet HoldKind = "loose"
)

// A HoldFact is what is true of a way of holding a piece.
type HoldFact struct {
	Kind   HoldKind
	Words  string // for a choice
	Stamps bool   // a stamp comes down in the same place again
	Wet    bool   // it stands a full wash
	Flat   bool   // it keeps the sheet from warping
}

// HoldFacts is the table of the ways, the usual first.
func HoldFacts() []HoldFact {
	return []HoldFact{
		{TapedDown, "taped to a board", false, true, true},
		{Positioner, "in the positioner", true, false, false},
		{OffBoard, "off the board, its tape left on", true, false, false},
		{OnBlock, "on its block", false, true, true},
		{Sticky, "on a sticky sheet", false, false, true},
		{LooseSheet, "loose", false, true, false},
	}
}

// Facts is the row of a way of holding; that of one unknown is empty.
func (k HoldKind) Facts() HoldFact {
	all := HoldFacts()
	if i := slices.IndexFunc(all, func(f HoldFact) bool { return f.Kind == k }); i >= 0 {
		return all[i]
	}
	return HoldFact{}
}

// TapeKind is what a piece is taped with.
type TapeKind string

// The tapes.
const (
	PaintersTape TapeKind = "painter's tape"
	PaperTape    TapeKind = "paper tape" // for light, dry work
	GummedTape   TapeKind = "gummed tape"
)

// A TapeFact is what is true of a tape.
type TapeFact struct {
	Kind TapeKind
	Wet  bool // it holds under a full wash
	Note string
}

// TapeFacts is the table of tapes, the usual first.
func TapeFacts() []TapeFact {
	return []TapeFact{
		{PaintersTape, true, "holds under wet washes and comes off once all is bone dry"},
		{PaperTape, false, "weak; for light work with little water"},
		{GummedTape, true, "holds a soaked sheet; it is cut off, not pulled"},
	}
}

// Facts is the row of a tape, of painter's tape when it is not said.
func (t TapeKind) Facts() TapeFact {
	all := TapeFacts()
	if t == "" {
		return all[0]
	}
	if i := slices.IndexFunc(all, func(f TapeFact) bool { return f.Kind == t }); i >= 0 {
		return all[i]
	}
	return TapeFact{}
}

func (w *Work) checkHold() error {
	if len(w.Hold) > MaxHolds {
		return fmt.Errorf("a piece is held in at most %d ways, one after the other", MaxHolds)
	}
	for i, h := range w.Hold {
		if h.How.Facts().Kind == "" {
			return fmt.Errorf("%q is no way of holding a piece", string(h.How))
		}
		if h.Tape.Facts().Kind == "" {
			return fmt.Errorf("%q is no tape; use painter's tape, paper tape or gummed tape", string(h.Tape))
		}
		if h.Width < 0 || h.Width > length.Max/4 {
			return fmt.Errorf("tape cannot be %s wide", h.Width)
		}
		for k, s := range h.Sides {
			if (&nest.Margin{}).Of(s) == nil || slices.Contains(h.Sides[:k], s) {
				return fmt.Errorf("%q is no side to tape, or is named twice; use left, right, top, bottom", string(s))
			}
		}
		switch {
		case i == 0 && h.From != "":
			return fmt.Errorf("the first way a piece is held begins at the start, not before %q", string(h.From))
		case i > 0:
			if err := w.checkRef(h.From); err != nil {
				return fmt.Errorf("held %s from %q on: %w", h.How, string(h.From), err)
			}
		}
	}
	return nil
}
