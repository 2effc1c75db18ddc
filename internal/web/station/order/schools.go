package order

import (
	"chromaqua/core/school"
	"chromaqua/internal/web/station"
)

// schoolView is how one question is answered for the card.
type schoolView struct {
	school.Question
	Usual  string // as the studio does
	Chosen string // the card's own way, by its id
	Why    string // of the way it is worked
}

// schoolsOf are the questions that are asked whenever a card is planned.
func schoolsOf(v *station.Visit) (out []schoolView) {
	studio, own := v.Studio.Bench.Schools, v.Rev.Whole.Schools
	for _, q := range school.Questions() {
		if q.Fresh {
			continue
		}
		out = append(out, schoolView{q, studio.Of(&q).Words, own.Chosen(&q), own.Over(studio).Of(&q).Why})
	}
	return out
}
