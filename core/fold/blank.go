package fold

import (
	"fmt"
	"slices"

	"chromaqua/core/length"
)

// Side is how a card folds.
type Side string

// The folds, the usual ones first.
const (
	Left Side = "side" // one fold at the left, opens like a book
	Top  Side = "top"  // one fold at the top
	Tent Side = "tent" // one fold at the top; it stands on its two edges
	Gate Side = "gate" // two flaps that meet in the middle of the front
	Tri  Side = "tri"  // three faces folded into each other
	Flat Side = "flat" // not folded
)

// Sides lists the folds in the order they are offered.
func Sides() []Side { return []Side{Left, Top, Tent, Gate, Tri, Flat} }

// Check reports a fold that is none.
func (s Side) Check() error {
	for _, known := range Sides() {
		if s == known {
			return nil
		}
	}
	return fmt.Errorf("%q is no fold; use side, top, tent, gate, tri or flat", string(s))
}

// Layers is how many thicknesses of the base lie on each other when the card is
// closed.
func (s Side) Layers() int {
	switch s {
	case Flat:
		return 1
	case Tri:
		return 3
	}
	return 2
}

// triInner is by how many marks of a trimmer the inner face of a tri-fold is narrower.
func triInner(u length.Unit) length.Length {
	if u == length.Millimetres {
		return 3 * u.Mark()
	}
	return u.Mark()
}

// A Blank is the piece a card base is cut to before scoring, drawn with its
// outside up.
type Blank struct {
	Size   length.Size
	Faces  []Face
	Scores []Score
	Grain  Axis // the paper's grain should run this way: along the folds
}

// A Face is one part of a blank between folds.
type Face struct {
	Name string
	X, Y length.Length // of its top left corner on the blank
	Size length.Size
}

// Front is the face that is seen when the card is closed; ok is false for a
// gate, whose flaps make it together.
func (b Blank) Front() (f Face, ok bool) {
	for _, f := range b.Faces {
		if f.Name == frontName {
			return f, true
		}
	}
	return Face{}, false
}

const frontName = "front"

// Axis is a direction on the blank as drawn.
type Axis string

// The two axes.
const (
	Horizontal Axis = "horizontal"
	Vertical   Axis = "vertical"
)

// A Score is a fold line right across the blank.
type Score struct {
	Runs Axis          // the direction the line runs in
	At   length.Length // its distance from the left or top edge
	Way  Way
}

// Way is how a fold goes, seen from the side that is drawn.
type Way string

// The two ways. With its outside up, a card folds away from you: a mountain.
const (
	Mountain Way = "mountain"
	Valley   Way = "valley"
)

// BlankFor returns the blank of a front folded in a way. The other faces follow
// from the front: a back as large as it, flaps that leave a mark of a trimmer of unit u
// between them, an inner face narrower by a sixteenth of an inch or 1.5 mm. Where the
// front lies on marks, so do all scores.
func BlankFor(front length.Size, side Side, u length.Unit) Blank {
	switch side {
	case Top, Tent:
		return stack(front.W, Vertical, named{"back", front.H}, named{frontName, front.H})
	case Left:
		return stack(front.H, Horizontal, named{"back", front.W}, named{frontName, front.W})
	case Gate:
		left := (front.W - u.Mark()) / 2 / u.Mark() * u.Mark()
		return stack(front.H, Horizontal, named{"left flap", left}, named{"back", front.W}, named{"right flap", front.W - u.Mark() - left})
	case Tri:
		return stack(front.H, Horizontal, named{"inner face", front.W - triInner(u)}, named{"back", front.W}, named{frontName, front.W})
	}
	return stack(front.H, Horizontal, named{frontName, front.W})
}

// InsideUp returns the blank turned over along its folds, as it is drawn and
// scored by those who score on the inside: what was right is left, and every
// mountain is a valley.
func (b Blank) InsideUp() Blank {
	faces, scores := slices.Clone(b.Faces), slices.Clone(b.Scores)
	for i := range faces {
		if b.Grain == Vertical {
			faces[i].X = b.Size.W - faces[i].X - faces[i].Size.W
		} else {
			faces[i].Y = b.Size.H - faces[i].Y - faces[i].Size.H
		}
	}
	for i := range scores {
		across := b.Size.W
		if b.Grain == Horizontal {
			across = b.Size.H
		}
		scores[i].At = across - scores[i].At
		scores[i].Way = map[Way]Way{Mountain: Valley, Valley: Mountain}[scores[i].Way]
	}
	slices.Reverse(faces)
	slices.Reverse(scores)
	b.Faces, b.Scores = faces, scores
	return b
}

type named struct {
	name string
	size length.Length
}

// stack lays faces beside each other along an axis, all as deep across it, and
// scores between them. The grain runs along the scores; a flat card's runs
// upright.
func stack(across length.Length, along Axis, faces ...named) Blank {
	b := Blank{Grain: Vertical}
	if along == Vertical {
		b.Grain = Horizontal
	}
	at := length.Length(0)
	for i, f := range faces {
		if i > 0 {
			b.Scores = append(b.Scores, Score{b.Grain, at, Mountain})
		}
		if along == Horizontal {
			b.Faces = append(b.Faces, Face{f.name, at, 0, length.Size{W: f.size, H: across}})
		} else {
			b.Faces = append(b.Faces, Face{f.name, 0, at, length.Size{W: across, H: f.size}})
		}
		at += f.size
	}
	b.Size = length.Size{W: at, H: across}
	if along == Vertical {
		b.Size = b.Size.Turned()
	}
	return b
}
