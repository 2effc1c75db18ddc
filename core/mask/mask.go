// Package mask answers "what can keep paper white, and what does each way ask?": painting
// round it, over it, putting white on after, and the masks. It is one table with times and
// reasons; package reserve compares the ways on a card.
//
// Speeds and drying times are general figures; a maker's own mask, with the time it takes to
// dry, outranks them.
package mask

import (
	"slices"
	"time"
)

// Way is one way of keeping something white, or as pale as it is.
type Way string

// The ways: without a mask, and with one.
const (
	Round   Way = "round" // painted round; so it is when nothing is said
	Over    Way = "over"  // painted over: what comes on it hides that
	After   Way = "white after"
	Pen     Way = "mask pen"
	Fluid   Way = "fluid"
	Spatter Way = "fluid splatter"
	Tape    Way = "tape"
	Paper   Way = "paper"
	Film    Way = "film"
	Stencil Way = "stencil"
	Resist  Way = "clear embossing"
)

// Facts is what is known of a way.
type Facts struct {
	Way   Way
	Name  string // as it is asked for: "masking fluid"
	Words string // for a choice
	Lays  bool   // something lies on the paper meanwhile
	Wet   bool   // it stands a wet wash
	Heat  bool   // the heat tool may be used while it lies there
	Stays bool   // it is never taken off
	Once  bool   // it is lifted at once, while the paint is damp
	Soft  bool   // laid wet: it bonds to damp or soft paper, and takes ink that is not dry along

	Uses   Material // that it uses up
	Bought string   // what that is bought as, "" for its name

	Least float64 // mm, the smallest it can be cut or drawn
	Most  float64 // mm, from which on it is no longer worth it; 0 for none
	Dry   [2]time.Duration
	Lay   string // how it is laid
	Off   string // how it comes off
	Look  string // of the edge it leaves
	Care  string // a caution, "" for none
}

// Material is a kind of stuff that is used up.
type Material string

// The materials, and what they are counted in.
const (
	None   Material = ""
	Liquid Material = "liquid" // ml
	Strips Material = "strips" // cm of tape
	Sheets Material = "sheets" // cm²
	Melted Material = "melted" // impressions of clear ink and powder
	White  Material = "white"  // ml of opaque white
)

const latex = "Masking fluid: many contain natural latex and ammonia; open a window, and see its own safety sheet."

// table holds the ways in the order they are offered.
var table = []Facts{
	{Way: Round, Name: "painting round", Words: "paint round it", Wet: true, Heat: true, Least: 0.8,
		Look: "a soft, slightly uneven edge, as a brush leaves it"},
	{Way: Over, Name: "painting over", Words: "paint over it; what comes on it hides that", Wet: true, Heat: true,
		Look: "no edge at all: the wash goes on below it"},
	{Way: After, Name: "opaque white", Words: "put white on after", Uses: White, Wet: true, Heat: true, Least: 0.3, Most: 4,
		Look: "an opaque white that lies on the paint, chalky where it is large"},
	{Way: Pen, Name: "mask pen", Words: "mask pen", Lays: true, Uses: Liquid, Wet: true, Soft: true, Least: 0.5, Most: 6,
		Dry: [2]time.Duration{5 * time.Minute, 12 * time.Minute},
		Lay: "One dab a dot, and leave it; a second pass tears the skin.", Off: "Bone dry: roll it off with a clean finger or an eraser, and look that none is left.",
		Look: "bright dots of paper with a crisp, hard edge", Care: latex},
	{Way: Fluid, Name: "masking fluid", Words: "masking fluid", Lays: true, Uses: Liquid, Wet: true, Soft: true, Least: 0.8,
		Dry:  [2]time.Duration{8 * time.Minute, 15 * time.Minute},
		Lay:  "Dip an old brush in soap first, or use a fine tip; lay it thin, no beads, and wash the brush at once.",
		Off:  "Bone dry: roll it off with a clean finger or an eraser, and look that none is left. Soften a white that is too hard with a damp brush.",
		Look: "bright paper with a crisp, hard edge, brighter than paint left out", Care: latex},
	{Way: Spatter, Name: "splattered masking fluid", Words: "masking fluid, splattered", Lays: true, Uses: Liquid, Bought: "masking fluid", Wet: true, Soft: true, Least: 0.3, Most: 4,
		Dry: [2]time.Duration{5 * time.Minute, 10 * time.Minute},
		Lay: "Cover what is to stay clear, tap a soaped brush loaded with fluid over a finger; rub drops off the subject once they are dry.",
		Off: "Bone dry: roll them off with a clean finger, and look that none is left.", Look: "bright dots where they fell, each with a hard edge", Care: latex},
	{Way: Tape, Name: "tape", Words: "tape", Lays: true, Uses: Strips, Wet: true, Heat: true, Least: 15,
		Lay: "Press its edge down hard with a nail, from the middle outwards.", Off: "Bone dry: pull it slowly, flat along the paper and away from the paint.",
		Look: "a straight, hard edge"},
	{Way: Paper, Name: "paper cut-out", Words: "paper cut-out", Lays: true, Heat: true, Once: true, Least: 2,
		Lay: "Cut it at the line from thin paper, a little repositionable glue behind it; it may be used again.", Off: "Straight up, at once.",
		Look: "a clear edge, a little soft where paint crept under"},
	{Way: Film, Name: "adhesive film", Words: "adhesive film", Lays: true, Uses: Sheets, Wet: true, Heat: true, Least: 2,
		Lay: "Cut it at the line, by hand or by a machine; lay it and rub its edges down.", Off: "Bone dry: lift a corner with the blade’s tip and pull it flat.",
		Look: "a crisp, hard edge", Care: "Blades: cut away from the hand, guard on."},
	{Way: Stencil, Name: "stencil", Words: "stencil", Lays: true, Heat: true, Once: true, Least: 1,
		Lay: "Hold or tape it flat. Brush nearly dry, straight down; wipe it before it is laid again.", Off: "Straight up, while the paint is damp; wipe it.",
		Look: "soft shapes, as sharp as the brush is dry"},
	{Way: Resist, Name: "clear embossing", Words: "clear embossing, as a resist", Lays: true, Uses: Melted, Wet: true, Heat: true, Stays: true, Least: 0.4,
		Lay:  "Pouch, watermark ink, clear powder; brush stray grains off, then heat until it shines. It keeps what lies under it.",
		Look: "a raised, glossy shape that keeps the colour under it"},
}

// Ways lists them in the order they are offered.
func Ways() (out []Way) {
	for i := range table {
		out = append(out, table[i].Way)
	}
	return out
}

// Or is the way, painting round it when nothing is said.
func (w Way) Or() Way {
	if w == "" {
		return Round
	}
	return w
}

// Known reports whether it is a way.
func (w Way) Known() bool { return slices.Contains(Ways(), w.Or()) }

// Facts is the row of a way; that of painting round for one that is unknown.
func (w Way) Facts() *Facts {
	for i := range table {
		if table[i].Way == w {
			return &table[i]
		}
	}
	return &table[0]
}

// Words names a way for a choice.
func (w Way) Words() string { return w.Or().Facts().Words }

// Shape is what is to be kept: so many pieces together, mm and mm².
type Shape struct {
	Pieces   int
	MM2      float64
	EdgeMM   float64 // of all outlines
	Straight float64 // of that in straight runs
	Runs     int     // straight runs
	Widest   float64 // radius that fits into the widest of them
	Narrow   float64 // width of the narrowest
	Plain    bool    // its outline is simple to cut
}

// Speeds and times of laying masks, in seconds and mm.
const (
	dotTime    = 1.5
	fluidSoap  = 60.0
	fluidEdge  = 5.0   // mm/s
	fluidFill  = 150.0 // mm²/s
	fluidPiece = 2.0
	tapeEdge   = 20.0
	cutSpeed   = 2.5 // mm/s round a figure
	cutPlain   = 5.0
	cutPiece   = 10.0
	layPaper   = 20.0
	spatterAll = 75.0
	stencilLay = 30.0
	powderAll  = 200.0 // pouch, ink, powder, brush, heat
	rubPiece   = 1.0
	rubAll     = 20.0
	rubFill    = 150.0 // mm²/s
	pullEdge   = 5.0
)

// LeastTape is how long a straight run is for tape to be worth it, mm.
const LeastTape = 15.0

// Times are how long laying and taking off keep the hands, and how long it dries between by
// itself.
type Times struct{ Lay, Dry, Off time.Duration }

// How much of a material goes, on the safe side.
const (
	liquidThick = 0.2  // mm, as it is laid
	whiteThick  = 0.15 // mm, of two coats
	liquidTool  = 0.2  // ml that stays in a brush or a tip
	spatterML   = 0.5
	tapeOver    = 20.0 // mm beyond both ends of a run
	offcuts     = 1.5  // times what is kept
)

// Takes is how much of its material a way takes of a shape, in what that is counted in.
// An estimate by general figures.
func (w Way) Takes(s Shape) float64 {
	const perML, perCM2, perCM = 1000, 100, 10
	switch f := w.Facts(); {
	case w == Spatter:
		return spatterML
	case f.Uses == Liquid:
		return liquidTool + s.MM2*liquidThick/perML
	case f.Uses == White:
		return s.MM2 * whiteThick / perML
	case f.Uses == Strips:
		return (s.Straight + tapeOver*float64(max(1, s.Runs))) / perCM
	case f.Uses == Sheets:
		return s.MM2 * offcuts / perCM2
	case f.Uses == Melted:
		return 1
	}
	return 0
}

// Times returns what a way takes on a shape, apart from what painting takes longer or
// shorter for it.
func (w Way) Times(s Shape) Times {
	f, n := w.Facts(), float64(s.Pieces)
	second := func(v float64) time.Duration { return time.Duration(v * float64(time.Second)) }
	t := Times{}
	rub := second(rubAll + n*rubPiece + s.MM2/rubFill)
	switch w {
	case Pen:
		t.Lay, t.Off = second(dotTime*n+s.MM2/2.5), rub
	case Fluid:
		t.Lay, t.Off = second(fluidSoap+s.EdgeMM/fluidEdge+s.MM2/fluidFill+fluidPiece*n), rub
	case Spatter:
		t.Lay, t.Off = second(spatterAll), rub
	case Tape:
		t.Lay, t.Off = second(tapeEdge*float64(max(1, s.Runs))), second(pullEdge*float64(max(1, s.Runs)))
	case Paper, Film:
		speed := cutSpeed
		if s.Plain {
			speed = cutPlain
		}
		t.Lay, t.Off = second(layPaper+s.EdgeMM/speed+cutPiece*n), second(pullEdge*n)
	case Stencil:
		t.Lay, t.Off = second(stencilLay), second(stencilLay/2)
	case Resist:
		t.Lay = second(powderAll)
	}
	if f.Dry[1] > 0 { // a thin film dries sooner than a bead
		share := min(1, max(0, (s.Widest-1)/4))
		t.Dry = f.Dry[0] + time.Duration(share*float64(f.Dry[1]-f.Dry[0]))
	}
	return t
}
