package web

import (
	"context"
	"errors"
	"time"

	lru "github.com/hashicorp/golang-lru/v2"

	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/steps"
	"chromaqua/internal/store"
)

// The search for an order stops after so many tries, so that a card has the
// same order whenever it is opened; the limit in time only guards against very
// large cards.
const (
	orderTries = 4000
	orderLimit = 400 * time.Millisecond
	keptOrders = 64
)

// planned is a card's plan with its order and what it is compared with.
type planned struct {
	plan     *steps.Plan
	schedule *order.Schedule
	reading  *order.Schedule // reading order
}

// revisionKey names a revision of a card.
type revisionKey struct{ card, revision int64 }

// orders keeps the orders of the latest revisions asked for.
type orders struct {
	kept *lru.Cache[revisionKey, *planned]
}

func newOrders() *orders { return &orders{newCache[revisionKey, *planned](keptOrders)} }

// of returns the order of a revision laid out on its board.
func (o *orders) of(ctx context.Context, rev *store.Revision, b *panel.Board) (*planned, error) {
	key := revisionKey{rev.ID, rev.Seq}
	if p, ok := o.kept.Get(key); ok {
		return p, nil
	}
	plan, err := steps.Compile(b)
	if err != nil {
		return nil, refused(err)
	}
	ctx, cancel := context.WithTimeout(ctx, orderLimit)
	defer cancel()
	s, err := order.Solve(ctx, plan.Instance, order.Budget{Iterations: orderTries, Seed: 1})
	if err != nil {
		return nil, refused(err)
	}
	p := &planned{plan: plan, schedule: s}
	// Reading order may be impossible where this one is not; it is only shown
	// for comparison.
	if p.reading, err = order.InReadingOrder(plan.Instance); err != nil && !errors.Is(err, order.ErrNoOrder) {
		return nil, err
	}
	o.kept.Add(key, p)
	return p, nil
}
