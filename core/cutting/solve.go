package cutting

import (
	"cmp"
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
)

// Budget says how long [Solve] may look for a better plan. It stops at the
// first of: Tries complete plans per type of paper (when positive), the end of
// its context, or a plan whose cost is proven to be the least.
type Budget struct {
	Tries int
	Seed  uint64
}

// leftoverTries is how many plans are tried for the sake of a larger leftover
// when the cost cannot be beaten.
const leftoverTries = 40

// hair is what using an offcut costs beside its price, by its share of the
// largest: of equal plans, the one that spares big offcuts wins.
const hair = 1e-4

// Solve returns the best plan it finds; see the package comment for what is
// better. The same instance, tries and seed give the same plan. It fails with
// an [*Infeasible] when parts cannot be cut from the stock there is.
func Solve(ctx context.Context, in *Instance, b Budget) (*Plan, error) {
	if err := in.Check(); err != nil {
		return nil, err
	}
	if err := possible(in); err != nil {
		return nil, err
	}
	plan := &Plan{Instance: in.Name, Sheets: []Sheet{}, Cuts: []Cut{}, Proven: true}
	var trees []*node
	for _, kind := range kinds(in) {
		s := newSolver(in, kind, b)
		best, err := s.solve(ctx)
		if err != nil {
			return nil, err
		}
		plan.Bound += s.bound
		plan.Proven = plan.Proven && best.cost <= s.bound+1e-6
		for _, u := range best.uses {
			sheet := Sheet{Stock: s.stock[u.stock].ID, Placements: []Placement{}, Leftovers: []Rect{}}
			u.tree.place(0, 0, in.Kerf, s.parts, &sheet)
			plan.Sheets = append(plan.Sheets, sheet)
			plan.Cost += s.stock[u.stock].Cost
			trees = append(trees, u.tree)
		}
	}
	plan.Cuts = sequence(trees, in.Kerf)
	return plan, nil
}

// use is one sheet and how it is cut.
type use struct {
	stock int
	tree  *node
}

// layout is a complete plan for one type of paper.
type layout struct {
	uses    []use
	cost    float64 // of the stock
	hairs   float64 // of offcuts used
	largest float64 // leftover, mm²
}

// better reports whether a is to be preferred to b.
func (a *layout) better(b *layout) bool {
	switch {
	case b == nil:
		return true
	case math.Abs(a.cost-b.cost) > 1e-9:
		return a.cost < b.cost
	case math.Abs(a.hairs-b.hairs) > 1e-12:
		return a.hairs < b.hairs
	}
	return a.largest > b.largest+1e-9
}

// solver works on one type of paper.
type solver struct {
	parts  []Part
	stock  []Stock
	kerf   int64
	want   []int
	budget Budget
	rng    *rand.Rand
	fill   []*filler // by stock
	lp     program
	use    []float64 // of the columns, in the linear programme's optimum
	price  []float64 // of the parts
	bound  float64
	best   *layout
	tries  int
}

func newSolver(in *Instance, kind string, b Budget) *solver {
	s := &solver{kerf: in.Kerf, budget: b, rng: rand.New(rand.NewPCG(b.Seed, 0x9e3779b97f4a7c15))}
	for _, p := range in.Parts {
		if p.Type == kind && p.Qty > 0 {
			s.parts = append(s.parts, p)
			s.want = append(s.want, p.Qty)
		}
	}
	for _, st := range in.Stock {
		if st.Type != kind || st.Qty == 0 {
			continue
		}
		s.stock = append(s.stock, st)
		s.fill = append(s.fill, &filler{parts: s.parts, kerf: in.Kerf, rng: s.rng, ways: waysOn(s.parts, st), weight: make([]float64, len(s.parts))})
	}
	return s
}

func (s *solver) solve(ctx context.Context) (*layout, error) {
	for range 12 { // whatever happens to the clock, there is an answer
		s.offer(s.greedy(slices.Clone(s.want), nil, nil))
	}
	s.generate(ctx)
	for s.more(ctx) {
		l := s.rounded()
		s.offer(l)
		if l != nil && math.Abs(l.cost-s.best.cost) < 1e-9 && s.best.cost <= s.bound+1e-6 {
			s.offer(s.consolidated(ctx, l))
		}
	}
	if s.best == nil {
		return nil, &Infeasible{[]string{fmt.Sprintf("the %s of type %q are not enough for all parts; buy more or cut fewer", plural(len(s.stock), "kind of sheet", "kinds of sheets"), s.parts[0].Type)}}
	}
	s.offer(s.consolidated(ctx, s.best))
	return s.best, nil
}

// more reports whether to try again.
func (s *solver) more(ctx context.Context) bool {
	s.tries++
	if ctx.Err() != nil || s.budget.Tries > 0 && s.tries > s.budget.Tries {
		return false
	}
	if s.budget.Tries <= 0 && ctx.Done() == nil && s.tries > 2000 {
		return false // no limit was given at all
	}
	// Once the cost cannot be beaten, a while longer for a larger leftover.
	return s.best == nil || s.best.cost > s.bound+1e-6 || s.tries < leftoverTries
}

func (s *solver) offer(l *layout) {
	if l != nil && l.better(s.best) {
		s.best = l
	}
}

// finish adds up a layout.
func (s *solver) finish(uses []use) *layout {
	l := &layout{uses: uses}
	largestOffcut := 0.0
	for _, st := range s.stock {
		if st.Offcut {
			largestOffcut = max(largestOffcut, mm2(st.W, st.H))
		}
	}
	for _, u := range uses {
		st := s.stock[u.stock]
		l.cost += st.Cost
		if st.Offcut {
			l.hairs += hair * mm2(st.W, st.H) / largestOffcut
		}
		l.largest = max(l.largest, u.tree.largest())
	}
	return l
}

// greedy fills sheet after sheet until nothing is wanted; uses are sheets that
// are settled already. It returns nil when the stock does not suffice.
func (s *solver) greedy(want []int, uses []use, worth []float64) *layout {
	left := s.left(uses)
	for total(want) > 0 {
		u, counts := s.nextSheet(want, left, worth)
		if counts == nil {
			return nil
		}
		// A pattern found is repeated as often as it fits.
		times := math.MaxInt
		for i, n := range counts {
			if n > 0 {
				times = min(times, want[i]/n)
			}
		}
		if left[u.stock] >= 0 {
			times = min(times, left[u.stock])
			left[u.stock] -= times
		}
		for range times {
			uses = append(uses, u)
		}
		for i, n := range counts {
			want[i] -= n * times
		}
	}
	return s.finish(uses)
}

// left returns how many sheets of each stock remain; -1 for as many as needed.
func (s *solver) left(uses []use) []int {
	out := make([]int, len(s.stock))
	for i, st := range s.stock {
		out[i] = st.Qty
	}
	for _, u := range uses {
		if out[u.stock] > 0 {
			out[u.stock]--
		}
	}
	return out
}

func total(counts []int) (sum int) {
	for _, n := range counts {
		sum += n
	}
	return sum
}

// nextSheet fills one sheet of each stock that is left and returns the one that
// covers most for its cost.
func (s *solver) nextSheet(want, left []int, worth []float64) (best use, counts []int) {
	score := -1.0
	for i, st := range s.stock {
		if left[i] == 0 {
			continue
		}
		f := s.fill[i]
		f.want = slices.Clone(want)
		f.shuffle(worth)
		tree := f.fill(st.W, st.H)
		c := make([]int, len(s.parts))
		tree.count(c)
		covered := s.area(c)
		if covered == 0 {
			continue
		}
		// The share covered, per unit of cost; sheets that cost nothing come
		// first, those that are filled best first.
		v := covered / mm2(st.W, st.H)
		if total(c) == total(want) {
			v = 2 // it ends the work
		}
		if st.Cost > 0 {
			v = covered / st.Cost / 1e9
		}
		if v *= 0.9 + 0.2*s.rng.Float64(); v > score {
			score, best, counts = v, use{i, tree}, c
		}
	}
	return best, counts
}

// rounded turns the linear programme's optimum into whole sheets: each pattern
// as often as its share says, rounded at random, trimmed to what is wanted; what
// remains is filled greedily.
func (s *solver) rounded() *layout {
	want := slices.Clone(s.want)
	var uses []use
	left := s.left(nil)
	if s.use != nil && s.rng.Float64() < 0.85 {
		keep := s.rng.Float64() // how much of the optimum to trust this time
		for _, k := range s.rng.Perm(len(s.use)) {
			c := s.lp.column[k]
			times := int(s.use[k] + keep*s.rng.Float64())
			for ; times > 0 && left[c.stock] != 0 && overlap(c.counts, want) > 0; times-- {
				if s.rng.Float64() > 0.35+overlap(c.counts, want) {
					break // mostly surplus
				}
				uses = append(uses, use{c.stock, c.tree.drop(want)})
				left[c.stock]--
			}
		}
	}
	worth := s.price
	if s.rng.Float64() < 0.5 {
		worth = nil
	}
	return s.greedy(want, uses, worth)
}

// overlap is the share of a pattern that is still wanted.
func overlap(counts, want []int) float64 {
	useful := 0
	for i, n := range counts {
		useful += min(n, want[i])
	}
	return float64(useful) / float64(max(1, total(counts)))
}

// consolidated returns the layout with its emptiest sheets cut anew, so that
// what is left of them is one large piece.
func (s *solver) consolidated(ctx context.Context, l *layout) *layout {
	const emptiest = 2
	bare := make([]float64, len(l.uses))
	order := make([]int, len(l.uses))
	for i, u := range l.uses {
		order[i] = i
		counts := make([]int, len(s.parts))
		u.tree.count(counts)
		bare[i] = mm2(s.stock[u.stock].W, s.stock[u.stock].H) - s.area(counts)
	}
	slices.SortStableFunc(order, func(a, b int) int { return cmp.Compare(bare[b], bare[a]) })
	uses := slices.Clone(l.uses)
	for _, i := range order[:min(emptiest, len(order))] {
		if bare[i] > l.largest {
			uses[i].tree = s.compact(ctx, uses[i])
		}
	}
	return s.finish(uses)
}

// area is what counts of the parts cover, mm².
func (s *solver) area(counts []int) (sum float64) {
	for i, n := range counts {
		sum += float64(n) * mm2(s.parts[i].W, s.parts[i].H)
	}
	return sum
}

// compact packs the parts of a sheet into the shortest strip across it, from
// either side, and returns the better tree.
func (s *solver) compact(ctx context.Context, u use) *node {
	st := s.stock[u.stock]
	best := u.tree
	counts := make([]int, len(s.parts))
	u.tree.count(counts)
	area := s.area(counts)
	t := newTable(st, s.parts, counts, s.kerf)
	for _, h := range t.ys {
		if mm2(st.W, h-s.kerf) < area || h >= st.H || ctx.Err() != nil {
			continue
		}
		if strip := s.pack(u.stock, counts, st.W, h-s.kerf); strip != nil {
			best = larger(best, cutY(st.W, st.H, h-s.kerf, s.kerf, strip, waste))
			break
		}
	}
	for _, w := range t.xs {
		if mm2(w-s.kerf, st.H) < area || w >= st.W || ctx.Err() != nil {
			continue
		}
		if strip := s.pack(u.stock, counts, w-s.kerf, st.H); strip != nil {
			best = larger(best, cutX(st.W, st.H, w-s.kerf, s.kerf, strip, waste))
			break
		}
	}
	return best
}

func larger(a, b *node) *node {
	if b.largest() > a.largest()+1e-9 {
		return b
	}
	return a
}

// pack tries to cut all of counts from a w × h rectangle.
func (s *solver) pack(stock int, counts []int, w, h int64) *node {
	const tries = 30
	f := s.fill[stock]
	for range tries {
		f.want = slices.Clone(counts)
		f.shuffle(nil)
		if tree := f.fill(w, h); total(f.want) == 0 {
			return tree
		}
	}
	return nil
}
