package steps

import (
	"fmt"
	"slices"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
)

// How long sticky ink takes powder: a general figure.
const sticky = 5 * time.Minute

// PowderCaution is what is said where powder is poured.
const PowderCaution = "Embossing powder: do not breathe over it; keep your face away and wipe up wet."

// makeLine adds the steps that make the line: for each impression of a stamp its masks,
// the stamping, its powder, the image in front first; or one for all when it is printed
// or drawn.
func (c *compiler) makeLine(impressions []panel.Impression, last int) {
	if len(impressions) == 0 {
		return
	}
	if c.ink.Raises() {
		last = c.next(last, c.add(Step{Kind: Hold, Title: "Dust the panel with the anti-static pouch", Detail: "Bone dry, and once the stamps lie in the positioner: they would carry it off. It keeps stray grains from clinging.", Dur: pouchTime}, order.Op{}))
	}
	if len(impressions) == 1 || c.ink.Method != shelf.Stamped {
		var titles []string
		var images []*card.Image
		for _, imp := range impressions {
			m := &c.board.Card.Images[imp.Image]
			titles, images = append(titles, m.Title), append(images, m)
		}
		c.lines = append(c.lines, c.impression("Make the line", wording.And(titles), images, "", last))
		return
	}
	at := map[int]int{} // the step after which an image's ink dries
	for n, imp := range impressions {
		m := &c.board.Card.Images[imp.Image]
		if n > 0 {
			last = c.lines[n-1]
		}
		before := last
		for _, k := range c.board.CutOuts() {
			if len(k.Covers) > 0 && slices.Contains(imp.CutOuts, k.Covers[0]) && firstUse(k, n, impressions) {
				last = c.next(last, c.add(Step{
					Kind: Hold, Title: "Cut " + wording.Count(k.Pieces, "paper mask") + " of " + c.board.Card.Images[k.Image].Title,
					Detail: "Right at the line, from thin paper, with a little repositionable glue behind.", Caution: bladeCaution, Dur: maskTime * time.Duration(k.Pieces),
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
				c.after(at[j], laid, waitFor(theLine, theLine))
			}
			last = c.next(last, laid)
			off = "Then take the mask off, straight up."
			if c.ink.Raises() {
				off = "Then take the mask off, straight up, before the powder."
			}
		}
		if last < 0 {
			last = before
		}
		id := c.impression(fmt.Sprintf("Stamp %s (%d of %d)", m.Title, n+1, len(impressions)), m.Title, []*card.Image{m}, off, last)
		at[imp.Image] = id
		c.lines = append(c.lines, id)
	}
}

// next lets a step come after another, -1 for none, and returns it.
func (c *compiler) next(last, id int) int {
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
		for _, mark := range m.Marks {
			if mark.Kind == card.Bare {
				bare++
			}
		}
		if bare > 0 {
			out = sentence(out, fmt.Sprintf("%s of %s stay%s bare: wipe the ink off before you stamp.", wording.Count(bare, "part"), m.Title, map[bool]string{true: "s"}[bare == 1]))
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

// impression adds the steps that bring ink on the panel, and powder on the ink, after
// another step; it returns the last, from which the line dries like a coat, under the
// heat tool in the ink's own time where heat helps it.
func (c *compiler) impression(title, what string, images []*card.Image, off string, last int) int {
	s := Step{Kind: Line, Title: title, Detail: what + " with " + c.ink.Name + ".", Dur: stampTime}
	if c.ink.Method == shelf.Stamped {
		often := c.paper.Texture.Impressions()
		if c.paper.Texture != shelf.Smooth {
			often += ", in the positioner, so that each falls on the last: paper with a texture takes the line only in parts"
		}
		s.Detail = sentence(s.Detail, wording.Upper(often)+".")
	}
	s.Detail = sentence(s.Detail, care(images...))
	if c.ink.Risk != "" {
		s.Detail = sentence(s.Detail, "Mind: "+c.ink.Risk+".")
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
	if c.ink.ID == "solvent" {
		s.Caution = "Solvent ink: open a window, keep it away from heat and flame."
	}
	if c.ink.Raises() {
		return c.powdered(c.next(last, c.add(s, order.Op{})))
	}
	s.Dry, s.Bone = c.ink.AirDry, c.ink.AirDry
	return c.heatSet(c.next(last, c.add(s, order.Op{})))
}

// powdered adds powder and heat on an impression in sticky ink.
func (c *compiler) powdered(stamped int) int {
	powder := c.add(Step{
		Kind: Emboss, Title: "Powder the ink, and brush stray grains off", Detail: "Pour the powder over it, tap the rest back into its jar, and take off what clings beside the line with a dry brush.",
		Caution: PowderCaution, Dur: powderTime,
	}, order.Op{})
	c.in.Arcs = append(c.in.Arcs, order.Arc{From: stamped, To: powder, Type: order.Wet, Max: order.Floor(sticky)})
	c.reasons[pair{stamped, powder}] = waitFor(thePowder, theLine)
	return c.heatSet(c.next(powder, c.add(Step{
		Kind: Emboss, Title: "Melt the powder", Detail: "Keep the heat tool moving until the line shines, and no longer.",
		Caution: HeatCaution, Dur: meltTime, Dry: c.ink.AirDry, Bone: c.ink.AirDry,
	}, order.Op{})))
}

// heatSet gives a step's ink its time under the heat tool, where the card is dried so.
func (c *compiler) heatSet(id int) int {
	if op := &c.in.Ops[id]; c.board.Card.Drying != card.Air {
		op.HeatDry = min(op.Dry, order.Ceil(c.ink.HeatDry))
		op.HeatBone = op.HeatDry
	}
	return id
}
