// Package standin stands in for devices that are not there. Its scanner turns a
// drawing into what a desktop scanner would make of it: on textured paper, a
// little tilted, unevenly lit, noisy, compressed. What it makes is simulated and
// has to be labelled so.
package standin

import (
	"bytes"
	"image"
	"image/color"
	"image/jpeg"
	"math"
	"math/rand/v2"

	"golang.org/x/image/draw"
	"golang.org/x/image/math/f64"
)

// Scanner is how the practice scanner sees.
type Scanner struct {
	Seed    uint64
	Tilt    float64 // degrees, clockwise
	Light   float64 // how much darker the darkest corner is, 0 to 0.5
	Noise   float64 // of the grey levels, standard deviation
	Texture float64 // share of the line the paper's texture leaves out, 0 to 0.5
	Margin  float64 // of the lid round the sheet, mm
	Quality int     // of the JPEG, 1 to 100; 0 for none
}

// Usual is a decent scan of cold press paper.
func Usual(seed uint64) Scanner {
	rng := rand.New(rand.NewPCG(seed, 1))
	return Scanner{Seed: seed, Tilt: rng.Float64()*6 - 3, Light: 0.12, Noise: 3, Texture: 0.04, Margin: 8, Quality: 88}
}

// Scan returns the sheet as it is scanned; pxPerMM is the resolution of both.
func (s Scanner) Scan(sheet image.Image, pxPerMM float64) *image.RGBA {
	rng := rand.New(rand.NewPCG(s.Seed, 2))
	b := sheet.Bounds()
	m := int(s.Margin * pxPerMM)
	sin, cos := math.Sincos(s.Tilt * math.Pi / 180)
	w, h := float64(b.Dx()), float64(b.Dy())
	out := image.NewRGBA(image.Rect(0, 0, int(w*math.Abs(cos)+h*math.Abs(sin))+2*m, int(w*math.Abs(sin)+h*math.Abs(cos))+2*m))
	lid := color.RGBA{R: 236, G: 236, B: 234, A: 255}
	draw.Draw(out, out.Rect, image.NewUniform(lid), image.Point{}, draw.Src)
	cx, cy := float64(out.Rect.Dx())/2, float64(out.Rect.Dy())/2
	turn := f64.Aff3{cos, -sin, cx - cos*w/2 + sin*h/2, sin, cos, cy - sin*w/2 - cos*h/2}
	draw.ApproxBiLinear.Transform(out, turn, sheet, b, draw.Over, nil)
	s.wear(out, rng, pxPerMM)
	if s.Quality > 0 {
		return recompressed(out, s.Quality)
	}
	return out
}

// wear lets the texture leave line out, and adds light and noise.
func (s Scanner) wear(m *image.RGBA, rng *rand.Rand, pxPerMM float64) {
	w, h := m.Rect.Dx(), m.Rect.Dy()
	grain := newField(rng, 0.22*pxPerMM)
	angle := rng.Float64() * 2 * math.Pi
	dx, dy := math.Cos(angle), math.Sin(angle)
	for y := range h {
		for x := range w {
			i := m.PixOffset(x, y)
			side := (dx*(float64(x)/float64(w)-0.5) + dy*(float64(y)/float64(h)-0.5)) / math.Sqrt2
			light := 1 - s.Light*(0.5+side)
			fleck := s.Texture > 0 && grain.at(x, y) < s.Texture
			noise := s.Noise * rng.NormFloat64()
			for c := range 3 {
				v := float64(m.Pix[i+c])
				if fleck && v < 200 {
					v += 0.85 * (244 - v)
				}
				m.Pix[i+c] = uint8(min(255, max(0, v*light+noise)))
			}
		}
	}
}

// field is smooth random values from 0 to 1, evenly spread.
type field struct {
	step   float64
	values []float64
	side   int
}

func newField(rng *rand.Rand, step float64) *field {
	const side = 256
	f := &field{step: max(1, step), side: side, values: make([]float64, side*side)}
	for i := range f.values {
		f.values[i] = rng.Float64()
	}
	return f
}

func (f *field) at(x, y int) float64 {
	return f.values[(int(float64(y)/f.step)%f.side)*f.side+int(float64(x)/f.step)%f.side]
}

// smooth is as at, without steps.
func (f *field) smooth(x, y int) float64 {
	u, v := float64(x)/f.step, float64(y)/f.step
	i, j := int(u), int(v)
	fu, fv := u-float64(i), v-float64(j)
	fu, fv = fu*fu*(3-2*fu), fv*fv*(3-2*fv)
	at := func(i, j int) float64 { return f.values[(j%f.side)*f.side+i%f.side] }
	return (at(i, j)*(1-fu)+at(i+1, j)*fu)*(1-fv) + (at(i, j+1)*(1-fu)+at(i+1, j+1)*fu)*fv
}

func recompressed(m *image.RGBA, quality int) *image.RGBA {
	var buf bytes.Buffer
	if err := jpeg.Encode(&buf, m, &jpeg.Options{Quality: quality}); err != nil {
		panic("standin: " + err.Error()) // a buffer takes everything
	}
	back, err := jpeg.Decode(&buf)
	if err != nil {
		panic("standin: " + err.Error())
	}
	out := image.NewRGBA(back.Bounds())
	draw.Draw(out, out.Rect, back, image.Point{}, draw.Src)
	return out
}

// Grey is a scan without its colour.
func Grey(m image.Image) *image.Gray {
	g := image.NewGray(m.Bounds())
	draw.Draw(g, g.Rect, m, m.Bounds().Min, draw.Src)
	return g
}

// Weak is a drawing as a stamp prints it that was pressed on one side only: the
// farther from there, the more of the line is missing.
func Weak(m *image.Gray, pxPerMM float64, seed uint64) *image.Gray {
	rng := rand.New(rand.NewPCG(seed, 5))
	gaps := newField(rng, 2.2*pxPerMM)
	right := rng.IntN(2) == 0
	out := image.NewGray(m.Rect)
	w := m.Rect.Dx()
	for y := range m.Rect.Dy() {
		for x := range w {
			v := m.Pix[y*m.Stride+x]
			far := float64(x) / float64(w)
			if !right {
				far = 1 - far
			}
			if gaps.at(x, y) < 0.6*(far-0.55) {
				v = max(v, 244)
			}
			out.Pix[y*out.Stride+x] = v
		}
	}
	return out
}
