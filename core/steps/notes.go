package steps

import (
	"fmt"
	"slices"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/wording"
)

// A Note is something the maker wants that could not be planned: two things that
// fight, how it is planned instead, and what would free them.
type Note struct {
	What  string // the two things
	Why   string
	Way   string // the change that frees them
	About        // what it speaks of
	Cells []int
}

// About is what a note speaks of. What its subject does not name is 0.
type About struct {
	Subject Subject
	Piece   int // of the plan
	Area    int
	Wash    int    // of the area
	Other   int    // the area it should run into
	Reserve string // id of what should be kept from it
}

// Subject is the kind of what a note speaks of.
type Subject uint8

// The subjects.
const (
	WholeCard Subject = iota
	OneArea
	OneWash
	TwoAreas
	ItsGround // the turn of a background
	ItsMask   // what should be kept from an area
)

// note keeps a note; what is said of several goes of one wash is said once, of all
// their cells.
func (c *compiler) note(n Note) {
	for i := range c.notes {
		if o := &c.notes[i]; o.About == n.About {
			o.Cells = append(o.Cells, n.Cells...)
			slices.Sort(o.Cells)
			o.Cells = slices.Compact(o.Cells)
			return
		}
	}
	c.notes = append(c.notes, n)
}

// tooLate tells that a wash cannot go into the wet one below in time.
func (c *task) tooLate(area, wash int, below *Step, cells []int) Note {
	a := &c.board.Areas[area]
	w := a.Washes[wash]
	if below.On.Wash == Wetting {
		return Note{
			What:  fmt.Sprintf("%s is to be painted on wet paper, but the water loses its sheen %s.", a.Name, opens(below.Open)),
			Why:   "Paint that comes onto damp paper runs in fingers and blooms. It is planned once the paper is dry again.",
			Way:   "Leave the water out, or let other work come later.",
			About: About{Subject: OneWash, Piece: c.index, Area: area, Wash: Wetting}, Cells: slices.Clone(cells),
		}
	}
	return Note{
		What:  fmt.Sprintf("On %s, %s cannot go into the %s below: that loses its sheen %s.", a.Name, c.board.Card.WashName(w), a.Washes[below.On.Wash].Technique.Name(), opens(below.Open)),
		Why:   "Water that comes into a damp wash pushes its colour aside into a bloom. It is planned once the wash is dry.",
		Way:   "Lay the wash below wetter, gather fewer and larger cells into the area, or say that this one goes over dry.",
		About: About{Subject: OneWash, Piece: c.index, Area: area, Wash: wash}, Cells: slices.Clone(cells),
	}
}

// opens says how long something stays open.
func opens(d time.Duration) string {
	switch {
	case d < time.Second:
		return "before it is all laid"
	case d < 100*time.Second:
		return fmt.Sprintf("%d s after it is laid", int(d.Seconds()))
	}
	return fmt.Sprintf("%.0f min after it is laid", d.Minutes())
}

// unkept tells that something cannot be kept from an area.
func (c *task) unkept(r *panel.Reserve, area int) Note {
	a := &c.board.Areas[area]
	return Note{
		What:  fmt.Sprintf("%s is to be kept from %s, but has to be covered before what lies under it is painted.", r.Name, a.Name),
		Why:   fmt.Sprintf("%s comes earlier than what the mask is laid over, and is planned without it.", a.Name),
		Way:   "Say what the mask is laid over, or paint round it.",
		About: About{Subject: ItsMask, Piece: c.index, Area: area, Reserve: r.ID}, Cells: slices.Clone(r.Parts),
	}
}

// apart tells that two goes cannot run into each other in time.
func (c *task) apart(x, y chain) Note {
	a, b := &c.board.Areas[x.area], &c.board.Areas[y.area]
	first := &c.steps[c.done[x.area][0][x.nth]]
	why := fmt.Sprintf("%s stays open for too short: it loses its sheen %s.", a.Name, opens(first.Open))
	if len(c.done[x.area][0]) > 1 || len(c.done[y.area][0]) > 1 {
		why = "One of them is painted in rounds, since cells of its own touch, and between its rounds it dries."
	}
	n := Note{
		What:  fmt.Sprintf("%s and %s are to run into each other, but cannot all be wet at once.", a.Name, b.Name),
		Why:   why + " Where they cannot meet in time one is dry before the other is begun.",
		Way:   "Let the cells of each run together too, paint with more water, or keep the two apart.",
		About: About{Subject: TwoAreas, Piece: c.index, Area: x.area, Other: y.area},
	}
	n.Cells = append(slices.Clone(first.Cells), c.steps[c.done[y.area][0][y.nth]].Cells...)
	return n
}

// Apart says why two areas of its first piece that are to run into each other cannot, ""
// when they can.
func (p *Plan) Apart(a, b int) string {
	for _, n := range p.Notes {
		if n.Subject == TwoAreas && n.Piece == 0 && (n.Area == a && n.Other == b || n.Area == b && n.Other == a) {
			return sentence(n.Why, n.Way)
		}
	}
	return ""
}

// lots tells that cards are painted in lots.
func (c *compiler) lots(all, lots int) Note {
	return Note{
		What: fmt.Sprintf("%d cards of %d steps are more than can be put in order at once.", all, len(c.in.Ops)),
		Why:  fmt.Sprintf("%d cards are planned; paint %d such lots, one after the other.", c.in.Copies, lots),
		Way:  "Or plan fewer cards at a time.",
	}
}

// leaveOut leaves the areas of most operations out until the rest can be put in
// order, and says so.
func (c *task) leaveOut(most int) {
	const around = 100 // for what is not paint
	count := make([]int, len(c.lays))
	sum := around
	for i := range c.lays {
		for _, g := range c.lays[i].groups {
			count[i] += len(g.goes) * (g.to - g.from)
		}
		sum += count[i]
	}
	for sum > most {
		worst := 0
		for i := range count {
			if count[i] > count[worst] {
				worst = i
			}
		}
		a := &c.board.Areas[worst]
		c.note(Note{
			What:  fmt.Sprintf("%s would take %d steps: %s, %s, and what goes into the wet only a few cells at a time.", a.Name, count[worst], wording.Count(len(a.Cells), "cell"), washesOf(len(a.Washes))),
			Why:   fmt.Sprintf("More than %d steps cannot be put in order. The rest of the card is planned without it.", order.MaxOps),
			Way:   "Let its cells run together, paint it loosely, or lay what goes into the wet over dry.",
			About: About{Subject: OneArea, Piece: c.index, Area: worst}, Cells: slices.Clone(a.Cells),
		})
		sum -= count[worst]
		count[worst], c.lays[worst] = 0, lay{}
	}
}

func washesOf(n int) string {
	if n == 1 {
		return "1 wash"
	}
	return fmt.Sprintf("%d washes", n)
}

// DryingNote says what the way a card dries does to it; heatCM2 is the largest wet
// patch that may be heated, cm², told in a unit.
func DryingNote(d card.Drying, heatCM2 float64, u length.Unit) string {
	switch d {
	case card.Air:
		return "Air drying stays flatter and softer."
	case card.Mixed:
		return fmt.Sprintf("Wet patches up to %s may be heated; what is larger dries by air, since heat warps and blooms it.", length.Area(100*heatCM2, u))
	}
	return "Heat is quick; it warps and blooms big wet patches."
}
