// Package panel answers "what is on the panel?": it lays the line image on the
// sheet, finds which cell each area of a card means, which areas touch, and
// how their washes look wet, dry and in grey.
package panel

import (
	"context"
	"fmt"
	"image"
	"math"
	"slices"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/lineart"
	"chromaqua/core/shelf"
)

// Sheet is what lies on the panel, read into cells. It depends on the panel's
// size and its images, not on how cells are gathered. Without an image all of it is one
// cell.
type Sheet struct {
	*lineart.Drawing
	Grey   *image.Gray       // what is seen on the paper
	Edges  []float64         // length of each cell's outline, mm; Edges[i] for cell i+1
	Tight  []float64         // how much of that is curved tightly, so that a brush is led slowly
	Shapes []lineart.Outline // the cells grown under the line
	Laid   []Laid            // by image of the card
	masses []int             // whose mass a cell is, the image from 1, 0 for none; masses[i] for cell i+1
	lines  *lines
	*squares
}

// Read composes the card's panel from the scans of its images and finds the
// cells; see [Compose] and [lineart.Find].
func Read(ctx context.Context, c *card.Card, scans Scans, progress lineart.Progress) (*Sheet, error) {
	if c.Line() == nil {
		return bare(c)
	}
	made, err := Compose(ctx, c, scans)
	if err != nil {
		return nil, err
	}
	d, err := lineart.FindCorrected(ctx, made.Found, made.DPI, corrections(c), progress)
	if err != nil {
		return nil, err
	}
	return sheetOf(d, made), nil
}

// CutLine is the outline of all that an image of the card covers, along which it is cut out.
func (s *Sheet) CutLine(i int) lineart.Outline {
	if len(s.Laid) == 1 {
		return s.Silhouette() // which is not kept for one alone
	}
	return s.Laid[i].Silhouette
}

// bare is a panel on which nothing lies.
func bare(c *card.Card) (*Sheet, error) {
	k := composer{card: c, Composed: Composed{DPI: MinDPI}}
	if err := k.blank(); err != nil {
		return nil, err
	}
	d, err := lineart.Blank(k.Found.Rect.Dx(), k.Found.Rect.Dy(), k.DPI)
	if err != nil {
		return nil, err
	}
	return sheetOf(d, &k.Composed), nil
}

func sheetOf(d *lineart.Drawing, made *Composed) *Sheet {
	s := &Sheet{Drawing: d, Grey: made.Shown, Shapes: d.Shapes(), Laid: made.Laid, lines: linesOf(d, made.inked), squares: &squares{}}
	if made.mass != nil {
		s.masses = make([]int, len(d.Cells))
		for i, c := range d.Cells {
			x, y := int(c.Label.X/25.4*made.DPI), int(c.Label.Y/25.4*made.DPI)
			s.masses[i] = int(made.mass[y*made.Found.Rect.Dx()+x])
		}
	}
	for _, o := range d.Outlines() {
		s.Edges, s.Tight = append(s.Edges, o.Length()), append(s.Tight, tightLength(o))
	}
	return s
}

// corrections are those that concern cells rather than the line.
func corrections(c *card.Card) lineart.Corrections {
	by := lineart.Corrections{LeastMM2: c.Specks}
	for i := range c.Images {
		for _, m := range c.Images[i].Marks {
			if m.Kind == card.Join {
				by.Joined = append(by.Joined, [2]lineart.Point{OnPanel(&c.Images[i], m.Points[0]), OnPanel(&c.Images[i], m.Points[1])})
			}
		}
	}
	return by
}

// Board is a card with its cells: what everything after the Line station
// computes from.
type Board struct {
	*Sheet
	Card     *card.Card
	Areas    []Area
	Touching []Touch
	Deeds    []card.Deed // what lies over what, bottom first
	Reserves []Reserve   // what is kept white or pale
	owner    []int       // number of each cell's area, from 1; 0 when it is free; owner[i] for cell i+1
	place    map[card.Ref]int
	overlay  *overlay // nil without zones
	palette  Palette
}

// AreaOf returns the index of the area a cell belongs to; it is free when ok is false.
func (b *Board) AreaOf(cell int) (area int, ok bool) {
	if cell > len(b.owner) { // a piece of a zone
		return 0, false
	}
	n := b.owner[cell-1]
	return n - 1, n > 0
}

// Free lists the cells inside the drawing that belong to no area, and over which none
// lies.
func (b *Board) Free() (out []int) {
	over := map[int]bool{}
	for _, a := range b.Areas {
		if !a.Lies {
			continue
		}
		for _, id := range b.PatchesOf(a.Cells) {
			over[b.cellOf(id)] = true
		}
	}
	for _, c := range b.Cells {
		if _, owned := b.AreaOf(c.ID); !owned && !c.Outside && !over[c.ID] && !b.isKept(c.ID) && b.Mass(c.ID) < 0 {
			out = append(out, c.ID)
		}
	}
	return out
}

// Area is one of the card's areas as it lies on the panel.
type Area struct {
	*card.Area
	Cells       []int // ids of cells, or of pieces of its zones
	MM2         float64
	EdgeMM      float64       // total outline
	InscribedMM float64       // radius that fits its smallest cell
	Centre      lineart.Point // label point of its largest cell
	Lost        []card.Spot   // cells it speaks of that are no longer found
	tried       bool
	palette     Palette
}

// Palette is what its colours are made of, with what the line beside it gives to water.
func (a *Area) Palette() Palette { return a.palette }

// Touch is a pair of areas, as indices, that have cells in contact.
type Touch struct {
	A, B     int
	BorderMM float64
	LineMM   float64 // median thickness of the line between them
}

// Resolve finds the cells each area of c means on the sheet.
func Resolve(c *card.Card, s *Sheet) *Board {
	b := &Board{Card: c, Sheet: s, owner: make([]int, len(s.Cells)), palette: PaletteOf(c), place: map[card.Ref]int{}}
	b.Deeds, _ = c.Deeds() // cards that are kept have passed Check
	for i, d := range b.Deeds {
		b.place[d.Ref] = i
	}
	for i := range c.Areas {
		b.Areas = append(b.Areas, Area{Area: &c.Areas[i], palette: b.palette})
	}
	// Spots that still lie on a cell come first; only then may the others take
	// what is left.
	for _, find := range []func(card.Spot) int{b.cellAt, b.nearest} {
		for i := range b.Areas {
			a := &b.Areas[i]
			spots := a.Area.Cells
			if a.tried {
				spots = a.Lost
			}
			a.tried, a.Lost = true, nil
			for _, s := range spots {
				id := find(s)
				if id == 0 || !a.Lies && b.owner[id-1] != 0 || slices.Contains(a.Cells, id) {
					a.Lost = append(a.Lost, s)
					continue
				}
				if !a.Lies {
					b.owner[id-1] = i + 1
				}
				a.add(b.Part(id))
			}
		}
	}
	b.lieOver()
	for i := range b.Areas {
		b.Areas[i].palette.under = b.under(i)
		b.Areas[i].palette.pulled = b.Pulled(i)
	}
	b.Touching = b.touching()
	return b
}

// lieOver finds the pieces of zones of the areas that have some, in place of the cells
// they are kept within.
func (b *Board) lieOver() {
	var zones []*zoned
	var names strings.Builder
	n := 0
	for i := range b.Areas {
		a := &b.Areas[i]
		if len(a.Zones) == 0 {
			continue
		}
		within := a.Cells
		a.Cells, a.MM2, a.EdgeMM, a.InscribedMM, a.Centre = nil, 0, 0, 0, lineart.Point{}
		if len(within) == 0 && len(a.Area.Cells) > 0 {
			continue // all it is kept within is lost
		}
		z, name := b.zonesOf(a, within)
		names.WriteString(name + "\n")
		for _, p := range z.parts {
			n++
			p.ID = len(b.Cells) + n
			a.add(p)
		}
		zones = append(zones, z)
	}
	reserved, parts, more := b.reserveZones(n)
	defer func() { b.reserve(parts) }()
	zones = append(zones, reserved...)
	if n == 0 && len(b.Card.Reserves) == 0 {
		return
	}
	fmt.Fprint(&names, more, b.raised(), b.Card.Over)
	if s := b.Sheet.squares; s != nil {
		b.overlay = kept(&s.mu, &s.over, names.String(), func() *overlay { return b.layOver(zones) })
	} else {
		b.overlay = b.layOver(zones)
	}
}

func (a *Area) add(p Part) {
	if len(a.Cells) == 0 || p.InscribedMM < a.InscribedMM {
		a.InscribedMM = p.InscribedMM
	}
	if len(a.Cells) == 0 { // cells are kept largest first
		a.Centre = p.Label
	}
	a.Cells = append(a.Cells, p.ID)
	a.MM2 += p.AreaMM2
	a.EdgeMM += p.EdgeMM
}

// cellAt returns the cell a spot lies on, 0 when that is none.
func (b *Board) cellAt(s card.Spot) int { return b.At(b.point(s)) }

// nearest returns the free cell of much the same size whose label point is
// nearest to a spot that has come to lie on a line or off the panel; 0 when
// there is none near. The outside may lie far off: its label point wanders.
func (b *Board) nearest(s card.Spot) int {
	const reach = 6 // mm
	p := b.point(s)
	best, least := 0, math.Inf(1)
	for i, c := range b.Cells {
		if b.owner[i] > 0 || c.AreaMM2 < 0.6*s.MM2 || c.AreaMM2 > 1.7*s.MM2 {
			continue
		}
		if d := math.Hypot(c.Label.X-p.X, c.Label.Y-p.Y); d < least && (d < reach || c.Outside) {
			best, least = c.ID, d
		}
	}
	return best
}

// point returns where on the panel a spot lies, mm.
func (b *Board) point(s card.Spot) lineart.Point {
	if s.On == "" {
		wide := b.Card.PanelSize().W.MM()
		return lineart.Point{X: s.U * wide, Y: s.V * wide}
	}
	m, err := b.Card.ImageByID(s.On)
	if err != nil {
		panic("panel: unchecked card: " + err.Error())
	}
	return OnPanel(m, s.UV)
}

// under returns the image that a place of the panel goes with: the one in front
// of those whose drawing covers it, or else the nearest; nil where there is none.
func (s *Sheet) under(c *card.Card, p lineart.Point) *card.Image {
	best, least := c.Line(), math.Inf(1)
	for i := range s.Laid {
		if d := s.Laid[i].far(p); d < least {
			best, least = &c.Images[i], d
		}
	}
	return best
}

// SpotOf returns the spot that points at a cell.
func (b *Board) SpotOf(id int) card.Spot {
	c := b.Cells[id-1]
	at := card.Spot{MM2: math.Round(c.AreaMM2*100) / 100}
	if m := b.Sheet.under(b.Card, c.Label); m != nil {
		at.On, at.UV = m.ID, OnImage(m, c.Label)
	} else {
		wide := b.Card.PanelSize().W.MM()
		at.UV = card.UV{U: c.Label.X / wide, V: c.Label.Y / wide}
	}
	return at
}

// UVOn is a point of the piece on one of its images, or on the piece itself, as a [card.Spot]
// on it has it.
func (b *Board) UVOn(image string, p lineart.Point) card.UV {
	if m, err := b.Card.ImageByID(image); err == nil {
		return OnImage(m, p)
	}
	wide := b.Card.PanelSize().W.MM()
	return card.UV{U: p.X / wide, V: p.Y / wide}
}

// Pointed is the cell that a spot points at, 0 for none.
func (b *Board) Pointed(s card.Spot) int { return b.cellAt(s) }

// PlaceOf is where a place on one of the images lies, or one on the piece itself, mm.
func (b *Board) PlaceOf(image string, at card.UV) lineart.Point {
	return b.point(card.Spot{On: image, UV: at})
}

// Called is what a cell is called: as the area that holds it, else by its number.
func (b *Board) Called(cell int) string {
	if a := b.HolderOf(cell); a != nil {
		return a.Name
	}
	return fmt.Sprintf("cell %d", cell)
}

// HolderOf returns the area that holds a cell, nil when it is free or there is none.
func (b *Board) HolderOf(cell int) *card.Area {
	if cell < 1 || cell > len(b.owner) {
		return nil
	}
	if i, owned := b.AreaOf(cell); owned {
		return b.Areas[i].Area
	}
	return nil
}

// Assign makes cells belong to the area with that id, taking them from
// whichever area had them; with an empty id they become free. The board's card
// is changed; resolve it again to see the result.
func (b *Board) Assign(areaID string, cells []int) error {
	to := 0 // its number
	for i, a := range b.Card.Areas {
		if a.ID == areaID {
			to = i + 1
		}
	}
	if to == 0 && areaID != "" {
		_, err := b.Card.AreaByID(areaID)
		return err
	}
	for _, id := range cells {
		if id < 1 || id > len(b.Cells) {
			return fmt.Errorf("there is no cell %d on this panel; the line was changed meanwhile, choose the cells again", id)
		}
	}
	if to > 0 && b.Card.Areas[to-1].Lies {
		return b.lieOn(&b.Card.Areas[to-1], cells)
	}
	for _, id := range cells {
		b.owner[id-1] = to
	}
	for i := range b.Card.Areas {
		if b.Card.Areas[i].Lies {
			continue // it takes no cell from others, and loses none to them
		}
		b.Card.Areas[i].Cells = []card.Spot{}
		if i < len(b.Areas) { // one that was just added has none yet
			b.Card.Areas[i].Cells = append(b.Card.Areas[i].Cells, b.Areas[i].Lost...)
		}
	}
	for i, n := range b.owner {
		if n > 0 {
			a := &b.Card.Areas[n-1]
			a.Cells = append(a.Cells, b.SpotOf(i+1))
		}
	}
	return nil
}

// lieOn lets an area that lies over others cover cells too.
func (b *Board) lieOn(a *card.Area, cells []int) error {
	if len(a.Zones) > 0 && len(a.Cells) == 0 {
		return fmt.Errorf("%q goes wherever its zone reaches; draw a zone within cells instead", a.Name)
	}
	for _, id := range cells {
		s := b.SpotOf(id)
		if !slices.ContainsFunc(a.Cells, func(o card.Spot) bool { return o.On == s.On && o.UV == s.UV }) {
			a.Cells = append(a.Cells, s)
		}
	}
	return nil
}

// touching sums up the contacts between cells of different areas.
func (b *Board) touching() []Touch {
	at := map[Touch]int{} // by the pair
	var out []Touch
	for _, n := range b.Neighbours {
		x, okX := b.AreaOf(n.A)
		y, okY := b.AreaOf(n.B)
		if !okX || !okY || x == y {
			continue
		}
		k := Touch{A: min(x, y), B: max(x, y)}
		i, ok := at[k]
		if !ok {
			i = len(out)
			at[k] = i
			out = append(out, Touch{A: k.A, B: k.B, LineMM: n.LineMed})
		}
		out[i].BorderMM += n.BorderMM
		out[i].LineMM = min(out[i].LineMM, n.LineMed)
	}
	return out
}

// OnStencil reports whether an area is painted through a stencil: all its cells
// lie on one.
func (b *Board) OnStencil(area int) bool {
	spots := b.Areas[area].Area.Cells
	for _, s := range spots {
		if m, err := b.Card.ImageByID(s.On); err != nil || !m.Is(shelf.Stencil) {
			return false
		}
	}
	return len(spots) > 0
}
