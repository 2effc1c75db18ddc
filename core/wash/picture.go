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
	c       *canvas
	surface *surface
	tooth   [4][128]float32 // what a height does to the load, by how much a paint grains
	level   float32         // of heights, so that their spread is 1
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

// What heights do to load, by how much a paint grains: e^(−γ·height).
var graining = [4]float64{0.02, 0.06, 0.11, 0.17}

// Picture makes ready to draw the moment.
func (m *Moment) Picture() *Picture {
	p := m.p
	q := &Picture{c: newCanvas(m), surface: surfaceOf(surfaceKey{p.Paper.Relief, float64(p.Plate.W) * PlateMM, float64(p.Plate.H) * PlateMM, p.Seed})}
	var count [128]float64
	sum := 0.0
	for i := 0; i < len(q.surface.height); i += 7 {
		count[toothBin(float32(q.surface.height[i])/perUnit)]++
		sum += float64(q.surface.height[i]) / perUnit * float64(q.surface.height[i]) / perUnit
	}
	q.level = float32(1 / math.Sqrt(max(1e-6, sum/float64((len(q.surface.height)+6)/7))))
	for k, g := range graining {
		total, n := 0.0, 0.0
		for i := range count {
			h := (float64(i)+0.5)/(128/8.) - 4
			v := math.Exp(-g * p.Hand.Grain * h)
			q.tooth[k][i] = float32(v)
			total, n = total+v*count[i], n+count[i]
		}
		for i := range q.tooth[k] {
			q.tooth[k][i] *= float32(n / total)
		}
	}
	return q
}

func toothBin(h float32) int { return min(127, max(0, int((h+4)*(128/8.)))) }

// Size is how many pixels the whole sheet has at a resolution.
func (q *Picture) Size(dpi float64) image.Point { return SizeOf(q.c.m.p.Plate, dpi) }

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
	bands := min(64, max(1, r.Dy()/8))
	parallel.Each(bands, func(n int) {
		if ctx.Err() != nil {
			return
		}
		y0, y1 := r.Min.Y+r.Dy()*n/bands, r.Min.Y+r.Dy()*(n+1)/bands
		d := drawer{Picture: q, v: v, mm: float32(25.4 / dpi)}
		for y := y0; y < y1; y++ {
			for x := r.Min.X; x < r.Max.X; x++ {
				o := img.PixOffset(x, y)
				c := d.pixel(x, y)
				img.Pix[o], img.Pix[o+1], img.Pix[o+2], img.Pix[o+3] = encoded(c[0]), encoded(c[1]), encoded(c[2]), 255
			}
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
	v    View
	mm   float32
	spot spot
}

// pixel is the linear colour of a pixel.
func (d *drawer) pixel(px, py int) [3]float32 {
	p := d.c.m.p
	x, y := (float32(px)+0.5)*d.mm, (float32(py)+0.5)*d.mm
	i := min(p.Plate.H-1, int(y*(1/float32(PlateMM))))*p.Plate.W + min(p.Plate.W-1, int(x*(1/float32(PlateMM))))
	height, clump := d.surface.at(x, y, d.mm/float32(reliefMM))
	r := p.Ground
	painted, wet, deep, glint := false, float32(0), float32(0), float32(0)
	label := p.Plate.Label[i]
	marks := d.c.byCell[label]
	found := d.c.find(&d.spot, x, y, i)
	if found {
		w := d.spot.of(d.spot.b.water)
		if w > 3 {
			damp := d.spot.b.damp[d.spot.i[0]]
			wet, deep = p.Paper.wetness(w, damp), max(0, w-damp)
		}
	}
	if d.v.Soaked {
		wet, deep = 1, 16
	}
	for _, m := range marks {
		if m.after[label] < 0 {
			painted = d.mark(m, &r, &glint, x, y, height, clump, i) || painted
		}
	}
	edge := float32(15)
	if found {
		for k := 0; k <= d.spot.b.maxLayer; k++ {
			if l := d.c.layers[k]; l != nil {
				if e, on := d.layer(l, k, &r, &glint, x, y, height, clump, deep, i); on {
					painted, edge = true, e
				}
			}
			for _, m := range marks {
				if m.after[label] == k {
					painted = d.mark(m, &r, &glint, x, y, height, clump, i) || painted
				}
			}
		}
	}
	if painted {
		r.seen(wet)
	}
	if !painted {
		deep = 0
	}
	c := r.linear()
	d.light(&c, x, y, height, deep, edge)
	for k := range c { // metal glints in its own colour
		c[k] += glint * (min(1, 0.12+2.3*c[k]) - c[k])
	}
	if d.v.Ink != nil {
		d.line(&c, px, py, height)
	}
	if d.v.Grey {
		l := 0.2126*c[0] + 0.7152*c[1] + 0.0722*c[2]
		c = [3]float32{l, l, l}
	}
	return c
}

// layer lays one layer on a ground, and tells how far inside its edge the pixel is, mm.
func (d *drawer) layer(l *layerMap, k int, r *Bands, glint *float32, x, y, height, clump, deep float32, pixel int) (edge float32, on bool) {
	p := d.c.m.p
	dist, bead := d.blend(l, x, y)
	dist += 0.035 * clamp(height, -2, 2)
	part := clamp(dist/d.mm+0.5, 0, 1)
	if part == 0 {
		return 0, false
	}
	var loads [MaxPaints]float32
	paints := d.c.paints[d.c.m.of[p.Plate.Label[pixel]]][k]
	total := float32(0)
	for n, m := range paints {
		loads[n] = d.spot.load(k, m)
		total += loads[n]
	}
	if total < 2e-4 {
		return 0, false
	}
	f := part * l.scale[p.Plate.Label[pixel]] * d.c.rim(l, &d.spot, k, dist, bead, x, y, total)
	if l.grain != nil {
		f *= float32(l.grain[pixel]) / 64
	}
	graining := 1 / (1 + 0.25*total)
	if deep > 8 {
		graining *= 0.5 // still afloat
	}
	bin := toothBin(height)
	var fl film
	for n, m := range paints {
		v := loads[n]
		if v < 1e-5 {
			continue
		}
		own := &p.Paints[d.spot.b.paints[m]]
		g := min(3, int(own.Grain+0.5))
		e := 1 + graining*(d.tooth[g][bin]-1)
		if own.Grain > 0 {
			e *= 1 + 0.045*own.Grain*float32(p.Hand.Grain)*graining*clump
		}
		fl.add(own, v*f*max(0.05, e))
	}
	fl.over(r)
	if fl.glint > 0 || *glint > 0 {
		*glint = d.mirrors(*glint, 1-exp(1.6*fl.load), &fl, x, y)
	}
	return dist, true
}

// blend is how far inside a layer a place lies, mm, between pixels, and how much of its
// edge is below.
func (d *drawer) blend(l *layerMap, x, y float32) (dist, bead float32) {
	p := d.c.m.p.Plate
	at := amid(x, y, image.Rect(0, 0, p.W, p.H))
	return mix(l.dist, at) * 0.001, float32(l.bead[at.i]) / 127
}

// mark lays a mark on a ground.
func (d *drawer) mark(m *markMap, r *Bands, glint *float32, x, y, height, clump float32, pixel int) bool {
	cover, amount := m.cover(d.c, x, y, height*d.level, pixel, max(d.mm, 0.06))
	if cover < 0.01 {
		return false
	}
	fl := m.film
	load := m.s.Load * amount * (1 + 0.08*clump)
	fl.load *= load
	for i := range fl.k {
		fl.k[i], fl.s[i], fl.sinks[i] = fl.k[i]*load, fl.s[i]*load, fl.sinks[i]*load
	}
	over := *r
	fl.over(&over)
	for i := range r {
		r[i] += cover * (over[i] - r[i])
	}
	*glint = d.mirrors(*glint, cover, &m.film, x, y)
	return true
}

// mirrors is how much of the light a place mirrors once paint covers a share of what lay
// there: flakes below are dulled, those in it shine by how much it glints.
func (d *drawer) mirrors(below, cover float32, fl *film, x, y float32) float32 {
	below *= 1 - 0.6*cover
	if fl.glint == 0 {
		return below
	}
	return max(below, cover*fl.glint/fl.load*flake(x, y, d.v.Glance, d.c.m.p.Seed))
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
func (d *drawer) light(c *[3]float32, x, y, height, deep, edge float32) {
	const step = 0.09 // mm
	left, _ := d.surface.at(x-step, y-step, min(1.4, d.mm/float32(reliefMM)))
	shade := 1 + 0.026*(height-left)*(1-min(1, deep*(1./12)))
	for k := range c {
		c[k] *= shade
	}
	if deep <= 2 {
		return
	}
	seed := d.c.m.p.Seed
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
	t += (1 - t) * clamp((-height*d.level-1.5)*0.30, 0, 0.30)
	for k := range c {
		c[k] = c[k]*t + float32(d.v.InkOf[k])*(1-t)
	}
}
