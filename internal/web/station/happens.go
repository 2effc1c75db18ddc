package station

import (
	"bytes"
	"fmt"
	"image/png"
	"net/http"
	"net/url"
	"strconv"

	"chromaqua/core/wash"
	"chromaqua/internal/desk"
	"chromaqua/internal/easel"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
)

// laidForPaint is the card a request speaks of, laid out as soon as its cells are known.
func (h *Host) laidForPaint(r *http.Request) (*desk.Laid, error) {
	rev, err := h.Revision(r)
	if err != nil {
		return nil, err
	}
	studio, err := h.Studio(r.Context(), 0)
	if err != nil {
		return nil, err
	}
	l := h.Lay(rev, &studio, paintPatience)
	return l, l.Err
}

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

// A touchedView is one way of touching a cell.
type touchedView struct{ With, Says, Picture string }

// touch tells what comes of touching a cell at a moment.
func (h *Host) touch(w http.ResponseWriter, r *http.Request) error {
	l, p, look, cell, err := h.touched(r)
	if err != nil {
		return err
	}
	v := struct {
		page.Page
		Rev               *store.Revision
		Name, When, Stage string
		Water             float64
		All               []touchedView
	}{Page: page.Page{Title: l.Rev.Card.Name + ", touched"}, Rev: l.Rev, Name: fmt.Sprintf("Cell %d", cell), When: "the end"}
	if a := l.Board.HolderOf(cell); a != nil {
		v.Name = a.Name
	}
	if look.At != wash.Dry {
		v.When = fmt.Sprintf("minute %.0f", look.At/60)
	}
	for _, with := range easel.Touchings() {
		t, err := h.Easel.Touch(r.Context(), p, cell, look.At, with)
		if err != nil {
			return notPainted(err)
		}
		v.Stage, v.Water = t.Stage, t.Water
		q := url.Values{"cell": {strconv.Itoa(cell)}, "at": {r.FormValue("at")}, "with": {string(with)}, "v": {l.PlanName()}}
		v.All = append(v.All, touchedView{with.Words(), t.Says, page.CardAddress(l.Rev.Address(), "touched.png") + "?" + q.Encode()})
	}
	h.Render(w, r, http.StatusOK, "touch.html", v)
	return nil
}

// touched reads what is touched, and when.
func (h *Host) touched(r *http.Request) (l *desk.Laid, p *easel.Painting, look easel.Look, cell int, err error) {
	if l, err = h.laidForPaint(r); err != nil {
		return
	}
	if p, err = h.Easel.Open(r.Context(), l); err != nil {
		return l, nil, look, 0, notPainted(err)
	}
	if look, err = lookOf(r, p); err != nil {
		return
	}
	if look.At == wash.Dry {
		look.At = p.After(len(p.Ends())) + dryAfter
	}
	if cell, err = strconv.Atoi(r.FormValue("cell")); err != nil || cell < 1 || cell > len(l.Board.Cells) {
		err = &page.Error{Status: http.StatusBadRequest, Err: fmt.Errorf("there is no cell %q on this piece", r.FormValue("cell"))}
	}
	return
}

// dryAfter is when all is dry, s after the last wash.
const dryAfter = 6 * 3600

// touchedPicture is what is seen round a cell that was touched, once it is dry.
func (h *Host) touchedPicture(w http.ResponseWriter, r *http.Request) error {
	_, p, look, cell, err := h.touched(r)
	if err != nil {
		return err
	}
	t, err := h.Easel.Touch(r.Context(), p, cell, look.At, easel.Touching(r.FormValue("with")))
	if err != nil {
		return notPainted(err)
	}
	img, err := h.Easel.Around(r.Context(), t.After, t.X, t.Y)
	if err != nil {
		return err
	}
	var buf bytes.Buffer
	if err := png.Encode(&buf, img); err != nil {
		return err
	}
	w.Header().Set("Content-Type", "image/png")
	w.Header().Set("Cache-Control", "private, max-age=31536000, immutable")
	_, err = w.Write(buf.Bytes())
	return err
}
