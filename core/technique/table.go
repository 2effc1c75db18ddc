package technique

import (
	"chromaqua/core/drying"
	"chromaqua/core/pigment"
)

// How much longer it takes to draw paint out with water, and to go over an area twice.
const (
	drawnOut = 2.2
	twice    = 1.6
)

// techniques is the one table of what is known of techniques, in the order they are
// offered. A test asks for every row to be whole, and every picture and document to
// know it.
var techniques = []Facts{
	{
		Kind: Flat, When: AnyTime, Tool: PaintedBrush, Act: Washes, Lies: AsWash,
		Laid: drying.FlatWash, Left: drying.FlatWash, Share: 1, Slow: 1,
		Runs: Even, Thin: 1,
		How: "Lay one even wash and leave it.",
	},
	{
		Kind: Graded, When: AnyTime, Tool: PaintedBrush, Act: Washes, Lies: AsWash,
		Laid: drying.FlatWash, Left: drying.FlatWash, Share: 1, Slow: 1,
		Runs: Down, Thin: 0.2,
		How: "Lay it strong at the top; at each stroke further down take more water and less colour, without going back.",
	},
	{
		Kind: PullOut, When: AnyTime, Tool: PaintedBrush, Act: Washes, Lies: AsWash,
		Laid: drying.FlatWash, Left: drying.PulledOut, Share: 1, Slow: drawnOut,
		Runs: Corner, Thin: 0.08,
		How: "Lay colour into the shadow side, rinse, and draw it out with a damp brush.",
	},
	{
		Kind: Glaze, When: AnyTime, Tool: PaintedBrush, Act: Washes, Lies: AsWash,
		Laid: drying.Glaze, Left: drying.Glaze, Share: 1, Slow: 1,
		Runs: Even, Thin: 1,
		How: "One thin, even pass over the dry layer; do not go back into it.",
	},
	{
		Kind: ReservedLight, Name: "reserved light", When: AnyTime, Tool: PaintedBrush, Rarely: true, Act: Washes, Lies: AsWash,
		Laid: drying.FlatWash, Left: drying.FlatWash, Share: 1, Slow: twice,
		Runs: In, Thin: 0.05,
		How: "Look first where light falls, paint round that place, and soften one side of its edge with a damp brush.",
	},
	{
		Kind: Crescent, When: AnyTime, Tool: PaintedBrush, Rarely: true, Act: Washes, Lies: AsWash,
		Laid: drying.FlatWash, Left: drying.PulledOut, Share: 1, Slow: drawnOut,
		Runs: Corner, Thin: 0.04,
		How: "On the side away from the light lay a crescent that stays off the line, so that a lit rim is left; draw its inner edge out with a damp brush.",
	},
	{
		Kind: CastShadow, Name: "cast shadow", When: OnceDry, Tool: PaintedBrush, Rarely: true, Act: Washes, Lies: AsWash,
		Laid: drying.Glaze, Left: drying.Glaze, Share: 1, Slow: 1,
		Runs: Corner, Thin: 0.04,
		How: "Beside what lies over it, one glaze in the shape of its shadow, with a crisp edge; soften nothing.",
	},
	{
		Kind: LinePull, Name: "pulled line", When: AnyTime, Tool: CleanWater, Rarely: true, Act: Wets, Lies: AsWash,
		Laid: drying.PulledOut, Left: drying.PulledOut, Share: 1, Slow: drawnOut,
		Runs: In, Thin: 0.2, Takes: Taking{Least: 1}, Pulls: true,
		How:   "With a brush of clean water go along the inside of the line, and draw its colour into the cell; wipe the brush, it carries ink.",
		Dryly: "With a brush of clean water go along the inside of the line, and draw its colour into the cell; wipe the brush, it carries ink.",
	},
	{
		Kind: WetPencil, Name: "laid pencil", When: AnyTime, Tool: DrawnLine, With: "watercolour pencil", Rarely: true, Act: Details, Lies: AsCrayon,
		Laid: 0, Left: 0, Share: 1, Slow: twice,
		Runs: Even, Thin: 1, Hollows: 0.45, Trace: Skips,
		How: "Lay the pencil dry, evenly, with the side of the lead; more where it is to be dark.",
	},
	{
		Kind: PencilWetted, Name: "wetted pencil", When: OnceDry, Tool: CleanWater, Rarely: true, Act: Wets, Lies: AsWash,
		Laid: drying.FlatWash, Left: drying.PulledOut, Share: 1, Slow: drawnOut,
		Runs: Even, Thin: 1, Takes: Taking{Least: 1}, Spreads: true,
		How:   "Go over the pencil with a brush of clean water, from light to dark; it dissolves, and some of its grain stays.",
		Dryly: "Go over the pencil with a brush of clean water, from light to dark; it dissolves, and some of its grain stays.",
	},
	{
		Kind: Halo, When: AnyTime, Tool: PaintedBrush, Act: Washes, Lies: AsWash,
		Laid: drying.FlatWash, Left: drying.PulledOut, Share: 1, Slow: drawnOut,
		Runs: Out, Thin: 0.04,
		How: "Lay colour along the subject, rinse, and draw it outwards with a damp brush until it is nothing.",
	},
	{
		Kind: Shadow, Name: "ground shadow", When: AnyTime, Tool: PaintedBrush, Act: Washes, Lies: AsWash,
		Laid: drying.FlatWash, Left: drying.PulledOut, Share: 1, Slow: drawnOut,
		Runs: Up, Thin: 0.04,
		How: "Lay colour along the ground, rinse, and draw it upwards with a damp brush until it is nothing.",
	},
	{
		Kind: WetOnWet, When: WhileWet, Tool: PaintedBrush, Act: Washes, Lies: AsWash,
		Laid: drying.WetOnWet, Left: drying.WetOnWet, Share: 1, Slow: twice,
		Runs: Out, Thin: 0.25,
		How:   "Wet the paper with clean water until it shines, then touch the colour in.",
		Wetly: "Touch the colour into the wash below while it still shines.",
	},
	{
		Kind: Variegated, When: WhileWet, Tool: PaintedBrush, Act: Washes, Lies: AsWash,
		Laid: drying.Loaded, Left: drying.Loaded, Share: 1, Slow: twice,
		Runs: Across, Thin: 1,
		How:   "Wet the paper with clean water until it shines, then lay the colour along one side.",
		Wetly: "While the wash below still shines, lay this beside it and let the two meet by themselves.",
	},
	{
		Kind: Soften, When: WhileWet, Tool: CleanWater, Act: Wets, Lies: AsWash,
		Laid: drying.PulledOut, Left: drying.PulledOut, Share: 0.4, Slow: drawnOut,
		Runs: Out, Thin: 1, Takes: Taking{0.15, 0.1},
		How:   "While the wash shines, go along its edge with a brush of clean water, then leave it.",
		Dryly: "The wash is dry: rub its edge lightly with a brush of clean water, once, and dab it.",
	},
	{
		Kind: Lift, When: WhileWet, Tool: CleanWater, Act: Lifts, Lies: AsWash,
		Laid: 0, Left: 0, Share: 0.3, Slow: 1,
		Runs: In, Thin: 1, Takes: Taking{0.25, 0.2}, // a thirsty brush takes more than a towel
		How:   "Draw a clean, thirsty brush through the lightest place; wipe it after each stroke.",
		Dryly: "The wash is dry: wet it again, let the water stand a moment. Draw a clean, thirsty brush through the lightest place; wipe it after each stroke.",
	},
	{
		Kind: Blot, When: WhileWet, Tool: CleanWater, With: "paper towel", Act: Blots, Lies: AsWash,
		Laid: 0, Left: 0, Share: 0.3, Slow: 1,
		Runs: Even, Thin: 1, Takes: Taking{0.4, 0.15}, Trace: Patches,
		How:   "Press a crumpled paper towel on it here and there, and lift it straight up.",
		Dryly: "The wash is dry: wet it again, let the water stand a moment. Press a crumpled paper towel on it here and there, and lift it straight up.",
	},
	{
		Kind: WetSplatter, Name: "wet splatter", When: WhileWet, Tool: PaintedBrush, Rarely: true, Act: Splatters, Lies: AsWash,
		Laid: drying.PulledOut, Left: drying.PulledOut, Share: 0.08, Slow: 1,
		Runs: Even, Thin: 1, Trace: Drops, Drop: 0.7, // they spread
		How:   "Wet the paper with clean water until it shines, then tap a loaded brush over a finger.",
		Wetly: "While the wash below shines, tap a loaded brush over a finger; the drops spread softly. Cover what must stay clean.",
	},
	{
		Kind: CleanDrops, Name: "clean drops", When: WhileWet, Tool: CleanWater, Rarely: true, Act: Splatters, Lies: AsWash,
		Laid: drying.PulledOut, Left: drying.PulledOut, Share: 0.12, Slow: 1,
		Runs: Even, Thin: 1, Takes: Taking{0.35, 0.1}, Trace: Drops, Drop: 0.9,
		How:   "While the wash shines, let drops of clean water fall on it: its colour breaks and travels away from them.",
		Dryly: "The wash is dry: wet it again until it shines. Then let drops of clean water fall on it.",
	},
	{
		Kind: Spritz, When: WhileWet, Tool: CleanWater, With: "spray bottle", Rarely: true, Act: Strews, Lies: AsWash,
		Laid: 0, Left: 0, Share: 0.15, Slow: 1,
		Runs: Even, Thin: 1, Takes: Taking{0.5, 0.1}, Trace: Drops, Drop: 0.25,
		How:   "As the shine goes dull, one or two puffs of clean water from a hand's breadth away; then leave it.",
		Dryly: "The wash is dry: wet it again and wait until the shine goes dull. Then one or two puffs of clean water from a hand's breadth away.",
	},
	{
		Kind: Salt, When: WhileWet, Tool: CleanWater, With: "salt", Rarely: true, Act: Strews, Lies: AsWash,
		Laid: 0, Left: 0, Share: 0.12, Slow: 1,
		Runs: Even, Thin: 1, Takes: Taking{0.3, 0.12}, Trace: Drops, Drop: 0.5,
		How:   "As the shine goes dull, strew a few grains on it; brush them off once all is bone dry.",
		Dryly: "The wash is dry: wet it again and wait until the shine goes dull. Then strew a few grains on it; brush them off once all is bone dry.",
	},
	{
		Kind: DryBrush, Name: "dry brush", When: OnceDry, Tool: PaintedBrush, Act: Washes, Lies: AsWash,
		Laid: drying.DampBrush, Left: drying.DampLeft, Share: 1, Slow: 1,
		Runs: Even, Thin: 1, Hollows: 0.3, Trace: Skips,
		How: "Blot the brush until it is nearly dry, and skim the paper so that its hollows stay white.",
	},
	{
		Kind: Splatter, When: OnceDry, Tool: PaintedBrush, Act: Splatters, Lies: AsDrops,
		Laid: drying.PulledOut, Left: drying.PulledOut, Share: 0.1, Slow: 1,
		Runs: Even, Thin: 1, Trace: Drops, Drop: 0.35,
		How: "Cover what must stay clean, load a brush, and tap it over a finger.",
	},
	{
		Kind: DropsLifted, Name: "lifted drops", When: OnceDry, Tool: CleanWater, With: "paper towel", Rarely: true, Act: Blots, Lies: AsWash,
		Laid: 0, Left: 0, Share: 0.12, Slow: 1,
		Runs: Even, Thin: 1, Takes: Taking{0.4, 0.15}, Trace: Drops, Drop: 0.8,
		How:   "Tap drops of clean water on the dry paint, count to twenty, and dab them off: pale spots stay. Paint that stains takes longer.",
		Dryly: "Tap drops of clean water on the dry paint, count to twenty, and dab them off: pale spots stay. Paint that stains takes longer.",
	},
	{
		Kind: LostEdge, Name: "lost edge", When: OnceDry, Tool: CleanWater, Rarely: true, Act: Wets, Lies: AsWash,
		Laid: drying.PulledOut, Left: drying.DampLeft, Share: 0.2, Slow: drawnOut,
		Runs: Out, Thin: 1, Takes: Taking{0.35, 0.12},
		How:   "With a clean damp brush rub its edge into what lies beside it, here and there, until it is lost; dab it.",
		Dryly: "With a clean damp brush rub its edge into what lies beside it, here and there, until it is lost; dab it.",
	},
	{
		Kind: Sponge, When: OnceDry, Tool: PaintedBrush, With: "sponge", Rarely: true, Act: Washes, Lies: AsDrops,
		Laid: drying.DampBrush, Left: drying.DampLeft, Share: 0.4, Slow: 1,
		Runs: Even, Thin: 1, Trace: Patches,
		How: "Dab the paint on with a sponge that was wrung out, turning it each time.",
	},
	{
		Kind: Stipple, When: OnceDry, Tool: PaintedBrush, Fine: true, Rarely: true, Act: Details, Lies: AsDrops,
		Laid: drying.DampBrush, Left: drying.DampLeft, Share: 0.15, Slow: drawnOut,
		Runs: Even, Thin: 1, Trace: Drops, Drop: 0.2,
		How: "Dots with the tip of the brush held upright, close together where it is to be dark.",
	},
	{
		Kind: Highlight, When: OnceDry, Tool: PaintedBrush, Fine: true, Act: Details, Lies: AsOpaque,
		Laid: drying.DampBrush, Left: drying.DampLeft, Share: 0.05, Slow: 1,
		Runs: Even, Thin: 1, Trace: Dabs,
		Starts: Start{pigment.OpaqueWhite, pigment.Cream},
		How:    "With the tip of a small brush, thick and only where light falls; it sinks as it dries, so look again before a second dab.",
	},
	{
		Kind: PenLine, Name: "pen line", When: OnceDry, Tool: DrawnLine, With: "waterproof pen", Act: Details, Lies: AsPen,
		Laid: 0, Left: 0, Share: 0.1, Slow: 1,
		Runs: Even, Thin: 1, Trace: Strokes,
		Starts: Start{"PBk7", pigment.Milk},
		How:    "Draw over the dry paint with a waterproof pen, lifting it often so that the nib does not scratch paper up.",
	},
	{
		Kind: WhitePen, Name: "white pen", When: OnceDry, Tool: DrawnLine, With: "white gel pen", Rarely: true, Act: Details, Lies: AsPen,
		Laid: 0, Left: 0, Share: 0.1, Slow: 1,
		Runs: Even, Thin: 1, Trace: Strokes,
		Starts: Start{pigment.OpaqueWhite, pigment.Cream},
		How:    "With a white pen, slowly, so that its ink flows; let it dry before a second line over it.",
	},
	{
		Kind: MarkerLine, Name: "marker line", When: AnyTime, Tool: DrawnLine, With: "water-based marker", Rarely: true, Act: Details, Lies: AsCrayon,
		Laid: 0, Left: 0, Share: 0.1, Slow: 1,
		Runs: Even, Thin: 1, Trace: Strokes,
		Starts: Start{"PBk7", pigment.Milk},
		How:    "Draw on dry paper; its ink stays reactive, so that a wet brush draws it out.",
	},
	{
		Kind: Pencil, When: OnceDry, Tool: DrawnLine, With: "coloured pencil", Act: Details, Lies: AsPencil,
		Laid: 0, Left: 0, Share: 1, Slow: 1,
		Runs: Even, Thin: 1, Hollows: 0.45, Trace: Skips,
		How: "Skim the dry paint with the side of the lead, so that the paper's grain shows.",
	},
	{
		Kind: Shimmer, When: OnceDry, Tool: PaintedBrush, Act: Washes, Lies: AsOpaque,
		Laid: drying.PulledOut, Left: drying.PulledOut, Share: 1, Slow: 1,
		Runs: Even, Thin: 1, Hollows: 0.4, Trace: Glints, // flakes of mica lie apart
		How: "Stir it up often, for the mica sinks; lay it thinly and look at it aslant.",
	},
	{
		Kind: WhiteVeil, Name: "white veil", When: OnceDry, Tool: PaintedBrush, Rarely: true, Act: Washes, Lies: AsOpaque,
		Laid: drying.DampBrush, Left: drying.DampLeft, Share: 1, Slow: 1,
		Runs: Even, Thin: 1, Hollows: 0.15, Trace: Skips,
		Starts: Start{pigment.OpaqueWhite, pigment.Tea},
		How:    "Opaque white, thinned, in one pass over dry paint: mist, or what lies far off. Do not go back into it.",
	},
	{
		Kind: InkRubbed, Name: "rubbed ink", When: OnceDry, Tool: DrawnLine, With: "ink pad and cloth", Rarely: true, Act: Washes, Lies: AsRubbed,
		Laid: 0, Left: 0, Share: 1, Slow: twice,
		Runs: In, Thin: 0.15, Hollows: 0.3, Trace: Skips,
		Starts: Start{"PBr7", pigment.Tea},
		How:    "Rub a little ink on with a cloth or a sponge, dry, from outside the edge inwards in small circles.",
	},
}
