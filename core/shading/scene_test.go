package shading_test

import (
	"context"
	"image"
	"math"
	"math/rand/v2"
	"sync"
	"testing"

	"github.com/stretchr/testify/require"

	"chromaqua/core/lineart"
	"chromaqua/core/shading"
)

// A shape is how far outside of it a place lies, about, mm.
type shape func(x, y float64) float64

func ellipse(cx, cy, a, b, turn float64) shape {
	sin, cos := math.Sincos(turn)
	return within(cx, cy, max(a, b), func(x, y float64) float64 {
		u, v := (x-cx)*cos+(y-cy)*sin, (y-cy)*cos-(x-cx)*sin
		f := math.Sqrt(u*u/a/a + v*v/b/b)
		g := math.Hypot(u/a/a, v/b/b) / max(1e-6, f)
		return (f - 1) / max(1e-3, g)
	})
}

// within keeps a shape from being worked out where it cannot be.
func within(cx, cy, most float64, f shape) shape {
	return func(x, y float64) float64 {
		if d := math.Hypot(x-cx, y-cy) - most; d > 0 {
			return d + 0.1
		}
		return f(x, y)
	}
}

// blob is round with bumps.
func blob(r *rand.Rand, cx, cy, size float64) shape {
	var a, ph [4]float64
	for k := range a {
		a[k], ph[k] = 0.09*r.NormFloat64()/float64(k+1), 2*math.Pi*r.Float64()
	}
	return within(cx, cy, 1.6*size, func(x, y float64) float64 {
		t := math.Atan2(y-cy, x-cx)
		rad, slope := 1.0, 0.0
		for k := range a {
			n := float64(k + 2)
			rad += a[k] * math.Cos(n*t+ph[k])
			slope -= a[k] * n * math.Sin(n*t+ph[k])
		}
		return (math.Hypot(x-cx, y-cy) - size*rad) / math.Sqrt(1+slope*slope/rad/rad)
	})
}

// A scene is shapes over one another, drawn with a line as ink.
type scene struct {
	w, h    float64
	shapes  []shape
	over    func(i, j int) bool // shape i lies over j
	strokes [][4]float64
	line    float64
}

func inOrder(i, j int) bool { return i > j }

// top is the shape seen at a place, -1 for the page.
func (s *scene) top(x, y float64) int {
	best := -1
	for i, f := range s.shapes {
		if f(x, y) < 0 && (best < 0 || s.over(i, best)) {
			best = i
		}
	}
	return best
}

// draw draws a scene, worn by a share of its ink.
func (s *scene) draw(dpi, worn float64, seed uint64, mirror bool) *image.Gray {
	mm := 25.4 / dpi
	w, h := int(s.w/mm), int(s.h/mm)
	img := image.NewGray(image.Rect(0, 0, w, h))
	r := rand.New(rand.NewPCG(seed, 9))
	var rows sync.WaitGroup
	for y := range h {
		rows.Go(func() {
			for x := range w {
				at := (float64(x) + 0.5) * mm
				if mirror {
					at = s.w - at
				}
				img.Pix[y*w+x] = s.ink(at, (float64(y)+0.5)*mm)
			}
		})
	}
	rows.Wait()
	for range int(worn * float64(len(img.Pix)) / 12) {
		cx, cy, rad := r.IntN(w), r.IntN(h), 0.5+1.3*r.Float64()
		for y := max(0, cy-2); y <= min(h-1, cy+2); y++ {
			for x := max(0, cx-2); x <= min(w-1, cx+2); x++ {
				if math.Hypot(float64(x-cx), float64(y-cy)) < rad {
					img.Pix[y*w+x] = 235
				}
			}
		}
	}
	return img
}

// ink is how light a place is.
func (s *scene) ink(x, y float64) uint8 {
	best, out := -1, 0.0
	for i, f := range s.shapes {
		if d := f(x, y); d < 0 && (best < 0 || s.over(i, best)) {
			best, out = i, d
		}
	}
	if best >= 0 && out > -s.line {
		return 20
	}
	for _, k := range s.strokes {
		dx, dy := k[2]-k[0], k[3]-k[1]
		u := max(0, min(1, ((x-k[0])*dx+(y-k[1])*dy)/(dx*dx+dy*dy+1e-9)))
		if math.Hypot(x-k[0]-u*dx, y-k[1]-u*dy) < s.line/2 {
			return 20
		}
	}
	return 250
}

// read finds cells and shading of a scene.
func (s *scene) read(t testing.TB, dpi, worn float64, seed uint64) (*lineart.Drawing, *shading.Map) {
	d, err := lineart.Find(context.Background(), s.draw(dpi, worn, seed, false), dpi, nil)
	require.NoError(t, err)
	return d, shading.Find(d, shading.UpperLeft())
}

// A tally counts orders.
type tally struct{ right, wrong, silent int }

func (n tally) precision() float64 { return float64(n.right) / max(1, float64(n.right+n.wrong)) }
func (n tally) recall() float64 {
	return float64(n.right) / max(1, float64(n.right+n.wrong+n.silent))
}

// orders counts what is told of the shapes that touch.
func (s *scene) orders(d *lineart.Drawing, m *shading.Map, n *tally) {
	for _, o := range m.Orders {
		if o.MM < 1.5 {
			continue
		}
		a, b := d.Cells[o.Front-1].Label, d.Cells[o.Behind-1].Label
		i, j := s.top(a.X, a.Y), s.top(b.X, b.Y)
		switch {
		case i < 0 || j < 0 || i == j:
		case o.Score < shading.Decided:
			n.silent++
		case s.over(i, j):
			n.right++
		default:
			n.wrong++
		}
	}
}

// heap is blobs strewn over one another.
func heap(seed uint64) *scene {
	r := rand.New(rand.NewPCG(seed, 3))
	s := &scene{w: 64, h: 70, line: 0.45, over: inOrder}
	for range 8 {
		s.shapes = append(s.shapes, blob(r, 15+34*r.Float64(), 15+40*r.Float64(), 7+6*r.Float64()))
	}
	return s
}

// flower is petals round a middle, each over the last; spiral closes the circle.
func flower(seed uint64, petals int, spiral bool) *scene {
	r := rand.New(rand.NewPCG(seed, 4))
	s := &scene{w: 80, h: 80, line: 0.45}
	turn := 2 * math.Pi * r.Float64()
	for i := range petals {
		a := turn + 2*math.Pi*float64(i)/float64(petals)
		s.shapes = append(s.shapes, ellipse(40+17*math.Cos(a), 40+17*math.Sin(a), 14, 17*1.45*math.Sin(math.Pi/float64(petals)), a))
	}
	s.shapes = append(s.shapes, ellipse(40, 40, 7, 7, 0))
	s.over = func(i, j int) bool {
		switch {
		case i == petals || j == petals:
			return i == petals
		case spiral:
			return (i-j+petals)%petals <= petals/2
		}
		return i > j
	}
	return s
}
