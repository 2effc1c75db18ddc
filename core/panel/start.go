package panel

import (
	"cmp"
	"context"
	"errors"
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/pigment"
)

// A Start is a colouring to start from: where a card's background, its subject and its
// accents lie on the circle of hues. The plan of values is the same for all: a pale
// background, a subject of middle value, small dark or strong accents.
type Start struct {
	Words                       string
	background, subject, accent float64 // hues, degrees from red towards yellow
	wanted                      bool    // of the wanted colours of a card instead
}

// starts are offered to every card.
var starts = []Start{
	{Words: "cool ground, warm subject", background: 240, subject: 55, accent: 20},
	{Words: "neighbouring hues, one against them", background: 210, subject: 150, accent: 30},
	{Words: "warm ground, cool subject", background: 70, subject: 230, accent: 350},
}

// Values of the plan, L* and the chroma that goes with it, and how far the areas of the
// subject lie from each other in hue and value, so that neighbours are told apart.
const (
	groundL, groundChroma   = 84.0, 16.0
	subjectL, subjectChroma = 66.0, 42.0
	accentL, accentChroma   = 46.0, 52.0
	subjectHues             = 18.0
	subjectValues           = 8.0
)

// Shares of all that is gathered from which on an area is the background, and below which
// it is an accent: estimates of what the eye takes them for.
const (
	groundShare = 1.0 / 3
	accentShare = 0.03
)

// Starts lists the colourings to start from on a card: from the wanted colours it keeps
// when there are some, and those by hue.
func Starts(c *card.Card) []Start {
	if len(c.Wanted) == 0 {
		return starts
	}
	return append([]Start{{Words: "from the wanted colours", wanted: true}}, starts...)
}

// wants are the colours a start wants for the areas of a card, by their indices.
func (s Start) wants(c *card.Card) map[int]pigment.Lab {
	size := make([]float64, len(c.Areas))
	all, out := 0.0, map[int]pigment.Lab{}
	var painted []int
	for i, a := range c.Areas {
		for _, spot := range a.Cells {
			size[i] += spot.MM2
		}
		if all += size[i]; !a.White && len(a.Cells) > 0 {
			painted = append(painted, i)
		}
	}
	slices.SortStableFunc(painted, func(x, y int) int { return cmp.Compare(size[y], size[x]) })
	kept := s.kept(c)
	nth := 0 // of the subject
	for k, i := range painted {
		switch {
		case k == 0 && size[i] >= groundShare*all && len(painted) > 1:
			out[i] = keptOr(kept.pale, s.background, groundL, groundChroma)
		case size[i] < accentShare*all || k == len(painted)-1 && len(painted) > 2:
			out[i] = keptOr(kept.strong, s.accent, accentL, accentChroma)
		default:
			step := float64(nth%5 - 2)
			out[i] = keptOr(kept.nth(nth), s.subject+step*subjectHues, subjectL+subjectValues*float64(nth%3-1), subjectChroma)
			nth++
		}
	}
	return out
}

// wantedColours are the colours a card keeps: the palest, the strongest, and the others, or
// all when there are no others; none for a start by hue.
type wantedColours struct {
	all          []pigment.Lab
	pale, strong *pigment.Lab
}

func (s Start) kept(c *card.Card) (k wantedColours) {
	if !s.wanted {
		return k
	}
	for _, w := range c.Wanted {
		if rgb, err := pigment.ParseHex(w.Hex); err == nil {
			k.all = append(k.all, rgb.Lab())
		}
	}
	if len(k.all) == 0 {
		return k
	}
	pale := slices.MaxFunc(k.all, func(x, y pigment.Lab) int { return cmp.Compare(x.L, y.L) })
	strong := slices.MaxFunc(k.all, func(x, y pigment.Lab) int { return cmp.Compare(x.Chroma()-x.L/2, y.Chroma()-y.L/2) })
	k.pale, k.strong = &pale, &strong
	if rest := slices.DeleteFunc(slices.Clone(k.all), func(l pigment.Lab) bool { return l == pale || l == strong }); len(rest) > 0 {
		k.all = rest
	}
	return k
}

func (k wantedColours) nth(n int) *pigment.Lab {
	if len(k.all) == 0 {
		return nil
	}
	return &k.all[n%len(k.all)]
}

// keptOr is a colour that is kept, or else one of that hue, value and chroma.
func keptOr(kept *pigment.Lab, hue, l, chroma float64) pigment.Lab {
	if kept != nil {
		return *kept
	}
	sin, cos := math.Sincos(hue * math.Pi / 180)
	return pigment.Lab{L: l, A: chroma * cos, B: chroma * sin}
}

// begin paints every area of a card anew with one flat wash, mixed as near as the paints
// come, two at most.
func (s Start) begin(ctx context.Context, c *card.Card, from []pigment.Pigment) error {
	if len(c.Areas) == 0 {
		return errors.New("there is no area yet; gather cells into areas first")
	}
	mix, done := mixerOf(c, from), map[pigment.Lab]card.Wash{}
	for i, want := range s.wants(c) {
		w, known := done[want]
		if !known {
			var err error
			if w, err = mix.wash(ctx, want); err != nil {
				return err
			}
			done[want] = w
		}
		w.Mix = slices.Clone(w.Mix)
		c.Areas[i].Washes = []card.Wash{w}
	}
	return nil
}
