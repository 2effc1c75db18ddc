package advice

import (
	"fmt"
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// Differences in L* below which a line of each kind no longer keeps two areas apart. A
// crisp dark line does that by itself: only twins are worth a word.
const (
	carriesCrisp = 2
	carriesSoft  = 5
	carriesNone  = 5 // a line that vanishes: what is weaker is minded
	weakWithout  = 10
)

// meltsTogether: touching areas too close in value cannot be told apart once
// the line is pale or the card hangs across the room.
func meltsTogether(f Facts) (out []Watch) {
	painted(f, func(t panel.Touch, a, b *panel.Area) {
		x, y := f.Looks[t.A].Dense.Lab, f.Looks[t.B].Dense.Lab
		d := math.Abs(x.L - y.L)
		if card.PaintedAlike(a.Area, b.Area) {
			return
		}
		w := Watch{
			Cells: cellsOf(a, b), areas: []string{a.ID, b.ID},
			What: fmt.Sprintf("%s and %s melt together (%.0f apart in value).", a.Name, b.Name, d),
		}
		switch look := lookOf(f.Card); {
		case look == shelf.Crisp && f.Card.Inked() && d < carriesCrisp:
			w.Severity, w.Why = Note, "In grey they are one; the line alone parts them."
		case look == shelf.Crisp && f.Card.Inked():
			return
		case look == shelf.Soft && d < carriesSoft:
			w.Severity, w.Why = Mind, "In grey they are hard to tell apart, and so pale a line hardly parts them."
		case look == shelf.Soft:
			return
		case d < carriesNone:
			w.Severity, w.Why = Mind, "In grey they are hard to tell apart, and the line between them vanishes."
		case d < weakWithout:
			w.Severity, w.Why = Note, "In grey they are hard to tell apart, and the line between them vanishes."
			w.What = fmt.Sprintf("%s and %s are weak in contrast (%.0f in value).", a.Name, b.Name, d)
		default:
			return
		}
		w.ways = partings(f, t)
		out = append(out, w)
	})
	return out
}

// partings are the changes that part two areas: the darker one step darker, or the
// lighter one step lighter, whichever changes its colour less first.
func partings(f Facts, t panel.Touch) []Fix {
	darker, lighter := t.A, t.B
	if f.Looks[t.B].Dense.Lab.L < f.Looks[t.A].Dense.Lab.L {
		darker, lighter = t.B, t.A
	}
	type way struct {
		fix   Fix
		moved float64
	}
	var ways []way
	palette := panel.PaletteOf(f.Card)
	step := func(i, by int) {
		a := &f.Board.Areas[i]
		k, ok := a.LastCover()
		if !ok {
			return
		}
		next, ok := beside(a.Washes[k].Strength, by)
		if !ok {
			return
		}
		washes := slices.Clone(a.Washes)
		washes[k].Strength = next
		ways = append(ways, way{
			Fix{Label: fmt.Sprintf("Mix %s as %s", a.Name, next), Change: change.Strength{Area: a.ID, Wash: k, Strength: next}, deepens: a.ID},
			pigment.Difference(f.Looks[i].Dense.Lab, palette.Look(washes).Dense.Lab),
		})
	}
	step(darker, 1)
	step(lighter, -1)
	slices.SortStableFunc(ways, func(a, b way) int { return int(math.Copysign(1, a.moved-b.moved)) })
	var out []Fix
	for _, w := range ways {
		out = append(out, w.fix)
	}
	return out
}

// beside is the strength so many steps stronger.
func beside(s pigment.Strength, by int) (pigment.Strength, bool) {
	all := pigment.Strengths()
	i := slices.Index(all, s)
	if i < 0 || i+by < 0 || i+by >= len(all) {
		return s, false
	}
	return all[i+by], true
}

// likePetalsMerge: cells painted alike are parted by the line alone; where that will
// hardly show, each needs a darker side.
func likePetalsMerge(f Facts) (out []Watch) {
	if look := lookOf(f.Card); look != shelf.Soft && look != shelf.Vanishing {
		return nil
	}
	contacts := f.Board.Contacts()
	for i := range f.Board.Areas {
		a := &f.Board.Areas[i]
		if len(a.Washes) == 0 || a.Run || a.Loose || f.Looks[i].Grade != technique.Even {
			continue
		}
		var met []int
		for _, k := range contacts {
			p, okP := f.Board.AreaOf(k.A)
			q, okQ := f.Board.AreaOf(k.B)
			if okP && okQ && !k.Raised && p == i && q == i {
				met = append(met, k.A, k.B)
			}
		}
		if len(met) == 0 {
			continue
		}
		slices.Sort(met)
		w := Watch{
			Severity: Mind, Cells: slices.Compact(met),
			What: fmt.Sprintf("The cells of %s merge into one shape.", a.Name),
			Why:  "They touch, are painted alike, and the line between them will hardly show. A darker side on each parts them.",
		}
		if k, ok := a.LastCover(); ok {
			w.ways = []Fix{{Label: "Draw the colour out of one side", Change: change.LayAs{Area: a.ID, Wash: k, Technique: technique.PullOut}}}
		}
		out = append(out, w)
	}
	return out
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
			if away < 0.5 || away >= alike || len(a.Washes) == len(b.Washes) && card.MixCodes(a.Washes[0].Mix) == card.MixCodes(b.Washes[0].Mix) {
				continue // alike for the eye, or the same paints in two strengths on purpose
			}
			out = append(out, Watch{
				Severity: Note, Cells: slices.Concat(a.Cells, b.Cells),
				What: fmt.Sprintf("%s and %s nearly match, from different mixes.", a.Name, b.Name),
				Why:  "They are " + pigment.Apart(away) + ": side by side it looks like a slip. Mix both in one go, or further apart.",
				ways: []Fix{{Label: "Paint " + b.Name + " as " + a.Name, Change: change.SameWashes{Area: b.ID, As: a.ID}}},
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
