// Package photo answers "is this painted as it was planned?": a photo of a painted panel,
// taken by hand, is squared by its line, its light evened by its paper, and its colours held
// against the plan, cell by cell. Lengths are millimetres on the panel, colours linear light
// with the panel's own paper as the plan has it.
package photo

import (
	"context"
	"errors"
	"image"
	"math"

	"chromaqua/core/lineart"
	"chromaqua/core/pigment"
	"chromaqua/core/proof"
)

// Plan is what a photo is held against.
type Plan struct {
	W, H  float64
	Line  *image.Gray // what of the line is seen, over the whole panel
	Cells []Cell
	Areas []Area
	Paper pigment.RGB

	cells  *lineart.Drawing
	seen   []seen // by place, where areas lie over one another
	across int    // places in a row
}

// Cell is one cell of the drawing as it is planned.
type Cell struct {
	ID     int
	Area   int // index, -1 for bare paper, [Mixed] where several areas lie over one another
	MM2    float64
	At     lineart.Point // its middle
	Radius float64       // of the largest circle in it
	Colour pigment.Lab   // planned, on the whole
}

// Mixed is the area of a cell on which several lie.
const Mixed = -2

// Area is what is painted alike.
type Area struct {
	ID, Name string
	Even     bool    // its colour does not run, so that blooms can be told
	Stages   []Stage // its colour before the first wash, and after each
}

// Stage is a colour on the way: where it lies densest, and where it is thinnest.
type Stage struct{ Dense, Thin pigment.Lab }

// mid is the colour on the whole.
func (s Stage) mid() pigment.Lab {
	return pigment.Lab{L: (s.Dense.L + s.Thin.L) / 2, A: (s.Dense.A + s.Thin.A) / 2, B: (s.Dense.B + s.Thin.B) / 2}
}

// Why a photo cannot be read.
var (
	ErrSmall   = errors.New("the photo is too small to tell colours by; take it closer, or send it whole")
	ErrDark    = errors.New("the photo is too dark; take it by a window, without flash")
	ErrBlurred = errors.New("the photo is blurred; hold the phone still, and touch the panel on its screen to focus")
	ErrCutOff  = errors.New("part of the panel lies outside the photo; take it from a little farther away")
	ErrNoLine  = errors.New("hardly any line of this card is printed, and a photo is squared by its line: hold the two side by side instead")
	ErrOther   = errors.New("the line of this card was not found in the photo; is it this card? Lay the panel on a table of another colour, with nothing else on it, and photograph it from above")
)

// Limits of photos, and how they are looked at.
const (
	MinSide   = 400  // pixels of the shorter side
	workSide  = 1500 // pixels of the longer side, as it is read
	readPerMM = 5.0  // samples across the squared panel
	darkest   = 0.02 // linear light that paper has to have
)

// Reading is what was read of a photo.
type Reading struct {
	To      proof.Projection // from the panel to the photo, pixels
	Squared *image.RGBA      // upright and evened, readPerMM pixels a millimetre
	Lit     float64          // the brightest paper by the darkest
	Agrees  float64          // how much of the line was found again, above chance
	Unsure  []string         // sentences
	Cells   []CellReading    // in the order of the plan's
	Areas   []AreaReading
	Marks   []Mark
}

// Read reads a photo. It takes about a second for 12 million pixels.
func Read(ctx context.Context, m image.Image, p *Plan) (*Reading, error) {
	w, err := workOf(m)
	if err != nil {
		return nil, err
	}
	found, err := locate(ctx, w, p)
	if err != nil {
		return nil, err
	}
	s := square(w, found.to, p)
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	r := &Reading{To: enlarged(found.to, w.by), Agrees: found.agrees}
	if err := s.even(r); err != nil {
		return nil, err
	}
	s.judge(r)
	r.Squared = s.picture()
	return r, nil
}

// enlarged is a projection to a picture so many times as large.
func enlarged(h proof.Projection, by float64) proof.Projection {
	for i := range 6 {
		h[i] *= by
	}
	return h
}

// work is a photo as it is read: linear light, as many pixels as are needed.
type work struct {
	w, h int
	by   float64 // pixels of the photo to one of it
	pix  [][3]float32
}

// linear is the linear light of an encoded level.
var linear = func() (out [256]float32) {
	for i := range out {
		c := pigment.FromSRGB([3]float64{float64(i) / 255, 0, 0})
		out[i] = float32(c[0])
	}
	return out
}()

// workOf is a photo as it is read, unless it is too small or too dark to be.
func workOf(m image.Image) (*work, error) {
	if b := m.Bounds(); min(b.Dx(), b.Dy()) < MinSide {
		return nil, ErrSmall
	}
	w := smaller(m)
	if w.mean() < darkest/2 {
		return nil, ErrDark
	}
	return w, nil
}

// smaller is a photo with whole blocks of its pixels made one.
func smaller(m image.Image) *work {
	b := m.Bounds()
	k := max(1, (max(b.Dx(), b.Dy())+workSide/2)/workSide)
	o := &work{w: b.Dx() / k, h: b.Dy() / k, by: float64(k)}
	o.pix = make([][3]float32, o.w*o.h)
	at := pixelsOf(m)
	share := 1 / float32(k*k)
	for y := range o.h {
		for x := range o.w {
			var sum [3]float32
			for dy := range k {
				for dx := range k {
					c := at(b.Min.X+x*k+dx, b.Min.Y+y*k+dy)
					sum[0] += linear[c[0]]
					sum[1] += linear[c[1]]
					sum[2] += linear[c[2]]
				}
			}
			o.pix[y*o.w+x] = [3]float32{sum[0] * share, sum[1] * share, sum[2] * share}
		}
	}
	return o
}

// pixelsOf reads pixels of a picture, the usual kinds quickly.
func pixelsOf(m image.Image) func(x, y int) [3]uint8 {
	switch p := m.(type) {
	case *image.YCbCr:
		return func(x, y int) [3]uint8 {
			c := p.YCbCrAt(x, y)
			yy := int32(c.Y) * 0x10101
			cb, cr := int32(c.Cb)-128, int32(c.Cr)-128
			clip := func(v int32) uint8 { return uint8(min(255, max(0, v>>16))) }
			return [3]uint8{clip(yy + 91881*cr), clip(yy - 22554*cb - 46802*cr), clip(yy + 116130*cb)}
		}
	case *image.RGBA:
		return func(x, y int) [3]uint8 {
			i := p.PixOffset(x, y)
			return [3]uint8{p.Pix[i], p.Pix[i+1], p.Pix[i+2]}
		}
	}
	return func(x, y int) [3]uint8 {
		r, g, b, _ := m.At(x, y).RGBA()
		return [3]uint8{uint8(r >> 8), uint8(g >> 8), uint8(b >> 8)}
	}
}

// mean is the mean light.
func (w *work) mean() float64 {
	sum := 0.0
	for i := 0; i < len(w.pix); i += 7 {
		sum += float64(w.pix[i][0] + w.pix[i][1] + w.pix[i][2])
	}
	return sum / 3 / float64(len(w.pix)/7+1)
}

// at is the colour at a place, interpolated; ok is false outside.
func (w *work) at(q lineart.Point) (c [3]float64, ok bool) {
	x, y := q.X-0.5, q.Y-0.5
	x0, y0 := int(math.Floor(x)), int(math.Floor(y))
	if x0 < 0 || y0 < 0 || x0+1 >= w.w || y0+1 >= w.h {
		return c, false
	}
	fx, fy := x-float64(x0), y-float64(y0)
	i := y0*w.w + x0
	for k := range c {
		a := float64(w.pix[i][k])*(1-fx) + float64(w.pix[i+1][k])*fx
		b := float64(w.pix[i+w.w][k])*(1-fx) + float64(w.pix[i+w.w+1][k])*fx
		c[k] = a*(1-fy) + b*fy
	}
	return c, true
}

// CellAt is the cell at a place, mm; 0 on the line and beside the panel.
func (p *Plan) CellAt(q lineart.Point) int { return p.cells.At(q) }

// InkAt is the level of the line's picture at a place, mm: 255 where nothing is.
func (p *Plan) InkAt(q lineart.Point) uint8 {
	w, h := p.Line.Rect.Dx(), p.Line.Rect.Dy() // all of the panel, to the pixel that ends on its edge
	x, y := int(math.Floor(q.X/p.W*float64(w))), int(math.Floor(q.Y/p.H*float64(h)))
	if x < 0 || y < 0 || x >= w || y >= h {
		return 255
	}
	return p.Line.Pix[y*p.Line.Stride+x]
}

// linePerMM is how many pixels the line's picture has a millimetre.
func (p *Plan) linePerMM() float64 { return float64(p.Line.Rect.Dx()) / p.W }
