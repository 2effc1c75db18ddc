package advice

import (
	"fmt"
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/school"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// givesNothing: colour is drawn only out of a line that gives some.
func givesNothing(f Facts) (out []Watch) {
	for i := range f.Board.Areas {
		a := &f.Board.Areas[i]
		k := slices.IndexFunc(a.Washes, func(w card.Wash) bool { return w.Technique.Facts().Pulls })
		if k < 0 || len(a.Cells) == 0 || f.Board.Pulled(i).Load > 0 {
			continue
		}
		out = append(out, Watch{
			Severity: Mind, Cells: a.Cells,
			What: fmt.Sprintf("No line gives its colour to %s.", a.Name),
			Why:  "Its ink holds, or none lies beside it: water draws nothing out. Take a reactive ink, or paint it.",
			ways: []Fix{{Label: "Paint it, drawn out with water", Change: change.LayAs{Area: a.ID, Wash: k, Technique: technique.PullOut}}},
		})
	}
	return out
}

// tinted is a shift of colour that is seen, ΔE00.
const tinted = 4

// lineTints: a pale line that goes into the paint takes its colour along.
func lineTints(f Facts) (out []Watch) {
	if lookOf(f.Card) != shelf.Vanishing || !f.Card.Inked() {
		return nil
	}
	for i := range f.Board.Areas {
		a := &f.Board.Areas[i]
		by := f.Board.Tint(i)
		if by <= tinted || len(a.Cells) == 0 {
			continue
		}
		all, _ := ranked(f)
		out = append(out, Watch{
			Severity: Mind, Cells: a.Cells, ways: betterInks(f, all),
			What: fmt.Sprintf("The line shifts the colour of %s as it goes into the paint: %s.", a.Name, pigment.Apart(by)),
			Why:  "A pale dye line dissolves in the first wash. In so pale a colour it shows; a pale ink that holds does not.",
		})
	}
	return out
}

// washOnPencil: a wash dissolves watercolour pencil, meant or not.
func washOnPencil(f Facts) (out []Watch) {
	for _, a := range f.Board.Areas {
		for k, w := range a.Washes {
			if w.Technique != technique.WetPencil {
				continue
			}
			over := slices.IndexFunc(a.Washes[k+1:], func(o card.Wash) bool { return o.Technique.Covers() || o.Technique.Facts().Spreads })
			if over < 0 || a.Washes[k+1+over].Technique.Facts().Spreads {
				continue
			}
			out = append(out, Watch{
				Severity: Mind, Cells: a.Cells,
				What: fmt.Sprintf("The %s on %s dissolves the pencil below it.", a.Washes[k+1+over].Technique.Name(), a.Name),
				Why:  "Watercolour pencil runs into whatever wets it. Draw it out with water first and let that dry, or take a pencil that holds.",
				ways: []Fix{{Label: "Take a coloured pencil that holds", Change: change.LayAs{Area: a.ID, Wash: k, Technique: technique.Pencil}}},
			})
			break
		}
	}
	return out
}

// stopsShort is how much of the edge of a coat has to lie free on another, mm.
const stopsShort = 8

// coatStopsShort: a coat that ends on another, where no line is, shows its edge.
func coatStopsShort(f Facts) (out []Watch) {
	if f.Plan != nil && f.Plan.Ways.SecondCoat == school.WhereNeeded {
		return nil // it is softened where it ends, as the step says
	}
	for i := range f.Board.Areas {
		a := &f.Board.Areas[i]
		if len(a.Area.Zones) == 0 || len(a.Washes) == 0 || !a.Washes[0].Technique.Covers() || a.Washes[0].Technique.Facts().Thin < 1 {
			continue
		}
		z, err := f.Card.ZoneByID(a.Area.Zones[0])
		if err != nil || z.Edge.Or() != card.HardEdge {
			continue
		}
		below := slices.IndexFunc(f.Board.Areas, func(o panel.Area) bool {
			return o.Area != a.Area && len(o.Washes) > 0 && f.Board.Overlap(a.Cells, o.Cells) && f.below(o.Area, a.Area)
		})
		free := 0.0
		for _, p := range f.Board.ZoneParts(i) {
			for _, line := range f.Board.FreeEdges(p) {
				free += lengthOf(line)
			}
		}
		if below < 0 || free < stopsShort {
			continue
		}
		out = append(out, Watch{
			Severity: Note, Cells: a.Cells,
			What: fmt.Sprintf("%s ends hard in the middle of %s.", a.Name, f.Board.Areas[below].Name),
			Why:  "A coat that stops short of the line dries with an edge. Soften it while it shines, or take the coat to the line.",
			ways: []Fix{{Label: "Draw its edge out with water", Change: change.ZoneEnds{Area: a.ID, Edge: card.SoftEdge, Water: z.Water, Round: z.Round}}},
		})
	}
	return out
}

// liesOnPaint reports whether an area lies over another that is painted.
func (f Facts) liesOnPaint(i int) bool {
	a := &f.Board.Areas[i]
	return a.Lies && slices.ContainsFunc(f.Board.Areas, func(o panel.Area) bool {
		return o.Area != a.Area && len(o.Washes) > 0 && f.below(o.Area, a.Area) && f.Board.Overlap(a.Cells, o.Cells)
	})
}

// below reports whether the first wash of one area lies below that of another.
func (f Facts) below(a, b *card.Area) bool {
	at := func(x *card.Area) int {
		return slices.IndexFunc(f.Board.Deeds, func(d card.Deed) bool { return d.Ref == card.WashRef(x.ID, 0) })
	}
	return at(a) < at(b)
}

func lengthOf(line []lineart.Point) (mm float64) {
	for i := range line[1:] {
		mm += math.Hypot(line[i+1].X-line[i].X, line[i+1].Y-line[i].Y)
	}
	return mm
}
