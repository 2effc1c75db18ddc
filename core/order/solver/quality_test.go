package solver_test

import (
	"context"
	"encoding/json"
	"fmt"
	"math/rand/v2"
	"os"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/order"
	"chromaqua/core/order/solver"
)

// generated makes a problem of a kind: a flower of so many areas with washes over
// each other, neighbours round about, drop-ins, joins and a line to wait for. The
// same seed makes the same problem.
func generated(kind string, seed uint64) *order.Instance {
	r := rand.New(rand.NewPCG(seed, 0xf10))
	areas, washes := 30, 2
	in := &order.Instance{Name: fmt.Sprintf("%s-%d", kind, seed), Copies: 1, Rack: 1, Rinse: 15, Swap: 5, Heat: order.Heat{Factor: 15, Min: 8}}
	switch kind {
	case "batch":
		areas, washes, in.Copies, in.Rack = 20, 2, 12, 3+r.IntN(4)
	case "wide":
		areas = 98
	case "heated":
		in.Heat.Allowed = true
	case "aimed":
		in.Heat.Allowed, in.Heat.Factor = true, 1
	}
	add := func(o order.Op) int {
		o.ID, o.Attended = len(in.Ops)+1, true
		in.Ops = append(in.Ops, o)
		return o.ID
	}
	arc := func(from, to int, of order.ArcType) {
		in.Arcs = append(in.Arcs, order.Arc{From: from, To: to, Type: of})
	}
	line := add(order.Op{Kind: "line", Dur: 90, Dry: 600, Bone: 600})
	masked := kind == "heated"
	mask := 0
	if masked {
		mask = add(order.Op{Kind: "mask", Dur: 240, Dry: 700, Bone: 900})
		arc(line, mask, order.Dry)
	}
	colours := 3 + r.IntN(5)
	last := make([]int, areas)
	for a := range areas {
		in.Regions = append(in.Regions, order.Region{ID: a, X: r.Float64(), Y: r.Float64()})
		for k := range washes {
			mm2 := 30 + 400*r.Float64()*r.Float64()
			o := order.Op{Kind: "wash", Regions: []int{a}, Color: 1 + r.IntN(colours), Dur: 12 + order.Seconds(mm2/6)}
			into := k > 0 && r.IntN(4) == 0
			o.Dry = 180 + order.Seconds(mm2*1.6) + order.Seconds(r.IntN(200))
			o.Bone = o.Dry * 14 / 10
			if kind == "aimed" && mm2 < 250 {
				o.HeatDry, o.HeatBone = 8+order.Seconds(mm2/30), 10+order.Seconds(mm2/22)
			}
			id := add(o)
			switch {
			case k == 0 && masked && a%5 == 0:
				arc(mask, id, order.Dry)
			case k == 0:
				arc(line, id, order.Dry)
			case into:
				in.Arcs = append(in.Arcs, order.Arc{From: last[a], To: id, Type: order.Wet, Max: 60 + order.Seconds(r.IntN(120))})
			default:
				arc(last[a], id, order.Dry)
			}
			last[a] = id
		}
	}
	for a := range areas {
		for _, b := range []int{(a + 1) % areas, (a + 5) % areas} {
			if r.IntN(3) > 0 {
				in.Adjacent = append(in.Adjacent, [2]int{a, b})
			}
		}
	}
	end := order.After
	if masked {
		unmask := add(order.Op{Kind: "unmask", Dur: 60})
		for a := 0; a < areas; a += 5 {
			arc(last[a], unmask, order.Bone)
		}
	}
	untape := add(order.Op{Kind: "untape", Dur: 60})
	for _, id := range last {
		arc(id, untape, order.Bone)
	}
	arc(untape, add(order.Op{Kind: "mount", Dur: 300}), end)
	return in
}

// kinds are those of the generator, with how far from a run of twenty seconds what a
// screen shows may be, in the mean over seeds, and the time in which BenchmarkQuality
// looks for an answer.
var kinds = []struct {
	name  string
	worse float64
	time  time.Duration
}{
	{"single", 0.055, 50 * time.Millisecond},
	{"heated", 0.05, 50 * time.Millisecond},
	{"aimed", 0.05, 50 * time.Millisecond},
	{"batch", 0.05, time.Second},
}

const generatedSeeds = 5

const referencesFile = "testdata/references.json"

func references(t testing.TB) map[string]order.Seconds {
	data, err := os.ReadFile(referencesFile)
	require.NoError(t, err, "make references")
	var out map[string]order.Seconds
	require.NoError(t, json.Unmarshal(data, &out))
	return out
}

// TestReferences searches every generated problem for twenty seconds and keeps the
// makespans where they are better than those that are known; `make references` asks
// for it.
func TestReferences(t *testing.T) {
	if os.Getenv("CHROMAQUA_REFERENCES") == "" {
		t.Skip("make references searches for long")
	}
	out := map[string]order.Seconds{}
	if _, err := os.Stat(referencesFile); err == nil {
		out = references(t)
	}
	for _, k := range kinds {
		for seed := range uint64(generatedSeeds) {
			in := generated(k.name, seed)
			ctx, cancel := context.WithTimeout(context.Background(), 20*time.Second)
			s, err := solver.Solve(ctx, in, solver.Budget{Seed: 99})
			cancel()
			require.NoError(t, err)
			require.NoError(t, check(in, s))
			if known := out[in.Name]; known == 0 || s.Makespan < known {
				out[in.Name] = s.Makespan
			}
		}
	}
	data, err := json.MarshalIndent(out, "", "  ")
	require.NoError(t, err)
	require.NoError(t, os.WriteFile(referencesFile, append(data, '\n'), 0o644))
}

// gap is how far orders are from their references, in the mean.
func gap(t testing.TB, kind string, known map[string]order.Seconds, solve func(*order.Instance, uint64) *order.Schedule) float64 {
	sum := 0.0
	for seed := range uint64(generatedSeeds) {
		in := generated(kind, seed)
		s := solve(in, seed+1)
		require.NoError(t, check(in, s), in.Name)
		require.Positive(t, known[in.Name], "make references")
		sum += float64(s.Makespan)/float64(known[in.Name]) - 1
	}
	return sum / generatedSeeds
}

// What a screen shows is near what a long search finds.
func TestQuality(t *testing.T) {
	known := references(t)
	for _, k := range kinds {
		got := gap(t, k.name, known, func(in *order.Instance, seed uint64) *order.Schedule {
			s, err := solver.Solve(context.Background(), in, solver.Budget{Iterations: solver.Tries(in), Seed: seed})
			require.NoError(t, err)
			return s
		})
		t.Logf("%s: %+.2f %%", k.name, 100*got)
		assert.Less(t, got, k.worse, k.name)
	}
}

// BenchmarkQuality reports how far from the references an answer in a given time is.
func BenchmarkQuality(b *testing.B) {
	known := references(b)
	for _, k := range kinds {
		b.Run(k.name, func(b *testing.B) {
			got, n := 0.0, 0
			for b.Loop() {
				n++
				got += gap(b, k.name, known, func(in *order.Instance, seed uint64) *order.Schedule {
					ctx, cancel := context.WithTimeout(context.Background(), k.time)
					defer cancel()
					s, err := solver.Solve(ctx, in, solver.Budget{Seed: seed})
					require.NoError(b, err)
					return s
				})
			}
			b.ReportMetric(100*got/float64(n), "%-over-reference")
		})
	}
}
