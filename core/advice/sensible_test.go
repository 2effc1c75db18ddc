package advice_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/nest"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// sensible are cards as makers who know their craft make them. There is little to say to
// any of them.
var sensible = map[string]func(testing.TB) *bench{
	"limpets on a mat": func(t testing.TB) *bench {
		b := lay(t, 3, 1)
		b.area("Limpets", 0, 2, wash(technique.PullOut, pigment.Tea, "PBr7"))
		b.area("Rock", 2, 1, flat("PB29", pigment.Milk))
		b.Words = length.Size{W: 50 * mm, H: 10 * mm}
		return b
	},
	"wave strip": func(t testing.TB) *bench { // a panel alone that is as tall as a business envelope takes
		b := lay(t, 4, 1)
		b.area("Crest", 0, 2, wash(technique.Graded, pigment.Tea, "PB15:3"))
		b.area("Deep", 2, 2, wash(technique.Graded, pigment.Milk, "PB29"))
		b.Layers = nil
		b.Envelope = &card.Envelope{ID: "env-10", Inside: length.Size{W: 241 * mm, H: 104 * mm}}
		b.Base.Format, b.Base.Front = card.Free, length.Size{W: 98 * mm, H: 238 * mm}
		b.Panel.Margin = nest.Even(0)
		b.Words = length.Size{W: 40 * mm, H: 8 * mm}
		return b
	},
	"crab on foam": func(t testing.TB) *bench {
		b := lay(t, 3, 1)
		b.area("Shell", 0, 1, flat("PR101", pigment.Milk), wash(technique.Highlight, pigment.Cream, "PW6"))
		b.area("Sand", 1, 1, wash(technique.Shadow, pigment.WeakTea, "PY42"))
		b.area("Claw", 2, 1, wash(technique.PullOut, pigment.Milk, "PR254"))
		b.Panel.By = joint.FullFoam
		return b
	},
	"dusk on tape": func(t testing.TB) *bench { // soft sky, colours that may meet
		b := lay(t, 2, 1)
		b.area("Dusk", 0, 1, wash(technique.WetOnWet, pigment.Tea, "PB29"), wash(technique.WetOnWet, pigment.Tea, "PV19"))
		b.area("Glow", 1, 1, wash(technique.WetOnWet, pigment.WeakTea, "PV19"))
		b.SetJoin("a1", "a2", true)
		b.Painting = card.Painting{Border: 3 * mm, Tape: 18 * mm}
		b.Words = length.Size{W: 40 * mm, H: 8 * mm}
		return b
	},
	"lantern in a frame": func(t testing.TB) *bench {
		b := lay(t, 2, 1)
		b.area("Night", 0, 1, flat("PB29", pigment.Cream))
		b.area("Glass", 1, 1, flat("PY150", pigment.WeakTea))
		b.Layers[0].Kind = card.Frame
		return b
	},
	"kelp postcard": func(t testing.TB) *bench {
		b := lay(t, 2, 1)
		b.area("Fronds", 0, 1, flat("PG7", pigment.Milk))
		b.area("Water", 1, 1, flat("PB15:3", pigment.WeakTea))
		b.Base.Fold, b.Layers, b.Panel.Margin = fold.Flat, nil, nest.Even(0)
		b.Base.Format, b.Base.Front = card.Free, length.Size{W: 102 * mm, H: 148 * mm}
		return b
	},
	"star in its die": func(t testing.TB) *bench {
		b := lay(t, 2, 1)
		b.area("Star", 0, 1, flat("PO62", pigment.Milk)).Focal = true
		b.area("Ground", 1, 1, flat("PY3", pigment.WeakTea))
		b.Layers[0].Die = dies(98, 128)
		return b
	},
	"embossed diver": func(t testing.TB) *bench { // raised lines, neighbours wet together
		b := lay(t, 3, 1)
		b.Ink, b.Paper = "embossed", "cotton-hp"
		b.area("Suit", 0, 1, flat("PB29", pigment.Milk))
		b.area("Face", 1, 1, wash(technique.WetOnWet, pigment.WeakTea, "PV19"))
		b.area("Helmet", 2, 1, flat("PBr7", pigment.Milk))
		return b
	},
	"pulled otter": func(t testing.TB) *bench {
		b := lay(t, 2, 1)
		b.Ink, b.Look = "dye", shelf.Pulled
		b.area("Otter", 0, 1, wash(technique.PullOut, pigment.Milk, "PBr7"))
		b.area("Water", 1, 1, wash(technique.Halo, pigment.WeakTea, "PB15:3"))
		return b
	},
	"petals in dye": func(t testing.TB) *bench { // a pale line that goes into the paint
		b := lay(t, 3, 1)
		b.Ink, b.Look = "dye", shelf.Vanishing
		b.area("Petals", 0, 2, wash(technique.PullOut, pigment.Tea, "PV19"))
		b.area("Leaf", 2, 1, wash(technique.PullOut, pigment.Cream, "PG36"))
		return b
	},
	"puffin in soft grey": func(t testing.TB) *bench {
		b := lay(t, 3, 1)
		b.Ink, b.Look = "permanent", shelf.Soft
		b.area("Back", 0, 2, flat("PBk9", pigment.Milk), wash(technique.Highlight, pigment.Cream, "PW6")).Run = true
		b.area("Beak", 2, 1, wash(technique.PullOut, pigment.Tea, "PO62"))
		return b
	},
	"urchins on wood pulp": func(t testing.TB) *bench { // light and loose
		b := lay(t, 2, 1)
		b.Paper = "pulp-cp"
		b.area("Urchin", 0, 1, flat("PV23", pigment.Tea), wash(technique.WetOnWet, pigment.Tea, "PR122"), wash(technique.Splatter, pigment.Cream, "PV23"))
		b.area("Ground", 1, 1, wash(technique.Halo, pigment.WeakTea, "PV19"))
		return b
	},
	"pencilled shells": func(t testing.TB) *bench { // dry work on cardstock, over dye
		b := lay(t, 2, 1)
		b.Paper, b.Ink = "card", "dye"
		b.area("Shell", 0, 1, wash(technique.DryBrush, pigment.Tea, "PO62"), wash(technique.Pencil, pigment.Milk, "PBr7"))
		b.area("Sand", 1, 1, wash(technique.Pencil, pigment.Tea, "PY42"))
		return b
	},
	"grey heron": func(t testing.TB) *bench { // a grey that is meant, and white that is kept
		b := lay(t, 3, 1)
		w := flat("PB28", pigment.Milk)
		w.Mix = []card.Part{{CI: "PB28", Parts: 1}, {CI: "PO62", Parts: 1}}
		b.area("Grey back", 0, 1, w)
		b.area("Reeds", 1, 1, wash(technique.PullOut, pigment.Tea, "PG36"))
		b.area("Breast", 2, 1).White = true
		return b
	},
}

// On good cards the program is quiet.
func TestLittleIsSaidToSensibleCards(t *testing.T) {
	assert.GreaterOrEqual(t, len(sensible), 12)
	for name, make := range sensible {
		b := make(t)
		require.NoError(t, b.Check(), name)
		ws := b.watches()
		assert.LessOrEqual(t, len(ws), 1, "%s: %v", name, rules(ws))
		for _, w := range ws {
			assert.NotEqual(t, advice.Stop, w.Severity, "%s: %s", name, w.What)
		}
	}
}
