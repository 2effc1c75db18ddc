package sheet

import (
	"fmt"
	"io"

	"github.com/go-pdf/fpdf"

	"chromaqua/core/fold"
	"chromaqua/core/length"
)

// Envelope is the template of an envelope made to measure.
type Envelope struct {
	Unit  length.Unit
	Title string
	Pouch *fold.Pouch
}

// bounds is where an outline lies, mm.
func bounds(outline []fold.Point) (x0, y0, x1, y1 float64) {
	for i, p := range outline {
		if i == 0 {
			x0, y0, x1, y1 = p.X, p.Y, p.X, p.Y
		}
		x0, y0, x1, y1 = min(x0, p.X), min(y0, p.Y), max(x1, p.X), max(y1, p.Y)
	}
	return x0, y0, x1, y1
}

// WritePDF writes the template at true size on one page with the steps below.
func (e *Envelope) WritePDF(w io.Writer) error {
	x0, y0, x1, y1 := bounds(e.Pouch.Outline)
	p := newPDF("A4")
	p.SetTitle(e.Title, true)
	p.AddPageFormat("P", fpdf.SizeType{Wd: max(150, x1-x0+2*margin), Ht: y1 - y0 + 2*margin + 78})
	p.SetAutoPageBreak(false, 0)
	heading(p, e.Title, 16)
	left, top := margin-x0, p.GetY()+2-y0
	var outline []fpdf.PointType
	for _, q := range e.Pouch.Outline {
		outline = append(outline, fpdf.PointType{X: left + q.X, Y: top + q.Y})
	}
	p.SetLineWidth(0.3)
	p.Polygon(outline, "D")
	p.SetDashPattern([]float64{3, 1.5}, 0)
	for _, c := range e.Pouch.Creases {
		p.Line(left+c.From.X, top+c.From.Y, left+c.To.X, top+c.To.Y)
	}
	p.SetDashPattern(nil, 0)
	p.SetFont(figures, "B", 8)
	for i, c := range e.Pouch.Creases {
		badge(p, left+(c.From.X+c.To.X)/2, top+(c.From.Y+c.To.Y)/2, i+1)
	}
	below := top + y1 + 6
	scaleBar(p, e.Unit, margin, below)
	p.SetXY(margin, below+6)
	p.SetFont(figures, "", 11)
	for i, s := range e.Pouch.Steps(e.Unit) {
		p.MultiCell(0, 5.4, fmt.Sprintf("%d  %s", i+1, s), "", "L", false)
	}
	return p.Output(w)
}

// WriteSVG writes the template at true size: the outline to cut and the creases
// to score, for whoever cuts by machine.
func (e *Envelope) WriteSVG(w io.Writer) error {
	x0, y0, x1, y1 := bounds(e.Pouch.Outline)
	s := &svgWriter{w: w}
	s.printf(`<svg xmlns="http://www.w3.org/2000/svg" width="%.3[3]fmm" height="%.3[4]fmm" viewBox="%.3[1]f %.3[2]f %.3[3]f %.3[4]f" fill="none" stroke="#1e2a3a" stroke-width="0.2"><title>`, x0, y0, x1-x0, y1-y0)
	s.text(e.Title)
	s.printf("</title>\n<path id=\"cut\" d=\"")
	for i, q := range e.Pouch.Outline {
		s.printf("%s%.3f %.3f", map[bool]string{true: "M", false: "L"}[i == 0], q.X, q.Y)
	}
	s.printf("Z\"/>\n")
	for i, c := range e.Pouch.Creases {
		s.printf(`<path id="score-%d" stroke-dasharray="3 1.5" d="M%.3f %.3fL%.3f %.3f"/>`+"\n", i+1, c.From.X, c.From.Y, c.To.X, c.To.Y)
	}
	s.printf("</svg>\n")
	return s.err
}
