package lineart

import (
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/require"
)

// speckled is a bitmap of random pixels, in clumps so that some words are empty.
func speckled(rng *rand.Rand, w, h int, share float64) bitmap {
	b := newBitmap(w, h)
	for y := range h {
		for x := range w {
			if (x/70+y/9)%2 == 0 && rng.Float64() < share {
				b.flip(y, x, x+1)
			}
		}
	}
	return b
}

func TestBitmapsHoldWhatIsPutIn(t *testing.T) {
	rng := rand.New(rand.NewPCG(5, 6))
	for n := range 40 {
		w, h := 1+rng.IntN(200), 1+rng.IntN(40)
		b := speckled(rng, w, h, []float64{0, 0.1, 0.6, 1}[n%4])
		again := newBitmap(w, h)
		for _, r := range b.runs() {
			require.Less(t, r.x0, r.x1)
			again.flip(int(r.y), int(r.x0), int(r.x1))
		}
		require.Equal(t, b, again, "its runs make a bitmap again")
		require.Equal(t, b, b.not().not())
		on, off := b.bools(), b.not().bools()
		for i := range on {
			require.Equal(t, b.at(i%w, i/w), on[i])
			require.NotEqual(t, on[i], off[i])
		}
	}
}

// Rings and the nearest pixel agree with the distance transform.
func TestRingsAgainstDistances(t *testing.T) {
	rng := rand.New(rand.NewPCG(7, 8))
	for n := range 40 {
		w, h := 1+rng.IntN(300), 1+rng.IntN(120)
		b := speckled(rng, w, h, []float64{0, 0.003, 0.05, 0.97}[n%4])
		limit := int32(1 + rng.IntN(150))
		rings := ringsWithin(limit)
		want := distanceTo(w, h, b.bools())
		from := rng.IntN(h) // a band begins anywhere
		scan := b.scan(rings, from)
		for y := from; y < h; y++ {
			scan.row(y)
			got := make([]int32, w)
			for _, hit := range scan.hits {
				for x := range 64 {
					if hit.pixels>>x&1 != 0 {
						got[int(hit.word)*64+x] = rings[hit.ring].dist2
					}
				}
			}
			for x, d := range want[y*w : (y+1)*w] {
				near := scan.near[x/64]>>(x%64)&1 != 0
				require.Equal(t, d <= limit, near, "(%d, %d) of %d × %d", x, y, w, h)
				if near {
					require.Equal(t, d, got[x])
				}
				if rng.IntN(20) == 0 {
					at, dist2 := b.nearest(x, y, 0, 10_000)
					require.Equal(t, min(10_000, int(d)), dist2)
					require.True(t, dist2 == 10_000 || b.at(int(at.x), int(at.y)))
				}
			}
		}
	}
}

// What is done eight pixels at a time is what one at a time gives.
func TestEightAtATime(t *testing.T) {
	rng := rand.New(rand.NewPCG(9, 10))
	for n := range 200 {
		rows := [3][]uint8{}
		for i := range rows {
			rows[i] = make([]uint8, n)
			for x := range rows[i] {
				rows[i][x] = uint8(rng.IntN(256))
			}
		}
		a, b, c := rows[0], rows[1], rows[2]
		limit := uint8(rng.IntN(256))
		marks, smooth := make([]uint64, n/64+1), make([]uint8, n)
		below(marks, a, limit)
		binomial(smooth, a, b, c)
		gain, lit := uint64(rng.IntN(300)), make([]uint8, n)
		for i := 0; i < n; i += 8 {
			scale(lit[i:min(n, i+8)], a[i:], gain)
		}
		for x := range n {
			require.InDelta(t, min(255, float64(a[x])*float64(gain)/128), float64(lit[x]), 0.5)
			require.Equal(t, a[x] < limit, marks[x/64]>>(x%64)&1 != 0)
			require.InDelta(t, (float64(a[x])+2*float64(b[x])+float64(c[x]))/4, float64(smooth[x]), 0.5)
		}
	}
}

// The largest circle in a cell is found by climbing, which seldom misses the very
// top: then by about a pixel.
func TestPeaksAgainstDistances(t *testing.T) {
	rng := rand.New(rand.NewPCG(11, 12))
	exact, all := 0, 0
	for n := range 15 {
		const w, h = 500, 400
		dpi := []float64{300, 300, 449, 150, 90}[n%5]
		f := &flooding{working: &working{w: w, h: h, mm: 25.4 / dpi, ink: newBitmap(w, h)}}
		for range 40 {
			x, y, angle := rng.Float64()*w, rng.Float64()*h, rng.Float64()*2*math.Pi
			for range 150 {
				x, y, angle = x+math.Cos(angle), y+math.Sin(angle), angle+0.03*rng.NormFloat64()
				if px, py := int(x), int(y); px >= 0 && py >= 0 && px < w && py < h && !f.ink.at(px, py) {
					f.ink.flip(py, px, px+1)
				}
			}
		}
		f.prepare()
		beyond := f.measureShores()
		f.seed(beyond)
		want := make([]int32, len(f.basins))
		for i, d := range distanceTo(w, h, f.ink.bools()) {
			if beyond.at(i%w, i/w) {
				b := f.basin[f.pixel(i%w, i/w)]
				want[b] = max(want[b], d)
			}
		}
		for i, b := range f.basins[1:] {
			off := math.Sqrt(float64(want[i+1])) - math.Sqrt(float64(b.peak2))
			require.GreaterOrEqual(t, off, 0.0)
			if dpi >= 300 {
				require.Less(t, off, 1.5)
			} else {
				require.Less(t, off, 2.5, "where 0.6 mm are a few pixels, less than a block")
			}
			if all++; off == 0 {
				exact++
			}
		}
	}
	require.Greater(t, exact, all*9/10, "of %d", all)
}
