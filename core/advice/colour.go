package advice

import (
	"fmt"
	"slices"
	"strconv"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/drying"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
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
					ways: []Fix{{Label: "Use a dry brush", Change: change.LayAs{Area: a.ID, Wash: k, Technique: technique.DryBrush}}},
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
			if w.Technique != technique.Splatter {
				continue
			}
			for _, p := range w.Mix {
				known, err := pigment.ByCI(p.CI)
				if err != nil || !known.Harmful() {
					continue
				}
				out = append(out, Watch{
					Severity: Stop, Cells: a.Cells,
					What: fmt.Sprintf("%s is to be splattered with %s.", a.Name, f.Card.Called.Of(p.CI)),
					Why:  fmt.Sprintf("Drops and mist get on skin and into the breath: %s.", known.Caution),
					ways: []Fix{{Label: "Skim it on with a dry brush", Change: change.LayAs{Area: a.ID, Wash: k, Technique: technique.DryBrush}}},
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
		if f.liesOnPaint(i) {
			continue // it is seen against that, not against the paper
		}
		look := f.Looks[i]
		said := func(k int, what, why string, to technique.Kind) {
			out = append(out, Watch{
				Severity: Mind, Cells: a.Cells, What: fmt.Sprintf("%s of %s would hardly show.", what, a.Name), Why: why,
				ways: []Fix{{Label: "Set " + map[technique.Kind]string{technique.Highlight: "a highlight of opaque white", technique.PenLine: "pen lines"}[to] + " instead", Change: change.LayAs{Area: a.ID, Wash: k, Technique: to}}},
			})
		}
		for k, w := range a.Washes {
			if w.Technique == technique.Lift && pigment.Difference(look.Dense.Lab, look.Thin.Lab) < seen {
				said(k, "What is lifted out", "The wash is too pale, or its paint stains and stays.", technique.Highlight)
			}
		}
		for _, t := range look.Traces {
			if !t.Technique.Marked() || pigment.Difference(t.Tone.Lab, look.Dense.Lab) >= seen {
				continue
			}
			to, why := technique.Highlight, "It is nearly the colour it lies on."
			if t.Technique == technique.Highlight {
				to, why = technique.PenLine, "It dries to nearly the colour it lies on: paint is not opaque enough, or the ground is pale."
			}
			said(t.Wash, "The "+t.Technique.Name(), why, to)
		}
	}
	return out
}

// Cells so narrow, by the radius that fits, have no room for a wash, and none for a very
// wet one, mm. Estimates: a bead of water stands about so wide.
const (
	noRoom    = 0.4
	noRoomWet = 1.5
)

// tooWetForCell: water that finds no room stands proud and runs over the line.
func tooWetForCell(f Facts) (out []Watch) {
	narrow := func(all []int, mm float64) (cells []int) {
		for _, id := range all {
			if f.Board.Part(id).InscribedMM < mm {
				cells = append(cells, id)
			}
		}
		return cells
	}
	for i := range f.Board.Areas {
		a := &f.Board.Areas[i]
		if a.Loose {
			continue // painted over its own lines
		}
		for k, w := range a.Washes {
			if w.Technique.Laid() < drying.Glaze || !w.Technique.Covers() {
				continue
			}
			least, to := noRoom, technique.DryBrush
			if w.Technique.Laid() >= drying.Loaded {
				least, to = noRoomWet, technique.Flat
				if k > 0 {
					to = technique.Glaze
				}
			}
			cells := narrow(a.Cells, least)
			if len(cells) == 0 || len(cells) < len(a.Cells) && least == noRoom {
				continue // slivers beside larger cells take what the brush's point leaves
			}
			out = append(out, Watch{
				Severity: Mind, Cells: cells,
				What: fmt.Sprintf("%s of %s %s too narrow for a %s wash.", wording.Count(len(cells), "cell"), a.Name, map[bool]string{true: "is", false: "are"}[len(cells) == 1], w.Technique.Name()),
				Why:  fmt.Sprintf("Less than %.1f mm fit across. So much water stands proud there and runs over the line.", 2*least),
				ways: []Fix{{Label: "Lay it as " + to.Name() + " instead", Change: change.LayAs{Area: a.ID, Wash: k, Technique: to}}},
			})
			break
		}
	}
	return out
}

// readsWhite is the lightness from which a dab is taken for white.
const readsWhite = 75

// whiteSinks: opaque white dries darker than it looks wet.
func whiteSinks(f Facts) (out []Watch) {
	for i, a := range f.Board.Areas {
		for _, t := range f.Looks[i].Traces {
			if t.Technique != technique.Highlight || !white(a.Washes[t.Wash].Mix) || t.Tone.Lab.L >= readsWhite {
				continue
			}
			w := Watch{
				Severity: Mind, Cells: a.Cells,
				What: fmt.Sprintf("The white on %s sinks to %.0f of 100 in value.", a.Name, t.Tone.Lab.L),
				Why:  "It looks white while it is wet and dries to a grey. It takes thicker paint, or a second dab once the first is dry.",
			}
			if next, ok := beside(a.Washes[t.Wash].Strength, 1); ok {
				w.ways = []Fix{{Label: "Mix it as " + string(next), Change: change.Strength{Area: a.ID, Wash: t.Wash, Strength: next}}}
			}
			out = append(out, w)
		}
	}
	return out
}

// white reports whether a mix is opaque white and nothing else.
func white(mix []card.Part) bool {
	for _, p := range mix {
		if p.CI != pigment.OpaqueWhite {
			return false
		}
	}
	return len(mix) > 0
}

// leakSeen is the width of a gap from which an ordinary wash finds its way, mm; one that
// stands deep finds narrower ones.
const (
	leakSeen = 0.6
	leakDeep = 0.3
)

// leakBetweenColours: colour runs through a gap in the line.
func leakBetweenColours(f Facts) (out []Watch) {
	for n, l := range f.Board.Leaks {
		i, okI := f.Board.AreaOf(l.A)
		j, okJ := f.Board.AreaOf(l.B)
		if i == j || !okI || !okJ || l.Stubs == 0 {
			continue
		}
		a, b := &f.Board.Areas[i], &f.Board.Areas[j]
		least := leakSeen
		for _, w := range slices.Concat(a.Washes, b.Washes) {
			if w.Technique.Laid() >= drying.Loaded {
				least = leakDeep
			}
		}
		if len(a.Washes) == 0 || len(b.Washes) == 0 || l.WidthMM < least || f.Card.Joined(a.ID, b.ID) {
			continue
		}
		out = append(out, Watch{
			Severity: Mind, Cells: []int{l.A, l.B},
			What: fmt.Sprintf("A gap of %.1f mm in the line between %s and %s.", l.WidthMM, a.Name, b.Name),
			Why:  "A wet wash runs through it. Close it with a waterproof pen, or let the first colour dry fully.",
			Fix:  &Fix{Label: "Close it with the pen", Change: change.CloseLeak{Leak: n}}, // a stroke of the pen is a line
		})
	}
	return out
}

// areaUnpainted: an area that was made and then forgotten.
func areaUnpainted(f Facts) []Watch {
	var names []string
	var cells []int
	painted := 0
	for i := range f.Board.Areas {
		switch a := &f.Board.Areas[i]; {
		case len(a.Washes) > 0:
			painted++
		case !a.White && len(a.Cells) > 0:
			names, cells = append(names, a.Name), append(cells, a.Cells...)
		}
	}
	if len(names) == 0 || painted <= len(names) {
		return nil // it is still being painted
	}
	return []Watch{{
		Severity: Note, Cells: cells,
		What: fmt.Sprintf("%s %s no wash yet.", wording.And(names), map[bool]string{true: "has", false: "have"}[len(names) == 1]),
		Why:  "The others have. What is to stay paper white is better said so, and kept clear of the brush.",
		ways: []Fix{{Label: "Keep it white", Change: change.KeepWhite{Cells: listed(cells)}}},
	}}
}

// listed is cells as a change takes them.
func listed(cells []int) change.CellList {
	var out []string
	for _, id := range cells {
		out = append(out, strconv.Itoa(id))
	}
	return change.CellList(strings.Join(out, ","))
}

// forgottenCells: an eye, a tail, the crab's last leg. It speaks once nearly all of the
// drawing has its areas.
func forgottenCells(f Facts) []Watch {
	inside := 0
	for _, c := range f.Board.Cells {
		if !c.Outside {
			inside++
		}
	}
	free := f.Board.Free()
	if len(free) == 0 || len(f.Board.Areas) == 0 || len(free) > inside/4 {
		return nil
	}
	return []Watch{{
		Severity: Note, Cells: free,
		What: fmt.Sprintf("%s inside the drawing %s to no area.", wording.Count(len(free), "cell"), map[bool]string{true: "belongs", false: "belong"}[len(free) == 1]),
		Why:  "They stay paper white. Gather them if that is not meant, or say that they stay white.",
		ways: []Fix{{Label: "Keep them white", Change: change.KeepWhite{Cells: listed(free)}}},
	}}
}
