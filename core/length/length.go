// Package length answers "how long is it, exactly?" for somebody who measures
// in inches and sixteenths or in millimetres.
//
// A [Length] is an integer count of nanometres. 1/64 in is 396 875 nm and
// 1 mm is 1 000 000 nm, so every mark on either kind of ruler is exact and
// sums never drift.
package length

import (
	"fmt"
	"strconv"
	"strings"
)

// Length is a distance in nanometres. The zero value is no length.
type Length int64

// Common lengths.
const (
	Nanometre   Length = 1
	Millimetre  Length = 1_000_000
	Centimetre         = 10 * Millimetre
	Metre              = 1000 * Millimetre
	Inch        Length = 25_400_000
	Sixteenth          = Inch / 16
	SixtyFourth        = Inch / 64
)

// Max is the longest length [Parse] accepts; nothing on a card maker's desk
// is longer, and a slip of the decimal point usually is.
const Max = 2 * Metre

// Unit is the ruler the maker uses: it reads bare numbers and prints results.
type Unit uint8

// The two rulers.
const (
	Inches Unit = iota
	Millimetres
)

// String returns the unit's abbreviation, "in" or "mm".
func (u Unit) String() string {
	if u == Millimetres {
		return "mm"
	}
	return "in"
}

// Mark is the finest mark on a ruler of the unit that a trimmer is set to: a
// sixteenth of an inch or half a millimetre.
func (u Unit) Mark() Length {
	if u == Millimetres {
		return Millimetre / 2
	}
	return Sixteenth
}

// Nudge is what a key moves things by: a sixteenth of an inch or a millimetre.
func (u Unit) Nudge() Length {
	if u == Millimetres {
		return Millimetre
	}
	return Sixteenth
}

// MarshalText writes the unit as "in" or "mm".
func (u Unit) MarshalText() ([]byte, error) { return []byte(u.String()), nil }

// UnmarshalText reads "in" or "mm".
func (u *Unit) UnmarshalText(b []byte) error {
	switch string(b) {
	case "in":
		*u = Inches
	case "mm":
		*u = Millimetres
	default:
		return fmt.Errorf("%q is no unit; write in or mm", b)
	}
	return nil
}

// MM returns l in millimetres, for geometry and drawing; it is exact to the
// nanometre for every length up to [Max].
func (l Length) MM() float64 { return float64(l) / float64(Millimetre) }

// FromMM returns the length nearest to mm millimetres.
func FromMM(mm float64) Length {
	if mm < 0 {
		return -FromMM(-mm)
	}
	return Length(mm*float64(Millimetre) + 0.5)
}

// In prints l for a reader who uses unit u, without the unit's name: inches to
// the sixteenth, falling back to 1/32 and 1/64 where that is exact;
// millimetres to 0.5, or 0.1 where needed. What neither shows exactly is
// rounded and preceded by "about".
func (l Length) In(u Unit) string {
	if l < 0 {
		return "-" + (-l).In(u)
	}
	if u == Millimetres {
		return l.millimetres()
	}
	for _, den := range []Length{16, 32, 64} {
		if step := Inch / den; l%step == 0 {
			return mixed(l/step, den)
		}
	}
	return "about " + mixed((l+Sixteenth/2)/Sixteenth, 16)
}

// Near prints the mark on the maker's ruler nearest to l, with the unit: for
// what is looked at, not cut. What is nearer to nothing than to the first mark
// is under it.
func (l Length) Near(u Unit) string {
	mark := Sixteenth
	if u == Millimetres {
		mark = Millimetre / 2
	}
	near := (l + mark/2) / mark * mark
	if near == 0 && l > 0 {
		return "under " + mark.With(u)
	}
	return near.With(u)
}

// Near prints the marks nearest to both sides: "6 3/8 × 4 1/2 in".
func (s Size) Near(u Unit) string {
	return strings.TrimSuffix(s.W.Near(u), " "+u.String()) + " × " + s.H.Near(u)
}

// Area words an area for one who measures in unit u: "0.31 sq in", "26 cm²". What is hardly
// anything is under the least that is told.
func Area(mm2 float64, u Unit) string {
	switch in2 := mm2 / (Inch.MM() * Inch.MM()); {
	case u == Millimetres && mm2 < 1:
		return "under 1 mm²"
	case u == Millimetres && mm2 < 1000:
		return fmt.Sprintf("%.0f mm²", mm2)
	case u == Millimetres:
		return fmt.Sprintf("%.0f cm²", mm2/100)
	case in2 < 0.01:
		return "under 0.01 sq in"
	case in2 < 1:
		return fmt.Sprintf("%.2f sq in", in2)
	default:
		return fmt.Sprintf("%.1f sq in", in2)
	}
}

// Typed prints l as it may be typed again, without the unit's name: as In does
// where that is exact, else as a decimal number close by.
func (l Length) Typed(u Unit) string {
	if s := l.In(u); !strings.Contains(s, "about") {
		return s
	}
	unit, digits := Inch, 3
	if u == Millimetres {
		unit, digits = Millimetre, 2
	}
	return strconv.FormatFloat(float64(l)/float64(unit), 'f', digits, 64)
}

// With prints l in unit u followed by the unit: "4 1/4 in", "108 mm".
func (l Length) With(u Unit) string { return l.In(u) + " " + u.String() }

// String prints l so that [Parse] returns exactly l: in inches where it is a
// whole number of sixty-fourths, else in millimetres with as many decimals as
// it takes.
func (l Length) String() string {
	if l < 0 {
		return "-" + (-l).String()
	}
	if l%SixtyFourth == 0 {
		return l.With(Inches)
	}
	s := fmt.Sprintf("%d.%06d", l/Millimetre, l%Millimetre)
	return strings.TrimRight(strings.TrimRight(s, "0"), ".") + " mm"
}

func (l Length) millimetres() string {
	tenth := Millimetre / 10
	about := ""
	if l%tenth != 0 {
		about = "about "
	}
	t := (l + tenth/2) / tenth
	if t%10 == 0 {
		return about + strconv.FormatInt(int64(t/10), 10)
	}
	return fmt.Sprintf("%s%d.%d", about, t/10, t%10)
}

// mixed prints n/den as a whole number and a proper fraction in lowest terms.
func mixed(n, den Length) string {
	for n%2 == 0 && den > 1 {
		n, den = n/2, den/2
	}
	whole, num := n/den, n%den
	switch {
	case num == 0:
		return strconv.FormatInt(int64(whole), 10)
	case whole == 0:
		return fmt.Sprintf("%d/%d", num, den)
	}
	return fmt.Sprintf("%d %d/%d", whole, num, den)
}

// MarshalText writes the exact form of [Length.String].
func (l Length) MarshalText() ([]byte, error) { return []byte(l.String()), nil }

// UnmarshalText reads what [Length.MarshalText] writes, negative offsets
// included.
func (l *Length) UnmarshalText(b []byte) error {
	v, err := ParseOffset(string(b), Millimetres)
	if err != nil {
		return err
	}
	*l = v
	return nil
}
