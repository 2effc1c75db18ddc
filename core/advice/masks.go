package advice

import (
	"fmt"
	"math"
	"slices"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/drying"
	"chromaqua/core/keeping"
	"chromaqua/core/length"
	"chromaqua/core/mask"
	"chromaqua/core/panel"
	"chromaqua/core/school"
	"chromaqua/core/steps"
	"chromaqua/core/wording"
)

// edgeCloses: a wash so large that its edge dries before it is met.
func edgeCloses(f Facts) (out []Watch) {
	for _, front := range keeping.Closing(f.Plan, 0) {
		a := f.Board.Areas[front.Area]
		w := Watch{
			Severity: Mind, Cells: front.Parts,
			What: fmt.Sprintf("On %s the edge of the wash waits up to %.0f s, and stays open for %.0f.", a.Name, front.Sweep.Wait.Seconds(), front.Open.Seconds()),
			Why:  fmt.Sprintf("What has lost its sheen dries with a hard edge: some %.0f times in a hundred here. The station shows where, and what helps.", 100*front.Chance()),
		}
		if front.Rho > keeping.Stops {
			w.Severity = Stop
		}
		for _, o := range keeping.Easily(f.Board, &front) {
			w.ways = append(w.ways, Fix{Label: o.Label, Change: o.Change})
		}
		out = append(out, w)
	}
	return out
}

// laid are the masks of a piece, by what they are made of.
func (f Facts) laid(want func(*mask.Facts) bool) (out []*panel.Reserve) {
	for i := range f.Board.Reserves {
		if r := &f.Board.Reserves[i]; r.Way.Or().Facts().Lays && want(r.Way.Facts()) {
			out = append(out, r)
		}
	}
	return out
}

func soft(m *mask.Facts) bool { return m.Soft }

// heatOnFluid: the school allows what bonds latex to the paper.
func heatOnFluid(f Facts) (out []Watch) {
	if f.Plan.Ways.MaskHeat != school.LowHeat || f.Card.Drying == card.Air {
		return nil
	}
	for _, r := range f.laid(soft) {
		out = append(out, Watch{
			Severity: Mind, Cells: r.Parts,
			What: fmt.Sprintf("The heat tool may be used while %s lies on %s.", r.Way.Facts().Name, r.Name),
			Why:  "Heated latex bonds to the fibres, and tears them when it comes off.",
			ways: []Fix{{Label: "No heat until it is off", Change: change.School{Question: "mask_heat", Way: school.NeverHeat}}},
		})
	}
	return out
}

// besideMM is how near to fluid powder may be melted.
const besideMM = 10.0

// powderNearFluid: powder is melted on the piece while fluid may lie there.
func powderNearFluid(f Facts) (out []Watch) {
	for _, r := range f.laid(soft) {
		on, off := f.Plan.MaskSteps(r.ID)
		for i := range f.Plan.Steps {
			s := &f.Plan.Steps[i]
			if on < 0 || off < 0 || !f.Plan.Melts(s) || f.Plan.Before(s.ID, on) || f.Plan.Before(off, s.ID) {
				continue
			}
			w := Watch{
				Severity: Mind, Cells: r.Parts,
				What: fmt.Sprintf("“%s” may come while %s lies on %s.", s.Title, r.Way.Facts().Name, r.Name),
				Why:  "Powder clings to what is tacky, and the heat that melts it bonds fluid to the paper. Take the fluid off first, and lay it again.",
				ways: []Fix{{Label: "Paint round " + r.Name, Change: change.KeepBy{Ways: r.ID + "=" + string(mask.Round)}}},
			}
			if f.Plan.Ways.MaskHeat != school.LowHeat || f.near(r, s) < besideMM {
				w.Severity = Stop
			}
			out = append(out, w)
			break
		}
	}
	return out
}

// near is how far what a step melts is from something that is kept, mm; 0 where that is not
// known.
func (f Facts) near(r *panel.Reserve, s *steps.Step) float64 {
	other := slices.IndexFunc(f.Board.Reserves, func(o panel.Reserve) bool { return o.ID == string(s.Deed) })
	if other < 0 {
		return 0
	}
	least := math.Inf(1)
	for _, o := range f.Board.Kept(r) {
		for _, p := range f.Board.Kept(&f.Board.Reserves[other]) {
			for _, ring := range o.Rings {
				for _, a := range ring {
					for _, there := range p.Rings {
						for _, b := range there {
							least = min(least, math.Hypot(a.X-b.X, a.Y-b.Y))
						}
					}
				}
			}
		}
	}
	return least
}

// maskOnDamp: a mask is laid over paint that takes long to dry through.
func maskOnDamp(f Facts) (out []Watch) {
	for _, r := range f.laid(func(m *mask.Facts) bool { return !m.Once }) {
		if r.Under == "" {
			continue
		}
		longest := time.Duration(0)
		under := f.Board.LaidUnder(r)
		for i := range f.Plan.Steps {
			if s := &f.Plan.Steps[i]; s.On != nil && s.Water > 0 && under(s.On.Area, max(0, s.On.Wash)) && f.Board.Overlap(s.Cells, r.Parts) {
				longest = max(longest, s.Bone)
			}
		}
		if longest < dampFor {
			continue
		}
		out = append(out, Watch{
			Severity: Note, Cells: r.Parts,
			What: fmt.Sprintf("%s is laid on %s over paint that takes about %.0f min to be bone dry by air.", wording.Upper(r.Way.Facts().Name), r.Name, longest.Minutes()),
			Why:  "On damp paper a mask bonds to the fibres, and tears them when it comes off. Feel it with the back of the hand: cold is damp.",
		})
	}
	return out
}

// otherwise offers to keep something in ways that need nothing of its mask.
func otherwise(r *panel.Reserve, ways ...mask.Way) (out []Fix) {
	label := map[mask.Way]string{mask.Round: "Paint round it", mask.After: "Put white on after", mask.Fluid: "Use masking fluid", mask.Pen: "Use a mask pen", mask.Film: "Use adhesive film"}
	for _, w := range ways {
		if w != r.Way.Or() {
			out = append(out, Fix{Label: label[w], Change: change.KeepBy{Ways: r.ID + "=" + string(w)}})
		}
	}
	return out
}

// fluidTears: fluid on paper whose fibres it takes along.
func fluidTears(f Facts) (out []Watch) {
	paper := f.Card.PaperFacts()
	for _, r := range f.laid(soft) {
		why := ""
		torn, clean := 0, 0
		if _, own := f.Card.OwnNames(); r.Own != nil {
			torn, clean = r.Own.TriedOn(f.Card.Paper, own)
		}
		switch {
		case torn > 0 && torn >= clean/4:
			why = fmt.Sprintf("In your own tests %s tore it %s of %d.", r.Own.Name, wording.Count(torn, "time"), torn+clean)
		case torn+clean > 0:
			continue // the maker knows better
		case paper.Surface == drying.Pulp:
			why = "Wood pulp is sized softly: fluid takes its fibres along as it comes off."
		case !paper.Wets:
			why = "It is no paper for water: fluid takes its surface along as it comes off."
		default:
			continue
		}
		out = append(out, Watch{
			Severity: Mind, Cells: r.Parts, What: fmt.Sprintf("%s is to lie on %s, on %s.", wording.Upper(r.Way.Facts().Name), r.Name, paper.Name),
			Why: why, ways: otherwise(r, mask.Round, mask.After),
		})
	}
	return out
}

// tapeTears: tape lies on paint.
func tapeTears(f Facts) (out []Watch) {
	for _, r := range f.laid(func(m *mask.Facts) bool { return m.Way == mask.Tape }) {
		if r.Under == "" {
			continue
		}
		out = append(out, Watch{
			Severity: Mind, Cells: r.Parts, What: fmt.Sprintf("Tape is to lie on painted paper, on %s.", r.Name),
			Why:  "Wetted fibres hold less: take the tack off on cloth first, and pull it once all is bone dry.",
			ways: otherwise(r, mask.Film, mask.Round),
		})
	}
	return out
}

// maskTooFine: what is kept is finer than its mask can be laid.
func maskTooFine(f Facts) (out []Watch) {
	for _, r := range f.laid(func(*mask.Facts) bool { return true }) {
		facts := r.Way.Facts()
		if r.Way == mask.Tape || r.Narrow >= facts.Least || len(r.Parts) == 0 {
			continue
		}
		u := f.Card.Unit
		out = append(out, Watch{
			Severity: Mind, Cells: r.Parts,
			What: fmt.Sprintf("%s is %s wide where it is narrowest, finer than %s goes.", r.Name, length.FromMM(r.Narrow).Near(u), facts.Name),
			Why:  fmt.Sprintf("It cannot be laid finer than %s.", length.FromMM(facts.Least).Near(u)),
			ways: otherwise(r, mask.Pen, mask.After),
		})
	}
	return out
}

// maskForgotten: a mask that nothing is painted over.
func maskForgotten(f Facts) (out []Watch) {
	for _, r := range f.laid(func(*mask.Facts) bool { return true }) {
		if on, _ := f.Plan.MaskSteps(r.ID); on >= 0 || len(r.Parts) == 0 {
			continue
		}
		out = append(out, Watch{
			Severity: Mind, Cells: r.Parts,
			What: fmt.Sprintf("Nothing is painted over the %s on %s.", r.Way.Facts().Name, r.Name),
			Why:  "A mask that keeps nothing off is forgotten, and found under the glue. It is not planned.",
			ways: otherwise(r, mask.Round),
		})
	}
	return out
}

// paperUnderWet: paper and stencils are for hardly any water.
func paperUnderWet(f Facts) (out []Watch) {
	for _, r := range f.laid(func(m *mask.Facts) bool { return !m.Wet }) {
		wet := slices.IndexFunc(r.Grounds, func(g int) bool {
			return slices.ContainsFunc(f.Board.Areas[g].Washes, func(w card.Wash) bool {
				return w.Technique.Covers() && w.Technique.Laid() > drying.DampBrush
			})
		})
		if wet < 0 {
			continue
		}
		out = append(out, Watch{
			Severity: Mind, Cells: r.Parts,
			What: fmt.Sprintf("The wash on %s is wet, and only %s keeps it off %s.", f.Board.Areas[r.Grounds[wet]].Name, map[mask.Way]string{mask.Paper: "paper", mask.Stencil: "a stencil"}[r.Way], r.Name),
			Why:  "A wet wash creeps under what is not stuck down. Sponge, stipple or splatter over it; or use what holds.",
			ways: otherwise(r, mask.Fluid, mask.Film, mask.Round),
		})
	}
	return out
}

// whiteLost: white is counted on, and a wash goes over it.
func whiteLost(f Facts) (out []Watch) {
	if f.Plan.Ways.Whites != school.WhitesReserved {
		return nil
	}
	for i := range f.Board.Areas {
		a := &f.Board.Areas[i]
		if !a.White || len(a.Cells) == 0 {
			continue
		}
		for k := range f.Board.Areas {
			o := &f.Board.Areas[k]
			kept := slices.ContainsFunc(f.Board.KeptFrom(k), func(n int) bool {
				r := &f.Board.Reserves[n]
				return r.Way != mask.Over && slices.Contains(r.Areas, a.ID)
			})
			if k == i || kept || len(o.Washes) == 0 || !f.Board.Overlap(a.Cells, o.Cells) {
				continue
			}
			out = append(out, Watch{
				Severity: Mind, Cells: a.Cells, What: fmt.Sprintf("%s is to stay white, and %s is painted over it.", a.Name, o.Name),
				Why:  "White that is counted on needs a way to stay: painted round, masked, or put on after.",
				ways: []Fix{{Label: "Keep it, painted round", Change: change.KeepArea{Area: a.ID}}},
			})
			break
		}
	}
	return out
}
