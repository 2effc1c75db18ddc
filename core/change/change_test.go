package change_test

import (
	"fmt"
	"math"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/mount"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

const mm = length.Millimetre

func ptr[T any](v T) *T { return &v }

// painted is a card of two cells, each an area with a wash.
func painted(t testing.TB) (*card.Card, *panel.Sheet) {
	c, s := paneltest.Card(t, 2, 1)
	wash := card.Wash{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 1}}}
	paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, wash)
	paneltest.Area(t, c, s, "Right", [][2]int{{1, 0}}, wash)
	return c, s
}

// made makes changes on a card, each of which must be possible.
func made(t testing.TB, c *card.Card, s *panel.Sheet, changes ...change.Change) (*card.Card, change.Done) {
	var done change.Done
	for _, ch := range changes {
		var err error
		c, done, err = change.Try(ch, c, s)
		require.NoError(t, err, "%T", ch)
		assert.NotEmpty(t, done.Says, "%T", ch)
	}
	return c, done
}

// told are changes of the painted card, what the last of them says, and what then holds.
type told struct {
	changes []change.Change
	says    string
	holds   func(c *card.Card) bool
}

func each(t *testing.T, cases []told) {
	for _, tc := range cases {
		c, s := painted(t)
		got, done := made(t, c, s, tc.changes...)
		assert.Equal(t, tc.says, done.Says)
		assert.True(t, tc.holds(got), "%T %+v", tc.changes[len(tc.changes)-1], tc.changes)
	}
}

// Each change does what it says, and says what it did.
func TestChanges(t *testing.T) {
	each(t, []told{
		{[]change.Change{change.Name{Name: "Crab"}}, "renamed the card", func(c *card.Card) bool { return c.Name == "Crab" }},
		{[]change.Change{change.Notes{Notes: "a\r\nb"}}, "changed the notes", func(c *card.Card) bool { return c.Notes == "a\nb" }},
		{[]change.Change{change.Unit{Unit: "in"}}, "changed the ruler", func(c *card.Card) bool { return c.Unit == length.Inches }},
		{[]change.Change{change.Silence{Rule: "leak", On: true}}, "silenced a watch-out", func(c *card.Card) bool { return slices.Equal(c.Silenced, []string{"leak"}) }},
		{[]change.Change{change.Silence{Rule: "leak", On: true}, change.Silence{Rule: "leak"}}, "lets a watch-out speak again", func(c *card.Card) bool { return len(c.Silenced) == 0 }},

		{[]change.Change{change.Format{Format: "a7", Turned: ptr(true)}}, "changed the format", func(c *card.Card) bool { return c.Front() == length.Size{W: 7 * length.Inch, H: 5 * length.Inch} }},
		{[]change.Change{change.Format{Format: "a7", Turned: ptr(true)}, change.Format{Format: "a2"}}, "changed the format", func(c *card.Card) bool { return c.Front().W > c.Front().H }},
		{[]change.Change{change.Format{Format: card.Free}}, "gave the front a size of its own", func(c *card.Card) bool { return c.Base.Front == c.Front() }},
		{[]change.Change{change.Size{Ring: "panel", W: "80", H: "100"}, change.Format{Format: change.FollowFormat}}, "let the front follow", func(c *card.Card) bool { return c.Base.Front == length.Size{} && c.Front().W > 80*mm }},
		{[]change.Change{change.Fold{Fold: "top", Scored: "inside"}}, "changed the fold", func(c *card.Card) bool { return c.Base.Fold == "top" && c.Base.Inside }},
		{[]change.Change{change.Envelope{Envelope: "env-a6"}}, "chose the envelope", func(c *card.Card) bool { return c.Envelope.Inside.W == 104*length.Sixteenth }},
		{[]change.Change{change.Envelope{Envelope: card.Free, Inside: "150 x 120"}}, "chose the envelope", func(c *card.Card) bool { return c.Envelope.Inside == length.Size{W: 150 * mm, H: 120 * mm} }},
		{[]change.Change{change.Envelope{Envelope: card.Free}}, "chose the envelope", func(c *card.Card) bool { return c.Envelope.Inside == mount.EnvelopeNeeded(c) }},
		{[]change.Change{change.Envelope{Envelope: "env-a6"}, change.Envelope{}}, "took the envelope away", func(c *card.Card) bool { return c.Envelope == nil }},
		{[]change.Change{change.Envelope{Envelope: "env-a6"}, change.Envelope{Start: true}}, "let the card follow from its envelope", func(c *card.Card) bool { return c.Base.Front == length.Size{} }},
		{[]change.Change{change.Size{Ring: "panel", W: "60", H: ""}}, "gave the panel its size", func(c *card.Card) bool { return c.PanelSize().W == 60*mm && c.Panel.Size.H == 0 }},
		{[]change.Change{change.Size{Ring: "panel", W: "60", H: "80", Start: true}}, "let all follow from the panel", func(c *card.Card) bool { return c.Base.Front == length.Size{} && c.PanelSize().H == 80*mm }},
		{[]change.Change{change.Show{Ring: "panel", All: ptr(change.Typed("9"))}, change.Size{Ring: "panel", Follow: true}}, "let the panel follow", func(c *card.Card) bool { return c.Panel.Margin.Left == nil }},
		{[]change.Change{change.Show{Ring: "panel", All: ptr(change.Typed("9"))}}, "changed what shows round the panel", func(c *card.Card) bool { return *c.Panel.Margin.Top == 9*mm }},
		{[]change.Change{change.Show{Ring: "panel", Left: "4", Right: "5", Top: "6", Bottom: "7"}}, "changed what shows round the panel", func(c *card.Card) bool {
			m := c.Panel.Margin
			return *m.Left == 4*mm && *m.Right == 5*mm && *m.Top == 6*mm && *m.Bottom == 7*mm
		}},
		{[]change.Change{change.Drag{Ring: "layer-0", Side: "left", Marks: -2, All: true}}, "moved an edge of the mat", func(c *card.Card) bool { return (c.LayerSize(0).W-100*mm).MM() < 0.1 && c.LayerSize(0).W < 101*mm }},
		{[]change.Change{change.AddLayer{Kind: card.Frame}}, "added a frame", func(c *card.Card) bool { return len(c.Layers) == 2 && c.Layers[1].Kind == card.Frame }},
		{[]change.Change{change.AddLayer{Kind: card.Mat}, change.RemoveLayer{Layer: 1}}, "took the mat 2 off", func(c *card.Card) bool { return len(c.Layers) == 1 }},
		{[]change.Change{change.Layer{Layer: "0", Paper: "kraft", Colour: "brown"}}, "changed the mat", func(c *card.Card) bool {
			return c.Layers[0].Paper == "kraft" && c.Layers[0].Colour == "brown"
		}},
		{[]change.Change{change.Held{Part: card.PanelRing, By: joint.FullFoam, High: "2"}}, "holds the panel by foam", func(c *card.Card) bool { return c.Panel.By == joint.FullFoam && c.Panel.High == 2*mm }},
		{[]change.Change{change.Die{Ring: "layer-0", Set: &card.DieSet{Name: "nest", Edge: card.Plain, Sizes: []length.Size{{W: 99 * mm, H: 130 * mm}}}}}, "cut the mat with nest", func(c *card.Card) bool { return c.LayerSize(0).W == 99*mm }},
		{[]change.Change{change.Stamp{Stamp: "image"}}, "made the panel round its image", func(c *card.Card) bool { return *c.Stamp == card.Stamp{} }},
		{[]change.Change{change.Stamp{Stamp: "size", Size: "40 x 50"}}, "made the panel round a stamp", func(c *card.Card) bool { return c.Stamp.Size.H == 50*mm }},
		{[]change.Change{change.Stamp{Stamp: "image"}, change.Stamp{}}, "took the stamp's size away", func(c *card.Card) bool { return c.Stamp == nil }},
		{[]change.Change{change.PanelAlone{}}, "let the panel cover the front", func(c *card.Card) bool {
			return len(c.Layers) == 0 && c.Front() == c.PanelSize() && c.Front() == length.Size{W: 96 * mm, H: 255 * mm / 2}
		}},
		{[]change.Change{change.Insert{On: true}}, "changed the insert", func(c *card.Card) bool { return *c.Insert == card.UsualInsert() }},
		{[]change.Change{change.Insert{On: true, Margin: ptr(change.Typed("4")), Paper: "kraft", Colour: "sand"}}, "changed the insert", func(c *card.Card) bool {
			return *c.Insert == card.Insert{Margin: 4 * mm, Paper: "kraft", Colour: "sand"}
		}},
		{[]change.Change{change.Insert{On: true}, change.Insert{}}, "took the insert out", func(c *card.Card) bool { return c.Insert == nil }},
		{[]change.Change{change.Extra{Extra: "3"}}, "changed the embellishments", func(c *card.Card) bool { return c.Extra == 3*mm }},
		{[]change.Change{change.Painting{Border: "2", Tape: "25.4", Spare: "5"}}, "changed the taping", func(c *card.Card) bool {
			return c.Painting == card.Painting{Border: 2 * mm, Tape: length.Inch, Spare: 5 * mm}
		}},
		{[]change.Change{change.Words{Words: "30 x 6"}}, "looks for room for words", func(c *card.Card) bool { return c.Words == length.Size{W: 30 * mm, H: 6 * mm} }},
		{[]change.Change{change.Words{Words: "30 x 6"}, change.Words{}}, "looks for no words", func(c *card.Card) bool { return c.Words == length.Size{} }},

		{[]change.Change{change.UseInk("dye")}, "changed paper or ink", func(c *card.Card) bool { return c.Ink == "dye" && c.OwnInk == nil }},
		{[]change.Change{change.Materials{Paper: &change.Material{Own: &shelf.Own{What: shelf.OwnPaper, Name: "Pad", Like: "kraft"}}}}, "changed paper or ink", func(c *card.Card) bool { return c.Paper == "kraft" && c.OwnPaper.Name == "Pad" }},
		{[]change.Change{change.Materials{BasePaper: ptr("kraft"), BaseColour: ptr("sand")}}, "changed paper or ink", func(c *card.Card) bool { return c.Base.Paper == "kraft" && c.Base.Colour == "sand" }},
		{[]change.Change{change.Look{Look: shelf.Soft}}, "wants a soft line", func(c *card.Card) bool { return c.Look == shelf.Soft }},
		{[]change.Change{change.Place{Width: "30", X: "5", Y: "6", Turn: ptr(change.Angle("12,5°"))}}, "placed Grid", func(c *card.Card) bool {
			m := c.Line()
			return m.Width == 30*mm && m.X == 5*mm && m.Y == 6*mm && m.Turn == 12.5
		}},
		{[]change.Change{change.Place{Width: "30", X: "5", Y: "6"}, change.Shift{DX: "2 mm", DY: "-1 mm"}}, "moved Grid", func(c *card.Card) bool { return c.Line().X == 7*mm && c.Line().Y == 5*mm }},
		{[]change.Change{change.Turn{By: "190"}}, "turned Grid", func(c *card.Card) bool { return c.Line().Turn == -170 }},
		{[]change.Change{change.Mirror{}}, "mirrored Grid", func(c *card.Card) bool { return c.Line().Mirror }},
		{[]change.Change{change.Repeat{Copies: 2, Right: "10", Turned: "5"}}, "repeated Grid", func(c *card.Card) bool {
			return len(c.Images) == 3 && c.Images[2].Turn == 10 && c.Images[2].X-c.Images[0].X == 20*mm
		}},
		{[]change.Change{change.Repeat{Copies: 1}, change.Bring{Picked: "i2", N: 1}}, "changed what lies in front: Grid", func(c *card.Card) bool { return c.Line().ID == "i2" }},
		{[]change.Change{change.Repeat{Copies: 1}, change.TakeAway{Picked: "i2"}}, "took Grid away", func(c *card.Card) bool { return len(c.Images) == 1 }},
		{[]change.Change{change.ImageKind{Kind: shelf.SolidImage}}, "says how it is made: Grid", func(c *card.Card) bool { return c.Has(shelf.SolidImage) }},
		{[]change.Change{change.Ghost{Ghost: 2}}, "says how often it is stamped off: Grid", func(c *card.Card) bool { return c.Line().Ghost == 2 }},
		{[]change.Change{change.Bare{Points: "10 x 10; 20 x 10; 20 x 20"}}, "keeps ink off a part of Grid", func(c *card.Card) bool { return len(c.Line().Marks) == 1 && c.Line().Marks[0].Kind == card.Bare }},
		{[]change.Change{change.Relief{Relief: card.Twice}}, "says when the relief is pressed", func(c *card.Card) bool { return c.Relief == card.Twice }},
		{[]change.Change{change.Measure{Now: "10", Really: "20"}}, "measured the image", func(c *card.Card) bool { return c.Line().Width > 80*mm }},
		{[]change.Change{change.JoinCells{Cells: "2, 3"}}, "made 2 cells one", func(c *card.Card) bool { return c.Line().Marks[0].Kind == card.Join }},
		{[]change.Change{change.Stroke{Points: "10 x 10; 20 x 20"}}, "drew with the pen", func(c *card.Card) bool { return c.Line().Marks[0].Kind == card.Pen }},
		{[]change.Change{change.Stroke{Points: "10 x 10; 20 x 20"}, change.RemoveMark{Mark: "0"}}, "took a correction back", func(c *card.Card) bool { return len(c.Line().Marks) == 0 }},
		{[]change.Change{change.Stroke{Points: "10 x 10; 20 x 20"}, change.RemoveMark{Mark: change.AllMarks}}, "took all corrections back", func(c *card.Card) bool { return len(c.Line().Marks) == 0 }},
		{[]change.Change{change.Specks{Specks: "1,5 mm"}}, "forgets small cells", func(c *card.Card) bool { return math.Abs(c.Specks-2.25) < 0.01 }},
		{[]change.Change{change.Specks{Specks: "2"}, change.Specks{}}, "forgets no specks", func(c *card.Card) bool { return c.Specks == 0 }},
		{[]change.Change{change.Free{Cells: "2-3"}, change.KeepWhite{Cells: "2"}}, "keeps 1 cell white", func(c *card.Card) bool { return c.Areas[2].White && len(c.Areas[2].Cells) == 1 }},
		{[]change.Change{change.KeepWhite{Cells: "2"}, change.PaintWhite{Area: "a3"}}, "lets Paper white be painted", func(c *card.Card) bool { return !c.Areas[2].White }},

		{[]change.Change{change.NewArea{Cells: "3", Name: "Shell", Take: true}}, "gathered 1 cell into a new area", func(c *card.Card) bool { return c.Areas[2].Name == "Shell" && len(c.Areas[0].Cells) == 0 }},
		{[]change.Change{change.Free{Cells: "2"}, change.NewArea{Cells: "2-3", Name: "Shell"}}, "gathered 1 cell into a new area; 1 stays in Left", func(c *card.Card) bool { return len(c.Areas[2].Cells) == 1 }},
		{[]change.Change{change.Gather{Area: "a1", Cells: "2, 3", Take: true}}, "gave 2 cells to Left", func(c *card.Card) bool { return len(c.Areas[0].Cells) == 2 }},
		{[]change.Change{change.Gather{Area: "a2", Cells: "2, 3"}}, "gave 1 cell to Right; 1 stays in Left", func(c *card.Card) bool { return len(c.Areas[0].Cells) == 1 }},
		{[]change.Change{change.Free{Cells: "2-3"}, change.NewAreas{Groups: "2; 3"}}, "gathered cells that look alike into 2 areas", func(c *card.Card) bool {
			return len(c.Areas) == 4 && len(c.Areas[2].Cells) == 1 && len(c.Areas[3].Cells) == 1
		}},
		{[]change.Change{change.Dip{Area: "a1", Wash: 1, CI: "PV19", Parts: 2}}, "Left: rose", func(c *card.Card) bool {
			w := c.Areas[0].Washes[1]
			return w.Technique == technique.Glaze && w.Mix[0] == card.Part{CI: "PV19", Parts: 2} && len(w.Mix) == 1
		}},
		{[]change.Change{change.Free{Cells: "2"}}, "freed 1 cell", func(c *card.Card) bool { return len(c.Areas[0].Cells)+len(c.Areas[1].Cells) == 1 }},
		{[]change.Change{change.NameArea{Area: "a1", Name: "Claw"}}, "renamed an area", func(c *card.Card) bool { return c.Areas[0].Name == "Claw" }},
		{[]change.Change{change.RemoveArea{Area: "a1"}}, "removed Left", func(c *card.Card) bool { return len(c.Areas) == 1 }},
		{[]change.Change{change.Focal{Area: "a1", Focal: true}}, "changed what Left is", func(c *card.Card) bool { return c.Areas[0].Focal }},
		{[]change.Change{change.Grey{Area: "a1", Grey: true}}, "means Left to be grey", func(c *card.Card) bool { return c.Areas[0].Grey }},
		{[]change.Change{change.Grey{Area: "a1", Grey: true}, change.Grey{Area: "a1"}}, "means Left to be no grey", func(c *card.Card) bool { return !c.Areas[0].Grey }},
		{[]change.Change{change.Meet{Area: "a1", Meet: change.Loosely}}, "paints Left loosely", func(c *card.Card) bool { return c.Areas[0].Loose && !c.Areas[0].Run }},
		{[]change.Change{change.Meet{Area: "a1", Meet: change.RunInto}}, "lets the cells of Left run together", func(c *card.Card) bool { return c.Areas[0].Run && !c.Areas[0].Loose }},
		{[]change.Change{change.Meet{Area: "a1", Meet: change.RunInto}, change.Meet{Area: "a1", Meet: change.InRounds}}, "paints Left in rounds", func(c *card.Card) bool { return !c.Areas[0].Run && !c.Areas[0].Loose }},
		{[]change.Change{change.Join{A: "a1", B: "a2", On: true}}, "let Left and Right run together", func(c *card.Card) bool { return c.Joined("a2", "a1") }},
		{[]change.Change{change.Join{A: "a1", B: "a2", On: true}, change.Join{A: "a2", B: "a1"}}, "kept Right and Left apart", func(c *card.Card) bool { return len(c.Joins) == 0 }},
		{[]change.Change{change.AddWash{Area: "a1"}}, "added a wash to Left", func(c *card.Card) bool { return c.Areas[0].Washes[1].Technique == technique.Glaze }},
		{[]change.Change{change.AddWash{Area: "a1"}, change.MoveWash{Area: "a1", Wash: 0, Way: change.Later}, change.RemoveWash{Area: "a1", Wash: 1}}, "removed a wash of Left", func(c *card.Card) bool {
			return len(c.Areas[0].Washes) == 1 && c.Areas[0].Washes[0].Technique == technique.Glaze
		}},
		{[]change.Change{change.LayAs{Area: "a1", Technique: technique.Halo}}, "Left: halo", func(c *card.Card) bool { return c.Areas[0].Washes[0].Technique == technique.Halo }},
		{[]change.Change{change.LayAs{Area: "a1", Technique: technique.WetOnWet}, change.Over{Area: "a1", Over: change.OverDry}}, "Left: wet-on-wet over dry", func(c *card.Card) bool { return c.Areas[0].Washes[0].OverDry }},
		{[]change.Change{change.LayAs{Area: "a1", Technique: technique.Splatter}, change.DrawAgain{Area: "a1"}}, "Left: drew the splatter again", func(c *card.Card) bool { return c.Areas[0].Washes[0].Draw == 1 }},
		{[]change.Change{change.Pull{Area: "a1"}}, "Left: colour drawn out of the line", func(c *card.Card) bool { return c.Areas[0].Washes[1].Technique == technique.LinePull }},
		{[]change.Change{change.Over{Area: "a1", Over: "wet"}}, "Left: flat into the wet", func(c *card.Card) bool { return !c.Areas[0].Washes[0].OverDry }},
		{[]change.Change{change.Strength{Area: "a1", Strength: pigment.Cream}}, "Left: cream", func(c *card.Card) bool { return c.Areas[0].Washes[0].Strength == pigment.Cream }},
		{[]change.Change{change.Dip{Area: "a1", CI: "PV19", Parts: 2}}, "Left: ultramarine + rose 1:2", func(c *card.Card) bool { return c.Areas[0].Washes[0].Mix[1].Parts == 2 }},
		{[]change.Change{change.Recipe{Area: "a1", Mix: "PY3*2 PG7*1", Strength: pigment.Milk}}, "Left: lemon yellow + phthalo green 2:1, milk", func(c *card.Card) bool { return c.Areas[0].Washes[0].Mix[0].CI == "PY3" }},
		{[]change.Change{change.Strength{Area: "a1", Strength: pigment.Cream}, change.SameWashes{Area: "a2", As: "a1"}}, "painted Right as Left", func(c *card.Card) bool { return c.Areas[1].Washes[0].Strength == pigment.Cream }},
		{[]change.Change{change.Strength{Area: "a1", Strength: pigment.Cream}, change.PaintAlike{Area: "a1", To: "a2"}}, "painted Right as Left", func(c *card.Card) bool { return c.Areas[1].Washes[0].Strength == pigment.Cream }},
		{[]change.Change{change.Wanted{Hex: "#102030", Name: "night"}}, "keeps a wanted colour", func(c *card.Card) bool { return c.Wanted[0].Name == "night" }},
		{[]change.Change{change.Palette{Colours: []pigment.Swatch{{Hex: "#102030"}, {Hex: "#405060"}}}}, "keeps 2 wanted colours", func(c *card.Card) bool { return len(c.Wanted) == 2 }},
		{[]change.Change{change.Wanted{Hex: "#102030"}, change.Wanted{}}, "forgot the wanted colours", func(c *card.Card) bool { return c.Wanted == nil }},
		{[]change.Change{change.PaintMeasured{Paints: []card.Measured{{CI: "PB29", Name: "mine"}}}}, "paints with 1 measured paint", func(c *card.Card) bool { return c.Measured[0].Name == "mine" }},
		{[]change.Change{change.PaintMeasured{Paints: []card.Measured{{CI: "PB29", Name: "mine"}}}, change.PaintGeneric{}}, "paints with generic pigments", func(c *card.Card) bool { return c.Measured == nil }},
		{[]change.Change{change.Copies{Copies: 6}}, "mixes for 6 cards", func(c *card.Card) bool { return c.Copies == 6 }},
		{[]change.Change{change.Drying{Drying: card.Heat, Celsius: 25, Humidity: 40, Copies: ptr(3)}}, "changed drying, room or cards", func(c *card.Card) bool {
			return c.Drying == card.Heat && c.Room.Celsius == 25 && c.Room.Humidity == 0.4 && c.Copies == 3
		}},
	})
}

// A dark that is let go near a border snaps to it; in the middle it stays, and beyond the cell
// it comes back.
func TestDarkSnapsToABorder(t *testing.T) {
	c, s := painted(t)
	b := panel.Resolve(c, s)
	id := b.Areas[0].Cells[0]
	cell := b.Cells[id-1]
	at := func(x, y float64) lineart.Point {
		got, _ := made(t, c, s, change.DarkTo{Cell: id, X: x, Y: y})
		d := got.Shadows.Darks[0]
		return panel.Resolve(got, s).PlaceOf(d.Cell.On, d.At)
	}
	mid, wide := cell.Label, cell.InscribedMM
	middle := at(mid.X-0.1*wide, mid.Y)
	assert.InDelta(t, mid.X-0.1*wide, middle.X, 0.05)
	assert.InDelta(t, mid.Y, middle.Y, 0.05)
	border := mid.X
	for b.At(lineart.Point{X: border, Y: mid.Y}) == id {
		border -= 0.1
	}
	for _, x := range []float64{border + 0.2*wide, border - 0.5} {
		near := at(x, mid.Y)
		assert.Equal(t, id, b.At(near), "it is in the cell")
		assert.NotEqual(t, id, b.At(lineart.Point{X: near.X - 0.3, Y: near.Y}), "and at its border")
	}
}

// What cannot be done says why and leaves the card as it is.
func TestChangesThatCannotBe(t *testing.T) {
	for why, ch := range map[string]change.Change{
		"give the card a name": change.Name{Name: " "}, "no format": change.Format{Format: "a99"}, "no fold": change.Fold{Fold: "round"},
		"inside of the envelope": change.Envelope{Envelope: card.Free, Inside: "wide"}, "no envelope \"x\"": change.Envelope{Envelope: "x"}, "choose the envelope first": change.Envelope{Start: true},
		"that layer is gone": change.Size{Ring: "layer-9"}, "width of the panel": change.Size{Ring: "panel", W: "wide"}, "size of the panel": change.Size{Ring: "panel", W: "1", Start: true},
		"what shows round the panel": change.Show{Ring: "panel", Left: "far"}, "whole marks": change.Drag{Ring: "panel", Side: "left", Marks: 1 << 40}, "is no side": change.Drag{Ring: "panel", Side: "up", Marks: 1},
		"no paper \"x\"": change.Layer{Layer: "0", Paper: "x"}, "that layer is gone:": change.Layer{Layer: "7"}, "that layer is": change.RemoveLayer{Layer: -1},
		"size of the stamp": change.Stamp{Stamp: "size", Size: "big"}, "margin of the insert": change.Insert{On: true, Margin: ptr(change.Typed("x"))}, "height of the embellishments": change.Extra{Extra: "x"},
		"masked border": change.Painting{Border: "x"}, "size of the words": change.Words{Words: "x"}, "no painted sheet": change.CentreWindow{}, "scan one first": change.Window{},
		"not on the panel any more": change.Mirror{Picked: "i9"}, "no angle": change.Turn{By: "steep"}, "width of the image": change.Place{Width: "x"}, "move to the right": change.Shift{DX: "x"}, "move down": change.Shift{DX: "1", DY: "x"},
		"further right": change.Repeat{Copies: 1, Right: "x"}, "1 to 29 copies": change.Repeat{Copies: 0}, "point 1": change.Bare{Points: "x"}, "point 2": change.Stroke{Points: "1 x 1; 2 x y"},
		"distance on the board": change.Measure{Now: "x"}, "real distance": change.Measure{Now: "1", Really: "x"}, "that gap is not there": change.CloseLeak{Leak: 5}, "that gap is": change.OpenLeak{Leak: -1},
		"two cells or more": change.JoinCells{Cells: "2"}, "no cell is chosen": change.NewArea{}, "already; free them first": change.NewArea{Cells: "2, 3"}, "is no cell number": change.Gather{Area: "a1", Cells: "2, x"}, "no cell is chosen; ": change.Free{}, "all of these cells are in Right": change.NewAreas{Groups: "2"}, "there is no cell 99": change.KeepWhite{Cells: "99"},
		"that correction is gone": change.RemoveMark{Mark: "3"}, "size of specks": change.Specks{Specks: "x"}, "that area is gone": change.NameArea{Area: "a9", Name: "x"}, "that area is": change.Join{A: "a1", B: "a9"},
		"that wash is gone": change.Strength{Area: "a1", Wash: 4}, "the last wash already": change.MoveWash{Area: "a1"}, "no part of a mix": change.Recipe{Area: "a1", Mix: "x"}, "at least one area": change.PaintAlike{Area: "a1"},
		"1 to 200": change.Copies{}, "no technique": change.LayAs{Area: "a1", Technique: "rain"}, "no way of drying": change.Drying{Drying: "sun", Celsius: 20, Humidity: 50},
	} {
		c, s := painted(t)
		before, err := c.Encode()
		require.NoError(t, err)
		_, _, err = change.Try(ch, c, s)
		assert.ErrorContains(t, err, why, "%T", ch)
		after, err := c.Encode()
		require.NoError(t, err)
		assert.Equal(t, string(before), string(after), "%T", ch)
	}
	c := card.New("empty", length.Inches)
	for _, ch := range []change.Change{change.Mirror{}, change.Stamp{Stamp: "image"}, change.RemoveMark{Mark: "0"}} {
		_, _, err := change.Try(ch, c, nil)
		assert.ErrorContains(t, err, "no line image yet", "%T", ch)
	}
	for name, ch := range change.Names() {
		if on, speaks := ch.(change.OnBoard); speaks {
			_, err := on.Do(c)
			assert.ErrorContains(t, err, "not known yet", name)
			_, _, err = change.Try(ch, c, nil)
			assert.ErrorContains(t, err, "not known yet", name)
		}
	}
}

// What a change made is open afterwards.
func TestWhatAChangeOpens(t *testing.T) {
	c, s := painted(t)
	_, done := made(t, c, s, change.NewArea{Cells: "2", Take: true})
	assert.Equal(t, "a3", done.Area)
	_, done = made(t, c, s, change.AddWash{Area: "a2"})
	assert.Equal(t, "a2", done.Area)
	assert.Equal(t, 2, done.Wash)
	c2, done := made(t, c, s, change.Dip{Area: "a1", Wash: 1, CI: "PV19", Parts: 1})
	assert.Equal(t, 2, done.Wash, "the one the dip made")
	_, done = made(t, c2, s, change.MoveWash{Area: "a1", Wash: 0, Way: change.Later})
	assert.Equal(t, 2, done.Wash, "it is followed")
	_, done = made(t, c2, s, change.MoveWash{Area: "a1", Wash: 1})
	assert.Equal(t, 1, done.Wash)
	_, done = made(t, c2, s, change.RemoveWash{Area: "a1", Wash: 1})
	assert.Equal(t, 1, done.Wash, "the one below it")
	got, done := made(t, c, s, change.LayImage{Scan: c.Line().Scan})
	assert.Equal(t, "i2", done.Image)
	got, done = made(t, got, s, change.LayImage{Scan: c.Line().Scan, Instead: true, Picked: "i2", Kind: shelf.SolidImage})
	assert.Empty(t, done.Image)
	assert.True(t, got.Images[1].Is(shelf.SolidImage))
	scan := c.Line().Scan
	scan.Title, scan.Width = "Again", 10*mm
	got, done = made(t, c, s, change.Rescan{Picked: "i1", Scan: scan})
	assert.Equal(t, "i1", done.Image)
	assert.Equal(t, "Again", got.Line().Title)
	assert.Equal(t, c.Line().Width, got.Line().Width, "it lies as the old one did")
	got, _ = made(t, c, s, change.LayWindow{Scan: scan}, change.Window{Width: "90", X: "1", Y: "2", Turn: "-3"})
	assert.Equal(t, []any{90 * mm, mm, 2 * mm, -3.0}, []any{got.Window.Width, got.Window.X, got.Window.Y, got.Window.Turn})
	got, _ = made(t, got, s, change.CentreWindow{})
	assert.Equal(t, 45*mm, got.Window.X)
	got, _ = made(t, got, s, change.RemoveWindow{})
	assert.Nil(t, got.Window)
}

// Every change has one name, and its values are those a form sends.
func TestNamesAndValues(t *testing.T) {
	for name, ch := range change.Names() {
		assert.Equal(t, name, change.NameOf(ch))
	}
	assert.Equal(t, map[string]string{"area": "a1", "wash": "2", "technique": "halo"}, change.Values(change.LayAs{Area: "a1", Wash: 2, Technique: technique.Halo}))
	assert.Equal(t, map[string]string{"ink": "dye"}, change.Values(change.UseInk("dye")), "what is left open is not sent")
	assert.Equal(t, map[string]string{"ink": "own:Night"}, change.Values(change.Materials{Ink: &change.Material{Own: &shelf.Own{Name: "Night"}}}))
	var m change.Material
	require.NoError(t, m.UnmarshalText([]byte("own:Night")))
	assert.Equal(t, "Night", m.Own.Name)
	require.NoError(t, m.UnmarshalText([]byte("dye")))
	assert.Equal(t, change.Material{ID: "dye"}, m)
	var n change.Number
	assert.NoError(t, n.UnmarshalText([]byte("2,5")))
	assert.EqualValues(t, 2.5, n)
	assert.ErrorContains(t, n.UnmarshalText([]byte("warm")), "no number")
}

// Whatever is typed as cells or places, a reader of bytes neither fails nor hangs.
func FuzzTyped(f *testing.F) {
	f.Add("2, 3-5", "1 x 2; 3 x 4", "12,5°")
	f.Add("9-1", "×", "°")
	f.Fuzz(func(t *testing.T, cells, points, angle string) {
		c, s := painted(t)
		for _, ch := range []change.Change{change.NewArea{Cells: change.CellList(cells)}, change.Stroke{Points: change.PointList(points)}, change.Turn{By: change.Angle(angle)}} {
			if got, _, err := change.Try(ch, c, s); err == nil {
				assert.NoError(t, got.Check())
			}
		}
	})
}

func ExampleTry() {
	c := card.New("Crab", length.Inches)
	fixed, done, err := change.Try(change.UseInk("dye"), c, nil)
	fmt.Println(done.Says, err)
	fmt.Println(c.Ink, "stays;", fixed.Ink, "was tried")
	// Output:
	// changed paper or ink <nil>
	// pigment-quick stays; dye was tried
}
