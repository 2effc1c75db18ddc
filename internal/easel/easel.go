// Package easel answers "what does the card look like, painted?": it keeps cards of the
// studio as they are painted, and draws them at any minute.
package easel

import (
	"bytes"
	"cmp"
	"context"
	"errors"
	"fmt"
	"image"
	"image/color"
	"image/draw"
	"image/jpeg"
	"image/png"
	"math"
	"slices"
	"sync"

	lru "github.com/hashicorp/golang-lru/v2"
	scaling "golang.org/x/image/draw"

	"chromaqua/core/card"
	"chromaqua/core/order"
	"chromaqua/core/order/solver"
	"chromaqua/core/paint"
	"chromaqua/core/panel"
	"chromaqua/core/settings"
	"chromaqua/core/steps"
	"chromaqua/core/wash"
	"chromaqua/internal/desk"
)

// What is kept, and how finely is drawn.
const (
	keptPaintings = 60
	keptPictures  = 4  // with all that is finer than their grids: some 8 MB each
	keptDrawn     = 80 // finished, as JPEG
	keptTouched   = 16 // with a picture of what lies round: some 140 kB each
	DPI           = 150
	FineDPI       = 300
	quality       = 88
	draftTries    = 60 // orders tried for a card that is only looked at
)

// ErrNotPainted means that nothing is painted on a piece.
var ErrNotPainted = errors.New("nothing is painted on it yet")

// Easel keeps painted cards. It is safe for several goroutines; one picture is worked at
// at a time, on all processors.
type Easel struct {
	desk      *desk.Desk
	basins    wash.Kept
	paintings *lru.Cache[string, *Painting]
	drawn     *lru.Cache[string, []byte]
	happened  *lru.Cache[string, []Happening]
	touched   *lru.Cache[string, *Touched]
	one       chan struct{}

	mu       sync.Mutex
	pictures []*picture // the one used last at the end
}

// New is an easel for the cards of a desk.
func New(d *desk.Desk) *Easel {
	return &Easel{desk: d, paintings: desk.Cache[string, *Painting](keptPaintings), drawn: desk.Cache[string, []byte](keptDrawn), happened: desk.Cache[string, []Happening](keptPaintings), touched: desk.Cache[string, *Touched](keptTouched), one: make(chan struct{}, 1)}
}

// A Painting is one piece of a card as it is painted.
type Painting struct {
	*paint.Painting
	Board *panel.Board
	Name  string // tells it from others
	line  func() image.Image
}

// A picture is a moment made ready to draw, and what was drawn of it.
type picture struct {
	at     string
	of     string // the sheet
	moment *wash.Moment
	*wash.Picture
	images map[shown]*image.RGBA
}

type shown struct {
	dpi, tilt float64
	wet       bool
}

// A Look is how a painting is looked at.
type Look struct {
	At   float64 // s from the start; wash.Dry
	DPI  float64
	Wet  bool    // all of it wetted
	Line bool    // with the line
	Tilt float64 // −1 … 1: how far it is held to the light
}

// name tells a look from others.
func (k Look) name() string {
	return fmt.Sprintf("%.1f/%.1f/%t/%t/%.2f", k.At, k.DPI, k.Wet, k.Line, k.Tilt)
}

// Open is the piece of a card that is laid out, as it is painted; of one that the card needs
// several times, the first.
func (e *Easel) Open(ctx context.Context, l *desk.Laid) (*Painting, error) {
	return e.OpenItem(ctx, l, 0)
}

// OpenItem is one of a piece that the card needs several times: they are painted alike, but
// not in the same order.
func (e *Easel) OpenItem(ctx context.Context, l *desk.Laid, item int) (*Painting, error) {
	name := fmt.Sprintf("%s %s %d", l.PlanName(), l.PieceID(), item)
	if p, ok := e.paintings.Get(name); ok {
		return p, nil
	}
	if l.Board == nil || !l.Rev.Card.Painted() {
		return nil, desk.Refuse(ErrNotPainted)
	}
	planned, err := e.desk.Order(ctx, l)
	if err != nil {
		return nil, err
	}
	p, err := e.paint(planned.Plan, planned.Schedule, l.PieceID(), item, name, l.Reading)
	if err != nil {
		return nil, err
	}
	e.paintings.Add(name, p)
	return p, nil
}

// Live is an item of a piece of a card on a bench, as far as it is done.
func (e *Easel) Live(plan *steps.Plan, done *order.Schedule, piece string, item int, name string, read *desk.Reading) (*Painting, error) {
	if p, ok := e.paintings.Get(name); ok {
		return p, nil
	}
	p, err := e.paint(plan, done, piece, item, name, read)
	if err == nil {
		e.paintings.Add(name, p)
	}
	return p, err
}

// Draft is a card that is not stored, with the panel alone.
func (e *Easel) Draft(ctx context.Context, c *card.Card, bench steps.Bench) (*Painting, error) {
	read, err := e.desk.Read(ctx, c)
	if err != nil {
		return nil, err
	}
	plan, err := steps.Compile(panel.Resolve(c, read.Sheet), bench)
	if err != nil {
		return nil, desk.Refuse(err)
	}
	s, err := solver.Solve(ctx, plan.Instance, solver.Budget{Iterations: draftTries, Seed: 1})
	if err != nil {
		return nil, desk.Refuse(err)
	}
	return e.paint(plan, s, plan.Pieces[0].ID, 0, "", read)
}

func (e *Easel) paint(plan *steps.Plan, s *order.Schedule, piece string, item int, name string, read *desk.Reading) (*Painting, error) {
	k := slices.IndexFunc(plan.Pieces, func(p panel.Piece) bool { return p.ID == piece && p.Board != nil })
	if k < 0 && len(plan.Pieces) == 1 && plan.Pieces[0].Board != nil {
		k = 0
	}
	if k < 0 {
		return nil, desk.Refuse(ErrNotPainted)
	}
	line := sync.OnceValue(func() image.Image {
		if read != nil {
			if img, err := png.Decode(bytes.NewReader(read.Line)); err == nil {
				return img
			}
		}
		return image.NewUniform(color.Transparent) // there is none
	})
	return &Painting{paint.Of(plan, s, k, item, HandOf(plan.Bench.Washes)), plan.Pieces[k].Board, name, line}, nil
}

// HandOf is the maker's hand as a card of test washes has shown it, the usual one before.
func HandOf(w settings.Washes) wash.Hand {
	if !w.Measured() {
		return wash.UsualHand()
	}
	return wash.Hand{Spread: w.Spread, Rim: w.Rim, Grain: w.Grain}
}

// After is when so many steps of a painting are done, s; none is its very start.
func (p *Painting) After(steps int) float64 {
	if steps <= 0 {
		return 0
	}
	ends := p.Ends()
	if steps > len(ends) {
		return wash.Dry
	}
	return ends[steps-1]
}

// DoneAt is when a step of its plan is done, s.
func (p *Painting) DoneAt(st *steps.Step) float64 {
	for _, o := range p.Schedule.Ops {
		if o.Op == st.ID && o.Copy == 0 {
			return float64(o.End) + 1
		}
	}
	return wash.Dry
}

// goes are what is laid on the piece.
func (p *Painting) goes() (out []order.Placed) {
	for _, o := range p.Schedule.Ops {
		st := &p.Plan.Steps[o.Op]
		if o.Copy == 0 && st.Piece == p.Piece && st.Item == p.Item && st.On != nil {
			out = append(out, o)
		}
	}
	return out
}

// Ends are when its strokes end, in their order.
func (p *Painting) Ends() (out []float64) {
	for _, o := range p.goes() {
		out = append(out, float64(o.End)+1)
	}
	slices.Sort(out)
	return out
}

// Moment is a painting at a time.
func (e *Easel) Moment(ctx context.Context, p *Painting, at float64) (*wash.Moment, error) {
	if err := e.wait(ctx); err != nil {
		return nil, err
	}
	defer func() { <-e.one }()
	return p.Play(ctx, at, &e.basins)
}

func (e *Easel) wait(ctx context.Context) error {
	select {
	case e.one <- struct{}{}:
		return nil
	case <-ctx.Done():
		return ctx.Err()
	}
}

// JPEG draws a painting.
func (e *Easel) JPEG(ctx context.Context, p *Painting, k Look) ([]byte, error) {
	name := p.Name + " " + k.name()
	if data, ok := e.drawn.Get(name); ok && p.Name != "" {
		return data, nil
	}
	img, err := e.Image(ctx, p, k)
	if err != nil {
		return nil, err
	}
	var buf bytes.Buffer
	if err := jpeg.Encode(&buf, img, &jpeg.Options{Quality: quality}); err != nil {
		return nil, err
	}
	if p.Name != "" {
		e.drawn.Add(name, buf.Bytes())
	}
	return buf.Bytes(), nil
}

// Image draws a painting. Coarser pictures are drawn finely first, so that their paper is
// seen from afar and not sampled.
func (e *Easel) Image(ctx context.Context, p *Painting, k Look) (image.Image, error) {
	size, err := paint.Size(p.Board, k.DPI)
	if err != nil {
		return nil, desk.Refuse(err)
	}
	if err := e.wait(ctx); err != nil {
		return nil, err
	}
	defer func() { <-e.one }()
	if k.DPI >= 0.8*DPI {
		return e.draw(ctx, p, k)
	}
	k.DPI = DPI
	fine, err := e.draw(ctx, p, k)
	if err != nil {
		return nil, err
	}
	out := image.NewRGBA(image.Rectangle{Max: size})
	scaling.ApproxBiLinear.Scale(out, out.Rect, fine, fine.Bounds(), scaling.Src, nil)
	return out, nil
}

// draw draws a moment, or only where it differs from what was drawn of the sheet before.
func (e *Easel) draw(ctx context.Context, p *Painting, k Look) (*image.RGBA, error) {
	q, err := e.picture(ctx, p, k.At)
	if err != nil {
		return nil, err
	}
	key := shown{k.DPI, k.Tilt, k.Wet}
	shot := paint.Shot{DPI: k.DPI, View: wash.View{Soaked: k.Wet, Glance: k.Tilt}}
	img := q.images[key]
	if img == nil {
		before, changed := e.before(q, key)
		if before != nil {
			img = image.NewRGBA(before.Rect)
			copy(img.Pix, before.Pix)
			scale := k.DPI * wash.PlateMM / 25.4
			shot.Rect = image.Rect(int(float64(changed.Min.X)*scale), int(float64(changed.Min.Y)*scale), int(math.Ceil(float64(changed.Max.X)*scale)), int(math.Ceil(float64(changed.Max.Y)*scale))).Intersect(before.Rect)
		}
		if img == nil || !shot.Rect.Empty() {
			part, err := paint.Draw(ctx, p.Board, q.Picture, shot)
			if err != nil {
				return nil, err
			}
			if img == nil {
				img = part
			} else {
				draw.Draw(img, part.Rect, part, part.Rect.Min, draw.Src)
			}
		}
		e.mu.Lock()
		q.images[key] = img
		e.mu.Unlock()
	}
	if !k.Line {
		return img, nil
	}
	return paint.WithLine(img, p.line()), nil
}

// before is what was drawn last of the same sheet in the same way, and where it differs.
func (e *Easel) before(q *picture, key shown) (*image.RGBA, image.Rectangle) {
	e.mu.Lock()
	defer e.mu.Unlock()
	for _, o := range slices.Backward(e.pictures) {
		if o == q || o.of != q.of || o.images[key] == nil {
			continue
		}
		changed := q.moment.Changed(o.moment)
		if size := image.Pt(changed.Dx(), changed.Dy()); size.X*size.Y < o.images[key].Rect.Dx()*o.images[key].Rect.Dy() {
			return o.images[key], changed
		}
	}
	return nil, image.Rectangle{}
}

// picture is a painting at a time, ready to draw.
func (e *Easel) picture(ctx context.Context, p *Painting, at float64) (*picture, error) {
	key := fmt.Sprintf("%s %.1f", cmp.Or(p.Name, fmt.Sprintf("%p", p.Painting)), at)
	e.mu.Lock()
	for i, q := range e.pictures {
		if q.at == key {
			e.pictures = append(slices.Delete(e.pictures, i, i+1), q)
			e.mu.Unlock()
			return q, nil
		}
	}
	e.mu.Unlock()
	m, err := p.Play(ctx, at, &e.basins)
	if err != nil {
		return nil, err
	}
	q := &picture{at: key, of: fmt.Sprintf("%p", p.Plate), moment: m, Picture: m.Picture(), images: map[shown]*image.RGBA{}}
	e.mu.Lock()
	defer e.mu.Unlock()
	e.pictures = append(e.pictures, q)
	if len(e.pictures) > keptPictures {
		e.pictures = slices.Delete(e.pictures, 0, 1)
	}
	return q, nil
}
