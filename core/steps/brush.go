package steps

import (
	"fmt"
	"math"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/cover"
	"chromaqua/core/learned"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
)

// An extent is what there is to cover in some cells.
type extent struct {
	edge, tight    float64 // to cut in along, mm; of that, curved tightly
	mm2            float64
	cells          int
	narrow, widest float64 // radius of the largest circle in the narrowest cell, and in the widest, mm
}

func (c *task) extent(cells []int) extent { return extentOf(c.board, cells) }

func extentOf(b *panel.Board, cells []int) extent {
	v := extent{cells: len(cells), narrow: math.Inf(1)}
	for _, id := range cells {
		p := b.Part(id)
		v.edge, v.tight, v.mm2 = v.edge+p.EdgeMM, v.tight+p.TightMM, v.mm2+p.AreaMM2
		v.narrow, v.widest = min(v.narrow, p.InscribedMM), max(v.widest, p.InscribedMM)
	}
	return v
}

// BrushFor returns the largest brush that suits a place into which a circle of that
// radius fits, mm: a point at most half and a belly at most twice of it. The smallest
// brush serves where none does. There must be a brush.
func BrushFor(radius float64, brushes []shelf.Brush) shelf.Brush {
	best := smallest(brushes)
	for _, b := range brushes {
		if b.Point <= radius/2 && b.Belly <= 2*radius && b.Belly >= best.Belly {
			best = b
		}
	}
	return best
}

func smallest(brushes []shelf.Brush) shelf.Brush {
	best := brushes[0]
	for _, b := range brushes {
		if b.Belly < best.Belly {
			best = b
		}
	}
	return best
}

// What makes one go take two brushes.
const (
	muchWider = 2.5  // times: the belly that fills beside the one that cuts in
	curves    = 10.0 // mm of tight curves that a flat cannot follow
	curveFits = 3.0  // mm radius of a round that follows them
)

// brushes are the one that cuts in along the edges, and the one that fills; often the
// same. A large ground gets its wide brush even if a keyhole of it needs a small one.
func brushes(v extent, all []shelf.Brush) (cutIn, fill shelf.Brush) {
	cutIn, fill = BrushFor(v.narrow, all), BrushFor(v.widest, all)
	if fill.Flat && v.tight > curves {
		rounds := roundsOf(all)
		if len(rounds) > 0 {
			cutIn = BrushFor(min(v.narrow, curveFits), rounds)
		}
	}
	if !fill.Flat && fill.Belly < muchWider*cutIn.Belly {
		fill = cutIn
	}
	return cutIn, fill
}

// scatters is the brush that drops fall from: a round, since a flat lets go of all at once.
func scatters(v extent, all []shelf.Brush) shelf.Brush {
	if rounds := roundsOf(all); len(rounds) > 0 {
		all = rounds
	}
	return BrushFor(v.widest, all)
}

func roundsOf(all []shelf.Brush) (out []shelf.Brush) {
	for _, b := range all {
		if !b.Flat {
			out = append(out, b)
		}
	}
	return out
}

// CoverTime estimates how long a quick hand takes to cover so much: cutting in along
// its edges, slowly where they are curved tightly, filling it, reloading, and settling
// on each cell. ml is the water it takes.
func (v extent) time(fill shelf.Brush, ml float64) time.Duration {
	const settle = 4.0 // s to look, load and settle on a cell
	tight := min(v.tight, v.edge)
	s := (v.edge-tight)/cover.CutIn + tight/cover.Slowly + v.mm2/(fill.Belly*cover.Stroke*cover.Useful) +
		cover.Reload*math.Ceil(ml/fill.CapacityML) + settle*float64(v.cells)
	return time.Duration(s * float64(time.Second))
}

// leastWork is the shortest step worth planning.
const leastWork = 8 * time.Second

// takesOf is how long the kth wash of an area takes on some of its cells, and with what.
func (c *task) takesOf(w card.Wash, area, k int, cells []int) (time.Duration, []string) {
	v, t := c.extent(cells), w.Technique
	if t.Covers() {
		c.kept(&v, area, k, cells)
	}
	cutIn, fill := brushes(v, c.bench.Brushes)
	tools := []string{cutIn.Name}
	switch {
	case t.Facts().With != "":
		tools[0] = t.Facts().With
	case t.Facts().Fine:
		cutIn = smallest(c.bench.Brushes)
		fill, tools[0] = cutIn, cutIn.Name
	case t.Facts().Drop > 0: // it falls off the brush: nothing is cut in
		fill = scatters(v, c.bench.Brushes)
		tools[0] = fill.Name
	case fill != cutIn:
		tools = append(tools, fill.Name)
	}
	d := v.time(fill, millilitres(v.mm2, t))
	slow := t.Facts().Slow
	switch {
	case t.Share() < 1:
		d = time.Duration(t.Share() * slow * float64(d))
	case w.IntoWet(k):
		d /= 2 // touched in, not covered
	default:
		d = time.Duration(slow * float64(d))
	}
	pace := c.bench.Pace * c.bench.Learned.Of(learned.Pace, string(t)).By
	return max(leastWork, time.Duration(pace*float64(d))), tools
}

// Brush says with what a step is done, "" for hands.
func (s *Step) Brush() string {
	if len(s.Tools) == 2 {
		return fmt.Sprintf("cut in with the %s, fill with the %s", s.Tools[0], s.Tools[1])
	}
	return strings.Join(s.Tools, "")
}

// BrushesFor are the brush that cuts in along the edges of some cells or pieces of zones,
// and the one that fills them.
func BrushesFor(b *panel.Board, parts []int, all []shelf.Brush) (cutIn, fill shelf.Brush) {
	return brushes(extentOf(b, parts), all)
}
