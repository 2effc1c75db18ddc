// Package shading answers "where does the dark go?": it reads in a line drawing what lies in
// front of what, what the artist hatched, and what that and the light make of each cell.
//
// Nothing is known of what is drawn. A line that ends on another lies behind it, a line
// that bulges belongs to what it goes round (order.go); ink inside a cell that is no outline
// is hatching (marks.go); what lies under a neighbour is dark beside it, what only the light
// tells is dark on the far side (evidence.go). It is a proposal with a confidence: below
// [Sure] it is a guess.
package shading

import (
	"cmp"
	"math"
	"slices"

	"chromaqua/core/lineart"
)

// Sure is the confidence from which on a dark is more than a guess.
const Sure = 0.5

// Reason is why a dark lies where it does.
type Reason string

// The reasons.
const (
	Hatched   Reason = "hatched"    // the artist hatched it
	Dotted    Reason = "dotted"     // or dotted it
	Stroked   Reason = "stroked"    // a stroke or two: a hint
	LiesUnder Reason = "lies under" // another cell lies over it there
	AtMiddle  Reason = "middle"     // of the ring it belongs to
	Joins     Reason = "joins"      // it joins another at its end
	Fold      Reason = "fold"       // a fold beside another
	FromLight Reason = "light"      // away from the light
	LikeRing  Reason = "like"       // as its like round the same middle
	Said      Reason = "said"       // the maker said so
)

// A Shade is where a cell is dark and where it is light, mm.
type Shade struct {
	Cell       int // 0 where nothing is said of it
	Dark       lineart.Point
	Light      lineart.Point
	LightR     float64 // how large the light place is
	Confidence float64 // 0 to 1
	Reason     Reason
	Other      int // the cell that the reason names, 0 for none
	Marks      int // strokes and dots that were counted in it
}

// Fade is the direction from dark to light, of length 1.
func (s *Shade) Fade() (dx, dy float64) {
	d := vec(s.Light).less(vec(s.Dark)).unit()
	return d.X, d.Y
}

// An Order says of two touching cells which lies in front.
type Order struct {
	Front, Behind int
	Score         float64 // 0 to 1; below [Decided] they may be one surface
	MM            float64 // of their border
	Circle        bool    // it would close a circle, and is left out of the layers
}

// Decided is the score from which on an order is said.
const Decided = 0.35

// A Map is all that is told of a drawing.
type Map struct {
	Shades  []Shade // by cell
	Orders  []Order // the surest first
	Layers  []int   // by cell, from the front
	Rings   map[int][]int
	Circles int // orders left out of the layers

	belongs []int // by cell: the cell whose hatching it is a part of, or itself
	outside []bool
	line    float64 // mm, how thick lines are
	grid    field
	labels  []uint16 // grown under the line
	w, h    int
	mm      float64
	net     *net
	marks   []mark
	middles []vec
	ringOf  map[int]int
	score   map[[2]int]float64
}

// Light is where light comes from: a unit vector towards it, y down.
type Light struct{ X, Y float64 }

// UpperLeft is where light comes from unless the maker says otherwise.
func UpperLeft() Light { return Light{-math.Sqrt2 / 2, -math.Sqrt2 / 2} }

// workMM is how fine the drawing is looked at: lines are wider, and so is a scan of 150 to the
// inch. Finer ones are read as coarsely, so that they tell the same.
const workMM = 25.4 / 150

// Find reads a drawing. What is said of touching cells holds instead of what their borders
// tell, as surely as its score; two that are one surface have none.
func Find(d *lineart.Drawing, light Light, said ...Order) *Map {
	m := &Map{line: lineOf(d), outside: make([]bool, len(d.Cells)+1), score: map[[2]int]float64{}}
	for _, c := range d.Cells {
		m.outside[c.ID] = c.Outside
	}
	m.belongs = belonging(d, m.line)
	by := max(1, int(math.Round(workMM*d.DPI/25.4)))
	m.w, m.h, m.mm = d.W/by, d.H/by, 25.4/d.DPI*float64(by)
	white := make([]uint16, m.w*m.h)
	for i := range white {
		white[i] = d.Labels[(i/m.w*by+by/2)*d.W+i%m.w*by+by/2]
	}
	m.grow(white)
	m.net = trace(m.w, m.h, m.mm, m.labels)
	chains := m.net.chains(m.line, m.isOutside)
	m.net.judge(chains, m.isOutside)
	m.Orders = m.net.orders(chains, m.isOutside)
	m.hear(said)
	for _, o := range m.Orders {
		m.score[[2]int{o.Front, o.Behind}], m.score[[2]int{o.Behind, o.Front}] = o.Score, -o.Score
	}
	m.Layers, m.Circles = layers(m.Orders, len(d.Cells))
	m.findMarks(white)
	m.shade(d, light)
	return m
}

// hear puts what is said in place of what borders tell.
func (m *Map) hear(said []Order) {
	for _, s := range said {
		front, behind := m.belongs[s.Front], m.belongs[s.Behind]
		for i := range m.Orders {
			if o := &m.Orders[i]; o.Front == front && o.Behind == behind || o.Front == behind && o.Behind == front {
				o.Front, o.Behind, o.Score = front, behind, s.Score
			}
		}
	}
	slices.SortStableFunc(m.Orders, func(x, y Order) int { return cmp.Compare(y.Score, x.Score) })
}

func (m *Map) isOutside(cell int) bool { return cell > 0 && m.outside[cell] }

// Root is the cell whose hatching a cell is a part of, or itself.
func (m *Map) Root(cell int) int { return m.belongs[cell] }

// Score is how surely one cell lies in front of another, −1 to 1.
func (m *Map) Score(a, b int) (float64, bool) {
	s, touch := m.score[[2]int{a, b}]
	return s, touch
}

// lineOf is how thick the lines of a drawing are, mm.
func lineOf(d *lineart.Drawing) float64 {
	sum, long := 0.0, 0.0
	for _, n := range d.Neighbours {
		if n.LineMed > 0 {
			sum, long = sum+n.LineMed*n.BorderMM, long+n.BorderMM
		}
	}
	if long == 0 {
		return 0.5
	}
	return sum / long
}

// growMM is how far cells reach under the line.
const growMM = 1.0

// grow gives each pixel near a cell to it, and slivers of hatching to the cell they lie in.
func (m *Map) grow(white []uint16) {
	on := make([]bool, len(white))
	for i, l := range white {
		on[i] = l != 0
	}
	d2, near := lineart.Nearest(m.w, m.h, on)
	r := growMM / m.mm
	m.labels = make([]uint16, len(white))
	for i := range white {
		if near[i] >= 0 && float64(d2[i]) <= r*r {
			m.labels[i] = uint16(m.belongs[white[near[i]]])
		}
	}
}

// belonging gives slivers between strokes back to the cell they lie in: those that closed
// gaps cut off, and the meshes of cross-hatching.
func belonging(d *lineart.Drawing, line float64) []int {
	up := make([]int, len(d.Cells)+1)
	for i := range up {
		up[i] = i
	}
	root := func(i int) int {
		for up[i] != i {
			i = up[i]
		}
		return i
	}
	cell := func(i int) *lineart.Cell { return &d.Cells[i-1] }
	for _, l := range d.Leaks {
		a, b := root(l.A), root(l.B)
		if a == 0 || b == 0 || a == b {
			continue
		}
		if cell(a).AreaMM2 < cell(b).AreaMM2 {
			a, b = b, a
		}
		if c := cell(b); c.AreaMM2 < 8 && c.InscribedMM < max(0.8, 1.6*line) && !c.Outside && !cell(a).Outside {
			up[b] = a
		}
	}
	tiny := func(i int) bool { return cell(i).InscribedMM < max(0.7, 1.5*line) && !cell(i).Outside }
	touch := map[int][]lineart.Neighbour{}
	for _, n := range d.Neighbours {
		touch[n.A], touch[n.B] = append(touch[n.A], n), append(touch[n.B], n)
	}
	for _, c := range d.Cells {
		if !tiny(c.ID) || up[c.ID] != c.ID {
			continue
		}
		meshes, host, most := 0, 0, 0.0
		for _, n := range touch[c.ID] {
			if o := n.A + n.B - c.ID; tiny(o) {
				meshes++
			} else if !cell(o).Outside && n.BorderMM > most {
				host, most = o, n.BorderMM
			}
		}
		if h := root(max(host, 0)); meshes >= 2 && host > 0 && h != c.ID {
			up[c.ID] = h
		}
	}
	for i := range up {
		up[i] = root(i)
	}
	return up
}

// vec is a point or a way, mm, y down.
type vec lineart.Point

func (a vec) less(b vec) vec        { return vec{X: a.X - b.X, Y: a.Y - b.Y} }
func (a vec) plus(b vec) vec        { return vec{X: a.X + b.X, Y: a.Y + b.Y} }
func (a vec) times(k float64) vec   { return vec{X: a.X * k, Y: a.Y * k} }
func (a vec) dot(b vec) float64     { return a.X*b.X + a.Y*b.Y }
func (a vec) cross(b vec) float64   { return a.X*b.Y - a.Y*b.X } // below 0: b turns left of a
func (a vec) long() float64         { return math.Hypot(a.X, a.Y) }
func (a vec) to(b vec) float64      { return b.less(a).long() }
func (a vec) degrees(b vec) float64 { return math.Acos(max(-1, min(1, a.dot(b)))) * 180 / math.Pi }
func (a vec) unit() vec {
	if l := a.long(); l > 0 {
		return a.times(1 / l)
	}
	return vec{}
}
