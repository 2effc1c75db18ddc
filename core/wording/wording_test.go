package wording_test

import (
	"fmt"
	"testing"
	"time"
	"unicode/utf8"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"chromaqua/core/wording"
)

func TestUpper(t *testing.T) {
	for in, want := range map[string]string{
		"": "", "flat": "Flat", "Flat": "Flat", `"sea" ink`: `"sea" ink`, "2 mm of tape": "2 mm of tape", "übermalt": "Übermalt", "ß": "ß", "\xff": "\xff", "éclat": "Éclat",
	} {
		assert.Equal(t, want, wording.Upper(in))
	}
	assert.Equal(t, "It ran.", wording.Sentence("it ran"))
	assert.Equal(t, "It ran.", wording.Sentence("it ran."))
	assert.Empty(t, wording.Sentence(""))
}

// Whatever a name begins with, the rest of it stays and no control character comes out.
func TestUpperKeepsTheRest(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := rapid.String().Draw(t, "s")
		got := wording.Upper(s)
		_, a := utf8.DecodeRuneInString(s)
		_, b := utf8.DecodeRuneInString(got)
		assert.Equal(t, s[a:], got[b:])
		assert.Equal(t, got, wording.Upper(got))
	})
}

func TestLists(t *testing.T) {
	for want, names := range map[string][]string{"": nil, "Sand": {"Sand"}, "Sand and Eyes": {"Sand", "Eyes"}, "Sand, Eyes and Claw": {"Sand", "Eyes", "Claw"}} {
		assert.Equal(t, want, wording.And(names))
	}
	assert.Equal(t, "1 cell", wording.Count(1, "cell"))
	assert.Equal(t, "0 cells", wording.Count(0, "cell"))
}

func ExampleAnd() {
	fmt.Println(wording.Upper(wording.And([]string{"sand", "eyes", "claw"})))
	// Output: Sand, eyes and claw
}

func TestTime(t *testing.T) {
	for want, d := range map[string]time.Duration{
		"0 s": 0, "29 s": 29 * time.Second, "30 s": 32 * time.Second, "35 s": 33 * time.Second, "115 s": 117 * time.Second, "2 min": 118 * time.Second, "2 1/2 min": 135 * time.Second, "3 min": 194 * time.Second,
		"9 1/2 min": 584 * time.Second, "10 min": 585 * time.Second, "13 min": 13*time.Minute + 29*time.Second, "89 min": 89 * time.Minute,
		"1 h 30 min": 90 * time.Minute, "2 h": 2*time.Hour + 59*time.Second, "2 h 1 min": 121 * time.Minute,
	} {
		assert.Equal(t, want, wording.Time(d))
	}
}
