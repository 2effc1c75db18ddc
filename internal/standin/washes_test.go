package standin_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/drying"
	"chromaqua/core/proof"
	"chromaqua/core/wash"
	"chromaqua/internal/standin"
)

// The practice scanner's card, tilted and noisy, tells the hand that painted it.
func TestWashesAreReadThroughTheScanner(t *testing.T) {
	paper, rate := wash.PaperOf(drying.Cotton, wash.ColdPressed), drying.StillRoom.Rate(40*42)
	for seed, h := range map[uint64]wash.Hand{3: {Spread: 1.3, Rim: 0.7, Grain: 1.3}, 4: {Spread: 0.8, Rim: 1.4, Grain: 0.8}} {
		card, err := standin.Washes(context.Background(), paper, h, rate, seed, 6)
		require.NoError(t, err)
		level, err := proof.Level(standin.Usual(seed).Scan(card, 6), 6)
		require.NoError(t, err)
		f, err := wash.ReadTestCard(level, 6)
		require.NoError(t, err)
		got, err := wash.FitHand(context.Background(), f, paper, rate)
		require.NoError(t, err)
		t.Logf("%+v read as %+v", h, got)
		assert.InEpsilon(t, h.Spread, got.Spread, 0.40)
		assert.InEpsilon(t, h.Rim, got.Rim, 0.40)
		assert.InEpsilon(t, h.Grain, got.Grain, 0.40)
	}
}
