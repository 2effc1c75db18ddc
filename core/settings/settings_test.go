package settings_test

import (
	"encoding/json"
	"fmt"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/settings"
)

func ExampleDecode() {
	s, err := settings.Decode([]byte(`{"pace": 3, "hand": "left"}`))
	fmt.Println(s.Pace, s.Hand, s.HeatCM2, s.Rack, err)
	// Output: 3 left 25 11 <nil>
}

func TestCheck(t *testing.T) {
	require.NoError(t, settings.Default().Check())
	for why, change := range map[string]func(*settings.Settings){
		"a pace of 0":    func(s *settings.Settings) { s.Pace = 0 },
		"a pace of 7":    func(s *settings.Settings) { s.Pace = 7 },
		"no hand":        func(s *settings.Settings) { s.Hand = "both" },
		"0 to 1000 cm²":  func(s *settings.Settings) { s.HeatCM2 = -1 },
		"0 to 200 wet":   func(s *settings.Settings) { s.Rack = 201 },
		"0 to 1000 cm²:": func(s *settings.Settings) { s.HeatCM2 = 1001 },
	} {
		s := settings.Default()
		change(&s)
		assert.ErrorContains(t, s.Check(), why[:len(why)-1])
	}
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
