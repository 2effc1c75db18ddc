package steps

import (
	"slices"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/mount"
	"chromaqua/core/nest"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/wording"
)

// Times of taking a piece up and holding it otherwise, general figures.
const (
	offTime    = 40 * time.Second // the board out from under it
	blockTime  = 2 * time.Minute  // a blade all round
	tearTime   = 2 * time.Minute
	stitchTime = 10 * time.Minute
	peelTime   = 30 * time.Second
)

// the names the piece within a sentence.
func (c *task) the() string {
	if c.ID == card.ThePanel {
		return "the panel"
	}
	return itemName(&c.Piece, c.item)
}

// whose names a piece before what is done to it, "Ray 2, "; the panel goes without saying.
func (c *task) whose() string {
	if c.ID == card.ThePanel {
		return ""
	}
	return wording.Upper(c.the()) + ", "
}

// heldAs is how the piece is held, one way after the other. Where the maker says nothing
// it is taped; what goes along its edges is laid once the tape is off. Nothing holds the
// whole card.
func heldAs(b *panel.Board, whole bool) []card.Hold {
	switch all := b.Card.Hold; {
	case whole:
		return []card.Hold{{How: card.LooseSheet}}
	case len(all) > 0:
		return all
	}
	out := []card.Hold{{How: card.TapedDown}}
	for _, d := range b.Deeds {
		if d.Kind == card.WashDeed && d.Wash == 0 && onRim(b, d.Area) {
			return append(out, card.Hold{How: card.LooseSheet, From: d.Ref})
		}
	}
	return out
}

// onRim reports whether an area goes along the edges of its piece.
func onRim(b *panel.Board, area int) bool {
	return slices.ContainsFunc(b.Areas[area].Area.Zones, func(id string) bool {
		z, err := b.Card.ZoneByID(id)
		return err == nil && z.Shape == card.Rim
	})
}

// firstHold is how the piece is held when it is painted first.
func (c *task) firstHold() card.Hold { return c.holds[0] }

// holding is the step that holds a piece so, "" as its title where there is nothing to do.
func (c *task) holding(h card.Hold) Step {
	the := c.the()
	switch h.How {
	case card.TapedDown:
		return Step{Kind: Tape, Title: "Tape " + the + " to its board", Detail: c.tapeWords(h), Dur: tapeTime, Taped: c.tapingOf(h)}
	case card.Positioner:
		return Step{Kind: Hold, Title: "Lay " + the + " in the positioner", Detail: "Push it into the corner, where it lay if it lay there before, so that what is stamped comes down in its place.", Dur: placeTime}
	case card.OffBoard:
		return Step{Kind: Hold, Title: "Take " + the + " off its board, its mask tape left on, and lay it in the positioner", Detail: "The tape on it keeps its edge; cut it from the board, do not pull it.", Caution: bladeCaution, Dur: offTime + placeTime}
	case card.OnBlock:
		return Step{Kind: Hold, Title: "Lay the block with " + the + " before you", Detail: "It is glued at its edges: nothing has to be taped.", Dur: placeTime}
	case card.Sticky:
		return Step{Kind: Tape, Title: "Lay " + the + " on its sticky sheet", Detail: "Smooth it down from the middle; it holds small and cut pieces flat.", Dur: placeTime}
	}
	return Step{Kind: Hold, Title: "Lay " + the + " loose on a board", Detail: "Lift its edges now and then, so that water does not creep under it.", Dur: placeTime}
}

// tapeWords says where and with what a piece is taped.
func (c *task) tapeWords(h card.Hold) string {
	where := "All four edges; hold it by them where ink is still wet."
	if len(h.Sides) > 0 {
		var names []string
		for _, s := range h.Sides {
			names = append(names, string(s))
		}
		where = wording.Upper(wording.And(names)) + " only; the rest stays free."
	}
	with := ""
	if h.Tape != "" {
		with = wording.Upper(string(h.Tape))
		if h.Width > 0 {
			with += ", " + h.Width.With(c.board.Card.Unit) + " wide"
		}
		with += ": " + h.Tape.Facts().Note + "."
	}
	return sentence(where, with)
}

// Taping is tape along the sides of a sheet.
type Taping struct {
	Tape card.TapeKind
	MM   float64
}

// tapingOf is the tape that a way of holding takes of the piece, or of the sheet it shares.
func (c *task) tapingOf(h card.Hold) *Taping {
	sheet := c.board.Card.SheetSize()
	if shared := c.sheetName(); shared != "" {
		sheet = c.doc.SharedSheet(shared)
	}
	return &Taping{h.Tape.Facts().Kind, nest.Along(sheet, h.Sides).MM()}
}

// letGo is the step that frees a piece from how it was held; ok is false where it is free.
func (c *task) letGo(h card.Hold) (s Step, ok bool) {
	the := c.the()
	switch h.How {
	case card.TapedDown, card.OffBoard:
		return Step{Kind: Untape, Title: "Take the tape off " + the, Detail: "Pull slowly, flat along the paper.", Dur: untapeTime}, true
	case card.OnBlock:
		return Step{Kind: Untape, Title: "Free " + the + " from its block", Detail: "Bone dry through and through: a dull blade between it and the next sheet, all round.", Caution: bladeCaution, Dur: blockTime}, true
	case card.Sticky:
		return Step{Kind: Untape, Title: "Peel " + the + " off its sticky sheet", Detail: "Bend the sheet away from it, not it from the sheet.", Dur: peelTime}, true
	}
	return Step{}, false
}

// allDry lets an operation wait until all paint of earlier stages on these tasks is bone
// dry, and for what was done between.
func (c *task) allDry(id, before int, on []*task) { c.allDryFor(handling, id, before, on) }

// allDryFor is allDry for what is put over the paint.
func (c *task) allDryFor(above layer, id, before int, on []*task) {
	for _, t := range on {
		for k := range c.steps {
			s := &c.steps[k]
			if s.Piece != t.index || s.Item != t.item || s.On == nil || s.ID == id {
				continue
			}
			if wash := max(0, s.On.Wash); t.stage(s.On.Area, wash) < before {
				c.after(s.ID, id, waitFor(above, t.handledAs(s)))
			}
		}
		t.uncovered(id, before)
		for _, l := range t.late {
			if l != id {
				c.after(l, id, waitFor(handling, handling))
			}
		}
	}
}

// betweenPaint adds an even stage: how the piece is held then, what is put over the paint,
// what else is done, and how it is held for the paint over that; after an operation, -1
// for none.
func (c *task) betweenPaint(b between, now card.Hold, last int) card.Hold {
	then := func(s Step) {
		id := c.add(s, order.Op{})
		if last >= 0 {
			c.after(last, id, waitFor(handling, handling))
		} else {
			c.allDry(id, b.stage, []*task{c})
		}
		last = id
		c.late = append(c.late, id)
	}
	was := now
	stamps := c.stamps(b.images) && !now.How.Facts().Stamps && len(c.holds) <= 1 && now.How == card.TapedDown
	handled := false
	switch {
	case b.hold != nil:
		now = *b.hold
		if s, held := c.letGo(was); held && now.How != card.OffBoard {
			then(s)
		}
		then(c.holding(now))
	case stamps:
		now = card.Hold{How: card.OffBoard}
		then(c.holding(now))
	}
	if s, held := c.letGo(now); held && len(b.acts) > 0 { // it is handled, and held again after
		then(s)
		handled = true
	}
	ends := c.putOver(b, last)
	c.late = append(c.late, ends...)
	for i := range b.acts {
		for _, s := range c.stepsOf(&b.acts[i]) {
			s.Deed = card.Ref(b.acts[i].ID)
			id := c.add(s, order.Op{})
			above := handling
			switch {
			case s.Kind == Emboss:
				above = anEmbossing
			case b.acts[i].Text != nil:
				above = anImpression
			}
			c.allDryFor(above, id, b.stage, []*task{c})
			if last >= 0 {
				c.after(last, id, waitFor(handling, handling))
			}
			for _, e := range ends {
				c.after(e, id, waitFor(handling, theLine))
			}
			for _, w := range c.words {
				c.after(w, id, waitFor(handling, wetInk))
			}
			if !c.waits(id) {
				c.after(c.taped, id, waitFor(handling, handling))
			}
			c.late = append(c.late, id)
			if s.Dry > 0 {
				c.words = append(c.words, id)
			}
			ends, last = nil, id
		}
	}
	if stamps || handled && !c.last(b.stage) {
		back := c.holding(was)
		back.Title += " again"
		id := c.add(back, order.Op{})
		for _, e := range ends {
			c.after(e, id, waitFor(handling, theLine))
		}
		c.after(last, id, waitFor(handling, handling))
		c.late, last, now = append(c.late, id), id, was
	}
	c.paintAfter(b, last)
	return now
}

// paintAfter lets the paint of later stages wait for what was done between, and where it
// goes over new ink for that to dry.
func (c *task) paintAfter(b between, last int) {
	for k := range c.steps {
		s := &c.steps[k]
		if s.Piece != c.index || s.Item != c.item || s.On == nil || c.stage(s.On.Area, max(0, s.On.Wash)) <= b.stage {
			continue
		}
		if last >= 0 {
			c.after(last, s.ID, waitFor(handling, handling))
		}
		for _, i := range b.images {
			if c.board.InkOver(i, s.Cells) {
				c.after(c.inked[i], s.ID, waitFor(c.handledAs(s), theLine))
			}
		}
	}
}

// stepsOf are the steps of an act of the maker's.
func (c *task) stepsOf(x *card.Handling) []Step {
	if x.Text != nil {
		return c.wording(x.Text)
	}
	return []Step{c.handlingStep(x.Kind)}
}

// handlingStep is an act of the maker's as a step.
func (c *task) handlingStep(k card.HandlingKind) Step {
	the := c.the()
	switch k {
	case card.Tear:
		return Step{Kind: Trim, Title: "Tear the edges of " + the, Detail: "Against a ruler, towards you for a white edge, away for none; a damp line along it makes it soft.", Dur: tearTime}
	case card.Stitch:
		return Step{Kind: Trim, Title: "Stitch round " + the, Detail: "Prick the holes first, evenly, by a ruler; thread, or a pen for a drawn stitch.", Dur: stitchTime}
	case card.Press:
		return Step{Kind: Press, Title: "Press " + the + " in its folder", Detail: "Bone dry through and through.", Dur: pressTime}
	case card.Trim:
		return Step{Kind: Trim, Title: "Trim " + the + " to " + c.board.Card.PanelSize().With(c.board.Card.Unit), Caution: bladeCaution, Dur: cutTime}
	}
	return Step{Kind: Flatten, Title: "Flatten " + the + " under weight", Detail: flattenWords, Dur: mount.Weighted, Unattended: true}
}

const flattenWords = "Bone dry and cool, face down between clean boards, under a pile of books."

// sheetMates are the tasks that are worked on one sheet with it, itself first of all.
func (c *task) sheetMates() (out []*task) {
	sheet := c.sheetName()
	for _, t := range c.tasks {
		if t == c || sheet != "" && t.sheetName() == sheet {
			out = append(out, t)
		}
	}
	return out
}

func (c *task) sheetName() string {
	if p, err := c.doc.PieceByID(c.ID); err == nil {
		return strings.TrimSpace(p.Sheet)
	}
	return ""
}
