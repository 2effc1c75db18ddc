//go:build !race

package proof_test

const raceEnabled = false
