package advice

import (
	"fmt"
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/drying"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
)

// noEnvelope: an envelope is easier to choose than to make. Who has one at hand
// is told by [wrongEnvelope].
func noEnvelope(f Facts) []Watch {
	if len(f.Fits) > 0 && f.Fits[0].Good() || f.Card.Envelope != nil {
		return nil
	}
	return []Watch{{
		Severity: Stop,
		What:     "The finished card goes into no standard envelope.",
		Why:      "Found at the end, this costs the card or a hand-made envelope.",
		Fix:      &Fix{"Make it an A2 card", change.Format{Format: "a2"}},
	}}
}

// wettest returns the wettest technique on the card, "" when nothing is painted.
func wettest(c *card.Card) (t card.Technique) {
	for _, a := range c.Areas {
		for _, w := range a.Washes {
			if t == "" || w.Technique.Left() > t.Left() {
				t = w.Technique
			}
		}
	}
	return t
}

// Wets reports whether a real wash goes over the line, or might: nothing is
// painted yet.
func Wets(c *card.Card) bool {
	t := wettest(c)
	return t == "" || t.Left() > drying.PulledOut
}

// inkRuns: a line that is not waterproof runs into the wash. The maker's own test
// outranks what is generally known.
func inkRuns(f Facts) []Watch {
	ink := f.Card.InkFacts()
	if !f.Card.Inked() || wettest(f.Card) == "" || f.Card.Look == shelf.Pulled || f.Card.Look == shelf.Solid {
		return nil
	}
	if t := f.Test; t != nil {
		w := Watch{
			Why: fmt.Sprintf("Your test of it on this paper: bleeds %.1f mm, tints the water by ΔE %.1f, loses %.0f %% of its dark.", t.BleedMM, t.Tint, t.Loss*100),
			Fix: &Fix{"Use quick waterproof pigment ink", change.UseInk(shelf.Inks()[0].ID)},
		}
		switch t.Verdict {
		case proof.Holds:
			return nil
		case proof.Soft:
			w.Severity, w.What = Mind, "The line will soften: "+ink.Name+" under a wash."
		default:
			w.Severity, w.What = Stop, "The line will run: "+ink.Name+" under a wash."
		}
		if f.Card.Ink == shelf.Inks()[0].ID {
			w.Fix = nil
		}
		return []Watch{w}
	}
	if ink.Holds {
		return nil
	}
	return []Watch{{
		Severity: Stop,
		What:     "The line will run: " + ink.Name + " under a wash.",
		Why:      "It stays reactive however long it dries. Fine if you want to pull colour out of the line, ruinous otherwise.",
		Fix:      &Fix{"Use quick waterproof pigment ink", change.UseInk(shelf.Inks()[0].ID)},
	}}
}

// lineStays: no colour can be drawn out of a line that holds.
func lineStays(f Facts) []Watch {
	ink := f.Card.InkFacts()
	holds := ink.Holds
	if f.Test != nil {
		holds = f.Test.Verdict == proof.Holds
	}
	if !f.Card.Inked() || !holds || f.Card.Look != shelf.Pulled && f.Card.Look != shelf.Solid {
		return nil
	}
	return []Watch{{
		Severity: Mind,
		What:     fmt.Sprintf("The line is to be %s, but %s holds.", map[shelf.Look]string{shelf.Pulled: "pulled", shelf.Solid: "worked as a solid"}[f.Card.Look], ink.Name),
		Why:      "Water draws nothing out of it. Take a reactive ink, or a crisp line.",
		Fix:      &Fix{"Take dye ink", change.UseInk("dye")},
	}}
}

// solidMottles: a solid's mass shows the paper's texture.
func solidMottles(f Facts) []Watch {
	p := f.Card.PaperFacts()
	if f.Card.Look != shelf.Solid && !f.Card.Has(shelf.SolidImage) || p.Texture == shelf.Smooth {
		return nil
	}
	return []Watch{{
		Severity: Note,
		What:     fmt.Sprintf("A solid stamped on %s comes out mottled.", p.Name),
		Why: fmt.Sprintf("Its texture leaves about %.0f %% of the mass white at the first impression, %.0f %% after three, generally; water drawn through the mass fills some. Hot press comes out even.",
			100*p.Texture.Misses(1), 100*p.Texture.Misses(3)),
		Fix: &Fix{"Use hot press", change.UsePaper("cotton-hp")},
	}}
}

// layersOnPulp is how many washes wood-pulp paper takes on one place.
const layersOnPulp = 2

// paperReworked: wood pulp does not stand many layers.
func paperReworked(f Facts) (out []Watch) {
	p := f.Card.PaperFacts()
	if p.Surface != drying.Pulp {
		return nil
	}
	for _, a := range f.Card.Areas {
		if len(a.Washes) > layersOnPulp {
			out = append(out, Watch{
				Severity: Mind,
				What:     fmt.Sprintf("%s has %d washes on %s.", a.Name, len(a.Washes), p.Name),
				Why:      "It scrubs back to white or pills when it is gone over so often.",
				Fix:      &Fix{"Use cotton cold press", change.UsePaper(shelf.Papers()[0].ID)},
			})
		}
	}
	return out
}

// Lines thinner than these come to grief, mm.
const (
	breaksOnRough = 0.4
	fillsUp       = 0.25
)

// fine lists the cells on either side of lines thinner than mm.
func fine(b *panel.Board, mm float64) (cells []int) {
	for _, n := range b.Neighbours {
		if n.LineMed < mm {
			cells = append(cells, n.A, n.B)
		}
	}
	slices.Sort(cells)
	return slices.Compact(cells)
}

// lineBreaks: rough paper breaks fine lines.
func lineBreaks(f Facts) []Watch {
	p, ink := f.Card.PaperFacts(), f.Card.InkFacts()
	cells := fine(f.Board, breaksOnRough)
	if p.Texture != shelf.Rough || ink.Method != shelf.Stamped || len(cells) == 0 {
		return nil
	}
	return []Watch{{
		Severity: Mind, Cells: cells,
		What: fmt.Sprintf("Lines under %.1f mm are stamped on %s.", breaksOnRough, p.Name),
		Why:  "They break on its texture. Take hot or cold press, or draw them in with a pen.",
		Fix:  &Fix{"Use cold press", change.UsePaper(shelf.Papers()[0].ID)},
	}}
}

// powderFills: powder runs together between very fine lines.
func powderFills(f Facts) []Watch {
	ink := f.Card.InkFacts()
	cells := fine(f.Board, fillsUp)
	if ink.Powder != shelf.IsPowder || len(cells) == 0 {
		return nil
	}
	return []Watch{{
		Severity: Mind, Cells: cells,
		What: fmt.Sprintf("Lines under %.2f mm are embossed.", fillsUp),
		Why:  "Even superfine powder fills them up. Take a waterproof ink without powder.",
		Fix:  &Fix{"Use quick waterproof pigment ink", change.UseInk(shelf.Inks()[0].ID)},
	}}
}

// paperTooWeak: cardstock does not stand real washes.
func paperTooWeak(f Facts) []Watch {
	p := f.Card.PaperFacts()
	if p.Wets {
		return nil
	}
	if t := wettest(f.Card); t == "" || t.Left() <= drying.PulledOut {
		return nil
	}
	return []Watch{{
		Severity: Mind,
		What:     fmt.Sprintf("A full wash on %s.", p.Name),
		Why:      "It buckles and pills under more than a damp brush.",
		Fix:      &Fix{"Use cotton cold press", change.UsePaper(shelf.Papers()[0].ID)},
	}}
}

// lineOverhangs: part of an image would not be printed.
func lineOverhangs(f Facts) []Watch {
	p := f.Card.PanelSize()
	var names []string
	worst := 0.0
	for i := range f.Card.Images {
		m := &f.Card.Images[i]
		over := 0.0
		for _, c := range panel.Corners(m) {
			over = max(over, -c.X, -c.Y, c.X-p.W.MM(), c.Y-p.H.MM())
		}
		if over > 1e-6 && !(f.Board != nil && f.Board.Laid[i].Off) {
			names, worst = append(names, m.Title), max(worst, over)
		}
	}
	if len(names) == 0 {
		return nil
	}
	w := Watch{
		Severity: Note,
		What:     fmt.Sprintf("%s overhangs the panel by %s.", names[0], length.FromMM(worst).Near(f.Card.Unit)),
		Why:      "What lies outside is cut off, as it would be by the paper's edge.",
	}
	if len(names) > 1 {
		w.What = fmt.Sprintf("%d images overhang the panel, by up to %s.", len(names), length.FromMM(worst).Near(f.Card.Unit))
	} else if len(f.Card.Images) == 1 {
		w.Fix = &Fix{"Centre it", change.Centre{Picked: f.Card.Images[0].ID}}
	}
	return []Watch{w}
}

// imageOff: an image that nobody sees is a slip.
func imageOff(f Facts) (out []Watch) {
	for i, l := range f.Board.Laid {
		if l.Off {
			m := f.Card.Images[i]
			out = append(out, Watch{
				Severity: Mind,
				What:     m.Title + " lies wholly off the panel.",
				Why:      "Nothing of it is stamped.",
				Fix:      &Fix{"Centre it", change.Centre{Picked: m.ID}},
			})
		}
	}
	return out
}

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

// reliefFlattened: water takes the relief out of paper.
func reliefFlattened(f Facts) []Watch {
	if !f.Card.Has(shelf.ReliefImage) || f.Card.Relief != card.Unpainted || wettest(f.Card) == "" || wettest(f.Card).Left() <= drying.DampLeft {
		return nil
	}
	return []Watch{{
		Severity: Mind,
		What:     "The relief is pressed first and washed over.",
		Why:      "Water flattens it. It is planned to be pressed again once dry; pressing only then saves that.",
		Fix:      &Fix{"Press it once painted", change.Relief{Relief: card.Painted}},
	}}
}

// folderSmall: the edge of a folder presses a line into what is larger.
func folderSmall(f Facts) (out []Watch) {
	p := f.Card.PanelSize()
	for i := range f.Card.Images {
		m := &f.Card.Images[i]
		if !m.Is(shelf.ReliefImage) || m.Size().Holds(p) || m.Size().Turned().Holds(p) {
			continue
		}
		out = append(out, Watch{
			Severity: Mind,
			What:     fmt.Sprintf("The folder %s, %s, is smaller than the panel.", m.Title, m.Size().With(f.Card.Unit)),
			Why:      "The relief ends inside the panel, and the folder's edge presses a line into it. Press part of it on purpose, or take a smaller panel.",
		})
	}
	return out
}

// lostCells: moving or rescanning the line can leave areas without their cells.
func lostCells(f Facts) []Watch {
	if f.Board == nil {
		return nil
	}
	var out []Watch
	for _, a := range f.Board.Areas {
		if n := len(a.Lost); n > 0 {
			out = append(out, Watch{
				Severity: Mind,
				What:     fmt.Sprintf("%s of %s could not be found again.", wording.Count(n, "cell"), a.Name),
				Why:      "The line was changed or moved off the panel; choose the cells again, or let the area forget them.",
				Fix:      &Fix{"Forget them", change.ForgetLost{Area: a.ID}},
			})
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
		i, j := f.Board.Owner[l.A-1], f.Board.Owner[l.B-1]
		const noticed = 0.3 // mm; narrower gaps fill with ink or surface tension
		if i == j || i < 0 || j < 0 || l.WidthMM < noticed || l.Stubs == 0 {
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
	var free []int
	for i, owner := range f.Board.Owner {
		if owner < 0 && !f.Board.Cells[i].Outside {
			free = append(free, i+1)
		}
	}
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
