package page

import (
	"fmt"
	"html/template"
	"math"
	"regexp"
	"strconv"
	"strings"
	"time"

	"chromaqua/core/length"
	"chromaqua/core/wording"
)

// fraction is a proper fraction with the space that may set it off from a whole
// number.
var fraction = regexp.MustCompile(`(?:(\d+) )?\b(\d+/\d+)\b`)

// Proper marks fractions up, so that the typeface can draw them properly. The
// space before one stays, for whoever hears or copies the text.
func Proper(text string) template.HTML {
	return marked(text, `<span class="frac">`, `<span class="frac after">`, "</span>")
}

// properSVG is Proper for text in a drawing.
func properSVG(text string) template.HTML {
	return marked(text, `<tspan class="frac">`, `<tspan class="frac" dx="-.12em">`, "</tspan>")
}

// marked puts fractions between alone and end, those that follow a whole number
// between after and end.
func marked(text, alone, after, end string) template.HTML {
	return template.HTML(fraction.ReplaceAllStringFunc(template.HTMLEscapeString(text), func(f string) string {
		whole, part, mixed := strings.Cut(f, " ")
		if !mixed {
			return alone + f + end
		}
		return whole + "\u00a0" + after + part + end // not to be torn apart at the end of a line
	}))
}

func lengthHTML(l length.Length, u length.Unit) template.HTML { return Proper(l.With(u)) }

func sizeHTML(s length.Size, u length.Unit) template.HTML { return Proper(s.With(u)) }

// About says a time as a maker would.
func About(d time.Duration) string {
	m := int(math.Round(d.Minutes()))
	switch {
	case d < 50*time.Second:
		return fmt.Sprintf("about %d s", max(5, int(math.Round(d.Seconds()/5)*5)))
	case m < 10:
		return fmt.Sprintf("about %d min", max(1, m))
	case m < 100:
		return fmt.Sprintf("about %d min", (m+2)/5*5)
	}
	h, rest := m/60, (m%60+7)/15*15
	if rest == 60 {
		h, rest = h+1, 0
	}
	if rest == 0 {
		return fmt.Sprintf("about %d h", h)
	}
	return fmt.Sprintf("about %d h %d min", h, rest)
}

// Together says times that are shown beside each other, and their sum: each is rounded
// once, to the same step, so that what is read adds up.
func Together(parts ...time.Duration) (words []string, sum string) {
	total := time.Duration(0)
	for _, d := range parts {
		total += d
	}
	step := 5 * time.Minute
	if total < 20*time.Minute {
		step = time.Minute
	}
	total = 0
	for _, d := range parts {
		d = d.Round(step)
		total += d
		words = append(words, roundWords(d))
	}
	return words, roundWords(total)
}

// roundWords says a time of whole minutes.
func roundWords(d time.Duration) string {
	h, m := int(d.Hours()), int(d.Minutes())%60
	switch {
	case d == 0:
		return "next to none"
	case h == 0:
		return fmt.Sprintf("about %d min", m)
	case m == 0:
		return fmt.Sprintf("about %d h", h)
	}
	return fmt.Sprintf("about %d h %d min", h, m)
}

// Clock prints a time since the start as hours and minutes, with seconds.
func Clock(d time.Duration) string {
	s := int(d.Seconds())
	return fmt.Sprintf("%d:%02d:%02d", s/3600, s/60%60, s%60)
}

// MM prints a number of millimetres for a drawing.
func MM(v float64) string { return strconv.FormatFloat(v, 'f', 2, 64) }

// CellList prints numbers of cells for the board to light up.
func CellList(cells []int) string { return wording.Numbers(cells, " ") }

// PlainNumber writes a number as it is typed.
func PlainNumber(v float64) string { return strconv.FormatFloat(v, 'f', -1, 64) }

// Money prints hundredths.
func Money(n int) string { return fmt.Sprintf("%d.%02d", n/100, n%100) }
