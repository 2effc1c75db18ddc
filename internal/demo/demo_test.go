package demo_test

import (
	"context"
	"encoding/json"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel"
	"chromaqua/core/plan"
	"chromaqua/core/plan/plancheck"
	"chromaqua/core/steps"
	"chromaqua/internal/demo"
	"chromaqua/internal/picture"
	"chromaqua/internal/store"
)

// The samples are good cards: every cell is found, nothing would ruin them, and
// those with washes can be painted.
func TestSamples(t *testing.T) {
	ctx := context.Background()
	s, err := store.Open(ctx, filepath.Join(t.TempDir(), "demo.db"))
	require.NoError(t, err)
	defer s.Close()
	require.NoError(t, demo.Fill(ctx, s))
	drawings, err := s.Library(ctx)
	require.NoError(t, err)
	assert.Len(t, drawings, 14)
	cards, _, err := s.Cards(ctx, store.Shown)
	require.NoError(t, err)
	finished := 0
	for _, r := range cards {
		scans := panel.Scans{}
		for _, on := range r.Card.Scans() {
			m, err := s.Image(ctx, on.Image)
			require.NoError(t, err)
			scans[on.Image], err = picture.Grey(m.Data)
			require.NoError(t, err)
		}
		pieces, err := panel.Pieces(r.Card, func(alone *card.Card) (*panel.Board, error) {
			sheet, err := panel.Read(ctx, alone, scans, nil)
			if err != nil {
				return nil, err
			}
			return panel.Resolve(alone, sheet), nil
		})
		require.NoError(t, err)
		compiled, err := steps.CompileAll(pieces, r.Card, steps.UsualBench())
		for i, p := range pieces {
			for _, a := range p.Board.Areas {
				assert.Empty(t, a.Lost, "%s: %s", r.Card.Name, a.Name)
				assert.NotEmpty(t, a.Cells, "%s: %s", r.Card.Name, a.Name)
			}
			for _, w := range advice.Watches(advice.OfPiece(r.Card, pieces, i, compiled, nil)) {
				assert.NotEqual(t, advice.Stop, w.Severity, "%s, %s: %s", r.Card.Name, p.Name, w.What)
				t.Logf("%s, %s: %s %s", r.Card.Name, p.Name, w.Severity, w.What)
			}
		}
		if err != nil {
			assert.ErrorIs(t, err, steps.ErrNothingToPaint)
			continue
		}
		finished++
		assert.Empty(t, compiled.Notes, r.Card.Name)
		sch, err := solver.Solve(ctx, compiled.Instance, solver.Budget{Iterations: 300, Seed: 1})
		require.NoError(t, err)
		doc, err := json.Marshal(plan.Of(r.Card, compiled, sch))
		require.NoError(t, err)
		faults, err := plancheck.Faults(doc, false)
		require.NoError(t, err)
		assert.Empty(t, faults, r.Card.Name)
	}
	assert.GreaterOrEqual(t, finished, 2)
}
