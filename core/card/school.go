package card

import (
	"cmp"
	"math"
	"slices"

	"chromaqua/core/fold"
	"chromaqua/core/nest"
	"chromaqua/core/school"
	"chromaqua/core/shelf"
)

// pulpPaper is what pulp for light work is, and for everything.
const pulpPaper = "pulp-cp"

// Begin answers what is asked of a new card as its studio does. The card keeps the answers
// that its pieces, areas and zones to come follow.
func (c *Card) Begin(studio school.Ways) {
	c.Drying = Drying(cmp.Or(studio.Drying, string(Mixed)))
	if studio.Line != school.CrispLine {
		c.Look = shelf.Look(studio.Line)
	}
	c.Ink = inkFor(c.Look, studio)
	if studio.Relief != school.PaintThenPress {
		c.Relief = Relief(studio.Relief)
	}
	if studio.Paper == school.Pulp {
		c.Paper = pulpPaper
	}
	c.Hold = heldBy(studio.Hold)
	c.Schools.Lines, c.Schools.Paper, c.Schools.Hold, c.Schools.Vanishing = studio.Lines, studio.Paper, studio.Hold, studio.Vanishing
	c.Schools.Edges = cmp.Or(studio.Edges, school.EdgesByPlace)
}

// inkFor is the general ink for a stamped line that is to look so: one that holds, unless
// colour is to come out of it.
func inkFor(l shelf.Look, studio school.Ways) string {
	holds := l != shelf.Pulled && !(l == shelf.Vanishing && studio.Vanishing == school.GoesIntoPaint)
	best, at := shelf.Inks()[0].ID, math.MaxInt
	for _, k := range shelf.Inks() {
		if i := slices.Index(k.Looks, cmp.Or(l, shelf.Crisp)); k.Method == shelf.Stamped && k.Holds == holds && i >= 0 && i < at {
			best, at = k.ID, i
		}
	}
	return best
}

// heldBy is how a school holds paper, nil for taped all round.
func heldBy(way string) []Hold {
	switch way {
	case school.SomeSides:
		return []Hold{{How: TapedDown, Sides: []nest.Side{nest.Top, nest.Bottom}}}
	case school.OnBlock:
		return []Hold{{How: OnBlock}}
	case school.Unheld:
		return []Hold{{How: LooseSheet}}
	case school.StickySheet:
		return []Hold{{How: Sticky}}
	}
	return nil
}

// FoldByPicture folds the card as its picture lies, now and whenever its front is turned.
func (c *Card) FoldByPicture() {
	c.Schools.Fold = school.FoldByPicture
	c.foldAsItLies()
}

// foldAsItLies folds a card at its top where it is wide, where its maker wants that.
func (c *Card) foldAsItLies() {
	if c.Schools.Fold != school.FoldByPicture {
		return
	}
	f := c.Front()
	switch {
	case f.W > f.H:
		c.Base.Fold = fold.Top
	case f.W > 0:
		c.Base.Fold = fold.Left
	}
}

// EdgeOfNew is how a zone of a shape ends where nothing is said of it.
func (c *Card) EdgeOfNew(s Shape) ZoneEdge {
	airy := s == All || s == Above || s == Below || s == Middle || s == Rest
	if c.Schools.Edges == school.SoftEdges && !s.Drawn() || c.Schools.Edges == school.EdgesByPlace && airy {
		return SoftEdge
	}
	return HardEdge
}

// answers are how the card answers what is asked of new ones.
func (c *Card) answers() (w school.Ways) {
	w = c.Schools.Fresh()
	w.Drying, w.Line, w.Relief = string(c.Drying), string(c.Look), string(c.Relief)
	w.Fold, w.Hold = c.Schools.Fold, school.Taped
	if c.Paper == pulpPaper {
		w.Paper = school.Pulp
	}
	if len(c.Hold) > 0 {
		for _, way := range []string{school.OnBlock, school.Unheld, school.StickySheet, school.SomeSides} {
			if h := heldBy(way)[0]; h.How == c.Hold[0].How && (len(h.Sides) > 0) == (len(c.Hold[0].Sides) > 0) {
				w.Hold = way
			}
		}
	}
	return w
}

// Departures says in words where a card is otherwise than one that its studio begins.
func (c *Card) Departures(studio school.Ways) (out []string) {
	own := c.answers()
	for _, q := range school.Questions() {
		if !q.Fresh || q.ID == "fold" || q.ID == "line" && c.Look == shelf.Solid {
			continue
		}
		if is, usual := own.Of(&q), studio.Of(&q); is.ID != usual.ID {
			out = append(out, q.Asks+" Here "+is.Words+", else "+usual.Words+".")
		}
	}
	return out
}
