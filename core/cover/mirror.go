package cover

// mirrored is how a region is turned over before it is looked at.
type mirrored struct{ across, down bool }

// settled is how a region is turned over so that it and its mirror images are looked at
// alike: the one that comes first, square by square.
func (r *Region) settled() (best mirrored) {
	for _, m := range []mirrored{{true, false}, {false, true}, {true, true}} {
		if r.before(m, best) {
			best = m
		}
	}
	return best
}

// before reports whether the region turned over one way comes before another.
func (r *Region) before(m, o mirrored) bool {
	for i := range r.In {
		if a, b := r.In[r.turned(i, m)], r.In[r.turned(i, o)]; a != b {
			return a
		}
	}
	return false
}

// turned is where a square lies once the region is turned over.
func (r *Region) turned(i int, m mirrored) int {
	x, y := i%r.W, i/r.W
	if m.across {
		x = r.W - 1 - x
	}
	if m.down {
		y = r.H - 1 - y
	}
	return y*r.W + x
}

func (r *Region) flipped(m mirrored) *Region {
	if m == (mirrored{}) {
		return r
	}
	out := &Region{W: r.W, H: r.H, In: make([]bool, len(r.In))}
	if r.Masked != nil {
		out.Masked = make([]bool, len(r.In))
	}
	for i := range r.In {
		to := r.turned(i, m)
		if out.In[to] = r.In[i]; r.Masked != nil {
			out.Masked[to] = r.Masked[i]
		}
	}
	return out
}

// flip turns a sweep back over.
func (s *Sweep) flip(r *Region, m mirrored) {
	if m == (mirrored{}) {
		return
	}
	at := make([]float32, len(s.At))
	for i, t := range s.At {
		at[r.turned(i, m)] = t
	}
	s.At, s.Start = at, r.turned(s.Start, m)
	for k, p := range s.Seam {
		s.Seam[k] = [2]int{r.turned(p[0], m), r.turned(p[1], m)}
	}
	if m.across {
		s.Angle = 180 - s.Angle
	}
	if m.down {
		s.Angle = -s.Angle
	}
	for s.Angle < 0 {
		s.Angle += 360
	}
}
