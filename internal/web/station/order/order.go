// Package order is the station of the order: in which order, how long in all, where
// does one wait.
package order

import (
	"embed"
	"fmt"
	"html/template"
	"math"
	"slices"
	"strings"

	"github.com/go-chi/chi/v5"

	"chromaqua/core/card"
	"chromaqua/core/change"
	"chromaqua/core/order"
	"chromaqua/core/steps"
	"chromaqua/core/wording"
	"chromaqua/internal/desk"
	"chromaqua/internal/web/board"
	"chromaqua/internal/web/page"
	"chromaqua/internal/web/station"
)

//go:embed *.html *.js
var files embed.FS

// Entry is the station's row in the table of stations.
var Entry = station.Entry{
	Room: page.Room{Files: files, Funcs: template.FuncMap{
		"dryingName": card.Drying.Words,
	}},
	New: func(h *station.Host) station.Station { return &place{h} },
}

type place struct{ host *station.Host }

// About says what the station is.
func (*place) About() station.About {
	return station.About{
		ID: "order", Name: "Order", Question: "In which order, how long in all, where do I wait?",
		Open: func(*card.Card) bool { return true },
	}
}

// Show shows the steps and their times.
func (p *place) Show(v *station.Visit) error {
	plan, err := Ready(p.host, v)
	if plan == nil {
		return err
	}
	shown := ViewOf(plan, v.Laid.PieceID())
	shown.Drying = steps.DryingNote(v.Rev.Card.Drying, v.Studio.Bench.HeatCM2, v.Rev.Card.Unit)
	shown.Basis, shown.Degrees = plan.Plan.Basis(), v.Studio.Bench.Degrees
	shown.upView = upOf(plan, v.Laid)
	shown.Schools, shown.Departs = schoolsOf(v), v.Rev.Card.Departures(v.Studio.Bench.Schools)
	v.Page.View = shown
	if v.Laid.Board != nil {
		Through(v, plan)
	}
	return nil
}

// Through lets the board of a visit be looked at through time, and touched.
func Through(v *station.Visit, plan *desk.Planned) {
	v.Page.Board.Tools = []board.Tool{{ID: "see", Name: "Look", Key: "l"}, {ID: "touch", Name: "Touch it", Key: "t", Does: "Tap a cell: what if it is touched at this minute?"}}
	v.Page.Board.LookAhead(v.Laid.Board, aheadOf(plan, v.Laid.PieceID()))
}

// Ready returns the card of a visit in order, with its goes on the board; nil when it
// cannot be shown yet, which the page then says.
func Ready(h *station.Host, v *station.Visit) (*desk.Planned, error) {
	toColour := station.Way{Name: "To the Colour station", Station: "colour"}
	if v.Laid.Board == nil && (v.Rev.Card.Begun() || len(v.Rev.Whole.Pieces) == 0) {
		v.WithoutBoard(toColour)
		return nil, nil
	}
	plan, err := h.Order(v.Context(), v.Laid)
	if err != nil {
		_, words := h.Explain(v.Request, err)
		v.NotReady(wording.Sentence(words.Error()), station.Way{Name: "To the Line station", Station: "line"}, toColour)
		return nil, nil
	}
	if v.Laid.Board != nil {
		v.Page.Board.Marks = board.GoMarks(v.Laid, plan.Plan)
	}
	return plan, nil
}

// Edits are the changes of how it is worked.
func (*place) Edits() []station.Edit {
	return station.Plain(
		change.Copies{}, change.Drying{}, change.School{}, change.Raise{}, change.AsUsual{}, change.AddAct{}, change.Embellish{}, change.RemoveAct{}, change.Hold{}, change.LetGo{},
	)
}

// Routes adds nothing to the page.
func (*place) Routes(chi.Router) {}

// aheadOf lists the goes on a piece in the order they are laid, with their times; of several cards, on the
// first.
func aheadOf(p *desk.Planned, piece string) *board.Ahead {
	var lines []string
	last := order.Seconds(0)
	for _, t := range p.Plan.Turns(p.Schedule) {
		st := &p.Plan.Steps[t.Step]
		first := slices.Index(t.Copies, 0)
		if st.On == nil || first < 0 || st.On.Wash == steps.Wetting || st.Item > 0 || p.Plan.Pieces[st.Piece].ID != piece {
			continue
		}
		o := p.Schedule.Ops[t.Placed[first]]
		lines = append(lines, fmt.Sprintf("%d %d %d %d %s|step %d, %s", st.On.Area+1, st.On.Wash+1, o.Start, o.End, page.CellList(st.Cells), t.Number, st.Title))
		last = max(last, o.End)
	}
	return &board.Ahead{Steps: strings.Join(lines, "\n"), Minutes: int(math.Ceil(float64(last)/60)) + 1}
}
