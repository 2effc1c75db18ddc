package steps

import (
	"errors"
	"fmt"
	"slices"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/order"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
)

// paint adds every wash of every area, go by go: first washes first, so that what
// runs together can meet in the order of the operations.
func (c *compiler) paint() error {
	c.done = make([][][]int, len(c.board.Areas))
	most, some := 0, false
	for i := range c.board.Areas {
		c.done[i] = make([][]int, len(c.board.Areas[i].Washes))
		if len(c.lays[i].groups) > 0 {
			most = max(most, len(c.done[i]))
		}
	}
	for k := range most {
		for i := range c.board.Areas {
			if len(c.lays[i].groups) == 0 || k >= len(c.done[i]) {
				continue
			}
			goes := c.lays[i].groupOf(k).goes
			for n, s := range goes {
				c.done[i][k] = append(c.done[i][k], c.wash(i, k, n, len(goes), s))
				some = true
			}
		}
	}
	switch {
	case some:
		return nil
	case len(c.notes) > 0:
		return errors.New(sentence(c.notes[0].What, c.notes[0].Way))
	}
	return ErrNothingToPaint
}

// A stroke is one go of a wash that is to be laid.
type stroke struct {
	card.Wash
	area, wash, nth int
	over            sweep
	base            *Step // the last that wetted the paper below, nil for none
	wet             bool  // it goes into that while it is wet
}

// wash adds one go of a wash, and what it waits for.
func (c *compiler) wash(i, k, n, of int, over sweep) int {
	st := stroke{Wash: c.board.Areas[i].Washes[k], area: i, wash: k, nth: n, over: over}
	st.base, st.wet = c.below(i, k, n)
	if st.base != nil && !st.wet {
		c.note(c.tooLate(i, k, st.base, over.cells()))
	}
	s := Step{Kind: Kind(st.Technique.Facts().Act), On: &On{i, k}, Go: letter(n, of), Cells: over.cells(), Together: c.together(&st)}
	s.Dur, s.Brush = c.work(st.Wash, k, s.Cells)
	if st.Technique.Tool() == card.PaintedBrush {
		s.Mix = c.mix(st.Wash)
	}
	f := c.film(&st)
	c.dries(&s, over, f)
	switch {
	case st.Technique.Facts().Lies == card.AsPen:
		s.Dry, s.Bone = c.penDries(), c.penDries()
	case st.wet && s.Water > 0:
		s.IntoWet = []int{st.base.ID}
	}
	s.Title, s.Detail, s.Caution = c.titled(&s, &st), c.detail(&s, &st), c.cautions(st.Wash)
	id := c.add(s, order.Op{Color: s.Mix, Light: c.light(s.Mix), Ground: k == 0 && c.lays[i].ground})
	c.heatable(id, over, f)
	c.waitBelow(&st, id)
	return id
}

// together is why touching cells of a go are wet at once.
func (c *compiler) together(st *stroke) Together {
	l := &c.lays[st.area]
	switch {
	case l.touches && l.groupOf(st.wash).spots(c.board.Areas[st.area].Area):
		return Spots
	case slices.ContainsFunc(st.over, func(p patch) bool { return len(p.cells) > 1 }):
		return l.together
	}
	return OnItsOwn
}

// film is the water that stands once a stroke is laid. What takes water away leaves
// none of its own; once the wash below is dry it has to wet that again.
func (c *compiler) film(st *stroke) film {
	f := filmOf(st.Technique)
	switch {
	case st.wet && f.left > 0:
		below := st.base.Water
		return f.into(film{below, below})
	case !st.wet && st.Technique.Tool() == card.CleanWater:
		return filmOf(card.Soften)
	}
	return f
}

// penDries is how long the ink of a pen takes, by the shelf.
func (c *compiler) penDries() time.Duration {
	pen, err := shelf.InkByID("pen")
	if err != nil {
		panic("steps: " + err.Error()) // the table holds it
	}
	return pen.AirDry
}

// light is how light a mix is, 0 for none.
func (c *compiler) light(mix int) int {
	if mix == 0 {
		return 0
	}
	return c.mixes[mix-1].light
}

// below is the step that last wetted the paper under the nth go of a wash, nil for
// none, and whether the wash goes into that while it is wet.
func (c *compiler) below(i, k, n int) (base *Step, wet bool) {
	if !c.board.Areas[i].Washes[k].IntoWet(k) {
		return nil, false
	}
	for j := k - 1; j >= c.lays[i].groupOf(k).from; j-- {
		if base := c.steps[c.done[i][j][n]]; base.Water > 0 { // a copy: more steps follow
			return &base, !c.dried[pair{base.ID, len(c.steps)}]
		}
	}
	return nil, false
}

// waitBelow lets a stroke, operation id, wait for all that lies below it on its cells.
func (c *compiler) waitBelow(st *stroke, id int) {
	washes, group := c.board.Areas[st.area].Washes, c.lays[st.area].groupOf(st.wash)
	above, below := layerOf(st.Technique), 0
	for j := range st.wash {
		for m, op := range c.done[st.area][j] {
			within := j >= group.from
			if within && m != st.nth || !within && !c.overlap(op, id) {
				continue // on other cells
			}
			below++
			switch {
			case st.wet && op == st.base.ID:
				c.tieWet(op, id)
			case st.wet:
				c.after(op, id, wait{until: atOnce, reason: "it is done first"})
			default:
				c.after(op, id, waitFor(above, layerOf(washes[j].Technique)))
			}
		}
	}
	if below > 0 {
		return
	}
	for _, line := range c.lines {
		c.after(line, id, waitFor(above, theLine))
	}
	c.after(c.taped, id, waitFor(handling, handling))
}

func (c *compiler) overlap(a, b int) bool {
	return slices.ContainsFunc(c.steps[a].Cells, func(id int) bool { return slices.Contains(c.steps[b].Cells, id) })
}

// tieWet lets an operation go into the wet coat of another: what is laid before the
// sheen is lost; what takes colour out once the gloss is, until it is dry.
func (c *compiler) tieWet(base, id int) {
	below, w := &c.steps[base], waitFor(intoWet, aWash)
	arc := order.Arc{From: base, To: id, Type: order.Wet, Max: order.Floor(below.Open)}
	if kind := c.steps[id].Kind; kind == Lift || kind == Blot {
		w = waitFor(outOfWet, aWash)
		arc.Max = max(0, order.Floor(below.Dry-c.steps[id].Dur)) // it has to be done by then
		if kind == Lift {
			arc.Clock = order.Ceil(below.Gloss)
		}
	}
	c.in.Arcs = append(c.in.Arcs, arc)
	c.reasons[pair{base, id}] = w
}

// titled words a step for its heading.
func (c *compiler) titled(s *Step, st *stroke) string {
	name := c.board.Areas[s.On.Area].Name
	if st.Technique.Covers() {
		name += fmt.Sprintf(": %s, %s", c.board.Card.Called.Mix(st.Mix), st.Strength)
		if st.wet {
			name += ", into the wet"
		}
	} else {
		name += ": " + c.board.Card.WashName(st.Wash)
	}
	if s.Go != "" {
		name += fmt.Sprintf(" (%s, %s)", s.Name(), wording.Count(len(s.Cells), "cell"))
	}
	return name
}

// detail says how a step is done.
func (c *compiler) detail(s *Step, st *stroke) string {
	how := st.Technique.How(st.wet)
	stencil, together := "", ""
	if c.board.OnStencil(s.On.Area) {
		stencil = "Hold the stencil down, straight down with the brush, from its edges inwards."
	}
	switch s.Together {
	case Loosely:
		together = "Loosely, in one sweep over the lines between its cells."
	case Joined:
		together = "Its cells may run into each other: go on while the last one shines."
	}
	return sentence(stencil, how, together)
}

// cautions collects what the pigments of a wash must not be used for.
func (c *compiler) cautions(w card.Wash) string {
	for _, p := range w.Mix {
		if pig, err := pigment.ByCI(p.CI); err == nil && pig.Caution != "" {
			return fmt.Sprintf("%s (%s): %s. "+paintCare, wording.Upper(c.board.Card.Called.Of(p.CI)), pig.CI, pig.Caution)
		}
	}
	return ""
}

// heatable gives an operation its times under the heat tool, where the maker's school
// lets it be heated: mixed, a wet patch that is not too large.
func (c *compiler) heatable(id int, over sweep, f film) {
	doc := c.board.Card
	largest, all := 0.0, 0.0
	for _, p := range over {
		largest, all = max(largest, p.mm2), all+p.mm2
	}
	if doc.Drying == card.Air || doc.Drying == card.Mixed && largest > 100*c.bench.HeatCM2 {
		return
	}
	on := c.steps[id].On
	t := doc.Areas[on.Area].Washes[on.Wash].Technique
	op, surface := &c.in.Ops[id], c.paper.Surface
	op.HeatDry = min(op.Dry, order.Ceil(surface.Heating(drying.TouchDry, f.left, all*t.Share())))
	op.HeatBone = min(op.Bone, order.Ceil(surface.Heating(drying.BoneDry, f.left, all*t.Share())))
}

// findGrounds marks the areas that are a background which had better come first:
// they reach the edge and everything on them is darker.
func (c *compiler) findGrounds() {
	light := make([]int, len(c.board.Areas))
	for i := range c.board.Areas {
		if a := &c.board.Areas[i]; len(a.Cells) > 0 && len(a.Washes) > 0 && len(a.Washes[0].Mix) > 0 {
			light[i] = c.tone(a.Washes[0]).light
		}
	}
	for i := range c.board.Areas {
		outside := slices.ContainsFunc(c.board.Areas[i].Cells, func(id int) bool { return c.board.Cells[id-1].Outside })
		lighter := false
		for j, l := range light {
			lighter = lighter || j != i && l >= light[i]
		}
		c.lays[i].ground = outside && !lighter
	}
}
