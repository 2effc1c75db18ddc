package svg

import (
	"context"
	"errors"
	"image"
	"math"
	"strings"
)

// maxMasks bounds the clip paths that hold at a time, for their memory.
const maxMasks = 4

// painter draws elements on the paper.
type painter struct {
	*raster
	to     *image.Gray
	box    viewBox
	ids    map[string]*element
	rules  []cssRule
	drawn  int // elements, with those used again
	points int
	masks  []*image.Alpha // that hold, each within the one before
	styles error          // what is wrong with a style sheet
}

func newPainter(ctx context.Context, root *element, w, h int, box viewBox) *painter {
	p := &painter{raster: newRaster(ctx, w, h), to: image.NewGray(image.Rect(0, 0, w, h)), box: box, ids: map[string]*element{}}
	for i := range p.to.Pix {
		p.to.Pix[i] = 255
	}
	sheet := ""
	root.walk(func(e *element) {
		if id := e.attrs["id"]; id != "" && p.ids[id] == nil {
			p.ids[id] = e
		}
		if e.name == "style" {
			sheet += e.text + "\n"
		}
	})
	if strings.Contains(sheet, "@import") || strings.Contains(strings.ReplaceAll(sheet, "url(#", ""), "url(") {
		p.styles = errors.New("the styles of the SVG refer to something outside it; save it as plain SVG")
	}
	p.rules = rulesOf(sheet)
	return p
}

// said are the declarations that hold for an element, the strongest last.
func (p *painter) said(e *element, each func(name, value string)) {
	for name, value := range e.attrs {
		each(name, value)
	}
	for i := range p.rules {
		if p.rules[i].meets(e) {
			for _, d := range p.rules[i].says {
				each(d[0], d[1])
			}
		}
	}
	for _, d := range declarations(e.attrs["style"]) {
		each(d[0], d[1])
	}
}

// styled is how an element is drawn that lies in one of a style.
func (p *painter) styled(e *element, in style) style {
	p.said(e, func(name, value string) { // what currentColor means is known before it is used
		if name == "color" {
			in.property(name, value, p.diagonal)
		}
	})
	p.said(e, func(name, value string) { in.property(name, value, p.diagonal) })
	return in
}

// diagonal reads a length of which a percentage is of neither side.
func (p *painter) diagonal(text string) (float64, bool) {
	return inUnits(text, math.Hypot(p.box.w, p.box.h)/math.Sqrt2)
}

// own are the properties of an element that are not inherited.
func (p *painter) own(e *element) (shown bool, clip string) {
	shown = true
	p.said(e, func(name, value string) {
		switch name {
		case "display":
			shown = strings.TrimSpace(value) != "none"
		case "opacity":
			if share(strings.TrimSpace(value), 1) < faint {
				shown = false
			}
		case "clip-path":
			clip = strings.TrimSpace(value)
		}
	})
	return shown, clip
}

func (p *painter) children(e *element, in style, m matrix, depth int) error {
	if p.styles != nil {
		return p.styles
	}
	for _, c := range e.children {
		if err := p.element(c, in, m, depth); err != nil {
			return err
		}
	}
	return nil
}

// element draws one element and what is in it.
func (p *painter) element(e *element, in style, m matrix, depth int) error {
	if p.drawn++; p.drawn > maxElements || depth > maxDepth {
		return errMuch
	}
	switch e.name {
	case "text":
		return errors.New("the SVG holds text; turn its text into paths and save it again")
	case "image":
		return errors.New("the SVG holds a picture; save that picture as PNG and add it instead")
	case "g", "a", "switch", "svg", "use", "path", "rect", "circle", "ellipse", "line", "polyline", "polygon":
	default:
		return nil // definitions, scripts, names, effects: they draw no line
	}
	shown, clip := p.own(e)
	if !shown {
		return nil
	}
	s := p.styled(e, in)
	t, ok := transform(e.attrs["transform"])
	if m = m.then(t); !ok || !m.sound() {
		return errFar
	}
	if clip != "" && clip != "none" {
		undo, err := p.clip(clip, s, m, depth)
		if err != nil {
			return err
		}
		defer undo()
	}
	switch e.name {
	case "g", "a", "switch":
		return p.children(e, s, m, depth+1)
	case "svg":
		return p.nested(e, e, s, m, depth)
	case "use":
		return p.use(e, s, m, depth)
	}
	if s.hidden {
		return nil
	}
	return p.shape(e, s, m)
}

// use draws what a reference means in its place.
func (p *painter) use(e *element, s style, m matrix, depth int) error {
	id, local := strings.CutPrefix(strings.TrimSpace(e.attrs["href"]), "#")
	if !local {
		return errOutside
	}
	what := p.ids[id]
	if what == nil {
		return nil
	}
	x, _ := inUnits(e.attrs["x"], p.box.w)
	y, _ := inUnits(e.attrs["y"], p.box.h)
	m = m.then(matrix{a: 1, d: 1, e: x, f: y})
	if what.name == "symbol" || what.name == "svg" {
		size := &element{attrs: map[string]string{"width": e.attrs["width"], "height": e.attrs["height"]}}
		return p.nested(what, size, p.styled(what, s), m, depth)
	}
	return p.element(what, s, m, depth+1)
}

// nested draws a drawing inside another, with a size of its own or given, and cut off at
// its edges.
func (p *painter) nested(e, sized *element, s style, m matrix, depth int) error {
	x, _ := inUnits(e.attrs["x"], p.box.w)
	y, _ := inUnits(e.attrs["y"], p.box.h)
	m = m.then(matrix{a: 1, d: 1, e: x, f: y})
	v := list(e.attrs["viewBox"])
	side := func(name string, whole float64) float64 {
		for _, from := range []*element{sized, e} {
			if l, ok := inUnits(from.attrs[name], whole); ok && l > 0 {
				return l
			}
		}
		return whole
	}
	w, h := side("width", p.box.w), side("height", p.box.h)
	if len(v) != 4 || v[2] <= 0 || v[3] <= 0 {
		if e.name == "symbol" {
			return p.children(e, s, m, depth+1)
		}
		v = []float64{0, 0, w, h}
	}
	if e.attrs["overflow"] != "visible" {
		undo, err := p.masked([]ring{{at: []point{m.of(point{}), m.of(point{w, 0}), m.of(point{w, h}), m.of(point{0, h})}, closed: true}}, nonZero)
		if err != nil {
			return err
		}
		defer undo()
	}
	kx, ky := w/v[2], h/v[3]
	fit := strings.Fields(e.attrs["preserveAspectRatio"])
	if len(fit) == 0 || fit[0] != "none" {
		k := min(kx, ky)
		if len(fit) > 1 && fit[1] == "slice" {
			k = max(kx, ky)
		}
		place := func(low, high string, room float64) float64 {
			switch {
			case len(fit) > 0 && strings.Contains(fit[0], low):
				return 0
			case len(fit) > 0 && strings.Contains(fit[0], high):
				return room
			}
			return room / 2
		}
		m = m.then(matrix{a: 1, d: 1, e: place("xMin", "xMax", w-k*v[2]), f: place("YMin", "YMax", h-k*v[3])})
		kx, ky = k, k
	}
	m = m.then(matrix{a: kx, d: ky, e: -v[0] * kx, f: -v[1] * ky})
	if !m.sound() {
		return errFar
	}
	return p.children(e, s, m, depth+1)
}

// clip lets a clip path hold until it is undone.
func (p *painter) clip(ref string, s style, m matrix, depth int) (undo func(), err error) {
	id, ok := strings.CutPrefix(strings.NewReplacer("'", "", `"`, "").Replace(ref), "url(#")
	path := p.ids[strings.TrimSuffix(id, ")")]
	if !ok || path == nil || path.name != "clipPath" {
		return func() {}, nil // browsers draw what is clipped by nothing
	}
	if path.attrs["clipPathUnits"] == "objectBoundingBox" {
		return nil, errors.New("a clip path of the SVG is measured by what it clips; release it and save it again")
	}
	var rings []ring
	by := nonZero
	t, _ := transform(path.attrs["transform"])
	m = m.then(t)
	for _, c := range path.children {
		if c.name == "use" {
			if c = p.ids[strings.TrimPrefix(c.attrs["href"], "#")]; c == nil {
				continue
			}
		}
		if p.drawn++; p.drawn > maxElements || depth > maxDepth {
			return nil, errMuch
		}
		own, ok := transform(c.attrs["transform"])
		at := m.then(own)
		if !ok || !at.sound() {
			return nil, errFar
		}
		by = p.styled(c, s).clipBy
		rings = append(rings, at.all(p.rings(c, at.scale()))...)
	}
	return p.masked(rings, by)
}

// masked lets only what lies in rings be drawn, until it is undone.
func (p *painter) masked(rings []ring, by rule) (undo func(), err error) {
	if len(p.masks) >= maxMasks {
		return nil, errors.New("the SVG clips what is clipped several times over; release some of it and save it again")
	}
	mask := image.NewAlpha(p.to.Rect)
	if err := p.near(rings); err != nil {
		return nil, err
	}
	if err := p.mask(rings, by, mask); err != nil {
		return nil, err
	}
	if n := len(p.masks); n > 0 {
		for i, a := range p.masks[n-1].Pix {
			mask.Pix[i] = uint8(int(mask.Pix[i]) * int(a) / 255)
		}
	}
	if err := p.spend(len(mask.Pix) / 4); err != nil {
		return nil, err
	}
	p.masks = append(p.masks, mask)
	return func() { p.masks = p.masks[:len(p.masks)-1] }, nil
}

// near refuses what reaches far outside the paper: it is a slip, and costs work.
func (p *painter) near(rings []ring) error {
	reach := 4 * float64(max(p.to.Rect.Dx(), p.to.Rect.Dy()))
	least, most := bounds(rings)
	if len(rings) > 0 && !(min(least.x, least.y) >= -reach && max(most.x, most.y) <= reach) {
		return errFar
	}
	return nil
}

// shape fills and strokes one shape.
func (p *painter) shape(e *element, s style, m matrix) error {
	k := m.scale()
	if k == 0 {
		return nil
	}
	rings := p.rings(e, k)
	if p.points > maxPoints {
		return errWork
	}
	if len(rings) == 0 {
		return nil
	}
	flat := m.all(rings)
	if err := p.near(flat); err != nil {
		return err
	}
	if s.fill.on && s.fills >= faint {
		if err := p.fill(flat, s.by, p.ink(s.fill.level)); err != nil {
			return err
		}
	}
	if !s.stroke.on || s.strokes < faint || s.line.width == 0 {
		return nil
	}
	if s.line.width*k > 4*float64(max(p.w, p.h)) {
		return errFar
	}
	if err := s.line.outline(rings, 1/k, func(piece []point) error { return p.convex(m, piece) }); err != nil {
		return err
	}
	return p.sweep(nonZero, p.ink(s.stroke.level))
}

// convex adds a convex piece, turned so that all pieces go round the same way: filled by
// the non-zero rule they are one.
func (p *painter) convex(m matrix, piece []point) error {
	area := 0.0
	for i := range piece {
		piece[i] = m.of(piece[i])
	}
	for i, a := range piece {
		b := piece[(i+1)%len(piece)]
		area += a.x*b.y - b.x*a.y
	}
	for i, a := range piece {
		b := piece[(i+1)%len(piece)]
		if area < 0 {
			a, b = b, a
		}
		if err := p.edge(a, b); err != nil {
			return err
		}
	}
	return p.spend(len(piece))
}

// ink lays a grey on the paper where the masks let it.
func (p *painter) ink(level uint8) func(y, x int, coverage []uint8) {
	var mask *image.Alpha
	if n := len(p.masks); n > 0 {
		mask = p.masks[n-1]
	}
	return func(y, x int, coverage []uint8) {
		row := p.to.Pix[y*p.to.Stride+x:]
		for i, c := range coverage {
			if c == 0 {
				continue
			}
			a := int(c)
			if mask != nil {
				a = a * int(mask.Pix[y*mask.Stride+x+i]) / 255
			}
			was := int(row[i])
			row[i] = uint8(was + (int(level)-was)*a/255)
		}
	}
}
