package board

import (
	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
)

// Pan is a paint of the palette at the strength of milk.
type Pan struct {
	*pigment.Pigment
	Called string // by the maker, else by painters
	Tone   panel.Tone
}

// Pans are the paints of the palette on a paper, metals last.
func Pans(from panel.Palette, names card.Names) (out []Pan) {
	lib := pigment.All()
	for i := range lib {
		out = append(out, Pan{&lib[i], names.Of(lib[i].CI), from.ToneOf([]card.Part{{CI: lib[i].CI, Parts: 1}}, pigment.Milk)})
	}
	return out
}

// transparency words the code of a pigment's transparency.
func transparency(code string) string {
	return map[string]string{"T": "transparent", "ST": "semi-transparent", "SO": "semi-opaque", "O": "opaque"}[code]
}
