package drying_test

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/drying"
)

func TestTemperatures(t *testing.T) {
	for text, want := range map[string]float64{
		"21": 21, " 21,5 ": 21.5, "21 °C": 21, "21c": 21, "45": 45,
		"70": 21.111, "69.8 °F": 21, "69.8f": 21, "41 F": 5, "113": 45,
	} {
		got, err := drying.ParseTemperature(text)
		require.NoError(t, err, text)
		assert.InDelta(t, want, got, 1e-3, text)
	}
	for _, text := range []string{"", "warm", "NaN", "inf F", "21 K", "°C", "2 1"} {
		_, err := drying.ParseTemperature(text)
		assert.ErrorContains(t, err, "21 °C or 70 °F", text)
	}
	room := drying.StillRoom
	assert.Equal(t, "21 °C, 50 %", room.Told(drying.Celsius))
	assert.Equal(t, "69.8 °F, 50 %", room.Told(drying.Fahrenheit))
	room.Celsius = 46
	assert.ErrorContains(t, room.Check(), "41 to 113 °F")
}

func TestRoomsAreRead(t *testing.T) {
	room, err := drying.ParseRoom("68 F", " 47,5")
	require.NoError(t, err)
	assert.Equal(t, drying.Room{Celsius: 20, Humidity: 0.475, Air: drying.StillRoom.Air}, room)
	for _, percent := range []string{"", "damp", "NaN", "inf"} {
		_, err := drying.ParseRoom("20", percent)
		assert.ErrorContains(t, err, "humidity", percent)
	}
	_, err = drying.ParseRoom("", "50")
	assert.ErrorContains(t, err, "no temperature")
}

// What is shown may be typed again, in either scale.
func TestTemperaturesAreTypedAsShown(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		c := rapid.Float64Range(5, 45).Draw(t, "°C")
		for _, d := range []drying.Degrees{drying.Celsius, drying.Fahrenheit} {
			got, err := drying.ParseTemperature(d.Say(c))
			require.NoError(t, err)
			assert.InDelta(t, c, got, 0.0501, d.Say(c))
		}
	})
}
