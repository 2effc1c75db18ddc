package plan_test

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/order/solver"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/plan"
	"chromaqua/core/plan/plancheck"
	"chromaqua/core/steps"
)

// madeJob is the plan of a job as JSON.
func madeJob(t testing.TB, j jobs.Job, copies int) ([]byte, *plan.Plan, *steps.Plan) {
	s := j.Make()
	s.Card.Copies = copies
	require.NoError(t, s.Card.Check())
	pieces, err := s.Pieces(context.Background())
	require.NoError(t, err)
	p, err := steps.CompileAll(pieces, s.Card, steps.UsualBench())
	require.NoError(t, err)
	sch, err := solver.Solve(context.Background(), p.Instance, solver.Budget{Iterations: 300, Seed: 1})
	require.NoError(t, err)
	made := plan.Of(s.Card, p, sch)
	data, err := json.Marshal(made)
	require.NoError(t, err)
	return data, made, p
}

// Real jobs are planned without fault, one card and three.
func TestJobsArePlannedWithoutFault(t *testing.T) {
	for _, j := range jobs.All() {
		for _, copies := range []int{1, 3} {
			t.Run(fmt.Sprintf("%d×%d", j.Number, copies), func(t *testing.T) {
				t.Parallel()
				data, made, p := madeJob(t, j, copies)
				if dir := os.Getenv("CHROMAQUA_PLANS"); dir != "" {
					require.NoError(t, os.WriteFile(filepath.Join(dir, fmt.Sprintf("job%d-%d.json", j.Number, copies)), data, 0o644))
				}
				faults, err := plancheck.Faults(data, false)
				require.NoError(t, err)
				assert.Empty(t, faults)
				for _, s := range p.Pieces {
					assert.NotNil(t, s.Board)
					for _, a := range s.Board.Areas {
						assert.NotEmpty(t, a.Cells, "%s of %s has no place", a.Name, s.Name)
						assert.Empty(t, a.Lost, a.Name)
					}
				}
				assert.NotEmpty(t, made.Steps)
			})
		}
	}
}
