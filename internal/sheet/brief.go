package sheet

import (
	"fmt"
	"strconv"

	"chromaqua/core/order"
	"chromaqua/core/steps"
)

// Measures of the two columns of steps, mm, and their type, points.
const (
	gutter   = 8.0
	stepHigh = 5.6
	stepType = 12.0
	dab      = 4.6
)

// columns writes rows down one column and then the other, page after page.
type columns struct {
	*doc
	top    float64
	second bool
}

func (c *columns) wide() float64 {
	pw, _ := c.pdf.GetPageSize()
	return (pw - 2*margin - gutter) / 2
}

func (c *columns) left() float64 {
	if c.second {
		return margin + c.wide() + gutter
	}
	return margin
}

// room makes room for a row so high, in the next column or on the next page.
func (c *columns) room(high float64) {
	p := c.pdf
	if _, ph := p.GetPageSize(); p.GetY()+high <= ph-margin-6 {
		return
	}
	if c.second {
		p.AddPage()
		c.top = p.GetY()
	}
	c.second = !c.second
	p.SetY(c.top)
}

// row writes a text from so far right of the column's edge, mark drawing what stands before
// it.
func (c *columns) row(from float64, text string, mark func(x, y float64)) {
	p := c.pdf
	lines := p.SplitText(text, c.wide()-from)
	high := float64(len(lines))*stepHigh + 1.4
	c.room(high)
	x, y := c.left(), p.GetY()
	if mark != nil {
		mark(x, y)
	}
	for i, line := range lines {
		p.SetXY(x+from, y+float64(i)*stepHigh)
		p.CellFormat(c.wide()-from, stepHigh, line, "", 0, "L", false, 0, "")
	}
	p.SetXY(margin, y+high)
}

// steps lists what is done in few words, in two columns; what is done alike on several
// cards in a row stands once. Cautions stand once below.
func (d *doc) steps() {
	p := d.pdf
	p.AddPage()
	d.heading("The steps, by the clock", 16)
	c := &columns{doc: d, top: p.GetY()}
	hands := order.Seconds(0)
	for _, t := range d.Plan.Turns(d.Schedule) {
		st := d.Plan.Steps[t.Step]
		first, last := d.Schedule.Ops[t.Placed[0]], d.Schedule.Ops[t.Placed[len(t.Placed)-1]]
		if !st.Unattended {
			if passes := d.Schedule.HeatBetween(hands, first.Start); len(passes) > 0 {
				secs := order.Seconds(0)
				for _, h := range passes {
					secs += h.End - h.Start
				}
				text := "heat " + minutes(secs)
				if names := d.Plan.HeatNames(passes); names != "" {
					text += ": " + names
				}
				p.SetFont(words, "I", stepType)
				c.row(stepFrom, text, nil)
			}
			hands = last.End
		}
		c.step(t.Number, first.Start, &st, t.On(d.Plan.Instance.Copies))
	}
	c.room(20)
	p.SetFont(figures, "", 10)
	for _, text := range d.Plan.Cautions(d.Schedule) {
		c.row(0, text, nil)
	}
}

// stepFrom is where a step's words begin: after a box to tick, the clock, the number and
// the dab.
const stepFrom = 6.0 + 13 + 8 + dab + 2

func (c *columns) step(n int, at order.Seconds, s *steps.Step, on string) {
	p := c.pdf
	what, with := c.Plan.Brief(s)
	what += onCards(s, on)
	if with != "" {
		what += "; " + with
	}
	if s.Caution != "" {
		what += " (!)"
	}
	p.SetFont(figures, "", stepType)
	c.row(stepFrom, what, func(x, y float64) {
		p.SetXY(x, y-0.6)
		tickBox(p)
		p.SetXY(x+6, y)
		p.SetFont(figures, "B", stepType)
		p.CellFormat(13, stepHigh, clock(at), "", 0, "L", false, 0, "")
		p.CellFormat(8, stepHigh, strconv.Itoa(n), "", 0, "L", false, 0, "")
		if m := c.Plan.MixOf(s); m != nil {
			c.fill(m.Hex)
			p.Rect(x+27, y+0.5, dab, dab, "DF")
		}
		p.SetFont(figures, "", stepType)
	})
}

func clock(s order.Seconds) string { return fmt.Sprintf("%d:%02d", s/3600, s/60%60) }

func minutes(s order.Seconds) string {
	if s < 120 {
		return fmt.Sprintf("%d s", s)
	}
	if half := (s + 15) / 30; half%2 == 1 && half < 20 { // as the clock beside it counts
		return fmt.Sprintf("%d 1/2 min", half/2)
	}
	if m := (s + 30) / 60; m < 90 {
		return fmt.Sprintf("%d min", m)
	}
	if m := s / 60 % 60; m > 0 {
		return fmt.Sprintf("%d h %d min", s/3600, m)
	}
	return fmt.Sprintf("%d h", s/3600)
}
