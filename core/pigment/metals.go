package pigment

import (
	"math"
	"slices"
)

// tone is a smooth step of reflectance from one height to another, around a wavelength.
type tone struct {
	from, to   float64 // reflectance of a coat that hides everything, 0 to 1
	at, within float64 // nm
}

// metals are paints of mica flakes, plain or coated, by the tone they have when nothing in
// them mirrors the light, and by how much they mirror. Estimates, set by eye; a metal of
// the maker's that is measured takes their place.
var metals = []Pigment{
	metal("PW20-gold", "gold", "gold mica", "SO", tone{0.11, 0.46, 545, 26}, 1.3, 1),
	metal("PW20-copper", "copper", "copper mica", "SO", tone{0.09, 0.40, 592, 20}, 1.3, 1),
	metal("PW20-silver", "silver", "silver mica", "SO", tone{0.36, 0.38, 560, 60}, 1.2, 1),
	metal("PW20-pearl", "pearl", "pearl mica", "ST", tone{0.84, 0.80, 540, 60}, 0.22, 0.6),
	metal("PW20-clear", "clear glimmer", "clear mica", "T", tone{0.9, 0.9, 560, 60}, 0.04, 0.45),
}

// metal makes one that scatters that much per unit load in every band.
func metal(ci, common, name, transparency string, t tone, scatters, glint float64) Pigment {
	p := Pigment{CI: ci, Common: common, Name: name, Hue: "metallic", Transparency: transparency, Granulation: 1, Lightfast: "I",
		Caution: "mica dust - do not breathe in what is dry of it", Glint: glint}
	for i := range p.K {
		nm := float64(FirstNM + i*StepNM)
		r := t.from + (t.to-t.from)/(1+math.Exp((t.at-nm)/t.within))
		p.S[i] = scatters
		p.K[i] = scatters * (1 - r) * (1 - r) / (2 * r) // Kubelka and Munk, of a coat that hides all
	}
	return p
}

// Metals returns the paints that glint: gold, copper, silver, pearl and clear. Recipes do
// not use them, for what they look like depends on how the light falls.
func Metals() []Pigment { return slices.Clone(metals) }

// All returns the generic pigments and then the metals.
func All() []Pigment { return slices.Concat(library.Pigments, metals) }
