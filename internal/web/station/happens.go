package station

import (
	"fmt"
	"net/http"
	"net/url"
	"strconv"

	"chromaqua/internal/desk"
	"chromaqua/internal/easel"
	"chromaqua/internal/store"
	"chromaqua/internal/web/board"
	"chromaqua/internal/web/page"
)

// happens tells what happens in the washes of a card that nobody asked for.
func (h *Host) happens(w http.ResponseWriter, r *http.Request) error {
	l, err := h.laidForPaint(r)
	if err != nil {
		return err
	}
	all, err := h.Easel.Happens(r.Context(), l)
	if err != nil {
		return notPainted(err)
	}
	h.Render(w, r, http.StatusOK, "happens.html", struct {
		page.Page
		Rev  *store.Revision
		Back string
		All  []easel.Happening
	}{page.Page{Title: l.Rev.Card.Name + ", washes"}, l.Rev, r.FormValue("back"), all})
	return nil
}

// touch tells what comes of touching a cell at a moment.
func (h *Host) touch(w http.ResponseWriter, r *http.Request) error {
	l, p, at, cell, err := h.touched(r)
	if err != nil {
		return err
	}
	v, err := board.Touch(r.Context(), h.Easel, p, cell, at, func(with easel.Touching) string {
		q := url.Values{"cell": {strconv.Itoa(cell)}, "at": {r.FormValue("at")}, "with": {string(with)}, "v": {l.PlanName()}}
		return page.CardAddress(l.Rev.Address(), "touched.png") + "?" + q.Encode()
	})
	if err != nil {
		return notPainted(err)
	}
	h.Render(w, r, http.StatusOK, "touch.html", v)
	return nil
}

// touched reads what is touched, and when, s.
func (h *Host) touched(r *http.Request) (l *desk.Laid, p *easel.Painting, at float64, cell int, err error) {
	if l, p, err = h.opened(r); err != nil {
		return
	}
	look, err := lookOf(r, p)
	if err != nil {
		return
	}
	if cell, err = strconv.Atoi(r.FormValue("cell")); err != nil || cell < 1 || cell > len(l.Board.Cells) {
		err = &page.Error{Status: http.StatusBadRequest, Err: fmt.Errorf("there is no cell %q on this piece", r.FormValue("cell"))}
	}
	return l, p, board.Moment(p, look.At), cell, err
}

// touchedPicture is what is seen round a cell that was touched, once it is dry.
func (h *Host) touchedPicture(w http.ResponseWriter, r *http.Request) error {
	_, p, at, cell, err := h.touched(r)
	if err != nil {
		return err
	}
	return board.SendTouched(r.Context(), w, h.Easel, p, cell, at, easel.Touching(r.FormValue("with")))
}
