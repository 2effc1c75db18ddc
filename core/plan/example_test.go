package plan_test

import (
	"fmt"

	"chromaqua/core/plan"
)

// The names that a plan gives to cells, which its steps then speak of.
func ExampleCellIDs() {
	fmt.Println(plan.CellIDs([]int{3, 12}))
	// Output:
	// [c3 c12]
}
