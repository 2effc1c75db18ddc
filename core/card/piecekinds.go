package card

import (
	"slices"

	"chromaqua/core/length"
	"chromaqua/core/shelf"
)

// Face is one face of the card base.
type Face string

// The faces.
const (
	FrontFace   Face = "front"
	InsideLeft  Face = "inside left"
	InsideRight Face = "inside right"
	BackFace    Face = "back"
)

// Faces lists them as the card is opened.
func Faces() []Face { return []Face{FrontFace, InsideLeft, InsideRight, BackFace} }

// HeldBy is what holds a piece where it lies.
type HeldBy string

// The joints.
const (
	ByTape     HeldBy = "thin tape"
	ByStrong   HeldBy = "strong tape"
	ByFoam     HeldBy = "foam"
	ByFullFoam HeldBy = "full foam"
	ByGlue     HeldBy = "liquid glue"
	ByBody     HeldBy = "its body only"
	ByPocket   HeldBy = "three sides, as a pocket"
	BySlot     HeldBy = "slotted behind"
	ByNothing  HeldBy = "nothing: it is the base"
)

// A HeldByFact is what is true of a joint.
type HeldByFact struct {
	HeldBy HeldBy
	Raised bool // it stands off what it lies on
	Words  string
}

// HeldByFacts is the table of joints.
func HeldByFacts() []HeldByFact {
	return []HeldByFact{
		{ByTape, false, "thin double-sided tape at its edges"},
		{ByStrong, false, "strong double-sided tape to all edges"},
		{ByFoam, true, "foam behind it, slivers where it is thin"},
		{ByFullFoam, true, "foam all over, to its edges"},
		{ByGlue, false, "liquid glue in dots"},
		{ByBody, false, "glue on its body only, so that fins, wings or petals lift"},
		{ByPocket, false, "glue on three sides, as a pocket"},
		{BySlot, false, "slotted behind what lies over it, glued at its stem"},
	}
}

// Facts is the row of a joint, of thin tape when it is not said.
func (j HeldBy) Facts() HeldByFact {
	all := HeldByFacts()
	if i := slices.IndexFunc(all, func(f HeldByFact) bool { return f.HeldBy == j }); i >= 0 {
		return all[i]
	}
	return all[0]
}

// PieceKind is what a piece is.
type PieceKind string

// The kinds.
const (
	SecondPanel PieceKind = "panel"
	CutOutPiece PieceKind = "cut-out"
	WordStrip   PieceKind = "strip"
	Tag         PieceKind = "tag"
	Banner      PieceKind = "banner"
	DieCut      PieceKind = "die-cut"
	PartialDie  PieceKind = "partial die-cut"
	Leaf        PieceKind = "leaf"
	BasePiece   PieceKind = "base"
	WholeCard   PieceKind = "whole card" // once it is put together
)

// A PieceFact is what is true of a kind of piece.
type PieceFact struct {
	Kind   PieceKind
	Name   string // what one is called until the maker names it
	Note   string
	Paper  string // "" for that of the panel
	By     HeldBy // usually
	Starts func(*Card) length.Size
}

// PieceFacts is the table of kinds, in the order they are offered.
func PieceFacts() []PieceFact {
	const inch = length.Inch
	given := func(w, h length.Length) func(*Card) length.Size {
		return func(*Card) length.Size { return length.Size{W: w, H: h} }
	}
	return []PieceFact{
		{SecondPanel, "second panel", "painted like the panel, and mounted beside or on it", "", ByTape, func(c *Card) length.Size { return c.halfPanel() }},
		{CutOutPiece, "cut-out", "cut along its own line and popped up", "", ByFoam, given(3*inch, 3*inch)},
		{WordStrip, "strip of words", "a narrow piece with the words", shelf.Cardstock, ByTape, given(3*inch, inch*5/8)},
		{Tag, "tag", "a small piece to tie on or tuck in", "", ByFoam, given(2*inch, 3*inch)},
		{Banner, "banner", "a strip across the card", shelf.Cardstock, ByTape, func(c *Card) length.Size { return length.Size{W: c.Front().W, H: inch * 3 / 4} }},
		{DieCut, "die-cut", "a word or shape cut by a die", "", ByGlue, given(2*inch, inch)},
		{PartialDie, "partial die cut", "cut by a die with one side left in the sheet", "", ByStrong, func(c *Card) length.Size { return c.PanelSize() }},
		{Leaf, "inside leaf", "a leaf for the inside that is worked on", shelf.Cardstock, ByTape, func(c *Card) length.Size { return c.leafSize() }},
		{WholeCard, "whole card", "once it is put together: splatter, gloss, gems, trimming", shelf.Cardstock, ByNothing, func(c *Card) length.Size { return c.Front() }},
		{BasePiece, "card base", "the base itself, painted, splattered or stamped", "", ByNothing, func(c *Card) length.Size { return c.Front() }},
	}
}

// Facts is the row of a kind; that of one unknown is empty.
func (k PieceKind) Facts() PieceFact {
	all := PieceFacts()
	if i := slices.IndexFunc(all, func(f PieceFact) bool { return f.Kind == k }); i >= 0 {
		return all[i]
	}
	return PieceFact{}
}
