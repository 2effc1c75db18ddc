package steps

import (
	"regexp"
	"slices"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/order"
	"chromaqua/core/panel"
)

// Brief is a step in the few words of a sheet that lies beside the paint, its colour
// shown by a dab: what is painted, how strong and how, and with which brush.
func (s *Step) Brief(b *panel.Board) (what, with string) {
	if s.On == nil {
		if s.Kind == Line || s.Kind == Emboss {
			return s.Title + ": " + firstSentences(s.Detail), ""
		}
		return s.Title, ""
	}
	a := &b.Areas[s.On.Area]
	w := a.Area.Washes[s.On.Wash]
	what = s.Name() + " " + a.Name
	var how []string
	if w.Strength != "" {
		how = append(how, string(w.Strength))
	}
	if w.Technique != card.Flat {
		how = append(how, string(w.Technique))
	}
	return what + ": " + strings.Join(how, ", "), briefBrush(s.Brush)
}

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

// briefBrush names brushes without their measures and what each is for.
func briefBrush(brush string) string {
	return strings.NewReplacer("cut in with the ", "", ", fill with the ", " and ").Replace(inBrackets.ReplaceAllString(brush, ""))
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
