package shading

import "math"

// An arc is a stretch of border between two cells, from junction to junction.
type arc struct {
	left, right int // cells beside its way
	pts         []vec
	junction    [2]int // at its ends, -1 for none
	mm          float64
	raw         []int32
	chain       int
	closed      bool
}

// A net is all borders of a label map.
type net struct {
	w, h      int
	mm        float64
	label     []uint16
	at        map[int32]int // junctions by corner
	corners   []int32
	junctions []vec
	arcs      []*arc
}

func (n *net) cell(x, y int) int {
	if x < 0 || y < 0 || x >= n.w || y >= n.h {
		return -1
	}
	return int(n.label[y*n.w+x])
}

// crack tells which cells lie left and right of the way from a corner in a direction (0 right,
// 1 down, 2 left, 3 up), and whether they differ.
func (n *net) crack(x, y, d int) (l, r int, on bool) {
	switch d {
	case 0:
		l, r = n.cell(x, y-1), n.cell(x, y)
	case 1:
		l, r = n.cell(x, y), n.cell(x-1, y)
	case 2:
		l, r = n.cell(x-1, y), n.cell(x-1, y-1)
	default:
		l, r = n.cell(x-1, y-1), n.cell(x, y-1)
	}
	return l, r, l != r && l >= 0 && r >= 0
}

var wayX, wayY = [4]int{1, 0, -1, 0}, [4]int{0, 1, 0, -1}

// trace follows all borders.
func trace(w, h int, mm float64, label []uint16) *net {
	n := &net{w: w, h: h, mm: mm, label: label, at: map[int32]int{}}
	wide := w + 1
	ways := make([]uint8, wide*(h+1))
	for y := 1; y < h; y++ {
		for x := 1; x < w; x++ {
			a, b, c, d := label[(y-1)*w+x-1], label[(y-1)*w+x], label[y*w+x-1], label[y*w+x]
			if a == b && b == c && c == d {
				continue
			}
			k := uint8(0)
			for _, differ := range [4]bool{a != b, c != d, a != c, b != d} {
				if differ {
					k++
				}
			}
			v := int32(y*wide + x)
			if ways[v] = k; k >= 3 {
				n.at[v] = len(n.junctions)
				n.corners = append(n.corners, v)
				n.junctions = append(n.junctions, vec{X: float64(x) * mm, Y: float64(y) * mm})
			}
		}
	}
	seen := make([]bool, wide*(h+1)*4)
	for _, v := range n.corners {
		for d := range 4 {
			n.walk(int(v)%wide, int(v)/wide, d, seen)
		}
	}
	for y := 1; y < h; y++ {
		for x := 1; x < w; x++ {
			if ways[y*wide+x] == 2 {
				for d := range 4 {
					n.walk(x, y, d, seen)
				}
			}
		}
	}
	for _, a := range n.arcs {
		n.smooth(a)
	}
	return n
}

// walk follows one arc from a corner.
func (n *net) walk(x, y, d int, seen []bool) {
	wide := n.w + 1
	v := y*wide + x
	l, r, on := n.crack(x, y, d)
	if seen[v*4+d] || !on {
		return
	}
	a := &arc{left: l, right: r, junction: [2]int{-1, -1}, chain: -1, raw: []int32{int32(v)}}
	if id, ok := n.at[int32(v)]; ok {
		a.junction[0] = id
	}
	for {
		seen[v*4+d] = true
		x, y = x+wayX[d], y+wayY[d]
		v = y*wide + x
		seen[v*4+(d+2)%4] = true
		a.raw = append(a.raw, int32(v))
		if id, ok := n.at[int32(v)]; ok {
			a.junction[1] = id
			break
		}
		if x <= 0 || y <= 0 || x >= n.w || y >= n.h {
			break
		}
		next := -1
		for _, e := range [3]int{(d + 1) % 4, d, (d + 3) % 4} {
			if _, _, on := n.crack(x, y, e); on {
				next = e
				break
			}
		}
		if next < 0 || seen[v*4+next] {
			a.closed = a.raw[0] == int32(v)
			break
		}
		d = next
	}
	n.arcs = append(n.arcs, a)
}

// smoothMM is over how much of an arc its corners are averaged, either way.
const smoothMM = 0.3

// smooth makes a line of an arc's corners.
func (n *net) smooth(a *arc) {
	wide, m := n.w+1, len(a.raw)
	k := max(2, int(smoothMM/n.mm+0.5))
	at := func(i int) vec {
		if a.closed {
			i = (i + m - 1) % (m - 1)
		}
		c := int(a.raw[max(0, min(m-1, i))])
		return vec{X: float64(c % wide), Y: float64(c / wide)}
	}
	for i := range m {
		reach := k
		if !a.closed {
			reach = min(k, i, m-1-i)
		}
		var sum vec
		for j := -reach; j <= reach; j++ {
			sum = sum.plus(at(i + j))
		}
		a.pts = append(a.pts, sum.times(n.mm/float64(2*reach+1)))
	}
	for i := 1; i < len(a.pts); i++ {
		a.mm += a.pts[i-1].to(a.pts[i])
	}
}

// leaving is the direction in which an arc leaves an end, 0 or 1: the tangent there of a
// parabola through the stretch behind the junction's own blot. Near corners a shorter stretch
// is taken. Not ok when the arc is too short to tell.
func (a *arc) leaving(end int, line float64) (d vec, ok bool) {
	from := 0.7*line + 0.1
	for _, reach := range [3]float64{2.4, 1.4, 0.8} {
		var off float64
		if d, off, ok = a.fitted(end, from, from+reach); !ok || off < 0.07 {
			return d, ok
		}
	}
	return d, ok
}

// fitted is the tangent of a parabola (a straight line where it is short) through the stretch
// between two distances from an end, and how far the arc lies off it at most, mm.
func (a *arc) fitted(end int, from, to float64) (d vec, off float64, ok bool) {
	if a.mm < from+0.35 {
		return d, 0, false
	}
	var s, xs, ys []float64
	m := len(a.pts)
	at := func(i int) vec {
		if end == 1 {
			i = m - 1 - i
		}
		return a.pts[i]
	}
	far := 0.0
	for i := 1; i < m && far <= to; i++ {
		if far += at(i - 1).to(at(i)); far >= from && far <= to {
			s, xs, ys = append(s, far), append(xs, at(i).X), append(ys, at(i).Y)
		}
	}
	if len(s) < 3 {
		return d, 0, false
	}
	degree := 1
	if s[len(s)-1]-s[0] > 1.4 {
		degree = 2
	}
	cx, cy := parabola(s, xs, degree), parabola(s, ys, degree)
	for k, v := range s {
		off = max(off, math.Abs(xs[k]-cx[0]-cx[1]*v-cx[2]*v*v), math.Abs(ys[k]-cy[0]-cy[1]*v-cy[2]*v*v))
	}
	at0 := s[0] / 2
	return vec{X: cx[1] + 2*cx[2]*at0, Y: cy[1] + 2*cy[2]*at0}.unit(), off, true
}

// parabola fits c0 + c1·s + c2·s² by least squares, c2 being 0 at degree 1.
func parabola(s, v []float64, degree int) (c [3]float64) {
	var a [3][4]float64
	for k, x := range s {
		p := [3]float64{1, x, x * x}
		for i := range 3 {
			for j := range 3 {
				a[i][j] += p[i] * p[j]
			}
			a[i][3] += p[i] * v[k]
		}
	}
	q := degree + 1
	for i := range q {
		for j := i + 1; j < q; j++ {
			f := a[j][i] / a[i][i]
			for k := i; k < 4; k++ {
				a[j][k] -= f * a[i][k]
			}
		}
	}
	for i := q - 1; i >= 0; i-- {
		t := a[i][3]
		for j := i + 1; j < q; j++ {
			t -= a[i][j] * c[j]
		}
		c[i] = t / a[i][i]
	}
	return c
}
