package evening_test

import (
	"context"
	"fmt"
	"slices"
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

// How long a sitting is, by hand: colours are changed and cards too, what has to be dry is
// waited for where it was painted in the same sitting, and what lies by itself is not.
func TestHowLongASittingIs(t *testing.T) {
	painted := func(id, color int, dur order.Seconds) order.Op {
		return order.Op{ID: id, Color: color, Dur: dur, Dry: 600, Bone: 900, Regions: []int{id}, Attended: true}
	}
	two := []order.Op{painted(0, 1, 100), painted(1, 1, 200)}
	for name, c := range map[string]struct {
		in   order.Instance
		long order.Seconds
	}{
		"one colour is taken up once":       {order.Instance{Ops: two}, 10 + 100 + 200},
		"another is rinsed for":             {order.Instance{Ops: []order.Op{painted(0, 1, 100), painted(1, 2, 200)}}, 2*10 + 100 + 200},
		"no brush leaves it as it is":       {order.Instance{Ops: []order.Op{painted(0, 1, 100), painted(1, 0, 50), painted(2, 1, 200)}}, 10 + 100 + 50 + 200},
		"a card is changed for another":     {order.Instance{Ops: two, Copies: 2}, 10 + 2*(100+200) + 20},
		"and for one of another kind":       {order.Instance{Ops: []order.Op{painted(0, 1, 100), {ID: 1, Job: 1, Color: 1, Dur: 200, Attended: true}}}, 10 + 100 + 20 + 200},
		"what must be dry is waited for":    {order.Instance{Ops: two, Arcs: []order.Arc{{From: 0, To: 1, Type: order.Dry}}}, 10 + 100 + 600 + 200},
		"and what must be bone dry":         {order.Instance{Ops: two, Arcs: []order.Arc{{From: 0, To: 1, Type: order.Bone}}}, 10 + 100 + 900 + 200},
		"and as long as it has to be":       {order.Instance{Ops: two, Arcs: []order.Arc{{From: 0, To: 1, Type: order.After, Min: 300}}}, 10 + 100 + 300 + 200},
		"and what it touches":               {order.Instance{Ops: two, Adjacent: [][2]int{{0, 1}}}, 10 + 100 + 600 + 200},
		"not if the brush is busy as long":  {order.Instance{Ops: []order.Op{painted(0, 1, 100), painted(1, 1, 700), painted(2, 1, 200)}, Arcs: []order.Arc{{From: 0, To: 2, Type: order.Dry}}}, 10 + 100 + 700 + 200},
		"what lies by itself last is not":   {order.Instance{Ops: append(slices.Clone(two), order.Op{ID: 2, Dur: 7200}), Arcs: []order.Arc{{From: 1, To: 2, Type: order.After}}}, 10 + 100 + 200},
		"but is where something follows it": {order.Instance{Ops: []order.Op{two[0], {ID: 1, Dur: 3600}, painted(2, 1, 200)}, Arcs: []order.Arc{{From: 0, To: 1, Type: order.After}, {From: 1, To: 2, Type: order.After}}}, 10 + 100 + 3600 + 200},
	} {
		in := c.in
		in.Copies, in.Rinse, in.Swap = max(1, in.Copies), 10, 20
		s := &order.Schedule{}
		for copy := range in.Copies {
			for _, o := range in.Ops {
				s.Ops = append(s.Ops, order.Placed{Op: o.ID, Copy: copy, Start: 100_000, End: 100_000 + o.Dur})
			}
		}
		list, err := evening.Cut(&in, s, evening.Wish{Each: evening.MaxEach, Ready: now.AddDate(0, 1, 0)}, now)
		require.NoError(t, err, name)
		require.Len(t, list, 1, name)
		assert.Equal(t, c.long, list[0].Long, name)
	}
}

// A sitting may have begun up to an hour ago; before that there are too few evenings, and it
// is told how many.
func TestEveningsThatAreLeft(t *testing.T) {
	in := &order.Instance{Copies: 1, Ops: []order.Op{{ID: 0, Dur: 700, Attended: true}, {ID: 1, Dur: 700, Attended: true}, {ID: 2, Dur: 700, Attended: true}}}
	s := &order.Schedule{Ops: []order.Placed{{Op: 0}, {Op: 1}, {Op: 2}}}
	cut := func(days int, each, at time.Duration) error {
		_, err := evening.Cut(in, s, evening.Wish{Each: each, Ready: now.AddDate(0, 0, days), At: at}, now)
		return err
	}
	assert.NoError(t, cut(1, time.Hour, 9*time.Hour))
	assert.ErrorIs(t, cut(1, time.Hour, 9*time.Hour-time.Minute), evening.ErrTooLate)
	assert.NoError(t, cut(3, evening.MinEach, 9*time.Hour))
	assert.ErrorContains(t, cut(2, evening.MinEach, 9*time.Hour), "it takes 3 sittings, and before that day there are 1;")
	assert.ErrorContains(t, cut(0, evening.MinEach, 9*time.Hour), "there are 0;")
}
