package standin

import (
	"image"
	"image/color"
	"math"

	"chromaqua/core/proof"
)

// Behaviour is what an ink does on a strip that is brushed with water.
type Behaviour struct {
	Ink   color.RGBA
	Bleed float64 // how far from the line's edge a tenth of its darkness reaches, mm
	Tint  float64 // share of the ink that colours the brushed paper, 0 to 1
	Loss  float64 // share of the line's darkness that is gone, 0 to 1
}

// Inks are behaviours to practise with, by name.
func Inks() map[string]Behaviour {
	black, blue, grey := color.RGBA{R: 28, G: 28, B: 32, A: 255}, color.RGBA{R: 30, G: 44, B: 120, A: 255}, color.RGBA{R: 70, G: 66, B: 64, A: 255}
	return map[string]Behaviour{
		"holds":          {black, 0.03, 0.002, 0.01},
		"softens":        {grey, 0.33, 0.02, 0.10},
		"runs":           {blue, 1.8, 0.12, 0.35},
		"bleeds a hair":  {black, 0.11, 0.006, 0.03},
		"vanishes":       {grey, 0.9, 0.08, 0.6},
		"stays but dyes": {blue, 0.1, 0.07, 0.02},
	}
}

// Strip draws a test strip as it is once the ink has been ruled on it and its
// right part brushed.
func Strip(b Behaviour, pxPerMM float64) *image.RGBA {
	m := image.NewRGBA(image.Rect(0, 0, int(proof.StripW*pxPerMM), int(proof.StripH*pxPerMM)))
	paper := [3]float64{248, 247, 243}
	ink := [3]float64{float64(b.Ink.R), float64(b.Ink.G), float64(b.Ink.B)}
	for y := range m.Rect.Dy() {
		for x := range m.Rect.Dx() {
			px, py := (float64(x)+0.5)/pxPerMM, (float64(y)+0.5)/pxPerMM
			share := b.share(px, py, 0.5/pxPerMM)
			c := color.RGBA{A: 255}
			for i, to := range []*uint8{&c.R, &c.G, &c.B} {
				*to = uint8(paper[i] + share*(ink[i]-paper[i]))
			}
			if onMark(px, py) {
				c = color.RGBA{R: 24, G: 24, B: 24, A: 255}
			}
			m.SetRGBA(x, y, c)
		}
	}
	return m
}

// share is how much of the ink covers the paper at a place; soft is half the
// width of an edge, mm.
func (b Behaviour) share(x, y, soft float64) float64 {
	wet := x >= proof.WetFrom && x < proof.InkRight+4 && y > 10 && y < proof.StripH-10
	ground := 0.0
	if wet {
		ground = b.Tint
	}
	if x < proof.InkLeft || x > proof.InkRight {
		return ground
	}
	share := 0.0
	body := func(top, bottom float64) {
		off := max(top-y, y-bottom) // outside the edge, mm
		inside := min(1, max(0, (soft-off)/(2*soft)))
		if wet {
			inside *= 1 - b.Loss
			if off > 0 && off < 3*b.Bleed {
				inside = max(inside, (1-b.Loss)*math.Pow(0.1, off/b.Bleed))
			}
		}
		share = max(share, inside)
	}
	for _, l := range proof.StripLines() {
		body(l.Y-l.Thick/2, l.Y+l.Thick/2)
	}
	body(proof.PatchTop, proof.PatchBottom)
	return max(share, ground)
}

func onMark(x, y float64) bool {
	for i, p := range proof.Marks() {
		d := max(math.Abs(x-p.X), math.Abs(y-p.Y))
		if d <= proof.MarkSide/2 && (i == 0 || d > proof.MarkHole/2) {
			return true
		}
	}
	return false
}
