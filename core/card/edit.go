package card

import (
	"errors"
	"fmt"
	"slices"
	"strings"

	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/pigment"
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
	c.setFront(Base{Format: id, Front: front, Fold: side, Paper: c.Base.Paper})
	return nil
}

// SetFreeFront gives the card a front of any size.
func (c *Card) SetFreeFront(front length.Size, side fold.Side) {
	c.setFront(Base{Format: Free, Front: front, Fold: side, Paper: c.Base.Paper})
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

// AddWash puts another wash on the area: flat at first, a glaze of the same
// mix after that, since what follows usually deepens what is there.
func (a *Area) AddWash() error {
	if len(a.Washes) >= MaxWashes {
		return fmt.Errorf("%q has %d washes; paper takes no more", a.Name, MaxWashes)
	}
	w := Wash{Technique: Flat, Strength: pigment.Tea, Mix: []Part{{CI: "PB29", Parts: 1}}}
	if n := len(a.Washes); n > 0 {
		last := a.Washes[n-1]
		w = Wash{Technique: Glaze, Strength: last.Strength, Mix: slices.Clone(last.Mix)}
	}
	a.Washes = append(a.Washes, w)
	return nil
}

// Wash returns the area's nth wash, from 0.
func (a *Area) Wash(n int) (*Wash, error) {
	if n < 0 || n >= len(a.Washes) {
		return nil, errors.New("that wash is gone: it was removed or undone meanwhile; nothing was changed")
	}
	return &a.Washes[n], nil
}

// Dip adds n parts of a paint to the mix, or takes them out when n is
// negative. The last paint cannot be taken out.
func (w *Wash) Dip(ci string, n int) error {
	i := slices.IndexFunc(w.Mix, func(p Part) bool { return p.CI == ci })
	switch {
	case i < 0 && n <= 0:
		return nil
	case i < 0 && len(w.Mix) == MaxPaints:
		return fmt.Errorf("a mix takes at most %d paints; more turn to mud. Take one out first", MaxPaints)
	case i < 0:
		w.Mix = append(w.Mix, Part{CI: ci, Parts: n})
		return nil
	case w.Mix[i].Parts+n > MaxParts:
		return fmt.Errorf("%d parts are the most a mix counts", MaxParts)
	}
	if w.Mix[i].Parts += n; w.Mix[i].Parts > 0 {
		return nil
	}
	if len(w.Mix) == 1 {
		w.Mix[i].Parts = 1
		return errors.New("a wash needs at least one paint; remove the wash instead, or add the other paint first")
	}
	w.Mix = slices.Delete(w.Mix, i, i+1)
	return nil
}

// MixName prints a mix: "PB29", "PB29 + PV19 2:1".
func MixName(parts []Part) string {
	if len(parts) == 1 {
		return parts[0].CI
	}
	var names, ratio []string
	for _, p := range parts {
		names = append(names, p.CI)
		ratio = append(ratio, fmt.Sprint(p.Parts))
	}
	return strings.Join(names, " + ") + " " + strings.Join(ratio, ":")
}
