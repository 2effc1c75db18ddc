package steps

import (
	"cmp"
	"fmt"
	"math"
	"slices"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/mount"
	"chromaqua/core/order"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
)

// Times of the steps that are not painting, general figures.
const (
	cutTime    = time.Minute
	placeTime  = 30 * time.Second // into the positioner
	tapeTime   = 90 * time.Second
	stampTime  = 90 * time.Second
	meltTime   = time.Minute // heat on one impression
	pouchTime  = 20 * time.Second
	powderTime = 40 * time.Second
	maskTime   = 4 * time.Minute  // to cut one
	layCutOut  = 20 * time.Second // to lay it on
	pressTime  = time.Minute
	touchTime  = 3 * time.Minute // to touch up the ridges of a relief
	untapeTime = time.Minute
	penTime    = 5 * time.Second  // a stroke that closes a gap
	edgeTime   = time.Minute      // a marker round a cut-out
	flushTime  = 90 * time.Second // to trim what reaches over
	rinseTime  = 15 * time.Second
	swapTime   = 5 * time.Second // to take up another card
)

// HeatCaution is what is said wherever the heat tool is used.
const HeatCaution = "Very hot air: a surface that cannot burn, keep moving, both sides in turn, and let the piece cool before you touch it."

const bladeCaution = "Blades: cut away from the hand, guard on."

// before adds what comes before the paint: the piece is cut, the line made where it
// can be stamped again, and only then is it held as it is painted. Pieces of one sheet
// are cut and held as one.
func (c *task) before() {
	doc := c.board.Card
	if lead := c.sheetMates()[0]; lead != c {
		c.onSheetOf(lead)
		return
	}
	last := -1
	c.first = len(c.steps)
	then := func(id int) {
		if last >= 0 {
			c.after(last, id, waitFor(handling, handling))
		}
		last = id
	}
	for _, s := range c.printing() {
		then(c.add(s, order.Op{}))
		c.words = append(c.words, last)
	}
	hold, impressions := c.firstHold(), c.impressionsAt(early)
	pressed := doc.Has(shelf.ReliefImage) && doc.Relief == card.Unpainted
	onBlock := hold.How == card.OnBlock
	if onBlock {
		then(c.add(c.holding(hold), order.Op{}))
	} else if len(impressions) > 0 || pressed || hold.How != card.TapedDown || c.unpainted() {
		then(c.add(c.cutting(c.stamps(impressions)), order.Op{}))
	}
	c.cut = last
	if pressed {
		then(c.press("Press "+c.the()+" in its folder", "Before it is taped down, and before any paint."))
	}
	c.makeLine(impressions, last)
	c.ahead(c.first)
	if onBlock || hold.How == card.Positioner || c.unpainted() && last >= 0 {
		c.taped = last
		return
	}
	s := c.holding(hold)
	if hold.How == card.TapedDown {
		s = c.taping(last < 0)
	}
	c.taped = c.add(s, order.Op{})
	if last >= 0 {
		c.after(last, c.taped, waitFor(handling, handling))
	}
	for _, line := range c.lines {
		c.after(line, c.taped, waitFor(handling, theLine))
	}
}

// unpainted reports whether nothing is painted on the piece, or on those that share its
// sheet, so that nothing has to hold it.
func (c *task) unpainted() bool {
	return !slices.ContainsFunc(c.sheetMates(), func(t *task) bool {
		return slices.ContainsFunc(t.lays, func(l lay) bool { return len(l.groups) > 0 })
	})
}

// onSheetOf puts the early line of a piece on the sheet that another has cut and holds.
func (c *task) onSheetOf(lead *task) {
	first := len(c.steps)
	c.cut, c.taped = lead.cut, lead.taped
	c.makeLine(c.impressionsAt(early), max(lead.cut, -1))
	c.ahead(first)
	for _, line := range c.lines {
		if line != lead.taped && lead.taped != lead.cut {
			c.after(line, lead.taped, waitFor(handling, theLine))
		}
	}
}

// ahead marks steps, from one on, as what may have been done long before.
func (c *task) ahead(first int) {
	for i := range c.steps[first:] {
		c.steps[first+i].Ahead = true
	}
}

// cutting is the step that cuts the piece, and lays it into the positioner.
func (c *task) cutting(positioned bool) Step {
	title, detail, caution := c.cutWords()
	s := Step{Kind: Hold, Title: title, Detail: detail, Caution: caution, Dur: cutTime}
	if positioned {
		s.Title += " and lay it in the positioner"
		s.Detail = sentence(s.Detail, "Push it into the corner, magnets near the image but not on it. It is taped to its board only once it is stamped, so that it can be stamped again.")
		s.Dur += placeTime
	}
	return s
}

// cutWords say how the piece is come by: cut, or the base turned to another of its faces.
func (c *task) cutWords() (title, detail, caution string) {
	doc := c.board.Card
	if p := c.baseOf(c.ID); p != nil {
		if c.baseFaces()[0] != c {
			return "Turn the card base to its " + string(cmp.Or(p.Face, card.FrontFace)), "", ""
		}
		title := "Cut " + c.the()
		if len(c.doc.Blank().Scores) > 0 {
			title = "Cut, score and fold " + c.the()
		}
		return title, wording.Upper(c.doc.CutList()[0].Text(doc.Unit)) + ".", bladeCaution
	}
	if mates := c.sheetMates(); len(mates) > 1 {
		var names []string
		for _, t := range mates {
			names = append(names, t.the())
		}
		return "Cut a sheet of " + c.doc.SharedSheet(c.sheetName()).With(doc.Unit) + " for " + wording.And(names), c.paper.Name + "; each is cut out once it is done.", bladeCaution
	}
	switch {
	case doc.Window != nil:
		return "Cut the panel out of the painted sheet", "", bladeCaution
	case doc.Painting.Spare > 0:
		return "Cut a sheet of " + doc.SheetSize().With(doc.Unit), fmt.Sprintf("Of %s, %s larger than %s all round.", c.paper.Name, doc.Painting.Spare.With(doc.Unit), c.the()), bladeCaution
	}
	return "Cut " + c.the(), wording.Upper(fmt.Sprintf("%s of %s.", doc.PanelSize().With(doc.Unit), c.paper.Name)), bladeCaution
}

// baseOf is a piece by its id where it is a face of the card base, nil where it is another.
func (c *compiler) baseOf(id string) *card.Piece {
	if p, err := c.doc.PieceByID(id); err == nil && p.Kind == card.BasePiece {
		return p
	}
	return nil
}

// baseFaces are the tasks on the faces of the card base, in order.
func (c *compiler) baseFaces() (out []*task) {
	for _, t := range c.tasks {
		if c.baseOf(t.ID) != nil {
			out = append(out, t)
		}
	}
	return out
}

// taping is the step that makes the piece ready to paint, where it is taped down.
func (c *task) taping(uncut bool) Step {
	doc, s := c.board.Card, c.holding(c.firstHold())
	if len(c.sheetMates()) > 1 {
		s.Title = "Tape the sheet to its board"
	}
	if uncut {
		title, how, caution := c.cutWords()
		s.Title, s.Detail, s.Caution = title+" and tape it down", sentence(how, s.Detail), caution
		s.Dur += cutTime
	}
	if b := doc.Painting.Border; b > 0 {
		s.Detail = sentence(s.Detail, fmt.Sprintf("The tape covers %s of %s all round, which stays white; press its inner edge down hard.", b.With(doc.Unit), c.the()))
	}
	return s
}

// press adds a pressing in the embossing folder.
func (c *task) press(title, detail string) int {
	return c.add(Step{Kind: Press, Title: title, Detail: detail, Dur: pressTime}, order.Op{})
}

// finish adds what comes once paint is dry: what is put over it and painted on that,
// stage by stage, and after the last wash. Every coat has to be bone dry, not just the
// last one that was laid.
func (c *task) finish() {
	hold := c.firstHold()
	free := false
	for _, b := range c.betweens {
		from := -1
		if c.last(b.stage) && b.hold == nil && !free && len(c.sheetMates()) == 1 {
			c.release(hold)
			hold, free, from = card.Hold{How: card.Positioner}, true, c.ready
			if c.stamps(b.images) || b.stampsWords() {
				from = c.add(c.holding(hold), order.Op{})
				c.after(c.ready, from, waitFor(handling, handling))
				c.late = append(c.late, from)
			}
		}
		hold = c.betweenPaint(b, hold, from)
	}
	c.putInWhite()
	c.whiten()
	c.penOver()
	if !free {
		c.release(hold)
	}
	last := c.ready
	then := func(id int) {
		c.after(last, id, waitFor(handling, handling))
		last = id
	}
	if s, needed := c.flattening(); needed && !(c.ID == card.ThePanel && c.flatLater()) {
		then(c.add(s, order.Op{}))
		c.afterLate(last)
	}
	for _, add := range c.pressings() {
		then(add())
		c.afterLate(last)
	}
	if s, needed := c.cuttingOut(); needed {
		then(c.add(s, order.Op{}))
		c.afterLate(last)
	}
	c.keepStampsOff()
	c.keepPowderOff()
	c.ready = last
}

// afterLate lets an operation wait for all that was done once the paint was dry.
func (c *task) afterLate(id int) {
	if c.board == nil {
		return
	}
	for _, l := range c.late {
		c.after(l, id, waitFor(handling, handling))
	}
	c.afterInk(id)
}

// afterInk lets an operation wait until ink that was put on over paint is dry.
func (c *task) afterInk(id int) {
	for i := range c.board.Card.Images { // in their order: the same card has the same plan
		if op, on := c.inked[i]; on && !slices.Contains(c.lines, op) {
			c.after(op, id, waitFor(handling, wetInk))
		}
	}
	for _, op := range c.words {
		if op != id {
			c.after(op, id, waitFor(handling, wetInk))
		}
	}
}

// release frees the piece from how it was held, with all that share its sheet.
func (c *task) release(h card.Hold) {
	mates := c.sheetMates()
	if lead := mates[0]; lead != c {
		c.ready = lead.ready
		return
	}
	s, held := c.letGo(h)
	if c.unpainted() && c.taped >= 0 && c.steps[c.taped].Kind != Tape {
		c.ready = c.taped
		for _, t := range mates {
			if len(t.lines) > 0 {
				c.ready = t.lines[len(t.lines)-1]
			}
		}
		return
	}
	if !held {
		s = Step{Kind: Hold, Title: "Take " + c.the() + " up", Detail: "Once it is bone dry.", Dur: placeTime}
	}
	switch doc := c.board.Card; {
	case h.How == card.TapedDown && len(mates) > 1:
		s.Title = "Take the tape off the sheet"
	case doc.Painting.Spare > 0 && !c.isCutOut():
		s.Title += " and trim it to " + doc.PanelSize().With(doc.Unit)
		s.Caution = bladeCaution
	}
	c.ready = c.add(s, order.Op{})
	c.allDry(c.ready, math.MaxInt, mates)
	for _, t := range mates {
		t.afterInk(c.ready)
	}
	if len(c.reasons) == 0 || !c.waits(c.ready) {
		c.after(c.taped, c.ready, waitFor(handling, handling))
	}
}

// waits reports whether an operation waits for another.
func (c *compiler) waits(id int) bool {
	return slices.ContainsFunc(c.in.Arcs, func(a order.Arc) bool { return a.To == id })
}

// isCutOut reports whether the piece is cut out of what it is painted on once it is done.
func (c *task) isCutOut() bool {
	_, cut := c.cuttingOut()
	return cut
}

// cuttingOut is the step that cuts a piece along its line, by its die, or out of the sheet
// it shares.
func (c *task) cuttingOut() (Step, bool) {
	p, err := c.doc.PieceByID(c.ID)
	if err != nil {
		return Step{}, false
	}
	s := Step{Kind: CutOut, Caution: bladeCaution, Dur: maskTime}
	u := c.doc.Unit
	switch {
	case p.Outline != nil && p.Outline.Partial:
		s.Title, s.Detail = "Cut "+c.the()+" along its line, one side left in the sheet", "Do not cut its foot: it stays where it is and stands up."
	case p.Outline != nil:
		s.Title = "Cut " + c.the() + " out along its line"
		s.Detail = "Right at the line, turning the paper, not the blade."
		if p.Outline.Margin > 0 {
			s.Detail = "Leave " + p.Outline.Margin.With(u) + " of paper round it; turn the paper, not the blade."
		}
	case p.Die != nil:
		s.Title, s.Caution, s.Dur = "Cut "+c.the()+" with the die of "+p.Die.Name, "", pressTime
	case len(c.sheetMates()) > 1:
		s.Title, s.Detail, s.Dur = "Cut "+c.the()+" out of the sheet", c.doc.SizeOf(p).With(u)+".", cutTime
	default:
		return Step{}, false
	}
	if p.Outline != nil && p.Outline.Darken {
		s.Detail = sentence(s.Detail, "Then run a marker of the same colour round its edge.")
		s.Dur += edgeTime
	}
	return s, true
}

// plain adds a piece on which nothing is laid: it is cut.
func (c *task) plain() {
	paper, size, die := c.doc.PaperFacts(), c.doc.PanelSize(), c.doc.Panel.Die
	if p, err := c.doc.PieceByID(c.ID); err == nil {
		paper, size, die = p.PaperFacts(), c.doc.SizeOf(p), p.Die
	}
	s := Step{Kind: Hold, Title: "Cut " + c.the(), Detail: fmt.Sprintf("%s of %s.", size.With(c.doc.Unit), paper.Name), Caution: bladeCaution, Dur: cutTime}
	if die != nil {
		s.Title += " with the die of " + die.Name
	}
	c.ready = c.add(s, order.Op{})
}

// handledAs is the layer a step makes; clean water is as a wash.
func (c *task) handledAs(s *Step) layer {
	if s.On.Wash == Wetting {
		return aWash
	}
	return layerOf(c.board.Areas[s.On.Area].Washes[s.On.Wash].Technique)
}

// flattening is the step in which the panel lies under weight, where water or heat
// has warped it. A folder flattens what is pressed in it.
func (c *task) flattening() (Step, bool) {
	warps, soaked := false, false
	for i, s := range c.steps {
		if s.On == nil || s.Piece != c.index || s.Item != c.item {
			continue
		}
		warps = warps || s.Water >= drying.Glaze || s.Water > 0 && c.in.Ops[i].HeatDry > 0
		soaked = soaked || s.Water >= drying.WetOnWet
	}
	c.warps = warps
	s := Step{Kind: Flatten, Title: "Flatten " + c.the() + " under weight", Detail: flattenWords, Dur: mount.Weighted, Unattended: true}
	if soaked {
		s.Dur = mount.Overnight
		s.Detail = sentence(s.Detail, "Overnight: it was soaked.")
	}
	return s, warps && !c.board.Card.Has(shelf.ReliefImage) && !c.flattened()
}

// flattened reports whether the maker has it flattened once all is painted.
func (c *task) flattened() bool {
	return slices.ContainsFunc(c.betweens, func(b between) bool {
		return c.last(b.stage) && slices.ContainsFunc(b.acts, func(x card.Handling) bool { return x.Kind == card.Flatten })
	})
}

// pressings are what is pressed, and touched up, once the paint is dry. A relief
// that was pressed first has been flattened by any wash wetter than a damp brush.
func (c *task) pressings() (add []func() int) {
	doc := c.board.Card
	if !doc.Has(shelf.ReliefImage) {
		return nil
	}
	if doc.Relief != card.Unpainted {
		add = append(add, func() int { return c.press("Press "+c.the()+" in its folder", "Bone dry through and through.") })
	} else if c.wetter(drying.DampLeft) {
		add = append(add, func() int {
			return c.press("Press "+c.the()+" in its folder again", "Water has flattened the relief; lay it into the folder exactly as before, bone dry through and through.")
		})
	}
	if doc.Relief == card.Twice {
		add = append(add, func() int {
			return c.add(Step{Kind: Press, Title: "Touch up the ridges", Detail: "Skim them with a nearly dry brush and the strongest mix.", Dur: touchTime}, order.Op{})
		})
	}
	return add
}

// wetter reports whether some wash leaves more water than that.
func (c *task) wetter(than drying.GramsPerSquareMetre) bool {
	return slices.ContainsFunc(c.steps, func(s Step) bool { return s.On != nil && s.Piece == c.index && s.Water > than })
}
