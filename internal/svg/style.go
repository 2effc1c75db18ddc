package svg

import (
	"cmp"
	"image/color"
	"math"
	"slices"
	"strconv"
	"strings"

	"golang.org/x/image/colornames"
)

// A paint is what a shape is filled or stroked with: nothing, or a grey so solid.
type paint struct {
	on    bool
	level uint8
}

// style is what a shape inherits, and what is said of it.
type style struct {
	fill, stroke   paint
	color          paint // that currentColor means
	by, clipBy     rule
	line           stroke
	fills, strokes float64 // how solid
	hidden         bool
}

var plain = style{fill: paint{on: true}, color: paint{on: true}, line: stroke{width: 1, miter: 4}, fills: 1, strokes: 1}

// faint is a share of solidity that leaves next to nothing of a line.
const faint = 0.3

// property changes a style by one declaration. What it does not know it leaves.
func (s *style) property(name, value string, unit func(string) (float64, bool)) {
	value = strings.TrimSpace(strings.TrimSuffix(strings.TrimSpace(value), "!important"))
	if value == "inherit" {
		return
	}
	switch name {
	case "color":
		s.color = s.paint(value, s.color)
	case "fill":
		s.fill = s.paint(value, s.fill)
	case "stroke":
		s.stroke = s.paint(value, s.stroke)
	case "fill-rule":
		s.by = ruleOf(value)
	case "clip-rule":
		s.clipBy = ruleOf(value)
	case "fill-opacity":
		s.fills = share(value, s.fills)
	case "stroke-opacity":
		s.strokes = share(value, s.strokes)
	case "visibility":
		s.hidden = value == "hidden" || value == "collapse"
	case "stroke-width":
		if v, ok := unit(value); ok && v >= 0 {
			s.line.width = v
		}
	case "stroke-linecap":
		s.line.cap = map[string]lineCap{"round": roundCap, "square": squareCap}[value]
	case "stroke-linejoin":
		s.line.join = map[string]lineJoin{"round": roundJoin, "bevel": bevelJoin}[value]
	case "stroke-miterlimit":
		if v, err := strconv.ParseFloat(value, 64); err == nil && v >= 1 {
			s.line.miter = v
		}
	case "stroke-dashoffset":
		if v, ok := unit(value); ok {
			s.line.offset = v
		}
	case "stroke-dasharray":
		s.line.dashes = dashesOf(value, unit)
	}
}

func ruleOf(value string) rule {
	if value == "evenodd" {
		return evenOdd
	}
	return nonZero
}

// share is a number from 0 to 1, or a percentage.
func share(value string, was float64) float64 {
	number, percent := strings.CutSuffix(value, "%")
	v, err := strconv.ParseFloat(number, 64)
	if err != nil || math.IsNaN(v) {
		return was
	}
	if percent {
		v /= 100
	}
	return min(1, max(0, v))
}

// dashesOf reads the lengths of dashes and gaps in turn; an odd number is gone through
// twice.
func dashesOf(value string, unit func(string) (float64, bool)) (out []float64) {
	for _, f := range strings.FieldsFunc(value, func(r rune) bool { return r == ',' || r == ' ' || r == '\t' || r == '\n' }) {
		v, ok := unit(f)
		if !ok || v < 0 || len(out) >= 64 {
			return nil
		}
		out = append(out, v)
	}
	if len(out)%2 == 1 {
		out = append(out, out...)
	}
	return out
}

// paint reads a colour as its grey; what names a gradient or a pattern is no line, but
// for the colour that stands beside it.
func (s *style) paint(value string, was paint) paint {
	if strings.HasPrefix(value, "url(") {
		_, beside, _ := strings.Cut(value, ")")
		if value = strings.TrimSpace(beside); value == "" {
			return paint{}
		}
	}
	switch value {
	case "none", "transparent":
		return paint{}
	case "currentColor", "currentcolor":
		return s.color
	}
	c, ok := colourOf(strings.ToLower(value))
	if !ok {
		return was
	}
	if float64(c.A) < faint*255 {
		return paint{}
	}
	return paint{true, color.GrayModel.Convert(color.RGBA{c.R, c.G, c.B, 255}).(color.Gray).Y}
}

// colourOf reads a colour by name, as #rgb, #rrggbb or rgb(…); not multiplied by its
// alpha.
func colourOf(text string) (c color.NRGBA, ok bool) {
	if hex, is := strings.CutPrefix(text, "#"); is {
		if len(hex) == 3 || len(hex) == 4 {
			twice := ""
			for _, r := range hex {
				twice += string(r) + string(r)
			}
			hex = twice
		}
		if len(hex) == 6 {
			hex += "ff"
		}
		v, err := strconv.ParseUint(hex, 16, 32)
		return color.NRGBA{uint8(v >> 24), uint8(v >> 16), uint8(v >> 8), uint8(v)}, err == nil && len(hex) == 8
	}
	if at := strings.IndexByte(text, '('); at > 0 && strings.HasPrefix(text, "rgb") {
		c.A = 255
		parts := strings.FieldsFunc(strings.TrimSuffix(text[at+1:], ")"), func(r rune) bool { return r == ',' || r == ' ' || r == '/' })
		if len(parts) < 3 {
			return c, false
		}
		for i, to := range []*uint8{&c.R, &c.G, &c.B, &c.A} {
			if i >= len(parts) {
				break
			}
			number, percent := strings.CutSuffix(parts[i], "%")
			v, err := strconv.ParseFloat(number, 64)
			if err != nil || math.IsNaN(v) {
				return c, false
			}
			if percent {
				v *= 2.55
			} else if i == 3 {
				v *= 255
			}
			*to = uint8(min(255, max(0, v)))
		}
		return c, true
	}
	named, ok := colornames.Map[text]
	return color.NRGBA{named.R, named.G, named.B, 255}, ok
}

// A cssRule is one selector of a style sheet with what it says.
type cssRule struct {
	tag, id, class string
	says           [][2]string
	order          int
}

// weight puts selectors by id before those by class, and these before those by name.
func (r *cssRule) weight() int {
	w := 0
	if r.tag != "" {
		w++
	}
	if r.class != "" {
		w += 10
	}
	if r.id != "" {
		w += 100
	}
	return w
}

func (r *cssRule) meets(e *element) bool {
	return (r.tag == "" || r.tag == e.name) && (r.id == "" || r.id == e.attrs["id"]) &&
		(r.class == "" || slices.Contains(strings.Fields(e.attrs["class"]), r.class))
}

// maxRules bounds the selectors of a drawing.
const maxRules = 2000

// rulesOf reads a style sheet: selectors by name, class and id. Others, and what stands
// under conditions, are left out.
func rulesOf(sheet string) (out []cssRule) {
	for {
		from := strings.Index(sheet, "/*")
		if from < 0 {
			break
		}
		to := strings.Index(sheet[from+2:], "*/")
		if to < 0 {
			sheet = sheet[:from]
			break
		}
		sheet = sheet[:from] + " " + sheet[from+2+to+2:]
	}
	sheet = strings.NewReplacer("<![CDATA[", "", "]]>", "", "<!--", "", "-->", "").Replace(sheet)
	for len(out) < maxRules {
		selectors, rest, ok := strings.Cut(sheet, "{")
		if !ok {
			break
		}
		if strings.HasPrefix(strings.TrimSpace(selectors), "@") { // a block with blocks in it
			deep := 1
			for i := 0; i < len(rest) && deep > 0; i++ {
				switch rest[i] {
				case '{':
					deep++
				case '}':
					deep--
				}
				if deep == 0 {
					rest = rest[i+1:]
				}
			}
			if deep > 0 {
				break
			}
			sheet = rest
			continue
		}
		body, rest, _ := strings.Cut(rest, "}")
		sheet = rest
		says := declarations(body)
		for _, sel := range strings.Split(selectors, ",") {
			if r, ok := selector(strings.TrimSpace(sel)); ok {
				r.says, r.order = says, len(out)
				out = append(out, r)
			}
		}
	}
	slices.SortStableFunc(out, func(a, b cssRule) int {
		return cmp.Or(cmp.Compare(a.weight(), b.weight()), cmp.Compare(a.order, b.order))
	})
	return out
}

// selector reads a selector without descendants: "path", ".a", "#b", "path.a", "*".
func selector(text string) (r cssRule, ok bool) {
	if text == "" || strings.ContainsAny(text, " >+~:[") {
		return r, false
	}
	to := &r.tag
	for i := 0; i < len(text); i++ {
		switch text[i] {
		case '.':
			to = &r.class
		case '#':
			to = &r.id
		case '*':
		default:
			*to += text[i : i+1]
		}
	}
	return r, true
}

// declarations reads "name: value; …".
func declarations(text string) (out [][2]string) {
	for _, d := range strings.Split(text, ";") {
		if name, value, ok := strings.Cut(d, ":"); ok {
			out = append(out, [2]string{strings.ToLower(strings.TrimSpace(name)), strings.TrimSpace(value)})
		}
	}
	return out
}
