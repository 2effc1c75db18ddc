package shelf

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"chromaqua/core/pigment"
)

// Form is what a paint comes as.
type Form string

// The forms that matter to how a paint behaves.
const (
	Pan      Form = "pan"
	Tube     Form = "tube"
	Liquid   Form = "liquid"
	Crayon   Form = "pencil"
	Marker   Form = "marker"
	InkPaint Form = "ink"
	Mica     Form = "metallic"
	Gouache  Form = "gouache"
)

// A PaintForm is what is known of a form in general.
type PaintForm struct {
	Form Form
	Name string
	Note string
	// Chalk is scattering that is added to that of the pigments in every band, per
	// unit load: an estimate, half of what titanium white scatters.
	Chalk float64
}

var paintForms = []PaintForm{
	{Pan, "pan", "wet it a minute before; strong mixes take rubbing", 0},
	{Tube, "tube", "squeeze out little; paste comes straight from it", 0},
	{Liquid, "liquid watercolour", "strong and often of dyes: it stains, and may fade", 0},
	{Crayon, "watercolour pencil", "drawn dry and drawn out with water; some of its grain stays", 0},
	{Marker, "water-based marker", "dye: scribble it on a palette and pick it up with a brush; it stains, and may fade", 0},
	{InkPaint, "ink used as paint", "from a pad or a bottle; wet it while it lasts, for some inks set for good", 0},
	{Mica, "mica or metallic", "give its pigments as gold, copper, silver, pearl or clear glimmer, or lay any paint as shimmer; stir it often, and do not breathe in what is dry of it", 0},
	{Gouache, "gouache or opaque watercolour", "covers, dries matt; darks dry lighter and lights darker", 0.3},
}

// PaintForms lists the forms in the order they are offered.
func PaintForms() []PaintForm { return slices.Clone(paintForms) }

// of returns what is known of a form; nothing of one that is not given.
func (f Form) of() (PaintForm, error) {
	if f == "" {
		return PaintForm{}, nil
	}
	for _, p := range paintForms {
		if p.Form == f {
			return p, nil
		}
	}
	var names []string
	for _, p := range paintForms {
		names = append(names, string(p.Form))
	}
	return PaintForm{}, fmt.Errorf("%.20q is no form of paint; use one of %s", string(f), strings.Join(names, ", "))
}

// Words is the name of a form, "" when none is given.
func (f Form) Words() string {
	p, err := f.of()
	if err != nil {
		return ""
	}
	return p.Name
}

// A Portion is how many parts of a pigment are in a paint.
type Portion struct {
	CI    string
	Parts int
}

// MaxPigments is how many pigments a mixed paint may hold; more are mud from the
// start.
const MaxPigments = 3

// Pigments reads what a paint is made of, by the names painters use or Colour Index
// names: "ultramarine", or "2 PBr7 + PBk7" of one that is mixed.
func (o Own) Pigments() (out []Portion, err error) {
	for _, part := range strings.Split(o.Like, "+") {
		p := Portion{Parts: 1}
		words := strings.Fields(part)
		if len(words) == 0 {
			return nil, errors.New("write pigments as in ultramarine, or 2 burnt umber + lamp black")
		}
		if n, err := strconv.Atoi(words[0]); err == nil {
			if p.Parts, words = n, words[1:]; n < 1 || n > 9 {
				return nil, fmt.Errorf("%d: parts are 1 to 9, as in 2 burnt umber + lamp black", n)
			}
		}
		known, err := pigment.Named(strings.Join(words, " "))
		if err != nil {
			return nil, err
		}
		if p.CI = known.CI; slices.ContainsFunc(out, func(q Portion) bool { return q.CI == p.CI }) {
			return nil, fmt.Errorf("%s stands twice in the paint", p.CI)
		}
		out = append(out, p)
	}
	if len(out) > MaxPigments {
		return nil, fmt.Errorf("a paint of more than %d pigments is not computed with", MaxPigments)
	}
	if len(out) == 1 {
		out[0].Parts = 1
	}
	return out, nil
}

// Pigment is the Colour Index name of a paint made of one pigment; ok tells
// whether it is.
func (o Own) Pigment() (ci string, ok bool) {
	of, err := o.Pigments()
	if o.What != OwnPaint || err != nil || len(of) != 1 {
		return "", false
	}
	return of[0].CI, true
}

// Mixture is what a paint absorbs and scatters: as measured, or as its pigments do
// in general, with the chalk of its form.
func (o Own) Mixture() (pigment.Paint, error) {
	if o.Paint != nil {
		return *o.Paint, nil
	}
	portions, err := o.Pigments()
	if err != nil {
		return pigment.Paint{}, err
	}
	var parts []pigment.Part
	for _, p := range portions {
		known, err := pigment.ByCI(p.CI)
		if err != nil {
			return pigment.Paint{}, err
		}
		parts = append(parts, pigment.Part{Paint: known.Paint(), Parts: float64(p.Parts)})
	}
	m, err := pigment.Mix(parts...)
	if err != nil {
		return m, err
	}
	form, err := o.Form.of()
	for k := range m.S {
		m.S[k] += form.Chalk
	}
	return m, err
}
