package proof

import (
	"context"
	"fmt"
	"image"
	"math"

	"golang.org/x/image/draw"
	"golang.org/x/image/math/f64"

	"chromaqua/core/lineart"
)

// Relay lays a new scan of an image exactly where the old one lies: straightened,
// to the old one's frame, at the new one's resolution. ok is false when the two
// do not show the same image. Resolutions are pixels per inch.
func Relay(ctx context.Context, old *image.Gray, oldDPI float64, scan *image.Gray, scanDPI float64) (laid *image.Gray, ok bool, err error) {
	a, err := lineart.FindInk(ctx, old, oldDPI)
	if err != nil {
		return nil, false, fmt.Errorf("the old scan: %w", err)
	}
	b, err := lineart.FindInk(ctx, scan, scanDPI)
	if err != nil {
		return nil, false, fmt.Errorf("the new scan: %w", err)
	}
	m, err := Align(a, b)
	if err != nil || !m.Same() {
		return nil, false, err
	}
	px := scanDPI / 25.4
	mm := 25.4 / oldDPI
	laid = image.NewGray(image.Rect(0, 0, int(math.Round(float64(old.Rect.Dx())*mm*px)), int(math.Round(float64(old.Rect.Dy())*mm*px))))
	draw.Draw(laid, laid.Rect, image.White, image.Point{}, draw.Src)
	draw.CatmullRom.Transform(laid, f64.Aff3{m.A, -m.B, m.X * px, m.B, m.A, m.Y * px}, scan, scan.Rect, draw.Over, nil)
	return laid, true, nil
}
