package sheet_test

import (
	"bytes"
	"context"
	"fmt"
	"io"
	"os/exec"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/internal/pdfpage"
)

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

// A stamp's step says where it comes and shows it; no picture has the line of what is stamped
// later.
func TestInstructionsShowWhatIsStamped(t *testing.T) {
	tool(t, "pdftotext")
	job := jobs.All()[3].Make()
	reeds := slices.IndexFunc(job.Card.Images, func(m card.Image) bool { return m.Title == "Reeds" })
	require.Positive(t, reeds)
	job.Card.Images[reeds].X += 30 * length.Millimetre // beside the otter
	doc := told(t, job)
	var right float64 // of the otter
	board := doc.Plan.Pieces[0].Board
	for _, q := range slices.Concat(board.CutLine(0).Rings...) {
		right = max(right, q.X)
	}
	var out bytes.Buffer
	require.NoError(t, doc.WriteInstructions(&out))
	path := kept(t, out.Bytes())
	const margin, shrunk = 14.0, 56 / 127.5
	inked, said := 0, 0
	for n := pagesOf(out.Bytes()); n > 1; n-- { // the first begins with lists
		m, perMM, err := pdfpage.Render(context.Background(), out.Bytes(), n, 300)
		require.NoError(t, err)
		for y := range m.Rect.Dy() {
			for x := int((margin + (right+2)*shrunk) * perMM); x < int((margin+95*shrunk)*perMM); x++ {
				if m.GrayAt(x, y).Y < 64 { // darker than the rings round cells
					inked = n
				}
			}
		}
		text, err := exec.Command("pdftotext", "-raw", "-f", strconv.Itoa(n), "-l", strconv.Itoa(n), path, "-").Output()
		require.NoError(t, err)
		if flat := strings.Join(strings.Fields(string(text)), " "); strings.Contains(flat, "Stamp Reeds About") {
			said = n
			assert.Regexp(t, `Stamp Reeds About [\d.]+ × [\d.]+ mm, [\d.]+ mm from the left edge and [\d.]+ mm from the top\.`, flat)
		}
	}
	assert.Greater(t, said, 2)
	assert.Equal(t, said, inked, "the reeds are on the page on which they are stamped, and on none before")
}
