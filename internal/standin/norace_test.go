//go:build !race

package standin_test

const raceEnabled = false
