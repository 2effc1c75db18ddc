// Package bench is the station of the bench: the way to the live bench, and everything on
// paper, to lie beside the paint.
package bench

import (
	"context"
	"embed"
	"net/http"
	"time"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/mount"
	"chromaqua/core/needs"
	"chromaqua/core/paper"
	"chromaqua/core/steps"
	"chromaqua/core/wash"
	"chromaqua/internal/desk"
	"chromaqua/internal/easel"
	"chromaqua/internal/sheet"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
	"chromaqua/internal/web/station"
	"chromaqua/internal/web/station/order"
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
	return station.About{ID: "bench", Name: "Bench", Question: "What do I do now? Live, or everything on paper to lie beside the paint.", Needs: desk.NeedsDrawer, Fresh: true}
}

// view is what the sheet shows.
type view struct {
	Order    *order.View
	Mixes    []steps.Mix
	Cautions []string // told once for all steps
	PDF      string
	Palette  string // what becomes of it
	Room     string
	Basis    string // of the times
	CardID   int64
	Going    []int64      // runs of it that go on
	Short    []paper.Need // to buy before it is painted
	Ready    []needs.Laid
}

// Show shows the sheet.
func (p *place) Show(v *station.Visit) error {
	plan, err := order.Ready(p.host, v)
	if plan == nil {
		return err
	}
	going, err := p.host.Going(v.Context(), v.Rev.ID)
	if err != nil {
		return err
	}
	used, err := usedUp(v.Rev, plan)
	if err != nil {
		return err
	}
	if v.Laid.Board != nil {
		order.Through(v, plan)
	}
	v.Page.View = &view{
		Short: v.Studio.Drawer.Short(used),
		Ready: needs.Ready(v.Rev.Whole, plan.Plan, used),
		Basis: plan.Plan.Basis(), CardID: v.Rev.ID, Going: going,
		Order: order.ViewOf(plan, v.Laid.PieceID()), Mixes: plan.Plan.Mixes, Cautions: plan.Plan.Cautions(plan.Schedule),
		PDF: page.CardAddress(v.Rev.Address(), "bench.pdf"), Palette: steps.PaletteNote(plan.Plan.Ways), Room: v.Rev.Card.Room.Told(v.Studio.Bench.Degrees),
	}
	return nil
}

// usedUp is what a card uses up, in all its copies.
func usedUp(rev *store.Revision, plan *desk.Planned) ([]paper.Need, error) {
	made, err := mount.Of(rev.Whole)
	if err != nil {
		return nil, err
	}
	return needs.Of(rev.Whole, plan.Plan, made, rev.Whole.Copies), nil
}

// Edits are none of its own.
func (*place) Edits() []station.Edit { return nil }

// Routes answers with the sheet at true size.
func (p *place) Routes(r chi.Router) {
	r.Get("/bench.pdf", p.host.Handle(p.pdf))
	r.Get("/instructions.pdf", p.host.Handle(p.instructions))
}

// pdf sends the bench sheet at true size.
func (p *place) pdf(w http.ResponseWriter, r *http.Request) error {
	doc, err := p.sheet(r)
	if err != nil {
		return err
	}
	return page.SendFile(w, "application/pdf", doc.Card.Name, ", bench sheet.pdf", doc.Write)
}

// instructions sends each step with the picture of the board after it.
func (p *place) instructions(w http.ResponseWriter, r *http.Request) error {
	doc, err := p.sheet(r)
	if err != nil {
		return err
	}
	return page.SendFile(w, "application/pdf", doc.Card.Name, ", instructions.pdf", doc.WriteInstructions)
}

// sheet is what sheets of a card are made from.
func (p *place) sheet(r *http.Request) (*sheet.Bench, error) {
	rev, err := p.host.Revision(r)
	if err != nil {
		return nil, err
	}
	studio, err := p.host.Studio(r.Context(), 0)
	if err != nil {
		return nil, err
	}
	if _, err := p.host.Read(r.Context(), rev.Card); rev.Card.Begun() && err != nil {
		return nil, err
	}
	plan, err := p.host.Order(r.Context(), p.host.Lay(rev, &studio, 0))
	if err != nil {
		return nil, err
	}
	_, lines, err := p.host.Pieces(r.Context(), rev)
	if err != nil {
		return nil, err
	}
	used, err := usedUp(rev, plan)
	if err != nil {
		return nil, err
	}
	doc := &sheet.Bench{
		Card: rev.Whole, Plan: plan.Plan, Schedule: plan.Schedule, Lines: lines, Made: rev.Made,
		Ready: needs.Ready(rev.Whole, plan.Plan, used),
	}
	if r.FormValue("look") != "flat" {
		doc.Painted = p.painted(r.Context(), rev, plan.Plan, &studio)
	}
	return doc, nil
}

// How finely washes are printed: the picture at true size, and the small ones of each step.
const (
	printedDPI = 200
	stepDPI    = 75
)

// painted draws the pieces of a card for its sheets.
func (p *place) painted(ctx context.Context, rev *store.Revision, plan *steps.Plan, studio *desk.Studio) func(int, *steps.Step) ([]byte, error) {
	return func(piece int, after *steps.Step) ([]byte, error) {
		l := p.host.Lay(rev.At(plan.Pieces[piece].ID), studio, time.Minute)
		item := 0
		if after != nil {
			item = after.Item
		}
		q, err := p.host.Easel.OpenItem(ctx, l, item)
		if err != nil {
			return nil, nil // nothing is painted on it: it is flat
		}
		look := easel.Look{At: wash.Dry, DPI: printedDPI}
		if after != nil {
			look = easel.Look{At: q.DoneAt(after), DPI: stepDPI}
		}
		return p.host.Easel.JPEG(ctx, q, look)
	}
}
