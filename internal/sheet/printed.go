package sheet

import (
	"bytes"
	"fmt"
	"image"
	"image/color"
	"image/png"
	"io"
	"math"

	"codeberg.org/go-pdf/fpdf"

	"chromaqua/core/card"
	"chromaqua/core/printing"
)

// Printed is the line of pieces, to print on the paper that is painted.
type Printed struct {
	Title string
	Plan  *printing.Plan
	Lines []*printing.Line // by part of the plan
}

// tones are the colours of a printed line.
var tones = map[printing.Tone]color.NRGBA{
	printing.Black: {R: 0x12, G: 0x12, B: 0x12}, printing.Grey: {R: 0x86, G: 0x86, B: 0x86},
	printing.Sepia: {R: 0x80, G: 0x60, B: 0x44}, printing.Pale: {R: 0xd2, G: 0xcd, B: 0xc6},
}

// Crop marks on the page, millimetres.
const (
	markFrom = 1.0 // outside the corner
	markTo   = 4.0
	fine     = 0.1 // width of a mark
)

// WritePDF writes each sheet of the plan as a page of its size.
func (d *Printed) WritePDF(w io.Writer) error {
	p := newPDF("A4")
	p.SetTitle(d.Title, true)
	p.SetAutoPageBreak(false, 0)
	for i := range d.Lines {
		if g := d.Lines[i].Grey; g != nil {
			data, err := toned(g, tones[d.Plan.Tone])
			if err != nil {
				return err
			}
			p.RegisterImageOptionsReader(imageName(i), fpdf.ImageOptions{ImageType: "PNG"}, bytes.NewReader(data))
		}
	}
	for _, s := range d.Plan.Sheets {
		p.AddPageFormat("P", fpdf.SizeType{Wd: s.Size.W.MM(), Ht: s.Size.H.MM()})
		for _, at := range s.Placed {
			d.place(p, at)
			if !s.Own {
				cropMarks(p, at)
			}
		}
		if s.Bar.X1 > s.Bar.X0 {
			d.foot(p, &s)
		}
	}
	return p.Output(w)
}

func imageName(part int) string { return fmt.Sprintf("line-%d", part) }

// place prints the line of one part.
func (d *Printed) place(p *fpdf.Fpdf, at printing.Placed) {
	l, s := d.Lines[at.Part], d.Plan.Scale()
	w, h := l.Size.W.MM()*s, l.Size.H.MM()*s
	p.TransformBegin()
	if at.Turned { // its top left corner comes to lie at the top right
		p.TransformRotate(-90, at.X+at.W, at.Y)
		p.TransformTranslate(at.W, 0)
	}
	if d.Plan.Mirror {
		p.TransformMirrorHorizontal(at.X + w/2)
	}
	p.ClipRect(at.X, at.Y, w, h, false)
	if l.Grey != nil {
		p.ImageOptions(imageName(at.Part), at.X+l.At.X0*s, at.Y+l.At.Y0*s, (l.At.X1-l.At.X0)*s, (l.At.Y1-l.At.Y0)*s, false, fpdf.ImageOptions{}, 0, "")
	}
	for i := range l.Words {
		putWords(p, &l.Words[i], at.X, at.Y, s, tones[d.Plan.Tone])
	}
	p.ClipEnd()
	p.TransformEnd()
}

// putWords writes words about their middle, line by line; x0, y0 is where the corner lies
// that they are placed from, mm.
func putWords(p *fpdf.Fpdf, t *card.Text, x0, y0, scale float64, ink color.NRGBA) {
	const pointMM = 25.4 / 72
	x, y, high := x0+t.X.MM()*scale, y0+t.Y.MM()*scale, t.Height.MM()*scale
	p.TransformBegin()
	if t.Turn != 0 {
		p.TransformRotate(-t.Turn, x, y)
	}
	p.SetTextColor(int(ink.R), int(ink.G), int(ink.B))
	p.SetFont(words, "", high/pointMM/lineOf)
	lines := t.Lines()
	for i, line := range lines {
		p.SetXY(x-p.GetStringWidth(line)/2, y+(float64(i)-float64(len(lines))/2)*high)
		p.CellFormat(p.GetStringWidth(line), high, line, "", 0, "C", false, 0, "")
	}
	p.SetTextColor(0x1e, 0x2a, 0x3a)
	p.TransformEnd()
}

// lineOf is how high a line is, as a multiple of the size of its letters.
const lineOf = 1.2

// cropMarks mark the corners of a part, outside it.
func cropMarks(p *fpdf.Fpdf, at printing.Placed) {
	p.SetLineWidth(fine)
	for _, dx := range []float64{-1, 1} {
		for _, dy := range []float64{-1, 1} {
			x, y := at.X+(1+dx)/2*at.W, at.Y+(1+dy)/2*at.H
			p.Line(x+dx*markFrom, y, x+dx*markTo, y)
			p.Line(x, y+dy*markFrom, x, y+dy*markTo)
		}
	}
	p.SetLineWidth(0.2)
}

// foot prints the bar that tells the printer's scale, and how the grain runs.
func (d *Printed) foot(p *fpdf.Fpdf, s *printing.Sheet) {
	b := s.Bar
	bar(p, b.X0, b.Y0, b.Wide(), b.High(), 10)
	p.SetFont(figures, "", 8)
	p.SetXY(b.X0, b.Y1+0.4)
	p.CellFormat(0, 3.4, fmt.Sprintf("%.0f mm from end to end, printed at 100 %%. %s", printing.BarMM, d.Plan.Says()), "", 0, "L", false, 0, "")
	if d.Plan.Grain == printing.GrainUnknown {
		return
	}
	x, y := min(b.X1+8, s.Reached.X1-20), (b.Y0+b.Y1)/2
	if d.Plan.Grain == printing.GrainLong { // the height of a sheet is its long side
		arrow(p, x, y+5, x, y-6)
	} else {
		arrow(p, x, y, x+12, y)
	}
	p.SetXY(x+2, y-5.5)
	p.CellFormat(0, 3.4, "grain", "", 0, "L", false, 0, "")
}

// arrow draws a line with a head at both ends.
func arrow(p *fpdf.Fpdf, x1, y1, x2, y2 float64) {
	p.Line(x1, y1, x2, y2)
	a := math.Atan2(y2-y1, x2-x1)
	for _, end := range [][3]float64{{x2, y2, a}, {x1, y1, a + math.Pi}} {
		for _, side := range []float64{-0.4, 0.4} {
			p.Line(end[0], end[1], end[0]-2*math.Cos(end[2]+side), end[1]-2*math.Sin(end[2]+side))
		}
	}
}

// toned is a picture whose ink has a colour; what is as pale as paper is not printed.
func toned(g *image.Gray, ink color.NRGBA) ([]byte, error) {
	out := image.NewPaletted(g.Rect, make(color.Palette, 256))
	for i := range out.Palette {
		bare := min(i, printing.Paper)
		to := func(c uint8) uint8 { return uint8(int(c) + (255-int(c))*bare/printing.Paper) }
		out.Palette[i] = color.NRGBA{R: to(ink.R), G: to(ink.G), B: to(ink.B), A: 255}
	}
	copy(out.Pix, g.Pix)
	var buf bytes.Buffer
	err := png.Encode(&buf, out)
	return buf.Bytes(), err
}

// PrintTest is the page that tells what a printer does to what is printed.
type PrintTest struct{ Page printing.Page }

// WritePDF writes the page: bars both ways, and frames so far from the edge.
func (t *PrintTest) WritePDF(w io.Writer) error {
	p := newPDF("A4")
	p.SetTitle("Test page of a printer", true)
	p.SetAutoPageBreak(false, 0)
	wide, high := t.Page.Size.W.MM(), t.Page.Size.H.MM()
	p.AddPageFormat("P", fpdf.SizeType{Wd: wide, Ht: high})
	p.SetFont(figures, "", 7)
	for _, edge := range []float64{2, 3, 4, 5, 6, 8, 10, 12} {
		p.SetLineWidth(fine)
		p.Rect(edge, edge, wide-2*edge, high-2*edge, "D")
		p.SetFillColor(0xff, 0xff, 0xff)
		for _, y := range []float64{edge - 1.4, high - edge - 1.4} {
			p.SetXY(20+edge*5, y)
			p.CellFormat(4, 2.8, fmt.Sprint(edge), "", 0, "C", true, 0, "")
		}
	}
	x, y := 30.0, 40.0
	p.SetLineWidth(0.2)
	bar(p, x, y, printing.BarMM, 2.4, 10)
	bar(p, x-6, y+8, 2.4, printing.BarMM, 10)
	p.SetXY(x, y+8)
	p.SetFont(figures, "", 11)
	p.MultiCell(wide-x-20, 5.4, fmt.Sprintf("Print this page at 100 %%, on any paper of %s; do not fit it to the page.\n\nMeasure both bars: each is %.0f mm from end to end. Where yours differ, type what the long one measures, and all is printed so much larger or smaller.\n\nLook at the frames: the smallest number whose frame is whole on all four sides is what the printer leaves of the edge, in mm.", t.Page.Name, printing.BarMM), "", "L", false)
	return p.Output(w)
}
