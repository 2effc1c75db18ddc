package paper_test

import (
	"context"
	"fmt"

	"chromaqua/core/card"
	"chromaqua/core/cutting"
	"chromaqua/core/length"
	"chromaqua/core/paper"
	"chromaqua/core/shelf"
)

// What six cards are cut from, and what that costs.
func Example() {
	stock := paper.New()
	for _, it := range []paper.Item{
		{Kind: paper.Pad, Paper: "cotton-cp", Size: length.Size{W: 9 * length.Inch, H: 12 * length.Inch}, Qty: 10, Price: 120},
		{Kind: paper.Sheet, Paper: shelf.Cardstock, Size: length.Size{W: 12 * length.Inch, H: 12 * length.Inch}, Qty: 20, Price: 45},
		{Kind: paper.Sheet, Paper: shelf.MatCardstock, Size: length.Size{W: 12 * length.Inch, H: 12 * length.Inch}, Qty: 20, Price: 60},
	} {
		stock.Add(it)
	}
	parts, err := paper.Parts([]paper.Job{{Card: card.New("Crab", length.Inches), Copies: 6}})
	if err != nil {
		fmt.Println(err)
		return
	}
	plan, err := cutting.Solve(context.Background(), stock.Instance("six crabs", parts, nil), cutting.Budget{Tries: 50, Seed: 1})
	if err != nil {
		fmt.Println(err)
		return
	}
	bill := stock.BillOf(plan)
	fmt.Println(bill.Sheets, "sheets for", bill.Price)
	// Output:
	// 6 sheets for 435
}
