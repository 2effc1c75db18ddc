package wash

import (
	"math"
	"slices"
	"sync"
)

// tile is how many cells of the grid, each way, are looked at or left alone together.
const tile = 16

// A basin is cells between which water may run, on a grid of its own.
type basin struct {
	p        *Painting
	labels   []uint16
	strokes  []*brushing // by start
	x0, y0   float64     // mm of the grid's corner
	h        float64     // mm, width of a place of the grid
	nx, ny   int
	paints   []int // of the painting, that come into it
	until    float64
	maxLayer int

	label  []uint16 // by place; 0 outside
	damp   []float32
	perm   []float32 // permeability, 1 in the middle
	evap   []float32 // how much faster than usual it dries there
	closed []bool    // under a cover

	water   []float32
	afloat  [][]float32 // by paint
	lying   [MaxLayers][][]float32
	rim     [MaxLayers][]float32
	layer   []uint8
	set     []bool // it has been touch-dry
	wetted  []bool // with clean water first
	soft    []bool // gone over with clean water
	deepest []float32
	filmed  []float32 // seconds with a film
	owner   []int16   // the stroke that wetted it last, -1
	asked   []float32 // load that was laid there
	late    []float32 // load that came once it was damp
	lean    []bool    // the board is tilted

	mobile []float32 // (film/65)^1.5, of this step
	rate   []float32 // by label, g/m² a second, with what dries faster now
	cross  map[[2]uint16]float32
	cover  []float64 // times at which covers change
	spells []float64

	tx, ty int
	wet    []bool   // tiles
	has    []uint64 // by tile: paints afloat
	lies   []uint64 // by tile: paints that lie

	t, lastPaint float64
	dry          bool
	odd          int
	laid         []float64 // by paint: mass that was laid
	taken        []float64
	ran          map[crossing]*ranOver
	happened     []Event
	buf          lineBuf
	bufs         sync.Pool
	looked       sync.Once
	fine         *fine // once it was looked at
}

// A brushing is a stroke in one basin.
type brushing struct {
	*Stroke
	index int // of the basin's strokes
	dabs  []dab
	next  int
	layer int
	begun bool
	ended bool
	laps  int
	grips []float32 // of grains: how well each takes
}

// A dab is what one place of the grid gets, and when, s from the start of the stroke.
type dab struct {
	at    float32
	place int32
	load  float32
	water float32 // it sets the water to at least this
	add   float32 // and adds this
	take  float32 // share it takes away of what is there
}

type crossing struct {
	from, to uint16
	paint    int
}

type ranOver struct {
	load float64
	at   float64 // s
	x, y int32
}

// gridFor is how wide places are for the largest and the smallest of some cells: fine
// enough for both, and no finer than helps.
func gridFor(largest, smallest float64) float64 {
	h := clamp64(math.Sqrt(largest)/90, 0.5, 1)
	return min(h, max(0.5, 0.6*h, math.Sqrt(smallest)/6))
}

// finer divides the width of places: what is measured asks for more than the eye.
func (p *Painting) finer() float64 {
	if p.Fine {
		return 1.45
	}
	return 1
}

func clamp64(v, lo, hi float64) float64 { return max(lo, min(hi, v)) }

// newBasin lays a grid over cells. finer divides the width of its places.
func (p *Painting) newBasin(labels []uint16, strokes []int, finer float64) *basin {
	b := &basin{p: p, labels: labels, dry: true, ran: map[crossing]*ranOver{}, until: math.Inf(-1)}
	largest, smallest := 0.0, math.Inf(1)
	x0, y0, x1, y1 := math.Inf(1), math.Inf(1), 0.0, 0.0
	for _, l := range labels {
		largest, smallest = max(largest, p.Plate.MM2(l)), min(smallest, max(1, p.Plate.MM2(l)))
		l0, t0, r1, b1 := p.Plate.Box(l)
		x0, y0, x1, y1 = min(x0, l0), min(y0, t0), max(x1, r1), max(y1, b1)
	}
	b.h = gridFor(largest, smallest) / finer
	// grids lie on one raster whatever their box, so that paper is the same below them
	b.x0, b.y0 = math.Floor(x0/b.h)*b.h, math.Floor(y0/b.h)*b.h
	b.nx, b.ny = max(2, int(math.Ceil((x1-b.x0)/b.h))), max(2, int(math.Ceil((y1-b.y0)/b.h)))
	n := b.nx * b.ny
	f := func() []float32 { return make([]float32, n) }
	b.damp, b.perm, b.evap, b.water, b.deepest, b.filmed, b.mobile = f(), f(), f(), f(), f(), f(), f()
	b.asked, b.late = f(), f()
	b.label, b.layer, b.owner = make([]uint16, n), make([]uint8, n), make([]int16, n)
	b.set, b.wetted, b.soft, b.closed, b.lean = make([]bool, n), make([]bool, n), make([]bool, n), make([]bool, n), make([]bool, n)
	for l := range MaxLayers {
		b.rim[l] = f()
	}
	mine := p.Plate.among(labels)
	for i := range n {
		b.owner[i] = -1
		x, y := b.middle(i)
		if l := p.Plate.LabelAt(x, y); mine[l] {
			b.label[i] = l
		}
		fx, fy := float32(x), float32(y)
		// big lobes below small crinkles: a front runs ahead where the paper lets it
		n := 0.8*cloudy(fx/2.3, fy/2.3, 5, p.Seed+5) + 0.45*noise(fx/6.5, fy/6.5, p.Seed+6)
		b.perm[i] = clamp(float32(math.Exp(float64(p.Paper.Porous*n))), 0.02, 5)
		b.damp[i] = p.Paper.Damp * (1 + p.Paper.Uneven*cloudy(fx/p.Paper.Patch, fy/p.Paper.Patch, 3, p.Seed+55))
		b.evap[i] = 1 + 0.10*cloudy(fx/12, fy/12, 2, p.Seed+95)
	}
	b.cross = map[[2]uint16]float32{}
	for _, e := range p.Borders {
		if mine[e.A] && mine[e.B] {
			b.cross[[2]uint16{e.A, e.B}], b.cross[[2]uint16{e.B, e.A}] = e.Cross, e.Cross
		}
	}
	b.tx, b.ty = (b.nx+tile-1)/tile, (b.ny+tile-1)/tile
	b.wet, b.has, b.lies = make([]bool, b.tx*b.ty), make([]uint64, b.tx*b.ty), make([]uint64, b.tx*b.ty)
	b.buf = newLineBuf(max(b.nx, b.ny))
	b.bufs.New = func() any {
		q := newLineBuf(max(b.nx, b.ny))
		return &q
	}
	b.planStrokes(strokes, mine)
	b.afloat = make([][]float32, len(b.paints))
	for l := range MaxLayers {
		b.lying[l] = make([][]float32, len(b.paints))
	}
	b.laid, b.taken = make([]float64, len(b.paints)), make([]float64, len(b.paints))
	b.planTimes()
	return b
}

// middle is the middle of a place, mm on the sheet.
func (b *basin) middle(i int) (x, y float64) {
	return b.x0 + (float64(i%b.nx)+0.5)*b.h, b.y0 + (float64(i/b.nx)+0.5)*b.h
}

func (b *basin) tileOf(i int32) int { return (int(i)/b.nx/tile)*b.tx + int(i)%b.nx/tile }

// paint is the local number of one of the painting's paints.
func (b *basin) paint(of int) int { return slices.Index(b.paints, of) }

func plane(p *[]float32, n int) []float32 {
	if *p == nil {
		*p = make([]float32, n)
	}
	return *p
}

func (b *basin) float(m int) []float32      { return plane(&b.afloat[m], len(b.water)) }
func (b *basin) lie(layer, m int) []float32 { return plane(&b.lying[layer][m], len(b.water)) }

// planTimes finds when covers come and go, and when cells dry faster.
func (b *basin) planTimes() {
	b.rate = make([]float32, b.p.Plate.Cells+1)
	for _, c := range b.p.Covers {
		b.cover = append(b.cover, c.From, c.To)
	}
	for _, s := range b.p.Spells {
		b.spells = append(b.spells, s.From, s.To)
	}
	slices.Sort(b.cover)
	slices.Sort(b.spells)
	b.atTime(math.Inf(-1))
}

// atTime sets what covers and heat do at a time.
func (b *basin) atTime(t float64) {
	for _, l := range b.labels {
		r := b.p.rate(l)
		for _, s := range b.p.Spells {
			if t >= s.From && t < s.To && (s.WholeSheet || slices.Contains(s.Cells, l)) {
				r *= max(1, s.Faster)
			}
		}
		b.rate[l] = float32(r / 60)
	}
	if len(b.p.Covers) == 0 {
		return
	}
	clear(b.closed)
	for _, c := range b.p.Covers {
		if t < c.From || t >= c.To {
			continue
		}
		for i, l := range b.label {
			if x, y := b.middle(i); l != 0 && c.Region.dist[b.p.Plate.At(x, y)] > 0 {
				b.closed[i] = true
			}
		}
	}
}

// run plays on until a time, s, is past. Its steps do not depend on where it stopped before,
// so that it comes to the same.
func (b *basin) run(until float64) {
	for b.t < until {
		if len(b.strokes) > 0 && b.t == 0 && b.dry && b.strokes[0].Start > 1 {
			b.jump(min(until, b.strokes[0].Start-1))
		}
		next, busy := b.next()
		if b.dry && !busy {
			if math.IsInf(next, 1) || next >= until {
				b.jump(until)
				break
			}
			b.jump(next)
		}
		if busy {
			b.lastPaint = b.t
		}
		dt := stepAfter(b.t-b.lastPaint, b.h)
		if !busy {
			dt = max(0.25, min(dt, next-b.t))
		}
		dt = b.notPast(dt)
		b.lay(b.t + dt)
		b.advance(float32(dt))
		b.t += dt
	}
	b.until = until
}

// jump goes on to a time up to which nothing happens.
func (b *basin) jump(t float64) {
	b.t = max(b.t, t)
	b.atTime(b.t)
}

const longestStep = 40 // s

// stepAfter is how long a step may be so many seconds after the last dab, on a grid of
// places so many mm wide.
func stepAfter(quiet, wide float64) float64 {
	switch {
	case quiet < 20:
		return clamp64(6*wide-0.5, 1.6, 6)
	case quiet < 60:
		return clamp64(12*wide, 4, 6)
	case quiet < 180:
		return clamp64(18*wide, 6, 9)
	case quiet > 600:
		return longestStep
	}
	return 15
}

// notPast shortens a step so that it does not run past a change of covers or heat.
func (b *basin) notPast(dt float64) float64 {
	changed := false
	for _, times := range [2][]float64{b.cover, b.spells} {
		for _, at := range times {
			if at <= b.t && at > b.t-longestStep-1 {
				changed = true
			}
			if at > b.t && at < b.t+dt {
				dt = at - b.t
			}
		}
	}
	if changed {
		b.atTime(b.t)
	}
	return max(dt, 0.01)
}

// next is when the next dab falls, and whether one falls now.
func (b *basin) next() (at float64, busy bool) {
	at = math.Inf(1)
	for _, s := range b.strokes {
		if s.next >= len(s.dabs) && s.ended {
			continue
		}
		if s.Start > b.t+60 && !math.IsInf(at, 1) {
			break
		}
		n := s.Start + s.Dur
		if s.next < len(s.dabs) {
			n = s.Start + float64(s.dabs[s.next].at)
		}
		if n <= b.t+1 {
			busy = true
		}
		at = min(at, n)
	}
	return at, busy
}

// goOn takes the state of a basin that ran less far, which stays as it is.
func (b *basin) goOn(o *basin) {
	for _, f := range [][2][]float32{{b.water, o.water}, {b.deepest, o.deepest}, {b.filmed, o.filmed}, {b.asked, o.asked}, {b.late, o.late}, {b.mobile, o.mobile}} {
		copy(f[0], f[1])
	}
	for m, f := range o.afloat {
		if f != nil {
			copy(b.float(m), f)
		}
	}
	for l := range MaxLayers {
		copy(b.rim[l], o.rim[l])
		for m, f := range o.lying[l] {
			if f != nil {
				copy(b.lie(l, m), f)
			}
		}
	}
	copy(b.layer, o.layer)
	copy(b.owner, o.owner)
	for _, f := range [][2][]bool{{b.set, o.set}, {b.wetted, o.wetted}, {b.soft, o.soft}, {b.lean, o.lean}, {b.wet, o.wet}} {
		copy(f[0], f[1])
	}
	copy(b.has, o.has)
	copy(b.lies, o.lies)
	copy(b.laid, o.laid)
	copy(b.taken, o.taken)
	for k, r := range o.ran {
		is := *r
		b.ran[k] = &is
	}
	b.happened = slices.Clone(o.happened)
	for i, s := range o.strokes {
		is := b.strokes[i]
		is.next, is.layer, is.begun, is.ended, is.laps, is.grips = s.next, s.layer, s.begun, s.ended, s.laps, slices.Clone(s.grips)
	}
	b.t, b.until, b.lastPaint, b.dry, b.odd, b.maxLayer = o.t, o.until, o.lastPaint, o.dry, o.odd, o.maxLayer
	b.atTime(b.t)
}
