package wash

import (
	"math"

	"chromaqua/core/parallel"
)

// How water and pigment move. Starting values of package comments in docs/models.md; the
// loads are over the load at which the gloss goes, divided by 65 where a film is meant.
const (
	inFilm    = 0.8   // mm²/s, a film 65 g/m² deep levels
	inPaper   = 0.03  // mm²/s, through damp paper
	mixes     = 0.06  // mm²/s, pigment spreads in a film 65 g/m² deep
	fullFilm  = 65    // g/m²
	pinned    = 95    // g/m²: a front on dry paper stands still below this
	pinnedBy  = 45    // and how far the paper's permeability changes that
	tilted    = 0.045 // mm/s, a film 65 g/m² deep runs down a tilted board
	settles   = 300   // s, pigment under a film
	settledIn = 9     // s, once the film is gone
	picksUp   = 7     // s, water takes up what lies and does not stain
	setKeeps  = 0.02  // of that, once it has been dry
)

// A lineBuf is the room in which one row or column is solved.
type lineBuf struct {
	tw, tp, drift, cp, dp, next, into, back, flux, inv, cq []float32
}

func newLineBuf(n int) lineBuf {
	f := func() []float32 { return make([]float32, n+1) }
	return lineBuf{f(), f(), f(), f(), f(), f(), f(), f(), f(), f(), f()}
}

// advance moves water and pigment for dt seconds, and dries them.
func (b *basin) advance(dt float32) {
	on, any := b.near(b.wet)
	if !any {
		b.dry = true
		return
	}
	has := make([]uint64, len(b.has))
	for ti := range b.has {
		b.around(ti, func(tj int) { has[ti] |= b.has[tj] })
	}
	b.has = has
	filmed := make([]bool, len(on))
	for m, f := range b.afloat { // before several hands write to them
		for l := 0; f != nil && l <= b.maxLayer; l++ {
			b.lie(l, m)
		}
	}
	b.share(len(on), func(ti int, _ *lineBuf) {
		filmed[ti] = on[ti] && b.films(ti)
	})
	// where no film is left water only creeps; that is played every fourth step
	move := on
	b.odd++
	if b.odd%4 != 0 {
		move, _ = b.near(filmed)
	}
	first, then := b.rows(), b.columns()
	if b.odd%2 != 0 {
		first, then = then, first
	}
	b.solve(first, move, dt)
	b.solve(then, move, dt)
	b.share(len(on), func(ti int, _ *lineBuf) {
		if on[ti] {
			b.dryTile(ti, dt)
		}
	})
}

// worthSharing is from how many places on a basin of one cell is shared out among the
// processors. What one of them does never depends on the others, so that it comes to the
// same.
const worthSharing = 6000

// share calls f for 0…n-1, on several processors where that is worth it.
func (b *basin) share(n int, f func(k int, q *lineBuf)) {
	if len(b.labels) > 1 || len(b.water) < worthSharing {
		for k := range n {
			f(k, &b.buf)
		}
		return
	}
	parallel.Each(n, func(k int) {
		q := b.bufs.Get().(*lineBuf)
		f(k, q)
		b.bufs.Put(q)
	})
}

// around calls f for a tile and those beside it.
func (b *basin) around(ti int, f func(int)) {
	x, y := ti%b.tx, ti/b.tx
	for yy := max(0, y-1); yy <= min(b.ty-1, y+1); yy++ {
		for xx := max(0, x-1); xx <= min(b.tx-1, x+1); xx++ {
			f(yy*b.tx + xx)
		}
	}
}

// near are tiles that are on, and those beside them.
func (b *basin) near(on []bool) (out []bool, any bool) {
	out = make([]bool, len(on))
	for ti, o := range on {
		if o {
			any = true
			b.around(ti, func(tj int) { out[tj] = true })
		}
	}
	return out, any
}

// films finds how mobile the water of a tile is, and whether any of it stands as a film.
func (b *basin) films(ti int) (some bool) {
	b.eachOf(ti, func(i int) {
		b.mobile[i] = 0
		if f := (b.water[i] - b.damp[i]) * (1. / fullFilm); f > 0 {
			b.mobile[i] = f * float32(math.Sqrt(float64(f)))
			some = true
		}
	})
	return some
}

// eachOf calls f for the places of a tile.
func (b *basin) eachOf(ti int, f func(i int)) {
	x0, y0 := ti%b.tx*tile, ti/b.tx*tile
	for y := y0; y < min(b.ny, y0+tile); y++ {
		for x := x0; x < min(b.nx, x0+tile); x++ {
			f(y*b.nx + x)
		}
	}
}

// A sweep is the lines of one direction: how many there are and how long, in places and in
// tiles, and how far it is from one line and one place on it to the next.
type sweep struct {
	lines, long        int
	tileLong           int
	toLine, along      int
	toTileLine, onTile int
}

func (b *basin) rows() sweep {
	return sweep{lines: b.ny, long: b.nx, tileLong: b.tx, toLine: b.nx, along: 1, toTileLine: b.tx, onTile: 1}
}

func (b *basin) columns() sweep {
	return sweep{lines: b.nx, long: b.ny, tileLong: b.ty, toLine: 1, along: b.nx, toTileLine: 1, onTile: b.tx}
}

// solve solves the lines of one direction, where tiles that are on lie beside each other as
// one. Half a tile's lines are worked at together, so that no processor is left without.
func (b *basin) solve(w sweep, on []bool, dt float32) {
	const some = tile / 2
	b.share((w.lines+some-1)/some, func(part int, q *lineBuf) {
		k := part * some / tile
		for t := 0; t < w.tileLong; t++ {
			from, paints := t, uint64(0)
			for ; t < w.tileLong && on[k*w.toTileLine+t*w.onTile]; t++ {
				paints |= b.has[k*w.toTileLine+t*w.onTile]
			}
			if t == from {
				continue
			}
			for n := part * some; n < min(w.lines, (part+1)*some); n++ {
				b.line(q, n*w.toLine+from*tile*w.along, w.along, min(w.long, t*tile)-from*tile, paints, dt)
			}
		}
	})
}

// face is how well water and pigment cross from one place to the next, mm²/s.
func (b *basin) face(i, j int) (water, pigment float32) {
	wi, wj := b.water[i], b.water[j]
	if wi < 1.5 && wj < 1.5 || wi+wj < 4 || b.closed[i] || b.closed[j] {
		return 0, 0
	}
	k := float32(1)
	if la, lb := b.label[i], b.label[j]; la != lb || la == 0 {
		if la == 0 || lb == 0 || wi < 1.1*b.damp[i] || wj < 1.1*b.damp[j] {
			return 0, 0
		}
		if k = b.cross[[2]uint16{la, lb}]; k == 0 {
			return 0, 0
		}
	}
	less, more, at := wi, wj, i
	if wi > wj {
		less, more, at = wj, wi, j
	}
	if less < 1.5 && more < pinned+pinnedBy*(b.perm[at]-1) {
		return 0, 0
	}
	crinkled := float32(1)
	if less < 1.1*b.damp[at] { // into damp paper it feathers, over a film it runs evenly
		crinkled = b.perm[at]
	}
	spread := float32(b.p.Hand.Spread)
	film := 0.5 * (b.mobile[i] + b.mobile[j])
	water = k * spread * (inFilm*min(2.5, film)*crinkled + inPaper*b.perm[at]*min(1, 0.5*(wi+wj)/b.damp[at]))
	pigment = k * spread * mixes * min(2, min(b.mobile[i], b.mobile[j])) * (0.6 + 0.4*b.perm[at])
	return water, pigment
}

// line solves one row or column of n places: backward Euler, so that nothing gets lost or
// falls below nothing however long the step.
func (b *basin) line(q *lineBuf, start, stride, n int, paints uint64, dt float32) {
	flows, lines := b.moveWater(q, start, stride, n, dt)
	if !flows {
		return
	}
	if paints == 0 {
		b.putWater(q, start, stride, n)
		return
	}
	// pigment is carried upwind by the flux, and spreads by tp × film
	tp, next, into, back, flux := q.tp[:n+1], q.next[:n], q.into[:n+1], q.back[:n+1], q.flux[:n+1]
	inv, cq, dp := q.inv[:n], q.cq[:n], q.dp[:n]
	into[0], into[n], back[0], back[n] = 0, 0, 0, 0
	c := float32(0)
	for k := range n {
		if k+1 < n {
			s := tp[k+1] * min(next[k], next[k+1])
			into[k+1], back[k+1] = s, s
			if flux[k+1] > 0 {
				into[k+1] += flux[k+1]
			} else {
				back[k+1] -= flux[k+1]
			}
		}
		d := 1 / (max(next[k], 0.02) + into[k+1] + back[k] - into[k]*c)
		c = back[k+1] * d
		inv[k], cq[k] = d, c
	}
	for m, s := range b.afloat {
		if s == nil || paints>>m&1 == 0 {
			continue
		}
		d, any := float32(0), false
		for k := range n {
			v := s[start+k*stride]
			any = any || v > 0
			d = (v + into[k]*d) * inv[k]
			dp[k] = d
		}
		if !any {
			continue
		}
		v, ahead := float32(0), float32(0)
		for k := n - 1; k >= 0; k-- {
			i := start + k*stride
			v = dp[k] + cq[k]*v
			is := v * max(next[k], 0.02)
			if gain := is - s[i]; gain > 0 && next[k] < 1.15*b.damp[i] {
				b.late[i] += gain
			}
			s[i] = is
			if lines && k+1 < n && b.label[i] != b.label[i+stride] {
				b.crossed(m, i, i+stride, into[k+1]*v-back[k+1]*ahead)
			}
			ahead = v
		}
	}
	b.putWater(q, start, stride, n)
}

// moveWater solves the water of a line into the buffer, with its flux through each face, and
// tells whether any flows and whether a line of the drawing may be crossed. The head is the
// load above what the paper holds: thirsty spots draw water and keep it. Faces are found as
// the solution comes to them, so that the processor looks at the next while it divides.
func (b *basin) moveWater(q *lineBuf, start, stride, n int, dt float32) (flows, lines bool) {
	perPlace := dt / float32(b.h*b.h)
	tw, tp, drift, flux := q.tw[:n+1], q.tp[:n+1], q.drift[:n+1], q.flux[:n+1]
	cp, dp, next := q.cp[:n], q.dp[:n], q.next[:n]
	tw[0], drift[0], tw[n], drift[n] = 0, 0, 0, 0
	c, d := float32(0), float32(0)
	for k := range n {
		i := start + k*stride
		if k+1 < n {
			j := i + stride
			x, y := b.face(i, j)
			tw[k+1], tp[k+1], drift[k+1] = x*perPlace, y*perPlace, 0
			if x != 0 {
				flows, lines = true, lines || b.label[i] != b.label[j]
				if stride > 1 && b.lean[i] && b.lean[j] { // downhill is down the sheet
					drift[k+1] = tilted * min(1.5, b.mobile[i]) * dt / float32(b.h)
				}
			}
		}
		l, r := tw[k], tw[k+1]
		inv := 1 / (1 + l + r + drift[k+1] - (l+drift[k])*c)
		c = r * inv
		d = (b.water[i] - b.damp[i] + (l+drift[k])*d) * inv
		cp[k], dp[k] = c, d
	}
	if !flows {
		return false, false
	}
	v := float32(0)
	for k := n - 1; k >= 0; k-- {
		after := v
		v = dp[k] + cp[k]*v
		flux[k+1] = tw[k+1]*(v-after) + drift[k+1]*v
		next[k] = max(0, v+b.damp[start+k*stride])
	}
	return true, lines
}

func (b *basin) putWater(q *lineBuf, start, stride, n int) {
	for k := range n {
		b.water[start+k*stride] = q.next[k]
	}
}
