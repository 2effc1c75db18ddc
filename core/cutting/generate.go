package cutting

import (
	"context"
	"math"
	"slices"
)

// generate finds the patterns of the linear programme's optimum and with it the
// bound, as far as time allows.
func (s *solver) generate(ctx context.Context) {
	s.lp.demand = make([]float64, len(s.parts))
	for i, n := range s.want {
		s.lp.demand[i] = float64(n)
	}
	for _, st := range s.stock {
		supply := math.Inf(1)
		if st.Qty >= 0 {
			supply = float64(st.Qty)
		}
		s.lp.supply = append(s.lp.supply, supply)
	}
	if s.best == nil {
		return
	}
	for _, u := range s.best.uses {
		s.column(u.stock, u.tree)
	}
	for i := range s.parts {
		s.single(i)
	}
	var tables []*table
	exact := true
	for _, st := range s.stock {
		t := newTable(st, s.parts, s.want, s.kerf)
		exact = exact && t.exact
		tables = append(tables, t)
		if ctx.Err() != nil {
			return
		}
	}
	for {
		y, u, use, cost, ok := s.lp.solve()
		if !ok {
			return
		}
		s.use, s.price = use, y
		improved, settled := false, true
		for i, t := range tables {
			worth, done := t.price(ctx, y)
			if !done {
				return // a truncated price proves nothing
			}
			if worth-u[i] > s.stock[i].Cost+1e-7 {
				improved = s.column(i, t.best()) || improved
				settled = false
			}
		}
		if !improved {
			if exact && settled {
				s.bound = s.least(cost)
			}
			return
		}
	}
}

// least rounds a bound up to what whole sheets can cost.
func (s *solver) least(cost float64) float64 {
	for _, st := range s.stock {
		if st.Cost != math.Trunc(st.Cost) {
			return cost
		}
	}
	return math.Ceil(cost - 1e-6)
}

// single adds a pattern of one part alone on the first stock it fits, so that
// the programme can always be met.
func (s *solver) single(part int) {
	for i, st := range s.stock {
		if w := s.fill[i].ways[part]; len(w) > 0 {
			s.column(i, trimmed(st.W, st.H, s.kerf, part, w[0].w, w[0].h, waste))
		}
	}
}

// column adds a pattern, without the parts it holds beyond what is wanted. When
// that is there already it is added with them: only when no pattern at all is
// worth more than its cost do the prices prove anything.
func (s *solver) column(stock int, tree *node) bool {
	counts := make([]int, len(s.parts))
	tree.count(counts)
	clipped := slices.Clone(counts)
	for i := range clipped {
		clipped[i] = min(clipped[i], s.want[i])
	}
	return s.add(stock, clipped, tree) || s.add(stock, counts, tree)
}

func (s *solver) add(stock int, counts []int, tree *node) bool {
	for _, c := range s.lp.column {
		if c.stock == stock && slices.Equal(c.counts, counts) {
			return false
		}
	}
	s.lp.column = append(s.lp.column, column{stock, counts, s.stock[stock].Cost, tree})
	return true
}
