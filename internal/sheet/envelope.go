package sheet

import (
	"fmt"
	"io"
	"strconv"
	"strings"

	"codeberg.org/go-pdf/fpdf"

	"chromaqua/core/length"
	"chromaqua/core/pouch"
)

// Envelope is the template of an envelope made to measure.
type Envelope struct {
	Unit  length.Unit
	Title string
	Pouch *pouch.Pouch
}

// WritePDF writes the template at true size: the envelope with the steps below,
// then its lining and its address band, a page each.
func (e *Envelope) WritePDF(w io.Writer) error {
	p := newPDF("A4")
	p.SetTitle(e.Title, true)
	p.SetAutoPageBreak(false, 0)
	steps := e.Pouch.Steps(e.Unit)
	texts := append([][]string{steps}, oneEach(e.Pouch.Extras(e.Unit))...)
	for i, shape := range e.Pouch.Shapes() {
		x0, y0, x1, y1 := pouch.Bounds(shape.Outline)
		p.AddPageFormat("P", fpdf.SizeType{Wd: max(150, x1-x0+2*margin), Ht: y1 - y0 + 2*margin + 78})
		title := e.Title
		if i > 0 {
			title += ", " + shape.Name
		}
		heading(p, title, 16)
		left, top := margin-x0, p.GetY()+2-y0
		drawShape(p, shape, left, top)
		below := top + y1 + 6
		scaleBar(p, e.Unit, margin, below)
		p.SetXY(margin, below+6)
		p.SetFont(figures, "", 11)
		for k, s := range texts[i] {
			if len(texts[i]) > 1 {
				s = fmt.Sprintf("%d  %s", k+1, s)
			}
			p.MultiCell(0, 5.4, s, "", "L", false)
		}
	}
	return p.Output(w)
}

func oneEach(texts []string) (out [][]string) {
	for _, t := range texts {
		out = append(out, []string{t})
	}
	return out
}

// drawShape draws an outline with its creases, numbered.
func drawShape(p *fpdf.Fpdf, s pouch.Shape, left, top float64) {
	var outline []fpdf.PointType
	for _, q := range s.Outline {
		outline = append(outline, fpdf.PointType{X: left + q.X, Y: top + q.Y})
	}
	p.SetLineWidth(0.3)
	p.Polygon(outline, "D")
	p.SetDashPattern([]float64{3, 1.5}, 0)
	for _, c := range s.Creases {
		p.Line(left+c.From.X, top+c.From.Y, left+c.To.X, top+c.To.Y)
	}
	p.SetDashPattern(nil, 0)
	p.SetFont(figures, "B", 8)
	for i, c := range s.Creases {
		badge(p, left+(c.From.X+c.To.X)/2, top+(c.From.Y+c.To.Y)/2, strconv.Itoa(i+1))
	}
}

// apart is the room between shapes on one drawing, mm.
const apart = 8

// WriteSVG writes the template at true size, one shape under the other: outlines
// to cut and creases to score, for whoever cuts by machine.
func (e *Envelope) WriteSVG(w io.Writer) error {
	wide, high := 0.0, -float64(apart)
	for _, shape := range e.Pouch.Shapes() {
		x0, y0, x1, y1 := pouch.Bounds(shape.Outline)
		wide, high = max(wide, x1-x0), high+apart+y1-y0
	}
	s := &svgWriter{w: w}
	s.printf(`<svg xmlns="http://www.w3.org/2000/svg" width="%.3[1]fmm" height="%.3[2]fmm" viewBox="0 0 %.3[1]f %.3[2]f" fill="none" stroke="#1e2a3a" stroke-width="0.2"><title>`, wide, high)
	s.text(e.Title)
	s.printf("</title>\n")
	top := 0.0
	for _, shape := range e.Pouch.Shapes() {
		x0, y0, _, y1 := pouch.Bounds(shape.Outline)
		id := strings.ReplaceAll(shape.Name, " ", "-")
		s.printf(`<g id="%s" transform="translate(%.3f %.3f)"><path id="%s-cut" d="`, id, -x0, top-y0, id)
		for i, q := range shape.Outline {
			s.printf("%s%.3f %.3f", map[bool]string{true: "M", false: "L"}[i == 0], q.X, q.Y)
		}
		s.printf("Z\"/>\n")
		for i, c := range shape.Creases {
			s.printf(`<path id="%s-score-%d" stroke-dasharray="3 1.5" d="M%.3f %.3fL%.3f %.3f"/>`+"\n", id, i+1, c.From.X, c.From.Y, c.To.X, c.To.Y)
		}
		s.printf("</g>\n")
		top += y1 - y0 + apart
	}
	s.printf("</svg>\n")
	return s.err
}
