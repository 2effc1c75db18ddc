package board

import (
	"cmp"
	"maps"
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/paint"
	"chromaqua/core/panel"
	"chromaqua/core/shading"
	"chromaqua/core/wording"
	"chromaqua/internal/desk"
)

// Shadows are where light comes from, and where the cells are dark.
type Shadows struct {
	X, Y  float64 // of the sun, mm
	Sun   card.Sun
	Suns  []SunAt
	Darks []Dark
	Taken int
	Last  int // the highest cell
}

// SunAt is a place where the sun may stand, mm.
type SunAt struct {
	Sun  card.Sun
	X, Y float64
}

// Dark is the dark of a cell on the picture, mm.
type Dark struct {
	Cell         int
	X, Y, LX, LY float64
	Taken, Sure  bool
	Says         string
}

// ShadowsOf are those of the piece at hand; nil where its cells are not known.
func ShadowsOf(l *desk.Laid) *Shadows {
	if l.Board == nil || l.Reading == nil {
		return nil
	}
	v := &Shadows{Sun: l.Board.Card.Shadows.Sun.Or()}
	w, h := l.Rev.Card.PanelSize().W.MM(), l.Rev.Card.PanelSize().H.MM()
	for _, s := range card.Suns() {
		sin, cos := math.Sincos(s.Degrees() * math.Pi / 180)
		k := 1 / max(math.Abs(sin), math.Abs(cos))
		const inset = 5 // mm within the edge
		at := SunAt{s, w/2 + k*sin*(w/2-inset), h/2 - k*cos*(h/2-inset)}
		if v.Suns = append(v.Suns, at); s == v.Sun {
			v.X, v.Y = at.X, at.Y
		}
	}
	for id, s := range paint.Shadows(l.Board) {
		d := Dark{Cell: id, X: s.Dark.X, Y: s.Dark.Y, LX: s.Light.X, LY: s.Light.Y, Taken: s.Taken, Sure: s.Said || s.Confidence >= shading.Sure}
		d.Says = wording.Upper(darkWords(l.Board, s))
		v.Last = max(v.Last, id)
		if v.Darks = append(v.Darks, d); s.Taken {
			v.Taken++
		}
	}
	slices.SortFunc(v.Darks, func(a, b Dark) int { return cmp.Compare(a.Cell, b.Cell) })
	return v
}

// darkWords says why a cell is dark where it is, and what becomes of it.
func darkWords(b *panel.Board, s paint.Shadow) string {
	other := "what lies beside it"
	if s.Other > 0 {
		other = b.Called(s.Other)
	}
	why := map[shading.Reason]string{
		shading.Hatched: "the drawing is hatched here", shading.Dotted: "the drawing is dotted here", shading.Stroked: "a stroke or two are drawn here",
		shading.LiesUnder: "it lies under " + other, shading.AtMiddle: "it lies under the middle, " + other, shading.Joins: "it joins " + other + " here",
		shading.Fold: "a fold beside " + other, shading.FromLight: "it is away from the light", shading.LikeRing: "as its like round " + other, shading.Said: "you put it here",
	}[s.Reason]
	what := "a guess, not painted; tap to take it"
	switch {
	case s.Taken:
		what = "dark where a wash is pulled out; drag it, or tap to do without"
	case s.Said:
		what = "no shadow; tap to have it"
	case s.Confidence >= shading.Sure:
		what = "not taken; tap to take it"
	}
	return why + ": " + what
}

// Beside is an area that touches another, and which of the two lies in front.
type Beside struct {
	Area  *panel.Area
	Said  change.FrontKind // by the maker; as drawn when nothing is, or not the same everywhere
	Tells string           // how it is taken to lie
}

// Besides are the areas that an area touches with its cells.
func Besides(b *panel.Board, area int) (out []Beside) {
	type border struct {
		sum, mm float64
		said    map[change.FrontKind]bool
	}
	m, beside := paint.Shading(b), make([]border, len(b.Areas))
	for _, t := range b.Neighbours {
		own, other := t.A, t.B
		if a, _ := b.AreaOf(own); a != area {
			own, other = other, own
		}
		a, owned := b.AreaOf(own)
		o, held := b.AreaOf(other)
		if !owned || !held || a != area || o == area {
			continue
		}
		at := &beside[o]
		if at.said == nil {
			at.said = map[change.FrontKind]bool{}
		}
		score, _ := m.Score(m.Root(own), m.Root(other))
		at.sum, at.mm = at.sum+score*t.BorderMM, at.mm+t.BorderMM
		at.said[change.FrontOf(b, own, other)] = true
	}
	for i, at := range beside {
		if at.said == nil {
			continue
		}
		v := Beside{Area: &b.Areas[i], Said: change.AsItTells, Tells: "neither is told"}
		if kinds := slices.Collect(maps.Keys(at.said)); len(kinds) == 1 {
			v.Said = kinds[0]
		}
		switch score := at.sum / at.mm; {
		case score >= shading.Decided:
			v.Tells = "in front"
		case score <= -shading.Decided:
			v.Tells = "behind"
		}
		out = append(out, v)
	}
	return out
}
