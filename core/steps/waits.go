package steps

import "chromaqua/core/card"

// layer is what lies on the paper, or is to come, as far as waiting goes.
type layer uint8

// The layers.
const (
	theLine layer = iota
	aWash
	intoWet  // paint or water that goes into the wet wash below
	outOfWet // colour that is taken out of it
	anOpaque // a highlight, mica
	drops
	aPencil
	aPen
	beside // paint on a neighbour
	handling
)

// until is how long a layer waits for one below it.
type until uint8

// How long.
const (
	atOnce until = iota
	inkDry
	touchDry
	boneDry
	whileShining // not later than the sheen is lost
	whileWet     // from gloss lost until touch-dry
)

// A wait is one row of the table: above waits for below, and why.
type wait struct {
	above, below layer
	until        until
	reason       string
}

// waits is the one table of what waits for what. The compiler knows no other rule
// about waiting.
var waits = []wait{
	{aWash, theLine, inkDry, "ink that is not dry runs into the wash"},
	{aWash, aWash, touchDry, "water on a damp wash pushes its colour aside into a bloom"},
	{aWash, anOpaque, touchDry, "opaque paint lifts under a brush that comes too soon; go over it once, lightly"},
	{aWash, drops, touchDry, "wet drops would run into the wash"},
	{aWash, aPencil, atOnce, "pencil holds at once"},
	{aWash, aPen, touchDry, "pen ink that is not dry runs into the wash"},

	{intoWet, aWash, whileShining, "it spreads softly only while the wash below shines; in a damp one it makes a bloom"},
	{outOfWet, aWash, whileWet, "colour comes out of a wash that is not dry, and flows back where it still swims"},

	{anOpaque, theLine, inkDry, "ink that is not dry smears"},
	{anOpaque, aWash, touchDry, "opaque paint sinks into what is wet"},
	{anOpaque, anOpaque, touchDry, "the dab below would lift"},
	{anOpaque, drops, touchDry, "opaque paint sinks into what is wet"},
	{anOpaque, aPencil, atOnce, "pencil holds at once"},
	{anOpaque, aPen, touchDry, "pen ink that is not dry smears"},

	{drops, theLine, inkDry, "ink that is not dry runs where drops fall"},
	{drops, aWash, touchDry, "drops spread on what is wet"},
	{drops, anOpaque, touchDry, "drops spread on what is wet"},
	{drops, drops, touchDry, "drops run together while they are wet"},
	{drops, aPencil, atOnce, "pencil holds at once"},
	{drops, aPen, touchDry, "pen ink that is not dry runs where drops fall"},

	{aPencil, theLine, inkDry, "ink that is not dry smears under the hand"},
	{aPencil, aWash, boneDry, "a lead scrapes damp paper up"},
	{aPencil, anOpaque, touchDry, "a lead drags wet paint along"},
	{aPencil, drops, boneDry, "a lead drags wet drops along"},
	{aPencil, aPencil, atOnce, "pencil goes over pencil"},
	{aPencil, aPen, touchDry, "ink that is not dry smears under the lead"},

	{aPen, theLine, inkDry, "ink that is not dry smears"},
	{aPen, aWash, boneDry, "damp paper feathers its ink"},
	{aPen, anOpaque, touchDry, "a nib picks wet paint up"},
	{aPen, drops, boneDry, "damp paper feathers its ink"},
	{aPen, aPencil, atOnce, "pencil holds at once"},
	{aPen, aPen, atOnce, "a pen goes over its own lines"},

	{theLine, theLine, inkDry, "a mask laid on wet ink smears it"},
	{beside, aWash, touchDry, "it would run into its wet neighbour"},
	{handling, theLine, atOnce, "taped by its edges, the ink may dry meanwhile"},
	{handling, aWash, boneDry, "damp paper tears, stretches and takes marks"},
	{handling, anOpaque, boneDry, "what is not dry through and through smears"},
	{handling, drops, boneDry, "what is not dry through and through smears"},
	{handling, aPencil, atOnce, "pencil holds at once"},
	{handling, aPen, boneDry, "ink that is not dry smears"},
	{handling, handling, atOnce, "one after the other"},
}

// waitFor is the row of two layers.
func waitFor(above, below layer) wait {
	for _, w := range waits {
		if w.above == above && w.below == below {
			return w
		}
	}
	panic("steps: the table of waits lacks a row") // a test looks for all of them
}

// A way is how a technique is done at the bench.
type way struct {
	technique card.Technique
	kind      Kind
	layer     layer   // where it lies over what is dry
	slow      float64 // times longer than covering: it is gone over again with water
	how       string
}

// drawnOut is how much longer it takes to draw paint out with water; twice covers
// going over an area again.
const (
	drawnOut = 2.2
	twice    = 1.6
)

var ways = []way{
	{card.Flat, Paint, aWash, 1, "Lay one even wash and leave it."},
	{card.Graded, Paint, aWash, 1, "Lay it strong at the top; at each stroke further down take more water and less colour, without going back."},
	{card.Halo, Paint, aWash, drawnOut, "Lay colour along the subject, rinse, and draw it outwards with a damp brush until it is nothing."},
	{card.Shadow, Paint, aWash, drawnOut, "Lay colour along the ground, rinse, and draw it upwards with a damp brush until it is nothing."},
	{card.PullOut, Paint, aWash, drawnOut, "Lay colour into the shadow side, rinse, and draw it out with a damp brush."},
	{card.Variegated, Paint, aWash, twice, "Wet the paper with clean water until it shines, then lay the colour along one side."},
	{card.WetOnWet, Paint, aWash, twice, "Wet the paper with clean water until it shines, then touch the colour in."},
	{card.Glaze, Paint, aWash, 1, "One thin, even pass over the dry layer; do not go back into it."},
	{card.DryBrush, Paint, aWash, 1, "Blot the brush until it is nearly dry, and skim the paper so that its hollows stay white."},
	{card.Soften, Wet, aWash, drawnOut, "While the wash shines, go along its edge with a brush of clean water, then leave it."},
	{card.Lift, Lift, aWash, 1, "Draw a clean, thirsty brush through the lightest place; wipe it after each stroke."},
	{card.Blot, Blot, aWash, 1, "Press a crumpled paper towel on it here and there, and lift it straight up."},
	{card.Splatter, Splatter, drops, 1, "Cover what must stay clean, load a brush, and tap it over a finger."},
	{card.Highlight, Detail, anOpaque, 1, "With the tip of a small brush, thick and only where light falls; it sinks as it dries, so look again before a second dab."},
	{card.PenLine, Detail, aPen, 1, "Draw over the dry paint with a waterproof pen, lifting it often so that the nib does not scratch paper up."},
	{card.Pencil, Detail, aPencil, 1, "Skim the dry paint with the side of the lead, so that the paper's grain shows."},
	{card.Shimmer, Paint, anOpaque, 1, "Stir it up often, for the mica sinks; lay it thinly and look at it aslant."},
}

// wayOf is the row of a technique; that of a flat wash for one that is unknown.
func wayOf(t card.Technique) way {
	for _, w := range ways {
		if w.technique == t {
			return w
		}
	}
	return ways[0]
}
