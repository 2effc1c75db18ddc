package cutting_test

import (
	"context"
	"fmt"
	"math/rand/v2"
	"os"
	"path/filepath"
	"slices"
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/cutting"
)

const inch = int64(25_400_000)

func Example() {
	in := &cutting.Instance{
		Name:  "two cards",
		Stock: []cutting.Stock{{ID: "sheet", Type: "cardstock", W: 12 * inch, H: 12 * inch, Qty: -1, Grain: cutting.NoGrain, Cost: 1}},
		Parts: []cutting.Part{{ID: "base", Type: "cardstock", W: 17 * inch / 2, H: 11 * inch / 2, Qty: 2, Rotate: true, Grain: cutting.Any}},
	}
	plan, _ := cutting.Solve(context.Background(), in, cutting.Budget{Tries: 20})
	fmt.Printf("%d sheet, %d cuts, proven %v\n", len(plan.Sheets), len(plan.Cuts), plan.Proven)
	// Output:
	// 1 sheet, 3 cuts, proven true
}

func load(t testing.TB, name string) *cutting.Instance {
	f, err := os.Open(filepath.Join("testdata", name+".json"))
	require.NoError(t, err)
	defer f.Close()
	in, err := cutting.Read(f)
	require.NoError(t, err)
	return in
}

func solve(t require.TestingT, in *cutting.Instance, tries int) *cutting.Plan {
	p, err := cutting.Solve(context.Background(), in, cutting.Budget{Tries: tries, Seed: 1})
	require.NoError(t, err)
	return p
}

// The fewest sheets are known for these.
func TestKnownInstances(t *testing.T) {
	for name, sheets := range map[string]int{"r003": 7, "r012": 14, "r040": 12, "r077": 11} {
		in := load(t, name)
		p := solve(t, in, 200)
		require.NoError(t, verify(in, p), name)
		assert.Len(t, p.Sheets, sheets, name)
		assert.True(t, p.Proven, name)
		assert.InDelta(t, float64(sheets), p.Bound, 1e-9, name)
		assert.Less(t, fenceChanges(p.Cuts), greedyChanges(in, p), "%s: cuts as they come would set the fence no oftener", name)
	}
}

// instances draws small jobs: several kinds of stock and parts, grain, offcuts,
// a kerf.
func instances(t *rapid.T) *cutting.Instance {
	eighths := func(lo, hi int) int64 { return int64(rapid.IntRange(lo, hi).Draw(t, "eighths")) * inch / 8 }
	in := &cutting.Instance{Name: "drawn", Kerf: rapid.SampledFrom([]int64{0, 0, 500_000}).Draw(t, "kerf")}
	for i := range rapid.IntRange(1, 3).Draw(t, "stocks") {
		s := cutting.Stock{ID: fmt.Sprint("s", i), Type: "a", W: eighths(40, 100), H: eighths(40, 100), Qty: -1, Cost: 1,
			Grain: rapid.SampledFrom([]cutting.Grain{cutting.AlongX, cutting.AlongY, cutting.NoGrain}).Draw(t, "grain")}
		if i > 0 {
			s.Qty, s.Offcut, s.Cost = rapid.IntRange(0, 2).Draw(t, "qty"), true, 0
		}
		in.Stock = append(in.Stock, s)
	}
	for i := range rapid.IntRange(1, 5).Draw(t, "parts") {
		in.Parts = append(in.Parts, cutting.Part{ID: fmt.Sprint("p", i), Type: "a", W: eighths(4, 40), H: eighths(4, 40),
			Qty: rapid.IntRange(1, 9).Draw(t, "qty"), Rotate: rapid.Bool().Draw(t, "rotate"),
			Grain: rapid.SampledFrom([]cutting.Grain{cutting.AlongW, cutting.AlongH, cutting.Any}).Draw(t, "part grain")})
	}
	return in
}

func TestAnyPlanCanBeCut(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := instances(t)
		p := solve(t, in, 10)
		require.NoError(t, verify(in, p))
		require.LessOrEqual(t, p.Bound, p.Cost+1e-6, "a bound is one")
	})
}

// On jobs of a single sheet's worth the bound is checked against trying
// everything there is: no plan may beat it.
func TestTheBoundHolds(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		in := instances(t)
		in.Stock = in.Stock[:1]
		best := solve(t, in, 60)
		for seed := range uint64(3) {
			p, err := cutting.Solve(context.Background(), in, cutting.Budget{Tries: 20, Seed: seed + 2})
			require.NoError(t, err)
			require.GreaterOrEqual(t, p.Cost, best.Bound-1e-6)
			if best.Proven {
				require.GreaterOrEqual(t, p.Cost, best.Cost-1e-6)
			}
		}
	})
}

func TestTheSameSeedGivesTheSamePlan(t *testing.T) {
	in := load(t, "r012")
	assert.Equal(t, solve(t, in, 50), solve(t, in, 50))
}

func TestOffcutsComeFirst(t *testing.T) {
	in := &cutting.Instance{
		Stock: []cutting.Stock{
			{ID: "new", Type: "a", W: 12 * inch, H: 12 * inch, Qty: -1, Grain: cutting.NoGrain, Cost: 1},
			{ID: "big", Type: "a", W: 9 * inch, H: 9 * inch, Qty: 1, Offcut: true, Grain: cutting.NoGrain},
			{ID: "small", Type: "a", W: 5 * inch, H: 6 * inch, Qty: 1, Offcut: true, Grain: cutting.NoGrain},
		},
		Parts: []cutting.Part{{ID: "panel", Type: "a", W: 4 * inch, H: 5 * inch, Qty: 1, Grain: cutting.Any}},
	}
	p := solve(t, in, 50)
	require.Len(t, p.Sheets, 1)
	assert.Equal(t, "small", p.Sheets[0].Stock, "the big offcut is spared")
}

func TestGrainIsKept(t *testing.T) {
	in := &cutting.Instance{
		Stock: []cutting.Stock{{ID: "sheet", Type: "a", W: 10 * inch, H: 6 * inch, Qty: -1, Grain: cutting.AlongX, Cost: 1}},
		Parts: []cutting.Part{{ID: "base", Type: "a", W: 4 * inch, H: 9 * inch, Qty: 1, Rotate: true, Grain: cutting.AlongH}},
	}
	p := solve(t, in, 20)
	assert.Equal(t, cutting.Rect{X: 0, Y: 0, W: 9 * inch, H: 4 * inch}, p.Sheets[0].Placements[0].Rect)
	in.Parts[0].Grain = cutting.AlongW
	_, err := cutting.Solve(context.Background(), in, cutting.Budget{Tries: 20})
	assert.ErrorContains(t, err, `part "base" is larger`)
}

func TestInfeasible(t *testing.T) {
	sheet := cutting.Stock{ID: "sheet", Type: "a", W: 10 * inch, H: 6 * inch, Qty: 1, Grain: cutting.NoGrain, Cost: 1}
	part := cutting.Part{ID: "panel", Type: "a", W: 4 * inch, H: 5 * inch, Qty: 1, Grain: cutting.Any}
	for why, change := range map[string]func(*cutting.Instance){
		`"panel" is larger`:    func(in *cutting.Instance) { in.Parts[0].W = 20 * inch },
		`no paper of type "b"`: func(in *cutting.Instance) { in.Parts[0].Type = "b" },
		"67 % short of what":   func(in *cutting.Instance) { in.Parts[0].Qty = 5 },
		"not enough":           func(in *cutting.Instance) { in.Parts[0].W, in.Parts[0].Qty = 51*inch/10, 2 },
	} {
		in := &cutting.Instance{Stock: []cutting.Stock{sheet}, Parts: []cutting.Part{part}}
		change(in)
		_, err := cutting.Solve(context.Background(), in, cutting.Budget{Tries: 20})
		var no *cutting.Infeasible
		require.ErrorAs(t, err, &no, why)
		assert.ErrorContains(t, err, why)
	}
}

func TestReadRefuses(t *testing.T) {
	const stock = `"stock":[{"id":"s","type":"a","w":10,"h":10,"qty":-1,"grain":"none","cost":1}]`
	for text, why := range map[string]string{
		`{`:                            "reading",
		`{"sheets":[]}`:                "sheets",
		`{` + stock + `,"parts":[]}`:   "nothing to cut",
		`{"kerf":-1,` + stock + `}`:    "kerf",
		`{"stock":[{"id":"s","w":0}]}`: "sides",
		`{"stock":[{"id":"s","w":1,"h":1,"qty":-2,"grain":"none"}]}`:                                  "-2 sheets",
		`{"stock":[{"id":"s","w":1,"h":1,"qty":1,"grain":"q"}]}`:                                      "grain",
		`{"stock":[{"id":"s","w":1,"h":1,"qty":1,"grain":"x"},{"id":"s","w":1,"h":1,"grain":"x"}]}`:   "twice",
		`{` + stock + `,"parts":[{"id":"p","type":"a","w":1,"h":1,"qty":-1,"grain":"any"}]}`:          "-1 pieces",
		`{` + stock + `,"parts":[{"id":"p","type":"a","w":1,"h":1,"qty":1,"grain":"z"}]}`:             "grain",
		`{` + stock + `,"parts":[{"id":"p","type":"a","w":1,"h":1,"qty":30000,"grain":"any"}]}`:       "several goes",
		`{` + stock + `,"parts":[{"id":"p","type":"a","w":-5,"h":1,"qty":1,"grain":"any"}]}`:          "sides",
		`{` + stock + `,"parts":[{"id":"p","type":"a","w":1,"h":99000000000,"qty":1,"grain":"any"}]}`: "sides",
		`{"stock":[{"id":"s","type":"a","w":10,"h":10,"qty":1,"grain":"none","cost":-1}],"parts":[]}`: "cost",
	} {
		_, err := cutting.Read(strings.NewReader(text))
		assert.ErrorContains(t, err, why, text)
	}
}

func FuzzRead(f *testing.F) {
	f.Add(`{"stock":[{"id":"s","type":"a","w":10,"h":10,"qty":-1,"grain":"none","cost":1}],"parts":[{"id":"p","type":"a","w":3,"h":4,"qty":5,"grain":"any"}]}`)
	f.Fuzz(func(t *testing.T, text string) {
		in, err := cutting.Read(strings.NewReader(text))
		if err != nil || len(in.Parts) > 5 || len(in.Stock) > 5 {
			return
		}
		pieces := 0
		for _, p := range in.Parts {
			pieces += p.Qty
		}
		if pieces > 60 {
			return
		}
		if p, err := cutting.Solve(context.Background(), in, cutting.Budget{Tries: 2}); err == nil {
			require.NoError(t, verify(in, p))
		}
	})
}

func TestTenThousandCopies(t *testing.T) {
	in := load(t, "r003")
	for i := range in.Parts {
		in.Parts[i].Qty = 2500
	}
	ctx, cancel := context.WithTimeout(context.Background(), 2*time.Second)
	defer cancel()
	p, err := cutting.Solve(ctx, in, cutting.Budget{Seed: 1})
	require.NoError(t, err)
	require.NoError(t, verify(in, p))
	assert.LessOrEqual(t, p.Cost, p.Bound*1.02+1)
}

// random120 is a fixed set of 120 jobs as makers have them: 1 to 8 kinds of
// parts, 1 to 50 pieces, letter, 12 in or A4 sheets.
func random120() (out []*cutting.Instance) {
	rng := rand.New(rand.NewPCG(20, 26))
	sheets := [][2]int64{{12 * inch, 12 * inch}, {17 * inch / 2, 11 * inch}, {210_000_000, 297_000_000}, {9 * inch, 12 * inch}}
	for n := range 120 {
		s := sheets[rng.IntN(len(sheets))]
		in := &cutting.Instance{Name: fmt.Sprint(n), Stock: []cutting.Stock{{ID: "new", Type: "a", W: s[0], H: s[1], Qty: -1, Grain: cutting.NoGrain, Cost: 1}}}
		for i := range 1 + rng.IntN(8) {
			step := []int64{inch / 4, inch / 16, inch / 32}[rng.IntN(3)]
			side := func() int64 { return (inch + rng.Int64N(5*inch)) / step * step }
			in.Parts = append(in.Parts, cutting.Part{ID: fmt.Sprint("p", i), Type: "a", W: side(), H: side(), Qty: 1 + rng.IntN(50), Rotate: rng.IntN(4) > 0, Grain: cutting.Any})
		}
		out = append(out, in)
	}
	return out
}

func fenceChanges(cuts []cutting.Cut) (n int) {
	last := int64(-1)
	for _, c := range cuts {
		if c.Fence != last {
			n++
		}
		last = c.Fence
	}
	return n
}

// greedyChanges is how often the fence is set by somebody who makes the same
// cuts as they come, sheet by sheet, but first all that the fence as it stands
// serves.
func greedyChanges(in *cutting.Instance, p *cutting.Plan) int {
	size := map[string][2]int64{}
	for i, sh := range p.Sheets {
		for _, st := range in.Stock {
			if st.ID == sh.Stock {
				size[fmt.Sprint("S", i)] = [2]int64{st.W, st.H}
			}
		}
	}
	type open struct {
		cutting.Cut
		other int64 // the fence from the other side
	}
	byPiece := map[string]open{}
	for _, c := range p.Cuts {
		s := size[c.Piece]
		a, b := s, s
		k := 0
		if c.Axis == cutting.Y {
			k = 1
		}
		a[k], b[k] = c.At, s[k]-c.At-in.Kerf
		size[c.Out[0]], size[c.Out[1]] = a, b
		byPiece[c.Piece] = open{c, s[k] - c.At - in.Kerf}
	}
	var ready []open
	for i := range p.Sheets {
		if c, ok := byPiece[fmt.Sprint("S", i)]; ok {
			ready = append(ready, c)
		}
	}
	var made []cutting.Cut
	fence := int64(-1)
	for len(ready) > 0 {
		k := slices.IndexFunc(ready, func(c open) bool { return c.At == fence || c.other == fence })
		if k < 0 {
			k, fence = 0, ready[0].At
		}
		c := ready[k]
		ready = slices.Delete(ready, k, k+1)
		c.Cut.Fence = fence
		made = append(made, c.Cut)
		for _, piece := range c.Out {
			if next, ok := byPiece[piece]; ok {
				ready = slices.Insert(ready, 0, next)
			}
		}
	}
	return fenceChanges(made)
}

func BenchmarkRandom120(b *testing.B) {
	jobs := random120()
	for b.Loop() {
		proven, sheets, changes, greedy := 0, 0, 0, 0
		for _, in := range jobs {
			ctx, cancel := context.WithTimeout(context.Background(), 250*time.Millisecond)
			p, err := cutting.Solve(ctx, in, cutting.Budget{Seed: 1})
			cancel()
			require.NoError(b, err)
			if p.Proven {
				proven++
			}
			sheets += len(p.Sheets)
			changes += fenceChanges(p.Cuts)
			greedy += greedyChanges(in, p)
		}
		b.ReportMetric(float64(proven), "proven")
		b.ReportMetric(float64(sheets), "sheets")
		b.ReportMetric(float64(changes), "fence-changes")
		b.ReportMetric(float64(greedy), "greedy-changes")
		b.ReportMetric(b.Elapsed().Seconds()*1000/120, "ms/job")
	}
}

func BenchmarkEightKindsOfFifty(b *testing.B) {
	in := load(b, "r040")
	for i := range in.Parts {
		in.Parts[i].Qty = 50
	}
	for b.Loop() {
		ctx, cancel := context.WithTimeout(context.Background(), 250*time.Millisecond)
		p, err := cutting.Solve(ctx, in, cutting.Budget{Seed: 1})
		cancel()
		require.NoError(b, err)
		b.ReportMetric(p.Cost, "sheets")
		b.ReportMetric(p.Bound, "bound")
	}
}
