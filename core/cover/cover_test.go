package cover

import (
	"fmt"
	"math"
	"math/rand/v2"
	"slices"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"
)

// plain is a panel of so many mm with discs left out.
func plain(w, h float64, discs ...[3]float64) *Region {
	r := &Region{W: int(w / GridMM), H: int(h / GridMM)}
	r.In = make([]bool, r.W*r.H)
	for i := range r.In {
		r.In[i] = !slices.ContainsFunc(discs, func(d [3]float64) bool {
			return math.Hypot((float64(i%r.W)+0.5)*GridMM-d[0], (float64(i/r.W)+0.5)*GridMM-d[1]) < d[2]
		})
	}
	return r
}

// checked works out anew what a sweep says of itself.
func checked(t require.TestingT, r *Region, s Sweep) {
	last := float32(0)
	for i, in := range r.In {
		if in {
			require.Positive(t, s.At[i], "square %d is never laid", i)
		} else if r.Masked == nil || !r.Masked[i] {
			require.Negative(t, s.At[i], "square %d is not to be laid", i)
		}
		last = max(last, s.At[i])
	}
	require.InDelta(t, last, s.Total.Seconds(), 0.1)
	var waits []float64
	for i, at := range s.At {
		for _, j := range [2]int{i + 1, i + r.W} {
			if at >= 0 && j < len(s.At) && s.At[j] >= 0 && (j != i+1 || j%r.W != 0) {
				waits = append(waits, math.Abs(float64(at-s.At[j])))
			}
		}
	}
	slices.Sort(waits)
	want := 0.0
	if n := len(waits); n > 0 {
		want = waits[max(0, n-int(edgeMM/GridMM))]
	}
	require.InDelta(t, want, s.Wait.Seconds(), 0.01)
	for _, p := range s.Seam {
		require.GreaterOrEqual(t, math.Abs(float64(s.At[p[0]]-s.At[p[1]])), 0.94*want)
	}
}

func TestASweepIsWhatItSays(t *testing.T) {
	for k := range 6 {
		r := layout(rand.New(rand.NewPCG(3, uint64(k))), holes[5*k])
		for _, h := range hands {
			s := Find(r, h, time.Hour)
			checked(t, r, s)
			edge, mm2 := 0.0, 0.0
			for i, in := range r.In {
				if !in {
					continue
				}
				mm2 += GridMM * GridMM
				for _, j := range [4]int{i - 1, i + 1, i - r.W, i + r.W} {
					if j >= 0 && j < len(r.In) && (j/r.W == i/r.W || j%r.W == i%r.W) && !r.In[j] {
						edge += GridMM * alongUp
					}
				}
			}
			quickest := h.Pace * (edge/CutIn + (mm2-strip*2*edge)/(h.Fill.Belly*Stroke*Useful))
			slowest := h.Pace*(edge/Slowly+mm2/(h.CutIn.Belly*Stroke*Useful)) + 600
			assert.Greater(t, s.Total.Seconds(), quickest)
			assert.Less(t, s.Total.Seconds(), slowest)
			assert.Equal(t, h.Fill.Belly, s.Band, "where nothing is at stake it goes as wide as its brush")
		}
	}
}

// Any region has a sweep, be it in bits, a line or a dot.
func TestAnyRegion(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		r := &Region{W: rapid.IntRange(1, 40).Draw(t, "w"), H: rapid.IntRange(1, 40).Draw(t, "h")}
		share := rapid.Float64Range(0, 1).Draw(t, "share")
		some := rand.New(rand.NewPCG(rapid.Uint64().Draw(t, "seed"), 1))
		r.In = make([]bool, r.W*r.H)
		for i := range r.In {
			r.In[i] = some.Float64() < share
		}
		if rapid.Bool().Draw(t, "masked") {
			r.Masked = make([]bool, len(r.In))
			for i := range r.Masked {
				r.Masked[i] = some.IntN(2) == 0
			}
		}
		require.NoError(t, r.Check())
		s := Find(r, hands[rapid.IntRange(0, 2).Draw(t, "hand")], 0)
		if slices.Contains(r.In, true) {
			checked(t, r, s)
		}
		if c, ok := Divide(r); ok {
			for i, in := range r.In {
				require.Equal(t, in, c.Halves[0].In[i] != c.Halves[1].In[i], "each square in one half")
			}
		}
	})
}

func TestAPlainPanelWaitsForAFewBands(t *testing.T) {
	for _, h := range hands {
		r := plain(128, 96)
		s := Find(r, h, time.Hour)
		bands := 96 / h.Fill.Belly
		assert.LessOrEqual(t, s.Wait.Seconds(), 4*s.Total.Seconds()/bands)
		assert.Equal(t, 1, s.Parts)
		disc := Find(plain(128, 96, [3]float64{50, 44, 16}), h, 0)
		assert.LessOrEqual(t, disc.Wait.Seconds(), 0.2*disc.Total.Seconds(), "a hole does not close the wash")
	}
}

// The way that is found is hardly worse than the best of all ways at the finest squares.
func TestAgainstBruteForce(t *testing.T) {
	all := holes
	if testing.Short() {
		all = []int{2, 10}
	}
	worse := make([]float64, len(all))
	t.Run("each", func(t *testing.T) {
		for k, n := range all {
			t.Run(fmt.Sprint(n, " holes"), func(t *testing.T) {
				t.Parallel()
				r, h := layout(rand.New(rand.NewPCG(14, uint64(k))), n), hands[k%3]
				worse[k] = Find(r, h, time.Hour).Wait.Seconds() / bruteForce(r, h)
			})
		}
	})
	over := 0
	for _, w := range worse {
		if w > 1.10 {
			over++
		}
	}
	slices.Sort(worse)
	t.Logf("worse than brute force by a factor of %.2f at worst, %.2f in the middle; %d of %d by more than a tenth", worse[len(worse)-1], worse[len(worse)/2], over, len(worse))
	assert.LessOrEqual(t, over, len(all)/15)
}

// filled is a region with its hole nearest the middle gone: laid, or masked.
func filled(r *Region, mask bool) *Region {
	out := &Region{W: r.W, H: r.H, In: slices.Clone(r.In)}
	best, at := math.Inf(1), -1
	for i, in := range r.In {
		if d := math.Hypot(float64(i%r.W-r.W/2), float64(i/r.W-r.H/2)); !in && d < best {
			best, at = d, i
		}
	}
	if at < 0 {
		return out
	}
	hole := make([]bool, len(r.In))
	for i, in := range r.In {
		hole[i] = !in
	}
	gone := partAt(hole, r.W, at)
	if mask {
		out.Masked = gone
		return out
	}
	for i, g := range gone {
		out.In[i] = out.In[i] || g
	}
	return out
}

// partAt is the connected part of what is marked round a square.
func partAt(in []bool, w, at int) []bool {
	out := make([]bool, len(in))
	out[at] = true
	for todo := []int{at}; len(todo) > 0; {
		i := todo[len(todo)-1]
		todo = todo[:len(todo)-1]
		for _, d := range [4]int{-1, 1, -w, w} {
			if j := i + d; j >= 0 && j < len(in) && (d != -1 || i%w > 0) && (d != 1 || j%w > 0) && in[j] && !out[j] {
				out[j] = true
				todo = append(todo, j)
			}
		}
	}
	return out
}

// A wider brush or a mask never makes places wait longer; a hole less hardly does.
func TestWhatHelpsDoesNotHarm(t *testing.T) {
	all := holes
	if testing.Short() {
		all = []int{1, 8}
	}
	longer, looked := 0, 0
	for k, n := range all {
		if k%2 > 0 && !testing.Short() { // each takes two seconds
			continue
		}
		looked++
		r := layout(rand.New(rand.NewPCG(15, uint64(k))), n)
		was := Find(r, hands[0], 0).Wait
		assert.LessOrEqual(t, Find(r, hands[2], 0).Wait.Seconds(), 1.03*was.Seconds(), "%d holes, a wider brush", n)
		assert.LessOrEqual(t, Find(filled(r, true), hands[0], 0).Wait.Seconds(), 1.03*was.Seconds(), "%d holes, one of them masked", n)
		fewer := Find(filled(r, false), hands[0], 0).Wait.Seconds()
		assert.LessOrEqual(t, fewer, 1.2*was.Seconds(), "%d holes, one of them gone", n)
		if fewer > 1.03*was.Seconds() {
			longer++
		}
	}
	t.Logf("a hole less makes places wait over 3 %% longer in %d of %d", longer, looked)
	assert.LessOrEqual(t, longer, 1+looked/8)
}

func TestMirrored(t *testing.T) {
	for k := range 4 {
		r := layout(rand.New(rand.NewPCG(16, uint64(k))), 3+4*k)
		h := hands[k%3]
		was := Find(r, h, time.Hour)
		assert.Equal(t, was, Find(r, h, time.Hour), "the same again")
		for _, m := range []mirrored{{across: true}, {down: true}, {across: true, down: true}} {
			s := Find(r.flipped(m), h, time.Hour)
			assert.Equal(t, was.Wait, s.Wait)
			for i, at := range was.At {
				require.Equal(t, at, s.At[r.turned(i, m)])
			}
			assert.Equal(t, r.turned(was.Start, m), s.Start)
			if was.Plain {
				want := was.Angle * math.Pi / 180
				x, y := math.Cos(want), math.Sin(want)
				if m.across {
					x = -x
				}
				if m.down {
					y = -y
				}
				assert.InDelta(t, 0, math.Hypot(math.Cos(s.Angle*math.Pi/180)-x, math.Sin(s.Angle*math.Pi/180)-y), 1e-9)
			}
		}
	}
}

// A cut goes under what is left out, and takes a good part of the wait away.
func TestDividing(t *testing.T) {
	c, ok := Divide(plain(120, 40, [3]float64{60, 8, 7}, [3]float64{60, 30, 8}))
	require.True(t, ok)
	assert.Less(t, c.WashMM, 15.0)
	for _, i := range c.Path {
		assert.InDelta(t, 60, float64(i%240)*GridMM, 25)
	}
	var share []float64
	for k, n := range []int{5, 8, 12, 18, 25, 30} {
		r, h := layout(rand.New(rand.NewPCG(17, uint64(k))), n), hands[k%3]
		c, ok := Divide(r)
		require.True(t, ok)
		whole := Find(r, h, time.Hour).Wait.Seconds()
		share = append(share, max(Find(&c.Halves[0], h, time.Hour).Wait.Seconds(), Find(&c.Halves[1], h, time.Hour).Wait.Seconds())/whole)
		assert.Less(t, c.WashMM, 96.0)
	}
	slices.Sort(share)
	t.Logf("a cut leaves %.2f of the wait", share)
	assert.Less(t, share[len(share)/2], 0.85)
	_, ok = Divide(&Region{W: 1, H: 1, In: []bool{true}})
	assert.False(t, ok)
}

// The quick sum ranks masks; it is near the sweep where there are holes enough.
func TestQuick(t *testing.T) {
	var off []float64
	for k, n := range []int{5, 8, 12, 15, 20, 25, 30, 40} {
		r, h := layout(rand.New(rand.NewPCG(18, uint64(k))), n), hands[2]
		edges := 0.0
		for i, in := range r.In {
			if in && i%r.W < r.W-1 && !r.In[i+1] || in && i+r.W < len(r.In) && !r.In[i+r.W] {
				edges += GridMM * alongUp
			}
			if !in && (i%r.W < r.W-1 && r.In[i+1] || i+r.W < len(r.In) && r.In[i+r.W]) {
				edges += GridMM * alongUp
			}
		}
		off = append(off, Quick(96, 128, edges, h).Seconds()/Find(r, h, time.Hour).Wait.Seconds())
	}
	t.Logf("quick sums are %.2f of what is found", off)
	for _, o := range off {
		assert.InDelta(t, 1, o, 0.4)
	}
}

func TestChances(t *testing.T) {
	for rho, want := range map[float64]float64{0: 0, 0.45: 0.055, 0.6: 0.153, 0.8: 0.328, 1: 0.5, 2: 0.917} {
		assert.InDelta(t, want, Likely(rho), 0.002, rho)
	}
	assert.Equal(t, 0.575, WaitOf(time.Minute, 2*time.Minute))
	assert.True(t, math.IsInf(WaitOf(time.Second, 0), 1))
}

func TestBadRegions(t *testing.T) {
	for _, r := range []Region{{}, {W: 2, H: 2, In: make([]bool, 3)}, {W: 1, H: 1, In: []bool{true}, Masked: []bool{}}, {W: MaxSquares + 1, H: 1, In: make([]bool, MaxSquares+1)}} {
		assert.Error(t, r.Check())
	}
}

func BenchmarkFind(b *testing.B) {
	for _, n := range []int{0, 10, 40} {
		r := layout(rand.New(rand.NewPCG(14, 1)), n)
		b.Run(fmt.Sprintf("%d holes", n), func(b *testing.B) {
			for b.Loop() {
				Find(r, hands[2], time.Hour)
			}
		})
	}
}

func BenchmarkDivide(b *testing.B) {
	r := layout(rand.New(rand.NewPCG(14, 1)), 20)
	for b.Loop() {
		Divide(r)
	}
}
