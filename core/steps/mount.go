package steps

import (
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/mount"
	"chromaqua/core/order"
	"chromaqua/core/panel"
)

// mount adds the steps that put the card together, joint by joint, once every piece is
// ready, and the time it lies until the glue holds.
func (c *compiler) mount() {
	made, last := c.made, -1
	for i := range made.Joints {
		j := &made.Joints[i]
		s := Step{Kind: Mount, Title: made.Title(j), Detail: made.Detail(j, c.doc.Unit), Dur: j.Takes, Mounts: c.mounted(made, j, i == len(made.Joints)-1)}
		if k := c.pieceAt(made.Members[j.Members[0]].ID); k >= 0 {
			s.Piece = k
		}
		if j.Flush > 0 {
			s.Caution = bladeCaution
			s.Dur += flushTime
		}
		id := c.push(s, order.Op{})
		if last >= 0 {
			c.after(last, id, waitFor(handling, handling))
		}
		c.onceReady(id, s.Mounts)
		last = id
	}
	switch {
	case last < 0:
		return
	case c.flatLater():
		c.flattenCard(last)
	case made.Sets() > 0:
		s := Step{Kind: Set, Title: "Press the card until the glue holds", Detail: "Closed, between clean boards, under a book.", Dur: made.Sets(), Unattended: true}
		if made.Raised() {
			s.Title, s.Detail = "Leave the card lying flat until the glue holds", "What stands up on it would be crushed by a weight."
		}
		c.after(last, c.push(s, order.Op{}), waitFor(handling, handling))
	}
}

// faceAfterFace lets what is done on a face of the card base wait until the one before it is
// done: the base lies on that.
func (c *compiler) faceAfterFace() {
	var before *task
	for _, t := range c.baseFaces() {
		if before != nil {
			c.after(before.ready, t.first, waitFor(handling, handling))
			before.afterLate(t.first)
		}
		before = t
	}
}

// mounted lists the pieces that have to be done before a joint: what it holds, what that
// lies on, and the base; before the last one, all of them.
func (c *compiler) mounted(made *mount.Assembly, j *mount.Joint, last bool) (out []int) {
	needs := map[string]bool{made.Members[j.Members[0]].ID: true, made.Members[j.On].ID: true}
	for i := range c.pieces {
		if !c.pieces[i].Whole && (last || c.baseOf(c.pieces[i].ID) != nil || needs[c.pieces[i].ID]) {
			out = append(out, i)
		}
	}
	return out
}

// onceReady lets an operation wait until some pieces are done.
func (c *compiler) onceReady(id int, pieces []int) {
	for _, t := range c.tasks {
		if slices.Contains(pieces, t.index) {
			c.after(t.ready, id, waitFor(handling, handling))
			t.afterLate(id)
		}
	}
}

// pieceAt is a piece by its id among those that are planned, -1 for what is none.
func (c *compiler) pieceAt(id string) int {
	return slices.IndexFunc(c.pieces, func(p panel.Piece) bool { return p.ID == id })
}

// Flattens reports whether a plan has a piece flattened, before or after it is glued.
func (p *Plan) Flattens(piece int) bool {
	for _, s := range p.Steps {
		if s.Kind == Flatten && s.Piece == piece || p.Pieces[piece].ID == card.ThePanel && s.Kind == Set && s.Title == flattenCardTitle {
			return true
		}
	}
	return false
}
