package panel

import (
	"fmt"
	"slices"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
	"chromaqua/core/wording"
)

// CoatsOver is what one to n coats of a wash make over those below, each laid once the
// last is dry.
func (p Palette) CoatsOver(below []card.Wash, w card.Wash, n int) (out []Tone) {
	all := slices.Clone(below)
	for range n {
		again := w
		if len(all) > len(below) && w.IntoWet(len(all)) {
			again.Technique = technique.Glaze // a further coat goes on once it is dry
		}
		all = append(all, again)
		out = append(out, p.Look(all).Dense)
	}
	return out
}

// LeftBy is what the last of the washes, clean water, leaves of those below: the tone
// beside it, and where it was.
func (p Palette) LeftBy(washes []card.Wash) (before, after Tone) {
	look := p.Look(washes)
	if f := washes[len(washes)-1].Technique.Facts(); f.Pulls || f.Spreads {
		return p.Look(washes[:len(washes)-1]).Dense, look.Dense
	}
	for _, t := range look.Traces {
		if t.Wash == len(washes)-1 {
			return look.Dense, t.Tone
		}
	}
	return look.Dense, look.Thin
}

// nearlyWhite is the lightness from which a painted place passes for paper.
const nearlyWhite = 90

// Whites says how many coats of opaque white bring a painted area back to nearly
// white; "" for one that is as light already.
func (p Palette) Whites(washes []card.Wash) string {
	white, err := pigment.ByCI(pigment.OpaqueWhite)
	if err != nil || len(washes) == 0 {
		return ""
	}
	ground := p.Dry(washes)
	if seen := pigment.Seen(ground, pigment.Dry); seen.Lab().L >= nearlyWhite {
		return ""
	}
	var words []string
	for _, s := range []pigment.Strength{pigment.Milk, pigment.Cream} {
		load, err := s.Load()
		if err != nil {
			continue
		}
		if n, _ := pigment.Coats(ground, white.Paint(), load, nearlyWhite); n > 0 {
			words = append(words, fmt.Sprintf("%s as %s", wording.Count(n, "coat"), s))
		} else {
			words = append(words, fmt.Sprintf("never as %s", s))
		}
	}
	return strings.Join(words, ", ")
}

// DepthOf says how many coats of an area's last wash that covers take what lies below
// it to a lightness, 0 to 100; "" when none covers.
func (p Palette) DepthOf(a *card.Area, names card.Names, want float64) string {
	k, ok := a.LastCover()
	if !ok {
		return ""
	}
	w := a.Washes[k]
	coat := p.Coat(w)
	switch n, limit := pigment.Coats(p.Dry(a.Washes[:k]), coat.Paint, coat.Load, want); n {
	case 0:
		return fmt.Sprintf("No number of coats of %s takes the area to that depth: it ends at %.0f of 100 in value.", names.Mix(w.Mix), limit)
	case 1:
		return fmt.Sprintf("One coat of %s as %s takes the area to that depth.", names.Mix(w.Mix), w.Strength)
	default:
		return fmt.Sprintf("%d coats of %s as %s, each laid once the last is dry, take the area to that depth.", n, names.Mix(w.Mix), w.Strength)
	}
}
