package advice_test

import (
	"math/rand/v2"
	"testing"

	"chromaqua/core/advice"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/steps"

	"github.com/stretchr/testify/require"
)

// BenchmarkWatches is what it costs to look a random card over, each change tried.
func BenchmarkWatches(b *testing.B) {
	d := paneltest.Random(b, 3)
	unusual(rand.New(rand.NewPCG(3, 5)), d.Card)
	d = panel.Resolve(d.Card, d.Sheet)
	plan, err := steps.Compile(d, steps.UsualBench())
	require.NoError(b, err)
	f := advice.Gather(d.Card, d, plan, nil)
	for b.Loop() {
		advice.Watches(f)
	}
}
