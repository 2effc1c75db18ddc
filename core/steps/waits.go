package steps

import "chromaqua/core/technique"

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
	rubbed       // ink rubbed on dry
	aCrayon      // pencil that water dissolves
	pulling      // water that draws colour out of a line
	afterGround  // paint and background of whoever paints that first
	beforeGround // and last
	strewn       // water or salt, into a wash whose sheen goes
	beside       // paint on a neighbour
	thePowder
	anImpression // over what lies there
	anEmbossing
	aReactive // line that water works
	wetInk    // of what was put on last
	handling
	covering  // laying a mask
	wetMask   // that dries by itself
	laidMask  // that is there at once
	underMask // while one is on
	lifting   // what comes off at once
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
	whileDulling // from gloss lost until a little after the sheen
	whileSticky  // while ink still takes powder
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

	{strewn, aWash, whileDulling, "in the gloss it vanishes, and in a damp wash it makes blooms"},

	{pulling, theLine, atOnce, "fresh or dry; a fresh line gives more"},

	{afterGround, afterGround, atOnce, "you paint the background first"},
	{beforeGround, beforeGround, atOnce, "you paint the background last"},

	{aCrayon, theLine, inkDry, "ink that is not dry smears under the hand"},
	{aCrayon, aWash, boneDry, "a lead scrapes damp paper up, and dissolves in it"},
	{aCrayon, anOpaque, touchDry, "a lead drags wet paint along"},
	{aCrayon, drops, boneDry, "a lead dissolves in wet drops"},
	{aCrayon, aPencil, atOnce, "pencil goes over pencil"},
	{aCrayon, aPen, touchDry, "ink that is not dry smears under the lead"},
	{aCrayon, rubbed, touchDry, "a lead drags fresh ink along"},
	{aCrayon, aCrayon, atOnce, "pencil goes over pencil"},
	{aWash, aCrayon, atOnce, "the pencil dissolves in it"},
	{anOpaque, aCrayon, atOnce, "the pencil dissolves a little in it: once, lightly"},
	{drops, aCrayon, atOnce, "the pencil dissolves where drops fall"},
	{aPencil, aCrayon, atOnce, "pencil goes over pencil"},
	{aPen, aCrayon, atOnce, "a pen goes over dry pencil"},
	{rubbed, aCrayon, atOnce, "a cloth rubs some of it off"},
	{anImpression, aCrayon, atOnce, "ink goes over pencil"},
	{anEmbossing, aCrayon, atOnce, "loose pencil takes powder: brush it off before the heat"},
	{handling, aCrayon, atOnce, "dry pencil holds, but for a wet hand"},

	{rubbed, theLine, inkDry, "a cloth smears ink that is not dry"},
	{rubbed, aWash, boneDry, "damp paper takes the ink in blotches, and pills"},
	{rubbed, anOpaque, boneDry, "a cloth rubs opaque paint off that is not dry"},
	{rubbed, drops, boneDry, "a cloth smears wet drops"},
	{rubbed, aPencil, atOnce, "pencil holds at once"},
	{rubbed, aPen, inkDry, "a cloth smears a pen that is not dry"},
	{rubbed, rubbed, atOnce, "ink is rubbed over ink"},
	{aWash, rubbed, touchDry, "fresh ink runs into the wash"},
	{anOpaque, rubbed, touchDry, "fresh ink smears into the white"},
	{drops, rubbed, touchDry, "fresh ink runs where drops fall"},
	{aPencil, rubbed, touchDry, "a lead drags fresh ink along"},
	{aPen, rubbed, touchDry, "ink runs into ink that is not dry"},
	{anImpression, rubbed, inkDry, "a stamp smears ink that is not dry"},
	{anEmbossing, rubbed, inkDry, "ink that is still sticky takes powder too"},
	{handling, rubbed, inkDry, "ink that is not dry smears"},

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

	{anImpression, aReactive, inkDry, "reactive ink smears under a stamp until it is dry"},
	{anImpression, aWash, boneDry, "damp paper feathers the ink"},
	{anImpression, anOpaque, boneDry, "a stamp lifts opaque paint that is not dry"},
	{anImpression, drops, boneDry, "damp paper feathers the ink"},
	{anImpression, aPencil, atOnce, "ink goes over pencil"},
	{anImpression, aPen, inkDry, "a stamp smears a pen that is not dry"},
	{anEmbossing, theLine, inkDry, "ink that is still sticky takes powder too"},
	{anEmbossing, aWash, boneDry, "powder clings to whatever is damp"},
	{anEmbossing, anOpaque, boneDry, "powder clings to whatever is damp"},
	{anEmbossing, drops, boneDry, "powder clings to whatever is damp"},
	{anEmbossing, aPencil, atOnce, "wax takes powder: brush it off before the heat"},
	{anEmbossing, aPen, inkDry, "ink that is still sticky takes powder too"},
	{handling, wetInk, inkDry, "ink that is not dry smears"},

	{theLine, theLine, inkDry, "a mask laid on wet ink smears it"},
	{thePowder, theLine, whileSticky, "powder holds only while the ink is sticky"},
	{beside, aWash, touchDry, "it would run into its wet neighbour"},
	{handling, theLine, atOnce, "taped by its edges, the ink may dry meanwhile"},
	{handling, aWash, boneDry, "damp paper tears, stretches and takes marks"},
	{handling, anOpaque, boneDry, "what is not dry through and through smears"},
	{handling, drops, boneDry, "what is not dry through and through smears"},
	{handling, aPencil, atOnce, "pencil holds at once"},
	{handling, aPen, boneDry, "ink that is not dry smears"},
	{handling, handling, atOnce, "one after the other"},

	{covering, theLine, inkDry, "ink that is not dry comes off with the mask"},
	{covering, aWash, boneDry, "a mask bonds to damp paper and tears it"},
	{covering, anOpaque, boneDry, "a mask pulls opaque paint off that is not dry"},
	{covering, drops, boneDry, "a mask bonds to damp paper and tears it"},
	{covering, aPencil, atOnce, "it takes a little pencil along"},
	{covering, aPen, boneDry, "ink that is not dry comes off with the mask"},
	{covering, rubbed, touchDry, "rubbed ink comes off with the mask while it is fresh"},
	{covering, aCrayon, atOnce, "it takes a little pencil along"},
	{covering, thePowder, atOnce, "the piece is cool again, and no powder flies"},
	{thePowder, underMask, atOnce, "powder clings to fluid, and the heat that melts it bonds that to the paper"},
	{aWash, wetMask, touchDry, "fluid that is not dry runs into the wash and clings to the brush"},
	{aWash, laidMask, atOnce, "it is laid first"},
	{aWash, underMask, atOnce, "it lies under the mask until that is off"},
	{lifting, aWash, atOnce, "it is lifted while the paint is damp, before that creeps"},
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

// lying is the layer of what a technique leaves.
var lying = map[technique.Lie]layer{technique.AsWash: aWash, technique.AsOpaque: anOpaque, technique.AsDrops: drops, technique.AsPencil: aPencil, technique.AsPen: aPen, technique.AsRubbed: rubbed, technique.AsCrayon: aCrayon}

// layerOf is the layer a technique makes.
func layerOf(t technique.Kind) layer { return lying[t.Facts().Lies] }
