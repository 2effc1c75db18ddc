package panel

import (
	"cmp"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
)

// What a line gives when water draws it out: so much of it carries a milk-strength load
// for a square centimetre. An estimate, for a line half a millimetre wide.
const (
	pullMM   = 25.0
	pullMM2  = 100.0
	mostOut  = 2.5  // the load beyond which paper takes no more: cream
	lineWide = 0.5  // mm
	pale     = 0.05 // of that is what a line gives that is meant to vanish
)

// Gives reports whether water draws colour out of an image, so that its ink does not hold.
func Gives(c *card.Card, m *card.Image) bool {
	k := c.InkOf(m)
	return m.Inked() && !k.Holds && k.Pulls != ""
}

// Fed is how much line that gives colour feeds an area, mm by image.
func (b *Board) Fed(area int) map[int]float64 {
	var giving []int
	for i := range b.Card.Images {
		if Gives(b.Card, &b.Card.Images[i]) {
			giving = append(giving, i)
		}
	}
	if len(giving) == 0 {
		return nil
	}
	out := map[int]float64{}
	later := b.Sheet.gridOf().under(b.Sheet, b.putOver(&b.Areas[area]))
	for _, id := range b.Areas[area].Cells {
		p := b.Part(id)
		length, cell := p.EdgeMM, id
		if p.Zone {
			length, cell = b.inkIn(id, later), 0
		}
		var by []int
		for i := range b.Card.Images {
			if b.Card.Images[i].Inked() && (cell == 0 && b.InkOver(i, []int{id}) || cell > 0 && b.Beside(i, cell)) {
				by = append(by, i)
			}
		}
		for _, i := range giving {
			switch {
			case b.Mass(id) == i:
				out[i] += p.AreaMM2 / lineWide // all of it is ink
			case slices.Contains(by, i):
				out[i] += length / float64(len(by))
			}
		}
	}
	return out
}

// Mass is the image whose mass a cell is, -1 for a cell that is paper.
func (b *Board) Mass(cell int) int {
	if b.masses == nil || cell < 1 || cell > len(b.masses) {
		return -1
	}
	return b.masses[cell-1] - 1
}

// OnMass reports whether an area lies on the mass of a solid: most of its cells do.
func (b *Board) OnMass(area int) (image int, ok bool) {
	image = -1
	on := 0.0
	for _, id := range b.Areas[area].Cells {
		if m := b.Mass(id); m >= 0 {
			image = m
			on += b.Part(id).AreaMM2
		}
	}
	return image, on > b.Areas[area].MM2/2
}

// massLoad is how much ink a solid's mass is, in general: as a wash of cream.
const massLoad = 2.5

// black is what the mass of an ink looks like that gives no colour to water.
const black = "PBk7"

// under is the mass an area lies on.
func (b *Board) under(area int) pigment.Coat {
	i, ok := b.OnMass(area)
	if !ok {
		return pigment.Coat{}
	}
	m := &b.Card.Images[i]
	return pigment.Coat{Paint: b.palette.Paint(cmp.Or(b.Card.InkOf(m).Pulls, black)), Load: pigment.Load(massLoad * GhostShare(m.Ghost))}
}

// inkIn is how long the line is that a piece of a zone covers, mm: its squares that are no
// cell, but for those of what is put over it later.
func (b *Board) inkIn(part int, later []bool) float64 {
	g := b.Sheet.gridOf()
	n := 0
	for i, s := range b.overlay.sig {
		if g.bare[i] == 0 && s > 0 && (later == nil || !later[i]) && slices.Contains(b.overlay.patches[s-1].Parts, part) {
			n++
		}
	}
	return float64(n) * gridMM / lineSquares
}

// lineSquares is how many squares a line of half a millimetre is wide.
const lineSquares = lineWide / gridMM

// Pulled is what water draws out of the line into an area: the ink's own colour, as much as
// the length of line that feeds it gives; no load where none does.
func (b *Board) Pulled(area int) pigment.Coat {
	fed := b.Fed(area)
	var parts []pigment.Part
	sum := 0.0
	for i := range b.Card.Images { // in their order
		if mm := fed[i]; mm > 0 {
			if b.Card.LookOf(&b.Card.Images[i]) == shelf.Vanishing {
				mm *= pale
			}
			parts = append(parts, pigment.Part{Paint: b.palette.Paint(b.Card.InkOf(&b.Card.Images[i]).Pulls), Parts: mm})
			sum += mm
		}
	}
	paint, err := pigment.Mix(parts...)
	if err != nil || b.Areas[area].MM2 == 0 {
		return pigment.Coat{}
	}
	return pigment.Coat{Paint: paint, Load: pigment.Load(min(mostOut, sum/pullMM*pullMM2/b.Areas[area].MM2))}
}

// Tint is how far the line shifts the colour of an area that is washed over it, ΔE00: half of
// what water would draw out of it goes into the first wash that covers.
func (b *Board) Tint(area int) float64 {
	a := &b.Areas[area]
	k := slices.IndexFunc(a.Washes, func(w card.Wash) bool { return w.Technique.Covers() && w.Technique.Laid() >= drying.DampBrush })
	if k < 0 || a.palette.pulled.Load == 0 {
		return 0
	}
	coat, ground := a.palette.Coat(a.Washes[k]), Ground(a.palette.Paper)
	ink := a.palette.pulled
	ink.Load /= 2
	tinted := labOf(pigment.Stack(ground, coat.With(ink)))
	return pigment.Difference(labOf(pigment.Stack(ground, coat)), tinted)
}

func labOf(r pigment.Spectrum) pigment.Lab {
	seen := pigment.Seen(r, pigment.Dry)
	return seen.Lab()
}
