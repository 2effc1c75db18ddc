// Package web shows the studio in a browser: it puts the stations and drawers together
// and says who may come in. Handlers decode a request, call the core or the store, and
// render; rules of the craft live elsewhere.
package web

import (
	"fmt"
	"log/slog"
	"maps"
	"net"
	"net/http"
	"slices"
	"strings"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"

	"chromaqua/internal/desk"
	"chromaqua/internal/store"
	"chromaqua/internal/web/board"
	"chromaqua/internal/web/drawer"
	"chromaqua/internal/web/drawer/cards"
	"chromaqua/internal/web/drawer/cut"
	"chromaqua/internal/web/drawer/library"
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
	"chromaqua/internal/web/station/order"
)

// stations are the places of the work, in its order. A new one is a folder and a row
// here.
func stations() []station.Entry {
	return []station.Entry{format.Entry, line.Entry, colour.Entry, order.Entry, bench.Entry}
}

// drawers are the pages that belong to no card, in the order of the navigation.
func drawers() []drawer.Entry {
	return []drawer.Entry{cards.Entry, paper.Entry, cut.Entry, shelf.Entry, library.Entry, tests.Entry, settings.Entry, newcard.Entry}
}

// Server is the web application over one studio.
type Server struct {
	log     *slog.Logger
	desk    *desk.Desk
	pages   *page.Pages
	host    *station.Host
	handler http.Handler
	names   []string // that it answers to, beside localhost and numbers
}

// AnswerTo lets the application be asked for by further names of this machine.
func (s *Server) AnswerTo(names ...string) {
	for _, n := range names {
		s.names = append(s.names, strings.ToLower(strings.TrimSuffix(n, ".")))
	}
}

// New returns the application over a studio, with more stations after its own. Close it
// to stop its work.
func New(s *store.Store, log *slog.Logger, more ...station.Entry) *Server {
	stations, drawers := append(stations(), more...), drawers()
	var nav []page.Link
	rooms := []page.Room{board.Room, station.Room}
	for _, d := range drawers {
		rooms, nav = append(rooms, d.Room), append(nav, d.Link)
	}
	for _, st := range stations {
		rooms = append(rooms, st.Room)
	}
	srv := &Server{log: log, desk: desk.New(s), pages: page.New(log, nav, rooms...)}
	srv.pages.Copies = s.Copies
	srv.host = station.NewHost(srv.pages, srv.desk, stations)
	srv.handler = srv.routes(drawers)
	return srv
}

// Edits lists the changes of a card that forms may ask for, by name.
func (s *Server) Edits() []string { return slices.Sorted(maps.Keys(s.host.Edits())) }

// Close stops work that is under way.
func (s *Server) Close() { s.desk.Close() }

func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.handler.ServeHTTP(w, r) }

func (s *Server) routes(drawers []drawer.Entry) http.Handler {
	r := chi.NewRouter()
	r.Use(s.logged, s.recovered, s.named, secured) // nothing is compressed: it never leaves this machine, and time is dearer
	r.NotFound(s.pages.Handle(page.NotFound))
	r.Get("/static/*", s.pages.Assets)
	r.Get("/lengths", s.pages.Handle(page.Lengths))
	for _, d := range drawers {
		d.Routes(drawer.Kit{Pages: s.pages, Desk: s.desk}, r)
	}
	r.Route("/cards/{card}", s.host.Routes)
	return r
}

// named refuses requests for a host that is not this one: a page elsewhere could have its
// own name lead here, and would then read the studio as if it were its own. Numbers are
// nobody's name.
func (s *Server) named(next http.Handler) http.Handler {
	return http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		name := r.Host
		if host, _, err := net.SplitHostPort(name); err == nil {
			name = host
		}
		name = strings.ToLower(strings.TrimSuffix(strings.Trim(name, "[]"), "."))
		if net.ParseIP(name) == nil && name != "localhost" && !strings.HasSuffix(name, ".localhost") && !slices.Contains(s.names, name) {
			s.pages.Fail(w, r, &page.Error{Status: http.StatusMisdirectedRequest, Err: fmt.Errorf("the studio does not answer to the name %.60q; open it by its number, or start it with --name %.60s", name, name)})
			return
		}
		next.ServeHTTP(w, r)
	})
}

// secured refuses requests from other sites and keeps the browser from loading
// anything from elsewhere. Colours are set in style attributes, hence the
// exception for those.
func secured(next http.Handler) http.Handler {
	return http.NewCrossOriginProtection().Handler(http.HandlerFunc(func(w http.ResponseWriter, r *http.Request) {
		h := w.Header()
		h.Set("Content-Security-Policy", "default-src 'self'; img-src 'self' data:; style-src 'self'; style-src-attr 'unsafe-inline'; object-src 'none'; base-uri 'none'; form-action 'self'; frame-ancestors 'none'")
		h.Set("X-Content-Type-Options", "nosniff")
		h.Set("Referrer-Policy", "same-origin")
		next.ServeHTTP(w, r)
	}))
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
				s.log.Error("panic", "path", r.URL.Path, "panic", p)
				s.pages.Fail(w, r, page.ErrInternal)
			}
		}()
		next.ServeHTTP(w, r)
	})
}
