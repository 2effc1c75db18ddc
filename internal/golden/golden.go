// Package golden compares what a test made with what was found right before, kept in a
// file beside the test. CHROMAQUA_UPDATE=1 writes the files anew; what changed is then
// read in the diff like any other change.
package golden

import (
	"os"
	"path/filepath"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// Same asserts that got is what the file testdata/name.golden holds.
func Same(t testing.TB, name, got string) {
	t.Helper()
	file := filepath.Join("testdata", name+".golden")
	if os.Getenv("CHROMAQUA_UPDATE") != "" {
		require.NoError(t, os.MkdirAll("testdata", 0o755))
		require.NoError(t, os.WriteFile(file, []byte(got), 0o644))
		return
	}
	want, err := os.ReadFile(file)
	require.NoError(t, err, "run the test with CHROMAQUA_UPDATE=1 to make it")
	assert.Equal(t, string(want), got, "%s: when the change is meant, run the test with CHROMAQUA_UPDATE=1 and read the diff", file)
}
