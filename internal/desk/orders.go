package desk

import (
	"context"
	"errors"

	"chromaqua/core/order"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel"
	"chromaqua/core/steps"
)

// Orders and plans of the latest revisions asked for are kept.
const (
	keptOrders   = 64
	keptCompiled = 64
	keptWatches  = 64
)

// Planned is a card's plan with its order and what it is compared with.
type Planned struct {
	Plan     *steps.Plan
	Schedule *order.Schedule
	Why      []steps.Reason  // by placed operation
	Reading  *order.Schedule // in reading order; nil where that is impossible, and of several cards
}

// planKey names all that a plan depends on: the card, and the bench it is painted at.
type planKey struct {
	RevisionKey
	bench digest
}

// Compiled is a card's plan, or why there is none.
type Compiled struct {
	Plan *steps.Plan
	Err  error
}

// compile returns the plan of a revision laid out on its board.
func (d *Desk) compile(key planKey, b *panel.Board, bench steps.Bench) Compiled {
	if c, ok := d.compiled.Get(key); ok {
		return c
	}
	plan, err := steps.Compile(b, bench)
	c := Compiled{plan, Refuse(err)}
	d.compiled.Add(key, c)
	return c
}

// Order puts the work of a card in order. The search is bounded by tries alone, so
// that a card has the same order whenever and wherever it is opened.
func (d *Desk) Order(ctx context.Context, l *Laid) (*Planned, error) {
	if p, ok := d.orders.Get(l.key.planKey); ok {
		return p, nil
	}
	if l.Plan.Err != nil {
		return nil, l.Plan.Err
	}
	plan := l.Plan.Plan
	s, err := solver.Solve(ctx, plan.Instance, solver.Budget{Iterations: solver.Tries(plan.Instance), Seed: 1})
	if err != nil {
		return nil, Refuse(err)
	}
	if err := ctx.Err(); err != nil {
		return nil, err // who asked has gone: this is no answer to keep
	}
	p := &Planned{Plan: plan, Schedule: s, Why: plan.Reasons(s)}
	// Reading order may be impossible where this one is not; it is only shown
	// for comparison, of a single card.
	if plan.Instance.Copies == 1 {
		if p.Reading, err = solver.InReadingOrder(plan.Instance); err != nil && !errors.Is(err, order.ErrNoOrder) {
			return nil, err
		}
	}
	d.orders.Add(l.key.planKey, p)
	return p, nil
}
