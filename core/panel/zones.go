package panel

import (
	"fmt"
	"image"
	"math"
	"slices"
	"strings"
	"sync"

	"chromaqua/core/card"
	"chromaqua/core/grey"
	"chromaqua/core/lineart"
)

// Zones are laid out on a grid that is coarser than the scan: a wash ends no more exactly.
const (
	gridMM       = 0.3  // a square of it
	grownSquares = 3    // half of acrossMM, up
	leastMM2     = 1.0  // of a part or patch; a smaller one goes to what it borders most
	leastWide    = 0.25 // radius that has to fit into a part, mm
	// MaxPatches is how many patches a piece is parted into; smaller ones go to what they
	// border until there are no more.
	MaxPatches = 4096
)

// A Part is what an area paints as one: a cell, or a connected piece of a zone. The ids of
// pieces of zones follow those of the cells.
type Part struct {
	lineart.Cell
	EdgeMM  float64 // of its outline
	TightMM float64 // of that is curved tightly
	Outline lineart.Outline
	Zone    bool
}

// Part returns a cell, or a piece of a zone, by its id.
func (b *Board) Part(id int) Part {
	if n := len(b.Cells); id > n {
		return b.overlay.parts[id-n-1]
	}
	p := Part{Cell: b.Cells[id-1], EdgeMM: b.Edges[id-1]}
	if id <= len(b.Tight) { // sheets that were not read know less
		p.TightMM = b.Tight[id-1]
	}
	if id <= len(b.Shapes) {
		p.Outline = b.Shapes[id-1]
	}
	return p
}

// A grid is a sheet in squares.
type grid struct {
	w, h int
	cell []uint16 // by square, grown under the line; 0 where that is too thick
	bare []uint16 // the same, 0 on the line
}

// gridOf is the sheet in squares, made once.
func (s *Sheet) gridOf() *grid {
	if s.squares == nil { // it was not read
		return newGrid(s.Drawing)
	}
	s.once.Do(func() { s.grid = newGrid(s.Drawing) })
	return s.grid
}

func newGrid(d *lineart.Drawing) *grid {
	px := gridMM / 25.4 * d.DPI
	g := &grid{w: max(1, int(math.Ceil(float64(d.W)/px))), h: max(1, int(math.Ceil(float64(d.H)/px)))}
	g.bare = make([]uint16, g.w*g.h)
	for y := range g.h {
		py := min(d.H-1, int((float64(y)+0.5)*px))
		for x := range g.w {
			g.bare[y*g.w+x] = d.Labels[py*d.W+min(d.W-1, int((float64(x)+0.5)*px))]
		}
	}
	g.cell = slices.Clone(g.bare)
	for range grownSquares { // cells meet halfway under the line
		from := slices.Clone(g.cell)
		for i, c := range from {
			if c != 0 {
				continue
			}
			x, y := i%g.w, i/g.w
			for _, k := range [4]int{i - 1, i + 1, i - g.w, i + g.w} {
				if k >= 0 && k < len(from) && (k/g.w == y || k%g.w == x) && from[k] != 0 {
					g.cell[i] = from[k]
					break
				}
			}
		}
	}
	return g
}

// leavesOut reports whether the outline of a zone of that shape is what it leaves out.
func leavesOut(s card.Shape) bool { return s == card.Rest || s == card.Rim }

// ZoneOutline is what a zone covers on its piece, mm from the top left corner; for [card.Rest]
// and [card.Rim] what it leaves out.
func ZoneOutline(c *card.Card, z *card.Zone) []lineart.Point {
	size := c.PanelSize()
	w, h := size.W.MM(), size.H.MM()
	var at []lineart.Point
	m, err := c.ImageByID(z.On)
	for _, p := range z.Points {
		if err == nil {
			at = append(at, OnPanel(m, p))
		} else {
			at = append(at, lineart.Point{X: p.U * w, Y: p.V * w})
		}
	}
	switch z.Shape {
	case card.All:
		return []lineart.Point{{X: -1, Y: -1}, {X: w + 1, Y: -1}, {X: w + 1, Y: h + 1}, {X: -1, Y: h + 1}}
	case card.Along, card.DotsAt, card.Outlines: // they have no inside
		return nil
	case card.Rim:
		in := z.Width.MM()
		if 2*in >= min(w, h) { // nothing is left out
			return []lineart.Point{{X: -1, Y: -1}, {X: -1, Y: -2}, {X: -2, Y: -1}}
		}
		return []lineart.Point{{X: in, Y: in}, {X: w - in, Y: in}, {X: w - in, Y: h - in}, {X: in, Y: h - in}}
	case card.Below:
		return band(across(at, w), []lineart.Point{{X: -1, Y: h + 1}, {X: w + 1, Y: h + 1}})
	case card.Above:
		return band(across(at, w), []lineart.Point{{X: -1, Y: -1}, {X: w + 1, Y: -1}})
	case card.Middle:
		return band(across(at[:len(at)/2], w), across(at[len(at)/2:], w))
	}
	return at
}

// across is a line from the left edge to the right, as it is drawn and on from its ends.
func across(line []lineart.Point, wide float64) []lineart.Point {
	line = slices.Clone(line)
	if line[0].X > line[len(line)-1].X {
		slices.Reverse(line)
	}
	first, last := line[0], line[len(line)-1]
	out := append([]lineart.Point{{X: min(-1, first.X), Y: first.Y}}, line...)
	return append(out, lineart.Point{X: max(wide+1, last.X), Y: last.Y})
}

// band is what lies between two lines from left to right.
func band(a, b []lineart.Point) []lineart.Point {
	out := slices.Clone(a)
	for _, p := range slices.Backward(b) {
		out = append(out, p)
	}
	return out
}

// covers marks what a zone covers, and returns the box of squares it may lie in. own marks
// the cells it is kept within, free where it goes through the drawing though it goes round
// that; nil for nowhere.
func (g *grid) covers(c *card.Card, z *card.Zone, s *Sheet, own, free, in []bool) image.Rectangle {
	whole := image.Rect(0, 0, g.w, g.h)
	switch z.Shape {
	case card.Along, card.DotsAt:
		g.drawn(c, z, in)
		return whole
	case card.Outlines:
		g.outlined(z, own, in)
		return whole
	}
	mask := grey.Fill(whole, [][]lineart.Point{ZoneOutline(c, z)}, func(p lineart.Point) (x, y float64) { return p.X / gridMM, p.Y / gridMM })
	box := image.Rectangle{}
	if mask != nil {
		box = mask.Rect
	}
	if leavesOut(z.Shape) {
		box = whole
	}
	for y := box.Min.Y; y < box.Max.Y; y++ {
		for x := box.Min.X; x < box.Max.X; x++ {
			i := y*g.w + x
			inside := mask != nil && image.Pt(x, y).In(mask.Rect) && mask.Pix[mask.PixOffset(x, y)] > 127
			if inside == leavesOut(z.Shape) {
				continue
			}
			if z.Round && (free == nil || !free[i]) && (g.bare[i] == 0 || !s.Cells[g.bare[i]-1].Outside) {
				continue
			}
			in[i] = true
		}
	}
	return box
}

// A zoned is the connected pieces of an area's zones: where they lie, by square of a box,
// numbered from 1. Their ids are those numbers.
type zoned struct {
	thin  bool // drawn by hand, however narrow
	parts []Part
	box   image.Rectangle
	at    []uint16
}

// putOver are the images that are put over an area, which goes on below them.
func (b *Board) putOver(a *Area) (out []int) {
	for i := range b.Card.Images {
		id := b.Card.Images[i].ID
		if slices.ContainsFunc(b.Card.Over, func(o card.Over) bool { return o.Above.Of() == id && o.Below.Of() == a.ID }) {
			out = append(out, i)
		}
	}
	return out
}

// under marks the squares that some images cover and no others do; nil where there are none.
func (g *grid) under(s *Sheet, images []int) []bool {
	if len(images) == 0 {
		return nil
	}
	out := make([]bool, len(g.cell))
	if len(s.Laid) == 1 { // alone on the piece, it has no silhouette of its own
		for i := range out {
			out[i] = true
		}
		return out
	}
	whole := image.Rect(0, 0, g.w, g.h)
	mark := func(i int, free bool) {
		mask := grey.Fill(whole, s.Laid[i].Silhouette.Rings, func(p lineart.Point) (x, y float64) { return p.X / gridMM, p.Y / gridMM })
		if mask == nil {
			return
		}
		for y := mask.Rect.Min.Y; y < mask.Rect.Max.Y; y++ {
			for x := mask.Rect.Min.X; x < mask.Rect.Max.X; x++ {
				if mask.Pix[mask.PixOffset(x, y)] > 127 {
					out[y*g.w+x] = free
				}
			}
		}
	}
	for _, i := range images {
		mark(i, true)
	}
	for i := range s.Laid {
		if !slices.Contains(images, i) {
			mark(i, false)
		}
	}
	return out
}

// zoneParts are the connected pieces of an area's zones, within cells when it has some.
func (b *Board) zoneParts(a *Area, cells []int) *zoned {
	g := b.Sheet.gridOf()
	in := make([]bool, len(g.cell))
	box := image.Rectangle{}
	own, thin := make([]bool, len(b.Cells)+1), false
	free := g.under(b.Sheet, b.putOver(a))
	for _, id := range cells {
		own[id] = true
	}
	for _, id := range a.Zones {
		if z, err := b.Card.ZoneByID(id); err == nil {
			box = box.Union(g.covers(b.Card, z, b.Sheet, own, free, in))
			thin = thin || z.Shape.Drawn()
		}
	}
	w, h := box.Dx()+2, box.Dy()+2 // with bare squares round it
	crop := make([]bool, w*h)
	for y := range box.Dy() {
		for x := range box.Dx() {
			i := (box.Min.Y+y)*g.w + box.Min.X + x
			crop[(y+1)*w+x+1] = in[i] && (len(cells) == 0 || own[g.bare[i]])
		}
	}
	out := &zoned{thin: thin, box: image.Rect(box.Min.X-1, box.Min.Y-1, box.Max.X+1, box.Max.Y+1)}
	n := 0
	out.at, n = connected(crop, w)
	to := make([]uint16, n+1)
	for i, r := range lineart.Regions(out.at, w, h, gridMM, n) {
		if !thin && (r.AreaMM2 < leastMM2 || r.InscribedMM < leastWide) || r.AreaMM2 == 0 {
			continue
		}
		shift(&r, float64(out.box.Min.X)*gridMM, float64(out.box.Min.Y)*gridMM)
		to[i+1] = uint16(len(out.parts) + 1)
		out.parts = append(out.parts, Part{
			Cell:   lineart.Cell{ID: len(out.parts) + 1, AreaMM2: r.AreaMM2, Label: r.Label, InscribedMM: r.InscribedMM, NarrowestMM: 2 * r.InscribedMM},
			EdgeMM: r.Outline.Length(), TightMM: tightLength(r.Outline), Outline: r.Outline, Zone: true,
		})
	}
	for i, l := range out.at {
		out.at[i] = to[l]
	}
	return out
}

// shift moves a region.
func shift(r *lineart.Region, x, y float64) {
	r.Label.X, r.Label.Y = r.Label.X+x, r.Label.Y+y
	for _, ring := range r.Outline.Rings {
		for i := range ring {
			ring[i].X, ring[i].Y = ring[i].X+x, ring[i].Y+y
		}
	}
}

// connected numbers the connected pieces of what is marked, from 1.
func connected(in []bool, w int) (out []uint16, n int) {
	out = make([]uint16, len(in))
	var todo []int
	for i := range in {
		if !in[i] || out[i] != 0 || n == math.MaxUint16 {
			continue
		}
		n++
		out[i] = uint16(n)
		todo = append(todo[:0], i)
		for len(todo) > 0 {
			at := todo[len(todo)-1]
			todo = todo[:len(todo)-1]
			x := at % w
			for _, k := range [4]int{at - 1, at + 1, at - w, at + w} {
				if k < 0 || k >= len(in) || k == at-1 && x == 0 || k == at+1 && x == w-1 || !in[k] || out[k] != 0 {
					continue
				}
				out[k] = uint16(n)
				todo = append(todo, k)
			}
		}
	}
	return out, n
}

// squares is a sheet in squares with what was laid over it last: zones are drawn once and
// painted often.
type squares struct {
	once sync.Once
	grid *grid

	mu    sync.Mutex
	zones map[string]*zoned
	over  map[string]*overlay
	made  map[string]any // by others, of what they name themselves
}

// keptOverlays bounds what is kept of one sheet.
const keptOverlays = 64

// kept is what was made under a key before, or is made now; all is forgotten when there is
// too much of it.
func kept[T any](mu *sync.Mutex, all *map[string]T, key string, made func() T) T {
	mu.Lock()
	v, ok := (*all)[key]
	mu.Unlock()
	if ok {
		return v
	}
	v = made()
	mu.Lock()
	defer mu.Unlock()
	if *all == nil || len(*all) >= keptOverlays {
		*all = map[string]T{}
	}
	(*all)[key] = v
	return v
}

// zonesOf are the pieces of an area's zones within cells, and what names them.
func (b *Board) zonesOf(a *Area, cells []int) (*zoned, string) {
	if b.Sheet.squares == nil {
		return b.zoneParts(a, cells), ""
	}
	key := strings.Builder{}
	fmt.Fprint(&key, b.Card.PanelSize(), cells, b.putOver(a))
	for _, id := range a.Zones {
		z, err := b.Card.ZoneByID(id)
		if err != nil {
			continue
		}
		fmt.Fprint(&key, z.Shape, z.Round, z.Width, z.Breaks, z.Points)
		if m, err := b.Card.ImageByID(z.On); err == nil {
			fmt.Fprint(&key, m.Width, m.HeightPX, m.WidthPX, m.X, m.Y, m.Turn, m.Mirror)
		}
	}
	s := b.Sheet.squares
	return kept(&s.mu, &s.zones, key.String(), func() *zoned { return b.zoneParts(a, cells) }), key.String()
}
