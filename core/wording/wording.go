// Package wording answers "how is this said?": small things of language that many
// sentences of the program need alike.
package wording

import (
	"fmt"
	"strconv"
	"strings"
	"time"
	"unicode"
	"unicode/utf8"
)

// Upper returns a text as it begins a sentence: its first character is a capital where
// it is a letter. What begins with a digit, a quote or a capital stays as it is.
func Upper(s string) string {
	r, size := utf8.DecodeRuneInString(s)
	if !unicode.IsLower(r) {
		return s
	}
	return string(unicode.ToUpper(r)) + s[size:]
}

// Sentence returns a text, such as that of an error, as a sentence.
func Sentence(s string) string {
	if s == "" || strings.HasSuffix(s, ".") {
		return Upper(s)
	}
	return Upper(s) + "."
}

// Count says how many of something there are: "1 cell", "3 cells".
func Count(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	return fmt.Sprintf("%d %ss", n, what)
}

// And lists names: "Sand, Eyes and Claw"; "" for none.
func And(names []string) string {
	n := len(names)
	if n < 2 {
		return strings.Join(names, "")
	}
	return strings.Join(names[:n-1], ", ") + " and " + names[n-1]
}

// Numbers lists whole numbers with something between them.
func Numbers(all []int, between string) string {
	out := make([]string, len(all))
	for i, n := range all {
		out[i] = strconv.Itoa(n)
	}
	return strings.Join(out, between)
}

// Time says how long something takes: seconds under half a minute, fives of them under two
// minutes, halves of minutes under ten, hours from an hour and a half.
func Time(d time.Duration) string {
	s := int(d.Seconds())
	if s < 30 {
		return fmt.Sprintf("%d s", s)
	}
	if five := (s + 2) / 5 * 5; five < 120 {
		return fmt.Sprintf("%d s", five)
	}
	if half := (s + 15) / 30; half%2 == 1 && half < 20 {
		return fmt.Sprintf("%d 1/2 min", half/2)
	}
	if m := (s + 30) / 60; m < 90 {
		return fmt.Sprintf("%d min", m)
	}
	if m := s / 60 % 60; m > 0 {
		return fmt.Sprintf("%d h %d min", s/3600, m)
	}
	return fmt.Sprintf("%d h", s/3600)
}
