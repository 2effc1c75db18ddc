package easel

import (
	"bytes"
	"context"
	"image"
	"image/color/palette"
	"image/draw"
	"image/gif"
	"image/png"
	"slices"

	"chromaqua/core/wash"
)

// What is kept of a painting.
const (
	keepDPI     = 300
	makingDPI   = 64
	makingShots = 28  // pictures of its making
	makingEvery = 14  // hundredths of a second
	makingEnd   = 250 // so long the last one stays
)

// PNG is a painting with its line, dry, as fine as it is printed.
func (e *Easel) PNG(ctx context.Context, p *Painting) ([]byte, error) {
	img, err := e.Image(ctx, p, Look{At: wash.Dry, DPI: keepDPI, Line: true})
	if err != nil {
		return nil, err
	}
	var buf bytes.Buffer
	err = png.Encode(&buf, img)
	return buf.Bytes(), err
}

// Making is a short animation of how a painting is made, as a GIF: a picture while each step
// is done and as it dries, the long waits cut short.
func (e *Easel) Making(ctx context.Context, p *Painting) ([]byte, error) {
	var out gif.GIF
	for _, at := range p.shots(makingShots) {
		img, err := e.Image(ctx, p, Look{At: at, DPI: makingDPI, Line: true})
		if err != nil {
			return nil, err
		}
		frame := image.NewPaletted(img.Bounds(), palette.Plan9)
		draw.FloydSteinberg.Draw(frame, frame.Rect, img, img.Bounds().Min)
		out.Image, out.Delay = append(out.Image, frame), append(out.Delay, makingEvery)
	}
	out.Delay[len(out.Delay)-1] = makingEnd
	var buf bytes.Buffer
	err := gif.EncodeAll(&buf, &out)
	return buf.Bytes(), err
}

// shots are times at which something is to be seen, s: the halves and ends of steps, no more
// than so many, and at last when all is dry.
func (p *Painting) shots(most int) []float64 {
	at := []float64{0}
	for _, o := range p.goes() {
		at = append(at, float64(o.Start+o.End)/2, float64(o.End)+1)
	}
	slices.Sort(at)
	for len(at) > most-1 { // every second of those in the middle
		var fewer []float64
		for i, t := range at {
			if i%2 == 0 || len(at)-i+len(fewer) <= most-1 {
				fewer = append(fewer, t)
			}
		}
		at = fewer
	}
	return append(at, wash.Dry)
}
