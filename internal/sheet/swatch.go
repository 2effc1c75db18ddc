package sheet

import (
	"io"

	"codeberg.org/go-pdf/fpdf"

	"chromaqua/core/length"
	"chromaqua/core/pigment"
	"chromaqua/core/proof"
)

// Swatches is the card a paint is swatched on to be measured.
type Swatches struct{ Unit length.Unit }

// WritePDF writes the card at true size on a page.
func (s *Swatches) WritePDF(w io.Writer) error {
	p := newPDF("A4")
	p.SetTitle("Swatch card", true)
	p.AddPageFormat("P", fpdf.SizeType{Wd: 210, Ht: 297})
	p.SetAutoPageBreak(false, 0)
	heading(p, "Swatch card", 16)
	left, top := margin, p.GetY()+4
	stripFrame(p, left, top)
	p.SetFillColor(0, 0, 0)
	p.Rect(left+proof.BarLeft, top+proof.BarTop, proof.BarRight-proof.BarLeft, proof.BarBottom-proof.BarTop, "F")
	p.SetFont(figures, "", 7)
	for n, strength := range pigment.Strengths() {
		x := left + proof.SwatchX(n)
		p.Text(x, top+proof.OnWhiteTop-1, string(strength))
		for _, row := range swatchRows {
			cornerLines(x, top+row[0], proof.SwatchW, row[1]-row[0], p.Line)
		}
	}
	p.SetXY(left, top+proof.StripH+6)
	scaleBar(p, s.Unit, left, top+proof.StripH+4)
	p.SetXY(left, top+proof.StripH+10)
	p.SetFont(figures, "", 11)
	p.MultiCell(0, 5.4, "Fill the boxes with one paint, twice, from weak tea to paste: above on the white, below right across the black bar. Lay each in one go and leave it. When bone dry, scan the whole card in colour, lid closed, without corrections.", "", "L", false)
	return p.Output(w)
}

// WriteSVG writes the card at true size, without the page round it: to print from
// another program, or to cut.
func (s *Swatches) WriteSVG(w io.Writer) error {
	e := &svgWriter{w: w}
	const around = 3.0 // white that a scan needs, mm
	e.printf(`<svg xmlns="http://www.w3.org/2000/svg" width="%.3[1]fmm" height="%.3[2]fmm" viewBox="%.3[3]f %.3[3]f %.3[1]f %.3[2]f" font-family="sans-serif" font-size="2.5"><title>Swatch card</title>`+"\n", proof.StripW+2*around, proof.StripH+2*around, -around)
	box := func(x, y, w, h float64, fill string) {
		e.printf(`<rect x="%.3f" y="%.3f" width="%.3f" height="%.3f" fill="%s"/>`+"\n", x, y, w, h, fill)
	}
	e.printf(`<rect x="-1" y="-1" width="%.3f" height="%.3f" fill="none" stroke="#969696" stroke-width="0.1"/>`+"\n", proof.StripW+2, proof.StripH+2)
	for i, m := range proof.Marks() {
		box(m.X-proof.MarkSide/2, m.Y-proof.MarkSide/2, proof.MarkSide, proof.MarkSide, "#000")
		if i > 0 {
			box(m.X-proof.MarkHole/2, m.Y-proof.MarkHole/2, proof.MarkHole, proof.MarkHole, "#fff")
		}
	}
	box(proof.BarLeft, proof.BarTop, proof.BarRight-proof.BarLeft, proof.BarBottom-proof.BarTop, "#000")
	for n, strength := range pigment.Strengths() {
		x := proof.SwatchX(n)
		e.printf(`<text x="%.3f" y="%.3f">%s</text>`+"\n", x, proof.OnWhiteTop-1, strength)
		for _, row := range swatchRows {
			e.printf(`<path fill="none" stroke="#969696" stroke-width="0.1" d="`)
			cornerLines(x, row[0], proof.SwatchW, row[1]-row[0], func(x0, y0, x1, y1 float64) { e.printf("M%.3f %.3fL%.3f %.3f", x0, y0, x1, y1) })
			e.printf(`"/>` + "\n")
		}
	}
	e.printf("</svg>\n")
	return e.err
}

// swatchRows are where the two rows of boxes begin and end, mm from the top.
var swatchRows = [2][2]float64{{proof.OnWhiteTop, proof.OnWhiteBottom}, {proof.OverBarTop, proof.OverBarBottom}}

// cornerLines marks a box by its corners only, so that no line shows through the
// paint.
func cornerLines(x, y, w, h float64, line func(x0, y0, x1, y1 float64)) {
	const long = 1.5
	for _, c := range [4][4]float64{{x, y, 1, 1}, {x + w, y, -1, 1}, {x, y + h, 1, -1}, {x + w, y + h, -1, -1}} {
		line(c[0], c[1], c[0]+c[2]*long, c[1])
		line(c[0], c[1], c[0], c[1]+c[3]*long)
	}
}
