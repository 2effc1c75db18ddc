package photo

import (
	"image"
	"math"
	"slices"

	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
)

// PlanOf is what a photo of a painted piece is held against; line is what is seen of its line
// on the paper, over the whole piece.
func PlanOf(b *panel.Board, line *image.Gray) *Plan {
	size := b.Card.PanelSize()
	ground := panel.Ground(b.Card.Paper)
	p := &Plan{W: size.W.MM(), H: size.H.MM(), Line: line, Paper: ground.Linear(), cells: b.Drawing}
	for i := range b.Areas {
		a := &b.Areas[i]
		area := Area{ID: a.ID, Name: a.Name, Even: true}
		palette := a.Palette()
		for n := range len(a.Washes) + 1 {
			l := palette.Look(a.Washes[:n])
			area.Stages = append(area.Stages, Stage{l.Dense.Lab, l.Thin.Lab})
			area.Even = area.Even && l.Grade == technique.Even && len(l.Traces) == 0
		}
		p.Areas = append(p.Areas, area)
	}
	mixed := b.Overlaid()
	if mixed {
		p.places(b)
	}
	for i := range b.Cells {
		c := &b.Cells[i]
		cell := Cell{ID: c.ID, Area: -1, MM2: c.AreaMM2, At: c.Label, Radius: c.InscribedMM, Colour: p.Paper.Lab()}
		if a, owned := b.AreaOf(c.ID); owned && len(b.Areas[a].Washes) > 0 {
			stages := p.Areas[a].Stages
			cell.Area, cell.Colour = a, stages[len(stages)-1].mid()
		}
		if mixed {
			if l, painted := b.LookAt(c.Label); painted {
				over := pigment.Difference(Stage{l.Dense.Lab, l.Thin.Lab}.mid(), cell.Colour)
				if cell.Area < 0 || over > tellApart/2 {
					cell.Area, cell.Colour = Mixed, Stage{l.Dense.Lab, l.Thin.Lab}.mid()
				}
			}
		}
		p.Cells = append(p.Cells, cell)
	}
	return p
}

// Bare is the same panel before anything is painted on it.
func (p *Plan) Bare() *Plan {
	out := *p
	out.Areas, out.seen = nil, nil
	out.Cells = slices.Clone(p.Cells)
	for i := range out.Cells {
		out.Cells[i].Area, out.Cells[i].Colour = -1, p.Paper.Lab()
	}
	return &out
}

// placeMM is how finely what lies over one another is told apart.
const placeMM = 1.0

// seen is what is planned for one place.
type seen struct {
	area   int // that lies uppermost, -1 for bare paper
	colour pigment.Lab
}

// places works out what is planned place by place, where areas lie over one another.
func (p *Plan) places(b *panel.Board) {
	p.across = int(math.Ceil(p.W / placeMM))
	down := int(math.Ceil(p.H / placeMM))
	p.seen = make([]seen, p.across*down)
	look := b.Seeing()
	for i := range p.seen {
		q := lineart.Point{X: (float64(i%p.across) + 0.5) * placeMM, Y: (float64(i/p.across) + 0.5) * placeMM}
		p.seen[i] = seen{-1, p.Paper.Lab()}
		if l, area, painted := look(q); painted {
			p.seen[i] = seen{area, Stage{l.Dense.Lab, l.Thin.Lab}.mid()}
		}
	}
}

// SeenAt is the area that is to lie uppermost at a place, mm, and its colour; -1 for bare
// paper. Where areas do not lie over one another it is that of its cell.
func (p *Plan) SeenAt(q lineart.Point) (area int, colour pigment.Lab) {
	if p.seen != nil {
		x, y := int(q.X/placeMM), int(q.Y/placeMM)
		if x >= 0 && y >= 0 && x < p.across && y*p.across+x < len(p.seen) {
			s := p.seen[y*p.across+x]
			return s.area, s.colour
		}
	}
	if id := p.CellAt(q); id > 0 && p.Cells[id-1].Area >= 0 {
		return p.Cells[id-1].Area, p.Cells[id-1].Colour
	}
	return -1, p.Paper.Lab()
}
