// Package mount is the station of putting a card together: what lies on what, held by what,
// how thick and heavy it becomes, and whether an envelope takes it.
package mount

import (
	"embed"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/change"
	"chromaqua/internal/desk"
	"chromaqua/internal/web/page"
	"chromaqua/internal/web/station"
)

//go:embed *.html *.js
var files embed.FS

// Entry is the station's row in the table of stations.
var Entry = station.Entry{
	Room: page.Room{Files: files},
	New:  func(h *station.Host) station.Station { return &place{h} },
}

type place struct{ host *station.Host }

// About says what the station is.
func (*place) About() station.About {
	return station.About{
		ID: "mount", Name: "Mount", Question: "How does it go together, will it fit and hold?",
		Drawing: "mount-drawing", Brief: true,
	}
}

// Show shows the card put together.
func (p *place) Show(v *station.Visit) error {
	shown, err := p.viewOf(v)
	if err != nil {
		return desk.Refuse(err)
	}
	v.Page.View = shown
	return nil
}

// Edits are the changes of how it is put together.
func (*place) Edits() []station.Edit {
	return station.Plain(change.Held{}, change.MovePiecePart{}, change.AlignPart{}, change.GlueLayers{})
}

// Routes answers with the sheet to put it together by, and labels for its back.
func (p *place) Routes(r chi.Router) {
	r.Get("/assembly.pdf", p.host.Handle(p.assemblySheet))
	r.Get("/labels.pdf", p.host.Handle(p.labels))
}
