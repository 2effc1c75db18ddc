package evening_test

import (
	"context"
	"fmt"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/evening"
	"chromaqua/core/order"
	"chromaqua/core/order/solver"
	"chromaqua/core/panel/paneltest/jobs"
	"chromaqua/core/steps"
)

var now = time.Date(2026, 11, 28, 10, 0, 0, 0, time.UTC)

// planned is a job of the collection in order.
func planned(t testing.TB, number, copies int) (*order.Instance, *order.Schedule) {
	for _, j := range jobs.All() {
		if j.Number != number {
			continue
		}
		made := j.Make()
		made.Card.Copies = copies
		pieces, err := made.Pieces(context.Background())
		require.NoError(t, err)
		p, err := steps.CompileAll(pieces, made.Card, steps.UsualBench())
		require.NoError(t, err)
		s, err := solver.Solve(context.Background(), p.Instance, solver.Budget{Iterations: 200, Seed: 1})
		require.NoError(t, err)
		return p.Instance, s
	}
	t.Fatalf("no job %d", number)
	return nil, nil
}

func ExampleCut() {
	in := &order.Instance{Copies: 1, Rinse: 10, Ops: []order.Op{
		{ID: 0, Dur: 1200, Dry: 3600, Attended: true}, {ID: 1, Dur: 900, Attended: true}, {ID: 2, Dur: 7200}, {ID: 3, Dur: 600, Attended: true},
	}, Arcs: []order.Arc{{From: 0, To: 1, Type: order.Dry}, {From: 1, To: 2, Type: order.After}, {From: 2, To: 3, Type: order.After}}}
	s, _ := solver.Solve(context.Background(), in, solver.Budget{Iterations: 10})
	day := time.Date(2026, 12, 5, 0, 0, 0, 0, time.UTC)
	list, err := evening.Cut(in, s, evening.Wish{Each: 30 * time.Minute, Ready: day, At: 19 * time.Hour}, now)
	for _, one := range list {
		fmt.Println(one.Begins.Format("2 Jan 15:04"), one.Long.Duration(), one.Ops, one.Rests)
	}
	fmt.Println(err)
	// Output:
	// 2 Dec 19:00 20m0s [0] []
	// 3 Dec 19:00 15m0s [1 2] [2]
	// 4 Dec 19:00 10m0s [3] []
	// <nil>
}

// Every operation is in one sitting, in order; nothing that has to meet while wet is
// parted; what is longer than asked for cannot be cut.
func TestCut(t *testing.T) {
	for _, number := range []int{1, 4, 6, 11} {
		for _, copies := range []int{1, 3} {
			in, s := planned(t, number, copies)
			rapid.Check(t, func(t *rapid.T) {
				each := time.Duration(rapid.IntRange(10, 200).Draw(t, "minutes")) * time.Minute
				list, err := evening.Cut(in, s, evening.Wish{Each: each, Ready: now.AddDate(0, 6, 0), At: 19 * time.Hour}, now)
				require.NoError(t, err)
				sitting, next := map[[2]int]int{}, 0
				for k, one := range list {
					require.NotEmpty(t, one.Ops)
					for _, i := range one.Ops {
						require.Equal(t, next, i)
						next++
						sitting[[2]int{s.Ops[i].Copy, s.Ops[i].Op}] = k
					}
					require.Equal(t, one.Long.Duration() > each, one.Over)
					if k > 0 {
						require.Equal(t, 24*time.Hour, one.Begins.Sub(list[k-1].Begins))
					}
				}
				require.Equal(t, len(s.Ops), next)
				require.Equal(t, now.AddDate(0, 6, -1).YearDay(), list[len(list)-1].Begins.YearDay())
				for copy := range copies {
					for _, a := range in.Arcs {
						x, y := sitting[[2]int{copy, a.From}], sitting[[2]int{copy, a.To}]
						require.LessOrEqual(t, x, y)
						if a.Type == order.Wet {
							require.Equal(t, x, y, "what goes into the wet is not parted from it")
						}
					}
					for _, j := range in.Joins {
						require.Equal(t, sitting[[2]int{copy, j.A}], sitting[[2]int{copy, j.B}])
					}
				}
			})
		}
	}
}

// A longer sitting never takes more evenings, and the whole in one takes no longer than
// the schedule, whose waits overnight would be.
func TestLongerSittingsAreFewer(t *testing.T) {
	in, s := planned(t, 4, 1)
	last := 1 << 30
	for minutes := 15; minutes <= 600; minutes += 15 {
		list, err := evening.Cut(in, s, evening.Wish{Each: time.Duration(minutes) * time.Minute, Ready: now.AddDate(0, 6, 0)}, now)
		require.NoError(t, err)
		assert.LessOrEqual(t, len(list), last)
		last = len(list)
	}
	assert.Equal(t, 1, last)
}

func TestRefuses(t *testing.T) {
	in, s := planned(t, 1, 1)
	_, err := evening.Cut(in, s, evening.Wish{Each: time.Minute, Ready: now.AddDate(0, 1, 0)}, now)
	assert.ErrorContains(t, err, "a sitting is")
	list, err := evening.Cut(in, s, evening.Wish{Each: 10 * time.Minute, Ready: now.AddDate(0, 0, 1), At: 19 * time.Hour}, now)
	require.ErrorIs(t, err, evening.ErrTooLate)
	assert.NotEmpty(t, list, "what it would take is shown all the same")
}
