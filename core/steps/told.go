package steps

import (
	"strings"

	"chromaqua/core/order"
)

// Told remembers at which step a caution was said: each stands in full where it begins, and
// is only referred to after that.
type Told map[string]int

// paintCare is said of every paint that may harm.
const paintCare = "Keep the brush out of the mouth; see the paint's own safety sheet."

// Cautions are all that a plan's order asks care for, each once, as a sheet says them in
// one place.
func (p *Plan) Cautions(sch *order.Schedule) (out []string) {
	told, paints := Told{}, false
	for i, at := range sch.Ops {
		caution, _ := told.Say(p.Steps[at.Op].Caution, i+1)
		short, ofPaint := strings.CutSuffix(caution, " "+paintCare)
		if paints = paints || ofPaint; short != "" {
			out = append(out, short)
		}
	}
	if paints {
		out = append(out, paintCare)
	}
	if caution, _ := told.Say(HeatCaution, len(sch.Ops)+1); len(sch.Heat) > 0 && caution != "" {
		out = append(out, caution)
	}
	return out
}

// Say returns the caution of a step, counted from 1, in full the first time, and after that
// the step at which it was said.
func (t Told) Say(caution string, step int) (text string, at int) {
	if caution == "" {
		return "", 0
	}
	if at = t[caution]; at > 0 {
		return "", at
	}
	t[caution] = step
	return caution, 0
}
