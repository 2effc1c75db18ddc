package proof

import (
	"cmp"
	"image"
	"image/color"
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"
)

// squared is a scan of a strip that can be read by places on the strip, with the
// light evened out.
type squared struct {
	m     image.Image
	to    Projection    // from the strip to the scan
	light [3][6]float64 // what white paper is, by channel: a + bx + cy + dx² + exy + fy²
}

// square finds the four marks of a strip, turns it upright, and measures the
// light on its white border.
func square(m image.Image) (*squared, error) {
	marks, err := findMarks(m)
	if err != nil {
		return nil, err
	}
	s := &squared{m: m}
	corners := Marks()
	if s.to, err = Project(corners[:], marks[:], nil); err != nil {
		return nil, ErrMarks
	}
	return s, s.measureLight()
}

// at returns the colour at a place of the strip, 1 being its own white paper.
func (s *squared) at(p Point) (c [3]float64) {
	c = s.raw(p)
	for i, l := range s.light {
		c[i] /= l[0] + l[1]*p.X + l[2]*p.Y + l[3]*p.X*p.X + l[4]*p.X*p.Y + l[5]*p.Y*p.Y
	}
	return c
}

// raw returns the colour at a place of the strip as it was scanned, 0 to 1,
// interpolated.
func (s *squared) raw(p Point) (c [3]float64) {
	q := s.to.Apply(p)
	x0, y0 := math.Floor(q.X-0.5), math.Floor(q.Y-0.5)
	fx, fy := q.X-0.5-x0, q.Y-0.5-y0
	b := s.m.Bounds()
	for k, w := range [4]float64{(1 - fx) * (1 - fy), fx * (1 - fy), (1 - fx) * fy, fx * fy} {
		x := min(b.Max.X-1, max(b.Min.X, int(x0)+k%2))
		y := min(b.Max.Y-1, max(b.Min.Y, int(y0)+k/2))
		v := rgb(s.m, x, y)
		for i := range c {
			c[i] += w * v[i]
		}
	}
	return c
}

func rgb(m image.Image, x, y int) [3]float64 {
	if p, ok := m.(*image.RGBA); ok {
		i := p.PixOffset(x, y)
		return [3]float64{float64(p.Pix[i]) / 255, float64(p.Pix[i+1]) / 255, float64(p.Pix[i+2]) / 255}
	}
	c := color.NRGBAModel.Convert(m.At(x, y)).(color.NRGBA)
	return [3]float64{float64(c.R) / 255, float64(c.G) / 255, float64(c.B) / 255}
}

// mean is the mean colour of a rectangle of the strip.
func (s *squared) mean(x0, y0, x1, y1 float64) (sum [3]float64) {
	n := 0.0
	for y := y0; y < y1; y += 0.25 {
		for x := x0; x < x1; x += 0.25 {
			c := s.at(Point{X: x, Y: y})
			for i := range sum {
				sum[i] += c[i]
			}
			n++
		}
	}
	for i := range sum {
		sum[i] /= n
	}
	return sum
}

// measureLight fits what white is, over the strip, to its border and the margins
// of its left side, which water does not reach.
func (s *squared) measureLight() error {
	var places []Point
	for x := 13.0; x <= StripW-13; x += 2 {
		places = append(places, Point{X: x, Y: 3}, Point{X: x, Y: StripH - 3})
	}
	for y := 14.0; y <= StripH-14; y += 2 {
		places = append(places, Point{X: 3, Y: y}, Point{X: StripW - 3, Y: y}, Point{X: 9, Y: y}, Point{X: StripW - 9, Y: y})
	}
	a := mat.NewDense(len(places), 6, nil)
	var b [3]*mat.VecDense
	for i := range b {
		b[i] = mat.NewVecDense(len(places), nil)
	}
	for row, p := range places {
		a.SetRow(row, []float64{1, p.X, p.Y, p.X * p.X, p.X * p.Y, p.Y * p.Y})
		for i, v := range s.local(p) {
			b[i].SetVec(row, v)
		}
	}
	for i := range b {
		var x mat.VecDense
		if err := x.SolveVec(a, b[i]); err != nil {
			return ErrMarks
		}
		copy(s.light[i][:], x.RawVector().Data)
		for _, p := range Marks() {
			if l := s.light[i]; l[0]+l[1]*p.X+l[2]*p.Y+l[3]*p.X*p.X+l[4]*p.X*p.Y+l[5]*p.Y*p.Y < 0.35 {
				return ErrDark
			}
		}
	}
	return nil
}

// local is the median colour round a place.
func (s *squared) local(p Point) (out [3]float64) {
	var v [3][]float64
	for dy := -0.6; dy <= 0.6; dy += 0.3 {
		for dx := -0.6; dx <= 0.6; dx += 0.3 {
			for i, c := range s.raw(Point{X: p.X + dx, Y: p.Y + dy}) {
				v[i] = append(v[i], c)
			}
		}
	}
	for i := range out {
		out[i] = median(v[i])
	}
	return out
}

// mark is a black square found in a scan.
type mark struct {
	at   Point // pixels
	side float64
	hole bool
}

// findMarks returns the places of the four marks in the scan, in the order of
// [Marks].
func findMarks(m image.Image) (out [4]Point, err error) {
	found := squares(m)
	if len(found) < 4 {
		return out, ErrMarks
	}
	slices.SortFunc(found, func(a, b mark) int { return cmp.Compare(b.side, a.side) })
	found = found[:min(len(found), 12)]
	// Of all fours that make the strip's rectangle, the one that is most of it.
	best := math.Inf(1)
	for a := range found {
		if found[a].hole {
			continue
		}
		for b := range found {
			for c := range found {
				for d := range found {
					if a == b || a == c || a == d || b == c || b == d || c == d || !found[b].hole || !found[c].hole || !found[d].hole {
						continue
					}
					four := [4]mark{found[a], found[b], found[c], found[d]}
					if off := shapeOff(four); off < best {
						best = off
						for i, k := range four {
							out[i] = k.at
						}
					}
				}
			}
		}
	}
	if best > 0.25 {
		return out, ErrMarks
	}
	return out, nil
}

// shapeOff is how far four marks are from the strip's shape: the differences of
// their distances, by the size of the marks.
func shapeOff(four [4]mark) (off float64) {
	want := Marks()
	side := (four[0].side + four[1].side + four[2].side + four[3].side) / 4
	for i := range 4 {
		if r := four[i].side / side; r < 0.75 || r > 1.33 {
			return math.Inf(1)
		}
		for j := range i {
			d := math.Hypot(four[i].at.X-four[j].at.X, four[i].at.Y-four[j].at.Y) / side
			w := math.Hypot(want[i].X-want[j].X, want[i].Y-want[j].Y) / MarkSide
			off = max(off, math.Abs(d/w-1))
		}
	}
	// Clockwise, or the strip is seen from behind.
	ax, ay := four[1].at.X-four[0].at.X, four[1].at.Y-four[0].at.Y
	bx, by := four[3].at.X-four[0].at.X, four[3].at.Y-four[0].at.Y
	if ax*by-ay*bx <= 0 {
		return math.Inf(1)
	}
	return off
}

// squares lists the dark pieces of a scan that are about square.
func squares(m image.Image) (out []mark) {
	b := m.Bounds()
	// Half the scan's pixels are enough to find marks of 6 mm.
	k := max(1, max(b.Dx(), b.Dy())/1600)
	w, h := b.Dx()/k, b.Dy()/k
	if w == 0 || h == 0 {
		return nil // a sliver holds no marks
	}
	grey := make([]float64, w*h)
	for y := range h {
		for x := range w {
			c := rgb(m, b.Min.X+x*k+k/2, b.Min.Y+y*k+k/2)
			grey[y*w+x] = (c[0] + c[1] + c[2]) / 3
		}
	}
	sorted := slices.Clone(grey)
	slices.Sort(sorted)
	limit := sorted[len(sorted)*9/10] * 0.5 // half as bright as the paper
	dark := make([]bool, w*h)
	for i, v := range grey {
		dark[i] = v < limit
	}
	seen := make([]bool, w*h)
	for start, is := range dark {
		if !is || seen[start] {
			continue
		}
		n, x0, y0, x1, y1 := 0, w, h, 0, 0
		var sx, sy, sxx, syy, sxy float64
		stack := []int{start}
		seen[start] = true
		for len(stack) > 0 {
			i := stack[len(stack)-1]
			stack = stack[:len(stack)-1]
			x, y := i%w, i/w
			x0, y0, x1, y1 = min(x0, x), min(y0, y), max(x1, x), max(y1, y)
			fx, fy := float64(x)+0.5, float64(y)+0.5
			n, sx, sy, sxx, syy, sxy = n+1, sx+fx, sy+fy, sxx+fx*fx, syy+fy*fy, sxy+fx*fy
			for _, j := range [4]int{i - 1, i + 1, i - w, i + w} {
				if j >= 0 && j < w*h && !(j == i-1 && x == 0) && !(j == i+1 && x == w-1) && dark[j] && !seen[j] {
					seen[j] = true
					stack = append(stack, j)
				}
			}
		}
		area := float64(n)
		if n < 60 || x1-x0 > w/4 || y1-y0 > h/3 {
			continue
		}
		cx, cy := sx/area, sy/area
		vx, vy, vxy := sxx/area-cx*cx, syy/area-cy*cy, sxy/area-cx*cy
		// A square's main spreads are alike, and its side follows from them; a hole
		// makes them wider for their area.
		spread := math.Hypot((vx-vy)/2, vxy)
		if spread > 0.15*(vx+vy)/2 {
			continue
		}
		ratio := area / (12 * math.Sqrt(max(0, vx*vy-vxy*vxy))) // 1 for a whole square
		const (
			holed = (MarkSide*MarkSide - MarkHole*MarkHole) / (MarkSide*MarkSide + MarkHole*MarkHole)
			slack = 0.14
		)
		if ratio < holed-slack || ratio > 1+slack {
			continue
		}
		mk := mark{at: Point{X: cx*float64(k) + float64(b.Min.X), Y: cy*float64(k) + float64(b.Min.Y)}, hole: !middleDark(dark, w, int(cx), int(cy), int(math.Sqrt(area)/middleOf))}
		mk.side = math.Sqrt(area) * float64(k)
		if mk.hole {
			mk.side /= math.Sqrt(1 - MarkHole*MarkHole/(MarkSide*MarkSide))
		}
		out = append(out, mk)
	}
	return out
}

// middleOf is how many times as wide as what is looked at of its middle a mark is: so much
// that flecks of the paper's texture do not decide, and that it lies within a hole.
const middleOf = 10

func middleDark(dark []bool, w, x, y, r int) bool {
	n, all := 0, 0
	for dy := -r; dy <= r; dy++ {
		for dx := -r; dx <= r; dx++ {
			all++
			if i := (y+dy)*w + x + dx; i >= 0 && i < len(dark) && dark[i] {
				n++
			}
		}
	}
	return 2*n > all
}

// Level is a scanned card of the strip's size, squared by its marks and evened by its white:
// so many pixels to the millimetre, 255 being its own paper as package pigment has white.
func Level(m image.Image, pxPerMM float64) (*image.RGBA, error) {
	s, err := square(m)
	if err != nil {
		return nil, err
	}
	out := image.NewRGBA(image.Rect(0, 0, int(StripW*pxPerMM), int(StripH*pxPerMM)))
	for y := range out.Rect.Dy() {
		for x := range out.Rect.Dx() {
			c := onPaper(s.at(Point{X: (float64(x) + 0.5) / pxPerMM, Y: (float64(y) + 0.5) / pxPerMM}))
			i := out.PixOffset(x, y)
			for k, v := range c {
				out.Pix[i+k] = uint8(max(0, min(255, 255*v+0.5)))
			}
			out.Pix[i+3] = 255
		}
	}
	return out, nil
}
