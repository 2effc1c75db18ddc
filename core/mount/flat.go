package mount

import (
	"time"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/shelf"
)

// Flat is a part that lies under weight before it is mounted.
type Flat struct {
	Name string
	For  time.Duration
	Why  string // a clause
}

// How long paper lies under weight until it is flat, general figures.
const (
	Weighted  = 2 * time.Hour
	Overnight = 8 * time.Hour // after wet-in-wet
)

// Flattening lists what is flattened first: what was painted wet. A folder flattens what is
// pressed in it.
func Flattening(c *card.Card) (out []Flat) {
	add := func(name string, w *card.Work) {
		switch {
		case !warps(w) || w.Has(shelf.ReliefImage):
		case soaked(w):
			out = append(out, Flat{name, Overnight, "it is painted wet-in-wet"})
		default:
			out = append(out, Flat{name, Weighted, "it is painted wet"})
		}
	}
	add("the panel", &c.Work)
	for i := range c.Pieces {
		if p := &c.Pieces[i]; p.Kind != card.WholeCard {
			add(p.Name, &p.Work)
		}
	}
	return out
}

// soaked reports whether something on a piece is laid on wet paper.
func soaked(w *card.Work) bool { return takes(w, drying.WetOnWet) }
