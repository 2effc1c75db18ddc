package photo

import (
	"context"
	"errors"
	"fmt"
	"image"
	"math"
	"slices"

	"chromaqua/core/lineart"
)

// Why no sheet is found in a photo.
var (
	ErrNoSheet = errors.New("no panel was found in the photo. Lay it alone on a table of another colour and photograph it whole, from above; or drag the corners to where they are")
	ErrOutside = errors.New("part of the panel lies outside the photo: take it from a little farther away, or drag the corners in to what is seen")
	ErrCorners = errors.New("these four corners make no panel: each has to lie in the photo, in its own quarter")
)

// How a sheet is told, and what makes it doubtful.
const (
	sideProbes = 120  // places along a side at which its edge is looked for
	probedMM   = 3.0  // how far to either side of the first guess,
	nearMM     = 1.5  // and of the last
	edgeFits   = 0.35 // mm, by which a place of an edge may lie off its line
	edgeSeen   = 0.6  // of the probes have to agree on an edge,
	edgeWhole  = 0.8  // and so many where nothing lies over it
	overEdge   = 0.965
	wholeSheet = 0.95 // of its outline, that is as light as paper
	another    = 0.25 // of the panel, that a second thing on the table is told from
	slanted    = 1.12 // a side by the one across from it
	rightShape = 0.04 // of themselves, by which the proportions may be off
	farOff     = 1.3  // of them, which no panel cut to another size is
	otherwise  = 2    // doubts that may be left where a photo is read in another way
)

// The lenses of phones, as focal lengths by the diagonal of the photo: as wide as one of 24 mm
// for film of 36 × 24 mm, and as long as one of 52.
const wideLens, longLens = 0.55, 1.2

// Sheet is a panel in a photo, before anything is known of what is on it.
type Sheet struct {
	Corners [4]lineart.Point // pixels, clockwise from that of the panel's upper left
	Unsure  []string         // sentences
}

// FindSheet finds a panel of w × h mm by its edges: the light of the table is fitted along the
// edges of the photo, what stands out from it gives four corners, and each side is moved onto
// the edge that most places along it agree on. Which way is up is guessed: long side to long
// side, and as the photo has it.
func FindSheet(ctx context.Context, m image.Image, w, h float64) (*Sheet, error) {
	k, err := workOf(m)
	if err != nil {
		return nil, err
	}
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	o, err := k.surest(w, h)
	if err != nil {
		return nil, err
	}
	if o.outside > 0 {
		return nil, ErrOutside
	}
	s := &Sheet{Unsure: o.doubts}
	if o.next > another {
		s.Unsure = append(s.Unsure, "More than one thing lies on the table; the largest was taken.")
	}
	side := o.side
	if max(side(0)/side(2), side(2)/side(0), side(1)/side(3), side(3)/side(1)) > slanted {
		s.Unsure = append(s.Unsure, "It was taken much aslant; the far side is less sharp. From straight above it is better.")
	}
	for i, q := range o.quad {
		s.Corners[i] = point{X: q.X * k.by, Y: q.Y * k.by}
	}
	return s, nil
}

// A sighting is a panel as one way of reading a photo sees it, its sides moved onto edges.
type sighting struct {
	outline
	outside   int      // corners that lie beyond the photo, or so near its edge that they may
	misshapen float64  // by how many times its proportions are off those of the panel, 1 or more
	doubts    []string // whether it is the panel, sentences
}

// side is how long a side is, pixels, clockwise from the upper.
func (s *sighting) side(i int) float64 {
	a, b := s.quad[i], s.quad[(i+1)%4]
	return math.Hypot(b.X-a.X, b.Y-a.Y)
}

// doubtful is how many doubts there are; one of its shape counts for three where it is far off.
func (s *sighting) doubtful() (n int) {
	n = len(s.doubts) + s.outside
	if s.misshapen > farOff {
		n += 2
	}
	return n
}

// surest reads the photo as of a plain table. Where that leaves a doubt, it is read in other
// ways, which have to leave less, and few.
func (k *work) surest(w, h float64) (best *sighting, err error) {
	doubts := math.MaxInt
	c := k.places()
	for i, read := range readings {
		o, wrong := read(c)
		if wrong != nil {
			continue
		}
		s := k.sight(o, w, h)
		if n := s.doubtful(); n < doubts && (i == 0 || n-s.outside <= otherwise) {
			best, doubts = s, n
		}
		if doubts == 0 {
			break
		}
	}
	if best == nil {
		return nil, ErrNoSheet
	}
	return best, nil
}

// sight looks at the edges of an outline, of a panel of w × h mm.
func (k *work) sight(o outline, w, h float64) *sighting {
	s := &sighting{outline: o}
	perMM := math.Sqrt(polygonArea(o.quad[:]) / (w * h))
	var seen [4]float64
	// From a line of the mat beside the panel its edge comes into sight; and nearer to it less
	// of the table and of the ink does.
	look := sought{ink: int(math.Ceil(lineWide * perMM / 2)), fits: edgeFits * perMM, lighter: k.lighter(o.quad, perMM)}
	for _, mm := range [3]float64{probedMM, probedMM, nearMM} {
		look.reach = int(max(mm*perMM, 2.5*o.off))
		s.quad, seen = k.edges(s.quad, look)
	}
	if (w > h) != (s.side(0)+s.side(2) > s.side(1)+s.side(3)) && math.Abs(math.Log(w/h)) > rightShape {
		s.quad = [4]point{s.quad[3], s.quad[0], s.quad[1], s.quad[2]}
		seen = [4]float64{seen[3], seen[0], seen[1], seen[2]}
	}
	rim := 2 * o.off
	for _, q := range s.quad {
		if q.X < rim || q.Y < rim || q.X > float64(k.w)-rim || q.Y > float64(k.h)-rim {
			s.outside++
		}
	}
	for i, name := range [4]string{"upper", "right", "lower", "left"} {
		if seen[i] < edgeSeen {
			s.doubts = append(s.doubts, "The "+name+" edge is not seen well; look whether its corners are right.")
		}
	}
	if o.fills < overEdge || o.solid < wholeSheet && slices.Min(seen[:]) < edgeWhole {
		s.doubts = append(s.doubts, "Something lies over the edge, a hand perhaps, or a corner is missing; look whether the corners are right.")
	}
	least, most := k.proportions(s.quad)
	s.misshapen = max(1, least/(w/h), w/h/most)
	if s.misshapen > 1+rightShape {
		s.doubts = append(s.doubts, fmt.Sprintf("It is about %.2f times as wide as high, this panel %.2f times: is it all of it, and this card's? If it was cut to another size, say so at Format first.", math.Sqrt(least*most), w/h))
	}
	return s
}

// proportions are how many times what a quad in a photo shows is as wide as high, for the
// widest lens a phone has and for the longest. What was taken aslant is foreshortened, and by
// how much a lens tells: Zhang and He, Whiteboard scanning and image enhancement, 2007.
func (k *work) proportions(quad [4]point) (least, most float64) {
	diagonal := math.Hypot(float64(k.w), float64(k.h))
	var m [4][3]float64
	for i, q := range quad {
		m[i] = [3]float64{(q.X - float64(k.w)/2) / diagonal, (q.Y - float64(k.h)/2) / diagonal, 1}
	}
	upperLeft, upperRight, lowerRight, lowerLeft := m[0], m[1], m[2], m[3]
	across := along(upperRight, upperLeft, volume(upperLeft, lowerRight, lowerLeft)/volume(upperRight, lowerRight, lowerLeft))
	down := along(lowerLeft, upperLeft, volume(upperLeft, lowerRight, upperRight)/volume(lowerLeft, lowerRight, upperRight))
	by := func(lens float64) float64 {
		return math.Sqrt((across[0]*across[0] + across[1]*across[1] + lens*lens*across[2]*across[2]) / (down[0]*down[0] + down[1]*down[1] + lens*lens*down[2]*down[2]))
	}
	wide, long := by(wideLens), by(longLens)
	return min(wide, long), max(wide, long)
}

// along is the direction of a side whose end lies so many times farther away than its
// beginning.
func along(end, begin [3]float64, farther float64) (d [3]float64) {
	for i := range d {
		d[i] = farther*end[i] - begin[i]
	}
	return d
}

// volume is that of the box three directions span.
func volume(a, b, c [3]float64) float64 {
	return a[0]*(b[1]*c[2]-b[2]*c[1]) + a[1]*(b[2]*c[0]-b[0]*c[2]) + a[2]*(b[0]*c[1]-b[1]*c[0])
}

// sought is how edges of paper are looked for, pixels.
type sought struct {
	reach   int     // to either side of the first guess
	ink     int     // half of the widest line
	fits    float64 // by which a place may lie off the edge
	lighter bool    // than its table the paper is
}

// lighter reports whether what is just inside of a quad is on the whole lighter than what is
// just outside.
func (k *work) lighter(quad [4]point, perMM float64) bool {
	sum := 0.0
	for i, a := range quad {
		b := quad[(i+1)%4]
		in := inwards(a, b)
		for t := range sideProbes {
			q := between(a, b, (float64(t)+0.5)/sideProbes)
			inside, ok := k.at(moved(q, in, perMM))
			outside, too := k.at(moved(q, in, -perMM))
			if ok && too {
				sum += min(1, max(-1, math.Log((inside[0]+inside[1]+inside[2]+5e-3)/(outside[0]+outside[1]+outside[2]+5e-3))))
			}
		}
	}
	return sum > 0
}

// inwards is the direction to the right of the side from a to b of a quad that goes clockwise,
// y going downwards: where its paper lies.
func inwards(a, b point) point {
	long := math.Hypot(b.X-a.X, b.Y-a.Y)
	return point{X: -(b.Y - a.Y) / long, Y: (b.X - a.X) / long}
}

// edges moves the sides of a quad onto the edges they are near, and tells for each which
// share of its places agrees.
func (k *work) edges(quad [4]point, look sought) (out [4]point, seen [4]float64) {
	var lines [4][2]point
	for i := range 4 {
		lines[i], seen[i] = k.edge(quad[i], quad[(i+1)%4], look)
	}
	for i := range 4 {
		before := lines[(i+3)%4]
		out[i] = quad[i]
		if t, _, ok := crossing(before[0], before[1], lines[i][0], lines[i][1]); ok {
			out[i] = between(before[0], before[1], t)
		}
	}
	return out, seen
}

// edge finds the straight edge near the side from a to b of a quad that goes clockwise: where
// the colour of the table, outside, goes over into that of the paper.
func (k *work) edge(a, b point, look sought) (line [2]point, seen float64) {
	long := math.Hypot(b.X-a.X, b.Y-a.Y)
	in := inwards(a, b)
	var along, off []float64
	for i := range sideProbes {
		t := 0.04 + 0.92*float64(i)/(sideProbes-1)
		if d, ok := k.step(between(a, b, t), in, look); ok {
			along, off = append(along, t*long), append(off, d)
		}
	}
	m, c, agree := lineThrough(along, off, look.fits)
	at := func(t float64) point { return moved(between(a, b, t/long), in, c+m*t) }
	return [2]point{at(0), at(long)}, float64(agree) / sideProbes
}

// step is how far inwards of a place table goes over into paper: where the colour has gone
// half of the way from that outside to that inside.
func (k *work) step(q, in point, look sought) (d float64, ok bool) {
	light, ok := k.across(q, in, look)
	if !ok {
		return 0, false
	}
	// The best parting in two: outside alike, inside alike.
	var before, all [3]float64
	for _, l := range light {
		for j, v := range l {
			all[j] += v
		}
	}
	best, at := math.Inf(1), 0
	total := float64(len(light))
	for i := range light[:len(light)-1] {
		within, grows := 0.0, 0.0
		n0 := float64(i + 1)
		for j, v := range light[i] {
			before[j] += v
			after := all[j] - before[j]
			within -= before[j]*before[j]/n0 + after*after/(total-n0)
			grows += after/(total-n0) - before[j]/n0
		}
		// A shadow beside the panel ends in a step the other way.
		if i >= 1 && i < len(light)-2 && within < best && (grows > 0) == look.lighter {
			best, at = within, i
		}
	}
	if math.IsInf(best, 1) {
		return 0, false
	}
	var outside, inside [3]float64
	for i, l := range light {
		for j, v := range l {
			if i <= at {
				outside[j] += v / float64(at+1)
			} else {
				inside[j] += v / (total - float64(at+1))
			}
		}
	}
	var way [3]float64
	size := 0.0
	for j := range 3 {
		way[j] = inside[j] - outside[j]
		size += way[j] * way[j]
	}
	if size < 0.025 { // less than a sixth
		return 0, false
	}
	share := func(i int) float64 {
		s := 0.0
		for j := range 3 {
			s += (light[i][j] - outside[j]) * way[j]
		}
		return s / size
	}
	for i := max(1, at-2); i < min(len(light), at+4); i++ {
		if p, q := share(i-1), share(i); p < 0.5 && q >= 0.5 {
			return float64(i-1-look.reach) + (0.5-p)/(q-p), true
		}
	}
	return float64(at-look.reach) + 0.5, true
}

// across is the light so many pixels to either side of a place, by the brightest; lines of at
// most 2·ink pixels that are darker than the table are as light as it is.
func (k *work) across(q, in point, look sought) (light [][3]float64, ok bool) {
	light = make([][3]float64, 2*look.reach+1+2*look.ink)
	brightest := 0.0
	for i := range light {
		if light[i], ok = k.at(moved(q, in, float64(i-look.reach))); !ok {
			return nil, false
		}
		brightest = max(brightest, light[i][0], light[i][1], light[i][2])
	}
	row := make([]float64, len(light))
	for j := range 3 {
		for i := range light {
			light[i][j] /= brightest + 5e-3
			row[i] = light[i][j]
		}
		table := slices.Sorted(slices.Values(row[:look.reach]))[look.reach/2]
		for i, v := range closed(row, len(row), 1, look.ink) {
			light[i][j] = max(light[i][j], min(v, table))
		}
	}
	return light[:2*look.reach+1], true
}

// lineThrough fits off = c + m·along to what most places agree on: the line through two of
// them that most are near, then by least squares through those.
func lineThrough(along, off []float64, near float64) (m, c float64, agree int) {
	if len(along) < 8 {
		return 0, 0, 0
	}
	count := func(m, c float64) (n int) {
		for i, t := range along {
			if math.Abs(off[i]-c-m*t) <= near {
				n++
			}
		}
		return n
	}
	for i := 0; i < len(along); i += 3 {
		for j := i + len(along)/3; j < len(along); j += 3 {
			mm := (off[j] - off[i]) / (along[j] - along[i])
			if cc := off[i] - mm*along[i]; math.Abs(mm) < 0.12 {
				if n := count(mm, cc); n > agree {
					m, c, agree = mm, cc, n
				}
			}
		}
	}
	for range 3 {
		var n, st, so, stt, sto float64
		for i, t := range along {
			if math.Abs(off[i]-c-m*t) <= near {
				n, st, so, stt, sto = n+1, st+t, so+off[i], stt+t*t, sto+t*off[i]
			}
		}
		if det := n*stt - st*st; n > 4 && det > 0 {
			m = (n*sto - st*so) / det
			c = (so - m*st) / n
		}
	}
	return m, c, count(m, c)
}
