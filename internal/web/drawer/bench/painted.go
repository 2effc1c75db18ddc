package bench

import (
	"fmt"
	"net/http"
	"strconv"

	"chromaqua/core/order"
	"chromaqua/internal/easel"
	"chromaqua/internal/web/page"
)

// nowEvery is how often the picture of a piece at the bench is drawn anew, s: between events
// it only dries.
const nowEvery order.Seconds = 30

// paintedNow serves the piece that a step is on as it should look by now.
func (d *place) paintedNow(w http.ResponseWriter, r *http.Request) error {
	id, err := runOf(r)
	if err != nil {
		return err
	}
	b, err := d.Benches.Show(r.Context(), id)
	if err != nil {
		return err
	}
	op, err := strconv.Atoi(r.FormValue("op"))
	if err != nil || b.Setup.Timer != nil || op < 0 || op >= len(b.State.Ops) {
		return &page.Error{Status: http.StatusNotFound, Err: fmt.Errorf("there is no step %q at this bench", r.FormValue("op"))}
	}
	s, o := b.State, &b.State.Ops[op]
	plan := s.Plan(op)
	piece := plan.Pieces[o.Step.Piece]
	if piece.Board == nil {
		piece = plan.Pieces[0]
	}
	rev := b.Places[o.Card].Rev.At(pieceAddress(piece.ID))
	read, err := d.Read(r.Context(), rev.Card)
	if err != nil {
		return err
	}
	done := s.Done(o.Card)
	p, err := d.Easel.Live(plan, done, piece.ID, fmt.Sprint("bench ", id, o.Card, piece.ID, s.Now/nowEvery, done), read)
	if err != nil {
		return &page.Error{Status: http.StatusNotFound, Err: err}
	}
	data, err := d.Easel.JPEG(r.Context(), p, easel.Look{At: float64(s.Now), DPI: easel.DPI})
	if err != nil {
		return err
	}
	w.Header().Set("Content-Type", "image/jpeg")
	w.Header().Set("Cache-Control", "private, no-cache")
	_, err = w.Write(data)
	return err
}
