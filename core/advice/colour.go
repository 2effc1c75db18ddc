package advice

import (
	"fmt"
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/drying"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
)

// stencilWet: water creeps under a stencil.
func stencilWet(f Facts) (out []Watch) {
	for i, a := range f.Board.Areas {
		for k, w := range a.Washes {
			if w.Technique.Left() > drying.DampLeft && f.Board.OnStencil(i) {
				out = append(out, Watch{
					Severity: Mind, Cells: a.Cells,
					What: fmt.Sprintf("%s is painted through a stencil with a wet brush.", a.Name),
					Why:  "Water creeps under its edges. A brush that is nearly dry leaves them sharp.",
					Fix:  &Fix{"Use a dry brush", change.LayAs{Area: a.ID, Wash: k, Technique: card.DryBrush}},
				})
				break
			}
		}
	}
	return out
}

// splatterHarmful: drops fly, and some pigments must not get where drops get.
func splatterHarmful(f Facts) (out []Watch) {
	for _, a := range f.Board.Areas {
		for k, w := range a.Washes {
			if w.Technique != card.Splatter {
				continue
			}
			for _, p := range w.Mix {
				known, err := pigment.ByCI(p.CI)
				if err != nil || !known.Harmful() {
					continue
				}
				out = append(out, Watch{
					Severity: Stop, Cells: a.Cells,
					What: fmt.Sprintf("%s is to be splattered with %s %s.", a.Name, p.CI, known.Name),
					Why:  fmt.Sprintf("Drops and mist get on skin and into the breath: %s.", known.Caution),
					Fix:  &Fix{"Skim it on with a dry brush", change.LayAs{Area: a.ID, Wash: k, Technique: card.DryBrush}},
				})
				break
			}
		}
	}
	return out
}

// traceUnseen: what is lifted, dabbed or drawn has to differ from what it lies on.
func traceUnseen(f Facts) (out []Watch) {
	const seen = 4 // ΔE00: less is not noticed across a table
	for i, a := range f.Board.Areas {
		look := f.Looks[i]
		said := func(k int, what, why string, to card.Technique) {
			out = append(out, Watch{
				Severity: Mind, Cells: a.Cells, What: fmt.Sprintf("%s of %s would hardly show.", what, a.Name), Why: why,
				Fix: &Fix{"Set " + map[card.Technique]string{card.Highlight: "a highlight of opaque white", card.PenLine: "pen lines"}[to] + " instead", change.LayAs{Area: a.ID, Wash: k, Technique: to}},
			})
		}
		for k, w := range a.Washes {
			if w.Technique == card.Lift && pigment.Difference(look.Dense.Lab, look.Thin.Lab) < seen {
				said(k, "What is lifted out", "The wash is too pale, or its paint stains and stays.", card.Highlight)
			}
		}
		for _, t := range look.Traces {
			if !t.Technique.Marked() || pigment.Difference(t.Tone.Lab, look.Dense.Lab) >= seen {
				continue
			}
			to, why := card.Highlight, "It is nearly the colour it lies on."
			if t.Technique == card.Highlight {
				to, why = card.PenLine, "It dries to nearly the colour it lies on: paint is not opaque enough, or the ground is pale."
			}
			said(t.Wash, "The "+string(t.Technique), why, to)
		}
	}
	return out
}

// painted calls each with every touching pair of areas that both have a wash.
func painted(f Facts, each func(t panel.Touch, a, b *panel.Area)) {
	for _, t := range f.Board.Touching {
		a, b := &f.Board.Areas[t.A], &f.Board.Areas[t.B]
		if len(a.Washes) > 0 && len(b.Washes) > 0 {
			each(t, a, b)
		}
	}
}

func cellsOf(a, b *panel.Area) []int { return append(slices.Clone(a.Cells), b.Cells...) }

func meeting(f Facts, a, b *panel.Area) pigment.Meeting {
	x, wetX := a.Wet()
	y, wetY := b.Wet()
	if !wetX || !wetY {
		return pigment.StaysClean
	}
	return pigment.Meet(panel.Ground(f.Card.Paper), x, y)
}

// mudWhereJoined: areas that are meant to run together turn to mud.
func mudWhereJoined(f Facts) (out []Watch) {
	painted(f, func(_ panel.Touch, a, b *panel.Area) {
		if !f.Card.Joined(a.ID, b.ID) {
			return
		}
		m := meeting(f, a, b)
		if m != pigment.Mud && m != pigment.Dulls {
			return
		}
		sev := Mind
		if m == pigment.Mud {
			sev = Stop
		}
		out = append(out, Watch{
			Severity: sev, Cells: cellsOf(a, b),
			What: fmt.Sprintf("%s and %s may run together, and that %s.", a.Name, b.Name, m),
			Why:  "The colours cancel each other out where they mix.",
			Fix:  &Fix{"Keep them apart", change.Join{A: a.ID, B: b.ID}},
		})
	})
	return out
}

// mudIfMet: areas that touch would make mud if one were painted too soon.
func mudIfMet(f Facts) (out []Watch) {
	painted(f, func(_ panel.Touch, a, b *panel.Area) {
		if f.Card.Joined(a.ID, b.ID) || meeting(f, a, b) != pigment.Mud {
			return
		}
		out = append(out, Watch{
			Severity: Note, Cells: cellsOf(a, b),
			What: fmt.Sprintf("%s and %s make mud if they meet wet.", a.Name, b.Name),
			Why:  "The order keeps one dry while the other is painted; wait the full time there.",
		})
	})
	return out
}

// meltsTogether: touching areas too close in value cannot be told apart once
// the line is pale or the card hangs across the room.
func meltsTogether(f Facts) (out []Watch) {
	painted(f, func(t panel.Touch, a, b *panel.Area) {
		x, y := f.Looks[t.A].Dense.Lab, f.Looks[t.B].Dense.Lab
		contrast := pigment.Compare(x, y)
		if contrast != pigment.MeltsTogether && contrast != pigment.Weak || card.PaintedAlike(a.Area, b.Area) {
			return
		}
		w := Watch{
			Severity: Note, Cells: cellsOf(a, b),
			What: fmt.Sprintf("%s and %s are weak in contrast (%.0f in value).", a.Name, b.Name, math.Abs(x.L-y.L)),
			Why:  "In grey they are hard to tell apart; the line has to carry the difference.",
		}
		if f.Card.Look == shelf.Vanishing {
			w.Severity, w.Why = Mind, "In grey they are hard to tell apart, and the line between them vanishes."
		}
		if contrast == pigment.MeltsTogether {
			w.Severity = Mind
			w.What = fmt.Sprintf("%s and %s melt together (%.0f apart in value).", a.Name, b.Name, math.Abs(x.L-y.L))
		}
		darker := a
		if y.L < x.L {
			darker = b
		}
		if k, ok := darker.LastCover(); ok {
			if next, ok := stronger(darker.Washes[k].Strength); ok {
				w.Fix = &Fix{fmt.Sprintf("Mix %s as %s", darker.Name, next), change.Strength{Area: darker.ID, Wash: k, Strength: next}}
			}
		}
		out = append(out, w)
	})
	return out
}

func stronger(s pigment.Strength) (pigment.Strength, bool) {
	all := pigment.Strengths()
	i := slices.Index(all, s)
	if i < 0 || i+1 == len(all) {
		return s, false
	}
	return all[i+1], true
}

// leakBetweenColours: colour runs through a gap in the line.
func leakBetweenColours(f Facts) (out []Watch) {
	for _, l := range f.Board.Leaks {
		i, okI := f.Board.AreaOf(l.A)
		j, okJ := f.Board.AreaOf(l.B)
		const noticed = 0.3 // mm; narrower gaps fill with ink or surface tension
		if i == j || !okI || !okJ || l.WidthMM < noticed || l.Stubs == 0 {
			continue
		}
		a, b := &f.Board.Areas[i], &f.Board.Areas[j]
		if len(a.Washes) == 0 || len(b.Washes) == 0 {
			continue
		}
		out = append(out, Watch{
			Severity: Mind, Cells: []int{l.A, l.B},
			What: fmt.Sprintf("A gap of %.1f mm in the line between %s and %s.", l.WidthMM, a.Name, b.Name),
			Why:  "A wet wash runs through it. Close it with a waterproof pen, or let the first colour dry fully.",
		})
	}
	return out
}

// forgottenCells: an eye, a tail, a butterfly's body.
func forgottenCells(f Facts) []Watch {
	if len(f.Board.Areas) == 0 {
		return nil
	}
	free := f.Board.Free()
	if len(free) == 0 {
		return nil
	}
	return []Watch{{
		Severity: Note, Cells: free,
		What: fmt.Sprintf("%s inside the drawing %s to no area.", wording.Count(len(free), "cell"), map[bool]string{true: "belongs", false: "belong"}[len(free) == 1]),
		Why:  "They stay paper white. Gather them if that is not meant.",
	}}
}

// alike is how near two colours are that are meant to be one: they are seen to
// differ, but not as if on purpose.
const alike = 4

// nearlyAlike: the same part keeps one recipe.
func nearlyAlike(f Facts) (out []Watch) {
	areas := f.Board.Areas
	for i := range areas {
		for k := range i {
			a, b := &areas[k], &areas[i]
			if len(a.Washes) == 0 || len(b.Washes) == 0 || len(a.Cells) == 0 || len(b.Cells) == 0 {
				continue
			}
			away := pigment.Difference(f.Looks[k].Dense.Lab, f.Looks[i].Dense.Lab)
			if away < 0.5 || away >= alike || len(a.Washes) == len(b.Washes) && card.MixName(a.Washes[0].Mix) == card.MixName(b.Washes[0].Mix) {
				continue // alike for the eye, or the same paints in two strengths on purpose
			}
			out = append(out, Watch{
				Severity: Note, Cells: slices.Concat(a.Cells, b.Cells),
				What: fmt.Sprintf("%s and %s nearly match, from different mixes.", a.Name, b.Name),
				Why:  fmt.Sprintf("They are ΔE %.1f apart: seen side by side it looks like a slip. Mix both in one go, or further apart.", away),
				Fix:  &Fix{"Paint " + b.Name + " as " + a.Name, change.SameWashes{Area: b.ID, As: a.ID}},
			})
		}
	}
	return out
}

// tooManyPigments is how many pigments one area stands.
const tooManyPigments = 4

// muddyStack: many pigments over each other turn grey.
func muddyStack(f Facts) (out []Watch) {
	for i, a := range f.Board.Areas {
		seen := map[string]bool{}
		for _, w := range a.Washes {
			for _, p := range w.Mix {
				seen[p.CI] = true
			}
		}
		if len(seen) > tooManyPigments {
			out = append(out, Watch{
				Severity: Mind, Cells: f.Board.Areas[i].Cells,
				What: fmt.Sprintf("%s is painted with %d pigments over each other.", a.Name, len(seen)),
				Why:  "The more there are, the greyer they turn. Two or three carry most colours.",
			})
		}
	}
	return out
}

// focalWeak: what the card is about should stand out most.
func focalWeak(f Facts) []Watch {
	var focal []string
	best, most := 0.0, 0.0
	for _, t := range f.Board.Touching {
		d := math.Abs(f.Looks[t.A].Dense.Lab.L - f.Looks[t.B].Dense.Lab.L)
		most = max(most, d)
		if f.Board.Areas[t.A].Focal || f.Board.Areas[t.B].Focal {
			best = max(best, d)
		}
	}
	for _, a := range f.Board.Areas {
		if a.Focal && len(a.Washes) > 0 {
			focal = append(focal, a.Name)
		}
	}
	if len(focal) == 0 || best >= most-1 {
		return nil
	}
	return []Watch{{
		Severity: Note,
		What:     fmt.Sprintf("%s does not stand out most.", focal[0]),
		Why:      fmt.Sprintf("Its strongest contrast is %.0f in value, elsewhere there is one of %.0f. The eye goes where contrast is strongest.", best, most),
	}}
}
