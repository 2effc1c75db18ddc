package paint

import (
	"context"
	"fmt"
	"image"

	"golang.org/x/image/draw"

	"chromaqua/core/panel"
	"chromaqua/core/wash"
)

// Limits of resolution, pixels per inch. Finer than the finest the tooth of the paper has
// no more to show.
const (
	LeastDPI = 20
	MostDPI  = 600
)

// A Shot is how a piece is pictured.
type Shot struct {
	DPI  float64
	Line bool // with the line over the paint
	Rect image.Rectangle
	wash.View
	Progress func(share float64)
}

// Size is how many pixels a whole piece has at a resolution. It refuses what no memory
// holds.
func Size(b *panel.Board, dpi float64) (image.Point, error) {
	if !(dpi >= LeastDPI && dpi <= MostDPI) {
		return image.Point{}, fmt.Errorf("%g pixels to the inch cannot be painted; ask for %d to %d", dpi, LeastDPI, MostDPI)
	}
	s := wash.SizeOf(PlateOf(b.Sheet), dpi)
	if s.X*s.Y > wash.MaxPixels {
		return s, fmt.Errorf("a picture of %d × %d pixels is too large; ask for fewer pixels to the inch", s.X, s.Y)
	}
	return s, nil
}

// Draw pictures a moment of a piece.
func Draw(ctx context.Context, b *panel.Board, q *wash.Picture, s Shot) (*image.RGBA, error) {
	size, err := Size(b, s.DPI)
	if err != nil {
		return nil, err
	}
	if s.Rect.Empty() {
		s.Rect = image.Rectangle{Max: size}
	}
	if s.Line {
		s.Ink, s.InkOf = LineOf(b, size), [3]float64{0.030, 0.031, 0.036}
	}
	return q.Draw(ctx, s.DPI, s.Rect, s.View, s.Progress)
}

// WithLine is a picture of a whole piece with its line over it, which is clear where the paper
// is.
func WithLine(img *image.RGBA, line image.Image) *image.RGBA {
	out := image.NewRGBA(img.Rect)
	copy(out.Pix, img.Pix)
	draw.CatmullRom.Scale(out, out.Rect, line, line.Bounds(), draw.Over, nil)
	return out
}

// LineOf is the line of a piece as it is seen, in a picture's size.
func LineOf(b *panel.Board, size image.Point) *image.Gray {
	return b.Remember(fmt.Sprint("line of washes ", size), func() any {
		out := image.NewGray(image.Rectangle{Max: size})
		draw.CatmullRom.Scale(out, out.Rect, b.Grey, b.Grey.Rect, draw.Src, nil)
		return out
	}).(*image.Gray)
}
