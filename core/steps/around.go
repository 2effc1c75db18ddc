package steps

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/drying"
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
	mountTime  = 5 * time.Minute
	penTime    = 5 * time.Second // a stroke that closes a gap
	layerTime  = 2 * time.Minute // for each layer beyond the first
	rinseTime  = 15 * time.Second
	swapTime   = 5 * time.Second // to take up another card
	weighted   = 2 * time.Hour   // under weight until flat
	overnight  = 8 * time.Hour   // the same after wet-in-wet
)

// HeatCaution is what is said wherever the heat tool is used.
const HeatCaution = "Very hot air: a surface that cannot burn, keep moving, both sides in turn, and let the piece cool before you touch it."

const bladeCaution = "Blades: cut away from the hand, guard on."

// before adds what comes before the paint: the panel is cut, the line made where it
// can be stamped again, and only then is the panel taped down.
func (c *compiler) before() {
	doc := c.board.Card
	last := -1
	then := func(id int) {
		if last >= 0 {
			c.after(last, id, waitFor(handling, handling))
		}
		last = id
	}
	impressions := c.board.Impressions()
	early := doc.Has(shelf.ReliefImage) && doc.Relief == card.Unpainted
	if len(impressions) > 0 || early {
		then(c.add(c.cutting(len(impressions) > 0 && c.ink.Method == shelf.Stamped), order.Op{}))
	}
	if early {
		then(c.press("Press the panel in its folder", "Before it is taped down, and before any paint."))
	}
	c.makeLine(impressions, last)
	c.taped = c.add(c.taping(last < 0), order.Op{})
	if last >= 0 {
		c.after(last, c.taped, waitFor(handling, handling))
	}
	for _, line := range c.lines {
		c.after(line, c.taped, waitFor(handling, theLine))
	}
}

// cutting is the step that cuts the panel, and lays it into the positioner.
func (c *compiler) cutting(positioned bool) Step {
	title, detail := c.cutWords()
	s := Step{Kind: Hold, Title: title, Detail: detail, Caution: bladeCaution, Dur: cutTime}
	if positioned {
		s.Title += " and lay it in the positioner"
		s.Detail = sentence(s.Detail, "Push it into the corner, magnets near the image but not on it. It is taped to its board only once it is stamped, so that it can be stamped again.")
		s.Dur += placeTime
	}
	return s
}

func (c *compiler) cutWords() (title, detail string) {
	doc := c.board.Card
	switch {
	case doc.Window != nil:
		return "Cut the panel out of the painted sheet", ""
	case doc.Painting.Spare > 0:
		return "Cut a sheet of " + doc.SheetSize().With(doc.Unit), fmt.Sprintf("Of %s, %s larger than the panel all round.", c.paper.Name, doc.Painting.Spare.With(doc.Unit))
	}
	return "Cut the panel", fmt.Sprintf("%s of %s.", doc.PanelSize().With(doc.Unit), c.paper.Name)
}

// taping is the step that makes the panel ready to paint.
func (c *compiler) taping(uncut bool) Step {
	doc := c.board.Card
	s := Step{Kind: Tape, Title: "Tape the panel to its board", Dur: tapeTime}
	if uncut {
		s.Title, s.Detail = c.cutWords()
		s.Title += " and tape it down"
		s.Caution = bladeCaution
		s.Dur += cutTime
	}
	s.Detail = sentence(s.Detail, "All four edges; hold it by them where ink is still wet.")
	if b := doc.Painting.Border; b > 0 {
		s.Detail = sentence(s.Detail, fmt.Sprintf("The tape covers %s of the panel all round, which stays white; press its inner edge down hard.", b.With(doc.Unit)))
	}
	return s
}

// press adds a pressing in the embossing folder.
func (c *compiler) press(title, detail string) int {
	return c.add(Step{Kind: Press, Title: title, Detail: detail, Dur: pressTime}, order.Op{})
}

// finish adds what comes after the last wash. Every coat has to be bone dry, not just
// the last one that was laid.
func (c *compiler) finish() {
	title := "Take the tape off and trim"
	if c.board.Card.Painting.Spare > 0 {
		title += " to " + c.board.Card.PanelSize().With(c.board.Card.Unit)
	}
	untape := c.add(Step{Kind: Untape, Title: title, Detail: "Pull slowly, flat along the paper.", Caution: bladeCaution, Dur: untapeTime}, order.Op{})
	for _, s := range c.steps {
		if s.On != nil {
			c.after(s.ID, untape, waitFor(handling, c.handled(&s)))
		}
	}
	last := untape
	then := func(id int) {
		c.after(last, id, waitFor(handling, handling))
		last = id
	}
	if s, needed := c.flattening(); needed {
		then(c.add(s, order.Op{}))
	}
	for _, add := range c.pressings() {
		then(add())
	}
	then(c.add(c.mounting(), order.Op{}))
}

// handled is the layer a step leaves, to one who wants to handle the paper.
func (c *compiler) handled(s *Step) layer {
	return layerOf(c.board.Areas[s.On.Area].Washes[s.On.Wash].Technique)
}

// flattening is the step in which the panel lies under weight, where water or heat
// has warped it. A folder flattens what is pressed in it.
func (c *compiler) flattening() (Step, bool) {
	warps, soaked := false, false
	for i, s := range c.steps {
		if s.On == nil {
			continue
		}
		warps = warps || s.Water >= drying.Glaze || s.Water > 0 && c.in.Ops[i].HeatDry > 0
		soaked = soaked || s.Water >= drying.WetOnWet
	}
	c.warps = warps
	s := Step{Kind: Flatten, Title: "Flatten the panel under weight", Detail: "Bone dry and cool, face down between clean boards, under a pile of books.", Dur: weighted, Unattended: true}
	if soaked {
		s.Dur = overnight
		s.Detail = sentence(s.Detail, "Overnight: it was soaked.")
	}
	return s, warps && !c.board.Card.Has(shelf.ReliefImage)
}

// pressings are what is pressed, and touched up, once the paint is dry. A relief
// that was pressed first has been flattened by any wash wetter than a damp brush.
func (c *compiler) pressings() (add []func() int) {
	doc := c.board.Card
	if !doc.Has(shelf.ReliefImage) {
		return nil
	}
	if doc.Relief != card.Unpainted {
		add = append(add, func() int { return c.press("Press the panel in its folder", "Bone dry through and through.") })
	} else if c.wetter(drying.DampLeft) {
		add = append(add, func() int {
			return c.press("Press the panel in its folder again", "Water has flattened the relief; lay it into the folder exactly as before, bone dry through and through.")
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
func (c *compiler) wetter(than drying.GramsPerSquareMetre) bool {
	return slices.ContainsFunc(c.steps, func(s Step) bool { return s.On != nil && s.Water > than })
}

// mounting is the step that puts the card together: each joint from the base up, with what
// holds it.
func (c *compiler) mounting() Step {
	doc := c.board.Card
	s := Step{Kind: Mount, Title: "Mount the panel on the card", Dur: mountTime}
	layout, err := doc.Layout()
	if err != nil {
		return s // Compile's cards have passed Check
	}
	if len(doc.Layers) > 0 {
		var names []string
		for i := range slices.Backward(doc.Layers) {
			names = append(names, doc.LayerName(i))
		}
		s.Title = "Mount the panel with " + strings.Join(names, ", ") + " on the card"
		s.Dur += time.Duration(len(doc.Layers)-1) * layerTime
	}
	if doc.Insert != nil {
		s.Detail = "Insert: " + doc.Insert.Made() + ", double-sided tape along the fold."
	}
	on := "the base of " + doc.Base.Made()
	for _, joint := range doc.Joints() {
		s.Detail = sentence(s.Detail, fmt.Sprintf("%s on %s: %s.", wording.Upper(joint.Name), on, heldBy(joint, c.warps)))
		on = "the " + joint.Layer
	}
	for i, r := range layout {
		if layout.Overhang(i) > 0 {
			s.Detail = sentence(s.Detail, fmt.Sprintf("Trim the %s flush with the %s from behind.", r.Name, layout[i-1].Name))
			s.Caution = bladeCaution
		}
	}
	return s
}

// heldBy says what holds a layer, and where.
func heldBy(j card.Joint, warped bool) string {
	switch {
	case j.Foam:
		return "foam all over, to its edges"
	case j.Layer == card.PanelRing && warped:
		return "strong double-sided tape to all edges and across, since it was wet"
	}
	return "double-sided tape to all edges"
}
