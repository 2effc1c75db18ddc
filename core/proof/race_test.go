//go:build race

package proof_test

// raceEnabled: with the race detector a scan takes a second.
const raceEnabled = true
