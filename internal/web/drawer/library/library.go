// Package library is the drawer of images.
package library

import (
	"cmp"
	"embed"
	"errors"
	"fmt"
	"net/http"
	"net/url"
	"slices"
	"strconv"
	"strings"
	"text/template"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/length"
	"chromaqua/core/shelf"
	"chromaqua/core/wording"
	"chromaqua/internal/desk"
	"chromaqua/internal/picture"
	"chromaqua/internal/store"
	"chromaqua/internal/web/drawer"
	"chromaqua/internal/web/page"
)

//go:embed *.html
var files embed.FS

// Entry is the drawer's row in the table of drawers.
var Entry = drawer.Entry{
	Room: page.Room{Files: files, Funcs: template.FuncMap{
		"sides": func() []string { return sides },
	}},
	Link: page.Link{Place: "library", Name: "Library", Path: "/library"},
	Routes: func(k drawer.Kit, r chi.Router) {
		d := &place{k}
		r.Get("/library", d.Handle(d.libraryPage))
		r.Post("/library", d.Handle(d.addImage))
		r.Post("/library/{hash}", d.Handle(d.editImage))
		r.Get("/images/{hash}", d.Handle(d.image))
		k.Moves(r, drawer.Place{At: at, Head: k.LibraryHead, Show: d.showLibrary})
	},
}

// sides are what is cut off an image when it is straightened.
var sides = []string{"left", "top", "right", "bottom"}

// at is the address of the page.
const at = "/library"

type place struct{ drawer.Kit }

// libraryView is the page of the maker's images.
type libraryView struct {
	page.Page
	drawer.History
	Groups []imageGroup // those of the page that is shown
	Number int          // of the page, from 1
	Pages  int
	Found  int // images on all pages
	Kinds  []shelf.ImageKind
	Mounts []shelf.Mount
	Query  string
	Gone   bool // one was just put away
}

// imageGroup is images of one kind.
type imageGroup struct {
	Kind   shelf.ImageKind
	Images []imageView
}

// perPage bounds the images of a page: each brings a form and a picture.
const perPage = 48

// To is the address of another page of what was found.
func (v *libraryView) To(number int) string {
	q := url.Values{"page": {strconv.Itoa(number)}, "unit": {v.Unit.String()}}
	if v.Query != "" {
		q.Set("q", v.Query)
	}
	return at + "?" + q.Encode()
}

// Before and After are the pages beside the one that is shown, 0 for none.
func (v *libraryView) Before() int { return v.Number - 1 }

func (v *libraryView) After() int {
	if v.Number == v.Pages {
		return 0
	}
	return v.Number + 1
}

// show takes one page of the images, those of a kind together.
func (v *libraryView) show(images []imageView, number int) {
	slices.SortStableFunc(images, func(a, b imageView) int {
		return cmp.Compare(slices.Index(v.Kinds, a.Kind), slices.Index(v.Kinds, b.Kind))
	})
	v.Found = len(images)
	v.Pages = max(1, (len(images)+perPage-1)/perPage)
	v.Number = min(max(1, number), v.Pages)
	for _, m := range images[(v.Number-1)*perPage : min(len(images), v.Number*perPage)] {
		if n := len(v.Groups); n == 0 || v.Groups[n-1].Kind != m.Kind {
			v.Groups = append(v.Groups, imageGroup{Kind: m.Kind})
		}
		g := &v.Groups[len(v.Groups)-1]
		g.Images = append(g.Images, m)
	}
}

type imageView struct {
	store.Image
	Size length.Size // real
	Uses int
}

func (d *place) libraryPage(w http.ResponseWriter, r *http.Request) error {
	return d.showLibrary(w, r, http.StatusOK, "")
}

func (d *place) showLibrary(w http.ResponseWriter, r *http.Request, status int, message string) error {
	images, err := d.Library(r.Context())
	if err != nil {
		return err
	}
	head, err := d.LibraryHead(r.Context())
	if err != nil {
		return err
	}
	uses := map[string]int{}
	for _, state := range []store.State{store.Shown, store.Archived} {
		cards, _, err := d.Cards(r.Context(), state)
		if err != nil {
			return err
		}
		for _, c := range cards {
			for _, m := range c.Card.Images {
				uses[m.Image]++
			}
		}
	}
	v := libraryView{
		Page: page.Page{Title: "Library", Place: "library", Message: message}, History: drawer.HistoryOf(r, at, head), Kinds: shelf.ImageKinds(), Mounts: shelf.Mounts(),
		Query: strings.TrimSpace(r.URL.Query().Get("q")), Gone: r.URL.Query().Has("gone"),
	}
	var found []imageView
	for _, m := range images {
		if m.SpeaksOf(v.Query) {
			scan := card.Scan{WidthPX: m.Width, HeightPX: m.Height, Width: m.Real}
			found = append(found, imageView{m, scan.Size(), uses[m.Hash]})
		}
	}
	number, _ := strconv.Atoi(r.URL.Query().Get("page")) // the first when it is none
	v.show(found, number)
	d.Render(w, r, status, "library.html", &v)
	return nil
}

// addImage puts an image into the library.
func (d *place) addImage(w http.ResponseWriter, r *http.Request) error {
	file, err := page.SentFile(w, r, picture.MaxBytes)
	if err == nil {
		err = d.takeImage(r, file)
	}
	return d.afterLibrary(w, r, err)
}

func (d *place) takeImage(r *http.Request, file *page.File) error {
	base, err := page.BaseOf(r)
	if err != nil {
		return err
	}
	release, err := d.OpenPicture(r.Context())
	if err != nil {
		return err
	}
	defer release()
	data, err := file.Data()
	if err != nil {
		return err
	}
	m, err := desk.NewImage(r.Context(), data, file.Name, file.Page)
	if err != nil {
		return err
	}
	m.Kept = true
	says := m.Real
	if err := described(&m, r); err != nil {
		return err
	}
	if m.Real == 0 {
		m.Real = says
	}
	return d.PutImage(r.Context(), base, m)
}

// described reads what a form says of an image. A width left empty is not known
// yet.
func described(m *store.Image, r *http.Request) error {
	if title := strings.TrimSpace(r.FormValue("title")); title != "" {
		m.Title = title
	}
	if err := card.CheckName("image", m.Title); err != nil {
		return err
	}
	m.Real = 0
	if text := strings.TrimSpace(r.FormValue("width")); text != "" {
		width, err := picture.RealWidth(text, page.UnitOf(r), m.Width)
		if err != nil {
			return fmt.Errorf("real width: %w", err)
		}
		m.Real = width
	}
	m.Facts = store.Facts{
		Kind:  shelf.ImageKind(cmp.Or(r.FormValue("kind"), string(shelf.LineImage))),
		Mount: shelf.Mount(r.FormValue("mount")), Notes: strings.ReplaceAll(strings.TrimSpace(r.FormValue("notes")), "\r\n", "\n"),
	}
	return m.Facts.Check()
}

// editImage changes what is known of an image, straightens it or puts it away.
func (d *place) editImage(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	m, err := d.Image(r.Context(), chi.URLParam(r, "hash"))
	if err != nil {
		return err
	}
	base, err := page.BaseOf(r)
	if err != nil {
		return d.afterLibrary(w, r, err)
	}
	switch r.PostForm.Get("edit") {
	case "describe":
		if err = described(m, r); err == nil {
			err = d.Describe(r.Context(), base, *m, "changed "+m.Title)
		}
	case "straighten":
		err = d.straighten(r, base, m)
	case "away":
		m.Kept = false
		if err = d.Describe(r.Context(), base, *m, "put "+m.Title+" away"); err == nil {
			http.Redirect(w, r, at+"?gone&unit="+page.UnitOf(r).String(), http.StatusSeeOther)
			return nil
		}
	default:
		err = page.ErrOldPage
	}
	return d.afterLibrary(w, r, err)
}

// straighten makes a turned and cropped picture of an image, which takes its
// place in the library; cards keep the old one.
func (d *place) straighten(r *http.Request, base int64, m *store.Image) error {
	if m.Real == 0 {
		return errors.New("say first how wide the image really is; what is cut off is measured by that")
	}
	turn, err := change.ParseNumber(cmp.Or(strings.TrimSpace(r.FormValue("turn")), "0"))
	if err != nil {
		return fmt.Errorf("turn: %w", err)
	}
	if !(turn >= -180 && turn <= 180) {
		return errors.New("an image is turned by -180 to 180 degrees")
	}
	px := float64(m.Width) / m.Real.MM()
	var off [4]int
	for i, side := range sides {
		text := strings.TrimSpace(r.FormValue(side))
		if text == "" {
			continue
		}
		l, err := length.ParseOffset(text, page.UnitOf(r))
		if err != nil {
			return fmt.Errorf("cut off %s: %w", side, err)
		}
		off[i] = int(l.MM()*px + 0.5)
	}
	release, err := d.OpenPicture(r.Context())
	if err != nil {
		return err
	}
	defer release()
	data, err := picture.Straighten(m.Data, turn, off[0], off[1], off[2], off[3])
	if err != nil {
		return err
	}
	next, err := desk.NewImage(r.Context(), data, m.Title, 1)
	if err != nil {
		return err
	}
	next.Title, next.Facts, next.Kept = m.Title, m.Facts, true
	next.Real = length.FromMM(float64(next.Width) / px)
	return d.ReplaceImage(r.Context(), base, m.Hash, next, "straightened "+m.Title)
}

func (d *place) afterLibrary(w http.ResponseWriter, r *http.Request, err error) error {
	if err = page.Refused(err); err != nil {
		status, words := d.Explain(r, err)
		return d.showLibrary(w, r, status, wording.Sentence(words.Error()))
	}
	http.Redirect(w, r, at+"?unit="+page.UnitOf(r).String(), http.StatusSeeOther)
	return nil
}

// image serves a stored picture. Its address names its content, so it may be
// kept for good.
func (d *place) image(w http.ResponseWriter, r *http.Request) error {
	m, err := d.Image(r.Context(), chi.URLParam(r, "hash"))
	if err != nil {
		return err
	}
	w.Header().Set("Content-Type", m.Media)
	w.Header().Set("Cache-Control", "private, max-age=31536000, immutable")
	_, _ = w.Write(m.Data)
	return nil
}
