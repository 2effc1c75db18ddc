package run

import (
	"context"
	"errors"
	"fmt"

	"chromaqua/core/drying"
	"chromaqua/core/learned"
	"chromaqua/core/order"
	"chromaqua/core/order/solver"
	"chromaqua/core/steps"
)

// MaxCards is how many cards lie on one bench.
const MaxCards = order.MaxJobs

// A Card is one card on the bench: a copy of what a plan is for.
type Card struct {
	Name string
	Plan *steps.Plan
}

// Work is all that is to be done at a bench: cards, each a job of one instance, whose
// operations are numbered from 0.
type Work struct {
	Cards []Card
	In    *order.Instance
	Ops   []Op

	byKey map[key]int
	into  [][]order.Arc // what each operation waits for
	joins [][]order.Join
	near  map[int][]int // what must not be wet beside each
}

type key struct {
	card int
	step string
}

// An Op is one operation: a step of a card, or what a repair has added.
type Op struct {
	Card  int
	Step  *steps.Step
	Key   string
	Again *Addition // nil for what was planned from the start

	paper       string
	air, pace   learned.Factor // with which it was planned
	heat        learned.Factor
	room        drying.Room // in which it was planned to dry
	largest     float64     // cell, mm²
	pulp        bool        // its paper is wood pulp, which pills
	washed      bool        // its drying is that of water on its paper
	gloss, open order.Seconds
}

// ErrManyCards means that not all cards find room at the bench.
var ErrManyCards = fmt.Errorf("a bench takes %d cards and %d steps at once; work in lots", MaxCards, order.MaxOps)

// ErrNoCards means that there is nothing to do.
var ErrNoCards = errors.New("no card lies on this bench; choose one")

// NewWork lays cards on a bench whose rack holds so many wet ones.
func NewWork(cards []Card, rack int) (*Work, error) {
	if len(cards) == 0 {
		return nil, ErrNoCards
	}
	if len(cards) > MaxCards {
		return nil, ErrManyCards
	}
	first := cards[0].Plan.Instance
	w := &Work{Cards: cards, byKey: map[key]int{}, In: &order.Instance{
		Name: cards[0].Name, Copies: 1, Rack: rack, Rinse: first.Rinse, Swap: first.Swap, Hand: first.Hand, Heat: first.Heat,
		Regions: []order.Region{}, Adjacent: [][2]int{}, Raised: [][2]int{}, Arcs: []order.Arc{}, Joins: []order.Join{},
	}}
	colours := map[string]int{}
	for i := range cards {
		w.lay(i, colours)
	}
	if len(w.In.Ops) > order.MaxOps {
		return nil, ErrManyCards
	}
	w.index()
	return w, nil
}

// lay adds a card. Its operations and places are numbered on; the same mix is the same
// colour on all cards.
func (w *Work) lay(card int, colours map[string]int) {
	p, base, place := w.Cards[card].Plan, len(w.In.Ops), 0
	for _, r := range w.In.Regions {
		place = max(place, r.ID+1)
	}
	in := p.Instance
	w.In.Heat.Allowed = w.In.Heat.Allowed || in.Heat.Allowed
	w.In.Heat.WithMask = w.In.Heat.WithMask && in.Heat.WithMask
	keys := p.Keys()
	for i, o := range in.Ops {
		s := &p.Steps[i]
		o.ID, o.Job, o.Color = base+i, card, colourOf(p, s, colours)
		regions := make([]int, len(o.Regions))
		for k, r := range o.Regions {
			regions[k] = r + place
		}
		o.Regions = regions
		if !in.Heat.Allowed {
			o.HeatDry, o.HeatBone = o.Dry, o.Bone // heat does nothing that air would not do
		}
		w.In.Ops = append(w.In.Ops, o)
		op := Op{Card: card, Step: s, Key: keys[i], paper: p.PaperOf(s), largest: p.Largest(s), washed: s.Water > 0, pulp: p.OnPulp(s), gloss: order.Floor(s.Gloss), open: order.Floor(s.Open)}
		op.air, op.pace, op.room = p.Expected(s)
		op.heat = p.Bench.Learned.Of(learned.Heat, op.paper)
		w.Ops = append(w.Ops, op)
		w.byKey[key{card, keys[i]}] = base + i
	}
	for _, r := range in.Regions {
		r.ID += place
		w.In.Regions = append(w.In.Regions, r)
	}
	pairs := func(to *[][2]int, from [][2]int) {
		for _, t := range from {
			*to = append(*to, [2]int{t[0] + place, t[1] + place})
		}
	}
	pairs(&w.In.Adjacent, in.Adjacent)
	pairs(&w.In.Raised, in.Raised)
	for _, a := range in.Arcs {
		a.From, a.To = a.From+base, a.To+base
		w.In.Arcs = append(w.In.Arcs, a)
	}
	for _, j := range in.Joins {
		j.A, j.B = j.A+base, j.B+base
		w.In.Joins = append(w.In.Joins, j)
	}
}

func colourOf(p *steps.Plan, s *steps.Step, colours map[string]int) int {
	m := p.MixOf(s)
	if m == nil {
		return 0
	}
	text := fmt.Sprint(m.Parts, m.Strength)
	if colours[text] == 0 {
		colours[text] = len(colours) + 1
	}
	return colours[text]
}

// index lists what each operation waits for.
func (w *Work) index() {
	n := len(w.In.Ops)
	w.into, w.joins = make([][]order.Arc, n), make([][]order.Join, n)
	for _, a := range w.In.Arcs {
		w.into[a.To] = append(w.into[a.To], a)
	}
	for _, j := range w.In.Joins {
		w.joins[j.A], w.joins[j.B] = append(w.joins[j.A], j), append(w.joins[j.B], j)
	}
	w.near = w.In.Beside()
}

// Find returns the operation of a card's step; not ok when its plan has it no more.
func (w *Work) Find(card int, step string) (op int, ok bool) {
	op, ok = w.byKey[key{card, step}]
	return op, ok
}

// Plan is the plan an operation is of.
func (w *Work) Plan(op int) *steps.Plan { return w.Cards[w.Ops[op].Card].Plan }

// Title is what an operation is called.
func (w *Work) Title(op int) string {
	if a := w.Ops[op].Again; a != nil {
		return a.Title
	}
	return w.Ops[op].Step.Title
}

// Spoken names what an operation leaves, within a sentence.
func (w *Work) Spoken(op int) string {
	name := w.Plan(op).Spoken(w.Ops[op].Step)
	if len(w.Cards) > 1 {
		name += fmt.Sprintf(" of card %d", w.Ops[op].Card+1)
	}
	return name
}

// Order puts the work in order. Copies of one plan are put in order as such, in waves.
func (w *Work) Order(ctx context.Context) (*order.Schedule, error) {
	same := true
	for _, c := range w.Cards {
		same = same && c.Plan == w.Cards[0].Plan
	}
	if !same || len(w.Cards) == 1 {
		return solver.Solve(ctx, w.In, solver.Budget{Iterations: solver.Tries(w.In), Seed: 1})
	}
	copies := *w.Cards[0].Plan.Instance
	copies.Copies, copies.Rack = len(w.Cards), w.In.Rack
	s, err := solver.Solve(ctx, &copies, solver.Budget{Iterations: solver.Tries(&copies), Seed: 1})
	if err != nil {
		return nil, err
	}
	n := len(copies.Ops)
	for i := range s.Ops {
		s.Ops[i].Op, s.Ops[i].Copy = s.Ops[i].Copy*n+s.Ops[i].Op, 0
	}
	for i := range s.Heat {
		h := &s.Heat[i]
		h.Op, h.Job, h.Copy = h.Copy*n+h.Op, h.Copy, 0
	}
	return s, nil
}
