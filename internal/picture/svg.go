package picture

import (
	"bytes"
	"encoding/xml"
	"errors"
	"fmt"
	"image"
	"image/color"
	"io"
	"maps"
	"math"
	"regexp"
	"slices"
	"strconv"
	"strings"

	"github.com/tdewolff/canvas"
	"golang.org/x/image/draw"
	"golang.org/x/image/vector"

	"chromaqua/core/length"
)

// Limits of a drawing; whatever exceeds them is no line art.
const (
	MaxSVGBytes    = 8 << 20
	maxSVGElements = 20_000 // with those that are used again
	maxSVGDepth    = 64
	maxSVGNumber   = 1e6 // of a coordinate
	svgDPI         = 300
	longestSVG     = 4200 // pixels of the longer side, 14 in at svgDPI
	sizelessSVG    = 2400 // of one that says no real size
)

// A Drawing is an SVG drawing as it was rendered.
type Drawing struct {
	*image.Gray
	Width length.Length // real, 0 when it does not say
}

var (
	errSVGDamaged  = errors.New("the SVG is damaged or cut short; save it again")
	errSVGEntities = errors.New("the SVG declares entities, which are not read; save it as plain SVG")
	errSVGMuch     = fmt.Errorf("the SVG has more than %d shapes, or nests them deeper than %d; simplify it", maxSVGElements, maxSVGDepth)
	errSVGFar      = errors.New("a shape of the SVG reaches far outside the drawing; crop it and save it again")
	errSVGSize     = errors.New("the SVG has no usable size; give it a viewBox, or a width and a height")
)

// isSVG reports whether data looks like an SVG.
func isSVG(data []byte) bool {
	head := bytes.TrimLeft(bytes.TrimPrefix(data, []byte("\ufeff")), " \t\r\n")
	return bytes.HasPrefix(head, []byte("<")) && bytes.Contains(head[:min(len(head), 4096)], []byte("<svg"))
}

// RenderSVG draws the shapes of an SVG in black on white paper, at 300 dpi where
// it says how large it really is. Scripts are left out; pictures and text, which
// would be missing from the line, are refused. Clipping and dashes are not drawn.
func RenderSVG(data []byte) (d *Drawing, err error) {
	if len(data) > MaxSVGBytes {
		return nil, fmt.Errorf("the SVG is larger than %d MB; simplify it", MaxSVGBytes>>20)
	}
	s, err := readSVG(data)
	if err != nil {
		return nil, err
	}
	defer func() { // the library panics on some malformed paths
		if recover() != nil {
			d, err = nil, errSVGDamaged
		}
	}()
	c, err := canvas.ParseSVG(bytes.NewReader(s.plain))
	if err != nil {
		return nil, errSVGDamaged
	}
	long := float64(sizelessSVG)
	if s.real > 0 {
		long = min(longestSVG, s.real.MM()/25.4*svgDPI*max(1, s.h/s.w))
	}
	k := long / max(s.w, s.h)
	p := &pen{k: k, to: image.NewGray(image.Rect(0, 0, int(math.Round(s.w*k)), int(math.Round(s.h*k))))}
	if p.to.Rect.Empty() {
		return nil, errSVGSize
	}
	draw.Draw(p.to, p.to.Rect, image.White, image.Point{}, draw.Src)
	c.RenderTo(p)
	return &Drawing{p.to, s.real}, p.err
}

// svgFile is an SVG of which only shapes are left.
type svgFile struct {
	plain []byte
	w, h  float64 // units of its viewBox
	real  length.Length
}

// element is one element of an SVG.
type element struct {
	name     string
	attrs    map[string]string
	text     string
	children []*element
}

// The elements that are drawn, or hold such, with the attributes that say how.
var (
	svgShapes = []string{"path", "rect", "circle", "ellipse", "line", "polyline", "polygon"}
	svgGroups = []string{"g", "a", "switch"}
	svgAttrs  = []string{"d", "points", "x", "y", "width", "height", "rx", "ry", "cx", "cy", "r", "x1", "y1", "x2", "y2",
		"transform", "fill", "fill-rule", "fill-opacity", "stroke", "stroke-width", "stroke-linecap", "stroke-linejoin",
		"stroke-miterlimit", "stroke-opacity", "opacity", "style", "class", "id", "href", "viewBox", "display"}
)

// readSVG reads an SVG and writes what is drawn of it again, so that the library
// that draws sees nothing else.
func readSVG(data []byte) (*svgFile, error) {
	root, err := parseSVG(data)
	if err != nil {
		return nil, err
	}
	s := &svgFile{}
	var box string
	if box, s.w, s.h, err = boxOf(root); err != nil {
		return nil, err
	}
	s.real = realSize(root.attrs["width"])
	ids := map[string]*element{}
	root.index(ids)
	var out bytes.Buffer
	fmt.Fprintf(&out, `<svg width="%f" height="%f" viewBox="%s">`, s.w, s.h, box)
	w := svgWriter{out: &out, ids: ids}
	for _, e := range root.children {
		if err := w.write(e, 1); err != nil {
			return nil, err
		}
	}
	out.WriteString("</svg>")
	s.plain = out.Bytes()
	return s, nil
}

// parseSVG reads the elements of an SVG that matter.
func parseSVG(data []byte) (*element, error) {
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
			return nil, errSVGDamaged
		}
		switch t := t.(type) {
		case xml.Directive:
			if bytes.Contains(t, []byte("ENTITY")) {
				return nil, errSVGEntities
			}
		case xml.StartElement:
			if n++; n > maxSVGElements || len(open) >= maxSVGDepth {
				return nil, errSVGMuch
			}
			e := &element{name: t.Name.Local, attrs: map[string]string{}}
			for _, a := range t.Attr {
				if slices.Contains(svgAttrs, a.Name.Local) {
					e.attrs[a.Name.Local] = a.Value
				}
			}
			switch {
			case len(open) > 0:
				above := open[len(open)-1]
				above.children = append(above.children, e)
			case root == nil && e.name == "svg":
				root = e
			default:
				return nil, errSVGDamaged
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

func (e *element) index(ids map[string]*element) {
	if id := e.attrs["id"]; id != "" {
		ids[id] = e
	}
	for _, c := range e.children {
		c.index(ids)
	}
}

// numbers reads a list of numbers.
var numbers = regexp.MustCompile(`[-+]?(?:\d+\.?\d*|\.\d+)(?:[eE][-+]?\d+)?`)

// boxOf is the viewBox of an SVG and its size.
func boxOf(root *element) (box string, w, h float64, err error) {
	var v [4]float64
	given := numbers.FindAllString(root.attrs["viewBox"], -1)
	if len(given) != 4 {
		given = []string{"0", "0", numbers.FindString(root.attrs["width"]), numbers.FindString(root.attrs["height"])}
	}
	for i, text := range given {
		if v[i], err = strconv.ParseFloat(text, 64); err != nil || math.Abs(v[i]) > maxSVGNumber {
			return "", 0, 0, errSVGSize
		}
	}
	if w, h = v[2], v[3]; w < 1e-3 || h < 1e-3 || w > 100*h || h > 100*w {
		return "", 0, 0, errSVGSize
	}
	return fmt.Sprintf("%f %f %f %f", v[0], v[1], w, h), w, h, nil
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

// svgWriter writes what is drawn of an SVG, with what is used again in its places.
type svgWriter struct {
	out *bytes.Buffer
	ids map[string]*element
	n   int
}

func (w *svgWriter) write(e *element, depth int) error {
	if w.n++; w.n > maxSVGElements || depth > maxSVGDepth {
		return errSVGMuch
	}
	if e.attrs["display"] == "none" || strings.Contains(strings.ReplaceAll(e.attrs["style"], " ", ""), "display:none") {
		return nil
	}
	switch {
	case e.name == "text":
		return errors.New("the SVG holds text; turn its text into paths and save it again")
	case e.name == "image":
		return errors.New("the SVG holds a picture; save that picture as PNG and add it instead")
	case e.name == "svg":
		return errors.New("the SVG holds another one inside; release it and save it as plain SVG")
	case e.name == "style":
		if strings.Contains(e.text, "@import") || strings.Contains(e.text, "url(") {
			return errors.New("the styles of the SVG refer to something outside it; save it as plain SVG")
		}
		w.out.WriteString("<style>")
		_ = xml.EscapeText(w.out, []byte(evenOddFlag.Replace(e.text)))
		w.out.WriteString("</style>")
		return nil
	case e.name == "use":
		return w.use(e, depth)
	case e.name == "defs" || e.name == "symbol": // drawn only where they are used
		for _, c := range e.children {
			if c.name == "style" {
				if err := w.write(c, depth+1); err != nil {
					return err
				}
			}
		}
		return nil
	case slices.Contains(svgShapes, e.name):
		return w.element(e.name, e.attrs, nil, depth)
	case slices.Contains(svgGroups, e.name):
		return w.element("g", e.attrs, e.children, depth)
	}
	return nil // scripts, names, effects and whatever else draws no line
}

// use writes what a reference means in its place.
func (w *svgWriter) use(e *element, depth int) error {
	id, local := strings.CutPrefix(e.attrs["href"], "#")
	if !local {
		return errors.New("the SVG refers to something outside it; save it as plain SVG")
	}
	what := w.ids[id]
	if what == nil {
		return nil
	}
	attrs := maps.Clone(e.attrs)
	attrs["transform"] = strings.TrimSpace(fmt.Sprintf("%s translate(%s,%s)", attrs["transform"], orZero(attrs["x"]), orZero(attrs["y"])))
	for _, name := range []string{"x", "y", "width", "height"} {
		delete(attrs, name)
	}
	if what.name == "symbol" {
		return w.element("g", attrs, what.children, depth)
	}
	return w.element("g", attrs, []*element{what}, depth)
}

func orZero(number string) string {
	if n := numbers.FindString(number); n != "" {
		return n
	}
	return "0"
}

// The library knows no fill rule; dashes are not drawn, so their offset carries it,
// and is inherited as the rule is.
var evenOddFlag = strings.NewReplacer("fill-rule:evenodd", "stroke-dashoffset:1", "fill-rule: evenodd", "stroke-dashoffset:1")

// faint reports whether an opacity leaves next to nothing.
func faint(opacity string) bool {
	v, err := strconv.ParseFloat(opacity, 64)
	return err == nil && v < 0.3
}

func (w *svgWriter) element(name string, attrs map[string]string, children []*element, depth int) error {
	if faint(attrs["opacity"]) {
		return nil
	}
	fmt.Fprintf(w.out, "<%s", name)
	for _, k := range slices.Sorted(maps.Keys(attrs)) {
		v := attrs[k]
		switch {
		case k == "fill-rule":
			k, v = "stroke-dashoffset", map[string]string{"evenodd": "1"}[v]
		case k == "fill" && faint(attrs["fill-opacity"]), k == "stroke" && faint(attrs["stroke-opacity"]):
			v = "none"
		case k == "fill-opacity" || k == "stroke-opacity" || k == "opacity":
			continue
		case k == "style":
			v = evenOddFlag.Replace(v)
		case k == "id" || k == "href" || k == "viewBox" || k == "display" || name == "g" && slices.Contains([]string{"x", "y", "width", "height"}, k):
			continue
		case strings.Contains(v, "url("): // a gradient or a pattern is no line
			v = "none"
			if k == "style" {
				v = ""
			}
		}
		for _, number := range numbers.FindAllString(v, -1) {
			if f, err := strconv.ParseFloat(number, 64); k != "class" && k != "style" && (err != nil || math.Abs(f) > maxSVGNumber) {
				return errSVGFar
			}
		}
		fmt.Fprintf(w.out, ` %s="`, k)
		_ = xml.EscapeText(w.out, []byte(v))
		w.out.WriteByte('"')
	}
	w.out.WriteByte('>')
	for _, c := range children {
		if err := w.write(c, depth+1); err != nil {
			return err
		}
	}
	fmt.Fprintf(w.out, "</%s>", name)
	return nil
}

// pen draws shapes on grey paper.
type pen struct {
	to  *image.Gray
	k   float64 // pixels a unit
	err error
}

// Size is the paper's, in units of the drawing.
func (p *pen) Size() (w, h float64) {
	return float64(p.to.Rect.Dx()) / p.k, float64(p.to.Rect.Dy()) / p.k
}

// RenderText and RenderImage draw nothing: an SVG with either is refused.
func (p *pen) RenderText(*canvas.Text, canvas.Matrix) {}

// RenderImage draws nothing.
func (p *pen) RenderImage(image.Image, canvas.Matrix) {}

// RenderPath fills and strokes a path.
func (p *pen) RenderPath(path *canvas.Path, style canvas.Style, m canvas.Matrix) {
	if p.err != nil {
		return
	}
	b := path.Copy().Transform(m).FastBounds()
	reach := 4 * float64(max(p.to.Rect.Dx(), p.to.Rect.Dy())) / p.k
	if math.IsNaN(b.X0+b.X1+b.Y0+b.Y1) || max(-b.X0, -b.Y0, b.X1, b.Y1) > reach || style.StrokeWidth > reach {
		p.err = errSVGFar
		return
	}
	if style.HasFill() && style.Fill.IsColor() {
		p.fill(path.Copy().Transform(m), style.DashOffset != 0, style.Fill.Color)
	}
	if style.HasStroke() && style.Stroke.IsColor() {
		p.fill(path.Stroke(style.StrokeWidth, style.StrokeCapper, style.StrokeJoiner, canvas.PixelTolerance/p.k).Transform(m), false, style.Stroke.Color)
	}
}

// fill fills a path in a colour. By the even-odd rule what two of its rings cover
// both is left out.
func (p *pen) fill(path *canvas.Path, evenOdd bool, c color.RGBA) {
	b := path.FastBounds()
	high := float64(p.to.Rect.Dy())
	box := image.Rect(int(b.X0*p.k)-1, int(high-b.Y1*p.k)-1, int(b.X1*p.k)+2, int(high-b.Y0*p.k)+2).Intersect(p.to.Rect)
	if box.Empty() {
		return
	}
	whole := image.NewAlpha(box)
	r := vector.NewRasterizer(box.Dx(), box.Dy())
	for _, ring := range path.Flatten(canvas.PixelTolerance / p.k).Split() {
		for i, q := range ring.Coords() {
			x, y := float32(q.X*p.k-float64(box.Min.X)), float32(high-q.Y*p.k-float64(box.Min.Y))
			if i == 0 {
				r.MoveTo(x, y)
			} else {
				r.LineTo(x, y)
			}
		}
		r.ClosePath()
		if evenOdd {
			one := image.NewAlpha(box)
			r.Draw(one, box, image.Opaque, image.Point{})
			for i, a := range one.Pix {
				was := int(whole.Pix[i])
				whole.Pix[i] = uint8(was + int(a) - 2*was*int(a)/255)
			}
			r.Reset(box.Dx(), box.Dy())
		}
	}
	if !evenOdd {
		r.Draw(whole, box, image.Opaque, image.Point{})
	}
	// The colour is multiplied by its alpha.
	level := int(color.GrayModel.Convert(color.RGBA{c.R, c.G, c.B, 255}).(color.Gray).Y)
	if c.A > 0 {
		level = min(255, level*255/int(c.A))
	}
	for y := box.Min.Y; y < box.Max.Y; y++ {
		row := p.to.Pix[p.to.PixOffset(box.Min.X, y):]
		for x, a := range whole.Pix[whole.PixOffset(box.Min.X, y):][:box.Dx()] {
			if a != 0 {
				was := int(row[x])
				row[x] = uint8(was + (level-was)*int(a)*int(c.A)/255/255)
			}
		}
	}
}
