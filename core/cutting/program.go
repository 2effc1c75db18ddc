package cutting

import "math"

// program is a linear programme: choose how often to use each column (a
// pattern of counts, with its cost) so that every demand is met and no supply
// is exceeded, at the least cost. It is solved in its dual form, which has an
// obvious start: with all prices nought.
type program struct {
	demand []float64 // by part
	supply []float64 // by stock; +Inf for as many as needed
	column []column
}

type column struct {
	stock  int
	counts []int // by part
	cost   float64
	tree   *node
}

// solve returns the prices of parts and of sheets of each stock (what one more
// would save), how often each column is used, and the cost. ok is false when
// the demands cannot be met or the arithmetic fails.
//
// Dual: maximise Σ demand·y − Σ supply·u over y, u ≥ 0 subject to, for every
// column, Σ counts·y − u[stock] ≤ cost.
func (p *program) solve() (y, u, use []float64, cost float64, ok bool) {
	m, k, n := len(p.demand), len(p.supply), len(p.column)
	width := m + k + n + 1 // y, u, slacks, right-hand side
	rows := make([][]float64, n+1)
	basis := make([]int, n)
	for i, c := range p.column {
		r := make([]float64, width)
		for j, v := range c.counts {
			r[j] = float64(v)
		}
		if !math.IsInf(p.supply[c.stock], 1) {
			r[m+c.stock] = -1
		}
		r[m+k+i] = 1
		r[width-1] = c.cost
		rows[i], basis[i] = r, m+k+i
	}
	goal := make([]float64, width) // reduced costs, negated
	copy(goal, p.demand)
	for j, v := range p.supply {
		if !math.IsInf(v, 1) {
			goal[m+j] = -v
		}
	}
	rows[n] = goal
	const eps = 1e-9
	for step := range 50 * (n + m + k) {
		enter := entering(goal[:width-1], step > 10*(n+m+k), eps)
		if enter < 0 {
			y, u = make([]float64, m), make([]float64, k)
			for i, b := range basis {
				switch v := rows[i][width-1]; {
				case b < m:
					y[b] = v
				case b < m+k:
					u[b-m] = v
				}
			}
			use = make([]float64, n)
			for i := range use {
				use[i] = max(0, -goal[m+k+i])
			}
			return y, u, use, -goal[width-1], true
		}
		leave, least := -1, math.Inf(1)
		for i := range n {
			if a := rows[i][enter]; a > eps {
				if ratio := rows[i][width-1] / a; ratio < least-1e-12 || ratio < least+1e-12 && (leave < 0 || basis[i] < basis[leave]) {
					leave, least = i, ratio
				}
			}
		}
		if leave < 0 {
			return nil, nil, nil, 0, false // unbounded: the demands cannot be met
		}
		pivot(rows, leave, enter)
		basis[leave] = enter
	}
	return nil, nil, nil, 0, false
}

// entering picks the column to bring in: the steepest, or the first (Bland's
// rule, which cannot cycle) once many steps have been made.
func entering(goal []float64, careful bool, eps float64) int {
	best, at := eps, -1
	for j, v := range goal {
		if v > best {
			best, at = v, j
			if careful {
				return at
			}
		}
	}
	return at
}

func pivot(rows [][]float64, r, c int) {
	row := rows[r]
	f := 1 / row[c]
	for j := range row {
		row[j] *= f
	}
	for i, other := range rows {
		if i == r || other[c] == 0 {
			continue
		}
		f := other[c]
		for j, v := range row {
			other[j] -= f * v
		}
		other[c] = 0
	}
}
