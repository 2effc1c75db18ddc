package wash

import "math"

// dryTile dries, settles and takes up, place by place.
func (b *basin) dryTile(ti int, dt float32) {
	wet, seen := false, uint64(0)
	paints := b.has[ti] | b.lies[ti]
	drop := 1 - exp(dt/settledIn)
	x0, y0 := ti%b.tx*tile, ti/b.tx*tile
	for y := y0; y < min(b.ny, y0+tile); y++ {
		for i := y*b.nx + x0; i < y*b.nx+min(b.nx, x0+tile); i++ {
			w := b.water[i]
			switch {
			case w == 0:
			case b.label[i] == 0:
				b.water[i] = 0
			case w <= 0.3:
				b.water[i] = 0
				b.rimAt(i)
				b.sink(i, ti, 1)
			default:
				wet = true
				is := b.evaporate(i, w, dt)
				b.water[i] = is
				if film := is - b.damp[i]; film > 0 {
					b.deepest[i] = max(b.deepest[i], film)
					b.filmed[i] += dt
					b.exchange(i, paints, film, dt)
				} else if paints != 0 {
					b.rimAt(i)
					b.sink(i, ti, drop)
				}
				// water that creeps in ahead of the brush has not dried
				b.set[i] = b.set[i] || w >= touchDry && is < touchDry && b.deepest[i] > 0
			}
		}
	}
	for m, s := range b.afloat {
		if s == nil || paints>>m&1 == 0 {
			continue
		}
	rows:
		for y := y0; y < min(b.ny, y0+tile); y++ {
			for _, v := range s[y*b.nx+x0 : y*b.nx+min(b.nx, x0+tile)] {
				if v > 1e-7 {
					seen |= 1 << m
					break rows
				}
			}
		}
	}
	b.lies[ti] |= b.has[ti]
	b.has[ti], b.wet[ti] = seen, wet
}

// evaporate is what is left of a load after dt: even down to the critical load, ever
// slower below it.
func (b *basin) evaporate(i int, w, dt float32) float32 {
	if b.closed[i] {
		return w
	}
	e, wc := b.rate[b.label[i]]*b.evap[i]*dt, b.p.Paper.Critical
	switch {
	case w-e >= wc:
		return w - e
	case w > wc:
		return wc * exp((e-(w-wc))/wc)
	}
	return w * exp(e/wc)
}

// exchange lets pigment settle under a film, and be taken up where it is not bound.
func (b *basin) exchange(i int, paints uint64, film, dt float32) {
	l := int(b.layer[i])
	for m, of := range b.paints {
		if paints>>m&1 == 0 {
			continue
		}
		s, d := b.float(m), b.lie(l, m)
		if s[i] == 0 && d[i] == 0 {
			continue
		}
		p := &b.p.Paints[of]
		down := dt / settles * (1 + p.Grain)
		up := dt / picksUp * (1 - 0.35*p.Staining) * min(1, film*(1./12))
		if b.set[i] {
			up *= setKeeps
		}
		v := (s[i]*down - d[i]*up) / (1 + down + up)
		s[i] -= v
		d[i] += v
	}
}

// How strong a rim is and how far it reaches (after Deegan 1997).
const (
	rimReach = 0.62 // mm: extra evaporation at the edge × how far it draws
	rimWide  = 0.24 // mm
	rimFrom  = 5.0  // mm, from so far pigment comes
	rimLeast = 3    // g/m², a film no deeper makes none
)

// rimAt takes down, once, how strong a rim is where a film ended here: pigment carried
// goes by how deep the film was and how long it stood.
func (b *basin) rimAt(i int) {
	r := &b.rim[b.layer[i]][i]
	if b.deepest[i] == 0 || *r > 0 && b.water[i] < 0.98*b.damp[i] {
		return
	}
	load, fine := float32(0), float32(0)
	l := int(b.layer[i])
	for m, of := range b.paints {
		v := b.loadOf(i, l, m)
		load += v
		fine += v / (1 + 0.35*b.p.Paints[of].Grain)
	}
	if load <= 0 {
		return
	}
	a := float32(rimReach / rimWide * math.Log(float64(max(b.deepest[i], rimLeast*1.05)/rimLeast)))
	a *= load / (load + 0.18) * b.filmed[i] / (b.filmed[i] + 90) * fine / load * float32(b.p.Hand.Rim)
	switch {
	case b.soft[i]:
		a *= 0.12
	case b.wetted[i]: // the edge of wet paper recedes, it is not pinned
		a *= 0.25
	}
	*r = a
}
