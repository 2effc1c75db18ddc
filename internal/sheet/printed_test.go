package sheet_test

import (
	"bytes"
	"context"
	"image"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/printing"
	"chromaqua/internal/pdfpage"
	"chromaqua/internal/sheet"
)

// inkBox is where a page is darker than that within a box, mm.
func inkBox(m *image.Gray, scale float64, dark uint8, within image.Rectangle) (x0, y0, x1, y1 float64) {
	box := image.Rectangle{}
	for y := within.Min.Y; y < within.Max.Y; y++ {
		for x := within.Min.X; x < within.Max.X; x++ {
			if m.GrayAt(x, y).Y < dark {
				box = box.Union(image.Rect(x, y, x+1, y+1))
			}
		}
	}
	return float64(box.Min.X) / scale, float64(box.Min.Y) / scale, float64(box.Max.X) / scale, float64(box.Max.Y) / scale
}

// framed is a card with a rectangle of 40 × 30 mm on its panel, its corner 12 and 21 mm
// from the panel's.
func framed(t testing.TB, change func(*card.Card)) (*card.Card, []*printing.Line) {
	s := jobs.Frame(40, 30, 12, 21)
	s.Card.Ink = "laser"
	if change != nil {
		change(s.Card)
	}
	require.NoError(t, s.Card.Check())
	l, err := printing.LineOf(context.Background(), s.Card, card.ThePanel, s.Scans())
	require.NoError(t, err)
	return s.Card, []*printing.Line{l}
}

// printed is a page of what is printed as it comes out of a printer of 600 dpi.
func printed(t testing.TB, lines []*printing.Line, j printing.Job, page int) (*printing.Plan, *image.Gray, float64) {
	return printedAt(t, lines, j, page, 600)
}

func printedAt(t testing.TB, lines []*printing.Line, j printing.Job, page, dpi int) (*printing.Plan, *image.Gray, float64) {
	var parts []printing.Part
	for _, l := range lines {
		parts = append(parts, l.Part)
	}
	plan, err := printing.Lay(context.Background(), j, parts, length.Millimetres)
	require.NoError(t, err)
	var out bytes.Buffer
	require.NoError(t, (&sheet.Printed{Title: "x", Plan: plan, Lines: lines}).WritePDF(&out))
	m, scale, err := pdfpage.Render(context.Background(), out.Bytes(), page, dpi)
	require.NoError(t, err)
	return plan, m, scale
}

// mmBox is a box in pixels.
func mmBox(scale, x0, y0, x1, y1 float64) image.Rectangle {
	return image.Rect(int(x0*scale), int(y0*scale), int(x1*scale), int(y1*scale))
}

// A line is printed at its true size and in its place, to a tenth of a millimetre, as an
// independent reader of PDFs sees it.
func TestALineIsPrintedAtItsTrueSize(t *testing.T) {
	c, lines := framed(t, nil)
	size := c.SheetSize()
	plan, m, scale := printed(t, lines, printing.Job{Page: printing.Own, Tone: printing.Black, Edge: 5 * length.Millimetre}, 1)
	assert.Len(t, plan.Notes, 1, "nobody has measured the bar; the line lies within what is reached")
	assert.InDelta(t, size.W.MM(), float64(m.Rect.Dx())/scale, 0.1)
	assert.Equal(t, uint8(255), m.GrayAt(m.Rect.Dx()/2, m.Rect.Dy()/20).Y, "nothing is printed where there is only paper")
	x0, y0, x1, y1 := inkBox(m, scale, 128, m.Rect)
	spare := c.Painting.Spare.MM()
	for what, d := range map[string][2]float64{"left": {12 + spare, x0}, "top": {21 + spare, y0}, "right": {52 + spare, x1}, "bottom": {51 + spare, y1}} {
		assert.InDelta(t, d[0], d[1], 0.1, what)
	}

	_, m, scale = printed(t, lines, printing.Job{Page: printing.Own, Tone: printing.Black, Mirror: true}, 1)
	x0, _, x1, _ = inkBox(m, scale, 128, m.Rect)
	assert.InDelta(t, size.W.MM()-52-spare, x0, 0.1, "mirrored")
	assert.InDelta(t, size.W.MM()-12-spare, x1, 0.1)

	// A printer whose bar of 100 mm measures 98 prints it true.
	plan, m, scale = printed(t, lines, printing.Job{Page: "a4", Tone: printing.Black, Edge: 5 * length.Millimetre, Bar: 98}, 1)
	at := plan.Sheets[0].Placed[0]
	x0, y0, x1, y1 = inkBox(m, scale, 128, mmBox(scale, at.X+1, at.Y+1, at.X+at.W-1, at.Y+at.H-1))
	require.True(t, at.Turned)
	assert.InDelta(t, 30, (x1-x0)*0.98, 0.1)
	assert.InDelta(t, 40, (y1-y0)*0.98, 0.1)
}

// Several pieces lie on a sheet with crop marks at their corners, turned where that saves
// a sheet, and none reaches beyond what the printer does.
func TestSeveralPiecesOnASheet(t *testing.T) {
	c, lines := framed(t, func(c *card.Card) { c.Copies = 2 })
	plan, m, scale := printed(t, lines, printing.Job{Page: "a4", Tone: printing.Black, Edge: 5 * length.Millimetre, Grain: printing.GrainLong}, 1)
	assert.Equal(t, "2 pieces on 1 sheet of ISO A4", plan.Says())
	require.Len(t, plan.Sheets, 1)
	s := plan.Sheets[0]
	size, spare := c.SheetSize(), c.Painting.Spare.MM()
	turned := 0
	for _, p := range s.Placed {
		assert.True(t, p.X-4 >= s.Reached.X0-1e-6 && p.Y-4 >= s.Reached.Y0-1e-6 && p.X+p.W+4 <= s.Reached.X1+1e-6 && p.Y+p.H+4 <= s.Reached.Y1, p)
		x0, y0, x1, y1 := inkBox(m, scale, 128, mmBox(scale, p.X+2, p.Y+2, p.X+p.W-2, p.Y+p.H-2))
		want := [4]float64{p.X + 12 + spare, p.Y + 21 + spare, p.X + 52 + spare, p.Y + 51 + spare}
		if p.Turned {
			turned++
			want = [4]float64{p.X + p.W - 51 - spare, p.Y + 12 + spare, p.X + p.W - 21 - spare, p.Y + 52 + spare}
		}
		for i, got := range [4]float64{x0, y0, x1, y1} {
			assert.InDelta(t, want[i], got, 0.1, "side %d of %+v", i, p)
		}
		assert.InDelta(t, size.W.MM()*size.H.MM(), p.W*p.H, 0.1)
		// The mark above its left edge stands on that edge.
		x0, y0, x1, y1 = inkBox(m, scale, 200, mmBox(scale, p.X-0.8, p.Y-4.5, p.X+0.8, p.Y-0.5))
		assert.InDelta(t, p.X, (x0+x1)/2, 0.1)
		assert.InDelta(t, p.Y-4, y0, 0.1)
		assert.InDelta(t, p.Y-1, y1, 0.1)
	}
	assert.Positive(t, turned)
	x0, _, x1, _ := inkBox(m, scale, 128, mmBox(scale, 0, s.Bar.Y0, 210, s.Bar.Y1-0.3))
	assert.GreaterOrEqual(t, x1-x0, 100.0-0.1)
	assert.InDelta(t, s.Bar.X0, x0, 0.1)
}

// The tones are what they are called, and the test page is true.
func TestTonesAndTheTestPage(t *testing.T) {
	_, lines := framed(t, nil)
	darkest := func(tone printing.Tone) uint8 {
		_, m, _ := printedAt(t, lines, printing.Job{Page: printing.Own, Tone: tone}, 1, 200)
		least := uint8(255)
		for _, v := range m.Pix {
			least = min(least, v)
		}
		return least
	}
	black, sepia, grey, pale := darkest(printing.Black), darkest(printing.Sepia), darkest(printing.Grey), darkest(printing.Pale)
	assert.Less(t, black, sepia)
	assert.Less(t, sepia, grey)
	assert.Less(t, grey, pale)
	assert.Greater(t, pale, uint8(190))

	var out bytes.Buffer
	require.NoError(t, (&sheet.PrintTest{Page: printing.Pages(length.Millimetres)[0]}).WritePDF(&out))
	m, scale, err := pdfpage.Render(context.Background(), out.Bytes(), 1, 600)
	require.NoError(t, err)
	x0, _, x1, _ := inkBox(m, scale, 128, mmBox(scale, 28, 40.5, 150, 42))
	assert.InDelta(t, 100, x1-x0, 0.25, "the width of its outline counts")
	for _, edge := range []float64{5, 12} {
		x0, _, x1, _ := inkBox(m, scale, 200, mmBox(scale, edge-0.6, 150, edge+0.6, 160))
		assert.InDelta(t, edge, (x0+x1)/2, 0.1)
	}
}
