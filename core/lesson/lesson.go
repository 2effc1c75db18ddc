// Package lesson answers "what did making it teach about the card itself?": the coat that had
// to be added, the area that came out too pale, as changes to take into the next one.
package lesson

import (
	"fmt"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/photo"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
)

// Lesson is one thing that was learned, and what it changes.
type Lesson struct {
	ID   string // names it among those of one making
	Says string // what is done otherwise
	Why  string
	wash int // of the area, as it was
	do   func(*card.Card)
}

// Added is a second coat that somebody laid over a wash.
type Added struct {
	Area string // id
	Wash int
}

// Seen is how an area came out in a photo.
type Seen struct {
	Area    string
	Verdict photo.Verdict
	Sure    bool
}

// From lists the lessons of a making of a card: coats that were added, and areas that photos
// show paler or darker than they were meant. What is no longer on the card teaches nothing.
func From(c *card.Card, added []Added, seen []Seen) (out []Lesson) {
	for _, a := range added {
		area := areaOf(c, a.Area)
		if area == nil || a.Wash < 0 || a.Wash >= len(area.Washes) {
			continue
		}
		id := fmt.Sprintf("coat-%s-%d", a.Area, a.Wash)
		if slices.ContainsFunc(out, func(l Lesson) bool { return l.ID == id }) {
			continue
		}
		mix := c.Called.Mix(area.Washes[a.Wash].Mix)
		out = append(out, Lesson{id, fmt.Sprintf("%s: a second coat of %s", area.Name, mix), "it was laid when it was made", a.Wash, func(c *card.Card) { again(areaOf(c, a.Area), a.Wash) }})
	}
	for _, s := range seen {
		area := areaOf(c, s.Area)
		if area == nil || !s.Sure || len(area.Washes) == 0 {
			continue
		}
		last := strongest(area)
		by, why := 0, ""
		switch s.Verdict {
		case photo.Short, photo.Paler:
			by, why = 1, "in the photo it is too pale"
		case photo.Darker:
			by, why = -1, "in the photo it is too dark"
		}
		now := area.Washes[last].Strength
		next := moved(now, by)
		id := "strength-" + s.Area
		if next == now || slices.ContainsFunc(out, func(l Lesson) bool { return l.ID == id || l.ID == fmt.Sprintf("coat-%s-%d", s.Area, last) }) {
			continue
		}
		out = append(out, Lesson{id, fmt.Sprintf("%s: %s instead of %s", area.Name, next, now), why, last, func(c *card.Card) {
			if a := areaOf(c, s.Area); a != nil && last < len(a.Washes) {
				a.Washes[last].Strength = next
			}
		}})
	}
	return out
}

// Take takes lessons into a card, by their ids: those of later washes first, for a coat that is
// added moves the washes after it.
func Take(c *card.Card, all []Lesson, ids []string) {
	all = slices.SortedStableFunc(slices.Values(all), func(a, b Lesson) int { return b.wash - a.wash })
	for _, l := range all {
		if slices.Contains(ids, l.ID) {
			l.do(c)
		}
	}
}

// areaOf is an area by its id, on the panel or on any piece.
func areaOf(c *card.Card, id string) *card.Area {
	if a, err := c.AreaByID(id); err == nil {
		return a
	}
	for i := range c.Pieces {
		if a, err := c.Pieces[i].AreaByID(id); err == nil {
			return a
		}
	}
	return nil
}

// again lays a wash once more over itself, dry.
func again(a *card.Area, wash int) {
	if a == nil || len(a.Washes) >= card.MaxWashes {
		return
	}
	w := a.Washes[wash]
	w.Mix = slices.Clone(w.Mix)
	if w.Technique.Covers() {
		w.Technique = technique.Glaze
	}
	w.OverDry = w.Technique.IntoWet()
	a.Washes = slices.Insert(a.Washes, wash+1, w)
}

// strongest is the wash that carries most of an area's colour: the last that covers it.
func strongest(a *card.Area) int {
	for i := range slices.Backward(a.Washes) {
		if a.Washes[i].Technique.Covers() && len(a.Washes[i].Mix) > 0 {
			return i
		}
	}
	return len(a.Washes) - 1
}

// moved is a strength so many steps on, the same at the end of them.
func moved(s pigment.Strength, by int) pigment.Strength {
	all := pigment.Strengths()
	i := slices.Index(all, s)
	if i < 0 {
		return s
	}
	return all[min(len(all)-1, max(0, i+by))]
}
