package panel_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest/jobs"
)

// boardOf is the panel of a job.
func boardOf(t testing.TB, number int) (*jobs.Studio, *panel.Board) {
	for _, j := range jobs.All() {
		if j.Number == number {
			s := j.Make()
			pieces, err := s.Pieces(context.Background())
			require.NoError(t, err)
			return s, pieces[0].Board
		}
	}
	require.Fail(t, "no such job")
	return nil, nil
}

// A line that comes over paint does not part it: an underpainting goes on across the stars
// that are embossed on it later, and a wash over them meets them as raised lines.
func TestLinesPartOnlyWhatLiesOverThem(t *testing.T) {
	s, b := boardOf(t, 15)
	stars := 0
	for _, n := range b.Neighbours {
		a, c := b.Cells[n.A-1], b.Cells[n.B-1]
		if a.Outside != c.Outside {
			stars++
			inside := max(n.A, n.B)
			assert.True(t, b.Beside(0, inside) || b.Beside(1, inside) || b.Beside(2, inside))
		}
	}
	require.Equal(t, 3, stars, "three stars, each with the ground round it")
	pale, dark := 0, 1
	assert.Equal(t, "Pale sky", b.Areas[pale].Name)
	all := b.Contacts()[:len(b.Neighbours)]
	assert.Len(t, b.Open(all, pale, 0), 3, "nothing parts the stars from the ground yet")
	assert.Empty(t, b.Open(all, dark, 0), "now they do")

	for _, k := range all {
		assert.False(t, k.Raised, "they come over paint, which meets as if they were not there")
	}
	for i := range s.Card.Images {
		assert.True(t, b.InkOver(i, b.Areas[pale].Cells))
	}
	for _, n := range b.Neighbours {
		if inside := max(n.A, n.B); b.Cells[inside-1].InscribedMM < 20 {
			at := 0
			for i := range s.Card.Images {
				if b.InkOver(i, []int{inside}) {
					at++
				}
			}
			assert.Equal(t, 1, at, "within a star is the ink of that one")
		}
	}
	s.Card.Over = nil
	for _, k := range panel.Resolve(s.Card, b.Sheet).Contacts()[:len(b.Neighbours)] {
		assert.True(t, k.Raised, "put on first they are walls")
	}
}

// Of two inks only the raised one holds paint apart.
func TestOnlyRaisedLinesAreWalls(t *testing.T) {
	s, b := boardOf(t, 3)
	s.Card.Over = nil
	raised, flat := 0, 0
	for _, k := range panel.Resolve(s.Card, b.Sheet).Contacts() {
		if k.Raised {
			raised++
			assert.True(t, b.Beside(2, k.A) && b.Beside(2, k.B), "the bubbles are embossed")
		} else {
			flat++
		}
	}
	assert.Positive(t, raised)
	assert.Positive(t, flat)
}

// What is put over another image is not masked by it; what lies behind is.
func TestPutOverIsNotMasked(t *testing.T) {
	s, b := boardOf(t, 3)
	assert.Equal(t, []int{0}, b.Laid[1].Hidden, "the reeds go behind the otter")
	assert.Empty(t, b.Laid[2].Hidden, "the bubbles go over all")
	require.NoError(t, s.Card.Put(card.Ref(s.Card.Images[1].ID), card.Ref(s.Card.Images[0].ID), true))
	pieces, err := s.Pieces(context.Background())
	require.NoError(t, err)
	assert.Empty(t, pieces[0].Board.Laid[1].Hidden)
}
