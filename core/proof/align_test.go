package proof_test

import (
	"context"
	"image"
	"image/color"
	"math"
	"math/rand/v2"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"golang.org/x/image/draw"

	"chromaqua/core/lineart"
	"chromaqua/core/proof"
	"chromaqua/internal/standin"
)

const (
	dpi     = 300
	pxPerMM = dpi / 25.4
)

// stroke is one line of a drawing, mm.
type stroke struct{ x0, y0, x1, y1 float64 }

// drawing makes a page of random curved strokes, as short straight pieces.
func drawing(seed uint64, n int) (out [][]stroke) {
	rng := rand.New(rand.NewPCG(seed, 9))
	for range n {
		x, y := 8+rng.Float64()*64, 8+rng.Float64()*64
		a, bend := rng.Float64()*2*math.Pi, (rng.Float64()-0.5)*0.25
		var s []stroke
		for range 10 + rng.IntN(30) {
			a += bend
			nx, ny := x+math.Cos(a), y+math.Sin(a)
			if nx < 5 || nx > 75 || ny < 5 || ny > 75 {
				break
			}
			s = append(s, stroke{x, y, nx, ny})
			x, y = nx, ny
		}
		out = append(out, s)
	}
	return out
}

// page draws strokes 0.6 mm thick on 80 × 80 mm.
func page(strokes ...[]stroke) *image.Gray {
	m := image.NewGray(image.Rect(0, 0, 945, 945))
	draw.Draw(m, m.Rect, image.NewUniform(color.Gray{Y: 246}), image.Point{}, draw.Src)
	for _, list := range strokes {
		for _, s := range list {
			pen(m, s, 0.3, 40)
		}
	}
	return m
}

func pen(m *image.Gray, s stroke, r float64, grey uint8) {
	r *= pxPerMM
	x0, y0, x1, y1 := s.x0*pxPerMM, s.y0*pxPerMM, s.x1*pxPerMM, s.y1*pxPerMM
	steps := int(math.Hypot(x1-x0, y1-y0)*2) + 1
	for i := range steps + 1 {
		t := float64(i) / float64(steps)
		cx, cy := x0+t*(x1-x0), y0+t*(y1-y0)
		for y := int(cy - r); y <= int(cy+r)+1; y++ {
			for x := int(cx - r); x <= int(cx+r)+1; x++ {
				if math.Hypot(float64(x)-cx, float64(y)-cy) <= r && image.Pt(x, y).In(m.Rect) {
					m.SetGray(x, y, color.Gray{Y: grey})
				}
			}
		}
	}
}

func inkOf(t testing.TB, m image.Image) *lineart.Ink {
	ink, err := lineart.FindInk(context.Background(), standin.Grey(m), dpi)
	require.NoError(t, err)
	return ink
}

// some is n, or few in short runs: with the race detector a scan takes seconds.
func some(n uint64) uint64 {
	if testing.Short() {
		return min(n, 2)
	}
	return n
}

func TestSimilarity(t *testing.T) {
	s := proof.Similarity{A: 0.9 * math.Cos(0.3), B: 0.9 * math.Sin(0.3), X: 4, Y: -7}
	assert.InDelta(t, 0.9, s.Scale(), 1e-12)
	assert.InDelta(t, 0.3*180/math.Pi, s.Degrees(), 1e-9)
	p := s.Inverse().Apply(s.Apply(proof.Point{X: 3, Y: 5}))
	assert.InDelta(t, 3, p.X, 1e-12)
	assert.InDelta(t, 5, p.Y, 1e-12)
}

// A scan of the same image is recognised and laid on it, tilted as it may be;
// another image is not.
func TestAlignFindsTheSameImage(t *testing.T) {
	for seed := range some(6) {
		art := drawing(seed, 14)
		ref := inkOf(t, page(art...))
		sc := standin.Usual(seed)
		sc.Tilt *= 2
		scan := sc.Scan(page(art...), pxPerMM)
		m, err := proof.Align(ref, inkOf(t, scan))
		require.NoError(t, err)
		assert.True(t, m.Same(), "seed %d: %+v", seed, m)
		assert.InDelta(t, -sc.Tilt, m.Degrees(), 0.2)
		assert.InDelta(t, 1, m.Scale(), 0.01)

		other, err := proof.Align(ref, inkOf(t, page(drawing(seed+100, 14)...)))
		require.NoError(t, err)
		assert.False(t, other.Same(), "seed %d: %+v", seed, other)
	}
	blank := &lineart.Ink{W: 100, H: 100, MM: 0.1, On: make([]bool, 10000)}
	_, err := proof.Align(blank, blank)
	assert.ErrorIs(t, err, proof.ErrNoLine)
}

func BenchmarkAlign(b *testing.B) {
	art := drawing(1, 14)
	ref, scan := inkOf(b, page(art...)), inkOf(b, standin.Usual(1).Scan(page(art...), pxPerMM))
	for b.Loop() {
		_, err := proof.Align(ref, scan)
		require.NoError(b, err)
	}
}

// A new scan is laid on the old one to a quarter of a millimetre, in its frame;
// another image is not laid at all.
func TestRelay(t *testing.T) {
	art := drawing(4, 14)
	old := page(art...)
	sc := standin.Usual(8)
	sc.Tilt = 3
	scan := standin.Grey(sc.Scan(page(art...), pxPerMM))
	laid, ok, err := proof.Relay(context.Background(), old, dpi, scan, dpi)
	require.NoError(t, err)
	require.True(t, ok)
	assert.Equal(t, old.Rect, laid.Rect)
	m, err := proof.Align(inkOf(t, old), inkOf(t, laid))
	require.NoError(t, err)
	assert.InDelta(t, 0, m.Degrees(), 0.1)
	p := m.Apply(proof.Point{X: 40, Y: 40})
	assert.InDelta(t, 40, p.X, 0.25)
	assert.InDelta(t, 40, p.Y, 0.25)

	_, ok, err = proof.Relay(context.Background(), old, dpi, page(drawing(99, 14)...), dpi)
	require.NoError(t, err)
	assert.False(t, ok)
	blank := image.NewGray(image.Rect(0, 0, 300, 300))
	_, _, err = proof.Relay(context.Background(), old, dpi, blank, dpi)
	assert.ErrorContains(t, err, "the new scan")
	ctx, cancel := context.WithCancel(context.Background())
	cancel()
	_, _, err = proof.Relay(ctx, old, dpi, scan, dpi)
	assert.ErrorIs(t, err, context.Canceled)
}
