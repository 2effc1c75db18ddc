package settings_test

import (
	"encoding/json"
	"fmt"
	"math"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/drying"
	"chromaqua/core/settings"
)

func ExampleDecode() {
	s, err := settings.Decode([]byte(`{"pace": 3, "hand": "left"}`))
	fmt.Println(s.Pace, s.Hand, s.HeatCM2, s.Rack, err)
	// Output: 3 left 25 11 <nil>
}

// What a maker may set, at its limits, and what is refused with words that say what to do.
func TestCheck(t *testing.T) {
	require.NoError(t, settings.Default().Check())
	washes := func(spread, rim, grain float64) func(*settings.Settings) {
		return func(s *settings.Settings) {
			s.Washes = settings.Washes{Spread: spread, Rim: rim, Grain: grain, Paper: "cotton"}
		}
	}
	sensor := func(at string) func(*settings.Settings) { return func(s *settings.Settings) { s.Sensor = at } }
	maker := func(name string) func(*settings.Settings) { return func(s *settings.Settings) { s.Maker = name } }
	for _, change := range []func(*settings.Settings){
		func(s *settings.Settings) { s.Pace = settings.MinPace }, func(s *settings.Settings) { s.Pace = settings.MaxPace },
		func(s *settings.Settings) { s.Hand = settings.Left }, func(s *settings.Settings) { s.Degrees = drying.Fahrenheit },
		func(s *settings.Settings) { s.HeatCM2, s.Rack = 0, 0 }, func(s *settings.Settings) { s.HeatCM2, s.Rack = settings.MaxHeatCM2, settings.MaxRack },
		washes(settings.MinWash, 1, settings.MaxWash), washes(1, settings.MaxWash, settings.MinWash),
		sensor(settings.SimulatedSensor), sensor("http://room.local/now"), sensor("https://10.0.0.7:81"),
		maker("Åsa Q."), maker(strings.Repeat("ö", settings.MaxMaker)),
	} {
		s := settings.Default()
		change(&s)
		assert.NoError(t, s.Check(), "%+v", s)
	}
	for _, c := range []struct {
		why    string
		change func(*settings.Settings)
	}{
		{"a pace of 0", func(s *settings.Settings) { s.Pace = 0 }}, {"a pace of 7", func(s *settings.Settings) { s.Pace = 7 }},
		{"no hand", func(s *settings.Settings) { s.Hand = "both" }}, {"no scale of temperatures", func(s *settings.Settings) { s.Degrees = "kelvin" }},
		{"0 to 1000 cm²", func(s *settings.Settings) { s.HeatCM2 = -1 }}, {"0 to 1000 cm²", func(s *settings.Settings) { s.HeatCM2 = 1001 }},
		{"0 to 200 wet", func(s *settings.Settings) { s.Rack = -1 }}, {"0 to 200 wet", func(s *settings.Settings) { s.Rack = 201 }},
		{"a factor of 0.25 to 4", washes(0.24, 1, 1)}, {"a factor of 0.25 to 4", washes(1, 4.1, 1)}, {"a factor of 0.25 to 4", washes(1, 1, 0)}, {"a factor of 0.25 to 4", washes(1, 1, math.NaN())},
		{"begins with http://", sensor("room.local")}, {"begins with http://", sensor("ftp://room.local/x")}, {"begins with http://", sensor("http://")},
		{"begins with http://", sensor("http://room.local/" + strings.Repeat("x", 300))}, {"begins with http://", sensor("http://%zz")},
		{"at most 60 characters", maker(strings.Repeat("ö", settings.MaxMaker+1))}, {"on one line", maker("a\nb")}, {"at most 60", maker("\xff")},
		{"", func(s *settings.Settings) { s.Schools.Fold = "sideways" }},
	} {
		s := settings.Default()
		c.change(&s)
		assert.ErrorContains(t, s.Check(), c.why, "%+v", s)
	}
	_, err := settings.Decode([]byte(`{"maker":"` + strings.Repeat(" ", settings.MaxJSON) + `"}`))
	assert.ErrorContains(t, err, "too large")
}

func FuzzDecode(f *testing.F) {
	f.Add([]byte(`{"pace":2,"hand":"right","heat_cm2":25,"rack":11}`))
	f.Add([]byte(`{"pace":1e999}`))
	f.Fuzz(func(t *testing.T, data []byte) {
		s, err := settings.Decode(data)
		if err != nil {
			return
		}
		require.NoError(t, s.Check())
		again, err := json.Marshal(s)
		require.NoError(t, err)
		read, err := settings.Decode(again)
		require.NoError(t, err)
		require.Equal(t, s, read)
	})
}
