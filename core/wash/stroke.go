package wash

import (
	"cmp"
	"math"
	"slices"
)

// What a hand's unevenness does to the load of a stroke: as a careful hand and, added, as
// much again as a loose one has more. By eye.
const (
	uneven    = 0.26 // clouds of 5 mm
	unevenBy  = 0.16
	streaks   = 0.13 // hairs along the path
	streaksBy = 0.07
	pooling   = 0.40 // the bead is led to the end of the stroke
)

// planStrokes turns the strokes that come into the basin into dabs, and numbers their
// paints.
func (b *basin) planStrokes(indices []int, mine []bool) {
	places := map[uint16][]int32{}
	for i, l := range b.label {
		if l != 0 {
			places[l] = append(places[l], int32(i))
		}
	}
	for _, k := range indices {
		s := &b.p.Strokes[k]
		for _, q := range s.Mix {
			if !slices.Contains(b.paints, q.Paint) {
				b.paints = append(b.paints, q.Paint)
			}
		}
		if s.Mark.Kind.drawn() {
			continue
		}
		own := &brushing{Stroke: s}
		total, before := 0.0, 0.0
		for _, l := range s.Cells {
			total += b.p.Plate.MM2(l)
		}
		for _, l := range s.Cells {
			mm2 := b.p.Plate.MM2(l)
			if mine[l] && s.Mark.Kind != Grains {
				own.dabs = append(own.dabs, b.dabs(s, l, places[l], s.Dur*before/total, s.Dur*mm2/total)...)
			}
			before += mm2
		}
		if len(own.dabs) > 0 || s.Mark.Kind == Grains {
			b.strokes = append(b.strokes, own)
		}
	}
	slices.SortStableFunc(b.strokes, func(x, y *brushing) int { return cmp.Compare(x.Start, y.Start) })
	for n, s := range b.strokes {
		s.index = n
	}
}

// longWay is the direction in which n places are long, radians, and their middle.
func longWay(n int, at func(k int) (x, y float64)) (angle, cx, cy float64) {
	if n == 0 {
		return 0, 0, 0
	}
	for k := range n {
		x, y := at(k)
		cx, cy = cx+x, cy+y
	}
	cx, cy = cx/float64(n), cy/float64(n)
	xx, xy, yy := 0.0, 0.0, 0.0
	for k := range n {
		x, y := at(k)
		xx, xy, yy = xx+(x-cx)*(x-cx), xy+(x-cx)*(y-cy), yy+(y-cy)*(y-cy)
	}
	return 0.5 * math.Atan2(2*xy, xx-yy), cx, cy
}

// dabs lays a stroke over one cell: in bands as wide as the brush, along the cell, there
// and back.
func (b *basin) dabs(s *Stroke, label uint16, places []int32, from, dur float64) (out []dab) {
	if len(places) == 0 {
		return nil
	}
	if s.Mark.Kind == Falling {
		return b.drops(s, label, from, dur)
	}
	seed := b.p.Seed + uint32(s.ID)*1009 + uint32(label)*37
	angle, cx, cy := longWay(len(places), func(k int) (x, y float64) { return b.middle(int(places[k])) })
	if s.Amount != nil || s.Tilt {
		angle = 0 // graded from band to band
	}
	sin, cos := math.Sincos(angle)
	type at struct {
		place        int32
		band, along  float64
		x, y         float64
		key, acrossM float64
	}
	band := max(1.2*b.h, s.Band)
	all := make([]at, 0, len(places))
	lo, hi, top := math.Inf(1), math.Inf(-1), math.Inf(1)
	for _, i := range places {
		x, y := b.middle(int(i))
		if s.Within != nil && s.Within.dist[b.p.Plate.At(x, y)] <= 0 {
			continue
		}
		u, v := (x-cx)*cos+(y-cy)*sin, (y-cy)*cos-(x-cx)*sin
		lo, hi, top = min(lo, u), max(hi, u), min(top, v)
		all = append(all, at{place: i, along: u, acrossM: v, x: x, y: y})
	}
	for k := range all {
		a := &all[k]
		a.band = math.Floor((a.acrossM - top) / band)
		t := (a.along - lo) / (hi - lo + 1e-9)
		if int(a.band)%2 == 1 {
			t = 1 - t
		}
		a.key = a.band + 0.999*t
	}
	slices.SortStableFunc(all, func(x, y at) int { return cmp.Compare(x.key, y.key) })
	vary, streak := float32(uneven)+unevenBy*s.Loose, float32(streaks)+streaksBy*s.Loose
	pool := float32(pooling) * float32(clamp64(6/band, 0.2, 1))
	for n, a := range all {
		m := float32(1)
		if s.Amount != nil {
			m = s.Amount.At(a.x, a.y, label)
		}
		fx, fy, along, across := float32(a.x), float32(a.y), float32(a.along), float32(a.acrossM)
		v := 1 + vary*cloudy(fx/5.5, fy/5.5, 4, seed+3)
		v += streak * (0.6*noise(along/16, across/1.1, seed+4) + 0.5*noise(float32(a.band)*7.3, 0.5, seed+5))
		v += pool * (float32(n)/float32(len(all)) - 0.5)
		m *= max(0.1, v)
		d := dab{
			place: a.place, at: float32(from + dur*float64(n)/float64(len(all))),
			water: s.Laid * (1 + 0.12*cloudy(fx/11, fy/11, 2, seed+9)),
		}
		switch {
		case s.Dropped && m < 0.004:
			continue
		case s.Dropped:
			d.water, d.add = 0, s.Laid*min(1, m)
		}
		if len(s.Mix) > 0 {
			d.load = s.Load * m
		}
		if s.Take != nil {
			d.take = clamp(s.Take.Share*m, 0, 0.95)
		}
		out = append(out, d)
	}
	return out
}

// drops lets drops fall, each where it lies: what a drop covers of a place of the grid is
// its share.
func (b *basin) drops(s *Stroke, label uint16, from, dur float64) (out []dab) {
	for n, d := range s.Mark.At {
		at := float32(from + dur*float64(n)/float64(len(s.Mark.At)))
		r := int(math.Ceil(d.R/b.h)) + 1
		cx, cy := int(math.Floor((d.X-b.x0)/b.h)), int(math.Floor((d.Y-b.y0)/b.h))
		for y := max(0, cy-r); y <= min(b.ny-1, cy+r); y++ {
			for x := max(0, cx-r); x <= min(b.nx-1, cx+r); x++ {
				i := y*b.nx + x
				if b.label[i] != label {
					continue
				}
				share := b.covered(i, d, b.p.Seed+uint32(n)*13)
				if share == 0 {
					continue
				}
				one := dab{place: int32(i), at: at, add: s.Laid * share}
				if len(s.Mix) > 0 {
					one.load = s.Load * share
				}
				if s.Take != nil {
					one.take = s.Take.Share * share
				}
				out = append(out, one)
			}
		}
	}
	return out
}

// covered is the share of a place that a drop covers, which is never quite round.
func (b *basin) covered(i int, d Disc, seed uint32) float32 {
	const n = 4
	mx, my := b.middle(i)
	in := 0
	for k := range n * n {
		x := mx + (float64(k%n)+0.5-n/2)/n*b.h
		y := my + (float64(k/n)+0.5-n/2)/n*b.h
		if math.Hypot(x-d.X, y-d.Y) < lobed(d, x, y, 0.22, seed) {
			in++
		}
	}
	return float32(in) / (n * n)
}

// lobed is how far a drop reaches towards a place.
func lobed(d Disc, x, y, by float64, seed uint32) float64 {
	a := math.Atan2(y-d.Y, x-d.X)
	sin, cos := math.Sincos(a)
	return d.R * (1 + by*float64(noise(float32(1.6*cos)+9, float32(1.6*sin)+9, seed)))
}
