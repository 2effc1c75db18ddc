package steps

import (
	"fmt"
	"slices"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/order"
	"chromaqua/core/wording"
)

// mount adds the step that puts the card together, once every piece is ready.
func (c *compiler) mount() {
	id := c.push(c.mounting(), order.Op{})
	for _, t := range c.tasks {
		if t.Whole {
			continue
		}
		c.after(t.ready, id, waitFor(handling, handling))
		t.afterLate(id)
	}
	if c.flatLater() {
		c.flattenCard(id)
	}
}

// mounting is the step that puts the card together: each joint from the base up, with what
// holds it.
func (c *compiler) mounting() Step {
	doc := c.doc
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
		s.Detail = sentence(s.Detail, fmt.Sprintf("%s on %s: %s.", wording.Upper(joint.Name), on, heldBy(joint, c.tasks[0].warps)))
		on = "the " + joint.Layer
	}
	for i, r := range layout {
		if layout.Overhang(i) > 0 {
			s.Detail = sentence(s.Detail, fmt.Sprintf("Trim the %s flush with the %s from behind.", r.Name, layout[i-1].Name))
			s.Caution = bladeCaution
		}
	}
	if c.tasks[0].ID == card.ThePanel {
		c.mountPieces(&s)
	}
	return s
}

// mountPieces says where the pieces beside the panel go, and by what they are held.
func (c *compiler) mountPieces(s *Step) {
	for i := range c.doc.Pieces {
		p := &c.doc.Pieces[i]
		if p.Place == nil || p.Kind == card.BasePiece || p.Kind == card.WholeCard {
			continue
		}
		on := c.doc.PlaceName(p.Place.On)
		name := p.Name
		if n := p.Many(); n > 1 {
			name = fmt.Sprintf("%d × %s", n, name)
		}
		s.Detail = sentence(s.Detail, fmt.Sprintf("%s on %s: %s.", wording.Upper(name), on, p.By().Facts().Words))
		s.Dur += time.Duration(p.Many()) * layerTime
	}
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
