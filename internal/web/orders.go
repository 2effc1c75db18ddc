package web

import (
	"context"
	"crypto/sha256"
	"encoding/json"
	"errors"

	lru "github.com/hashicorp/golang-lru/v2"

	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/internal/store"
)

// Orders and plans of the latest revisions asked for are kept.
const (
	keptOrders   = 64
	keptCompiled = 64
)

// planned is a card's plan with its order and what it is compared with.
type planned struct {
	plan     *steps.Plan
	schedule *order.Schedule
	why      []steps.Reason  // by placed operation
	reading  *order.Schedule // reading order
}

// revisionKey names a revision of a card.
type revisionKey struct{ card, revision int64 }

// orderKey names all that a plan depends on: the card, and the bench it is painted at.
type orderKey struct {
	revisionKey
	bench [sha256.Size]byte
}

// benchNow is the bench as the settings and the shelf have it, with what names it.
func benchNow(rev *store.SettingsRevision, own []shelf.Own) (steps.Bench, [sha256.Size]byte, error) {
	b := steps.Bench{Settings: rev.Settings, Brushes: shelf.BrushesOf(own)}
	doc, err := json.Marshal(b)
	return b, sha256.Sum256(doc), err
}

// compiled is a card's plan, or why there is none.
type compiled struct {
	plan *steps.Plan
	err  error
}

// orders keeps plans, and orders, which take longer.
type orders struct {
	compiled *lru.Cache[orderKey, compiled]
	kept     *lru.Cache[orderKey, *planned]
}

func newOrders() *orders {
	return &orders{newCache[orderKey, compiled](keptCompiled), newCache[orderKey, *planned](keptOrders)}
}

// plan returns the plan of a revision laid out on its board.
func (o *orders) plan(key orderKey, b *panel.Board, bench steps.Bench) compiled {
	if c, ok := o.compiled.Get(key); ok {
		return c
	}
	plan, err := steps.Compile(b, bench)
	c := compiled{plan, refused(err)}
	o.compiled.Add(key, c)
	return c
}

// of returns the order of a plan. The search is bounded by tries alone, so that a card
// has the same order whenever and wherever it is opened.
func (o *orders) of(ctx context.Context, key orderKey, c compiled) (*planned, error) {
	if p, ok := o.kept.Get(key); ok {
		return p, nil
	}
	if c.err != nil {
		return nil, c.err
	}
	s, err := order.Solve(ctx, c.plan.Instance, order.Budget{Iterations: c.plan.Instance.Tries(), Seed: 1})
	if err != nil {
		return nil, refused(err)
	}
	if err := ctx.Err(); err != nil {
		return nil, err // who asked has gone: this is no answer to keep
	}
	p := &planned{plan: c.plan, schedule: s, why: c.plan.Reasons(s)}
	// Reading order may be impossible where this one is not; it is only shown
	// for comparison, of a single card.
	if c.plan.Instance.Copies > 1 {
		o.kept.Add(key, p)
		return p, nil
	}
	if p.reading, err = order.InReadingOrder(c.plan.Instance); err != nil && !errors.Is(err, order.ErrNoOrder) {
		return nil, err
	}
	o.kept.Add(key, p)
	return p, nil
}
