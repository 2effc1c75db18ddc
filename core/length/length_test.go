package length_test

import (
	"fmt"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/length"
)

func ExampleParse() {
	l, _ := length.Parse("4 1/4", length.Inches)
	fmt.Println(l, "is", l.With(length.Millimetres))
	// Output: 4 1/4 in is about 108 mm
}

func TestParse(t *testing.T) {
	in := func(n, d int64) length.Length { return length.Inch * length.Length(n) / length.Length(d) }
	for text, want := range map[string]length.Length{
		"4 1/4": in(17, 4), "4-1/4": in(17, 4), "4¼": in(17, 4), "4.25": in(17, 4), "4.25 in": in(17, 4),
		`4.25"`: in(17, 4), "4,25 inches": in(17, 4), "108mm": 108 * length.Millimetre, "10.8 cm": 108 * length.Millimetre,
		"1/8": in(1, 8), "9/8 in": in(9, 8), " 5 ⅞ ": in(47, 8), ".5": in(1, 2), "1/3": 8466667, "2 m m": 0,
	} {
		got, err := length.Parse(text, length.Inches)
		if want == 0 {
			assert.Error(t, err, text)
			continue
		}
		require.NoError(t, err, text)
		assert.Equal(t, want, got, text)
	}
	got, err := length.Parse("105", length.Millimetres)
	require.NoError(t, err)
	assert.Equal(t, 105*length.Millimetre, got)
}

func TestParseRefusesWithAReason(t *testing.T) {
	for text, why := range map[string]string{
		"": "type a number", "0": "more than nothing", "-3": "negative", "four": "expected a number", "1e9": "expected a number",
		"3/0": "0 below the line", "4 5/4": "less than 1", "4 1/4 in x": "expected", "NaN": "expected", "inf": "expected",
		"2001 mm": "longer than 2 m", "99999999999999999999": "longer than 2 m", "1 2 3": "expected", "4.2.5": "expected",
		"1.5 1/2": "whole number before", strings.Repeat("9", 5000): "too long", "<b>4</b>": "expected", "/": "expected",
	} {
		_, err := length.Parse(text, length.Inches)
		require.Error(t, err, text)
		assert.Contains(t, err.Error(), why, text)
		assert.Less(t, len(err.Error()), 300)
	}
}

func TestParseOffset(t *testing.T) {
	for text, want := range map[string]length.Length{"-1/4": -length.Inch / 4, "−3 mm": -3 * length.Millimetre, "0": 0} {
		got, err := length.ParseOffset(text, length.Inches)
		require.NoError(t, err)
		assert.Equal(t, want, got)
	}
	_, err := length.ParseOffset("--1", length.Inches)
	assert.Error(t, err)
}

func TestParseSize(t *testing.T) {
	for _, text := range []string{"5 1/8 x 9", "5⅛×9 in", "5.125 by 9"} {
		s, err := length.ParseSize(text, length.Inches)
		require.NoError(t, err, text)
		assert.Equal(t, length.Size{W: length.Inch * 41 / 8, H: 9 * length.Inch}, s, text)
	}
	s, err := length.ParseSize("105 x 148 mm", length.Inches)
	require.NoError(t, err)
	assert.Equal(t, "105 × 148 mm", s.With(length.Millimetres))
	for _, text := range []string{"", "5", "x", "5 x", "5 x -2", "5 x 0"} {
		_, err := length.ParseSize(text, length.Inches)
		assert.Error(t, err, text)
	}
}

func TestPrint(t *testing.T) {
	assert.Equal(t, "4 3/16", (length.Inch * 67 / 16).In(length.Inches))
	assert.Equal(t, "1/32", (length.Inch / 32).In(length.Inches))
	assert.Equal(t, "63/64", (length.SixtyFourth * 63).In(length.Inches))
	assert.Equal(t, "about 4 1/8", (105 * length.Millimetre).In(length.Inches))
	assert.Equal(t, "107.5", (length.Millimetre * 1075 / 10).In(length.Millimetres))
	assert.Equal(t, "3.2", (length.Millimetre * 32 / 10).In(length.Millimetres))
	assert.Equal(t, "-1/4", (-length.Inch / 4).In(length.Inches))
}

// What Print can show exactly, Parse reads back as the same length.
func TestPrintThenParseIsTheIdentity(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		u := rapid.SampledFrom([]length.Unit{length.Inches, length.Millimetres}).Draw(t, "unit")
		l := length.SixtyFourth * length.Length(rapid.Int64Range(1, 5000).Draw(t, "64ths"))
		if u == length.Millimetres {
			l = length.Millimetre / 10 * length.Length(rapid.Int64Range(1, 20000).Draw(t, "tenths"))
		}
		got, err := length.Parse(l.In(u), u)
		require.NoError(t, err)
		assert.Equal(t, l, got)
	})
}

// The text form, used in card files, is exact for every length.
func TestTextIsExact(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := length.Length(rapid.Int64Range(-int64(length.Max), int64(length.Max)).Draw(t, "nm"))
		b, err := l.MarshalText()
		require.NoError(t, err)
		var got length.Length
		require.NoError(t, got.UnmarshalText(b))
		assert.Equal(t, l, got)
	})
}

func FuzzParse(f *testing.F) {
	for _, s := range []string{"4 1/4", "4¼", "3/0", "1e9", "-", "−", `"`, "5 x 4", "½½"} {
		f.Add(s)
	}
	f.Fuzz(func(t *testing.T, s string) {
		if l, err := length.Parse(s, length.Inches); err == nil && (l <= 0 || l > length.Max) {
			t.Fatalf("%q gave %d", s, l)
		}
		_, _ = length.ParseSize(s, length.Millimetres)
	})
}

func TestNearAndTyped(t *testing.T) {
	c6 := length.Size{W: 162 * length.Millimetre, H: 114 * length.Millimetre}
	assert.Equal(t, "6 3/8 × 4 1/2 in", c6.Near(length.Inches))
	assert.Equal(t, "162 × 114 mm", c6.Near(length.Millimetres))
	assert.Equal(t, "108 mm", (17 * length.Inch / 4).Near(length.Millimetres))
	assert.Equal(t, "under 1/16 in", length.FromMM(0.5).Near(length.Inches), "it is not nothing")
	assert.Equal(t, "under 0.5 mm", length.FromMM(0.2).Near(length.Millimetres))
	assert.Equal(t, "0 in", length.Length(0).Near(length.Inches))
	for mm2, want := range map[float64][2]string{
		0.4: {"under 0.01 sq in", "under 1 mm²"}, 200: {"0.31 sq in", "200 mm²"}, 2500: {"3.9 sq in", "25 cm²"},
	} {
		assert.Equal(t, want, [2]string{length.Area(mm2, length.Inches), length.Area(mm2, length.Millimetres)})
	}
	assert.Equal(t, "4 1/4", (17 * length.Inch / 4).Typed(length.Inches))
	assert.Equal(t, "6.378", c6.W.Typed(length.Inches))
	assert.Equal(t, "107.95", (17 * length.Inch / 4).Typed(length.Millimetres))
}

// What Typed prints can be typed again, and means nearly the same.
func TestTypedCanBeTyped(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		l := length.Length(rapid.Int64Range(int64(length.Millimetre), int64(length.Max)).Draw(t, "nm"))
		for _, u := range []length.Unit{length.Inches, length.Millimetres} {
			back, err := length.Parse(l.Typed(u), u)
			require.NoError(t, err)
			require.InDelta(t, float64(l), float64(back), 15_000, "within 15 µm")
		}
	})
}
