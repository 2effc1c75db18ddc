package steps

import (
	"fmt"
	"math"
	"slices"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/mask"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/school"
	"chromaqua/core/wording"
)

// usualPace is the pace at which times of masks are told.
const usualPace = 2.0

// A covered is a mask while it is planned.
type covered struct {
	*panel.Reserve
	on, off int // operations; off is -1 for what stays
	stage   int // of the last wash that goes over it

	over, before, after []int // operations that paint over it, below it, and once it is off
}

// masks adds what is laid on the piece to keep it white, taken off again, and the white that
// is put on after.
func (c *task) masks() {
	for i := range c.board.Reserves {
		r := &c.board.Reserves[i]
		switch way := r.Way.Or(); {
		case len(r.Parts) == 0:
		case way == mask.After:
			c.whites = append(c.whites, r)
		case way.Facts().Lays:
			c.layMask(r)
		}
	}
}

// maskTimes are how long a mask keeps the hands, and dries.
func (c *task) maskTimes(r *panel.Reserve, s mask.Shape) mask.Times {
	t := r.Way.Times(s)
	if r.Own != nil && r.Own.AirDry > 0 {
		t.Dry = r.Own.AirDry
	}
	hands := func(d time.Duration) time.Duration {
		return time.Duration(c.bench.Pace / usualPace * float64(d)).Round(time.Second)
	}
	t.Lay, t.Off = max(leastWork, hands(t.Lay)), max(leastWork, hands(t.Off))
	return t
}

// layMask adds one mask: it is laid once what lies below is dry, painted over once it is dry
// itself, and off before anything else comes there.
func (c *task) layMask(r *panel.Reserve) {
	over, before, after := c.aboutMask(r)
	if len(over) == 0 {
		return // it keeps nothing off
	}
	f, kept := r.Way.Facts(), c.keeping(r)
	t := c.maskTimes(r, kept.Shape)
	lay := Step{
		Kind: Mask, Title: wording.Upper(fmt.Sprintf("%s%s on %s", c.whose(), maskName(r), r.Name)), Detail: f.Lay, Caution: f.Care,
		Dur: t.Lay, Dry: t.Dry, Bone: t.Dry, Deed: card.Ref(r.ID), Cells: slices.Clone(r.Parts), Lifts: f.Once, Kept: kept,
	}
	switch r.Way {
	case mask.Resist:
		lay.Caution = HeatCaution
	case mask.Fluid, mask.Pen, mask.Spatter:
		lay.Detail = sentence(lay.Detail, fmt.Sprintf("Leave it to dry by itself, some %.0f minutes.", t.Dry.Minutes()))
		if c.ways.MaskHeat != school.LowHeat {
			lay.Detail = sentence(lay.Detail, "No heat tool until it is off.")
		}
	}
	if s := kept.Shape; r.Way == mask.Tape && s.EdgeMM-s.Straight > mask.LeastTape {
		lay.Detail = sentence(lay.Detail, fmt.Sprintf("Where it is not straight, %s of it, trim the tape round it with a light blade, or cut in along there with the brush.", length.FromMM(s.EdgeMM-s.Straight).Near(c.doc.Unit)))
	}
	kind := order.Kind("cover") // what heat does not harm
	if !f.Heat {
		kind = order.Mask
	}
	m := covered{Reserve: r, on: c.add(lay, order.Op{Kind: kind}), off: -1}
	above := covering
	for _, line := range c.lines {
		c.after(line, m.on, waitFor(above, theLine))
	}
	for _, id := range before {
		c.after(id, m.on, waitFor(above, c.handledAs(&c.steps[id])))
	}
	c.after(c.taped, m.on, waitFor(handling, handling))
	for _, id := range over {
		w := waitFor(aWash, laidMask)
		if t.Dry > 0 {
			w = waitFor(aWash, wetMask)
		}
		c.after(m.on, id, w)
		m.stage = max(m.stage, c.stageOf(id))
	}
	if f.Stays {
		for _, id := range after {
			c.after(m.on, id, waitFor(aWash, laidMask))
		}
	} else {
		m.off = c.uncover(&m, t.Off, over)
		for _, id := range after {
			c.after(m.off, id, waitFor(aWash, underMask))
		}
	}
	m.over, m.before, m.after = over, before, after
	c.covered = append(c.covered, m)
}

// aboutMask are the operations that go over a mask, that lie below it, and that come once it
// is off. What the stack has below a wash that goes over it lies below it too; a wash that
// has to come before that is not kept off, which is told.
func (c *task) aboutMask(r *panel.Reserve) (over, before, after []int) {
	under := c.board.LaidUnder(r)
	var there []int // what else is painted on it
	last := 0
	for id := range c.steps {
		s := &c.steps[id]
		switch {
		case !c.mine(s):
		case slices.Contains(r.Grounds, s.On.Area) && c.board.Within(r, s.On.Area, max(0, s.On.Wash)):
			over, last = append(over, id), max(last, c.stageOf(id))
		case c.board.Overlap(s.Cells, r.Parts):
			there = append(there, id)
		}
	}
	first := c.precede(over)
	for _, id := range there {
		s := &c.steps[id]
		begun := c.lays[s.On.Area].groupOf(max(0, s.On.Wash)).from // what goes into the wet goes with what it goes into
		if under(s.On.Area, begun) || first[id] || c.stageOf(id) < last {
			before = append(before, id)
		} else {
			after = append(after, id)
		}
	}
	if r.Way.Facts().Stays { // what it keeps is painted first, but for what comes after what it keeps off
		all := after
		after = nil
		for _, id := range all {
			comes := c.precede([]int{id})
			if slices.ContainsFunc(over, func(o int) bool { return comes[o] || c.stageOf(o) < c.stageOf(id) }) {
				after = append(after, id)
			} else {
				before = append(before, id)
			}
		}
	}
	first, last = c.precede(before), 0
	after = slices.DeleteFunc(after, func(id int) bool { // what has to come before what lies below lies below too
		if first[id] {
			before = append(before, id)
		}
		return first[id]
	})
	for _, id := range before {
		last = max(last, c.stageOf(id))
	}
	over = slices.DeleteFunc(over, func(id int) bool {
		late := first[id] || c.stageOf(id) < last
		if late {
			c.note(c.unkept(r, c.steps[id].On.Area))
			before = append(before, id)
		}
		return late
	})
	return over, before, after
}

// stageOf is when an operation that paints is done.
func (c *task) stageOf(id int) int {
	return c.stage(c.steps[id].On.Area, max(0, c.steps[id].On.Wash))
}

// precede marks what has to be done before one of some operations: what comes before one that
// is wet together with others comes before all of them.
func (c *task) precede(some []int) map[int]bool {
	from, together := map[int][]int{}, c.blocks()
	for _, a := range c.in.Arcs {
		from[a.To] = append(from[a.To], a.From)
	}
	out := map[int]bool{}
	var todo []int
	visit := func(id int) { todo = append(append(todo, id), together[id]...) }
	for _, id := range some {
		visit(id)
	}
	for len(todo) > 0 {
		id := todo[len(todo)-1]
		todo = todo[:len(todo)-1]
		for _, f := range from[id] {
			if !out[f] && !slices.Contains(together[id], f) {
				out[f] = true
				for _, o := range together[f] {
					out[o] = true
				}
				visit(f)
			}
		}
	}
	return out
}

// maskBetween reports whether a mask is laid or comes off between two washes of an area, so
// that the one cannot go into the other.
func (c *task) maskBetween(area, wash, then int) bool {
	return slices.ContainsFunc(c.board.Reserves, func(r panel.Reserve) bool {
		return r.Way.Or().Facts().Lays && slices.Contains(r.Grounds, area) && c.board.Within(&r, area, wash) != c.board.Within(&r, area, then)
	})
}

// uncover adds the taking off of a mask.
func (c *task) uncover(m *covered, dur time.Duration, over []int) int {
	f := m.Way.Facts()
	off := Step{
		Kind: Unmask, Title: wording.Upper(fmt.Sprintf("%stake the %s off %s", c.whose(), maskName(m.Reserve), m.Name)), Detail: f.Off,
		Dur: dur, Deed: card.Ref(m.ID), Cells: slices.Clone(m.Parts), Lifts: f.Once,
	}
	kind := order.Kind("uncover")
	if !f.Heat {
		kind = order.Unmask
	}
	id := c.add(off, order.Op{Kind: kind})
	c.after(m.on, id, waitFor(handling, handling))
	for _, o := range over {
		w := waitFor(handling, c.handledAs(&c.steps[o]))
		if f.Once {
			w = waitFor(lifting, aWash)
		}
		c.after(o, id, w)
	}
	return id
}

// uncovered lets an operation wait until masks are off whose last wash is of an earlier
// stage.
func (c *task) uncovered(id, before int) {
	for _, m := range c.covered {
		last := m.off
		if last < 0 { // it stays
			last = m.on
		}
		if m.stage < before && last != id {
			c.after(last, id, waitFor(handling, handling))
		}
	}
	for _, o := range c.opaques {
		if o < id && before == math.MaxInt {
			c.after(o, id, waitFor(handling, anOpaque))
		}
	}
}

// MaskSteps are the steps that lay something that is kept by a mask, and take it off, by their
// ids; below 0 where there are none. What stays is never taken off.
func (p *Plan) MaskSteps(reserve string) (on, off int) {
	on, off = -1, -1
	for i := range p.Steps {
		switch s := &p.Steps[i]; {
		case s.Deed != card.Ref(reserve) || s.Item > 0:
		case s.Kind == Mask:
			on = s.ID
		case s.Kind == Unmask:
			off = s.ID
		}
	}
	return on, off
}

// Before reports whether one step always comes before another, whatever the order.
func (p *Plan) Before(a, b int) bool {
	then := map[int][]int{}
	for _, arc := range p.Instance.Arcs {
		then[arc.From] = append(then[arc.From], arc.To)
	}
	seen := map[int]bool{}
	for todo := []int{a}; len(todo) > 0; {
		id := todo[len(todo)-1]
		todo = todo[:len(todo)-1]
		for _, to := range then[id] {
			if to == b {
				return true
			}
			if !seen[to] {
				seen[to] = true
				todo = append(todo, to)
			}
		}
	}
	return false
}

// keepPowderOff lets powder be melted once fluid is off, or before it is laid, wherever one
// of the two can be: it clings to what is tacky, and its heat bonds fluid to the paper.
func (c *task) keepPowderOff() {
	if c.ways.MaskHeat == school.LowHeat {
		return
	}
	for _, m := range c.covered {
		if !m.Way.Facts().Soft || m.off < 0 {
			continue
		}
		for id := range c.steps {
			s := &c.steps[id]
			if s.Piece != c.index || s.Item != c.item || !melts(s, c.board) {
				continue
			}
			all := append(c.tiedTo(id), id)
			switch first := c.precede([]int{m.off}); {
			case slices.ContainsFunc(all, func(o int) bool { return c.precede([]int{m.on})[o] }): // it is done by then
				c.after(id, m.on, waitFor(covering, thePowder))
			case !slices.ContainsFunc(all, func(o int) bool { return first[o] }):
				c.after(m.off, all[0], waitFor(thePowder, underMask))
			case !slices.ContainsFunc(all, func(o int) bool { return c.precede([]int{o})[m.on] }):
				c.after(id, m.on, waitFor(covering, thePowder))
			}
		}
	}
}

// melts reports whether powder is melted in a step on a board.
func melts(s *Step, b *panel.Board) bool {
	if s.Kind != Mask {
		return s.Kind == Emboss
	}
	r, err := b.Card.ReserveByID(string(s.Deed))
	return err == nil && r.Way == mask.Resist
}

// Melts reports whether powder is melted in a step.
func (p *Plan) Melts(s *Step) bool { return melts(s, p.Pieces[s.Piece].Board) }

// keepStampsOff lets an image that is put on over paint come once a mask that lies there is
// off, or the mask be laid once its ink is dry.
func (c *task) keepStampsOff() {
	for _, m := range c.covered {
		for i := range c.board.Card.Images {
			id, put := c.inked[i]
			if !put || slices.Contains(c.lines, id) || !c.board.InkOver(i, m.Parts) {
				continue
			}
			switch {
			case m.off >= 0 && !c.precede([]int{m.off})[id]:
				c.after(m.off, id, waitFor(aWash, underMask))
			case !c.precede([]int{id})[m.on]:
				c.after(id, m.on, waitFor(covering, theLine))
			}
		}
	}
}

// tiedTo are the operations that one has to follow while they are wet, first of all.
func (c *compiler) tiedTo(id int) (out []int) {
	for _, a := range c.in.Arcs {
		if a.To == id && a.Type == order.Wet {
			out = append(append(c.tiedTo(a.From), a.From), out...)
		}
	}
	return out
}
