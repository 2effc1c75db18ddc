package sheet_test

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"os/exec"
	"regexp"
	"strconv"
	"strings"
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

// Instructions show the board after each step: the more is painted, the less is white.
func TestInstructions(t *testing.T) {
	doc := told(t, jobs.All()[4].Make())
	var out, again bytes.Buffer
	require.NoError(t, doc.WriteInstructions(&out))
	require.NoError(t, doc.WriteInstructions(&again))
	assert.Equal(t, out.Bytes(), again.Bytes(), "the same plan is the same file")
	n := pagesOf(out.Bytes())
	require.Greater(t, n, 2)
	dark := func(page int) (sum float64) {
		m, _, err := pdfpage.Render(context.Background(), out.Bytes(), page, 72)
		require.NoError(t, err)
		for y := range m.Rect.Dy() {
			for x := range min(120, m.Rect.Dx()) { // the column of pictures
				sum += float64(255-m.Pix[y*m.Stride+x]) / 255
			}
		}
		return sum / float64(m.Rect.Dy())
	}
	assert.Greater(t, dark(n-1), dark(2)*1.3, "more is painted")
}

// Instructions for several cards say what is cut for each, what goes into the wet and how
// soon, and flatten no card in its tape.
func TestInstructionsForSeveralCards(t *testing.T) {
	tool(t, "pdftotext")
	doc := told(t, jobs.All()[8].Make())
	read := func(write func(io.Writer) error) string {
		var out bytes.Buffer
		require.NoError(t, write(&out))
		raw, err := exec.Command("pdftotext", "-raw", kept(t, out.Bytes()), "-").Output()
		require.NoError(t, err)
		return strings.Join(strings.Fields(string(raw)), " ")
	}
	text := read(doc.WriteInstructions)
	for _, want := range []string{"Cut, for each of 3 cards Base", "Mix for 3 cards", "Stamp Weeds, for all 3 cards", "of which hands on 1 h"} {
		assert.Contains(t, text, want)
	}
	wetted := regexp.MustCompile(`(\d+) Wet Ground with clean water, on card \d`).FindAllStringSubmatch(text, -1)
	require.Len(t, wetted, 3)
	for _, st := range wetted {
		n, err := strconv.Atoi(st[1])
		require.NoError(t, err)
		assert.Regexp(t, fmt.Sprintf(`Step %d comes while it shines, within about [\d /]+ min\. .*%d Ground: ultramarine, weak tea, into the wet, on card`, n+1, n+1), text)
	}
	untaped, flat := strings.LastIndex(text, "Take the tape off the panel"), strings.Index(text, "Flatten the panel under weight, for all 3 cards")
	require.Positive(t, flat)
	assert.Less(t, untaped, flat)
	assert.Regexp(t, `Leave it for 8 h; go on with step (\d+) meanwhile\. \d+ Cut, score and fold Base`, text)
	assert.NotRegexp(t, `meanwhile\. \d+ Mount the`, text, "it lies until it is mounted")
	text = read(doc.Write)
	assert.Equal(t, 2, strings.Count(text, "at true size"), "the card is only trimmed: there is nothing to see of it")
	assert.Contains(t, text, "look for patches before you lift it off, for all 3 cards")
}

func pagesOf(pdf []byte) (n int) {
	for {
		if _, _, err := pdfpage.Render(context.Background(), pdf, n+1, 20); err != nil {
			return n
		}
		n++
	}
}
