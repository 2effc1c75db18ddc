package steps

import (
	"fmt"
	"slices"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
)

// bigStamp is the size of a stamp that is not pressed evenly by hand from above, mm²: an
// estimate, more than two palms side by side.
const bigStamp = 12_000

// How long sticky ink takes powder: a general figure.
const sticky = 5 * time.Minute

// PowderCaution is what is said where powder is poured.
const PowderCaution = "Embossing powder: do not breathe over it; keep your face away and wipe up wet."

// makeLine adds the steps that make the early line: for each impression of a stamp its
// masks, the stamping, its powder, the image in front first; or one for all that is
// printed or drawn with the same.
func (c *task) makeLine(images []int, last int) {
	for len(images) > 0 {
		n := c.atOnce(images)
		if c.inkOf(images[0]).Raises() && (len(c.lines) == 0 || !c.inkOf(images[0]).Same(c.inkOf(c.board.Impressions()[0].Image))) {
			last = c.next(last, c.add(c.pouch(), order.Op{}))
		}
		var id int
		if n > 1 {
			id = c.allAtOnce(images[:n], last)
		} else {
			id = c.putOn(images[0], last)
		}
		for _, i := range images[:n] {
			c.inked[i] = id
		}
		c.lines = append(c.lines, id)
		images, last = images[n:], id
	}
}

func (c *task) pouch() Step {
	return Step{Kind: Hold, Title: "Dust " + c.the() + " with the anti-static pouch", Detail: "Bone dry, and once the stamps lie in the positioner: they would carry it off. It keeps stray grains from clinging.", Dur: pouchTime}
}

// atOnce is how many of images, from the first, are printed or drawn in one go.
func (c *task) atOnce(images []int) int {
	first := c.inkOf(images[0])
	n := 1
	for first.Method != shelf.Stamped && n < len(images) && c.inkOf(images[n]).Same(first) {
		n++
	}
	return n
}

func (c *task) inkOf(image int) shelf.Ink {
	return c.board.Card.InkOf(&c.board.Card.Images[image])
}

// mostNamed is how many images a title names.
const mostNamed = 3

// allAtOnce puts images on in one go.
func (c *task) allAtOnce(images []int, last int) int {
	var titles []string
	var all []*card.Image
	for _, i := range images {
		m := &c.board.Card.Images[i]
		titles, all = append(titles, m.Title), append(all, m)
	}
	names := counted(titles)
	if len(names) > mostNamed {
		names = append(names[:mostNamed-1], fmt.Sprintf("%d more", len(names)-mostNamed+1))
	}
	title := wording.Upper(c.whose() + putWords[c.inkOf(images[0]).Method] + " " + wording.And(names))
	return c.impression(title, all, "", last)
}

// counted says what stands in a list several times once, and how often.
func counted(names []string) (out []string) {
	times := map[string]int{}
	for _, n := range names {
		if times[n]++; times[n] == 1 {
			out = append(out, n)
		}
	}
	for i, n := range out {
		if times[n] > 1 {
			out[i] = fmt.Sprintf("%d × %s", times[n], n)
		}
	}
	return out
}

// putOn adds the masks of an image and puts it on, after another step.
func (c *task) putOn(image int, last int) int {
	all := c.board.Impressions()
	n := slices.IndexFunc(all, func(p panel.Impression) bool { return p.Image == image })
	imp, m, k := all[n], &c.board.Card.Images[image], c.inkOf(image)
	before := last
	for _, cut := range c.board.CutOuts() {
		if len(cut.Covers) > 0 && slices.Contains(imp.CutOuts, cut.Covers[0]) && firstUse(cut, n, all) {
			last = c.next(last, c.add(Step{
				Kind: Hold, Title: "Cut " + wording.Count(cut.Pieces, "paper mask") + " of " + c.board.Card.Images[cut.Image].Title,
				Detail: "Right at the line, from thin paper, with a little repositionable glue behind.", Caution: bladeCaution, Dur: maskTime * time.Duration(cut.Pieces),
			}, order.Op{}))
		}
	}
	off := ""
	if len(imp.CutOuts) > 0 {
		laid := c.add(Step{
			Kind: Hold, Title: "Lay the paper mask over " + c.board.Named(imp.CutOuts), Detail: "On dry ink only, edge to edge with the line; press it flat.",
			Dur: layCutOut * time.Duration(len(imp.CutOuts)),
		}, order.Op{})
		for _, j := range imp.CutOuts { // a mask on wet ink smears it
			c.after(c.inked[j], laid, waitFor(theLine, theLine))
		}
		last = c.next(last, laid)
		off = "Then take the mask off, straight up."
		if k.Raises() {
			off = "Then take the mask off, straight up, before the powder."
		}
	}
	if last < 0 {
		last = before
	}
	at := len(c.steps)
	title := wording.Upper(c.whose() + putWords[k.Method] + " " + m.Title)
	if nth, of := c.among(all, n); of > 1 {
		title += fmt.Sprintf(" (%d of %d)", nth, of)
	}
	id := c.impression(title, []*card.Image{m}, off, last)
	c.overInk(image, at)
	return id
}

// among counts which of the impressions that are called the same one is, from 1, and of how
// many.
func (c *task) among(all []panel.Impression, n int) (nth, of int) {
	for i, imp := range all {
		if c.board.Card.Images[imp.Image].Title == c.board.Card.Images[all[n].Image].Title {
			of++
			if i <= n {
				nth++
			}
		}
	}
	return nth, of
}

// putWords say what is done with an ink.
var putWords = map[shelf.Method]string{shelf.Stamped: "stamp", shelf.Printed: "print", shelf.Drawn: "draw"}

// overInk lets an impression, operation id, wait for other ink that it comes over: until
// that is dry where powder would cling to it, or where it runs.
func (c *task) overInk(image, id int) {
	k := c.inkOf(image)
	for _, other := range c.earlier(image) {
		o := c.inkOf(other)
		switch {
		case k.Same(o):
		case k.Raises():
			c.after(c.inked[other], id, waitFor(anEmbossing, theLine))
		case !o.Holds && c.board.InkMeets(image, other):
			c.after(c.inked[other], id, waitFor(anImpression, aReactive))
		}
	}
}

// earlier are the images that are on the piece already.
func (c *task) earlier(image int) (out []int) {
	for i := range c.board.Card.Images {
		if _, on := c.inked[i]; on && i != image {
			out = append(out, i)
		}
	}
	return out
}

// putOver adds the images of an even stage, each once what it lies on is dry, after
// another step, -1 for none. It returns the operations from which their ink dries.
func (c *task) putOver(b between, last int) (ends []int) {
	for _, image := range b.images {
		k := c.inkOf(image)
		from := len(c.steps)
		if k.Raises() && len(ends) == 0 {
			last = c.next(last, c.add(c.pouch(), order.Op{}))
		}
		id := c.putOn(image, last)
		first := from // all that is done for it comes once the paint is dry
		above := anImpression
		if k.Raises() {
			above = anEmbossing
		}
		for i := range c.steps[:from] {
			s := &c.steps[i]
			if s.Piece == c.index && s.Item == c.item && s.On != nil && c.stage(s.On.Area, max(0, s.On.Wash)) < b.stage && c.board.InkOver(image, s.Cells) {
				c.after(s.ID, first, waitFor(above, c.handledAs(s)))
			}
		}
		if t := &c.steps[c.stampedAt(from)]; t.Kind == Line {
			t.Detail = sentence(t.Detail, "The paint below has to be bone dry.")
		}
		for i := from; i < len(c.steps); i++ { // what it takes belongs to it
			c.steps[i].Deed = card.Ref(c.board.Card.Images[image].ID)
		}
		if last < 0 { // a stamp presses on all of it
			c.allDry(first, b.stage, []*task{c})
		}
		c.inked[image] = id
		ends, last = append(ends, id), id
	}
	return ends
}

// stampedAt is the first operation from that one on that brings ink on the paper.
func (c *task) stampedAt(from int) int {
	for i := from; i < len(c.steps); i++ {
		if c.steps[i].Kind == Line {
			return i
		}
	}
	return from
}

// next lets a step come after another, -1 for none, and returns it.
func (c *task) next(last, id int) int {
	if last >= 0 {
		c.after(last, id, waitFor(handling, handling))
	}
	return id
}

// firstUse reports whether a mask is needed for the first time at the nth
// impression.
func firstUse(k panel.CutOut, n int, impressions []panel.Impression) bool {
	return !slices.ContainsFunc(impressions[:n], func(imp panel.Impression) bool {
		return slices.ContainsFunc(imp.CutOuts, func(j int) bool { return slices.Contains(k.Covers, j) })
	})
}

// care says what is particular in how images take ink: parts that stay bare, and how
// often one is stamped off before it leaves its ghost.
func care(images ...*card.Image) (out string) {
	for _, m := range images {
		bare := 0
		_, _, way := m.Times()
		for _, mark := range m.Marks {
			if mark.Kind == card.Bare {
				bare++
			}
		}
		if bare > 0 {
			out = sentence(out, fmt.Sprintf("%s of %s stay%s bare: %s.", wording.Count(bare, "part"), m.Title, map[bool]string{true: "s"}[bare == 1], way.Words()))
		}
		switch {
		case m.Ghost == 1:
			out = sentence(out, m.Title+" is stamped off once on scrap paper first.")
		case m.Ghost > 1:
			out = sentence(out, fmt.Sprintf("%s is stamped off %d times on scrap paper first.", m.Title, m.Ghost))
		}
	}
	return out
}

// impression adds the steps that bring ink on the piece, and powder on the ink, after
// another step; it returns the last, from which the line dries like a coat, under the
// heat tool in the ink's own time where heat helps it.
func (c *task) impression(title string, images []*card.Image, off string, last int) int {
	pads := c.board.Card.PadsOf(images[0])
	ink := pads[0]
	s := Step{Kind: Line, Deed: card.Ref(images[0].ID), Title: title, Detail: padsWords(pads), Dur: stampTime * time.Duration(len(pads))}
	for i := range c.board.Card.Images {
		if slices.Contains(images, &c.board.Card.Images[i]) {
			s.Inks = append(s.Inks, i)
		}
	}
	times, watered, _ := images[0].Times()
	switch {
	case ink.Method != shelf.Stamped:
	case times == 0 && images[0].Size().W.MM()*images[0].Size().H.MM() > bigStamp:
		s.Detail = sentence(s.Detail, "A big one: lay the stamp face up, ink it from all sides, lay the paper on it and rub with a roller or the fingers; look for patches before you lift it off.")
	default:
		s.Detail = sentence(s.Detail, c.oftenWords(times))
	}
	if watered {
		s.Detail = sentence(s.Detail, "Mist the inked stamp once, print it wet and hold it down for some seconds; it dries like a wash.")
	}
	if ink.Method == shelf.Stamped {
		s.Detail = sentence(s.Detail, care(images...))
	}
	s.Detail = sentence(s.Detail, off)
	strokes := 0
	for _, m := range images {
		strokes += m.Strokes()
	}
	if strokes > 0 {
		s.Detail = sentence(s.Detail, fmt.Sprintf("Then draw %s with a pigment-ink pen, as on the board.", wording.Count(strokes, "stroke")))
		s.Dur += time.Duration(strokes) * penTime
	}
	if slices.ContainsFunc(pads, func(k shelf.Ink) bool { return k.ID == "solvent" }) {
		s.Caution = "Solvent ink: open a window, keep it away from heat and flame."
	}
	if ink.Raises() {
		return c.powdered(c.next(last, c.add(s, order.Op{})), ink)
	}
	for _, k := range pads {
		s.Dry = max(s.Dry, k.AirDry)
	}
	if watered {
		mm2 := images[0].Size().W.MM() * images[0].Size().H.MM() / 2
		s.Dry = max(s.Dry, c.paper.Surface.Until(drying.TouchDry, drying.DampBrush, mm2, c.doc.Room))
	}
	s.Bone = s.Dry
	return c.heatSet(c.next(last, c.add(s, order.Op{})), pads)
}

// padsWords say which inks an image is put on with, in which order, and what goes wrong
// with them.
func padsWords(pads []shelf.Ink) string {
	out := "With " + pads[0].Name
	for _, k := range pads[1:] {
		out += ", then " + k.Name
	}
	if len(pads) == 1 {
		if risk := pads[0].Risk; risk != "" && !pads[0].Raises() { // that has its own steps for its grains
			out += ". Mind: " + risk
		}
		return out + "."
	}
	out += ": light before dark, and tapped on only where each belongs."
	for _, k := range pads {
		if k.Risk != "" {
			out = sentence(out, "Mind, "+k.Name+": "+k.Risk+".")
		}
	}
	return out
}

// oftenWords say how often an image is stamped in its place, as said or as the paper
// takes it.
func (c *task) oftenWords(times int) string {
	switch {
	case times == 1:
		return "Once only, on purpose: it mottles on texture."
	case times > 1:
		return wording.Upper(wording.Count(times, "impression")) + ", in the positioner, so that each falls on the last."
	}
	often := c.paper.Texture.Impressions()
	if c.paper.Texture != shelf.Smooth {
		often += ", in the positioner, so that each falls on the last: paper with a texture takes the line only in parts"
	}
	return wording.Upper(often) + "."
}

// powdered adds powder and heat on an impression in sticky ink.
func (c *task) powdered(stamped int, ink shelf.Ink) int {
	deed := c.steps[stamped].Deed
	powder := c.add(Step{
		Kind: Emboss, Deed: deed, Title: wording.Upper(c.whose() + "powder the ink, and brush stray grains off"), Detail: "Pour the powder over it, tap the rest back into its jar, and take off what clings beside the line with a dry brush.",
		Caution: PowderCaution, Dur: powderTime,
	}, order.Op{})
	c.in.Arcs = append(c.in.Arcs, order.Arc{From: stamped, To: powder, Type: order.Wet, Max: order.Floor(sticky)})
	c.reasons[pair{stamped, powder}] = waitFor(thePowder, theLine)
	return c.heatSet(c.next(powder, c.add(Step{
		Kind: Emboss, Deed: deed, Title: wording.Upper(c.whose() + "melt the powder"), Detail: "Keep the heat tool moving until the line shines, and no longer.",
		Caution: HeatCaution, Dur: meltTime, Dry: ink.AirDry, Bone: ink.AirDry,
	}, order.Op{})), []shelf.Ink{ink})
}

// heatSet gives a step's ink its time under the heat tool, where the card is dried so.
func (c *task) heatSet(id int, pads []shelf.Ink) int {
	op := &c.in.Ops[id]
	if c.doc.Drying == card.Air {
		return id
	}
	for _, k := range pads {
		if k.HeatDry == 0 && len(pads) > 1 {
			return id // one of them takes its time
		}
		op.HeatDry = max(op.HeatDry, min(op.Dry, order.Ceil(k.HeatDry)))
	}
	op.HeatBone = op.HeatDry
	return id
}
