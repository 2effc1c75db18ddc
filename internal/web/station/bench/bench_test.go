package bench_test

import (
	"bytes"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/internal/web/webtest"
)

// The printed sheet has the letters, why each step comes now, and the caution of heat.
func TestTheSheetOfGoes(t *testing.T) {
	st, _ := webtest.Painted(t)
	pdftotext, err := exec.LookPath("pdftotext")
	if err != nil {
		t.Skip("pdftotext is not installed")
	}
	c := exec.Command(pdftotext, "-layout", "-", "-")
	c.Stdin = strings.NewReader(st.Get("/cards/1/bench.pdf").Body)
	out, err := c.Output()
	require.NoError(t, err)
	text := string(bytes.Join(bytes.Fields(out), []byte(" ")))
	for _, want := range []string{"1a", "1b", "(1a, 2 cells)", "Very hot air", "heat tool for", "While Petals 1a is wet", "Flatten the panel under weight", "by heat where small, by air where big"} {
		assert.Contains(t, text, want)
	}
}
