package plan_test

import (
	"fmt"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/plan"
)

// The names that a plan gives to cells, which its steps then speak of.
func ExampleCellIDs() {
	fmt.Println(plan.CellIDs(card.ThePanel, &panel.Board{}, []int{3, 12}))
	fmt.Println(plan.CellIDs("p2", &panel.Board{}, []int{3}))
	// Output:
	// [c3 c12]
	// [p2.c3]
}
