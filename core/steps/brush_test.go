package steps

import (
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/panel/paneltest"
	"chromaqua/core/pigment"
	"chromaqua/core/shelf"
	"chromaqua/core/technique"
)

// A wide ground gets its flat; where its edge is curved tightly, one round is enough to
// cut in with.
func TestBrushesOfAGround(t *testing.T) {
	flat, round := shelf.Brush{Name: "flat", Belly: 19, Point: 2, Flat: true}, shelf.Brush{Name: "round", Belly: 4, Point: 0.5}
	ground := extent{edge: 400, tight: 10.5, mm2: 9000, cells: 1, narrow: 30, widest: 30}
	for what, c := range map[string]struct {
		all   []shelf.Brush
		tight float64
		cutIn string
	}{
		"one round":         {[]shelf.Brush{flat, round}, 10.5, "round"},
		"a few curves only": {[]shelf.Brush{flat, round}, 10, "flat"},
		"no round":          {[]shelf.Brush{flat}, 10.5, "flat"},
	} {
		ground.tight = c.tight
		cutIn, fill := brushes(ground, c.all)
		assert.Equal(t, c.cutIn, cutIn.Name, what)
		assert.Equal(t, "flat", fill.Name, what)
	}
}

// A cell that takes longer than it stays open is a go of its own, and no go is empty.
func TestNoGoIsEmpty(t *testing.T) {
	c, s := paneltest.Card(t, 3, 2)
	w := card.Wash{Technique: technique.WetOnWet, Strength: pigment.Tea, Mix: []card.Part{{CI: "PB29", Parts: 1}}}
	paneltest.Area(t, c, s, "All", [][2]int{{0, 0}, {1, 0}, {2, 0}, {0, 1}, {1, 1}, {2, 1}}, w, w)
	bench := UsualBench()
	bench.Pace = 20 // slower than any wash stays wet
	p, err := Compile(panel.Resolve(c, s), bench)
	require.NoError(t, err)
	goes := 0
	for _, st := range p.Steps {
		if st.On != nil {
			assert.NotEmpty(t, st.Cells, st.Title)
			goes++
		}
	}
	assert.Equal(t, 12, goes, "six cells, each with its drop-in")
}

// Only a neighbour that is clearly darker and comes later is a reason to come first.
func TestDarkerBeside(t *testing.T) {
	for what, c := range map[string]struct {
		light int
		later bool
		want  bool
	}{
		"clearly darker, later":   {39, true, true},
		"hardly darker":           {40, true, false},
		"lighter, later":          {59, true, false},
		"clearly darker, earlier": {39, false, false},
		"without a tone":          {0, true, false},
	} {
		in := &order.Instance{Ops: []order.Op{{Light: 50}, {Light: c.light}}}
		here, there := order.Placed{Op: 0, Start: 100}, order.Placed{Op: 1, Start: 50}
		if c.later {
			there.Start = 150
		}
		r := &reasoning{Plan: &Plan{Instance: in}, at: map[spot]order.Placed{{0, 0}: here, {1, 0}: there}, beside: map[int][]int{0: {1}}}
		op, ok := r.darkerBeside(here)
		assert.Equal(t, c.want, ok, what)
		if ok {
			assert.Equal(t, 1, op, what)
		}
	}
}
