package cover

import "math"

// A ground is a region in squares of some size, with what each takes.
type ground struct {
	w, h  int
	mm    float64
	in    []bool
	cost  []float32 // s of a quick hand
	small []bool    // laid with the brush that cuts in
	near  []int32   // four to a square, -1 where nothing is laid
	n     int       // squares to be laid
}

// groundOf works out what each square of a region takes.
func groundOf(r *Region, h Hand) *ground {
	g := &ground{w: r.W, h: r.H, mm: GridMM, in: r.In, cost: make([]float32, len(r.In)), small: make([]bool, len(r.In))}
	far := distances(r.W, r.H, func(i int) bool { return !r.In[i] && !r.masked(i) })
	reach := inside * h.Fill.Belly / 2
	core := distances(r.W, r.H, func(i int) bool { return r.In[i] && far[i] >= float32(reach) })
	slow := r.tightHoles()
	fill := float32(GridMM * GridMM / (h.Fill.Belly * Stroke * Useful))
	narrow := float32(GridMM * GridMM / (h.CutIn.Belly * Stroke * Useful))
	reload := float32(Reload * GridMM * GridMM * h.Water / 1e6 / h.Fill.CapacityML)
	for i, in := range r.In {
		if !in {
			continue
		}
		g.n++
		x := i % r.W
		for _, j := range [4]int{i - 1, i + 1, i - r.W, i + r.W} {
			if j < 0 || j >= len(r.In) || j == i-1 && x == 0 || j == i+1 && x == r.W-1 || r.In[j] || r.masked(j) {
				continue
			}
			v := CutIn
			if slow[j] {
				v = Slowly
			}
			g.cost[i] += float32(GridMM * alongUp / v)
		}
		switch {
		case far[i] <= strip:
			g.small[i] = true
		case core[i] <= float32(reach):
			g.cost[i] += fill
		default:
			g.small[i] = true
			g.cost[i] += narrow
		}
		g.cost[i] += reload
	}
	g.link()
	return g
}

// masked reports whether a square may be gone over though nothing has to be laid there.
func (r *Region) masked(i int) bool { return r.Masked != nil && r.Masked[i] && !r.In[i] }

// over is the region with what is masked gone over.
func (r *Region) over() *Region {
	out := &Region{W: r.W, H: r.H, In: make([]bool, len(r.In))}
	for i, in := range r.In {
		out.In[i] = in || r.Masked[i]
	}
	return out
}

// tightHoles marks what is not laid and so small that its edge is curved tightly.
func (r *Region) tightHoles() []bool {
	out := make([]bool, len(r.In))
	seen := make([]bool, len(r.In))
	var hole []int
	for s := range r.In {
		if r.In[s] || seen[s] {
			continue
		}
		hole = append(hole[:0], s)
		seen[s] = true
		for k := 0; k < len(hole); k++ {
			i := hole[k]
			x := i % r.W
			for _, j := range [4]int{i - 1, i + 1, i - r.W, i + r.W} {
				if j < 0 || j >= len(r.In) || j == i-1 && x == 0 || j == i+1 && x == r.W-1 || r.In[j] || seen[j] {
					continue
				}
				seen[j] = true
				hole = append(hole, j)
			}
		}
		if math.Sqrt(float64(len(hole))*GridMM*GridMM/math.Pi) < tight {
			for _, i := range hole {
				out[i] = true
			}
		}
	}
	return out
}

// distances are how far each square is from the nearest site, mm: a chamfer, exact to some
// 8 %, which a brush is not.
func distances(w, h int, site func(int) bool) []float32 {
	const a, b = float32(GridMM), float32(GridMM * math.Sqrt2)
	d := make([]float32, w*h)
	for i := range d {
		if !site(i) {
			d[i] = math.MaxFloat32 / 4
		}
	}
	for y := range h {
		for x := range w {
			i := y*w + x
			if x > 0 {
				d[i] = min(d[i], d[i-1]+a)
			}
			if y > 0 {
				d[i] = min(d[i], d[i-w]+a)
				if x > 0 {
					d[i] = min(d[i], d[i-w-1]+b)
				}
				if x < w-1 {
					d[i] = min(d[i], d[i-w+1]+b)
				}
			}
		}
	}
	for y := h - 1; y >= 0; y-- {
		for x := w - 1; x >= 0; x-- {
			i := y*w + x
			if x < w-1 {
				d[i] = min(d[i], d[i+1]+a)
			}
			if y < h-1 {
				d[i] = min(d[i], d[i+w]+a)
				if x < w-1 {
					d[i] = min(d[i], d[i+w+1]+b)
				}
				if x > 0 {
					d[i] = min(d[i], d[i+w-1]+b)
				}
			}
		}
	}
	return d
}

// link notes the neighbours of each square.
func (g *ground) link() {
	g.near = make([]int32, 4*len(g.in))
	for i, in := range g.in {
		n := g.near[4*i : 4*i+4]
		n[0], n[1], n[2], n[3] = -1, -1, -1, -1
		if !in {
			continue
		}
		x := i % g.w
		if x > 0 && g.in[i-1] {
			n[0] = int32(i - 1)
		}
		if x < g.w-1 && g.in[i+1] {
			n[1] = int32(i + 1)
		}
		if i >= g.w && g.in[i-g.w] {
			n[2] = int32(i - g.w)
		}
		if i+g.w < len(g.in) && g.in[i+g.w] {
			n[3] = int32(i + g.w)
		}
	}
}

// coarser gathers k × k squares into one, with all they take.
func (g *ground) coarser(k int) *ground {
	c := &ground{w: (g.w + k - 1) / k, h: (g.h + k - 1) / k, mm: g.mm * float64(k)}
	n := c.w * c.h
	c.in, c.cost, c.small = make([]bool, n), make([]float32, n), make([]bool, n)
	more := make([]int16, n)
	for i, in := range g.in {
		if !in {
			continue
		}
		j := i/g.w/k*c.w + i%g.w/k
		if !c.in[j] {
			c.in[j] = true
			c.n++
		}
		c.cost[j] += g.cost[i]
		if g.small[i] {
			more[j]++
		} else {
			more[j]--
		}
	}
	for j := range more {
		c.small[j] = more[j] > 0
	}
	c.link()
	return c
}

// across is how far each square lies in a direction, mm from the first that is laid.
func (g *ground) across(degrees float64, into []float32) []float32 {
	sin, cos := math.Sincos(degrees * math.Pi / 180)
	low := math.Inf(1)
	for i, in := range g.in {
		if in {
			v := (float64(i%g.w)*cos + float64(i/g.w)*sin) * g.mm
			low = min(low, v)
			into[i] = float32(v)
		}
	}
	for i := range into {
		into[i] -= float32(low)
	}
	return into
}

// A wave spreads from a square through what is laid.
type wave struct {
	at    []int32
	queue [8][]int32
}

// from is how far each square lies from one by a way through what is laid, mm: 5 a side,
// 7 across a corner.
func (v *wave) from(g *ground, seed int, into []float32) []float32 {
	const none = math.MaxInt32
	if len(v.at) < len(g.in) {
		v.at = make([]int32, len(g.in))
	}
	at := v.at[:len(g.in)]
	for i := range at {
		at[i] = none
	}
	at[seed] = 0
	v.queue[0] = append(v.queue[0][:0], int32(seed))
	step := func(j int, t int32, left *int) {
		if t < at[j] {
			at[j] = t
			v.queue[t%8] = append(v.queue[t%8], int32(j))
			*left++
		}
	}
	left := 1
	for t := int32(0); left > 0; t++ {
		now := v.queue[t%8]
		for k := 0; k < len(now); k++ {
			i := int(now[k])
			left--
			if at[i] != t {
				continue
			}
			n := g.near[4*i : 4*i+4]
			for _, j := range n {
				if j >= 0 {
					step(int(j), t+5, &left)
				}
			}
			for _, d := range [4][2]int{{0, 2}, {1, 2}, {0, 3}, {1, 3}} {
				j := i + [4]int{-1, 1, -g.w, g.w}[d[0]] + [4]int{-1, 1, -g.w, g.w}[d[1]]
				if (n[d[0]] >= 0 || n[d[1]] >= 0) && j >= 0 && j < len(g.in) && g.in[j] && abs(j%g.w-i%g.w) == 1 {
					step(j, t+7, &left)
				}
			}
		}
		v.queue[t%8] = now[:0]
	}
	for i, t := range at {
		into[i] = 0
		if t < none {
			into[i] = float32(t) / 5 * float32(g.mm)
		}
	}
	return into
}

func abs(n int) int { return max(n, -n) }
