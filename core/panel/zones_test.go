package panel_test

import (
	"fmt"
	"sync"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"
	"pgregory.net/rapid"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/technique"
)

var blue = card.Wash{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 1}}}

// zoned draws a zone by places on the panel, x and y in turn, mm, and makes an area of it.
func zoned(t testing.TB, c *card.Card, z card.Zone, at ...float64) *card.Area {
	wide := c.PanelSize().W.MM()
	for i := 0; i+1 < len(at); i += 2 {
		z.Points = append(z.Points, card.UV{U: at[i] / wide, V: at[i+1] / wide})
	}
	id, err := c.AddZone(z, wide)
	require.NoError(t, err)
	a, err := c.AreaByID(c.AddArea("Zone " + id))
	require.NoError(t, err)
	a.Lies, a.Zones, a.Washes = true, []string{id}, []card.Wash{blue}
	require.NoError(t, c.Check())
	return a
}

// mm2 is what an area of a board measures.
func mm2(b *panel.Board, name string) float64 {
	for _, a := range b.Areas {
		if a.Name == name {
			return a.MM2
		}
	}
	return -1
}

// Zones cover what they say: bands to the edges, all but what is drawn, what is within.
func TestWhatZonesCover(t *testing.T) {
	c, s := paneltest.Card(t, 2, 2)
	w, h := c.PanelSize().W.MM(), c.PanelSize().H.MM()
	for _, tc := range []struct {
		z    card.Zone
		at   []float64
		want float64
	}{
		{card.Zone{Shape: card.All}, nil, w * h},
		{card.Zone{Shape: card.Within}, []float64{10, 10, 40, 10, 40, 30, 10, 30}, 600},
		{card.Zone{Shape: card.Within}, []float64{10, 10, 40, 30, 40, 10, 10, 30}, 300}, // crosses itself
		{card.Zone{Shape: card.Within}, []float64{-20, -20, 20, -20, 20, 20, -20, 20}, 400},
		{card.Zone{Shape: card.Rest}, []float64{10, 10, 40, 10, 40, 30, 10, 30}, w*h - 600},
		{card.Zone{Shape: card.Below}, []float64{0, 50, w, 50}, w * (h - 50)},
		{card.Zone{Shape: card.Below}, []float64{w, 50, 0, 50}, w * (h - 50)}, // drawn from the right
		{card.Zone{Shape: card.Below}, []float64{40, 50, 60, 50}, w * (h - 50)},
		{card.Zone{Shape: card.Above}, []float64{0, 50, w, 70}, w * 60},
		{card.Zone{Shape: card.Rim, Width: 4 * length.Millimetre}, nil, w*h - (w-8)*(h-8)},
		{card.Zone{Shape: card.Rim, Width: 80 * length.Millimetre}, nil, w * h},
		{card.Zone{Shape: card.Middle}, []float64{0, 40, w, 40, w, 70, 0, 70}, w * 30},
	} {
		c := clone(t, c)
		a := zoned(t, c, tc.z, tc.at...)
		b := panel.Resolve(c, s)
		assert.InDelta(t, tc.want, mm2(b, a.Name), 0.02*tc.want+3, "%v %v", tc.z.Shape, tc.at)
		assert.Len(t, b.Areas[0].Cells, map[bool]int{true: 2, false: 1}[tc.want == 300], "what crosses itself is two")
	}
	a := zoned(t, c, card.Zone{Shape: card.Within}, 300, 300, 310, 300, 310, 310)
	assert.Zero(t, mm2(panel.Resolve(c, s), a.Name), "wholly outside, it is nowhere")
}

func clone(t testing.TB, c *card.Card) *card.Card {
	out, err := c.Clone()
	require.NoError(t, err)
	return out
}

// A zone that keeps off the drawing, and one within a cell, are cut by the line.
func TestZonesWithinCells(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	left := paneltest.CellAt(t, c, s, 0, 0)
	round := zoned(t, c, card.Zone{Shape: card.All, Round: true})
	b := panel.Resolve(c, s)
	outside := 0.0
	for _, cell := range b.Cells {
		if cell.Outside {
			outside += cell.AreaMM2
		}
	}
	assert.InDelta(t, outside, mm2(b, round.Name), 0.02*outside)

	half := zoned(t, c, card.Zone{Shape: card.Above}, 0, c.PanelSize().H.MM()/2, 200, c.PanelSize().H.MM()/2)
	half.Cells = []card.Spot{panel.Resolve(c, s).SpotOf(left)}
	b = panel.Resolve(c, s)
	assert.InDelta(t, b.Cells[left-1].AreaMM2/2, mm2(b, half.Name), 8)
	for _, id := range b.Areas[1].Cells {
		p := b.Part(id)
		assert.True(t, p.Zone)
		assert.Less(t, p.Label.Y, c.PanelSize().H.MM()/2)
	}
	assert.NotContains(t, b.Free(), left, "what a zone lies in is not forgotten")
	half.Cells[0].U = 40
	assert.Empty(t, panel.Resolve(c, s).Areas[1].Cells, "all it is kept within is lost")
}

// An area that lies over others covers cells without taking them; one of a zone alone goes
// where that reaches, and takes none.
func TestAreasThatLieTakeNoCells(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	left, right := paneltest.CellAt(t, c, s, 0, 0), paneltest.CellAt(t, c, s, 1, 0)
	own := paneltest.Area(t, c, s, "Own", [][2]int{{0, 0}}, blue)
	over := c.AddArea("Over")
	a, err := c.AreaByID(over)
	require.NoError(t, err)
	a.Lies = true
	for range 2 { // covered twice is covered once
		require.NoError(t, panel.Resolve(c, s).Assign(over, []int{left, right}))
	}
	b := panel.Resolve(c, s)
	assert.ElementsMatch(t, []int{left, right}, b.Areas[1].Cells)
	assert.Equal(t, []int{left}, b.Areas[0].Cells)
	assert.Equal(t, own, b.HolderOf(left).ID)
	require.NoError(t, b.Assign("", []int{left}))
	assert.Len(t, c.Areas[1].Cells, 2, "nor does it lose any")

	z := zoned(t, c, card.Zone{Shape: card.All})
	assert.ErrorContains(t, panel.Resolve(c, s).Assign(z.ID, []int{left}), "wherever its zone reaches")
	z.Cells = []card.Spot{b.SpotOf(left)}
	require.NoError(t, panel.Resolve(c, s).Assign(z.ID, []int{right}))
	assert.Len(t, panel.Resolve(c, s).Areas[2].Cells, 2, "a piece in each cell")
}

// Patches share nothing, and all that is painted in a place is found there; they touch what
// they lie beside.
func TestPatches(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	left, right := paneltest.CellAt(t, c, s, 0, 0), paneltest.CellAt(t, c, s, 1, 0)
	x, y := c.Line().X.MM(), c.Line().Y.MM()
	zoned(t, c, card.Zone{Shape: card.Within}, x+5, y+5, x+35, y+5, x+35, y+15, x+5, y+15) // over both
	zoned(t, c, card.Zone{Shape: card.Within}, x+5, y+14, x+9, y+14, x+9, y+20, x+5, y+20) // over it, in the left
	zoned(t, c, card.Zone{Shape: card.Within}, 2, 2, 12, 2, 12, 12, 2, 12)                 // far off
	b := panel.Resolve(c, s)
	first, second, far := b.Areas[0].Cells, b.Areas[1].Cells, b.Areas[2].Cells
	assert.True(t, b.Overlap(first, second))
	assert.False(t, b.Overlap(first, far))
	assert.True(t, b.Overlap(first, []int{left}))
	assert.True(t, b.Overlap(first, []int{right}))
	assert.False(t, b.Overlap(second, []int{right}))
	sum := map[int]float64{}
	for _, p := range b.Patches() {
		sum[p.Cell] += p.MM2
	}
	for _, id := range []int{left, right} {
		assert.InDelta(t, b.Cells[id-1].AreaMM2, sum[id], 0.08*b.Cells[id-1].AreaMM2)
	}
	of := b.PatchesOf([]int{left})
	assert.Len(t, of, 4, "what no zone covers, each alone, both")
	touching := func(p, q []int) bool {
		for _, t := range b.PatchContacts() {
			for _, x := range p {
				for _, y := range q {
					if t.A == min(x, y) && t.B == max(x, y) {
						return true
					}
				}
			}
		}
		return false
	}
	assert.True(t, touching(b.PatchesOf(first), b.PatchesOf([]int{left})))
	assert.False(t, touching(b.PatchesOf(far), b.PatchesOf(first)))
	seen := map[[2]int]bool{}
	for _, k := range b.PatchContacts() {
		assert.Less(t, k.A, k.B)
		assert.False(t, seen[[2]int{k.A, k.B}])
		seen[[2]int{k.A, k.B}] = true
	}
}

// However zones lie, every piece of them has patches, no patch is counted twice, and their
// sizes add up.
func TestPatchesAddUp(t *testing.T) {
	c, s := paneltest.Card(t, 3, 2)
	w, h := c.PanelSize().W.MM(), c.PanelSize().H.MM()
	rapid.Check(t, func(rt *rapid.T) {
		c := clone(t, c)
		for range rapid.IntRange(1, 5).Draw(rt, "zones") {
			x, y := rapid.Float64Range(-5, w).Draw(rt, "x"), rapid.Float64Range(-5, h).Draw(rt, "y")
			dx, dy := rapid.Float64Range(3, 60).Draw(rt, "wide"), rapid.Float64Range(3, 60).Draw(rt, "high")
			shape := rapid.SampledFrom([]card.Shape{card.Within, card.Rest}).Draw(rt, "shape")
			zoned(t, c, card.Zone{Shape: shape, Round: rapid.Bool().Draw(rt, "round")}, x, y, x+dx, y, x+dx, y+dy, x, y+dy)
		}
		b := panel.Resolve(c, s)
		byID := map[int]panel.Patch{}
		total := 0.0
		for _, p := range b.Patches() {
			assert.NotContains(t, byID, p.ID)
			assert.Positive(t, p.MM2)
			byID[p.ID] = p
			total += p.MM2
		}
		assert.LessOrEqual(t, total, 1.05*w*h)
		for _, a := range b.Areas {
			for _, id := range a.Cells {
				part := 0.0
				patches := b.PatchesOf([]int{id})
				assert.NotEmpty(t, patches, a.Name)
				for _, p := range patches {
					part += byID[p].MM2
				}
				assert.InDelta(t, b.Part(id).AreaMM2, part, 0.1*b.Part(id).AreaMM2+4, a.Name)
			}
		}
		again := panel.Resolve(clone(t, c), s)
		assert.Equal(t, b.Patches(), again.Patches(), "the same card has the same patches")
	})
}

// What lies over another is seen through it; where it ends is drawn where no line ends it.
func TestFilms(t *testing.T) {
	c, s := paneltest.Card(t, 2, 1)
	left := paneltest.CellAt(t, c, s, 0, 0)
	paneltest.Area(t, c, s, "Left", [][2]int{{0, 0}}, card.Wash{Technique: technique.Flat, Strength: pigment.Tea, Mix: []card.Part{{CI: "PY150", Parts: 1}}})
	assert.Empty(t, panel.Resolve(c, s).Films(), "areas of cells are no films")
	x, y := c.Line().X.MM(), c.Line().Y.MM()
	zoned(t, c, card.Zone{Shape: card.Within}, x+5, y+5, x+15, y+5, x+15, y+15, x+5, y+15)
	b := panel.Resolve(c, s)
	films := b.Films()
	require.Len(t, films, 1)
	assert.Equal(t, []int{0, 1}, films[0].Areas)
	yellow, alone := b.Looks()[0].Dense.Dry, b.Looks()[1].Dense.Dry
	assert.NotContains(t, []string{yellow, alone}, films[0].Look.Dense.Dry)
	p := b.Part(b.Areas[1].Cells[0])
	edges := b.FreeEdges(p)
	require.NotEmpty(t, edges)

	// An underpainting of cells is the same without zones; put under, the other comes first.
	under := c.Areas[1]
	under.Zones, under.Cells = nil, []card.Spot{b.SpotOf(left)}
	c.Areas[1] = under
	c.Zones = nil
	require.NoError(t, c.Check())
	b = panel.Resolve(c, s)
	require.Len(t, b.Films(), 1)
	assert.Equal(t, []int{0, 1}, b.Films()[0].Areas)
	above := b.Films()[0].Look.Dense.Lab
	require.NoError(t, c.Put(card.Ref(c.Areas[0].ID), card.Ref(c.Areas[1].ID), true))
	b = panel.Resolve(c, s)
	assert.Equal(t, []int{1, 0}, b.Films()[0].Areas)
	assert.NotEqual(t, above, b.Films()[0].Look.Dense.Lab, "order shows")
}

// Zones of one sheet may be asked for by many at once.
func TestZonesAtOnce(t *testing.T) {
	c, s := paneltest.Card(t, 2, 2)
	zoned(t, c, card.Zone{Shape: card.All})
	var all sync.WaitGroup
	sizes := make([]float64, 8)
	for i := range sizes {
		all.Add(1)
		go func() {
			defer all.Done()
			own := clone(t, c)
			own.Zones[0].Round = i%2 == 0
			sizes[i] = panel.Resolve(own, s).Areas[0].MM2
		}()
	}
	all.Wait()
	for i := range sizes {
		assert.Equal(t, sizes[i%2], sizes[i], fmt.Sprint(i))
	}
}

// A sheet of the demo's size takes as many zones as there may be.
func TestMostZones(t *testing.T) {
	c, s := paneltest.Card(t, 3, 3)
	for i := range card.MaxZones {
		at := float64(3 * i)
		zoned(t, c, card.Zone{Shape: card.Within}, at-20, at-20, at+60, at-20, at+60, at+60, at-20, at+60)
	}
	b := panel.Resolve(c, s)
	assert.LessOrEqual(t, len(b.Patches()), panel.MaxPatches)
	assert.Greater(t, len(b.Patches()), 100)
}
