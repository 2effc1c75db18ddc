package photo

import (
	"context"
	"image"
	"math"
	"slices"

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
	cornerBy   = 0.01 // of all places of the line, that a corner of the outline counts
	cornerOff  = 1.0  // mm, by which a corner may be off before it counts less
)

// locate finds the panel by its outline, read in one way after the other until its line is
// found there.
func locate(ctx context.Context, w *work, p *Plan) (at place, err error) {
	c := w.places()
	for i, read := range readings {
		o, wrong := read(c)
		if wrong == nil {
			if at, wrong = locateIn(ctx, w, p, o.quad); wrong == nil {
				return at, nil
			}
		}
		if ctx.Err() != nil {
			return place{}, ctx.Err()
		}
		if i == 0 {
			err = wrong
		}
	}
	return place{}, err
}

// locateIn finds the panel in its outline, which gives four guesses, a quarter turn from each
// other; its line decides between them and moves the best one into place.
func locateIn(ctx context.Context, w *work, p *Plan, quad [4]point) (place, error) {
	perMM := math.Sqrt(polygonArea(quad[:]) / (p.W * p.H))
	if perMM < 2.2 { // a line of half a millimetre is a pixel
		return place{}, ErrSmall
	}
	f := &fitting{w: w.w, h: w.h, on: ridges(greatest(w), w.w, w.h, int(math.Ceil(lineWide*perMM/2))), perMM: perMM, points: p.ridges(perMM)}
	f.dist2, f.nearest = lineart.Nearest(w.w, w.h, f.on)
	if len(f.points) < 60 {
		return place{}, ErrNoLine
	}
	corners := []point{{}, {X: p.W}, {X: p.W, Y: p.H}, {Y: p.H}}
	best := place{agrees: math.Inf(-1)}
	var seen []point // the corners as they are turned
	few := thinned(f.points, 900)
	for turn := range 4 {
		var to []point
		for k := range 4 {
			to = append(to, quad[(k+turn)%4])
		}
		f.corners, f.seen = corners, to
		h, err := proof.Project(corners, to, nil)
		if err != nil {
			continue
		}
		if h, err = f.refine(ctx, h, few, farthest, 22); err != nil {
			return place{}, err
		}
		if a := f.agreement(h, few); a > best.agrees {
			best, seen = place{h, a}, to
		}
	}
	f.seen = seen
	many := thinned(f.points, most)
	to, err := f.refine(ctx, best.to, many, 1.2, 14)
	if err != nil {
		return place{}, err
	}
	best = place{to, f.agreement(to, many)}
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
	whole := closed(m, w, h, r)
	out := make([]bool, len(m))
	const least, share = 16, 0.16
	for i, v := range m {
		if d := int(whole[i]) - int(v); d >= least && float64(d) >= share*float64(whole[i]) {
			out[i] = true
		}
	}
	return out
}

// spread is the greatest, or the least, of all within r pixels across and down.
func spread[T uint8 | float64](m []T, w, h, r int, greatest bool) []T {
	pick := func(a, b T) T { return min(a, b) }
	if greatest {
		pick = func(a, b T) T { return max(a, b) }
	}
	rows := make([]T, len(m))
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

// closed takes away what is less than all round it and at most 2·r pixels wide.
func closed[T uint8 | float64](m []T, w, h, r int) []T {
	return spread(spread(m, w, h, r, true), w, h, r, false)
}

// opened takes away what is more than all round it and at most 2·r pixels wide.
func opened[T uint8 | float64](m []T, w, h, r int) []T {
	return spread(spread(m, w, h, r, false), w, h, r, true)
}

// ridges are the places of the plan's line, mm, found as they are found in a photo with so
// many pixels a millimetre.
func (p *Plan) ridges(perMM float64) (out []point) {
	k := p.linePerMM() / perMM
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
	corners []point // of the panel, mm
	seen    []point // where the outline has them, pixels
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
		lines := float64(len(from))
		for i, c := range f.corners { // where there is no line, the corners say a little
			at := h.Apply(c)
			off := math.Hypot(at.X-f.seen[i].X, at.Y-f.seen[i].Y) / (cornerOff * f.perMM)
			from, to = append(from, c), append(to, f.seen[i])
			weights = append(weights, cornerBy*lines/(1+off*off*off*off))
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
