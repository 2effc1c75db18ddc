// Package cards is the list of cards: found again, copied, put away, and moved as files.
package cards

import (
	"bytes"
	"cmp"
	"embed"
	"errors"
	"fmt"
	"io"
	"net/http"
	"slices"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/core/fold"
	"chromaqua/internal/cardfile"
	"chromaqua/internal/demo"
	"chromaqua/internal/desk"
	"chromaqua/internal/logfile"
	"chromaqua/internal/store"
	"chromaqua/internal/web/drawer"
	"chromaqua/internal/web/page"
)

//go:embed *.html
var files embed.FS

// Entry is the drawer's row in the table of drawers.
var Entry = drawer.Entry{
	Room: page.Room{Files: files},
	Link: page.Link{Place: "cards", Name: "Cards", Path: "/"},
	Routes: func(k drawer.Kit, r chi.Router) {
		d := &place{k}
		r.Get("/", d.Handle(d.home))
		r.Post("/import", d.Handle(d.importCard))
		r.Post("/begin", d.Handle(d.begin))
		r.Get("/cards/{card}/card.zip", d.Handle(d.exportCard))
		r.Post("/cards/{card}/copy", d.Handle(d.copyCard))
		r.Post("/cards/{card}/state/{state}", d.Handle(d.setState))
		r.Post("/cards/{card}/readable", d.Handle(d.goBackToReadable))
		r.Get("/cards/{card}/document.json", d.Handle(d.document))
	},
}

type place struct{ drawer.Kit }

// homePage is the list of cards.
type homePage struct {
	page.Page
	Cards    []homeCard
	Query    string
	Sort     string
	Archived bool // the archive is shown
	Not      []*store.Unreadable
	Gone     *gone
	Any      bool // there is a card at all
}

// gone is a card that was just deleted.
type gone struct {
	ID   int64
	Name string
}

type homeCard struct {
	*store.Revision
	Format string
}

// home lists the cards.
func (d *place) home(w http.ResponseWriter, r *http.Request) error {
	return d.showHome(w, r, http.StatusOK, "")
}

func (d *place) showHome(w http.ResponseWriter, r *http.Request, status int, message string) error {
	q := r.URL.Query()
	p := homePage{Page: page.Page{Title: "Cards", Place: "cards", Message: message}, Query: strings.TrimSpace(q.Get("q")), Sort: q.Get("sort"), Archived: q.Get("archive") != ""}
	state := store.Shown
	if p.Archived {
		state = store.Archived
	}
	revs, not, err := d.Cards(r.Context(), state)
	if err != nil {
		return err
	}
	p.Any, p.Not = len(revs) > 0, not
	for _, rev := range revs {
		if c := (homeCard{rev, formatName(rev.Card)}); c.matches(p.Query) {
			p.Cards = append(p.Cards, c)
		}
	}
	switch p.Sort {
	case "name":
		slices.SortStableFunc(p.Cards, func(a, b homeCard) int {
			return cmp.Compare(strings.ToLower(a.Card.Name), strings.ToLower(b.Card.Name))
		})
	case "format":
		slices.SortStableFunc(p.Cards, func(a, b homeCard) int { return cmp.Compare(a.Format, b.Format) })
	}
	if id, err := strconv.ParseInt(q.Get("deleted"), 10, 64); err == nil {
		var bad *store.Unreadable
		switch rev, err := d.Card(r.Context(), id); {
		case errors.As(err, &bad):
			p.Gone = &gone{id, fmt.Sprintf("Card %d", id)}
		case err == nil:
			p.Gone = &gone{id, rev.Card.Name}
		case !errors.Is(err, store.ErrNotFound):
			return err
		}
	}
	d.Render(w, r, status, "home.html", p)
	return nil
}

// begin makes a card for whoever has none: a finished one to look at, or one to paint.
func (d *place) begin(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	made := demo.Begin
	if r.PostFormValue("with") == "looking" {
		made = demo.Try
	}
	id, err := made(r.Context(), d.Store)
	if err != nil {
		return err
	}
	http.Redirect(w, r, page.CardPath(id, "colour"), http.StatusSeeOther)
	return nil
}

// matches reports whether a card has every word of a query somewhere in its
// name, notes, format, line, areas or paints.
func (c homeCard) matches(query string) bool {
	text := c.Card.Name + " " + c.Card.Notes + " " + c.Format
	for _, m := range c.Card.Images {
		text += " " + m.Title
	}
	for _, a := range c.Card.Areas {
		text += " " + a.Name
		for _, w := range a.Washes {
			text += " " + card.MixCodes(w.Mix) + " " + c.Card.Called.Mix(w.Mix)
		}
	}
	text = strings.ToLower(text)
	for _, word := range strings.Fields(strings.ToLower(query)) {
		if !strings.Contains(text, word) {
			return false
		}
	}
	return true
}

// copyCard makes a new card like one there is, without its history.
func (d *place) copyCard(w http.ResponseWriter, r *http.Request) error {
	rev, err := d.revision(r)
	if err != nil {
		return err
	}
	const copyOf = "Copy of "
	rev.Card.Name = copyOf + card.Shortened(rev.Card.Name, card.MaxName-len(copyOf))
	if _, err := d.Create(r.Context(), rev.Card, "copied the card"); err != nil {
		return err
	}
	http.Redirect(w, r, "/", http.StatusSeeOther)
	return nil
}

// setState archives a card, deletes it, or brings it back.
func (d *place) setState(w http.ResponseWriter, r *http.Request) error {
	id, err := cardOf(r)
	if err != nil {
		return err
	}
	to := store.State(chi.URLParam(r, "state"))
	if to != store.Shown && to != store.Archived && to != store.Deleted {
		return store.ErrNotFound
	}
	if err := d.SetState(r.Context(), id, to); err != nil {
		return err
	}
	back := "/"
	if to == store.Deleted {
		back = "/?deleted=" + strconv.FormatInt(id, 10)
	}
	http.Redirect(w, r, back, http.StatusSeeOther)
	return nil
}

func formatName(c *card.Card) string {
	if f, err := fold.FormatByID(c.Base.Format); err == nil {
		return f.Name
	}
	return "free size"
}

// exportCard sends a card as a card file.
func (d *place) exportCard(w http.ResponseWriter, r *http.Request) error {
	rev, err := d.revision(r)
	if err != nil {
		return err
	}
	file, err := cardfile.New(r.Context(), rev.Card, d.Store, rev.Made)
	if err != nil {
		return page.Refused(err)
	}
	if err := d.besides(r, file, rev); err != nil {
		return page.Refused(err)
	}
	page.Download(w, "application/zip", rev.Card.Name, ".card.zip")
	if err := file.Write(r.Context(), w); err != nil {
		panic(http.ErrAbortHandler) // what was sent is half a file, and must not look like a whole one
	}
	return nil
}

// besides puts beside a card what was asked for: its log, and its photos.
func (d *place) besides(r *http.Request, file *cardfile.File, rev *store.Revision) error {
	asked := r.URL.Query()
	if !asked.Has("log") && !asked.Has("photos") {
		return nil
	}
	name := func(p *store.Photo) string {
		if !asked.Has("photos") {
			return ""
		}
		return fmt.Sprintf("photos/%d.jpg", p.ID)
	}
	all, err := logfile.All(r.Context(), d.Desk, d.Benches, rev.ID, name)
	if err != nil {
		return err
	}
	for i := range all {
		all[i].Went = "" // whom it went to is private
	}
	var buf bytes.Buffer
	f := logfile.File{Kind: logfile.Kind, Version: logfile.Version, Card: rev.Whole.Name, Makings: all}
	if err := f.Write(&buf); err != nil {
		return err
	}
	if err := file.Attach("log.json", buf.Bytes()); err != nil || !asked.Has("photos") {
		return err
	}
	photos, err := d.PhotosOf(r.Context(), rev.ID)
	if err != nil {
		return err
	}
	for i := range photos {
		p, err := d.PhotoByID(r.Context(), photos[i].ID)
		if err != nil {
			return err
		}
		if err := file.Attach(name(&p), p.Data); err != nil {
			return err
		}
	}
	return nil
}

// importCard adds the card of a card file, or nothing.
func (d *place) importCard(w http.ResponseWriter, r *http.Request) error {
	file, err := page.SentFile(w, r, cardfile.MaxBytes)
	if err == nil {
		var id int64
		if id, err = d.addCardFile(r, file); err == nil {
			http.Redirect(w, r, page.CardPath(id, ""), http.StatusSeeOther)
			return nil
		}
	}
	status, words := d.Explain(r, err)
	return d.showHome(w, r, status, "Nothing was imported: "+words.Error())
}

// addCardFile reads a card file while no other picture is being opened.
func (d *place) addCardFile(r *http.Request, file *page.File) (int64, error) {
	release, err := d.OpenPicture(r.Context())
	if err != nil {
		return 0, err
	}
	defer release()
	in, err := file.Open()
	if err != nil {
		return 0, err
	}
	defer in.Close()
	c, images, err := cardfile.Read(r.Context(), in, file.Size)
	if err != nil {
		return 0, page.Refused(err)
	}
	return d.CreateWithImages(r.Context(), c, images, "imported the card")
}

// revision returns the card a request speaks of.
func (d *place) revision(r *http.Request) (*store.Revision, error) {
	id, err := cardOf(r)
	if err != nil {
		return nil, err
	}
	return d.Card(r.Context(), id)
}

func cardOf(r *http.Request) (int64, error) {
	id, err := strconv.ParseInt(chi.URLParam(r, "card"), 10, 64)
	if err != nil {
		return 0, store.ErrNotFound
	}
	return id, nil
}

// goBackToReadable shows the last state of a card that can be read.
func (d *place) goBackToReadable(w http.ResponseWriter, r *http.Request) error {
	id, err := cardOf(r)
	if err != nil {
		return err
	}
	switch err := d.GoBackToReadable(r.Context(), id); {
	case errors.Is(err, store.ErrNoneReadable):
		return desk.Refuse(err)
	case err != nil:
		return err
	}
	http.Redirect(w, r, page.CardPath(id, ""), http.StatusSeeOther)
	return nil
}

// document sends what is stored of a card, readable or not.
func (d *place) document(w http.ResponseWriter, r *http.Request) error {
	id, err := cardOf(r)
	if err != nil {
		return err
	}
	doc, err := d.Document(r.Context(), id)
	if err != nil {
		return err
	}
	return page.SendFile(w, "application/json", fmt.Sprintf("Card %d", id), ".json", func(to io.Writer) error {
		_, err := to.Write(doc)
		return err
	})
}
