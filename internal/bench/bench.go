// Package bench answers "what is going on at the bench?": it lays cards out to be worked
// on, tells the store what happens there, and keeps all screens of one bench in step.
package bench

import (
	"context"
	"encoding/json"
	"errors"
	"fmt"
	"slices"
	"sync"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"

	"chromaqua/core/learned"
	"chromaqua/core/order"
	"chromaqua/core/order/solver"
	"chromaqua/core/run"
	"chromaqua/core/steps"
	"chromaqua/internal/desk"
	"chromaqua/internal/store"
)

// Benches are the runs that are open.
type Benches struct {
	desk *desk.Desk
	now  func() time.Time

	mu   sync.Mutex
	open *lru.Cache[int64, *bench] // those used last
	ears map[int64]map[chan struct{}]bool

	asked  map[int64]time.Time // when the room was read for a run
	sensor error               // what is wrong with the sensor

	hang sync.Once
	over chan struct{}
}

// keptOpen is how many runs are kept open. One that is not is laid out again.
const keptOpen = 16

// New returns the benches of a desk.
func New(d *desk.Desk) *Benches {
	return &Benches{desk: d, now: time.Now, open: desk.Cache[int64, *bench](keptOpen), ears: map[int64]map[chan struct{}]bool{}, asked: map[int64]time.Time{}, over: make(chan struct{})}
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
	whole  order.Seconds   // it was planned to take at the beginning
	alone  int             // rinses of the brush if the cards were painted one after the other
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
	Newer  []Newer // lots of which the card was changed since
	Rinses int     // of the brush, in all
	Alone  int     // and if the cards were painted one after the other
	Back   *run.Event
}

// Newer is a lot of which the card was changed since the run began.
type Newer struct {
	Lot  int // its number in the setup
	Rev  int64
	Name string
}

// ErrNothing means that no lot was given.
var ErrNothing = errors.New("choose at least one card to work on")

// of returns an open run, opening it when it is not, with its lock held.
func (b *Benches) of(ctx context.Context, id int64) (*bench, error) {
	b.mu.Lock()
	o, ok := b.open.Get(id)
	if !ok {
		o = &bench{id: id}
		b.open.Add(id, o)
	}
	b.mu.Unlock()
	o.mu.Lock()
	if err := b.read(ctx, o); err != nil {
		o.mu.Unlock()
		return nil, err
	}
	return o, nil
}

// read brings an open run up to date with the store. It is brought to its end though whoever
// asked has gone: half an order is none to keep.
func (b *Benches) read(ctx context.Context, o *bench) error {
	ctx = context.WithoutCancel(ctx)
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
	alone, err := oneByOne(ctx, work)
	if err != nil {
		return err
	}
	o.epoch, o.setup, o.events, o.before, o.work, o.cards, o.last, o.whole, o.alone = epoch, setup, events, before, work, places, first, first.Makespan, alone
	return nil
}

// oneByOne counts the rinses of cards that are painted one after the other; 0 for one card.
func oneByOne(ctx context.Context, w *run.Work) (rinses int, err error) {
	if len(w.Cards) < 2 {
		return 0, nil
	}
	of := map[*steps.Plan]int{}
	for _, c := range w.Cards {
		if _, known := of[c.Plan]; !known {
			single := *c.Plan.Instance
			single.Copies = 1
			s, err := solver.Solve(ctx, &single, solver.Budget{Iterations: aloneTries, Seed: 1})
			if err != nil {
				return 0, err
			}
			of[c.Plan] = s.Changes
		}
		rinses += of[c.Plan]
	}
	return rinses, nil
}

// aloneTries bounds the search for the order of a card by itself, which is only compared
// with.
const aloneTries = 1000

// follows refuses to follow a card to where it cannot be planned: the run would be lost.
func (b *Benches) follows(ctx context.Context, o *bench, e *run.Event) error {
	if e.Card >= len(o.setup.Lots) {
		return desk.Refuse(fmt.Errorf("there is no card %d on this bench", e.Card+1))
	}
	trial := o.setup
	trial.Lots = slices.Clone(trial.Lots)
	trial.Lots[e.Card].Rev = e.Of
	_, _, err := b.lay(ctx, &trial)
	return err
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
	next, err := s.GoOn(context.WithoutCancel(ctx), o.last, 0)
	if err != nil {
		return nil, desk.Refuse(err)
	}
	o.last = &next.Schedule
	v := &View{ID: o.id, Setup: o.setup, Places: o.cards, State: s, Order: next, Moment: s.Moment(next), Back: run.LastToTakeBack(o.events)}
	if n := len(o.events); n > 0 {
		v.Seq = o.events[n-1].Seq
	}
	v.Rinses, v.Alone = next.Changes, o.alone
	for i, l := range o.setup.Lots {
		if rev, err := b.desk.Card(ctx, l.Card); err == nil && rev.Seq != l.Rev {
			v.Newer = append(v.Newer, Newer{Lot: i, Rev: rev.Seq, Name: rev.Card.Name})
		}
	}
	return v, nil
}

// again is how soon a second press of Done is taken for the same one.
const again = 500 * time.Millisecond

// Ahead is told where all of a card that may be done long before was: each such step then
// counts as left out.
const Ahead run.Kind = "ahead"

// Tell tells what has happened. What cannot be is refused; what was told already counts
// once.
func (b *Benches) Tell(ctx context.Context, id int64, e run.Event) error {
	if e.Kind == Ahead {
		return b.ahead(ctx, id, e)
	}
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
	if e.Kind == run.Follows {
		if err := b.follows(ctx, o, &e); err != nil {
			return err
		}
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

// ahead leaves out what of a card was done before the run began.
func (b *Benches) ahead(ctx context.Context, id int64, e run.Event) error {
	o, err := b.of(ctx, id)
	if err != nil {
		return err
	}
	s := o.work.Of(o.events, b.now(), nil)
	o.mu.Unlock()
	for _, op := range s.Ahead(e.Card) {
		out := run.Event{Kind: run.Skipped, Card: e.Card, Step: s.Ops[op].Key, Once: fmt.Sprintf("%s-%d", e.Once, op)}
		if err := b.Tell(ctx, id, out); err != nil {
			return err
		}
	}
	return nil
}

// afterwards is what can be told of a run that has ended.
var afterwards = map[run.Kind]bool{run.TookBack: true, run.Noted: true, run.Pictured: true, run.Turned: true, run.Went: true}

// sensible refuses what cannot have happened in this run.
func sensible(s *run.State, e *run.Event) error {
	_, known := s.Find(e.Card, e.Step)
	switch {
	case s.Ended && !afterwards[e.Kind]:
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
		if delete(b.ears[id], c); len(b.ears[id]) == 0 {
			delete(b.ears, id)
		}
	}
}

// HangUp ends all listening.
func (b *Benches) HangUp() { b.hang.Do(func() { close(b.over) }) }

// Over is closed once there is nothing more to listen to.
func (b *Benches) Over() <-chan struct{} { return b.over }

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
