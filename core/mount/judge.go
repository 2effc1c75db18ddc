package mount

import (
	"fmt"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
)

// Trouble is what may be wrong with a joint.
type Trouble string

// The troubles.
const (
	LetsGo     Trouble = "lets go"     // what holds it fails
	HoldsIll   Trouble = "holds ill"   // something else holds it better
	SlotOpen   Trouble = "slot open"   // nothing lies over what is slotted
	OverBars   Trouble = "over bars"   // it lies across a frame that is higher than what lifts it
	SticksOut  Trouble = "sticks out"  // it reaches over the edge of the card
	MouthShut  Trouble = "mouth shut"  // something lies across the mouth of a pocket
	GluedTwice Trouble = "glued twice" // more of it lie in the same place
)

// A Fault is what is wrong with a part, and what it is to be held by instead.
type Fault struct {
	Trouble Trouble
	Member  int
	Other   int    // of the part it is about beside it, -1 for none
	Why     string // a clause
	By      joint.By
	High    length.Length // of the foam that would do; 0 for the usual
}

// Foam comes in halves of a millimetre from one on, and has to be higher by so much than a
// frame that it lifts something over.
const (
	thinFoam = length.Millimetre
	foamMark = length.Millimetre / 2
	barClear = length.Millimetre / 10
)

func (a *Assembly) judge(c *card.Card) {
	say := func(t Trouble, i, other int, by joint.By, high length.Length, format string, of ...any) {
		a.Faults = append(a.Faults, Fault{t, i, other, fmt.Sprintf(format, of...), by, high})
	}
	front := a.Members[0].Size
	for i := 1; i < len(a.Members); i++ {
		m := &a.Members[i]
		if m.Nth == 0 {
			switch {
			case m.Choice.Grade == joint.Fails:
				say(LetsGo, i, -1, m.Weighs[0].By, 0, "%s", m.Choice.Why)
			case m.Choice.Grade == joint.Poor && m.Chosen:
				say(HoldsIll, i, -1, m.Weighs[0].By, 0, "%s", m.Choice.Why)
			}
		}
		if m.Piece == nil {
			continue
		}
		a.bars(i, say)
		if m.By == joint.Slot && !a.covered(i) {
			say(SlotOpen, i, -1, m.Weighs[0].By, 0, "nothing lies over it that would hold it down")
		}
		size := m.Size.Around(m.Turn)
		if out := max(m.X+size.W/2-front.W/2, -front.W/2-m.X+size.W/2, m.Y+size.H/2-front.H/2, -front.H/2-m.Y+size.H/2); out > 0 && !m.Inside() {
			say(SticksOut, i, -1, m.By, 0, "it reaches %s over the edge of the card", out.With(c.Unit))
		}
		for k := i + 1; k < len(a.Members); k++ {
			o := &a.Members[k]
			switch {
			case o.ID == m.ID && o.At == m.At:
				say(GluedTwice, k, i, m.By, 0, "another of it lies in the same place")
			case m.By == joint.Pocket && o.On == m.On && o.Piece != nil && mouthOf(m, o):
				say(MouthShut, i, k, m.By, 0, "%s lies across its mouth", o.Name)
			}
		}
	}
}

// bars tells of what lies across a frame that what holds it does not lift it over.
func (a *Assembly) bars(i int, say func(Trouble, int, int, joint.By, length.Length, string, ...any)) {
	m := &a.Members[i]
	if m.By == joint.Slot {
		return
	}
	for k := range a.Members {
		f := &a.Members[k]
		if !f.IsFrame() || m.On == k || !f.crossedBy(m) {
			continue
		}
		on := a.Members[m.On].Top
		if need := f.Top - on + barClear; m.High < need && on < f.Top {
			say(OverBars, i, k, joint.Foam, max(thinFoam, (need+foamMark-1)/foamMark*foamMark), "it lies across the bars of the %s and bends there", f.Name)
		}
	}
}

// covered reports whether something lies over what is slotted.
func (a *Assembly) covered(i int) bool {
	for k := range a.Members {
		if k != i && a.slottedUnder(i, k) {
			return true
		}
	}
	return false
}

// mouthOf reports whether something lies across the mouth of a pocket, which is the upper of
// its longer sides, or its left one.
func mouthOf(pocket, o *Member) bool {
	edge := *pocket
	const thin = length.Millimetre
	if pocket.Size.W >= pocket.Size.H {
		edge.Size.H, edge.Y = thin, pocket.Y-pocket.Size.H/2
	} else {
		edge.Size.W, edge.X = thin, pocket.X-pocket.Size.W/2
	}
	return overlap(&edge, o)
}
