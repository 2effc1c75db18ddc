package web

import (
	"bytes"
	"embed"
	"fmt"
	"hash/fnv"
	"html/template"
	"io/fs"
	"math"
	"net/http"
	"regexp"
	"slices"
	"strconv"
	"strings"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
)

//go:embed static
var staticFiles embed.FS

//go:embed templates
var templateFiles embed.FS

// version changes whenever an asset does, so that browsers may keep assets
// for good.
var version = func() string {
	h := fnv.New64a()
	err := fs.WalkDir(staticFiles, "static", func(path string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		data, err := staticFiles.ReadFile(path)
		h.Write(data)
		return err
	})
	if err != nil {
		panic("web: embedded assets: " + err.Error())
	}
	return strconv.FormatUint(h.Sum64(), 36)
}()

func static() http.HandlerFunc {
	files := http.FileServerFS(staticFiles)
	return func(w http.ResponseWriter, r *http.Request) {
		if r.URL.Query().Get("v") == version || strings.Contains(r.URL.Path, "/fonts/") {
			w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
		}
		files.ServeHTTP(w, r)
	}
}

// page is what every page has.
type page struct {
	Title   string
	Place   string // what the navigation marks as open
	Message string // what happened, when it was not what was asked for
}

var templates = template.Must(template.New("").Funcs(template.FuncMap{
	"asset":    func(name string) string { return "/static/" + name + "?v=" + version },
	"length":   lengthHTML,
	"size":     sizeHTML,
	"nm":       func(v int64, u length.Unit) template.HTML { return lengthHTML(length.Length(v), u) },
	"nearsize": func(s length.Size, u length.Unit) template.HTML { return proper(s.Near(u)) },
	"near":     func(l length.Length, u length.Unit) template.HTML { return proper(l.Near(u)) },
	"svglen":   func(l length.Length, u length.Unit) template.HTML { return properSVG(l.With(u)) },
	"svgsize":  func(s length.Size, u length.Unit) template.HTML { return properSVG(s.With(u)) },
	"about":    about,
	"clock":    clock,
	"mm":       mm,
	"dict":     dict,
	"add":      func(a, b float64) float64 { return a + b },
	"sub":      func(a, b float64) float64 { return a - b },
	"thin":     func(l length.Length) string { return strconv.FormatFloat(l.MM(), 'f', -1, 64) + " mm" },
	"svgtext":  properSVG,
	"knows": func(dies []card.DieSet, name string) bool {
		return slices.ContainsFunc(dies, func(d card.DieSet) bool { return d.Name == name })
	},
	"sides": func() []string { return []string{"left", "top", "right", "bottom"} },
	"onshelf": func(all []shelf.Own, what shelf.What, name string) bool {
		return slices.ContainsFunc(all, func(o shelf.Own) bool { return o.What == what && o.Name == name })
	},
	"grades":  func() []string { return []string{"none", "slight", "some", "strong"} },
	"ghosts":  func() (out []int) { return []int{1, 2, card.MaxGhost} },
	"ghost":   func(n int) int { return int(100*panel.GhostShare(n) + 0.5) },
	"hundred": func(share float64) float64 { return 100 * share },
	"place":   func(mm float64, u length.Unit) template.HTML { return proper(length.FromMM(mm).Near(u)) },
	"half":    func(a float64) float64 { return a / 2 },
	"inc":     func(i int) int { return i + 1 },
	"max1":    func(i int) int { return max(1, i) },
	"dryingName": func(d card.Drying) string {
		return map[card.Drying]string{card.Mixed: "small by heat, big by air", card.Air: "air", card.Heat: "heat tool"}[d]
	},
	"changeName":   change.NameOf,
	"changeValues": change.Values,
	"heatCaution":  func() string { return steps.HeatCaution },
	"plural":       plural,
	"proper":       proper,
	"cellList":     cellList,
	"percent":      func(share float64) string { return strconv.FormatFloat(share*100, 'f', -1, 64) },
	"hm":           func(d time.Duration) string { return fmt.Sprintf("%d:%02d", int(d.Hours()), int(d.Minutes())%60) },
	"transparency": func(code string) string {
		return map[string]string{"T": "transparent", "ST": "semi-transparent", "SO": "semi-opaque", "O": "opaque"}[code]
	},
	"tone":  colours,
	"upper": func(s string) string { return strings.ToUpper(s[:1]) + s[1:] },
	"slug":  func(v any) string { return strings.ReplaceAll(fmt.Sprint(v), " ", "-") },
}).ParseFS(templateFiles, "templates/*.html"))

// render writes a page and returns it. It is rendered whole before anything is
// sent, so that a failure cannot leave half a page; it is nil then.
func (s *Server) render(w http.ResponseWriter, r *http.Request, status int, name string, data any) []byte {
	var buf bytes.Buffer
	if err := templates.ExecuteTemplate(&buf, name, data); err != nil {
		s.log.Error("rendering", "page", name, "path", r.URL.Path, "error", err)
		http.Error(w, errInternal.Error(), http.StatusInternalServerError)
		return nil
	}
	sendPage(w, status, buf.Bytes())
	return buf.Bytes()
}

func sendPage(w http.ResponseWriter, status int, html []byte) {
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Cache-Control", "no-store")
	w.WriteHeader(status)
	_, _ = w.Write(html) // the reader may have gone
}

// fraction is a proper fraction with the space that may set it off from a whole
// number.
var fraction = regexp.MustCompile(`(?:(\d+) )?\b(\d+/\d+)\b`)

// proper marks fractions up, so that the typeface can draw them properly. The
// space before one stays, for whoever hears or copies the text.
func proper(text string) template.HTML {
	return marked(text, `<span class="frac">`, `<span class="frac after">`, "</span>")
}

// properSVG is proper for text in a drawing.
func properSVG(text string) template.HTML {
	return marked(text, `<tspan class="frac">`, `<tspan class="frac" dx="-.12em">`, "</tspan>")
}

// marked puts fractions between alone and end, those that follow a whole number
// between after and end.
func marked(text, alone, after, end string) template.HTML {
	return template.HTML(fraction.ReplaceAllStringFunc(template.HTMLEscapeString(text), func(f string) string {
		whole, part, mixed := strings.Cut(f, " ")
		if !mixed {
			return alone + f + end
		}
		return whole + " " + after + part + end
	}))
}

func lengthHTML(l length.Length, u length.Unit) template.HTML { return proper(l.With(u)) }

func sizeHTML(s length.Size, u length.Unit) template.HTML { return proper(s.With(u)) }

// about says a time as a maker would.
func about(d time.Duration) string {
	m := int(math.Round(d.Minutes()))
	switch {
	case d < 50*time.Second:
		return fmt.Sprintf("about %d s", max(5, int(math.Round(d.Seconds()/5)*5)))
	case m < 10:
		return fmt.Sprintf("about %d min", max(1, m))
	case m < 100:
		return fmt.Sprintf("about %d min", (m+2)/5*5)
	}
	h, rest := m/60, (m%60+7)/15*15
	if rest == 60 {
		h, rest = h+1, 0
	}
	if rest == 0 {
		return fmt.Sprintf("about %d h", h)
	}
	return fmt.Sprintf("about %d h %d min", h, rest)
}

// together says times that are shown beside each other, and their sum: each is rounded
// once, to the same step, so that what is read adds up.
func together(parts ...time.Duration) (words []string, sum string) {
	total := time.Duration(0)
	for _, d := range parts {
		total += d
	}
	step := 5 * time.Minute
	if total < 20*time.Minute {
		step = time.Minute
	}
	total = 0
	for _, d := range parts {
		d = d.Round(step)
		total += d
		words = append(words, roundWords(d))
	}
	return words, roundWords(total)
}

// roundWords says a time of whole minutes.
func roundWords(d time.Duration) string {
	h, m := int(d.Hours()), int(d.Minutes())%60
	switch {
	case d == 0:
		return "next to none"
	case h == 0:
		return fmt.Sprintf("about %d min", m)
	case m == 0:
		return fmt.Sprintf("about %d h", h)
	}
	return fmt.Sprintf("about %d h %d min", h, m)
}

// clock prints a time since the start as hours and minutes, with seconds.
func clock(d time.Duration) string {
	s := int(d.Seconds())
	return fmt.Sprintf("%d:%02d:%02d", s/3600, s/60%60, s%60)
}

// mm prints a number of millimetres for a drawing.
func mm(v float64) string { return strconv.FormatFloat(v, 'f', 2, 64) }

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

func plural(n int, what string) string {
	if n == 1 {
		return "1 " + what
	}
	return fmt.Sprintf("%d %ss", n, what)
}
