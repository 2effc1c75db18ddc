// Package colour is the station of the washes: what goes where, how strong, and how it
// will look dry.
package colour

import (
	"embed"
	"errors"
	"net/http"
	"strconv"
	"strings"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/panel"
	"chromaqua/internal/desk"
	"chromaqua/internal/web/board"
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
		ID: "colour", Name: "Colour", Question: "What goes where, how strong, and how will it look dry?", Brief: true,
		Open: func(c *card.Card) bool { return !c.Painted() },
	}
}

// Show shows the areas and their washes.
func (*place) Show(v *station.Visit) error {
	b := &v.Page.Board
	b.Tools = append(board.Choosing(), board.Tool{ID: "dark", Name: "Shadow", Key: "h", Does: "Drag a dark, or tap it; drag the sun; draw from what lies in front into what lies behind."})
	b.Chooses, b.Says = true, b.Tools[0].Does
	if v.Laid.Board == nil {
		v.WithoutBoard()
		return nil
	}
	shown := viewOf(v.Laid, v.Studio.Own, v.Page.Open, v.Page.Nth)
	b.Marks = board.MarksOf(v.Laid, func(i int) string { return strconv.Itoa(i + 1) })
	v.Page.View, shown.Washes = shown, v.Studio.Bench.Washes
	b.Shadows = board.ShadowsOf(v.Laid)
	if shown.Shadows = b.Shadows; b.Shadows == nil {
		b.Tools = b.Tools[:len(b.Tools)-1]
	} else if o := shown.Open; o != nil && o.Zone == nil {
		o.Besides = board.Besides(v.Laid.Board, o.Number-1)
	}
	if v.Page.Open == "" {
		return nil
	}
	var err error
	shown.Wanted, err = wanted(v.Request, v.Laid, v.Studio.Own, v.Page.Open)
	return err
}

// Edits are the changes of areas and washes.
func (p *place) Edits() []station.Edit {
	return append(station.Plain(
		change.NewArea{}, change.Gather{}, change.Free{}, change.KeepWhite{}, change.PaintWhite{}, change.NameArea{}, change.RemoveArea{},
		change.ForgetLost{}, change.Focal{}, change.Grey{}, change.Meet{}, change.Join{}, change.AddWash{}, change.RemoveWash{}, change.MoveWash{},
		change.LayAs{}, change.Over{}, change.DrawAgain{}, change.Pull{}, change.Strength{}, change.Dip{}, change.Recipe{}, change.SameWashes{}, change.PaintAlike{},
		change.Wanted{}, change.PaintGeneric{}, change.NewZone{}, change.NewZoneIn{}, change.ZoneEnds{}, change.RemoveZone{}, change.Lie{},
		change.Sun{}, change.ShadowsQuiet{}, change.Darks{}, change.DarkTo{}, change.Front{},
	),
		station.Edit{Name: change.NameOf(change.PaintMeasured{}), Do: p.useMeasured},
		station.Edit{Name: change.NameOf(change.NewAreas{}), Do: gatherAlike},
	)
}

// gatherAlike makes areas of the groups that are ticked.
func gatherAlike(e *station.Editing) (change.Done, error) {
	ticked := e.PostForm["group"]
	if len(ticked) == 0 {
		return change.Done{}, errors.New("no group is ticked; tick those that are to be areas")
	}
	return e.Make(change.NewAreas{Groups: strings.Join(ticked, ";")})
}

// useMeasured paints a card with the paints that the shelf knows better.
func (p *place) useMeasured(e *station.Editing) (change.Done, error) {
	own, err := p.host.Materials(e.Context())
	if err != nil {
		return change.Done{}, err
	}
	return e.Make(change.PaintMeasured{Paints: panel.Unused(e.Card, own)})
}

// Routes answers with other colourings, with cells that are alike, and palettes.
func (p *place) Routes(r chi.Router) {
	r.Get("/ways", p.host.Handle(p.waysPage))
	r.Post("/ways", p.host.Handle(p.keepWay))
	r.Get("/way.svg", p.host.Handle(p.wayPicture))
	r.Get("/washes.svg", p.host.Handle(p.wayPainted))
	r.Get("/similar", p.host.Handle(p.similarCells))
	r.Get("/palette.gpl", p.host.Handle(p.palette))
	r.Post("/palette", p.host.Handle(p.importPalette))
}

// similarCells returns the cells that are like one, as JSON.
func (p *place) similarCells(w http.ResponseWriter, r *http.Request) error {
	var asked struct {
		Cell int `json:"cell"`
	}
	if err := page.Decode(r, &asked); err != nil {
		return desk.Refuse(err)
	}
	rev, read, err := p.host.Panel(r)
	if err != nil {
		return err
	}
	ids := panel.Resolve(rev.Card, read.Sheet).Similar(asked.Cell)
	if ids == nil {
		ids = []int{}
	}
	return page.SendJSON(w, ids)
}
