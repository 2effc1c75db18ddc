package lineart

import (
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
)

// Distances and nearest sites are those that looking at every pair finds.
func TestDistancesAgainstEveryPair(t *testing.T) {
	rng := rand.New(rand.NewPCG(3, 4))
	for n := range 60 {
		w, h := 1+rng.IntN(70), 1+rng.IntN(70)
		share := []float64{0, 0.002, 0.05, 0.5, 0.95, 1}[n%6]
		site := make([]bool, w*h)
		var sites []int
		for i := range site {
			if site[i] = rng.Float64() < share; site[i] {
				sites = append(sites, i)
			}
		}
		dist2 := distanceTo(w, h, site)
		to := make([]int32, w*h)
		nearest := nearestTo(w, h, site, to)
		for i := range site {
			best := int32(1 << 30)
			for _, j := range sites {
				dx, dy := int32(i%w-j%w), int32(i/w-j/w)
				best = min(best, dx*dx+dy*dy)
			}
			if len(sites) == 0 {
				require.Equal(t, int32(-1), nearest[i])
				continue
			}
			require.Equal(t, best, dist2[i])
			require.Equal(t, best, to[i])
			j := int(nearest[i])
			require.True(t, site[j])
			dx, dy := int32(i%w-j%w), int32(i/w-j/w)
			require.Equal(t, best, dx*dx+dy*dy)
		}
	}
}
