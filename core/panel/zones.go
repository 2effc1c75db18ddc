package panel

import (
	"image"
	"math"
	"slices"
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

// ZoneOutline is what a zone covers on its piece, mm from the top left corner; for [card.Rest]
// what it leaves out.
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

// covers marks what a zone covers.
func (g *grid) covers(c *card.Card, z *card.Zone, s *Sheet, in []bool) {
	mask := grey.Fill(image.Rect(0, 0, g.w, g.h), [][]lineart.Point{ZoneOutline(c, z)}, func(p lineart.Point) (x, y float64) { return p.X / gridMM, p.Y / gridMM })
	for i := range in {
		inside := mask != nil && mask.AlphaAt(i%g.w, i/g.w).A > 127
		if inside == (z.Shape == card.Rest) {
			continue
		}
		if z.Round && (g.bare[i] == 0 || !s.Cells[g.bare[i]-1].Outside) {
			continue
		}
		in[i] = true
	}
}

// zoneParts are the connected pieces of an area's zones, within its cells when it has
// some; the first gets the id first.
func (b *Board) zoneParts(a *Area, cells []int, first int) (out []Part, squares []uint16) {
	g := b.Sheet.gridOf()
	in := make([]bool, len(g.cell))
	for _, id := range a.Zones {
		if z, err := b.Card.ZoneByID(id); err == nil {
			g.covers(b.Card, z, b.Sheet, in)
		}
	}
	if len(cells) > 0 {
		own := make([]bool, len(b.Cells)+1)
		for _, id := range cells {
			own[id] = true
		}
		for i := range in {
			in[i] = in[i] && own[g.bare[i]]
		}
	}
	squares, n := connected(in, g.w)
	regions := lineart.Regions(squares, g.w, g.h, gridMM, n)
	to := make([]uint16, n+1)
	for i, r := range regions {
		if r.AreaMM2 < leastMM2 || r.InscribedMM < leastWide {
			continue
		}
		to[i+1] = uint16(len(out) + 1)
		out = append(out, Part{
			Cell:   lineart.Cell{ID: first + len(out), AreaMM2: r.AreaMM2, Label: r.Label, InscribedMM: r.InscribedMM, NarrowestMM: 2 * r.InscribedMM},
			EdgeMM: r.Outline.Length(), TightMM: tightLength(r.Outline), Outline: r.Outline, Zone: true,
		})
	}
	for i, l := range squares {
		squares[i] = to[l]
	}
	return out, squares
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

// squares is a sheet in squares and the lock it is made under.
type squares struct {
	once sync.Once
	grid *grid
}
