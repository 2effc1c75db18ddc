package demo

import (
	"cmp"
	"context"
	"fmt"
	"slices"
	"time"

	"chromaqua/core/card"
	"chromaqua/core/drying"
	"chromaqua/core/order"
	"chromaqua/core/run"
	"chromaqua/internal/album"
	"chromaqua/internal/bench"
	"chromaqua/internal/store"
)

// making is an evening on which a card of the sample studio was made.
type making struct {
	card         string
	days         int // ago
	hour, minute int
	room         drying.Room
	note         string
	turned, went string
	seed         uint64 // of its photo
}

// makings are three evenings of the sample studio.
var makings = []making{
	{"Storm lantern", 19, 18, 40, drying.Room{Celsius: 19.1, Humidity: 0.58}, "Rain against the window; everything dried slowly.", "The snow stayed white. The glow could be warmer.", "given to the north shore", 41},
	{"Otter in the river", 12, 19, 5, drying.Room{Celsius: 20.8, Humidity: 0.49}, "Second pull of the ink, once the first was dry.", "The best water so far.", "kept", 12},
	{"Kelp, kept pale", 5, 17, 50, drying.Room{Celsius: 21.3, Humidity: 0.45}, "New masking fluid.", "Pale kelp on a dark sea, as it was meant.", "given for the lantern night", 23},
}

// Made lets three cards of a sample studio have been made: each with its log, a photo of the
// practice camera, and how it turned out.
func Made(ctx context.Context, s *store.Store) error {
	now := time.Now()
	t := now
	d, b, over := atTime(s, &t)
	defer over()
	a := &album.Album{Desk: d}
	cards, _, err := s.Cards(ctx, store.Shown)
	if err != nil {
		return err
	}
	for _, m := range makings {
		rev := named(cards, m.card)
		if rev == nil {
			return fmt.Errorf("the sample studio has no card %q", m.card)
		}
		y, month, day := now.AddDate(0, 0, -m.days).Date()
		t = time.Date(y, month, day, m.hour, m.minute, 0, 0, now.Location())
		id, err := b.Begin(ctx, []bench.Lot{{Card: rev.ID, Copies: 1}}, 5)
		if err != nil {
			return err
		}
		m.room.Air = drying.StillRoom.Air
		for _, e := range []run.Event{{Kind: run.RoomRead, Room: &m.room}, {Kind: run.Noted, Text: m.note}} {
			if err := b.Tell(ctx, id, e); err != nil {
				return err
			}
		}
		if err := play(ctx, b, id, &t); err != nil {
			return err
		}
		for _, e := range []run.Event{{Kind: run.Ended}, {Kind: run.Turned, Text: m.turned}, {Kind: run.Went, Text: m.went}} {
			if err := b.Tell(ctx, id, e); err != nil {
				return err
			}
		}
		if _, err := a.Practise(ctx, album.Of{Run: id, Card: rev.ID, Piece: card.ThePanel}, rev, m.seed); err != nil {
			return err
		}
	}
	return nil
}

// play tells what was done in an evening that went as it was planned, a little slower: each
// step at its end, and each pass of the heat tool.
func play(ctx context.Context, b *bench.Benches, id int64, t *time.Time) error {
	const slower = 1.06
	v, err := b.Show(ctx, id)
	if err != nil {
		return err
	}
	s, zero := v.State, *t
	type told struct {
		at order.Seconds
		e  run.Event
	}
	var all []told
	for _, at := range v.Order.Ops {
		o, end := &s.Ops[at.Op], at.End
		if !s.In.Ops[at.Op].Attended { // it is laid down, and left alone
			end = at.Start + 20
		}
		all = append(all, told{end, run.Event{Kind: run.Done, Card: o.Card, Step: o.Key}})
	}
	for _, h := range v.Order.Heat {
		o, goal := &s.Ops[h.Op], run.Touch
		if h.For == order.BoneDry {
			goal = run.Bone
		}
		all = append(all, told{h.End, run.Event{Kind: run.Heated, Card: o.Card, Step: o.Key, Goal: goal, Long: float64(h.End - h.Start)}})
	}
	slices.SortStableFunc(all, func(a, b told) int { return cmp.Compare(a.at, b.at) })
	for _, x := range all {
		*t = zero.Add(time.Duration(slower * float64(x.at) * float64(time.Second)))
		if err := b.Tell(ctx, id, x.e); err != nil {
			return err
		}
	}
	return nil
}

func named(cards []*store.Revision, name string) *store.Revision {
	for i := range cards {
		if cards[i].Card.Name == name {
			return cards[i].At("")
		}
	}
	return nil
}
