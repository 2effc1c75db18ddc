// Package solver answers "in which order do I paint this, and when?": [Solve] searches
// for a short [order.Schedule] of an [order.Instance], and then for a friendly one.
package solver

import (
	"context"
	"math/rand/v2"
	"slices"
	"sync"
	"time"

	"chromaqua/core/order"
)

// Budget says how long [Solve] may look for a better order. It stops at the
// first of: Iterations tries (when positive), the end of its context, or an
// order that is proven to be the shortest.
type Budget struct {
	Iterations int
	Seed       uint64
}

// defaultIterations is used when neither the budget nor the context sets a limit.
const defaultIterations = 20_000

// How a budget is shared out, and the temperatures of annealing in units of the
// mean step with its rinse. All were found by trying.
const (
	workers     = 2    // fixed, so that the answer does not depend on the machine
	firstShare  = 0.1  // for first answers
	firstMost   = 60   // of those, at most
	races       = 2    // first answers that are annealed by themselves
	raceShare   = 0.2  // of the rest, for each
	politeShare = 0.12 // of all, for what makes an order friendly
	hottest     = 0.5
	coldest     = 0.02
	afterRaces  = 0.6  // share of the heat that is begun with again
	batchHeat   = 0.15 // the same for batches
	heatedHeat  = 0.5  // the same where the heat tool is used
	smallTotal  = 30   // operations up to which random restarts pay
	startsTotal = 400  // operations up to which batches get first answers of other kinds
)

// rounds are the shares of the budget at which annealing begins again from the best.
var rounds = []float64{0.5, 0.8, 1}

// Solve returns the best order it finds: shortest first, then with the fewest
// colour changes and waits; what is friendly to the painter may cost it a
// hundredth. Two workers start from priority dispatches, meet once, and improve by
// annealing. The same instance, iterations and seed give the same order on any
// machine. Without time for anything it still returns a first feasible order; only
// when none exists is the error [ErrNoOrder], as a [Conflict] where two operations
// are to blame.
func Solve(ctx context.Context, in *order.Instance, b Budget) (*order.Schedule, error) {
	p, err := compile(in)
	if err != nil {
		return nil, err
	}
	if _, timed := ctx.Deadline(); !timed && b.Iterations <= 0 {
		b.Iterations = defaultIterations
	}
	best := p.searchAll(ctx, b)
	if best == nil {
		return nil, p.noOrder()
	}
	return best, nil
}

// Tries is how many tries a screen or a command gives an instance: more where there is
// more to arrange, fewer where one takes long, so that the same card has the same order
// on every machine, after some hundredths of a second to a second.
func Tries(in *order.Instance) int {
	const few, each, work, least = 3000, 150, 1_500_000, 60
	total := max(1, len(in.Ops)*in.Copies)
	long := total * (20 + in.Copies) / 20 // merging looks at every copy for every step
	return max(least, min(max(few, each*total), work/long))
}

// noOrder says why there is none.
func (p *problem) noOrder() error {
	for _, members := range p.queue {
		if a, b, ok := p.misfit(members); !ok {
			return &order.Conflict{A: p.ops[a].ID, B: p.ops[b].ID, Why: "have to meet while wet and cannot in time; loosen or remove what ties them"}
		}
	}
	return order.ErrNoOrder
}

func (p *problem) searchAll(ctx context.Context, b Budget) *order.Schedule {
	bound, began := order.Seconds(0), time.Now()
	if p.begun == nil {
		bound = p.bound()
	}
	var all []*search
	meet := &meeting{}
	for w := range workers {
		s := &search{
			problem: p, dec: newDecoder(p), bound: bound, worker: w, meet: meet,
			rng: rand.New(rand.NewPCG(b.Seed, 0x5eed+uint64(w))), budget: budget{ctx: ctx, began: began},
		}
		s.end, s.timed = ctx.Deadline()
		if b.Iterations > 0 {
			if s.tries = (b.Iterations + workers - 1 - w) / workers; s.tries == 0 {
				continue
			}
		}
		all = append(all, s)
	}
	meet.expected.Add(len(all))
	var wg sync.WaitGroup
	for _, s := range all {
		wg.Go(s.run)
	}
	wg.Wait()
	var best *search
	for _, s := range all {
		if s.best != nil && (best == nil || s.better(best)) {
			best = s
		}
	}
	if best == nil {
		return nil
	}
	out := best.best.schedule(p)
	out.Bound = bound
	return out
}

// better compares what two workers found.
func (s *search) better(than *search) bool {
	if s.price > 0 && than.price > 0 {
		return s.price < than.price
	}
	return s.best.less(than.best.cost)
}

// A budget is what a worker may use.
type budget struct {
	ctx        context.Context
	tries      int // ≤ 0 when only the context limits
	began, end time.Time
	timed      bool

	tick  int
	share float64 // that is used, 0 to 1
	over  bool
}

// spend counts a try, and reports whether the budget is used up. A budget in tries
// never depends on the clock, but for the end of its context.
func (b *budget) spend(peek int) bool {
	b.tick++
	if b.tries > 0 {
		b.share = float64(b.tick) / float64(b.tries)
		b.over = b.over || b.tick > b.tries
	}
	if b.tick%peek == 0 {
		b.over = b.over || b.ctx.Err() != nil
		if b.timed && b.tries <= 0 {
			b.share = max(b.share, float64(time.Since(b.began))/float64(b.end.Sub(b.began)))
		}
	}
	return b.over
}

// A cost is compared by its fields in order.
type cost struct {
	makespan              order.Seconds
	stay                  order.Seconds // what it is worth that operations stay where they were, and do not
	changes, waits, heats int
}

func (a cost) less(b cost) bool {
	switch {
	case a.makespan+a.stay != b.makespan+b.stay:
		return a.makespan+a.stay < b.makespan+b.stay
	case a.changes != b.changes:
		return a.changes < b.changes
	case a.waits != b.waits:
		return a.waits < b.waits
	}
	return a.heats < b.heats
}

// A found order, in the sequence it is decoded from.
type found struct {
	seq []int32
	cost
}

// search is one worker of Solve.
type search struct {
	*problem
	budget
	dec    *decoder
	rng    *rand.Rand
	worker int
	bound  order.Seconds
	meet   *meeting
	step   bool // it seeks an order of steps for a wave: first answers go colour by colour

	starts []found
	best   *answer // nil until there is one
	price  float64 // of the friendliest order, s: how long it takes and what it asks
}

func (s *search) run() {
	defer s.meet.leave(s)
	switch {
	case s.begun != nil:
		s.again()
	case s.in.Copies > 1:
		s.firstWaves()
		if s.best == nil || s.total < startsTotal {
			s.firstAnswers()
		}
	default:
		s.firstAnswers()
	}
	if s.best == nil || s.toDo() < 2 {
		return
	}
	s.improve()
}

// keep keeps what was decoded last if it is the best.
func (s *search) keep() {
	if s.best == nil {
		s.best = &answer{}
	} else if !s.dec.cost().less(s.best.cost) {
		return
	}
	s.best.take(s.dec)
}

// peek is after how many tries the clock is looked at: a try of a large batch takes
// milliseconds.
func (s *search) peek() int {
	if s.total > 300 {
		return 1
	}
	return 16
}

func (s *search) proven() bool { return s.best != nil && s.best.makespan <= s.bound }

// settled reports that the makespan is proven and the softer goals have had
// their share of tries.
func (s *search) settled() bool { return s.proven() && s.tick > 40*s.total+2000 }

// firstAnswers dispatches with various priorities and keeps the best.
func (s *search) firstAnswers() {
	for k := s.worker; k < firstMost; k += workers {
		if k >= workers && (s.spend(s.peek()) || s.share > firstShare || s.proven()) {
			break
		}
		ok := false
		if s.step {
			ok = s.bunch(k)
		} else {
			ok = s.dispatch(k)
		}
		if ok {
			s.keep()
			s.starts = append(s.starts, found{slices.Clone(s.dec.actual), s.dec.cost()})
		}
	}
	if s.best == nil { // what fits at all fits in the order of the instance, one block after the other
		s.dec.strict = true
		if s.dec.decode(s.sequence(func(a, b int32) bool { return a < b })) {
			s.keep()
			s.starts = append(s.starts, found{slices.Clone(s.dec.actual), s.dec.cost()})
		}
		s.dec.strict = false
	}
	slices.SortStableFunc(s.starts, func(a, b found) int {
		switch {
		case a.less(b.cost):
			return -1
		case b.less(a.cost):
			return 1
		}
		return 0
	})
}

// improve anneals from the best first answers, then in rounds from the best of both
// workers, each cooler at its start, and last makes the order friendlier.
func (s *search) improve() {
	w := newWalk(s)
	until := 1.0
	if s.begun == nil && s.friendly() {
		until -= politeShare
		if s.in.Copies > 1 {
			until -= politeShare
		}
	}
	from := s.share
	part := func(share float64) float64 { return from + (until-from)*share }
	switch {
	case s.total <= smallTotal && len(s.starts) > 0:
		w.restarts(until)
	default:
		heat := hottest
		if s.in.Copies > 1 || s.begun != nil {
			heat *= batchHeat
		} else {
			for k, t := range s.starts[:min(len(s.starts), races)] {
				w.anneal(t.seq, part(raceShare*float64(k+1)), heat)
			}
			heat *= afterRaces
		}
		from = s.share
		for i, share := range rounds {
			if i == 0 && s.meet != nil {
				s.meet.enter(s)
			}
			w.anneal(s.best.seq, part(share), heat)
			heat /= 2
		}
	}
	if s.begun == nil && s.friendly() {
		w.polish()
	}
}

// A meeting is where the workers exchange their best orders once. They wait for each
// other, so that with a budget in tries the answer does not depend on who is faster.
type meeting struct {
	expected sync.WaitGroup
	mu       sync.Mutex
	worker   int
	best     *answer
}

// enter hands the worker's best order in and takes over the best of all.
func (m *meeting) enter(s *search) {
	m.mu.Lock()
	if m.best == nil || s.best.less(m.best.cost) || !m.best.less(s.best.cost) && s.worker < m.worker {
		m.worker, m.best = s.worker, s.best.clone()
	}
	m.mu.Unlock()
	m.expected.Done()
	s.meet = nil
	m.expected.Wait()
	s.best = m.best.clone()
}

// leave lets the others not wait for a worker that will not come.
func (m *meeting) leave(s *search) {
	if m != nil && s.meet == m {
		m.expected.Done()
	}
}
