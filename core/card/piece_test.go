package card_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/card"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// withPiece is a card with a piece of a kind.
func withPiece(t testing.TB, k card.PieceKind) (*card.Card, *card.Piece) {
	c := whole()
	id, err := c.AddPiece(k)
	require.NoError(t, err)
	p, err := c.PieceByID(id)
	require.NoError(t, err)
	return c, p
}

// Every row of the tables is whole, and every kind makes a piece that is in order.
func TestKindsOfPieces(t *testing.T) {
	for _, f := range card.PieceFacts() {
		c, p := withPiece(t, f.Kind)
		require.NoError(t, c.Check(), f.Kind)
		assert.NotEmpty(t, f.Name+f.Note, f.Kind)
		assert.Equal(t, f.Name, p.Name)
		size := c.SizeOf(p)
		assert.True(t, size.W >= card.MinPiece && size.H >= card.MinPiece, "%s measures %v", f.Kind, size)
		again, err := c.AddPiece(f.Kind)
		if f.Kind == card.WholeCard {
			assert.ErrorContains(t, err, "among the pieces already")
			continue
		}
		require.NoError(t, err)
		assert.Equal(t, f.Name+" 2", c.PieceName(again))
	}
	for _, f := range joint.Facts() {
		assert.NotEmpty(t, f.Words, f.By)
	}
	for _, f := range card.HoldFacts() {
		assert.NotEmpty(t, f.Words, f.Kind)
	}
	for _, f := range card.TapeFacts() {
		assert.NotEmpty(t, f.Note, f.Kind)
	}
	for _, s := range card.Shapes() {
		assert.NotEmpty(t, s.Words(), s)
	}
	for _, e := range card.ZoneEdges() {
		assert.NotEmpty(t, e.Words(), e)
	}
	for _, k := range card.HandlingKinds() {
		assert.NotEmpty(t, k.Words(), k)
	}
	for _, w := range card.BareWays() {
		assert.NotEmpty(t, w.Words(), w)
	}
}

// A size that is not given follows: half the panel, the front, the image with its margin.
func TestSizeOfAPiece(t *testing.T) {
	c, p := withPiece(t, card.SecondPanel)
	panel := c.PanelSize()
	assert.InDelta(t, panel.W.MM()/2, c.SizeOf(p).W.MM(), 1)
	p.Size.W = 33 * mm
	assert.Equal(t, 33*mm, c.SizeOf(p).W)
	assert.InDelta(t, panel.H.MM()/2, c.SizeOf(p).H.MM(), 1)
	p.Die = &card.DieSet{Name: "tags", Edge: card.Plain, Sizes: []length.Size{{W: 30 * mm, H: 60 * mm}, {W: 90 * mm, H: 90 * mm}}}
	assert.Equal(t, length.Size{W: 30 * mm, H: 60 * mm}, c.SizeOf(p))

	c, p = withPiece(t, card.CutOutPiece)
	m := *c.Line()
	m.ID = "i8"
	p.Images = append(p.Images, m)
	p.Outline = &card.Outline{Image: "i8", Margin: 2 * mm}
	require.NoError(t, c.Check())
	assert.Equal(t, length.Size{W: 64 * mm, H: 52 * mm}, c.SizeOf(p))

	c, p = withPiece(t, card.BasePiece)
	assert.Equal(t, c.Front(), c.SizeOf(p))
}

// A piece alone is a card whose panel it is; what is changed on it comes back, and its ids
// are free on the whole card.
func TestAPieceAlone(t *testing.T) {
	c, p := withPiece(t, card.Tag)
	p.Size = length.Size{W: 40 * mm, H: 60 * mm}
	alone, err := c.Alone(p.ID)
	require.NoError(t, err)
	assert.Equal(t, p.Size, alone.PanelSize())
	assert.Equal(t, length.Size{W: 40 * mm, H: 60 * mm}, alone.Front())
	assert.Empty(t, alone.Images)
	id := alone.AddArea("Fin")
	assert.NotContains(t, []string{c.Areas[0].ID, c.Areas[1].ID}, id)
	image, err := alone.Lay(c.Line().Scan, shelf.LineImage)
	require.NoError(t, err)
	assert.NotEqual(t, c.Line().ID, image)
	copied, err := alone.Clone()
	require.NoError(t, err)
	assert.NotContains(t, []string{c.Areas[0].ID, c.Areas[1].ID, id}, copied.AddArea("Tail"), "a copy knows what is taken, too")
	alone.Name = "Renamed"
	require.NoError(t, c.Return(p.ID, alone))
	require.NoError(t, c.Check())
	assert.Equal(t, "Renamed", c.Name)
	assert.Len(t, p.Areas, 1)
	assert.Len(t, c.Scans(), 2)

	same, err := c.Alone(card.ThePanel)
	require.NoError(t, err)
	assert.Same(t, c, same)
	_, err = c.Alone("p77")
	assert.ErrorContains(t, err, "gone")
}

// A copy of a piece has ids of its own, and says the same of them.
func TestACopiedPiece(t *testing.T) {
	c := whole()
	_, err := c.AddZone(card.Zone{Shape: card.Below, On: "i1", Points: []card.UV{{U: 0, V: 0.5}, {U: 1, V: 0.5}}}, 60)
	require.NoError(t, err)
	c.Areas[1].Lies, c.Areas[1].Zones = true, []string{"z1"}
	c.AddAct(card.Handling{Kind: card.Flatten})
	require.NoError(t, c.Put("i1", "a2", true))
	c.Hold = []card.Hold{{How: card.TapedDown}, {How: card.LooseSheet, From: "a1/1"}}
	c.SetJoin("a1", "a2", true)
	id, err := c.CopyPiece(card.ThePanel)
	require.NoError(t, err)
	require.NoError(t, c.Check())
	p, err := c.PieceByID(id)
	require.NoError(t, err)
	assert.Equal(t, c.PanelSize(), c.SizeOf(p))
	assert.Equal(t, p.Images[0].ID, p.Areas[0].Cells[0].On)
	assert.Equal(t, []string{p.Zones[0].ID}, p.Areas[1].Zones)
	assert.Equal(t, p.Images[0].ID, p.Zones[0].On)
	assert.Equal(t, []card.Over{{Above: card.Ref(p.Images[0].ID), Below: card.Ref(p.Areas[1].ID)}}, p.Over)
	assert.Equal(t, card.WashRef(p.Areas[0].ID, 0), p.Hold[1].From)
	assert.Equal(t, [2]string{p.Areas[0].ID, p.Areas[1].ID}, p.Joins[0])
	_, err = c.CopyPiece("p9")
	assert.ErrorContains(t, err, "gone")
}

// Pieces are moved and taken away; what lay on one lies where it lay.
func TestPiecesComeAndGo(t *testing.T) {
	c, p := withPiece(t, card.SecondPanel)
	tag, err := c.AddPiece(card.Tag)
	require.NoError(t, err)
	c.Pieces[1].Place.On = p.ID
	require.NoError(t, c.Check())
	require.NoError(t, c.MovePiece(tag, false))
	assert.Equal(t, []string{card.ThePanel, tag, "p1"}, c.PieceIDs())
	assert.ErrorContains(t, c.MovePiece(tag, false), "first")
	assert.ErrorContains(t, c.MovePiece("p8", true), "gone")
	require.NoError(t, c.RemovePiece("p1"))
	assert.Equal(t, card.ThePanel, c.Pieces[0].Place.On)
	assert.ErrorContains(t, c.RemovePiece("p1"), "gone")
	for len(c.Pieces) < card.MaxPieces {
		_, err := c.AddPiece(card.Tag)
		require.NoError(t, err)
	}
	require.NoError(t, c.Check())
	_, err = c.AddPiece(card.Tag)
	assert.ErrorContains(t, err, "at most 24 pieces")
}

// What is cut for pieces: each its sheet, those that share one a larger.
func TestSheetsOfPieces(t *testing.T) {
	c, p := withPiece(t, card.Tag)
	p.Size, p.Count, p.Sheet = length.Size{W: 40 * mm, H: 60 * mm}, 2, "scraps"
	id, err := c.AddPiece(card.WordStrip)
	require.NoError(t, err)
	p, _ = c.PieceByID(id)
	p.Size, p.Sheet = length.Size{W: 70 * mm, H: 15 * mm}, "scraps"
	_, err = c.AddPiece(card.BasePiece)
	require.NoError(t, err)
	id, err = c.AddPiece(card.SecondPanel)
	require.NoError(t, err)
	p, _ = c.PieceByID(id)
	p.Size, p.Count = length.Size{W: 50 * mm, H: 30 * mm}, 3
	all := c.PieceSheets()
	require.Len(t, all, 2)
	gap := length.Inch.MM() / 4
	assert.Equal(t, "2 × tag, strip of words", all[0].What)
	assert.InDelta(t, 2*40+70+4*gap, all[0].Size.W.MM(), 0.01)
	assert.InDelta(t, 60+2*gap, all[0].Size.H.MM(), 0.01)
	assert.Equal(t, 1, all[0].Many)
	assert.Equal(t, 3, all[1].Many)
	lines := c.CutList()
	assert.Equal(t, "3 × second panel", lines[len(lines)-1].What)
}

// What cannot be is refused, with what to do.
func TestPiecesThatCannotBe(t *testing.T) {
	for why, spoil := range map[string]func(*card.Card, *card.Piece){
		"give the piece a name":   func(_ *card.Card, p *card.Piece) { p.Name = " " },
		"no kind of piece":        func(_ *card.Card, p *card.Piece) { p.Kind = "boat" },
		"only the base has":       func(_ *card.Card, p *card.Piece) { p.Face = card.FrontFace },
		"1 to 50 of one":          func(_ *card.Card, p *card.Piece) { p.Count = 51 },
		"outside":                 func(_ *card.Card, p *card.Piece) { p.Size.W = 3 * mm },
		"cannot measure":          func(_ *card.Card, p *card.Piece) { p.Size.W = -3 * mm },
		"which the card does not": func(_ *card.Card, p *card.Piece) { p.Place.On = "p9" },
		"in the end on it":        func(_ *card.Card, p *card.Piece) { p.Place.On = p.ID },
		"nothing to hold":         func(_ *card.Card, p *card.Piece) { p.Place.By = "hope" },
		"-180 to 180":             func(_ *card.Card, p *card.Piece) { p.Place.Turn = 200 },
		"2 m off":                 func(_ *card.Card, p *card.Piece) { p.Place.X = 3 * length.Max },
		"it does not have":        func(_ *card.Card, p *card.Piece) { p.Outline = &card.Outline{Image: "i1"} },
		"stands twice":            func(c *card.Card, p *card.Piece) { p.Areas = append(p.Areas, c.Areas[0]) },
		"is empty":                func(_ *card.Card, p *card.Piece) { p.ID = "" },
		"sheet is longer":         func(_ *card.Card, p *card.Piece) { p.Sheet = long(121) },
		"on the shelf":            func(_ *card.Card, p *card.Piece) { p.Paper = "sand" },
		"25 pieces beside":        func(c *card.Card, p *card.Piece) { c.Pieces = make([]card.Piece, 25) },
		"leaves nothing to paint": func(_ *card.Card, p *card.Piece) { p.Painting.Border = 40 * mm },
		"there is no ink":         func(c *card.Card, _ *card.Piece) { c.Line().Medium = &card.Medium{Ink: "wine"} },
		"at most 3 inks":          func(c *card.Card, _ *card.Piece) { c.Line().Medium = &card.Medium{Pads: []string{"dye", "dye", "dye"}} },
		"1 to 6 times":            func(c *card.Card, _ *card.Piece) { c.Line().Medium = &card.Medium{Times: 7} },
		"no way of keeping":       func(c *card.Card, _ *card.Piece) { c.Line().Medium = &card.Medium{Bare: "magic"} },
		"no look of a line":       func(c *card.Card, _ *card.Piece) { c.Line().Medium = &card.Medium{Look: "wild"} },
		"no way of holding":       func(c *card.Card, _ *card.Piece) { c.Hold = []card.Hold{{How: "nails"}} },
		"no tape":                 func(c *card.Card, _ *card.Piece) { c.Hold = []card.Hold{{How: card.TapedDown, Tape: "rope"}} },
		"no side to tape": func(c *card.Card, _ *card.Piece) {
			c.Hold = []card.Hold{{How: card.TapedDown, Sides: []nestSide{"up"}}}
		},
		"begins at the start": func(c *card.Card, _ *card.Piece) { c.Hold = []card.Hold{{How: card.TapedDown, From: "a1"}} },
		"neither image, area nor act": func(c *card.Card, _ *card.Piece) {
			c.Hold = []card.Hold{{How: card.TapedDown}, {How: card.OnBlock, From: "a9"}}
		},
		"no act":                   func(c *card.Card, _ *card.Piece) { c.Acts = []card.Handling{{ID: "x1", Kind: "sing"}} },
		"which its piece does not": func(c *card.Card, _ *card.Piece) { c.Areas[0].Zones = []string{"z4"} },
	} {
		c, p := withPiece(t, card.Tag)
		require.NoError(t, c.Check())
		spoil(c, p)
		assert.ErrorContains(t, c.Check(), why)
	}
}

// Zones that cannot be are refused; a hand's line is kept as exactly as paint ends.
func TestZones(t *testing.T) {
	square := []card.UV{{U: 0, V: 0}, {U: 1, V: 0}, {U: 1, V: 1}}
	for why, z := range map[string]card.Zone{
		"no shape":        {Shape: "cloud", Points: square},
		"3 to 500 points": {Shape: card.Within, Points: square[:2]},
		"no edge":         {Shape: card.Rest, Points: square, Edge: "frayed"},
		"does not have":   {Shape: card.Rest, Points: square, On: "i9"},
		"far off":         {Shape: card.Rest, Points: append([]card.UV{{U: 1e4}}, square...)},
		"as many points":  {Shape: card.Middle, Points: append([]card.UV{{U: .5}, {U: .6}}, square...)},
		"a hand draws":    {Shape: card.Within, Points: make([]card.UV, card.MaxZoneDrawn+1)},
	} {
		c := whole()
		_, err := c.AddZone(z, 100)
		assert.ErrorContains(t, err, why)
	}
	c := whole()
	for range card.MaxZones {
		_, err := c.AddZone(card.Zone{Shape: card.Within, Points: square}, 100)
		require.NoError(t, err)
	}
	require.NoError(t, c.Check())
	_, err := c.AddZone(card.Zone{Shape: card.Within, Points: square}, 100)
	assert.ErrorContains(t, err, "32 zones")
	c.Areas[0].Zones = []string{"z1", "z2"}
	c.RemoveZone("z1")
	assert.Equal(t, []string{"z2"}, c.Areas[0].Zones)

	rapid.Check(t, func(t *rapid.T) {
		n := rapid.IntRange(3, 12_000).Draw(t, "points")
		drawn := make([]card.UV, n)
		u, v := 0.5, 0.5
		step := rapid.Float64Range(0.0001, 0.05).Draw(t, "step")
		seed := rapid.IntRange(1, 1<<20).Draw(t, "seed")
		for i := range drawn {
			seed = (seed*1103515245 + 12345) & 0x7fffffff
			u += step * float64(seed%1000-500) / 500
			seed = (seed*1103515245 + 12345) & 0x7fffffff
			v += step * float64(seed%1000-500) / 500
			drawn[i] = card.UV{U: u, V: v}
		}
		c := whole()
		if _, err := c.AddZone(card.Zone{Shape: card.Within, Points: drawn}, 100); err != nil {
			assert.ErrorContains(t, err, "points, not") // all of it lies on a line
			return
		}
		kept := c.Zones[0].Points
		assert.LessOrEqual(t, len(kept), card.MaxZonePoints)
		assert.Equal(t, drawn[0], kept[0])
		assert.Equal(t, drawn[n-1], kept[len(kept)-1])
	})
}

// A card of this version comes back as it was written, whatever is on it.
func TestPiecesAreWrittenAndRead(t *testing.T) {
	c, p := withPiece(t, card.CutOutPiece)
	m := *c.Line()
	m.ID, m.Medium = "i8", &card.Medium{Ink: "embossed", Pads: []string{"dye"}, Times: 1, Watered: true, Bare: card.Taped, Look: shelf.Soft}
	p.Images = append(p.Images, m)
	p.Areas = []card.Area{{ID: "a8", Name: "Fin", Cells: []card.Spot{}, Washes: []card.Wash{{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 1}}}}}}
	require.NoError(t, p.Put("i8", "a8/1", true))
	p.Hold = []card.Hold{{How: card.OnBlock}, {How: card.OffBoard, From: "i8"}}
	require.NoError(t, c.Check())
	doc, err := c.Encode()
	require.NoError(t, err)
	back, err := card.Decode(doc)
	require.NoError(t, err)
	assert.Equal(t, c, back)
	for n := 1; n < card.Version; n++ {
		_, err := card.Decode([]byte(strings.Replace(string(doc), fmt.Sprintf(`"version": %d`, card.Version), fmt.Sprintf(`"version": %d`, n), 1)))
		_ = err // versions before had other fields; nothing may panic
	}
	_, err = card.Decode([]byte(strings.Replace(string(doc), `"pieces"`, `"peices"`, 1)))
	assert.ErrorContains(t, err, "peices")
}
