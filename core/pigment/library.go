package pigment

import (
	_ "embed"
	"encoding/json"
	"fmt"
	"maps"
	"slices"
	"strings"
)

//go:embed library.json
var libraryJSON []byte

// A Pigment is a generic paint of one pigment, by its Colour Index name.
type Pigment struct {
	CI           string   `json:"ci"`           // "PB29"
	Common       string   `json:"common"`       // what painters call it, "ultramarine"
	Name         string   `json:"name"`         // "ultramarine blue"
	Hue          string   `json:"hue"`          // "warm blue"
	Transparency string   `json:"transparency"` // T, ST, SO or O
	Staining     int      `json:"staining"`     // 0 lifts off … 3 stains
	Granulation  int      `json:"granulation"`  // 0 smooth … 3 settles into the paper
	Lightfast    string   `json:"lightfast"`    // I best, II good
	Caution      string   `json:"caution"`      // "" when there is none
	K            Spectrum `json:"K"`
	S            Spectrum `json:"S"`
	Sinks        float64  `json:"sinks"` // share of S that a thin coat lacks, 0 to 1
	Glint        float64  `json:"-"`     // how much it mirrors the light, 0 to 1: see [Metals]
}

// Harmful reports whether its caution speaks of more than dust: it must not get
// where drops and spray get.
func (p *Pigment) Harmful() bool {
	for _, word := range []string{"ingest", "swallow", "manganese"} {
		if strings.Contains(p.Caution, word) {
			return true
		}
	}
	return false
}

// Paint returns the pigment's absorption and scattering.
func (p *Pigment) Paint() Paint {
	out := Paint{K: p.K, S: p.S}
	for i, s := range p.S {
		out.Sinks[i] = p.Sinks * s
	}
	return out
}

var library = loadLibrary()

type libraryFile struct {
	ToXYZ        [3]Spectrum         `json:"to_xyz"`
	ToLinearSRGB [3]Spectrum         `json:"to_linear_srgb"`
	Papers       map[string]Spectrum `json:"papers"`
	Pigments     []Pigment           `json:"pigments"`
}

func loadLibrary() *libraryFile {
	var f libraryFile
	if err := json.Unmarshal(libraryJSON, &f); err != nil {
		panic("pigment: embedded library: " + err.Error())
	}
	return &f
}

// Library returns the generic pigments in palette order: yellows to blacks,
// then whites.
func Library() []Pigment { return slices.Clone(library.Pigments) }

// known finds a generic pigment or a metal; nil when there is none.
func known(is func(*Pigment) bool) *Pigment {
	for _, of := range [][]Pigment{library.Pigments, metals} {
		for i := range of {
			if is(&of[i]) {
				return &of[i]
			}
		}
	}
	return nil
}

// OpaqueWhite is the Colour Index name of the white that brings a painted place back.
const OpaqueWhite = "PW6"

// ByCI returns the generic pigment or the metal of Colour Index name ci.
func ByCI(ci string) (*Pigment, error) {
	if p := known(func(p *Pigment) bool { return strings.EqualFold(p.CI, ci) }); p != nil {
		return p, nil
	}
	return nil, fmt.Errorf("there is no pigment %q on the palette; use a name such as ultramarine, or its Colour Index name, PB29", ci)
}

// Named returns the generic pigment or the metal that painters call so, or of that Colour
// Index name.
func Named(name string) (*Pigment, error) {
	if p := known(func(p *Pigment) bool { return strings.EqualFold(p.Common, name) }); p != nil {
		return p, nil
	}
	return ByCI(name)
}

// Common returns what painters call a pigment, its Colour Index name when it is not
// known.
func Common(ci string) string {
	p, err := ByCI(ci)
	if err != nil {
		return ci
	}
	return p.Common
}

// Paper returns the reflectance of a paper by its colour: white, cream, kraft
// or black.
func Paper(colour string) (Spectrum, error) {
	if s, ok := library.Papers[colour]; ok {
		return s, nil
	}
	names := slices.Sorted(maps.Keys(library.Papers))
	return Spectrum{}, fmt.Errorf("there is no paper %q; use one of %s", colour, strings.Join(names, ", "))
}

// Strength is a painter's word for how much pigment is in the water.
type Strength string

// Strengths from the thinnest to the thickest; each about doubles the pigment.
const (
	WeakTea Strength = "weak tea"
	Tea     Strength = "tea"
	Milk    Strength = "milk"
	Cream   Strength = "cream"
	Paste   Strength = "paste"
)

// Called is the pigment that a text names: by its Colour Index name, or by a name painters
// use, in whichever case.
func Called(text string) (p *Pigment, ok bool) {
	text = strings.ToLower(strings.TrimSpace(text))
	p = known(func(p *Pigment) bool { return strings.ToLower(p.CI) == text || strings.ToLower(p.Name) == text })
	return p, p != nil
}

// Strengths lists the scale from thin to thick.
func Strengths() []Strength { return []Strength{WeakTea, Tea, Milk, Cream, Paste} }

// Load returns the load one coat of that strength leaves.
func (s Strength) Load() (Load, error) {
	switch s {
	case WeakTea:
		return 0.15, nil
	case Tea:
		return 0.35, nil
	case Milk:
		return 1, nil
	case Cream:
		return 2.5, nil
	case Paste:
		return 6, nil
	}
	return 0, fmt.Errorf("%q is no strength; use weak tea, tea, milk, cream or paste", string(s))
}
