package steps

import (
	"strings"

	"chromaqua/core/order"
)

// Told remembers which cautions have been said: each stands in full where it begins, and
// is only marked after that.
type Told map[string]bool

// paintCare is said of every paint that may harm.
const paintCare = "Keep the brush out of the mouth; see the paint's own safety sheet."

// Cautions are all that a plan's order asks care for, each once, as a sheet says them in
// one place.
func (p *Plan) Cautions(sch *order.Schedule) (out []string) {
	told, paints := Told{}, false
	for _, at := range sch.Ops {
		caution, _ := told.Say(p.Steps[at.Op].Caution)
		short, ofPaint := strings.CutSuffix(caution, " "+paintCare)
		if paints = paints || ofPaint; short != "" {
			out = append(out, short)
		}
	}
	if paints {
		out = append(out, paintCare)
	}
	if caution, _ := told.Say(HeatCaution); len(sch.Heat) > 0 && caution != "" {
		out = append(out, caution)
	}
	return out
}

// Say returns a caution in full the first time, and whether it was said before.
func (t Told) Say(caution string) (text string, again bool) {
	if caution == "" {
		return "", false
	}
	if t[caution] {
		return "", true
	}
	t[caution] = true
	return caution, false
}
