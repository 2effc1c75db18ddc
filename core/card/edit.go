package card

import (
	"errors"
	"fmt"
	"slices"
	"strconv"
	"strings"

	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/nest"
	"chromaqua/core/pigment"
	"chromaqua/core/school"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// SetFormat gives the card a standard front, landscape when turned.
func (c *Card) SetFormat(id string, turned bool) error {
	f, err := fold.FormatByID(id)
	if err != nil {
		return err
	}
	front := f.Front
	if turned {
		front = front.Turned()
	}
	c.recentre(func() { c.Base.Format, c.Base.Front, c.Base.Across = id, front, turned })
	c.foldAsItLies()
	return nil
}

// setFront gives the front a size; a side of zero follows. A size that is
// standard gets its name.
func (c *Card) setFront(front length.Size) {
	c.Base.Front, c.Base.Format = front, ""
	if f, ok := fold.FormatOf(front); ok {
		c.Base.Format = f.ID
	} else if front.W != 0 || front.H != 0 {
		c.Base.Format = Free
	}
	if front.W != 0 && front.H != 0 {
		c.Base.Across = front.W > front.H
	}
	c.foldAsItLies()
}

var errNoRing = errors.New("that layer is gone: it was removed or undone meanwhile; nothing was changed")

// ring returns where a ring is kept, and its place from the outside in.
func (c *Card) ring(id string) (sized, int, error) {
	all := c.sizes()
	i := slices.IndexFunc(all, func(s sized) bool { return s.id == id })
	if i < 0 {
		return sized{}, 0, errNoRing
	}
	return all[i], i, nil
}

// Give gives a ring its size; a side of zero follows from the others.
func (c *Card) Give(id string, size length.Size) error {
	r, _, err := c.ring(id)
	if err != nil {
		return err
	}
	c.recentre(func() { c.give(r, size) })
	return nil
}

func (c *Card) give(r sized, size length.Size) {
	if r.id == FrontRing {
		c.setFront(size)
	} else {
		*r.size = size
	}
}

// Show gives what shows round a ring on one side, or on all when side is "";
// nil lets it follow.
func (c *Card) Show(id string, side nest.Side, l *length.Length) error {
	r, _, err := c.ring(id)
	if err != nil {
		return err
	}
	if r.round == nil {
		return errors.New("nothing shows round the front")
	}
	if side == "" {
		c.recentre(func() { *r.round = nest.Margin{Left: l, Right: l, Top: l, Bottom: l} })
		return nil
	}
	to := r.round.Of(side)
	if to == nil {
		return fmt.Errorf("%q is no side; use left, right, top or bottom", string(side))
	}
	c.recentre(func() { *to = l })
	return nil
}

// Drag moves one edge of a ring outwards by a length, as a hand on the picture
// does, and keeps its opposite edge. A ring that the others are measured from
// grows or shrinks; any other gives way to what is then shown round it.
func (c *Card) Drag(id string, side nest.Side, by length.Length) error {
	layout, err := c.Layout()
	if err != nil {
		return err
	}
	r, i, err := c.ring(id)
	if err != nil {
		return err
	}
	if (&nest.Margin{}).Of(side) == nil {
		return fmt.Errorf("%q is no side; use left, right, top or bottom", string(side))
	}
	across := side == nest.Left || side == nest.Right
	given := func(k int) bool {
		if across {
			return layout[k].GivenW
		}
		return layout[k].GivenH
	}
	outside := slices.ContainsFunc(layout[:i], func(o Ring) bool { return across && o.GivenW || !across && o.GivenH }) ||
		i > 0 && layout[0].From == theEnvelope
	c.recentre(func() {
		size := *r.size
		switch {
		case given(i) && !outside, i == 0 && !slices.ContainsFunc(c.sizes()[1:], func(s sized) bool { return s.size.W != 0 || s.size.H != 0 }):
			if across {
				size.W = layout[i].Size.W + by
			} else {
				size.H = layout[i].Size.H + by
			}
			c.give(r, size)
		case i > 0 && outside:
			if across {
				size.W = 0
			} else {
				size.H = 0
			}
			c.give(r, size)
			shown := layout[i].Round.Of(side) - by
			*r.round.Of(side) = &shown
		default: // it follows from what lies in it
			inner := c.sizes()[i+1]
			shown := layout[i].Margin.Of(side) + by
			*inner.round.Of(side) = &shown
		}
	})
	return nil
}

// AddLayer puts a mat or frame on top of the others, under the panel.
func (c *Card) AddLayer(kind LayerKind) error {
	if len(c.Layers) >= MaxLayers {
		return fmt.Errorf("%d layers are the most a card takes", MaxLayers)
	}
	c.recentre(func() { c.Layers = append(c.Layers, Layer{Kind: kind, Paper: shelf.MatCardstock}) })
	return nil
}

// RemoveLayer takes a mat or frame off.
func (c *Card) RemoveLayer(i int) error {
	if i < 0 || i >= len(c.Layers) {
		return errNoRing
	}
	c.recentre(func() { c.Layers = slices.Delete(c.Layers, i, i+1) })
	return nil
}

// SetDie cuts a ring with the nearest die of a set; nil cuts it plainly.
func (c *Card) SetDie(id string, set *DieSet) error {
	if id == PanelRing {
		c.recentre(func() { c.Panel.Die = set })
		return nil
	}
	for i := range c.Layers {
		if id == layerRing(i) {
			c.recentre(func() { c.Layers[i].Die = set })
			return nil
		}
	}
	return errNoRing
}

// Change lets f change what the layout depends on; the line keeps its place.
func (c *Card) Change(f func()) { c.recentre(f) }

// recentre runs change and moves the images so that they keep their distance from
// the panel's centre, or so that the one in front lies where the stamp does.
func (c *Card) recentre(change func()) {
	before := c.PanelSize()
	change()
	layout, err := c.Layout()
	if c.Line() == nil || err != nil {
		return // a card that cannot be is not stored
	}
	after := layout.Of(PanelRing)
	right, down := (after.Size.W-before.W)/2, (after.Size.H-before.H)/2
	if stamp := layout.Of(StampRing); stamp != nil {
		right = stamp.Round.Left + (stamp.Size.W-c.Line().Width)/2 - c.Line().X
		down = stamp.Round.Top + (stamp.Size.H-c.Line().Height())/2 - c.Line().Y
	}
	for i := range c.Images {
		c.Images[i].X, c.Images[i].Y = c.Images[i].X+right, c.Images[i].Y+down
	}
}

// AddArea appends an empty area and returns its id, the first free "a<n>".
func (c *Card) AddArea(name string) string {
	id := c.freeID("a", len(c.Areas))
	if strings.TrimSpace(name) == "" {
		name = "Area " + strings.TrimPrefix(id, "a")
	}
	c.Areas = append(c.Areas, Area{ID: id, Name: name, Loose: c.Schools.Lines == school.LooseLines, Cells: []Spot{}, Washes: []Wash{}})
	return id
}

// RemoveArea takes an area and its joins away; its cells become free.
func (c *Card) RemoveArea(id string) {
	c.Areas = slices.DeleteFunc(c.Areas, func(a Area) bool { return a.ID == id })
	c.Joins = slices.DeleteFunc(c.Joins, func(j [2]string) bool { return j[0] == id || j[1] == id })
	c.forget(id)
}

// Silence says whether a watch-out is wanted on this card.
func (c *Card) Silence(rule string, on bool) {
	c.Silenced = slices.DeleteFunc(c.Silenced, func(id string) bool { return id == rule })
	if on {
		c.Silenced = append(c.Silenced, rule)
	}
}

// SetJoin says whether areas a and b may run into each other.
func (c *Card) SetJoin(a, b string, on bool) {
	c.Joins = slices.DeleteFunc(c.Joins, func(j [2]string) bool { return j == [2]string{a, b} || j == [2]string{b, a} })
	if on {
		c.Joins = append(c.Joins, [2]string{a, b})
	}
}

// AddWash puts another wash of the same paint on the area, a glaze, since what follows
// usually deepens what is there.
func (a *Area) AddWash() error {
	below, mixed := a.paintBelow(len(a.Washes))
	if !mixed {
		return fmt.Errorf("nothing is mixed for %q yet; dip into a paint, that makes its first wash", a.Name)
	}
	w := a.NextWash()
	w.Mix = below.Mix
	return a.Lay(w)
}

// NextWash is a wash that would come over the others, nothing mixed for it yet: flat, or
// a glaze, as strong as the one below, or as tea.
func (a *Area) NextWash() Wash {
	below, _ := a.paintBelow(len(a.Washes))
	if len(a.Washes) == 0 {
		return Wash{Technique: technique.Flat, Strength: below.Strength}
	}
	return Wash{Technique: technique.Glaze, Strength: below.Strength}
}

// Lay lays a wash over the others.
func (a *Area) Lay(w Wash) error {
	if a.White {
		return fmt.Errorf("%q is kept paper white; let it be painted first", a.Name)
	}
	if len(a.Washes) >= MaxWashes {
		return fmt.Errorf("%q has %d washes; paper takes no more", a.Name, MaxWashes)
	}
	a.Washes = append(a.Washes, w)
	return nil
}

// paintBelow is mix and strength of the last wash before the nth that has them; not
// mixed, ultramarine as tea, when there is none.
func (a *Area) paintBelow(n int) (w Wash, mixed bool) {
	for _, w := range slices.Backward(a.Washes[:n]) {
		if len(w.Mix) > 0 {
			return Wash{Strength: w.Strength, Mix: slices.Clone(w.Mix)}, true
		}
	}
	return Wash{Strength: pigment.Tea, Mix: []Part{{CI: "PB29", Parts: 1}}}, false
}

// LastCover is the last wash that covers, by its index, when one does.
func (a *Area) LastCover() (k int, ok bool) {
	for k, w := range slices.Backward(a.Washes) {
		if w.Technique.Covers() {
			return k, true
		}
	}
	return 0, false
}

// wetBelow reports whether the nth wash comes over one that water works: one that covers,
// colour out of a line, or pencil that dissolves.
func (a *Area) wetBelow(n int) bool {
	for _, w := range slices.Backward(a.Washes[:n]) {
		if !w.Technique.NeedsWet() {
			return w.Technique.Covers() || w.Technique.Facts().Pulls || w.Technique.Facts().Lies == technique.AsCrayon
		}
	}
	return false
}

// LayAs changes the technique of the nth wash. Clean water loses its mix, and what
// had none gets that of the wash below; a highlight starts as opaque white and a
// pen as black.
func (a *Area) LayAs(n int, t technique.Kind) error {
	w, err := a.Wash(n)
	if err != nil {
		return err
	}
	switch {
	case t == w.Technique:
	case t.Tool() == technique.CleanWater:
		w.Mix, w.Strength = nil, ""
	case t.Facts().Starts.CI != "":
		start := Begun(t)
		w.Mix, w.Strength = start.Mix, start.Strength
	case len(w.Mix) == 0:
		below, _ := a.paintBelow(n)
		w.Mix, w.Strength = below.Mix, below.Strength
	}
	w.Technique = t
	w.OverDry = w.OverDry && t.IntoWet() && t.Tool() != technique.CleanWater
	return nil
}

// PaintAs gives the area the washes of another.
func (a *Area) PaintAs(other *Area) {
	a.Washes = slices.Clone(other.Washes)
	for i := range a.Washes {
		a.Washes[i].Mix = slices.Clone(a.Washes[i].Mix)
	}
	a.White = other.White
}

// PaintedAlike reports whether two areas have the same washes.
func PaintedAlike(a, b *Area) bool {
	return slices.EqualFunc(a.Washes, b.Washes, func(x, y Wash) bool {
		return x.Technique == y.Technique && x.Strength == y.Strength && x.OverDry == y.OverDry && slices.Equal(x.Mix, y.Mix)
	})
}

// Wash returns the area's nth wash, from 0.
func (a *Area) Wash(n int) (*Wash, error) {
	if n < 0 || n >= len(a.Washes) {
		return nil, errors.New("that wash is gone: it was removed or undone meanwhile; nothing was changed")
	}
	return &a.Washes[n], nil
}

// MoveWash moves the area's nth wash one place down the order they are laid in, or
// up.
func (a *Area) MoveWash(n int, later bool) error {
	to := Beside(n, later)
	if _, err := a.Wash(n); err != nil {
		return err
	}
	if to < 0 || to >= len(a.Washes) {
		return errors.New("it is the first or the last wash already; nothing was changed")
	}
	a.Washes[n], a.Washes[to] = a.Washes[to], a.Washes[n]
	return nil
}

// Beside is the place of the wash before the nth, or of the one after it.
func Beside(n int, later bool) int {
	if later {
		return n + 1
	}
	return n - 1
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

// ReadMix reads a mix as [WriteMix] writes it; what it says is checked with the
// card.
func ReadMix(text string) (out []Part, err error) {
	for _, f := range strings.Fields(text) {
		ci, n, ok := strings.Cut(f, "*")
		parts, err := strconv.Atoi(n)
		if !ok || err != nil {
			return nil, fmt.Errorf("%.40q is no part of a mix; write PB29*2 PV19*1", f)
		}
		out = append(out, Part{CI: ci, Parts: parts})
	}
	return out, nil
}

// WriteMix writes a mix for a form: "PB29*2 PV19*1".
func WriteMix(parts []Part) string {
	var out []string
	for _, p := range parts {
		out = append(out, fmt.Sprintf("%s*%d", p.CI, p.Parts))
	}
	return strings.Join(out, " ")
}

// MixCodes prints a mix by Colour Index names, "PB29 + PV19 2:1", which name it whatever
// its paints are called.
func MixCodes(parts []Part) string { return mixOf(parts, func(ci string) string { return ci }) }

func mixOf(parts []Part, name func(ci string) string) string {
	switch len(parts) {
	case 0:
		return "clean water"
	case 1:
		return name(parts[0].CI)
	}
	var names, ratio []string
	for _, p := range parts {
		names = append(names, name(p.CI))
		ratio = append(ratio, fmt.Sprint(p.Parts))
	}
	return strings.Join(names, " + ") + " " + strings.Join(ratio, ":")
}

// Painted reports whether anything is painted on it.
func (c *Card) Painted() bool {
	return slices.ContainsFunc(c.Areas, func(a Area) bool { return len(a.Washes) > 0 })
}
