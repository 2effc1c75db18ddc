package photo

import (
	"context"
	"image"
	"math"
	"slices"

	"chromaqua/core/lineart"
	"chromaqua/core/parallel"
	"chromaqua/core/proof"
)

// What makes a flat panel doubtful.
const (
	coarse   = 5.5  // pixels a millimetre, below which thin lines break
	shaded   = 0.78 // the level of the darkest paper by that of the brightest
	soft     = 1.5  // of paper white a millimetre: the steepest edges of ink, below which they are blurred
	leastInk = 0.0015
)

// Flat is a panel of a photo as a flat scan would have it.
type Flat struct {
	Grey   *image.Gray
	DPI    float64
	Unsure []string
}

// Resolutions that panels are flattened to, as the photo has it.
const (
	leastDPI = 150
	mostDPI  = 400
)

// Flatten squares a panel of w × h mm that lies between four corners of a photo, clockwise
// from its upper left, and evens its light by its paper: a shadow goes, the line stays.
func Flatten(ctx context.Context, m image.Image, corners [4]lineart.Point, w, h float64) (*Flat, error) {
	b := m.Bounds()
	if !sound(corners, b) {
		return nil, ErrCorners
	}
	perMM := math.Sqrt(polygonArea(corners[:]) / (w * h))
	dpi := math.Round(min(mostDPI, max(leastDPI, perMM*25.4)))
	to, err := proof.Project([]point{{}, {X: w}, {X: w, Y: h}, {Y: h}}, corners[:], nil)
	if err != nil {
		return nil, ErrCorners
	}
	f := &Flat{Grey: image.NewGray(image.Rect(0, 0, int(math.Round(w/25.4*dpi)), int(math.Round(h/25.4*dpi)))), DPI: dpi}
	at := pixelsOf(m)
	light := func(x, y int) float64 {
		x, y = min(max(x, 0), b.Dx()-1), min(max(y, 0), b.Dy()-1)
		c := at(b.Min.X+x, b.Min.Y+y)
		return 0.299*float64(c[0]) + 0.587*float64(c[1]) + 0.114*float64(c[2])
	}
	fw, fh := f.Grey.Rect.Dx(), f.Grey.Rect.Dy()
	parallel.Rows(fh, func(y0, y1 int) {
		for y := y0; y < y1 && ctx.Err() == nil; y++ {
			for x := range fw {
				q := to.Apply(point{X: (float64(x) + 0.5) / dpi * 25.4, Y: (float64(y) + 0.5) / dpi * 25.4})
				px, py := q.X-0.5, q.Y-0.5
				ix, iy := int(math.Floor(px)), int(math.Floor(py))
				fx, fy := px-float64(ix), py-float64(iy)
				v := (light(ix, iy)*(1-fx)+light(ix+1, iy)*fx)*(1-fy) + (light(ix, iy+1)*(1-fx)+light(ix+1, iy+1)*fx)*fy
				f.Grey.Pix[y*f.Grey.Stride+x] = uint8(v + 0.5)
			}
		}
	})
	if err := ctx.Err(); err != nil {
		return nil, err
	}
	if perMM < coarse {
		f.Unsure = append(f.Unsure, "The photo is coarse: thin lines may break. Take it closer, so that the panel fills it.")
	}
	f.even()
	return f, nil
}

// sound reports whether corners lie in a photo and go round something.
func sound(q [4]lineart.Point, b image.Rectangle) bool {
	for i := range q {
		if !(q[i].X >= 0 && q[i].Y >= 0 && q[i].X <= float64(b.Dx()) && q[i].Y <= float64(b.Dy())) {
			return false
		}
		u, v := q[(i+1)%4], q[(i+2)%4]
		if (u.X-q[i].X)*(v.Y-u.Y)-(u.Y-q[i].Y)*(v.X-u.X) <= 0 { // convex, clockwise
			return false
		}
	}
	return polygonArea(q[:]) >= 0.01*float64(b.Dx()*b.Dy())
}

// paperMM is the width of the places at which the paper's light is told, and paperAt the share
// of a place's levels that lie below its paper.
const (
	paperMM = 3.0
	paperAt = 0.8
	white   = 246 // level that paper is brought to
	inkAt   = 190 // level below which it is inked
)

// even brings the paper to white, place by place, and tells what is doubtful of the picture.
func (f *Flat) even() {
	w, h := f.Grey.Rect.Dx(), f.Grey.Rect.Dy()
	wide := max(4, int(paperMM/25.4*f.DPI))
	nx, ny := (w+wide-1)/wide, (h+wide-1)/wide
	paper := make([]uint8, nx*ny)
	for by := range ny {
		for bx := range nx {
			var hist [256]int
			n := 0
			for y := by * wide; y < min(h, (by+1)*wide); y++ {
				for _, v := range f.Grey.Pix[y*f.Grey.Stride+bx*wide : y*f.Grey.Stride+min(w, (bx+1)*wide)] {
					hist[v]++
					n++
				}
			}
			below, v := 0, 0
			for ; v < 255 && below+hist[v] < int(paperAt*float64(n)); v++ {
				below += hist[v]
			}
			paper[by*nx+bx] = uint8(v)
		}
	}
	// Places that are all ink take the paper's light from beside them.
	paper = closed(paper, nx, ny, 2)
	sorted := slices.Sorted(slices.Values(paper))
	bright := float64(sorted[len(sorted)*95/100])
	for i := range paper {
		paper[i] = uint8(max(float64(paper[i]), 0.3*bright, 8))
	}
	if dark := float64(sorted[len(sorted)*5/100]); dark < shaded*bright {
		f.Unsure = append(f.Unsure, "A shadow lies on it; look whether the line is whole there.")
	}
	lit := func(x, y int) float64 {
		px, py := float64(x)/float64(wide)-0.5, float64(y)/float64(wide)-0.5
		ix, iy := int(math.Floor(px)), int(math.Floor(py))
		fx, fy := px-float64(ix), py-float64(iy)
		at := func(x, y int) float64 { return float64(paper[min(max(y, 0), ny-1)*nx+min(max(x, 0), nx-1)]) }
		return (at(ix, iy)*(1-fx)+at(ix+1, iy)*fx)*(1-fy) + (at(ix, iy+1)*(1-fx)+at(ix+1, iy+1)*fx)*fy
	}
	parallel.Rows(h, func(y0, y1 int) {
		for y := y0; y < y1; y++ {
			row := f.Grey.Pix[y*f.Grey.Stride : y*f.Grey.Stride+w]
			for x, v := range row {
				row[x] = uint8(min(255, white*float64(v)/lit(x, y)))
			}
		}
	})
	f.trim()
	f.doubt()
}

// Slivers of the table: how far in they reach, how far along the edge they run, and what is
// too thin to be anything else, mm.
const (
	rimMM    = 1.2
	sliverMM = 4.0
	hairMM   = 0.25
)

// trim clears slivers of the table along the edges: what is dark from the edge on, ends within
// the rim, and runs along the edge. A line that runs off the panel does not; or, where it runs
// off at an angle, it goes on inwards.
func (f *Flat) trim() {
	w, h, stride := f.Grey.Rect.Dx(), f.Grey.Rect.Dy(), f.Grey.Stride
	px := func(mm float64) int { return int(math.Ceil(mm / 25.4 * f.DPI)) }
	rim, long, hair := px(rimMM), px(sliverMM), px(hairMM)
	if min(w, h) <= 2*rim {
		return
	}
	side := func(first, along, in, n int) {
		dark := func(i, d int) bool { return f.Grey.Pix[first+i*along+d*in] < inkAt }
		deep := make([]int, n+1) // and one more, which ends the last run
		for i := range n {
			for deep[i] <= rim && dark(i, deep[i]) {
				deep[i]++
			}
		}
		inwards := func(start, end int) bool {
			return start > 0 && dark(start-1, deep[start]-1) || end < n && dark(end, deep[end-1]-1)
		}
		start := 0
		for i, d := range deep {
			if d > 0 {
				continue
			}
			if run := slices.Sorted(slices.Values(deep[start:i])); len(run) > 0 && !inwards(start, i) {
				usual := run[len(run)/2] + hair // deeper is where a line runs off
				if i-start < long {
					usual = hair
				}
				for k := start; k < i; k++ {
					for m := 0; m < deep[k] && deep[k] <= min(rim, usual); m++ {
						f.Grey.Pix[first+k*along+m*in] = white
					}
				}
			}
			start = i + 1
		}
	}
	side(0, stride, 1, h)
	side(w-1, stride, -1, h)
	side(0, 1, stride, w)
	side((h-1)*stride, 1, -stride, w)
}

// doubt tells whether the ink is sharp, and whether there is any.
func (f *Flat) doubt() {
	w, h := f.Grey.Rect.Dx(), f.Grey.Rect.Dy()
	rim := int(2 / 25.4 * f.DPI) // the panel's own edge is none of ink
	ink, n := 0, 0
	var steps [512]int
	for y := rim; y < h-rim; y++ {
		row := f.Grey.Pix[y*f.Grey.Stride : y*f.Grey.Stride+w]
		for x := rim; x < w-rim; x++ {
			n++
			if row[x] < inkAt {
				ink++
				d := max(int(row[x+1])-int(row[x-1]), int(row[x-1])-int(row[x+1]))
				steps[d]++
			}
		}
	}
	if n == 0 || float64(ink) < leastInk*float64(n) {
		f.Unsure = append(f.Unsure, "Hardly any ink is seen: is it stamped, dark enough, and in focus?")
		return
	}
	// of the places of ink a tenth are at its steepest edges
	left, d := ink/10, 511
	for ; d > 0 && left > steps[d]; d-- {
		left -= steps[d]
	}
	if steep := float64(d) / white / 2 * f.DPI / 25.4; steep < soft {
		f.Unsure = append(f.Unsure, "It is blurred: hold the phone still, and touch the panel on its screen to focus.")
	}
}
