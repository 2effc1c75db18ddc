package advice

import (
	"fmt"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/drying"
	"chromaqua/core/length"
	"chromaqua/core/mask"
	"chromaqua/core/school"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
)

// waterIntoDamp: what the plan could not tie together while wet.
func waterIntoDamp(f Facts) (out []Watch) {
	for _, n := range f.Plan.Notes {
		w := Watch{Severity: Mind, What: n.What, Why: n.Why + " " + n.Way, Cells: n.Cells}
		if n.Subject != steps.WholeCard {
			w.ways = []Fix{freeing(f, n)}
		}
		out = append(out, w)
	}
	return out
}

// freeing is the change that settles what a note speaks of: two areas are kept apart,
// paint goes over dry, water is given a wetter wash to work in, an area of too many
// steps may run together.
func freeing(f Facts, n steps.Note) Fix {
	a := f.Board.Areas[n.Area]
	switch {
	case n.Subject == steps.TwoAreas:
		b := f.Board.Areas[n.Other]
		return Fix{Label: "Keep them apart", Change: change.Join{A: a.ID, B: b.ID}}
	case n.Subject == steps.ItsGround:
		return Fix{Label: "Let this card decide", Change: change.School{Question: "background", Way: school.DecideGround}}
	case n.Subject == steps.ItsMask:
		return Fix{Label: "Paint round it", Change: change.KeepBy{Ways: n.Reserve + "=" + string(mask.Round)}}
	case n.Subject == steps.OneArea:
		return Fix{Label: "Let its cells run together", Change: change.Meet{Area: a.ID, Meet: change.RunInto}}
	case n.Wash == steps.Wetting:
		z, _ := f.Card.ZoneByID(a.Zones[0]) // only a zone is wetted first
		return Fix{Label: "Leave the water out", Change: change.ZoneEnds{Area: a.ID, Edge: z.Edge, Round: z.Round}}
	case a.Washes[n.Wash].Technique.Tool() == technique.CleanWater:
		return Fix{Label: "Leave it out", Change: change.RemoveWash{Area: a.ID, Wash: n.Wash}}
	}
	return Fix{Label: "Lay it over dry", Change: change.Over{Area: a.ID, Wash: n.Wash, Over: change.OverDry}}
}

// heatOnGloss: hot air on a large wet wash warps the sheet and blows blooms into it.
func heatOnGloss(f Facts) []Watch {
	if f.Card.Drying != card.Heat {
		return nil
	}
	limit := 100 * f.Plan.Bench.HeatCM2 // mm²
	var hot []int
	worst := 0.0
	for i := range f.Plan.Steps {
		s := &f.Plan.Steps[i]
		if s.On == nil || s.Water < drying.Glaze || s.Gloss == 0 {
			continue
		}
		for _, id := range s.Cells {
			if mm2 := f.Board.Part(id).AreaMM2; mm2 > limit {
				hot, worst = append(hot, id), max(worst, mm2)
			}
		}
	}
	if len(hot) == 0 {
		return nil
	}
	slices.Sort(hot)
	room := f.Card.Room
	return []Watch{{
		Severity: Mind, Cells: slices.Compact(hot),
		What: fmt.Sprintf("A wet wash of %s is to be dried with the heat tool.", length.Area(worst, f.Card.Unit)),
		Why:  fmt.Sprintf("On more than %s it warps the sheet and blows blooms into what still shines. Large washes are better left to the air.", length.Area(limit, f.Card.Unit)),
		ways: []Fix{{Label: "Dry small ones by heat, big ones by air", Change: change.Drying{Drying: card.Mixed, Celsius: change.Temperature(room.Celsius), Humidity: change.Number(100 * room.Humidity)}}},
	}}
}
