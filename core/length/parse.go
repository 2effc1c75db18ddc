package length

import (
	"fmt"
	"math"
	"math/big"
	"strings"
	"unicode/utf8"
)

// maxText bounds what the parsers look at; no honest length is longer.
const maxText = 40

// An Error says what is wrong with a typed length, in words for the maker.
type Error struct {
	Text string // what was typed, shortened
	Why  string
}

func (e *Error) Error() string { return fmt.Sprintf("%q is no length: %s", e.Text, e.Why) }

func fail(text, format string, args ...any) error {
	if utf8.RuneCountInString(text) > maxText {
		text = string([]rune(text)[:maxText]) + "…"
	}
	return &Error{Text: text, Why: fmt.Sprintf(format, args...)}
}

var vulgar = strings.NewReplacer(
	"½", " 1/2", "¼", " 1/4", "¾", " 3/4", "⅛", " 1/8", "⅜", " 3/8", "⅝", " 5/8", "⅞", " 7/8",
	"⁄", "/", "″", `"`, "”", `"`, "“", `"`, "\u00a0", " ", "\u2009", " ", "\u202f", " ", ",", ".",
)

// Parse reads a length greater than zero and at most [Max]: "4 1/4", "4-1/4",
// "4¼", "4.25 in", `4.25"`, "108mm", "10.8 cm". A number without a unit is
// in bare. It returns an [*Error] that says what was expected.
func Parse(text string, bare Unit) (Length, error) {
	l, err := parse(text, bare)
	if err == nil && l == 0 {
		err = fail(text, "it must be more than nothing")
	}
	return l, err
}

// ParseOffset is [Parse] for a distance from an edge, which may be zero or
// negative.
func ParseOffset(text string, bare Unit) (Length, error) {
	t := strings.TrimSpace(text)
	for _, minus := range []string{"-", "−"} {
		if rest, ok := strings.CutPrefix(t, minus); ok {
			l, err := parse(rest, bare)
			return -l, err
		}
	}
	return parse(t, bare)
}

// Size is a width and a height.
type Size struct {
	W Length `json:"w"`
	H Length `json:"h"`
}

// Turned returns the size with width and height exchanged.
func (s Size) Turned() Size { return Size{W: s.H, H: s.W} }

// Holds reports whether o fits into s as both lie.
func (s Size) Holds(o Size) bool { return o.W <= s.W && o.H <= s.H }

// With prints the size in unit u: "4 1/4 × 5 1/2 in".
func (s Size) With(u Unit) string { return s.W.In(u) + " × " + s.H.With(u) }

// ParseSize reads two lengths with "x", "×", "*" or "by" between them, such as
// "5 1/8 x 9" or "105 x 148 mm". A unit after the second number serves both.
func ParseSize(text string, bare Unit) (Size, error) {
	for _, sep := range []string{"×", "x", "X", "*", " by "} {
		a, b, ok := strings.Cut(text, sep)
		if !ok {
			continue
		}
		if _, u, has := unitOf(b); has {
			bare = u.unit
		}
		w, err := Parse(a, bare)
		if err != nil {
			return Size{}, err
		}
		h, err := Parse(b, bare)
		return Size{W: w, H: h}, err
	}
	return Size{}, fail(text, `a size is two lengths, such as "5 1/8 x 9" or "105 x 148 mm"`)
}

type namedUnit struct {
	name string
	nm   int64
	unit Unit
}

// Longer names come first so that "in" does not match the end of "inch".
var unitNames = []namedUnit{
	{"inches", int64(Inch), Inches}, {"inch", int64(Inch), Inches}, {"in.", int64(Inch), Inches}, {"in", int64(Inch), Inches},
	{`''`, int64(Inch), Inches}, {`"`, int64(Inch), Inches},
	{"mm", int64(Millimetre), Millimetres}, {"cm", int64(Centimetre), Millimetres},
}

func unitOf(s string) (rest string, u namedUnit, ok bool) {
	s = strings.ToLower(strings.TrimSpace(s))
	for _, u := range unitNames {
		if rest, ok := strings.CutSuffix(s, u.name); ok {
			return strings.TrimSpace(rest), u, true
		}
	}
	return s, namedUnit{}, false
}

func parse(text string, bare Unit) (Length, error) {
	if strings.TrimSpace(text) == "" {
		return 0, fail(text, `type a number, such as "4 1/4 in" or "108 mm"`)
	}
	if len(text) > 4*maxText {
		return 0, fail(text, "it is too long; type a number and a unit")
	}
	s, u, ok := unitOf(vulgar.Replace(text))
	if !ok {
		u = namedUnit{nm: int64(Millimetre)}
		if bare == Inches {
			u.nm = int64(Inch)
		}
	}
	if strings.HasPrefix(s, "-") {
		return 0, fail(text, "it must not be negative")
	}
	n, err := number(text, s)
	if err != nil {
		return 0, err
	}
	n.Mul(n, new(big.Rat).SetInt64(u.nm))
	if n.Cmp(new(big.Rat).SetInt64(int64(Max))) > 0 {
		return 0, fail(text, "it is longer than 2 m; check the unit and the decimal point")
	}
	// Round to the nearest nanometre: thirds and long decimals have none.
	n.Add(n, big.NewRat(1, 2))
	return Length(new(big.Int).Quo(n.Num(), n.Denom()).Int64()), nil
}

// number reads a decimal ("4.25"), a fraction ("1/8") or a whole number and a
// proper fraction ("4 1/4", "4-1/4").
func number(text, s string) (*big.Rat, error) {
	whole, frac, both := strings.Cut(strings.Replace(s, "-", " ", 1), " ")
	if !both {
		if strings.Contains(s, "/") {
			return fraction(text, s)
		}
		return decimal(text, s)
	}
	if !digits(whole) {
		return nil, fail(text, `expected a whole number before the fraction, as in "4 1/4"`)
	}
	w, err := decimal(text, whole)
	if err != nil {
		return nil, err
	}
	f, err := fraction(text, strings.TrimSpace(frac))
	if err != nil {
		return nil, err
	}
	if f.Cmp(big.NewRat(1, 1)) >= 0 {
		return nil, fail(text, "the fraction after a whole number must be less than 1")
	}
	return w.Add(w, f), nil
}

func fraction(text, s string) (*big.Rat, error) {
	num, den, ok := strings.Cut(s, "/")
	num, den = strings.TrimSpace(num), strings.TrimSpace(den)
	if !ok || !digits(num) || !digits(den) {
		return nil, fail(text, `expected a number such as "4.25" or "4 1/4", then in, mm or cm`)
	}
	if strings.Trim(den, "0") == "" {
		return nil, fail(text, "a fraction cannot have 0 below the line")
	}
	r, ok := new(big.Rat).SetString(num + "/" + den)
	if !ok {
		return nil, fail(text, `expected a fraction such as "1/8"`)
	}
	return r, nil
}

func decimal(text, s string) (*big.Rat, error) {
	whole, frac, point := strings.Cut(s, ".")
	if (!digits(whole) && whole != "") || (point && !digits(frac)) || whole+frac == "" {
		return nil, fail(text, `expected a number such as "4.25" or "4 1/4", then in, mm or cm`)
	}
	r, ok := new(big.Rat).SetString("0" + s)
	if !ok {
		return nil, fail(text, "expected a number")
	}
	return r, nil
}

func digits(s string) bool {
	return s != "" && strings.Trim(s, "0123456789") == ""
}

// Around is the smallest upright size that holds one turned by so many degrees about its
// middle.
func (s Size) Around(degrees float64) Size {
	if math.Mod(degrees, 180) == 0 {
		return s
	}
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	w, h, sin, cos := float64(s.W), float64(s.H), math.Abs(sin), math.Abs(cos)
	return Size{W: Length(math.Round(w*cos + h*sin)), H: Length(math.Round(w*sin + h*cos))}
}
