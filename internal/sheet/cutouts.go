package sheet

import (
	"fmt"
	"io"

	"codeberg.org/go-pdf/fpdf"

	"chromaqua/core/guide"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
)

// CutOuts is the outlines of a card's paper masks.
type CutOuts struct {
	Unit   length.Unit
	Title  string
	Shapes []CutOut
}

// CutOut is one mask to cut out.
type CutOut struct {
	Name    string
	Pieces  int
	Outline lineart.Outline // mm
}

// WritePDF writes the outlines at true size, a page each.
func (m *CutOuts) WritePDF(w io.Writer) error {
	p := newPDF("A4")
	p.SetTitle(m.Title, true)
	p.SetAutoPageBreak(false, 0)
	for _, s := range m.Shapes {
		x0, y0, x1, y1 := guide.Box(s.Outline)
		p.AddPageFormat("P", fpdf.SizeType{Wd: max(210, x1-x0+2*margin), Ht: max(297, y1-y0+2*margin+50)})
		heading(p, m.Title+": "+s.Name, 16)
		left, top := margin-x0, p.GetY()+3-y0
		p.SetLineWidth(0.2)
		outlinePDF(p, s.Outline, left, top)
		below := top + y1 + 6
		scaleBar(p, m.Unit, margin, below)
		p.SetXY(margin, below+6)
		p.SetFont(figures, "", 11)
		p.MultiCell(0, 5.4, fmt.Sprintf("Cut %d, right at the line, from thin paper with repositionable glue. Lay it over the impression once its ink is dry; press its edge down.", s.Pieces), "", "L", false)
	}
	return p.Output(w)
}

// WriteSVG writes the outlines at true size, one under the other.
func (m *CutOuts) WriteSVG(w io.Writer) error {
	wide, high := 0.0, -float64(apart)
	for _, s := range m.Shapes {
		x0, y0, x1, y1 := guide.Box(s.Outline)
		wide, high = max(wide, x1-x0), high+apart+y1-y0
	}
	s := &svgWriter{w: w}
	s.printf(`<svg xmlns="http://www.w3.org/2000/svg" width="%.3[1]fmm" height="%.3[2]fmm" viewBox="0 0 %.3[1]f %.3[2]f" fill="none" stroke="#1e2a3a" stroke-width="0.2"><title>`, wide, high)
	s.text(m.Title)
	s.printf("</title>\n")
	top := 0.0
	for i, shape := range m.Shapes {
		x0, y0, _, y1 := guide.Box(shape.Outline)
		s.printf(`<g id="mask-%d" transform="translate(%.3f %.3f)"><title>`, i+1, -x0, top-y0)
		s.text(fmt.Sprintf("%s, cut %d", shape.Name, shape.Pieces))
		s.printf(`</title><path d="`)
		s.outline(shape.Outline)
		s.printf("\"/></g>\n")
		top += y1 - y0 + apart
	}
	s.printf("</svg>\n")
	return s.err
}
