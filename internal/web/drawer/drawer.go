// Package drawer is what the drawers of the studio have in common: pages that do not
// belong to one card.
package drawer

import (
	"context"
	"errors"
	"net/http"

	"github.com/go-chi/chi/v5"

	"chromaqua/internal/desk"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
)

// Kit is what a drawer works with.
type Kit struct {
	*page.Pages
	*desk.Desk
}

// Entry is a drawer's row in the table of drawers.
type Entry struct {
	page.Room
	page.Link // in the navigation
	Routes    func(Kit, chi.Router)
}

// A Step is one through the revisions of a document.
type Step func(ctx context.Context, id, base int64) error

// Move takes a step with a document of which there is one, and goes back to its page;
// show says there what a second tab has to know.
func Move(w http.ResponseWriter, r *http.Request, now store.Head, to Step, back string, show func(http.ResponseWriter, *http.Request, int, string) error) error {
	switch err := to(r.Context(), now.ID, page.BaseOf(r, now.Seq)); {
	case errors.Is(err, store.ErrStale):
		return show(w, r, http.StatusConflict, err.Error())
	case err != nil:
		return err
	}
	http.Redirect(w, r, back, http.StatusSeeOther)
	return nil
}
