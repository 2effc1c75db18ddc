package paint

import (
	"fmt"
	"math"
	"strings"

	"chromaqua/core/lineart"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
	"chromaqua/core/wash"
)

// A ground is the cells of a go, with what is measured in them when it is asked for.
type ground struct {
	q     *Painting
	st    *steps.Step
	cells []uint16
	key   string
	out   []float32 // by pixel of the plate: mm to what is not of the go
}

func (q *Painting) ground(st *steps.Step, cells []uint16) *ground {
	var key strings.Builder
	for _, l := range cells {
		fmt.Fprint(&key, l, ",")
		if d, ok := q.dark[l]; ok {
			key.WriteString(d.Key)
		}
	}
	return &ground{q: q, st: st, cells: cells, key: key.String()}
}

// amount names what a profile hangs on besides the cells' own shapes.
func (g *ground) amount(kind string, at func(x, y float64, label uint16) float32) *wash.Amount {
	return &wash.Amount{Key: kind + " " + g.key, At: at}
}

// along is how far across and down its cell a place lies, 0 to 1.
func (g *ground) along(x, y float64, label uint16) (u, v float64) {
	x0, y0, x1, y1 := g.q.Plate.Box(label)
	return clamp((x - x0) / max(1, x1-x0)), clamp((y - y0) / max(1, y1-y0))
}

func clamp(v float64) float64 { return max(0, min(1, v)) }

// smooth eases from 0 to 1.
func smooth(t float64) float64 {
	t = clamp(t)
	return t * t * (3 - 2*t)
}

// depth is the largest distance from an edge in a cell, mm.
func (g *ground) depth(label uint16) float64 {
	return max(0.4, g.q.board.Part(int(label)).InscribedMM)
}

// edge is how far from the edge of its cell a place lies, mm.
func (g *ground) edge(x, y float64) float64 {
	return max(0, float64(g.q.Plate.Edge[g.q.Plate.At(x, y)]))
}

// away is how far a place lies from what is not of the go, mm: from the subject, for a
// ground.
func (g *ground) away(x, y float64) float64 {
	p := g.q.Plate
	if g.out == nil {
		other := make([]bool, len(p.Label))
		mine := make([]bool, p.Cells+1)
		for _, l := range g.cells {
			mine[l] = true
		}
		for i, l := range p.Label {
			other[i] = !mine[l]
		}
		d2, near := lineart.Nearest(p.W, p.H, other)
		g.out = make([]float32, len(d2))
		for i, d := range d2 {
			g.out[i] = 30
			if near[i] >= 0 {
				g.out[i] = float32(math.Sqrt(float64(d)) * wash.PlateMM)
			}
		}
	}
	return float64(g.out[p.At(x, y)])
}

// grade is how a technique's colour runs, from all of it to its thinnest.
func (g *ground) grade(runs technique.Grade, thin float64) *wash.Amount {
	from := func(t float64) float32 { return float32(thin + (1-thin)*(1-smooth(t))) }
	switch runs {
	case technique.Down:
		return g.amount("down", func(x, y float64, l uint16) float32 { _, v := g.along(x, y, l); return from(v*1.08 - 0.04) })
	case technique.Up:
		return g.amount("up", func(x, y float64, l uint16) float32 { _, v := g.along(x, y, l); return from((1 - v) * 1.5) })
	case technique.Out:
		return g.amount("out", func(x, y float64, l uint16) float32 {
			// a hand fades it unevenly
			w := 1 + 0.25*math.Sin(x/7+1.3*math.Sin(y/9))
			return float32(thin + (1-thin)*math.Exp(-g.away(x, y)/(min(9, 0.55*g.depth(l)+2.2)*w)))
		})
	case technique.In:
		return g.amount("in", func(x, y float64, l uint16) float32 {
			return from(g.edge(x, y) / min(8, 0.75*g.depth(l)+0.4))
		})
	case technique.Corner:
		return g.amount("pulled", g.pulled(thin))
	}
	return nil
}

// pulled is colour laid into the shadow and drawn out: out of the dark of the cell, where
// it is known, else out of its lower left.
func (g *ground) pulled(thin float64) func(x, y float64, l uint16) float32 {
	return func(x, y float64, l uint16) float32 {
		if d, ok := g.q.dark[l]; ok {
			return float32(thin) + (1.15-float32(thin))*float32(smooth(float64((d.At(x, y)-0.12)/0.62)))
		}
		u, v := g.along(x, y, l)
		return float32(thin + 1.2*(1-thin)*math.Exp(-3.2*(u+1-v)/2))
	}
}

// across runs from one side of the cells to the other; in is the paint that comes in from
// the right.
func (g *ground) across(in bool) *wash.Amount {
	return g.amount(fmt.Sprint("across", in), func(x, y float64, l uint16) float32 {
		u, _ := g.along(x, y, l)
		t := smooth((u - 0.2) / 0.6)
		if !in {
			t = 1 - t
		}
		return float32(t)
	})
}

// clouds is paint touched into the wet: in the dark of a cell where it is known, else in
// its middle, never quite evenly.
func (g *ground) clouds(thin float64, wet bool) *wash.Amount {
	return g.amount(fmt.Sprint("clouds", wet), func(x, y float64, l uint16) float32 {
		n := 0.55*wash.Cloud(x/13, y/13, uint32(g.st.ID)) + 0.3*wash.Cloud(x/5, y/5, uint32(g.st.ID)+7)
		if d, ok := g.q.dark[l]; ok && wet {
			return float32(clamp(1.4 * smooth(float64(d.At(x, y))*1.5-0.25+0.35*n)))
		}
		if deep := g.depth(l); deep < 14 {
			t := g.edge(x, y) / deep
			if wet {
				return float32(clamp(1.25 * smooth((t+0.35*n-0.2)/0.6)))
			}
			return float32(thin + (1-thin)*clamp(0.35+0.65*t+0.5*n))
		}
		if wet {
			_, v := g.along(x, y, l)
			return float32(clamp(1.3 * smooth((0.9-1.5*v+n)*1.6)))
		}
		return float32(max(0.08, 0.8+1.1*n))
	})
}

// edges is along the edges of the go, here and there.
func (g *ground) edges(share float64) *wash.Amount {
	return g.amount("edges", func(x, y float64, l uint16) float32 {
		wide := max(0.7, 0.35*g.depth(l))
		return float32(clamp(1.3-g.edge(x, y)/wide) * (1 - 0.3*share))
	})
}

// light is the lightest place of a cell: opposite its dark.
func (g *ground) light(share float64) *wash.Amount {
	return g.amount("light", func(x, y float64, l uint16) float32 {
		c, r := g.lightPlace(l)
		return float32(smooth(1.5 - math.Hypot(x-c.X, y-c.Y)/(r*1.1)))
	})
}

// lightPlace is where light falls on a cell, and how wide.
func (g *ground) lightPlace(l uint16) (at lineart.Point, r float64) {
	part := g.q.board.Part(int(l))
	if d, ok := g.q.dark[l]; ok {
		return d.Light, max(0.3*part.InscribedMM, min(d.LightR, 0.7*part.InscribedMM))
	}
	deep := part.InscribedMM
	return lineart.Point{X: part.Label.X + 0.3*deep, Y: part.Label.Y - 0.3*deep}, 0.55 * deep
}

// patches are where a crumpled towel is pressed on.
func (g *ground) patches(share float64) *wash.Amount {
	return g.amount("patches", func(x, y float64, l uint16) float32 {
		n := 0.7*wash.Cloud(x/4.5, y/4.5, uint32(g.st.ID)) + 0.5*wash.Cloud(x/1.5, y/1.5, uint32(g.st.ID)+5)
		return float32(smooth((n - 0.45 + share) * 2.2))
	})
}

// dark is how dark a place of a cell should be, 0 to 1: as the cell's shadow has it, else to
// its lower left.
func (g *ground) dark(x, y float64, l uint16) float64 {
	if d, ok := g.q.dark[l]; ok {
		return float64(d.At(x, y))
	}
	u, v := g.along(x, y, l)
	return clamp((1 - u + v) / 2)
}

// crescent is a shadow on the dark side that leaves a lit rim along the line.
func (g *ground) crescent() *wash.Amount {
	return g.amount("crescent", func(x, y float64, l uint16) float32 {
		deep, e := g.depth(l), g.edge(x, y)
		rim := min(1, max(0.35, 0.18*deep))
		band := smooth((e-rim)/0.25) * (1 - smooth((e-rim-0.45*deep)/(0.3*deep)))
		return float32(1.1 * smooth((g.dark(x, y, l)-0.42)/0.25) * band)
	})
}

// cast is the shadow of what lies over a cell, with an edge.
func (g *ground) cast() *wash.Amount {
	return g.amount("cast", func(x, y float64, l uint16) float32 {
		return float32(smooth((g.dark(x, y, l) - 0.52) / 0.07))
	})
}

// reserved is all but the place where light falls.
func (g *ground) reserved() *wash.Amount {
	return g.amount("reserved", func(x, y float64, l uint16) float32 {
		at, r := g.lightPlace(l)
		sides := 0.25 + 0.75*clamp(0.5-(x-at.X+y-at.Y)/(2.8*r)) // crisp towards the light, softened away from it
		return float32(smooth((math.Hypot(x-at.X, (y-at.Y)*1.15) - 0.55*r) / max(0.25, sides*0.5*r)))
	})
}

// dabs are where light falls on each cell.
func (g *ground) dabs() (out []wash.Disc) {
	for _, l := range g.cells {
		at, _ := g.lightPlace(l)
		r := min(1.1, max(0.28, 0.15*g.depth(l)))
		out = append(out, wash.Disc{X: at.X, Y: at.Y, R: r})
		if r > 0.5 {
			out = append(out, wash.Disc{X: at.X + 1.9*r, Y: at.Y + 1.1*r, R: 0.45 * r})
		}
	}
	return out
}

// starts are where short lines begin that cover a share of the cells.
func (g *ground) starts(share float64) (out []wash.Disc) {
	const wide, long = 0.17, 5.0
	for _, l := range g.cells {
		x0, y0, x1, y1 := g.q.Plate.Box(l)
		want := int(math.Ceil(share * g.q.Plate.MM2(l) / (2 * wide * long)))
		r := wash.Draws(uint32(g.st.ID)*31 + uint32(l))
		for tries := 0; want > 0 && tries < 4000; tries++ {
			x, y := x0+(x1-x0)*r(), y0+(y1-y0)*r()
			if g.q.Plate.LabelAt(x, y) == l && g.edge(x, y) > wide {
				out = append(out, wash.Disc{X: x, Y: y, R: wide})
				want--
			}
		}
	}
	return out
}
