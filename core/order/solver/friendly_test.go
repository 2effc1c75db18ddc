package solver_test

import (
	"context"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/order"
	"chromaqua/core/order/solver"
)

// free is a card of so many washes that may come in any order, all alike but for where
// they lie; drying is so quick that no order is longer than another.
func free(n int, change func(*order.Instance)) *order.Instance {
	in := &order.Instance{Copies: 1, Rinse: 15, Hand: order.Right, Heat: order.Heat{Factor: 1}}
	for i := range n {
		in.Regions = append(in.Regions, order.Region{ID: i, X: 0.5, Y: 0.5})
		in.Ops = append(in.Ops, order.Op{ID: i, Kind: "wash", Regions: []int{i}, Color: 1, Dur: 30, Dry: 1, Light: 50, Attended: true})
	}
	change(in)
	return in
}

// ordered solves an instance and returns its operations in their order.
func ordered(t *testing.T, in *order.Instance) (ops []int, s *order.Schedule) {
	s, err := solver.Solve(context.Background(), in, solver.Budget{Iterations: 4000, Seed: 2})
	require.NoError(t, err)
	require.NoError(t, check(in, s))
	for _, p := range s.Ops {
		ops = append(ops, p.Op)
	}
	return ops, s
}

// Where time leaves the choice, light comes before dark among neighbours, the
// background before all, a colour at a time, and the way is short.
func TestAFriendlyOrder(t *testing.T) {
	ops, _ := ordered(t, free(4, func(in *order.Instance) {
		for i, light := range []int{20, 90, 40, 70} {
			in.Ops[i].Light = light
		}
		in.Adjacent = [][2]int{{0, 1}, {0, 2}, {0, 3}, {1, 2}, {1, 3}, {2, 3}}
	}))
	assert.Equal(t, []int{1, 3, 2, 0}, ops, "light before dark")

	ops, _ = ordered(t, free(4, func(in *order.Instance) { in.Ops[2].Ground = true }))
	assert.Equal(t, 2, ops[0], "the ground first")

	ops, s := ordered(t, free(6, func(in *order.Instance) {
		for i := range in.Ops {
			in.Ops[i].Color = 1 + i%2
		}
	}))
	assert.Equal(t, 2, s.Changes, "a colour at a time: %v", ops)

	ops, _ = ordered(t, free(6, func(in *order.Instance) {
		for i, x := range []float64{0.5, 0.1, 0.9, 0.3, 0.7, 0.2} {
			in.Regions[i].X, in.Regions[i].Y = x, 0.9
			in.Ops[i].Dry = 0
		}
	}))
	assert.Contains(t, [][]int{{1, 5, 3, 0, 4, 2}, {2, 4, 0, 3, 5, 1}}, ops, "a short way")
}

// The hand does not rest on wet paint: a right one works away from the left, a left one
// from the right.
func TestTheHandKeepsOffWetPaint(t *testing.T) {
	first := map[order.Hand]int{}
	for _, hand := range []order.Hand{order.Right, order.Left} {
		ops, _ := ordered(t, free(4, func(in *order.Instance) {
			in.Hand = hand
			for i, x := range []float64{0.5, 0.2, 0.65, 0.35} {
				in.Regions[i].X, in.Ops[i].Dry = x, 900
			}
		}))
		first[hand] = ops[0]
	}
	assert.Equal(t, map[order.Hand]int{order.Right: 1, order.Left: 2}, first)
}

// Friendliness costs a hundredth of the time at most, and several cards go through a
// step together.
func TestFriendlinessIsCheap(t *testing.T) {
	for _, name := range []string{"c1", "f30"} {
		in := load(t, name)
		_, plain := ordered(t, in)
		polite := load(t, name)
		polite.Hand = order.Right
		for i := range polite.Ops {
			polite.Ops[i].Light = 1 + (i*37)%100
		}
		_, friendly := ordered(t, polite)
		assert.LessOrEqual(t, float64(friendly.Makespan), 1.04*float64(plain.Makespan), name)
	}
	ops, _ := ordered(t, free(4, func(in *order.Instance) {
		in.Copies, in.Rack = 5, 4
		for i := range in.Ops {
			in.Ops[i].Color = 1 + i/2
		}
	}))
	turns := 1
	for i := range ops[1:] {
		if ops[i] != ops[i+1] {
			turns++
		}
	}
	assert.LessOrEqual(t, turns, 6, "%v", ops)
}
