//go:build race

package proof_test

// raceEnabled: with the race detector a scan takes seconds.
const raceEnabled = true
