package advice_test

import (
	"fmt"

	"chromaqua/core/advice"
	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/length"
)

// A card is asked what was overlooked; the change that a watch-out proposes settles it.
func Example() {
	c := card.New("Beach count", length.Inches)
	c.Painting.Border, c.Painting.Tape = length.Inch, length.Inch/2
	for range 2 {
		found := advice.Watches(advice.Gather(c, nil, nil, nil))
		fmt.Println(len(found), "found")
		for _, w := range found {
			fmt.Println(w.Severity, w.What)
			fmt.Println(w.Fix.Label)
			c, _, _ = change.Try(w.Fix.Change, c, nil)
		}
	}
	// Output:
	// 1 found
	// mind Tape 1/2 in wide cannot mask a border of 1 in and hold.
	// Use tape of 1 1/4 in
	// 0 found
}
