package cutting

import (
	"fmt"
	"math"
	"slices"
)

// possible names parts that fit no sheet, and paper that is short by area.
func possible(in *Instance) error {
	var why []string
	for _, p := range in.Parts {
		if p.Qty == 0 || slices.ContainsFunc(in.Stock, func(s Stock) bool { return s.Qty != 0 && fits(p, s) }) {
			continue
		}
		switch {
		case !slices.ContainsFunc(in.Stock, func(s Stock) bool { return s.Type == p.Type && s.Qty != 0 }):
			why = append(why, fmt.Sprintf("part %q: there is no paper of type %q", p.ID, p.Type))
		default:
			why = append(why, fmt.Sprintf("part %q is larger than any sheet of type %q, the way its grain lets it lie", p.ID, p.Type))
		}
	}
	for _, kind := range kinds(in) {
		need, have := 0.0, 0.0
		for _, p := range in.Parts {
			if p.Type == kind {
				need += mm2(p.W, p.H) * float64(p.Qty)
			}
		}
		for _, s := range in.Stock {
			switch {
			case s.Type != kind:
			case s.Qty < 0:
				have = math.Inf(1)
			default:
				have += mm2(s.W, s.H) * float64(s.Qty)
			}
		}
		if need > have && len(why) == 0 {
			why = append(why, fmt.Sprintf("the paper of type %q is %.0f %% short of what its parts cover", kind, 100*(need/have-1)))
		}
	}
	if why != nil {
		return &Infeasible{why}
	}
	return nil
}

// kinds returns the types of paper that are wanted, in order.
func kinds(in *Instance) (out []string) {
	for _, p := range in.Parts {
		if p.Qty > 0 && !slices.Contains(out, p.Type) {
			out = append(out, p.Type)
		}
	}
	return out
}

func plural(n int, one, many string) string {
	if n == 1 {
		return one
	}
	return many
}
