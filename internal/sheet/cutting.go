package sheet

import (
	"encoding/xml"
	"fmt"
	"io"
	"strconv"

	"codeberg.org/go-pdf/fpdf"

	"chromaqua/core/cutting"
	"chromaqua/core/length"
	"chromaqua/core/paper"
)

// Cutting is what a cut sheet is made from.
type Cutting struct {
	Unit  length.Unit
	Stock *paper.Stock
	Plan  *cutting.Plan
	Steps []cutting.Step
	Parts []paper.Part
}

func nm(v int64) float64 { return float64(v) / 1e6 }

// WritePDF writes the cuts in order, and each sheet at true size on a page of
// its own that is larger than it by a margin.
func (c *Cutting) WritePDF(w io.Writer) error {
	paperSize := "Letter"
	if c.Unit == length.Millimetres {
		paperSize = "A4"
	}
	p := newPDF(paperSize)
	p.SetTitle("Cut sheet", true)
	p.AddPage()
	heading(p, "Cut sheet", 20)
	heading(p, "Parts", 14)
	p.SetFont(figures, "", 11)
	for _, q := range c.Parts {
		p.MultiCell(0, 5.2, fmt.Sprintf("%s: %d × %s, %s", q.ID, q.Qty, length.Size{W: length.Length(q.W), H: length.Length(q.H)}.With(c.Unit), q.What), "", "L", false)
	}
	heading(p, "Cuts, in order", 14)
	c.list(p)
	for i := range c.Plan.Sheets {
		if err := c.page(p, i); err != nil {
			return err
		}
	}
	return p.Output(w)
}

// list prints every cut with a box to tick, by setting of the fence.
func (c *Cutting) list(p *fpdf.Fpdf) {
	fence := int64(-1)
	for n, s := range c.Steps {
		if s.Fence != fence {
			fence = s.Fence
			p.SetFont(figures, "B", 11)
			p.CellFormat(0, rowHigh, "Set "+length.Length(fence).With(c.Unit), "", 1, "L", false, 0, "")
		}
		p.SetFont(figures, "", 11)
		p.SetX(margin + 6)
		tickBox(p)
		way := "upright"
		if s.Axis == cutting.Y {
			way = "across"
		}
		piece := length.Size{W: length.Length(s.From.W), H: length.Length(s.From.H)}
		p.CellFormat(0, rowHigh, fmt.Sprintf("%d  sheet %d, the piece of %s: cut %s", n+1, s.Sheet+1, piece.With(c.Unit), way), "", 1, "L", false, 0, "")
	}
}

// page draws one sheet at true size.
func (c *Cutting) page(p *fpdf.Fpdf, i int) error {
	sh := c.Plan.Sheets[i]
	it, err := c.Stock.Item(sh.Stock)
	if err != nil {
		return err
	}
	w, h := it.Size.W.MM(), it.Size.H.MM()
	p.AddPageFormat("P", fpdf.SizeType{Wd: max(100, w+2*margin), Ht: h + 2*margin + 22})
	p.SetAutoPageBreak(false, 0)
	p.SetFont(words, "", 14)
	p.SetXY(margin, margin-4)
	p.CellFormat(0, 7, fmt.Sprintf("Sheet %d: %s, %s", i+1, it.Name(), it.Size.With(c.Unit)), "", 1, "L", false, 0, "")
	x0, y0 := margin, margin+6.0
	p.SetLineWidth(0.3)
	p.Rect(x0, y0, w, h, "D")
	p.SetFont(figures, "", 9)
	for _, pl := range sh.Placements {
		x, y := x0+nm(pl.X), y0+h-nm(pl.Y+pl.H)
		p.SetFillColor(0xe3, 0xef, 0xec)
		p.Rect(x, y, nm(pl.W), nm(pl.H), "DF")
		p.SetXY(x, y+nm(pl.H)/2-2)
		p.CellFormat(nm(pl.W), 4, pl.Part, "", 0, "C", false, 0, "")
	}
	for n, s := range c.Steps {
		if s.Sheet != i {
			continue
		}
		x1, y1, x2, y2 := x0+nm(s.Line.X1), y0+h-nm(s.Line.Y1), x0+nm(s.Line.X2), y0+h-nm(s.Line.Y2)
		p.SetDashPattern([]float64{3, 1.5}, 0)
		p.Line(x1, y1, x2, y2)
		p.SetDashPattern(nil, 0)
		badge(p, (x1+x2)/2, (y1+y2)/2, strconv.Itoa(n+1))
	}
	scaleBar(p, c.Unit, margin, y0+h+5)
	p.SetAutoPageBreak(true, margin+6)
	return p.Error()
}

// WriteSVG writes all sheets at true size below each other, cut lines and parts
// in layers of their own, for whoever cuts by machine.
func (c *Cutting) WriteSVG(w io.Writer) error {
	const gap = 10.0
	width, height := 0.0, 0.0
	for _, sh := range c.Plan.Sheets {
		it, err := c.Stock.Item(sh.Stock)
		if err != nil {
			return err
		}
		width, height = max(width, it.Size.W.MM()), height+it.Size.H.MM()+gap
	}
	e := &svgWriter{w: w}
	e.printf(`<svg xmlns="http://www.w3.org/2000/svg" width="%[1]gmm" height="%[2]gmm" viewBox="0 0 %[1]g %[2]g" fill="none" stroke="#1e2a3a" stroke-width="0.2" font-family="sans-serif" font-size="4">`+"\n", width, height)
	y0 := 0.0
	for i, sh := range c.Plan.Sheets {
		it, err := c.Stock.Item(sh.Stock)
		if err != nil {
			return err
		}
		h := it.Size.H.MM()
		e.printf(`<g id="sheet-%d" transform="translate(0 %g)"><title>`, i+1, y0)
		e.text(fmt.Sprintf("Sheet %d: %s, %s", i+1, it.Name(), it.Size.With(c.Unit)))
		e.printf(`</title><rect width="%g" height="%g"/>`+"\n<g class=\"parts\">\n", it.Size.W.MM(), h)
		for _, pl := range sh.Placements {
			e.printf(`<rect x="%g" y="%g" width="%g" height="%g"/><text x="%g" y="%g" text-anchor="middle" stroke="none" fill="#1e2a3a">`,
				nm(pl.X), h-nm(pl.Y+pl.H), nm(pl.W), nm(pl.H), nm(pl.X)+nm(pl.W)/2, h-nm(pl.Y)-nm(pl.H)/2)
			e.text(pl.Part)
			e.printf("</text>\n")
		}
		e.printf("</g>\n<g class=\"cuts\" stroke-dasharray=\"3 1.5\">\n")
		for n, s := range c.Steps {
			if s.Sheet == i {
				e.printf(`<path id="cut-%d" d="M%g %gL%g %g"/>`+"\n", n+1, nm(s.Line.X1), h-nm(s.Line.Y1), nm(s.Line.X2), h-nm(s.Line.Y2))
			}
		}
		e.printf("</g></g>\n")
		y0 += h + gap
	}
	e.printf("</svg>\n")
	return e.err
}

// svgWriter remembers the first error.
type svgWriter struct {
	w   io.Writer
	err error
}

func (e *svgWriter) printf(format string, args ...any) {
	if e.err == nil {
		_, e.err = fmt.Fprintf(e.w, format, args...)
	}
}

func (e *svgWriter) text(s string) {
	if e.err == nil {
		e.err = xml.EscapeText(e.w, []byte(s))
	}
}

// badge is a number in a circle.
func badge(p *fpdf.Fpdf, x, y float64, text string) {
	p.SetFillColor(0xfb, 0xf8, 0xf1)
	p.Circle(x, y, 1.6+0.2*float64(max(2, len(text))), "DF")
	p.SetXY(x-3, y-2)
	p.CellFormat(6, 4, text, "", 0, "C", false, 0, "")
}
