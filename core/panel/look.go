package panel

import (
	"chromaqua/core/card"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
)

// thinned is what is left of a wash's load at its thinnest: where it has been drawn
// out, where it is graded to, and where a drop-in has spread.
var thinned = map[card.Technique]float64{card.PullOut: 0.08, card.Halo: 0.04, card.Shadow: 0.04, card.Graded: 0.2, card.WetOnWet: 0.25}

// Grade is how an area's colour runs from its densest place to its thinnest.
type Grade string

// The grades. One that runs in a line is seen before one that spreads.
const (
	Even   Grade = ""
	Out    Grade = "out"    // from the middle outwards
	Corner Grade = "corner" // from the lower left, as out of a shadow
	Down   Grade = "down"
	Up     Grade = "up"
	Across Grade = "across" // from one colour to another
)

// gradeOf is how a wash runs; drop-ins and what is laid beside another do so only
// over a wash.
func gradeOf(t card.Technique, over bool) Grade {
	switch {
	case t == card.PullOut:
		return Corner
	case t == card.Graded:
		return Down
	case t == card.Shadow:
		return Up
	case t == card.Variegated && over:
		return Across
	case t == card.Halo, t == card.WetOnWet && over:
		return Out
	}
	return Even
}

// A Look is an area's colours at its densest and thinnest place; they differ
// where a wash runs.
type Look struct {
	Dense, Thin Tone
	Grade       Grade
}

// A Tone is one colour in the three ways the board shows it, "#rrggbb".
type Tone struct {
	Dry, Wet, Grey string
	Lab            pigment.Lab // dry
}

// A Palette is what colours are made of: a paper of the shelf, and paints that were
// measured, by pigment; others are generic.
type Palette struct {
	Paper string
	Own   map[string]pigment.Paint
}

// PaletteOf is what the colours of a card are made of.
func PaletteOf(c *card.Card) Palette {
	p := Palette{Paper: c.Paper}
	for _, m := range c.Measured {
		if p.Own == nil {
			p.Own = map[string]pigment.Paint{}
		}
		p.Own[m.CI] = pigment.Paint{K: m.K, S: m.S}
	}
	return p
}

// paint is the paint of a pigment; cards are checked, so that it is known.
func (p Palette) paint(ci string) pigment.Paint {
	if own, ok := p.Own[ci]; ok {
		return own
	}
	known, err := pigment.ByCI(ci)
	if err != nil {
		panic("panel: unchecked card: " + err.Error())
	}
	return known.Paint()
}

// Of returns pigments with the paints the palette has for them.
func (p Palette) Of(pigments []pigment.Pigment) []pigment.Paint {
	out := make([]pigment.Paint, len(pigments))
	for i := range pigments {
		out[i] = p.paint(pigments[i].CI)
	}
	return out
}

// Looks returns the look of every area, in order; an area without washes looks
// like the paper.
func (b *Board) Looks() []Look {
	out := make([]Look, len(b.Areas))
	for i, a := range b.Areas {
		out[i] = b.palette.Look(a.Washes)
	}
	return out
}

// LookOf returns how washes of generic paints look on a paper of the shelf.
func LookOf(paper string, washes []card.Wash) Look { return Palette{Paper: paper}.Look(washes) }

// Look returns how washes look. The card is expected to be valid; an unknown paper
// counts as white.
func (p Palette) Look(washes []card.Wash) Look {
	ground := Ground(p.Paper)
	var l Look
	for i, w := range washes {
		if g := gradeOf(w.Technique, i > 0); g != Even && (g != Out || l.Grade == Even) {
			l.Grade = g
		}
	}
	l.Dense = p.tone(ground, washes, false)
	l.Thin = p.tone(ground, washes, true)
	return l
}

// Ground returns the reflectance of a paper of the shelf.
func Ground(paper string) pigment.Spectrum {
	colour := "white"
	if p, err := shelf.PaperByID(paper); err == nil {
		colour = p.Colour
	}
	s, err := pigment.Paper(colour)
	if err != nil {
		panic("panel: the shelf names a paper colour the library lacks: " + colour)
	}
	return s
}

// inHollows is the share of the paper a nearly dry brush leaves white.
const inHollows = 0.3

// dry is the dry reflectance of washes. A nearly dry brush leaves what lies below
// in the paper's hollows, which the eye mixes with the rest.
func (p Palette) dry(ground pigment.Spectrum, washes []card.Wash, thin bool) pigment.Spectrum {
	for i, w := range washes {
		if w.Technique != card.DryBrush {
			continue
		}
		below := p.dry(ground, washes[:i], thin)
		over := pigment.Stack(below, p.Coat(w))
		for k := range over {
			over[k] += inHollows * (below[k] - over[k])
		}
		return p.dry(over, washes[i+1:], thin)
	}
	return pigment.Stack(ground, p.coats(washes, thin)...)
}

func (p Palette) tone(ground pigment.Spectrum, washes []card.Wash, thin bool) Tone {
	return toneFrom(p.dry(ground, washes, thin), len(washes) > 0)
}

// toneFrom is the tone of a dry reflectance; bare paper is not wetted.
func toneFrom(dry pigment.Spectrum, painted bool) Tone {
	wet := dry
	if painted {
		wet = pigment.Wet(dry, pigment.Gloss)
	}
	lab := dry.Lab()
	return Tone{Dry: dry.Hex(), Wet: wet.Hex(), Grey: lab.Grey(), Lab: lab}
}

// coats returns the layers the washes leave, bottom first. A drop-in mixes
// with the wash it falls into instead of lying on it.
func (p Palette) coats(washes []card.Wash, thin bool) []pigment.Coat {
	var out []pigment.Coat
	for i, w := range washes {
		c := p.Coat(w)
		switch {
		case w.Technique == card.Variegated && i > 0 && len(out) > 0:
			if thin { // at one end there is the wash below, at the other this one
				out[len(out)-1] = c
			}
			continue
		case thin && gradeOf(w.Technique, i > 0) != Even:
			c.Load *= pigment.Load(thinned[w.Technique])
		}
		if w.Technique == card.WetOnWet && len(out) > 0 {
			last := &out[len(out)-1]
			for j := range c.Paint.K {
				c.Paint.K[j] = (c.Paint.K[j]*float64(c.Load) + last.Paint.K[j]*float64(last.Load)) / float64(c.Load+last.Load)
				c.Paint.S[j] = (c.Paint.S[j]*float64(c.Load) + last.Paint.S[j]*float64(last.Load)) / float64(c.Load+last.Load)
			}
			c.Load += last.Load
			*last = c
			continue
		}
		out = append(out, c)
	}
	return out
}

// Coat returns the coat one wash of a valid card leaves.
func (p Palette) Coat(w card.Wash) pigment.Coat {
	var parts []pigment.Part
	for _, part := range w.Mix {
		parts = append(parts, pigment.Part{Paint: p.paint(part.CI), Parts: float64(part.Parts)})
	}
	paint, err := pigment.Mix(parts...)
	if err != nil {
		panic("panel: unchecked card: " + err.Error())
	}
	load, err := w.Strength.Load()
	if err != nil {
		panic("panel: unchecked card: " + err.Error())
	}
	return pigment.Coat{Paint: paint, Load: load}
}

// Wet returns the coat with which an area meets a neighbour that is wet at the
// same time: its first wash.
func (a *Area) Wet() (pigment.Coat, bool) {
	if len(a.Washes) == 0 {
		return pigment.Coat{}, false
	}
	return a.palette.Coat(a.Washes[0]), true
}

// misjudged is how far a painter commonly misses a strength: a quarter.
const misjudged = 1.25

// Misjudged returns one coat of a wash as it dries when it was mixed too thin
// and too thick by what painters commonly miss. Load is the largest error
// there is, so a colour is better shown as a range.
func (p Palette) Misjudged(w card.Wash) (thin, thick Tone) {
	coat := p.Coat(w)
	tone := func(load pigment.Load) Tone {
		return toneFrom(pigment.Stack(Ground(p.Paper), pigment.Coat{Paint: coat.Paint, Load: load}), true)
	}
	return tone(coat.Load / misjudged), tone(coat.Load * misjudged)
}
