// Package shelf knows what the craft generally knows of papers, inks and
// brushes. It is data with reasons beside it; nothing here is a brand, and
// every figure is a general one that a maker's own test would outrank.
package shelf

import (
	"fmt"
	"math"
	"slices"
	"time"

	"chromaqua/core/drying"
	"chromaqua/core/length"
)

// A Paper takes paint.
type Paper struct {
	ID        string
	Name      string
	Colour    string         // a paper of package pigment
	Thickness length.Length  // of one sheet
	GSM       float64        // grams per m²
	Surface   drying.Surface // how it holds water
	Texture   Texture
	Wets      bool // it stands washes wetter than a pulled-out colour
	Note      string
}

// Texture is how rough a paper is to a stamp.
type Texture string

// The textures.
const (
	Smooth   Texture = "smooth"
	Textured Texture = "textured" // cold press
	Rough    Texture = "rough"
)

// Impressions says how often a stamp is pressed on paper of that texture.
func (t Texture) Impressions() string {
	return map[Texture]string{Smooth: "once", Textured: "2 to 3 times", Rough: "3 times and more"}[t]
}

// missed is the share of a solid that one impression misses on each texture, a
// general figure; each further impression misses about half of what is left.
var missed = map[Texture]float64{Smooth: 0, Textured: 0.1, Rough: 0.28}

// Misses is the share of a solid's mass that stays white after so many
// impressions.
func (t Texture) Misses(impressions int) float64 {
	return missed[t] * math.Pow(0.5, float64(impressions-1))
}

// tenthMM is the usual step for paper thickness.
const tenthMM = length.Millimetre / 10

// TapeWidth is how wide painter's tape is, unless another is chosen.
const TapeWidth = length.Inch

// What bases and mats are made of unless another is chosen.
const (
	Cardstock    = "card"
	MatCardstock = "card-colour"
)

// Papers lists the general papers, the default first.
func Papers() []Paper {
	return []Paper{
		{"cotton-cp", "cotton cold press 300 gsm", "white", 5 * tenthMM, 300, drying.Cotton, Textured, true, "takes many layers, moves colour evenly, lets you lift"},
		{"cotton-hp", "cotton hot press 300 gsm", "white", 45 * tenthMM / 10, 300, drying.Sealed, Smooth, true, "crisp lines; washes stand on the surface longer"},
		{"pulp-cp", "wood pulp cold press 300 gsm", "white", 5 * tenthMM, 300, drying.Pulp, Textured, true, "cheap and fine for light, loose washes; blooms and pills when reworked"},
		{"cotton-rough", "cotton rough 300 gsm", "white", 6 * tenthMM, 300, drying.Cotton, Rough, true, "breaks lines and mottles solids; for loose washes"},
		{"cotton-cream", "cotton cold press 300 gsm, cream", "cream", 5 * tenthMM, 300, drying.Cotton, Textured, true, "as the white, warmer in every wash"},
		{Cardstock, "smooth white cardstock 270 gsm", "white", 3 * tenthMM, 270, drying.Sealed, Smooth, false, "buckles and pills under real washes; only for a damp brush"},
		{MatCardstock, "coloured cardstock 220 gsm", "white", 25 * tenthMM / 10, 220, drying.Sealed, Smooth, false, "for mats and bases; not to be painted"},
		{"kraft", "kraft card 300 gsm", "kraft", 35 * tenthMM / 10, 300, drying.Sealed, Smooth, false, "transparent colours sink into the brown; opaque ones show"},
	}
}

// An Ink makes the line: an ink, a pen, a way of printing.
type Ink struct {
	ID      string
	Name    string
	Method  Method
	Holds   bool          // it stands a wash once waterproof
	AirDry  time.Duration // until waterproof, or until it may be touched
	HeatDry time.Duration // the same under a heat tool; 0 when heat does not help
	Looks   []Look        // it is good for, the best first
	Powder  PowderUse
	Note    string
	Risk    string // what goes wrong with it, "" when nothing in particular
	Pulls   string // the pigment, by Colour Index name, that it looks like where water draws it out; "" where it gives nothing
}

// Method is how an ink comes onto the paper.
type Method string

// The methods.
const (
	Stamped Method = "stamped"
	Printed Method = "printed"
	Drawn   Method = "drawn"
)

// Look is what becomes of a line under paint.
type Look string

// The looks.
const (
	Crisp     Look = "crisp"
	Soft      Look = "soft"      // pale, but it stays
	Vanishing Look = "vanishing" // the paint swallows it
	Pulled    Look = "pulled"    // drawn out of the line with a wet brush
	Solid     Look = "solid"     // a mass that is worked with water
)

// Looks lists them in the order they are offered.
func Looks() []Look { return []Look{Crisp, Soft, Vanishing, Pulled, Solid} }

// PowderUse is whether embossing powder can be melted on an ink.
type PowderUse string

// The uses of powder.
const (
	NoPowder    PowderUse = ""
	WhileWet    PowderUse = "while it is wet"
	TakesPowder PowderUse = "yes"
	IsPowder    PowderUse = "is it"
)

// Inks lists the general kinds of line, the default first. Times are the
// longer end of what is usual on absorbent paper.
func Inks() []Ink {
	return []Ink{
		{"pigment-quick", "pigment ink, quick waterproof, black", Stamped, true, 15 * time.Minute, 30 * time.Second, []Look{Crisp}, WhileWet, "holds; takes fine detail", "", ""},
		{"pigment-slow", "pigment ink, slow, black", Stamped, true, 60 * time.Minute, time.Minute, []Look{Crisp}, TakesPowder, "smears until cured; sure only under clear powder", "it smears when it is painted too soon, and never cures on sealed paper", ""},
		{"permanent", "oil- or resin-based permanent ink", Stamped, true, 30 * time.Minute, time.Minute, []Look{Crisp, Soft}, NoPowder, "holds; soft greys and browns to be had", "", ""},
		{"solvent", "solvent ink", Stamped, true, 2 * time.Minute, 0, []Look{Crisp}, NoPowder, "holds; may feather on texture; ventilate", "it feathers along the fibres of textured paper, and stains photopolymer", ""},
		{"embossed", "embossing ink with clear powder, melted", Stamped, true, time.Minute, 0, []Look{Crisp}, IsPowder, "holds, resists water and walls the colours off; the powder is melted with the heat tool first", "stray grains melt into dots: use an anti-static pouch and brush them off before heating", ""},
		{"laser", "laser print (toner)", Printed, true, 0, 0, []Look{Crisp}, NoPowder, "holds and repels a little; do not heat it closely", "thick watercolour paper may not go through the printer, and toner flakes off texture", ""},
		{"pen", "pigment-ink pen", Drawn, true, 2 * time.Minute, 0, []Look{Crisp, Soft}, NoPowder, "holds once dry", "", ""},
		{"pale", "pale vanishing ink", Stamped, true, 10 * time.Minute, 30 * time.Second, []Look{Vanishing}, NoPowder, "disappears under paint; heat it, so that it takes less colour", "forgotten cells keep their pale outline", ""},
		{"graphite", "graphite or wax-based coloured pencil", Drawn, true, 0, 0, []Look{Soft, Vanishing}, NoPowder, "holds; shows through pale washes", "under a wash it cannot be rubbed out any more", ""},
		{"inkjet-pigment", "inkjet print, pigment inks", Printed, true, 24 * time.Hour, 0, []Look{Crisp}, NoPowder, "mostly holds after a day; test it", "printers differ: use it only after a test", ""},
		{"blend", "dye-and-pigment blend that stays reactive", Stamped, false, 10 * time.Minute, time.Minute, []Look{Soft, Solid, Pulled}, WhileWet, "softens and lifts under water", "it goes chalky where it is worked long", "PBk7"},
		{"dye", "dye ink or water-based marker", Stamped, false, 2 * time.Minute, 0, []Look{Pulled, Vanishing, Solid}, NoPowder, "runs and tints under water, on purpose or not", "its colour comes through every wash laid over it", "PBk7"},
		{"watercolour-pencil", "watercolour pencil", Drawn, false, 0, 0, []Look{Pulled, Vanishing}, NoPowder, "dissolves under water, on purpose", "", "PB29"},
		{"inkjet-dye", "inkjet print, dye inks", Printed, false, 24 * time.Hour, 0, []Look{Pulled}, NoPowder, "runs", "what looks dry runs at the first wash", "PBk7"},
	}
}

// A Powder is melted on wet ink, seals it, and stands up from the paper.
type Powder struct {
	ID     string
	Name   string
	Clear  bool
	Finest float64 // the finest line it does not fill up, mm
	Raised float64 // height once melted, mm
	Note   string
}

// Superfine and PlainPowder are the clear powders that make a line sure.
const (
	Superfine   = "powder-superfine"
	PlainPowder = "powder-clear"
)

// Powders lists the general embossing powders, the finest first.
func Powders() []Powder {
	return []Powder{
		{Superfine, "superfine clear powder", true, 0.25, 0.1, "for fine lines; the ink shows through"},
		{"powder-white", "opaque white powder, fine", false, 0.4, 0.12, "a white line that resists; shows on coloured paper and washes"},
		{PlainPowder, "clear powder", true, 0.5, 0.15, "the usual; the ink shows through"},
		{"powder-metallic", "metallic powder", false, 0.5, 0.15, "covers the ink and shines; resists"},
		{"powder-thick", "ultra-thick clear powder", true, 2, 0.5, "for solids only, in several layers"},
	}
}

// PowderByID returns a general powder.
func PowderByID(id string) (Powder, error) {
	for _, p := range Powders() {
		if p.ID == id {
			return p, nil
		}
	}
	return Powder{}, fmt.Errorf("there is no powder %q on the shelf; choose one that is listed", id)
}

// Good reports whether an ink is good for a look.
func (k Ink) Good(l Look) bool { return slices.Contains(k.Looks, l) }

// Raises reports whether its line stands up from the paper and walls colours off.
func (k Ink) Raises() bool { return k.Powder == IsPowder }

// Same reports whether two inks are one: of one kind, and of the same name.
func (k Ink) Same(o Ink) bool { return k.ID == o.ID && k.Name == o.Name }

// ImageKind is what an image of the library is made with.
type ImageKind string

// The kinds of images.
const (
	LineImage   ImageKind = "line"
	SolidImage  ImageKind = "solid"
	ReliefImage ImageKind = "relief"
	Stencil     ImageKind = "stencil"
	ResistImage ImageKind = "resist stamp" // its mass is embossed clear, and keeps what lies under it
	DieImage    ImageKind = "die"
	PrintImage  ImageKind = "printed drawing"
)

// ImageKinds lists them in the order they are offered.
func ImageKinds() []ImageKind {
	return []ImageKind{LineImage, SolidImage, ReliefImage, Stencil, ResistImage, DieImage, PrintImage}
}

// Mount is what a stamp is mounted on.
type Mount string

// The mounts.
const (
	NoMount      Mount = ""
	ClingRubber  Mount = "cling rubber"
	Photopolymer Mount = "photopolymer"
	Wood         Mount = "wood"
)

// Mounts lists them in the order they are offered.
func Mounts() []Mount { return []Mount{NoMount, ClingRubber, Photopolymer, Wood} }

// PaperByID returns a general paper.
func PaperByID(id string) (Paper, error) {
	for _, p := range Papers() {
		if p.ID == id {
			return p, nil
		}
	}
	return Paper{}, fmt.Errorf("there is no paper %q on the shelf; choose one that is listed", id)
}

// InkByID returns a general ink.
func InkByID(id string) (Ink, error) {
	for _, k := range Inks() {
		if k.ID == id {
			return k, nil
		}
	}
	return Ink{}, fmt.Errorf("there is no ink %q on the shelf; choose one that is listed", id)
}
