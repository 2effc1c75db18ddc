package sheet

import (
	"io"

	"codeberg.org/go-pdf/fpdf"

	"chromaqua/core/length"
	"chromaqua/core/proof"
	"chromaqua/core/wash"
)

// Washes is the card on which test washes are painted.
type Washes struct{ Unit length.Unit }

// WashesSteps is what is done with it, in turn.
const WashesSteps = "Left box: ultramarine as thin as tea, one flat wash, laid quickly and left alone. Right box: golden yellow as thin as tea, wet and shining; count to sixty, then let one drop of rose, as thick as milk, fall into its middle from a loaded round 6. Let the card lie flat until it is bone dry, then scan it in colour, lid closed, without corrections."

// WritePDF writes the card at true size on a page.
func (s *Washes) WritePDF(w io.Writer) error {
	p := newPDF("A4")
	p.SetTitle("Card of test washes", true)
	p.AddPageFormat("P", fpdf.SizeType{Wd: 210, Ht: 297})
	p.SetAutoPageBreak(false, 0)
	heading(p, "Card of test washes", 16)
	left, top := margin, p.GetY()+4
	stripFrame(p, left, top)
	for _, b := range wash.TestBoxes() {
		cornerLines(left+b[0], top+b[1], b[2]-b[0], b[3]-b[1], p.Line)
	}
	scaleBar(p, s.Unit, left, top+proof.StripH+4)
	p.SetXY(left, top+proof.StripH+12)
	p.SetFont(figures, "", 11)
	p.MultiCell(0, 5.4, WashesSteps, "", "L", false)
	return p.Output(w)
}
