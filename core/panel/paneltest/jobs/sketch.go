// Package jobs builds cards of real work for tests: several pieces, inks, zones, and
// things laid over one another. They are made by code, with drawings of their own.
package jobs

import (
	"bytes"
	"crypto/sha256"
	"encoding/hex"
	"image"
	"image/png"
	"math"

	"chromaqua/core/card"
	"chromaqua/core/grey"
	"chromaqua/core/length"
)

const (
	dpi     = 300
	pxPerMM = dpi / 25.4
	lineMM  = 0.5
)

// A Sketch is a line drawing of w × h mm.
type Sketch struct {
	Name string
	w, h float64
	pix  *image.Gray
}

func sketch(name string, w, h float64) *Sketch {
	m := image.NewGray(image.Rect(0, 0, int(w*pxPerMM), int(h*pxPerMM)))
	for i := range m.Pix {
		m.Pix[i] = grey.Paper
	}
	return &Sketch{name, w, h, m}
}

// line draws through points, x and y in turn, mm.
func (s *Sketch) line(at ...float64) *Sketch {
	for i := 2; i+1 < len(at); i += 2 {
		grey.Stroke(s.pix, at[i-2]*pxPerMM, at[i-1]*pxPerMM, at[i]*pxPerMM, at[i+1]*pxPerMM, lineMM/2*pxPerMM)
	}
	return s
}

// closed draws through points and back to the first.
func (s *Sketch) closed(at ...float64) *Sketch { return s.line(append(at, at[0], at[1])...) }

// oval draws an ellipse round a middle.
func (s *Sketch) oval(x, y, rx, ry float64) *Sketch {
	var at []float64
	for i := range 48 {
		sin, cos := math.Sincos(2 * math.Pi * float64(i) / 48)
		at = append(at, x+rx*cos, y+ry*sin)
	}
	return s.closed(at...)
}

// filled fills an ellipse with ink.
func (s *Sketch) filled(x, y, rx, ry float64) *Sketch {
	for py := int((y - ry) * pxPerMM); py < int((y+ry)*pxPerMM); py++ {
		for px := int((x - rx) * pxPerMM); px < int((x+rx)*pxPerMM); px++ {
			dx, dy := (float64(px)/pxPerMM-x)/rx, (float64(py)/pxPerMM-y)/ry
			if dx*dx+dy*dy <= 1 && (image.Point{X: px, Y: py}).In(s.pix.Rect) {
				s.pix.SetGray(px, py, grey0)
			}
		}
	}
	return s
}

// file is the drawing as a picture file, and as a card speaks of it.
func (s *Sketch) file() ([]byte, card.Scan) {
	var b bytes.Buffer
	if err := png.Encode(&b, s.pix); err != nil {
		panic("jobs: " + err.Error()) // memory does not fail
	}
	sum := sha256.Sum256(b.Bytes())
	return b.Bytes(), card.Scan{
		Image: hex.EncodeToString(sum[:]), Title: s.Name,
		WidthPX: s.pix.Rect.Dx(), HeightPX: s.pix.Rect.Dy(), Width: length.FromMM(float64(s.pix.Rect.Dx()) / pxPerMM),
	}
}

func boat() *Sketch {
	return sketch("Boat", 30, 26).closed(3, 16, 27, 16, 23, 23, 7, 23).closed(14, 14, 14, 2, 25, 14)
}

func float() *Sketch { return sketch("Float", 14, 16).oval(7, 9, 5, 5).line(2.2, 9, 11.8, 9) }

func diver() *Sketch {
	return sketch("Diver", 44, 56).oval(22, 14, 11, 11).oval(22, 14, 7, 6).closed(10, 25, 34, 25, 38, 52, 6, 52).line(22, 25, 22, 52)
}

func otter() *Sketch {
	return sketch("Otter", 50, 30).oval(30, 17, 16, 10).oval(11, 11, 7, 7).oval(9, 10, 1.5, 1.5)
}

func reeds() *Sketch {
	s := sketch("Reeds", 30, 60)
	for i := range 4 {
		x := 4 + 7*float64(i)
		s.closed(x, 58, x-1.5, 30, x, 3, x+1.5, 30)
	}
	return s
}

func bubbles() *Sketch {
	return sketch("Bubbles", 60, 40).oval(10, 10, 6, 6).oval(30, 24, 8, 8).oval(50, 12, 7, 7)
}

func star() *Sketch {
	var at []float64
	for i := range 10 {
		r := 9.0
		if i%2 == 1 {
			r = 4
		}
		sin, cos := math.Sincos(math.Pi*float64(i)/5 - math.Pi/2)
		at = append(at, 10+r*cos, 10+r*sin)
	}
	return sketch("Star", 20, 20).closed(at...)
}

func lantern() *Sketch {
	return sketch("Lantern", 22, 44).closed(5, 12, 17, 12, 20, 36, 2, 36).line(3.8, 20, 18.2, 20).line(2.6, 30, 19.4, 30).closed(7, 12, 9, 5, 13, 5, 15, 12)
}

func puffin() *Sketch {
	return sketch("Puffin", 40, 50).oval(20, 30, 14, 18).oval(20, 30, 8, 13).oval(20, 9, 7, 7).closed(27, 8, 37, 10, 27, 12)
}

func jars() *Sketch {
	s := sketch("Jars", 40, 70)
	for i := range 3 {
		y := 3 + 22*float64(i)
		s.closed(8, y, 32, y, 35, y+18, 5, y+18).line(7, y+6, 33, y+6)
	}
	return s
}

func coral() *Sketch {
	return sketch("Coral", 60, 70).closed(26, 68, 22, 40, 6, 24, 12, 6, 20, 22, 28, 34, 30, 4, 38, 4, 36, 32, 46, 20, 54, 8, 58, 20, 40, 44, 36, 68)
}

func ray() *Sketch {
	return sketch("Ray", 46, 40).closed(23, 3, 43, 18, 25, 28, 25, 38, 21, 38, 21, 28, 3, 18).oval(18, 14, 2, 2).oval(28, 14, 2, 2)
}

func scallops() *Sketch {
	s := sketch("Scallops", 70, 90)
	for i := range 3 {
		for k := range 4 {
			s.oval(14+21*float64(i), 13+21*float64(k), 9, 9)
		}
	}
	return s
}

func harbour() *Sketch {
	return sketch("Harbour", 80, 34).filled(20, 26, 14, 7).filled(46, 22, 12, 11).filled(66, 27, 11, 6)
}

func words() *Sketch {
	s := sketch("Words", 50, 9)
	for i := range 8 {
		s.oval(4+6*float64(i), 4.5, 2, 3)
	}
	return s
}

// urchinAt are points in the cells of an urchin.
var urchinAt = []float64{22, 22, 22, 8, 22, 36, 8, 22, 36, 22}

func urchin() *Sketch {
	return sketch("Urchin", 44, 44).oval(22, 22, 20, 20).oval(22, 22, 8, 8).line(7.9, 7.9, 16.4, 16.4).line(36.1, 7.9, 27.6, 16.4).line(7.9, 36.1, 16.4, 27.6).line(36.1, 36.1, 27.6, 27.6)
}

func boathouse() *Sketch {
	return sketch("Boathouse", 60, 52).closed(8, 20, 52, 20, 52, 40, 8, 40).closed(4, 20, 30, 4, 56, 20).line(6, 43, 54, 43)
}

func masts() *Sketch {
	return sketch("Masts", 30, 40).closed(6, 38, 6, 6, 14, 30).closed(22, 38, 22, 14, 28, 32)
}

// weedX is the middle of a blade of weed, mm.
func weedX(k int) float64 { return 20 + 34*float64(k) }

func weeds() *Sketch {
	s := sketch("Weeds", 104, 134)
	for k := range 3 {
		for i := range 3 {
			x, y := weedX(k), 15+40*float64(i)
			s.closed(x, y-13, x+9, y-2, x+6, y+13, x-6, y+13, x-9, y-2)
		}
	}
	return s
}

func seahorse() *Sketch {
	s := sketch("Seahorse", 72, 122).oval(36, 20, 13, 12)
	for i := range 4 {
		s.oval(36, 40+16*float64(i), 15-2*float64(i), 8)
	}
	return s.oval(36, 20, 3, 3)
}

// anemoneAt are points in its arms.
func anemoneAt() (at []float64) {
	for i := range 6 {
		sin, cos := math.Sincos(math.Pi * float64(i) / 3)
		at = append(at, 28+17*cos, 30+17*sin)
	}
	return at
}

func anemone() *Sketch {
	s := sketch("Anemone", 56, 60).oval(28, 30, 9, 9)
	for i := range 6 {
		sin, cos := math.Sincos(math.Pi * float64(i) / 3)
		s.oval(28+17*cos, 30+17*sin, 7.4, 7.4)
	}
	return s
}
