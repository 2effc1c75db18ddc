package demo_test

import (
	"context"
	"encoding/json"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/advice"
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
	assert.Len(t, drawings, 7)
	cards, _, err := s.Cards(ctx, store.Shown)
	require.NoError(t, err)
	finished := 0
	for _, r := range cards {
		scans := panel.Scans{}
		for _, on := range r.Card.Images {
			m, err := s.Image(ctx, on.Image)
			require.NoError(t, err)
			scans[on.Image], err = picture.Grey(m.Data)
			require.NoError(t, err)
		}
		sheet, err := panel.Read(ctx, r.Card, scans, nil)
		require.NoError(t, err)
		b := panel.Resolve(r.Card, sheet)
		for _, a := range b.Areas {
			assert.Empty(t, a.Lost, "%s: %s", r.Card.Name, a.Name)
		}
		compiled, err := steps.Compile(b, steps.UsualBench())
		for _, w := range advice.Watches(advice.Gather(r.Card, b, compiled, nil)) {
			assert.NotEqual(t, advice.Stop, w.Severity, "%s: %s", r.Card.Name, w.What)
		}
		if err != nil {
			assert.ErrorIs(t, err, steps.ErrNothingToPaint)
			continue
		}
		finished++
		assert.Empty(t, compiled.Notes, r.Card.Name)
		sch, err := solver.Solve(ctx, compiled.Instance, solver.Budget{Iterations: 300, Seed: 1})
		require.NoError(t, err)
		doc, err := json.Marshal(plan.Of(b.Card, compiled, sch))
		require.NoError(t, err)
		faults, err := plancheck.Faults(doc, false)
		require.NoError(t, err)
		assert.Empty(t, faults, r.Card.Name)
	}
	assert.GreaterOrEqual(t, finished, 2)
}
