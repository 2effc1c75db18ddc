package panel

import (
	"chromaqua/core/card"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
)

// thinned is what is left of a wash's load where it has been pulled out to
// nothing, and where a drop-in has spread.
const (
	pulledThin = 0.08
	spreadThin = 0.25
)

// A Look is an area's colours at its densest and thinnest place; they differ
// where a wash is pulled out or dropped into a wet one.
type Look struct {
	Dense, Thin Tone
	Pulled      bool // grades from dense to thin along the cell
	Spread      bool // is dense in the middle and thin outwards
}

// A Tone is one colour in the three ways the board shows it, "#rrggbb".
type Tone struct {
	Dry, Wet, Grey string
	Lab            pigment.Lab // dry
}

// Looks returns the look of every area, in order; an area without washes looks
// like the paper.
func (b *Board) Looks() []Look {
	out := make([]Look, len(b.Areas))
	for i, a := range b.Areas {
		out[i] = LookOf(b.Card.Paper, a.Washes)
	}
	return out
}

// LookOf returns how washes look on a paper of the shelf. The card is expected
// to be valid; an unknown paper counts as white.
func LookOf(paper string, washes []card.Wash) Look {
	ground := Ground(paper)
	var l Look
	for i, w := range washes {
		l.Pulled = l.Pulled || w.Technique == card.PullOut
		l.Spread = l.Spread || w.Technique == card.WetOnWet && i > 0
	}
	l.Dense = toneOf(ground, washes, false)
	l.Thin = toneOf(ground, washes, true)
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

// dryOf is the dry reflectance of washes. A nearly dry brush leaves what lies below
// in the paper's hollows, which the eye mixes with the rest.
func dryOf(ground pigment.Spectrum, washes []card.Wash, thin bool) pigment.Spectrum {
	for i, w := range washes {
		if w.Technique != card.DryBrush {
			continue
		}
		below := dryOf(ground, washes[:i], thin)
		over := pigment.Stack(below, CoatOf(w))
		for k := range over {
			over[k] += inHollows * (below[k] - over[k])
		}
		return dryOf(over, washes[i+1:], thin)
	}
	return pigment.Stack(ground, coats(washes, thin)...)
}

func toneOf(ground pigment.Spectrum, washes []card.Wash, thin bool) Tone {
	return toneFrom(dryOf(ground, washes, thin), len(washes) > 0)
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
func coats(washes []card.Wash, thin bool) []pigment.Coat {
	var out []pigment.Coat
	for i, w := range washes {
		c := CoatOf(w)
		switch {
		case thin && w.Technique == card.PullOut:
			c.Load *= pulledThin
		case thin && w.Technique == card.WetOnWet && i > 0:
			c.Load *= spreadThin
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

// CoatOf returns the coat one wash of a valid card leaves.
func CoatOf(w card.Wash) pigment.Coat {
	var parts []pigment.Part
	for _, p := range w.Mix {
		pig, err := pigment.ByCI(p.CI)
		if err != nil {
			panic("panel: unchecked card: " + err.Error())
		}
		parts = append(parts, pigment.Part{Paint: pig.Paint(), Parts: float64(p.Parts)})
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
	return CoatOf(a.Washes[0]), true
}

// misjudged is how far a painter commonly misses a strength: a quarter.
const misjudged = 1.25

// Misjudged returns one coat of a wash as it dries when it was mixed too thin
// and too thick by what painters commonly miss. Load is the largest error
// there is, so a colour is better shown as a range.
func Misjudged(paper string, w card.Wash) (thin, thick Tone) {
	coat := CoatOf(w)
	tone := func(load pigment.Load) Tone {
		return toneFrom(pigment.Stack(Ground(paper), pigment.Coat{Paint: coat.Paint, Load: load}), true)
	}
	return tone(coat.Load / misjudged), tone(coat.Load * misjudged)
}
