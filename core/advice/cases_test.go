package advice_test

import (
	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/mount"
	"chromaqua/core/nest"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// A ruleCase is what a rule stands on: the smallest change of the good card that needs
// it, one that just does not, and three sensible cards on which it has to keep still.
type ruleCase struct {
	rule     string
	severity advice.Severity
	fix      string // what is offered, "" where only the maker can
	needs    func(*bench)
	short    func(*bench)
	silent   string // names of sensible cards
}

var ruleCases = []ruleCase{
	{
		"no-envelope", advice.Mind, "Fold an envelope to measure, 304 × 304 mm inside",
		func(b *bench) { _ = b.Give("front", length.Size{W: 300 * mm, H: 300 * mm}) },
		func(b *bench) { _ = b.Give("front", length.Size{W: 159 * mm, H: 226 * mm}) },
		"wave strip, crab on foam, kelp postcard",
	},
	{
		"wrong-envelope", advice.Stop, "Let the front follow from the envelope",
		func(b *bench) {
			b.Envelope = &card.Envelope{ID: card.Free, Inside: length.Size{W: 141 * mm, H: 109 * mm}}
		},
		func(b *bench) {
			b.Envelope = &card.Envelope{ID: card.Free, Inside: length.Size{W: 142 * mm, H: 111 * mm}}
		},
		"limpets on a mat, crab on foam, wave strip",
	},
	{
		"thick-for-envelope", advice.Mind, "Mount the panel without foam",
		func(b *bench) { b.Layers, b.Panel.Margin, b.Panel.By = nil, nest.Even(0), joint.FullFoam },
		func(b *bench) { b.Layers, b.Panel.Margin, b.Panel.By = nil, nest.Even(3*mm), joint.FullFoam },
		"crab on foam, limpets on a mat, wave strip",
	},
	{
		"window-off", advice.Stop, "Put it in the middle",
		func(b *bench) { b.window(47 * mm) },
		func(b *bench) { b.window(48 * mm) },
		"wave strip, kelp postcard, crab on foam",
	},
	{
		"frame-holds-nothing", advice.Mind, "Let it reach under",
		func(b *bench) { b.Layers[0].Kind, b.Panel.Margin = card.Frame, nest.Even(0) },
		func(b *bench) { b.Layers[0].Kind, b.Panel.Margin = card.Frame, nest.Even(-mm) },
		"lantern in a frame, limpets on a mat, crab on foam",
	},
	{
		"tape-too-narrow", advice.Mind, "Use tape of about 9.4 mm",
		func(b *bench) { b.Painting = card.Painting{Border: 3 * mm, Tape: 9 * mm} },
		func(b *bench) { b.Painting = card.Painting{Border: 3 * mm, Tape: 10 * mm} },
		"dusk on tape, wave strip, kelp postcard",
	},
	{
		"no-room-for-words", advice.Mind, "",
		func(b *bench) { b.Words = length.Size{W: 80 * mm, H: 80 * mm} },
		func(b *bench) { b.Words = length.Size{W: 60 * mm, H: 12 * mm} },
		"wave strip, limpets on a mat, dusk on tape",
	},
	{
		"die-differs", advice.Note, "",
		func(b *bench) {
			b.Layers[0].Size, b.Layers[0].Die = length.Size{W: 100 * mm, H: 130 * mm}, dies(99, 129)
		},
		func(b *bench) { b.Layers[0].Die = dies(99, 129) },
		"star in its die, limpets on a mat, lantern in a frame",
	},
	{
		"overhangs", advice.Note, "",
		func(b *bench) { b.Panel.Margin = nest.Even(-mm) },
		func(b *bench) { b.Panel.Margin = nest.Even(0) },
		"lantern in a frame, star in its die, wave strip",
	},
	{
		"post", advice.Note, "",
		func(b *bench) { b.Extra = length.Inch/4 - mount.Body(b.Card).Thickness() },
		func(b *bench) { b.Extra = length.Inch/4 - mount.Body(b.Card).Thickness() - 1 },
		"crab on foam, limpets on a mat, kelp postcard",
	},
	{
		"ink-will-run", advice.Stop, "Use pigment ink, quick waterproof, black",
		func(b *bench) { b.Ink, b.Areas = "dye", []card.Area{} },
		func(b *bench) { b.Ink, b.Look, b.Areas = "dye", shelf.Vanishing, []card.Area{} },
		"pulled otter, petals in dye, limpets on a mat",
	},
	{
		"ink-runs", advice.Stop, "Use pigment ink, quick waterproof, black",
		func(b *bench) { b.Ink = "dye" },
		func(b *bench) { b.Ink = "dye"; b.as(technique.DryBrush) },
		"pulled otter, petals in dye, pencilled shells",
	},
	{
		"flood-on-reactive", advice.Mind, "Draw it out instead",
		func(b *bench) {
			b.Ink, b.Look = "dye", shelf.Pulled
			b.as(technique.PullOut)
			b.wash(0, 0).Technique = technique.Flat
		},
		func(b *bench) { b.Ink, b.Look = "dye", shelf.Pulled; b.as(technique.PullOut) },
		"pulled otter, petals in dye, dusk on tape",
	},
	{
		"ink-never-cures", advice.Mind, "Use pigment ink, quick waterproof, black",
		func(b *bench) { b.Ink, b.Paper = "pigment-slow", "cotton-hp" },
		func(b *bench) { b.Ink, b.Paper = "pigment-slow", "cotton-cp" },
		"limpets on a mat, embossed diver, kelp postcard",
	},
	{
		"line-stays", advice.Mind, "Use dye ink or water-based marker",
		func(b *bench) { b.Look = shelf.Pulled; b.as(technique.PullOut) },
		func(b *bench) { b.Ink, b.Look = "dye", shelf.Pulled; b.as(technique.PullOut) },
		"pulled otter, limpets on a mat, petals in dye",
	},
	{
		"solid-mottles", advice.Note, "Use cotton hot press 300 gsm",
		func(b *bench) { b.Line().Kind = shelf.SolidImage },
		func(b *bench) { b.Line().Kind, b.Paper = shelf.SolidImage, "cotton-hp" },
		"limpets on a mat, kelp postcard, pulled otter",
	},
	{
		"paper-too-weak", advice.Mind, "Use cotton cold press 300 gsm",
		func(b *bench) { b.Paper = "card" },
		func(b *bench) { b.Paper = "card"; b.as(technique.PullOut) },
		"pencilled shells, urchins on wood pulp, wave strip",
	},
	{
		"paper-reworked", advice.Mind, "Use cotton cold press 300 gsm",
		func(b *bench) {
			b.Paper = "pulp-cp"
			b.add(0, wash(technique.Glaze, pigment.Tea, "PB29"), wash(technique.Glaze, pigment.Tea, "PB29"))
		},
		func(b *bench) {
			b.Paper = "pulp-cp"
			b.add(0, wash(technique.WetOnWet, pigment.Tea, "PB29"), wash(technique.Glaze, pigment.Tea, "PB29"), wash(technique.Pencil, pigment.Tea, "PB29"))
		},
		"urchins on wood pulp, pencilled shells, dusk on tape",
	},
	{
		"line-breaks", advice.Mind, "Use cotton cold press 300 gsm",
		func(b *bench) { b.Paper = "cotton-rough"; b.lines(0.39) },
		func(b *bench) { b.Paper = "cotton-rough"; b.lines(0.4) },
		"limpets on a mat, wave strip, pulled otter",
	},
	{
		"powder-fills", advice.Mind, "Use pigment ink, quick waterproof, black",
		func(b *bench) { b.Ink = "embossed"; b.lines(0.24) },
		func(b *bench) { b.Ink = "embossed"; b.lines(0.25) },
		"embossed diver, limpets on a mat, crab on foam",
	},
	{
		"line-overhangs", advice.Note, "Centre it",
		func(b *bench) { b.sheet.Laid[0].OverMM = 0.6 },
		func(b *bench) { b.sheet.Laid[0].OverMM = 0.5 },
		"wave strip, crab on foam, dusk on tape",
	},
	{
		"image-off", advice.Mind, "Centre it",
		func(b *bench) { b.sheet.Laid[0].Off = true },
		func(b *bench) { b.sheet.Laid[0].OverMM = 30 },
		"wave strip, crab on foam, dusk on tape",
	},
	{
		"folder-small", advice.Mind, "",
		func(b *bench) { b.Line().Kind = shelf.ReliefImage },
		func(b *bench) { b.Line().Kind, b.Line().Width = shelf.ReliefImage, 300*mm },
		"limpets on a mat, crab on foam, embossed diver",
	},
	{
		"relief-flattened", advice.Mind, "Press it once painted",
		func(b *bench) { b.Line().Kind, b.Relief = shelf.ReliefImage, card.Unpainted },
		func(b *bench) { b.Line().Kind, b.Relief = shelf.ReliefImage, card.Unpainted; b.as(technique.DryBrush) },
		"limpets on a mat, crab on foam, embossed diver",
	},
	{
		"lost-cells", advice.Mind, "Forget them",
		func(b *bench) {
			b.Areas[0].Cells = append(b.Areas[0].Cells, card.Spot{On: "i1", UV: card.UV{U: 5, V: 5}, MM2: 400})
		},
		func(b *bench) { b.Areas[0].Cells[0].U += 0.1 },
		"limpets on a mat, wave strip, crab on foam",
	},
	{
		"mud-joined", advice.Stop, "Keep them apart",
		func(b *bench) { b.opposites(); b.SetJoin("a1", "a2", true) },
		func(b *bench) { b.SetJoin("a1", "a2", true) },
		"dusk on tape, urchins on wood pulp, crab on foam",
	},
	{
		"mud-inside", advice.Mind, "Lay it over dry",
		func(b *bench) { b.add(0, wash(technique.WetOnWet, pigment.Milk, "PO62")) },
		func(b *bench) { b.add(0, wash(technique.WetOnWet, pigment.Milk, "PV19")) },
		"dusk on tape, crab on foam, grey heron",
	},
	{
		"mud-if-met", advice.Note, "",
		func(b *bench) { b.opposites(); b.Ink = "embossed" },
		func(b *bench) { b.opposites() },
		"embossed diver, crab on foam, wave strip",
	},
	{
		"melts-together", advice.Mind, "Mix Left as tea",
		func(b *bench) {
			b.Ink, b.Look = "pale", shelf.Vanishing
			*b.wash(0, 0), *b.wash(1, 0) = flat("PR122", pigment.Milk), flat("PR254", pigment.Milk)
		},
		func(b *bench) {
			*b.wash(0, 0), *b.wash(1, 0) = flat("PB29", pigment.Tea), flat("PV23", pigment.WeakTea)
		},
		"wave strip, petals in dye, crab on foam",
	},
	{
		"like-petals-merge", advice.Mind, "Draw the colour out of one side",
		func(b *bench) {
			b.Ink, b.Look, b.Areas = "permanent", shelf.Soft, nil
			b.area("Petals", 0, 2, flat("PV19", pigment.Tea))
		},
		func(b *bench) { b.Areas = nil; b.area("Petals", 0, 2, flat("PV19", pigment.Tea)) },
		"petals in dye, puffin in soft grey, limpets on a mat",
	},
	{
		"nearly-alike", advice.Note, "Paint Right as Left",
		func(b *bench) {
			w := flat("PB29", pigment.Milk)
			w.Mix = []card.Part{{CI: "PB29", Parts: 20}, {CI: "PV23", Parts: 1}}
			*b.wash(1, 0) = w
		},
		func(b *bench) { *b.wash(1, 0) = flat("PB29", pigment.Milk) },
		"limpets on a mat, wave strip, urchins on wood pulp",
	},
	{
		"muddy-stack", advice.Mind, "A grey is meant here",
		func(b *bench) { b.stack("PV23", "PB15:3", "PB28", "PV19") },
		func(b *bench) {
			b.stack("PV23", "PB15:3", "PB28")
			b.add(0, wash(technique.Highlight, pigment.Cream, "PW6"))
		},
		"dusk on tape, crab on foam, grey heron",
	},
	{
		"focal-weak", advice.Note, "",
		func(b *bench) { b.three(); b.Areas[2].Focal = true },
		func(b *bench) { b.three(); b.Areas[0].Focal = true },
		"star in its die, limpets on a mat, lantern in a frame",
	},
	{
		"too-wet-for-cell", advice.Mind, "Lay it as flat instead",
		func(b *bench) { b.wash(0, 0).Technique, b.cell().InscribedMM = technique.WetOnWet, 1.49 },
		func(b *bench) { b.wash(0, 0).Technique, b.cell().InscribedMM = technique.WetOnWet, 1.5 },
		"dusk on tape, crab on foam, puffin in soft grey",
	},
	{
		"white-sinks", advice.Mind, "Mix it as cream",
		func(b *bench) {
			b.wash(0, 0).Strength = pigment.Cream
			b.add(0, wash(technique.Highlight, pigment.Milk, "PW6"))
		},
		func(b *bench) {
			b.wash(0, 0).Strength = pigment.Cream
			b.add(0, wash(technique.Highlight, pigment.Cream, "PW6"))
		},
		"crab on foam, puffin in soft grey, dusk on tape",
	},
	{
		"stencil-wet", advice.Mind, "Use a dry brush",
		func(b *bench) { b.Line().Kind = shelf.Stencil; b.wash(1, 0).Technique = technique.DryBrush },
		func(b *bench) { b.Line().Kind = shelf.Stencil; b.as(technique.DryBrush) },
		"limpets on a mat, pencilled shells, wave strip",
	},
	{
		"splatter-harmful", advice.Stop, "Skim it on with a dry brush",
		func(b *bench) { b.add(0, wash(technique.Splatter, pigment.Milk, "PR108")) },
		func(b *bench) { b.add(0, wash(technique.Splatter, pigment.Milk, "PR254")) },
		"urchins on wood pulp, crab on foam, dusk on tape",
	},
	{
		"trace-unseen", advice.Mind, "Set a highlight of opaque white instead",
		func(b *bench) { b.add(0, wash(technique.Splatter, pigment.WeakTea, "PB29")) },
		func(b *bench) { b.add(0, wash(technique.Splatter, pigment.Cream, "PB29")) },
		"urchins on wood pulp, crab on foam, puffin in soft grey",
	},
	{
		"leak", advice.Mind, "Close it with the pen",
		func(b *bench) { b.gap(0.6) },
		func(b *bench) { b.gap(0.59) },
		"limpets on a mat, wave strip, crab on foam",
	},
	{
		"area-unpainted", advice.Note, "Keep it white",
		func(b *bench) { b.three(); b.Areas[2].Washes = nil },
		func(b *bench) { b.three(); b.Areas[1].Washes, b.Areas[2].Washes = nil, nil },
		"wave strip, crab on foam, grey heron",
	},
	{
		"forgotten-cells", advice.Note, "Keep them white",
		func(b *bench) { b.row(3) },
		func(b *bench) { b.row(2) },
		"wave strip, crab on foam, limpets on a mat",
	},
	{
		"water-into-damp", advice.Mind, "Lay it over dry",
		func(b *bench) {
			b.wash(0, 0).Technique = technique.DryBrush
			b.add(0, wash(technique.WetOnWet, pigment.Milk, "PV19"))
		},
		func(b *bench) { b.add(0, wash(technique.WetOnWet, pigment.Milk, "PV19")) },
		"dusk on tape, urchins on wood pulp, pulled otter",
	},
	{
		"heat-on-gloss", advice.Mind, "Dry small ones by heat, big ones by air",
		func(b *bench) {
			b.wash(0, 0).Technique, b.Drying, b.cell().AreaMM2 = technique.WetOnWet, card.Heat, 2501
		},
		func(b *bench) {
			b.wash(0, 0).Technique, b.Drying, b.cell().AreaMM2 = technique.WetOnWet, card.Heat, 2500
		},
		"dusk on tape, wave strip, crab on foam",
	},
}
