package format

import (
	"embed"
	"errors"
	"html/template"
	"net/http"
	"slices"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/internal/desk"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
	"chromaqua/internal/web/station"
)

//go:embed *.html *.js
var files embed.FS

// Entry is the station's row in the table of stations.
var Entry = station.Entry{
	Room: page.Room{Files: files, Funcs: template.FuncMap{
		"knows": func(dies []card.DieSet, name string) bool {
			return slices.ContainsFunc(dies, func(d card.DieSet) bool { return d.Name == name })
		},
	}},
	New: func(h *station.Host) station.Station { return &place{h} },
}

type place struct{ host *station.Host }

// About says what the station is.
func (*place) About() station.About {
	return station.About{
		ID: "format", Name: "Format", Question: "Which card, which envelope, what do I cut?",
		Needs: desk.NeedsDrawer, Drawing: "format-drawing",
		Open: func(c *card.Card) bool { return c.Line() == nil },
	}
}

// Show shows what is cut.
func (*place) Show(v *station.Visit) error {
	if v.Rev.Piece != "" {
		showPiece(v)
		return nil
	}
	shown := viewOf(v.Laid, v.Studio.Drawer)
	if shown.Offer = offerOf(v.Request, v.Laid); shown.Offer != nil {
		v.Page.First = "format-offer"
	}
	v.Page.View = shown
	return nil
}

// Edits are the changes of what is cut.
func (s *place) Edits() []station.Edit {
	return append(station.Plain(
		change.Format{}, change.Fold{}, change.Envelope{}, change.PanelAlone{}, change.Size{}, change.Show{}, change.Drag{},
		change.AddLayer{}, change.Layer{}, change.RemoveLayer{}, change.Stamp{}, change.Insert{}, change.Extra{},
		change.Painting{}, change.Words{}, change.Window{}, change.CentreWindow{}, change.RemoveWindow{},
		change.AddPiece{}, change.CopyPiece{}, change.MovePiece{}, change.RemovePiece{}, change.CutAlong{}, change.PlacePiece{},
	), station.Edit{Name: change.NameOf(change.Die{}), Do: s.setDie}, station.Edit{Name: change.NameOf(change.Piece{}), Do: s.setPiece}, station.Edit{Name: change.NameOf(change.PieceDie{}), Do: s.setPieceDie})
}

// setDie cuts a ring with a die set of the drawer.
func (s *place) setDie(e *station.Editing) (change.Done, error) {
	var form struct {
		Ring string `json:"ring"`
		Set  string `json:"set"`
	}
	if err := page.Decode(e.Request, &form); err != nil {
		return change.Done{}, err
	}
	set, err := s.dieSet(e, form.Set)
	if err != nil {
		return change.Done{}, err
	}
	return e.Make(change.Die{Ring: form.Ring, Set: set})
}

// setPieceDie cuts a piece with a die set of the drawer.
func (s *place) setPieceDie(e *station.Editing) (change.Done, error) {
	set, err := s.dieSet(e, e.PostFormValue("set"))
	if err != nil {
		return change.Done{}, err
	}
	return e.Make(change.PieceDie{Piece: e.PostFormValue("piece"), Set: set})
}

// dieSet is a die set of the drawer by its name, nil for "".
func (s *place) dieSet(e *station.Editing, name string) (*card.DieSet, error) {
	if name == "" {
		return nil, nil
	}
	rev, err := s.host.Paper(e.Context())
	if err != nil {
		return nil, err
	}
	return rev.Stock.DieSet(name)
}

// Routes answers with envelopes to print, and takes painted sheets.
func (s *place) Routes(r chi.Router) {
	r.Get("/envelope-{kind}.{as:svg|pdf}", s.host.Handle(s.envelopeTemplate))
	r.Post("/sheet", s.host.Handle(s.takeSheet))
}

// takeSheet stores a scan of a painted sheet and lays the window on its middle.
func (s *place) takeSheet(w http.ResponseWriter, r *http.Request) error {
	return s.host.TakeScan(w, r, func(e *station.Editing, m *store.Image) (change.Done, error) {
		if m.Real == 0 {
			return change.Done{}, errors.New("width of the sheet: the picture does not say it; write how wide the sheet really is, or the dpi of the scan")
		}
		return e.Make(change.LayWindow{Scan: station.ScanOf(m, m.Real)})
	})
}
