package steps

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/mask"
	"chromaqua/core/order"
	"chromaqua/core/school"
	"chromaqua/core/technique"
	"chromaqua/core/wording"
)

// What schools speak of, estimates.
const (
	backgroundShare = 0.15            // of its piece that an area takes which counts as its background
	tooSmallToKeep  = 4.0             // mm², of a cell that is not painted round
	whiteTime       = 6 * time.Second // for a dab of white that is put in
)

// background reports whether an area is one that schools speak of: it reaches the edge of
// its piece, and takes much of it.
func (c *task) background(i int) bool {
	size := c.board.Card.PanelSize()
	return c.board.Areas[i].MM2 >= backgroundShare*size.W.MM()*size.H.MM() && c.reachesOut(i)
}

// reachesOut reports whether an area reaches the edge of its piece: with a cell outside the
// drawing, or a zone that goes there.
func (c *task) reachesOut(i int) bool {
	a := &c.board.Areas[i]
	if z := c.zoneOf(i); z != nil && slices.Contains([]card.Shape{card.All, card.Above, card.Below, card.Middle, card.Rest}, z.Shape) && len(a.Area.Cells) == 0 {
		return true
	}
	return slices.ContainsFunc(a.Cells, func(id int) bool { return c.board.Part(id).Outside })
}

// inTurn lets backgrounds come before all other paint of the piece, or after it, where that
// is how the maker works. What the card itself lays otherwise, or lets run together, stands.
func (c *task) inTurn() {
	way := c.ways.Background
	if way != school.GroundFirst && way != school.GroundLast {
		return
	}
	wait := waitFor(afterGround, afterGround)
	if way == school.GroundLast {
		wait = waitFor(beforeGround, beforeGround)
	}
	paint, ground := make([][]int, len(c.board.Areas)), make([]bool, len(c.board.Areas)) // operations by area
	for i := range ground {
		ground[i] = c.background(i)
	}
	for id := range c.steps {
		if s := &c.steps[id]; c.mine(s) {
			paint[s.On.Area] = append(paint[s.On.Area], id)
		}
	}
	before := c.areaOrder()
	against := map[int][]string{} // by ground
	for g := range paint {
		if len(paint[g]) == 0 || !ground[g] {
			continue
		}
		for o := range paint {
			if len(paint[o]) == 0 || ground[o] || c.board.Card.Joined(c.board.Areas[g].ID, c.board.Areas[o].ID) {
				continue
			}
			first, then := g, o
			if way == school.GroundLast {
				first, then = o, g
			}
			switch over, under := c.overArea(first, then), c.overArea(then, first); {
			case under: // it comes first as it lies
			case over:
				against[g] = append(against[g], c.board.Areas[o].Name)
			case !before[then][first]: // else what lies between them outranks it
				before.add(first, then)
				c.eachInTurn(paint[first], paint[then], wait)
			}
		}
	}
	for i := range c.board.Areas { // in their order: the same card has the same plan
		if names := against[i]; len(names) > 0 {
			c.note(Note{
				What:  fmt.Sprintf("%s is to come %s, as you work, but it lies %s %s.", c.board.Areas[i].Name, way, map[string]string{school.GroundFirst: "over", school.GroundLast: "under"}[way], wording.And(names)),
				Why:   "What this card lays over what outranks how you usually work.",
				About: About{Subject: ItsGround, Piece: c.index, Area: i}, Cells: slices.Clone(c.board.Areas[i].Cells),
			})
		}
	}
}

// mine reports whether a step is paint on this piece.
func (c *task) mine(s *Step) bool { return s.Piece == c.index && s.Item == c.item && s.On != nil }

// overArea reports whether paint of one area lies over that of another, in the same place.
func (c *task) overArea(a, b int) bool {
	return c.board.Overlap(c.board.Areas[a].Cells, c.board.Areas[b].Cells) && c.board.LiesOver(a, 0, b, 0)
}

// eachInTurn lets all paint of one area come before that of another, as far as both are
// of the same stage.
func (c *task) eachInTurn(first, then []int, w wait) {
	stage := func(id int) int { return c.stage(c.steps[id].On.Area, max(0, c.steps[id].On.Wash)) }
	for _, x := range first {
		for _, y := range then {
			if stage(x) == stage(y) {
				c.after(x, y, w)
			}
		}
	}
}

// earlier tells which areas come before which: earlier[a][b], a before b.
type earlier [][]bool

// areaOrder is which areas have paint that comes before paint of which.
func (c *task) areaOrder() earlier {
	n := len(c.board.Areas)
	e := make(earlier, n)
	for i := range e {
		e[i] = make([]bool, n)
	}
	follow := func(from, to int) {
		a, b := &c.steps[from], &c.steps[to]
		if c.mine(a) && c.mine(b) && a.On.Area != b.On.Area && !e[a.On.Area][b.On.Area] {
			e.add(a.On.Area, b.On.Area)
		}
	}
	for _, arc := range c.in.Arcs {
		follow(arc.From, arc.To)
	}
	for _, m := range c.covered { // what comes before a mask comes before what goes over it
		for _, turn := range [2][2][]int{{m.before, m.over}, {m.over, m.after}} {
			for _, from := range turn[0] {
				for _, to := range turn[1] {
					follow(from, to)
				}
			}
		}
	}
	return e
}

// add lets a come before b, and with it what comes before a before what comes after b.
func (e earlier) add(a, b int) {
	for x := range e {
		if x != a && !e[x][a] {
			continue
		}
		e[x][b] = true
		for y, after := range e[b] {
			if after {
				e[x][y] = true
			}
		}
	}
}

// lightness is how light a colour is as far as the order of neighbours goes.
func (c *compiler) lightness(mix int) int {
	light := c.light(mix)
	if c.ways.Neighbours == school.DarkFirst && light > 0 {
		return 101 - light
	}
	return light
}

// wetted is the water that stands on paper that is wetted first, and how that is said.
func (c *compiler) wetted() (f film, how string) {
	if c.ways.Water == school.PoolsWelcome {
		return filmOf(technique.WetOnWet), "To just short of its edge, until pools stand here and there; colour finds its own way in them."
	}
	return filmOf(technique.Flat), "To just short of its edge, until it shines evenly; no puddles."
}

// putInWhite adds the whites that are put in with opaque white, once all paint is dry.
func (c *task) putInWhite() {
	for i := range c.board.Areas {
		a := &c.board.Areas[i]
		if !a.White || c.ways.Whites == school.WhitesReserved {
			continue
		}
		s := Step{
			Kind: Detail, Title: wording.Upper(c.whose() + "put in the white of " + a.Name), Dur: 0, Tools: []string{smallest(c.bench.Brushes).Name},
			Detail: "With opaque white, thick, and once more when it has sunk; too small to be painted round.",
			Kept:   &Kept{With: mask.After},
		}
		if c.ways.Whites == school.WhitesLate {
			s.Detail = "With opaque white, thick, and once more when it has sunk; it was painted over."
		}
		largest := 0.0
		for _, id := range a.Cells {
			if mm2 := c.board.Part(id).AreaMM2; c.ways.Whites == school.WhitesLate || mm2 <= tooSmallToKeep {
				s.Cells, largest = append(s.Cells, id), max(largest, mm2)
				s.Kept.Shape.MM2 += mm2
				s.Dur += time.Duration(float64(whiteTime) * c.bench.Pace)
			}
		}
		if len(s.Cells) == 0 {
			continue
		}
		s.Dry = c.paper.Surface.Until(drying.TouchDry, technique.Highlight.Left(), largest, c.board.Card.Room)
		s.Bone = c.paper.Surface.Until(drying.BoneDry, technique.Highlight.Left(), largest, c.board.Card.Room)
		c.afterPaint(s, anOpaque)
	}
}

// mixWords say where the paints of a wash mix, where the maker always does it one way.
func (c *task) mixWords(st *stroke) string {
	if len(st.Mix) < 2 || !st.Technique.Covers() || st.Technique.Tool() != technique.PaintedBrush {
		return ""
	}
	return map[string]string{
		school.MixedOnPalette: "Mix enough of it on the palette first, and try it on a scrap.",
		school.MixedOnPaper:   "Take its paints one after the other from their pans, and let them mix on the paper.",
	}[c.ways.Mixing]
}

// subjectWords say that the edges of the subject are lost in places.
func (c *task) subjectWords(s *Step, st *stroke) string {
	if c.ways.Subject != school.EdgesLost || !st.Technique.Covers() || !c.background(s.On.Area) {
		return ""
	}
	return "Once it and the subject are dry, lose the edge between them in two or three places: a clean damp brush across it, then dab."
}

// overPaint reports whether an area lies over paint of another.
func (c *task) overPaint(area int) bool {
	for i := range c.board.Areas {
		if i != area && len(c.board.Areas[i].Washes) > 0 && c.overArea(area, i) {
			return true
		}
	}
	return false
}

// How a pen goes over the print, general figures.
const (
	accentTime = 2 * time.Minute
	penSpeed   = 10.0 // mm/s
)

// penOver adds the pen that goes over the print once all is bone dry, where that is how the
// maker works.
func (c *task) penOver() {
	if c.ways.Pen != school.PenAccents && c.ways.Pen != school.PenAllRound || len(c.lines) == 0 {
		return
	}
	s := Step{
		Kind: Detail, Title: "Set accents with the pen on " + c.the(), Dur: time.Duration(c.bench.Pace * float64(accentTime)),
		Detail: "A pigment-ink pen, a few lines only: where one thing lies before another, and on the side away from the light.",
	}
	if c.ways.Pen == school.PenAllRound {
		long := 0.0
		for _, mm := range c.board.Edges {
			long += mm / 2 // each line borders two cells
		}
		s.Title, s.Detail = "Go over the line of "+c.the()+" with the pen", "A pigment-ink pen, all round, slowly; lift it where the line is whole."
		s.Dur = time.Duration(c.bench.Pace * long / penSpeed * float64(time.Second))
	}
	s.Dry, s.Bone = c.penDries(), c.penDries()
	c.afterPaint(s, aPen)
}

// afterPaint adds a step once all paint of the piece is as dry as what it lays wants, before
// the piece is freed.
func (c *task) afterPaint(s Step, above layer) {
	id := c.add(s, order.Op{})
	for k := range c.steps[:id] {
		if o := &c.steps[k]; c.mine(o) {
			c.after(k, id, waitFor(above, c.handledAs(o)))
		}
	}
	if !c.waits(id) {
		c.after(c.taped, id, waitFor(handling, handling))
	}
	for _, w := range c.words {
		c.after(w, id, waitFor(handling, wetInk))
	}
	c.late, c.words = append(c.late, id), append(c.words, id)
	if above == anOpaque {
		c.opaques = append(c.opaques, id)
	}
}

// PaletteNote says what becomes of the palette.
func PaletteNote(w school.Ways) string {
	if w.Palette == school.PaletteWashed {
		return "Wash the palette when all is painted."
	}
	return "What is left of a mix dries in its pan, and can be wetted again."
}

// flatLater reports whether the panel is flattened once it is glued, as the maker works:
// not where something stands up on the card, which weight would crush.
func (c *compiler) flatLater() bool {
	return c.ways.Flattening == school.FlatAfter && !c.made.Raised() && c.doc.Highest() == 0
}

// flattenCardTitle says the step in which the card is flattened that is put together.
const flattenCardTitle = "Flatten the card under weight"

// flattenCard adds the flattening of the card that is put together.
func (c *compiler) flattenCard(mounted int) {
	for _, t := range c.tasks {
		if s, needed := t.flattening(); t.ID == card.ThePanel && t.board != nil && needed {
			s.Kind, s.Title = Set, flattenCardTitle
			s.Detail = sentence("Closed, between clean boards, under a pile of books, while the glue sets.", strings.TrimSpace(strings.TrimPrefix(s.Detail, flattenWords)))
			c.after(mounted, c.push(s, order.Op{}), waitFor(handling, handling))
			return
		}
	}
}
