package card

import (
	"fmt"
	"slices"
	"strings"
	"unicode"
	"unicode/utf8"

	"chromaqua/core/length"
	"chromaqua/core/shelf"
)

// Limits of words.
const (
	MaxText      = 500 // characters
	MaxTextLines = 20
	MinText      = length.Millimetre // height of a line
)

// Text is words that are put on a piece.
type Text struct {
	Text   string        `json:"text"`
	By     TextWay       `json:"by"`
	Ink    string        `json:"ink,omitempty"`   // an id of package shelf; the usual of the piece when empty
	Height length.Length `json:"height"`          // of one line
	Times  int           `json:"times,omitempty"` // impressions; as many as the paper takes when 0
	X      length.Length `json:"x"`               // of their middle, from the piece's top left corner
	Y      length.Length `json:"y"`
	Turn   float64       `json:"turn,omitzero"`
}

// TextWay is how words are put on.
type TextWay string

// The ways.
const (
	TextStamped TextWay = "stamped"
	TextPowder  TextWay = "powdered" // stamped, and embossed with powder
	TextWritten TextWay = "written"
	TextPrinted TextWay = "printed" // before anything else is done to the piece
)

// TextWays lists them, the usual first.
func TextWays() []TextWay { return []TextWay{TextStamped, TextPowder, TextWritten, TextPrinted} }

// letterWide is how wide a letter of a plain face is on average, in heights of its line.
const letterWide = 0.38

// Lines are the words line by line.
func (t *Text) Lines() []string { return strings.Split(t.Text, "\n") }

// Size is what words take: an estimate by a plain face, until they are measured on their
// proof. What is written from top to bottom takes as much.
func (t *Text) Size() length.Size {
	lines, longest := t.Lines(), 1.0
	for _, l := range lines {
		wide := 0.0
		for _, r := range l {
			switch {
			case unicode.Is(unicode.Mn, r) || unicode.Is(unicode.Me, r):
			case unicode.In(r, unicode.Han, unicode.Hangul, unicode.Hiragana, unicode.Katakana):
				wide += 1
			default:
				wide += letterWide
			}
		}
		longest = max(longest, wide)
	}
	return length.Size{W: length.FromMM(t.Height.MM() * longest), H: t.Height * length.Length(len(lines))}
}

// Words names them for a step: the first few, in quotes.
func (t *Text) Words() string {
	const most = 24
	text := strings.Join(strings.Fields(t.Text), " ")
	if utf8.RuneCountInString(text) > most {
		text = strings.TrimSpace(string([]rune(text)[:most])) + "…"
	}
	return "“" + text + "”"
}

// InkOfText is what is known of the ink that words are put on with.
func (w *Work) InkOfText(t *Text) shelf.Ink {
	if t.Ink != "" {
		return inkByID(t.Ink)
	}
	return w.InkFacts()
}

func (t *Text) check() error {
	switch {
	case strings.TrimSpace(t.Text) == "":
		return fmt.Errorf("words are missing; type what is to stand there")
	case utf8.RuneCountInString(t.Text) > MaxText || !utf8.ValidString(t.Text):
		return fmt.Errorf("words take at most %d characters; make two of them", MaxText)
	case len(t.Lines()) > MaxTextLines:
		return fmt.Errorf("words take at most %d lines", MaxTextLines)
	case strings.ContainsFunc(t.Text, func(r rune) bool { return r < ' ' && r != '\n' }):
		return fmt.Errorf("the words hold characters that cannot be written; type them again")
	case !slices.Contains(TextWays(), t.By):
		return fmt.Errorf("%q is no way of putting words on; use stamped, powdered, written or printed", string(t.By))
	case t.Height < MinText || t.Height > length.Max/4:
		return fmt.Errorf("words are %s high or more, a line", MinText.With(length.Millimetres))
	case t.Times < 0 || t.Times > MaxTimes:
		return fmt.Errorf("words are stamped 1 to %d times in their place", MaxTimes)
	case max(t.X, -t.X, t.Y, -t.Y) > length.Max || !(t.Turn >= -180 && t.Turn <= 180):
		return fmt.Errorf("the words lie far off their piece")
	}
	if t.Ink != "" {
		if _, err := shelf.InkByID(t.Ink); err != nil {
			return err
		}
	}
	return nil
}
