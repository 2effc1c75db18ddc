package panel_test

import (
	"fmt"
	"math"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/lineart"
	"chromaqua/core/mask"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
)

var yellow = card.Wash{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: "PY42", Parts: 1}}}

// moons keeps two dots of 6 mm under a sky that covers all.
func moons(t testing.TB, way mask.Way) (*card.Card, *panel.Sheet, *card.Reserve) {
	c, s := paneltest.Card(t, 2, 2)
	zoned(t, c, card.Zone{Shape: card.All})
	wide := c.PanelSize().W.MM()
	id, err := c.AddZone(card.Zone{Shape: card.DotsAt, Width: 6 * length.Millimetre, Points: []card.UV{{U: 10 / wide, V: 12 / wide}, {U: 80 / wide, V: 12 / wide}}}, wide)
	require.NoError(t, err)
	_, err = c.AddReserve(card.Reserve{Name: "Moons", Way: way, Zones: []string{id}})
	require.NoError(t, err)
	require.NoError(t, c.Check())
	return c, s, &c.Reserves[0]
}

// colourAt is what a place looks like, "paper" where nothing is.
func colourAt(b *panel.Board, x, y float64) string {
	l, ok := b.LookAt(lineart.Point{X: x, Y: y})
	if !ok {
		return "paper"
	}
	return l.Dense.Dry
}

// What is kept stays as it was: paper where it is masked or painted round, the wash where it
// is painted over, nearly white where white is put on after.
func TestWhatIsKept(t *testing.T) {
	c, s, r := moons(t, mask.Round)
	b := panel.Resolve(c, s)
	sky := colourAt(b, 45, 6)
	assert.NotEqual(t, "paper", sky)
	assert.Equal(t, []int{0}, b.Reserves[0].Grounds)
	assert.Len(t, b.Reserves[0].Parts, 2)
	assert.InDelta(t, 2*math.Pi*9, b.Reserves[0].MM2, 0.1)
	assert.InDelta(t, 2*math.Pi*6, b.Reserves[0].EdgeMM, 0.1)
	for _, way := range mask.Ways() {
		r.Way = way
		b = panel.Resolve(c, s)
		moon := colourAt(b, 10, 12)
		switch way {
		case mask.Over:
			assert.Equal(t, sky, moon)
		case mask.After:
			l, ok := b.LookAt(lineart.Point{X: 10, Y: 12})
			require.True(t, ok)
			assert.Greater(t, l.Dense.Lab.L, 88.0)
		default:
			assert.Equal(t, "paper", moon, way)
		}
		assert.Equal(t, sky, colourAt(b, 45, 6), way)
		found := false
		for _, f := range b.Films() {
			found = found || len(f.Kept) == 1
		}
		assert.True(t, found, "the board shows it")
	}
}

// A mask keeps off what comes while it lies there: not what is below it, nor what is painted
// once it is off.
func TestRoundsOfMasks(t *testing.T) {
	c, s, r := moons(t, mask.Fluid)
	a := &c.Areas[0]
	a.Washes = []card.Wash{yellow, blue, yellow}
	at := func(under, off card.Ref) []bool {
		r.Under, r.Off = under, off
		b := panel.Resolve(c, s)
		var out []bool
		for k := range a.Washes {
			out = append(out, b.Keeps(&b.Reserves[0], 0, k))
		}
		return out
	}
	assert.Equal(t, []bool{true, true, true}, at("", ""))
	assert.Equal(t, []bool{false, true, true}, at("a1/1", ""))
	assert.Equal(t, []bool{false, true, false}, at("a1/1", "a1/3"))
	assert.Equal(t, []bool{true, true, false}, at("", "a1/3"))
	assert.Equal(t, []bool{false, false, false}, at("a1", ""), "over all of it")
}

// What is painted over goes on below it, and what comes on it lies over that.
func TestPaintedOver(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	paneltest.Area(t, c, s, "Ground", [][2]int{{0, 0}}, blue)
	subject := paneltest.Area(t, c, s, "Subject", [][2]int{{1, 0}}, yellow)
	at := s.Cells[paneltest.CellAt(t, c, s, 1, 0)-1].Label
	before := colourAt(panel.Resolve(c, s), at.X, at.Y)
	_, err := c.AddReserve(card.Reserve{Name: "Subject", Areas: []string{subject}, Way: mask.Over})
	require.NoError(t, err)
	b := panel.Resolve(c, s)
	assert.Len(t, b.Areas[0].Cells, 2, "the ground goes on below it")
	assert.NotEqual(t, before, colourAt(b, at.X, at.Y))
	c.Reserves[0].Way = mask.Fluid
	assert.Equal(t, before, colourAt(panel.Resolve(c, s), at.X, at.Y))
}

// Straight runs are told from curves, and the edges of the piece are none.
func TestStraightRuns(t *testing.T) {
	c, s := paneltest.Card(t, 2, 2)
	zoned(t, c, card.Zone{Shape: card.All})
	w, h := c.PanelSize().W.MM(), c.PanelSize().H.MM()
	shape := func(z card.Zone, at ...float64) mask.Shape {
		for i := 0; i+1 < len(at); i += 2 {
			z.Points = append(z.Points, card.UV{U: at[i] / w, V: at[i+1] / w})
		}
		id, err := c.AddZone(z, w)
		require.NoError(t, err)
		_, err = c.AddReserve(card.Reserve{Name: "It", Zones: []string{id}})
		require.NoError(t, err)
		b := panel.Resolve(c, s)
		made := b.Shape(&b.Reserves[0])
		c.RemoveReserve(c.Reserves[0].ID)
		return made
	}
	below := shape(card.Zone{Shape: card.Below}, 0, 90, w, 90)
	assert.InDelta(t, w, below.Straight, 2)
	assert.Equal(t, 1, below.Runs)
	assert.InDelta(t, w, below.EdgeMM, 3)
	rim := shape(card.Zone{Shape: card.Rim, Width: 8 * length.Millimetre})
	assert.Equal(t, 4, rim.Runs)
	assert.InDelta(t, 2*(w+h)-64, rim.Straight, 8)
	var round []float64
	for k := range 60 {
		a := 2 * math.Pi * float64(k) / 60
		round = append(round, 50+20*math.Cos(a), 60+20*math.Sin(a))
	}
	assert.Zero(t, shape(card.Zone{Shape: card.Within}, round...).Runs)
	short := shape(card.Zone{Shape: card.Within}, 20, 20, 33, 20, 33, 33, 20, 33)
	assert.Zero(t, short.Runs, "too short for tape")
}

// Dots are strewn alike by the same draw, within the area, apart from each other.
func TestStrewn(t *testing.T) {
	c, s := paneltest.Card(t, 2, 2)
	a := zoned(t, c, card.Zone{Shape: card.Above, Round: true}, 0, 60, 100, 60)
	b := panel.Resolve(c, s)
	rapid.Check(t, func(t *rapid.T) {
		how := panel.Strewing{
			Count: rapid.IntRange(1, 200).Draw(t, "count"), Draw: rapid.IntRange(0, card.MaxDraws-1).Draw(t, "draw"),
			Least: length.FromMM(rapid.Float64Range(0.3, 2).Draw(t, "least")),
		}
		how.Most = how.Least + length.FromMM(rapid.Float64Range(0, 3).Draw(t, "more"))
		zones, err := b.Strewn(a.ID, how)
		require.NoError(t, err)
		again, err := b.Strewn(a.ID, how)
		require.NoError(t, err)
		require.Equal(t, zones, again)
		wide := c.PanelSize().W.MM()
		var all []panel.Drop
		for _, z := range zones {
			require.GreaterOrEqual(t, z.Width, how.Least)
			require.LessOrEqual(t, z.Width, how.Most)
			for _, p := range z.Points {
				all = append(all, panel.Drop{X: p.U * wide, Y: p.V * wide, R: z.Width.MM() / 2})
			}
		}
		require.LessOrEqual(t, len(all), how.Count)
		for i, d := range all {
			require.LessOrEqual(t, d.Y+d.R, 60.1)
			for _, o := range all[:i] {
				require.GreaterOrEqual(t, math.Hypot(d.X-o.X, d.Y-o.Y), d.R+o.R)
			}
		}
	})
	for _, bad := range []panel.Strewing{{Count: 5000, Least: length.Millimetre, Most: length.Millimetre}, {Count: 0}, {Count: 5, Least: 2 * length.Millimetre, Most: length.Millimetre}, {Count: 5, Least: length.Millimetre, Most: 40 * length.Millimetre}, {Count: 5, Least: length.Millimetre, Most: length.Millimetre, Draw: -1}} {
		_, err := b.Strewn(a.ID, bad)
		assert.Error(t, err, fmt.Sprint(bad))
	}
	_, err := b.Strewn("a9", panel.Strewing{Count: 5, Least: length.Millimetre, Most: length.Millimetre})
	assert.ErrorContains(t, err, "gone")
}

// Where a wash goes is told in squares: round what is kept, with what is masked apart.
func TestSpread(t *testing.T) {
	c, s, r := moons(t, mask.Round)
	count := func(way mask.Way) (in, masked int) {
		r.Way = way
		b := panel.Resolve(c, s)
		at, key := b.Spread(0, 0, b.Areas[0].Cells, 0.5)
		assert.Len(t, key, len(at.In))
		for i := range at.In {
			if at.In[i] {
				in++
			}
			if at.Masked != nil && at.Masked[i] {
				masked++
			}
		}
		return in, masked
	}
	size := c.PanelSize()
	all := int(math.Ceil(size.W.MM()/0.5)) * int(math.Ceil(size.H.MM()/0.5))
	in, masked := count(mask.Over)
	assert.Equal(t, all, in)
	assert.Zero(t, masked)
	in, masked = count(mask.Fluid)
	assert.InDelta(t, 2*math.Pi*9/0.25, float64(masked), 30)
	assert.Equal(t, all, in+masked)
	round, masked := count(mask.Round)
	assert.Zero(t, masked)
	assert.Equal(t, in, round)
}
