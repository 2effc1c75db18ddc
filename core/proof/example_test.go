package proof_test

import (
	"fmt"
	"time"

	"chromaqua/core/proof"
)

// Of several tests of an ink on a paper the latest counts.
func ExampleLatest() {
	of := proof.Of{Ink: "dye-waterproof", Paper: "cotton-cp"}
	tests := []proof.Record{
		{Of: of, Waited: time.Hour, WaterTest: proof.WaterTest{Verdict: proof.VerdictOf(0.02, 0.4, 0.01)}},
		{Of: of, Waited: time.Minute, WaterTest: proof.WaterTest{Verdict: proof.VerdictOf(0.9, 12, 0.5)}},
	}
	now := proof.Latest(tests, of)
	fmt.Println("after", now.Waited, "it", now.Verdict)
	// Output:
	// after 1h0m0s it holds
}
