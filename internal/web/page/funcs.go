package page

import (
	"bytes"
	"fmt"
	"html/template"
	"strconv"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
	"chromaqua/internal/store"
)

// most is how many characters a field takes: as many as the core keeps.
var most = struct{ Name, Note, Notes, CardNotes, Text int }{card.MaxName, shelf.MaxNote, store.MaxNotes, card.MaxNotes, card.MaxText}

// funcs are what every template may call.
func (p *Pages) funcs(nav []Link) template.FuncMap {
	return template.FuncMap{
		"asset":    func(name string) string { return "/static/" + name + "?v=" + p.version },
		"scripts":  func() string { return strings.Join(p.scripts, " ") },
		"nav":      func() []Link { return nav },
		"most":     func() any { return most },
		"bytes":    func(n int64) string { return fmt.Sprintf("%.1f MB", float64(n)/1e6) },
		"show":     p.show,
		"length":   lengthHTML,
		"size":     sizeHTML,
		"nm":       func(v int64, u length.Unit) template.HTML { return lengthHTML(length.Length(v), u) },
		"nearsize": func(s length.Size, u length.Unit) template.HTML { return Proper(s.Near(u)) },
		"near":     func(l length.Length, u length.Unit) template.HTML { return Proper(l.Near(u)) },
		"thin":     func(l length.Length) string { return PlainNumber(l.MM()) + " mm" },
		"place":    func(mm float64, u length.Unit) template.HTML { return Proper(length.FromMM(mm).Near(u)) },
		"svglen":   func(l length.Length, u length.Unit) template.HTML { return properSVG(l.With(u)) },
		"svgsize":  func(s length.Size, u length.Unit) template.HTML { return properSVG(s.With(u)) },
		"svgtext":  properSVG,
		"proper":   Proper,
		"about":    About,
		"clock":    Clock,
		"hm":       func(d time.Duration) string { return fmt.Sprintf("%d:%02d", int(d.Hours()), int(d.Minutes())%60) },
		"mm":       MM,
		"dict":     dict,
		"heads":    heads,
		"add":      func(a, b float64) float64 { return a + b },
		"sub":      func(a, b float64) float64 { return a - b },
		"float":    func(i int) float64 { return float64(i) },
		"scaled":   func(a, b float64) float64 { return a * b },
		"half":     func(a float64) float64 { return a / 2 },
		"inc":      func(i int) int { return i + 1 },
		"max1":     func(i int) int { return max(1, i) },
		"hundred":  func(share float64) float64 { return 100 * share },
		"percent":  func(share float64) string { return strconv.FormatFloat(share*100, 'f', -1, 64) },
		"plural":   wording.Count,
		"term":     term,
		"apart":    pigment.Apart,
		"upper":    wording.Upper,
		"cellList": CellList,
		"slug":     func(v any) string { return strings.ReplaceAll(fmt.Sprint(v), " ", "-") },
	}
}

// show renders the template of a name that is only known once the page is shown.
func (p *Pages) show(name string, data any) (template.HTML, error) {
	var buf bytes.Buffer
	err := p.Execute(&buf, name, data)
	return template.HTML(buf.String()), err
}

// heads is the head of a table, a name for each column; what stands in brackets is only for who
// hears the page.
func heads(names ...string) template.HTML {
	var out strings.Builder
	out.WriteString("<thead><tr>")
	for _, name := range names {
		said := template.HTMLEscapeString(name)
		if heard, is := strings.CutPrefix(said, "("); is {
			said = `<span class="sr-only">` + strings.TrimSuffix(heard, ")") + "</span>"
		}
		out.WriteString(`<th scope="col">` + said + "</th>")
	}
	out.WriteString("</tr></thead>")
	return template.HTML(out.String())
}

// dict passes several values to a template.
func dict(pairs ...any) (map[string]any, error) {
	if len(pairs)%2 != 0 {
		return nil, fmt.Errorf("dict needs pairs, not %d values", len(pairs))
	}
	m := map[string]any{}
	for i := 0; i < len(pairs); i += 2 {
		m[fmt.Sprint(pairs[i])] = pairs[i+1]
	}
	return m, nil
}
