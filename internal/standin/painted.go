package standin

import (
	"math"
	"math/rand/v2"

	"chromaqua/core/lineart"
	"chromaqua/core/photo"
	"chromaqua/core/pigment"
)

// painted is a panel as somebody painted it, seen from above in even light.
type painted struct {
	p       *photo.Plan
	w, h    int
	perMM   float64
	pix     [][3]float64
	colours []pigment.Lab
}

// paint paints a panel with slips, so many pixels a millimetre: each cell a little unevenly,
// its colour running as planned, the line over it, the paper's grain in all.
func paint(p *photo.Plan, s Slips, perMM float64, rng *rand.Rand) *painted {
	m := &painted{p: p, w: int(math.Ceil(p.W * perMM)), h: int(math.Ceil(p.H * perMM)), perMM: perMM}
	m.pix = make([][3]float64, m.w*m.h)
	missing, short := map[int]bool{}, map[int]bool{}
	for _, id := range s.Missing {
		missing[id] = true
	}
	for _, a := range s.Short {
		short[a] = true
	}
	cells := make([]brushed, len(p.Cells))
	for i := range p.Cells {
		cells[i] = brushedOf(p, &p.Cells[i], missing[p.Cells[i].ID], short, s.Load, rng)
	}
	uneven, grain := newField(rng, 6*perMM), newField(rng, 0.3*perMM)
	sums, counts := make([]pigment.RGB, len(cells)), make([]float64, len(cells))
	last := 0
	for y := range m.h {
		for x := range m.w {
			// The last of either way may lie half beyond the panel: it is as the panel ends.
			q := lineart.Point{X: min(p.W-0.01, (float64(x)+0.5)/perMM), Y: min(p.H-0.01, (float64(y)+0.5)/perMM)}
			id := p.CellAt(q)
			on := id
			if id == 0 {
				on = last // paint reaches under the line
			} else {
				last = id
			}
			c := p.Paper
			if on > 0 {
				c = cells[on-1].at(q, &p.Cells[on-1], uneven.smooth(x, y))
				if p.Cells[on-1].Area == photo.Mixed {
					_, lab := p.SeenAt(q)
					c = lab.RGB()
				}
				if id > 0 {
					for k := range c {
						sums[id-1][k] += c[k]
					}
					counts[id-1]++
				}
			}
			c = runOver(c, q, id, p, s, cells)
			ink := min(1, float64(p.InkAt(q))/240)
			ink = 0.012 + 0.988*ink*ink
			tooth := 1 + 0.05*(grain.at(x, y)-0.5)
			for k := range c {
				m.pix[y*m.w+x][k] = c[k] * ink * tooth
			}
		}
	}
	for i := range sums {
		lab := p.Paper.Lab()
		if counts[i] > 0 {
			for k := range sums[i] {
				sums[i][k] /= counts[i]
			}
			lab = sums[i].Clip().Lab()
		}
		m.colours = append(m.colours, lab)
	}
	return m
}

// brushed is how one cell was painted.
type brushed struct {
	dense, thin pigment.RGB
	shift       float64 // of where it runs from
	bare        bool
}

func brushedOf(p *photo.Plan, c *photo.Cell, missing bool, short map[int]bool, load float64, rng *rand.Rand) brushed {
	b := brushed{dense: p.Paper, thin: p.Paper, bare: true, shift: 0.1 * rng.NormFloat64()}
	if missing || c.Area == -1 {
		return b
	}
	b.bare = false
	if c.Area == photo.Mixed {
		b.dense, b.thin = c.Colour.RGB(), c.Colour.RGB()
		return b
	}
	stages := p.Areas[c.Area].Stages
	n := len(stages) - 1
	if short[c.Area] {
		n--
	}
	b.dense, b.thin = stages[n].Dense.RGB(), stages[n].Thin.RGB()
	// A hand is not exact: a little more or less paint, relative to the paper.
	more := math.Exp(0.06 * rng.NormFloat64())
	if load > 0 {
		more *= load
	}
	for k := range b.dense {
		b.dense[k] = p.Paper[k] * math.Pow(max(1e-3, b.dense[k]/p.Paper[k]), more)
		b.thin[k] = p.Paper[k] * math.Pow(max(1e-3, b.thin[k]/p.Paper[k]), more)
	}
	return b
}

// at is the colour of a place: from densest in the middle to thinnest at the edge, a little
// uneven.
func (b *brushed) at(q lineart.Point, c *photo.Cell, uneven float64) (out pigment.RGB) {
	t := math.Hypot(q.X-c.At.X, q.Y-c.At.Y)/max(1, 1.7*c.Radius) + b.shift
	t = min(1, max(0, t))
	wave := 1 + 0.08*(uneven-0.5)
	for k := range out {
		out[k] = (b.dense[k]*(1-t) + b.thin[k]*t)
		if !b.bare {
			out[k] *= wave
		}
	}
	return out
}

// runOver lays what ran over a line, and blooms, on a place.
func runOver(c pigment.RGB, q lineart.Point, id int, p *photo.Plan, s Slips, cells []brushed) pigment.RGB {
	for _, o := range s.Over {
		if d := math.Hypot(q.X-o.X, q.Y-o.Y); d < 1.5 && id > 0 && p.Cells[id-1].Area == -1 {
			if from := nearestPainted(p, o); from > 0 {
				c = cells[from-1].dense
			}
		}
	}
	for _, o := range s.Blooms {
		d := math.Hypot(q.X-o.X, q.Y-o.Y)
		switch {
		case id != p.CellAt(o):
		case d < 2.6:
			for k := range c {
				c[k] += 0.6 * (p.Paper[k] - c[k])
			}
		case d < 3.2:
			for k := range c {
				c[k] *= 0.8
			}
		}
	}
	return c
}

// nearestPainted is the painted cell nearest to a place, within a few millimetres.
func nearestPainted(p *photo.Plan, o lineart.Point) int {
	for d := 0.5; d < 4; d += 0.25 {
		for turn := 0.0; turn < 2*math.Pi; turn += math.Pi / 12 {
			if id := p.CellAt(lineart.Point{X: o.X + d*math.Cos(turn), Y: o.Y + d*math.Sin(turn)}); id > 0 && p.Cells[id-1].Area >= 0 {
				return id
			}
		}
	}
	return 0
}

// see is the panel's colour at a place, mm, interpolated; on is false beside it.
func (m *painted) see(q lineart.Point) (c [3]float64, on bool) {
	if q.X < 0 || q.Y < 0 || q.X > m.p.W || q.Y > m.p.H {
		return c, false
	}
	x, y := q.X*m.perMM-0.5, q.Y*m.perMM-0.5
	x0, y0 := max(0, min(m.w-2, int(x))), max(0, min(m.h-2, int(y)))
	fx, fy := min(1, max(0, x-float64(x0))), min(1, max(0, y-float64(y0)))
	i := y0*m.w + x0
	for k := range c {
		a := m.pix[i][k]*(1-fx) + m.pix[i+1][k]*fx
		b := m.pix[i+m.w][k]*(1-fx) + m.pix[i+m.w+1][k]*fx
		c[k] = a*(1-fy) + b*fy
	}
	return c, true
}
