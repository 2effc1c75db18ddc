package photo

import (
	"cmp"
	"context"
	"image"
	"math"
	"slices"

	"gonum.org/v1/gonum/mat"

	"chromaqua/core/lineart"
	"chromaqua/core/proof"
)

type point = lineart.Point

// place is where the panel lies in a photo.
type place struct {
	to     proof.Projection // from the panel, mm, to the pixels that are worked with
	agrees float64
}

// Measures of looking for the panel, mm but where said.
const (
	coarseSide = 420  // pixels of the longer side when the table is told from the panel
	lineWide   = 1.1  // the widest line that counts as one
	onLine     = 0.4  // as near a line is found again
	farthest   = 4.0  // the first guess may be off by so much
	leastAgree = 0.42 // of the line, above chance; that of other cards agrees by 0.1 to 0.3
	most       = 5000 // places of the line that are matched
)

// locate finds the panel: its outline against the table gives four guesses, a quarter turn
// from each other, and its line decides between them and moves the best one into place.
func locate(ctx context.Context, w *work, p *Plan) (place, error) {
	quad, err := outline(w)
	if err != nil {
		return place{}, err
	}
	perMM := math.Sqrt(polygonArea(quad[:]) / (p.W * p.H))
	if perMM < 2.2 { // a line of half a millimetre is a pixel
		return place{}, ErrSmall
	}
	seen := ridges(greatest(w), w.w, w.h, int(math.Ceil(lineWide*perMM/2)))
	f := &fitting{w: w.w, h: w.h, on: seen, perMM: perMM, points: p.ridges(perMM)}
	f.dist2, f.nearest = lineart.Nearest(w.w, w.h, seen)
	if len(f.points) < 60 {
		return place{}, ErrNoLine
	}
	corners := []point{{}, {X: p.W}, {X: p.W, Y: p.H}, {Y: p.H}}
	best := place{agrees: math.Inf(-1)}
	few := thinned(f.points, 900)
	for turn := range 4 {
		var to []point
		for k := range 4 {
			to = append(to, quad[(k+turn)%4])
		}
		h, err := proof.Project(corners, to, nil)
		if err != nil {
			continue
		}
		if h, err = f.refine(ctx, h, few, farthest, 22); err != nil {
			return place{}, err
		}
		if a := f.agreement(h, few); a > best.agrees {
			best = place{h, a}
		}
	}
	if best.to, err = f.refine(ctx, best.to, thinned(f.points, most), 1.2, 14); err != nil {
		return place{}, err
	}
	best.agrees = f.agreement(best.to, thinned(f.points, most))
	if best.agrees < leastAgree {
		if f.blurred(greatest(w)) {
			return place{}, ErrBlurred
		}
		return place{}, ErrOther
	}
	out := 0
	for _, c := range corners {
		if q := best.to.Apply(c); q.X < 0 || q.Y < 0 || q.X > float64(w.w) || q.Y > float64(w.h) {
			out++
		}
	}
	if out > 0 {
		return place{}, ErrCutOff
	}
	return best, nil
}

// greatest is the lightest of the three colours, as an eye grades it: paint keeps one of them
// light, a dark line none.
func greatest(w *work) []uint8 {
	out := make([]uint8, len(w.pix))
	for i, c := range w.pix {
		out[i] = uint8(255 * math.Sqrt(float64(min(1, max(c[0], c[1], c[2])))))
	}
	return out
}

// ridges are the places that are darker than what is round them: lines of at most twice r
// pixels, whatever the light.
func ridges(m []uint8, w, h, r int) []bool {
	closed := spread(spread(m, w, h, r, true), w, h, r, false)
	out := make([]bool, len(m))
	const least, share = 16, 0.16
	for i, v := range m {
		if d := int(closed[i]) - int(v); d >= least && float64(d) >= share*float64(closed[i]) {
			out[i] = true
		}
	}
	return out
}

// spread is the greatest, or the least, of all within r pixels across and down.
func spread(m []uint8, w, h, r int, greatest bool) []uint8 {
	pick := func(a, b uint8) uint8 { return min(a, b) }
	if greatest {
		pick = func(a, b uint8) uint8 { return max(a, b) }
	}
	rows := make([]uint8, len(m))
	for y := range h {
		row := m[y*w : (y+1)*w]
		for x := range w {
			v := row[x]
			for _, o := range row[max(0, x-r):min(w, x+r+1)] {
				v = pick(v, o)
			}
			rows[y*w+x] = v
		}
	}
	out := slices.Clone(rows)
	for y := range h {
		for d := -r; d <= r; d++ {
			if y+d < 0 || y+d >= h || d == 0 {
				continue
			}
			to, from := out[y*w:(y+1)*w], rows[(y+d)*w:(y+d+1)*w]
			for x, v := range from {
				to[x] = pick(to[x], v)
			}
		}
	}
	return out
}

// ridges are the places of the plan's line, mm, found as they are found in a photo with so
// many pixels a millimetre.
func (p *Plan) ridges(perMM float64) (out []point) {
	k := p.DPI / 25.4 / perMM
	w, h := int(p.W*perMM), int(p.H*perMM)
	m := make([]uint8, w*h)
	for y := range h {
		for x := range w {
			m[y*w+x] = meanOf(p.Line, float64(x)*k, float64(y)*k, k)
		}
	}
	for i, on := range ridges(m, w, h, int(math.Ceil(lineWide*perMM/2))) {
		if on {
			out = append(out, point{X: (float64(i%w) + 0.5) / perMM, Y: (float64(i/w) + 0.5) / perMM})
		}
	}
	return out
}

// meanOf is the mean of a square of a picture, so many pixels wide.
func meanOf(g *image.Gray, x, y, k float64) uint8 {
	sum, n := 0, 0
	for yy := int(y); yy < max(int(y)+1, int(y+k)); yy++ {
		for xx := int(x); xx < max(int(x)+1, int(x+k)); xx++ {
			if xx < g.Rect.Dx() && yy < g.Rect.Dy() {
				sum, n = sum+int(g.Pix[yy*g.Stride+xx]), n+1
			}
		}
	}
	if n == 0 {
		return 255
	}
	return uint8(sum / n)
}

// fitting moves the line of the plan onto that of a photo.
type fitting struct {
	w, h    int
	on      []bool
	perMM   float64
	points  []point // of the plan, mm
	dist2   []int32
	nearest []int32
}

// near is the place of the photo's line nearest to one, and how far off it is, pixels.
func (f *fitting) near(q point) (at point, px float64) {
	x, y := int(q.X), int(q.Y)
	if x < 0 || y < 0 || x >= f.w || y >= f.h {
		return at, math.Inf(1)
	}
	i := y*f.w + x
	n := int(f.nearest[i])
	at = point{X: float64(n%f.w) + 0.5, Y: float64(n/f.w) + 0.5}
	return at, math.Hypot(q.X-at.X, q.Y-at.Y)
}

// refine lays each place of the line on the nearest one in the photo, again and again, with
// less and less patience for those far off.
func (f *fitting) refine(ctx context.Context, h proof.Projection, points []point, reach float64, rounds int) (proof.Projection, error) {
	from, to, weights := make([]point, 0, len(points)), make([]point, 0, len(points)), make([]float64, 0, len(points))
	for range rounds {
		if err := ctx.Err(); err != nil {
			return h, err
		}
		from, to, weights = from[:0], to[:0], weights[:0]
		limit := reach * f.perMM
		for _, p := range points {
			if at, px := f.near(h.Apply(p)); px < limit {
				from, to = append(from, p), append(to, at)
				weights = append(weights, 1/(1+px*px/(0.1*limit*limit)))
			}
		}
		if len(from) < 40 {
			return h, nil
		}
		next, err := proof.Project(from, to, weights)
		if err != nil {
			return h, nil // it stays where it is, which agreement judges
		}
		h = next
		reach = max(onLine, 0.86*reach)
	}
	return h, nil
}

// agreement is how much of the plan's line is found again in the photo, above what any line
// would find by chance: 1 for all, 0 for no more than that.
func (f *fitting) agreement(h proof.Projection, points []point) float64 {
	limit := onLine * f.perMM
	hit := func(shift point) float64 {
		n := 0
		for _, p := range points {
			if _, px := f.near(h.Apply(point{X: p.X + shift.X, Y: p.Y + shift.Y})); px <= limit {
				n++
			}
		}
		return float64(n) / float64(len(points))
	}
	chance := 0.0
	shifts := []point{{X: 2.3, Y: 1.7}, {X: -2.1, Y: 2.4}, {X: 1.9, Y: -2.6}, {X: -2.7, Y: -1.8}}
	for _, s := range shifts {
		chance += hit(s) / float64(len(shifts))
	}
	return (hit(point{}) - chance) / max(0.05, 1-chance)
}

// blurred reports whether hardly anything in the photo is as fine as a line.
func (f *fitting) blurred(m []uint8) bool {
	n := 0
	for y := 1; y < f.h-1; y++ {
		for x := 1; x < f.w-1; x++ {
			i := y*f.w + x
			if d := 4*int(m[i]) - int(m[i-1]) - int(m[i+1]) - int(m[i-f.w]) - int(m[i+f.w]); d > 40 || d < -40 {
				n++
			}
		}
	}
	return float64(n) < 0.002*float64(f.w*f.h)
}

func thinned(points []point, n int) []point {
	step := max(1, len(points)/n)
	var out []point
	for i := step / 2; i < len(points); i += step {
		out = append(out, points[i])
	}
	return out
}

// outline is the panel against its table: the four corners, clockwise from the one at the
// upper left. The table is what lies along the edges of the photo, however it is lit.
func outline(w *work) ([4]point, error) {
	k := max(1, max(w.w, w.h)/coarseSide)
	cw, ch := w.w/k, w.h/k
	logs := make([][3]float64, cw*ch)
	for y := range ch {
		for x := range cw {
			var sum [3]float64
			for dy := range k {
				for dx := range k {
					c := w.pix[(y*k+dy)*w.w+x*k+dx]
					for i := range sum {
						sum[i] += float64(c[i])
					}
				}
			}
			for i := range sum {
				logs[y*cw+x][i] = math.Log(sum[i]/float64(k*k) + 1e-3)
			}
		}
	}
	off := fromTable(logs, cw, ch)
	on := make([]bool, len(off))
	limit := split(off)
	for i, v := range off {
		on[i] = v > limit
	}
	hull := hullOf(largest(on, cw, ch), cw)
	if len(hull) < 4 || polygonArea(hull) < 0.06*float64(cw*ch) {
		return [4]point{}, ErrOther
	}
	quad := fourOf(hull)
	if len(quad) != 4 {
		return [4]point{}, ErrOther
	}
	var out [4]point
	for i, q := range quad {
		out[i] = point{X: q.X * float64(k), Y: q.Y * float64(k)}
	}
	return clockwise(out), nil
}

// fromTable is how far each place is from the table's colour, whose light is fitted along the
// edges of the photo.
func fromTable(logs [][3]float64, w, h int) []float64 {
	rim := max(2, min(w, h)/25)
	var at []int
	for y := range h {
		for x := range w {
			if x < rim || y < rim || x >= w-rim || y >= h-rim {
				at = append(at, y*w+x)
			}
		}
	}
	off := make([]float64, len(logs))
	for c := range 3 {
		// Of the edges too the panel may cover some: they count less the farther off they are.
		weights := slices.Repeat([]float64{1}, len(at))
		var lit light
		for range 6 {
			lit = quadratic(at, weights, w, h, func(k int) float64 { return logs[at[k]][c] })
			for k, i := range at {
				d := logs[i][c] - lit.at(i, w, h)
				weights[k] = 1 / (1 + d*d/0.01)
			}
		}
		for i := range logs {
			d := logs[i][c] - lit.at(i, w, h)
			off[i] += d * d
		}
	}
	for i := range off {
		off[i] = math.Sqrt(off[i])
	}
	return off
}

// split parts values in two as their histogram does best (Otsu 1979), but not among what the
// table itself varies by.
func split(v []float64) float64 {
	const bins, top = 200, 3.0
	var hist [bins]float64
	for _, x := range v {
		hist[min(bins-1, int(x/top*bins))]++
	}
	total, sum := float64(len(v)), 0.0
	for i, n := range hist {
		sum += float64(i) * n
	}
	best, at := 0.0, 0
	var n0, s0 float64
	for i, n := range hist {
		n0, s0 = n0+n, s0+float64(i)*n
		if n0 == 0 || n0 == total {
			continue
		}
		d := s0/n0 - (sum-s0)/(total-n0)
		if b := n0 * (total - n0) * d * d; b > best {
			best, at = b, i
		}
	}
	return max(0.12, 0.7*(float64(at)+1)*top/bins)
}

// largest is the largest piece of what is on, its thin threads cut.
func largest(on []bool, w, h int) (out []int) {
	kept := make([]bool, len(on))
	for y := 1; y < h-1; y++ {
		for x := 1; x < w-1; x++ {
			n := 0
			for dy := -1; dy <= 1; dy++ {
				for dx := -1; dx <= 1; dx++ {
					if on[(y+dy)*w+x+dx] {
						n++
					}
				}
			}
			kept[y*w+x] = n >= 6
		}
	}
	seen := make([]bool, len(on))
	for start, is := range kept {
		if !is || seen[start] {
			continue
		}
		piece := []int{start}
		seen[start] = true
		for k := 0; k < len(piece); k++ {
			i := piece[k]
			for _, j := range [4]int{i - 1, i + 1, i - w, i + w} {
				if j >= 0 && j < len(kept) && kept[j] && !seen[j] {
					seen[j] = true
					piece = append(piece, j)
				}
			}
		}
		if len(piece) > len(out) {
			out = piece
		}
	}
	return out
}

// hullOf is the convex hull of pixels.
func hullOf(pixels []int, w int) (chain []point) {
	var all []point
	for _, i := range pixels {
		all = append(all, point{X: float64(i%w) + 0.5, Y: float64(i/w) + 0.5})
	}
	slices.SortFunc(all, func(a, b point) int { return cmp.Or(cmp.Compare(a.X, b.X), cmp.Compare(a.Y, b.Y)) })
	cross := func(a, b, c point) float64 { return (b.X-a.X)*(c.Y-a.Y) - (b.Y-a.Y)*(c.X-a.X) }
	half := func(points []point) (out []point) {
		for _, p := range points {
			for len(out) > 1 && cross(out[len(out)-2], out[len(out)-1], p) <= 0 {
				out = out[:len(out)-1]
			}
			out = append(out, p)
		}
		return out
	}
	lower := half(all)
	slices.Reverse(all)
	upper := half(all)
	if len(lower) < 2 || len(upper) < 2 {
		return nil
	}
	return append(lower[:len(lower)-1], upper[:len(upper)-1]...)
}

// fourOf drops sides of a convex polygon until four are left, each time the one whose
// neighbours meet with the least paper added.
func fourOf(hull []point) []point {
	poly := slices.Clone(hull)
	for len(poly) > 4 {
		best, at, meet := math.Inf(1), -1, point{}
		n := len(poly)
		for i := range poly {
			a, b, c, d := poly[(i+n-1)%n], poly[i], poly[(i+1)%n], poly[(i+2)%n]
			q, ok := meeting(a, b, d, c)
			if !ok {
				continue
			}
			if add := math.Abs((b.X-q.X)*(c.Y-q.Y)-(b.Y-q.Y)*(c.X-q.X)) / 2; add < best {
				best, at, meet = add, i, q
			}
		}
		if at < 0 {
			return nil
		}
		next := slices.Clone(poly)
		next[at] = meet
		poly = slices.Delete(next, (at+1)%n, (at+1)%n+1)
	}
	return poly
}

// meeting is where the line from a through b meets that from c through d, beyond both.
func meeting(a, b, c, d point) (q point, ok bool) {
	ux, uy, vx, vy := b.X-a.X, b.Y-a.Y, d.X-c.X, d.Y-c.Y
	det := ux*vy - uy*vx
	if math.Abs(det) < 1e-9 {
		return q, false
	}
	t := ((c.X-a.X)*vy - (c.Y-a.Y)*vx) / det
	s := ((c.X-a.X)*uy - (c.Y-a.Y)*ux) / det
	if t < 1 || s < 1 {
		return q, false
	}
	return point{X: a.X + t*ux, Y: a.Y + t*uy}, true
}

func polygonArea(p []point) (sum float64) {
	for i, a := range p {
		b := p[(i+1)%len(p)]
		sum += a.X*b.Y - a.Y*b.X
	}
	return math.Abs(sum) / 2
}

// clockwise orders corners as they are seen, from the one nearest to the upper left.
func clockwise(q [4]point) [4]point {
	area := 0.0
	for i := range q {
		j := (i + 1) % 4
		area += q[i].X*q[j].Y - q[i].Y*q[j].X
	}
	if area < 0 { // with y downwards, clockwise is positive
		slices.Reverse(q[:])
	}
	first := 0
	for i := range q {
		if q[i].X+q[i].Y < q[first].X+q[first].Y {
			first = i
		}
	}
	var out [4]point
	for i := range q {
		out[i] = q[(first+i)%4]
	}
	return out
}

// light is a field that runs smoothly over a picture: a quadratic in its places.
type light [6]float64

func terms(i, w, h int) [6]float64 {
	x, y := 2*float64(i%w)/float64(w)-1, 2*float64(i/w)/float64(h)-1
	return [6]float64{1, x, y, x * x, x * y, y * y}
}

func (l light) at(i, w, h int) (v float64) {
	for k, t := range terms(i, w, h) {
		v += l[k] * t
	}
	return v
}

// quadratic fits a field to values at places with weights, by its normal equations.
func quadratic(at []int, weights []float64, w, h int, value func(k int) float64) (l light) {
	var sums [6][6]float64
	var right [6]float64
	for k, i := range at {
		t, v, wt := terms(i, w, h), value(k), weights[k]
		for r := range 6 {
			for c := r; c < 6; c++ {
				sums[r][c] += wt * t[r] * t[c]
			}
			right[r] += wt * t[r] * v
		}
	}
	a, b := mat.NewSymDense(6, nil), mat.NewVecDense(6, right[:])
	for r := range 6 {
		for c := r; c < 6; c++ {
			a.SetSym(r, c, sums[r][c])
		}
	}
	// Where places say little of how it bends, it is taken not to.
	n := a.At(0, 0)
	for r, stiff := range [6]float64{1e-9, 2e-3, 2e-3, 1e-2, 1e-2, 1e-2} {
		a.SetSym(r, r, a.At(r, r)+stiff*n)
	}
	var x mat.VecDense
	var chol mat.Cholesky
	if !chol.Factorize(a) || chol.SolveVecTo(&x, b) != nil {
		return l
	}
	copy(l[:], x.RawVector().Data)
	return l
}
