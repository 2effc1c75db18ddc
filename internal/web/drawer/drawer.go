// Package drawer is what the drawers of the studio have in common: pages that do not
// belong to one card.
package drawer

import (
	"context"
	"errors"
	"net/http"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/length"
	"chromaqua/internal/bench"
	"chromaqua/internal/desk"
	"chromaqua/internal/easel"
	"chromaqua/internal/store"
	"chromaqua/internal/web/door"
	"chromaqua/internal/web/page"
)

// Kit is what a drawer works with.
type Kit struct {
	*page.Pages
	*desk.Desk
	Door    *door.Door
	Benches *bench.Benches
	Easel   *easel.Easel
	Machine *Machine
}

// Machine is what the program can do on the machine it runs on, for who sits at it; each is
// nil where it cannot.
type Machine struct {
	End    func()                  // closes the program
	MoveTo func(path string)       // closes the studio, moves its file and opens it there
	Show   func(path string) error // opens a folder
}

// Entry is a drawer's row in the table of drawers.
type Entry struct {
	page.Room
	page.Link // in the navigation
	Routes    func(Kit, chi.Router)
}

// A Place is a page of something that has revisions and of which there is one.
type Place struct {
	At   string // its address
	Head func(context.Context) (store.Head, error)
	Show func(w http.ResponseWriter, r *http.Request, status int, message string) error
}

// Moves answers undo and redo at a place; what a second tab has to know is said there.
func (k Kit) Moves(r chi.Router, p Place) {
	for name, step := range map[string]func(ctx context.Context, id, base int64) error{"undo": k.Undo, "redo": k.Redo} {
		r.Post(p.At+"/"+name, k.Handle(func(w http.ResponseWriter, r *http.Request) error {
			if err := page.Read(w, r); err != nil {
				return err
			}
			now, err := p.Head(r.Context())
			if err != nil {
				return err
			}
			base, err := page.BaseOf(r)
			if err != nil {
				return err
			}
			switch err := step(r.Context(), now.ID, base); {
			case errors.Is(err, store.ErrStale):
				return p.Show(w, r, http.StatusConflict, err.Error())
			case err != nil:
				return err
			}
			http.Redirect(w, r, p.At+"?unit="+page.UnitOf(r).String()+"&moved="+name, http.StatusSeeOther)
			return nil
		}))
	}
}

// History is what a page with revisions shows of them: what can be taken back and done
// again, and, coming from there, what has been.
type History struct {
	store.Head
	At    string
	Unit  length.Unit
	Moved string // "undo" or "redo" when the page comes from there
}

// HistoryOf returns the history of a page at an address.
func HistoryOf(r *http.Request, at string, head store.Head) History {
	return History{head, at, page.UnitOf(r), r.URL.Query().Get("moved")}
}
