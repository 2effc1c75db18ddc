package pouch_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/fold"
	"chromaqua/core/length"
	"chromaqua/core/pouch"
)

func ExampleFromSquare() {
	a2, _ := fold.FormatByID("a2")
	p, _ := pouch.FromSquare(a2.Front, length.Inch/8, length.Millimetres)
	fmt.Println("a square of", p.Paper.W.With(length.Millimetres))
	// Output:
	// a square of 195 mm
}

// inside reports whether a point lies in an outline.
func inside(outline []pouch.Point, q pouch.Point) bool {
	in := false
	for i, a := range outline {
		b := outline[(i+1)%len(outline)]
		if (a.Y > q.Y) != (b.Y > q.Y) && q.X < a.X+(q.Y-a.Y)/(b.Y-a.Y)*(b.X-a.X) {
			in = !in
		}
	}
	return in
}

// mirrored is the place on the flat paper that a fold along a crease brings to q.
func mirrored(c pouch.Crease, q pouch.Point) pouch.Point {
	dx, dy := c.To.X-c.From.X, c.To.Y-c.From.Y
	t := ((q.X-c.From.X)*dx + (q.Y-c.From.Y)*dy) / (dx*dx + dy*dy)
	return pouch.Point{X: 2*(c.From.X+t*dx) - q.X, Y: 2*(c.From.Y+t*dy) - q.Y}
}

func drawnCard(t *rapid.T) length.Size {
	side := func(name string) length.Length {
		return length.Length(rapid.IntRange(24, 144).Draw(t, name)) * length.Sixteenth
	}
	return length.Size{W: side("w"), H: side("h")}
}

// The envelope from a square, folded numerically: it is one piece of the
// square, no flap stands out, and together they close the back.
func TestFoldingTheSquare(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		p, err := pouch.FromSquare(drawnCard(t), length.Inch/8, length.Inches)
		require.NoError(t, err)
		w, h := p.Inside.W.MM()/2, p.Inside.H.MM()/2
		reach := p.Paper.W.MM() / math.Sqrt2
		for _, q := range p.Outline {
			require.LessOrEqual(t, math.Abs(q.X)+math.Abs(q.Y), reach+1e-6, "on the paper")
			fx, fy := q.X, q.Y
			if math.Abs(fx) > w {
				fx = math.Copysign(2*w, fx) - fx
			}
			if math.Abs(fy) > h {
				fy = math.Copysign(2*h, fy) - fy
			}
			require.LessOrEqual(t, math.Abs(fx), w+1e-6, "folded, it stays within the front")
			require.LessOrEqual(t, math.Abs(fy), h+1e-6)
		}
		lower, upper := p.Creases[2], p.Creases[3]
		both := 0
		for i := range 21 {
			for j := range 21 {
				q := pouch.Point{X: w * (float64(i)/10 - 1) * 0.999, Y: h * (float64(j)/10 - 1) * 0.999}
				require.True(t, inside(p.Outline, q), "the front is whole at %v", q)
				layers := 0
				for _, c := range p.Creases {
					if inside(p.Outline, mirrored(c, q)) {
						layers++
					}
				}
				require.Positive(t, layers, "the back is closed at %v", q)
				if inside(p.Outline, mirrored(lower, q)) && inside(p.Outline, mirrored(upper, q)) {
					both++
				}
			}
		}
		require.Positive(t, both, "the upper flap overlaps the lower")
		// Across the seam of lower and left flap, where their slanting edges run side by side.
		lap := 0.0
		corner := pouch.Point{X: -w, Y: h}
		for step := range 4000 {
			along := (float64(step)/4000 - 0.5) * 40 // mm, square to the seam, 6 mm in from the corner
			q := pouch.Point{X: corner.X + 6 + along/math.Sqrt2, Y: corner.Y - 6 + along/math.Sqrt2}
			if math.Abs(q.X) <= w && math.Abs(q.Y) <= h && inside(p.Outline, mirrored(lower, q)) && inside(p.Outline, mirrored(p.Creases[0], q)) {
				lap += 0.01
			}
		}
		require.GreaterOrEqual(t, lap, 14.9, "the flaps overlap enough to be glued")
	})
}

// The envelope from a strip, folded numerically: front and back are covered all
// along pocket and flaps, and the two edges meet without overlapping.
func TestFoldingTheStrip(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		card := drawnCard(t)
		if max(card.W, card.H) > 2*min(card.W, card.H) {
			return // so wide a pocket is no business of a strip
		}
		p, err := pouch.FromStrip(card, length.Length(rapid.IntRange(1, 4).Draw(t, "clearance"))*length.Sixteenth, 0, length.Inches)
		if err != nil {
			require.ErrorContains(t, err, "slants too much")
			return
		}
		d, tall := p.Inside.W.MM(), p.Inside.H.MM()+50.8
		require.InDelta(t, d, p.Creases[1].From.X-p.Creases[0].From.X, 1e-6, "the sleeve is as wide as the pocket")
		for i := range 21 {
			for j := range 21 {
				q := pouch.Point{X: d / 2 * (float64(i)/10 - 1) * 0.99, Y: tall / 2 * (float64(j)/10 - 1) * 0.99}
				require.True(t, inside(p.Outline, q), "the front is covered at %v", q)
				covered := false // beside the seam, which the point may hit to the last digit
				for _, c := range p.Creases {
					for _, e := range []float64{-1e-6, 1e-6} {
						covered = covered || inside(p.Outline, mirrored(c, pouch.Point{X: q.X + e, Y: q.Y}))
					}
				}
				require.True(t, covered, "the back is covered at %v", q)
			}
		}
		// Along any level, left and right layer meet at one place.
		overlap := 0
		for i := range 400 {
			q := pouch.Point{X: d / 2 * (float64(i)/200 - 1)}
			if inside(p.Outline, mirrored(p.Creases[0], q)) && inside(p.Outline, mirrored(p.Creases[1], q)) {
				overlap++
			}
		}
		require.LessOrEqual(t, overlap, 1)
	})
}

// The strip's length against a worked case.
func TestAWorkedStrip(t *testing.T) {
	in := func(v float64) length.Length { return length.FromMM(v * 25.4) }
	p, err := pouch.FromStrip(length.Size{W: in(5.25), H: in(4.88)}, in(0.1), in(10.5), length.Inches)
	require.NoError(t, err)
	assert.InDelta(t, 11.1, p.Slant, 0.1)
	assert.InDelta(t, 9.17, p.Paper.W.MM()/25.4, 1.0/16)
}

func TestPouchesThatCannotBe(t *testing.T) {
	a2, err := fold.FormatByID("a2")
	require.NoError(t, err)
	for why, f := range map[string]func() (*pouch.Pouch, error){
		"half an inch": func() (*pouch.Pouch, error) { return pouch.FromSquare(length.Size{W: 1, H: 1}, 0, length.Inches) },
		"clearance":    func() (*pouch.Pouch, error) { return pouch.FromSquare(a2.Front, length.Metre, length.Inches) },
		"no paper is": func() (*pouch.Pouch, error) {
			return pouch.FromSquare(length.Size{W: 2 * length.Metre, H: length.Metre}, 0, length.Inches)
		},
		"too wide":       func() (*pouch.Pouch, error) { return pouch.FromStrip(a2.Front, 0, length.Metre, length.Inches) },
		"too narrow":     func() (*pouch.Pouch, error) { return pouch.FromStrip(a2.Front, 0, 6*length.Inch, length.Inches) },
		"wide cannot be": func() (*pouch.Pouch, error) { return pouch.FromStrip(a2.Front, 0, -1, length.Inches) },
	} {
		_, err := f()
		assert.ErrorContains(t, err, why)
	}
}

// The lining stays within the inside that is seen, off the glued edges; the band
// goes once round.
func TestLiningAndBand(t *testing.T) {
	rapid.Check(t, func(t *rapid.T) {
		card := drawnCard(t)
		p, err := pouch.FromSquare(card, length.Inch/8, length.Inches)
		require.NoError(t, err)
		reach := p.Paper.W.MM() / math.Sqrt2
		for _, q := range p.Liner {
			require.Less(t, math.Abs(q.X), p.Inside.W.MM()/2, "it slides in")
			require.Less(t, q.Y, p.Inside.H.MM()/2)
			require.True(t, q.Y > 0 || (math.Abs(q.X)+math.Abs(q.Y)-reach)/math.Sqrt2 <= -2.99, "3 mm off the slanting edge")
		}
		require.True(t, inside(p.Liner, pouch.Point{X: 0, Y: -p.Inside.H.MM()/2 - 1}), "it lines the flap")
		back := p.Band.Size.W - (p.Band.Folds[1] - p.Band.Folds[0])
		require.Greater(t, p.Band.Folds[1]-p.Band.Folds[0], p.Inside.W)
		require.Greater(t, back, p.Inside.W+length.Inch/2, "its ends overlap")
		require.LessOrEqual(t, p.Band.Size.H, p.Inside.H)
		require.Len(t, p.Shapes(), 3)
		require.Len(t, p.Extras(length.Inches), 2)
		if strip, err := pouch.FromStrip(card, length.Inch/8, 0, length.Inches); err == nil {
			for _, q := range strip.Liner {
				require.True(t, inside(strip.Outline, q), "the lining is no larger than the sleeve")
			}
		}
	})
}
