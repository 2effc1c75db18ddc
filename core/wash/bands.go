package wash

import (
	"math"

	"chromaqua/core/pigment"
)

// nBands is how many of package pigment's 36 bands a picture is computed in.
const nBands = 12

// Bands is a spectrum in the bands of bandNM.
type Bands [nBands]float32

// bandNM are the wavelengths of the bands. A search by exchange over random stacks of the
// library's paints chose them.
var bandNM = [nBands]int{410, 440, 470, 500, 520, 530, 550, 560, 580, 600, 630, 670}

// Sampled is a spectrum of package pigment in the bands of pictures.
func Sampled(s *pigment.Spectrum) (b Bands) {
	for i, nm := range bandNM {
		b[i] = float32(s[(nm-pigment.FirstNM)/pigment.StepNM])
	}
	return b
}

// PaintOf is a paint of package pigment as it moves in a wash; staining and granulation
// are in the steps of its library, 0 to 3.
func PaintOf(p *pigment.Paint, staining, granulation float64) Paint {
	return Paint{K: Sampled(&p.K), S: Sampled(&p.S), Sinks: Sampled(&p.Sinks), Staining: float32(staining / 3), Grain: float32(granulation)}
}

// linear is the linear sRGB of a reflectance.
func (b *Bands) linear() (c [3]float32) {
	for i, v := range b {
		c[0] += toRGB[0][i] * v
		c[1] += toRGB[1][i] * v
		c[2] += toRGB[2][i] * v
	}
	return c
}

// sunk is the load at which half of what a paint sinks by is there, as in package pigment.
const sunk = 1.3

// A film is paint by what it absorbs and scatters in all, in each band.
type film struct {
	k, s, sinks Bands
	load, glint float32 // the glint of each paint by its load
}

func (f *film) add(p *Paint, load float32) {
	f.load += load
	f.glint += load * p.Glint
	for i := range f.k {
		f.k[i] += load * p.K[i]
		f.s[i] += load * p.S[i]
	}
	if p.Sinks[0] > 0 {
		for i := range f.sinks {
			f.sinks[i] += load * p.Sinks[i]
		}
	}
}

// over lays the film on a ground (Kubelka and Munk, as package pigment has it). With
// a² = K(K + 2S) and e = exp(−2a) it reflects S(1 − e)/d and lets 2a·√e/d through, where
// d = a(1 + e) + (K + S)(1 − e); put together they take one division.
func (f *film) over(g *Bands) {
	hidden := sunk / (sunk + f.load)
	for i, v := range g {
		k, s := f.k[i], f.s[i]-f.sinks[i]*hidden
		if k < 1e-6 {
			k = 1e-6
		}
		a2 := k * (k + 2*s)
		a := float32(math.Sqrt(float64(a2)))
		e := exp(2 * a)
		back := s * (1 - e)
		d := a*(1+e) + (k+s)*(1-e)
		again := d - back*v
		g[i] = (back*again + 4*a2*e*v) / (d * again)
	}
}

// seen is how a reflectance looks at a wetness, 0 to 1, as pigment.Seen has it.
func (b *Bands) seen(wet float32) {
	const into, back, haze = 0.0204, 0.4725, 0.025
	matt := haze * (1 - wet)
	for i, v := range b {
		if wet > 0 {
			v += wet * ((1-into)*(1-back)*v/(1-back*v) - v)
		}
		b[i] = matt + (1-matt)*v
	}
}

// encoded is a linear component as it stands in a picture.
func encoded(v float32) uint8 {
	return encodings[int(clamp(v, 0, 1)*4095+0.5)]
}

var encodings = func() (t [4096]uint8) {
	for i := range t {
		v := float64(i) / float64(len(t)-1)
		t[i] = uint8(math.Round(255 * pigment.RGB{v, v, v}.Encoded()[0]))
	}
	return t
}()

// toRGB weighs the bands to linear sRGB: least squares over stacks of the library's paints,
// made by the fit in this package's tests.
var toRGB = [3][nBands]float32{
	{0.01064, 0.06854, -0.05928, -0.15680, -0.14461, -0.07714, -0.09982, 0.12920, 0.26692, 0.47298, 0.50727, 0.08296},
	{-0.00798, -0.06901, 0.02005, 0.15916, 0.15761, 0.23244, 0.22811, 0.15481, 0.14428, 0.02492, -0.03540, -0.00919},
	{0.07065, 0.53209, 0.45520, 0.05911, -0.01154, -0.01369, -0.03062, -0.01798, -0.02435, -0.01184, -0.00664, -0.00007},
}
