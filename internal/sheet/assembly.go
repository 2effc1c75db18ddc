package sheet

import (
	"fmt"
	"io"
	"strconv"

	"codeberg.org/go-pdf/fpdf"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/mount"
	"chromaqua/core/wording"
)

// Assembly is the sheet a card is put together by.
type Assembly struct {
	Card    *card.Card
	Made    *mount.Assembly
	Amounts []string // of what each joint takes
	Words   []string // that are put on before anything is glued
	Fits    string   // what is said of its envelope
}

// WritePDF writes the picture from the front with the joints numbered, and the joints in
// their order to tick off.
func (s *Assembly) WritePDF(w io.Writer) error {
	u := s.Card.Unit
	p := newPDF(pageOf(u))
	p.SetTitle(s.Card.Name+", put together", true)
	p.AddPage()
	heading(p, s.Card.Name+", put together", 22)
	p.SetFont(figures, "", 11)
	p.MultiCell(0, 5.4, fmt.Sprintf("%s thick, about %.0f g (%.2f oz). %s", s.Made.Thick.Near(u), s.Made.Grams, s.Made.Grams/mount.Ounce, s.Fits), "", "L", false)
	if len(s.Words) > 0 {
		p.MultiCell(0, 5.4, "Before anything is glued, while it is flat: "+wording.And(s.Words)+".", "", "L", false)
	}
	p.Ln(2)
	top := p.GetY()
	right, below := s.front(p, top)
	if pw, _ := p.GetPageSize(); pw-margin-right >= sideLeast {
		s.side(p, right, top)
	} else {
		s.side(p, margin, below)
		below = 0
	}
	p.SetY(max(below, p.GetY()))
	s.steps(p)
	return p.Output(w)
}

// numbers are the joints of members.
func (s *Assembly) numbers() map[int]int {
	out := map[int]int{}
	for n, j := range s.Made.Joints {
		for _, i := range j.Members {
			out[i] = n + 1
		}
	}
	return out
}

// Measures of the side view, mm: the least it is drawn beside the front in, and its bars.
const (
	sideLeast = 60.0
	sideBars  = 36.0
)

// front draws the card from the front, its parts as outlines with the numbers of their
// joints; at true size where it fits. It returns what is free to its right, and below.
func (s *Assembly) front(p *fpdf.Fpdf, top float64) (right, below float64) {
	base := s.Made.Members[0]
	w, h := base.Size.W.MM(), base.Size.H.MM()
	const most, mostHigh = 120.0, 150.0
	scale := min(1, most/w, mostHigh/h)
	cx, cy := margin+w*scale/2, top+h*scale/2
	at := s.numbers()
	box := func(i int, x, y, w, h, turn float64) {
		p.TransformBegin()
		if turn != 0 {
			p.TransformRotate(-turn, x, y)
		}
		p.SetFillColor(0xff, 0xfd, 0xf8)
		style := "FD"
		if o := s.Made.Members[i].Opening; o != (length.Size{}) {
			style = "D"
			p.Rect(x-o.W.MM()*scale/2, y-o.H.MM()*scale/2, o.W.MM()*scale, o.H.MM()*scale, style)
		}
		p.Rect(x-w/2, y-h/2, w, h, style)
		p.TransformEnd()
	}
	box(0, cx, cy, w*scale, h*scale, 0)
	for _, j := range s.Made.Joints {
		for _, i := range j.Members {
			m := &s.Made.Members[i]
			if m.Inside() || m.Face == card.BackFace {
				continue
			}
			x, y := cx+m.X.MM()*scale, cy+m.Y.MM()*scale
			box(i, x, y, m.Size.W.MM()*scale, m.Size.H.MM()*scale, m.Turn)
			corner := m.Size.Around(m.Turn)
			left, upper := x-corner.W.MM()*scale/2, y-corner.H.MM()*scale/2
			if m.Piece == nil { // nested corners lie close: each number a little lower
				badge(p, left, upper+7*float64(at[i]), strconv.Itoa(at[i]))
			} else {
				badge(p, x, y, strconv.Itoa(at[i]))
			}
		}
	}
	below = cy + h*scale/2 + 4
	if scale == 1 {
		scaleBar(p, s.Card.Unit, margin, below)
		below += 6
	}
	return margin + w*scale + 8, below
}

// side draws the parts one above the other from the side.
func (s *Assembly) side(p *fpdf.Fpdf, x0, y0 float64) {
	p.SetFont(figures, "", 9)
	p.SetXY(x0, y0)
	p.MultiCell(0, 4, "From the side, one above the other. Thicknesses are drawn larger than widths.", "", "L", false)
	base := s.Made.Members[0]
	scale := sideBars / base.Size.W.MM()
	y := p.GetY() + 3
	at := s.numbers()
	for k := len(s.Made.Joints); k >= 0; k-- {
		members := []int{0}
		if k > 0 {
			members = s.Made.Joints[k-1].Members
		}
		m := &s.Made.Members[members[0]]
		thick := max(0.5, 3*m.Paper.Thickness.MM()*float64(m.Layers))
		high := 3 * m.High.MM()
		for _, i := range members {
			o := &s.Made.Members[i]
			size := o.Size.Around(o.Turn).W.MM() * scale
			x := x0 + sideBars/2 + o.X.MM()*scale - size/2
			p.SetFillColor(0xff, 0xfd, 0xf8)
			p.Rect(x, y, size, thick, "FD")
			if k > 0 && high > 0 {
				p.SetFillColor(0x7d, 0xb8, 0xb5)
				p.Rect(x, y+thick, size, high, "F")
			}
		}
		says := m.Name
		if k > 0 {
			says = fmt.Sprintf("%d  %s, %s", at[members[0]], m.Name, m.By.Facts().Name)
		}
		p.SetXY(x0+sideBars+4, y-1.6)
		p.MultiCell(0, 3.8, says, "", "L", false)
		y = max(p.GetY()+1.6, y+thick+high+1.6)
	}
	p.SetXY(margin, y+2)
}

func (s *Assembly) steps(p *fpdf.Fpdf) {
	heading(p, "In this order", 15)
	const ticked = 24 // a box to tick stays with what it is for
	for n := range s.Made.Joints {
		room(p, ticked)
		p.SetFont(figures, "B", 11)
		tickBox(p)
		p.CellFormat(0, 5.6, fmt.Sprintf("%d  %s", n+1, s.Made.Title(&s.Made.Joints[n])), "", 1, "L", false, 0, "")
		p.SetFont(figures, "", 10.5)
		p.SetLeftMargin(margin + 6)
		p.SetX(margin + 6)
		p.MultiCell(0, 5, s.Made.Detail(&s.Made.Joints[n], s.Card.Unit)+" "+wording.Upper(s.Amounts[n])+".", "", "L", false)
		p.SetLeftMargin(margin)
		p.SetX(margin)
	}
	if t := s.Made.Sets(); t > 0 {
		room(p, ticked)
		tickBox(p)
		p.MultiCell(0, 5.6, fmt.Sprintf("Let it lie for %.0f minutes, until all glue holds.", t.Minutes()), "", "L", false)
	}
	for _, it := range s.Made.Items {
		room(p, ticked)
		tickBox(p)
		p.MultiCell(0, 5.6, wording.Upper(it.Words())+" on "+it.On+": "+it.Kind.Facts().How+".", "", "L", false)
	}
}
