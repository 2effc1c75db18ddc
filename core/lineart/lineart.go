// Package lineart answers "which cells does this line image have, and which
// touch?" for a scan of a stamped, printed or drawn line.
//
// Input is a grey raster and its resolution in pixels per inch; every
// threshold is in millimetres, so resolutions behave alike. Output is a label
// map (0 line, 1…N cells) with the cells, their neighbours across the line and
// the leaks: passages through broken lines that were closed.
//
// The stages, in order: flatten the light (flatten.go), tell ink from paper
// (ink.go), sort the white near ink by its distance (rings.go), find the middles
// of what is farther off (peaks.go), flood the white downhill by that distance
// (flood.go), judge the passages where two basins meet (passage.go, evidence.go,
// forest.go), tidy and measure (cells.go, neighbours.go), and trace outlines
// (outline.go).
package lineart

import (
	"context"
	"errors"
	"fmt"
	"image"
	"math"

	"golang.org/x/image/draw"
)

// Limits on the input of [Find].
const (
	// MinSidePX is the least width and height of a scan, in pixels.
	MinSidePX = 16
	// MaxPixels bounds the memory [Find] takes: about 18 bytes a pixel of the
	// working copy, so 0.7 GB at the limit.
	MaxPixels = 40_000_000
	// MinDPI and MaxDPI bound the resolution.
	MinDPI, MaxDPI = 30, 4800
	// MaxCells is the largest number of cells a label map can hold.
	MaxCells = 60_000
)

// workDPI is the resolution the thresholds were tuned at. Finer scans are
// reduced towards it by a whole factor, coarser ones enlarged: the line is
// found as well, and four times faster than at 600 dpi.
const workDPI = 300

// Errors that mean the picture is not a usable line image.
var (
	ErrTooSmall   = errors.New("the picture is smaller than 16 × 16 pixels; scan it again at 300 dpi or more")
	ErrTooLarge   = fmt.Errorf("the picture has more than %d million pixels; scan it again at 600 dpi or less", MaxPixels/1_000_000)
	ErrBlank      = errors.New("no line was found: the page looks blank; check that the right side was scanned and that the line is dark enough")
	ErrNotLineArt = errors.New("this looks like a photograph or a painting, not a line image: too much of it is neither line nor paper; use a scan of the bare line")
)

// Point is a place in millimetres from the top left corner of the image.
type Point struct {
	X float64 `json:"x_mm"`
	Y float64 `json:"y_mm"`
}

// A Cell is one closed white region of the drawing.
type Cell struct {
	ID          int     `json:"id"`           // its value in the label map, from 1
	AreaMM2     float64 `json:"area_mm2"`     // white area
	Label       Point   `json:"label"`        // centre of the largest inscribed circle
	InscribedMM float64 `json:"inscribed_mm"` // radius of that circle
	NarrowestMM float64 `json:"narrowest_mm"` // width of its narrowest passage
	Outside     bool    `json:"outside"`      // it reaches the edge of the image
}

// A Neighbour is a pair of cells that touch across a line.
type Neighbour struct {
	A        int     `json:"a"`
	B        int     `json:"b"`
	BorderMM float64 `json:"border_mm"`      // length of the common border
	LineMin  float64 `json:"line_min_mm"`    // thinnest place of the line between them, mm
	LineMed  float64 `json:"line_median_mm"` // its median thickness, mm
}

// A Leak is a gap in the line that was closed: colour would run through it.
type Leak struct {
	X       float64 `json:"x_mm"`
	Y       float64 `json:"y_mm"`
	WidthMM float64 `json:"width_mm"`
	Stubs   int     `json:"stubs"` // how many of its banks are broken line ends, 0 to 2
	A       int     `json:"a"`
	B       int     `json:"b"`

	Banks [2]Point `json:"-"` // the ink on either side: where a pen would close it
}

// A Drawing is what [Find] found.
type Drawing struct {
	W, H       int     // pixels
	DPI        float64 // pixels per inch
	Labels     []uint16
	Cells      []Cell // Cells[i].ID == i+1, largest first
	Neighbours []Neighbour
	Leaks      []Leak
	work       *working
}

// At returns the label of the pixel at p, 0 on a line or outside.
func (d *Drawing) At(p Point) int {
	x, y := int(p.X*d.DPI/25.4), int(p.Y*d.DPI/25.4)
	if p.X < 0 || p.Y < 0 || x >= d.W || y >= d.H {
		return 0
	}
	return int(d.Labels[y*d.W+x])
}

// Progress is told the stage that begins and the share of the work done, 0 to 1.
type Progress func(stage string, done float64)

// Corrections are what the maker knows better than the picture shows.
type Corrections struct {
	Joined   [][2]Point // the cells that the two points lie in are one; points on a line are passed over
	LeastMM2 float64    // smaller cells are specks, and count as line
}

// Find returns the cells of the line image img scanned at dpi pixels per inch.
// It stops early with ctx's error; progress may be nil. It runs in time linear
// in the number of pixels.
func Find(ctx context.Context, img *image.Gray, dpi float64, progress Progress) (*Drawing, error) {
	return FindCorrected(ctx, img, dpi, Corrections{}, progress)
}

// FindCorrected is [Find] with the maker's corrections.
func FindCorrected(ctx context.Context, img *image.Gray, dpi float64, by Corrections, progress Progress) (*Drawing, error) {
	if err := checkInput(img.Bounds().Dx(), img.Bounds().Dy(), dpi); err != nil {
		return nil, err
	}
	if progress == nil {
		progress = func(string, float64) {}
	}
	w := &working{progress: progress, ctx: ctx, by: by}
	if err := w.run(img, dpi); err != nil {
		return nil, err
	}
	d := &Drawing{
		W: img.Bounds().Dx(), H: img.Bounds().Dy(), DPI: dpi,
		Cells: w.cells, Leaks: w.leaks, Neighbours: w.neighbours,
	}
	d.Labels = w.labelsAt(d.W, d.H)
	if w.reduced > 1 {
		w.refine(d.Labels, img)
	}
	// Outlines need the labels only; the rest is ten times as much memory.
	d.work = &working{w: w.w, h: w.h, mm: w.mm, ink: w.ink, label: w.label, cells: w.cells}
	progress("done", 1)
	return d, nil
}

func checkInput(w, h int, dpi float64) error {
	switch {
	case w < MinSidePX || h < MinSidePX:
		return ErrTooSmall
	case w > MaxPixels/h:
		return ErrTooLarge
	case math.IsNaN(dpi) || dpi < MinDPI || dpi > MaxDPI:
		return fmt.Errorf("%g dpi is outside %d to %d; check how wide the image is said to be", dpi, MinDPI, MaxDPI)
	}
	return nil
}

// working holds the intermediate maps of one run at the working resolution.
type working struct {
	ctx      context.Context
	progress Progress
	by       Corrections

	w, h int
	mm   float64 // millimetres per pixel

	reduced int // by what the picture was reduced, if more than 1

	grey     []uint8 // at first perhaps the picture itself, which is not to be changed
	plain    []uint8 // as it was reduced, where it was
	raw      []uint8 // even, and not smoothed
	contrast float64 // between paper and line, grey levels
	edge     uint8   // grey level below which there is ink
	ink      bitmap
	line     float64 // typical line thickness, mm
	label    []uint16

	touching   [][2]vertex // pixels side by side that belong to different basins
	cells      []Cell
	leaks      []Leak
	neighbours []Neighbour
}

// fill finds the cells.
func (w *working) fill() error {
	f, err := w.flood()
	if err != nil {
		return err
	}
	return f.collect()
}

func (w *working) run(img *image.Gray, dpi float64) error {
	w.load(img, dpi)
	stages := []struct {
		name string
		f    func() error
	}{
		{"evening out the light", w.flatten},
		{"telling line from paper", w.findInk},
		{"filling the cells", w.fill},
		{"finding neighbours", w.findNeighbours},
	}
	for i, s := range stages {
		if err := w.ctx.Err(); err != nil {
			return err
		}
		w.progress(s.name, float64(i)/float64(len(stages)))
		if err := s.f(); err != nil {
			return err
		}
	}
	return nil
}

// load takes img, reduced or enlarged by a whole factor towards workDPI.
func (w *working) load(img *image.Gray, dpi float64) {
	b := img.Bounds()
	w.w, w.h, w.mm = b.Dx(), b.Dy(), 25.4/dpi
	switch k := int(math.Round(dpi / workDPI)); {
	case k > 1: // always, be the picture ever so small: rings are 16 pixels wide at most
		w.grey, w.w, w.h = reduce(img, k)
		w.plain, w.reduced = w.grey, k
		w.mm *= float64(k)
	case dpi < workDPI/1.5 && w.w*w.h <= MaxPixels/9:
		k = min(3, int(math.Round(workDPI/dpi)))
		big := image.NewGray(image.Rect(0, 0, w.w*k, w.h*k))
		draw.CatmullRom.Scale(big, big.Rect, img, b, draw.Src, nil)
		w.grey, w.w, w.h = big.Pix, w.w*k, w.h*k
		w.mm /= float64(k)
	default:
		w.grey = tight(img)
	}
}

// tight returns the pixels of img row by row, without a gap; those of img itself
// where it has none.
func tight(img *image.Gray) []uint8 {
	w, h := img.Bounds().Dx(), img.Bounds().Dy()
	if img.Stride == w {
		return img.Pix[:w*h]
	}
	pix := make([]uint8, w*h)
	for y := range h {
		copy(pix[y*w:(y+1)*w], img.Pix[y*img.Stride:])
	}
	return pix
}

// reduce averages k × k blocks; a ragged last row or column is dropped into
// its neighbour.
func reduce(img *image.Gray, k int) (pix []uint8, nw, nh int) {
	b := img.Bounds()
	nw, nh = b.Dx()/k, b.Dy()/k
	pix = make([]uint8, nw*nh)
	parallelRows(nh, func(y0, y1 int) {
		sum := make([]int32, nw)
		for y := y0; y < y1; y++ {
			clear(sum)
			for j := range k {
				row := img.Pix[(y*k+j)*img.Stride:]
				for x := range nw {
					for _, v := range row[x*k : x*k+k] {
						sum[x] += int32(v)
					}
				}
			}
			for x, s := range sum {
				pix[y*nw+x] = uint8((s + int32(k*k/2)) / int32(k*k))
			}
		}
	})
	return pix, nw, nh
}

// labelsAt maps the working labels back to an image of W × H pixels.
func (w *working) labelsAt(width, height int) []uint16 {
	switch {
	case w.reduced > 1:
		return w.labelsInBlocks(width, height)
	case width == w.w && height == w.h:
		return w.label
	}
	k := w.w / width // it was enlarged
	out := make([]uint16, width*height)
	parallelRows(height, func(y0, y1 int) {
		for y := y0; y < y1; y++ {
			src := w.label[(y*k+k/2)*w.w:]
			for x := range width {
				out[y*width+x] = src[x*k+k/2]
			}
		}
	})
	return out
}

// labelsInBlocks gives each pixel of the picture the label of the block it was
// reduced to. Corners of line that stick out between three blocks of cell are
// cut off, as bilinear enlarging would, so that edges that slant are no stairs.
func (w *working) labelsInBlocks(width, height int) []uint16 {
	k := w.reduced
	corner := cutCorner(k)
	out := make([]uint16, width*height)
	parallelRows(w.h, func(y0, y1 int) {
		for sy := y0; sy < y1; sy++ {
			top, bottom := sy*k, sy*k+k
			if sy == w.h-1 {
				bottom = height
			}
			row := out[top*width : (top+1)*width]
			for sx, l := range w.label[sy*w.w : (sy+1)*w.w] {
				fill(row[sx*k:sx*k+k], l)
			}
			fill(row[w.w*k:], row[w.w*k-1])
			for y := top + 1; y < bottom; y++ {
				copy(out[y*width:(y+1)*width], row)
			}
			for sx, l := range w.label[sy*w.w : (sy+1)*w.w] {
				if l != 0 {
					continue
				}
				for _, to := range [4]step{{-1, -1}, {1, -1}, {-1, 1}, {1, 1}} {
					l := w.inCell(sx+to.dx, sy).cell
					if l == 0 || w.inCell(sx, sy+to.dy).cell == 0 || w.inCell(sx+to.dx, sy+to.dy).cell == 0 {
						continue
					}
					for _, c := range corner {
						x, y := sx*k+c.dx, top+c.dy
						if to.dx > 0 {
							x = sx*k + k - 1 - c.dx
						}
						if to.dy > 0 {
							y = top + k - 1 - c.dy
						}
						out[y*width+x] = l
					}
				}
			}
		}
	})
	return out
}

// cutCorner lists the pixels of a block of k × k whose own block has less than
// three fifths of the weight when it is enlarged bilinearly, in its upper left
// quarter.
func cutCorner(k int) (corner []step) {
	own := func(i int) float64 { return 0.5 + (float64(i)+0.5)/float64(k) }
	for dy := range k / 2 {
		for dx := range k / 2 {
			if own(dx)*own(dy) < 0.6 {
				corner = append(corner, step{dx, dy})
			}
		}
	}
	return corner
}
