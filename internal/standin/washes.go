package standin

import (
	"context"
	"image"
	"image/color"
	"math"
	"math/rand/v2"

	"chromaqua/core/proof"
	"chromaqua/core/wash"
)

// SomeHand is a hand as another maker may have it.
func SomeHand(seed uint64) wash.Hand {
	rng := rand.New(rand.NewPCG(seed, 12))
	f := func() float64 { return math.Exp(0.35 * max(-1.8, min(1.8, rng.NormFloat64()))) }
	return wash.Hand{Spread: f(), Rim: f(), Grain: f()}
}

// Washes draws a card of test washes as a hand paints it, with the marks it is squared by.
func Washes(ctx context.Context, paper wash.Paper, hand wash.Hand, rate float64, seed uint64, pxPerMM float64) (*image.RGBA, error) {
	m, err := wash.TestCard(paper, hand, rate, uint32(seed)).Play(ctx, wash.Dry, nil)
	if err != nil {
		return nil, err
	}
	q := m.Picture()
	dpi := 25.4 * pxPerMM
	img, err := q.Draw(ctx, dpi, image.Rectangle{Max: q.Size(dpi)}, wash.View{}, nil)
	if err != nil {
		return nil, err
	}
	for y := range img.Rect.Dy() {
		for x := range img.Rect.Dx() {
			px, py := (float64(x)+0.5)/pxPerMM, (float64(y)+0.5)/pxPerMM
			switch edge := min(px, py, proof.StripW-px, proof.StripH-py); {
			case onMark(px, py):
				img.SetRGBA(x, y, color.RGBA{R: 24, G: 24, B: 24, A: 255})
			case edge < 2:
				img.SetRGBA(x, y, color.RGBA{R: 247, G: 247, B: 245, A: 255})
			}
		}
	}
	return img, nil
}
