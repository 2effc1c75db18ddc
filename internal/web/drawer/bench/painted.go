package bench

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"
	"strings"

	"chromaqua/core/order"
	"chromaqua/internal/easel"
	"chromaqua/internal/web/board"
	"chromaqua/internal/web/page"
)

// nowEvery is how often the picture of a piece at the bench is drawn anew, s: between events
// it only dries.
const nowEvery order.Seconds = 30

// paintedNow serves the piece that a step is on as it should look by now.
func (d *place) paintedNow(w http.ResponseWriter, r *http.Request) error {
	p, now, err := d.atHand(r)
	if err != nil {
		return err
	}
	data, err := d.Easel.JPEG(r.Context(), p, easel.Look{At: now, DPI: easel.DPI})
	if err != nil {
		return err
	}
	w.Header().Set("Content-Type", "image/jpeg")
	w.Header().Set("Cache-Control", "private, no-cache")
	_, err = w.Write(data)
	return err
}

// atHand is the piece that a step is on as it is painted by now, s since the run began.
func (d *place) atHand(r *http.Request) (p *easel.Painting, now float64, err error) {
	id, err := runOf(r)
	if err != nil {
		return nil, 0, err
	}
	b, err := d.Benches.Show(r.Context(), id)
	if err != nil {
		return nil, 0, err
	}
	op, err := strconv.Atoi(r.FormValue("op"))
	if err != nil || b.Setup.Timer != nil || op < 0 || op >= len(b.State.Ops) {
		return nil, 0, &page.Error{Status: http.StatusNotFound, Err: fmt.Errorf("there is no step %q at this bench", r.FormValue("op"))}
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
		return nil, 0, err
	}
	done := s.Done(o.Card)
	p, err = d.Easel.Live(plan, done, piece.ID, o.Step.Item, fmt.Sprint("bench ", id, o.Card, piece.ID, o.Step.Item, s.Now/nowEvery, done), read)
	if err != nil {
		return nil, 0, &page.Error{Status: http.StatusNotFound, Err: err}
	}
	return p, float64(s.Now), nil
}

// touch tells what comes of touching a cell of the piece at hand now.
func (d *place) touch(w http.ResponseWriter, r *http.Request) error {
	p, now, cell, err := d.touchAt(r)
	if err != nil {
		return err
	}
	v, err := board.Touch(r.Context(), d.Easel, p, cell, now, func(with easel.Touching) string {
		q := url.Values{"op": {r.FormValue("op")}, "cell": {strconv.Itoa(cell)}, "with": {string(with)}, "at": {strconv.Itoa(int(now))}}
		return strings.TrimSuffix(r.URL.Path, "touch") + "touched.png?" + q.Encode()
	})
	if err != nil {
		return err
	}
	d.Render(w, r, http.StatusOK, "touch.html", v)
	return nil
}

// touchedPicture is what is seen of it, once it is dry.
func (d *place) touchedPicture(w http.ResponseWriter, r *http.Request) error {
	p, now, cell, err := d.touchAt(r)
	if err != nil {
		return err
	}
	return board.SendTouched(r.Context(), w, d.Easel, p, cell, now, easel.Touching(r.FormValue("with")))
}

// touchAt reads which cell is touched.
func (d *place) touchAt(r *http.Request) (p *easel.Painting, now float64, cell int, err error) {
	if p, now, err = d.atHand(r); err != nil {
		return
	}
	if cell, err = strconv.Atoi(r.FormValue("cell")); err != nil || cell < 1 || cell > len(p.Board.Cells) {
		err = &page.Error{Status: http.StatusNotFound, Err: fmt.Errorf("there is no cell %q on this piece", r.FormValue("cell"))}
	}
	return p, now, cell, err
}
