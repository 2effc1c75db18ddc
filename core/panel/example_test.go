package panel_test

import (
	"fmt"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
)

// How a wash of ultramarine looks wet and dry on cold-pressed cotton, and what is left
// of a stamp's ink at its third impression.
func Example() {
	look := panel.LookOf("cotton-cp", []card.Wash{{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 1}}}})
	fmt.Println(look.Dense.Wet, look.Dense.Dry)
	fmt.Printf("%.2f\n", panel.GhostShare(3))
	// Output:
	// #5e99de #86b9ef
	// 0.12
}
