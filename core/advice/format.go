package advice

import (
	"fmt"
	"slices"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/fold"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/mount"
	"chromaqua/core/nest"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
)

// typed is a length as a change takes it, to the nanometre.
func typed(l length.Length) change.Typed { return change.Typed(l.String()) }

// fitsInto holds the card against an envelope.
func (f Facts) fitsInto(inside length.Size) fold.Fit {
	return fold.FitInto(f.Body, fold.Envelope{Inside: inside})
}

// thinner are the changes that make the card less thick where it counts: tape instead of
// foam, then cardstock instead of what is thicker.
func thinner(f Facts) (out []Fix) {
	if members, err := mount.Members(f.Card); err == nil {
		for i := range slices.Backward(members) {
			if m := &members[i]; m.Piece == nil && m.By.Facts().Raised {
				out = append(out, Fix{Label: fmt.Sprintf("Mount the %s without foam", m.Name), Change: change.Held{Part: m.ID, By: flat(m)}})
			}
		}
	}
	thin, err := shelf.PaperByID(shelf.MatCardstock)
	if err != nil {
		return out
	}
	for i, l := range f.Card.Layers {
		if p, err := shelf.PaperByID(l.Paper); err == nil && p.Thickness > thin.Thickness {
			out = append(out, Fix{Label: fmt.Sprintf("Cut the %s from %s", f.Card.LayerName(i), thin.Name), Change: change.Layer{Layer: fmt.Sprint(i), Paper: thin.ID, Colour: l.Colour}})
		}
	}
	return out
}

// flat is what best holds a part without lifting it.
func flat(m *mount.Member) joint.By {
	for _, c := range m.Weighs {
		if !c.By.Facts().Raised {
			return c.By
		}
	}
	return joint.Strong
}

// panelAlone lets the panel be the whole front where that goes into a standard envelope.
// A front that was typed stays.
func panelAlone(f Facts) []Fix {
	if f.Card.Base.Front != (length.Size{}) || f.Card.PanelSize() == f.Card.Front() {
		return nil
	}
	return []Fix{{Label: "Let the panel alone be the front, " + f.Card.PanelSize().With(f.Card.Unit), Change: change.PanelAlone{}}}
}

// wrongEnvelope: the envelope at hand is too small for the card. A front that was typed
// never moves for it.
func wrongEnvelope(f Facts) []Watch {
	e, u := f.Card.Envelope, f.Card.Unit
	if e == nil {
		return nil
	}
	fit := f.fitsInto(e.Inside)
	if fit.Good() {
		return nil
	}
	ways := append(thinner(f), panelAlone(f)...)
	if b := f.Card.Base; b.Front != (length.Size{}) && b.Format != card.Free {
		ways = append(ways, Fix{Label: "Let the front follow from the envelope", Change: change.Size{Ring: card.FrontRing}})
	}
	for _, o := range f.Fits {
		if o.Good() {
			ways = append(ways, Fix{Label: fmt.Sprintf("Take the envelope %s instead", o.Envelope.Name), Change: change.Envelope{Envelope: o.Envelope.ID}})
		}
	}
	return []Watch{{
		Severity: Stop, ways: append(ways, toMeasure(f)),
		What: fmt.Sprintf("The card of %s does not go into the envelope you have, %s inside.", f.Card.Front().With(u), e.Inside.Near(u)),
		Why:  wording.Sentence(fit.Why(u)),
	}}
}

// toMeasure is an envelope folded for this card.
func toMeasure(f Facts) Fix {
	inside := mount.EnvelopeNeeded(f.Card)
	return Fix{Label: "Fold an envelope to measure, " + inside.With(f.Card.Unit) + " inside", Change: change.Envelope{Envelope: card.Free}}
}

// thickForEnvelope: who has named no envelope means the one of the card's size; foam may
// be too thick for it.
func thickForEnvelope(f Facts) []Watch {
	if f.Card.Envelope != nil || len(f.Fits) == 0 {
		return nil
	}
	flat := fold.FitAll(fold.Plain(f.Body.Front, f.Body.Thick))
	usual := flat[0]
	if !usual.Good() || usual.Verdict == fold.Loose {
		return nil
	}
	fit := fold.FitInto(f.Body, usual.Envelope)
	if fit.Good() {
		return nil
	}
	w := Watch{
		Severity: Mind, ways: append(thinner(f), toMeasure(f)),
		What: fmt.Sprintf("Mounted like this, the card is too thick for the envelope %s.", usual.Envelope.Name),
		Why:  wording.Sentence(fit.Why(f.Card.Unit)),
	}
	if f.Fits[0].Good() {
		w.Why += fmt.Sprintf(" It goes into %s, %s.", f.Fits[0].Envelope.Name, f.Fits[0].Verdict)
	}
	return []Watch{w}
}

// thickForPost is from which thickness post has rules of its own, a general figure.
const thickForPost = length.Inch / 4

// postRules: square and thick cards often cost more to send. A flat card that goes by
// itself is none of both.
func postRules(f Facts) []Watch {
	front, thick := f.Card.Front(), f.Body.Thickness()
	var is []string
	if front.W == front.H && f.Card.Base.Fold != fold.Flat {
		is = append(is, "square")
	}
	if thick >= thickForPost {
		is = append(is, "thick")
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
		over := min(r.Round.Left, r.Round.Right, r.Round.Top, r.Round.Bottom) < 0
		given := r.GivenW || r.GivenH || r.Round.Given != (nest.Margin{})
		if r.Die == (length.Size{}) || r.Die == r.Asked || !given && !over {
			continue // nobody asked for another size: it follows from its die
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
		if over {
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
		w := Watch{
			Severity: Mind,
			What:     fmt.Sprintf("The %s does not reach under the frame all round.", r.Name),
			Why:      fmt.Sprintf("The opening is %s, the %s %s: a gap would show.", f.Layout[i-1].Size.With(f.Card.Unit), r.Name, r.Size.With(f.Card.Unit)),
		}
		if !r.GivenW && !r.GivenH { // what was typed stays
			w.ways = []Fix{{Label: "Let it reach under", Change: change.Size{Ring: r.ID, Follow: true}}}
		}
		out = append(out, w)
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
		ways:     []Fix{{Label: "Use tape of " + need.With(u), Change: change.Painting{Border: typed(p.Border), Spare: typed(p.Spare), Tape: typed(need)}}},
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
		ways:     []Fix{{Label: "Put it in the middle", Change: change.CentreWindow{}}},
	}}
}

// noRoomForWords: makers forget to leave room for the sentiment.
func noRoomForWords(f Facts) []Watch {
	if f.Card.Words == (length.Size{}) || len(f.Places) > 0 || len(f.Layout.Strips(f.Card.Words)) > 0 {
		return nil
	}
	return []Watch{{
		Severity: Mind,
		What:     fmt.Sprintf("There is no clear place of %s for the words.", f.Card.Words.With(f.Card.Unit)),
		Why:      "Neither on the background of the panel nor beside it. Move the image, make the words smaller, widen a border, or plan a banner over the picture.",
	}}
}

// noEnvelope: an envelope is easier to choose than to make. Who has one at hand
// is told by [wrongEnvelope]; a flat card goes by itself.
func noEnvelope(f Facts) []Watch {
	if len(f.Fits) > 0 && f.Fits[0].Good() || f.Card.Envelope != nil || f.Card.Base.Fold == fold.Flat {
		return nil
	}
	w := Watch{
		Severity: Mind, ways: slices.Concat(panelAlone(f), thinner(f), []Fix{toMeasure(f)}),
		What: "The finished card goes into no standard envelope.",
		Why:  "Found at the end, this costs the card. Change it now, or fold an envelope to measure.",
	}
	if len(f.Fits) > 0 {
		w.Why += fmt.Sprintf(" The nearest is %s: %s.", f.Fits[0].Envelope.Name, f.Fits[0].Why(f.Card.Unit))
	}
	return []Watch{w}
}
