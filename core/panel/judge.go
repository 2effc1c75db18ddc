package panel

import (
	"cmp"
	"fmt"
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/pigment"
)

// A Judgement is how the painted panel holds together.
type Judgement struct {
	Lightest, Darkest string  // areas
	Range             float64 // from lightest to darkest, L*
	White             float64 // share of the panel that stays paper white
	Harmony           string  // the span of its hues, in words
	Temperature       string
	Strongest         [2]string // the pair that stands out most from each other
	Mats              []MatColour
}

// MatColour is a colour for a mat or a card, taken from the painting.
type MatColour struct {
	Hex      string
	Words    string
	Contrast pigment.Contrast // with what reaches the panel's edge
}

// hueChroma is from which chroma on a colour is seen to have a hue.
const hueChroma = 12

// Judge looks at the painted panel with the looks of its areas; nil when nothing is
// painted.
func (b *Board) Judge(looks []Look) *Judgement {
	j := &Judgement{}
	var painted []int
	total, white := 0.0, 0.0
	colour := map[int]bool{} // by patch
	for i, a := range b.Areas {
		if len(a.Washes) > 0 {
			for _, id := range b.Reaches(i, a.Cells) {
				colour[id] = true
			}
		}
	}
	for _, p := range b.Patches() {
		if total += p.MM2; !colour[p.ID] {
			white += p.MM2
		}
	}
	for i, a := range b.Areas {
		if len(a.Washes) > 0 && len(a.Cells) > 0 {
			painted = append(painted, i)
		}
	}
	if len(painted) == 0 {
		return nil
	}
	j.White = white / total
	byL := func(x, y int) int { return cmp.Compare(looks[x].Dense.Lab.L, looks[y].Dense.Lab.L) }
	dark, light := slices.MinFunc(painted, byL), slices.MaxFunc(painted, byL)
	j.Darkest, j.Lightest = b.Areas[dark].Name, b.Areas[light].Name
	j.Range = looks[light].Dense.Lab.L - looks[dark].Dense.Lab.L
	j.Harmony, j.Temperature = harmony(b.Areas, looks, painted)
	if t, d := b.strongest(looks); d > 0 {
		j.Strongest = [2]string{b.Areas[t.A].Name, b.Areas[t.B].Name}
	}
	j.Mats = b.mats(looks, painted)
	return j
}

// strongest is the touching pair that differs most in value, and by how much.
func (b *Board) strongest(looks []Look) (best Touch, most float64) {
	for _, t := range b.Touching {
		if d := math.Abs(looks[t.A].Dense.Lab.L - looks[t.B].Dense.Lab.L); d > most {
			best, most = t, d
		}
	}
	return best, most
}

// harmony words the hues of the painted areas: how far they span, and how warm
// they are.
func harmony(areas []Area, looks []Look, painted []int) (span, temperature string) {
	type tint struct{ hue, mm2 float64 }
	var tints []tint
	warm, all := 0.0, 0.0
	for _, i := range painted {
		lab := looks[i].Dense.Lab
		if lab.Chroma() < hueChroma {
			continue
		}
		h := math.Mod(math.Atan2(lab.B, lab.A)*180/math.Pi+360, 360)
		tints = append(tints, tint{h, areas[i].MM2})
		all += areas[i].MM2
		if h < 110 || h > 330 { // magentas to yellows
			warm += areas[i].MM2
		}
	}
	if len(tints) == 0 {
		return "greys only", "neither warm nor cool"
	}
	slices.SortFunc(tints, func(a, b tint) int { return cmp.Compare(a.hue, b.hue) })
	gap := 360 - tints[len(tints)-1].hue + tints[0].hue // the widest stretch without a hue
	for i := 1; i < len(tints); i++ {
		gap = max(gap, tints[i].hue-tints[i-1].hue)
	}
	switch arc := 360 - gap; {
	case arc < 50:
		span = "one family of hues: calm"
	case arc < 130:
		span = "neighbouring hues: quiet, with some life"
	case gap > 120:
		span = "two opposite families: lively where they meet"
	default:
		span = "hues from all round: bright; let one lead"
	}
	switch share := warm / all; {
	case share > 0.85:
		temperature = "warm throughout"
	case share > 0.55:
		temperature = fmt.Sprintf("mostly warm, cool on %.0f %% of the colour", 100*(1-share))
	case share >= 0.15:
		temperature = fmt.Sprintf("mostly cool, warm on %.0f %% of the colour", 100*share)
	default:
		temperature = "cool throughout"
	}
	return span, temperature
}

// mats proposes colours for mat and card: the hue that covers most, deep and pale,
// and that of the strongest colour.
func (b *Board) mats(looks []Look, painted []int) (out []MatColour) {
	edge, mm2 := 0.0, 0.0 // mean lightness of what reaches the edge
	paper := Ground(b.Card.Paper)
	bare := paper.Lab().L
	for _, c := range b.Cells {
		if !c.Outside {
			continue
		}
		l := bare
		if o, owned := b.AreaOf(c.ID); owned {
			l = looks[o].Dense.Lab.L
		}
		edge, mm2 = edge+l*c.AreaMM2, mm2+c.AreaMM2
	}
	if mm2 == 0 {
		edge, mm2 = bare, 1
	}
	against := pigment.Lab{L: edge / mm2}
	widest := slices.MaxFunc(painted, func(x, y int) int { return cmp.Compare(b.Areas[x].MM2, b.Areas[y].MM2) })
	purest := slices.MaxFunc(painted, func(x, y int) int {
		return cmp.Compare(looks[x].Dense.Lab.Chroma(), looks[y].Dense.Lab.Chroma())
	})
	propose := func(i int, l, chroma float64, words string) {
		at := looks[i].Dense.Lab
		k := min(1, chroma/max(1, at.Chroma()))
		lab := pigment.Lab{L: l, A: k * at.A, B: k * at.B}
		out = append(out, MatColour{lab.RGB().Hex(), words + " " + b.Areas[i].Name, pigment.Compare(lab, against)})
	}
	propose(widest, 32, 30, "deep, from")
	propose(widest, 90, 8, "pale, from")
	if purest != widest {
		propose(purest, min(60, looks[purest].Dense.Lab.L), 50, "the accent of")
	}
	return out
}

// Dry returns the dry reflectance of washes at their densest place.
func (p Palette) Dry(washes []card.Wash) pigment.Spectrum {
	return p.dry(Ground(p.Paper), washes, place{})
}
