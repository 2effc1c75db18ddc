package station

import (
	"context"
	"errors"
	"fmt"
	"net/http"
	"strconv"
	"time"

	"chromaqua/core/order"
	"chromaqua/core/wash"
	"chromaqua/internal/desk"
	"chromaqua/internal/easel"
	"chromaqua/internal/store"
	"chromaqua/internal/web/page"
)

// The narrowest and the finest that a page asks for, pixels to the inch.
const (
	thumbDPI = 40
	mostDPI  = 300
)

// painted serves a piece as it is painted. An address that names its plan never changes.
func (h *Host) painted(send func(w http.ResponseWriter, rev *store.Revision, washes []byte) error) page.Handler {
	return func(w http.ResponseWriter, r *http.Request) error {
		l, err := h.laidForPaint(r)
		if err != nil {
			return err
		}
		name := l.PlanName()
		w.Header().Set("Cache-Control", "private, no-cache")
		if r.FormValue("v") == name {
			w.Header().Set("Cache-Control", "private, max-age=31536000, immutable")
		}
		w.Header().Set("ETag", `"`+name+`"`)
		if r.Header.Get("If-None-Match") == `"`+name+`"` {
			w.WriteHeader(http.StatusNotModified)
			return nil
		}
		p, err := h.Easel.Open(r.Context(), l)
		if err != nil {
			return notPainted(err)
		}
		look, err := lookOf(r, p)
		if err != nil {
			return err
		}
		washes, err := h.Easel.JPEG(r.Context(), p, look)
		if r.Context().Err() != nil {
			return nil // who asked has gone
		}
		if err != nil {
			return notPainted(err)
		}
		return send(w, l.Rev, washes)
	}
}

// sendPainted sends washes alone.
func (h *Host) sendPainted(w http.ResponseWriter, _ *store.Revision, washes []byte) error {
	w.Header().Set("Content-Type", "image/jpeg")
	_, err := w.Write(washes)
	return err
}

// sendFramed sends washes with the line and all that lies over them.
func (h *Host) sendFramed(w http.ResponseWriter, rev *store.Revision, washes []byte) error {
	svg, _, err := h.Pictures.Draw(rev, washes)
	if err != nil {
		return err
	}
	w.Header().Set("Content-Type", "image/svg+xml")
	_, err = w.Write(svg)
	return err
}

// notPainted is the error of a piece that cannot be painted: there is no such picture.
func notPainted(err error) error {
	var refused *desk.Refusal
	if errors.As(err, &refused) {
		return &page.Error{Status: http.StatusNotFound, Err: err}
	}
	return err
}

// paintPatience is how long a painting waits for the cells of its card.
const paintPatience = time.Minute

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

// opened is that card, painted.
func (h *Host) opened(r *http.Request) (*desk.Laid, *easel.Painting, error) {
	l, err := h.laidForPaint(r)
	if err != nil {
		return nil, nil, err
	}
	p, err := h.Easel.Open(r.Context(), l)
	return l, p, notPainted(err)
}

// lookOf reads how a painting is to be looked at: "at" in seconds, or after so many "step"s;
// dry when neither is said.
func lookOf(r *http.Request, p *easel.Painting) (easel.Look, error) {
	k := easel.Look{At: wash.Dry, DPI: easel.DPI, Wet: r.FormValue("look") == "wet", Line: r.FormValue("line") != ""}
	if text := r.FormValue("dpi"); text != "" {
		v, err := strconv.ParseFloat(text, 64)
		if err != nil || !(v >= thumbDPI && v <= mostDPI) {
			return k, &page.Error{Status: http.StatusBadRequest, Err: fmt.Errorf("%q pixels to the inch are not drawn; ask for %d to %d", text, thumbDPI, mostDPI)}
		}
		k.DPI = v
	}
	if text := r.FormValue("tilt"); text != "" {
		v, err := strconv.ParseFloat(text, 64)
		if err != nil || !(v >= -1 && v <= 1) {
			return k, &page.Error{Status: http.StatusBadRequest, Err: fmt.Errorf("%q is no tilt; give -1 to 1", text)}
		}
		k.Tilt = v
	}
	if text := r.FormValue("step"); text != "" {
		n, err := strconv.Atoi(text)
		if err != nil || n < 0 {
			return k, &page.Error{Status: http.StatusBadRequest, Err: fmt.Errorf("%q is no number of steps", text)}
		}
		k.At = p.After(n)
	}
	if text := r.FormValue("at"); text != "" && text != "dry" {
		v, err := strconv.ParseFloat(text, 64)
		if err != nil || !(v >= 0 && v < float64(order.MaxSeconds)) {
			return k, &page.Error{Status: http.StatusBadRequest, Err: fmt.Errorf("%q is no time; give seconds from the start, or dry", text)}
		}
		k.At = v
	}
	return k, nil
}

// keep serves a painting as a file to keep.
func (h *Host) keep(media, extension string, draw func(*easel.Easel, context.Context, *easel.Painting) ([]byte, error)) page.Handler {
	return func(w http.ResponseWriter, r *http.Request) error {
		l, p, err := h.opened(r)
		if err != nil {
			return err
		}
		data, err := draw(h.Easel, r.Context(), p)
		if r.Context().Err() != nil {
			return nil // who asked has gone
		}
		if err != nil {
			return notPainted(err)
		}
		page.Download(w, media, l.Rev.Card.Name, extension)
		_, err = w.Write(data)
		return err
	}
}
