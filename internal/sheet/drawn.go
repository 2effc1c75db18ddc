package sheet

import (
	"bytes"
	"fmt"

	"codeberg.org/go-pdf/fpdf"

	"chromaqua/core/card"
	"chromaqua/core/panel"
	"chromaqua/core/printing"
	"chromaqua/core/steps"
)

// painted lays a piece as it is painted on the page; not done where there is no such picture.
func (d *doc) painted(piece int, after *steps.Step, x, y, w, h float64) (done bool, err error) {
	if d.Painted == nil {
		return false, nil
	}
	data, err := d.Painted(piece, after)
	if err != nil || data == nil {
		return false, err
	}
	name := fmt.Sprintf("painted %d", piece)
	if after != nil {
		name += fmt.Sprintf(" after %d", after.ID)
	}
	how := fpdf.ImageOptions{ImageType: "JPG"}
	d.pdf.RegisterImageOptionsReader(name, how, bytes.NewReader(data))
	d.pdf.ImageOptions(name, x, y, w, h, false, how, 0, "")
	return true, d.pdf.Error()
}

// flat fills the areas with their tones.
func (d *doc) flat(looks []panel.Look, x, y float64) {
	for i, c := range d.Board.Cells {
		if area, owned := d.Board.AreaOf(c.ID); owned {
			d.fill(looks[area].Dense.Dry)
			d.shape(d.Board.Shapes[i], x, y)
		}
	}
	for _, f := range d.Board.Films() {
		d.fill(f.Look.Dense.Dry)
		d.shape(f.Outline, x, y)
	}
	for i := range d.Board.Areas {
		d.byHand(i, &looks[i], x, y)
	}
}

// byHand draws the strokes, dots and outlines of an area.
func (d *doc) byHand(area int, look *panel.Look, x, y float64) {
	a := &d.Board.Areas[area]
	for _, id := range a.Area.Zones {
		z, err := d.Board.Card.ZoneByID(id)
		if err != nil || !z.Shape.Drawn() || len(a.Washes) == 0 {
			continue
		}
		tone := look.Mark().Dry
		d.fill(tone)
		if z.Shape == card.Outlines {
			for _, p := range d.Board.ZoneParts(area) {
				d.shape(p.Outline, x, y)
			}
			continue
		}
		d.pdf.SetLineWidth(z.Width.MM())
		d.pdf.SetLineCapStyle("round")
		d.pdf.SetDrawColor(d.pdf.GetFillColor())
		for _, line := range panel.StrokesOf(d.Board.Card, z) {
			if len(line) == 1 {
				d.pdf.Circle(x+line[0].X, y+line[0].Y, z.Width.MM()/2, "F")
				continue
			}
			d.pdf.MoveTo(x+line[0].X, y+line[0].Y)
			for _, p := range line[1:] {
				d.pdf.LineTo(x+p.X, y+p.Y)
			}
			d.pdf.DrawPath("D")
		}
		d.pdf.SetLineWidth(0.2)
		d.pdf.SetLineCapStyle("butt")
		d.pdf.SetDrawColor(0x1e, 0x2a, 0x3a)
	}
}

// overTheLine draws what is seen over the picture of the line: paint on the mass of a solid,
// and words.
func (d *doc) overTheLine(looks []panel.Look, x, y float64) {
	for i, c := range d.Board.Cells {
		area, owned := d.Board.AreaOf(c.ID)
		if owned && d.Board.Mass(c.ID) >= 0 && len(d.Board.Areas[area].Washes) > 0 {
			d.fill(looks[area].Dense.Dry)
			d.shape(d.Board.Shapes[i], x, y)
		}
	}
	for i := range d.Board.Card.Acts {
		if t := d.Board.Card.Acts[i].Text; t != nil {
			putWords(d.pdf, t, x, y, 1, tones[printing.Black])
		}
	}
}
