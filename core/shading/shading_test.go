package shading_test

import (
	"context"
	"fmt"
	"math"
	"math/rand/v2"
	"runtime"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/lineart"
	"chromaqua/core/shading"
)

// Of shapes that lie over one another the front one is told, clean and worn.
func TestFrontAndBehind(t *testing.T) {
	for _, wear := range []struct{ worn, precision, recall float64 }{{0, .92, .75}, {0.01, .90, .70}, {0.03, .85, .65}} {
		var n tally
		for seed := range uint64(8) {
			s := heap(1000 + seed)
			d, m := s.read(t, 300, wear.worn, seed)
			s.orders(d, m, &n)
		}
		t.Logf("worn %.0f %%: %+v, precision %.2f, recall %.2f", 100*wear.worn, n, n.precision(), n.recall())
		assert.GreaterOrEqual(t, n.precision(), wear.precision)
		assert.GreaterOrEqual(t, n.recall(), wear.recall)
	}
}

// away is the angle between where a cell is dark and the way to a place, degrees.
func away(s *shading.Shade, from, to lineart.Point) float64 {
	dx, dy := s.Fade()
	return math.Abs(math.Remainder(math.Atan2(-dy, -dx)-math.Atan2(to.Y-from.Y, to.X-from.X), 2*math.Pi)) * 180 / math.Pi
}

// Petals are dark at the middle, each lies over its neighbour, and a spiral's circle is cut
// once.
func TestFlowers(t *testing.T) {
	var n tally
	petals, dark := 0, 0
	for _, k := range []int{5, 6, 8, 12} {
		for _, spiral := range []bool{false, true} {
			s := flower(uint64(k), k, spiral)
			d, m := s.read(t, 300, 0, 1)
			s.orders(d, m, &n)
			hub := d.At(lineart.Point{X: 40, Y: 40})
			require.NotZero(t, hub)
			for _, id := range m.Rings[hub] {
				if sh := &m.Shades[id]; sh.Cell != 0 {
					petals++
					if away(sh, d.Cells[id-1].Label, lineart.Point{X: 40, Y: 40}) < 45 {
						dark++
					}
				}
			}
			assert.GreaterOrEqual(t, len(m.Rings[hub]), k-1, "of %d petals: the uppermost may look larger than its like", k)
			if spiral {
				assert.LessOrEqual(t, m.Circles, 1)
			} else {
				assert.Zero(t, m.Circles)
			}
		}
	}
	t.Logf("%+v, %.2f; dark at the middle %d of %d", n, n.recall(), dark, petals)
	assert.GreaterOrEqual(t, n.recall(), 0.95)
	assert.Equal(t, petals, dark)
}

// Lines that only divide a shape say nothing of front and behind.
func TestDivisionsHaveNoOrder(t *testing.T) {
	said, all := 0, 0
	for kind, strokes := range map[string][][4]float64{
		"grid": {{20, 8, 20, 52}, {40, 8, 40, 52}, {8, 20, 52, 20}, {8, 40, 52, 40}},
		"rays": {{30, 30, 30, 5}, {30, 30, 52, 18}, {30, 30, 52, 44}, {30, 30, 30, 55}, {30, 30, 8, 44}, {30, 30, 8, 18}},
		"leaf": {{6, 30, 54, 30}},
	} {
		s := &scene{w: 60, h: 60, line: 0.45, over: inOrder, strokes: strokes, shapes: []shape{ellipse(30, 30, 24.2, 24.2, 0)}}
		d, m := s.read(t, 300, 0, 1)
		require.Greater(t, len(d.Cells), 2, kind)
		for _, o := range m.Orders {
			if all++; o.Score >= shading.Decided {
				said++
			}
		}
	}
	t.Logf("%d of %d", said, all)
	assert.LessOrEqual(t, float64(said), 0.1*float64(all))
}

// hatched is a blob with strokes to one side, or all over it.
func hatched(seed uint64, side float64, even bool) *scene {
	r := rand.New(rand.NewPCG(seed, 5))
	s := &scene{w: 50, h: 50, line: 0.35, over: inOrder, shapes: []shape{blob(r, 25, 25, 17)}}
	for n := 0; n < 10; {
		x, y := 25+13*(2*r.Float64()-1), 25+13*(2*r.Float64()-1)
		if even {
			x, y = 17+8*float64(n%3)+r.Float64(), 17+8*float64(n/3%3)+r.Float64()
			s.strokes = append(s.strokes, [4]float64{x - 1, y - 1, x + 1, y + 1})
			n++
			continue
		}
		if s.shapes[0](x, y) > -3.5 || (x-25)*math.Cos(side)+(y-25)*math.Sin(side) < 5 {
			continue
		}
		s.strokes = append(s.strokes, [4]float64{x - 1, y - 1, x + 1, y + 1})
		n++
	}
	return s
}

// Hatching tells the dark side; even texture, a vein and a pupil tell nothing surely.
func TestHatching(t *testing.T) {
	right, all := 0, 0
	for seed := range uint64(20) {
		side := 2 * math.Pi * float64(seed) / 20
		d, m := hatched(seed, side, false).read(t, 300, 0, seed)
		id := d.At(lineart.Point{X: 25, Y: 25})
		if id == 0 || m.Shades[id].Cell == 0 {
			continue
		}
		all++
		c := lineart.Point{X: 25, Y: 25}
		if sh := &m.Shades[id]; sh.Reason == shading.Hatched && away(sh, c, lineart.Point{X: 25 + math.Cos(side), Y: 25 + math.Sin(side)}) < 60 {
			right++
		}
		d, m = hatched(seed, side, true).read(t, 300, 0, seed)
		if id := d.At(lineart.Point{X: 25, Y: 25}); id > 0 {
			assert.LessOrEqual(t, m.Shades[id].Confidence, shading.Sure, "even texture, %d", seed)
		}
	}
	t.Logf("%d of %d", right, all)
	require.GreaterOrEqual(t, all, 18)
	assert.GreaterOrEqual(t, float64(right), 0.95*float64(all))
	for kind, strokes := range map[string][][4]float64{"vein": {{12, 25, 38, 25}}, "pupil": {{29, 25, 29.1, 25}, {29, 25.6, 29.1, 25.6}}} {
		s := &scene{w: 50, h: 50, line: 0.5, over: inOrder, shapes: []shape{ellipse(25, 25, 18, 14, 0)}, strokes: strokes}
		d, m := s.read(t, 300, 0, 1)
		id := d.At(lineart.Point{X: 20, Y: 18})
		assert.LessOrEqual(t, m.Shades[id].Confidence, shading.Sure, kind)
	}
}

// Another light turns what only the light tells, and leaves the rest.
func TestTheLightTurns(t *testing.T) {
	s := flower(3, 7, false)
	d, m := s.read(t, 300, 0, 1)
	o := shading.Find(d, shading.Light{X: math.Sqrt2 / 2, Y: -math.Sqrt2 / 2})
	for id := range m.Shades {
		a, b := &m.Shades[id], &o.Shades[id]
		if a.Cell == 0 {
			continue
		}
		ax, ay := a.Fade()
		bx, by := b.Fade()
		turned := math.Acos(max(-1, min(1, ax*bx+ay*by))) * 180 / math.Pi
		if a.Reason == shading.AtMiddle || a.Reason == shading.Hatched {
			assert.Less(t, turned, 45.0, "cell %d: %s", id, a.Reason)
		}
	}
	single := &scene{w: 40, h: 40, line: 0.45, over: inOrder, shapes: []shape{ellipse(20, 20, 14, 14, 0)}}
	d, m = single.read(t, 300, 0, 1)
	o = shading.Find(d, shading.Light{X: math.Sqrt2 / 2, Y: -math.Sqrt2 / 2})
	id := d.At(lineart.Point{X: 20, Y: 20})
	assert.Equal(t, shading.FromLight, m.Shades[id].Reason)
	assert.Less(t, m.Shades[id].Confidence, shading.Sure)
	ax, _ := m.Shades[id].Fade()
	bx, _ := o.Shades[id].Fade()
	assert.Negative(t, ax, "it fades towards the light, upper left")
	assert.Positive(t, bx)
	assert.Greater(t, m.At(id, 28, 28), m.At(id, 12, 12)+0.4, "darker away from it")
}

// A mirrored drawing has mirrored orders; the same drawing the same; one of 600 as of 300.
func TestTheSameDrawingTellsTheSame(t *testing.T) {
	s := heap(77)
	d, m := s.read(t, 300, 0, 1)
	again := shading.Find(d, shading.UpperLeft())
	assert.Equal(t, fmt.Sprint(m.Shades, m.Orders), fmt.Sprint(again.Shades, again.Orders))
	old := runtime.GOMAXPROCS(1)
	again = shading.Find(d, shading.UpperLeft())
	runtime.GOMAXPROCS(old)
	assert.Equal(t, fmt.Sprint(m.Shades, m.Orders), fmt.Sprint(again.Shades, again.Orders))

	alike := func(name string, d2 *lineart.Drawing, m2 *shading.Map, at func(lineart.Point) lineart.Point) {
		same, all := 0, 0
		for _, o := range m.Orders {
			if o.Score < shading.Decided || o.MM < 1.5 {
				continue
			}
			f, b := d2.At(at(d.Cells[o.Front-1].Label)), d2.At(at(d.Cells[o.Behind-1].Label))
			if sc, touch := m2.Score(f, b); touch {
				if all++; sc > 0 {
					same++
				}
			}
		}
		t.Logf("%s: %d of %d", name, same, all)
		require.GreaterOrEqual(t, all, 8, name)
		assert.GreaterOrEqual(t, float64(same), 0.9*float64(all), name)
	}
	mirrored, err := lineart.Find(context.Background(), s.draw(300, 0, 1, true), 300, nil)
	require.NoError(t, err)
	alike("mirrored", mirrored, shading.Find(mirrored, shading.Light{X: math.Sqrt2 / 2, Y: -math.Sqrt2 / 2}), func(p lineart.Point) lineart.Point {
		return lineart.Point{X: s.w - p.X, Y: p.Y}
	})
	d6, m6 := s.read(t, 600, 0, 1)
	alike("at 600", d6, m6, func(p lineart.Point) lineart.Point { return p })
}

// An empty sheet, and one without ink, tell nothing.
func TestNothingToTell(t *testing.T) {
	d, err := lineart.Blank(200, 100, 300)
	require.NoError(t, err)
	m := shading.Find(d, shading.UpperLeft())
	assert.Empty(t, m.Orders)
	for _, s := range m.Shades {
		assert.Zero(t, s.Cell)
	}
	assert.Zero(t, m.At(1, 3, 3))
	assert.Zero(t, m.At(99, 3, 3))
}

func BenchmarkFind(b *testing.B) {
	s := heap(5)
	img := s.draw(300, 0, 1, false)
	d, _ := s.read(b, 300, 0, 1)
	b.Run("cells", func(b *testing.B) {
		for b.Loop() {
			_, _ = lineart.Find(context.Background(), img, 300, nil)
		}
	})
	b.Run("shading", func(b *testing.B) {
		for b.Loop() {
			shading.Find(d, shading.UpperLeft())
		}
	})
}

// What the maker says of two cells holds instead of what the line tells, turned round too, and
// the dark goes with it; of one surface nothing is said.
func TestTheMakerKnowsBetter(t *testing.T) {
	s := heap(1003)
	d, m := s.read(t, 300, 0, 3)
	require.NotEmpty(t, m.Orders)
	o := m.Orders[0]
	require.Greater(t, o.Score, shading.Decided)
	turned := shading.Find(d, shading.UpperLeft(), shading.Order{Front: o.Behind, Behind: o.Front, Score: 1})
	score, touch := turned.Score(o.Behind, o.Front)
	require.True(t, touch)
	assert.Equal(t, 1.0, score)
	assert.Equal(t, turned.Orders[0].Front, o.Behind)
	assert.Less(t, turned.Layers[o.Behind], turned.Layers[o.Front])
	under := turned.Shades[o.Front]
	assert.NotEqual(t, m.Shades[o.Front].Dark, under.Dark)
	assert.Equal(t, shading.LiesUnder, under.Reason)
	assert.Equal(t, o.Behind, under.Other)
	one := shading.Find(d, shading.UpperLeft(), shading.Order{Front: o.Front, Behind: o.Behind})
	score, _ = one.Score(o.Front, o.Behind)
	assert.Zero(t, score)
	assert.Equal(t, len(m.Orders), len(one.Orders))
}
