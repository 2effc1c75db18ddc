package proof_test

import (
	"math"
	"math/rand/v2"
	"strings"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/lineart"
	"chromaqua/core/proof"
	"chromaqua/internal/standin"
)

// without leaves pieces of strokes out, each from 1 to 5 mm long, and returns
// what is left with the middles of the breaks.
func without(art [][]stroke, breaks int, seed uint64) (left [][]stroke, at []proof.Point) {
	rng := rand.New(rand.NewPCG(seed, 3))
	gone := map[[2]int]bool{}
	for range 200 {
		if len(at) == breaks {
			break
		}
		k := rng.IntN(len(art))
		n := 1 + rng.IntN(5)
		if len(art[k]) < n+4 {
			continue
		}
		from := 2 + rng.IntN(len(art[k])-n-3)
		clear := true
		for i := from - 2; i < from+n+2; i++ {
			clear = clear && !gone[[2]int{k, i}]
		}
		mid := art[k][from+n/2]
		p := proof.Point{X: (mid.x0 + mid.x1) / 2, Y: (mid.y0 + mid.y1) / 2}
		for j, other := range art { // not where another stroke crosses
			for i, s := range other {
				if (j != k || i < from-2 || i > from+n+1) && math.Hypot(s.x0-p.X, s.y0-p.Y) < float64(n)/2+1.5 {
					clear = false
				}
			}
		}
		if !clear {
			continue
		}
		for i := from; i < from+n; i++ {
			gone[[2]int{k, i}] = true
		}
		at = append(at, p)
	}
	for k, list := range art {
		var kept []stroke
		for i, s := range list {
			if gone[[2]int{k, i}] {
				continue
			}
			const r = 0.3 // the pen's round ends would fill as much
			if gone[[2]int{k, i + 1}] {
				s.x1, s.y1 = s.x1-r*(s.x1-s.x0), s.y1-r*(s.y1-s.y0)
			}
			if gone[[2]int{k, i - 1}] {
				s.x0, s.y0 = s.x0+r*(s.x1-s.x0), s.y0+r*(s.y1-s.y0)
			}
			kept = append(kept, s)
		}
		left = append(left, kept)
	}
	return left, at
}

// Missing strokes of a millimetre and more are found on practice scans, and
// little else is: recall at least 95 %, precision at least 90 %.
func TestMissingStrokesAreFound(t *testing.T) {
	found, breaks, reported, right := 0, 0, 0, 0
	for seed := range some(12) {
		art := drawing(seed, 12)
		left, at := without(art, 8, seed)
		ref := inkOf(t, page(art...))
		p, err := proof.Check(ref, inkOf(t, standin.Usual(seed).Scan(page(left...), pxPerMM)))
		require.NoError(t, err)
		breaks += len(at)
		for _, b := range at {
			for _, f := range p.Missing {
				if math.Hypot(f.At.X-b.X, f.At.Y-b.Y) <= f.Radius+1 {
					found++
					break
				}
			}
		}
		reported += len(p.Missing)
		for _, f := range p.Missing {
			for _, b := range at {
				if math.Hypot(f.At.X-b.X, f.At.Y-b.Y) <= f.Radius+1 {
					right++
					break
				}
			}
		}
		assert.Empty(t, p.Doubles, "seed %d", seed)
	}
	t.Logf("%d of %d breaks found, %d of %d reports right", found, breaks, right, reported)
	assert.GreaterOrEqual(t, float64(found)/float64(breaks), 0.95)
	assert.GreaterOrEqual(t, float64(right)/float64(reported), 0.90)
}

func check(t testing.TB, ref, scan [][]stroke) *proof.Impression {
	sc := standin.Usual(4)
	sc.Texture = 0
	p, err := proof.Check(inkOf(t, page(ref...)), inkOf(t, sc.Scan(page(scan...), pxPerMM)))
	require.NoError(t, err)
	return p
}

func TestAGoodImpressionIsLeftAlone(t *testing.T) {
	p := check(t, drawing(5, 14), drawing(5, 14))
	assert.False(t, p.Again)
	assert.Greater(t, p.Present, 0.99)
	assert.Empty(t, p.Missing)
	assert.Empty(t, p.Advice)
}

// What is weak on one side is pressed there; doubles and smudges are told apart.
func TestAdvice(t *testing.T) {
	art := drawing(5, 14)
	var left [][]stroke
	for _, list := range art {
		var kept []stroke
		for _, s := range list {
			if s.x0 < 52 {
				kept = append(kept, s)
			}
		}
		left = append(left, kept)
	}
	p := check(t, art, left)
	assert.True(t, p.Again)
	assert.Contains(t, p.Where, "right")
	assert.Contains(t, strings.Join(p.Advice, " "), "press on the")

	double := append([][]stroke{}, art...)
	var second []stroke
	for _, s := range art[0] {
		second = append(second, stroke{s.x0 + 1.1, s.y0 + 1.1, s.x1 + 1.1, s.y1 + 1.1})
	}
	p = check(t, art, append(double, second))
	assert.NotEmpty(t, p.Doubles)

	var blot []stroke
	for i := range 12 {
		blot = append(blot, stroke{60, 70 + float64(i)/4, 66, 70 + float64(i)/4})
	}
	p = check(t, art, append(double, blot))
	assert.NotEmpty(t, p.Smudges)
}

func TestAnotherImageIsRefused(t *testing.T) {
	_, err := proof.Check(inkOf(t, page(drawing(5, 14)...)), inkOf(t, page(drawing(77, 14)...)))
	assert.ErrorIs(t, err, proof.ErrOtherImage)
	_, err = proof.Check(&lineart.Ink{W: 50, H: 50, MM: 0.1, On: make([]bool, 2500)}, inkOf(t, page(drawing(77, 14)...)))
	assert.ErrorIs(t, err, proof.ErrNoLine)
}
