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
	Raised bool   // it usually stands up
	Starts func(*Card) length.Size
}

// PieceFacts is the table of kinds, in the order they are offered.
func PieceFacts() []PieceFact {
	const inch = length.Inch
	given := func(w, h length.Length) func(*Card) length.Size {
		return func(*Card) length.Size { return length.Size{W: w, H: h} }
	}
	return []PieceFact{
		{SecondPanel, "second panel", "painted like the panel, and mounted beside or on it", "", false, func(c *Card) length.Size { return c.halfPanel() }},
		{CutOutPiece, "cut-out", "cut along its own line and popped up", "", true, given(3*inch, 3*inch)},
		{WordStrip, "strip of words", "a narrow piece with the words", shelf.Cardstock, false, given(3*inch, inch*5/8)},
		{Tag, "tag", "a small piece to tie on or tuck in", "", true, given(2*inch, 3*inch)},
		{Banner, "banner", "a strip across the card", shelf.Cardstock, false, func(c *Card) length.Size { return length.Size{W: c.Front().W, H: inch * 3 / 4} }},
		{DieCut, "die-cut", "a word or shape cut by a die", "", false, given(2*inch, inch)},
		{PartialDie, "partial die cut", "cut by a die with one side left in the sheet", "", false, func(c *Card) length.Size { return c.PanelSize() }},
		{Leaf, "inside leaf", "a leaf for the inside that is worked on", shelf.Cardstock, false, func(c *Card) length.Size { return c.leafSize() }},
		{WholeCard, "whole card", "once it is put together: splatter, gloss, gems, trimming", shelf.Cardstock, false, func(c *Card) length.Size { return c.Front() }},
		{BasePiece, "card base", "the base itself, painted, splattered or stamped", "", false, func(c *Card) length.Size { return c.Front() }},
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
