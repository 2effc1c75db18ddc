package wash

import (
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/drying"
)

// square is a sheet of one cell.
func square(t *testing.T, mm float64) *bench { return newBench(t, mm, mm, plain) }

// only is the one basin of a moment.
func (m *Moment) only() *basin { return m.basins[0] }

// all is the load of a paint at a place, in every layer and afloat.
func (b *basin) all(i, m int) (sum float64) {
	if f := b.afloat[m]; f != nil {
		sum += float64(f[i])
	}
	for l := range MaxLayers {
		if d := b.lying[l][m]; d != nil {
			sum += float64(d[i])
		}
	}
	return sum
}

// width is how far a paint lies from a place, root mean square, mm.
func (b *basin) width(m int, cx, cy float64) float64 {
	var square, n float64
	for i := range b.water {
		v := b.all(i, m)
		x, y := b.middle(i)
		square, n = square+v*((x-cx)*(x-cx)+(y-cy)*(y-cy)), n+v
	}
	return math.Sqrt(square / n)
}

// drop lets a drop fall into the middle of a square of 50 mm.
func (b *bench) drop(at float64, r float64, load, water float32, cis ...string) {
	s := b.wash(1, at, load, water, cis...)
	s.Dur, s.Dropped, s.Mark = 1, true, Mark{Kind: Falling, At: []Disc{{25, 25, r}}}
}

func TestADropSpreadsTheMoreTheWetterItFalls(t *testing.T) {
	last := 0.0
	for _, water := range []float32{30, 45, 60, 90, 120} {
		b := square(t, 50)
		b.wash(1, 0, 0.5, water, "PY150")
		b.drop(15, 2.5, 1, 15, "PV19")
		is := b.play(Dry).only().width(1, 25, 25)
		assert.Greater(t, is, last*1.01, "into %g g/m²", water)
		t.Logf("into %g g/m²: %.2f mm", water, is)
		last = is
	}
	last = math.Inf(1)
	for _, at := range []float64{10, 120, 300, 600, 900, 1200} {
		b := square(t, 50)
		b.wash(1, 0, 0.5, 60, "PY150")
		b.drop(at, 2.5, 1, 15, "PV19")
		is := b.play(Dry).only().width(1, 25, 25)
		assert.Less(t, is, last+1e-9, "after %g s", at)
		t.Logf("after %g s: %.2f mm", at, is)
		last = is
	}
}

// Halving the grid hardly changes how far a drop spreads.
func TestTheGridIsFineEnough(t *testing.T) {
	var is [2]float64
	for k, finer := range []float64{1, 2} {
		b := square(t, 50)
		b.wash(1, 0, 0.5, 60, "PY150")
		b.drop(130, 2.5, 1, 15, "PV19")
		run := b.newBasin([]uint16{1}, []int{0, 1}, finer)
		run.run(3 * 3600)
		is[k] = run.width(1, 25, 25)
	}
	t.Logf("%.3f and %.3f mm", is[0], is[1])
	assert.InEpsilon(t, is[1], is[0], 0.03)
}

// ring is how much more than round about lies at the darkest distance from the middle, and
// how much in the middle.
func (b *basin) ring(m int) (most, middle float64) {
	var sum, n [60]float64
	for i := range b.water {
		x, y := b.middle(i)
		if k := int(math.Hypot(x-25, y-25) / 0.5); k < len(sum) {
			sum[k], n[k] = sum[k]+b.all(i, m), n[k]+1
		}
	}
	round := 0.0
	for k := 36; k < 42; k++ {
		round += sum[k] / n[k] / 6
	}
	for k := 2; k < 34; k++ {
		most = max(most, sum[k]/n[k]/round-1)
	}
	return most, (sum[0] + sum[1] + sum[2] + sum[3]) / (n[0] + n[1] + n[2] + n[3]) / round
}

// Clean water blooms where it falls into what is damp, not while it shines nor once it is
// dry.
func TestWaterBloomsInTheDamp(t *testing.T) {
	for _, paper := range []struct {
		of   drying.Surface
		kind Relief
		damp []float32 // loads at which it is damp
	}{{drying.Cotton, ColdPressed, []float32{22, 16}}, {drying.Pulp, PulpSheet, []float32{16, 12}}} {
		falls := func(load float32) (ring, middle float64) {
			b := square(t, 50)
			b.Paper = PaperOf(paper.of, paper.kind)
			b.wash(1, 0, 0.5, 46, "PB28")
			at := 60 * float64(46-load) / b.Rate[1]
			if load == 0 {
				at = 3600
			}
			b.drop(at+6, 2.5, 0, 120)
			b.Strokes[1].Mix = nil
			return b.play(Dry).only().ring(0)
		}
		for _, load := range paper.damp {
			ring, middle := falls(load)
			t.Logf("%s at %g g/m²: ring %+.0f %%, middle %.0f %%", paper.kind, load, 100*ring, 100*middle)
			assert.GreaterOrEqual(t, ring, 0.30, "%s at %g g/m²", paper.kind, load)
		}
		for _, load := range []float32{46, 0} {
			ring, middle := falls(load)
			t.Logf("%s at %g g/m²: ring %+.0f %%, middle %.0f %%", paper.kind, load, 100*ring, 100*middle)
			if paper.kind != PulpSheet { // whose blotches are as large
				assert.LessOrEqual(t, ring, 0.06, "%s at %g g/m²", paper.kind, load)
			}
		}
	}
}

// What is laid is there, but for what a brush took away.
func TestNothingGetsLost(t *testing.T) {
	b := square(t, 50)
	b.wash(1, 0, 0.5, 90, "PB29", "PBr7")
	b.drop(60, 3, 1, 30, "PV19")
	s := b.wash(1, 500, 0, 0)
	s.Mix, s.Take = nil, &Take{0.5, 0.2}
	b.wash(1, 6000, 0.4, 38, "PY150")
	b.Strokes[0].Tilt = true
	run := b.play(Dry).only()
	for m := range run.paints {
		assert.InEpsilon(t, run.laid[m]-run.taken[m], run.mass(m), 1e-6)
	}
	assert.Positive(t, run.taken[0])
	for i := range run.water {
		for m := range run.paints {
			assert.GreaterOrEqual(t, run.all(i, m), 0.0)
		}
	}
}

func rimOf(t *testing.T, load, water float32, air float64, wetted bool) float64 {
	b := newBench(t, 30, 30, plain)
	b.Rate[1] = drying.Room{Celsius: 21, Humidity: 0.5, Air: air}.Rate(900)
	if wetted {
		b.wash(1, 0, 0, water).Mix = nil
	}
	b.wash(1, 8, load, water, "PB15:3")
	run := b.play(Dry).only()
	return float64(run.rim[0][run.ny/2*run.nx+run.nx/2])
}

func TestRims(t *testing.T) {
	last := 0.0
	for _, load := range []float32{0.15, 0.35, 1, 2.5} {
		is := rimOf(t, load, 46, 0.1, false)
		assert.Greater(t, is, last, "load %g", load)
		last = is
	}
	last = 0
	for _, water := range []float32{30, 38, 60, 90} {
		is := rimOf(t, 1, water, 0.1, false)
		assert.Greater(t, is, last, "%g g/m²", water)
		last = is
	}
	still := rimOf(t, 1, 46, 0.1, false)
	assert.Less(t, rimOf(t, 1, 46, 1, false), still, "moving air")
	assert.LessOrEqual(t, rimOf(t, 1, 46, 0.1, true), 0.3*still, "on wetted paper")
}

// A stroke joins what is wet, and laps over what is dry.
func TestLaps(t *testing.T) {
	for _, wait := range []float64{12, 240, 1500} {
		b := square(t, 40)
		b.wash(1, 0, 0.5, 46, "PV19").Within = b.region("l", func(x, _ float64) bool { return x < 21 })
		b.wash(1, wait, 0.5, 46, "PV19").Within = b.region("r", func(x, _ float64) bool { return x > 19 })
		run := b.play(Dry).only()
		var in, out, ni, no float64
		for i := range run.water {
			x, y := run.middle(i)
			switch {
			case y < 8 || y > 32:
			case math.Abs(x-20) < 0.6:
				in, ni = in+run.all(i, 0), ni+1
			case x > 8 && x < 12 || x > 28 && x < 32:
				out, no = out+run.all(i, 0), no+1
			}
		}
		over := in / ni / (out / no)
		t.Logf("after %g s: × %.2f, layer %d", wait, over, run.strokes[1].layer)
		if wait > 1000 {
			assert.GreaterOrEqual(t, over, 1.8)
			assert.Equal(t, 1, run.strokes[1].layer)
		} else {
			assert.InDelta(t, 1.0, over, 0.08)
			assert.Equal(t, 0, run.strokes[1].layer)
		}
	}
}

// Lines hold what they hold.
func TestLinesHold(t *testing.T) {
	ran := func(cross float32, wait float64) (float64, []Event) {
		b := newBench(t, 40, 20, func(x, _ float64) uint16 {
			switch {
			case x < 19.8:
				return 1
			case x > 20.2:
				return 2
			}
			return 0
		})
		b.Borders = []Border{{1, 2, cross}}
		b.wash(1, 0, 0.5, 50, "PY150")
		b.wash(2, wait, 0.5, 80, "PV19")
		m := b.play(Dry)
		in, all := 0.0, 0.0
		for _, run := range m.basins {
			k := run.paint(1)
			for i := range run.water {
				if k < 0 {
					continue
				}
				v := run.all(i, k)
				if all += v; run.label[i] == 1 {
					in += v
				}
			}
		}
		return in / all, m.Events()
	}
	held, events := ran(RaisedLine, 60)
	assert.Zero(t, held)
	assert.Empty(t, events)
	held, events = ran(FlatLine, 60)
	t.Logf("across a flat line %.1f %%", 100*held)
	assert.Greater(t, held, 0.03)
	assert.Less(t, held, 0.30)
	require.NotEmpty(t, events)
	assert.Equal(t, Bleed, events[0].Kind)
	assert.Less(t, events[0].At, 300.0)
	held, events = ran(FlatLine, 1000)
	assert.Zero(t, held, "once the sheen is gone")
	assert.Empty(t, events)
}

// A sheet dries as package drying says.
func TestItDriesAsDryingSays(t *testing.T) {
	for _, water := range []float32{20, 38, 60, 90} {
		b := square(t, 50)
		b.wash(1, 0, 0.3, water, "PB28")
		run := b.newBasin([]uint16{1}, []int{0}, 1)
		want := drying.Cotton.Until(drying.TouchDry, drying.GramsPerSquareMetre(water), b.Plate.MM2(1), drying.StillRoom)
		for at := 6.0; ; at += 15 {
			run.run(at)
			sum := float32(0)
			for _, w := range run.water {
				sum += w
			}
			if sum/float32(len(run.water)) < 5 {
				assert.InEpsilon(t, want.Seconds(), at-6, 0.05, "%g g/m²", water)
				break
			}
			require.Less(t, at, 4*3600.0)
		}
	}
}

// The heat tool dries it so many times faster, where it points.
func TestHeatDriesWhereItPoints(t *testing.T) {
	b := newBench(t, 40, 20, func(x, _ float64) uint16 { return uint16(1 + int(x/20)) })
	b.wash(1, 0, 0.3, 38, "PB28")
	b.wash(2, 0, 0.3, 38, "PB28")
	b.Spells = []Spell{{Cells: []uint16{1}, From: 60, To: 120, Faster: 20}}
	m := b.play(130)
	assert.Less(t, m.Water(10, 10), 5.0)
	assert.Greater(t, m.Water(30, 10), 25.0)
}

// What is covered stays white; what lies below a cover stays as it was.
func TestCovers(t *testing.T) {
	b := square(t, 30)
	mask := b.region("mask", func(x, y float64) bool { return math.Hypot(x-15, y-15) < 6 })
	b.Covers = []Cover{{mask, 100, 2000}}
	b.wash(1, 0, 0.2, 38, "PY150").Dur = 4
	b.wash(1, 1500, 1, 38, "PB29")
	run := b.play(Dry).only()
	i := run.ny/2*run.nx + run.nx/2
	assert.InDelta(t, 0, run.all(i, 1), 1e-9, "no blue below the mask")
	assert.Positive(t, run.all(i, 0), "the yellow was there first")
}

// Cotton takes a wash evenly, wood pulp in blotches, and that is told.
func TestPulpIsBlotchy(t *testing.T) {
	spread := func(s drying.Surface, r Relief) (float64, []Event) {
		b := square(t, 50)
		b.Paper = PaperOf(s, r)
		b.wash(1, 0, 0.5, 46, "PB29")
		m := b.play(Dry)
		run := m.only()
		var n, sum, square float64
		for i := range run.water {
			if run.label[i] > 0 {
				v := run.all(i, 0)
				n, sum, square = n+1, sum+v, square+v*v
			}
		}
		return math.Sqrt(square/n-sum*sum/n/n) / (sum / n), m.Events()
	}
	even, none := spread(drying.Cotton, ColdPressed)
	blotchy, told := spread(drying.Pulp, PulpSheet)
	t.Logf("cotton %.1f %%, pulp %.1f %%", 100*even, 100*blotchy)
	assert.Less(t, even, 0.16)
	assert.Greater(t, blotchy, 0.22)
	assert.Empty(t, none)
	require.Len(t, told, 1)
	assert.Equal(t, Blotch, told[0].Kind)
}

// A bead runs down a tilted board.
func TestABeadRunsDown(t *testing.T) {
	low := func(tilt bool) float64 {
		b := square(t, 40)
		b.wash(1, 0, 0.5, 70, "PB28").Tilt = tilt
		run := b.play(Dry).only()
		top, bottom := 0.0, 0.0
		for i := range run.water {
			switch _, y := run.middle(i); {
			case y < 10:
				top += run.all(i, 0)
			case y > 30:
				bottom += run.all(i, 0)
			}
		}
		return bottom / top
	}
	assert.Greater(t, low(true), 1.15*low(false))
}

// Nothing is heaped up beyond what a bead can hold.
func TestNoPlaceHoldsTooMuch(t *testing.T) {
	b := square(t, 60)
	b.wash(1, 0, 0.6, 90, "PB29")
	b.drop(900, 3, 0, 120)
	b.Strokes[1].Mix = nil
	run := b.play(Dry).only()
	for i := range run.water {
		require.LessOrEqual(t, run.all(i, 0), 2.5*0.6)
	}
}

// mass is what there is of a paint, load × places.
func (b *basin) mass(m int) (sum float64) {
	for _, v := range b.afloat[m] {
		sum += float64(v)
	}
	for l := range MaxLayers {
		for _, v := range b.lying[l][m] {
			sum += float64(v)
		}
	}
	return sum
}
