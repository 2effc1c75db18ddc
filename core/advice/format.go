package advice

import (
	"fmt"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/fold"
	"chromaqua/core/length"
)

// typed is a length as a change takes it, to the nanometre.
func typed(l length.Length) change.Typed { return change.Typed(l.String()) }

// wrongEnvelope: the envelope at hand is too small for the card.
func wrongEnvelope(f Facts) []Watch {
	e, u := f.Card.Envelope, f.Card.Unit
	if e == nil {
		return nil
	}
	fit := fold.FitInto(f.Card.Body(), fold.Envelope{Inside: e.Inside})
	if fit.Good() {
		return nil
	}
	w := Watch{
		Severity: Stop,
		What:     fmt.Sprintf("The card of %s does not go into the envelope you have, %s inside.", f.Card.Front().With(u), e.Inside.Near(u)),
		Why:      fmt.Sprintf("Of its girth: %s.", fit.Why(u)),
	}
	if f.Card.Base.Front != (length.Size{}) {
		w.Fix = &Fix{"Let the front follow", change.Size{Ring: card.FrontRing}}
	}
	return []Watch{w}
}

// Sizes from which post has rules of its own, general figures.
const (
	thickForPost = length.Inch / 4
	rigidAtPost  = 3 * length.Millimetre
)

// postRules: square, thick and stiff cards often cost more to send.
func postRules(f Facts) []Watch {
	front, thick := f.Card.Front(), fold.Thickness(f.Card.Stack())
	var is []string
	if front.W == front.H {
		is = append(is, "square")
	}
	switch {
	case thick >= thickForPost:
		is = append(is, "thick")
	case thick >= rigidAtPost:
		is = append(is, "stiff")
	}
	if len(is) == 0 {
		return nil
	}
	return []Watch{{
		Severity: Note,
		What:     fmt.Sprintf("A %s card may need other postage.", strings.Join(is, ", ")),
		Why:      fmt.Sprintf("It is %s and about %s thick. Rules differ by country: ask the local postal service.", front.With(f.Card.Unit), thick.Near(length.Millimetres)),
	}}
}

// dieDiffers: a die cuts what it cuts, whatever was asked for.
func dieDiffers(f Facts) (out []Watch) {
	u := f.Card.Unit
	for _, r := range f.Layout {
		if r.Die == (length.Size{}) || r.Die == r.Asked {
			continue
		}
		shows := fmt.Sprintf("%s left, %s right, %s above and %s below", r.Round.Left.Near(u), r.Round.Right.Near(u), r.Round.Top.Near(u), r.Round.Bottom.Near(u))
		if r.Round.Even() {
			shows = r.Round.Left.Near(u) + " all round"
		}
		w := Watch{
			Severity: Note,
			What:     fmt.Sprintf("The nearest die cuts the %s %s, not %s.", r.Name, r.Die.With(u), r.Asked.With(u)),
			Why:      "Round it then shows " + shows + ".",
		}
		if min(r.Round.Left, r.Round.Right, r.Round.Top, r.Round.Bottom) < 0 {
			w.Severity, w.Why = Mind, "It overhangs what it lies on: round it shows "+shows+"."
		}
		out = append(out, w)
	}
	return out
}

// overhangs: what overhangs is trimmed flush once it is mounted.
func overhangs(f Facts) (out []Watch) {
	for i, r := range f.Layout {
		over := f.Layout.Overhang(i)
		if over == 0 || r.Die != (length.Size{}) {
			continue
		}
		out = append(out, Watch{
			Severity: Note,
			What:     fmt.Sprintf("The %s overhangs the %s by up to %s.", r.Name, f.Layout[i-1].Name, over.Near(f.Card.Unit)),
			Why:      "Mount it first, then turn it over and trim it flush.",
		})
	}
	return out
}

// frameHoldsNothing: what lies under a frame has to reach under its bars.
func frameHoldsNothing(f Facts) (out []Watch) {
	for i, r := range f.Layout {
		if i == 0 || f.Layout[i-1].Kind != card.OpeningKind || max(r.Round.Left, r.Round.Right, r.Round.Top, r.Round.Bottom) < 0 {
			continue
		}
		out = append(out, Watch{
			Severity: Mind,
			What:     fmt.Sprintf("The %s does not reach under the frame all round.", r.Name),
			Why:      fmt.Sprintf("The opening is %s, the %s %s: a gap would show.", f.Layout[i-1].Size.With(f.Card.Unit), r.Name, r.Size.With(f.Card.Unit)),
			Fix:      &Fix{"Let it reach under", change.Size{Ring: r.ID, Follow: true}},
		})
	}
	return out
}

// tapeHold is how much of a tape has to lie on the board to hold.
const tapeHold = length.Inch / 4

// tapeTooNarrow: tape over a masked border has to hold on the board too.
func tapeTooNarrow(f Facts) []Watch {
	p, u := f.Card.Painting, f.Card.Unit
	need := p.Border + p.Spare + tapeHold
	if p.Border == 0 || p.Tape >= need {
		return nil
	}
	return []Watch{{
		Severity: Mind,
		What:     fmt.Sprintf("Tape %s wide cannot mask a border of %s and hold.", p.Tape.With(u), p.Border.With(u)),
		Why:      fmt.Sprintf("It covers border and spare paper, and %s of it has to lie on the board.", tapeHold.With(u)),
		Fix:      &Fix{"Use tape of " + need.With(u), change.Painting{Border: typed(p.Border), Spare: typed(p.Spare), Tape: typed(need)}},
	}}
}

// windowOff: the panel cannot be cut out of paper that is not there.
func windowOff(f Facts) []Watch {
	w := f.Card.Window
	if w == nil {
		return nil
	}
	over := f.Card.Viewfinder().Overhang(w.Size())
	if over == 0 {
		return nil
	}
	return []Watch{{
		Severity: Stop,
		What:     fmt.Sprintf("The window reaches %s over the edge of the painted sheet.", over.Near(f.Card.Unit)),
		Why:      "There is no paper there. Move it, turn it, or make the panel smaller.",
		Fix:      &Fix{"Put it in the middle", change.CentreWindow{}},
	}}
}

// noRoomForWords: makers forget to leave room for the sentiment.
func noRoomForWords(f Facts) []Watch {
	if f.Card.Words == (length.Size{}) || f.Board == nil || len(f.Places) > 0 || len(f.Layout.Strips(f.Card.Words)) > 0 {
		return nil
	}
	return []Watch{{
		Severity: Mind,
		What:     fmt.Sprintf("There is no clear place of %s for the words.", f.Card.Words.With(f.Card.Unit)),
		Why:      "Neither on the background of the panel nor beside it. Move the image, make the words smaller, widen a border, or plan a banner over the picture.",
	}}
}

// noEnvelope: an envelope is easier to choose than to make. Who has one at hand
// is told by [wrongEnvelope].
func noEnvelope(f Facts) []Watch {
	if len(f.Fits) > 0 && f.Fits[0].Good() || f.Card.Envelope != nil {
		return nil
	}
	return []Watch{{
		Severity: Stop,
		What:     "The finished card goes into no standard envelope.",
		Why:      "Found at the end, this costs the card or a hand-made envelope.",
		Fix:      &Fix{"Make it an A2 card", change.Format{Format: "a2"}},
	}}
}
