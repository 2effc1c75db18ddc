//go:build race

package standin_test

// raceEnabled: with the race detector a scan takes seconds.
const raceEnabled = true
