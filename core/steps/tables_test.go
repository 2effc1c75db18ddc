package steps

import (
	"testing"

	"github.com/stretchr/testify/assert"

	"chromaqua/core/technique"
)

// Every technique makes a layer, and every layer over every other one row with a reason.
func TestTablesAreWhole(t *testing.T) {
	for _, t1 := range technique.Kinds() {
		_, known := lying[t1.Facts().Lies]
		assert.True(t, known, "what %s leaves has no layer", t1)
		assert.Contains(t, []Kind{Paint, Wet, Lift, Blot, Splatter, Strew, Detail}, Kind(t1.Facts().Act), t1)
	}
	laid := []layer{aWash, anOpaque, drops, aPencil, aPen, rubbed, aCrayon}
	rows := map[[2]layer]int{}
	for _, w := range waits {
		rows[[2]layer{w.above, w.below}]++
		assert.NotEmpty(t, w.reason)
	}
	for _, above := range append(laid, handling) {
		for _, below := range append(laid, theLine) {
			assert.Equal(t, 1, rows[[2]layer{above, below}], "%d over %d", above, below)
		}
	}
	assert.Equal(t, boneDry, waitFor(handling, aWash).until)
	assert.Equal(t, boneDry, waitFor(aPen, aWash).until)
	assert.Equal(t, touchDry, waitFor(aWash, aWash).until)
	assert.Panics(t, func() { waitFor(theLine, aPen) })
}

// exact is the least number of colours a graph takes, by trying.
func exact(near [][]int) int {
	colour := make([]int, len(near))
	var fits func(v, most int) bool
	fits = func(v, most int) bool {
		if v == len(near) {
			return true
		}
		for k := 1; k <= most; k++ {
			free := true
			for _, u := range near[v] {
				free = free && (u >= v || colour[u] != k)
			}
			if free {
				if colour[v] = k; fits(v+1, most) {
					return true
				}
			}
		}
		return false
	}
	for most := 0; ; most++ {
		if fits(0, most) {
			return most
		}
	}
}

// Rounds are as few as it takes on the graphs that drawings make: rings of petals with
// a heart, rows, grids.
func TestColours(t *testing.T) {
	graph := func(n int, edges ...[2]int) [][]int {
		near := make([][]int, n)
		for _, e := range edges {
			near[e[0]], near[e[1]] = append(near[e[0]], e[1]), append(near[e[1]], e[0])
		}
		return near
	}
	all := map[string][][]int{"none": nil, "one": graph(1)}
	for n := 3; n <= 9; n++ { // a ring, and a ring about a heart
		var ring, wheel [][2]int
		for i := range n {
			ring = append(ring, [2]int{i, (i + 1) % n})
			wheel = append(wheel, [2]int{i, (i + 1) % n}, [2]int{i, n})
		}
		all["ring of "+string(rune('0'+n))], all["wheel of "+string(rune('0'+n))] = graph(n, ring...), graph(n+1, wheel...)
	}
	var grid [][2]int
	for y := range 3 {
		for x := range 4 {
			if x < 3 {
				grid = append(grid, [2]int{y*4 + x, y*4 + x + 1})
			}
			if y < 2 {
				grid = append(grid, [2]int{y*4 + x, y*4 + x + 4})
			}
		}
	}
	all["grid"] = graph(12, grid...)
	for name, near := range all {
		got := colours(near)
		most := 0
		for v, c := range got {
			most = max(most, c+1)
			for _, u := range near[v] {
				assert.NotEqual(t, c, got[u], "%s: %d and %d", name, v, u)
			}
		}
		assert.Equal(t, exact(near), most, name)
	}
}

func TestLetters(t *testing.T) {
	assert.Equal(t, "", letter(0, 1))
	assert.Equal(t, "a", letter(0, 2))
	assert.Equal(t, "z", letter(25, 30))
	assert.Equal(t, "aa", letter(26, 30))
	assert.Equal(t, "ba", letter(52, 60))
}
