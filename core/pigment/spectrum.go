// Package pigment answers "what colour will it be?" for washes of watercolour
// on paper, wet and dry.
//
// Everything is spectral: 36 bands from 380 to 730 nm, 10 nm apart. A paint is
// its absorption K and scattering S per unit load (Kubelka and Munk 1931); a
// load of 1 is a mix the strength of milk. Colours are shown under D65 for the
// CIE 1931 2° observer, and compared by CIEDE2000.
//
// The spectra of the generic pigments are plausible, not measured. Until a
// paint has been calibrated, what follows from them is an estimate.
package pigment

import (
	"fmt"
	"math"
	"slices"
)

// Bands is the number of spectral bands, 380 to 730 nm every 10 nm.
const Bands = 36

// FirstNM and StepNM place the bands: band i is centred on FirstNM + i·StepNM.
const (
	FirstNM = 380
	StepNM  = 10
)

// Spectrum holds one value a band. As a reflectance its values are 0 to 1.
type Spectrum [Bands]float64

// RGB is linear sRGB; 0 to 1 inside the display's gamut.
type RGB [3]float64

// Lab is CIELAB under D65: L* 0 to 100.
type Lab struct{ L, A, B float64 }

// Linear returns the linear sRGB of reflectance r, not clipped.
func (r *Spectrum) Linear() RGB {
	var c RGB
	for i := range c {
		m := &library.ToLinearSRGB[i]
		var s float64
		for j, v := range r {
			s += m[j] * v
		}
		c[i] = s
	}
	return c
}

// Lab returns the colour of reflectance r as a display shows it, that is after
// clipping to sRGB, so that it compares with scans and screens.
func (r *Spectrum) Lab() Lab { return r.Linear().Clip().Lab() }

// Hex returns the colour of reflectance r as "#rrggbb".
func (r *Spectrum) Hex() string { return r.Linear().Hex() }

// Clip limits every channel to 0…1.
func (c RGB) Clip() RGB {
	for i, v := range c {
		c[i] = min(1, max(0, v))
	}
	return c
}

// Encoded returns c clipped and gamma-encoded, as in a picture.
func (c RGB) Encoded() (out [3]float64) {
	for i, v := range c.Clip() {
		out[i] = encode(v)
	}
	return out
}

// Hex returns c, clipped and gamma-encoded, as "#rrggbb".
func (c RGB) Hex() string {
	var b [3]uint8
	for i, v := range c.Clip() {
		b[i] = uint8(math.Round(255 * encode(v)))
	}
	return fmt.Sprintf("#%02x%02x%02x", b[0], b[1], b[2])
}

// encode is the sRGB transfer function (IEC 61966-2-1).
func encode(v float64) float64 {
	if v <= 0.0031308 {
		return 12.92 * v
	}
	return 1.055*math.Pow(v, 1/2.4) - 0.055
}

func decode(v float64) float64 {
	if v <= 0.04045 {
		return v / 12.92
	}
	return math.Pow((v+0.055)/1.055, 2.4)
}

// ParseHex reads "#rrggbb" as linear sRGB.
func ParseHex(s string) (RGB, error) {
	var b [3]uint8
	if n, err := fmt.Sscanf(s, "#%02x%02x%02x", &b[0], &b[1], &b[2]); n != 3 || err != nil || len(s) != 7 {
		return RGB{}, fmt.Errorf("%q is no colour; write it as #rrggbb", s)
	}
	var c RGB
	for i, v := range b {
		c[i] = decode(float64(v) / 255)
	}
	return c, nil
}

// sRGB primaries to XYZ, D65 (IEC 61966-2-1), and the D65 white it implies.
var (
	rgbToXYZ = [3][3]float64{
		{0.4123907993, 0.3575843394, 0.1804807884},
		{0.2126390059, 0.7151686788, 0.0721923154},
		{0.0193308187, 0.1191947798, 0.9505321522},
	}
	xyzToRGB = [3][3]float64{
		{3.2409699419, -1.5373831776, -0.4986107603},
		{-0.9692436363, 1.8759675015, 0.0415550574},
		{0.0556300797, -0.2039769589, 1.0569715142},
	}
	white = [3]float64{0.9504559271, 1, 1.0890577508}
)

// Where CIELAB turns from a cube root to a line (CIE 15).
const (
	labEps   = 216.0 / 24389
	labKappa = 24389.0 / 27
)

// Lab converts linear sRGB to CIELAB.
func (c RGB) Lab() Lab {
	var f [3]float64
	for i, m := range rgbToXYZ {
		t := (m[0]*c[0] + m[1]*c[1] + m[2]*c[2]) / white[i]
		if t > labEps {
			f[i] = math.Cbrt(t)
		} else {
			f[i] = (labKappa*t + 16) / 116
		}
	}
	return Lab{116*f[1] - 16, 500 * (f[0] - f[1]), 200 * (f[1] - f[2])}
}

// RGB converts CIELAB to linear sRGB, which may lie outside the display's gamut.
func (l Lab) RGB() RGB {
	fy := (l.L + 16) / 116
	var xyz [3]float64
	for i, f := range [3]float64{fy + l.A/500, fy, fy - l.B/200} {
		if t := f * f * f; t > labEps {
			xyz[i] = t * white[i]
		} else {
			xyz[i] = (116*f - 16) / labKappa * white[i]
		}
	}
	var c RGB
	for i, m := range xyzToRGB {
		c[i] = m[0]*xyz[0] + m[1]*xyz[1] + m[2]*xyz[2]
	}
	return c
}

// Chroma returns C*, the distance from grey.
func (l Lab) Chroma() float64 { return math.Hypot(l.A, l.B) }

// Grey returns the grey of the same lightness as "#rrggbb".
func (l Lab) Grey() string {
	y := l.L / labKappa
	if l.L > 8 {
		y = math.Pow((l.L+16)/116, 3)
	}
	return RGB{y, y, y}.Hex()
}

// Resample returns reflectance samples R at the wavelengths nm, which must
// increase, interpolated linearly to the 36 bands and held at the ends.
func Resample(nm, R []float64) (Spectrum, error) {
	var s Spectrum
	if len(nm) != len(R) || len(nm) < 2 {
		return s, fmt.Errorf("a reflectance needs as many wavelengths as values, at least two; got %d and %d", len(nm), len(R))
	}
	for i, v := range R {
		if math.IsNaN(v) || v < 0 || v > 1 {
			return s, fmt.Errorf("reflectance %g at %g nm is outside 0 to 1", v, nm[i])
		}
		if math.IsNaN(nm[i]) || i > 0 && nm[i] <= nm[i-1] {
			return s, fmt.Errorf("wavelengths must increase; %g nm does not", nm[i])
		}
	}
	for i := range s {
		w := float64(FirstNM + StepNM*i)
		k, exact := slices.BinarySearch(nm, w)
		switch {
		case exact:
			s[i] = R[k]
		case k == 0:
			s[i] = R[0]
		case k == len(nm):
			s[i] = R[k-1]
		default:
			t := (w - nm[k-1]) / (nm[k] - nm[k-1])
			s[i] = R[k-1] + t*(R[k]-R[k-1])
		}
	}
	return s, nil
}

// FromSRGB reads gamma-encoded components from 0 to 1, as in a picture.
func FromSRGB(c [3]float64) RGB {
	for i, v := range c {
		c[i] = decode(min(1, max(0, v)))
	}
	return c
}
