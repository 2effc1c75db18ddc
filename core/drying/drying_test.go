package drying_test

import (
	"fmt"
	"math"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/drying"
)

func Example() {
	t := drying.Cotton.Until(drying.TouchDry, drying.FlatWash, 10*10, drying.StillRoom)
	fmt.Println(t.Round(time.Minute))
	// Output: 9m0s
}

// The places the anchors speak of, mm²: a panel within its tape, 1 cm², a spot of
// 3 mm.
const (
	sheet  = 12_000.0
	square = 100.0
	spot   = math.Pi * 1.5 * 1.5
)

// The anchors of the model: 21 °C, 50 % humidity, still air. Each is held to two
// in a hundred.
func TestAnchors(t *testing.T) {
	room := drying.StillRoom
	for area, rate := range map[float64]float64{sheet: 2.06, square: 3.9, spot: 9.6} {
		assert.InEpsilon(t, rate, room.Rate(area), 0.02, "g/m² per minute from %g mm²", area)
	}
	for _, c := range []struct {
		on      drying.Surface
		stage   drying.Stage
		load    drying.GramsPerSquareMetre
		area    float64
		minutes float64
	}{
		{drying.Cotton, drying.TouchDry, drying.FlatWash, sheet, 17.7}, {drying.Cotton, drying.TouchDry, drying.FlatWash, square, 9.3},
		{drying.Cotton, drying.TouchDry, drying.FlatWash, spot, 3.8}, {drying.Cotton, drying.TouchDry, drying.WetOnWet, sheet, 43},
		{drying.Cotton, drying.TouchDry, drying.DampLeft, sheet, 6.1}, {drying.Cotton, drying.TouchDry, drying.DampLeft, square, 3.2},
		{drying.Cotton, drying.TouchDry, drying.DampLeft, spot, 1.3},
		{drying.Pulp, drying.Sheen, drying.FlatWash, sheet, 4.9}, {drying.Pulp, drying.Damp, drying.FlatWash, sheet, 9.7},
		{drying.Pulp, drying.TouchDry, drying.FlatWash, sheet, 16.4},
	} {
		assert.InEpsilon(t, c.minutes, c.on.Until(c.stage, c.load, c.area, room).Minutes(), 0.02, "%g on %g mm² until %v", c.load, c.area, c.stage)
	}
	humid := drying.Room{Celsius: 21, Humidity: 0.7, Air: 0.1}
	warm := drying.Room{Celsius: 26, Humidity: 0.3, Air: 0.1}
	assert.InDelta(t, 1.7, room.Rate(sheet)/humid.Rate(sheet), 0.1)
	assert.InDelta(t, 0.5, room.Rate(sheet)/warm.Rate(sheet), 0.1)
}

// The rate away from the anchors, worked out once by another program.
func TestRateElsewhere(t *testing.T) {
	assert.InEpsilon(t, 7.5884, drying.Room{Celsius: 30, Humidity: 0.4, Air: 0.1}.Rate(100), 0.001)
	assert.InEpsilon(t, 2.0509, drying.Room{Celsius: 10, Humidity: 0.8, Air: 0.5}.Rate(7), 0.001)
	assert.Positive(t, drying.Room{Celsius: 5, Humidity: 0.95}.Rate(0), "a point in a cold, damp room")
	for _, r := range []drying.Room{{Celsius: 5, Humidity: 0.05}, {Celsius: 45, Humidity: 0.95, Air: 5}} {
		assert.NoError(t, r.Check(), "the limits are rooms too")
	}
}

// Heat takes water by the minute: a panel of a flat wash in a minute and a half, of
// a soaked one in under four, a dab in the shortest pass there is, whatever the room.
func TestHeating(t *testing.T) {
	at := func(load drying.GramsPerSquareMetre, area float64) float64 {
		return drying.Cotton.Heating(drying.TouchDry, load, area).Seconds()
	}
	assert.InDelta(t, (38-5)*0.012/0.3*60, at(drying.FlatWash, sheet), 1)
	assert.InDelta(t, 204, at(drying.WetOnWet, sheet), 1)
	assert.Equal(t, drying.HeatLeast.Seconds(), at(drying.FlatWash, square))
	assert.Zero(t, at(3, sheet), "touch-dry already")
	assert.Greater(t, drying.Cotton.Heating(drying.BoneDry, drying.FlatWash, sheet), drying.Cotton.Heating(drying.TouchDry, drying.FlatWash, sheet))
}

func TestStages(t *testing.T) {
	for load, want := range map[drying.GramsPerSquareMetre]drying.Stage{
		120: drying.Puddle, 50: drying.Gloss, 45: drying.Gloss, 30: drying.Sheen, 25: drying.Sheen, 10: drying.Damp, 3: drying.TouchDry, 1: drying.BoneDry,
	} {
		assert.Equal(t, want, drying.Cotton.Stage(load))
	}
	assert.Equal(t, drying.Gloss, drying.Pulp.Stage(30), "pulp shines longer than it stays open")
	assert.Equal(t, drying.Damp, drying.Pulp.Stage(17))

	// The load below which each stage begins, g/m², and the critical load.
	for s, want := range map[*drying.Surface][6]drying.GramsPerSquareMetre{
		&drying.Cotton: {110, 45, 25, 5, 1.5, 12}, &drying.Pulp: {110, 28, 18, 5, 1.5, 8}, &drying.Sealed: {90, 35, 25, 5, 1.5, 9},
	} {
		got := [6]drying.GramsPerSquareMetre{5: s.Critical()}
		for i := range 5 {
			got[i] = s.Below(drying.Stage(i + 1))
		}
		assert.Equal(t, want, got)
		assert.Equal(t, drying.Puddle, s.Stage(want[0]), "it begins below the limit")
		assert.Equal(t, drying.Gloss, s.Stage(want[0]-0.01))
	}
}

// Waiting until a stage, and asking what is left then, agree, as far as whole
// seconds tell; also where drying was found to take longer.
func TestUntilAndLoadAfterAgree(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		usual := rapid.SampledFrom([]drying.Surface{drying.Cotton, drying.Pulp, drying.Sealed}).Draw(t, "surface")
		s := usual.Calibrated(rapid.Float64Range(0.5, 3).Draw(t, "longer"))
		load := drying.GramsPerSquareMetre(rapid.Float64Range(2, 150).Draw(t, "load"))
		area := rapid.Float64Range(1, 40000).Draw(t, "mm²")
		room := drying.Room{Celsius: rapid.Float64Range(10, 35).Draw(t, "°C"), Humidity: rapid.Float64Range(0.2, 0.8).Draw(t, "RH"), Air: 0.1}
		stage := drying.Stage(rapid.IntRange(int(drying.Gloss), int(drying.BoneDry)).Draw(t, "stage"))
		d := s.Until(stage, load, area, room)
		require.GreaterOrEqual(t, s.Stage(s.LoadAfter(d+2*time.Second, load, area, room)), stage)
		if d > 0 { // Until says whole seconds
			late := 2 / time.Minute.Seconds() * room.Rate(area) // dries in two of them
			require.InDelta(t, float64(s.Below(stage)), float64(s.LoadAfter(d, load, area, room)), late+1e-6)
		}
		require.LessOrEqual(t, d, s.Until(stage, load+5, area, room), "more water takes longer")
	})
}

// What dries twice as slowly takes twice as long.
func TestCalibrated(t *testing.T) {
	for _, stage := range []drying.Stage{drying.Damp, drying.TouchDry, drying.BoneDry} {
		usual := drying.Cotton.Until(stage, drying.FlatWash, square, drying.StillRoom)
		slow := drying.Cotton.Calibrated(2)
		assert.InDelta(t, 2*usual.Seconds(), slow.Until(stage, drying.FlatWash, square, drying.StillRoom).Seconds(), 1)
		assert.InDelta(t, float64(drying.Cotton.LoadAfter(usual, drying.FlatWash, square, drying.StillRoom)), float64(slow.LoadAfter(2*usual, drying.FlatWash, square, drying.StillRoom)), 1e-9)
	}
}

func TestImpossibleRoomsAreRefused(t *testing.T) {
	require.NoError(t, drying.StillRoom.Check())
	for _, r := range []drying.Room{{Celsius: 90, Humidity: 0.5}, {Celsius: 20, Humidity: 1.2}, {Celsius: 20, Humidity: 0.5, Air: -1}} {
		assert.Error(t, r.Check())
	}
}
