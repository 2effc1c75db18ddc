package advice_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/pigment"
	"chromaqua/core/school"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// says puts words on the panel, so far below its middle, mm.
func (b *bench) says(text string, high, down float64) {
	size := b.PanelSize()
	b.AddAct(card.Handling{Kind: card.PutWords, Text: &card.Text{Text: text, By: card.TextStamped, Height: length.FromMM(high), X: size.W / 2, Y: size.H/2 + length.FromMM(down)}})
}

// night is a wash so strong over the upper part of the panel.
func (b *bench) night(s pigment.Strength) {
	id, err := b.AddZone(card.Zone{Shape: card.Above, Round: true, Points: []card.UV{{U: 0, V: 0.3}, {U: 1, V: 0.3}}}, b.PanelSize().W.MM())
	require.NoError(b.t, err)
	a, err := b.AreaByID(b.AddArea("Night"))
	require.NoError(b.t, err)
	a.Lies, a.Zones, a.Washes = true, []string{id}, []card.Wash{flat("PBk7", s)}
}

// violetLine is a pale violet dye that goes into the paint.
func (b *bench) violetLine() {
	b.Ink, b.Look = "dye", shelf.Vanishing
	b.OwnInk = &shelf.Own{Name: "sea lavender", What: shelf.OwnInk, Like: "dye", Colour: "PV23"}
}

// second lays a second coat on the upper part of the first cell.
func (b *bench) second(e card.ZoneEdge) {
	at := b.cell().Label
	wide := b.PanelSize().W.MM()
	id, err := b.AddZone(card.Zone{Shape: card.Above, Edge: e, Points: []card.UV{{U: 0, V: at.Y / wide}, {U: 1, V: at.Y / wide}}}, wide)
	require.NoError(b.t, err)
	a, err := b.AreaByID(b.AddArea("Shade"))
	require.NoError(b.t, err)
	a.Lies, a.Zones, a.Washes = true, []string{id}, []card.Wash{wash(technique.Glaze, pigment.Tea, "PB29")}
	a.Cells = b.Areas[0].Cells
}

// piece puts a piece on the card, and changes it.
func (b *bench) piece(k card.PieceKind, set func(*card.Piece)) *card.Piece {
	id, err := b.AddPiece(k)
	require.NoError(b.t, err)
	p, err := b.PieceByID(id)
	require.NoError(b.t, err)
	set(p)
	return p
}

// printed puts the grid on a piece too.
func (b *bench) printed(p *card.Piece) {
	m := *b.Line()
	m.ID = "i9"
	p.Images = append(p.Images, m)
}

// popped is a cut-out on foam, painted so strongly.
func (b *bench) popped(s pigment.Strength) {
	b.piece(card.CutOutPiece, func(p *card.Piece) {
		b.printed(p)
		p.Outline = &card.Outline{Image: "i9", Margin: mm}
		p.Areas = []card.Area{{ID: "a9", Name: "Fin", Cells: []card.Spot{{On: "i9", UV: card.UV{U: 0.3, V: 0.3}, MM2: 100}}, Washes: []card.Wash{flat("PBk7", s)}}}
	})
}

// overPaint embosses the grid over the first area, which is as wet as its technique.
func (b *bench) overPaint(t technique.Kind) {
	b.Line().Medium = &card.Medium{Ink: "embossed"}
	b.wash(0, 0).Technique = t
	require.NoError(b.t, b.Put("i1", card.Ref(b.Areas[0].ID), true))
}

// tag lies so far to the right of the panel's middle.
func (b *bench) tag(w, h, right length.Length) {
	b.piece(card.Tag, func(p *card.Piece) {
		p.Size, p.Place = length.Size{W: w, H: h}, &card.Place{On: card.ThePanel, At: card.At{X: right}}
	})
}

// strip lies on the panel so far from its middle, held so.
func (b *bench) strip(w, h, x, y length.Length, by joint.By) *card.Piece {
	b.piece(card.WordStrip, func(p *card.Piece) {
		p.Size, p.Place = length.Size{W: w, H: h}, &card.Place{On: card.ThePanel, At: card.At{X: x, Y: y}, By: by}
	})
	return &b.Pieces[len(b.Pieces)-1]
}

// framed puts a frame of cardstock over the panel.
func (b *bench) framed() { require.NoError(b.t, b.AddLayer(card.Frame)) }

// mountCases are the rules about what holds what.
var mountCases = []ruleCase{
	{
		"lets-go", advice.Stop, "Hold it by liquid glue",
		func(b *bench) {
			b.piece(card.DieCut, func(p *card.Piece) { p.Place.By = joint.Tape })
		},
		func(b *bench) {
			b.piece(card.DieCut, func(p *card.Piece) { p.Place.By = joint.Film })
		},
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"held-ill", advice.Mind, "Hold it by strong tape",
		func(b *bench) { b.Panel.By = joint.Tape },
		func(b *bench) { b.Panel.By = joint.FullFoam },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"slot-open", advice.Mind, "Hold it by thin tape",
		func(b *bench) { b.strip(60*mm, 16*mm, 0, 0, joint.Slot) },
		func(b *bench) { b.strip(60*mm, 16*mm, 0, 0, joint.Slot); b.strip(40*mm, 30*mm, 0, 0, joint.Strong) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"over-bars", advice.Mind, "Lift it on foam of 1 mm",
		func(b *bench) { b.framed(); b.strip(90*mm, 16*mm, 0, 0, joint.Tape) },
		func(b *bench) { b.framed(); b.strip(90*mm, 16*mm, 0, 0, joint.Foam) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"off-card", advice.Mind, "Put it in the middle",
		func(b *bench) { b.strip(40*mm, 16*mm, 40*mm, 0, joint.Tape) },
		func(b *bench) { b.strip(40*mm, 16*mm, 33*mm, 0, joint.Tape) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"mouth-shut", advice.Mind, "",
		func(b *bench) {
			b.strip(60*mm, 40*mm, 0, 0, joint.Pocket)
			b.strip(20*mm, 16*mm, 0, -20*mm, joint.Tape)
		},
		func(b *bench) { b.strip(60*mm, 40*mm, 0, 0, joint.Pocket); b.strip(20*mm, 16*mm, 0, 10*mm, joint.Tape) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"same-place", advice.Mind, "Spread them evenly",
		func(b *bench) {
			p := b.strip(30*mm, 16*mm, 0, 0, joint.Tape)
			p.Count, p.Place.More = 2, []card.At{p.Place.At}
		},
		func(b *bench) {
			p := b.strip(30*mm, 16*mm, 0, 0, joint.Tape)
			p.Count, p.Place.More = 2, []card.At{{X: 0, Y: 20 * mm}}
		},
		"wave strip, limpets on a mat, crab on foam",
	},
}

// workCases are the rules about pieces, inks, and what lies over what.
var workCases = []ruleCase{
	{
		"edge-white", advice.Mind, "Darken its edge",
		func(b *bench) { b.popped(pigment.Cream) },
		func(b *bench) { b.popped(pigment.WeakTea) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"piece-hides", advice.Mind, "",
		func(b *bench) { b.Areas[0].Focal = true; b.tag(30*mm, 30*mm, -10*mm) },
		func(b *bench) { b.Areas[0].Focal = true; b.tag(30*mm, 30*mm, 16*mm) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"thin-paper-bleeds", advice.Mind, "",
		func(b *bench) {
			b.piece(card.BasePiece, func(p *card.Piece) { p.Ink = "solvent"; b.printed(p) })
		},
		func(b *bench) {
			b.piece(card.BasePiece, func(p *card.Piece) { p.Ink = "pigment-quick"; b.printed(p) })
		},
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"media-fight", advice.Stop, "Put it on as the rest",
		func(b *bench) { b.Line().Medium = &card.Medium{Ink: "dye"} },
		func(b *bench) { b.Line().Medium = &card.Medium{Ink: "dye", Look: shelf.Pulled} },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"image-under-tape", advice.Mind, "Paint to the edge, without a masked border",
		func(b *bench) { b.Painting = card.Painting{Border: 32 * mm, Tape: 40 * mm} },
		func(b *bench) { b.Painting = card.Painting{Border: 20 * mm, Tape: 30 * mm} },
		"dusk on tape, limpets on a mat, crab on foam",
	},
	{
		"stamped-under-piece", advice.Note, "",
		func(b *bench) { b.tag(60*mm, 40*mm, 0) },
		func(b *bench) { b.tag(60*mm, 20*mm, 0) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"words-overhang", advice.Mind, "Make a line 20.5 mm high, in the middle",
		func(b *bench) { b.says("calm waters", 30, 0) },
		func(b *bench) { b.says("calm waters", 7, 15) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"words-on-line", advice.Note, "Put them where there is room",
		func(b *bench) { b.says("calm", 5, 0) },
		func(b *bench) { b.says("calm", 5, -60) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"words-lost", advice.Mind, "Put them where it is pale",
		func(b *bench) { b.night(pigment.Cream); b.says("calm", 5, -50) },
		func(b *bench) { b.night(pigment.WeakTea); b.says("calm", 5, -50) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"gives-nothing", advice.Mind, "Paint it, drawn out with water",
		func(b *bench) { b.Areas[0].Washes = []card.Wash{{Technique: technique.LinePull}} },
		func(b *bench) {
			b.Ink, b.Look = "dye", shelf.Pulled
			b.Areas[0].Washes = []card.Wash{{Technique: technique.LinePull}}
		},
		"pulled otter, petals in dye, crab on foam",
	},
	{
		"line-tints", advice.Mind, "Use pale vanishing ink",
		func(b *bench) {
			b.violetLine()
			b.Areas[0].Washes, b.cell().AreaMM2 = []card.Wash{flat("PY150", pigment.WeakTea)}, 100
		},
		func(b *bench) {
			b.violetLine()
			b.Areas[0].Washes = []card.Wash{flat("PY150", pigment.WeakTea)}
		},
		"petals in dye, pulled otter, crab on foam",
	},
	{
		"wash-on-pencil", advice.Mind, "Take a coloured pencil that holds",
		func(b *bench) {
			b.Areas[0].Washes = []card.Wash{wash(technique.WetPencil, pigment.Milk, "PB29"), flat("PV19", pigment.Tea)}
		},
		func(b *bench) {
			b.Areas[0].Washes = []card.Wash{wash(technique.WetPencil, pigment.Milk, "PB29"), {Technique: technique.PencilWetted}, flat("PV19", pigment.Tea)}
		},
		"pencilled shells, pulled otter, crab on foam",
	},
	{
		"coat-stops-short", advice.Note, "Draw its edge out with water",
		func(b *bench) { b.second(card.HardEdge) },
		func(b *bench) { b.second(card.SoftEdge) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"powder-on-damp", advice.Note, "",
		func(b *bench) { b.overPaint(technique.WetOnWet) },
		func(b *bench) { b.overPaint(technique.DryBrush) },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"held-too-weakly", advice.Mind, "Tape it with painter's tape",
		func(b *bench) { b.Hold = []card.Hold{{How: card.TapedDown, Tape: card.PaperTape}} },
		func(b *bench) { b.Hold = []card.Hold{{How: card.OnBlock}} },
		"wave strip, limpets on a mat, crab on foam",
	},
	{
		"over-raised", advice.Mind, "Stamp it before any paint",
		func(b *bench) { b.onceMore("pigment-quick") },
		func(b *bench) { b.Ink = "pigment-quick"; b.onceMore("embossed") },
		"wave strip, limpets on a mat, crab on foam",
	},
}

// again puts the grid over its own paint once more, in another ink.
func (b *bench) onceMore(ink string) {
	if b.Ink == "pigment-quick" && ink == "pigment-quick" {
		b.Ink = "embossed"
	}
	m := *b.Line()
	m.ID, m.Title, m.Medium = "i8", "Grid again", &card.Medium{Ink: ink}
	b.Images = append(b.Images, m)
	b.sheet.Laid = append(b.sheet.Laid, b.sheet.Laid[0])
	require.NoError(b.t, b.Put("i8", card.Ref(b.Areas[0].ID), true))
}

// Where the maker softens a second coat as a matter of course, nothing is told of its end.
func TestCoatsThatStopShortOnPurpose(t *testing.T) {
	b := good(t)
	b.second(card.HardEdge)
	assert.Contains(t, rules(b.watches()), "coat-stops-short")
	b.Schools.SecondCoat = school.WhereNeeded
	assert.NotContains(t, rules(b.watches()), "coat-stops-short")
}

// What is said of an ink counts where something is put on with it: the usual one of the
// piece, or an image's own.
func TestInksThatAreUsed(t *testing.T) {
	said := func(change func(*bench)) []string {
		b := good(t)
		change(b)
		return rules(b.watches())
	}
	assert.Contains(t, said(func(b *bench) { b.Ink = "dye"; b.Line().Medium = &card.Medium{Times: 1} }), "ink-runs")
	assert.NotContains(t, said(func(b *bench) { b.Ink = "dye"; b.Line().Medium = &card.Medium{Ink: "solvent"} }), "ink-runs", "nothing is put on with the dye")

	flooded := func(ink string) func(*bench) {
		return func(b *bench) {
			b.as(technique.PullOut)
			b.wash(0, 0).Technique, b.Line().Medium = technique.Flat, &card.Medium{Ink: ink, Look: shelf.Pulled}
		}
	}
	assert.Contains(t, said(flooded("dye")), "flood-on-reactive")
	assert.NotContains(t, said(flooded("solvent")), "flood-on-reactive", "it holds")
}
