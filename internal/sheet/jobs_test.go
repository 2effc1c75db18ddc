package sheet_test

import (
	"bytes"
	"context"
	"fmt"
	"regexp"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/pigment"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
	"chromaqua/internal/cardfile"
	"chromaqua/internal/pdfpage"
	"chromaqua/internal/picture"
	"chromaqua/internal/sheet"
	"chromaqua/internal/store"
)

// A real job leaves as a file and comes back as it was, and is printed with a picture of
// each of its pieces.
func TestJobsAreExportedAndPrinted(t *testing.T) {
	ctx := context.Background()
	for _, j := range jobs.All() {
		t.Run(fmt.Sprint(j.Number), func(t *testing.T) {
			t.Parallel()
			s := j.Make()
			var images cardfile.Images
			seen := map[string]bool{}
			for _, scan := range s.Card.Scans() {
				if seen[scan.Image] {
					continue
				}
				seen[scan.Image] = true
				images = append(images, store.Image{Hash: scan.Image, Title: scan.Title, Media: "image/png", Width: scan.WidthPX, Height: scan.HeightPX, Data: s.Files[scan.Image]})
			}
			file, err := cardfile.New(ctx, s.Card, images, time.Unix(1_700_000_000, 0))
			require.NoError(t, err)
			var out bytes.Buffer
			require.NoError(t, file.Write(ctx, &out))
			back, _, err := cardfile.Read(ctx, bytes.NewReader(out.Bytes()), int64(out.Len()))
			require.NoError(t, err)
			assert.Equal(t, s.Card, back)

			pdf, pieces := benchOf(t, s)
			pages := len(regexp.MustCompile(`/Type /Page\b`).FindAll(pdf, -1))
			assert.GreaterOrEqual(t, pages, 2+pieces, "what to cut, a picture of each piece, the steps")
		})
	}
}

// benchOf is the bench sheet of a job, and of how many pieces.
func benchOf(t testing.TB, s *jobs.Studio) (pdf []byte, of int) {
	ctx := context.Background()
	pieces, err := s.Pieces(ctx)
	require.NoError(t, err)
	lines := map[string][]byte{}
	for _, p := range pieces {
		lines[p.ID], err = picture.Ink(p.Board.Grey, 800)
		require.NoError(t, err)
	}
	plan, err := steps.CompileAll(pieces, s.Card, steps.UsualBench())
	require.NoError(t, err)
	sch, err := solver.Solve(ctx, plan.Instance, solver.Budget{Iterations: 50, Seed: 1})
	require.NoError(t, err)
	var out bytes.Buffer
	require.NoError(t, (&sheet.Bench{Card: s.Card, Plan: plan, Schedule: sch, Lines: lines, Made: time.Unix(1_700_000_000, 0)}).Write(&out))
	return out.Bytes(), len(pieces)
}

// The picture of a piece shows what is drawn by hand, words, and paint on the mass of a solid.
func TestThePictureShowsWhatIsOverTheLine(t *testing.T) {
	tones := func(number int, change func(*card.Card)) (dark, pale int) {
		for _, j := range jobs.All() {
			if j.Number != number {
				continue
			}
			s := j.Make()
			change(s.Card)
			pdf, _ := benchOf(t, s)
			m, scale, err := pdfpage.Render(context.Background(), pdf, 2, 100)
			require.NoError(t, err)
			for y := range int(150 * scale) { // the picture, not what is listed below it
				for x := range m.Rect.Dx() {
					switch v := m.GrayAt(x, y).Y; {
					case v < 90:
						dark++
					case v > 250:
						pale++
					}
				}
			}
		}
		return dark, pale
	}
	bare := func(c *card.Card) {
		c.Areas = slices.DeleteFunc(c.Areas, func(a card.Area) bool { return a.Name == "Posts" })
		c.Over = slices.DeleteFunc(c.Over, func(o card.Over) bool {
			_, err := c.AreaByID(o.Below.Of())
			return err != nil && o.Below.Of()[0] == 'a'
		})
	}
	without, _ := tones(8, bare)
	with, _ := tones(8, func(*card.Card) {})
	assert.Greater(t, with, without+100, "posts")
	worded, _ := tones(8, func(c *card.Card) {
		c.AddAct(card.Handling{Kind: card.PutWords, Text: &card.Text{Text: "warm inside", By: card.TextStamped, Height: 8 * length.Millimetre, X: c.PanelSize().W / 2, Y: 118 * length.Millimetre}})
	})
	assert.Greater(t, worded, with+50, "words")
	_, mass := tones(20, func(*card.Card) {})
	_, white := tones(20, func(c *card.Card) {
		for i := range c.Areas {
			if c.Areas[i].Name == "Hill" {
				c.Areas[i].Washes = []card.Wash{{Technique: technique.WhiteVeil, Strength: pigment.Paste, Mix: []card.Part{{CI: "PW6", Parts: 1}}}}
			}
		}
	})
	assert.NotEqual(t, mass, white)
}
