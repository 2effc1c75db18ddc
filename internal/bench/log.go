package bench

import (
	"context"

	"chromaqua/core/order"
	"chromaqua/core/run"
)

// A Log is what was done in a run.
type Log struct {
	ID      int64
	Setup   Setup
	Places  []Place
	State   *run.State // as it was left
	Planned order.Seconds
}

// IsOf reports whether a card on the bench is one of a card of the studio.
func (l *Log) IsOf(place int, card int64) bool {
	return l.Setup.Lots[l.Places[place].Lot].Card == card
}

// Of are the places of the bench where a card of the studio lies.
func (l *Log) Of(card int64) (at []int) {
	for i := range l.Places {
		if l.IsOf(i, card) {
			at = append(at, i)
		}
	}
	return at
}

// Log is what was done in a run, as it was left.
func (b *Benches) Log(ctx context.Context, id int64) (*Log, error) {
	o, err := b.of(ctx, id)
	if err != nil {
		return nil, err
	}
	defer o.mu.Unlock()
	left := o.events[len(o.events)-1].At
	return &Log{ID: id, Setup: o.setup, Places: o.cards, State: o.work.Of(o.events, left, o.before), Planned: o.whole}, nil
}
