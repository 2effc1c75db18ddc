package shading

import (
	"cmp"
	"math"
	"slices"

	"chromaqua/core/lineart"
)

// findRings finds four and more like cells round a middle that they touch, as petals.
func (m *Map) findRings(d *lineart.Drawing) {
	m.ringOf, m.Rings = map[int]int{}, map[int][]int{}
	area := func(i int) float64 { return d.Cells[i-1].AreaMM2 }
	for _, c := range d.Cells {
		hub := c.ID
		if c.Outside || m.belongs[hub] != hub {
			continue
		}
		var near []int
		for _, o := range m.Orders {
			other := 0
			switch {
			case o.Front == hub:
				other = o.Behind
			case o.Behind == hub && o.Score < Decided:
				other = o.Front
			}
			if other > 0 && o.MM > 0.8 && !m.outside[other] && area(other) > 0.15*area(hub) {
				near = append(near, other)
			}
		}
		if len(near) < 4 {
			continue
		}
		slices.SortFunc(near, func(a, b int) int { return cmp.Or(cmp.Compare(area(a), area(b)), cmp.Compare(a, b)) })
		usual := area(near[len(near)/2])
		var like []int
		var at []float64
		for _, o := range near {
			if a := area(o); a > usual/2.2 && a < usual*2.2 {
				q := m.middles[o].less(m.middles[hub])
				like, at = append(like, o), append(at, math.Atan2(q.Y, q.X))
			}
		}
		if len(like) < 4 || widestGap(at) > 2.8 {
			continue
		}
		m.Rings[hub] = like
		for _, o := range like {
			m.ringOf[o] = hub
		}
	}
}

// widestGap is the widest angle between neighbours of some directions, radians.
func widestGap(at []float64) float64 {
	slices.Sort(at)
	gap := at[0] + 2*math.Pi - at[len(at)-1]
	for i := 1; i < len(at); i++ {
		gap = max(gap, at[i]-at[i-1])
	}
	return gap
}

// alike turns those of a ring that differ as the others are, if most agree.
func (m *Map) alike(places [][]place) {
	for _, hub := range sortedKeys(m.Rings) {
		ring := m.Rings[hub]
		turned := func(id int) float64 { // of its dark from the way to the middle
			dx, dy := m.Shades[id].Fade()
			to, dark := m.middles[hub].less(m.middles[id]), vec{X: -dx, Y: -dy}
			return math.Atan2(to.cross(dark), to.dot(dark))
		}
		var mean vec
		sum := 0.0
		for _, id := range ring {
			if s := &m.Shades[id]; s.Cell != 0 {
				sin, cos := math.Sincos(turned(id))
				mean, sum = mean.plus(vec{X: cos, Y: sin}.times(s.Confidence)), sum+s.Confidence
			}
		}
		if sum == 0 || mean.long()/sum < 0.6 {
			continue
		}
		by, usual := math.Atan2(mean.Y, mean.X), sum/float64(len(ring))
		for _, id := range ring {
			s := &m.Shades[id]
			if s.Cell == 0 || math.Abs(math.Remainder(turned(id)-by, 2*math.Pi)) < 0.6 || s.Confidence > 1.3*usual {
				continue
			}
			to := m.middles[hub].less(m.middles[id]).unit()
			sin, cos := math.Sincos(by)
			m.turn(s, places[id], vec{X: to.X*cos - to.Y*sin, Y: to.X*sin + to.Y*cos})
			s.Reason, s.Other, s.Confidence = LikeRing, hub, 0.7*usual
		}
	}
}

// turn lays the dark of a cell on one side of it.
func (m *Map) turn(s *Shade, places []place, dark vec) {
	most, least := math.Inf(-1), math.Inf(1)
	for _, p := range places {
		v := p.p.less(m.middles[s.Cell]).dot(dark)
		if v > most {
			most, s.Dark = v, lineart.Point(p.p)
		}
		if v < least && p.edge > 0.35*s.LightR {
			least, s.Light = v, lineart.Point(p.p)
		}
	}
	f := m.grid.cells[s.Cell]
	k := 0
	for i := range f.v {
		if f.v[i] >= 0 {
			f.v[i] = float32(clamp((places[k].p.less(m.middles[s.Cell]).dot(dark) - least) / (most - least + 1e-9)))
			k++
		}
	}
}
