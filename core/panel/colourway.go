package panel

import (
	"context"
	"errors"
	"fmt"
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
)

// A Way is another colouring of a card: one paint exchanged for another, every mix moved
// round the circle of hues, or all begun anew.
type Way struct {
	From, To string  // Colour Index names, when a paint is exchanged
	Turn     float64 // degrees, from red towards yellow
	Start    int     // which of its [Starts], from 1, when it is begun anew
}

// Words says what the way does to a card.
func (w Way) Words(c *card.Card, names card.Names) string {
	switch all := Starts(c); {
	case w.Start > 0 && w.Start <= len(all):
		return all[w.Start-1].Words
	case w.From != "":
		return fmt.Sprintf("%s for %s", names.Of(w.To), names.Of(w.From))
	}
	return fmt.Sprintf("hues turned by %g°", w.Turn)
}

// Recolour changes the washes of a card. Hues are mixed from the given paints,
// two at most.
func (w Way) Recolour(ctx context.Context, c *card.Card, paints []pigment.Pigment) error {
	if w.Start != 0 {
		all := Starts(c)
		if w.Start < 0 || w.Start > len(all) {
			return errors.New("that colouring to start from is not offered any more")
		}
		return all[w.Start-1].begin(ctx, c, paints)
	}
	if w.From != "" {
		return w.exchange(c)
	}
	if !(math.Abs(w.Turn) <= 360) {
		return errors.New("hues are turned by -360 to 360 degrees")
	}
	return w.turn(ctx, c, paints)
}

// exchange puts one paint in the place of another.
func (w Way) exchange(c *card.Card) error {
	for _, ci := range []string{w.From, w.To} {
		if _, err := pigment.ByCI(ci); err != nil {
			return err
		}
	}
	used := false
	for i := range c.Areas {
		for k := range c.Areas[i].Washes {
			mix := &c.Areas[i].Washes[k].Mix
			at := slices.IndexFunc(*mix, func(p card.Part) bool { return p.CI == w.From })
			if at < 0 {
				continue
			}
			used = true
			*mix = slices.Clone(*mix)
			if there := slices.IndexFunc(*mix, func(p card.Part) bool { return p.CI == w.To }); there >= 0 && there != at {
				(*mix)[there].Parts = min(card.MaxParts, (*mix)[there].Parts+(*mix)[at].Parts)
				*mix = slices.Delete(*mix, at, at+1)
			} else {
				(*mix)[at].CI = w.To
			}
		}
	}
	if !used {
		return fmt.Errorf("no wash of this card uses %s", w.From)
	}
	return nil
}

// An Ingredient is a paint that recipes are made of, by the pigments in it.
type Ingredient []card.Part

// Ingredients are paints of one pigment each.
func Ingredients(of []pigment.Pigment) []Ingredient {
	out := make([]Ingredient, len(of))
	for i := range of {
		out[i] = Ingredient{{CI: of[i].CI, Parts: 1}}
	}
	return out
}

// parts is how many parts of pigments are in it.
func (in Ingredient) parts() (n int) {
	for _, p := range in {
		n += p.Parts
	}
	return n
}

// Blends returns the paint of each ingredient.
func (p Palette) Blends(all []Ingredient) []pigment.Paint {
	out := make([]pigment.Paint, len(all))
	for i, in := range all {
		out[i] = p.Coat(card.Wash{Mix: in, Strength: pigment.Milk}).Paint
	}
	return out
}

// MixOf is the mix of pigments that a recipe of ingredients makes. It reports false
// when a card cannot hold it: too many pigments, or too many parts.
func MixOf(r pigment.Recipe, from []Ingredient) (out []card.Part, ok bool) {
	all := 1 // a multiple of all that the ingredients' parts add up to
	for _, p := range r.Parts {
		all *= from[p.Paint].parts()
	}
	least := 0
	for _, p := range r.Parts {
		in := from[p.Paint]
		for _, q := range in {
			n := p.Parts * q.Parts * all / in.parts()
			at := slices.IndexFunc(out, func(o card.Part) bool { return o.CI == q.CI })
			if at < 0 {
				at = len(out)
				out = append(out, card.Part{CI: q.CI})
			}
			out[at].Parts += n
		}
	}
	for _, p := range out {
		least = gcd(least, p.Parts)
	}
	for i := range out {
		out[i].Parts /= least
	}
	return out, card.Wash{Technique: technique.Flat, Mix: out, Strength: r.Strength}.Check() == nil
}

func gcd(a, b int) int {
	for b != 0 {
		a, b = b, a%b
	}
	return a
}

// A mixer mixes colours on a card's paper as near as its paints come, two at most.
type mixer struct {
	ingredients []Ingredient
	paints      []pigment.Paint
	ground      pigment.Spectrum
}

func mixerOf(c *card.Card, from []pigment.Pigment) mixer {
	ingredients := Ingredients(from)
	return mixer{ingredients, PaletteOf(c).Blends(ingredients), Ground(c.Paper)}
}

// wash is a flat wash that comes nearest to a colour.
func (m mixer) wash(ctx context.Context, want pigment.Lab) (card.Wash, error) {
	found, err := pigment.Recipes(ctx, want, m.ground, m.paints, 2, 1)
	if err != nil {
		return card.Wash{}, err
	}
	mix, _ := MixOf(found[0], m.ingredients) // two pigments at most
	return card.Wash{Technique: technique.Flat, Strength: found[0].Strength, Mix: mix}, nil
}

// hueLoad is the load at which a mix shows what hue it has: that of cream.
const hueLoad = 2.5

// turn mixes every colour anew with its hue turned: what was one mix stays one, and
// what is white, grey or black stays so.
func (w Way) turn(ctx context.Context, c *card.Card, from []pigment.Pigment) error {
	palette, mix := PaletteOf(c), mixerOf(c, from)
	done := map[string]card.Wash{}
	for i := range c.Areas {
		for k := range c.Areas[i].Washes {
			wash := &c.Areas[i].Washes[k]
			if len(wash.Mix) == 0 {
				continue
			}
			key := card.MixCodes(wash.Mix) + string(wash.Strength)
			now, known := done[key]
			if !known {
				coat := palette.Coat(*wash)
				if full := coat.Paint.Over(&mix.ground, hueLoad); full.Lab().Chroma() < hueChroma {
					continue // white dabs stay white
				}
				over := pigment.Seen(coat.Paint.Over(&mix.ground, coat.Load), pigment.Dry)
				lab := over.Lab()
				sin, cos := math.Sincos(w.Turn * math.Pi / 180)
				want := pigment.Lab{L: lab.L, A: lab.A*cos - lab.B*sin, B: lab.A*sin + lab.B*cos}
				var err error
				if now, err = mix.wash(ctx, want); err != nil {
					return err
				}
				done[key] = now
			}
			wash.Mix, wash.Strength = slices.Clone(now.Mix), now.Strength
		}
	}
	return nil
}
