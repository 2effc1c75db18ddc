package needs_test

import (
	"cmp"
	"context"
	"slices"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/mask"
	"chromaqua/core/mount"
	"chromaqua/core/needs"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/paper"
	"chromaqua/core/steps"
)

// What the twenty jobs use up: paint for each of their pigments, what holds them, twice as
// much for two of them.
func TestWhatJobsUse(t *testing.T) {
	masked := map[mask.Way]bool{}
	for _, j := range jobs.All() {
		s := j.Make()
		pieces, err := s.Pieces(context.Background())
		require.NoError(t, err)
		p, err := steps.CompileAll(pieces, s.Card, steps.UsualBench())
		require.NoError(t, err)
		made, err := mount.Of(s.Card)
		require.NoError(t, err)
		one, two := needs.Of(s.Card, p, made, 1), needs.Of(s.Card, p, made, 2)
		require.Len(t, two, len(one))
		paints := map[string]bool{}
		for _, m := range p.Mixes {
			for _, q := range m.Parts {
				paints[s.Card.Called.Of(q.CI)] = true
			}
		}
		for _, st := range p.Steps {
			if k := st.Kept; st.Kind == steps.Mask && assert.NotNil(t, k, "%s: %s", j.Name, st.Title) && k.With.Facts().Uses != mask.None {
				masked[k.With] = true
				name := cmp.Or(k.Own, k.With.Facts().Bought, k.With.Facts().Name)
				assert.True(t, slices.ContainsFunc(one, func(n paper.Need) bool { return n.Name == name || k.With == mask.Resist && n.What == paper.Powder }), "%s: %s", j.Name, name)
				assert.Positive(t, k.Shape.MM2, name)
			}
		}
		ready := map[string]bool{}
		for _, l := range needs.Ready(s.Card, p, one) {
			for _, thing := range l.Things {
				assert.False(t, ready[l.Kind+thing], "%s lies ready once", thing)
				ready[l.Kind+thing] = true
			}
		}
		for _, st := range p.Steps {
			for _, tool := range st.Tools {
				name, _, _ := strings.Cut(tool, " (")
				assert.True(t, ready["to paint with"+name], "%s: %s", j.Name, tool)
			}
		}
		found, held := 0, false
		for i, n := range one {
			assert.InDelta(t, 2*n.Amount, two[i].Amount, 1e-9, n.Name)
			assert.Positive(t, n.Amount)
			if n.What == paper.Paint {
				found++
				assert.True(t, paints[n.Name], n.Name)
				assert.Less(t, n.Amount, 6.0, "%s: no card takes a tube of %s", j.Name, n.Name)
			}
			held = held || n.What == paper.Adhesive
		}
		assert.Equal(t, len(paints), found, j.Name)
		assert.True(t, held, j.Name)
	}
	assert.GreaterOrEqual(t, len(masked), 3, "masks of several kinds were met: %v", masked)
}
