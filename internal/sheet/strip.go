package sheet

import (
	"io"

	"codeberg.org/go-pdf/fpdf"

	"chromaqua/core/length"
	"chromaqua/core/proof"
)

// Strip is the ink test strip to print: with its lines, for inks that are
// printed, or with the places where they are ruled or stamped.
type Strip struct {
	Unit  length.Unit
	Lines bool
}

// WritePDF writes the strip at true size with what to do.
func (s *Strip) WritePDF(w io.Writer) error {
	p := newPDF("A4")
	p.SetTitle("Ink test strip", true)
	p.AddPageFormat("P", fpdf.SizeType{Wd: 210, Ht: 297})
	p.SetAutoPageBreak(false, 0)
	heading(p, "Ink test strip", 16)
	left, top := margin, p.GetY()+4
	stripFrame(p, left, top)
	const from, to = proof.InkLeft, proof.InkRight
	for _, l := range proof.StripLines() {
		if s.Lines {
			p.Rect(left+from, top+l.Y-l.Thick/2, to-from, l.Thick, "F")
			continue
		}
		for _, x := range []float64{from - 3, to + 1} { // short guides outside what is read
			p.SetDrawColor(150, 150, 150)
			p.Line(left+x, top+l.Y, left+x+2, top+l.Y)
		}
	}
	if s.Lines {
		p.Rect(left+from, top+proof.PatchTop, to-from, proof.PatchBottom-proof.PatchTop, "F")
	} else {
		for _, y := range []float64{proof.PatchTop, proof.PatchBottom} {
			for _, x := range []float64{from - 3, to + 1} {
				p.Line(left+x, top+y, left+x+2, top+y)
			}
		}
	}
	p.SetDrawColor(150, 150, 150)
	p.Line(left+proof.WetFrom, top+1, left+proof.WetFrom, top+4) // the brush begins here
	p.Line(left+proof.WetFrom, top+proof.StripH-4, left+proof.WetFrom, top+proof.StripH-1)
	p.SetDrawColor(0, 0, 0)
	scaleBar(p, s.Unit, margin, top+proof.StripH+6)
	p.SetXY(margin, top+proof.StripH+16)
	p.SetFont(figures, "", 11)
	steps := []string{"1  Print this on the paper you paint on, at 100 %; check the bar."}
	if !s.Lines {
		steps = append(steps, "2  Rule or stamp the three lines, 0.3, 0.5 and 1 mm thick, from guide to guide, and fill the patch between the lower guides, with the ink you test.")
	} else {
		steps = append(steps, "2  The lines are the print that is tested.")
	}
	steps = append(steps,
		"3  Let it dry, or heat it, as long as you would on a card. Note how long.",
		"4  Brush all that lies right of the middle mark once with clean water, up to where the lines end but not over the black squares. Let it dry.",
		"5  Scan the whole strip in colour at 200 dpi or more, without corrections, and send the scan to the Tests page.")
	for _, t := range steps {
		p.MultiCell(0, 5.4, t, "", "L", false)
	}
	return p.Output(w)
}

// stripFrame draws the outline and the marks by which a scan is found and squared.
func stripFrame(p *fpdf.Fpdf, left, top float64) {
	p.SetLineWidth(0.1)
	p.SetDrawColor(150, 150, 150)
	p.Rect(left-1, top-1, proof.StripW+2, proof.StripH+2, "D")
	p.SetFillColor(0, 0, 0)
	for i, m := range proof.Marks() {
		p.Rect(left+m.X-proof.MarkSide/2, top+m.Y-proof.MarkSide/2, proof.MarkSide, proof.MarkSide, "F")
		if i > 0 {
			p.SetFillColor(255, 255, 255)
			p.Rect(left+m.X-proof.MarkHole/2, top+m.Y-proof.MarkHole/2, proof.MarkHole, proof.MarkHole, "F")
			p.SetFillColor(0, 0, 0)
		}
	}
}
