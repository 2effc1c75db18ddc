package plan_test

import (
	"context"
	"fmt"
	"testing"

	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/steps"
)

// The same content on one piece and on five: composing it, finding its cells, compiling.
func BenchmarkPieces(b *testing.B) {
	for _, n := range []int{1, 5} {
		s := jobs.Spread(n)
		b.Run(fmt.Sprintf("%d", n), func(b *testing.B) {
			for b.Loop() {
				pieces, err := s.Pieces(context.Background())
				require.NoError(b, err)
				_, err = steps.CompileAll(pieces, s.Card, steps.UsualBench())
				require.NoError(b, err)
			}
		})
	}
}

// A card of 150 cells, with no zone and with 32: composed, its cells found and compiled;
// and compiled again once its zones are drawn, as an edit does.
func BenchmarkZones(b *testing.B) {
	for _, n := range []int{0, 32} {
		s := jobs.Grid(15, 10)
		for i := range n {
			x, y := float64(10+9*(i%8)), float64(15+25*(i/8))
			jobs.Zone(s.Card, fmt.Sprintf("Zone %d", i+1), card.Zone{Shape: card.Within}, []float64{x, y, x + 12, y, x + 12, y + 14, x, y + 14}, s.Card.Areas[0].Washes[0])
		}
		require.NoError(b, s.Card.Check())
		compile := func(board *panel.Board) {
			_, err := steps.Compile(board, steps.UsualBench())
			require.NoError(b, err)
		}
		b.Run(fmt.Sprintf("whole/%d", n), func(b *testing.B) {
			for b.Loop() {
				pieces, err := s.Pieces(context.Background())
				require.NoError(b, err)
				compile(pieces[0].Board)
			}
		})
		pieces, err := s.Pieces(context.Background())
		require.NoError(b, err)
		b.Run(fmt.Sprintf("again/%d", n), func(b *testing.B) {
			for b.Loop() {
				compile(panel.Resolve(s.Card, pieces[0].Board.Sheet))
			}
		})
	}
}
