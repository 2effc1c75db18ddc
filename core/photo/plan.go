package photo

import (
	"image"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
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
			area.Even = area.Even && l.Grade == card.Even && len(l.Traces) == 0
		}
		p.Areas = append(p.Areas, area)
	}
	mixed := b.Overlaid()
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
