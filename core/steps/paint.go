package steps

import (
	"fmt"
	"slices"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/learned"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/school"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
	"chromaqua/core/wording"
)

// paint adds every wash of every area, go by go: first washes first, so that what
// runs together can meet in the order of the operations.
func (c *task) paint() {
	c.done, c.wets = make([][][]int, len(c.board.Areas)), make([][]int, len(c.board.Areas))
	most := 0
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
				if k == 0 && c.watered(i) {
					c.wets[i] = append(c.wets[i], c.wetting(i, n, len(goes), s))
				}
				c.done[i][k] = append(c.done[i][k], c.wash(i, k, n, len(goes), s))
				c.painted = true
			}
		}
	}
}

// zoneOf is the first zone of an area, nil when it has none.
func (c *task) zoneOf(area int) *card.Zone {
	if zones := c.board.Areas[area].Area.Zones; len(zones) > 0 {
		if z, err := c.board.Card.ZoneByID(zones[0]); err == nil {
			return z
		}
	}
	return nil
}

// watered reports whether clean water is drawn to the edge of an area's zone before its
// first wash.
func (c *task) watered(area int) bool {
	z := c.zoneOf(area)
	return z != nil && z.Water && c.board.Areas[area].Washes[0].Technique.Covers()
}

// wetting adds clean water drawn to the edge of a zone.
func (c *task) wetting(i, n, of int, over sweep) int {
	name := c.board.Areas[i].Name
	f, how := c.wetted()
	s := Step{Kind: Wet, Title: wording.Upper(c.whose() + "wet " + name + " with clean water"), Detail: how, On: &On{i, Wetting}, Deed: card.WashRef(c.board.Areas[i].ID, 0), Go: letter(n, of), Cells: over.cells()}
	if c.split(s.Cells) {
		s.Together = Zoned
	}
	s.Dur, s.Tools = c.takesOf(card.Wash{Technique: technique.Flat}, i, 0, s.Cells)
	c.dries(&s, over, f)
	id := c.add(s, order.Op{})
	c.heatableAs(id, technique.Flat, over, f)
	for _, line := range c.lines {
		c.after(line, id, waitFor(aWash, theLine))
	}
	c.after(c.taped, id, waitFor(handling, handling))
	return id
}

// overlaps lets paint of one area wait for that of others that lies below it in the same
// place.
func (c *task) overlaps() {
	if !c.board.Overlaid() {
		return
	}
	on := map[int][]int{} // operations by patch
	var patches []int
	for id := range c.steps {
		s := &c.steps[id]
		if s.Piece != c.index || s.Item != c.item || s.On == nil {
			continue
		}
		for _, p := range c.board.Reaches(s.On.Area, s.Cells) {
			if on[p] == nil {
				patches = append(patches, p)
			}
			on[p] = append(on[p], id)
		}
	}
	seen := map[pair]bool{}
	for _, p := range patches {
		for _, x := range on[p] {
			for _, y := range on[p] {
				a, b := &c.steps[x], &c.steps[y]
				if k := (pair{x, y}); a.On.Area != b.On.Area && !seen[k] && c.board.LiesOver(b.On.Area, max(0, b.On.Wash), a.On.Area, max(0, a.On.Wash)) {
					seen[k] = true
					c.after(x, y, waitFor(c.handledAs(b), c.handledAs(a)))
				}
			}
		}
	}
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
func (c *task) wash(i, k, n, of int, over sweep) int {
	st := stroke{Wash: c.board.Areas[i].Washes[k], area: i, wash: k, nth: n, over: over}
	st.base, st.wet = c.below(i, k, n)
	if st.base != nil && !st.wet {
		c.note(c.tooLate(i, k, st.base, over.cells()))
	}
	s := Step{Kind: Kind(st.Technique.Facts().Act), On: &On{i, k}, Deed: card.WashRef(c.board.Areas[i].ID, k), Go: letter(n, of), Cells: over.cells(), Together: c.together(&st)}
	s.Dur, s.Tools = c.takesOf(st.Wash, i, k, s.Cells)
	if st.Technique.Tool() == technique.PaintedBrush {
		s.Mix = c.mix(st.Wash)
	}
	f := c.film(&st)
	c.dries(&s, over, f)
	switch {
	case st.Technique.Facts().Lies == technique.AsPen, st.Technique.Facts().Lies == technique.AsRubbed:
		s.Dry, s.Bone = c.penDries(), c.penDries()
	case st.wet && s.Water > 0:
		s.IntoWet = []int{st.base.ID}
	}
	s.plain, s.Detail, s.Caution = c.titled(&s, &st), c.detail(&s, &st), c.cautions(st.Wash)
	s.lettered(s.Go)
	id := c.add(s, order.Op{Color: s.Mix, Light: c.lightness(s.Mix), Ground: k == 0 && c.lays[i].ground && c.ways.Background != school.GroundLast})
	c.heatableAs(id, st.Technique, over, f)
	c.waitBelow(&st, id)
	return id
}

// together is why touching cells of a go are wet at once.
func (c *task) together(st *stroke) Together {
	l := &c.lays[st.area]
	switch {
	case l.touches && l.groupOf(st.wash).spots(c.board.Areas[st.area].Area):
		return Spots
	case slices.ContainsFunc(st.over, func(p patch) bool { return len(p.cells) > 1 }) && l.together != OnItsOwn:
		return l.together
	case slices.ContainsFunc(st.over, func(p patch) bool { return len(p.cells) > 1 }), c.split(st.over.cells()):
		return Zoned
	}
	return OnItsOwn
}

// split reports whether zones cut cells, or pieces of zones, into several patches.
func (c *task) split(cells []int) bool { return len(c.board.PatchesOf(cells)) > len(cells) }

// film is the water that stands once a stroke is laid. What takes water away leaves
// none of its own; once the wash below is dry it has to wet that again.
func (c *task) film(st *stroke) film {
	f := filmOf(st.Technique)
	switch {
	case st.wet && f.left > 0:
		below := st.base.Water
		return f.into(film{below, below})
	case !st.wet && st.Technique.NeedsWet() && (st.Technique.IntoWet() || f.left == 0):
		return filmOf(technique.Soften)
	}
	return f
}

// penDries is how long the ink of a pen takes, by the shelf.
func (c *task) penDries() time.Duration {
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
func (c *task) below(i, k, n int) (base *Step, wet bool) {
	if k == 0 && n < len(c.wets[i]) {
		base := c.steps[c.wets[i][n]]
		return &base, !c.dried[pair{base.ID, len(c.steps)}]
	}
	if from := c.lays[i].groupOf(k).from; !c.board.Areas[i].Washes[k].IntoWet(k) || k == from {
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
func (c *task) waitBelow(st *stroke, id int) {
	washes, group := c.board.Areas[st.area].Washes, c.lays[st.area].groupOf(st.wash)
	above, below := layerOf(st.Technique), 0
	if st.wash == 0 && st.base != nil { // clean water was drawn first
		if st.wet {
			c.tieWet(st.base.ID, id)
		} else {
			c.after(st.base.ID, id, waitFor(above, aWash))
		}
		return
	}
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
	if st.Technique.Facts().Pulls {
		above = pulling
	}
	for _, line := range c.lines {
		c.after(line, id, waitFor(above, theLine))
	}
	c.after(c.taped, id, waitFor(handling, handling))
}

func (c *task) overlap(a, b int) bool { return c.board.Overlap(c.steps[a].Cells, c.steps[b].Cells) }

// dullShare is the part of the damp stage in which a spritz still works: an estimate.
const dullShare = 5

// tieWet lets an operation go into the wet coat of another: what is laid before the
// sheen is lost; what takes colour out once the gloss is, until it is dry; what is strewn
// between gloss and damp.
func (c *task) tieWet(base, id int) {
	below, w := &c.steps[base], waitFor(intoWet, aWash)
	arc := order.Arc{From: base, To: id, Type: order.Wet, Max: order.Floor(below.Open)}
	switch kind := c.steps[id].Kind; kind {
	case Lift, Blot:
		w = waitFor(outOfWet, aWash)
		arc.Max = max(0, order.Floor(below.Dry-c.steps[id].Dur)) // it has to be done by then
		if kind == Lift {
			arc.Clock = order.Ceil(below.Gloss)
		}
	case Strew:
		w = waitFor(strewn, aWash)
		arc.Clock = order.Ceil(below.Gloss)
		arc.Max = order.Floor(below.Open + (below.Dry-below.Open)/dullShare)
	}
	c.in.Arcs = append(c.in.Arcs, arc)
	c.reasons[pair{base, id}] = w
}

// titled words a step for its heading, but for its go.
func (c *task) titled(s *Step, st *stroke) string {
	name := c.whose() + c.board.Areas[s.On.Area].Name
	if st.Technique.Covers() {
		name += fmt.Sprintf(": %s, %s", c.board.Card.Called.Mix(st.Mix), st.Strength)
		if st.wet {
			name += ", into the wet"
		}
		if f := st.Technique.Facts(); f.Trace != technique.NoTrace || f.Lies == technique.AsOpaque { // done otherwise than a wash is
			name += ", " + st.Technique.Name()
		}
	} else {
		name += ": " + c.board.Card.WashName(st.Wash)
	}
	return name
}

// detail says how a step is done.
func (c *task) detail(s *Step, st *stroke) string {
	how := st.Technique.How(st.wet)
	if st.Technique.Facts().Pulls && c.onMass(s.On.Area) {
		how = "Draw clean water through the mass, one way: it evens out, fills its gaps, and gives colour over its edge where you drag it; wipe the brush, it carries ink."
	}
	stencil, together := "", ""
	if c.board.OnStencil(s.On.Area) {
		stencil = "Hold the stencil down, straight down with the brush, from its edges inwards."
		if st.wash > 0 {
			stencil = "Wipe the stencil, lay it again where its corners are ticked, and hold it down: more colour, straight down, from its edges inwards."
		}
	}
	switch s.Together {
	case Loosely:
		together = "Loosely, in one sweep over the lines between its cells."
	case Joined:
		together = "Its cells may run into each other: go on while the last one shines."
	}
	return sentence(stencil, how, together, c.edgeWords(s, st), c.mixWords(st), metalWords(st), c.subjectWords(s, st))
}

// metalWords say what metal asks for.
func metalWords(st *stroke) string {
	switch {
	case !panel.Metallic(st.Wash) || st.Technique == technique.Shimmer:
		return ""
	case st.wash > 0 && !st.wet:
		return "Stir it each time you dip, for the mica sinks; over a dark wash heat it at once, or it takes that colour."
	}
	return "Stir it each time you dip, for the mica sinks."
}

// onMass reports whether an area lies on the mass of a solid.
func (c *task) onMass(area int) bool {
	_, on := c.board.OnMass(area)
	return on
}

// edgeWords say how a wash ends where no line bounds it.
func (c *task) edgeWords(s *Step, st *stroke) string {
	z := c.zoneOf(s.On.Area)
	switch {
	case z == nil || !st.Technique.Covers():
		return ""
	case st.wet && st.base.On.Wash != Wetting: // it ends where that does
		return ""
	case st.Technique.Left() == drying.PulledOut && z.Edge.Or() == card.HardEdge: // drawn out until it is nothing
		return ""
	}
	if st.Technique.Facts().Trace == technique.Skips { // too dry to lead, or to draw out
		if z.Edge.Or() == card.HardEdge {
			return "Stop at the drawn line."
		}
		return "Press less and less towards its edge."
	}
	switch z.Edge.Or() {
	case card.SoftEdge:
		return "Draw its edge out with a clean damp brush while it shines."
	case card.RunningEdge:
		return "Let its edge run on the wet paper."
	}
	if c.ways.SecondCoat == school.WhereNeeded && c.overPaint(s.On.Area) {
		return "Where it ends, soften it with a damp brush while it shines."
	}
	return "Its edge ends hard, on dry paper: lead the bead along the drawn line."
}

// cautions collects what the pigments of a wash must not be used for.
func (c *task) cautions(w card.Wash) string {
	for _, p := range w.Mix {
		if pig, err := pigment.ByCI(p.CI); err == nil && pig.Caution != "" {
			return fmt.Sprintf("%s (%s): %s. "+paintCare, wording.Upper(c.board.Card.Called.Of(p.CI)), pig.CI, pig.Caution)
		}
	}
	return ""
}

// heatableAs gives an operation its times under the heat tool, where the maker's school
// lets it be heated: mixed, a wet patch that is not too large.
func (c *task) heatableAs(id int, t technique.Kind, over sweep, f film) {
	doc := c.doc
	largest, all := 0.0, 0.0
	for _, p := range over {
		largest, all = max(largest, p.mm2), all+p.mm2
	}
	if doc.Drying == card.Air || doc.Drying == card.Mixed && largest > 100*c.bench.HeatCM2 {
		return
	}
	op, surface := &c.in.Ops[id], c.paper.Surface
	under := func(stage drying.Stage) order.Seconds {
		by := c.bench.Learned.Of(learned.Heat, c.paper.Name).By
		return order.Ceil(time.Duration(by * float64(surface.Heating(stage, f.left, all*t.Share()))))
	}
	op.HeatDry, op.HeatBone = min(op.Dry, under(drying.TouchDry)), min(op.Bone, under(drying.BoneDry))
}

// findGrounds marks the areas that are a background which had better come first:
// they reach the edge and everything on them is darker.
func (c *task) findGrounds() {
	light := make([]int, len(c.board.Areas))
	for i := range c.board.Areas {
		if a := &c.board.Areas[i]; len(a.Cells) > 0 && len(a.Washes) > 0 && len(a.Washes[0].Mix) > 0 {
			light[i] = c.tone(a.Washes[0]).light
		}
	}
	for i := range c.board.Areas {
		lighter := false
		for j, l := range light {
			lighter = lighter || j != i && l >= light[i]
		}
		c.lays[i].ground = c.reachesOut(i) && !lighter
	}
}
