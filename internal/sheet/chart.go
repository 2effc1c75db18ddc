package sheet

import (
	"fmt"
	"io"

	"codeberg.org/go-pdf/fpdf"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel"
)

// Chart is a mixing chart to paint: an empty box for each mix, with the colour it
// is computed to dry to beside it.
type Chart struct {
	Unit  length.Unit
	Names card.Names // of the paints
	Pairs []panel.ChartPair
}

// Measures of the chart, mm.
const (
	boxW, boxH = 17.0, 10.0
	hintW      = 3.0
	pairW      = 95.0
)

// WritePDF writes the chart on A4 pages, two pairs side by side.
func (c *Chart) WritePDF(w io.Writer) error {
	p := newPDF("A4")
	p.SetTitle("Mixing chart", true)
	p.SetAutoPageBreak(false, 0)
	rows := float64(len(panel.ChartRatios()))
	pairH := 9 + rows*(boxH+1.5) + 5
	top := 0.0
	for i, pair := range c.Pairs {
		left := margin + float64(i%2)*pairW
		if i%2 == 0 {
			top += pairH
		}
		if i == 0 || i%2 == 0 && top+pairH > 297-margin {
			p.AddPageFormat("P", fpdf.SizeType{Wd: 210, Ht: 297})
			heading(p, "Mixing chart", 16)
			p.SetFont(figures, "", 9)
			p.MultiCell(0, 4.5, "Fill each box; the strip on its left is what it is computed to dry to. Mix by equal brush-loads of the same strength.", "", "L", false)
			scaleBar(p, c.Unit, 150, 12)
			top = p.GetY() + 3
		}
		c.pair(p, pair, left, top)
	}
	return p.Output(w)
}

// title names a pair; its codes stand small beside it.
func (c *Chart) title(pair panel.ChartPair) string {
	return c.Names.Of(pair.A.CI) + " with " + c.Names.Of(pair.B.CI)
}

func codes(pair panel.ChartPair) string { return pair.A.CI + ", " + pair.B.CI }

func (c *Chart) pair(p *fpdf.Fpdf, pair panel.ChartPair, left, top float64) {
	p.SetXY(left, top)
	p.SetFont(figures, "B", 9)
	p.CellFormat(pairW, 4.5, c.title(pair), "", 0, "L", false, 0, "")
	p.SetFont(figures, "", 7)
	p.SetXY(left, top)
	p.CellFormat(11+float64(len(panel.ChartStrengths()))*(boxW+2)-2, 4.5, codes(pair), "", 0, "R", false, 0, "")
	for k, s := range panel.ChartStrengths() {
		p.Text(left+11+float64(k)*(boxW+2), top+8, string(s))
	}
	for n, r := range panel.ChartRatios() {
		y := top + 9 + float64(n)*(boxH+1.5)
		p.Text(left, y+boxH/2+1, fmt.Sprintf("%d : %d", r[0], r[1]))
		for k, tone := range pair.Rows[n] {
			x := left + 11 + float64(k)*(boxW+2)
			fillHex(p, tone.Dry)
			p.Rect(x, y, hintW, boxH, "F")
			p.Rect(x+hintW, y, boxW-hintW, boxH, "D")
		}
	}
}

// WriteSVG writes the chart at true size, one column of pairs.
func (c *Chart) WriteSVG(w io.Writer) error {
	pairH := 10 + float64(len(panel.ChartRatios()))*(boxH+1.5)
	s := &svgWriter{w: w}
	s.printf(`<svg xmlns="http://www.w3.org/2000/svg" width="%.3[1]fmm" height="%.3[2]fmm" viewBox="0 0 %.3[1]f %.3[2]f" font-family="sans-serif" font-size="3"><title>Mixing chart</title>`+"\n", pairW, pairH*float64(len(c.Pairs)))
	for i, pair := range c.Pairs {
		s.printf(`<g transform="translate(0 %.3f)"><text y="4" font-weight="bold">`, float64(i)*pairH)
		s.text(c.title(pair))
		s.printf(`</text><text x="%.3f" y="4" font-size="2.4" text-anchor="end">`, 11+float64(len(panel.ChartStrengths()))*(boxW+2)-2)
		s.text(codes(pair))
		s.printf("</text>\n")
		for k, strength := range panel.ChartStrengths() {
			s.printf(`<text x="%.3f" y="8">%s</text>`, 11+float64(k)*(boxW+2), strength)
		}
		for n, r := range panel.ChartRatios() {
			y := 9 + float64(n)*(boxH+1.5)
			s.printf("\n"+`<text y="%.3f">%d : %d</text>`, y+boxH/2+1, r[0], r[1])
			for k, tone := range pair.Rows[n] {
				x := 11 + float64(k)*(boxW+2)
				s.printf(`<rect x="%.3f" y="%.3f" width="%.3f" height="%.3f" fill="%s"/><rect x="%.3f" y="%.3f" width="%.3f" height="%.3f" fill="none" stroke="#1e2a3a" stroke-width="0.2"/>`,
					x, y, hintW, boxH, tone.Dry, x+hintW, y, boxW-hintW, boxH)
			}
		}
		s.printf("</g>\n")
	}
	s.printf("</svg>\n")
	return s.err
}
