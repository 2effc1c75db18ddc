package panel

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"
)

// The sweep finds what trying every rectangle finds.
func TestRoomiestAgainstTryingAll(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		w, h := rapid.IntRange(1, 9).Draw(t, "w"), rapid.IntRange(1, 9).Draw(t, "h")
		clear := make([][]bool, h)
		for y := range clear {
			clear[y] = make([]bool, w)
			for x := range clear[y] {
				clear[y][x] = rapid.IntRange(0, 3).Draw(t, "clear") > 0
			}
		}
		wide, high := rapid.IntRange(1, 4).Draw(t, "wide"), rapid.IntRange(1, 4).Draw(t, "high")
		best := 0.0
		for y0 := range h {
			for x0 := range w {
				for y1 := y0 + 1; y1 <= h; y1++ {
					for x1 := x0 + 1; x1 <= w; x1++ {
						all := true
						for _, row := range clear[y0:y1] {
							for _, c := range row[x0:x1] {
								all = all && c
							}
						}
						if grows := min(float64(x1-x0)/float64(wide), float64(y1-y0)/float64(high)); all && grows >= 1 {
							best = max(best, grows)
						}
					}
				}
			}
		}
		x, y, rw, rh := roomiest(clear, wide, high)
		if best == 0 {
			assert.Zero(t, rw)
			return
		}
		assert.Equal(t, best, min(float64(rw)/float64(wide), float64(rh)/float64(high)))
		for _, row := range clear[y : y+rh] {
			assert.NotContains(t, row[x:x+rw], false)
		}
	})
}
