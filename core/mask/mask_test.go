package mask_test

import (
	"strings"
	"testing"
	"time"

	"github.com/stretchr/testify/assert"
	"pgregory.net/rapid"

	"chromaqua/core/mask"
)

// Every row says what its way asks for: how it is laid and comes off, where it does, what it
// leaves, and nothing that contradicts itself.
func TestTheTableIsWhole(t *testing.T) {
	seen := map[mask.Way]bool{}
	for _, w := range mask.Ways() {
		f := w.Facts()
		assert.False(t, seen[w], "%s stands twice", w)
		seen[w] = true
		assert.Equal(t, w, f.Way)
		assert.True(t, w.Known())
		assert.NotEmpty(t, f.Name)
		assert.NotEmpty(t, w.Words())
		if !f.Lays {
			assert.Empty(t, f.Lay+f.Off, w)
			continue
		}
		assert.True(t, strings.HasSuffix(f.Lay, "."), w)
		assert.Equal(t, f.Stays, f.Off == "", "%s: what does not stay comes off", w)
		assert.Equal(t, f.Soft, f.Dry[1] > 0, "%s: what is laid wet dries", w)
		assert.False(t, f.Soft && f.Heat, "%s: heat bonds it", w)
		assert.False(t, f.Once && f.Wet, "%s: what is lifted at once stands no wet wash", w)
		assert.Positive(t, f.Least, w)
	}
	assert.Equal(t, mask.Round, mask.Way("").Or())
	assert.True(t, mask.Way("").Known())
	assert.False(t, mask.Way("glue").Known())
	assert.Equal(t, mask.Round, mask.Way("glue").Facts().Way)
}

// More of anything never takes less time; what lays nothing takes none; a thin film dries
// sooner than a bead.
func TestTimes(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		s := mask.Shape{
			Pieces: rapid.IntRange(1, 200).Draw(t, "pieces"), MM2: rapid.Float64Range(0.1, 5000).Draw(t, "mm2"), EdgeMM: rapid.Float64Range(1, 3000).Draw(t, "edge"),
			Runs: rapid.IntRange(1, 8).Draw(t, "runs"), Widest: rapid.Float64Range(0.2, 20).Draw(t, "widest"),
		}
		more := s
		more.Pieces, more.MM2, more.EdgeMM, more.Runs, more.Widest = s.Pieces+5, s.MM2*1.5, s.EdgeMM*1.5, s.Runs+1, s.Widest*1.5
		for _, w := range mask.Ways() {
			f, a, b := w.Facts(), w.Times(s), w.Times(more)
			if f.Lays != (a.Lay > 0) || f.Lays && !f.Stays != (a.Off > 0) {
				t.Fatalf("%s: %+v", w, a)
			}
			if b.Lay < a.Lay || b.Off < a.Off || b.Dry < a.Dry || a.Dry < f.Dry[0] || a.Dry > f.Dry[1] {
				t.Fatalf("%s: %+v for more than %+v", w, b, a)
			}
		}
	})
	dots := mask.Pen.Times(mask.Shape{Pieces: 60, MM2: 47, EdgeMM: 188, Widest: 0.5})
	assert.InDelta(t, 109, dots.Lay.Seconds(), 1, "a second and a half a dot, and their area")
	assert.Equal(t, 5*time.Minute, dots.Dry)
	assert.Equal(t, 80*time.Second, mask.Tape.Times(mask.Shape{Runs: 4}).Lay)
	flowers := mask.Fluid.Times(mask.Shape{Pieces: 30, MM2: 2000, EdgeMM: 1900, Widest: 3})
	assert.InDelta(t, 60+1900/5.0+2000/150.0+60, flowers.Lay.Seconds(), 1)
	assert.Equal(t, 150*time.Second, mask.Paper.Times(mask.Shape{Pieces: 1, EdgeMM: 300}).Lay)
}
