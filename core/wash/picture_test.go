package wash

import (
	"bytes"
	"context"
	"fmt"
	"image"
	"math"
	"runtime"
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
)

// The same painting is the same picture, on however many processors and whatever was kept.
func TestTheSamePaintingIsTheSamePicture(t *testing.T) {
	b := newBench(t, 60, 40, func(x, y float64) uint16 {
		if math.Mod(x, 15) < 0.4 || math.Mod(y, 20) < 0.4 {
			return 0
		}
		return uint16(1 + int(x/15) + 4*int(y/20))
	})
	for l := range uint16(8) {
		b.wash(l+1, float64(l)*40, 0.5, 46, "PB29", "PV19")
		b.wash(l+1, float64(l)*40+2000, 0.3, 38, "PY150")
	}
	s := b.wash(3, 4000, 1, 20, "PW6")
	s.Mark = Mark{Kind: Dots, At: []Disc{{33, 5, 0.5}, {38, 9, 0.7}}}
	b.Borders = []Border{{1, 2, FlatLine}, {2, 3, FlatLine}, {5, 6, FlatLine}}
	var first []byte
	kept := &Kept{}
	for _, n := range []int{1, 2, 8, 2} {
		old := runtime.GOMAXPROCS(n)
		m, err := b.Play(context.Background(), Dry, kept)
		require.NoError(t, err)
		q := m.Picture()
		img, err := q.Draw(context.Background(), 150, image.Rectangle{Max: q.Size(150)}, View{}, nil)
		require.NoError(t, err)
		runtime.GOMAXPROCS(old)
		if first == nil {
			first = img.Pix
		}
		assert.True(t, bytes.Equal(first, img.Pix), "on %d processors", n)
		if n == 2 {
			kept = nil
		}
		// a part is the same as in the whole
		r := image.Rect(30, 40, 90, 100)
		part, err := q.Draw(context.Background(), 150, r, View{}, nil)
		require.NoError(t, err)
		for y := r.Min.Y; y < r.Max.Y; y += 7 {
			assert.Equal(t, img.RGBAAt(r.Min.X+3, y), part.RGBAAt(r.Min.X+3, y))
		}
	}
}

// A painting that is looked at more than once is the same as one that runs through: what was
// kept is gone on from, and changes only what it touches.
func TestGoingOnComesToTheSame(t *testing.T) {
	b := square(t, 30)
	b.wash(1, 0, 0.5, 60, "PB29", "PV19").Tilt = true
	b.drop(200, 2, 0, 90)
	b.Strokes[1].Mix = nil
	b.wash(1, 4000, 0.4, 38, "PY150")
	stops := []float64{3, 100, 205, 900, 4003, 4200}
	kept := &Kept{}
	for _, at := range append(stops, Dry) {
		m, err := b.Play(context.Background(), at, kept)
		require.NoError(t, err)
		if at != Dry {
			continue
		}
		again, err := b.Play(context.Background(), at, kept)
		require.NoError(t, err)
		assert.Empty(t, again.Changed(m))
		assert.Equal(t, image.Rect(0, 0, b.Plate.W, b.Plate.H), again.Changed(nil))
	}
	m, err := b.Play(context.Background(), Dry, kept)
	require.NoError(t, err)
	straight := b.newBasin([]uint16{1}, []int{0, 1, 2}, 1)
	straight.run(m.only().until)
	for k := range straight.paints {
		for i := range straight.water {
			require.Equal(t, straight.all(i, k), m.only().all(i, k))
		}
	}
}

// What was kept has its own paints, whatever their numbers are by now.
func TestKeptBasinsHaveTheirOwnPaints(t *testing.T) {
	b := square(t, 20)
	b.wash(1, 0, 0.5, 46, "PB29", "PY150")
	kept := &Kept{}
	drawn := func() []byte {
		m, err := b.Play(context.Background(), Dry, kept)
		require.NoError(t, err)
		q := m.Picture()
		img, err := q.Draw(context.Background(), 150, image.Rectangle{Max: q.Size(150)}, View{}, nil)
		require.NoError(t, err)
		return img.Pix
	}
	before := drawn()
	c := *b.Painting
	b.Painting = &c
	b.Paints = []Paint{b.Paints[1], b.Paints[0]}
	b.Strokes = slices.Clone(b.Strokes)
	b.Strokes[0].Mix = []Portion{{1, b.Strokes[0].Mix[0].Share}, {0, b.Strokes[0].Mix[1].Share}}
	assert.True(t, bytes.Equal(before, drawn()))
}

// A sheet's relief does not repeat: shifted by any way it is another.
func TestReliefDoesNotRepeat(t *testing.T) {
	s := newSurface(ColdPressed, 60, 30, 3)
	var mean, square float64
	for _, v := range s.height {
		mean += float64(v)
	}
	mean /= float64(len(s.height))
	for _, v := range s.height {
		square += (float64(v) - mean) * (float64(v) - mean)
	}
	square /= float64(len(s.height))
	for dx := 60; dx < s.w*2/3; dx += 3 {
		sum, n := 0.0, 0.0
		for y := 0; y < s.h; y += 2 {
			for x := 0; x+dx < s.w; x += 2 {
				sum += (float64(s.height[y*s.w+x]) - mean) * (float64(s.height[y*s.w+x+dx]) - mean)
				n++
			}
		}
		require.Less(t, math.Abs(sum/n/square), 0.15, "%d pixels", dx)
	}
}

// What cannot be is refused in words, and what is nothing stays white.
func TestBadPaintings(t *testing.T) {
	_, err := (&Painting{}).Play(context.Background(), Dry, nil)
	require.Error(t, err)
	b := square(t, 20)
	b.wash(1, 0, 0.5, 38, "PB29").Load = float32(math.NaN())
	_, err = b.Play(context.Background(), Dry, nil)
	require.ErrorContains(t, err, "load")
	b.Strokes[0].Load, b.Strokes[0].Cells = 0.5, []uint16{7}
	_, err = b.Play(context.Background(), Dry, nil)
	require.ErrorContains(t, err, "cell 7")

	none := square(t, 20)
	none.wash(1, 0, 0, 38, "PB29")
	m := none.play(Dry)
	assert.Empty(t, m.Events())
	m.Picture()

	stopped, stop := context.WithCancel(context.Background())
	stop()
	b.Strokes[0].Cells = []uint16{1}
	_, err = b.Play(stopped, Dry, nil)
	require.ErrorIs(t, err, context.Canceled)
	q := m.Picture()
	_, err = q.Draw(stopped, 150, image.Rectangle{Max: q.Size(150)}, View{}, nil)
	require.ErrorIs(t, err, context.Canceled)
}

func BenchmarkPlay(b *testing.B) {
	t := &testing.T{}
	for _, mm := range []float64{20, 60, 120} {
		b.Run(fmt.Sprintf("%g mm", mm), func(b *testing.B) {
			p := square(t, mm)
			s := p.wash(1, 0, 0.5, 60, "PB29", "PV19")
			s.Dur, s.Band = mm*mm/60, 12
			for b.Loop() {
				p.play(Dry)
			}
		})
	}
}

func BenchmarkDraw(b *testing.B) {
	t := &testing.T{}
	p := newBench(t, 95, 127, plain)
	p.wash(1, 0, 0.5, 60, "PB29", "PV19")
	m := p.play(Dry)
	q := m.Picture()
	for _, dpi := range []float64{150, 300} {
		b.Run(fmt.Sprintf("%g dpi", dpi), func(b *testing.B) {
			for b.Loop() {
				_, _ = q.Draw(context.Background(), dpi, image.Rectangle{Max: q.Size(dpi)}, View{}, nil)
			}
		})
	}
	b.Run("what is finer than the grid", func(b *testing.B) {
		for b.Loop() {
			newFine(m.basins[0])
		}
	})
}
