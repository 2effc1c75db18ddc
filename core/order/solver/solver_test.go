package solver_test

import (
	"context"
	"encoding/json"
	"fmt"
	"os"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/order"
	"chromaqua/core/order/solver"
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
	s, _ := solver.Solve(context.Background(), in, solver.Budget{Iterations: 2000, Seed: 1})
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
	s, err := solver.Solve(context.Background(), in, solver.Budget{Iterations: iterations, Seed: 1})
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
	r, err := solver.InReadingOrder(in)
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
		r, err := solver.InReadingOrder(in)
		require.NoError(t, err)
		require.NoError(t, check(in, r))
		assert.Greater(t, r.Makespan, solve(t, in, 2000).Makespan, name)
	}
}

func TestStopsWithItsContext(t *testing.T) {
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	in := load(t, "f30")
	s, err := solver.Solve(ctx, in, solver.Budget{Iterations: 1 << 40})
	require.NoError(t, err, "a first answer is owed even without time")
	require.NoError(t, check(in, s))
}

// seconds draws a time.
func seconds(t *rapid.T, what string, from, to int) order.Seconds {
	return order.Seconds(rapid.IntRange(from, to).Draw(t, what))
}

// instances draws small problems of every kind: windows with one end and two, joins,
// masks, heat on the card and aimed, walls, copies and different cards on a small
// rack, unattended work.
func instances(t *rapid.T) *order.Instance {
	n := rapid.IntRange(1, 16).Draw(t, "ops")
	jobs := rapid.SampledFrom([]int{1, 1, 2}).Draw(t, "jobs")
	in := &order.Instance{
		Name: "drawn", Copies: rapid.IntRange(1, 5).Draw(t, "copies"), Rack: rapid.IntRange(0, 3).Draw(t, "rack"),
		Rinse: 15, Swap: seconds(t, "swap", 0, 5), Hand: rapid.SampledFrom([]order.Hand{order.NoHand, order.Right, order.Left}).Draw(t, "hand"),
		Heat: order.Heat{Allowed: rapid.Bool().Draw(t, "heat"), Factor: 15, Min: 8},
	}
	aimed := rapid.Bool().Draw(t, "aimed")
	if aimed && rapid.Bool().Draw(t, "own times only") {
		in.Heat.Factor = 1
	}
	for i := range n {
		in.Regions = append(in.Regions, order.Region{ID: i, X: float64(i%3) / 3, Y: float64(i) / 9})
		dry := seconds(t, "dry", 0, 900)
		o := order.Op{
			ID: 10 + i, Job: i % jobs, Kind: "wash", Regions: []int{i}, Color: rapid.IntRange(0, 3).Draw(t, "colour"),
			Dur: seconds(t, "dur", 5, 90), Dry: dry, Bone: dry * 3 / 2, Attended: rapid.IntRange(0, 9).Draw(t, "attended") > 0,
			Light: rapid.IntRange(0, 100).Draw(t, "light"), Ground: i == 2,
		}
		if aimed && rapid.Bool().Draw(t, "own time") {
			o.HeatDry, o.HeatBone = seconds(t, "heat dry", 8, 60), seconds(t, "heat bone", 60, 90)
		}
		in.Ops = append(in.Ops, o)
		from := i - jobs*rapid.IntRange(1, 4).Draw(t, "back")
		if from < 0 {
			continue
		}
		a, b := 10+from, 10+i
		switch rapid.IntRange(0, 6).Draw(t, "tie") {
		case 0:
			in.Arcs = append(in.Arcs, order.Arc{From: a, To: b, Type: order.Dry})
		case 1:
			in.Arcs = append(in.Arcs, order.Arc{From: a, To: b, Type: order.Bone, Min: 5})
		case 2:
			in.Arcs = append(in.Arcs, order.Arc{From: a, To: b, Type: order.Wet, Min: seconds(t, "min", 0, 40), Clock: seconds(t, "clock", 0, 60), Max: 140})
		case 3:
			in.Adjacent = append(in.Adjacent, [2]int{from, i})
		case 4:
			in.Joins = append(in.Joins, order.Join{A: a, B: b, Max: 120, Back: seconds(t, "back max", 0, 90)})
		case 5:
			in.Raised = append(in.Raised, [2]int{from, i})
		}
	}
	if n > 4 && jobs == 1 && rapid.Bool().Draw(t, "mask") {
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
		drawn, _ := json.Marshal(in)
		s, err := solver.Solve(context.Background(), in, solver.Budget{Iterations: 200, Seed: 3})
		misfits, fit := solver.Misfits(in)
		if err != nil {
			require.ErrorIs(t, err, order.ErrNoOrder)
			require.True(t, fit != nil || len(misfits) > 0, "what fits has an order: %v: %s", err, drawn)
			return
		}
		solved++
		require.NoError(t, check(in, s))
		require.LessOrEqual(t, s.Bound, s.Makespan, "%s", drawn)
	})
	if testing.Short() { // rapid draws a fifth then
		solved *= 5
	}
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
		_, err := solver.Solve(context.Background(), &in, solver.Budget{Iterations: 100})
		assert.ErrorIs(t, err, order.ErrNoOrder)
	}
}

func FuzzRead(f *testing.F) {
	f.Add(`{"copies":1,"ops":[{"id":1,"dur":5,"attended":true}]}`)
	f.Fuzz(func(t *testing.T, text string) {
		in, err := order.Read(strings.NewReader(text))
		if err != nil || len(in.Ops)*in.Copies > 50 {
			return
		}
		s, err := solver.Solve(context.Background(), in, solver.Budget{Iterations: 20})
		if err == nil && s.Makespan < 0 {
			t.Fatal("negative makespan")
		}
	})
}

func benchmarkFirst(b *testing.B, name string, iterations int) {
	in := load(b, name)
	var s *order.Schedule
	for b.Loop() {
		s, _ = solver.Solve(context.Background(), in, solver.Budget{Iterations: iterations, Seed: 1})
	}
	b.ReportMetric(float64(s.Makespan), "makespan-s")
}

// DryAt agrees with the schedule where there is heat.
func TestDryAtAgreesWithTheSchedule(t *testing.T) {
	in := load(t, "f30h")
	s := solve(t, in, 200)
	require.NotEmpty(t, s.Heat)
	ends := map[int]order.Placed{}
	for _, p := range s.Ops {
		ends[p.Op] = p
	}
	for _, a := range in.Arcs {
		if a.Type == order.Dry {
			from := ends[a.From]
			assert.LessOrEqual(t, s.DryAt(in, from, order.TouchDry), ends[a.To].Start, "%+v", a)
		}
	}
}

// Two that have to meet while wet fit to the second; a second less and they are named.
func TestMisfits(t *testing.T) {
	in := func(most order.Seconds) *order.Instance {
		return &order.Instance{Copies: 1, Rinse: 15, Ops: []order.Op{{ID: 7, Color: 1, Dur: 30, Dry: 300, Attended: true}, {ID: 8, Color: 2, Dur: 30, Dry: 300, Attended: true}},
			Arcs: []order.Arc{{From: 7, To: 8, Type: order.Wet, Max: most}}}
	}
	found, err := solver.Misfits(in(15))
	require.NoError(t, err)
	assert.Empty(t, found)
	found, err = solver.Misfits(in(14))
	require.NoError(t, err)
	require.Len(t, found, 1)
	assert.Equal(t, [2]int{7, 8}, [2]int{found[0].A, found[0].B})
	_, err = solver.Solve(context.Background(), in(14), solver.Budget{Iterations: 5})
	var conflict *order.Conflict
	require.ErrorAs(t, err, &conflict)
	assert.Equal(t, [2]int{7, 8}, [2]int{conflict.A, conflict.B})
	assert.ErrorContains(t, err, "operations 7 and 8")
}

// Bounds to the second: touching places one after the other, and drying at the speed of
// the heat tool, aired or heated again from touch-dry to bone dry.
func TestBounds(t *testing.T) {
	touching := &order.Instance{Copies: 1, Adjacent: [][2]int{{1, 2}}, Ops: []order.Op{
		{ID: 1, Regions: []int{1}, Dur: 10, Dry: 100, Attended: true}, {ID: 2, Regions: []int{2}, Dur: 20, Dry: 50, Attended: true},
	}}
	s := solve(t, touching, 100)
	assert.Equal(t, [2]order.Seconds{80, 80}, [2]order.Seconds{s.Bound, s.Makespan}, "the quicker one first")
	touching.Adjacent, touching.Raised = nil, [][2]int{{1, 2}}
	s = solve(t, touching, 100)
	assert.Equal(t, [2]order.Seconds{30, 30}, [2]order.Seconds{s.Bound, s.Makespan}, "a wall between them")
	heated := &order.Instance{Copies: 1, Heat: order.Heat{Allowed: true, Factor: 1, Min: 8}, Ops: []order.Op{
		{ID: 1, Dur: 5, Dry: 43, Bone: 64, HeatDry: 8, HeatBone: 60, Attended: true}, {ID: 2, Dur: 5, Attended: true},
	}, Arcs: []order.Arc{{From: 1, To: 2, Type: order.Bone}}}
	assert.EqualValues(t, 5+8+20+5, solve(t, heated, 100).Bound)
	heated.Arcs[0].Type = order.Dry
	s = solve(t, heated, 100)
	assert.Equal(t, [2]order.Seconds{18, 18}, [2]order.Seconds{s.Bound, s.Makespan})
	assert.Equal(t, []order.Pass{{Start: 5, End: 13, Op: 1, For: order.TouchDry}}, s.Heat)
}

func BenchmarkFirstAnswer30x2(b *testing.B)     { benchmarkFirst(b, "f30", 1) }
func BenchmarkThousandTries30x2(b *testing.B)   { benchmarkFirst(b, "f30", 1000) }
func BenchmarkFirstAnswer150x3x12(b *testing.B) { benchmarkFirst(b, "v150", 1) }
