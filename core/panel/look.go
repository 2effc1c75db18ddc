package panel

import (
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// A Look is an area's colours at its densest and thinnest place; they differ
// where a wash runs.
type Look struct {
	Dense, Thin Tone
	Grade       technique.Grade
	Traces      []Trace // what lies on it without covering it, in the order it is laid
}

// Mark is the colour of what is drawn by hand with it: that of what it leaves last, or of its
// paint.
func (l *Look) Mark() Tone {
	if n := len(l.Traces); n > 0 && l.Traces[n-1].Technique.Marked() {
		return l.Traces[n-1].Tone
	}
	return l.Dense
}

// A Trace is what one wash leaves here and there: drops, dabs, lines, patches, what
// is seen in the hollows it skims over, the glints of mica.
type Trace struct {
	Technique technique.Kind
	Wash      int // index into the washes
	Tone      Tone
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

	under  pigment.Coat // the mass of a solid that it lies on; no load where there is none
	pulled pigment.Coat // what water draws out of the line beside an area; no load where it gives nothing
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

// Paint is the paint of a pigment; cards are checked, so that it is known.
func (p Palette) Paint(ci string) pigment.Paint {
	if own, ok := p.Own[ci]; ok {
		return own
	}
	known, err := pigment.ByCI(ci)
	if err != nil {
		panic("panel: unchecked card: " + err.Error())
	}
	return known.Paint()
}

// Looks returns the look of every area, in order; an area without washes looks
// like the paper.
func (b *Board) Looks() []Look {
	out := make([]Look, len(b.Areas))
	for i, a := range b.Areas {
		out[i] = a.palette.Look(a.Washes)
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
		if g := w.Technique.Grade(w.IntoWet(i)); g != technique.Even && (g != technique.Out || l.Grade == technique.Even) {
			l.Grade = g
		}
	}
	painted := len(washes) > 0 || p.under.Load > 0
	l.Dense = toneFrom(p.dry(ground, washes, place{}), painted)
	l.Thin = toneFrom(p.dry(ground, washes, place{thin: true}), painted)
	for i, w := range washes {
		t := Trace{Technique: w.Technique, Wash: i}
		switch {
		case w.Technique.Marked():
			t.Tone = toneFrom(p.dry(ground, washes, place{mark: i + 1}), true)
		case w.Technique.Facts().Trace == technique.Glints:
			t.Tone = glint(p.dry(ground, washes, place{}))
		case w.Technique.Facts().Trace == technique.Skips:
			t.Tone = toneFrom(p.dry(ground, slices.Delete(slices.Clone(washes), i, i+1), place{}), true)
		default:
			continue
		}
		l.Traces = append(l.Traces, t)
	}
	return l
}

// glint is how mica shines where the light falls right: an effect, drawn halfway to
// white; nothing spectral stands behind it.
func glint(r pigment.Spectrum) Tone {
	for k := range r {
		r[k] += (1 - r[k]) / 2
	}
	return toneFrom(r, true)
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

// A place of an area: where it is thinnest or densest, on a mark or beside all of
// them.
type place struct {
	thin bool
	mark int // number of the wash that left it, from 1; 0 between the marks
}

// dry is the dry reflectance of washes at a place. What skims the paper leaves what
// lies below in its hollows, which the eye mixes with the rest.
func (p Palette) dry(ground pigment.Spectrum, washes []card.Wash, at place) pigment.Spectrum {
	for _, l := range p.layers(washes, at) {
		over := l.Paint.Over(&ground, l.Load)
		for k := range over {
			over[k] += l.hollows * (ground[k] - over[k])
		}
		ground = over
	}
	return ground
}

// toneFrom is the tone of a reflectance; bare paper is not wetted, and was measured with
// its surface.
func toneFrom(r pigment.Spectrum, painted bool) Tone {
	dry, wet := r, r
	if painted {
		dry, wet = pigment.Seen(r, pigment.Dry), pigment.Seen(r, pigment.Gloss)
	}
	lab := dry.Lab()
	return Tone{Dry: dry.Hex(), Wet: wet.Hex(), Grey: lab.Grey(), Lab: lab}
}

// A layer is a coat that leaves a share of what lies below as it was.
type layer struct {
	pigment.Coat
	hollows  float64
	staining float64 // 0 to 3
}

// layers returns what washes leave at a place, bottom first. A drop-in mixes with
// the wash it falls into instead of lying on it; clean water takes of the one below.
func (p Palette) layers(washes []card.Wash, at place) []layer {
	var out []layer
	if p.under.Load > 0 {
		out = append(out, layer{Coat: p.under, staining: pulledStaining})
	}
	for i, w := range washes {
		t, facts := w.Technique, w.Technique.Facts()
		if t.Marked() && i+1 != at.mark {
			continue
		}
		switch {
		case facts.Pulls && p.under.Load > 0: // it is worked where it lies
			if len(out) == 1 {
				out[0].Load *= workedLeft
			}
			continue
		case facts.Pulls:
			l := layer{Coat: p.pulled, staining: pulledStaining}
			if at.thin {
				l.Load *= pigment.Load(facts.Thin)
			}
			if l.Load > 0 {
				out = append(out, l)
			}
			continue
		case facts.Spreads:
			if len(out) > 0 {
				last := &out[len(out)-1]
				last.Load *= pigment.Load(1 - last.hollows) // what lay on the ridges covers all
				last.hollows = 0
			}
			continue
		}
		if t.Tool() == technique.CleanWater {
			if len(out) > 0 && (at.thin || i+1 == at.mark) {
				last := &out[len(out)-1]
				last.Load *= pigment.Load(min(1, facts.Takes.Least+facts.Takes.Staining*last.staining))
			}
			continue
		}
		l := layer{p.Coat(w), facts.Hollows, staining(w.Mix)}
		switch {
		case facts.Runs == technique.Across && w.IntoWet(i) && len(out) > 0:
			if at.thin { // at one end there is the wash below, at the other this one
				out[len(out)-1] = l
			}
			continue
		case at.thin && t.Grade(w.IntoWet(i)) != technique.Even:
			l.Load *= pigment.Load(facts.Thin)
		}
		if w.IntoWet(i) && len(out) > 0 {
			last := &out[len(out)-1]
			l.Coat = l.With(last.Coat)
			*last = l
			continue
		}
		out = append(out, l)
	}
	return out
}

// workedLeft is how much of a solid's mass stays where water is drawn through it, a milk of
// a cream; the rest goes into its gaps and over its edge. An estimate.
const workedLeft = 0.4

// pulledStaining is how much colour that is drawn out of a line stains: most of it is dye.
const pulledStaining = 2

// staining is how much a mix stains, 0 to 3: its paints by their parts.
func staining(mix []card.Part) float64 {
	sum, parts := 0.0, 0
	for _, p := range mix {
		if known, err := pigment.ByCI(p.CI); err == nil {
			sum += float64(p.Parts * known.Staining)
			parts += p.Parts
		}
	}
	return sum / float64(max(1, parts))
}

// Coat returns the coat one wash of a valid card leaves.
func (p Palette) Coat(w card.Wash) pigment.Coat {
	var parts []pigment.Part
	for _, part := range w.Mix {
		parts = append(parts, pigment.Part{Paint: p.Paint(part.CI), Parts: float64(part.Parts)})
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

// Parts returns the paints of one wash of a valid card, each a coat of as much as there
// is of it.
func (p Palette) Parts(w card.Wash) (out []pigment.Coat) {
	whole := p.Coat(w)
	sum := 0
	for _, part := range w.Mix {
		sum += part.Parts
	}
	for _, part := range w.Mix {
		out = append(out, pigment.Coat{Paint: p.Paint(part.CI), Load: whole.Load * pigment.Load(part.Parts) / pigment.Load(sum)})
	}
	return out
}

// Wet returns the coat with which an area meets a neighbour that is wet at the
// same time: its first wash, if that covers.
func (a *Area) Wet() (pigment.Coat, bool) {
	if len(a.Washes) == 0 || !a.Washes[0].Technique.Covers() {
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
