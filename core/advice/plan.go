package advice

import (
	"strconv"

	"chromaqua/core/card"
	"chromaqua/core/steps"
)

// waterIntoDamp: what the plan could not tie together while wet.
func waterIntoDamp(f Facts) (out []Watch) {
	if f.Plan == nil {
		return nil
	}
	for _, n := range f.Plan.Notes {
		w := Watch{Severity: Mind, What: n.What, Why: n.Why + " " + n.Way, Cells: n.Cells}
		if n.Area >= 0 {
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
	case n.Other >= 0:
		b := f.Board.Areas[n.Other]
		return &Fix{"Keep them apart", "join", map[string]string{"a": a.ID, "b": b.ID, "on": "false"}}
	case n.Wash < 0:
		return &Fix{"Let its cells run together", "area-meet", map[string]string{"area": a.ID, "meet": "run"}}
	case a.Washes[n.Wash].Technique.Tool() == card.CleanWater:
		return &Fix{"Leave it out", "wash-remove", map[string]string{"area": a.ID, "wash": strconv.Itoa(n.Wash)}}
	}
	return &Fix{"Lay it over dry", "wash-over", map[string]string{"area": a.ID, "wash": strconv.Itoa(n.Wash), "over": "dry"}}
}
