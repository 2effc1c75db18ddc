// Package bench answers "what is going on at the bench?": it lays cards out to be worked
// on, tells the store what happens there, and keeps all screens of one bench in step.
package bench

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"sync"
	"time"

	"chromaqua/core/learned"
	"chromaqua/core/order"
	"chromaqua/core/run"
	"chromaqua/core/steps"
	"chromaqua/core/wording"
	"chromaqua/internal/desk"
	"chromaqua/internal/store"
)

// A Lot is so many copies of a card as it was when the run began, or was changed to since.
type Lot struct {
	Card   int64  `json:"card"`
	Rev    int64  `json:"rev"`
	Copies int    `json:"copies"`
	Name   string `json:"name"`
}

// Setup is what lies on a bench, and how it is set.
type Setup struct {
	Lots  []Lot       `json:"lots,omitempty"`
	Timer *run.Timer  `json:"timer,omitempty"` // a wash without a card, in place of lots
	Rack  int         `json:"rack"`
	Bench steps.Bench `json:"bench"` // as the maker worked when the run began
}

// Benches are the runs that are open.
type Benches struct {
	desk *desk.Desk
	now  func() time.Time

	mu   sync.Mutex
	open map[int64]*bench
	ears map[int64]map[chan struct{}]bool

	asked  map[int64]time.Time // when the room was read for a run
	sensor error               // what is wrong with the sensor
}

// New returns the benches of a desk.
func New(d *desk.Desk) *Benches {
	return &Benches{desk: d, now: time.Now, open: map[int64]*bench{}, ears: map[int64]map[chan struct{}]bool{}, asked: map[int64]time.Time{}}
}

// SetClock lets benches go by another clock than the machine's, for samples whose times lie
// behind.
func (b *Benches) SetClock(now func() time.Time) { b.now = now }

// bench is one open run.
type bench struct {
	mu     sync.Mutex
	id     int64
	epoch  int64
	setup  Setup
	cards  []Place // on the bench
	work   *run.Work
	before learned.Book
	events []run.Event
	last   *order.Schedule // as it was shown last
}

// A Place is one card on the bench: its lot and its revision.
type Place struct {
	Lot int
	Nth int // copy of the lot, from 0
	Rev *store.Revision
}

// View is a bench as it is at a moment.
type View struct {
	ID     int64
	Seq    int64 // of the last event
	Setup  Setup
	Places []Place
	State  *run.State
	Moment *run.Moment
	Order  *order.Replanned
	Newer  []Lot // lots of which the card was changed since
	Back   *run.Event
}

// ErrNothing means that no lot was given.
var ErrNothing = errors.New("choose at least one card to work on")

// Begin lays lots on a bench and begins a run. Their revisions are those shown now.
func (b *Benches) Begin(ctx context.Context, lots []Lot, rack int) (int64, error) {
	if len(lots) == 0 {
		return 0, desk.Refuse(ErrNothing)
	}
	studio, err := b.desk.Studio(ctx, 0)
	if err != nil {
		return 0, err
	}
	setup := Setup{Lots: lots, Rack: rack, Bench: studio.Bench}
	for i := range setup.Lots {
		l := &setup.Lots[i]
		rev, err := b.desk.Card(ctx, l.Card)
		if err != nil {
			return 0, err
		}
		l.Rev, l.Name, l.Copies = rev.Seq, rev.Card.Name, max(1, l.Copies)
	}
	if _, _, err := b.lay(ctx, &setup); err != nil { // what cannot be planned is not begun
		return 0, err
	}
	doc, err := json.Marshal(setup)
	if err != nil {
		return 0, err
	}
	return b.desk.BeginRun(ctx, doc)
}

// Time puts a wash without a card on the clock.
func (b *Benches) Time(ctx context.Context, t run.Timer) (int64, error) {
	studio, err := b.desk.Studio(ctx, 0)
	if err != nil {
		return 0, err
	}
	t.Learned = studio.Bench.Learned
	if err := t.Check(); err != nil {
		return 0, desk.Refuse(err)
	}
	doc, err := json.Marshal(Setup{Timer: &t})
	if err != nil {
		return 0, err
	}
	id, err := b.desk.BeginRun(ctx, doc)
	if err != nil {
		return 0, err
	}
	return id, b.Tell(ctx, id, run.LaidNow())
}

// IsTimer reports whether a run is a timer's.
func IsTimer(doc []byte) bool {
	var s Setup
	return json.Unmarshal(doc, &s) == nil && s.Timer != nil
}

// lay plans what lies on a bench.
func (b *Benches) lay(ctx context.Context, setup *Setup) (*run.Work, []Place, error) {
	if setup.Timer != nil {
		w, err := run.NewTimer(setup.Timer)
		return w, nil, desk.Refuse(err)
	}
	var cards []run.Card
	var places []Place
	for i, l := range setup.Lots {
		rev, err := b.desk.CardAt(ctx, l.Card, l.Rev)
		if errors.Is(err, store.ErrNotFound) {
			return nil, nil, desk.Refuse(fmt.Errorf("the card “%s” is no longer in the studio; end this run, and begin another without it", l.Name))
		}
		if err != nil {
			return nil, nil, err
		}
		plan, err := b.desk.PlanAt(ctx, rev, setup.Bench)
		if err != nil {
			return nil, nil, err
		}
		for n := range max(1, l.Copies) {
			name := rev.Whole.Name
			if l.Copies > 1 {
				name += fmt.Sprintf(", %d", n+1)
			}
			cards = append(cards, run.Card{Name: name, Plan: plan})
			places = append(places, Place{i, n, rev})
		}
		if len(cards) > run.MaxCards {
			return nil, nil, desk.Refuse(run.ErrManyCards)
		}
	}
	w, err := run.NewWork(cards, setup.Rack)
	return w, places, desk.Refuse(err)
}

// of returns an open run, opening it when it is not, with its lock held.
func (b *Benches) of(ctx context.Context, id int64) (*bench, error) {
	b.mu.Lock()
	o := b.open[id]
	if o == nil {
		o = &bench{id: id}
		b.open[id] = o
	}
	b.mu.Unlock()
	o.mu.Lock()
	if err := b.read(ctx, o); err != nil {
		o.mu.Unlock()
		return nil, err
	}
	return o, nil
}

// read brings an open run up to date with the store.
func (b *Benches) read(ctx context.Context, o *bench) error {
	epoch := b.desk.Epoch()
	if o.work != nil && o.epoch == epoch {
		if more, err := b.desk.Events(ctx, o.id, o.events[len(o.events)-1].Seq); err != nil || len(more) == 0 {
			return err
		} // else another program told of something: it is laid out anew
	}
	r, err := b.desk.RunByID(ctx, o.id)
	if err != nil {
		return err
	}
	events, err := b.desk.Events(ctx, o.id, 0)
	if err != nil {
		return err
	}
	before, err := b.desk.Seen(ctx, o.id)
	if err != nil {
		return err
	}
	var setup Setup
	if err := json.Unmarshal(r.Doc, &setup); err != nil {
		return fmt.Errorf("run %d cannot be read: %w", o.id, err)
	}
	follow(&setup, events)
	work, places, err := b.lay(ctx, &setup)
	if err != nil {
		return err
	}
	first, err := work.Order(ctx)
	if err != nil {
		return desk.Refuse(err)
	}
	o.epoch, o.setup, o.events, o.before, o.work, o.cards, o.last = epoch, setup, events, before, work, places, first
	return nil
}

// NameOf names a run by what lies on its bench.
func NameOf(doc []byte) string {
	var s Setup
	switch {
	case json.Unmarshal(doc, &s) != nil:
		return "a bench that cannot be read"
	case s.Timer != nil:
		return s.Timer.Name()
	}
	var names []string
	for _, l := range s.Lots {
		name := l.Name
		if l.Copies > 1 {
			name = fmt.Sprintf("%d × %s", l.Copies, name)
		}
		names = append(names, name)
	}
	return wording.And(names)
}

// follow brings lots to the revisions that a run follows.
func follow(s *Setup, events []run.Event) {
	gone := map[int64]bool{}
	for _, e := range events {
		if e.Kind == run.TookBack {
			gone[e.Of] = true
		}
	}
	for _, e := range events {
		if e.Kind == run.Follows && !gone[e.Seq] && e.Card < len(s.Lots) {
			s.Lots[e.Card].Rev = e.Of
		}
	}
}

// Show is a bench as it is now.
func (b *Benches) Show(ctx context.Context, id int64) (*View, error) {
	o, err := b.of(ctx, id)
	if err != nil {
		return nil, err
	}
	defer o.mu.Unlock()
	return b.show(ctx, o)
}

func (b *Benches) show(ctx context.Context, o *bench) (*View, error) {
	s := o.work.Of(o.events, b.now(), o.before)
	next, err := s.GoOn(ctx, o.last, 0)
	if err != nil {
		return nil, desk.Refuse(err)
	}
	o.last = &next.Schedule
	v := &View{ID: o.id, Setup: o.setup, Places: o.cards, State: s, Order: next, Moment: s.Moment(next), Back: run.LastToTakeBack(o.events)}
	if n := len(o.events); n > 0 {
		v.Seq = o.events[n-1].Seq
	}
	for _, l := range o.setup.Lots {
		if rev, err := b.desk.Card(ctx, l.Card); err == nil && rev.Seq != l.Rev {
			v.Newer = append(v.Newer, Lot{Card: l.Card, Rev: rev.Seq, Copies: l.Copies, Name: rev.Card.Name})
		}
	}
	return v, nil
}

// again is how soon a second press of Done is taken for the same one.
const again = 500 * time.Millisecond

// Tell tells what has happened. What cannot be is refused; what was told already counts
// once.
func (b *Benches) Tell(ctx context.Context, id int64, e run.Event) error {
	o, err := b.of(ctx, id)
	if err != nil {
		return err
	}
	defer o.mu.Unlock()
	if n := len(o.events); e.Kind == run.Done && n > 0 && o.events[n-1].Kind == run.Done && b.now().Sub(o.events[n-1].At) < again {
		return nil
	}
	if err := e.Check(); err != nil {
		return desk.Refuse(err)
	}
	was := o.work.Of(o.events, b.now(), nil)
	if err := sensible(was, &e); err != nil {
		return desk.Refuse(err)
	}
	if op, ok := was.Find(e.Card, e.Step); ok {
		e.Title = was.Title(op)
	}
	told, err := b.desk.Tell(ctx, id, e)
	if err != nil {
		return err
	}
	if told.Seq == 0 {
		return nil // it was told before
	}
	o.events = append(o.events, told)
	if told.Kind == run.Follows || told.Kind == run.TookBack {
		o.work = nil // laid out anew
		if err := b.read(ctx, o); err != nil {
			return err
		}
	}
	if told.Kind != run.TookBack {
		now := o.work.Of(o.events, told.At, nil)
		if more := added(was.Seen, now.Seen); len(more) > 0 {
			if err := b.desk.KeepSeen(ctx, id, told.Seq, more); err != nil {
				return err
			}
		}
	}
	b.call(id)
	return nil
}

// sensible refuses what cannot have happened in this run.
func sensible(s *run.State, e *run.Event) error {
	_, known := s.Find(e.Card, e.Step)
	switch {
	case s.Ended && e.Kind != run.TookBack && e.Kind != run.Noted && e.Kind != run.Pictured:
		return errors.New("this run has ended; take that back to go on with it")
	case e.Card >= len(s.Cards) && e.Kind != run.Follows:
		return fmt.Errorf("there is no card %d on this bench", e.Card+1)
	case e.Step != "" && !known:
		return errors.New("that step is no longer in the plan; look again, and say what you did as a note")
	}
	return nil
}

// added is what one book tells more than another.
func added(was, now learned.Book) learned.Book {
	out := learned.Book{}
	for k, names := range now {
		for name, list := range names {
			for _, o := range list[min(len(list), len(was[k][name])):] {
				out.Add(k, name, o)
			}
		}
	}
	return out
}

// Back takes the last event back that can be.
func (b *Benches) Back(ctx context.Context, id int64, once string) error {
	o, err := b.of(ctx, id)
	if err != nil {
		return err
	}
	last := run.LastToTakeBack(o.events)
	o.mu.Unlock()
	if last == nil {
		return nil
	}
	return b.Tell(ctx, id, run.Event{Kind: run.TookBack, Of: last.Seq, Once: once})
}

// Listen lets a screen hear of changes of a run. The channel holds one call; stop ends it.
func (b *Benches) Listen(id int64) (calls <-chan struct{}, stop func()) {
	c := make(chan struct{}, 1)
	b.mu.Lock()
	defer b.mu.Unlock()
	if b.ears[id] == nil {
		b.ears[id] = map[chan struct{}]bool{}
	}
	b.ears[id][c] = true
	return c, func() {
		b.mu.Lock()
		defer b.mu.Unlock()
		delete(b.ears[id], c)
	}
}

// call calls all screens of a run.
func (b *Benches) call(id int64) {
	b.mu.Lock()
	defer b.mu.Unlock()
	for c := range b.ears[id] {
		select {
		case c <- struct{}{}:
		default: // it is called already
		}
	}
}

// Heard are the runs that some screen shows now.
func (b *Benches) Heard() (out []int64) {
	b.mu.Lock()
	defer b.mu.Unlock()
	for id, ears := range b.ears {
		if len(ears) > 0 {
			out = append(out, id)
		}
	}
	return out
}
