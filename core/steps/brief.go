package steps

import (
	"fmt"
	"regexp"
	"slices"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/technique"
	"chromaqua/core/wording"
)

// Brief is a step in few words.
type Brief struct {
	What   string // is done, or is painted
	Colour string // it takes, "" for none
	How    string // strong it is, and laid
	With   string // the brushes
}

// String is the step where its colour is shown beside it.
func (b Brief) String() string { return b.words(b.How) }

// Named is the step with its colour.
func (b Brief) Named() string {
	if b.Colour == "" {
		return b.String()
	}
	return b.words(b.Colour + ", " + b.How)
}

func (b Brief) words(how string) string {
	if how == "" {
		return b.What
	}
	return b.What + ": " + how
}

// Brief is a step in the few words of a sheet that lies beside the paint: what is painted, how
// strong and how, and with which brush.
func (p *Plan) Brief(s *Step) Brief {
	if s.On == nil {
		if s.Kind != Line && s.Kind != Emboss {
			return Brief{What: s.Title}
		}
		how := strings.TrimSuffix(firstSentences(s.Detail), ".")
		if how, with := strings.CutPrefix(how, "With "); with {
			return Brief{What: s.Title + " with " + how}
		}
		return Brief{What: s.Title, How: how}
	}
	a := p.AreaOf(s)
	if s.On.Wash == Wetting {
		b := Brief{What: s.Title, With: s.briefTools()}
		if p.Pieces[s.Piece].ID == card.ThePanel { // other titles name their piece
			b.What = p.onPiece(s) + s.Title
		}
		return b
	}
	w := a.Area.Washes[s.On.Wash]
	b := Brief{What: p.onPiece(s) + s.Name() + " " + a.Name, With: s.briefTools()}
	if mix := p.MixOf(s); mix != nil {
		b.Colour = p.Pieces[s.Piece].Board.Card.Called.Mix(mix.Parts)
	}
	var how []string
	if w.Strength != "" {
		how = append(how, string(w.Strength))
	}
	if w.Technique != technique.Flat {
		how = append(how, w.Technique.Name())
	}
	b.How = strings.Join(how, ", ")
	return b
}

// onPiece names the piece a step is on where there are several, as a heading: "Ray 2, ".
func (p *Plan) onPiece(s *Step) string {
	if len(p.Pieces) == 1 {
		return ""
	}
	return wording.Upper(itemName(&p.Pieces[s.Piece], s.Item)) + ", "
}

// itemName names a piece, with its number where a card needs it several times: "ray 2".
func itemName(of *panel.Piece, item int) string {
	if of.Many > 1 {
		return fmt.Sprintf("%s %d", of.Name, item+1)
	}
	return of.Name
}

// ofPiece names the piece of a step behind what is done to it, " of ray 2"; the panel goes
// without saying.
func (p *Plan) ofPiece(s *Step) string {
	of := &p.Pieces[s.Piece]
	if of.ID == card.ThePanel {
		return ""
	}
	return " of " + itemName(of, s.Item)
}

// PieceOf names the piece a step is on, "" where there is only one.
func (p *Plan) PieceOf(s *Step) string { return strings.TrimSuffix(p.onPiece(s), ", ") }

// HeatNames are the goes that passes of the heat tool dry, as the board shows them: "5b, 7".
// What lies on no area has no name.
func (p *Plan) HeatNames(passes []order.Pass) string {
	var names []string
	for _, h := range passes {
		if name := p.Steps[h.Op].Name(); name != "" && !slices.Contains(names, name) {
			names = append(names, name)
		}
	}
	return strings.Join(names, ", ")
}

// inBrackets is a measure behind a name.
var inBrackets = regexp.MustCompile(` \([^)]*\)`)

// briefTools names brushes without their measures and what each is for.
func (s *Step) briefTools() string {
	return inBrackets.ReplaceAllString(strings.Join(s.Tools, " and "), "")
}

// Tools are what the plan paints and draws with, without measures, each once: brushes from the
// smallest on, and then pens and the like.
func (p *Plan) Tools() (out []string) {
	var used, brushes []string
	for i := range p.Steps {
		used = append(used, p.Steps[i].Tools...)
	}
	for _, b := range p.Bench.Brushes {
		brushes = append(brushes, b.Name)
	}
	place := func(tool string) int {
		if i := slices.Index(brushes, tool); i >= 0 {
			return i
		}
		return len(brushes)
	}
	slices.SortStableFunc(used, func(a, b string) int { return place(a) - place(b) })
	for _, tool := range used {
		if name := inBrackets.ReplaceAllString(tool, ""); !slices.Contains(out, name) {
			out = append(out, name)
		}
	}
	return out
}

// firstSentences are two sentences without their reasons.
func firstSentences(text string) string {
	parts := strings.SplitAfterN(text, ". ", 3)
	text = strings.TrimSpace(strings.Join(parts[:min(2, len(parts))], ""))
	if at := strings.Index(text, ", so that"); at >= 0 {
		text = text[:at] + "."
	}
	return text
}
