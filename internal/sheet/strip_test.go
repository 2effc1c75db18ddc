package sheet_test

import (
	"bytes"
	"context"
	"image/png"
	"os"
	"os/exec"
	"path/filepath"
	"regexp"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/length"
	"chromaqua/core/proof"
	"chromaqua/internal/sheet"
	drawing "chromaqua/internal/svg"
)

// A strip that is printed with its lines and scanned as it is can be read, at its
// true size: nothing has been wetted, so everything holds.
func TestThePrintedStripCanBeRead(t *testing.T) {
	tool(t, "pdftoppm")
	var pdf bytes.Buffer
	require.NoError(t, (&sheet.Strip{Unit: length.Inches, Lines: true}).WritePDF(&pdf))
	out := filepath.Join(t.TempDir(), "strip")
	require.NoError(t, exec.Command("pdftoppm", "-r", "200", "-png", "-singlefile", kept(t, pdf.Bytes()), out).Run())
	data, err := os.ReadFile(out + ".png")
	require.NoError(t, err)
	m, err := png.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	r, err := proof.ReadStrip(m)
	require.NoError(t, err)
	assert.Equal(t, proof.Holds, r.Verdict)
	assert.Less(t, r.BleedMM, 0.05)
	assert.Less(t, r.Tint, 0.5)
}

// Without lines it shows where they are ruled, and says how.
func TestTheStripToRuleOn(t *testing.T) {
	tool(t, "pdftotext")
	var pdf bytes.Buffer
	require.NoError(t, (&sheet.Strip{Unit: length.Millimetres}).WritePDF(&pdf))
	text, err := exec.Command("pdftotext", "-layout", kept(t, pdf.Bytes()), "-").Output()
	require.NoError(t, err)
	assert.Contains(t, string(text), "Rule or stamp the three lines")
	assert.Contains(t, string(text), "50 mm long")
}

// The printed swatch card is found and squared as it is; nothing is painted on it
// yet, and that is said.
func TestThePrintedSwatchCard(t *testing.T) {
	tool(t, "pdftoppm")
	var pdf bytes.Buffer
	require.NoError(t, (&sheet.Swatches{Unit: length.Millimetres}).WritePDF(&pdf))
	out := filepath.Join(t.TempDir(), "card")
	require.NoError(t, exec.Command("pdftoppm", "-r", "150", "-png", "-singlefile", kept(t, pdf.Bytes()), out).Run())
	data, err := os.ReadFile(out + ".png")
	require.NoError(t, err)
	m, err := png.Decode(bytes.NewReader(data))
	require.NoError(t, err)
	_, err = proof.ReadSwatches(m)
	assert.ErrorContains(t, err, "is bare; paint all five")

	// As an SVG it is the same card.
	var svg bytes.Buffer
	require.NoError(t, (&sheet.Swatches{Unit: length.Millimetres}).WriteSVG(&svg))
	drawn, err := drawing.Draw(context.Background(), regexp.MustCompile("<text.*?</text>").ReplaceAll(svg.Bytes(), nil))
	require.NoError(t, err)
	_, err = proof.ReadSwatches(drawn)
	assert.ErrorContains(t, err, "is bare; paint all five")
	assert.Contains(t, svg.String(), "weak tea")
}
