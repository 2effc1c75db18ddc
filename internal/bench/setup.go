package bench

import (
	"context"
	"crypto/rand"
	"encoding/hex"
	"encoding/json"
	"errors"
	"fmt"

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

// OnceName names a press, so that it counts once however often it arrives.
func OnceName() string {
	var b [9]byte
	_, _ = rand.Read(b[:]) // never fails
	return hex.EncodeToString(b[:])
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
