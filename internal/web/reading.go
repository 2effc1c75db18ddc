package web

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"net/http"
	"strconv"
	"sync"
	"time"

	"github.com/go-chi/chi/v5"
	lru "github.com/hashicorp/golang-lru/v2"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/internal/picture"
	"chromaqua/internal/store"
)

// keptReadings bounds how many read panels stay in memory; the largest takes
// about 200 MB, an A2 panel at 600 dpi 30 MB.
const keptReadings = 6

// linePictureSide is the longer side of the picture of the line, pixels.
const linePictureSide = 1400

// readingKey is what the cells of a panel depend on.
type readingKey struct {
	image       string
	width, x, y length.Length
	panel       length.Size
}

func keyOf(c *card.Card) readingKey {
	return readingKey{c.Line.Image, c.Line.Width, c.Line.X, c.Line.Y, c.Panel()}
}

// String names the key in addresses.
func (k readingKey) String() string {
	h := fnv.New64a()
	fmt.Fprint(h, k.image, k.width, k.x, k.y, k.panel)
	return strconv.FormatUint(h.Sum64(), 36)
}

// reading is a panel that is being read or has been.
type reading struct {
	done   chan struct{}
	cancel context.CancelFunc

	mu    sync.Mutex
	stage string
	share float64

	// Set before done is closed.
	sheet *panel.Sheet
	paths []string // SVG path of each cell's shape
	line  []byte   // PNG of the line, clear where the paper is
	err   error
}

func (r *reading) progress(stage string, share float64) {
	r.mu.Lock()
	defer r.mu.Unlock()
	r.stage, r.share = stage, share
}

// State returns what is being done and the share that is done, 0 to 1.
func (r *reading) State() (stage string, share float64) {
	r.mu.Lock()
	defer r.mu.Unlock()
	return r.stage, r.share
}

// finished reports whether the reading is over, waiting for it a little.
func (r *reading) finished(patience time.Duration) bool {
	select {
	case <-r.done:
		return true
	case <-time.After(patience):
		return false
	}
}

// readings reads panels, one at a time to bound memory, and keeps the latest.
type readings struct {
	store *store.Store
	ctx   context.Context
	stop  context.CancelFunc
	slot  chan struct{}

	mu   sync.Mutex
	kept *lru.Cache[readingKey, *reading]
}

func newReadings(s *store.Store) *readings {
	kept, err := lru.NewWithEvict(keptReadings, func(_ readingKey, r *reading) { r.cancel() })
	if err != nil {
		panic("web: " + err.Error()) // only for a size below 1
	}
	ctx, stop := context.WithCancel(context.Background())
	return &readings{store: s, ctx: ctx, stop: stop, slot: make(chan struct{}, 1), kept: kept}
}

func (rs *readings) close() { rs.stop() }

// of returns the reading of a card's panel, starting it when there is none.
func (rs *readings) of(c *card.Card) *reading {
	key := keyOf(c)
	rs.mu.Lock()
	defer rs.mu.Unlock()
	if r, ok := rs.kept.Get(key); ok {
		return r
	}
	ctx, cancel := context.WithCancel(rs.ctx)
	r := &reading{done: make(chan struct{}), cancel: cancel, stage: "waiting for another picture"}
	rs.kept.Add(key, r)
	line := *c.Line
	own := *c
	own.Line = &line
	go func() {
		defer close(r.done)
		r.err = rs.read(ctx, &own, r)
	}()
	return r
}

func (rs *readings) read(ctx context.Context, c *card.Card, r *reading) error {
	select {
	case rs.slot <- struct{}{}:
		defer func() { <-rs.slot }()
	case <-ctx.Done():
		return ctx.Err()
	}
	r.progress("opening the picture", 0)
	m, err := rs.store.Image(ctx, c.Line.Image)
	if errors.Is(err, store.ErrNotFound) {
		return refused(errors.New("the line image is missing from the studio; upload it again"))
	}
	if err != nil {
		return err
	}
	scan, err := picture.Grey(m.Data)
	if err != nil {
		return refused(err)
	}
	sheet, err := panel.Read(ctx, c, scan, r.progress)
	if err != nil {
		if ctx.Err() != nil {
			return ctx.Err()
		}
		return refused(err)
	}
	if r.line, err = picture.Ink(sheet.Grey, linePictureSide); err != nil {
		return err
	}
	sheet.Grey = nil // the picture stands for it
	for _, o := range sheet.Shapes {
		r.paths = append(r.paths, pathOf(o))
	}
	r.sheet = sheet
	return nil
}

// forget drops the reading of a card's panel, stopping it if it runs.
func (rs *readings) forget(c *card.Card) {
	rs.mu.Lock()
	defer rs.mu.Unlock()
	rs.kept.Remove(keyOf(c))
}

// wait returns the sheet of a card's panel once it has been read.
func (rs *readings) wait(ctx context.Context, c *card.Card) (*reading, error) {
	if c.Line == nil {
		return nil, refused(errors.New("the card has no line image yet; choose one at the Line station"))
	}
	r := rs.of(c)
	select {
	case <-r.done:
		return r, r.err
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

// pathOf prints a cell's shape as an SVG path in hundredths of a millimetre,
// relative, which is short.
func pathOf(o lineart.Outline) string {
	var b bytes.Buffer
	unit := func(v float64) int { return int(v*100 + 0.5) }
	x, y := 0, 0
	for _, ring := range o.Rings {
		for i, p := range ring {
			px, py := unit(p.X), unit(p.Y)
			switch i {
			case 0:
				fmt.Fprintf(&b, "m%d %d", px-x, py-y)
			case 1:
				fmt.Fprintf(&b, "l%d %d", px-x, py-y)
			default:
				fmt.Fprintf(&b, " %d %d", px-x, py-y)
			}
			x, y = px, py
		}
		if len(ring) > 0 {
			b.WriteByte('z')
			x, y = unit(ring[0].X), unit(ring[0].Y)
		}
	}
	return b.String()
}

// linePicture serves the picture of the line as it lies on the panel.
func (s *Server) linePicture(w http.ResponseWriter, r *http.Request) error {
	rev, err := s.revision(r)
	if err != nil {
		return err
	}
	read, err := s.readings.wait(r.Context(), rev.Card)
	if err != nil {
		return err
	}
	w.Header().Set("Content-Type", "image/png")
	w.Header().Set("Cache-Control", "no-cache")
	if r.URL.Query().Get("v") == keyOf(rev.Card).String() {
		w.Header().Set("Cache-Control", "private, max-age=31536000, immutable")
	}
	_, _ = w.Write(read.line)
	return nil
}

// readingState tells how far the reading of a panel has come, as JSON.
func (s *Server) readingState(w http.ResponseWriter, r *http.Request) error {
	rev, err := s.revision(r)
	if err != nil {
		return err
	}
	state := struct {
		Done  bool    `json:"done"`
		Stage string  `json:"stage"`
		Share float64 `json:"share"`
	}{Done: true}
	if rev.Card.Line != nil {
		read := s.readings.of(rev.Card)
		state.Done = read.finished(0)
		state.Stage, state.Share = read.State()
	}
	w.Header().Set("Content-Type", "application/json")
	w.Header().Set("Cache-Control", "no-store")
	return json.NewEncoder(w).Encode(state)
}

// readingControl stops the reading of a panel or starts it again.
func (s *Server) readingControl(w http.ResponseWriter, r *http.Request) error {
	rev, err := s.revision(r)
	if err != nil {
		return err
	}
	if rev.Card.Line != nil {
		switch chi.URLParam(r, "do") {
		case "stop":
			read := s.readings.of(rev.Card)
			read.cancel()
			<-read.done
		case "again":
			s.readings.forget(rev.Card)
		default:
			return store.ErrNotFound
		}
	}
	http.Redirect(w, r, cardPath(rev.CardID, "line"), http.StatusSeeOther)
	return nil
}

// ctxStopped reports whether the maker stopped the reading.
func (r *reading) ctxStopped() bool { return errors.Is(r.err, context.Canceled) }
