// Package steps turns a card into operations: what has to be done, how long
// each takes and dries, and what must wait for what. The result is an instance
// for package order with a readable step beside each operation.
//
// Times are estimates: painting speeds are general ones, drying follows
// package drying.
package steps

import (
	"errors"
	"fmt"
	"math"
	"slices"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
)

// Kind is what a step does.
type Kind string

// The kinds of steps, in the order of the work.
const (
	Tape   Kind = "tape"
	Stamp  Kind = "line"
	Press  Kind = "press"
	Paint  Kind = "wash"
	Untape Kind = "untape"
	Mount  Kind = "mount"
)

// Step is one operation in words.
type Step struct {
	ID      int // the operation's id in the instance
	Kind    Kind
	Title   string
	Detail  string
	Caution string // shown where the step occurs, "" when there is none
	Area    int    // index into the board's areas, -1 when it is no wash
	Wash    int    // index into the area's washes
	Mix     int    // index into Plan.Mixes, -1
	Brush   string
	Dur     time.Duration
	Dry     time.Duration // until touch-dry, by air
	Open    time.Duration // until sheen is lost, by air
}

// Mix is one mixture of the card with everything it is needed for.
type Mix struct {
	Parts    []card.Part
	Strength pigment.Strength
	Areas    []string // names of the areas, in order
	MM2      float64
	ML       float64 // how much to mix, with some to spare
	Hex      string  // one coat on the card's paper, dry
}

// Plan is a compiled card.
type Plan struct {
	Instance *order.Instance
	Steps    []Step // Steps[i].ID == i
	Mixes    []Mix
}

// ErrNothingToPaint means that no area has a wash yet.
var ErrNothingToPaint = errors.New("nothing to paint yet: give at least one area a wash at the Colour station")

// Times of the steps that are not painting, general figures.
const (
	tapeTime   = 2 * time.Minute
	stampTime  = 90 * time.Second
	maskTime   = 4 * time.Minute  // to cut one
	layMask    = 20 * time.Second // to lay it on
	pressTime  = time.Minute
	touchTime  = 3 * time.Minute // to touch up the ridges of a relief
	untapeTime = time.Minute
	mountTime  = 5 * time.Minute
	penTime    = 5 * time.Second // a stroke that closes a gap
	layerTime  = 2 * time.Minute // for each layer beyond the first
	rinseTime  = 15 * time.Second
)

// Compile turns the card on the board into a plan for one painter.
func Compile(b *panel.Board) (*Plan, error) {
	paper, ink := b.Card.PaperFacts(), b.Card.InkFacts()
	c := &compiler{board: b, paper: paper, mixes: map[string]int{}, ops: map[[2]int]int{}}
	c.in = &order.Instance{
		Name: b.Card.Name, Copies: 1, Rack: 1, Rinse: int(rinseTime / time.Second),
		Heat: order.Heat{Allowed: b.Card.Drying == card.Heat, Factor: drying.HeatFactor, Min: int(drying.HeatLeast / time.Second)},
	}
	tape := c.add(c.taping(), order.Op{})
	if b.Card.Has(shelf.ReliefImage) && b.Card.Relief == card.Unpainted {
		c.arc(c.press("Press the panel in its folder", "Before it is taped down, and before any paint."), tape, order.After, 0)
	}
	lines := c.lines(ink)
	for _, line := range lines {
		c.arc(tape, line, order.After, 0)
	}
	if err := c.washes(tape, lines, ink); err != nil {
		return nil, err
	}
	c.touches()
	c.finish()
	return &Plan{Instance: c.in, Steps: c.steps, Mixes: c.amounts()}, nil
}

type compiler struct {
	board *panel.Board
	paper shelf.Paper
	in    *order.Instance
	steps []Step
	list  []Mix
	mixes map[string]int // mix by its text
	ops   map[[2]int]int // operation of (area, wash)
}

// add appends a step and its operation and returns the id of both.
func (c *compiler) add(s Step, o order.Op) int {
	id := len(c.steps)
	if s.Kind != Paint {
		s.Area, s.Wash, s.Mix = -1, -1, -1
	}
	s.ID, o.ID, o.Kind, o.Attended = id, id, string(s.Kind), true
	o.Dur = wholeSeconds(s.Dur)
	if o.Regions == nil {
		o.Regions = []int{}
	}
	c.steps = append(c.steps, s)
	c.in.Ops = append(c.in.Ops, o)
	return id
}

func wholeSeconds(d time.Duration) int { return int(math.Ceil(d.Seconds())) }

func (c *compiler) arc(from, to int, kind order.ArcType, max int) {
	c.in.Arcs = append(c.in.Arcs, order.Arc{From: from, To: to, Type: kind, Max: max})
}

// taping is the step that makes the panel ready to paint.
func (c *compiler) taping() Step {
	doc := c.board.Card
	p, u := doc.Painting, doc.Unit
	s := Step{Kind: Tape, Title: "Cut the panel and tape it down", Detail: "Tape all four edges to a board.", Dur: tapeTime}
	switch {
	case doc.Window != nil:
		s.Title = "Cut the panel out of the painted sheet and tape it down"
	case p.Spare > 0:
		s.Title = "Cut a sheet of " + doc.SheetSize().With(u) + " and tape it down"
		s.Detail = fmt.Sprintf("It is %s larger than the panel all round. Tape all four edges to a board.", p.Spare.With(u))
	}
	if p.Border > 0 {
		s.Detail += fmt.Sprintf(" The tape covers %s of the panel all round, which stays white; press its inner edge down hard.", p.Border.With(u))
	}
	return s
}

// lines adds the steps that make the line, and returns them: one for each
// impression of a stamp, the image in front first, or one for all when it is
// printed or drawn. Ink dries on the same clock as the washes where heat helps it.
func (c *compiler) lines(ink shelf.Ink) (ids []int) {
	impressions := c.board.Impressions()
	if len(impressions) == 0 {
		return nil
	}
	if len(impressions) == 1 || ink.Method != shelf.Stamped {
		var titles []string
		strokes := 0
		for _, imp := range impressions {
			m := c.board.Card.Images[imp.Image]
			titles, strokes = append(titles, m.Title+offFirst(&m)), strokes+m.Strokes()
		}
		return []int{c.impression(ink, "Make the line", strings.Join(titles, ", "), strokes, 0)}
	}
	at := map[int]int{} // the step that stamps an image
	for n, imp := range impressions {
		m := &c.board.Card.Images[imp.Image]
		detail, extra := m.Title+offFirst(m), time.Duration(0)
		if len(imp.Masks) > 0 {
			detail = fmt.Sprintf("Lay the paper mask over %s, then stamp %s", c.board.Named(imp.Masks), detail)
			extra = layMask * time.Duration(len(imp.Masks))
			for _, k := range c.board.Masks() {
				if len(k.Covers) > 0 && slices.Contains(imp.Masks, k.Covers[0]) && c.firstUse(k, n, impressions) {
					extra += maskTime * time.Duration(k.Pieces)
					detail = fmt.Sprintf("Cut the mask right at the line. %s", detail)
				}
			}
		}
		id := c.impression(ink, fmt.Sprintf("Stamp %s (%d of %d)", m.Title, n+1, len(impressions)), detail, m.Strokes(), extra)
		if n > 0 {
			c.arc(ids[n-1], id, order.After, 0)
		}
		for _, j := range imp.Masks { // a mask on wet ink smears it
			c.afterInk(at[j], id, ink)
		}
		at[imp.Image] = id
		ids = append(ids, id)
	}
	return ids
}

// firstUse reports whether a mask is needed for the first time at the nth
// impression.
func (c *compiler) firstUse(k panel.Mask, n int, impressions []panel.Impression) bool {
	return !slices.ContainsFunc(impressions[:n], func(imp panel.Impression) bool {
		return slices.ContainsFunc(imp.Masks, func(j int) bool { return slices.Contains(k.Covers, j) })
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

// impression adds one step that brings ink on the panel.
func (c *compiler) impression(ink shelf.Ink, title, what string, strokes int, extra time.Duration) int {
	wait := ink.AirDry
	if c.board.Card.Drying == card.Heat && ink.HeatDry > 0 {
		wait = min(wait, ink.HeatDry*drying.HeatFactor)
	}
	s := Step{Kind: Stamp, Title: title, Detail: fmt.Sprintf("%s with %s; %s.", what, ink.Name, ink.Note), Dur: stampTime + extra, Dry: wait}
	if strokes > 0 {
		s.Detail += fmt.Sprintf(" Then draw %d %s with a pigment-ink pen, as on the board.", strokes, map[bool]string{true: "stroke", false: "strokes"}[strokes == 1])
		s.Dur += time.Duration(strokes) * penTime
	}
	if ink.ID == "solvent" {
		s.Caution = "Solvent ink: open a window, keep it away from heat and flame."
	}
	o := order.Op{}
	if ink.HeatDry > 0 || c.board.Card.Drying == card.Air {
		o.Dry = wholeSeconds(wait)
	}
	return c.add(s, o)
}

// afterInk lets a step wait until the ink of a line is dry.
func (c *compiler) afterInk(line, id int, ink shelf.Ink) {
	if c.in.Ops[line].Dry == 0 && ink.AirDry > 0 { // heat does not help this ink
		c.in.Arcs = append(c.in.Arcs, order.Arc{From: line, To: id, Type: order.After, Min: wholeSeconds(ink.AirDry)})
		return
	}
	c.arc(line, id, order.Dry, 0)
}

// press adds a pressing in the embossing folder.
func (c *compiler) press(title, detail string) int {
	return c.add(Step{Kind: Press, Title: title, Detail: detail, Dur: pressTime}, order.Op{})
}

func (c *compiler) washes(tape int, lines []int, ink shelf.Ink) error {
	for i := range c.board.Areas {
		a := &c.board.Areas[i]
		c.in.Regions = append(c.in.Regions, order.Region{ID: i, X: a.Centre.X / c.board.Card.PanelSize().W.MM(), Y: a.Centre.Y / c.board.Card.PanelSize().H.MM()})
		if len(a.Cells) == 0 {
			continue
		}
		for k := range a.Washes {
			id := c.wash(i, k)
			c.ops[[2]int{i, k}] = id
			if k > 0 {
				c.over(i, k, id)
				continue
			}
			if len(lines) == 0 {
				c.arc(tape, id, order.After, 0)
			}
			for _, line := range lines {
				c.afterInk(line, id, ink)
			}
		}
	}
	if len(c.ops) == 0 {
		return ErrNothingToPaint
	}
	return nil
}

var how = map[card.Technique]string{
	card.Flat:       "Lay one even wash and leave it.",
	card.Graded:     "Lay it strong at the top; at each stroke further down take more water and less colour, without going back.",
	card.Halo:       "Lay colour along the subject, rinse, and draw it outwards with a damp brush until it is nothing.",
	card.Shadow:     "Lay colour along the ground, rinse, and draw it upwards with a damp brush until it is nothing.",
	card.PullOut:    "Lay colour into the shadow side, rinse, and draw it out with a damp brush.",
	card.Variegated: "Wet the paper with clean water until it shines, then lay the colour along one side.",
	card.WetOnWet:   "Wet the paper with clean water until it shines, then touch the colour in.",
	card.Glaze:      "One thin, even pass over the dry layer; do not go back into it.",
	card.DryBrush:   "Blot the brush until it is nearly dry, and skim the paper so that its hollows stay white.",
	card.Soften:     "While the wash shines, go along its edge with a brush of clean water, then leave it.",
	card.Lift:       "While the wash is still damp, draw a clean, thirsty brush through the lightest place; wipe it after each stroke.",
	card.Blot:       "While the wash still shines, press a crumpled paper towel on it here and there, and lift it straight up.",
	card.Splatter:   "Cover what must stay clean, load a brush, and tap it over a finger.",
	card.Highlight:  "With the tip of a small brush, thick and only where light falls; it sinks as it dries, so look again before a second dab.",
	card.PenLine:    "Draw over the dry paint with a waterproof pen, lifting it often so that the nib does not scratch paper up.",
	card.Pencil:     "Skim the dry paint with the side of the lead, so that the paper's grain shows.",
	card.Shimmer:    "Stir it up often, for the mica sinks; lay it thinly and look at it aslant.",
}

func (c *compiler) wash(i, k int) int {
	a := &c.board.Areas[i]
	w := a.Washes[k]
	room, water := c.board.Card.Room, w.Technique.Water()
	mean := a.MM2 / float64(len(a.Cells)) // cells dry each for itself
	brush := BrushFor(a)
	dur := CoverTime(a, brush, millilitres(a, w))
	detail := how[w.Technique]
	switch {
	case w.Technique.Share() < 1:
		dur = max(8*time.Second, time.Duration(w.Technique.Share()*float64(dur)))
	case w.Technique.IntoWet() && k == 0, w.Technique.Faded():
		dur = dur * 8 / 5 // the area is gone over again, with water
	case w.Technique.IntoWet():
		dur = max(8*time.Second, dur/2) // touched in, not covered
		detail = "Touch the colour into the wash below while it still shines."
		if w.Technique == card.Variegated {
			detail = "While the wash below still shines, lay this beside it and let the two meet by themselves."
		}
	}
	s := Step{
		Kind: Paint, Area: i, Wash: k, Mix: -1, Dur: dur, Detail: detail,
		Title: a.Name + ": " + w.Words(),
		Dry:   c.paper.Surface.Until(drying.TouchDry, water, mean, room),
		Open:  c.paper.Surface.Until(drying.Damp, water, mean, room),
	}
	if w.Technique.Tool() != card.DrawnLine {
		s.Brush = brush.Name
	}
	if w.Technique.Tool() == card.PaintedBrush {
		s.Mix = c.mix(w)
	}
	if w.Technique.Covers() {
		s.Title = fmt.Sprintf("%s: %s, %s", a.Name, card.MixName(w.Mix), w.Strength)
	}
	s.Caution = cautions(w)
	if c.board.OnStencil(i) {
		s.Detail = "Hold the stencil down, straight down with the brush, from its edges inwards. " + s.Detail
	}
	bone := c.paper.Surface.Until(drying.BoneDry, water, mean, room)
	return c.add(s, order.Op{Regions: []int{i}, Color: s.Mix + 1, Dry: wholeSeconds(s.Dry), Bone: wholeSeconds(bone)})
}

// millilitres is the water a wash leaves on an area.
func millilitres(a *panel.Area, w card.Wash) float64 {
	return a.MM2 * w.Technique.Share() * float64(w.Technique.Water()) / 1e6
}

// cautions collects what the pigments of a wash must not be used for.
func cautions(w card.Wash) string {
	for _, p := range w.Mix {
		if pig, err := pigment.ByCI(p.CI); err == nil && pig.Caution != "" {
			return fmt.Sprintf("%s: %s. Keep the brush out of the mouth; see the paint's own safety sheet.", pig.CI, pig.Caution)
		}
	}
	return ""
}

// mix returns the index of a wash's mixture, adding it the first time.
func (c *compiler) mix(w card.Wash) int {
	key := card.MixName(w.Mix) + "|" + string(w.Strength)
	i, ok := c.mixes[key]
	if !ok {
		i = len(c.list)
		c.mixes[key] = i
		look := panel.PaletteOf(c.board.Card).Look([]card.Wash{{Technique: card.Flat, Mix: w.Mix, Strength: w.Strength}})
		c.list = append(c.list, Mix{Parts: w.Mix, Strength: w.Strength, Hex: look.Dense.Dry})
	}
	return i
}

// amounts returns the mixes with what they are needed for: the water of every
// wash on every copy, a third more, and what stays in brush and palette, rounded up to half
// millilitres.
func (c *compiler) amounts() []Mix {
	const (
		spare = 1.0 / 3
		stays = 0.5 // ml
	)
	for _, s := range c.steps {
		if s.Mix < 0 {
			continue
		}
		m, a := &c.list[s.Mix], c.board.Areas[s.Area]
		m.MM2 += a.MM2 * a.Washes[s.Wash].Technique.Share()
		m.ML += millilitres(&a, a.Washes[s.Wash]) * float64(max(1, c.board.Card.Copies))
		if n := len(m.Areas); n == 0 || m.Areas[n-1] != a.Name {
			m.Areas = append(m.Areas, a.Name)
		}
	}
	for i := range c.list {
		m := &c.list[i]
		m.ML = math.Ceil(2*(m.ML*(1+spare)+stays)) / 2
	}
	return c.list
}

// touches adds an exclusion for every pair of areas in contact, and joins
// where the maker lets them run into each other.
func (c *compiler) touches() {
	for _, t := range c.board.Touching {
		c.in.Adjacent = append(c.in.Adjacent, [2]int{t.A, t.B})
		if !c.board.Card.Joined(c.board.Areas[t.A].ID, c.board.Areas[t.B].ID) {
			continue
		}
		for _, x := range c.wetGroup(t.A) {
			for _, y := range c.wetGroup(t.B) {
				open := min(c.steps[x].Open, c.steps[y].Open)
				c.in.Joins = append(c.in.Joins, order.Join{A: x, B: y, Max: int(open / time.Second)})
			}
		}
	}
}

// over lets the kth wash of an area, operation id, wait for those below it: into
// what is wet while that is so, else until all is dry.
func (c *compiler) over(area, k, id int) {
	washes := c.board.Areas[area].Washes
	base := k - 1 // the last wash that wetted the paper, not what was taken out of it
	for base > 0 && washes[base].Technique.Tool() == card.CleanWater {
		base--
	}
	below := c.steps[c.ops[[2]int{area, base}]]
	open := below.Open
	if washes[k].Technique.Tool() == card.CleanWater || open < sheenEnough {
		open = below.Dry // damp is wet enough to lift, and all there is of what was pulled out
	}
	if !washes[k].Technique.IntoWet() || open == 0 {
		for _, wet := range c.wetWith(area, k-1) {
			c.arc(wet, id, order.Dry, 0)
		}
		return
	}
	c.arc(below.ID, id, order.Wet, wholeSeconds(open))
	if base != k-1 {
		c.arc(c.ops[[2]int{area, k - 1}], id, order.After, 0)
	}
}

// sheenEnough is the least time a wash shines in which another brush can be taken
// up and colour touched in.
const sheenEnough = 30 * time.Second

// wetWith returns the operations on an area that are wet until its kth wash is dry:
// that one, and what it was laid into.
func (c *compiler) wetWith(area, k int) []int {
	out := []int{c.ops[[2]int{area, k}]}
	for ; k > 0 && c.board.Areas[area].Washes[k].Technique.IntoWet(); k-- {
		out = append(out, c.ops[[2]int{area, k - 1}])
	}
	return out
}

// wetGroup returns the operations of an area that are wet together first: its
// first wash and what is dropped into it.
func (c *compiler) wetGroup(area int) []int {
	var out []int
	for k, w := range c.board.Areas[area].Washes {
		id, ok := c.ops[[2]int{area, k}]
		if !ok || k > 0 && !w.Technique.IntoWet() {
			break
		}
		out = append(out, id)
	}
	return out
}

// finish adds what comes after the last wash.
func (c *compiler) finish() {
	title := "Take the tape off and trim"
	if c.board.Card.Painting.Spare > 0 {
		title += " to " + c.board.Card.PanelSize().With(c.board.Card.Unit)
	}
	untape := c.add(Step{Kind: Untape, Title: title, Detail: "Only when the panel is bone dry, or the paper tears. Pull slowly, flat along the paper.", Caution: "Blades: cut away from the hand, guard on.", Dur: untapeTime}, order.Op{})
	for i, a := range c.board.Areas {
		if _, ok := c.ops[[2]int{i, len(a.Washes) - 1}]; ok {
			for _, wet := range c.wetWith(i, len(a.Washes)-1) {
				c.arc(wet, untape, order.Bone, 0)
			}
		}
	}
	last := untape
	for _, id := range c.pressings() {
		c.arc(last, id, order.After, 0)
		last = id
	}
	c.arc(last, c.add(c.mounting(), order.Op{}), order.After, 0)
}

// pressings adds what is pressed, and touched up, once the paint is dry. A relief
// that was pressed first has been flattened by any wash wetter than a damp brush.
func (c *compiler) pressings() (ids []int) {
	doc := c.board.Card
	if !doc.Has(shelf.ReliefImage) {
		return nil
	}
	const dry = "Only when the panel is bone dry through and through."
	if doc.Relief != card.Unpainted {
		ids = append(ids, c.press("Press the panel in its folder", dry))
	} else if c.wetter(drying.DampBrush) {
		ids = append(ids, c.press("Press the panel in its folder again", "Water has flattened the relief; lay it into the folder exactly as before. "+dry))
	}
	if doc.Relief == card.Twice {
		ids = append(ids, c.add(Step{Kind: Press, Title: "Touch up the ridges", Detail: "Skim them with a nearly dry brush and the strongest mix.", Dur: touchTime}, order.Op{}))
	}
	return ids
}

// wetter reports whether some wash leaves more water than that.
func (c *compiler) wetter(than drying.GramsPerSquareMetre) bool {
	for at := range c.ops {
		if c.board.Areas[at[0]].Washes[at[1]].Technique.Water() > than {
			return true
		}
	}
	return false
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
			s.Caution = "Blades: cut away from the hand, guard on."
		}
	}
	return s
}
