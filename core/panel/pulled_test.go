package panel_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// pulling is an area whose colour comes out of its line, in an ink.
func pulling(t testing.TB, own *shelf.Own) (*card.Card, *panel.Sheet) {
	c, s := paneltest.Card(t, 2, 1)
	c.Ink, c.Look, c.OwnInk = "dye", shelf.Pulled, own
	paneltest.Area(t, c, s, "Petal", [][2]int{{0, 0}}, card.Wash{Technique: technique.LinePull})
	require.NoError(t, c.Check())
	return c, s
}

// What is pulled out of a line is the ink's own colour, as strong as the line that feeds
// the cell: 25 mm of it a milk on a square centimetre.
func TestPulledColourByHand(t *testing.T) {
	for _, tc := range []struct {
		own *shelf.Own
		ci  string
	}{
		{nil, "PBk7"},
		{&shelf.Own{Name: "kelp", What: shelf.OwnInk, Like: "dye", Colour: "PG7"}, "PG7"},
		{&shelf.Own{Name: "sea", What: shelf.OwnInk, Like: "dye", Colour: "Ultramarine"}, "PB29"},
		{&shelf.Own{Name: "rust", What: shelf.OwnInk, Like: "dye", Colour: "like old rope"}, "PBk7"},
	} {
		c, s := pulling(t, tc.own)
		b := panel.Resolve(c, s)
		cell := b.Part(b.Areas[0].Cells[0])
		want := cell.EdgeMM / 25 * 100 / cell.AreaMM2
		got := b.Pulled(0)
		assert.InDelta(t, want, float64(got.Load), 1e-9)
		known, err := pigment.ByCI(tc.ci)
		require.NoError(t, err)
		seen := pigment.Seen(pigment.Stack(panel.Ground(c.Paper), pigment.Coat{Paint: known.Paint(), Load: pigment.Load(want)}), pigment.Dry)
		look := b.Looks()[0]
		assert.Equal(t, seen.Hex(), look.Dense.Dry, tc.ci)
		assert.Greater(t, look.Thin.Lab.L, look.Dense.Lab.L+10, "it is paler away from the line")
		before, after := b.Areas[0].Palette().LeftBy(c.Areas[0].Washes)
		assert.Equal(t, panel.LookOf(c.Paper, nil).Dense.Dry, before.Dry)
		assert.Equal(t, look.Dense.Dry, after.Dry)
	}
}

// A line that holds gives nothing; one that is meant to vanish gives little; a small cell has
// more line for its size, and no more than paper takes.
func TestWhatALineGives(t *testing.T) {
	c, s := pulling(t, nil)
	full := panel.Resolve(c, s).Pulled(0).Load
	c.Look = shelf.Vanishing
	assert.InDelta(t, 0.05*float64(full), float64(panel.Resolve(c, s).Pulled(0).Load), 1e-9)
	c.Look, c.Ink = shelf.Pulled, "pigment-quick"
	b := panel.Resolve(c, s)
	assert.Zero(t, b.Pulled(0).Load)
	assert.Nil(t, b.Fed(0))
	assert.Less(t, pigment.Difference(panel.LookOf(c.Paper, nil).Dense.Lab, b.Looks()[0].Dense.Lab), 1.0, "nothing is seen of it")
	c.Ink = "dye"
	small := *s
	drawing := *s.Drawing
	small.Drawing, drawing.Cells = &drawing, append(drawing.Cells[:0:0], drawing.Cells...)
	for i := range drawing.Cells {
		drawing.Cells[i].AreaMM2 = 4
	}
	assert.InDelta(t, 2.5, float64(panel.Resolve(c, &small).Pulled(0).Load), 1e-9)
}

// A zone is fed by the line it covers.
func TestAZoneIsFedByItsLine(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	c.Ink, c.Look = "dye", shelf.Pulled
	m := c.Line()
	x, y := m.X.MM()+m.Width.MM()/2, m.Y.MM()+m.Height().MM()/2
	a := zoned(t, c, card.Zone{Shape: card.Within}, x-6, y-5, x+6, y-5, x+6, y+5, x-6, y+5) // over the line in the middle
	a.Washes = []card.Wash{{Technique: technique.LinePull}}
	off := zoned(t, c, card.Zone{Shape: card.Within}, 1, 1, 6, 1, 6, 6, 1, 6)
	off.Washes = []card.Wash{{Technique: technique.LinePull}}
	b := panel.Resolve(c, s)
	fed := b.Fed(0)
	assert.InDelta(t, 10, fed[0], 8, "so much of the line lies in it")
	assert.Positive(t, b.Pulled(0).Load)
	assert.Zero(t, b.Pulled(1).Load, "no line lies there")
}

// Pencil that is wetted covers what it skimmed over.
func TestPencilIsDrawnOut(t *testing.T) {
	laid := card.Wash{Technique: technique.WetPencil, Mix: blue.Mix, Strength: pigment.Milk}
	dry, wet := panel.LookOf("cotton-cp", []card.Wash{laid}), panel.LookOf("cotton-cp", []card.Wash{laid, {Technique: technique.PencilWetted}})
	coat := panel.Palette{Paper: "cotton-cp"}.Coat(laid)
	coat.Load *= 0.55
	even := pigment.Seen(pigment.Stack(panel.Ground("cotton-cp"), coat), pigment.Dry)
	assert.Equal(t, even.Hex(), wet.Dense.Dry)
	assert.NotEqual(t, dry.Dense.Dry, wet.Dense.Dry)
	assert.Empty(t, wet.Traces[1:])
}

// The mass of a solid that is worked with water is a cell: it looks like its ink, paler where
// water is drawn through it, and takes colour and opaque paint; one that is not worked is a
// line, however black it is.
func TestTheMassOfASolidIsACell(t *testing.T) {
	_, b := boardOf(t, 20)
	masses := 0
	for _, c := range b.Cells {
		if b.Mass(c.ID) >= 0 {
			masses++
		}
	}
	assert.Equal(t, 2, masses, "two of its hills run together")
	for i, a := range b.Areas {
		image, on := b.OnMass(i)
		assert.Equal(t, a.Name == "Shed" || a.Name == "Hill", on, a.Name)
		if on {
			assert.Equal(t, 0, image)
		}
	}
	assert.Empty(t, b.Free(), "a mass is no cell that was forgotten")

	of := func(name string, washes ...card.Wash) pigment.Lab {
		for _, a := range b.Areas {
			if a.Name == name {
				return a.Palette().Look(washes).Dense.Lab
			}
		}
		return pigment.Lab{}
	}
	ink, err := pigment.ByCI(b.Card.InkOf(&b.Card.Images[0]).Pulls)
	require.NoError(t, err)
	bare := pigment.Seen(pigment.Stack(panel.Ground(b.Card.Paper), pigment.Coat{Paint: ink.Paint(), Load: 2.5}), pigment.Dry)
	assert.InDelta(t, bare.Lab().L, of("Shed").L, 1e-9, "by hand: a coat of cream")
	worked := of("Shed", card.Wash{Technique: technique.LinePull})
	assert.Greater(t, worked.L, of("Shed").L+0.2, "black ink stays dark")
	blue := card.Wash{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 1}}}
	assert.Less(t, of("Hill", blue).L, of("Sky", blue).L-20, "a transparent wash stays dark on it")
	white := card.Wash{Technique: technique.WhiteVeil, Strength: pigment.Paste, Mix: []card.Part{{CI: "PW6", Parts: 1}}}
	assert.Greater(t, of("Hill", white).L, of("Hill").L+30)

	c, s := b.Card, b.Sheet
	assert.Positive(t, s.Laid[0].MassMM2)
	again := *c
	again.Images = append([]card.Image{}, c.Images...)
	again.Images[0].Medium = &card.Medium{Ink: "blend", Look: shelf.Crisp}
	assert.False(t, again.Worked(&again.Images[0]))
	assert.True(t, c.Worked(&c.Images[0]))
}
