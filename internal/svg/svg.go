// Package svg answers "what line does this drawing hold?": it draws the shapes of an SVG
// file in grey on white paper. The work is bounded by what is really done, not by how
// many elements there are, and stops when nobody waits for it any more.
package svg

import (
	"bytes"
	"context"
	"encoding/xml"
	"errors"
	"fmt"
	"image"
	"io"
	"math"
	"strconv"
	"strings"

	"chromaqua/core/length"
)

// Limits of a drawing; whatever exceeds them is no line art.
const (
	MaxBytes    = 8 << 20
	maxElements = 20_000 // with those that are used again
	maxDepth    = 64
	maxNumber   = 1e6 // of a coordinate
	dpi         = 300
	longest     = 4200 // pixels of the longer side, 14 in at 300 dpi
	sizeless    = 2400 // of one that says no real size
)

// A Drawing is an SVG drawing as it was drawn.
type Drawing struct {
	*image.Gray
	Width length.Length // real, 0 when it does not say
}

var (
	errDamaged  = errors.New("the SVG is damaged or cut short; save it again")
	errEntities = errors.New("the SVG declares entities, which are not read; save it as plain SVG")
	errMuch     = fmt.Errorf("the SVG has more than %d shapes, or nests them deeper than %d; simplify it", maxElements, maxDepth)
	errFar      = errors.New("a shape of the SVG reaches far outside the drawing; crop it and save it again")
	errSize     = errors.New("the SVG has no usable size; give it a viewBox, or a width and a height")
	errOutside  = errors.New("the SVG refers to something outside it; save it as plain SVG")
)

// Is reports whether data looks like an SVG.
func Is(data []byte) bool {
	head := bytes.TrimLeft(bytes.TrimPrefix(data, []byte("\ufeff")), " \t\r\n")
	return bytes.HasPrefix(head, []byte("<")) && bytes.Contains(head[:min(len(head), 4096)], []byte("<svg"))
}

// Draw draws the shapes of an SVG in black on white paper, at 300 dpi where it says how
// large it really is. Scripts are left out; pictures and text, which would be missing
// from the line, are refused. It ends early with ctx's error.
func Draw(ctx context.Context, data []byte) (*Drawing, error) {
	if len(data) > MaxBytes {
		return nil, fmt.Errorf("the SVG is larger than %d MB; simplify it", MaxBytes>>20)
	}
	root, err := parse(data)
	if err != nil {
		return nil, err
	}
	box, err := boxOf(root)
	if err != nil {
		return nil, err
	}
	real := realSize(root.attrs["width"])
	long := float64(sizeless)
	if real > 0 {
		long = min(longest, real.MM()/25.4*dpi*max(1, box.h/box.w))
	}
	k := long / max(box.w, box.h)
	w, h := int(math.Round(box.w*k)), int(math.Round(box.h*k))
	if w == 0 || h == 0 {
		return nil, errSize
	}
	p := newPainter(ctx, root, w, h, box)
	at := matrix{a: k, d: k, e: -box.x * k, f: -box.y * k}
	if err := p.children(root, p.styled(root, plain), at, 1); err != nil {
		return nil, err
	}
	return &Drawing{p.to, real}, nil
}

// element is one element of an SVG.
type element struct {
	name     string
	attrs    map[string]string
	text     string
	children []*element
}

// parse reads the elements of an SVG.
func parse(data []byte) (*element, error) {
	dec := xml.NewDecoder(bytes.NewReader(data))
	dec.CharsetReader = func(_ string, r io.Reader) (io.Reader, error) { return r, nil } // names and numbers are ASCII
	var root *element
	var open []*element
	n := 0
	for {
		t, err := dec.Token()
		if errors.Is(err, io.EOF) && root != nil && len(open) == 0 {
			return root, nil
		}
		if err != nil {
			return nil, errDamaged
		}
		switch t := t.(type) {
		case xml.Directive:
			if bytes.Contains(t, []byte("ENTITY")) {
				return nil, errEntities
			}
		case xml.StartElement:
			if n++; n > maxElements || len(open) >= maxDepth {
				return nil, errMuch
			}
			e := &element{name: t.Name.Local, attrs: map[string]string{}}
			for _, a := range t.Attr {
				e.attrs[a.Name.Local] = a.Value
			}
			switch {
			case len(open) > 0:
				above := open[len(open)-1]
				above.children = append(above.children, e)
			case root == nil && e.name == "svg":
				root = e
			default:
				return nil, errDamaged
			}
			open = append(open, e)
		case xml.EndElement:
			open = open[:len(open)-1]
		case xml.CharData:
			if len(open) > 0 && open[len(open)-1].name == "style" {
				open[len(open)-1].text += string(t)
			}
		}
	}
}

// walk calls f with an element and all below it.
func (e *element) walk(f func(*element)) {
	f(e)
	for _, c := range e.children {
		c.walk(f)
	}
}

// viewBox is the part of a drawing that is shown, in its units.
type viewBox struct{ x, y, w, h float64 }

// boxOf is the viewBox of an SVG, or its width and height where it has none.
func boxOf(e *element) (viewBox, error) {
	v := list(e.attrs["viewBox"])
	if len(v) != 4 {
		w, h := list(e.attrs["width"]), list(e.attrs["height"])
		if len(w) == 0 || len(h) == 0 {
			return viewBox{}, errSize
		}
		v = []float64{0, 0, w[0], h[0]}
	}
	b := viewBox{v[0], v[1], v[2], v[3]}
	if !(max(math.Abs(b.x), math.Abs(b.y), b.w, b.h) <= maxNumber) || b.w < 1e-3 || b.h < 1e-3 || b.w > 100*b.h || b.h > 100*b.w {
		return viewBox{}, errSize
	}
	return b, nil
}

// units are what lengths are given in, in units of the drawing.
var units = map[string]float64{"px": 1, "pt": 4.0 / 3, "pc": 16, "mm": 96 / 25.4, "cm": 96 / 2.54, "in": 96, "em": 16, "ex": 8}

// inUnits reads a length; a percentage is of whole.
func inUnits(text string, whole float64) (float64, bool) {
	in := scanner{text: text}
	v, ok := in.number()
	if !ok {
		return 0, false
	}
	switch unit := strings.TrimSpace(text[in.i:]); {
	case unit == "%":
		v *= whole / 100
	case units[unit] != 0:
		v *= units[unit]
	}
	return v, math.Abs(v) <= maxNumber
}

// realSize is a width with a real unit, 0 for others: a pixel is no size on paper.
func realSize(text string) length.Length {
	text = strings.TrimSpace(text)
	for unit, mm := range map[string]float64{"mm": 1, "cm": 10, "in": 25.4, "pt": 25.4 / 72, "pc": 25.4 / 6} {
		if number, is := strings.CutSuffix(text, unit); is {
			if v, err := strconv.ParseFloat(strings.TrimSpace(number), 64); err == nil && v*mm >= 1 && v*mm <= length.Max.MM() {
				return length.FromMM(v * mm)
			}
		}
	}
	return 0
}
