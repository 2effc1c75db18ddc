package practice_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"chromaqua/core/drying"
	"chromaqua/core/practice"
)

func ExampleExercise_Judge() {
	e := practice.Of(4)
	fmt.Println(e.Asks)
	fmt.Println(e.Says(drying.Celsius))
	r := e.Judge(e.Ends[3] + time.Second)
	fmt.Println(r.Stage, r.Good, r.Says)
	// Output:
	// Lay a second coat over it.
	// a thumb's length of wood pulp, 21 °C and 35 %, shown 91 times faster
	// touch-dry true The glaze lies clean on it.
}

// What goes well does so exactly in its stages, and a miss never scores as much as a hit.
func TestJudge(t *testing.T) {
	good := map[practice.Task][2]drying.Stage{
		practice.DropIn: {drying.Gloss, drying.Gloss}, practice.Stop: {drying.Gloss, drying.Sheen}, practice.Lift: {drying.Sheen, drying.Damp},
		practice.Over: {drying.TouchDry, drying.BoneDry}, practice.Stamp: {drying.BoneDry, drying.BoneDry},
	}
	rapid.Check(t, func(t *rapid.T) {
		e := practice.Of(rapid.Uint64().Draw(t, "seed"))
		at := time.Duration(rapid.IntRange(0, 40_000).Draw(t, "ms")) * time.Millisecond
		r := e.Judge(at)
		in := good[e.Task]
		assert.Equal(t, r.Stage >= in[0] && r.Stage <= in[1], r.Good)
		assert.NotEmpty(t, r.Says)
		if r.Good {
			assert.GreaterOrEqual(t, r.Score, 60)
		} else {
			assert.LessOrEqual(t, r.Score, 55)
		}
		assert.LessOrEqual(t, r.Score, 100)
		assert.GreaterOrEqual(t, r.Score, 0)
		for i := 1; i < len(e.Ends); i++ {
			assert.GreaterOrEqual(t, e.Ends[i], e.Ends[i-1])
		}
		assert.InDelta(t, (24 * time.Second).Seconds(), e.Ends[4].Seconds(), 0.5)
		assert.InDelta(t, 1, e.Share(0), 1e-9)
		assert.Less(t, e.Share(30*time.Second), 0.05)
	})
}

// The last good moment is told from the one after it.
func TestTheEdgeOfTheSheen(t *testing.T) {
	for seed := range uint64(400) {
		e := practice.Of(seed)
		if e.Task != practice.Stop || e.Ends[2] < time.Second {
			continue
		}
		assert.True(t, e.Judge(e.Ends[2]-50*time.Millisecond).Good)
		late := e.Judge(e.Ends[2] + 50*time.Millisecond)
		assert.False(t, late.Good)
		assert.InDelta(t, 55, late.Score, 1)
	}
}

// A last touch scores the more the later it is in time; a miss costs by how far off it was, and
// at six seconds all.
func TestScores(t *testing.T) {
	judged := 0
	for seed := range uint64(400) {
		e := practice.Of(seed)
		to := e.Ends[2]
		if e.Task != practice.Stop || to <= time.Second || !e.Judge(0).Good { // it begins at once
			continue
		}
		judged++
		at := func(share float64) int { return e.Judge(time.Duration(share * float64(to))).Score }
		assert.InDelta(t, 60+15, at(0.25), 1)
		assert.InDelta(t, 95, at(0.75), 1)
		assert.Zero(t, e.Judge(to+6*time.Second).Score)
		assert.Greater(t, e.Judge(to+time.Second).Score, e.Judge(to+2*time.Second).Score)
	}
	assert.Positive(t, judged)
}
