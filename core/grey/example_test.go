package grey_test

import (
	"fmt"
	"image"

	"chromaqua/core/grey"
	"chromaqua/core/lineart"
)

// A corner of an inked sheet is cut out of it: there the paper is bare again.
func Example() {
	sheet := image.NewGray(image.Rect(0, 0, 8, 8)) // all ink
	corner := [][]lineart.Point{{{X: 0, Y: 0}, {X: 4, Y: 0}, {X: 4, Y: 4}, {X: 0, Y: 4}}}
	mask := grey.Fill(sheet.Rect, corner, func(p lineart.Point) (x, y float64) { return p.X, p.Y })
	cut := grey.Cleared(sheet, mask)
	fmt.Println(grey.Dark(sheet, sheet.Rect), "pixels of ink, then", grey.Dark(cut, cut.Rect))
	// Output:
	// 64 pixels of ink, then 48
}
