package advice_test

import (
	"slices"

	"github.com/stretchr/testify/require"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/length"
	"chromaqua/core/mask"
	"chromaqua/core/pigment"
	"chromaqua/core/school"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// sky is washes over all of the panel, round what is drawn.
func (b *bench) sky(washes ...card.Wash) *card.Area {
	id, err := b.AddZone(card.Zone{Shape: card.All, Round: true}, b.PanelSize().W.MM())
	require.NoError(b.t, err)
	a, err := b.AreaByID(b.AddArea("Sky"))
	require.NoError(b.t, err)
	a.Lies, a.Zones, a.Washes = true, []string{id}, washes
	return a
}

// dots keeps two dots so wide on the upper part of the panel, mm.
func (b *bench) dots(way mask.Way, wide, y float64) *card.Reserve {
	w := b.PanelSize().W.MM()
	z := card.Zone{Shape: card.DotsAt, Width: length.FromMM(wide), Points: []card.UV{{U: 0.2, V: y / w}, {U: 0.8, V: y / w}}}
	id, err := b.AddZone(z, w)
	require.NoError(b.t, err)
	r, err := b.AddReserve(card.Reserve{Name: "Moon", Way: way, Zones: []string{id}})
	require.NoError(b.t, err)
	made, err := b.ReserveByID(r)
	require.NoError(b.t, err)
	return made
}

// band keeps the top of the panel, down to so many mm.
func (b *bench) band(way mask.Way, y float64) *card.Reserve {
	w := b.PanelSize().W.MM()
	id, err := b.AddZone(card.Zone{Shape: card.Above, Points: []card.UV{{U: 0, V: y / w}, {U: 1, V: y / w}}}, w)
	require.NoError(b.t, err)
	r, err := b.AddReserve(card.Reserve{Name: "Top", Way: way, Zones: []string{id}})
	require.NoError(b.t, err)
	made, err := b.ReserveByID(r)
	require.NoError(b.t, err)
	return made
}

// blue is the wash of a sky.
var blue = flat("PB29", pigment.Milk)

// overFirst lays a mask over the first wash of the sky, and keeps it from the second.
func (b *bench) overFirst(way mask.Way) {
	a := b.sky(flat("PB15:3", pigment.WeakTea), blue)
	b.band(way, 12).Under = card.WashRef(a.ID, 0)
}

var maskCases = []ruleCase{
	{
		"edge-closes", advice.Mind, "Lay it wetter",
		func(b *bench) {
			b.sky(flat("PB29", pigment.Milk))
			b.Room = drying.Room{Celsius: 38, Humidity: 0.15, Air: 1.5}
		},
		func(b *bench) {
			b.sky(flat("PB29", pigment.Milk))
			b.Room = drying.Room{Celsius: 32, Humidity: 0.2, Air: 0.9}
		},
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"heat-on-fluid", advice.Mind, "No heat until it is off",
		func(b *bench) { b.sky(blue); b.dots(mask.Fluid, 6, 12); b.Schools.MaskHeat = school.LowHeat },
		func(b *bench) { b.sky(blue); b.dots(mask.Fluid, 6, 12) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"powder-near-fluid", advice.Stop, "Paint round Moon",
		func(b *bench) { b.overFirst(mask.Resist); b.dots(mask.Fluid, 6, 100) },
		func(b *bench) { b.overFirst(mask.Resist); b.dots(mask.Film, 6, 100) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"mask-on-damp", advice.Note, "",
		func(b *bench) { b.overFirst(mask.Film) },
		func(b *bench) { b.sky(flat("PB15:3", pigment.WeakTea), blue); b.band(mask.Film, 12) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"fluid-tears", advice.Mind, "Paint round it",
		func(b *bench) { b.sky(blue); b.dots(mask.Fluid, 6, 12); b.Paper = "pulp-cp" },
		func(b *bench) {
			b.sky(blue)
			r := b.dots(mask.Fluid, 6, 12)
			b.Paper, r.Own = "pulp-cp", &shelf.Own{Name: "jar", What: shelf.OwnMask, Like: "fluid", Tried: []shelf.Tried{{Paper: "pulp-cp", Clean: 5}}}
		},
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"tape-tears", advice.Mind, "Use adhesive film",
		func(b *bench) { b.overFirst(mask.Tape) },
		func(b *bench) { b.sky(blue); b.band(mask.Tape, 12) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"mask-too-fine", advice.Mind, "Use a mask pen",
		func(b *bench) { b.sky(blue); b.dots(mask.Fluid, 0.6, 12) },
		func(b *bench) { b.sky(blue); b.dots(mask.Fluid, 0.9, 12) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"mask-forgotten", advice.Mind, "Paint round it",
		func(b *bench) { b.dots(mask.Fluid, 6, 12) },
		func(b *bench) { b.sky(blue); b.dots(mask.Fluid, 6, 12) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"paper-under-wet", advice.Mind, "Use masking fluid",
		func(b *bench) { b.sky(blue); b.dots(mask.Paper, 6, 12) },
		func(b *bench) { b.sky(wash(technique.Sponge, pigment.Milk, "PB29")); b.dots(mask.Paper, 6, 12) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"white-lost", advice.Mind, "Keep it, painted round",
		func(b *bench) {
			b.sky(blue)
			b.Zones[0].Round = false
			b.Areas[0].White, b.Areas[0].Washes, b.Schools.Whites = true, []card.Wash{}, school.WhitesReserved
		},
		func(b *bench) {
			b.sky(blue)
			b.Areas[0].White, b.Areas[0].Washes, b.Schools.Whites = true, []card.Wash{}, school.WhitesReserved
		},
		"wave strip, limpets on a mat, crab on foam",
	},
}

// allCases are those of every rule.
func allCases() []ruleCase { return slices.Concat(ruleCases, workCases, maskCases, mountCases) }
