package steps

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
)

// Times of the steps that are not painting, general figures.
const (
	cutTime    = time.Minute
	placeTime  = 30 * time.Second // into the positioner
	tapeTime   = 90 * time.Second
	stampTime  = 90 * time.Second
	meltTime   = time.Minute      // powder and heat on one impression
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
		return "Cut a sheet of " + doc.SheetSize().With(doc.Unit), fmt.Sprintf("It is %s larger than the panel all round.", doc.Painting.Spare.With(doc.Unit))
	}
	return "Cut the panel", ""
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

// makeLine adds the steps that make the line: one for each impression of a stamp,
// the image in front first, or one for all when it is printed or drawn.
func (c *compiler) makeLine(impressions []panel.Impression, last int) {
	if len(impressions) == 0 {
		return
	}
	first := func(id int) {
		if c.lines = append(c.lines, id); last >= 0 {
			c.after(last, id, waitFor(handling, handling))
		}
	}
	if len(impressions) == 1 || c.ink.Method != shelf.Stamped {
		var titles []string
		strokes := 0
		for _, imp := range impressions {
			m := c.board.Card.Images[imp.Image]
			titles, strokes = append(titles, m.Title+offFirst(&m)), strokes+m.Strokes()
		}
		first(c.impression("Make the line", strings.Join(titles, ", "), strokes, 0))
		return
	}
	at := map[int]int{} // the step that stamps an image
	for n, imp := range impressions {
		m := &c.board.Card.Images[imp.Image]
		detail, extra := m.Title+offFirst(m), time.Duration(0)
		if len(imp.CutOuts) > 0 {
			detail = fmt.Sprintf("Lay the paper mask over %s, then stamp %s", c.board.Named(imp.CutOuts), detail)
			extra = layCutOut * time.Duration(len(imp.CutOuts))
			for _, k := range c.board.CutOuts() {
				if len(k.Covers) > 0 && slices.Contains(imp.CutOuts, k.Covers[0]) && firstUse(k, n, impressions) {
					extra += maskTime * time.Duration(k.Pieces)
					detail = "Cut the mask right at the line. " + detail
				}
			}
		}
		id := c.impression(fmt.Sprintf("Stamp %s (%d of %d)", m.Title, n+1, len(impressions)), detail, m.Strokes(), extra)
		if n > 0 {
			c.after(c.lines[n-1], id, waitFor(handling, handling))
		}
		for _, j := range imp.CutOuts { // a mask on wet ink smears it
			c.after(at[j], id, waitFor(theLine, theLine))
		}
		at[imp.Image] = id
		first(id)
	}
}

// firstUse reports whether a mask is needed for the first time at the nth
// impression.
func firstUse(k panel.CutOut, n int, impressions []panel.Impression) bool {
	return !slices.ContainsFunc(impressions[:n], func(imp panel.Impression) bool {
		return slices.ContainsFunc(imp.CutOuts, func(j int) bool { return slices.Contains(k.Covers, j) })
	})
}

// offFirst says how often a stamp is stamped off before it leaves its ghost.
func offFirst(m *card.Image) string {
	switch {
	case m.Ghost == 1:
		return ", stamped off once on scrap paper first"
	case m.Ghost > 1:
		return fmt.Sprintf(", stamped off %d times on scrap paper first", m.Ghost)
	}
	return ""
}

// impression adds one step that brings ink on the panel. Its ink dries like a coat,
// under the heat tool in the ink's own time where heat helps it.
func (c *compiler) impression(title, what string, strokes int, extra time.Duration) int {
	s := Step{Kind: Line, Title: title, Detail: fmt.Sprintf("%s with %s; %s.", what, c.ink.Name, c.ink.Note), Dur: stampTime + extra, Dry: c.ink.AirDry, Bone: c.ink.AirDry}
	if strokes > 0 {
		s.Detail = sentence(s.Detail, fmt.Sprintf("Then draw %s with a pigment-ink pen, as on the board.", wording.Count(strokes, "stroke")))
		s.Dur += time.Duration(strokes) * penTime
	}
	if c.ink.Raises() {
		s.Kind, s.Caution = Emboss, HeatCaution
		s.Dur += meltTime
	}
	if c.ink.ID == "solvent" {
		s.Caution = "Solvent ink: open a window, keep it away from heat and flame."
	}
	id := c.add(s, order.Op{})
	if op := &c.in.Ops[id]; c.board.Card.Drying != card.Air {
		op.HeatDry = min(op.Dry, order.Ceil(c.ink.HeatDry))
		op.HeatBone = op.HeatDry
	}
	return id
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

// mounting is the step that puts the card together, from the panel down.
func (c *compiler) mounting() Step {
	doc := c.board.Card
	s := Step{Kind: Mount, Title: "Mount the panel on the card", Detail: "Double-sided tape to all edges; strong tape if the panel is not quite flat.", Dur: mountTime}
	if len(doc.Layers) > 0 {
		var names []string
		for i := range slices.Backward(doc.Layers) {
			names = append(names, doc.LayerName(i))
		}
		s.Title = "Mount the panel with " + strings.Join(names, ", ") + " on the card"
		s.Dur += time.Duration(len(doc.Layers)-1) * layerTime
	}
	layout, err := doc.Layout()
	if err != nil {
		return s // Compile's cards have passed Check
	}
	for i, r := range layout {
		if layout.Overhang(i) > 0 {
			s.Detail += fmt.Sprintf(" Trim the %s flush with the %s from behind.", r.Name, layout[i-1].Name)
			s.Caution = bladeCaution
		}
	}
	return s
}
