package viewfinder_test

import (
	"fmt"

	"chromaqua/core/length"
	"chromaqua/core/viewfinder"
)

// Where to cut a 4 by 5 inch window out of a painted sheet, measured from its edges.
func Example() {
	sheet := length.Size{W: 9 * length.Inch, H: 12 * length.Inch}
	w := viewfinder.Window{Size: length.Size{W: 4 * length.Inch, H: 5 * length.Inch}, X: 3 * length.Inch, Y: 4 * length.Inch}
	for _, cut := range w.Cuts(sheet) {
		fmt.Println(cut.Side, cut.From.At.With(length.Inches), "from the", cut.From.Edge)
	}
	// Output:
	// right 5 in from the top
	// left 1 in from the bottom
	// top 1 1/2 in from the left
	// bottom 6 1/2 in from the right
}
