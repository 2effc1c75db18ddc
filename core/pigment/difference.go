package pigment

import "math"

// Difference returns ΔE00 between two colours: CIEDE2000 as written out by
// Sharma, Wu and Dalal, "The CIEDE2000 color-difference formula:
// implementation notes", 2005, with all weights 1.
func Difference(p, q Lab) float64 {
	const (
		pow25_7   = 6103515625.0
		antipodal = 1e-9 // radians; hues this close to opposite count as opposite
	)
	cMean := (p.Chroma() + q.Chroma()) / 2
	c7 := math.Pow(cMean, 7)
	g := 0.5 * (1 - math.Sqrt(c7/(c7+pow25_7)))
	a1, a2 := (1+g)*p.A, (1+g)*q.A
	c1, c2 := math.Hypot(a1, p.B), math.Hypot(a2, q.B)
	h1, h2 := hue(a1, p.B), hue(a2, q.B)

	dh, hMean := 0.0, h1+h2
	if c1*c2 != 0 {
		dh = h2 - h1
		if dh > math.Pi+antipodal {
			dh -= 2 * math.Pi
		} else if dh < -math.Pi-antipodal {
			dh += 2 * math.Pi
		}
		switch {
		case math.Abs(h1-h2) <= math.Pi+antipodal:
			hMean = (h1 + h2) / 2
		case h1+h2 < 2*math.Pi:
			hMean = (h1+h2)/2 + math.Pi
		default:
			hMean = (h1+h2)/2 - math.Pi
		}
	}
	dL, dC := q.L-p.L, c2-c1
	dH := 2 * math.Sqrt(c1*c2) * math.Sin(dh/2)
	lMean, cpMean := (p.L+q.L)/2, (c1+c2)/2

	t := 1 - 0.17*math.Cos(hMean-radians(30)) + 0.24*math.Cos(2*hMean) +
		0.32*math.Cos(3*hMean+radians(6)) - 0.20*math.Cos(4*hMean-radians(63))
	l50 := (lMean - 50) * (lMean - 50)
	sL := 1 + 0.015*l50/math.Sqrt(20+l50)
	sC := 1 + 0.045*cpMean
	sH := 1 + 0.015*cpMean*t
	turn := (hMean*180/math.Pi - 275) / 25
	cp7 := math.Pow(cpMean, 7)
	rT := -2 * math.Sqrt(cp7/(cp7+pow25_7)) * math.Sin(2*radians(30)*math.Exp(-turn*turn))
	l, c, h := dL/sL, dC/sC, dH/sH
	return math.Sqrt(max(0, l*l+c*c+h*h+rT*c*h))
}

func radians(deg float64) float64 { return deg * math.Pi / 180 }

// hue returns the angle of (a, b) in 0…2π, 0 for grey.
func hue(a, b float64) float64 {
	if a == 0 && b == 0 {
		return 0
	}
	if h := math.Atan2(b, a); h >= 0 {
		return h
	}
	return math.Atan2(b, a) + 2*math.Pi
}
