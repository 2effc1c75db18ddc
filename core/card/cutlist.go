package card

import (
	"fmt"
	"strings"

	"chromaqua/core/length"
	"chromaqua/core/shelf"
)

// CutLine is one line of what is cut for a card.
type CutLine struct {
	What string
	Size length.Size
	Of   string // the paper, with its colour
	Note string // what is done with it, "" when nothing
}

// Text says it in one line, in unit u.
func (l CutLine) Text(u length.Unit) string {
	text := l.Size.With(u) + " of " + l.Of
	if l.Note != "" {
		text += ", " + l.Note
	}
	return text
}

// made is a paper of the shelf by name, with its colour.
func made(id, colour string) string {
	name := id
	if p, err := shelf.PaperByID(id); err == nil {
		name = p.Name
	}
	if colour != "" {
		name += ", " + colour
	}
	return name
}

// Made says what the base is cut from, with its colour.
func (b Base) Made() string { return made(b.Paper, b.Colour) }

// Made says what a layer is cut from, with its colour.
func (l Layer) Made() string { return made(l.Paper, l.Colour) }

// Made says what the leaf is cut from, with its colour.
func (i Insert) Made() string { return made(i.Paper, i.Colour) }

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
	base := CutLine{What: "base", Size: blank.Size, Of: c.Base.Made()}
	if len(blank.Scores) > 0 {
		base.Note = strings.Join(faces, " | ") + ", scored between, " + string(blank.Scores[0].Way) + " folds, grain along the fold"
	}
	out := []CutLine{base}
	for i, l := range c.Layers {
		line := CutLine{What: c.LayerName(i), Size: c.LayerSize(i), Of: l.Made()}
		if l.Kind == Frame {
			line.Note = "opening " + c.sizeOf(openingRing(i)).With(u)
		}
		out = append(out, line.die(l.Die))
	}
	if c.Insert != nil {
		out = append(out, CutLine{What: "insert", Size: c.InsertSize(), Of: c.Insert.Made()})
	}
	panel := CutLine{What: "panel", Size: c.SheetSize(), Of: c.PaperFacts().Name}
	switch {
	case c.Window != nil:
		panel.Size, panel.Note = c.PanelSize(), "out of the painted sheet "+c.Window.Title
	case c.Painting.Spare > 0:
		panel.Note = "to paint on; trimmed to " + c.PanelSize().With(u)
	}
	out = append(out, panel.die(c.Panel.Die))
	for _, s := range c.PieceSheets() {
		out = append(out, CutLine{What: s.What, Size: s.Size, Of: made(s.Paper, s.Colour), Note: s.Note})
	}
	return out
}

// PieceSheet is what one piece beside the panel is worked on, or several that share it.
type PieceSheet struct {
	What          string // the pieces
	Paper, Colour string
	Size          length.Size
	Many          int    // so many for one card
	Note          string // what is done with it, "" when nothing
}

// PieceSheets lists what is cut for the pieces beside the panel. The base is cut already.
func (c *Card) PieceSheets() (out []PieceSheet) {
	shared := map[string]int{} // place in out by the name of the sheet
	for i := range c.Pieces {
		p := &c.Pieces[i]
		if p.Kind == BasePiece || p.Kind == WholeCard {
			continue
		}
		size, many := c.SizeOf(p), p.Many()
		name := p.Name
		if many > 1 {
			name = fmt.Sprintf("%d × %s", many, p.Name)
		}
		at, known := shared[p.Sheet]
		switch {
		case p.Sheet != "" && known:
			out[at].What += ", " + name
			out[at].Note = "a sheet they share, cut out once they are done"
		case p.Sheet != "":
			shared[p.Sheet] = len(out)
			out = append(out, PieceSheet{name, p.Paper, p.Colour, c.SharedSheet(p.Sheet), 1, "cut out once it is done"})
		default:
			spare := 2 * p.Painting.Spare
			s := PieceSheet{name, p.Paper, p.Colour, length.Size{W: size.W + spare, H: size.H + spare}, many, ""}
			switch {
			case p.Outline != nil:
				s.Note = "cut along its line once it is done"
			case p.Die != nil:
				s.Note = "die of " + p.Die.Name
			case spare > 0:
				s.Note = "to paint on; trimmed to " + size.With(c.Unit)
			}
			out = append(out, s)
		}
	}
	return out
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
