package wash

// lay lays what falls up to a time.
func (b *basin) lay(t float64) {
	for _, s := range b.strokes {
		if s.Start > t {
			break
		}
		if s.ended {
			continue
		}
		if !s.begun {
			s.begun = true
			b.join(s)
			b.strew(s)
		}
		for s.next < len(s.dabs) && s.Start+float64(s.dabs[s.next].at) <= t {
			b.dabOn(s, &s.dabs[s.next])
			s.next++
		}
		if s.next == len(s.dabs) && s.Start+s.Dur <= t {
			b.end(s)
		}
	}
}

// join decides in which layer a stroke lies: that of what it meets wet, else above what it
// meets dry. Who means to go into the wet and comes too late is told so.
func (b *basin) join(s *brushing) {
	wet, dry, wetLayer, dryLayer := 0, 0, 0, -1
	seen := func(i int) {
		if b.owner[i] < 0 || int(b.owner[i]) == s.index {
			return
		}
		if b.water[i] >= 0.62*b.damp[i] {
			wet++
			wetLayer = max(wetLayer, int(b.layer[i]))
		} else {
			dry++
			dryLayer = max(dryLayer, int(b.layer[i]))
		}
	}
	for _, d := range s.dabs {
		i := int(d.place)
		seen(i)
		x, y := i%b.nx, i/b.nx
		for k := 1; k <= 2; k++ {
			for _, j := range [4]int{i - k, i + k, i - k*b.nx, i + k*b.nx} {
				if jx, jy := j%b.nx, j/b.nx; j >= 0 && j < len(b.label) && (jx == x || jy == y) && b.label[j] == b.label[i] {
					seen(j)
				}
			}
		}
	}
	switch {
	case wet+dry == 0:
		s.layer = 0
	case wet >= dry:
		s.layer = wetLayer
	case len(s.Mix) == 0: // clean water makes no layer
		s.layer = max(0, dryLayer)
	default:
		s.layer = min(MaxLayers-1, dryLayer+1)
	}
	if s.IntoWet && dry > wet && len(s.dabs) > 0 {
		i := int(s.dabs[len(s.dabs)/2].place)
		b.tell(TooLate, s, i, b.water[i])
	}
}

// strew takes down how well grains take where each falls: best as the gloss goes, hardly in
// a film and not at all on what is dry.
func (b *basin) strew(s *brushing) {
	if s.Mark.Kind != Grains {
		return
	}
	for _, d := range s.Mark.At {
		ix, iy := int((d.X-b.x0)/b.h), int((d.Y-b.y0)/b.h)
		grip := float32(0)
		if ix >= 0 && iy >= 0 && ix < b.nx && iy < b.ny {
			i := iy*b.nx + ix
			if w := b.water[i] / b.damp[i]; w > 0.25 && b.label[i] != 0 {
				grip = clamp(1.15-0.55*max(0, w-1), 0.15, 1) * clamp((w-0.25)*4, 0, 1)
			}
		}
		s.grips = append(s.grips, grip)
	}
	if s.layer = b.maxLayer; len(s.Mark.At) > 0 {
		d := s.Mark.At[0]
		if ix, iy := int((d.X-b.x0)/b.h), int((d.Y-b.y0)/b.h); ix >= 0 && iy >= 0 && ix < b.nx && iy < b.ny {
			s.layer = int(b.layer[iy*b.nx+ix])
		}
	}
}

// dabOn lays one dab.
func (b *basin) dabOn(s *brushing, d *dab) {
	i := int(d.place)
	if b.closed[i] {
		return
	}
	b.dry = false
	b.wet[b.tileOf(d.place)] = true
	if len(s.Mix) > 0 && int(b.layer[i]) < s.layer {
		b.sink(i, b.tileOf(d.place), 1)
		b.layer[i], b.set[i] = uint8(s.layer), false
		b.maxLayer = max(b.maxLayer, s.layer)
	}
	if b.water[i] < 1.5 {
		b.deepest[i], b.filmed[i], b.wetted[i] = 0, 0, false
		if len(s.Mix) > 0 {
			b.soft[i] = false
		}
	}
	if len(s.Mix) == 0 && d.water > 0 {
		b.wetted[i] = b.load(i, int(b.layer[i])) == 0
	}
	b.lapAt(s, i)
	b.soft[i] = b.soft[i] || s.Softens
	b.lean[i] = s.Tilt
	b.water[i] = max(b.water[i], d.water) + d.add
	if d.load > 0 {
		b.tint(s, d, i)
	}
	if d.take > 0 {
		b.takeFrom(i, d.take, s.Take)
	}
	b.owner[i] = int16(s.index)
}

// tint lays a dab's paint. A wash brush evens out with what it meets wet of its own mix: it
// takes up the bead.
func (b *basin) tint(s *brushing, d *dab, i int) {
	add := d.load
	if d.water > 0 {
		have := float32(0)
		for _, q := range s.Mix {
			m := b.paint(q.Paint)
			have += min(b.float(m)[i]+b.lie(int(b.layer[i]), m)[i], q.Share*d.load)
		}
		add = max(0.12*d.load, d.load-0.9*have)
	}
	for _, q := range s.Mix {
		m := b.paint(q.Paint)
		b.float(m)[i] += add * q.Share
		b.laid[m] += float64(add * q.Share)
		b.has[b.tileOf(d.place)] |= 1 << m
	}
	b.asked[i] += add
}

// takeFrom takes a share of what is there, less of what stains and of what lies below.
func (b *basin) takeFrom(i int, share float32, t *Take) {
	for m, of := range b.paints {
		gone := float32(0)
		if f := b.afloat[m]; f != nil {
			gone += f[i] * share
			f[i] *= 1 - share
		}
		stays := clamp(1-t.Staining/max(0.01, t.Share)*b.p.Paints[of].Staining, 0.05, 1)
		k := share * stays
		for l := int(b.layer[i]); l >= 0; l-- {
			if d := b.lying[l][m]; d != nil {
				gone += d[i] * k
				d[i] *= 1 - k
			}
			k *= 0.5
		}
		b.taken[m] += float64(gone)
	}
	b.asked[i] *= 1 - share
}

// load is what lies and floats in a layer at a place.
func (b *basin) load(i, layer int) (sum float32) {
	for m := range b.paints {
		sum += b.loadOf(i, layer, m)
	}
	return sum
}

// loadOf is what of one paint lies and floats in a layer at a place.
func (b *basin) loadOf(i, layer, m int) (v float32) {
	if d := b.lying[layer][m]; d != nil {
		v = d[i]
	}
	if f := b.afloat[m]; f != nil && int(b.layer[i]) == layer {
		v += f[i]
	}
	return v
}

// sink lets a share of what floats at a place lie down.
func (b *basin) sink(i, ti int, share float32) {
	l := b.lying[b.layer[i]]
	for m, f := range b.afloat {
		if f != nil && f[i] > 0 {
			v := f[i] * share
			plane(&l[m], len(b.water))[i] += v
			f[i] -= v
			b.lies[ti] |= 1 << m
		}
	}
}

// end takes back into the brush what water a technique does not leave.
func (b *basin) end(s *brushing) {
	s.ended = true
	if s.Left >= s.Laid {
		return
	}
	for _, d := range s.dabs {
		if i := d.place; int(b.owner[i]) == s.index && d.water > 0 {
			b.water[i] = min(b.water[i], max(s.Left*d.water/max(1e-3, s.Laid), b.water[i]-(s.Laid-s.Left)))
		}
	}
}
