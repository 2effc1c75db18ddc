// Package shelf is the shelf: inks, papers, powders and paints, and what these mix to.
package shelf

import (
	"bytes"
	"embed"
	"fmt"
	"html/template"
	"io"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/change"
	"chromaqua/core/length"
	"chromaqua/core/mask"
	"chromaqua/core/panel"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
	"chromaqua/internal/web/board"
	"chromaqua/internal/web/drawer"
	"chromaqua/internal/web/page"
)

//go:embed *.html
var files embed.FS

// Entry is the drawer's row in the table of drawers.
var Entry = drawer.Entry{
	Room: page.Room{Files: files, Funcs: template.FuncMap{
		"grades": func() []string { return []string{"none", "slight", "some", "strong"} },
	}},
	Link: page.Link{Place: "shelf", Name: "Shelf", Path: "/shelf"},
	Routes: func(k drawer.Kit, r chi.Router) {
		d := &place{k}
		r.Get("/shelf", d.Handle(d.shelfPage))
		r.Post("/shelf", d.Handle(d.editShelf))
		r.Get("/shelf.csv", d.Handle(d.shelfCSV))
		r.Post("/shelf/import", d.Handle(d.importShelf))
		k.Moves(r, drawer.Place{At: at, Head: k.ShelfHead, Show: d.showShelf})
		r.Get("/mixing", d.Handle(d.mixing))
		r.Get("/mixing.{as:svg|pdf}", d.Handle(d.mixingSheet))
	},
}

// at is the address of the page.
const at = "/shelf"

type place struct{ drawer.Kit }

// shelfView is the page of inks, papers, powders and paints.
type shelfView struct {
	page.Page
	drawer.History
	Own     []shelf.Own
	Inks    []shelf.Ink
	Papers  []shelf.Paper
	Powders []shelf.Powder
	Masks   []mask.Way
	Paints  []board.Pan
	Forms   []shelf.PaintForm
	Gone    bool // one was just put away
}

// masks are the ways of keeping paper white that lay something on it.
func masks() []mask.Way {
	return slices.DeleteFunc(mask.Ways(), func(w mask.Way) bool { return !w.Facts().Lays })
}

// LikeName names the general material that one of the maker's is like.
func (v shelfView) LikeName(o shelf.Own) string {
	switch o.What {
	case shelf.OwnInk:
		if k, err := shelf.InkByID(o.Like); err == nil {
			return k.Name
		}
	case shelf.OwnPowder:
		if p, err := shelf.PowderByID(o.Like); err == nil {
			return p.Name
		}
	case shelf.OwnPaper:
		return v.PaperName(o.Like)
	case shelf.OwnMask:
		return mask.Way(o.Like).Facts().Name
	}
	return o.Like
}

// PaperName names a general paper.
func (shelfView) PaperName(id string) string {
	if p, err := shelf.PaperByID(id); err == nil {
		return p.Name
	}
	return id
}

// Dab is how a paint of the maker's looks as milk, dry on white; "" when it is none.
func (shelfView) Dab(o shelf.Own) string {
	m, err := o.Mixture()
	if err != nil {
		return ""
	}
	white := panel.Ground("")
	r := pigment.Seen(m.Over(&white, 1), pigment.Dry)
	return r.Hex()
}

// Made is what a paint of the maker's is made of, by the names painters use.
func (shelfView) Made(o shelf.Own) string {
	of, err := o.Pigments()
	if err != nil {
		return o.Like
	}
	var out []string
	for _, p := range of {
		name := pigment.Common(p.CI)
		if len(of) > 1 {
			name = fmt.Sprintf("%d %s", p.Parts, name)
		}
		out = append(out, name)
	}
	return strings.Join(out, " + ")
}

func (d *place) shelfPage(w http.ResponseWriter, r *http.Request) error {
	return d.showShelf(w, r, http.StatusOK, "")
}

func (d *place) showShelf(w http.ResponseWriter, r *http.Request, status int, message string) error {
	own, err := d.Materials(r.Context())
	if err != nil {
		return err
	}
	head, err := d.ShelfHead(r.Context())
	if err != nil {
		return err
	}
	d.Render(w, r, status, "shelf.html", shelfView{
		Page: page.Page{Title: "Shelf", Place: "shelf", Message: message}, History: drawer.HistoryOf(r, at, head), Own: own, Inks: shelf.Inks(), Papers: shelf.Papers(), Powders: shelf.Powders(), Masks: masks(), Paints: board.Pans(panel.ChartPalette(own), nil), Forms: shelf.PaintForms(),
		Gone: r.URL.Query().Has("gone"),
	})
	return nil
}

// editShelf adds a material or puts one away.
func (d *place) editShelf(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	what, name, _ := strings.Cut(r.PostForm.Get("material"), ":")
	to := at + "?unit=" + page.UnitOf(r).String()
	base, err := page.BaseOf(r)
	if err != nil {
		return d.afterShelf(w, r, to, err)
	}
	switch r.PostForm.Get("edit") {
	case "add":
		var o shelf.Own
		if o, err = ownOf(r); err == nil {
			err = d.PutMaterials(r.Context(), base, []shelf.Own{o}, "added "+o.Name)
		}
	case "tried":
		err = d.tried(r, base, name)
	case "away":
		err = d.HideMaterial(r.Context(), base, shelf.What(what), name)
		to += "&gone"
	default:
		err = page.ErrOldPage
	}
	return d.afterShelf(w, r, to, err)
}

// tried notes that a mask was tried on a paper.
func (d *place) tried(r *http.Request, base int64, name string) error {
	var form struct {
		Paper string `json:"paper"` // "cotton-cp", or "cotton-cp:rain pad" for one of the maker's
		Tore  bool   `json:"tore"`
	}
	if err := page.Decode(r, &form); err != nil {
		return err
	}
	_, own, err := d.Material(r.Context(), shelf.OwnMask, "", &shelf.Own{Name: name})
	if err != nil {
		return err
	}
	paper, ownPaper, _ := strings.Cut(form.Paper, ":")
	if own.Try(paper, ownPaper, form.Tore); own.Check() != nil {
		return own.Check()
	}
	return d.PutMaterials(r.Context(), base, []shelf.Own{*own}, "tried "+own.Name)
}

func (d *place) afterShelf(w http.ResponseWriter, r *http.Request, to string, err error) error {
	if err = page.Refused(err); err != nil {
		status, words := d.Explain(r, err)
		return d.showShelf(w, r, status, wording.Sentence(words.Error()))
	}
	http.Redirect(w, r, to, http.StatusSeeOther)
	return nil
}

// ownOf reads the form for a material of the maker's.
func ownOf(r *http.Request) (o shelf.Own, err error) {
	var form struct {
		Name      string       `json:"name"`
		Like      string       `json:"like"` // what it is and is like, "ink:pigment"
		Pigments  string       `json:"pigments"`
		Colour    string       `json:"colour"`
		Note      string       `json:"note"`
		Form      shelf.Form   `json:"form"`
		Minutes   *float64     `json:"minutes" words:"minutes in air"`
		Seconds   *float64     `json:"seconds" words:"seconds of heat"`
		Thickness change.Typed `json:"thickness"`
		Belly     change.Typed `json:"belly"`
	}
	if err := page.Decode(r, &form); err != nil {
		return o, err
	}
	what, like, _ := strings.Cut(form.Like, ":")
	o = shelf.Own{Name: form.Name, What: shelf.What(what), Like: like, Colour: form.Colour, Note: form.Note, Form: form.Form}
	if form.Pigments != "" {
		o.What, o.Like = shelf.OwnPaint, form.Pigments
	}
	for _, f := range []struct {
		words string
		unit  time.Duration
		from  *float64
		to    *time.Duration
	}{{"minutes in air", time.Minute, form.Minutes, &o.AirDry}, {"seconds of heat", time.Second, form.Seconds, &o.HeatDry}} {
		if f.from == nil {
			continue
		}
		if !(*f.from >= 0 && *f.from <= shelf.MaxDrying.Seconds()) {
			return o, fmt.Errorf("%s: %g is no time to wait", f.words, *f.from)
		}
		*f.to = time.Duration(*f.from * float64(f.unit))
	}
	for _, f := range []struct {
		words string
		from  change.Typed
		to    *length.Length
	}{{"thickness", form.Thickness, &o.Thickness}, {"belly", form.Belly, &o.Belly}} {
		if f.from == "" {
			continue
		}
		if *f.to, err = length.Parse(string(f.from), length.Millimetres); err != nil {
			return o, fmt.Errorf("%s: %w", f.words, err)
		}
	}
	return o, o.Check()
}

func (d *place) shelfCSV(w http.ResponseWriter, r *http.Request) error {
	own, err := d.Materials(r.Context())
	if err != nil {
		return err
	}
	return page.SendFile(w, "text/csv; charset=utf-8", "Shelf", ".csv", func(to io.Writer) error { return shelf.WriteCSV(to, own) })
}

// importShelf adds the materials of a table, all or none.
func (d *place) importShelf(w http.ResponseWriter, r *http.Request) error {
	file, err := page.SentFile(w, r, shelf.MaxCSV)
	if err == nil {
		err = d.takeTable(r, file)
	}
	return d.afterShelf(w, r, at+"?unit="+page.UnitOf(r).String(), err)
}

func (d *place) takeTable(r *http.Request, file *page.File) error {
	base, err := page.BaseOf(r)
	if err != nil {
		return err
	}
	data, err := file.Data()
	if err != nil {
		return err
	}
	own, err := shelf.ReadCSV(bytes.NewReader(data), length.Millimetres)
	if err != nil {
		return fmt.Errorf("nothing was imported: %w", err)
	}
	return d.PutMaterials(r.Context(), base, own, "imported "+wording.Count(len(own), "material"))
}
