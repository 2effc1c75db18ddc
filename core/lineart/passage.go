package lineart

import (
	"cmp"
	"math"
	"math/bits"
	"slices"
)

const (
	widestGapMM = 1.75 // a wider passage is never a gap
	acrossGapMM = 1.9  // how far from a saddle the opposite bank is sought
	nearMM      = 1.3  // a bank is looked at within this reach,
	wideMM      = 2.0  // and within this one
	stubScore   = 1.2  // from here on a bank counts as a broken line's end
	stubMeanMM  = 0.25 // if its ink also lies this far behind the gap on average
)

// gapCost is how much worse a gap left open is than a neck closed, in natural
// logarithms of odds: it swallows a whole cell, where a neck closed cuts one in
// two. It is the same two cells however many passages there are between them, so
// there it counts once.
const gapCost = 1.2

// A passage is a saddle between two basins that stays closed until all that lies
// between the two is known.
type passage struct {
	pixel int32
	dist2 int32 // of the saddle, pixels
	a, b  int32 // basins as numbered at the time
	width float64
	stubs int
	banks [2]Point // the ink on either side
	seen  evidence
	odds  float64 // for a gap, logarithm, as far as the basins on either side were known:
	known int32   // when they had so many pixels
}

// weigh returns the odds that the passage is a gap between basins a and b, as far
// as these are known by now.
func (p *passage) weigh(f *flooding, a, b int32) float64 {
	if known := f.basins[a].pixels + f.basins[b].pixels; p.known != known {
		f.addBasins(&p.seen, a, b)
		p.odds, p.known = gaps().odds(&p.seen), known
	}
	return p.odds
}

// settle decides about the passages that were left closed, all of those between
// the same two basins at once: as gaps or as necks. What is joined lies between
// other basins together, so it goes on until all that are apart stay so.
func (f *flooding) settle() {
	type border struct {
		a, b  int32
		odds  float64
		neck2 int32 // the widest passage
	}
	for {
		at := map[[2]int32]int{}
		var borders []border
		for i := range f.closed {
			p := &f.closed[i]
			a, b := find(f.parent, p.a), find(f.parent, p.b)
			if a == b {
				continue
			}
			key := [2]int32{min(a, b), max(a, b)}
			k, known := at[key]
			if !known {
				k = len(borders)
				at[key] = k
				borders = append(borders, border{a: key[0], b: key[1], odds: gapCost})
			}
			borders[k].odds += p.weigh(f, a, b)
			borders[k].neck2 = max(borders[k].neck2, p.dist2)
		}
		slices.SortStableFunc(borders, func(a, b border) int { return cmp.Compare(a.odds, b.odds) })
		joined := map[int32]bool{}
		for _, o := range borders {
			if o.odds < 0 && !joined[o.a] && !joined[o.b] {
				f.join(o.a, o.b, o.neck2)
				joined[o.a], joined[o.b] = true, true
			}
		}
		if len(joined) == 0 {
			return
		}
	}
}

// look measures the passage at (x, y), its two banks foremost: the nearest ink p
// and the nearest ink q on the opposite side. It is no gap where there is no such
// ink near enough.
func (f *flooding) look(x, y int, d2 int32) (seen passage, maybeGap bool) {
	height := math.Sqrt(float64(d2))
	px, py, ok := f.nearestInk(x, y, height+1.5, func(int, int) bool { return true })
	if !ok {
		return seen, false
	}
	ax, ay := float64(px-x), float64(py-y)
	an := math.Hypot(ax, ay)
	qx, qy, ok := f.nearestInk(x, y, acrossGapMM/f.mm, func(dx, dy int) bool {
		dot := ax*float64(dx) + ay*float64(dy)
		return dot < -0.4*an*math.Hypot(float64(dx), float64(dy))
	})
	if !ok {
		return seen, false
	}
	ux, uy := float64(px-qx), float64(py-qy)
	gap := math.Hypot(ux, uy)
	ux, uy = ux/gap, uy/gap
	seen = passage{
		pixel: f.pixel(x, y), dist2: d2,
		width: max(0, gap-1) * f.mm,
		banks: [2]Point{f.centre(px, py), f.centre(qx, qy)},
	}
	if seen.width > widestGapMM {
		return seen, false
	}
	p, q := f.bank(px, py, ux, uy), f.bank(qx, qy, -ux, -uy)
	for _, b := range []bank{p, q} {
		if b.near.mean >= stubMeanMM && b.near.score() >= stubScore {
			seen.stubs++
		}
	}
	seen.seen = evidenceOf(seen.width, p, q)
	seen.seen[roomBehind] = f.room(float64(px+qx)/2, float64(py+qy)/2, ux, uy, height)
	seen.seen[faintInk] = f.faint(qx, qy, ux, uy, gap)
	return seen, true
}

// nearestInk returns the ink pixel nearest to (x, y) within r pixels whose
// offset satisfies allowed.
func (f *flooding) nearestInk(x, y int, r float64, allowed func(dx, dy int) bool) (px, py int, ok bool) {
	best := int(r * r)
	ri := int(r)
	for dy := -ri; dy <= ri; dy++ {
		yy := y + dy
		if yy < 0 || yy >= f.h || dy*dy > best {
			continue
		}
		row := f.ink.row(yy)
		for i := max(0, x-ri) / 64; i <= min(f.w-1, x+ri)/64; i++ {
			for word := row[i]; word != 0; word &= word - 1 {
				xx := i*64 + bits.TrailingZeros64(word)
				dx := xx - x
				if d := dx*dx + dy*dy; d <= best && d > 0 && allowed(dx, dy) && (d < best || !ok) {
					best, px, py, ok = d, xx, yy, true
				}
			}
		}
	}
	return px, py, ok
}

// A bank is the ink on one side of a passage, connected to the pixel the passage is
// narrowest at, within nearMM of it and within wideMM.
type bank struct{ near, wide reach }

// A reach is the ink of a bank within some distance.
type reach struct {
	mean   float64 // mm behind the gap, on average
	spread float64 // standard deviation along the passage, mm
	area   float64 // mm²
}

// score tells how much the ink runs away from the gap rather than along it.
func (r reach) score() float64 { return r.mean / (r.spread + 0.02) }

// bank measures the ink connected to (px, py), where the gap lies in the direction
// of -u.
func (f *flooding) bank(px, py int, ux, uy float64) bank {
	ri := int(wideMM / f.mm)
	near2 := int(nearMM*nearMM/(f.mm*f.mm) + 0.5)
	side := 2*ri + 1
	seen := make([]bool, side*side)
	stack := []int32{int32(ri*side + ri)}
	seen[stack[0]] = true
	type sum struct{ n, along, across, across2 float64 }
	var inner, outer sum
	for len(stack) > 0 {
		i := int(stack[len(stack)-1])
		stack = stack[:len(stack)-1]
		dx, dy := i%side-ri, i/side-ri
		fx, fy := float64(dx), float64(dy)
		along, across := fx*ux+fy*uy, fy*ux-fx*uy
		to := &outer
		if dx*dx+dy*dy <= near2 {
			to = &inner
		}
		to.n++
		to.along += along
		to.across += across
		to.across2 += across * across
		for ny := max(-ri, dy-1); ny <= min(ri, dy+1); ny++ {
			for nx := max(-ri, dx-1); nx <= min(ri, dx+1); nx++ {
				j := (ny+ri)*side + nx + ri
				gx, gy := px+nx, py+ny
				if seen[j] || gx < 0 || gy < 0 || gx >= f.w || gy >= f.h || nx*nx+ny*ny > ri*ri || !f.ink.at(gx, gy) {
					continue
				}
				seen[j] = true
				stack = append(stack, int32(j))
			}
		}
	}
	of := func(s sum) reach {
		mean := s.across / s.n
		return reach{
			mean:   s.along / s.n * f.mm,
			spread: math.Sqrt(max(0, s.across2/s.n-mean*mean)) * f.mm,
			area:   s.n * f.mm * f.mm,
		}
	}
	all := sum{inner.n + outer.n, inner.along + outer.along, inner.across + outer.across, inner.across2 + outer.across2}
	return bank{of(inner), of(all)}
}

// room is how many times as far from ink as at the saddle one is on the roomier
// side of a passage whose middle is at (cx, cy), wideMM away; at most 8.
func (f *flooding) room(cx, cy, ux, uy, height float64) float64 {
	const most = 8
	best2 := 0
	for _, side := range []float64{-wideMM, wideMM} {
		x, y := int(cx-uy*side/f.mm+0.5), int(cy+ux*side/f.mm+0.5)
		if x < 0 || y < 0 || x >= f.w || y >= f.h {
			return most
		}
		_, dist2 := f.ink.nearest(x, y, 0, int(most*most*height*height)+1)
		best2 = max(best2, dist2)
	}
	return min(most, math.Sqrt(float64(best2))/height)
}

// faint is how much ink is left at the lightest place on the way from (qx, qy)
// gap pixels along u, as a share of the contrast.
func (f *flooding) faint(qx, qy int, ux, uy, gap float64) float64 {
	lightest := uint8(0)
	for t := 0.0; t <= gap; t++ {
		x, y := int(float64(qx)+t*ux+0.5), int(float64(qy)+t*uy+0.5)
		lightest = max(lightest, f.grey[y*f.w+x])
	}
	return (paperLevel - float64(lightest)) / f.contrast
}
