package panel

import (
	"math"

	"chromaqua/core/card"
	"chromaqua/core/lineart"
)

// StrokesOf are the strokes of a zone that is drawn by hand, as they lie on the piece, mm; a
// dot is a stroke of one point.
func StrokesOf(c *card.Card, z *card.Zone) (out [][]lineart.Point) {
	wide := c.PanelSize().W.MM()
	m, err := c.ImageByID(z.On)
	on := func(p card.UV) lineart.Point {
		if err == nil {
			return OnPanel(m, p)
		}
		return lineart.Point{X: p.U * wide, Y: p.V * wide}
	}
	if z.Shape == card.DotsAt {
		for _, p := range z.Points {
			out = append(out, []lineart.Point{on(p)})
		}
		return out
	}
	if z.Shape != card.Along {
		return nil
	}
	for _, s := range z.Strokes() {
		var line []lineart.Point
		for _, p := range s {
			line = append(line, on(p))
		}
		out = append(out, line)
	}
	return out
}

// drawn marks the squares under strokes and dots.
func (g *grid) drawn(c *card.Card, z *card.Zone, in []bool) {
	r := max(z.Width.MM()/2, 0.75*gridMM)
	for _, s := range StrokesOf(c, z) {
		for i := range max(1, len(s)-1) {
			a, b := s[i], s[min(i+1, len(s)-1)]
			g.near(a, b, r, in)
		}
	}
}

// near marks the squares whose middle is within r of the stretch between two places, mm.
func (g *grid) near(a, b lineart.Point, r float64, in []bool) {
	lo := func(u, v float64) int { return max(0, int(math.Floor((min(u, v)-r)/gridMM))) }
	hi := func(u, v float64, most int) int { return min(most, int(math.Ceil((max(u, v)+r)/gridMM))) }
	dx, dy := b.X-a.X, b.Y-a.Y
	long := dx*dx + dy*dy
	for y := lo(a.Y, b.Y); y < hi(a.Y, b.Y, g.h); y++ {
		for x := lo(a.X, b.X); x < hi(a.X, b.X, g.w); x++ {
			px, py := (float64(x)+0.5)*gridMM-a.X, (float64(y)+0.5)*gridMM-a.Y
			t := 0.0
			if long > 0 {
				t = max(0, min(1, (px*dx+py*dy)/long))
			}
			if px, py = px-t*dx, py-t*dy; px*px+py*py <= r*r {
				in[y*g.w+x] = true
			}
		}
	}
}

// outlined marks the squares of some cells that lie along their lines.
func (g *grid) outlined(z *card.Zone, own []bool, in []bool) {
	reach := max(1, int(math.Round(z.Width.MM()/gridMM)))
	at := make([]bool, len(g.bare))
	for i, c := range g.bare {
		at[i] = own[c] && c > 0
	}
	for range reach {
		next := make([]bool, 0, len(at))
		for i, inside := range at {
			x := i % g.w
			edge := x == 0 || x == g.w-1 || i < g.w || i >= len(at)-g.w || !at[i-1] || !at[i+1] || !at[i-g.w] || !at[i+g.w]
			if inside && edge {
				in[i] = true
			}
			next = append(next, inside && !edge)
		}
		at = next
	}
}
