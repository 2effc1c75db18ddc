package card

import (
	"slices"

	"chromaqua/core/fold"
	"chromaqua/core/joint"
	"chromaqua/core/length"
	"chromaqua/core/shelf"
)

// ringBody is about what an envelope meets of the card when only its rings are known, each
// held by what is chosen, or by the thickest that lies flat; what stands on it counts as if
// it stood all over the panel.
func (c *Card) ringBody(layout Layout) fold.Body {
	held := func(by joint.By, high length.Length) length.Length {
		if by == joint.Usual {
			by = joint.Strong
		}
		return by.Stands(high)
	}
	front := layout[0].Size
	b := fold.Body{Front: front, Thick: paperNamed(c.Base.Paper).Thickness * length.Length(c.Base.Fold.Layers())}
	if c.Insert != nil {
		b.Thick += held(joint.Usual, 0) + paperNamed(c.Insert.Paper).Thickness
	}
	var x, y length.Length
	top, panel := b.Thick, fold.Slab{}
	for _, r := range layout {
		x, y = x+r.Round.Left, y+r.Round.Top
		s, _ := c.SizingOf(r.ID)
		if s == nil {
			continue
		}
		paper := c.PaperFacts()
		if r.Kind != PanelKind {
			paper = paperNamed(c.Layers[r.Layer].Paper)
		}
		slab := fold.Slab{X: x, Y: y, Size: r.Size, Bottom: top}
		top += held(s.By, s.High) + paper.Thickness
		slab.Top = top
		b.On = append(b.On, slab)
		if r.Kind == PanelKind {
			panel = slab
		}
	}
	if high := max(c.Highest(), c.rises()); high > 0 {
		panel.Bottom, panel.Top = panel.Top, panel.Top+high
		b.On = append(b.On, panel)
	}
	return b
}

// rises is about how high pieces stand on the panel, whatever they measure.
func (c *Card) rises() (high length.Length) {
	for i := range c.Pieces {
		sum := length.Length(0)
		on := &c.Pieces[i]
		for ; on != nil && on.Place != nil; on, _ = c.PieceByID(on.Place.On) {
			by := on.Place.By
			if by == joint.Usual && on.Kind.Facts().Raised {
				by = joint.Foam
			}
			sum += by.Stands(on.Place.High) + on.PaperFacts().Thickness*length.Length(1+on.Layers)
			if slices.Contains(Faces(), Face(on.Place.On)) {
				break
			}
		}
		high = max(high, sum)
	}
	return high
}

func paperNamed(id string) shelf.Paper {
	p, err := shelf.PaperByID(id)
	if err != nil {
		return shelf.Papers()[0]
	}
	return p
}

// SizingOf is how the panel, or a mat or frame by the id of its ring, is sized and held, with
// what it is called; nil for what is neither.
func (c *Card) SizingOf(ring string) (*Sizing, string) {
	if ring == PanelRing {
		return &c.Panel, PanelRing
	}
	for i := range c.Layers {
		if layerRing(i) == ring {
			return &c.Layers[i].Sizing, c.LayerName(i)
		}
	}
	return nil, ""
}

// FaceSize is the size of what pieces may lie on: the panel, a face of the base or its leaf,
// or a piece.
func (c *Card) FaceSize(on string) length.Size {
	if p, err := c.PieceByID(on); err == nil {
		return c.SizeOf(p)
	}
	switch {
	case Face(on) == InsideRight && c.Insert != nil:
		return c.InsertSize()
	case slices.Contains(Faces(), Face(on)):
		return c.Front()
	}
	return c.PanelSize()
}
