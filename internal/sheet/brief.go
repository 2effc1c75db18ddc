package sheet

import (
	"fmt"
	"strconv"
	"strings"

	"chromaqua/core/order"
	"chromaqua/core/steps"
	"chromaqua/core/wording"
)

// Measures of the two columns of steps, mm, and their type, points.
const (
	gutter   = 7.0
	stepHigh = 5.1
	stepType = 11.0
	careHigh = 4.5
	careType = 10.0
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

// row writes a text in lines so high from so far right of the column's edge, mark drawing what
// stands before it.
func (c *columns) row(from, line float64, text string, mark func(x, y float64)) {
	p := c.pdf
	lines := p.SplitText(text, c.wide()-from)
	high := (float64(len(lines)) + 0.25) * line
	c.room(high)
	x, y := c.left(), p.GetY()
	if mark != nil {
		mark(x, y)
	}
	for i, text := range lines {
		p.SetXY(x+from, y+float64(i)*line)
		p.CellFormat(c.wide()-from, line, text, "", 0, "L", false, 0, "")
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
	turns := d.Plan.Turns(d.Schedule)
	for _, t := range turns {
		st := d.Plan.Steps[t.Step]
		if pause := d.pause(t); pause != "" {
			p.SetFont(words, "I", stepType)
			c.row(stepFrom, stepHigh, pause, nil)
		}
		c.step(t, &st, d.Plan.Followers(turns, t))
	}
	c.room(20)
	p.SetFont(figures, "", careType)
	for _, text := range d.Plan.Cautions(d.Schedule) {
		c.row(0, careHigh, text, nil)
	}
}

// pause says what is done with the heat tool and how long is waited before a turn.
func (d *doc) pause(t steps.Turn) string {
	var said []string
	if len(t.Heat) > 0 {
		heat := "heat " + wording.Time(t.Heated().Duration())
		if names := d.Plan.HeatNames(t.Heat); names != "" {
			heat += ": " + names
		}
		said = append(said, heat)
	}
	if t.Waits() {
		said = append(said, "wait "+wording.Time(t.Wait.Duration()))
	}
	return strings.Join(said, "; ")
}

// Where the parts of a step begin: a box to tick, the clock, the number, the dab, its words.
const (
	clockFrom  = 5.4
	clockWide  = 11.6
	numberWide = 7.4
	dabFrom    = clockFrom + clockWide + numberWide
	stepFrom   = dabFrom + dab + 1.4
)

func (c *columns) step(t steps.Turn, s *steps.Step, into []steps.Follower) {
	p := c.pdf
	brief := c.Plan.Brief(s)
	what := brief.Named() + onCards(s, t.On(c.Plan.Instance.Copies))
	if brief.With != "" {
		what += "; " + brief.With
	}
	if s.Caution != "" {
		what += " (!)"
	}
	for _, f := range into {
		what += fmt.Sprintf(". Then %d %s", f.Number, f.Window())
	}
	p.SetFont(figures, "", stepType)
	c.row(stepFrom, stepHigh, what, func(x, y float64) {
		p.SetXY(x, y-0.6)
		tickBox(p)
		p.SetXY(x+clockFrom, y)
		p.SetFont(figures, "B", stepType)
		p.CellFormat(clockWide, stepHigh, clock(t.Start), "", 0, "L", false, 0, "")
		p.CellFormat(numberWide, stepHigh, strconv.Itoa(t.Number), "", 0, "L", false, 0, "")
		if m := c.Plan.MixOf(s); m != nil {
			c.fill(m.Hex)
			p.Rect(x+dabFrom, y+0.4, dab, dab, "DF")
		}
		p.SetFont(figures, "", stepType)
	})
}

func clock(s order.Seconds) string { return fmt.Sprintf("%d:%02d", s/3600, s/60%60) }
