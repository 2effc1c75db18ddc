package wash

import "math"

// hash scrambles a place and a seed.
func hash(x, y int32, seed uint32) uint32 {
	h := uint32(x)*0x9E3779B1 ^ uint32(y)*0x85EBCA77 ^ seed*0xC2B2AE3D
	h ^= h >> 15
	h *= 0x2C1B3C6D
	h ^= h >> 12
	h *= 0x297A2D39
	h ^= h >> 15
	return h
}

// unit is a hashed number in 0…1.
func unit(x, y int32, seed uint32) float32 { return float32(hash(x, y, seed)>>8) * (1. / (1 << 24)) }

func floor(v float32) int32 {
	i := int32(v)
	if v < float32(i) {
		i--
	}
	return i
}

// noise is smooth noise in −1…1 with features of size 1.
func noise(x, y float32, seed uint32) float32 {
	ix, iy := floor(x), floor(y)
	u, v := x-float32(ix), y-float32(iy)
	u, v = u*u*(3-2*u), v*v*(3-2*v)
	a, b := unit(ix, iy, seed), unit(ix+1, iy, seed)
	c, d := unit(ix, iy+1, seed), unit(ix+1, iy+1, seed)
	return 2*(a+(b-a)*u+(c-a)*v+(a-b-c+d)*u*v) - 1
}

// cloudy is noise of several sizes, each about half the last; its spread is about that of
// one of them.
func cloudy(x, y float32, octaves int, seed uint32) float32 {
	sum, a, n := float32(0), float32(1), float32(0)
	for o := range octaves {
		sum += a * noise(x, y, seed+uint32(o)*101)
		n += a * a
		x, y, a = x*2.03+11.7, y*2.03-5.3, a*0.55
	}
	return sum / float32(math.Sqrt(float64(n)))
}

// Cloud is smooth noise in about −1…1, of features of size 1.
func Cloud(x, y float64, seed uint32) float64 {
	return float64(cloudy(float32(x), float32(y), 3, seed))
}

// Draws returns numbers in 0…1, the same for a seed.
func Draws(seed uint32) func() float64 {
	n := int32(0)
	return func() float64 {
		n++
		return float64(unit(n, 17, seed))
	}
}
