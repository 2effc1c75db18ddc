package wash

import (
	"math"

	"chromaqua/core/parallel"
)

// reliefMM is the width of a relief's pixel, 300 to the inch: the finest tooth is wider.
const reliefMM = 25.4 / 300

// A tooth is one size of bumps: the difference of two blurs of the same noise, σ in mm.
type tooth struct{ fine, wide, share float64 }

// reliefs are the teeth of each paper, and how high they stand; set by eye.
var reliefs = map[Relief]struct {
	teeth  []tooth
	height float32
}{
	HotPressed:  {[]tooth{{0.09, 0.22, 0.7}, {0.5, 0, 0.35}}, 0.4},
	ColdPressed: {[]tooth{{0.15, 0.36, 0.75}, {0.07, 0.15, 0.5}, {0.8, 0, 0.25}}, 1},
	Rough:       {[]tooth{{0.27, 0.62, 0.8}, {0.10, 0.22, 0.45}, {1.3, 0, 0.2}}, 1.45},
	PulpSheet:   {[]tooth{{0.12, 0.26, 0.6}, {0.06, 0.12, 0.45}, {0.9, 0, 0.35}}, 0.75},
}

// clumpSigma is how wide clumps of pigment are, mm.
const clumpSigma = 0.07

// A surface is a sheet's relief, as heights whose spread is about that of the paper's, and
// where pigment clumps.
type surface struct {
	w, h          int
	height, clump []int8             // 32 to the unit
	count         [teethBins]float64 // how often each height stands, of a part of the sheet
	level         float32            // of heights, so that their spread is 1
}

const perUnit = 32

// newSurface grows a sheet of mm size. It never repeats: the noise is hashed by place.
func newSurface(kind Relief, wmm, hmm float64, seed uint32) *surface {
	f, known := reliefs[kind]
	if !known {
		f = reliefs[ColdPressed]
	}
	s := &surface{w: int(math.Ceil(wmm/reliefMM)) + 1, h: int(math.Ceil(hmm/reliefMM)) + 1}
	sum := make([]float32, s.w*s.h)
	for i, t := range f.teeth {
		a := s.blurred(t.fine, seed+uint32(i)*17)
		if t.wide > 0 {
			b := append([]float32(nil), a...)
			s.blur(b, math.Sqrt(t.wide*t.wide-t.fine*t.fine))
			for j := range a {
				a[j] -= b[j]
			}
		}
		scale(a, float32(t.share))
		for j, v := range a {
			sum[j] += v
		}
	}
	for j, v := range sum { // hollows are narrow and deep, tops broad
		v = clamp(v, -3, 3)
		sum[j] = f.height * (v - 0.10*(v*v-1))
	}
	s.height = packed(sum)
	s.survey()
	clump := s.blurred(clumpSigma, seed+991)
	scale(clump, 1)
	s.clump = packed(clump)
	return s
}

// survey takes down how high the paper stands, from every seventh of its pixels.
func (s *surface) survey() {
	sum, n := 0.0, 0
	for i := 0; i < len(s.height); i += 7 {
		h := float32(s.height[i]) / perUnit
		s.count[toothBin(h)]++
		sum += float64(h) * float64(h)
		n++
	}
	s.level = float32(1 / math.Sqrt(max(1e-6, sum/float64(n))))
}

// What a height does is told in bins, from 4 below to 4 above.
const teethBins = 128

func toothBin(h float32) int { return min(teethBins-1, max(0, int((h+4)*(teethBins/8.)))) }

func packed(v []float32) []int8 {
	out := make([]int8, len(v))
	for i, x := range v {
		out[i] = int8(clamp(x*perUnit, -127, 127))
	}
	return out
}

// scale gives values mean 0 and a spread.
func scale(a []float32, spread float32) {
	var sum, square float64
	for _, v := range a {
		sum += float64(v)
		square += float64(v) * float64(v)
	}
	n := float64(len(a))
	mean := sum / n
	k := spread / float32(math.Sqrt(max(1e-12, square/n-mean*mean)))
	for i := range a {
		a[i] = (a[i] - float32(mean)) * k
	}
}

func (s *surface) blurred(sigma float64, seed uint32) []float32 {
	a := make([]float32, s.w*s.h)
	parallel.Rows(s.h, func(y0, y1 int) {
		for i := y0 * s.w; i < y1*s.w; i++ {
			a[i] = unit(int32(i%s.w), int32(i/s.w), seed) - 0.5
		}
	})
	s.blur(a, sigma)
	return a
}

// blur blurs by σ mm: three boxes come near enough to a Gaussian.
func (s *surface) blur(a []float32, sigma float64) {
	px := sigma / reliefMM
	r := int(math.Round((math.Sqrt(4*px*px+1) - 1) / 2))
	if r == 0 {
		return
	}
	b := make([]float32, len(a))
	for range 3 {
		s.boxAcross(b, a, r)
		s.boxDown(a, b, r)
	}
}

func (s *surface) boxAcross(to, from []float32, r int) {
	inv, w := 1/float32(2*r+1), s.w
	parallel.Rows(s.h, func(y0, y1 int) {
		for y := y0; y < y1; y++ {
			src, dst := from[y*w:(y+1)*w], to[y*w:(y+1)*w]
			sum := float32(0)
			for k := -r; k <= r; k++ {
				sum += src[min(w-1, max(0, k))]
			}
			for x := range w {
				dst[x] = sum * inv
				sum += src[min(w-1, x+r+1)] - src[max(0, x-r)]
			}
		}
	})
}

func (s *surface) boxDown(to, from []float32, r int) {
	inv, w, h := 1/float32(2*r+1), s.w, s.h
	parallel.Rows(w, func(x0, x1 int) {
		sum := make([]float32, x1-x0)
		for k := -r; k <= r; k++ {
			for x, v := range from[min(h-1, max(0, k))*w+x0 : min(h-1, max(0, k))*w+x1] {
				sum[x] += v
			}
		}
		for y := range h {
			in, out, dst := from[min(h-1, y+r+1)*w:], from[max(0, y-r)*w:], to[y*w:]
			for x := x0; x < x1; x++ {
				dst[x] = sum[x-x0] * inv
				sum[x-x0] += in[x] - out[x]
			}
		}
	})
}

// row is what a plane of the relief has at places of a row of the sheet, so far apart, mm, the
// first at x and y. Places closer than its pixels are looked up between them, others average
// over those they cover.
func (s *surface) row(to []float32, of []int8, x, y, apart float32) {
	wide := apart / float32(reliefMM)
	fx, fy := x*(1/float32(reliefMM))-0.5, y*(1/float32(reliefMM))-0.5
	if wide >= 1.5 {
		s.mean(to, of, fx, fy, wide)
		return
	}
	fy = clamp(fy, 0, float32(s.h)-1.001)
	iy := int(fy)
	v := fy - float32(iy)
	above, below := of[iy*s.w:(iy+1)*s.w], of[(iy+1)*s.w:(iy+2)*s.w]
	for k := range to {
		at := clamp(fx+float32(k)*wide, 0, float32(s.w)-1.001)
		ix := int(at)
		u := at - float32(ix)
		p, q := float32(above[ix]), float32(below[ix])
		p += u * (float32(above[ix+1]) - p)
		q += u * (float32(below[ix+1]) - q)
		to[k] = (p + v*(q-p)) * (1. / perUnit)
	}
}

// mean averages over squares of the relief's pixels.
func (s *surface) mean(to []float32, of []int8, fx, fy, wide float32) {
	n := int(wide + 0.5)
	top := int(fy - wide/2 + 1)
	y0, y1 := max(0, top), min(s.h, top+n)
	for k := range to {
		left := int(fx + float32(k)*wide - wide/2 + 1)
		x0, x1 := max(0, left), min(s.w, left+n)
		sum := 0
		for y := y0; y < y1; y++ {
			for _, v := range of[y*s.w+x0 : y*s.w+max(x0, x1)] {
				sum += int(v)
			}
		}
		to[k] = float32(sum) / float32(max(1, (y1-y0)*(x1-x0))*perUnit)
	}
}
