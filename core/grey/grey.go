// Package grey answers "what is seen where ink meets paper?": pictures in levels of
// grey, as a scan has them, on which ink is laid, cleared, drawn and looked for. All
// lengths are pixels.
package grey

import (
	"image"
	"image/draw"
	"math"
	"slices"

	"golang.org/x/image/vector"

	"chromaqua/core/lineart"
)

// Levels, 0 for black to 255.
const (
	Paper = 240 // of bare paper, as lineart.Flatten leaves it
	Ink   = 150 // below it a pixel counts as ink
	Pen   = 40  // of a pen's stroke
)

// Fill returns the inside of rings on a sheet, cropped to where they lie on it.
func Fill(sheet image.Rectangle, rings [][]lineart.Point, at func(lineart.Point) (x, y float64)) *image.Alpha {
	x0, y0, x1, y1 := math.Inf(1), math.Inf(1), math.Inf(-1), math.Inf(-1)
	for _, ring := range rings {
		for _, p := range ring {
			x, y := at(p)
			x0, y0, x1, y1 = min(x0, x), min(y0, y), max(x1, x), max(y1, y)
		}
	}
	if !(x0 <= x1) {
		return nil
	}
	near := func(v float64) int { return int(max(-1, min(1<<17, v))) }
	box := image.Rect(near(x0), near(y0), near(x1)+1, near(y1)+1).Intersect(sheet)
	if box.Empty() {
		return nil
	}
	r := vector.NewRasterizer(box.Dx(), box.Dy())
	for _, ring := range rings {
		for i, p := range ring {
			x, y := at(p)
			x, y = x-float64(box.Min.X), y-float64(box.Min.Y)
			if i == 0 {
				r.MoveTo(float32(x), float32(y))
			} else {
				r.LineTo(float32(x), float32(y))
			}
		}
		r.ClosePath()
	}
	out := image.NewAlpha(box)
	r.Draw(out, box, image.Opaque, image.Point{})
	return out
}

// Copy returns a picture of its own.
func Copy(src *image.Gray) *image.Gray {
	out := image.NewGray(src.Rect)
	draw.Draw(out, out.Rect, src, src.Rect.Min, draw.Src)
	return out
}

// Cleared is a picture with bare paper where the mask is.
func Cleared(src *image.Gray, mask *image.Alpha) *image.Gray {
	out := Copy(src)
	Clear(out, mask)
	return out
}

// Clear makes bare paper of what the mask covers.
func Clear(m *image.Gray, mask *image.Alpha) {
	for y := mask.Rect.Min.Y; y < mask.Rect.Max.Y; y++ {
		row := m.Pix[m.PixOffset(mask.Rect.Min.X, y):]
		for x, a := range mask.Pix[mask.PixOffset(mask.Rect.Min.X, y):][:mask.Rect.Dx()] {
			if a != 0 {
				row[x] += uint8((Paper - int(min(Paper, row[x]))) * int(a) / 255)
			}
		}
	}
}

// Bounds is the box round all that is darker than a grey, empty where nothing is.
func Bounds(m *image.Gray, than uint8) image.Rectangle {
	box := image.Rectangle{Min: m.Rect.Max, Max: m.Rect.Min}
	for y := m.Rect.Min.Y; y < m.Rect.Max.Y; y++ {
		row := m.Pix[m.PixOffset(m.Rect.Min.X, y):][:m.Rect.Dx()]
		dark := func(v uint8) bool { return v < than }
		first := slices.IndexFunc(row, dark)
		if first < 0 {
			continue
		}
		last := len(row) - 1
		for !dark(row[last]) {
			last--
		}
		box.Min.X, box.Max.X = min(box.Min.X, m.Rect.Min.X+first), max(box.Max.X, m.Rect.Min.X+last+1)
		box.Min.Y, box.Max.Y = min(box.Min.Y, y), y+1
	}
	if box.Empty() {
		return image.Rectangle{}
	}
	return box
}

// Edges draws the edges between dark and light: where both are within r.
func Edges(src *image.Gray, r int) *image.Gray {
	w, h := src.Rect.Dx(), src.Rect.Dy()
	lo, hi := make([]uint8, w*h), make([]uint8, w*h)
	for y := range h {
		row := src.Pix[y*src.Stride:][:w]
		for x := range w {
			a, b := row[x], row[x]
			for _, v := range row[max(0, x-r):min(w, x+r+1)] {
				a, b = min(a, v), max(b, v)
			}
			lo[y*w+x], hi[y*w+x] = a, b
		}
	}
	out := image.NewGray(src.Rect)
	for y := range h {
		for x := range w {
			a, b := uint8(255), uint8(0)
			for j := max(0, y-r); j < min(h, y+r+1); j++ {
				a, b = min(a, lo[j*w+x]), max(b, hi[j*w+x])
			}
			out.Pix[y*out.Stride+x] = Paper - min(Paper, b-a)
		}
	}
	return out
}

// Dark counts the pixels of ink.
func Dark(m *image.Gray, at image.Rectangle) (n int) {
	for y := at.Min.Y; y < at.Max.Y; y++ {
		for _, v := range m.Pix[m.PixOffset(at.Min.X, y):][:at.Dx()] {
			if v < Ink {
				n++
			}
		}
	}
	return n
}

// Darken lays src over dst as ink; tone, when there is one, is how dark it comes.
func Darken(dst, src *image.Gray, at image.Rectangle, tone func(x, y int, v uint8) uint8) {
	for y := at.Min.Y; y < at.Max.Y; y++ {
		d := dst.Pix[dst.PixOffset(at.Min.X, y):][:at.Dx()]
		for x, v := range src.Pix[src.PixOffset(at.Min.X, y):][:at.Dx()] {
			if tone != nil {
				v = tone(at.Min.X+x, y, v)
			}
			d[x] = min(d[x], v)
		}
	}
}

// At is the level of a picture at a place, pixels; off the picture is bare
// paper.
func At(m *image.Gray, u, v float64) uint8 {
	u, v = u-0.5, v-0.5
	x, y := int(math.Floor(u)), int(math.Floor(v))
	at := func(x, y int) float64 {
		if x < 0 || y < 0 || x >= m.Rect.Dx() || y >= m.Rect.Dy() {
			return Paper
		}
		return float64(m.Pix[y*m.Stride+x])
	}
	fx, fy := u-float64(x), v-float64(y)
	top := at(x, y) + fx*(at(x+1, y)-at(x, y))
	low := at(x, y+1) + fx*(at(x+1, y+1)-at(x, y+1))
	return uint8(top + fy*(low-top) + 0.5)
}

// Shrink averages k × k blocks.
func Shrink(m *image.Gray, k int) *image.Gray {
	if k <= 1 {
		return m
	}
	out := image.NewGray(image.Rect(0, 0, m.Rect.Dx()/k, m.Rect.Dy()/k))
	for y := range out.Rect.Dy() {
		for x := range out.Rect.Dx() {
			sum := 0
			for j := range k {
				for _, v := range m.Pix[(y*k+j)*m.Stride+x*k:][:k] {
					sum += int(v)
				}
			}
			out.Pix[y*out.Stride+x] = uint8(sum / (k * k))
		}
	}
	return out
}

// Stroke draws a line with round ends of radius r, all in pixels.
func Stroke(sheet *image.Gray, x0, y0, x1, y1, r float64) {
	box := image.Rect(int(min(x0, x1)-r)-1, int(min(y0, y1)-r)-1, int(max(x0, x1)+r)+2, int(max(y0, y1)+r)+2).Intersect(sheet.Rect)
	dx, dy := x1-x0, y1-y0
	long2 := dx*dx + dy*dy
	for y := box.Min.Y; y < box.Max.Y; y++ {
		for x := box.Min.X; x < box.Max.X; x++ {
			px, py := float64(x)+0.5-x0, float64(y)+0.5-y0
			t := 0.0
			if long2 > 0 {
				t = min(1, max(0, (px*dx+py*dy)/long2))
			}
			cover := r + 0.5 - math.Hypot(px-t*dx, py-t*dy)
			if cover <= 0 {
				continue
			}
			i := sheet.PixOffset(x, y)
			old := float64(sheet.Pix[i])
			sheet.Pix[i] = uint8(old + min(1, cover)*(min(old, Pen)-old))
		}
	}
}

// Covered counts the pixels of ink that a mask covers.
func Covered(mask *image.Alpha, on *image.Gray) (n int) {
	at := mask.Rect.Intersect(on.Rect)
	for y := at.Min.Y; y < at.Max.Y; y++ {
		row := on.Pix[on.PixOffset(at.Min.X, y):]
		for x, a := range mask.Pix[mask.PixOffset(at.Min.X, y):][:at.Dx()] {
			if a > 127 && row[x] < Ink {
				n++
			}
		}
	}
	return n
}
