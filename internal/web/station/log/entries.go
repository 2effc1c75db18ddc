package log

import (
	"net/http"
	"strconv"
	"strings"

	"chromaqua/core/card"
	"chromaqua/core/lesson"
	"chromaqua/internal/album"
	"chromaqua/internal/bench"
	"chromaqua/internal/desk"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
)

// entryOf reads an entry from its form.
func entryOf(r *http.Request, id int64) (e store.Entry, err error) {
	e = store.Entry{Card: id, Day: strings.TrimSpace(r.PostFormValue("day")), Notes: tidy(r.PostFormValue("notes")), Turned: tidy(r.PostFormValue("turned")), Went: tidy(r.PostFormValue("went"))}
	numbers := map[string]*int{"copies": &e.Copies, "minutes": &e.Minutes}
	for name, to := range numbers {
		text := strings.TrimSpace(r.PostFormValue(name))
		if text == "" {
			continue
		}
		if *to, err = strconv.Atoi(text); err != nil {
			return e, page.Refused(errNumber)
		}
	}
	e.Copies = max(e.Copies, 1)
	if text := r.PostFormValue("entry"); text != "" {
		if e.ID, err = strconv.ParseInt(text, 10, 64); err != nil {
			return e, page.ErrOldPage
		}
	}
	return e, nil
}

func tidy(text string) string { return strings.TrimSpace(strings.ReplaceAll(text, "\r\n", "\n")) }

// enter keeps a making that was entered by hand, or takes it away.
func (p *place) enter(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	rev, err := p.host.Revision(r)
	if err != nil {
		return err
	}
	e, err := entryOf(r, rev.ID)
	if err == nil {
		if r.PostForm.Has("remove") {
			err = p.host.RemoveEntry(r.Context(), rev.ID, e.ID)
		} else if _, err = p.host.PutEntry(r.Context(), e); err != nil {
			err = desk.Refuse(err)
		}
	}
	if err != nil {
		return p.refused(w, r, rev, err)
	}
	http.Redirect(w, r, page.CardAddress(rev.Address(), "log"), http.StatusSeeOther)
	return nil
}

// maxSisterCopies bounds what a form may ask for; the card says the rest.
const maxSisterCopies = card.MaxCopies

// sister makes another card like the one that was made, with what it taught.
func (p *place) sister(w http.ResponseWriter, r *http.Request) error {
	if err := page.Read(w, r); err != nil {
		return err
	}
	rev, err := p.host.Revision(r)
	if err != nil {
		return err
	}
	of := album.Of{Card: rev.ID}
	for name, to := range map[string]*int64{"run": &of.Run, "entry": &of.Entry} {
		*to, _ = strconv.ParseInt(r.PostFormValue(name), 10, 64) // none is 0
	}
	made, l, err := p.madeFrom(r, rev, of)
	if err != nil {
		return err
	}
	photos, err := p.host.PhotosOf(r.Context(), rev.ID)
	if err != nil {
		return err
	}
	c, err := made.Whole.Clone()
	if err != nil {
		return err
	}
	lesson.Take(c, lesson.From(made.Whole, addedIn(l, rev.ID), seenIn(photos, of)), r.PostForm["lesson"])
	c.Name = card.Ending(c.Name, ", again")
	if n, err := strconv.Atoi(strings.TrimSpace(r.PostFormValue("copies"))); err == nil {
		c.Copies = min(maxSisterCopies, max(1, n))
	}
	if err := c.Check(); err != nil {
		return p.refused(w, r, rev, desk.Refuse(err))
	}
	id, err := p.host.Create(r.Context(), c, "made again from the log of “"+made.Whole.Name+"”")
	if err != nil {
		return err
	}
	http.Redirect(w, r, page.CardPath(id, "colour"), http.StatusSeeOther)
	return nil
}

// addedIn are the coats that were added to a card in a run; in none, without its log.
func addedIn(l *bench.Log, card int64) (out []lesson.Added) {
	if l == nil {
		return nil
	}
	for _, a := range l.State.AddedCoats() {
		if l.IsOf(a.Card, card) {
			out = append(out, lesson.Added{Area: a.Area, Wash: a.Wash})
		}
	}
	return out
}

// seenIn is how areas came out in the latest photos of a making.
func seenIn(photos []store.Photo, of album.Of) (out []lesson.Seen) {
	for i := len(photos) - 1; i >= 0; i-- {
		p := &photos[i]
		if !of.Shows(p) {
			continue
		}
		if r := album.ReadingOf(p); r != nil {
			for _, a := range r.Areas {
				out = append(out, lesson.Seen{Area: a.ID, Verdict: a.Verdict, Sure: a.Sure})
			}
		}
	}
	return out
}
