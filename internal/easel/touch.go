package easel

import (
	"context"
	"image"
	"math"

	"chromaqua/core/drying"
	"chromaqua/core/lineart"
	"chromaqua/core/pigment"
	"chromaqua/core/wash"
)

// touchDry is the load below which nothing is smeared, g/m².
const touchDry = 5

// aroundMM is how far round a touch one looks.
const aroundMM = 12.0

// around draws what lies round a place of a painting once it is dry.
func (e *Easel) around(ctx context.Context, p *Painting, at lineart.Point) (*image.RGBA, error) {
	if err := e.wait(ctx); err != nil {
		return nil, err
	}
	defer func() { <-e.one }()
	q, err := e.picture(ctx, p, wash.Dry)
	if err != nil {
		return nil, err
	}
	const dpi = 200
	k := dpi / 25.4
	r := image.Rect(int((at.X-aroundMM)*k), int((at.Y-aroundMM)*k), int((at.X+aroundMM)*k), int((at.Y+aroundMM)*k))
	return q.Draw(ctx, dpi, r, wash.View{}, nil)
}

// differ is by how much the darkest and the palest change differ, L*: of places a millimetre
// wide, so that grain does not count.
func differ(a, b *image.RGBA) (darker, paler float64) {
	const wide = 8
	r := a.Rect.Intersect(b.Rect)
	light := func(m *image.RGBA, x0, y0 int) float64 {
		var sum pigment.RGB
		for y := y0; y < y0+wide; y++ {
			for x := x0; x < x0+wide; x++ {
				c := m.RGBAAt(x, y)
				l := pigment.FromSRGB([3]float64{float64(c.R) / 255, float64(c.G) / 255, float64(c.B) / 255})
				for k := range sum {
					sum[k] += l[k] / wide / wide
				}
			}
		}
		return sum.Lab().L
	}
	for y := r.Min.Y; y+wide <= r.Max.Y; y += wide / 2 {
		for x := r.Min.X; x+wide <= r.Max.X; x += wide / 2 {
			d := light(b, x, y) - light(a, x, y)
			darker, paler = math.Max(darker, -d), math.Max(paler, d)
		}
	}
	return darker, paler
}

// outcome words what is seen of a touch.
func outcome(darker, paler float64, with Touching, water float64) string {
	const seen = 1.5
	switch {
	case darker < seen && paler < seen:
		return "Nothing is seen of it once it is dry."
	case with == Finger:
		return "It smears: a pale print stays."
	case darker >= seen && paler >= seen && water < 45 && with != LoadedDrop:
		return "A bloom: a pale middle with a dark, crinkled rim."
	case with == LoadedDrop && water < touchDry:
		return "A dab with an edge of its own lies on top."
	case with == LoadedDrop:
		return "It spreads softly and is darker there."
	case paler >= darker:
		return "A soft pale place stays."
	}
	return "It stays darker there, with a soft edge."
}

// gsm is a load of package drying.
func gsm(w float64) drying.GramsPerSquareMetre { return drying.GramsPerSquareMetre(w) }
