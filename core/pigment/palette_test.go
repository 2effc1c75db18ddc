package pigment_test

import (
	"bytes"
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/pigment"
)

func TestPalettes(t *testing.T) {
	text := "GIMP Palette\nName: Dusk\nColumns: 4\n# a note\n\n122 143 194\tevening  blue\n  0   0   0\n255 255 255 white\n"
	got, err := pigment.ReadGPL(strings.NewReader(text))
	require.NoError(t, err)
	assert.Equal(t, []pigment.Swatch{{Name: "evening blue", Hex: "#7a8fc2"}, {Hex: "#000000"}, {Name: "white", Hex: "#ffffff"}}, got)
	var buf bytes.Buffer
	require.NoError(t, pigment.WriteGPL(&buf, "two\nlines", got))
	assert.True(t, strings.HasPrefix(buf.String(), "GIMP Palette\nName: two lines\n#\n122 143 194\tevening blue\n"))
	again, err := pigment.ReadGPL(&buf)
	require.NoError(t, err)
	assert.Equal(t, got, again)
	assert.Error(t, pigment.WriteGPL(&buf, "x", []pigment.Swatch{{Hex: "blue"}}))

	for why, text := range map[string]string{
		"is no palette":           "P3\n",
		"cannot be read":          "GIMP Palette\n" + strings.Repeat("x", 70_000),
		"line 2 of the palette":   "GIMP Palette\nred\n",
		"256 is outside 0 to 255": "GIMP Palette\n256 0 0\n",
		"no colours":              "GIMP Palette\n",
		"more than 256 colours":   "GIMP Palette\n" + strings.Repeat("1 2 3\n", 10_000),
	} {
		_, err := pigment.ReadGPL(strings.NewReader(text))
		assert.ErrorContains(t, err, why)
	}
}

func FuzzReadGPL(f *testing.F) {
	f.Add("GIMP Palette\nName: x\n#\n1 2 3\ta b\n")
	f.Fuzz(func(t *testing.T, text string) {
		all, err := pigment.ReadGPL(strings.NewReader(text))
		if err != nil {
			return
		}
		var buf bytes.Buffer
		require.NoError(t, pigment.WriteGPL(&buf, "x", all))
		again, err := pigment.ReadGPL(&buf)
		require.NoError(t, err)
		require.Len(t, again, len(all))
	})
}

// From a display's colour to CIELAB and back nothing is lost.
func TestLabAndBack(t *testing.T) {
	rapid.Check(t, func(rt *rapid.T) {
		hex := fmt.Sprintf("#%06x", rapid.IntRange(0, 0xffffff).Draw(rt, "colour"))
		c, err := pigment.ParseHex(hex)
		require.NoError(t, err)
		if got := c.Lab().RGB().Hex(); got != hex {
			rt.Fatalf("%s came back as %s", hex, got)
		}
	})
}
