// Package masks is the station of what stays white: what must be protected, with what, and
// whether it is worth it; and whether a large wash can be laid before its edge dries.
package masks

import (
	"embed"
	"net/http"
	"slices"
	"strconv"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/change"
	"chromaqua/core/keeping"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
	"chromaqua/internal/desk"
	"chromaqua/internal/sheet"
	"chromaqua/internal/web/board"
	"chromaqua/internal/web/page"
	"chromaqua/internal/web/station"
)

//go:embed *.html
var files embed.FS

// Entry is the station's row in the table of stations.
var Entry = station.Entry{
	Room: page.Room{Files: files},
	New:  func(h *station.Host) station.Station { return &place{h} },
}

type place struct{ host *station.Host }

// About says what the station is.
func (*place) About() station.About {
	return station.About{ID: "masks", Name: "Masks", Question: "What must I protect, with what, and is it worth it?", Brief: true}
}

// Show shows what is kept, how it is kept best, and the open edges of large washes.
func (p *place) Show(v *station.Visit) error {
	b := &v.Page.Board
	b.Tools = board.Choosing()
	b.Chooses, b.Says = true, "Tap cells that are to stay white or pale, or draw a zone; then keep them."
	if v.Laid.Board == nil {
		v.WithoutBoard()
		return nil
	}
	shown, err := p.viewOf(v)
	if err != nil {
		return err
	}
	v.Page.View = shown
	b.Kept = board.KeptOf(v.Laid, shown.Open)
	if shown.Front != nil {
		b.Fronts = []*board.Front{board.FrontOf(v.Laid, &shown.Front.Front, shown.Front.cut())}
	}
	return nil
}

// Edits are the changes of what is kept.
func (p *place) Edits() []station.Edit {
	return append(station.Plain(
		change.KeepCells{}, change.KeepImage{}, change.KeepArea{}, change.KeepZone{}, change.Strew{}, change.KeepBy{}, change.KeepDuring{}, change.NameReserve{}, change.KeepNoMore{},
	), station.Edit{Name: change.NameOf(change.KeepWith{}), Do: p.keepWith})
}

// keepWith uses a mask of the shelf by its name.
func (p *place) keepWith(e *station.Editing) (change.Done, error) {
	c := change.KeepWith{Reserve: e.PostFormValue("reserve")}
	if name := e.PostFormValue("own"); name != "" {
		_, own, err := p.host.Material(e.Context(), shelf.OwnMask, "", &shelf.Own{Name: name})
		if err != nil {
			return change.Done{}, err
		}
		c.Own = own
	}
	return e.Make(c)
}

// Routes answers with templates of masks.
func (p *place) Routes(r chi.Router) {
	r.Get("/guides.{as:svg|pdf}", p.host.Handle(p.templates))
}

// templates sends guides and cut-outs of a piece at true size.
func (p *place) templates(w http.ResponseWriter, r *http.Request) error {
	rev, read, err := p.host.Panel(r)
	if err != nil {
		return err
	}
	doc, err := sheet.Guides(panel.Resolve(rev.Card, read.Sheet))
	if err != nil {
		return desk.Refuse(err)
	}
	return page.SendDrawing(w, r, doc.Title, doc)
}

// weighed are the pieces of a card, which of them is at hand, and what it is weighed with.
func (p *place) weighed(v *station.Visit) (*keeping.Desk, int, error) {
	pieces, _, err := p.host.Pieces(v.Context(), v.Rev)
	if err != nil {
		return nil, 0, err
	}
	at := slices.IndexFunc(pieces, func(o panel.Piece) bool { return o.ID == v.Laid.PieceID() })
	if at < 0 || pieces[at].Board == nil {
		return nil, -1, nil
	}
	pieces[at].Board = v.Laid.Board
	return &keeping.Desk{Pieces: pieces, Card: v.Rev.Whole, Bench: v.Studio.Bench}, at, nil
}

// frontAsked is the number of the front that is looked at, -1 for none.
func frontAsked(v *station.Visit) int {
	n, err := strconv.Atoi(v.FormValue("front"))
	if err != nil {
		return -1
	}
	return n
}
