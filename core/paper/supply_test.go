package paper_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/paper"
)

func shelved(t testing.TB) *paper.Stock {
	s := paper.New()
	for _, u := range []paper.Supply{
		{What: paper.Paint, Name: "ultramarine", Left: 5, Price: 12500}, {What: paper.TapeRoll, Name: "painter's tape", Left: 100},
		{What: paper.Adhesive, Name: "foam", Left: 40, Unit: "cm²"},
	} {
		require.NoError(t, s.AddSupply(u))
	}
	require.NoError(t, s.Check())
	return s
}

// What a making used comes off once, as far as it is counted; nothing becomes less than none.
func TestSuppliesComeOffTheShelf(t *testing.T) {
	s := shelved(t)
	assert.Equal(t, "ml", s.Supplies[0].Unit, "paint is counted in millilitres")
	used := []paper.Need{{What: paper.Paint, Name: "Ultramarine", Amount: 1.25, Unit: "ml"}, {What: paper.TapeRoll, Name: "painter's tape", Amount: 150, Unit: "cm"}, {What: paper.Ink, Name: "ink", Amount: 1, Unit: "ml"}, {What: paper.Adhesive, Name: "foam", Amount: 10, Unit: "cm"}}
	assert.Equal(t, []paper.Need{{What: paper.TapeRoll, Name: "painter's tape", Amount: 50, Unit: "cm"}}, s.Short(used), "only what is counted runs short")
	cost, known := s.Cost(used)
	assert.InDelta(t, 125*1.25, cost, 1e-9, "1.25 a millilitre")
	assert.Equal(t, 1, known)
	require.NoError(t, s.Take(7, used))
	assert.Equal(t, []float64{3.75, 0, 40}, []float64{s.Supplies[0].Left, s.Supplies[1].Left, s.Supplies[2].Left}, "foam is counted by its area")
	assert.ErrorIs(t, s.Take(7, used), paper.ErrTaken)
	assert.True(t, s.TakenBy(7))
	assert.False(t, s.TakenBy(8))
	require.NoError(t, s.Check())
}

func TestSuppliesAreCounted(t *testing.T) {
	s := shelved(t)
	require.NoError(t, s.AddSupply(paper.Supply{What: paper.Paint, Name: " Ultramarine ", Left: 2}))
	assert.Len(t, s.Supplies, 3, "there is more of it")
	assert.InDelta(t, 7, s.Supplies[0].Left, 1e-9)
	s.RemoveSupply("s1")
	require.NoError(t, s.AddSupply(paper.Supply{What: paper.Powder, Name: "clear", Left: 2}))
	require.NoError(t, s.Check(), "ids stay apart")
	_, err := s.Supply("s1")
	assert.ErrorContains(t, err, "gone")
	for want, u := range map[string]paper.Supply{
		"no kind of supply": {What: "food", Name: "x"},
		"a supply has a":    {What: paper.Ink, Name: "  "},
		"what is left":      {What: paper.Ink, Name: "x", Left: -1},
		"counted in":        {What: paper.Ink, Name: "x", Unit: "barleycorns of it"},
		"one of it costs":   {What: paper.Ink, Name: "x", Price: -4},
	} {
		assert.ErrorContains(t, s.AddSupply(u), want)
	}
	s.Supplies[1].ID = s.Supplies[0].ID
	assert.ErrorContains(t, s.Check(), "stands twice")
}
