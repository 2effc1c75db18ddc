package steps

import (
	"fmt"
	"slices"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/order"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
)

// Times of putting words on, general figures.
const (
	proofTime  = time.Minute
	writeTime  = 4 * time.Second // a letter
	printTime  = 2 * time.Minute
	leastWrite = time.Minute
)

// stampsWords reports whether words are stamped in a stage.
func (b *between) stampsWords() bool {
	return slices.ContainsFunc(b.acts, func(x card.Handling) bool { return x.Text != nil && x.Text.By != card.TextWritten })
}

// wording are the steps that put words on: on a scrap first, then on the piece.
func (c *task) wording(t *card.Text) []Step {
	k := c.board.Card.InkOfText(t)
	where := c.wordsPlace(t)
	if t.By == card.TextWritten {
		letters := time.Duration(len([]rune(t.Text)))
		return []Step{
			{Kind: Hold, Title: "Write " + t.Words() + " on a scrap first", Detail: "At its true size, with the same pen.", Dur: proofTime},
			{Kind: Line, Title: "Write " + t.Words() + " on " + c.the(), Detail: sentence(where, "A pencil line by the T-square keeps it straight."), Dur: max(leastWrite, letters*writeTime), Dry: k.AirDry, Bone: k.AirDry},
		}
	}
	times := c.paper.Texture.Impressions()
	if t.Times > 0 {
		times = wording.Count(t.Times, "time")
	}
	proof := Step{Kind: Hold, Title: "Stamp " + t.Words() + " on a scrap first", Detail: "Of the same paper, in the positioner; straight by the T-square.", Dur: proofTime}
	put := Step{Kind: Line, Title: "Stamp " + t.Words() + " on " + c.the(), Detail: sentence(where, "With "+k.Name+", "+times+"."), Dur: stampTime, Dry: k.AirDry, Bone: k.AirDry}
	if t.By == card.TextStamped {
		return []Step{proof, put}
	}
	put.Kind, put.Title = Emboss, "Stamp "+t.Words()+" on "+c.the()+" and emboss it"
	put.Detail = sentence("The pouch first, over all that is painted.", put.Detail, "Powder while it is sticky, stray grains off with a dry brush, then heat until it shines.")
	put.Caution, put.Dur, put.Dry, put.Bone = HeatCaution, stampTime+pouchTime+powderTime+meltTime, time.Minute, time.Minute
	return []Step{proof, put}
}

// printing are the steps that print words on a piece before anything else.
func (c *task) printing() (out []Step) {
	for i := range c.board.Card.Acts {
		x := &c.board.Card.Acts[i]
		if !x.First() {
			continue
		}
		k := c.board.Card.InkOfText(x.Text)
		if k.Method != shelf.Printed {
			k, _ = shelf.InkByID("laser")
		}
		out = append(out, Step{
			Kind: Line, Title: "Print " + x.Text.Words() + " for " + c.the(), Deed: card.Ref(x.ID), Dur: printTime, Dry: k.AirDry, Bone: k.AirDry,
			Detail: sentence("On plain paper first, held against the light; then on a sheet of "+c.paper.Name+", "+k.Name+".", c.wordsPlace(x.Text)),
		})
	}
	return out
}

// wordsPlace says where words stand, and how large they are.
func (c *task) wordsPlace(t *card.Text) string {
	u := c.board.Card.Unit
	return fmt.Sprintf("About %s, its middle %s from the left and %s from the top.", t.Size().Near(u), t.X.Near(u), t.Y.Near(u))
}

// onMounted adds what is done to the card that is put together, and what is set on its
// pieces that is no paper.
func (c *compiler) onMounted() {
	mounted := len(c.steps) - 1
	last := []int{mounted}
	for _, t := range c.tasks {
		if !t.Whole || t.board == nil {
			continue
		}
		t.cut, t.taped = mounted, mounted
		from := len(c.steps)
		t.makeLine(t.impressionsAt(early), mounted)
		t.paint()
		t.overlaps()
		t.joins()
		t.regions()
		hold := t.firstHold()
		for _, b := range t.betweens {
			hold = t.betweenPaint(b, hold, -1)
		}
		for id := from; id < len(c.steps); id++ {
			last = append(last, id)
		}
	}
	c.setAll(last)
}

// setAll adds the setting of embellishments after some operations, and the time the card
// lies flat.
func (c *compiler) setAll(after []int) {
	longest := time.Duration(0)
	set := -1
	for _, t := range c.tasks {
		if t.board == nil {
			continue
		}
		for _, d := range t.board.Deeds {
			if d.Kind != card.HandlingDeed || t.board.Card.Acts[d.Act].Item == nil {
				continue
			}
			e := t.board.Card.Acts[d.Act].Item
			f := e.Kind.Facts()
			id := t.add(Step{
				Kind: Set, Deed: d.Ref, Title: "Set " + e.Words() + " on " + t.the(), Detail: wording.Sentence(f.How),
				Dur: time.Duration(e.Many()) * f.Each,
			}, order.Op{})
			for _, a := range after {
				t.onceDry(a, id)
			}
			longest = max(longest, f.Sets)
			after, set = []int{id}, id
		}
	}
	if longest > 0 {
		id := c.push(Step{Kind: Set, Title: "Leave the card lying flat until all has set", Dur: longest, Unattended: true}, order.Op{})
		c.after(set, id, waitFor(handling, handling))
	}
}

// onceDry lets an operation wait until another, whatever it is, is dry.
func (c *task) onceDry(before, id int) {
	s := &c.steps[before]
	if s.On == nil {
		c.after(before, id, waitFor(handling, handling))
		return
	}
	for _, t := range c.tasks {
		if t.index == s.Piece && t.item == s.Item {
			c.after(before, id, waitFor(handling, t.handledAs(s)))
		}
	}
}
