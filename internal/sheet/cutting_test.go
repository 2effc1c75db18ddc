package sheet_test

import (
	"bytes"
	"context"
	"encoding/xml"
	"errors"
	"image/png"
	"io"
	"os/exec"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/cutting"
	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/paper"
	"chromaqua/core/pouch"
	"chromaqua/core/shelf"
	"chromaqua/internal/sheet"
)

func cutSheet(t testing.TB) *sheet.Cutting {
	st := paper.New()
	for _, id := range []string{"cotton-cp", shelf.Cardstock, shelf.MatCardstock} {
		st.Add(paper.Item{Kind: paper.Sheet, Paper: id, Colour: "<plain>", Size: length.Size{W: 9 * length.Inch, H: 12 * length.Inch}, Qty: 9})
	}
	parts, err := paper.Parts([]paper.Job{{Card: card.New("Tag & <bold>", length.Inches), Copies: 2}})
	require.NoError(t, err)
	in := st.Instance("test", parts, nil)
	p, err := cutting.Solve(context.Background(), in, cutting.Budget{Tries: 20, Seed: 1})
	require.NoError(t, err)
	steps, err := p.Steps(in)
	require.NoError(t, err)
	return &sheet.Cutting{Unit: length.Inches, Stock: st, Plan: p, Steps: steps, Parts: parts}
}

func TestCutSheetPDF(t *testing.T) {
	tool(t, "pdftotext")
	c := cutSheet(t)
	var buf bytes.Buffer
	require.NoError(t, c.WritePDF(&buf))
	file := kept(t, buf.Bytes())
	text, err := exec.Command("pdftotext", "-layout", file, "-").Output()
	require.NoError(t, err)
	for _, want := range []string{"Cut sheet", "base 1", "mat 2", "panel 3", "Set ", "Tag & <bold>", "2 in long", "Sheet 1:"} {
		assert.Contains(t, string(text), want)
	}
	// A sheet is drawn at its true size: its frame is measured on the page.
	const dpi = 100
	out, err := exec.Command("pdftoppm", "-r", "100", "-f", "2", "-l", "2", "-png", file).Output()
	require.NoError(t, err)
	page, err := png.Decode(bytes.NewReader(out))
	require.NoError(t, err)
	left, right := frame(t, page, page.Bounds().Dy()*3/5)
	assert.InDelta(t, 9*25.4, float64(right-left)/dpi*25.4, 0.8)
}

// wellFormed reads a whole XML document.
func wellFormed(t testing.TB, doc string) {
	d := xml.NewDecoder(strings.NewReader(doc))
	for {
		_, err := d.Token()
		if errors.Is(err, io.EOF) {
			return
		}
		require.NoError(t, err)
	}
}

func TestCutSheetSVG(t *testing.T) {
	c := cutSheet(t)
	var buf bytes.Buffer
	require.NoError(t, c.WriteSVG(&buf))
	wellFormed(t, buf.String())
	assert.Equal(t, len(c.Steps), strings.Count(buf.String(), `<path id="cut-`))
	assert.Contains(t, buf.String(), `width="228.6mm"`, "as wide as the widest sheet")
	assert.NotContains(t, buf.String(), "<plain>")
}

func TestEnvelopeTemplates(t *testing.T) {
	a2, err := fold.FormatByID("a2")
	require.NoError(t, err)
	p, err := pouch.FromSquare(a2.Front, length.Inch/8, length.Inches)
	require.NoError(t, err)
	e := sheet.Envelope{Unit: length.Inches, Title: "For <you>", Pouch: p}
	var svg, pdf bytes.Buffer
	require.NoError(t, e.WriteSVG(&svg))
	wellFormed(t, svg.String())
	assert.Equal(t, 4, strings.Count(svg.String(), `<path id="envelope-score-`))
	assert.Equal(t, 2, strings.Count(svg.String(), `<path id="address-band-score-`))
	assert.Contains(t, svg.String(), `<g id="lining"`)
	require.NoError(t, e.WritePDF(&pdf))
	tool(t, "pdftotext")
	text, err := exec.Command("pdftotext", "-layout", kept(t, pdf.Bytes()), "-").Output()
	require.NoError(t, err)
	assert.Contains(t, string(text), "Cut a square, 7 11/16 × 7 11/16 in")
	assert.Equal(t, 3, strings.Count(string(text), "2 in long"), "every page can be checked")
	assert.Contains(t, string(text), "Address band: cut a strip of")
}

// A writer that fails is reported, not passed over.
func TestAFullDisk(t *testing.T) {
	full := &failing{after: 100}
	assert.ErrorIs(t, cutSheet(t).WriteSVG(full), errFull)
}

var errFull = errors.New("disk full")

type failing struct{ after int }

func (f *failing) Write(b []byte) (int, error) {
	if f.after -= len(b); f.after < 0 {
		return 0, errFull
	}
	return len(b), nil
}
