package card

import (
	"fmt"
	"strings"

	"chromaqua/core/length"
)

// CutLine is one line of what is cut for a card.
type CutLine struct {
	What string
	Size length.Size
	Note string // what is done with it, "" when nothing
}

// CutList lists what is cut for the card, in the order it is put together.
func (c *Card) CutList() []CutLine {
	u := c.Unit
	blank := c.Blank()
	var faces []string
	for _, f := range blank.Faces {
		across := f.Size.W
		if len(blank.Scores) > 0 && blank.Scores[0].Runs == "horizontal" {
			across = f.Size.H
		}
		faces = append(faces, f.Name+" "+across.With(u))
	}
	base := CutLine{What: "base", Size: blank.Size}
	if len(blank.Scores) > 0 {
		base.Note = strings.Join(faces, " | ") + ", scored between, " + string(blank.Scores[0].Way) + " folds, grain along the fold"
	}
	out := []CutLine{base}
	for i, l := range c.Layers {
		line := CutLine{What: c.LayerName(i), Size: c.LayerSize(i)}
		if l.Kind == Frame {
			line.Note = "opening " + c.sizeOf(openingRing(i)).With(u)
		}
		out = append(out, line.die(l.Die))
	}
	if c.Insert != nil {
		out = append(out, CutLine{What: "insert", Size: c.InsertSize()})
	}
	panel := CutLine{What: "panel", Size: c.SheetSize()}
	switch {
	case c.Window != nil:
		panel.Size, panel.Note = c.PanelSize(), "out of the painted sheet "+c.Window.Title
	case c.Painting.Spare > 0:
		panel.Note = "to paint on; trimmed to " + c.PanelSize().With(u)
	}
	return append(out, panel.die(c.Panel.Die))
}

func (l CutLine) die(d *DieSet) CutLine {
	if d == nil {
		return l
	}
	if l.Note != "" {
		l.Note += ", "
	}
	l.Note += fmt.Sprintf("die of %s", d.Name)
	return l
}
