package station

import (
	"cmp"
	"fmt"
	"net/http"
	"slices"
	"strconv"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"
	lru "github.com/hashicorp/golang-lru/v2"

	"chromaqua/internal/bench"
	"chromaqua/internal/desk"
	"chromaqua/internal/easel"
	"chromaqua/internal/store"
	"chromaqua/internal/web/board"
	"chromaqua/internal/web/page"
)

// patience is how long a page waits for a reading before it shows progress.
const patience = 250 * time.Millisecond

// Host shows cards at their stations.
type Host struct {
	*page.Pages
	*desk.Desk
	Pictures *board.Pictures
	Benches  *bench.Benches
	Easel    *easel.Easel
	stations []Station
	edits    map[string]Edit
	kept     *lru.Cache[pageKey, []byte]
}

// NewHost returns a host of stations, in the order of the work.
func NewHost(p *page.Pages, d *desk.Desk, b *bench.Benches, e *easel.Easel, entries []Entry) *Host {
	h := &Host{Pages: p, Desk: d, Benches: b, Pictures: board.NewPictures(p, d), Easel: e, edits: map[string]Edit{}, kept: desk.Cache[pageKey, []byte](keptPages)}
	h.takeEdits(h.ownEdits())
	for _, e := range entries {
		st := e.New(h)
		h.stations = append(h.stations, st)
		h.takeEdits(st.Edits())
		for _, name := range []string{st.About().ID, st.About().ID + "-keys"} {
			if !p.Has(name) {
				panic(fmt.Sprintf("station %q has no template %q", st.About().ID, name))
			}
		}
	}
	return h
}

func (h *Host) takeEdits(all []Edit) {
	for _, e := range all {
		if _, twice := h.edits[e.Name]; twice {
			panic("station: two edits are named " + e.Name)
		}
		h.edits[e.Name] = e
	}
}

// Stations are what the host shows.
func (h *Host) Stations() []Station { return h.stations }

// Edits are the changes that forms may ask for, by name.
func (h *Host) Edits() map[string]Edit { return h.edits }

// Routes answers what lies below a card's address.
func (h *Host) Routes(r chi.Router) {
	r.Get("/", h.Handle(h.open))
	r.Get("/{station}", h.Handle(h.show))
	r.Get("/rules", h.Handle(h.rules))
	r.Get("/line.png", h.Handle(h.linePicture))
	r.Get("/panel.svg", h.Handle(h.panelPicture))
	r.Get("/painted.jpg", h.Handle(h.painted(h.sendPainted)))
	r.Get("/painted.png", h.Handle(h.keep("image/png", ".png", (*easel.Easel).PNG)))
	r.Get("/making.gif", h.Handle(h.keep("image/gif", ", its making.gif", (*easel.Easel).Making)))
	r.Get("/happens", h.Handle(h.happens))
	r.Get("/touch", h.Handle(h.touch))
	r.Get("/touched.png", h.Handle(h.touchedPicture))
	r.Get("/painted.svg", h.Handle(h.painted(h.sendFramed)))
	r.Get("/reading", h.Handle(h.readingState))
	r.Post("/reading/{do}", h.Handle(h.readingControl))
	r.Post("/edit", h.Handle(h.edit))
	r.Post("/undo", h.Handle(h.move(h.Undo)))
	r.Post("/redo", h.Handle(h.move(h.Redo)))
	for _, st := range h.stations {
		st.Routes(r)
	}
}

// Revision returns the card a request speaks of, seen from the piece its address names; from
// the panel where that is gone.
func (h *Host) Revision(r *http.Request) (*store.Revision, error) {
	number, piece, _ := strings.Cut(chi.URLParam(r, "card"), ".")
	id, err := strconv.ParseInt(number, 10, 64)
	if err != nil {
		return nil, store.ErrNotFound
	}
	rev, err := h.Card(r.Context(), id)
	if err != nil {
		return nil, err
	}
	return rev.At(piece), nil
}

// Panel returns the card a request speaks of and its panel once it has been read.
func (h *Host) Panel(r *http.Request) (*store.Revision, *desk.Reading, error) {
	rev, err := h.Revision(r)
	if err != nil {
		return nil, nil, err
	}
	read, err := h.Read(r.Context(), rev.Card)
	return rev, read, err
}

// open goes to the first station that still has something to decide.
func (h *Host) open(w http.ResponseWriter, r *http.Request) error {
	rev, err := h.Revision(r)
	if err != nil {
		return err
	}
	i := slices.IndexFunc(h.stations, func(st Station) bool { return st.About().Open != nil && st.About().Open(rev.Card) })
	http.Redirect(w, r, page.CardAddress(rev.Address(), h.stations[max(0, i)].About().ID), http.StatusSeeOther)
	return nil
}

// show shows a card at the station its address names.
func (h *Host) show(w http.ResponseWriter, r *http.Request) error {
	rev, err := h.Revision(r)
	if err != nil {
		return err
	}
	st := h.named(chi.URLParam(r, "station"))
	if st == nil {
		return store.ErrNotFound
	}
	return h.ShowAt(w, r, st, rev, http.StatusOK, "")
}

// named returns the station with that id, nil when there is none.
func (h *Host) named(id string) Station {
	for _, st := range h.stations {
		if st.About().ID == id {
			return st
		}
	}
	return nil
}

// cameFrom is the station a form came from.
func (h *Host) cameFrom(r *http.Request) Station {
	if st := h.named(r.PostFormValue("back")); st != nil {
		return st
	}
	return h.stations[0]
}

// keptPages bounds the rendered stations that are kept; each takes some 70 kB.
const keptPages = 64

// pageKey is all that a rendered station depends on.
type pageKey struct {
	desk.RevisionKey
	undo, redo, station string
	in                  store.State
	asked               string // the query of the address
	drawn               string // the picture the asking page has
	studio              desk.StudioKey
}

// ShowBack shows a card at the station that a form came from, with what went wrong.
func (h *Host) ShowBack(w http.ResponseWriter, r *http.Request, rev *store.Revision, status int, message string) error {
	return h.ShowAt(w, r, h.cameFrom(r), rev, status, message)
}

// ShowAt shows a card at a station, with what went wrong.
func (h *Host) ShowAt(w http.ResponseWriter, r *http.Request, st Station, rev *store.Revision, status int, message string) error {
	about := st.About()
	studio, err := h.Studio(r.Context(), about.Needs)
	if err != nil {
		return err
	}
	key := pageKey{desk.KeyOf(rev), rev.Undo, rev.Redo, about.ID, rev.In, r.URL.RawQuery, r.Header.Get(board.DrawnHeader), studio.Key}
	keeps := message == "" && r.Method == http.MethodGet && !about.Fresh
	if html, ok := h.kept.Get(key); ok && keeps {
		page.Send(w, status, html)
		return nil
	}
	l := h.Lay(rev, &studio, patience)
	p := &Page{
		Page: page.Page{Title: rev.Card.Name + ", " + about.Name, Message: message}, Revision: rev, ID: rev.Address(), Station: about, Pieces: h.piecesOf(rev),
		Open: cmp.Or(r.FormValue("area"), r.FormValue("show")), Picked: cmp.Or(r.FormValue("image"), r.FormValue("picked")),
		Board: board.New(l), Watches: h.ofPieces(l, &studio, about.ID),
	}
	p.Nth, _ = strconv.Atoi(r.FormValue("nth")) // an address that says no number says nothing
	p.Board.Says = "Point at a cell or a step."
	p.Tabs = h.tabs(p.Watches)
	if err := st.Show(&Visit{Request: r, Laid: l, Studio: studio, Page: p}); err != nil {
		return err
	}
	p.Board.Settle(r.Header.Get(board.DrawnHeader))
	html := h.Render(w, r, status, "station.html", p)
	if html != nil && keeps && l.Board != nil {
		h.kept.Add(key, html)
	}
	return nil
}

// linePicture serves the picture of the line as it lies on the panel.
func (h *Host) linePicture(w http.ResponseWriter, r *http.Request) error {
	rev, read, err := h.Panel(r)
	if err != nil {
		return err
	}
	w.Header().Set("Content-Type", "image/png")
	w.Header().Set("Cache-Control", "no-cache")
	if r.URL.Query().Get("v") == desk.ReadingKeyOf(rev.Card).Short() {
		w.Header().Set("Cache-Control", "private, max-age=31536000, immutable")
	}
	_, _ = w.Write(read.Line)
	return nil
}

// panelPicture serves the finished panel as an SVG of its true size.
func (h *Host) panelPicture(w http.ResponseWriter, r *http.Request) error {
	rev, err := h.Revision(r)
	if err != nil {
		return err
	}
	svg, err := h.Pictures.Of(rev)
	if err != nil {
		return err
	}
	return SendPicture(w, svg)
}

// SendPicture sends a picture of a panel.
func SendPicture(w http.ResponseWriter, svg []byte) error {
	w.Header().Set("Content-Type", "image/svg+xml")
	w.Header().Set("Cache-Control", "private, no-cache")
	_, err := w.Write(svg)
	return err
}

// readingState tells how far the reading of a panel has come, as JSON.
func (h *Host) readingState(w http.ResponseWriter, r *http.Request) error {
	rev, err := h.Revision(r)
	if err != nil {
		return err
	}
	state := struct {
		Done  bool    `json:"done"`
		Stage string  `json:"stage"`
		Share float64 `json:"share"`
	}{Done: true}
	if rev.Card.Begun() {
		read := h.Reading(rev.Card)
		state.Done = read.Finished(0)
		state.Stage, state.Share = read.State()
	}
	return page.SendJSON(w, state)
}

// readingControl stops the reading of a panel or starts it again.
func (h *Host) readingControl(w http.ResponseWriter, r *http.Request) error {
	rev, err := h.Revision(r)
	if err != nil {
		return err
	}
	if rev.Card.Begun() {
		switch chi.URLParam(r, "do") {
		case "stop":
			h.Halt(rev.Card)
		case "again":
			h.Forget(rev.Card)
		default:
			return store.ErrNotFound
		}
	}
	http.Redirect(w, r, page.CardAddress(rev.Address(), "line"), http.StatusSeeOther)
	return nil
}
