// Package page shows pages: it puts the templates, scripts and styles of all rooms of
// the web together, renders, decodes forms in one way, and words errors and times.
package page

import (
	"bytes"
	"embed"
	"fmt"
	"hash/fnv"
	"html/template"
	"io/fs"
	"log/slog"
	"net/http"
	"path"
	"slices"
	"strconv"
	"strings"

	"chromaqua/internal/store"
)

//go:embed *.html
var templates embed.FS

//go:embed static
var static embed.FS

// A Room is what one place of the web brings along: templates (*.html), scripts
// (*.js) and functions for its templates. Names are shared by all rooms.
type Room struct {
	Files fs.FS
	Funcs template.FuncMap
}

// Page is what every page has.
type Page struct {
	Title   string
	Place   string // what the navigation marks as open
	Message string // what happened, when it was not what was asked for
}

// Link is an entry of the navigation.
type Link struct{ Place, Name, Path string }

// Pages renders.
type Pages struct {
	log       *slog.Logger
	templates *template.Template
	assets    map[string][]byte // by path below /static/
	scripts   []string          // of the rooms, by name
	version   string
	// Copies are those of the studio, to be offered when it is damaged; may be nil.
	Copies func() ([]store.Copy, error)
}

// New puts rooms together; nav is the navigation of the studio. A template that cannot
// be read is a mistake in the program, and panics.
func New(log *slog.Logger, nav []Link, rooms ...Room) *Pages {
	p := &Pages{log: log, assets: map[string][]byte{}}
	own, err := fs.Sub(static, "static")
	p.must(err)
	p.must(fs.WalkDir(own, ".", func(name string, d fs.DirEntry, err error) error {
		if err != nil || d.IsDir() {
			return err
		}
		p.assets[name], err = fs.ReadFile(own, name)
		return err
	}))
	t := template.New("").Funcs(p.funcs(nav))
	for _, r := range rooms {
		t.Funcs(r.Funcs)
	}
	for _, r := range append([]Room{{Files: templates}}, rooms...) {
		p.take(t, r.Files)
	}
	slices.Sort(p.scripts)
	p.templates, p.version = t, versionOf(p.assets)
	return p
}

func (p *Pages) must(err error) {
	if err != nil {
		panic("page: embedded files: " + err.Error())
	}
}

// take adds the templates and scripts of a room.
func (p *Pages) take(t *template.Template, files fs.FS) {
	all, err := fs.ReadDir(files, ".")
	p.must(err)
	for _, f := range all {
		data, err := fs.ReadFile(files, f.Name())
		p.must(err)
		switch path.Ext(f.Name()) {
		case ".html":
			template.Must(t.New(f.Name()).Parse(string(data)))
		case ".js":
			p.assets[f.Name()] = data
			p.scripts = append(p.scripts, f.Name())
		}
	}
}

// versionOf changes whenever an asset does, so that browsers may keep assets for good.
func versionOf(assets map[string][]byte) string {
	h := fnv.New64a()
	var names []string
	for name := range assets {
		names = append(names, name)
	}
	slices.Sort(names)
	for _, name := range names {
		fmt.Fprintln(h, name)
		h.Write(assets[name])
	}
	return strconv.FormatUint(h.Sum64(), 36)
}

// Assets serves the files below /static/.
func (p *Pages) Assets(w http.ResponseWriter, r *http.Request) {
	name := strings.TrimPrefix(r.URL.Path, "/static/")
	data, ok := p.assets[name]
	if !ok {
		p.Fail(w, r, store.ErrNotFound)
		return
	}
	if r.URL.Query().Get("v") == p.version || strings.HasPrefix(name, "fonts/") {
		w.Header().Set("Cache-Control", "public, max-age=31536000, immutable")
	}
	w.Header().Set("Content-Type", mediaOf(name))
	_, _ = w.Write(data) // the reader may have gone
}

// mediaOf names the kind of an asset. The machine's own table is not asked: it differs
// from machine to machine.
func mediaOf(name string) string {
	switch path.Ext(name) {
	case ".css":
		return "text/css; charset=utf-8"
	case ".js":
		return "text/javascript; charset=utf-8"
	case ".svg":
		return "image/svg+xml"
	case ".woff2":
		return "font/woff2"
	}
	return "text/plain; charset=utf-8"
}

// Execute writes a template by its name.
func (p *Pages) Execute(buf *bytes.Buffer, name string, data any) error {
	return p.templates.ExecuteTemplate(buf, name, data)
}

// Has reports whether there is a template of that name.
func (p *Pages) Has(name string) bool { return p.templates.Lookup(name) != nil }

// Render writes a page and returns it. It is rendered whole before anything is sent,
// so that a failure cannot leave half a page; it is nil then.
func (p *Pages) Render(w http.ResponseWriter, r *http.Request, status int, name string, data any) []byte {
	var buf bytes.Buffer
	if err := p.Execute(&buf, name, data); err != nil {
		p.log.Error("rendering", "page", name, "path", r.URL.Path, "error", err)
		http.Error(w, ErrInternal.Error(), http.StatusInternalServerError)
		return nil
	}
	Send(w, status, buf.Bytes())
	return buf.Bytes()
}

// Send writes a page that has been rendered.
func Send(w http.ResponseWriter, status int, html []byte) {
	w.Header().Set("Content-Type", "text/html; charset=utf-8")
	w.Header().Set("Cache-Control", "no-store")
	w.WriteHeader(status)
	_, _ = w.Write(html) // the reader may have gone
}
