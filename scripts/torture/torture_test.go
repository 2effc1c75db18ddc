package main

import (
	"os/exec"
	"path/filepath"
	"testing"
	"time"

	"github.com/stretchr/testify/require"

	_ "chromaqua/internal/web" // of which the program is built: what changes there is tortured anew
)

// A few seconds of each campaign hold whenever the tests run, fewer in short ones.
func TestBriefly(t *testing.T) {
	binary := filepath.Join(t.TempDir(), "chromaqua")
	out, err := exec.Command("go", "build", "-o", binary, "chromaqua/cmd/chromaqua").CombinedOutput()
	require.NoError(t, err, string(out))
	b := &bench{binary: binary, extent: brief, say: t.Logf}
	if testing.Short() {
		b.lasting = time.Second
		require.NoError(t, b.runAll(t.Context(), "clients,disk"))
		return
	}
	require.NoError(t, b.runAll(t.Context(), "kill,clients,disk,corpus"))
}
