package change

import (
	"errors"
	"fmt"
	"math"
	"slices"

	"chromaqua/core/card"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/wording"
)

// Sun moves the light.
type Sun struct {
	Sun card.Sun `json:"sun"`
}

// Do moves it.
func (s Sun) Do(c *card.Card) (Done, error) {
	c.Shadows.Sun = s.Sun
	return Done{Says: "light from " + string(s.Sun.Or())}, nil
}

// ShadowsQuiet takes no proposal by itself, or takes the sure ones again.
type ShadowsQuiet struct {
	Quiet bool `json:"quiet"`
}

// Do says so.
func (s ShadowsQuiet) Do(c *card.Card) (Done, error) {
	c.Shadows.Quiet = s.Quiet
	if s.Quiet {
		return Done{Says: "shadows only where you say so"}, nil
	}
	return Done{Says: "shadows where the drawing is sure of them"}, nil
}

// Darks takes what the drawing proposes for cells, or lets them be without.
type Darks struct {
	needsCells
	Cells CellList      `json:"cells"`
	Area  string        `json:"area"` // all cells of one, instead
	Kind  card.DarkKind `json:"kind"`
}

// On says so.
func (d Darks) On(b *panel.Board) (Done, error) {
	var cells []int
	if d.Area == "" || d.Cells != "" {
		var err error
		if cells, err = d.Cells.ids(); err != nil {
			return Done{}, err
		}
	}
	for _, a := range b.Areas {
		if a.ID == d.Area {
			cells = append(cells, a.Cells...)
		}
	}
	cells = slices.DeleteFunc(cells, func(id int) bool { return id < 1 || id > len(b.Cells) })
	if len(cells) == 0 {
		return Done{}, errors.New("tap the cells whose shadows are meant first")
	}
	if d.Kind != card.Proposed && d.Kind != card.NoDark {
		return Done{}, fmt.Errorf("%q is nothing that a dark can be", string(d.Kind))
	}
	for _, id := range cells {
		setDark(b, card.Dark{Cell: b.SpotOf(id), Kind: d.Kind})
	}
	what := "shadows as proposed on "
	if d.Kind == card.NoDark {
		what = "no shadows on "
	}
	return Done{Says: what + wording.Count(len(cells), "cell")}, nil
}

// DarkTo drags the dark of a cell to a place, mm; of all cells of its area that are alike,
// when they go along, turned as far from their own middles.
type DarkTo struct {
	needsCells
	Cell  int     `json:"cell"`
	X     float64 `json:"x"`
	Y     float64 `json:"y"`
	Alike bool    `json:"alike"`
}

// On drags it.
func (d DarkTo) On(b *panel.Board) (Done, error) {
	if d.Cell < 1 || d.Cell > len(b.Cells) {
		return Done{}, fmt.Errorf("there is no cell %d on this piece; the line was changed meanwhile", d.Cell)
	}
	if math.IsNaN(d.X+d.Y) || math.IsInf(d.X+d.Y, 0) {
		return Done{}, errors.New("this is no place on the piece")
	}
	cell := &b.Cells[d.Cell-1]
	dx, dy := d.X-cell.Label.X, d.Y-cell.Label.Y
	if far := math.Hypot(dx, dy); far > 3*math.Sqrt(cell.AreaMM2) {
		return Done{}, errors.New("drag the dark to a place within its cell")
	}
	darkAt(b, d.Cell, lineart.Point{X: d.X, Y: d.Y})
	n := 1
	if a, owned := b.AreaOf(d.Cell); owned && d.Alike {
		for _, id := range b.Areas[a].Cells {
			if id == d.Cell || id > len(b.Cells) {
				continue
			}
			o := &b.Cells[id-1]
			k := o.InscribedMM / max(0.1, cell.InscribedMM)
			darkAt(b, id, lineart.Point{X: o.Label.X + k*dx, Y: o.Label.Y + k*dy})
			n++
		}
	}
	return Done{Says: "the dark of " + wording.Count(n, "cell") + " moved"}, nil
}

// How a dark snaps to the border of its cell.
const (
	snapShare = 0.3 // of the way from the border to the middle of the cell
	snapStep  = 0.1 // mm
	snapPast  = 1.5 // mm: ink that is passed by then is a mark within the cell
)

// toBorder is the place a dark snaps to that is let go at p: the nearest border, if it is
// near, and in any case a place of the cell.
func toBorder(b *panel.Board, id int, p lineart.Point) lineart.Point {
	cell := &b.Cells[id-1]
	in := func(q lineart.Point) bool { return b.At(q) == id }
	if !in(p) { // let go beyond it
		far := math.Hypot(cell.Label.X-p.X, cell.Label.Y-p.Y)
		for t := 0.0; t < far; t += snapStep {
			if q := (lineart.Point{X: p.X + (cell.Label.X-p.X)*t/far, Y: p.Y + (cell.Label.Y-p.Y)*t/far}); in(q) {
				return q
			}
		}
		return cell.Label
	}
	const ways = 32
	for r := snapStep; r <= snapShare*cell.InscribedMM; r += snapStep {
		for n := range ways {
			sin, cos := math.Sincos(2 * math.Pi * float64(n) / ways)
			at := func(r float64) lineart.Point { return lineart.Point{X: p.X + r*cos, Y: p.Y + r*sin} }
			if !in(at(r)) && !in(at(r+snapPast)) {
				return at(r - snapStep)
			}
		}
	}
	return p
}

// darkAt puts the dark of a cell at a place, mm, or at the border near it.
func darkAt(b *panel.Board, id int, p lineart.Point) {
	spot := b.SpotOf(id)
	p = toBorder(b, id, p)
	setDark(b, card.Dark{Cell: spot, Kind: card.Moved, At: b.UVOn(spot.On, p)})
}

// setDark says something of a cell in place of what was said.
func setDark(b *panel.Board, d card.Dark) {
	s := &b.Card.Shadows
	s.Darks = slices.DeleteFunc(s.Darks, func(o card.Dark) bool { return sameSpot(o.Cell, d.Cell) })
	s.Darks = append(s.Darks, d)
}

// Front says of cells that touch others which lie in front: the cells, those behind them, or
// neither, where both are one surface; or that it is as the line tells again.
type Front struct {
	needsCells
	Cells CellList  `json:"cells"`
	Other CellList  `json:"other"`
	Kind  FrontKind `json:"kind"`
}

// FrontKind is what is said of cells that touch.
type FrontKind string

// The kinds.
const (
	InFront   FrontKind = "front"
	Behind    FrontKind = "behind"
	OnePlane  FrontKind = "one"
	AsItTells FrontKind = "drawn"
)

// On says so of each pair that touches.
func (f Front) On(b *panel.Board) (Done, error) {
	cells, err := f.Cells.ids()
	if err != nil {
		return Done{}, err
	}
	other, err := f.Other.ids()
	if err != nil {
		return Done{}, err
	}
	if !slices.Contains([]FrontKind{InFront, Behind, OnePlane, AsItTells}, f.Kind) {
		return Done{}, fmt.Errorf("%q is nowhere that a cell can lie; use front, behind, one or drawn", string(f.Kind))
	}
	if f.Kind == Behind {
		cells, other = other, cells
	}
	n := 0
	for _, t := range b.Neighbours {
		a, c := t.A, t.B
		if !slices.Contains(cells, a) || !slices.Contains(other, c) {
			a, c = c, a
		}
		if a != c && slices.Contains(cells, a) && slices.Contains(other, c) {
			setFront(b, card.Front{Cell: b.SpotOf(a), Other: b.SpotOf(c), One: f.Kind == OnePlane}, f.Kind == AsItTells)
			n++
		}
	}
	if n == 0 {
		return Done{}, errors.New("these do not touch: say it of cells that share a line")
	}
	says := map[FrontKind]string{InFront: "lies in front at ", Behind: "lies in front at ", OnePlane: "one surface across ", AsItTells: "as the line tells at "}[f.Kind]
	return Done{Says: says + wording.Count(n, "border")}, nil
}

// FrontOf is what is said of a cell beside another.
func FrontOf(b *panel.Board, cell, other int) FrontKind {
	at, beside := b.SpotOf(cell), b.SpotOf(other)
	for _, f := range b.Card.Shadows.Fronts {
		switch turned := sameSpot(f.Cell, beside) && sameSpot(f.Other, at); {
		case !turned && !(sameSpot(f.Cell, at) && sameSpot(f.Other, beside)):
		case f.One:
			return OnePlane
		case turned:
			return Behind
		default:
			return InFront
		}
	}
	return AsItTells
}

func sameSpot(p, q card.Spot) bool { return p.On == q.On && p.UV == q.UV }

// setFront says something of a pair of cells in place of what was said; nothing more when it
// is to be as drawn.
func setFront(b *panel.Board, f card.Front, drawn bool) {
	s := &b.Card.Shadows
	s.Fronts = slices.DeleteFunc(s.Fronts, func(o card.Front) bool {
		return sameSpot(o.Cell, f.Cell) && sameSpot(o.Other, f.Other) || sameSpot(o.Cell, f.Other) && sameSpot(o.Other, f.Cell)
	})
	if !drawn {
		s.Fronts = append(s.Fronts, f)
	}
}
