package advice

import (
	"fmt"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/drying"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/proof"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
)

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
