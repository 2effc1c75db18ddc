package advice

import (
	"fmt"
	"slices"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
)

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
		if !f.Card.Joined(a.ID, b.ID) || meantGrey(a.Area) || meantGrey(b.Area) {
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
			ways: []Fix{{Label: "Keep them apart", Change: change.Join{A: a.ID, B: b.ID}}},
		})
	})
	return out
}

// mudIfMet: the plan keeps touching areas apart until one is dry, but for those that a
// raised line parts. Colours that would make mud are told only there.
func mudIfMet(f Facts) (out []Watch) {
	walled := map[[2]int]bool{} // pairs of areas in contact: whether by a raised line alone
	for _, k := range f.Board.Contacts() {
		a, okA := f.Board.AreaOf(k.A)
		b, okB := f.Board.AreaOf(k.B)
		if okA && okB && a != b {
			pair := [2]int{min(a, b), max(a, b)}
			if was, known := walled[pair]; !known || was {
				walled[pair] = k.Raised
			}
		}
	}
	painted(f, func(t panel.Touch, a, b *panel.Area) {
		if !walled[[2]int{t.A, t.B}] || f.Card.Joined(a.ID, b.ID) || meeting(f, a, b) != pigment.Mud {
			return
		}
		out = append(out, Watch{
			Severity: Note, Cells: cellsOf(a, b),
			What: fmt.Sprintf("Only the raised line parts %s and %s, which make mud.", a.Name, b.Name),
			Why:  "They may be wet at the same time. Keep the bead lower than the line, or let one dry first.",
		})
	})
	return out
}

// greyWords are names under which a painter expects a grey.
var greyWords = []string{"grey", "gray", "shadow", "shade", "stone", "slate", "fog", "mist", "ash", "iron"}

// meantGrey reports whether the colours of an area are to cancel out: the maker says so,
// its name does, or it is a shadow.
func meantGrey(a *card.Area) bool {
	name := strings.ToLower(a.Name)
	return a.Grey || slices.ContainsFunc(greyWords, func(w string) bool { return strings.Contains(name, w) }) ||
		slices.ContainsFunc(a.Washes, func(w card.Wash) bool { return w.Technique == technique.Shadow })
}

// shadowMix reports whether a mix is a blue with an earth: the painters' grey.
func shadowMix(mix []card.Part) bool {
	has := func(hue string) bool {
		return slices.ContainsFunc(mix, func(p card.Part) bool {
			known, err := pigment.ByCI(p.CI)
			return err == nil && strings.Contains(known.Hue, hue)
		})
	}
	return has("blue") && has("earth")
}

// mudInside: what goes into the wet of the same area meets it as a neighbour would; in
// one pan the paints meet in their parts; over dry only what turns grey counts.
func mudInside(f Facts) (out []Watch) {
	for i := range f.Board.Areas {
		a := &f.Board.Areas[i]
		if meantGrey(a.Area) || len(a.Cells) == 0 {
			continue
		}
		w, ok := f.worstInside(a)
		if !ok {
			continue
		}
		w.Cells = a.Cells
		w.Why = "The colours cancel each other out. Take neighbours on the colour circle, or say that a grey is meant."
		w.ways = append(w.ways, Fix{Label: "A grey is meant here", Change: change.Grey{Area: a.ID, Grey: true}})
		out = append(out, w)
	}
	return out
}

// worstInside is the worst meeting among an area's own washes.
func (f Facts) worstInside(a *panel.Area) (worst Watch, found bool) {
	palette, ground := panel.PaletteOf(f.Card), panel.Ground(f.Card.Paper)
	say := func(w Watch) {
		if !found || w.Severity.weight() > worst.Severity.weight() {
			worst, found = w, true
		}
	}
	below := -1 // the wash that covers
	for k, w := range a.Washes {
		if !w.Technique.Covers() {
			continue
		}
		coat := palette.Coat(w)
		if pigment.Cancel(ground, palette.Parts(w)) == pigment.Mud && !shadowMix(w.Mix) {
			say(Watch{Severity: Note, What: fmt.Sprintf("%s, mixed for %s, is mud.", f.Card.Called.Mix(w.Mix), a.Name)})
		}
		if below >= 0 {
			under := palette.Coat(a.Washes[below])
			met := pigment.Meet(ground, under, coat)
			switch into := w.IntoWet(k); {
			case into && met == pigment.Mud:
				say(Watch{
					Severity: Mind,
					What:     fmt.Sprintf("On %s, %s into %s makes mud.", a.Name, f.Card.Called.Mix(w.Mix), f.Card.Called.Mix(a.Washes[below].Mix)),
					ways:     []Fix{{Label: "Lay it over dry", Change: change.Over{Area: a.ID, Wash: k, Over: change.OverDry}}},
				})
			case into && met == pigment.Dulls:
				say(Watch{Severity: Note, What: fmt.Sprintf("On %s, %s into %s dulls.", a.Name, f.Card.Called.Mix(w.Mix), f.Card.Called.Mix(a.Washes[below].Mix))})
			case !into && pigment.Over(ground, under, coat) == pigment.Mud:
				say(Watch{Severity: Note, What: fmt.Sprintf("On %s, %s over %s turns grey.", a.Name, f.Card.Called.Mix(w.Mix), f.Card.Called.Mix(a.Washes[below].Mix))})
			}
		}
		below = k
	}
	return worst, found
}

// tooManyPigments is how many pigments one area stands.
const tooManyPigments = 4

// muddyStack: many pigments over each other turn grey. What only touches it here and
// there, a highlight or a pen, does not count.
func muddyStack(f Facts) (out []Watch) {
	for i, a := range f.Board.Areas {
		seen := map[string]bool{}
		for _, w := range a.Washes {
			for _, p := range w.Mix {
				if w.Technique.Covers() {
					seen[p.CI] = true
				}
			}
		}
		if len(seen) > tooManyPigments && !meantGrey(a.Area) {
			out = append(out, Watch{
				Severity: Mind, Cells: f.Board.Areas[i].Cells,
				What: fmt.Sprintf("%s is painted with %d pigments over each other.", a.Name, len(seen)),
				Why:  "The more there are, the greyer they turn. Two or three carry most colours.",
				ways: []Fix{{Label: "A grey is meant here", Change: change.Grey{Area: a.ID, Grey: true}}},
			})
		}
	}
	return out
}
