package advice

import (
	"fmt"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/drying"
	"chromaqua/core/ink"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/proof"
	"chromaqua/core/school"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
	"chromaqua/core/wording"
)

// wettest returns the technique of the card that lays most water, "" when nothing is
// painted.
func wettest(c *card.Card) (t technique.Kind) {
	for _, a := range c.Areas {
		for _, w := range a.Washes {
			if t == "" || w.Technique.Laid() > t.Laid() {
				t = w.Technique
			}
		}
	}
	return t
}

// Wets reports whether a real wash goes over the line, or might: nothing is
// painted yet. A dry brush and a pencil do not wet it.
func Wets(c *card.Card) bool {
	t := wettest(c)
	return t == "" || t.Laid() > drying.DampBrush
}

// lookOf is what is wanted of the line.
func lookOf(c *card.Card) shelf.Look {
	if c.Look == "" {
		return shelf.Crisp
	}
	return c.Look
}

// ranked is the program's own ranking of inks for what the line of the card has to do.
func ranked(f Facts) (all []ink.Choice, now ink.Choice) {
	own, onOwn := f.Card.OwnNames()
	n := ink.Need{
		Look: lookOf(f.Card), Paper: f.Card.PaperFacts(), OnOwn: onOwn, Wet: Wets(f.Card),
		Heat: f.Card.Drying != card.Air, Tests: f.Tests, Goes: f.Card.Schools.Vanishing == school.GoesIntoPaint,
	}
	if f.Card.OwnInk != nil {
		n.Own = []shelf.Own{*f.Card.OwnInk}
	}
	all = ink.Rank(n)
	for _, c := range all {
		if c.Ink.ID == f.Card.InkFacts().ID && c.Name == own {
			now = c
		}
	}
	return all, now
}

// betterInks are the changes to inks that the ranking calls right, or passable, for the
// look that is wanted: those that come onto the paper the same way first.
func betterInks(f Facts, all []ink.Choice) (out []Fix) {
	method := f.Card.InkFacts().Method
	for _, same := range []bool{true, false} {
		for _, c := range all {
			if c.Name == "" && c.Ink.ID != f.Card.Ink && (c.Fit == ink.Right || c.Fit == ink.Passes) && (c.Ink.Method == method) == same {
				out = append(out, Fix{Label: "Use " + c.Ink.Name, Change: change.UseInk(c.Ink.ID)})
			}
		}
	}
	return out
}

// severityOf is how bad an ink is that the ranking calls so; "" for one that will do.
func severityOf(fit ink.Fit) Severity {
	switch fit {
	case ink.Wrong:
		return Stop
	case ink.Doubted:
		return Mind
	}
	return ""
}

// reacts reports whether the line is meant to give colour to water.
func reacts(c *card.Card) bool { return c.Look == shelf.Pulled || c.Look == shelf.Solid }

// inkWillRun: a running ink is told when it is chosen, before anything is painted.
func inkWillRun(f Facts) []Watch {
	if !f.Card.UsesInk() || f.Card.Line() == nil || wettest(f.Card) != "" || reacts(f.Card) {
		return nil
	}
	all, now := ranked(f)
	severity := severityOf(now.Fit)
	if severity == "" || now.Verdict == proof.Holds {
		return nil
	}
	return []Watch{{
		Severity: severity, ways: betterInks(f, all),
		What: fmt.Sprintf("%s does not stay for a %s line.", wording.Upper(now.Ink.Name), lookOf(f.Card)),
		Why:  "Every wash over it will draw it out, however long it has dried. Take one that holds, or say that the line is to be pulled.",
	}}
}

// inkRuns: a line that is not waterproof runs into the wash. The maker's own test
// outranks what is generally known.
func inkRuns(f Facts) []Watch {
	if !f.Card.UsesInk() || wettest(f.Card) == "" || !Wets(f.Card) || reacts(f.Card) {
		return nil
	}
	all, now := ranked(f)
	severity := severityOf(now.Fit)
	if now.Verdict == proof.Holds || severity == "" && (now.Own == nil || lookOf(f.Card) == shelf.Vanishing) {
		return nil
	}
	w := Watch{
		Severity: severity, ways: betterInks(f, all),
		What: "The line will run: " + now.Ink.Name + " under a wash.",
		Why:  "It stays reactive however long it dries. Fine if you want to pull colour out of the line, ruinous otherwise.",
	}
	if t := now.Own; t != nil {
		w.Why = fmt.Sprintf("Your test of it on this paper: bleeds %.1f mm, its tint and clean paper are %s, loses %.0f %% of its dark.", t.BleedMM, pigment.Apart(t.Tint), t.Loss*100)
		if t.Verdict == proof.Soft {
			w.Severity, w.What = Mind, "The line will soften: "+now.Ink.Name+" under a wash."
		} else {
			w.Severity = Stop
		}
	}
	return []Watch{w}
}

// floodOnReactive: colour is drawn out of a reactive line, not washed over it.
func floodOnReactive(f Facts) (out []Watch) {
	holds := false // by the maker's own test
	if f.Card.UsesInk() && reacts(f.Card) {
		_, now := ranked(f)
		holds = now.Verdict == proof.Holds
	}
	floods := func(w card.Wash) bool { return w.Technique.Left() > drying.PulledOut && w.Technique.Covers() }
	for i, a := range f.Board.Areas {
		if !slices.ContainsFunc(a.Washes, floods) || !reaches(f, i, holds) {
			continue
		}
		for k, w := range a.Washes {
			if !floods(w) {
				continue
			}
			out = append(out, Watch{
				Severity: Mind, Cells: a.Cells,
				What: fmt.Sprintf("The %s on %s floods a line that gives its colour.", w.Technique.Name(), a.Name),
				Why:  "The ink goes all over the wash. Lay little, draw it out with a damp brush, and the line gives colour where you touch it.",
				ways: []Fix{{Label: "Draw it out instead", Change: change.LayAs{Area: a.ID, Wash: k, Technique: technique.PullOut}}},
			})
		}
	}
	return out
}

// reached is how much line a wash reaches before it is worth a word, mm.
const reached = 3

// reaches reports whether an area reaches a line that is meant to give its colour; holds
// says that the usual ink of the piece does not.
func reaches(f Facts, area int, holds bool) bool {
	for i, mm := range f.Board.Fed(area) {
		m := &f.Card.Images[i]
		look := f.Card.LookOf(m)
		if mm > reached && (look == shelf.Pulled || look == shelf.Solid) && !(holds && (m.Medium == nil || m.Medium.Ink == "")) {
			return true
		}
	}
	return false
}

// inkNeverCures: a slow pigment ink needs a paper that drinks, or powder.
func inkNeverCures(f Facts) []Watch {
	k, p := f.Card.InkFacts(), f.Card.PaperFacts()
	if !f.Card.UsesInk() || k.ID != "pigment-slow" || p.Surface != drying.Sealed {
		return nil
	}
	all, _ := ranked(f)
	return []Watch{{
		Severity: Mind, ways: betterInks(f, all),
		What: fmt.Sprintf("%s hardly cures on %s.", wording.Upper(k.Name), p.Name),
		Why:  "Nothing drinks it, so it smears for days. Emboss it with clear powder, or take an ink that dries by itself.",
	}}
}

// lineStays: no colour can be drawn out of a line that holds.
func lineStays(f Facts) []Watch {
	if !f.Card.UsesInk() || !reacts(f.Card) {
		return nil
	}
	all, now := ranked(f)
	if now.Verdict != proof.Holds {
		return nil
	}
	return []Watch{{
		Severity: Mind, ways: betterInks(f, all),
		What: fmt.Sprintf("The line is to be %s, but %s holds.", map[shelf.Look]string{shelf.Pulled: "pulled", shelf.Solid: "worked as a solid"}[f.Card.Look], now.Ink.Name),
		Why:  "Water draws nothing out of it. Take a reactive ink, or a crisp line.",
	}}
}

// usePapers are the changes to other papers, the first that is named first.
func usePapers(f Facts, ids ...string) (out []Fix) {
	for _, id := range ids {
		if p, err := shelf.PaperByID(id); err == nil && id != f.Card.Paper {
			out = append(out, Fix{Label: "Use " + p.Name, Change: change.UsePaper(id)})
		}
	}
	return out
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
		ways: usePapers(f, "cotton-hp"),
	}}
}

// layersOnPulp is how often wood-pulp paper may be wetted on one place.
const layersOnPulp = 2

// wettings is how often an area is wetted anew: what goes into the wet does not count,
// nor does what hardly wets at all.
func wettings(a *card.Area) (n int) {
	for k, w := range a.Washes {
		if !w.IntoWet(k) && w.Technique.Laid() > drying.DampBrush && w.Technique.Covers() {
			n++
		}
	}
	return n
}

// paperReworked: wood pulp does not stand many layers.
func paperReworked(f Facts) []Watch {
	p := f.Card.PaperFacts()
	if p.Surface != drying.Pulp {
		return nil
	}
	var over []string
	most := 0
	for i := range f.Card.Areas {
		if n := wettings(&f.Card.Areas[i]); n > layersOnPulp {
			over, most = append(over, f.Card.Areas[i].Name), max(most, n)
		}
	}
	if len(over) == 0 {
		return nil
	}
	w := Watch{
		Severity: Mind, ways: usePapers(f, "cotton-cp", "cotton-hp"),
		What: fmt.Sprintf("%s is wetted %d times on %s.", over[0], most, p.Name),
		Why:  "It scrubs back to white or pills when it is gone over so often.",
	}
	if len(over) > 1 {
		w.What = fmt.Sprintf("%s are wetted up to %d times on %s.", wording.And(over), most, p.Name)
	}
	return []Watch{w}
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
		Severity: Mind, Cells: cells, ways: usePapers(f, "cotton-cp", "cotton-hp"),
		What: fmt.Sprintf("Lines under %.1f mm are stamped on %s.", breaksOnRough, p.Name),
		Why:  "They break on its texture. Take hot or cold press, or draw them in with a pen.",
	}}
}

// powderFills: powder runs together between very fine lines.
func powderFills(f Facts) []Watch {
	cells := fine(f.Board, fillsUp)
	if f.Card.InkFacts().Powder != shelf.IsPowder || len(cells) == 0 {
		return nil
	}
	all, _ := ranked(f)
	return []Watch{{
		Severity: Mind, Cells: cells, ways: betterInks(f, all),
		What: fmt.Sprintf("Lines under %.2f mm are embossed.", fillsUp),
		Why:  "Even superfine powder fills them up. Take a waterproof ink without powder.",
	}}
}

// paperTooWeak: cardstock does not stand real washes.
func paperTooWeak(f Facts) []Watch {
	p := f.Card.PaperFacts()
	if t := wettest(f.Card); p.Wets || t == "" || t.Left() <= drying.PulledOut {
		return nil
	}
	return []Watch{{
		Severity: Mind, ways: usePapers(f, "cotton-cp", "cotton-hp"),
		What: fmt.Sprintf("A full wash on %s.", p.Name),
		Why:  "It buckles and pills under more than a damp brush.",
	}}
}

// overhangSeen is how far ink has to reach over the edge to be worth a word, mm.
const overhangSeen = 0.5

// lineOverhangs: part of an image would not be printed. Its empty corners do not count.
func lineOverhangs(f Facts) []Watch {
	var names []string
	worst := 0.0
	for i := range f.Card.Images {
		if l := &f.Board.Laid[i]; l.OverMM > overhangSeen && !l.Off {
			names, worst = append(names, f.Card.Images[i].Title), max(worst, l.OverMM)
		}
	}
	if len(names) == 0 {
		return nil
	}
	w := Watch{
		Severity: Note,
		What:     fmt.Sprintf("%s overhangs the paper by %s.", names[0], length.FromMM(worst).Near(f.Card.Unit)),
		Why:      "What lies outside is cut off, as it would be by the paper's edge. Centre it where that is not meant.",
	}
	if len(names) > 1 {
		w.What = fmt.Sprintf("%d images overhang the paper, by up to %s.", len(names), length.FromMM(worst).Near(f.Card.Unit))
	} else if m := f.Card.Line(); len(f.Card.Images) == 1 && upright(m).W <= f.Card.PanelSize().W && upright(m).H <= f.Card.PanelSize().H {
		w.Fix = &Fix{Label: "Centre it", Change: change.Centre{Picked: m.ID}} // there it has room
	}
	return []Watch{w}
}

// upright is the size of the box round an image as it lies.
func upright(m *card.Image) length.Size {
	at := panel.Corners(m)
	x0, y0, x1, y1 := at[0].X, at[0].Y, at[0].X, at[0].Y
	for _, p := range at {
		x0, y0, x1, y1 = min(x0, p.X), min(y0, p.Y), max(x1, p.X), max(y1, p.Y)
	}
	return length.Size{W: length.FromMM(x1 - x0), H: length.FromMM(y1 - y0)}
}

// imageOff: an image that nobody sees is a slip.
func imageOff(f Facts) (out []Watch) {
	for i, l := range f.Board.Laid {
		if l.Off {
			m := f.Card.Images[i]
			out = append(out, Watch{
				Severity: Mind,
				What:     m.Title + " lies wholly off the paper.",
				Why:      "Nothing of it is stamped.",
				Fix:      &Fix{Label: "Centre it", Change: change.Centre{Picked: m.ID}}, // the middle is on the panel
			})
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
		ways:     []Fix{{Label: "Press it once painted", Change: change.Relief{Relief: card.Painted}}},
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
			What:     fmt.Sprintf("The folder %s, %s, is smaller than the paper.", m.Title, m.Size().With(f.Card.Unit)),
			Why:      "The relief ends inside it, and the folder's edge presses a line into it. Press part of it on purpose, or take a smaller piece.",
		})
	}
	return out
}

// lostCells: moving or rescanning the line can leave areas without their cells.
func lostCells(f Facts) (out []Watch) {
	for _, a := range f.Board.Areas {
		if n := len(a.Lost); n > 0 {
			out = append(out, Watch{
				Severity: Mind,
				What:     fmt.Sprintf("%s of %s could not be found again.", wording.Count(n, "cell"), a.Name),
				Why:      "The line was changed or moved off the panel; choose the cells again, or let the area forget them.",
				ways:     []Fix{{Label: "Forget them", Change: change.ForgetLost{Area: a.ID}}},
			})
		}
	}
	return out
}
