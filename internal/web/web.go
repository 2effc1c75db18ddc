// Package web shows the studio in a browser: it puts the stations and drawers together
// and says who may come in. Handlers decode a request, call the core or the store, and
// render; rules of the craft live elsewhere.
package web

import (
	"errors"
	"log/slog"
	"maps"
	"net/http"
	"runtime/debug"
	"slices"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"

	running "chromaqua/internal/bench"
	"chromaqua/internal/desk"
	"chromaqua/internal/easel"
	"chromaqua/internal/standin"
	"chromaqua/internal/store"
	"chromaqua/internal/web/board"
	"chromaqua/internal/web/door"
	"chromaqua/internal/web/drawer"
	benches "chromaqua/internal/web/drawer/bench"
	"chromaqua/internal/web/drawer/cards"
	"chromaqua/internal/web/drawer/cut"
	"chromaqua/internal/web/drawer/guide"
	"chromaqua/internal/web/drawer/library"
	"chromaqua/internal/web/drawer/logs"
	"chromaqua/internal/web/drawer/newcard"
	"chromaqua/internal/web/drawer/paper"
	"chromaqua/internal/web/drawer/settings"
	"chromaqua/internal/web/drawer/shelf"
	"chromaqua/internal/web/drawer/tests"
	"chromaqua/internal/web/page"
	"chromaqua/internal/web/station"
	"chromaqua/internal/web/station/bench"
	"chromaqua/internal/web/station/colour"
	"chromaqua/internal/web/station/format"
	"chromaqua/internal/web/station/line"
	"chromaqua/internal/web/station/log"
	"chromaqua/internal/web/station/masks"
	"chromaqua/internal/web/station/mount"
	"chromaqua/internal/web/station/order"
)

// stations are the places of the work, in its order. A new one is a folder and a row
// here.
func stations() []station.Entry {
	return []station.Entry{format.Entry, line.Entry, masks.Entry, colour.Entry, order.Entry, bench.Entry, mount.Entry, log.Entry}
}

// drawers are the pages that belong to no card, in the order of the navigation.
func drawers() []drawer.Entry {
	return []drawer.Entry{cards.Entry, benches.Entry, logs.Entry, paper.Entry, cut.Entry, shelf.Entry, library.Entry, tests.Entry, settings.Entry, newcard.Entry, guide.Entry}
}

// Server is the web application over one studio.
type Server struct {
	log     *slog.Logger
	desk    *desk.Desk
	benches *running.Benches
	easel   *easel.Easel
	pages   *page.Pages
	host    *station.Host
	Door    *door.Door
	Machine *drawer.Machine
	handler http.Handler
}

// New returns the application over a studio, with more stations after its own. Close it
// to stop its work.
func New(s *store.Store, log *slog.Logger, more ...station.Entry) *Server {
	stations, drawers := append(stations(), more...), drawers()
	var nav []page.Link
	rooms := []page.Room{board.Room, station.Room, door.Room}
	for _, d := range drawers {
		rooms, nav = append(rooms, d.Room), append(nav, d.Link)
	}
	for _, st := range stations {
		rooms = append(rooms, st.Room)
	}
	srv := &Server{log: log, desk: desk.New(s), pages: page.New(log, nav, rooms...)}
	srv.pages.Copies = s.Copies
	srv.benches = running.New(srv.desk)
	srv.easel = easel.New(srv.desk)
	srv.host = station.NewHost(srv.pages, srv.desk, srv.benches, srv.easel, stations)
	srv.Door, srv.Machine = door.New(srv.pages, s), &drawer.Machine{}
	srv.handler = srv.routes(drawers)
	return srv
}

// Edits lists the changes of a card that forms may ask for, by name.
func (s *Server) Edits() []string { return slices.Sorted(maps.Keys(s.host.Edits())) }

// HangUp ends the calls that screens of the bench listen to, so that the application can be
// closed.
func (s *Server) HangUp() { s.benches.HangUp() }

// Close stops work that is under way.
func (s *Server) Close() { s.desk.Close() }

func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.handler.ServeHTTP(w, r) }

func (s *Server) routes(drawers []drawer.Entry) http.Handler {
	r := chi.NewRouter()
	r.Use(paced, s.logged, s.recovered, s.secured, s.Door.Named, s.Door.Guard) // nothing is compressed: it goes no further than the next room, and time is dearer
	r.NotFound(s.pages.Handle(page.NotFound))
	r.MethodNotAllowed(s.pages.Handle(page.NotThus))
	s.Door.Routes(r)
	r.Get("/static/*", s.pages.Assets)
	r.Get("/lengths", s.pages.Handle(page.Lengths))
	r.Get("/standin/room.json", standin.ServeRoom)
	for _, d := range drawers {
		d.Routes(drawer.Kit{Pages: s.pages, Desk: s.desk, Door: s.Door, Benches: s.benches, Easel: s.easel, Machine: s.Machine}, r)
	}
	r.Route("/cards/{card}", s.host.Routes)
	return r
}

// headers are on every answer. The browser loads nothing from elsewhere, and no other page
// gets hold of ours. Colours are set in style attributes, hence the exception for those.
var headers = map[string]string{
	"Content-Security-Policy":      "default-src 'self'; img-src 'self' data:; style-src 'self'; style-src-attr 'unsafe-inline'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'",
	"X-Content-Type-Options":       "nosniff",
	"Referrer-Policy":              "same-origin",
	"Cross-Origin-Opener-Policy":   "same-origin",
	"Cross-Origin-Resource-Policy": "same-origin",
	"Permissions-Policy":           "camera=(), microphone=(), geolocation=()",
}

// errElsewhere answers forms that another site sends here.
var errElsewhere = &page.Error{Status: http.StatusForbidden, Err: errors.New("this was sent from a page of another site; nothing was done. Open the studio itself, and do it there")}

// secured sets the headers, and refuses changes that come from other sites.
func (s *Server) secured(next http.Handler) http.Handler {
	own := http.NewCrossOriginProtection()
	own.SetDenyHandler(s.pages.Handle(func(http.ResponseWriter, *http.Request) error { return errElsewhere }))
	checked := own.Handler(next)
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		for name, value := range headers {
			w.Header().Set(name, value)
		}
		checked.ServeHTTP(w, r)
	})
}

// A reader who takes less than a piece in so long is cut off.
const (
	pieceBytes = 64 << 10
	pieceTime  = 20 * time.Second
)

// paced sends answers piece by piece, each within its time: who reads slowly gets all of
// a large file, who does not read at all holds nothing up.
func paced(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		next.ServeHTTP(&pacedWriter{w, http.NewResponseController(w), pieceTime}, r)
	})
}

type pacedWriter struct {
	http.ResponseWriter
	control *http.ResponseController
	each    time.Duration
}

func (w *pacedWriter) Unwrap() http.ResponseWriter { return w.ResponseWriter }

func (w *pacedWriter) Write(p []byte) (n int, err error) {
	for err == nil && (len(p) > 0 || n == 0) {
		piece := p[:min(len(p), pieceBytes)]
		_ = w.control.SetWriteDeadline(time.Now().Add(w.each)) // where there is no connection there is no deadline
		var wrote int
		wrote, err = w.ResponseWriter.Write(piece)
		n, p = n+wrote, p[wrote:]
		if len(piece) == 0 {
			break
		}
	}
	return n, err
}

func (s *Server) logged(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		ww := middleware.NewWrapResponseWriter(w, r.ProtoMajor)
		start := time.Now()
		next.ServeHTTP(ww, r)
		s.log.Debug("request", "method", r.Method, "path", r.URL.Path, "status", ww.Status(), "bytes", ww.BytesWritten(), "took", time.Since(start))
	})
}

// recovered turns a panic into an error page. What was stored stays stored.
func (s *Server) recovered(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		defer func() {
			switch p := recover(); p {
			case nil:
			case http.ErrAbortHandler:
				panic(p) // the connection is to be cut
			default:
				s.log.Error("panic", "path", r.URL.Path, "panic", p, "stack", string(debug.Stack()))
				s.pages.Fail(w, r, page.ErrInternal)
			}
		}()
		next.ServeHTTP(w, r)
	})
}
