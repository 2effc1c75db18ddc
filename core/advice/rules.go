package advice

// needs is what a rule keeps still without.
type needs uint8

const (
	theCells needs = 1 << iota // of the line
	thePlan                    // as compiled
)

// A Rule is one thing the program looks out for.
type Rule struct {
	ID      string
	Station Station
	Says    string // what it looks out for
	Reason  string // why that matters
	needs   needs
	find    func(Facts) []Watch
}

// Rules lists every rule, station by station. Each stands on the cases of its row in
// cases_test.go.
func Rules() []Rule {
	return []Rule{
		{"no-envelope", Format, "The card goes into no standard envelope.", "Found at the end, this costs the card or a hand-made envelope.", 0, noEnvelope},
		{"wrong-envelope", Format, "The card does not go into the envelope at hand.", "An envelope has to go round it, and is no wider than it is.", 0, wrongEnvelope},
		{"thick-for-envelope", Format, "Mounted as it is, the card is too thick for the envelope of its size.", "Thickness at the edge takes as much of an envelope as width does.", 0, thickForEnvelope},
		{"window-off", Format, "The window reaches over the edge of the painted sheet.", "There is no paper to cut the panel from.", 0, windowOff},
		{"frame-holds-nothing", Format, "What lies under a frame does not reach under its bars.", "A gap would show, and nothing holds it.", 0, frameHoldsNothing},
		{"tape-too-narrow", Format, "The tape cannot mask the border and hold.", "Some of it has to lie on the board.", 0, tapeTooNarrow},
		{"no-room-for-words", Format, "There is no clear place for the words.", "Makers forget to leave room for the sentiment.", theCells, noRoomForWords},
		{"die-differs", Format, "The nearest die cuts another size than was given, or overhangs.", "What shows round it is then not what was meant.", 0, dieDiffers},
		{"overhangs", Format, "A layer overhangs what it lies on.", "It has to be trimmed flush once it is mounted.", 0, overhangs},
		{"post", Format, "The card is square or thick.", "Post has rules of its own for those, which differ by country.", 0, postRules},
		{"edge-white", Format, "A dark figure is cut out and popped up, its edge left white.", "The white of the paper shows at its edge, seen from the side.", 0, edgeWhite},
		{"piece-hides", Format, "A piece lies on what the card is about.", "What was painted to be seen is hidden.", theCells, pieceHides},
		{"thin-paper-bleeds", Line, "Ink goes through paper of which both sides are seen.", "It shows on the other side.", 0, thinPaperBleeds},
		{"media-fight", Line, "One image is put on with an ink that runs, and washed over.", "It runs while the rest of the line holds.", theCells, mediaFight},
		{"image-under-tape", Line, "Tape lies on what is printed.", "The line ends there as if it were cut, and tape may lift the ink.", theCells, imageUnderTape},
		{"stamped-under-piece", Line, "An image is put where a piece will lie.", "Nobody sees it.", theCells, stampedUnderPiece},
		{"words-overhang", Line, "Words reach over the edge of their piece.", "What lies outside is cut off.", 0, wordsOverhang},
		{"words-lost", Line, "Dark words stand on dark paint.", "They are hardly read there.", theCells, wordsLost},
		{"words-on-line", Line, "Words stand on the drawing.", "They are hard to read there, and hide what the card is about.", theCells, wordsOnLine},
		{"ink-will-run", Line, "An ink that runs is chosen for a line that is to stay.", "Once it is stamped, every wash draws it out.", 0, inkWillRun},
		{"ink-runs", Line, "The line is not waterproof and will be washed over.", "It runs into the wash however long it has dried.", 0, inkRuns},
		{"flood-on-reactive", Line, "A whole wash goes over a line that is to be pulled.", "It takes the colour everywhere instead of where it is drawn.", theCells, floodOnReactive},
		{"gives-nothing", Colour, "Colour is to be drawn out of a line that gives none.", "Water draws nothing out of ink that holds.", theCells, givesNothing},
		{"line-tints", Colour, "A pale dye line shifts the colour that goes over it.", "It dissolves in the paint, as is wanted, and its colour with it.", theCells, lineTints},
		{"wash-on-pencil", Colour, "A wash goes over watercolour pencil.", "The pencil dissolves in it.", theCells, washOnPencil},
		{"coat-stops-short", Colour, "A coat ends in the middle of another, where no line is.", "Its edge dries hard and shows.", theCells, coatStopsShort},
		{"ink-never-cures", Line, "A slow pigment ink is stamped on paper that drinks nothing.", "It stays wet on the surface and smears.", 0, inkNeverCures},
		{"line-stays", Line, "The line is to be pulled, but its ink holds.", "Water draws nothing out of it.", 0, lineStays},
		{"solid-mottles", Line, "A solid is to be stamped on textured paper.", "The texture leaves white flecks in its mass.", 0, solidMottles},
		{"paper-too-weak", Line, "A full wash is planned on paper that does not stand it.", "It buckles, bleeds through and pills.", 0, paperTooWeak},
		{"paper-reworked", Line, "Wood-pulp paper is wetted again and again.", "It scrubs back to white or pills when it is reworked.", 0, paperReworked},
		{"line-breaks", Line, "Fine lines are stamped on rough paper.", "They break on its texture however often they are stamped.", theCells, lineBreaks},
		{"powder-fills", Line, "Very fine lines are embossed.", "Powder fills the gaps between them.", theCells, powderFills},
		{"line-overhangs", Line, "The image overhangs the paper.", "What lies outside is cut off.", theCells, lineOverhangs},
		{"image-off", Line, "An image lies wholly off the paper.", "Nothing of it is stamped.", theCells, imageOff},
		{"folder-small", Line, "An embossing folder is smaller than the paper.", "Its edge presses a line into it.", 0, folderSmall},
		{"relief-flattened", Line, "A relief is pressed before it is painted.", "Water flattens it.", 0, reliefFlattened},
		{"lost-cells", Line, "Cells of an area could not be found again.", "They would not be painted.", theCells, lostCells},
		{"mud-joined", Colour, "Areas that may run together make mud.", "The colours cancel each other out where they mix.", theCells, mudWhereJoined},
		{"mud-inside", Colour, "The colours of one area make mud with each other.", "What is dropped in, mixed in one pan or glazed over can cancel out as well as what meets across a line.", theCells, mudInside},
		{"mud-if-met", Colour, "Colours that make mud are parted by a raised line only.", "They may be wet at the same time; a bead that is too full goes over it.", theCells | thePlan, mudIfMet},
		{"melts-together", Colour, "Areas that touch are too close in value.", "In grey, or across the room, they cannot be told apart.", theCells, meltsTogether},
		{"like-petals-merge", Colour, "Cells painted alike touch under a line that will hardly show.", "Without a darker side they become one shape.", theCells, likePetalsMerge},
		{"nearly-alike", Colour, "Two areas nearly match, from different mixes.", "Seen side by side it looks like a slip.", theCells, nearlyAlike},
		{"muddy-stack", Colour, "Many pigments lie over each other.", "The more there are, the greyer they turn.", theCells, muddyStack},
		{"focal-weak", Colour, "What the card is about does not stand out most.", "The eye goes where contrast is strongest.", theCells, focalWeak},
		{"too-wet-for-cell", Colour, "A very wet wash is planned in a tiny cell.", "There is no room for so much water: it stands proud and runs over the line.", theCells, tooWetForCell},
		{"white-sinks", Colour, "Opaque white is planned too thin for what it lies on.", "It dries darker than it looks wet.", theCells, whiteSinks},
		{"stencil-wet", Colour, "A stencil is painted with a wet brush.", "Water creeps under its edges.", theCells, stencilWet},
		{"splatter-harmful", Colour, "A harmful pigment is to be splattered.", "Drops and mist get on skin and into the breath.", theCells, splatterHarmful},
		{"trace-unseen", Colour, "What is lifted, dabbed or drawn would hardly show.", "It is nearly the colour it lies on, or the paint stains and stays.", theCells, traceUnseen},
		{"leak", Colour, "Colour would run through a gap in the line.", "A very wet wash goes where there is a way.", theCells, leakBetweenColours},
		{"area-unpainted", Colour, "An area has no wash while the others have.", "It stays paper white, forgotten.", theCells, areaUnpainted},
		{"forgotten-cells", Colour, "A few cells inside the drawing belong to no area.", "An eye, a tail, the crab's last leg stays white.", theCells, forgottenCells},
		{"edge-closes", Masks, "A wash is so large that its edge dries before it is met.", "What has lost its sheen dries with a hard edge.", theCells | thePlan, edgeCloses},
		{"heat-on-fluid", Masks, "The heat tool may be used while masking fluid lies there.", "Heated latex bonds to the fibres and tears them.", theCells | thePlan, heatOnFluid},
		{"powder-near-fluid", Masks, "Powder is melted while fluid lies on the same piece.", "It clings to what is tacky, and its heat bonds fluid to the paper.", theCells | thePlan, powderNearFluid},
		{"mask-on-damp", Masks, "A mask is laid over paint that takes long to dry through.", "On damp paper it bonds to the fibres.", theCells | thePlan, maskOnDamp},
		{"fluid-tears", Masks, "Masking fluid is to lie on soft paper.", "It takes the fibres along as it comes off.", theCells, fluidTears},
		{"tape-tears", Masks, "Tape is to lie on painted paper.", "Wetted fibres hold less.", theCells, tapeTears},
		{"mask-too-fine", Masks, "What is kept is finer than its mask can be laid.", "It comes out coarser, or not at all.", theCells, maskTooFine},
		{"mask-forgotten", Masks, "Nothing is painted over a mask.", "It keeps nothing off, and is forgotten.", theCells | thePlan, maskForgotten},
		{"paper-under-wet", Masks, "Paper or a stencil is to keep a wet wash off.", "Water creeps under it.", theCells, paperUnderWet},
		{"white-lost", Masks, "White is counted on, and a wash goes over it.", "It needs a way to stay white.", theCells | thePlan, whiteLost},
		{"water-into-damp", Order, "What is to meet while wet cannot in time.", "Water that comes into a damp wash makes a bloom; it is planned the safe way.", theCells | thePlan, waterIntoDamp},
		{"held-too-weakly", Order, "Wet work is planned on a piece that is not held for it.", "It buckles, or the tape lets go and water creeps under it.", 0, heldTooWeakly},
		{"over-raised", Line, "Something is stamped over a raised line.", "The stamp rides on the line and prints only what lies flat.", theCells, overRaised},
		{"powder-on-damp", Order, "Something is embossed over paint that takes long to dry.", "Powder clings to whatever is damp.", theCells | thePlan, powderOnDamp},
		{"heat-on-gloss", Order, "The heat tool is aimed at a large wet wash.", "The sheet warps, and the wash blooms where the air pushes it.", theCells | thePlan, heatOnGloss},

		{"lets-go", Mount, "What holds a part of the card fails at it.", "It lifts, shows through, or keeps the card from closing.", 0, letsGo},
		{"held-ill", Mount, "Something else holds a part better than what was chosen.", "Corners lift on the way, or the card is thicker than it need be.", 0, heldIll},
		{"slot-open", Mount, "A part is slotted behind nothing.", "Glued at its stem only, it needs something over it.", 0, slotOpen},
		{"over-bars", Mount, "A part lies across the bars of a frame, and nothing lifts it over them.", "It bends there.", 0, overBars},
		{"off-card", Mount, "A part sticks out over the edge of the card.", "An envelope bends it.", 0, offCard},
		{"mouth-shut", Mount, "Something lies across the mouth of a pocket.", "Nothing can be put into it.", 0, mouthShut},
		{"same-place", Mount, "Several of a piece lie on each other.", "The upper one hides the others.", 0, samePlace},
	}
}
