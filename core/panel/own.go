package panel

import (
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// IngredientsOf lists what the maker's paints are made of, each kind once: those of
// one pigment, and those that are mixed. Metals are no ingredients of a colour.
func IngredientsOf(own []shelf.Own) (out []Ingredient) {
	return slices.DeleteFunc(ingredients(own), hasMetal)
}

func ingredients(own []shelf.Own) (out []Ingredient) {
	for _, o := range own {
		if o.What != shelf.OwnPaint {
			continue
		}
		portions, err := o.Pigments()
		if err != nil {
			continue // kept by an older program
		}
		var in Ingredient
		for _, p := range portions {
			in = append(in, card.Part{CI: p.CI, Parts: p.Parts})
		}
		if !slices.ContainsFunc(out, func(x Ingredient) bool { return slices.Equal(x, in) }) {
			out = append(out, in)
		}
	}
	return out
}

// PaintsOf lists the pigments of which the maker has a paint, each once.
func PaintsOf(own []shelf.Own) []pigment.Pigment { return paintsOf(own, pigment.Library()) }

// MetalsOf lists the metals of which the maker has a paint, each once.
func MetalsOf(own []shelf.Own) []pigment.Pigment { return paintsOf(own, pigment.Metals()) }

func paintsOf(own []shelf.Own, of []pigment.Pigment) []pigment.Pigment {
	all := ingredients(own)
	return slices.DeleteFunc(of, func(p pigment.Pigment) bool {
		return !slices.ContainsFunc(all, func(in Ingredient) bool { return len(in) == 1 && in[0].CI == p.CI })
	})
}

// hasMetal reports whether a mix has a metal in it.
func hasMetal(mix Ingredient) bool {
	return slices.ContainsFunc(mix, func(p card.Part) bool {
		known, err := pigment.ByCI(p.CI)
		return err == nil && known.Glint > 0
	})
}

// Metallic reports whether a wash lays a metal; it sinks in its mix.
func Metallic(w card.Wash) bool { return hasMetal(w.Mix) }

// Glints reports whether something in a wash mirrors the light once it is dry.
func Glints(w card.Wash) bool { return Metallic(w) || w.Technique.Facts().Trace == technique.Glints }

// measuredOf lists the maker's measured paints, one for each pigment.
func measuredOf(own []shelf.Own) (out []card.Measured) {
	for _, o := range own {
		if ci, ok := o.Pigment(); ok && o.Paint != nil && !has(out, ci) {
			out = append(out, card.Measured{CI: ci, Name: o.Name, K: o.Paint.K, S: o.Paint.S})
		}
	}
	return out
}

func has(paints []card.Measured, ci string) bool {
	return slices.ContainsFunc(paints, func(m card.Measured) bool { return m.CI == ci })
}

// knownOf lists the paints of which the shelf knows more than the pigment: those
// that were measured, and gouache of pigments that were not.
func knownOf(own []shelf.Own) []card.Measured {
	out := measuredOf(own)
	for _, o := range own {
		ci, ok := o.Pigment()
		if !ok || o.Form != shelf.Gouache || has(out, ci) {
			continue
		}
		if paint, err := o.Mixture(); err == nil {
			out = append(out, card.Measured{CI: ci, Name: o.Name + ", gouache by estimate", K: paint.K, S: paint.S})
		}
	}
	return out
}

// NamesOf are what the maker calls paints of one pigment each.
func NamesOf(own []shelf.Own) (out card.Names) {
	for _, o := range own {
		if ci, ok := o.Pigment(); ok {
			out = append(out, card.Called{CI: ci, Name: o.Name})
		}
	}
	return out
}

// Unused lists the paints the shelf knows better that a card could be painted with and
// is not.
func Unused(c *card.Card, own []shelf.Own) (out []card.Measured) {
	for _, m := range knownOf(own) {
		if c.Uses(m.CI) && !slices.Contains(c.Measured, m) {
			out = append(out, m)
		}
	}
	return out
}

// ChartPalette is what the colours of shelf and charts are made of: white paper and
// the maker's paints.
func ChartPalette(own []shelf.Own) Palette {
	c := &card.Card{Work: card.Work{Paper: shelf.Papers()[0].ID}}
	c.Measure(measuredOf(own)...)
	return PaletteOf(c)
}

// ToneOf is a mix alone on the paper, as a flat wash.
func (p Palette) ToneOf(mix []card.Part, s pigment.Strength) Tone {
	return p.Look([]card.Wash{{Technique: technique.Flat, Mix: mix, Strength: s}}).Dense
}
