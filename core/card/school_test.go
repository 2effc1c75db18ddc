package card_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/nest"
	"chromaqua/core/school"
)

// A card that begins by default is one that is made without a studio, but for its zones.
func TestBeginByDefault(t *testing.T) {
	c := card.New("x", length.Millimetres)
	c.Begin(school.Ways{})
	require.NoError(t, c.Check())
	assert.Empty(t, c.Departures(school.Ways{}))
	assert.Equal(t, school.EdgesByPlace, c.Schools.Edges)
	c.Schools.Edges = ""
	assert.Equal(t, card.New("x", length.Millimetres), c)
}

// What a studio does otherwise is what pieces, areas and zones of its new cards begin as.
func TestWhatIsNewFollowsTheStudio(t *testing.T) {
	for way, want := range map[string][]card.Hold{
		school.Taped: nil, school.OnBlock: {{How: card.OnBlock}}, school.Unheld: {{How: card.LooseSheet}}, school.StickySheet: {{How: card.Sticky}},
		school.SomeSides: {{How: card.TapedDown, Sides: []nest.Side{nest.Top, nest.Bottom}}},
	} {
		c := card.New("x", length.Millimetres)
		studio := school.Ways{Hold: way, Lines: school.LooseLines, Paper: school.PulpForLight}
		c.Begin(studio)
		require.NoError(t, c.Check())
		assert.Equal(t, want, c.Hold, way)
		assert.Empty(t, c.Departures(studio), way)
		id, err := c.AddPiece(card.SecondPanel)
		require.NoError(t, err)
		p, err := c.PieceByID(id)
		require.NoError(t, err)
		assert.Equal(t, want, p.Hold)
		assert.Equal(t, [2]string{"cotton-cp", "pulp-cp"}, [2]string{c.Paper, p.Paper})
		a, err := c.AreaByID(c.AddArea("x"))
		require.NoError(t, err)
		assert.True(t, a.Loose)
	}
	for way, ink := range map[string]string{"": "pale", school.StaysPale: "pale", school.GoesIntoPaint: "dye"} {
		c := card.New("x", length.Millimetres)
		c.Begin(school.Ways{Line: school.VanishingLine, Vanishing: way})
		assert.Equal(t, ink, c.Ink)
		assert.NoError(t, c.Check())
	}
	for line, ink := range map[string]string{"": "pigment-quick", school.CrispLine: "pigment-quick", school.SoftLine: "permanent", school.PulledLine: "dye"} {
		c := card.New("x", length.Millimetres)
		c.Begin(school.Ways{Line: line})
		assert.Equal(t, ink, c.Ink)
	}
	c := card.New("x", length.Millimetres)
	c.Drying, c.Paper = card.Air, "pulp-cp"
	assert.Equal(t, []string{
		"How are coats dried between layers? Here by air, else small ones by heat, big ones by air.",
		"What is painted on? Here pulp for everything, else cotton for everything.",
	}, c.Departures(school.Ways{}))
	for edges, want := range map[string][3]card.ZoneEdge{
		"": {card.HardEdge, card.HardEdge, card.HardEdge}, school.EdgesByPlace: {card.SoftEdge, card.HardEdge, card.HardEdge},
		school.SoftEdges: {card.SoftEdge, card.SoftEdge, card.HardEdge}, school.HardEdges: {card.HardEdge, card.HardEdge, card.HardEdge},
	} {
		c.Schools.Edges = edges
		assert.Equal(t, want, [3]card.ZoneEdge{c.EdgeOfNew(card.Above), c.EdgeOfNew(card.Within), c.EdgeOfNew(card.Along)}, edges)
	}
}

// A card that is folded as its picture lies is folded anew whenever its front is turned.
func TestFoldByPicture(t *testing.T) {
	c := card.New("x", length.Millimetres)
	c.FoldByPicture()
	assert.Equal(t, fold.Left, c.Base.Fold)
	require.NoError(t, c.SetFormat("a2", true))
	assert.Equal(t, fold.Top, c.Base.Fold)
	require.NoError(t, c.Give(card.FrontRing, length.Size{W: 100 * length.Millimetre, H: 150 * length.Millimetre}))
	assert.Equal(t, fold.Left, c.Base.Fold)
	c.Schools.Fold = ""
	require.NoError(t, c.SetFormat("a2", true))
	assert.Equal(t, fold.Left, c.Base.Fold)
	c.Schools.Water = "deep"
	assert.ErrorContains(t, c.Check(), "is no answer")
}
