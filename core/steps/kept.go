package steps

import (
	"math"
	"slices"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/mask"
	"chromaqua/core/panel"
	"chromaqua/core/technique"
	"chromaqua/core/wording"
)

// maskName is what a mask is called.
func maskName(r *panel.Reserve) string {
	if r.Own != nil {
		return r.Own.Name
	}
	return r.Way.Facts().Name
}

// Kept is something kept white, or made white again, and with what.
type Kept struct {
	With  mask.Way
	Own   string // the name of the maker's own mask, "" for none
	Shape mask.Shape
}

func (c *task) keeping(r *panel.Reserve) *Kept {
	k := &Kept{With: r.Way.Or(), Shape: c.board.Shape(r)}
	if r.Own != nil {
		k.Own = r.Own.Name
	}
	return k
}

// whiten puts opaque white on what is to be white after, once all paint is dry.
func (c *task) whiten() {
	for _, r := range c.whites {
		dots := len(r.Parts)
		coats, _ := c.board.WhiteCoats(r)
		title := wording.Upper(c.whose() + "put opaque white on " + r.Name)
		for coat := range coats {
			s := Step{
				Kind: Detail, Title: title, Deed: card.Ref(r.ID), Cells: slices.Clone(r.Parts), Tools: []string{smallest(c.bench.Brushes).Name},
				Detail: "As thick as cream, once, and leave it: it sinks as it dries.",
				Dur:    max(leastWork, time.Duration(c.bench.Pace*(float64(dots)*0.75+r.MM2/40)*float64(time.Second))),
			}
			if coat == 0 {
				s.Kept = c.keeping(r)
			} else {
				s.Title, s.Detail = title+" again", "Where it has sunk."
			}
			largest := r.Widest * r.Widest * 3.14
			s.Water, s.Together = technique.Highlight.Left(), Spots
			s.Dry = c.paper.Surface.Until(drying.TouchDry, technique.Highlight.Left(), largest, c.board.Card.Room)
			s.Bone = c.paper.Surface.Until(drying.BoneDry, technique.Highlight.Left(), largest, c.board.Card.Room)
			last := len(c.late) - 1
			c.afterPaint(s, anOpaque)
			c.uncovered(c.late[len(c.late)-1], math.MaxInt)
			if coat > 0 {
				c.after(c.late[last], c.late[len(c.late)-1], waitFor(anOpaque, anOpaque))
			}
		}
	}
}

// kept changes what there is to cut in along on some cells of an area by what is kept from
// it: nothing along a mask, all round what is painted round within them.
func (c *task) kept(v *extent, area, wash int, cells []int) {
	for _, i := range c.board.KeptFrom(area) {
		r := &c.board.Reserves[i]
		beside, within := c.board.Borders(r, cells)
		switch way := r.Way.Or(); {
		case way == mask.Round:
			v.edge, v.tight = v.edge+within, v.tight+within*share(r.Tight, r.EdgeMM)
		case way == mask.Over:
			v.less(2 * beside)
		case way == mask.Tape && c.board.Within(r, area, wash):
			v.less(min(beside, c.board.Shape(r).Straight))
		case way.Facts().Lays && c.board.Within(r, area, wash):
			v.less(beside)
		}
	}
}

func share(part, of float64) float64 {
	if of <= 0 {
		return 0
	}
	return part / of
}

// less takes some edge away that is not cut in along, tight or not as the rest is.
func (v *extent) less(mm float64) {
	left := max(0, v.edge-mm)
	v.tight *= share(left, v.edge)
	v.edge = left
}
