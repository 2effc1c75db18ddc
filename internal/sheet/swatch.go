package sheet

import (
	"io"

	"github.com/go-pdf/fpdf"

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
		for _, row := range [2][2]float64{{proof.OnWhiteTop, proof.OnWhiteBottom}, {proof.OverBarTop, proof.OverBarBottom}} {
			corners(p, x, top+row[0], proof.SwatchW, row[1]-row[0])
		}
	}
	p.SetXY(left, top+proof.StripH+6)
	scaleBar(p, s.Unit, left, top+proof.StripH+4)
	p.SetXY(left, top+proof.StripH+10)
	p.SetFont(figures, "", 11)
	p.MultiCell(0, 5.4, "Fill the boxes with one paint, twice, from weak tea to paste: above on the white, below right across the black bar. Lay each in one go and leave it. When bone dry, scan the whole card in colour, lid closed, without corrections.", "", "L", false)
	return p.Output(w)
}

// corners marks a box by its corners only, so that no line shows through the paint.
func corners(p *fpdf.Fpdf, x, y, w, h float64) {
	const long = 1.5
	for _, c := range [4][4]float64{{x, y, 1, 1}, {x + w, y, -1, 1}, {x, y + h, 1, -1}, {x + w, y + h, -1, -1}} {
		p.Line(c[0], c[1], c[0]+c[2]*long, c[1])
		p.Line(c[0], c[1], c[0], c[1]+c[3]*long)
	}
}
