package demo

import (
	"context"
	"fmt"
	"time"

	"chromaqua/core/drying"
	"chromaqua/core/order"
	"chromaqua/core/run"
	"chromaqua/internal/bench"
	"chromaqua/internal/desk"
	"chromaqua/internal/store"
)

// evening is how long an evening at the bench has been going on in the sample studio.
const evening = 26 * time.Minute

// eveningCard is what is painted on it.
const eveningCard = "Hermit crab, lantern night"

// Evening lets an evening at the bench be going on in a sample studio: one of its cards is
// half painted, something is running and something is drying.
func Evening(ctx context.Context, s *store.Store) error {
	now := time.Now()
	t := now.Add(-evening)
	_, b, over := atTime(s, &t)
	defer over()
	cards, _, err := s.Cards(ctx, store.Shown)
	if err != nil {
		return err
	}
	for _, c := range cards {
		if c.Card.Name != eveningCard {
			continue
		}
		id, err := b.Begin(ctx, []bench.Lot{{Card: c.ID, Copies: 2}}, 5)
		if err != nil {
			return err
		}
		room := drying.Room{Celsius: 20.4, Humidity: 0.52, Air: drying.StillRoom.Air}
		for _, e := range []run.Event{{Kind: run.RoomRead, Room: &room}, {Kind: run.Noted, Text: "New pad; the window is shut."}} {
			if err := b.Tell(ctx, id, e); err != nil {
				return err
			}
		}
		return paint(ctx, b, id, &t, now.Add(-20*time.Second))
	}
	return fmt.Errorf("the sample studio has no card %q", eveningCard)
}

// atTime is a bench whose clock, as that of the studio, stands at a time that its user moves,
// until it is over.
func atTime(s *store.Store, t *time.Time) (d *desk.Desk, b *bench.Benches, over func()) {
	clock := func() time.Time { return *t }
	s.SetClock(clock)
	d = desk.New(s)
	b = bench.New(d)
	b.SetClock(clock)
	return d, b, func() { d.Close(); s.SetClock(time.Now) }
}

// paint does what the bench says, at an even pace, until a time.
func paint(ctx context.Context, b *bench.Benches, id int64, t *time.Time, until time.Time) error {
	for t.Before(until) {
		v, err := b.Show(ctx, id)
		if err != nil {
			return err
		}
		s, m := v.State, v.Moment
		tell := func(kind run.Kind, op int, goal run.Goal, long order.Seconds) error {
			o := &s.Ops[op]
			return b.Tell(ctx, id, run.Event{Kind: kind, Card: o.Card, Step: o.Key, Goal: goal, Long: float64(long)})
		}
		pass := func(d time.Duration) bool {
			*t = t.Add(max(time.Second, d))
			return t.Before(until)
		}
		switch m.Act {
		case run.Finished:
			return nil
		case run.Look:
			pass(6 * time.Second)
			err = tell(run.DryNow, m.Ask()[0].On, m.Ask()[0].Goal, 0)
		case run.Warm:
			if !pass((m.Heat.End - m.Heat.Start).Duration()) {
				return nil
			}
			goal := run.Touch
			if m.Heat.For == order.BoneDry {
				goal = run.Bone
			}
			err = tell(run.Heated, m.Op, goal, m.Heat.End-m.Heat.Start)
		case run.Do:
			takes := s.Setup(m.Op).Duration() + time.Duration(1.1*float64(s.In.Ops[m.Op].Dur.Duration()))
			if !s.In.Ops[m.Op].Attended {
				takes = 20 * time.Second // it is laid down, and left alone
			}
			if !pass(takes) {
				return nil
			}
			err = tell(run.Done, m.Op, "", 0)
		default:
			if !pass(m.In.Duration()) {
				return nil
			}
		}
		if err != nil {
			return err
		}
	}
	return nil
}
