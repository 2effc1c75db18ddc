// Package web shows the studio in a browser. Handlers decode a request, call
// the core or the store, and render; rules of the craft live elsewhere.
package web

import (
	"context"
	"errors"
	"log/slog"
	"net/http"
	"strconv"
	"time"

	"github.com/go-chi/chi/v5"
	"github.com/go-chi/chi/v5/middleware"
	lru "github.com/hashicorp/golang-lru/v2"

	"chromaqua/core/card"
	"chromaqua/internal/store"
)

// maxForm bounds the body of a request that carries no file, bytes.
const maxForm = 1 << 20

// Server is the web application over one studio.
type Server struct {
	store    *store.Store
	log      *slog.Logger
	readings *readings
	decoding chan struct{} // holds one place: pictures that come in are opened one at a time, to bound memory
	orders   *orders
	pictures *lru.Cache[revisionKey, []byte]
	pages    *lru.Cache[pageKey, []byte]
	plans    *lru.Cache[string, *cutPlan]
	handler  http.Handler
}

// New returns the application over a studio. Close it to stop its work.
func New(s *store.Store, log *slog.Logger) *Server {
	srv := &Server{
		store: s, log: log, readings: newReadings(s), decoding: make(chan struct{}, 1), orders: newOrders(),
		pictures: newCache[revisionKey, []byte](keptPictures), pages: newCache[pageKey, []byte](keptPages),
		plans: newCache[string, *cutPlan](keptPlans),
	}
	srv.handler = srv.routes()
	return srv
}

// newCache returns a cache of the n things used last.
func newCache[K comparable, V any](n int) *lru.Cache[K, V] {
	c, err := lru.New[K, V](n)
	if err != nil {
		panic("web: " + err.Error()) // only for a size below 1
	}
	return c
}

// Close stops work that is under way.
func (s *Server) Close() { s.readings.close() }

func (s *Server) ServeHTTP(w http.ResponseWriter, r *http.Request) { s.handler.ServeHTTP(w, r) }

func (s *Server) routes() http.Handler {
	r := chi.NewRouter()
	r.Use(s.logged, s.recovered, secured) // nothing is compressed: it never leaves this machine, and time is dearer
	r.NotFound(s.handle(func(http.ResponseWriter, *http.Request) error { return store.ErrNotFound }))

	r.Get("/static/*", static())
	r.Get("/", s.handle(s.home))
	r.Get("/new", s.handle(s.newCard))
	r.Post("/cards", s.handle(s.createCard))
	r.Post("/import", s.handle(s.importCard))
	r.Get("/paper", s.handle(s.paperPage))
	r.Get("/paper.csv", s.handle(s.paperCSV))
	r.Post("/paper/edit", s.handle(s.editPaper))
	r.Post("/paper/import", s.handle(s.importPaper))
	r.Post("/paper/undo", s.handle(s.movePaper(s.store.Undo)))
	r.Post("/paper/redo", s.handle(s.movePaper(s.store.Redo)))
	r.Get("/cut", s.handle(s.cutPage))
	r.Get("/cut.pdf", s.handle(s.cutPDF))
	r.Get("/cut.svg", s.handle(s.cutSVG))
	r.Post("/cut", s.handle(s.cutNow))
	r.Get("/shelf", s.handle(s.shelfPage))
	r.Post("/shelf", s.handle(s.editShelf))
	r.Get("/shelf.csv", s.handle(s.shelfCSV))
	r.Post("/shelf/import", s.handle(s.importShelf))
	r.Get("/settings", s.handle(s.settingsPage))
	r.Post("/settings", s.handle(s.editSettings))
	r.Post("/settings/undo", s.handle(s.moveSettings(s.store.Undo)))
	r.Post("/settings/redo", s.handle(s.moveSettings(s.store.Redo)))
	r.Get("/library", s.handle(s.libraryPage))
	r.Post("/library", s.handle(s.addImage))
	r.Post("/library/{hash}", s.handle(s.editImage))
	r.Get("/tests", s.handle(s.testsPage))
	r.Post("/tests", s.handle(s.addTest))
	r.Post("/tests/practice", s.handle(s.practiseTest))
	r.Post("/tests/{test}/{do:hide|show}", s.handle(s.hideTest))
	r.Get("/swatches", s.handle(s.swatchesPage))
	r.Post("/swatches", s.handle(s.measurePaint))
	r.Post("/swatches/practice", s.handle(s.practiseSwatches))
	r.Get("/swatches.{as:svg|pdf}", s.handle(s.swatchCard))
	r.Get("/mixing", s.handle(s.mixing))
	r.Get("/mixing.{as:svg|pdf}", s.handle(s.mixingSheet))
	r.Get("/strip.pdf", s.handle(s.strip))
	r.Get("/images/{hash}", s.handle(s.image))
	r.Route("/cards/{card}", func(r chi.Router) {
		r.Get("/", s.handle(s.openCard))
		r.Get("/{station}", s.handle(s.station))
		r.Get("/rules", s.handle(s.rulesPage))
		r.Get("/card.zip", s.handle(s.exportCard))
		r.Get("/bench.pdf", s.handle(s.benchPDF))
		r.Get("/line.png", s.handle(s.linePicture))
		r.Get("/ways", s.handle(s.waysPage))
		r.Post("/ways", s.handle(s.keepWay))
		r.Get("/palette.gpl", s.handle(s.palette))
		r.Post("/palette", s.handle(s.importPalette))
		r.Get("/masks.{as:svg|pdf}", s.handle(s.masks))
		r.Get("/envelope-{kind}.{as:svg|pdf}", s.handle(s.envelopeTemplate))
		r.Get("/panel.svg", s.handle(s.panelPicture))
		r.Get("/similar", s.handle(s.similarCells))
		r.Get("/reading", s.handle(s.readingState))
		r.Post("/reading/{do}", s.handle(s.readingControl))
		r.Post("/edit", s.handle(s.edit))
		r.Post("/upload", s.handle(s.upload))
		r.Post("/sheet", s.handle(s.uploadSheet))
		r.Post("/impression", s.handle(s.impression))
		r.Post("/impression/practice", s.handle(s.practiseImpression))
		r.Post("/undo", s.handle(s.undo))
		r.Post("/redo", s.handle(s.redo))
		r.Post("/copy", s.handle(s.copyCard))
		r.Post("/state/{state}", s.handle(s.setState))
	})
	return r
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
			if p := recover(); p != nil {
				s.log.Error("panic", "path", r.URL.Path, "panic", p)
				s.fail(w, r, errInternal)
			}
		}()
		next.ServeHTTP(w, r)
	})
}

// An Error is a failure to show to the maker with an HTTP status.
type Error struct {
	Status int
	Err    error
}

func (e *Error) Error() string { return e.Err.Error() }
func (e *Error) Unwrap() error { return e.Err }

// errOldPage answers forms that this program does not make.
var errOldPage = errors.New("this page is from another version of the program; load it again")

var errInternal = errors.New("something went wrong inside the program; what you entered before is kept, go back and try again")

// refused marks an error as the fault of what was sent.
func refused(err error) error {
	if err == nil {
		return nil
	}
	return &Error{http.StatusUnprocessableEntity, err}
}

// handle adapts a handler that returns what went wrong.
func (s *Server) handle(f func(http.ResponseWriter, *http.Request) error) http.HandlerFunc {
	return func(w http.ResponseWriter, r *http.Request) {
		if err := f(w, r); err != nil {
			s.fail(w, r, err)
		}
	}
}

// fail shows an error as a page of its own.
func (s *Server) fail(w http.ResponseWriter, r *http.Request, err error) {
	status, err := s.explain(r, err)
	s.render(w, r, status, "error.html", struct {
		page
		Missing bool
		Text    string
	}{page{Title: "That did not work"}, status == http.StatusNotFound, err.Error()})
}

// explain returns the status and the words for an error; what the maker cannot
// mend is logged and worded generally.
func (s *Server) explain(r *http.Request, err error) (int, error) {
	var e *Error
	var tooLarge *http.MaxBytesError
	switch {
	case errors.As(err, &e):
		return e.Status, e.Err
	case errors.As(err, &tooLarge):
		return http.StatusRequestEntityTooLarge, errTooLarge
	case errors.Is(err, store.ErrNotFound):
		return http.StatusNotFound, errors.New("there is nothing at this address; perhaps the card was made in another studio file")
	case errors.Is(err, store.ErrStale):
		return http.StatusConflict, store.ErrStale
	case errors.Is(err, context.Canceled):
		return http.StatusServiceUnavailable, errors.New("stopped before it was done; nothing was changed")
	}
	s.log.Error("request failed", "method", r.Method, "path", r.URL.Path, "error", err)
	return http.StatusInternalServerError, errInternal
}

// revision returns the card a request speaks of.
func (s *Server) revision(r *http.Request) (*store.Revision, error) {
	id, err := strconv.ParseInt(chi.URLParam(r, "card"), 10, 64)
	if err != nil {
		return nil, store.ErrNotFound
	}
	return s.store.Card(r.Context(), id)
}

// station is one of the places of the work.
type station struct {
	ID, Name, Question string
}

var stations = []station{
	{"format", "Format", "Which card, which envelope, what do I cut?"},
	{"line", "Line", "Which image, how big, where, made with what?"},
	{"colour", "Colour", "What goes where, how strong, and how will it look dry?"},
	{"order", "Order", "In which order, how long in all, where do I wait?"},
	{"bench", "Bench sheet", "Everything on paper, to lie beside the paint."},
}

// openCard goes to the first station that still has something to decide.
func (s *Server) openCard(w http.ResponseWriter, r *http.Request) error {
	rev, err := s.revision(r)
	if err != nil {
		return err
	}
	to := "order"
	switch {
	case rev.Card.Line() == nil:
		to = "format"
	case !painted(rev.Card):
		to = "colour"
	}
	http.Redirect(w, r, cardPath(rev.ID, to), http.StatusSeeOther)
	return nil
}

func painted(c *card.Card) bool {
	for _, a := range c.Areas {
		if len(a.Washes) > 0 {
			return true
		}
	}
	return false
}

func cardPath(id int64, place string) string {
	return "/cards/" + strconv.FormatInt(id, 10) + "/" + place
}
