package wash

// A spot is the places of a grid round a pixel, with their weights.
type spot struct {
	b *basin
	i [4]int32
	w [4]float32
	n int
}

// find finds the places round a place of the sheet, mm, in the cell of a pixel of the plate.
func (f *fine) find(s *spot, x, y float32, pixel int) bool {
	b, label := f.b, f.b.p.Plate.Label[pixel]
	s.b = b
	inv := float32(1 / b.h)
	fx := (x+float32(f.lead[2*pixel])*(1./128)-float32(b.x0))*inv - 0.5
	fy := (y+float32(f.lead[2*pixel+1])*(1./128)-float32(b.y0))*inv - 0.5
	fx, fy = clamp(fx, 0, float32(b.nx)-1.001), clamp(fy, 0, float32(b.ny)-1.001)
	ix, iy := int(fx), int(fy)
	u, v := fx-float32(ix), fy-float32(iy)
	i := iy*b.nx + ix
	s.n = 0
	sum := float32(0)
	for k, w := range [4]float32{(1 - u) * (1 - v), u * (1 - v), (1 - u) * v, u * v} {
		j := i + k&1 + k>>1*b.nx
		if w > 0 && b.label[j] == label && b.owner[j] >= 0 {
			s.i[s.n], s.w[s.n] = int32(j), w
			s.n++
			sum += w
		}
	}
	if s.n == 0 {
		return s.nearest(label, ix, iy, u, v)
	}
	for k := range s.n {
		s.w[k] /= sum
	}
	return true
}

// nearest takes the one place nearest to a pixel in a corner of its cell.
func (s *spot) nearest(label uint16, ix, iy int, u, v float32) bool {
	b, best := s.b, float32(99)
	for dy := -2; dy <= 3; dy++ {
		for dx := -2; dx <= 3; dx++ {
			x, y := ix+dx, iy+dy
			if x < 0 || y < 0 || x >= b.nx || y >= b.ny || b.label[y*b.nx+x] != label || b.owner[y*b.nx+x] < 0 {
				continue
			}
			if d := (float32(dx)-u)*(float32(dx)-u) + (float32(dy)-v)*(float32(dy)-v); d < best {
				best, s.i[0] = d, int32(y*b.nx+x)
			}
		}
	}
	s.n, s.w[0] = 1, 1
	return best < 99
}

func (s *spot) of(a []float32) (v float32) {
	for k := range s.n {
		v += s.w[k] * a[s.i[k]]
	}
	return v
}

// load is how much of a paint, local to the basin, a layer has there.
func (s *spot) load(layer, m int) (v float32) {
	if d := s.b.lying[layer][m]; d != nil {
		v = s.of(d)
	}
	if f := s.b.afloat[m]; f != nil && !s.b.dry {
		for k := range s.n {
			if int(s.b.layer[s.i[k]]) == layer {
				v += s.w[k] * f[s.i[k]]
			}
		}
	}
	return v
}
