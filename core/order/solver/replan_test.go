package solver_test

import (
	"context"
	"math"
	"math/rand/v2"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/order"
	"chromaqua/core/order/solver"
)

// interrupted carries an order out up to a moment, at its own pace, with coats that dry
// at their own; some operations are left out, and one is done before its turn.
func interrupted(r *rand.Rand, in *order.Instance, s *order.Schedule) order.Progress {
	ops := map[int]order.Op{}
	for _, o := range in.Ops {
		ops[o.ID] = o
	}
	late := order.Seconds(0)
	share := r.Float64()
	was := order.Progress{}
	for _, p := range s.Ops[:int(share*float64(len(s.Ops)))] {
		if r.IntN(25) == 0 {
			continue // not yet
		}
		late += order.Seconds(r.IntN(30) - 10)
		if r.IntN(30) == 0 {
			late += 1200 // the telephone
		}
		took := order.Seconds(float64(p.End-p.Start) * (0.5 + r.Float64()))
		p.Start = max(0, p.Start+late, was.Now)
		p.End = p.Start + took
		was.Now = max(was.Now, p.Start)
		was.Done = append(was.Done, order.Past{Placed: p, Laid: p.End})
	}
	was.Now += order.Seconds(r.IntN(200))
	for i := range was.Done {
		d := &was.Done[i]
		if ran := was.Now - d.End; ran > 0 { // what has dried by now is as it was observed
			d.Laid = was.Now - order.Seconds(float64(ran)*math.Exp(0.4*r.NormFloat64()))
		}
	}
	return was
}

// tied is an instance without what was missed.
func tied(in *order.Instance, missed []order.Missed) *order.Instance {
	out := *in
	out.Arcs = slices.Clone(in.Arcs)
	out.Joins = nil
	for i, a := range out.Arcs {
		if slices.Contains(missed, order.Missed{Into: a.From, Op: a.To}) && a.Type == order.Wet {
			out.Arcs[i] = order.Arc{From: a.From, To: a.To, Min: a.Min, Type: order.Dry}
		}
	}
	for _, j := range in.Joins {
		if !slices.Contains(missed, order.Missed{Into: j.A, Op: j.B}) && !slices.Contains(missed, order.Missed{Into: j.B, Op: j.A}) {
			out.Joins = append(out.Joins, j)
		}
	}
	return &out
}

// Whatever has happened, what is left is planned so that every demand is met; what is
// missed was late, and no order is given up.
func TestReplanned(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		kind := rapid.SampledFrom([]string{"single", "heated", "aimed"}).Draw(t, "kind")
		in := generated(kind, rapid.Uint64Range(0, 500).Draw(t, "instance"))
		seed := rapid.Uint64().Draw(t, "seed")
		s, err := solver.Solve(context.Background(), in, solver.Budget{Iterations: 60, Seed: 1})
		require.NoError(t, err)
		was := interrupted(rand.New(rand.NewPCG(seed, 1)), in, s)
		got, err := solver.Replan(context.Background(), in, s, was, solver.Budget{Iterations: 200, Seed: 1})
		require.NoError(t, err)
		require.NoError(t, checkFrom(tied(in, got.Missed), &got.Schedule, was))
		again, err := solver.Replan(context.Background(), in, s, was, solver.Budget{Iterations: 200, Seed: 1})
		require.NoError(t, err)
		require.Equal(t, got, again)
	})
}

// An order that is carried out as it was planned stays as it is.
func TestNothingMovesWithoutNeed(t *testing.T) {
	moved, left := 0, 0
	for seed := range uint64(8) {
		in := generated("single", seed)
		s, err := solver.Solve(context.Background(), in, solver.Budget{Iterations: solver.Tries(in), Seed: 1})
		require.NoError(t, err)
		half := s.Ops[len(s.Ops)/2].Start
		was := order.Progress{}
		for _, p := range s.Ops {
			if p.Start < half {
				was.Now = max(was.Now, p.End)
				was.Done = append(was.Done, order.Past{Placed: p, Laid: p.End})
			}
		}
		got, err := solver.Replan(context.Background(), in, s, was, solver.Budget{Iterations: 400, Seed: 1})
		require.NoError(t, err)
		require.NoError(t, checkFrom(in, &got.Schedule, was))
		assert.Empty(t, got.Missed)
		assert.LessOrEqual(t, got.Makespan, s.Makespan)
		moved, left = moved+got.Moved, left+len(s.Ops)-len(was.Done)
	}
	assert.LessOrEqual(t, moved, left/20)
}

// A drop-in that comes too late waits until what it was for is dry, and is told.
func TestAClosedWindow(t *testing.T) {
	in := &order.Instance{Copies: 1, Regions: []order.Region{{ID: 1}}, Adjacent: [][2]int{}, Ops: []order.Op{
		{ID: 1, Kind: "wash", Regions: []int{1}, Color: 1, Dur: 60, Dry: 900, Bone: 1200, Attended: true},
		{ID: 2, Kind: "wash", Regions: []int{1}, Color: 2, Dur: 20, Dry: 900, Bone: 1200, Attended: true},
		{ID: 3, Kind: "untape", Dur: 30, Attended: true},
	}, Arcs: []order.Arc{{From: 1, To: 2, Type: order.Wet, Max: 300}, {From: 2, To: 3, Type: order.Bone}}}
	s, err := solver.Solve(context.Background(), in, solver.Budget{Iterations: 50, Seed: 1})
	require.NoError(t, err)
	was := order.Progress{Now: 500, Done: []order.Past{{Placed: order.Placed{Op: 1, Start: 0, End: 60}, Laid: 60}}}
	got, err := solver.Replan(context.Background(), in, s, was, solver.Budget{Iterations: 50, Seed: 1})
	require.NoError(t, err)
	assert.Equal(t, []order.Missed{{Into: 1, Op: 2}}, got.Missed)
	assert.Equal(t, order.Placed{Op: 2, Start: 960, End: 980}, got.Ops[1])

	was.Done[0].Laid = 300 // it dries slowly: there is time
	got, err = solver.Replan(context.Background(), in, s, was, solver.Budget{Iterations: 50, Seed: 1})
	require.NoError(t, err)
	assert.Empty(t, got.Missed)
	assert.Equal(t, order.Placed{Op: 2, Start: 500, End: 520}, got.Ops[1])
}

func TestReplanRefuses(t *testing.T) {
	in := generated("single", 1)
	s, err := solver.Solve(context.Background(), in, solver.Budget{Iterations: 20, Seed: 1})
	require.NoError(t, err)
	ask := func(was order.Progress) error {
		_, err := solver.Replan(context.Background(), in, s, was, solver.Budget{Iterations: 20})
		return err
	}
	one := order.Past{Placed: order.Placed{Op: 1, Start: 0, End: 90}}
	assert.ErrorContains(t, ask(order.Progress{Now: 100, Done: []order.Past{one, one}}), "done twice")
	assert.ErrorContains(t, ask(order.Progress{Now: -1, Done: []order.Past{one}}), "cannot be by")
	assert.ErrorContains(t, ask(order.Progress{Done: []order.Past{{Placed: order.Placed{Op: 9999}}}}), "which the instance has not")
	copies := *in
	copies.Copies = 2
	_, err = solver.Replan(context.Background(), &copies, s, order.Progress{}, solver.Budget{Iterations: 20})
	assert.ErrorContains(t, err, "a job of its own")
}

// BenchmarkReplan replans an order of about 200 operations halfway through, and reports
// how many of a hundred of what is left move.
func BenchmarkReplan(b *testing.B) {
	in := generated("wide", 3)
	s, err := solver.Solve(context.Background(), in, solver.Budget{Iterations: 2000, Seed: 1})
	require.NoError(b, err)
	r := rand.New(rand.NewPCG(7, 7))
	moved, left, n := 0, 0, 0
	for b.Loop() {
		b.StopTimer()
		was := interrupted(r, in, s)
		b.StartTimer()
		got, err := solver.Replan(context.Background(), in, s, was, solver.Budget{Iterations: solver.ReplanTries(in), Seed: 1})
		require.NoError(b, err)
		moved, left, n = moved+got.Moved, left+len(in.Ops)-len(was.Done), n+1
	}
	b.ReportMetric(100*float64(moved)/float64(max(1, left)), "%-moved")
	b.ReportMetric(float64(len(in.Ops)), "operations")
}
