package steps_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/learned"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/steps"
)

// What was learned goes into every time of a plan, and is told.
func TestLearnedTimes(t *testing.T) {
	b := paneltest.Random(t, 11)
	bench := steps.UsualBench()
	before, err := steps.Compile(b, bench)
	require.NoError(t, err)
	assert.Equal(t, "Times are estimates.", before.Basis())
	paper := before.PaperOf(&before.Steps[0])
	bench.Learned = learned.Factors{
		learned.Air:  {paper: {By: 1.5, N: 7}},
		learned.Pace: {"flat": {By: 2, N: 3}, string(steps.Tape): {By: 3, N: 2}},
	}
	after, err := steps.Compile(b, bench)
	require.NoError(t, err)
	assert.Contains(t, after.Basis(), "drying on "+paper+" (7 ×) and your pace at taping down (2 ×).")
	longer := 0
	for i := range before.Steps {
		was := &before.Steps[i]
		if was.Kind == steps.Tape {
			assert.Equal(t, 3*was.Dur, after.Steps[i].Dur)
		}
		if len(after.Steps) != len(before.Steps) || was.Water == 0 || was.Dry == 0 || len(was.IntoWet) > 0 {
			continue // goes may be parted otherwise when a wash stays open longer
		}
		assert.InDelta(t, 1.5, float64(after.Steps[i].Dry)/float64(was.Dry), 0.02, was.Title)
		longer++
	}
	assert.Positive(t, longer)
}

// Keys name steps, each another, and the same in a plan that is compiled again at another
// pace.
func TestKeys(t *testing.T) {
	b := paneltest.Random(t, 5)
	bench := steps.UsualBench()
	p, err := steps.Compile(b, bench)
	require.NoError(t, err)
	keys := p.Keys()
	seen := map[string]bool{}
	for i, k := range keys {
		assert.False(t, seen[k], k)
		seen[k] = true
		assert.Less(t, len(k), 300)
		assert.GreaterOrEqual(t, p.Largest(&p.Steps[i]), 0.0)
	}
	bench.Hand = "left"
	again, err := steps.Compile(b, bench)
	require.NoError(t, err)
	assert.Equal(t, keys, again.Keys())
	air, pace, room := p.Expected(&p.Steps[0])
	assert.Equal(t, learned.Factor{By: 1}, air)
	assert.Equal(t, learned.Factor{By: 1}, pace)
	assert.Equal(t, b.Card.Room, room)
}
