package sheet_test

import (
	"bytes"
	"context"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/mount"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/steps"
	"chromaqua/internal/pdfpage"
	"chromaqua/internal/picture"
	"chromaqua/internal/sheet"
)

// The sheet a card is put together by draws its front at true size.
func TestAssemblySheet(t *testing.T) {
	c := card.New("x", length.Millimetres)
	c.Layers = nil
	require.NoError(t, c.Give("panel", length.Size{W: 60 * length.Millimetre, H: 80 * length.Millimetre}))
	require.NoError(t, c.Give("front", length.Size{W: 90 * length.Millimetre, H: 110 * length.Millimetre}))
	made, err := mount.Of(c)
	require.NoError(t, err)
	var out bytes.Buffer
	require.NoError(t, (&sheet.Assembly{Card: c, Made: made, Amounts: []string{"some tape"}, Words: []string{"“calm”"}, Fits: "It fits."}).WritePDF(&out))
	m, scale, err := pdfpage.Render(context.Background(), out.Bytes(), 1, 200)
	require.NoError(t, err)
	longest := 0 // line that goes down: a side of the front
	for x := range m.Rect.Dx() {
		run := 0
		for y := range m.Rect.Dy() {
			if run++; m.GrayAt(m.Rect.Min.X+x, m.Rect.Min.Y+y).Y >= 190 {
				run = 0
			}
			longest = max(longest, run)
		}
	}
	perMM := scale
	assert.InDelta(t, 110, float64(longest)/perMM, 0.8)
}

// Labels stand in rows, so many as are asked for, page after page.
func TestLabels(t *testing.T) {
	pages := func(n int) int {
		var out bytes.Buffer
		require.NoError(t, (&sheet.Labels{Unit: length.Inches, Name: "Storm lantern", By: "A maker", Date: "1 May 2026", Materials: []string{"cotton", "a very long list of paints that goes on and on and on and on, and on"}, Care: "Keep it dry.", Many: n}).WritePDF(&out))
		return pagesOf(out.Bytes())
	}
	assert.Equal(t, 1, pages(1))
	assert.Equal(t, 1, pages(15))
	assert.Equal(t, 2, pages(16))
}

// told is a job with its plan in order, to be printed.
func told(t testing.TB, s *jobs.Studio) *sheet.Bench {
	pieces, err := s.Pieces(context.Background())
	require.NoError(t, err)
	p, err := steps.CompileAll(pieces, s.Card, steps.UsualBench())
	require.NoError(t, err)
	sch, err := solver.Solve(context.Background(), p.Instance, solver.Budget{Iterations: 50, Seed: 1})
	require.NoError(t, err)
	lines := map[string][]byte{}
	for _, o := range pieces {
		if o.Board != nil {
			lines[o.ID], err = picture.Ink(o.Board.Grey, 900)
			require.NoError(t, err)
		}
	}
	return &sheet.Bench{Card: s.Card, Plan: p, Schedule: sch, Lines: lines, Made: time.Unix(0, 0)}
}

func pagesOf(pdf []byte) (n int) {
	for {
		if _, _, err := pdfpage.Render(context.Background(), pdf, n+1, 20); err != nil {
			return n
		}
		n++
	}
}
