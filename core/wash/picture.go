package wash

import (
	"context"
	"image"
	"math"
	"sync"

	lru "github.com/hashicorp/golang-lru/v2"

	"chromaqua/core/parallel"
)

// A View is how a moment is looked at.
type View struct {
	Grey   bool
	Soaked bool        // as if all paint were under water that shines
	Ink    *image.Gray // the line as it is seen, of the picture's size; nil without one
	InkOf  [3]float64  // its colour, linear sRGB
	Glance float64     // -1 … 1: how far the sheet is held to the light, for what glints
}

// MaxPixels bounds a picture: 12 × 12 in at 300 to the inch.
const MaxPixels = 3600 * 3600

// A Picture draws rectangles of a moment. It is safe for several goroutines.
type Picture struct {
	m       *Moment
	marks   [][]placed
	surface *surface
	tooth   [4][teethBins]float32 // what a height does to the load, by how much a paint grains
}

type surfaceKey struct {
	kind     Relief
	wmm, hmm float64
	seed     uint32
}

// surfaces are kept, the few used last: a sheet's relief does not change with what is painted
// on it.
var surfaces = func() *lru.Cache[surfaceKey, *surface] {
	const kept = 4
	c, err := lru.New[surfaceKey, *surface](kept)
	if err != nil {
		panic("wash: " + err.Error()) // only for a size below 1
	}
	return c
}()

func surfaceOf(k surfaceKey) *surface {
	s, known := surfaces.Get(k)
	if !known {
		s = newSurface(k.kind, k.wmm, k.hmm, k.seed)
		surfaces.Add(k, s)
	}
	return s
}

// What heights do to load, by how much a paint grains: e^(−γ·height); and clumps, so much
// more of each step.
var graining = [4]float64{0.02, 0.06, 0.11, 0.17}

const grainClumps = 0.045

// Picture makes ready to draw the moment.
func (m *Moment) Picture() *Picture {
	p := m.p
	parallel.Each(len(m.basins), func(k int) { m.basins[k].detail() })
	q := &Picture{m: m, marks: m.marks(), surface: surfaceOf(surfaceKey{p.Paper.Relief, float64(p.Plate.W) * PlateMM, float64(p.Plate.H) * PlateMM, p.Seed})}
	for k, g := range graining {
		total, n := 0.0, 0.0
		for i, count := range q.surface.count {
			h := (float64(i)+0.5)/(teethBins/8.) - 4
			v := math.Exp(-g * p.Hand.Grain * h)
			q.tooth[k][i] = float32(v)
			total, n = total+v*count, n+count
		}
		for i := range q.tooth[k] {
			q.tooth[k][i] *= float32(n / total)
		}
	}
	return q
}

// Size is how many pixels the whole sheet has at a resolution.
func (q *Picture) Size(dpi float64) image.Point { return SizeOf(q.m.p.Plate, dpi) }

// SizeOf is how many pixels a picture of a whole plate has at a resolution.
func SizeOf(p *Plate, dpi float64) image.Point {
	return image.Pt(max(1, int(math.Round(float64(p.W)*PlateMM/25.4*dpi))), max(1, int(math.Round(float64(p.H)*PlateMM/25.4*dpi))))
}

// Draw draws a rectangle of the sheet, in pixels of the resolution. It stops with ctx's
// error.
func (q *Picture) Draw(ctx context.Context, dpi float64, r image.Rectangle, v View, progress func(done float64)) (*image.RGBA, error) {
	r = r.Intersect(image.Rectangle{Max: q.Size(dpi)})
	img := image.NewRGBA(r)
	var mu sync.Mutex
	done := 0
	bands := min(64, max(1, r.Dy()/32))
	parallel.Each(bands, func(n int) {
		if ctx.Err() != nil {
			return
		}
		y0, y1 := r.Min.Y+r.Dy()*n/bands, r.Min.Y+r.Dy()*(n+1)/bands
		d := drawer{Picture: q, v: v, mm: float32(25.4 / dpi), x0: r.Min.X, x1: r.Max.X}
		d.calm = newCalm(&d)
		for y := y0; y < y1; y++ {
			d.row(y, img.Pix[img.PixOffset(r.Min.X, y):img.PixOffset(r.Max.X, y)])
		}
		if progress != nil {
			mu.Lock()
			done++
			progress(float64(done) / float64(bands))
			mu.Unlock()
		}
	})
	return img, ctx.Err()
}

// A drawer draws pixels, one goroutine each.
type drawer struct {
	*Picture
	v      View
	mm     float32 // width of a pixel
	x0, x1 int     // the columns to draw
	relief relief
	spot   spot
	coat   coat
	calm   calm
}

// A relief is the paper along a row of pixels: how high it is, how much pigment clumps, and
// how high it is where the light comes from.
type relief struct{ heights, clumps, lit []float32 }

func (r *relief) row(d *drawer, y int) {
	const ahead = 0.09 // mm, to the upper left
	if n := d.x1 - d.x0; r.lit == nil {
		r.heights, r.clumps, r.lit = make([]float32, n), make([]float32, n), make([]float32, n)
	}
	at := d.middle(d.x0, y)
	d.surface.row(r.heights, d.surface.height, at.x, at.y, d.mm)
	d.surface.row(r.clumps, d.surface.clump, at.x, at.y, d.mm)
	d.surface.row(r.lit, d.surface.height, at.x-ahead, at.y-ahead, d.mm)
}

// A place is where on the sheet a colour is asked for.
type place struct {
	x, y  float32 // mm
	pixel int     // of the plate
	label uint16
	b     *basin // nil where nothing was washed
	wet   float32
	deep  float32 // g/m², the film that stands there
}

// row draws a row of pixels.
func (d *drawer) row(y int, pix []uint8) {
	d.calm.rowOf(d, y)
	d.relief.row(d, y)
	var one [1]tint
	for x := d.x0; x < d.x1; x++ {
		at := d.middle(x, y)
		n := x - d.x0
		height := d.relief.heights[n]
		paper := texture{height, d.relief.clumps[n]}
		t, even := d.calm.tint(paper)
		if !even {
			d.find(&at)
			d.tints(one[:], &at, []texture{paper})
			t = one[0]
		}
		c := t.c
		d.light(&c, &at, height, d.relief.lit[n], &t)
		for k := range c { // metal glints in its own colour
			c[k] += t.glint * (min(1, 0.12+2.3*c[k]) - c[k])
		}
		if d.v.Ink != nil {
			d.line(&c, x, y, height)
		}
		if d.v.Grey {
			l := 0.2126*c[0] + 0.7152*c[1] + 0.0722*c[2]
			c = [3]float32{l, l, l}
		}
		pix[4*n], pix[4*n+1], pix[4*n+2], pix[4*n+3] = encoded(c[0]), encoded(c[1]), encoded(c[2]), 255
	}
}

// middle is the middle of a pixel.
func (d *drawer) middle(px, py int) place {
	return place{x: (float32(px) + 0.5) * d.mm, y: (float32(py) + 0.5) * d.mm}
}

// find finds what lies at a place.
func (d *drawer) find(at *place) {
	p := d.m.p
	at.pixel = min(p.Plate.H-1, int(at.y*(1/float32(PlateMM))))*p.Plate.W + min(p.Plate.W-1, int(at.x*(1/float32(PlateMM))))
	at.label = p.Plate.Label[at.pixel]
	if b := d.m.at(at.label); b != nil && b.fine.find(&d.spot, at.x, at.y, at.pixel) {
		at.b = b
		if w := d.spot.of(b.water); w > 3 {
			damp := b.damp[d.spot.i[0]]
			at.wet, at.deep = p.Paper.wetness(w, damp), max(0, w-damp)
		}
	}
	if d.v.Soaked {
		at.wet, at.deep = 1, 16
	}
}

// A tint is what paint and water make of the sheet at a place, before light falls on it.
type tint struct {
	c     [3]float32 // linear
	glint float32
	deep  float32 // g/m², of the film on paint
	edge  float32 // mm to that of the layer on top
}

// A texture is how high the paper is, and how much pigment clumps.
type texture struct{ height, clump float32 }

// tints are those of a place, by textures its paper might have there, up to three. Where an
// edge lies goes by the first.
func (d *drawer) tints(to []tint, at *place, paper []texture) {
	var r [3]Bands
	for n := range paper {
		r[n], to[n] = d.m.p.Ground, tint{edge: 15}
	}
	marks := d.marks[at.label]
	painted := false
	for k := -1; k < 0 || at.b != nil && k <= at.b.maxLayer; k++ {
		if k >= 0 && d.coat.find(d, k, at, paper[0].height) {
			painted = true
			for n := range paper {
				to[n].edge = d.coat.edge
				d.coat.over(d, &r[n], &to[n].glint, at, paper[n])
			}
		}
		for i := range marks {
			if m := &marks[i]; m.after == k {
				for n := range paper {
					painted = d.mark(m, &r[n], &to[n].glint, at, paper[n]) || painted
				}
			}
		}
	}
	for n := range paper {
		if painted {
			r[n].seen(at.wet)
			to[n].deep = at.deep
		}
		to[n].c = r[n].linear()
	}
}

// A coat is what one layer has at a place.
type coat struct {
	b        *basin
	paints   []int // of the basin's
	loads    [MaxPaints]float32
	edge     float32 // mm, how far inside
	graining float32
}

// find finds what a layer has at a place, and whether it has anything.
func (c *coat) find(d *drawer, k int, at *place, height float32) bool {
	f := at.b.fine
	l, among := f.layers[k], amid(at.x, at.y, f.box)
	bead := float32(l.bead[among.i]) / 127
	c.edge = mix(l.dist, among)*0.001 + 0.035*clamp(height, -2, 2)
	part := clamp(c.edge/d.mm+0.5, 0, 1)
	if part == 0 {
		return false
	}
	total := float32(0)
	for n, m := range l.paints {
		c.loads[n] = d.spot.load(k, m)
		total += c.loads[n]
	}
	if total < 2e-4 {
		return false
	}
	c.b, c.paints = at.b, l.paints
	c.graining = 1 / (1 + 0.25*total)
	if at.deep > 8 {
		c.graining *= 0.5 // still afloat
	}
	by := part * l.scale[at.label] * d.spot.edge(k, c.edge, bead, at.x, at.y, total)
	if l.grain != nil {
		by *= float32(l.grain[among.i]) / 64
	}
	for n := range l.paints {
		c.loads[n] *= by
	}
	return true
}

// over lays the coat on a ground.
func (c *coat) over(d *drawer, r *Bands, glint *float32, at *place, paper texture) {
	bin := toothBin(paper.height)
	var fl film
	for n, m := range c.paints {
		v := c.loads[n]
		if v < 1e-5 {
			continue
		}
		own := &c.b.p.Paints[c.b.paints[m]]
		e := 1 + c.graining*(d.tooth[min(3, int(own.Grain+0.5))][bin]-1)
		if own.Grain > 0 {
			e *= 1 + grainClumps*own.Grain*float32(c.b.p.Hand.Grain)*c.graining*paper.clump
		}
		fl.add(own, v*max(0.05, e))
	}
	fl.over(r)
	if fl.glint > 0 || *glint > 0 {
		*glint = d.mirrors(*glint, 1-exp(1.6*fl.load), &fl, at)
	}
}

// mark lays a mark on a ground.
func (d *drawer) mark(m *placed, r *Bands, glint *float32, at *place, paper texture) bool {
	cover, amount := m.cover(d.m.p, at, paper.height*d.surface.level, max(d.mm, 0.06))
	if cover < 0.01 {
		return false
	}
	fl := m.film
	load := m.s.Load * amount * (1 + 0.08*paper.clump)
	fl.load *= load
	for i := range fl.k {
		fl.k[i], fl.s[i], fl.sinks[i] = fl.k[i]*load, fl.s[i]*load, fl.sinks[i]*load
	}
	over := *r
	fl.over(&over)
	for i := range r {
		r[i] += cover * (over[i] - r[i])
	}
	*glint = d.mirrors(*glint, cover, &m.film, at)
	return true
}

// mirrors is how much of the light a place mirrors once paint covers a share of what lay
// there: flakes below are dulled, those in it shine by how much it glints.
func (d *drawer) mirrors(below, cover float32, fl *film, at *place) float32 {
	below *= 1 - 0.6*cover
	if fl.glint == 0 {
		return below
	}
	return max(below, cover*fl.glint/fl.load*flake(at.x, at.y, d.v.Glance, d.m.p.Seed))
}

// flake is how bright the flake of mica at a place shines: each lies a little aslant, and
// mirrors the light when the sheet is held so.
func flake(x, y float32, glance float64, seed uint32) float32 {
	const wide = 0.16 // mm
	ix, iy := floor(x/wide), floor(y/wide)
	lies := 2*unit(ix, iy, seed+501) - 1
	off := lies - float32(glance)*0.8
	return 0.04 + 0.62*exp(14*off*off)*unit(ix, iy, seed+502)
}

// light is what the room's light does to the surface: it rakes the relief, and a film hides
// that and mirrors a window.
func (d *drawer) light(c *[3]float32, at *place, height, lit float32, t *tint) {
	x, y, deep, edge := at.x, at.y, t.deep, t.edge
	shade := 1 + 0.026*(height-lit)*(1-min(1, deep*(1./12)))
	for k := range c {
		c[k] *= shade
	}
	if deep <= 2 {
		return
	}
	seed := d.m.p.Seed
	swell := 3.5*noise(x/14, y/14, seed+61) + 0.8*noise(x/3.5, y/3.5, seed+62) + 0.35*height*exp(deep/14)
	q := 0.42*x + 0.9*y + swell
	q -= 46 * float32(floor(q/46))
	a, b := (q-16)*(1./5.5), (q-28)*(1./2.6)
	depth := deep / (deep + 14)
	shine := depth * (0.03 + 0.30*(exp(a*a)+0.55*exp(b*b)))
	if edge < 1.2 { // the film's round shoulder
		e := (edge - 0.4) * 4
		shine += 0.20 * depth * exp(e*e)
	}
	for k := range c {
		c[k] += (1 - c[k]) * shine
	}
}

// line lays the line over all: a stamp leaves out the deepest hollows.
func (d *drawer) line(c *[3]float32, px, py int, height float32) {
	b := d.v.Ink.Bounds()
	at := image.Pt(b.Min.X+px, b.Min.Y+py)
	if !at.In(b) {
		return
	}
	t := float32(d.v.Ink.GrayAt(at.X, at.Y).Y) / 240
	if t >= 0.99 {
		return
	}
	t *= t
	t += (1 - t) * clamp((-height*d.surface.level-1.5)*0.30, 0, 0.30)
	for k := range c {
		c[k] = c[k]*t + float32(d.v.InkOf[k])*(1-t)
	}
}
