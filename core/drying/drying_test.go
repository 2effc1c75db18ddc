package drying_test

import (
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/drying"
)

const hand = 100 * 100.0 // mm²: a wash 10 cm across

func Example() {
	t := drying.Cotton.Until(drying.TouchDry, drying.FlatWash, 10*10, drying.StillRoom)
	fmt.Println(t.Round(time.Minute))
	// Output: 11m0s
}

// The published anchors of the model: 21 °C, 50 % humidity, still air.
func TestAnchors(t *testing.T) {
	room := drying.StillRoom
	assert.InDelta(t, 1.87, room.Rate(hand), 0.02)
	for _, c := range []struct {
		stage   drying.Stage
		load    drying.GramsPerSquareMetre
		area    float64
		minutes float64
	}{
		{drying.TouchDry, 15, 100, 4}, {drying.TouchDry, 40, hand, 20.5}, {drying.BoneDry, 40, hand, 28}, {drying.TouchDry, 90, hand, 47},
	} {
		got := drying.Cotton.Until(c.stage, c.load, c.area, room).Minutes()
		assert.InDelta(t, c.minutes, got, 0.03*c.minutes+0.2, "%v from %v", c.stage, c.load)
	}
	base := drying.Cotton.Until(drying.TouchDry, 40, hand, room).Minutes()
	humid := drying.Cotton.Until(drying.TouchDry, 40, hand, drying.Room{Celsius: 21, Humidity: 0.7, Air: 0.1}).Minutes()
	warm := drying.Cotton.Until(drying.TouchDry, 40, hand, drying.Room{Celsius: 26, Humidity: 0.3, Air: 0.1}).Minutes()
	assert.InDelta(t, 1.7, humid/base, 0.1)
	assert.InDelta(t, 0.5, warm/base, 0.1)
}

func TestStages(t *testing.T) {
	for load, want := range map[drying.GramsPerSquareMetre]drying.Stage{
		120: drying.Puddle, 50: drying.Gloss, 30: drying.Sheen, 10: drying.Damp, 3: drying.TouchDry, 1: drying.BoneDry,
	} {
		assert.Equal(t, want, drying.Cotton.Stage(load))
	}
	assert.Equal(t, drying.Sheen, drying.Pulp.Stage(50), "pulp loses its gloss sooner")
}

// Waiting until a stage, and asking what is left then, agree.
func TestUntilAndLoadAfterAgree(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := rapid.SampledFrom([]drying.Surface{drying.Cotton, drying.Pulp, drying.Sealed}).Draw(t, "surface")
		load := drying.GramsPerSquareMetre(rapid.Float64Range(2, 150).Draw(t, "load"))
		area := rapid.Float64Range(1, 40000).Draw(t, "mm²")
		room := drying.Room{Celsius: rapid.Float64Range(10, 35).Draw(t, "°C"), Humidity: rapid.Float64Range(0.2, 0.8).Draw(t, "RH"), Air: 0.1}
		stage := drying.Stage(rapid.IntRange(int(drying.Gloss), int(drying.BoneDry)).Draw(t, "stage"))
		d := s.Until(stage, load, area, room)
		require.GreaterOrEqual(t, s.Stage(s.LoadAfter(d+2*time.Second, load, area, room)), stage)
		require.LessOrEqual(t, d, s.Until(stage, load+5, area, room), "more water takes longer")
	})
}

func TestImpossibleRoomsAreRefused(t *testing.T) {
	require.NoError(t, drying.StillRoom.Check())
	for _, r := range []drying.Room{{Celsius: 90, Humidity: 0.5}, {Celsius: 20, Humidity: 1.2}, {Celsius: 20, Humidity: 0.5, Air: -1}} {
		assert.Error(t, r.Check())
	}
}
