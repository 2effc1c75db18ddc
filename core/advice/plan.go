package advice

import (
	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/steps"
)

// waterIntoDamp: what the plan could not tie together while wet.
func waterIntoDamp(f Facts) (out []Watch) {
	if f.Plan == nil {
		return nil
	}
	for _, n := range f.Plan.Notes {
		w := Watch{Severity: Mind, What: n.What, Why: n.Why + " " + n.Way, Cells: n.Cells}
		if n.Subject != steps.WholeCard {
			w.Fix = freeing(f, n)
		}
		out = append(out, w)
	}
	return out
}

// freeing is the change that settles what a note speaks of: two areas are kept apart,
// paint goes over dry, water is given a wetter wash to work in, an area of too many
// steps may run together.
func freeing(f Facts, n steps.Note) *Fix {
	a := f.Board.Areas[n.Area]
	switch {
	case n.Subject == steps.TwoAreas:
		b := f.Board.Areas[n.Other]
		return &Fix{"Keep them apart", change.Join{A: a.ID, B: b.ID}}
	case n.Subject == steps.OneArea:
		return &Fix{"Let its cells run together", change.Meet{Area: a.ID, Meet: change.RunInto}}
	case a.Washes[n.Wash].Technique.Tool() == card.CleanWater:
		return &Fix{"Leave it out", change.RemoveWash{Area: a.ID, Wash: n.Wash}}
	}
	return &Fix{"Lay it over dry", change.Over{Area: a.ID, Wash: n.Wash, Over: change.OverDry}}
}
