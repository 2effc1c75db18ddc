package proof

import (
	"errors"
	"fmt"
	"image"
	"math"
	"slices"

	"chromaqua/core/pigment"
)

// The card on which a paint is swatched is as large as the strip and has its marks:
// a swatch of each strength on white, and below it one across a printed black bar.
// Places are mm from its top left corner.
const (
	SwatchW           = 15.0
	swatchPitch       = 18.2
	swatchLeft        = 18.0
	OnWhiteTop        = 13.0
	OnWhiteBottom     = 33.0
	OverBarTop        = 40.0
	OverBarBottom     = 62.0
	BarTop, BarBottom = 46.0, 56.0
	BarLeft, BarRight = 13.0, 111.0
	swatchEdge        = 3.0  // of a swatch that is not looked at: painters stay in no box
	barSeen           = 15.0 // from the edges, where the bar is bare
)

// SwatchX is where the swatches of the nth strength begin.
func SwatchX(n int) float64 { return swatchLeft + float64(n)*swatchPitch }

// Errors of reading swatches, worded for whoever scanned them.
var (
	ErrNoSwatches = errors.New("this is no swatch card: the black bar below the swatches is missing; print the card of this page and paint it")
	ErrCast       = errors.New("the scan has so strong a colour cast that colours cannot be told; scan in colour without corrections, with a clean glass")
)

// ReadSwatches reads a scan of a painted swatch card: ten patches, those on white
// first, from weak tea to paste. The paper is taken for white paper.
func ReadSwatches(m image.Image) ([]pigment.Patch, error) {
	s, err := square(m)
	if err != nil {
		return nil, err
	}
	middle := [3]float64{s.light[0][0], s.light[1][0], s.light[2][0]}
	if slices.Max(middle[:]) > 1.4*slices.Min(middle[:]) {
		return nil, ErrCast
	}
	white, err := pigment.Paper("white")
	if err != nil {
		return nil, err
	}
	black, err := s.bar()
	if err != nil {
		return nil, err
	}
	var out []pigment.Patch
	for row := range 2 {
		ground, top, bottom := white, OnWhiteTop, OnWhiteBottom
		if row == 1 {
			ground, top, bottom = black, BarTop, BarBottom
		}
		for n, strength := range pigment.Strengths() {
			load, err := strength.Load()
			if err != nil {
				return nil, err
			}
			seen, err := s.swatch(SwatchX(n), top, bottom)
			if err != nil {
				return nil, fmt.Errorf("the swatch of %s: %w", strength, err)
			}
			out = append(out, pigment.Patch{Load: load, Ground: ground, Seen: seen})
		}
	}
	return out, darkening(out)
}

// bar is the reflectance of the printed bar, grey in all bands, where it is bare.
func (s *squared) bar() (r pigment.Spectrum, err error) {
	level := 0.0
	for _, x := range []float64{barSeen, StripW - barSeen} {
		c := s.mean(x-1, BarTop+3, x+1, BarBottom-3)
		if (c[0]+c[1]+c[2])/3 > 0.4 {
			return r, ErrNoSwatches
		}
		lin := pigment.FromSRGB(onPaper(c))
		level += (lin[0] + lin[1] + lin[2]) / 6
	}
	for i := range r {
		r[i] = max(0.002, level)
	}
	return r, nil
}

// swatch is the colour of a swatch: the median of its inside.
func (s *squared) swatch(x, top, bottom float64) (pigment.Lab, error) {
	var v [3][]float64
	for y := top + swatchEdge; y <= bottom-swatchEdge; y += 0.4 {
		for dx := swatchEdge; dx <= SwatchW-swatchEdge; dx += 0.4 {
			c := s.at(Point{X: x + dx, Y: y})
			for i := range v {
				v[i] = append(v[i], c[i])
			}
		}
	}
	var mid [3]float64
	glare := 0
	for i := range v {
		mid[i] = median(slices.Clone(v[i]))
	}
	for k := range v[0] {
		if v[0][k] > mid[0]+0.3 && v[1][k] > mid[1]+0.3 && v[2][k] > mid[2]+0.3 {
			glare++
		}
	}
	if glare > len(v[0])/8 {
		return pigment.Lab{}, errors.New("light is reflected on it; scan it flat, or dry")
	}
	return pigment.FromSRGB(onPaper(mid)).Lab(), nil
}

// onPaper is a colour that was read against white paper, as a picture has it.
func onPaper(c [3]float64) [3]float64 {
	paper, err := pigment.Paper("white")
	if err != nil {
		panic("proof: " + err.Error()) // the library has it
	}
	for i, v := range paper.Linear().Encoded() {
		c[i] *= v
	}
	return c
}

// darkening refuses swatches that are missing or in another order.
func darkening(patches []pigment.Patch) error {
	const (
		slack = 4  // L* by which a stronger swatch may be lighter
		bare  = 94 // L* of paper, nearly
	)
	strengths := pigment.Strengths()
	least := math.Inf(1)
	for n, strength := range strengths {
		l, c := patches[n].Seen.L, patches[n].Seen.Chroma()
		over := patches[len(strengths)+n]
		if n > 0 && l > bare && c < 6 && math.Abs(over.Seen.L-over.Ground.Lab().L) < 2.5 { // a white shows on the bar
			return fmt.Errorf("the swatch of %s is bare; paint all five, and scan again", strength)
		}
		if l > least+slack {
			return fmt.Errorf("the swatch of %s is lighter than a weaker one; paint them from weak tea to paste, left to right", strength)
		}
		least = min(least, l)
	}
	return nil
}
