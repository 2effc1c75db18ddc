package standin

import (
	"image"
	"image/color"
	"math"
	"math/rand/v2"

	"chromaqua/core/pigment"
	"chromaqua/core/proof"
)

// Swatches draws a swatch card as it is once a paint has been swatched on it, each
// load missed a little.
func Swatches(p pigment.Paint, missed float64, seed uint64, pxPerMM float64) *image.RGBA {
	rng := rand.New(rand.NewPCG(seed, 5))
	white, black := grounds()
	var on, over [5]color.RGBA
	for n, s := range pigment.Strengths() {
		load, err := s.Load()
		if err != nil {
			panic("standin: " + err.Error()) // the strengths are the package's own
		}
		load *= pigment.Load(math.Exp(missed * rng.NormFloat64()))
		a, b := p.Over(&white, load), p.Over(&black, load)
		on[n], over[n] = shown(pigment.Seen(a, pigment.Dry)), shown(pigment.Seen(b, pigment.Dry))
	}
	paper, bar := shown(white), shown(black)
	m := image.NewRGBA(image.Rect(0, 0, int(proof.StripW*pxPerMM), int(proof.StripH*pxPerMM)))
	for y := range m.Rect.Dy() {
		for x := range m.Rect.Dx() {
			px, py := (float64(x)+0.5)/pxPerMM, (float64(y)+0.5)/pxPerMM
			c := paper
			onBar := py >= proof.BarTop && py < proof.BarBottom && px >= proof.BarLeft && px < proof.BarRight
			if onBar {
				c = bar
			}
			for n := range on {
				if px < proof.SwatchX(n) || px >= proof.SwatchX(n)+proof.SwatchW {
					continue
				}
				switch {
				case onBar:
					c = over[n]
				case py >= proof.OnWhiteTop && py < proof.OnWhiteBottom, py >= proof.OverBarTop && py < proof.OverBarBottom:
					c = on[n]
				}
			}
			if onMark(px, py) {
				c = color.RGBA{R: 24, G: 24, B: 24, A: 255}
			}
			m.SetRGBA(x, y, c)
		}
	}
	return m
}

// Another is a paint like p, but not the same: stronger in some bands, weaker in
// others, as one maker's is from another's.
func Another(p pigment.Paint, seed uint64) pigment.Paint {
	rng := rand.New(rand.NewPCG(seed, 8))
	a, b := rng.Float64()*0.6-0.3, rng.Float64()*6
	for k := range p.K {
		p.K[k] *= math.Exp(a + 0.3*math.Sin(b+float64(k)/7))
	}
	return p
}

func grounds() (white, black pigment.Spectrum) {
	var err error
	if white, err = pigment.Paper("white"); err == nil {
		black, err = pigment.Paper("black")
	}
	if err != nil {
		panic("standin: " + err.Error()) // the library has both
	}
	return white, black
}

func shown(r pigment.Spectrum) color.RGBA {
	c := r.Linear().Clip().Encoded()
	return color.RGBA{R: uint8(math.Round(255 * c[0])), G: uint8(math.Round(255 * c[1])), B: uint8(math.Round(255 * c[2])), A: 255}
}
