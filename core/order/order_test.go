package order_test

import (
	"context"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/order"
)

func ExampleSolve() {
	in := &order.Instance{
		Copies: 1, Rinse: 15,
		Adjacent: [][2]int{{1, 2}}, // shell and body touch, the rock stands apart
		Ops: []order.Op{
			{ID: 1, Kind: "wash", Regions: []int{1}, Color: 1, Dur: 40, Dry: 600, Attended: true},
			{ID: 2, Kind: "wash", Regions: []int{2}, Color: 1, Dur: 30, Dry: 300, Attended: true},
			{ID: 3, Kind: "wash", Regions: []int{3}, Color: 2, Dur: 50, Dry: 600, Attended: true},
		},
	}
	s, _ := order.Solve(context.Background(), in, order.Budget{Iterations: 2000, Seed: 1})
	for _, p := range s.Ops {
		fmt.Printf("%4d s: operation %d\n", p.Start, p.Op)
	}
	// Output:
	//   15 s: operation 2
	//   60 s: operation 3
	//  345 s: operation 1
}

func load(t testing.TB, name string) *order.Instance {
	f, err := os.Open("testdata/" + name + ".json")
	require.NoError(t, err)
	defer f.Close()
	in, err := order.Read(f)
	require.NoError(t, err)
	return in
}

func solve(t testing.TB, in *order.Instance, iterations int) *order.Schedule {
	s, err := order.Solve(context.Background(), in, order.Budget{Iterations: iterations, Seed: 1})
	require.NoError(t, err)
	require.NoError(t, check(in, s))
	require.LessOrEqual(t, s.Bound, s.Makespan)
	return s
}

// The small instances have known optima; the larger ones best known values.
func TestKnownInstances(t *testing.T) {
	for _, c := range []struct {
		name       string
		makespan   int
		tolerance  float64
		iterations int
	}{
		{"a1", 1930, 0, 60_000}, {"a3", 3203, 0, 60_000}, {"b2", 9192, 0, 30_000}, {"c1", 8280, 0.01, 30_000},
		{"f30", 10753, 0.05, 6_000}, {"f30h", 10725, 0.05, 6_000},
	} {
		t.Run(c.name, func(t *testing.T) {
			s := solve(t, load(t, c.name), c.iterations)
			assert.GreaterOrEqual(t, s.Makespan, c.makespan*999/1000, "better than proven: the checker or the model is wrong")
			assert.LessOrEqual(t, float64(s.Makespan), float64(c.makespan)*(1+c.tolerance))
		})
	}
}

func TestManyCopies(t *testing.T) {
	in := load(t, "v150")
	in.Copies = 2 // twelve are benchmarked
	in.Rack = 1
	s := solve(t, in, 3)
	r, err := order.InReadingOrder(in)
	require.NoError(t, err)
	require.NoError(t, check(in, r))
	assert.Less(t, s.Makespan, r.Makespan)
}

func TestTheSameSeedGivesTheSameOrder(t *testing.T) {
	in := load(t, "c1")
	assert.Equal(t, solve(t, in, 3000), solve(t, in, 3000))
}

func TestReadingOrderCostsMore(t *testing.T) {
	for _, name := range []string{"a1", "b2", "f30", "f30h"} {
		in := load(t, name)
		r, err := order.InReadingOrder(in)
		require.NoError(t, err)
		require.NoError(t, check(in, r))
		assert.Greater(t, r.Makespan, solve(t, in, 2000).Makespan, name)
	}
}

func TestStopsWithItsContext(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	in := load(t, "f30")
	s, err := order.Solve(ctx, in, order.Budget{Iterations: 1 << 40})
	require.NoError(t, err, "a first answer is owed even without time")
	require.NoError(t, check(in, s))
}

// instances draws small problems of every kind: wet arcs, joins, masks, heat,
// copies on a small rack, unattended work.
func instances(t *rapid.T) *order.Instance {
	n := rapid.IntRange(1, 9).Draw(t, "ops")
	in := &order.Instance{
		Name: "drawn", Copies: rapid.IntRange(1, 3).Draw(t, "copies"), Rack: rapid.IntRange(0, 3).Draw(t, "rack"),
		Rinse: 15, Swap: rapid.IntRange(0, 5).Draw(t, "swap"),
		Heat: order.Heat{Allowed: rapid.Bool().Draw(t, "heat"), Factor: 15, Min: 8},
	}
	for i := range n {
		in.Regions = append(in.Regions, order.Region{ID: i, X: float64(i%3) / 3, Y: float64(i) / 9})
		dry := rapid.IntRange(0, 900).Draw(t, "dry")
		in.Ops = append(in.Ops, order.Op{
			ID: 10 + i, Kind: "wash", Regions: []int{i}, Color: rapid.IntRange(0, 3).Draw(t, "colour"),
			Dur: rapid.IntRange(5, 90).Draw(t, "dur"), Dry: dry, Bone: dry * 3 / 2, Attended: rapid.IntRange(0, 9).Draw(t, "attended") > 0,
		})
		if i == 0 {
			continue
		}
		from := rapid.IntRange(0, i-1).Draw(t, "from")
		switch rapid.IntRange(0, 5).Draw(t, "tie") {
		case 0:
			in.Arcs = append(in.Arcs, order.Arc{From: 10 + from, To: 10 + i, Type: order.Dry})
		case 1:
			in.Arcs = append(in.Arcs, order.Arc{From: 10 + from, To: 10 + i, Type: order.Bone, Min: 5})
		case 2:
			in.Arcs = append(in.Arcs, order.Arc{From: 10 + from, To: 10 + i, Type: order.Wet, Min: rapid.IntRange(0, 40).Draw(t, "min"), Max: 140})
		case 3:
			in.Adjacent = append(in.Adjacent, [2]int{from, i})
		case 4:
			in.Joins = append(in.Joins, order.Join{A: 10 + from, B: 10 + i, Max: 120})
		}
	}
	if n > 4 && rapid.Bool().Draw(t, "mask") {
		in.Ops[0].Kind, in.Ops[n-1].Kind = "mask", "unmask"
		in.Arcs = append(in.Arcs, order.Arc{From: 10, To: 10 + n - 1, Type: order.Bone})
	}
	return in
}

// Whatever is asked, the answer is feasible or an honest refusal, and the
// bound is a bound.
func TestAnyOrderIsFeasible(t *testing.T) {
	solved := 0
	rapid.Check(t, func(t *rapid.T) {
		in := instances(t)
		for _, o := range in.Ops {
			if !o.Attended && o.Color != 0 { // nobody paints unattended
				t.Skip()
			}
		}
		s, err := order.Solve(context.Background(), in, order.Budget{Iterations: 200, Seed: 3})
		if err != nil {
			require.ErrorIs(t, err, order.ErrNoOrder)
			return
		}
		solved++
		require.NoError(t, check(in, s))
		require.LessOrEqual(t, s.Bound, s.Makespan)
	})
	assert.Greater(t, solved, 20, "the check must see solutions")
}

func TestContradictionsAreRefused(t *testing.T) {
	op := func(id int) order.Op { return order.Op{ID: id, Dur: 10, Dry: 100, Attended: true} }
	base := order.Instance{Copies: 1, Ops: []order.Op{op(1), op(2)}}
	circle := base
	circle.Arcs = []order.Arc{{From: 1, To: 2, Type: order.Dry}, {From: 2, To: 1, Type: order.Dry}}
	late := base
	late.Arcs = []order.Arc{{From: 1, To: 2, Type: order.Wet, Min: 500, Max: 100}}
	for _, in := range []order.Instance{circle, late} {
		_, err := order.Solve(context.Background(), &in, order.Budget{Iterations: 100})
		assert.ErrorIs(t, err, order.ErrNoOrder)
	}
}

func TestReadRefuses(t *testing.T) {
	for text, why := range map[string]string{
		`{`: "reading", `{"copies":1}`: "nothing to paint", `{"nonsense":1}`: "nonsense",
		`{"copies":0,"ops":[{"id":1}]}`:                                                   "0 copies",
		`{"copies":1,"ops":[{"id":1},{"id":1}]}`:                                          "twice",
		`{"copies":1,"ops":[{"id":1,"dur":-5}]}`:                                          "-5 s",
		`{"copies":1,"ops":[{"id":1,"dry":99999999}]}`:                                    "outside",
		`{"copies":1,"ops":[{"id":1}],"arcs":[{"from":1,"to":7,"type":"dry"}]}`:           "not two operations",
		`{"copies":1,"ops":[{"id":1},{"id":2}],"arcs":[{"from":1,"to":2,"type":"soon"}]}`: "soon",
		`{"copies":1,"ops":[{"id":1},{"id":2}],"joins":[{"a":1,"b":1,"max":3}]}`:          "not two operations",
		`{"copies":1,"ops":[{"id":1}],"heat":{"allowed":true,"factor":0}}`:                "factor",
		`{"copies":200,"ops":[` + strings.Repeat(`{"id":1},`, 200) + `{"id":2}]}`:         "more than",
	} {
		_, err := order.Read(strings.NewReader(text))
		assert.ErrorContains(t, err, why, text)
	}
}

func FuzzRead(f *testing.F) {
	f.Add(`{"copies":1,"ops":[{"id":1,"dur":5,"attended":true}]}`)
	f.Fuzz(func(t *testing.T, text string) {
		in, err := order.Read(strings.NewReader(text))
		if err != nil || len(in.Ops)*in.Copies > 50 {
			return
		}
		s, err := order.Solve(context.Background(), in, order.Budget{Iterations: 20})
		if err == nil && s.Makespan < 0 {
			t.Fatal("negative makespan")
		}
	})
}

func benchmarkFirst(b *testing.B, name string, iterations int) {
	in := load(b, name)
	var s *order.Schedule
	for b.Loop() {
		s, _ = order.Solve(context.Background(), in, order.Budget{Iterations: iterations, Seed: 1})
	}
	b.ReportMetric(float64(s.Makespan), "makespan-s")
}

func BenchmarkFirstAnswer30x2(b *testing.B)     { benchmarkFirst(b, "f30", 1) }
func BenchmarkThousandTries30x2(b *testing.B)   { benchmarkFirst(b, "f30", 1000) }
func BenchmarkFirstAnswer150x3x12(b *testing.B) { benchmarkFirst(b, "v150", 1) }
