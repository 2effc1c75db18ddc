package desk

import (
	"bytes"
	"context"
	"encoding/hex"
	"errors"
	"fmt"
	"log/slog"
	"runtime/debug"
	"slices"
	"sync"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"

	"chromaqua/core/card"
	"chromaqua/core/length"
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

// ReadingKey names all that the cells of a panel depend on.
type ReadingKey digest

// ReadingKeyOf names the reading of a card's panel.
func ReadingKeyOf(c *card.Card) ReadingKey {
	texture := shelf.Texture("")
	if c.Has(shelf.SolidImage) { // its mottling is drawn
		texture = c.PaperFacts().Texture
	}
	images := slices.Clone(c.Images)
	for i := range images {
		worked := c.Worked(&images[i])
		if images[i].Medium = nil; worked { // what it is put on with makes no cell, but that
			images[i].Medium = &card.Medium{Look: shelf.Solid}
		}
	}
	var over []card.Over // of images, which hide each other or do not
	for _, o := range c.Over {
		if _, err := c.ImageByID(string(o.Below)); err == nil {
			over = append(over, o)
		}
	}
	return ReadingKey(digestOf(struct {
		Images  []card.Image
		Panel   length.Size
		Specks  float64
		Texture shelf.Texture
		Over    []card.Over
	}{images, c.PanelSize(), c.Specks, texture, over}))
}

// Short names the key in addresses.
func (k ReadingKey) Short() string { return hex.EncodeToString(k[:8]) }

// Reading is a panel that is being read or has been.
type Reading struct {
	key    ReadingKey
	card   *card.Card
	urgent bool // guarded by the readings
	ctx    context.Context
	cancel context.CancelFunc
	done   chan struct{}

	mu    sync.Mutex
	stage string
	share float64

	// Set before it is finished.
	Sheet *panel.Sheet
	Paths []string // SVG path of each cell's shape, see [PathOf]
	Line  []byte   // PNG of the line, clear where the paper is
	Err   error
}

func (r *Reading) progress(stage string, share float64) {
	r.mu.Lock()
	defer r.mu.Unlock()
	r.stage, r.share = stage, share
}

// State returns what is being done and the share that is done, 0 to 1.
func (r *Reading) State() (stage string, share float64) {
	r.mu.Lock()
	defer r.mu.Unlock()
	return r.stage, r.share
}

// Finished reports whether the reading is over, waiting for it a little.
func (r *Reading) Finished(patience time.Duration) bool {
	select {
	case <-r.done:
		return true
	default:
	}
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
	queue []*Reading // waiting, first come first
	busy  bool
	under map[ReadingKey]*Reading // waiting or being read
	kept  *lru.Cache[ReadingKey, *Reading]

	reader func(context.Context, *card.Card, *Reading) error
}

func newReadings(s *store.Store) *readings {
	ctx, stop := context.WithCancel(context.Background())
	rs := &readings{store: s, ctx: ctx, stop: stop, under: map[ReadingKey]*Reading{}, kept: Cache[ReadingKey, *Reading](keptReadings)}
	rs.reader = rs.read
	return rs
}

// of returns the reading of a card's panel, starting it when there is none. An
// urgent one is read before those that are not.
func (rs *readings) of(c *card.Card, urgent bool) *Reading {
	key := ReadingKeyOf(c)
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
	r := &Reading{key: key, card: &own, urgent: urgent, done: make(chan struct{}), stage: "waiting for another picture"}
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
	i := max(0, slices.IndexFunc(rs.queue, func(r *Reading) bool { return r.urgent }))
	r := rs.queue[i]
	rs.queue = slices.Delete(rs.queue, i, i+1)
	rs.busy = true
	go func() {
		r.Err = rs.safely(r)
		rs.mu.Lock()
		defer rs.mu.Unlock()
		rs.finish(r)
		rs.busy = false
		rs.next()
	}()
}

// errUnreadable stands for a fault of the program met by one picture.
var errUnreadable = errors.New("this picture brought the program to a fault; nothing is lost. Scan it again, or lay another image")

// safely reads a panel. A fault of the program is a failed reading, not the end of all.
func (rs *readings) safely(r *Reading) (err error) {
	defer func() {
		if p := recover(); p != nil {
			slog.Error("reading failed", "panic", p, "stack", string(debug.Stack()))
			err = Refuse(errUnreadable)
		}
	}()
	return rs.reader(r.ctx, r.card, r)
}

// finish puts a reading by.
func (rs *readings) finish(r *Reading) {
	delete(rs.under, r.key)
	rs.kept.Add(r.key, r)
	r.cancel()
	close(r.done)
}

// halt stops the reading of a card's panel if it is under way.
func (rs *readings) halt(c *card.Card) {
	rs.mu.Lock()
	r, ok := rs.under[ReadingKeyOf(c)]
	if !ok {
		rs.mu.Unlock()
		return
	}
	r.cancel()
	if i := slices.Index(rs.queue, r); i >= 0 {
		rs.queue = slices.Delete(rs.queue, i, i+1)
		r.Err = context.Canceled
		rs.finish(r)
	}
	rs.mu.Unlock()
	<-r.done
}

func (rs *readings) read(ctx context.Context, c *card.Card, r *Reading) error {
	if ctx.Err() != nil {
		return ctx.Err()
	}
	r.progress("opening the picture", 0)
	scans, err := Scans(ctx, rs.store, c)
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
		return Refuse(err)
	}
	if r.Line, err = picture.Ink(sheet.Grey, linePictureSide); err != nil {
		return err
	}
	sheet.Grey = nil // the picture stands for it
	for _, o := range sheet.Shapes {
		r.Paths = append(r.Paths, PathOf(o))
	}
	r.Sheet = sheet
	return nil
}

// Scans opens the pictures of a card's images.
func Scans(ctx context.Context, st *store.Store, c *card.Card) (panel.Scans, error) {
	scans := panel.Scans{}
	for _, on := range c.Images {
		if scans[on.Image] != nil {
			continue
		}
		m, err := st.Image(ctx, on.Image)
		if errors.Is(err, store.ErrNotFound) {
			return nil, Refuse(fmt.Errorf("the picture of %q is missing from the studio; upload it again", on.Title))
		}
		if err != nil {
			return nil, err
		}
		if scans[on.Image], err = picture.Grey(m.Data); err != nil {
			return nil, Refuse(err)
		}
	}
	return scans, nil
}

// forget drops what was read of a card's panel.
func (rs *readings) forget(c *card.Card) {
	rs.halt(c)
	rs.mu.Lock()
	defer rs.mu.Unlock()
	rs.kept.Remove(ReadingKeyOf(c))
}

// Reading returns the reading of a card's panel, which has a line, starting it when
// there is none.
func (d *Desk) Reading(c *card.Card) *Reading { return d.readings.of(c, true) }

// Halt stops the reading of a card's panel if it is under way.
func (d *Desk) Halt(c *card.Card) { d.readings.halt(c) }

// Forget drops what was read of a card's panel, so that it is read again.
func (d *Desk) Forget(c *card.Card) { d.readings.forget(c) }

// Read returns the reading of a card's panel once it is finished.
func (d *Desk) Read(ctx context.Context, c *card.Card) (*Reading, error) {
	if !c.Begun() {
		return nil, Refuse(errors.New("the card has no line image yet; choose one at the Line station"))
	}
	r := d.Reading(c)
	select {
	case <-r.done:
		return r, r.Err
	case <-ctx.Done():
		return nil, ctx.Err()
	}
}

// Board returns a card laid out with its cells once they are known.
func (d *Desk) Board(ctx context.Context, c *card.Card) (*panel.Board, error) {
	r, err := d.Read(ctx, c)
	if err != nil {
		return nil, err
	}
	return panel.Resolve(c, r.Sheet), nil
}

// PathOf prints a cell's shape as an SVG path in hundredths of a millimetre,
// relative, which is short, from an absolute start, so that paths can be joined.
func PathOf(o lineart.Outline) string {
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

// Stopped reports whether the maker stopped the reading.
func (r *Reading) Stopped() bool { return errors.Is(r.Err, context.Canceled) }
