package desk

import (
	"context"
	"errors"

	"chromaqua/core/card"
	"chromaqua/core/order"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel"
	"chromaqua/core/steps"
	"chromaqua/internal/store"
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

// Pieces are all pieces of a card with their cells, and the picture of the line of each by
// its id.
func (d *Desk) Pieces(ctx context.Context, rev *store.Revision) ([]panel.Piece, map[string][]byte, error) {
	var drawn [][]byte // in the order they are asked for
	whole := rev.At("")
	pieces, err := panel.Pieces(whole.Card, func(alone *card.Card) (*panel.Board, error) {
		r, err := d.Read(ctx, alone)
		if err != nil {
			return nil, err
		}
		drawn = append(drawn, r.Line)
		return panel.Resolve(alone, r.Sheet), nil
	})
	lines := map[string][]byte{}
	for _, p := range pieces {
		if p.Board != nil {
			lines[p.ID], drawn = drawn[0], drawn[1:]
		}
	}
	return pieces, lines, err
}

// whole is the plan of a card with all its pieces: that of the panel where it has no other.
func (d *Desk) whole(ctx context.Context, l *Laid, key planKey) Compiled {
	if len(l.Rev.Whole.Pieces) == 0 {
		return l.Plan
	}
	return d.compileAll(ctx, l.Rev, key, l.Bench)
}

// compileAll returns the plan of a revision with all its pieces.
func (d *Desk) compileAll(ctx context.Context, rev *store.Revision, key planKey, bench steps.Bench) Compiled {
	if c, ok := d.compiled.Get(key); ok {
		return c
	}
	pieces, _, err := d.Pieces(ctx, rev)
	if err != nil {
		return Compiled{nil, Refuse(err)}
	}
	plan, err := steps.CompileAll(pieces, rev.Whole, bench)
	c := Compiled{plan, Refuse(err)}
	d.compiled.Add(key, c)
	return c
}

// PlanAt is the plan of a revision with all its pieces at a bench, whatever the studio's is
// by now, as it stands in order. It waits until its cells are read.
func (d *Desk) PlanAt(ctx context.Context, rev *store.Revision, bench steps.Bench) (*steps.Plan, error) {
	whole := rev.At("")
	key := wholeKey(planKey{KeyOf(whole), digestOf(bench)})
	p, err := d.inOrder(ctx, key, func() Compiled { return d.compileAll(ctx, whole, key, bench) })
	if err != nil {
		return nil, err
	}
	return p.Plan, nil
}

// wholeKey names the plan of a card with all its pieces.
func wholeKey(key planKey) planKey {
	key.piece = "*"
	return key
}

// Order puts the work of a card in order, with all its pieces. The search is bounded by tries alone, so
// that a card has the same order whenever and wherever it is opened.
func (d *Desk) Order(ctx context.Context, l *Laid) (*Planned, error) {
	key := wholeKey(l.key.planKey)
	return d.inOrder(ctx, key, func() Compiled { return d.whole(ctx, l, key) })
}

// inOrder puts a plan in order, and names its goes by that.
func (d *Desk) inOrder(ctx context.Context, key planKey, compile func() Compiled) (*Planned, error) {
	if p, ok := d.orders.Get(key); ok {
		return p, nil
	}
	c := compile()
	if c.Err != nil {
		return nil, c.Err
	}
	plan := c.Plan
	s, err := solver.Solve(ctx, plan.Instance, solver.Budget{Iterations: solver.Tries(plan.Instance), Seed: 1})
	if err != nil {
		return nil, Refuse(err)
	}
	if err := ctx.Err(); err != nil {
		return nil, err // who asked has gone: this is no answer to keep
	}
	plan = plan.Lettered(s)
	p := &Planned{Plan: plan, Schedule: s, Why: plan.Reasons(s)}
	// Reading order may be impossible where this one is not; it is only shown
	// for comparison, of a single card.
	if plan.Instance.Copies == 1 {
		if p.Reading, err = solver.InReadingOrder(plan.Instance); err != nil && !errors.Is(err, order.ErrNoOrder) {
			return nil, err
		}
	}
	d.orders.Add(key, p)
	return p, nil
}
