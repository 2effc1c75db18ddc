package cover

import (
	"math"
	"math/rand/v2"
)

// layout is a panel of 128 × 96 mm with so many flowers, leaves and discs left out, of which
// the largest part is washed.
func layout(r *rand.Rand, n int) *Region {
	const w, h = 256, 192
	bare := make([]bool, w*h)
	disc := func(x, y, radius float64) {
		for i := range bare {
			if math.Hypot((float64(i%w)+0.5)*GridMM-x, (float64(i/w)+0.5)*GridMM-y) < radius {
				bare[i] = true
			}
		}
	}
	for k := range n {
		size := 2 + 5*r.Float64()
		x, y := w*GridMM*(0.05+0.9*r.Float64()), h*GridMM*(0.05+0.9*r.Float64())
		switch {
		case n <= 2:
			size = 14 + 14*r.Float64()
			x, y = w*GridMM*(0.3+0.4*r.Float64()), h*GridMM*(0.3+0.4*r.Float64())
		case n <= 8:
			size = 6 + 8*r.Float64()
		}
		a := r.Float64() * math.Pi
		switch k % 3 {
		case 0:
			disc(x, y, size/2)
			for q := range 6 {
				t := a + float64(q)*math.Pi/3
				disc(x+0.6*size*math.Cos(t), y+0.6*size*math.Sin(t), 0.45*size)
			}
		case 1:
			for q := -8; q <= 8; q++ {
				u := float64(q) / 8
				disc(x+1.3*size*u*math.Cos(a), y+1.3*size*u*math.Sin(a), size/2*math.Sqrt(1-0.8*u*u))
			}
		default:
			disc(x, y, size)
		}
	}
	in := make([]bool, w*h)
	for i := range in {
		in[i] = !bare[i]
	}
	return &Region{W: w, H: h, In: largest(in, w)}
}

// largest is the largest connected part of what is marked.
func largest(in []bool, w int) []bool {
	part := make([]int, len(in))
	best, most := 0, 0
	for s, id := 0, 1; s < len(in); s++ {
		if !in[s] || part[s] > 0 {
			continue
		}
		todo, n := []int{s}, 0
		part[s] = id
		for len(todo) > 0 {
			i := todo[len(todo)-1]
			todo = todo[:len(todo)-1]
			n++
			for _, d := range [4]int{-1, 1, -w, w} {
				j := i + d
				if j < 0 || j >= len(in) || d == -1 && i%w == 0 || d == 1 && j%w == 0 || !in[j] || part[j] > 0 {
					continue
				}
				part[j] = id
				todo = append(todo, j)
			}
		}
		if n > most {
			best, most = id, n
		}
		id++
	}
	out := make([]bool, len(in))
	for i, p := range part {
		out[i] = p == best
	}
	return out
}

// hands are three brushes, each with the small one it is cut in with.
var hands = []Hand{
	{Brush{5, 0.25}, Brush{3.5, 0.1}, 2, 38},
	{Brush{6.5, 0.45}, Brush{3.5, 0.1}, 2, 38},
	{Brush{19, 1.2}, Brush{3.5, 0.1}, 2, 38},
}

// holes is how many are left out of each of thirty panels.
var holes = []int{0, 1, 1, 2, 2, 3, 3, 4, 5, 5, 6, 8, 8, 10, 10, 12, 12, 15, 15, 18, 20, 22, 25, 25, 28, 30, 32, 35, 40, 40}

// bruteForce leads the brush along every course in every way at the finest squares.
func bruteForce(r *Region, h Hand) (least float64) {
	g := groundOf(r, h)
	p := &painter{hand: h, field: make([]float32, len(r.In))}
	least = math.Inf(1)
	try := func(c course, some ...way) {
		p.bandsOf(g, &c)
		for _, w := range some {
			least = min(least, p.lay(g, w, p.firstOf(&c), true, false).wait)
		}
	}
	for a := 0; a < 360; a += 15 {
		try(course{seed: -1, angle: float64(a)}, allWays...)
	}
	for k := range 28 {
		if i := g.onFrame(float64(k) / 28); i >= 0 {
			try(course{seed: i}, oldest, branch)
		}
	}
	return least
}
