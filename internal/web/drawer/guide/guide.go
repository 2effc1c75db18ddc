// Package guide is the illustrated guide: a page for each place of the program, and worked
// cards from blank paper to the envelope, to read, to follow and to print.
package guide

import (
	"embed"
	"html"
	"html/template"
	"net/http"
	"regexp"
	"slices"

	"github.com/go-chi/chi/v5"

	"chromaqua/internal/store"
	"chromaqua/internal/web/drawer"
	"chromaqua/internal/web/page"
)

//go:embed *.html
var files embed.FS

//go:embed pictures/*.webp
var pictures embed.FS

// Entry is the guide's row in the table of drawers; the navigation leads there by its mark.
var Entry = drawer.Entry{
	Room: page.Room{Files: files, Funcs: template.FuncMap{"labelled": labelled}},
	Link: page.Link{Place: "guide", Name: "Guide", Path: "/guide"},
	Routes: func(k drawer.Kit, r chi.Router) {
		d := &place{k}
		r.Get("/guide", d.Handle(d.contents))
		r.Get("/guide/{page}", d.Handle(d.page))
		r.Get("/guide/pictures/{name}", d.Handle(d.picture))
	},
}

type place struct{ drawer.Kit }

// A Page is one page of the guide.
type Page struct {
	ID, Title, Lead string
	Worked          bool // a card to follow along
	Parts           []Part
}

// A Part is a stretch of a page: words, where *stars* hold what stands on a button or a
// field, and a picture of what they speak of.
type Part struct {
	Title string
	Says  []string
	Steps []string // to do, in order
	Shows *Picture
}

// A Picture is a real screen, cut to what is spoken of: all that a selector finds.
type Picture struct {
	Name, Path, Select, Alt string
}

// Pages are those of the guide, in order.
func Pages() []Page { return slices.Clone(pages) }

// Pictures are those of the guide, each once.
func Pictures() (out []Picture) {
	for _, p := range pages {
		for _, part := range p.Parts {
			if part.Shows != nil && !slices.ContainsFunc(out, func(o Picture) bool { return o.Name == part.Shows.Name }) {
				out = append(out, *part.Shows)
			}
		}
	}
	return out
}

// Label finds what stands on a button, in the words of the guide.
var Label = regexp.MustCompile(`\*([^*]+)\*`)

// labelled sets labels apart.
func labelled(words string) template.HTML {
	return template.HTML(Label.ReplaceAllString(html.EscapeString(words), "<b>$1</b>"))
}

type contentsView struct {
	page.Page
	Places, Worked []Page
}

func (d *place) contents(w http.ResponseWriter, r *http.Request) error {
	v := contentsView{Page: page.Page{Title: "Guide", Place: "guide"}}
	for _, p := range pages {
		if p.Worked {
			v.Worked = append(v.Worked, p)
		} else {
			v.Places = append(v.Places, p)
		}
	}
	d.Render(w, r, http.StatusOK, "guide.html", v)
	return nil
}

type pageView struct {
	page.Page
	Of           Page
	Before, Next *Page
}

func (d *place) page(w http.ResponseWriter, r *http.Request) error {
	id := chi.URLParam(r, "page")
	i := slices.IndexFunc(pages, func(p Page) bool { return p.ID == id })
	if i < 0 {
		return store.ErrNotFound
	}
	v := pageView{Page: page.Page{Title: pages[i].Title + ", guide", Place: "guide"}, Of: pages[i]}
	if i > 0 {
		v.Before = &pages[i-1]
	}
	if i+1 < len(pages) {
		v.Next = &pages[i+1]
	}
	d.Render(w, r, http.StatusOK, "guidepage.html", v)
	return nil
}

func (d *place) picture(w http.ResponseWriter, r *http.Request) error {
	data, err := pictures.ReadFile("pictures/" + chi.URLParam(r, "name"))
	if err != nil {
		return store.ErrNotFound
	}
	w.Header().Set("Content-Type", "image/webp")
	w.Header().Set("Cache-Control", "max-age=3600")
	_, err = w.Write(data)
	return err
}
