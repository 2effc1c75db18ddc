package sheet_test

import (
	"bytes"
	"context"
	"fmt"
	"regexp"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/order/solver"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/steps"
	"chromaqua/internal/cardfile"
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
			var pdf bytes.Buffer
			require.NoError(t, (&sheet.Bench{Card: s.Card, Plan: plan, Schedule: sch, Lines: lines, Made: time.Unix(1_700_000_000, 0)}).Write(&pdf))
			pages := len(regexp.MustCompile(`/Type /Page\b`).FindAll(pdf.Bytes(), -1))
			assert.GreaterOrEqual(t, pages, 2+len(pieces), "what to cut, a picture of each piece, the steps")
		})
	}
}
