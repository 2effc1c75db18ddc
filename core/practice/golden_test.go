package practice_test

import (
	"fmt"
	"strings"
	"testing"
	"time"

	"chromaqua/core/drying"
	"chromaqua/core/practice"
	"chromaqua/internal/golden"
)

// An exercise follows from its seed, for good: what lies on the desk, and what comes of acting
// every four seconds.
func TestExercisesAreWhatTheyWere(t *testing.T) {
	var out strings.Builder
	for seed := range uint64(40) {
		e := practice.Of(seed)
		fmt.Fprintf(&out, "%d: %s %s, %v", seed, e.Asks, e.Says(drying.Celsius), e.Load)
		for _, end := range e.Ends {
			fmt.Fprintf(&out, ", %v", end.Round(100*time.Millisecond))
		}
		fmt.Fprintln(&out)
		for at := 2 * time.Second; at < 30*time.Second; at += 4 * time.Second {
			r := e.Judge(at)
			fmt.Fprintf(&out, "  %v, %.0f %% left: %s, %v, %d. %s\n", at, 100*e.Share(at), r.Stage, r.Good, r.Score, r.Says)
		}
	}
	golden.Same(t, "exercises", out.String())
}
