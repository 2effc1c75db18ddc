package sheet

import (
	"io"
	"strings"

	"codeberg.org/go-pdf/fpdf"

	"chromaqua/core/length"
)

// Labels are for the backs of cards: what it is, who made it when, of what, and how it is
// kept.
type Labels struct {
	Unit      length.Unit
	Name      string
	By, Date  string // "" for none
	Materials []string
	Care      string
	Many      int
}

// Measures of a label and of what is left between them, mm.
const (
	labelWide = 58.0
	labelHigh = 38.0
	labelGap  = 3.0
	labelPad  = 3.0
)

// WritePDF writes as many as are asked for, page after page, with lines to cut along.
func (l *Labels) WritePDF(w io.Writer) error {
	p := newPDF(pageOf(l.Unit))
	p.SetTitle(l.Name+", label", true)
	p.SetAutoPageBreak(false, 0)
	p.AddPage()
	pw, ph := p.GetPageSize()
	across := int((pw - 2*margin + labelGap) / (labelWide + labelGap))
	down := int((ph - 2*margin + labelGap - 14) / (labelHigh + labelGap))
	for i := range l.Many {
		at := i % (across * down)
		if i > 0 && at == 0 {
			p.AddPage()
		}
		l.draw(p, margin+float64(at%across)*(labelWide+labelGap), margin+float64(at/across)*(labelHigh+labelGap))
	}
	scaleBar(p, l.Unit, margin, ph-margin)
	return p.Output(w)
}

// draw writes one label: its care stands at the foot, what it is made of gets the room that
// is left.
func (l *Labels) draw(p *fpdf.Fpdf, x, y float64) {
	p.SetLineWidth(0.15)
	p.Rect(x, y, labelWide, labelHigh, "D")
	foot := y + labelHigh - labelPad
	at := y + labelPad
	lines := func(family, style string, size float64, text string) []string {
		if p.SetFont(family, style, size); text == "" {
			return nil
		}
		return p.SplitText(text, labelWide-2*labelPad)
	}
	write := func(all []string, high float64) {
		for _, t := range all {
			if at+high > foot+0.1 {
				return
			}
			p.SetXY(x+labelPad, at)
			p.CellFormat(labelWide-2*labelPad, high, t, "", 0, "L", false, 0, "")
			at += high
		}
	}
	write(lines(words, "", 13, l.Name), 5.2)
	made := "Made by hand"
	if l.By != "" {
		made += " by " + l.By
	}
	write(lines(words, "I", 10, made), 4.2)
	write(lines(words, "I", 10, l.Date), 4.2)
	const small, smallHigh = 7.5, 3.2
	care := lines(figures, "", small, l.Care)
	end := foot
	foot -= float64(len(care))*smallHigh + 0.8
	at += 0.8
	write(lines(figures, "", small, strings.Join(l.Materials, "; ")), smallHigh)
	at, foot = foot+0.8, end
	p.SetFont(figures, "", small)
	write(care, smallHigh)
}

// pageOf is the paper that printers of those who measure so hold.
func pageOf(u length.Unit) string {
	if u == length.Millimetres {
		return "A4"
	}
	return "Letter"
}
