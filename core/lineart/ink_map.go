package lineart

import (
	"context"
	"image"
)

// Ink is which pixels of a picture are line, at the resolution the picture is
// worked at.
type Ink struct {
	W, H int     // pixels
	MM   float64 // millimetres per pixel
	On   []bool
	Grey []uint8 // the picture, light evened out: paper is 240
	Line float64 // typical thickness, mm
}

// FindInk tells line from paper as [Find] does, without looking for cells. It
// fails on what is no line image.
func FindInk(ctx context.Context, img *image.Gray, dpi float64) (*Ink, error) {
	if err := checkInput(img.Bounds().Dx(), img.Bounds().Dy(), dpi); err != nil {
		return nil, err
	}
	w := &working{progress: func(string, float64) {}, ctx: ctx}
	w.load(img, dpi)
	for _, f := range []func() error{w.flatten, w.findInk} {
		if err := ctx.Err(); err != nil {
			return nil, err
		}
		if err := f(); err != nil {
			return nil, err
		}
	}
	return &Ink{W: w.w, H: w.h, MM: w.mm, On: w.ink.bools(), Grey: w.grey, Line: w.line}, nil
}

// Nearest returns for every pixel of a w × h map the squared distance, in
// pixels, to the nearest one that is on, and the index of that one; -1 when none
// is.
func Nearest(w, h int, on []bool) (dist2, nearest []int32) {
	dist2 = make([]int32, w*h)
	return dist2, nearestTo(w, h, on, dist2)
}
