package card

import (
	"fmt"
	"slices"
	"strings"

	"chromaqua/core/fold"
	"chromaqua/core/length"
)

// SetFormat gives the card a standard front, landscape when turned, and a
// line image that lay inside the old panel keeps its place relative to the
// centre.
func (c *Card) SetFormat(id string, turned bool, side fold.Side) error {
	f, err := fold.FormatByID(id)
	if err != nil {
		return err
	}
	front := f.Front
	if turned {
		front = front.Turned()
	}
	c.setFront(Base{Format: id, Front: front, Fold: side})
	return nil
}

// SetFreeFront gives the card a front of any size.
func (c *Card) SetFreeFront(front length.Size, side fold.Side) {
	c.setFront(Base{Format: Free, Front: front, Fold: side})
}

func (c *Card) setFront(b Base) {
	c.recentre(func() { c.Base = b })
}

// SetMat changes border and mat; the line keeps its place on the panel's
// centre.
func (c *Card) SetMat(m Mat) {
	c.recentre(func() { c.Mat = m })
}

// recentre runs change and moves the line so that it keeps its distance from
// the panel's centre.
func (c *Card) recentre(change func()) {
	before := c.Panel()
	change()
	after := c.Panel()
	if c.Line != nil {
		c.Line.X += (after.W - before.W) / 2
		c.Line.Y += (after.H - before.H) / 2
	}
}

// Place puts a new line image in the middle of the panel, as wide as given.
func (c *Card) Place(l Line) {
	c.Line = &l
	c.Centre()
}

// Centre moves the line to the middle of the panel.
func (c *Card) Centre() {
	p := c.Panel()
	c.Line.X, c.Line.Y = (p.W-c.Line.Width)/2, (p.H-c.Line.Height())/2
}

// AddArea appends an empty area and returns its id, the first free "a<n>".
func (c *Card) AddArea(name string) string {
	n := len(c.Areas) + 1
	id := fmt.Sprintf("a%d", n)
	for slices.ContainsFunc(c.Areas, func(a Area) bool { return a.ID == id }) {
		n++
		id = fmt.Sprintf("a%d", n)
	}
	if strings.TrimSpace(name) == "" {
		name = fmt.Sprintf("Area %d", n)
	}
	c.Areas = append(c.Areas, Area{ID: id, Name: name, Cells: []Spot{}, Washes: []Wash{}})
	return id
}

// RemoveArea takes an area and its joins away; its cells become free.
func (c *Card) RemoveArea(id string) {
	c.Areas = slices.DeleteFunc(c.Areas, func(a Area) bool { return a.ID == id })
	c.Joins = slices.DeleteFunc(c.Joins, func(j [2]string) bool { return j[0] == id || j[1] == id })
}

// SetJoin says whether areas a and b may run into each other.
func (c *Card) SetJoin(a, b string, on bool) {
	c.Joins = slices.DeleteFunc(c.Joins, func(j [2]string) bool { return j == [2]string{a, b} || j == [2]string{b, a} })
	if on {
		c.Joins = append(c.Joins, [2]string{a, b})
	}
}
