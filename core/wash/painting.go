package wash

import (
	"cmp"
	"context"
	"errors"
	"fmt"
	"hash/fnv"
	"image"
	"io"
	"math"
	"slices"
	"sync"

	"chromaqua/core/parallel"
)

// check reports a painting that cannot be simulated.
func (p *Painting) check() error {
	if p.Plate == nil || p.Plate.W*p.Plate.H == 0 {
		return errors.New("wash: there is no sheet to paint on")
	}
	if len(p.Paints) > MaxPaints {
		return fmt.Errorf("wash: %d paints on one sheet; %d can be told apart", len(p.Paints), MaxPaints)
	}
	for i := range p.Strokes {
		s := &p.Strokes[i]
		for _, v := range []float64{s.Start, s.Dur, float64(s.Laid), float64(s.Left), float64(s.Load)} {
			if math.IsNaN(v) || math.IsInf(v, 0) || v < 0 {
				return fmt.Errorf("wash: stroke %d: %g is no time, water or load", s.ID, v)
			}
		}
		for _, l := range s.Cells {
			if l == 0 || int(l) > p.Plate.Cells {
				return fmt.Errorf("wash: stroke %d goes onto cell %d, which the sheet has not", s.ID, l)
			}
		}
		for _, q := range s.Mix {
			if q.Paint < 0 || q.Paint >= len(p.Paints) {
				return fmt.Errorf("wash: stroke %d takes paint %d, which there is not", s.ID, q.Paint)
			}
		}
	}
	return nil
}

// rate is how fast a cell dries, g/m² per minute, 0 where nothing is told of it.
func (p *Painting) rate(label uint16) float64 {
	if int(label) < len(p.Rate) && p.Rate[label] > 0 {
		return p.Rate[label]
	}
	if len(p.Rate) > 0 {
		return p.Rate[0]
	}
	return 0
}

// wetUntil is when a stroke is surely no wetter than a load, roughly: its water at the
// cell's own rate, with some to spare.
func (p *Painting) wetUntil(s *Stroke, label uint16, load float64) float64 {
	const spare = 1.15
	rate := cmp.Or(p.rate(label), 1)
	w, c := spare*float64(s.Laid)+3, float64(p.Paper.Critical)
	minutes := max(0, w-max(c, load)) / rate
	minutes += c / rate * math.Log(max(1, min(w, c)/load))
	t, left := s.Start+s.Dur, 60*minutes*spare
	for _, h := range p.Spells {
		if h.To <= t || h.Faster <= 1 || !h.WholeSheet && !slices.Contains(h.Cells, label) {
			continue
		}
		if by := max(0, h.From-t); by < left {
			left, t = left-by, max(t, h.From)
			by = min(left, (h.To-t)*h.Faster)
			left, t = left-by, t+by/h.Faster
		}
	}
	return t + left
}

// basins parts the cells into groups between which water may run: those that a line parts
// which lets it through, and that are wet at the same time.
func (p *Painting) basins() (groups [][]uint16, strokes [][]int) {
	on := make([][]int, p.Plate.Cells+1)
	for k := range p.Strokes {
		for _, l := range p.Strokes[k].Cells {
			on[l] = append(on[l], k)
		}
	}
	up := make([]uint16, len(on))
	for i := range up {
		up[i] = uint16(i)
	}
	root := func(l uint16) uint16 {
		for up[l] != l {
			up[l] = up[up[l]]
			l = up[l]
		}
		return l
	}
	damp := float64(p.Paper.Damp) // water crosses a line between films only
	together := func(a, b uint16) bool {
		for _, i := range on[a] {
			for _, j := range on[b] {
				s, t := &p.Strokes[i], &p.Strokes[j]
				if s.Start < p.wetUntil(t, b, damp) && t.Start < p.wetUntil(s, a, damp) {
					return true
				}
			}
		}
		return false
	}
	for _, e := range p.Borders {
		if e.Cross > 0 && len(on[e.A]) > 0 && len(on[e.B]) > 0 && together(e.A, e.B) {
			a, b := root(e.A), root(e.B)
			up[max(a, b)] = min(a, b)
		}
	}
	by := map[uint16]int{}
	for l := 1; l < len(on); l++ {
		if len(on[l]) == 0 {
			continue
		}
		r := root(uint16(l))
		k, known := by[r]
		if !known {
			k = len(groups)
			by[r] = k
			groups, strokes = append(groups, nil), append(strokes, nil)
		}
		groups[k] = append(groups[k], uint16(l))
		for _, i := range on[l] {
			if !slices.Contains(strokes[k], i) {
				strokes[k] = append(strokes[k], i)
			}
		}
	}
	return groups, strokes
}

// key tells what a basin comes to: two of one key run alike.
func (p *Painting) key(labels []uint16, strokes []int) string {
	h := fnv.New128a()
	put := func(v ...any) { fmt.Fprintln(h, v...) }
	put(p.Paper, p.Hand, p.Seed, labels)
	for _, l := range labels {
		put(p.Plate.areas[l], p.Plate.boxes[l], p.rate(l))
	}
	for _, k := range strokes {
		p.putStroke(h, &p.Strokes[k])
	}
	for _, e := range p.Borders {
		if slices.Contains(labels, e.A) && slices.Contains(labels, e.B) {
			put(e)
		}
	}
	for _, s := range p.Spells {
		put(s)
	}
	for _, c := range p.Covers {
		put(c.Region.Key, c.From, c.To)
	}
	return string(h.Sum(nil))
}

// putStroke writes all that tells a stroke from others.
func (p *Painting) putStroke(h io.Writer, s *Stroke) {
	fmt.Fprintln(h, s.ID, s.Start, s.Dur, s.Laid, s.Left, s.Load, s.Cells, s.IntoWet, s.Dropped, s.Softens, s.Tilt, s.Band, s.Mark, s.Loose)
	for _, q := range s.Mix {
		fmt.Fprintln(h, q.Share, p.Paints[q.Paint])
	}
	if s.Within != nil {
		fmt.Fprintln(h, s.Within.Key)
	}
	if s.Amount != nil {
		fmt.Fprintln(h, s.Amount.Key)
	}
	if s.Take != nil {
		fmt.Fprintln(h, *s.Take)
	}
}

// Kept remembers basins that have run, so that after a change only what it touches runs
// again. It is safe for several goroutines.
type Kept struct {
	mu    sync.Mutex
	run   map[keptKey]*basin
	order []keptKey
	bytes int
}

// A keptKey is what a basin comes to, and when.
type keptKey struct {
	of string
	at float64
}

// MaxKept bounds what is remembered, bytes.
const MaxKept = 60 << 20

// get is the basin as it is then, and the last one that was kept before, both nil where there
// is none.
func (k *Kept) get(key keptKey) (is, before *basin) {
	if k == nil {
		return nil, nil
	}
	k.mu.Lock()
	defer k.mu.Unlock()
	if b := k.run[key]; b != nil {
		return b, nil
	}
	for o, b := range k.run {
		if o.of == key.of && o.at < key.at && (before == nil || b.t > before.t) {
			before = b
		}
	}
	return nil, before
}

func (k *Kept) put(key keptKey, b *basin) {
	if k == nil {
		return
	}
	k.mu.Lock()
	defer k.mu.Unlock()
	if k.run == nil {
		k.run = map[keptKey]*basin{}
	}
	if k.run[key] == nil {
		k.order = append(k.order, key)
		k.bytes += b.size()
	}
	k.run[key] = b
	for k.bytes > MaxKept && len(k.order) > 1 {
		old := k.order[0]
		k.order = k.order[1:]
		k.bytes -= k.run[old].size()
		delete(k.run, old)
	}
}

// size is about how many bytes a basin takes.
func (b *basin) size() int {
	planes := 14 + MaxLayers
	for l := range MaxLayers {
		for _, d := range b.lying[l] {
			if d != nil {
				planes++
			}
		}
	}
	for _, s := range b.afloat {
		if s != nil {
			planes++
		}
	}
	pixels := 0.0
	for _, l := range b.labels {
		pixels += b.p.Plate.MM2(l) / (PlateMM * PlateMM)
	}
	const perPixel = 4 // of a layer, that of boxes which is not of their cells left out
	return planes*4*len(b.water) + 12*b.dabCount() + perPixel*(b.maxLayer+1)*int(pixels)
}

func (b *basin) dabCount() (n int) {
	for _, s := range b.strokes {
		n += 6 * len(s.dabs)
	}
	return n
}

// Dry is the time at which all is dry.
var Dry = math.Inf(1)

// A Moment is a painting as it is at one time.
type Moment struct {
	p      *Painting
	At     float64 // s; [Dry] once all is dry
	basins []*basin
	of     []int16 // by label: index of its basin, -1
}

// longest is how long a basin is followed after its last stroke, s; a puddle in a cold
// room takes hours.
const longest = 48 * 3600

// Play runs a painting to a time. What ran before is taken from kept, which may be nil. It
// stops with ctx's error.
func (p *Painting) Play(ctx context.Context, at float64, kept *Kept) (*Moment, error) {
	if err := p.check(); err != nil {
		return nil, err
	}
	m := &Moment{p: p, At: at, of: make([]int16, p.Plate.Cells+1)}
	for i := range m.of {
		m.of[i] = -1
	}
	groups, strokes := p.basins()
	m.basins = make([]*basin, len(groups))
	type job struct{ k, size int }
	jobs := make([]job, len(groups))
	for k, g := range groups {
		for _, l := range g {
			m.of[l] = int16(k)
			jobs[k].size += p.Plate.areas[l]
		}
		jobs[k].k = k
	}
	slices.SortStableFunc(jobs, func(a, b job) int { return cmp.Compare(b.size, a.size) })
	parallel.Each(len(jobs), func(n int) {
		if ctx.Err() == nil {
			k := jobs[n].k
			m.basins[k] = p.playOne(ctx, groups[k], strokes[k], at, kept)
		}
	})
	return m, ctx.Err()
}

// playOne runs one basin to a time.
func (p *Painting) playOne(ctx context.Context, labels []uint16, strokes []int, at float64, kept *Kept) *basin {
	first, last := math.Inf(1), 0.0
	for _, k := range strokes {
		s := &p.Strokes[k]
		first = min(first, s.Start)
		for _, l := range labels {
			last = max(last, p.wetUntil(s, l, 0.3))
		}
	}
	at = max(0, min(at, last))
	key := keptKey{p.key(labels, strokes), at}
	b, before := kept.get(key)
	if b != nil {
		return b
	}
	if b = p.newBasin(labels, strokes, p.finer()); before != nil {
		b.goOn(before)
	}
	for b.until < at && ctx.Err() == nil {
		b.run(min(at, max(b.t+600, first)))
	}
	if at == last {
		for end := at + longest; !b.dry && b.t < end && ctx.Err() == nil; {
			b.run(b.t + 600)
		}
	}
	if ctx.Err() == nil {
		kept.put(key, b)
	}
	return b
}

// Events are what happened up to the moment, in time.
func (m *Moment) Events() (out []Event) {
	for _, b := range m.basins {
		out = append(out, b.events()...)
	}
	slices.SortStableFunc(out, func(x, y Event) int {
		return cmp.Or(cmp.Compare(x.At, y.At), cmp.Compare(x.Cell, y.Cell), cmp.Compare(x.Kind, y.Kind), cmp.Compare(x.Into, y.Into))
	})
	return out
}

// Water is how much water there is at a place, g/m².
func (m *Moment) Water(x, y float64) float64 {
	l := m.p.Plate.LabelAt(x, y)
	if m.of[l] < 0 {
		return 0
	}
	b := m.basins[m.of[l]]
	ix := min(b.nx-1, max(0, int((x-b.x0)/b.h)))
	iy := min(b.ny-1, max(0, int((y-b.y0)/b.h)))
	return float64(b.water[iy*b.nx+ix])
}

// Changed is where two moments of one sheet differ, as a rectangle of its plate; the whole of
// it where they have not the same sheet.
func (m *Moment) Changed(since *Moment) image.Rectangle {
	p := m.p.Plate
	whole := image.Rect(0, 0, p.W, p.H)
	if since == nil || since.p.Plate != p || since.p.Paper != m.p.Paper || since.p.Ground != m.p.Ground || since.p.Hand != m.p.Hand || since.p.Seed != m.p.Seed {
		return whole
	}
	var out image.Rectangle
	now, then := m.drawn(), since.drawn()
	for l := 1; l <= p.Cells; l++ {
		if m.at(uint16(l)) != since.at(uint16(l)) || now[uint16(l)] != then[uint16(l)] {
			out = out.Union(p.boxes[l])
		}
	}
	if out.Empty() {
		return out
	}
	const feather = 2 // what lies beside is looked up between pixels
	return out.Inset(-feather).Intersect(whole)
}

// at is the basin of a cell.
func (m *Moment) at(label uint16) *basin {
	if m.of[label] < 0 {
		return nil
	}
	return m.basins[m.of[label]]
}

// drawn tells the marks on each cell from others.
func (m *Moment) drawn() map[uint16]string {
	out := map[uint16]string{}
	for k := range m.p.Strokes {
		s := &m.p.Strokes[k]
		if !s.Mark.Kind.drawn() || !m.begun(s) {
			continue
		}
		h := fnv.New128a()
		m.p.putStroke(h, s)
		for _, c := range m.p.Covers {
			fmt.Fprintln(h, c.Region.Key, c.From, c.To)
		}
		for _, l := range s.Cells {
			out[l] += string(h.Sum(nil))
		}
	}
	return out
}
