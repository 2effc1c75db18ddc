package web

import (
	"bytes"
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"hash/fnv"
	"io"
	"net/http"
	"slices"
	"strconv"
	"sync"
	"time"

	"github.com/go-chi/chi/v5"
	lru "github.com/hashicorp/golang-lru/v2"

	"chromaqua/core/card"
	"chromaqua/core/lineart"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
	"chromaqua/internal/picture"
	"chromaqua/internal/store"
)

// keptReadings bounds how many read panels stay in memory; the largest takes
// about 200 MB, an A2 panel at 600 dpi 30 MB.
const keptReadings = 6

// linePictureSide is the longer side of the picture of the line, pixels.
const linePictureSide = 1400

// readingKey is what the cells of a panel depend on.
type readingKey string

func keyOf(c *card.Card) readingKey {
	texture := shelf.Texture("")
	if c.Has(shelf.SolidImage) { // its mottling is drawn
		texture = c.PaperFacts().Texture
	}
	return readingKey(fmt.Sprint(c.Images, c.PanelSize(), c.Specks, texture))
}

// Short names the key in addresses.
func (k readingKey) Short() string {
	h := fnv.New64a()
	_, _ = io.WriteString(h, string(k))
	return strconv.FormatUint(h.Sum64(), 36)
}

// reading is a panel that is being read or has been.
type reading struct {
	key    readingKey
	card   *card.Card
	urgent bool // guarded by the readings
	ctx    context.Context
	cancel context.CancelFunc
	done   chan struct{}

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
// The card that is open goes before the pictures of the others.
type readings struct {
	store *store.Store
	ctx   context.Context
	stop  context.CancelFunc

	mu    sync.Mutex
	queue []*reading // waiting, first come first
	busy  bool
	under map[readingKey]*reading // waiting or being read
	kept  *lru.Cache[readingKey, *reading]
}

func newReadings(s *store.Store) *readings {
	ctx, stop := context.WithCancel(context.Background())
	return &readings{store: s, ctx: ctx, stop: stop, under: map[readingKey]*reading{}, kept: newCache[readingKey, *reading](keptReadings)}
}

func (rs *readings) close() { rs.stop() }

// of returns the reading of a card's panel, starting it when there is none. An
// urgent one is read before those that are not.
func (rs *readings) of(c *card.Card, urgent bool) *reading {
	key := keyOf(c)
	rs.mu.Lock()
	defer rs.mu.Unlock()
	if r, ok := rs.kept.Get(key); ok {
		return r
	}
	if r, ok := rs.under[key]; ok {
		r.urgent = r.urgent || urgent
		return r
	}
	own := *c // what is read must not change under its reader
	own.Images = slices.Clone(c.Images)
	for i := range own.Images {
		own.Images[i].Marks = slices.Clone(c.Images[i].Marks)
	}
	r := &reading{key: key, card: &own, urgent: urgent, done: make(chan struct{}), stage: "waiting for another picture"}
	r.ctx, r.cancel = context.WithCancel(rs.ctx)
	rs.under[key] = r
	rs.queue = append(rs.queue, r)
	rs.next()
	return r
}

// next starts the first urgent reading, or the first, when none runs.
func (rs *readings) next() {
	if rs.busy || len(rs.queue) == 0 {
		return
	}
	i := max(0, slices.IndexFunc(rs.queue, func(r *reading) bool { return r.urgent }))
	r := rs.queue[i]
	rs.queue = slices.Delete(rs.queue, i, i+1)
	rs.busy = true
	go func() {
		r.err = rs.read(r.ctx, r.card, r)
		rs.mu.Lock()
		defer rs.mu.Unlock()
		rs.finish(r)
		rs.busy = false
		rs.next()
	}()
}

// finish puts a reading by.
func (rs *readings) finish(r *reading) {
	delete(rs.under, r.key)
	rs.kept.Add(r.key, r)
	r.cancel()
	close(r.done)
}

// halt stops the reading of a card's panel if it is under way.
func (rs *readings) halt(c *card.Card) {
	rs.mu.Lock()
	r, ok := rs.under[keyOf(c)]
	if !ok {
		rs.mu.Unlock()
		return
	}
	r.cancel()
	if i := slices.Index(rs.queue, r); i >= 0 {
		rs.queue = slices.Delete(rs.queue, i, i+1)
		r.err = context.Canceled
		rs.finish(r)
	}
	rs.mu.Unlock()
	<-r.done
}

func (rs *readings) read(ctx context.Context, c *card.Card, r *reading) error {
	if ctx.Err() != nil {
		return ctx.Err()
	}
	r.progress("opening the picture", 0)
	scans, err := scansOf(ctx, rs.store, c)
	if err != nil {
		return err
	}
	sheet, err := panel.Read(ctx, c, scans, func(stage string, share float64) {
		if share >= 1 {
			stage = "drawing their outlines" // the cells are found, the board is not drawn
		}
		r.progress(stage, share)
	})
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

// scansOf opens the pictures of a card's images.
func scansOf(ctx context.Context, st *store.Store, c *card.Card) (panel.Scans, error) {
	scans := panel.Scans{}
	for _, on := range c.Images {
		if scans[on.Image] != nil {
			continue
		}
		m, err := st.Image(ctx, on.Image)
		if errors.Is(err, store.ErrNotFound) {
			return nil, refused(fmt.Errorf("the picture of %q is missing from the studio; upload it again", on.Title))
		}
		if err != nil {
			return nil, err
		}
		if scans[on.Image], err = picture.Grey(m.Data); err != nil {
			return nil, refused(err)
		}
	}
	return scans, nil
}

// forget drops what was read of a card's panel.
func (rs *readings) forget(c *card.Card) {
	rs.halt(c)
	rs.mu.Lock()
	defer rs.mu.Unlock()
	rs.kept.Remove(keyOf(c))
}

// wait returns the sheet of a card's panel once it has been read.
func (rs *readings) wait(ctx context.Context, c *card.Card) (*reading, error) {
	if c.Line() == nil {
		return nil, refused(errors.New("the card has no line image yet; choose one at the Line station"))
	}
	r := rs.of(c, true)
	select {
	case <-r.done:
		return r, r.err
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

// panelOf returns the card a request speaks of and its panel once it has been
// read.
func (s *Server) panelOf(r *http.Request) (*store.Revision, *reading, error) {
	rev, err := s.revision(r)
	if err != nil {
		return nil, nil, err
	}
	read, err := s.readings.wait(r.Context(), rev.Card)
	return rev, read, err
}

// pathOf prints a cell's shape as an SVG path in hundredths of a millimetre,
// relative, which is short, from an absolute start, so that paths can be joined.
func pathOf(o lineart.Outline) string {
	var b bytes.Buffer
	unit := func(v float64) int { return int(v*100 + 0.5) }
	x, y := 0, 0
	for _, ring := range o.Rings {
		for i, p := range ring {
			px, py := unit(p.X), unit(p.Y)
			switch {
			case b.Len() == 0:
				fmt.Fprintf(&b, "M%d %d", px, py)
			case i == 0:
				fmt.Fprintf(&b, "m%d %d", px-x, py-y)
			case i == 1:
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
	rev, read, err := s.panelOf(r)
	if err != nil {
		return err
	}
	w.Header().Set("Content-Type", "image/png")
	w.Header().Set("Cache-Control", "no-cache")
	if r.URL.Query().Get("v") == keyOf(rev.Card).Short() {
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
	if rev.Card.Line() != nil {
		read := s.readings.of(rev.Card, true)
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
	if rev.Card.Line() != nil {
		switch chi.URLParam(r, "do") {
		case "stop":
			s.readings.halt(rev.Card)
		case "again":
			s.readings.forget(rev.Card)
		default:
			return store.ErrNotFound
		}
	}
	http.Redirect(w, r, cardPath(rev.ID, "line"), http.StatusSeeOther)
	return nil
}

// ctxStopped reports whether the maker stopped the reading.
func (r *reading) ctxStopped() bool { return errors.Is(r.err, context.Canceled) }
