package plan_test

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/mask"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/plan"
	"chromaqua/core/plan/plancheck"
	"chromaqua/core/steps"
)

// masked is a random card on which up to three things are kept, in any way.
func masked(t testing.TB, seed uint64) *panel.Board {
	b := paneltest.Random(t, seed)
	r := rand.New(rand.NewPCG(seed, 7))
	for n := range 1 + r.IntN(3) {
		kept := card.Reserve{Name: fmt.Sprint("Kept ", n+1), Way: paneltest.Pick(r, mask.Ways())}
		for range 1 + r.IntN(3) {
			kept.Cells = append(kept.Cells, b.SpotOf(1+r.IntN(len(b.Cells))))
		}
		if r.IntN(3) == 0 {
			kept.Areas = []string{b.Areas[r.IntN(len(b.Areas))].ID}
		}
		if a := b.Areas[r.IntN(len(b.Areas))]; r.IntN(3) == 0 {
			kept.Under = card.WashRef(a.ID, r.IntN(len(a.Washes)))
		}
		if r.IntN(2) == 0 {
			wide := b.Card.PanelSize().W.MM()
			z := card.Zone{Shape: card.DotsAt, Width: 2_000_000}
			for range 1 + r.IntN(5) {
				z.Points = append(z.Points, card.UV{U: 0.1 + 0.8*r.Float64(), V: 0.1 + 0.8*r.Float64()})
			}
			id, err := b.Card.AddZone(z, wide)
			require.NoError(t, err)
			kept.Zones = []string{id}
		}
		_, err := b.Card.AddReserve(kept)
		require.NoError(t, err)
	}
	require.NoError(t, b.Card.Check())
	return panel.Resolve(b.Card, b.Sheet)
}

// Whatever is kept, and however, the plan is without fault: masks are laid on what is dry,
// painted over once they are, kept from heat, and off in time.
func TestAnythingMaskedIsPlanned(t *testing.T) {
	n := uint64(80)
	if testing.Short() {
		n = 12
	}
	laid := 0
	for seed := range n {
		b := masked(t, seed)
		p, err := steps.Compile(b, steps.UsualBench())
		require.NoError(t, err, "seed %d", seed)
		sch, err := solver.Solve(context.Background(), p.Instance, solver.Budget{Iterations: 60, Seed: 1})
		require.NoError(t, err, "seed %d", seed)
		data, err := json.Marshal(plan.Of(b.Card, p, sch))
		require.NoError(t, err)
		if dir := os.Getenv("CHROMAQUA_PLANS"); dir != "" {
			require.NoError(t, os.WriteFile(filepath.Join(dir, fmt.Sprintf("masked%d.json", seed)), data, 0o644))
		}
		faults, err := plancheck.Faults(data, false)
		require.NoError(t, err)
		assert.Empty(t, faults, "seed %d", seed)
		for _, s := range p.Steps {
			if s.Kind == steps.Mask {
				laid++
			}
		}
	}
	assert.Greater(t, laid, int(n)/2)
}

// Fluid between two stampings of the same image: it is off before the stamp comes down there
// again, or laid once that ink is dry.
func TestFluidBetweenTwoStampings(t *testing.T) {
	for _, way := range []mask.Way{mask.Fluid, mask.Tape, mask.Film} {
		s := job(t, 4)
		c := s.Card
		fur := c.Areas[0]
		_, err := c.AddReserve(card.Reserve{Name: "Fur", Way: way, Areas: []string{fur.ID}})
		require.NoError(t, err)
		for _, under := range []card.Ref{"", card.WashRef(fur.ID, 0)} {
			c.Reserves[0].Under = under
			data, made, _ := madeJob(t, s, 1)
			faults, err := plancheck.Faults(data, false)
			require.NoError(t, err)
			assert.Empty(t, faults, "%s over %q", way, under)
			on, off := -1, -1
			for i, st := range made.Steps {
				switch st.Kind {
				case "mask":
					on = i
				case "unmask":
					off = i
				}
			}
			for i, st := range made.Steps {
				if st.Kind == "line" && on >= 0 && off >= 0 {
					assert.False(t, i > on && i < off, "%s comes while %s lies there", st.Title, way)
				}
			}
		}
	}
}
