package steps_test

import (
	"slices"
	"testing"

	"github.com/stretchr/testify/assert"
	"github.com/stretchr/testify/require"

	"chromaqua/core/card"
	"chromaqua/core/length"
	"chromaqua/core/order"
	"chromaqua/core/panel"
	"chromaqua/core/shelf"
	"chromaqua/core/steps"
	"chromaqua/core/technique"
)

// arcBetween is what one step waits for of another.
func arcBetween(t testing.TB, p *steps.Plan, from, to int) order.Arc {
	i := slices.IndexFunc(p.Instance.Arcs, func(a order.Arc) bool { return a.From == from && a.To == to })
	require.GreaterOrEqual(t, i, 0, "%q waits for %q", p.Steps[to].Title, p.Steps[from].Title)
	return p.Instance.Arcs[i]
}

// water lays a technique of clean water over a wash.
func water(t testing.TB, kind technique.Kind) *steps.Plan {
	return compiled(t, func(c *card.Card, s *panel.Sheet) {
		c.Drying = card.Air
		twoAreas(t)(c, s)
		c.Areas[0].Washes = []card.Wash{wash(technique.Flat, "PB29"), {Technique: kind}}
	})
}

// A spritz and salt have a window with two ends, from when the gloss is lost until a fifth
// of the damp stage is over; drops of clean water go into the gloss; drops that are lifted
// and an edge that is lost wait until all is dry.
func TestWaterHasItsMoments(t *testing.T) {
	for _, kind := range []technique.Kind{technique.Spritz, technique.Salt} {
		p := water(t, kind)
		base, then := named(t, p, "Left: ultramarine"), named(t, p, "Left: "+string(kind))
		a := arcBetween(t, p, base.ID, then.ID)
		assert.Equal(t, order.Wet, a.Type)
		assert.Equal(t, order.Ceil(base.Gloss), a.Clock)
		assert.Equal(t, order.Floor(base.Open+(base.Dry-base.Open)/5), a.Max)
		assert.Greater(t, a.Max, order.Floor(base.Open))
		assert.Zero(t, then.Water)
	}
	p := water(t, technique.CleanDrops)
	base, then := named(t, p, "Left: ultramarine"), named(t, p, "Left: clean drops")
	a := arcBetween(t, p, base.ID, then.ID)
	assert.Zero(t, a.Clock)
	assert.Equal(t, order.Floor(base.Open), a.Max)
	for _, kind := range []technique.Kind{technique.DropsLifted, technique.LostEdge} {
		p := water(t, kind)
		assert.Equal(t, order.Dry, arcBetween(t, p, named(t, p, "Left: ultramarine").ID, named(t, p, "Left: "+kind.Name()).ID).Type)
		assert.Positive(t, named(t, p, "Left: "+kind.Name()).Water)
	}
}

// Ink is rubbed on what is bone dry, and dries as ink does.
func TestInkIsRubbedOnWhatIsDry(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		twoAreas(t)(c, s)
		c.Areas[0].Washes[1] = wash(technique.InkRubbed, "PBr7")
	})
	base, then := named(t, p, "Left: ultramarine"), of(t, p, technique.InkRubbed)
	assert.Equal(t, order.Bone, arcBetween(t, p, base.ID, then.ID).Type)
	assert.Equal(t, "ink pad and cloth", then.Brush())
	assert.Positive(t, then.Dry)
	assert.Zero(t, then.Water)
}

// What goes along the edges is laid once the tape is off, unless the maker holds the piece
// otherwise.
func TestEdgesAreInkedOnceTheTapeIsOff(t *testing.T) {
	rim := func(c *card.Card, s *panel.Sheet) {
		twoAreas(t)(c, s)
		_, err := c.AddZone(card.Zone{Shape: card.Rim, Width: 3 * length.Millimetre}, 1)
		require.NoError(t, err)
		a, err := c.AreaByID(c.AddArea("Edge"))
		require.NoError(t, err)
		a.Lies, a.Zones, a.Washes = true, []string{"z1"}, []card.Wash{wash(technique.InkRubbed, "PBr7")}
		require.NoError(t, c.Check())
	}
	p := compiled(t, rim)
	off, loose, edge, up := named(t, p, "Take the tape off the panel"), named(t, p, "Lay the panel loose"), named(t, p, "Edge: "), named(t, p, "Take the panel up")
	assert.Equal(t, order.Bone, arcBetween(t, p, named(t, p, "Right: ").ID, off.ID).Type)
	assert.Equal(t, order.After, arcBetween(t, p, off.ID, loose.ID).Type)
	assert.Equal(t, order.After, arcBetween(t, p, loose.ID, edge.ID).Type)
	assert.Equal(t, order.Dry, arcBetween(t, p, edge.ID, up.ID).Type)

	p = compiled(t, func(c *card.Card, s *panel.Sheet) {
		rim(c, s)
		c.Hold = []card.Hold{{How: card.LooseSheet}}
	})
	assert.False(t, slices.ContainsFunc(p.Steps, func(s steps.Step) bool { return s.Kind == steps.Untape }))
}

// of is the step of a technique.
func of(t testing.TB, p *steps.Plan, kind technique.Kind) steps.Step {
	i := slices.IndexFunc(p.Steps, func(s steps.Step) bool { return s.On != nil && p.AreaOf(&s).Washes[s.On.Wash].Technique == kind })
	require.GreaterOrEqual(t, i, 0, "no step of %s", kind)
	return p.Steps[i]
}

// Colour is pulled out of a line fresh or dry; a wash waits for the ink.
func TestPullingNeedNotWait(t *testing.T) {
	p := compiled(t, func(c *card.Card, s *panel.Sheet) {
		twoAreas(t)(c, s)
		c.Ink, c.Look = "dye", shelf.Pulled
		c.Areas[0].Washes = []card.Wash{{Technique: technique.LinePull}, wash(technique.Glaze, "PV19")}
	})
	line := named(t, p, "Stamp Grid")
	pull, over := named(t, p, "Left: pulled line"), of(t, p, technique.Glaze)
	assert.Equal(t, order.After, arcBetween(t, p, line.ID, pull.ID).Type)
	assert.Equal(t, order.Dry, arcBetween(t, p, line.ID, named(t, p, "Right: ").ID).Type)
	assert.Equal(t, order.Dry, arcBetween(t, p, pull.ID, over.ID).Type)
	assert.Positive(t, pull.Water)
	assert.Zero(t, pull.Mix)
}
